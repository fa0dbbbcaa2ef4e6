#include "alpglow/stage/scene.hpp"

#include "corner_light.hpp"
#include "figure.hpp"
#include "meshes.hpp"
#include "offscreen.hpp"
#include "shaders.hpp"

#include <Eigen/Geometry>
#include <Eigen/LU>

#include <algorithm>
#include <cmath>
#include <deque>
#include <optional>

namespace alpglow::stage {

using Eigen::Matrix4f;
using Eigen::Vector3d;
using Eigen::Vector3f;

namespace {

constexpr std::size_t mostLanterns = 16;

const Vector3f sun = Vector3f(-0.80f, 0.34f, 0.50f).normalized();

struct GroupColour {
  const char* group;
  float red, green, blue;
};

constexpr GroupColour groupColours[] = {
    {"timber", 0.50f, 0.37f, 0.27f}, {"plank", 0.58f, 0.47f, 0.35f},   {"stone", 0.60f, 0.60f, 0.62f},
    {"rock", 0.50f, 0.48f, 0.50f},   {"meadow", 0.42f, 0.52f, 0.33f},  {"path", 0.66f, 0.58f, 0.46f},
    {"snow", 0.92f, 0.93f, 0.97f},   {"larch", 0.66f, 0.54f, 0.24f},   {"trunk", 0.38f, 0.27f, 0.19f},
    {"metal", 0.44f, 0.47f, 0.52f},  {"plaster", 0.86f, 0.82f, 0.74f}, {"roof", 0.42f, 0.30f, 0.27f},
    {"lantern", 1.0f, 0.80f, 0.42f}, {"cloth", 0.60f, 0.22f, 0.22f},   {"pole", 0.78f, 0.36f, 0.20f},
};

Matrix4f lightTransform(const io::Level& level) {
  Eigen::AlignedBox3d bounds;
  for (const io::LevelObject& object : level.objects) {
    for (const Vector3d& vertex : object.mesh.vertices) bounds.extend(vertex);
  }
  const double radius = std::clamp(bounds.diagonal().norm() / 2, 4.0, 60.0);
  const Vector3d backward = sun.cast<double>();
  const Vector3d right = Vector3d::UnitY().cross(backward).normalized();
  Eigen::Matrix3d rotation;
  rotation << right.transpose(), backward.cross(right).transpose(), backward.transpose();
  Eigen::Matrix4d m = Eigen::Matrix4d::Identity();
  const Eigen::Vector3d scale(1 / radius, 1 / radius, -1 / (2 * radius));
  m.topLeftCorner<3, 3>() = scale.asDiagonal() * rotation;
  m.topRightCorner<3, 1>() = -(m.topLeftCorner<3, 3>() * bounds.center());
  return m.cast<float>();
}

Vector3d middleOf(const io::Mesh& mesh) {
  Vector3d sum = Vector3d::Zero();
  for (const Vector3d& vertex : mesh.vertices) sum += vertex;
  return sum / static_cast<double>(mesh.vertices.size());
}

void appendObject(std::vector<Vertex>& vertices, const io::LevelObject& object) {
  appendMesh(vertices, object.mesh, groupColour(object.group), object.group == "lantern" ? 1.0f : 0.0f);
}

bool mayFade(const io::LevelObject& object) { return object.labelled("large") || object.labelled("soft"); }

/// What a platform carries, or what rests (−1), but for what may fade; object by object.
std::vector<std::vector<Vertex>> levelVertices(const io::Level& level, int platform) {
  std::vector<std::vector<Vertex>> objects;
  for (const io::LevelObject& object : level.objects) {
    if (object.platform != platform || mayFade(object)) continue;
    appendObject(objects.emplace_back(), object);
  }
  return objects;
}

/// Those that do not move.
std::vector<Vector3f> lanternsOf(const io::Level& level) {
  std::vector<Vector3f> lanterns;
  for (const io::LevelObject& object : level.objects) {
    if (object.group == "lantern" && object.platform < 0) lanterns.push_back(middleOf(object.mesh).cast<float>());
  }
  return lanterns;
}

}  // namespace

Vector3f groupColour(const std::string& group) {
  for (const GroupColour& known : groupColours) {
    if (group == known.group) return {known.red, known.green, known.blue};
  }
  return {0.62f, 0.60f, 0.58f};
}

struct Scene::Parts {
  Parts(const io::Level& shown, Quality quality)
      : full(quality == Quality::full),
        sky({shaders::skyVertex}, {shaders::skyColour, shaders::skyFragment}),
        opaque(vertexShader(quality), fragmentShader(quality, "")),
        faded(vertexShader(quality), fragmentShader(quality, shaders::fades)),
        shadow({shaders::shadowVertex}, {shaders::shadowFragment}),
        level(shown),
        lanterns(lanternsOf(shown)),
        ground(levelVertices(shown, -1)),
        figure(wardenFigure()),
        screen(std::vector<Vertex>(3)),
        shadowMap(full ? 3072 : 1024),
        toLight(lightTransform(shown)) {
    if (!full) {
      pieces.emplace(litByCorners(levelVertices(shown, -1), lanterns));
      paintSkyBox();
    }
    for (std::size_t i = 0; i < shown.platforms.size(); ++i)
      carried.emplace_back(levelVertices(shown, static_cast<int>(i)));
    for (const io::LevelObject& object : shown.objects) {
      if (mayFade(object)) {
        std::vector<Vertex> vertices;
        appendObject(vertices, object);
        fading.emplace_back(object, vertices);
      }
    }
    if (!full) keepStillShadows();
  }

