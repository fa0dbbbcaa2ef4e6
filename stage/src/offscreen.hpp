#pragma once
// OpenGL without a display, and small owners of its objects.

#include "alpglow/stage/picture.hpp"

#include <epoxy/egl.h>
#include <epoxy/gl.h>

#include <string>

namespace alpglow::stage {

/// A current OpenGL 3.3 core context on surfaceless EGL.
class OffscreenContext {
 public:
  OffscreenContext();
  ~OffscreenContext();
  OffscreenContext(const OffscreenContext&) = delete;
  OffscreenContext& operator=(const OffscreenContext&) = delete;

 private:
  EGLDisplay display_ = EGL_NO_DISPLAY;
  EGLContext context_ = EGL_NO_CONTEXT;
};

/// A multisampled colour and depth target that can be read back.
class RenderTarget {
 public:
  RenderTarget(int width, int height);
  ~RenderTarget();
  RenderTarget(const RenderTarget&) = delete;
  RenderTarget& operator=(const RenderTarget&) = delete;

  Image read() const;
  int width() const { return width_; }
  int height() const { return height_; }
  GLuint framebuffer() const { return drawn_; }

 private:
  int width_, height_;
  GLuint drawn_ = 0, resolved_ = 0;
  GLuint buffers_[3] = {};
};

/// A depth texture seen from the light.
class ShadowMap {
 public:
  explicit ShadowMap(int size);
  ~ShadowMap();
  ShadowMap(const ShadowMap&) = delete;
  ShadowMap& operator=(const ShadowMap&) = delete;

  void bindForDrawing() const;
  /// Goes on from what another of the same size has.
  void copy(const ShadowMap& from) const;
  void bindAsTexture() const { glBindTexture(GL_TEXTURE_2D, texture_); }
  int size() const { return size_; }

 private:
  int size_;
  GLuint framebuffer_ = 0, texture_ = 0;
};

/// Six pictures around a place.
class SkyBox {
 public:
  static constexpr int size = 512;

  SkyBox();
  ~SkyBox();
  SkyBox(const SkyBox&) = delete;
  SkyBox& operator=(const SkyBox&) = delete;

  /// From where side 0 … 5 is painted, clip space to directions.
  static Eigen::Matrix4f directions(unsigned side);
  void bindForDrawing(unsigned side) const;
  void bindAsTexture() const { glBindTexture(GL_TEXTURE_CUBE_MAP, texture_); }

 private:
  GLuint framebuffer_ = 0, texture_ = 0;
};

class Program {
 public:
  /// The parts of a shader stand one after the other. Throws std::runtime_error with the compiler's words.
  Program(const std::vector<const char*>& vertexParts, const std::vector<const char*>& fragmentParts);
  ~Program() { glDeleteProgram(id_); }
  Program(const Program&) = delete;
  Program& operator=(const Program&) = delete;

  void use() const { glUseProgram(id_); }
  void set(const char* name, const Eigen::Matrix4f& value) const {
    glUniformMatrix4fv(at(name), 1, GL_FALSE, value.data());
  }
  void set(const char* name, const Eigen::Vector3f& value) const { glUniform3fv(at(name), 1, value.data()); }
  void set(const char* name, float value) const { glUniform1f(at(name), value); }
  void set(const char* name, int value) const { glUniform1i(at(name), value); }
  GLint at(const char* name) const { return glGetUniformLocation(id_, name); }

 private:
  GLuint id_;
};

/// One corner of a triangle as the shaders get it.
struct Vertex {
  Eigen::Vector3f position, normal, colour;
  float glow;
  Eigen::Vector3f lantern = Eigen::Vector3f::Zero();  // light of lanterns, where it is worked out by corners
};

class VertexBuffer {
 public:
  explicit VertexBuffer(const std::vector<Vertex>& vertices);
  ~VertexBuffer();
  VertexBuffer(const VertexBuffer&) = delete;
  VertexBuffer& operator=(const VertexBuffer&) = delete;

  void draw() const;
  /// These stretches of it.
  void draw(const std::vector<GLint>& firsts, const std::vector<GLsizei>& counts) const;

 private:
  GLuint array_ = 0, buffer_ = 0;
  GLsizei count_;
};

}  // namespace alpglow::stage