  static std::vector<const char*> vertexShader(Quality quality) {
    if (quality == Quality::full) return {shaders::solidVertex};
    return {shaders::skyColour, shaders::plainVertex};
  }
  static std::vector<const char*> fragmentShader(Quality quality, const char* fades) {
    if (quality == Quality::full) return {shaders::skyColour, fades, shaders::solidFragment};
    return {"#version 330 core\n", fades, shaders::plainFragment};
  }

  bool full;
  Program sky, opaque, faded, shadow;
  const io::Level& level;
  std::vector<Vector3f> lanterns;
  Meshes ground;
  std::optional<Meshes> pieces;    // the same, lit by corners
  std::optional<ShadowMap> still;  // what rests, for all pictures
  std::deque<Meshes> carried;      // by platform
  struct MayFade {
    MayFade(const io::LevelObject& one, const std::vector<Vertex>& vertices) : object(one), mesh(vertices) {}
    const io::LevelObject& object;
    VertexBuffer mesh;
  };
  std::deque<MayFade> fading;
  VertexBuffer figure, screen;
  struct BoxedSky {
    BoxedSky() : program({shaders::skyVertex}, {shaders::boxedSkyFragment}) {}
    SkyBox sky;
    Program program;
  };
  std::optional<BoxedSky> box;
  ShadowMap shadowMap;
  Matrix4f toLight;

  static Matrix4f figureTransform(const Shot& shot) {
    Eigen::Affine3d transform = Eigen::Translation3d(shot.feet) * Eigen::AngleAxisd(shot.heading, Vector3d::UnitY()) *
                                Eigen::Scaling(shot.height / 1.8);
    return transform.matrix().cast<float>();
  }

  Matrix4f platformTransform(std::size_t platform, double time) const {
    const ReferenceFrame now = level.platforms[platform].at(time, 1), start = level.platforms[platform].at(0, 1);
    const Rotation turn = now.rotation * start.rotation.conjugate();
    const Eigen::Affine3d transform =
        Eigen::Translation3d(now.origin) * Eigen::Quaterniond(turn) * Eigen::Translation3d(-start.origin);
    return transform.matrix().cast<float>();
  }

  void drawPlatforms(Program& program, double time) {
    for (std::size_t i = 0; i < carried.size(); ++i) {
      program.set("model", platformTransform(i, time));
      carried[i].draw();
    }
  }

  void drawFading(Program& program, double time, const MayFade& each) {
    program.set("model", each.object.platform < 0
                             ? Matrix4f(Matrix4f::Identity())
                             : platformTransform(static_cast<std::size_t>(each.object.platform), time));
    each.mesh.draw();
  }

  void drawShadows(const Shot& shot) {
    shadow.use();
    shadow.set("toLight", toLight);
    if (still) {
      shadowMap.copy(*still);
    } else {
      shadowMap.bindForDrawing();
      drawStillShadows();
    }
    drawPlatforms(shadow, shot.time);
    for (const MayFade& each : fading) {
      if (!still || each.object.platform >= 0) drawFading(shadow, shot.time, each);
    }
    shadow.set("model", figureTransform(shot));
    figure.draw();
  }
  void drawStillShadows() {
    shadow.set("model", Matrix4f(Matrix4f::Identity()));
    ground.draw();
  }

  /// Once, where each picture counts.
  void keepStillShadows() {
    still.emplace(shadowMap.size());
    still->bindForDrawing();
    shadow.use();
    shadow.set("toLight", toLight);
    drawStillShadows();
    for (const MayFade& each : fading) {
      if (each.object.platform < 0) drawFading(shadow, 0, each);
    }
  }

  void drawSky(const Matrix4f& toClip, const Vector3f& eye) {
    Matrix4f directions = toClip;
    directions.col(3) += toClip.leftCols<3>() * eye;  // as seen from the eye
    glDepthMask(GL_FALSE);
    if (box) {
      box->sky.bindAsTexture();
      box->program.use();
      box->program.set("clipToWorld", Matrix4f(directions.inverse()));
      screen.draw();
    } else {
      paintSky(directions.inverse());
    }
    glDepthMask(GL_TRUE);
  }
  void paintSky(const Matrix4f& clipToWorld) {
    sky.use();
    sky.set("clipToWorld", clipToWorld);
    sky.set("sun", sun);
    screen.draw();
  }

  /// Once, as it is the same from everywhere.
  void paintSkyBox() {
    box.emplace();
    glDisable(GL_DEPTH_TEST);
    for (unsigned side = 0; side < 6; ++side) {
      box->sky.bindForDrawing(side);
      paintSky(SkyBox::directions(side));
    }
  }

  /// What never fades has a program of its own, as one that leaves out pixels cannot skip those that are covered.
  void drawSolids(const Shot& shot, const Matrix4f& toClip, const Vector3f& eye) {
    shadowMap.bindAsTexture();
    light(opaque, toClip, eye);
    opaque.set("model", Matrix4f(Matrix4f::Identity()));
    (pieces ? *pieces : ground).draw(toClip);
    drawPlatforms(opaque, shot.time);
    light(faded, toClip, eye);
    for (const MayFade& each : fading) {
      const auto covers = shot.covering.find(each.object.name);
      faded.set("opacity", covers == shot.covering.end() ? 1.0f : static_cast<float>(covers->second));
      drawFading(faded, shot.time, each);
    }
    if (shot.opacity <= 0) return;
    faded.set("model", figureTransform(shot));
    faded.set("gridStrength", 0.0f);
    faded.set("opacity", static_cast<float>(shot.opacity));
    figure.draw();
  }

  void light(Program& program, const Matrix4f& toClip, const Vector3f& eye) {
    program.use();
    program.set("toClip", toClip);
    program.set("toLight", toLight);
    program.set("eye", eye);
    program.set("sun", sun);
    program.set("gridStrength", 1.0f);
    if (full) setLanterns(program, eye);
  }

  /// The lanterns nearest to the eye.
  void setLanterns(Program& program, const Vector3f& eye) {
    std::sort(lanterns.begin(), lanterns.end(), [&eye](const Vector3f& a, const Vector3f& b) {
      return (a - eye).squaredNorm() < (b - eye).squaredNorm();
    });
    const std::size_t count = std::min(lanterns.size(), mostLanterns);
    program.set("lanternCount", static_cast<int>(count));
    if (count > 0) glUniform3fv(program.at("lanterns"), static_cast<GLsizei>(count), lanterns.front().data());
  }
};

Scene::Scene(const io::Level& level, Quality quality) : parts_(std::make_unique<Parts>(level, quality)) {}
Scene::~Scene() = default;

void Scene::draw(const Shot& shot, const Screen& screen) {
  const Matrix4f toClip = (shot.view.projection() * shot.view.worldToView()).cast<float>();
  const Vector3f eye = shot.view.position.cast<float>();
  glEnable(GL_DEPTH_TEST);
  glDepthFunc(GL_LEQUAL);
  glEnable(GL_MULTISAMPLE);
  parts_->drawShadows(shot);
  glBindFramebuffer(GL_FRAMEBUFFER, screen.framebuffer);
  glViewport(screen.x, screen.y, screen.width, screen.height);
  glClear(GL_DEPTH_BUFFER_BIT);
  parts_->drawSolids(shot, toClip, eye);
  parts_->drawSky(toClip, eye);
}

}  // namespace alpglow::stage
