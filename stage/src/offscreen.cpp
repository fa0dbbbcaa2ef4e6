#include "offscreen.hpp"

#include <cstddef>
#include <stdexcept>

namespace alpglow::stage {

namespace {

constexpr int samples = 4;

void require(bool condition, const std::string& what) {
  if (!condition) throw std::runtime_error("no pictures: " + what);
}

GLuint compiled(GLenum kind, const std::vector<const char*>& parts) {
  const GLuint shader = glCreateShader(kind);
  glShaderSource(shader, static_cast<GLsizei>(parts.size()), parts.data(), nullptr);
  glCompileShader(shader);
  GLint good = 0;
  glGetShaderiv(shader, GL_COMPILE_STATUS, &good);
  if (good == 0) {
    char log[2048] = {};
    glGetShaderInfoLog(shader, sizeof log, nullptr, log);
    require(false, log);
  }
  return shader;
}

}  // namespace

OffscreenContext::OffscreenContext() {
  // Without these the loader of OpenGL would end the whole program.
  require(epoxy_has_egl(), "there is no EGL");
  require(epoxy_has_egl_extension(EGL_NO_DISPLAY, "EGL_EXT_platform_base") ||
              epoxy_has_egl_extension(EGL_NO_DISPLAY, "EGL_KHR_platform_base"),
          "EGL has no driver");
  display_ = eglGetPlatformDisplayEXT(EGL_PLATFORM_SURFACELESS_MESA, EGL_DEFAULT_DISPLAY, nullptr);
  require(display_ != EGL_NO_DISPLAY && eglInitialize(display_, nullptr, nullptr) == EGL_TRUE,
          "EGL has no surfaceless display");
  require(eglBindAPI(EGL_OPENGL_API) == EGL_TRUE, "EGL has no OpenGL");
  const EGLint attributes[] = {
      EGL_CONTEXT_MAJOR_VERSION,           3,       EGL_CONTEXT_MINOR_VERSION, 3, EGL_CONTEXT_OPENGL_PROFILE_MASK,
      EGL_CONTEXT_OPENGL_CORE_PROFILE_BIT, EGL_NONE};
  context_ = eglCreateContext(display_, EGL_NO_CONFIG_KHR, EGL_NO_CONTEXT, attributes);
  require(context_ != EGL_NO_CONTEXT, "there is no OpenGL 3.3");
  require(eglMakeCurrent(display_, EGL_NO_SURFACE, EGL_NO_SURFACE, context_) == EGL_TRUE, "the context cannot be used");
}

// The display is not terminated: EGL hands out the same one to everybody in the process.
OffscreenContext::~OffscreenContext() {
  eglMakeCurrent(display_, EGL_NO_SURFACE, EGL_NO_SURFACE, EGL_NO_CONTEXT);
  eglDestroyContext(display_, context_);
}

RenderTarget::RenderTarget(int width, int height) : width_(width), height_(height) {
  glGenFramebuffers(1, &drawn_);
  glGenFramebuffers(1, &resolved_);
  glGenRenderbuffers(3, buffers_);
  glBindRenderbuffer(GL_RENDERBUFFER, buffers_[0]);
  glRenderbufferStorageMultisample(GL_RENDERBUFFER, samples, GL_RGBA8, width, height);
  glBindRenderbuffer(GL_RENDERBUFFER, buffers_[1]);
  glRenderbufferStorageMultisample(GL_RENDERBUFFER, samples, GL_DEPTH_COMPONENT24, width, height);
  glBindRenderbuffer(GL_RENDERBUFFER, buffers_[2]);
  glRenderbufferStorage(GL_RENDERBUFFER, GL_RGBA8, width, height);
  glBindFramebuffer(GL_FRAMEBUFFER, drawn_);
  glFramebufferRenderbuffer(GL_FRAMEBUFFER, GL_COLOR_ATTACHMENT0, GL_RENDERBUFFER, buffers_[0]);
  glFramebufferRenderbuffer(GL_FRAMEBUFFER, GL_DEPTH_ATTACHMENT, GL_RENDERBUFFER, buffers_[1]);
  require(glCheckFramebufferStatus(GL_FRAMEBUFFER) == GL_FRAMEBUFFER_COMPLETE, "the screen cannot be drawn into");
  glBindFramebuffer(GL_FRAMEBUFFER, resolved_);
  glFramebufferRenderbuffer(GL_FRAMEBUFFER, GL_COLOR_ATTACHMENT0, GL_RENDERBUFFER, buffers_[2]);
}

RenderTarget::~RenderTarget() {
  glDeleteFramebuffers(1, &drawn_);
  glDeleteFramebuffers(1, &resolved_);
  glDeleteRenderbuffers(3, buffers_);
}

Image RenderTarget::read() const {
  glBindFramebuffer(GL_READ_FRAMEBUFFER, drawn_);
  glBindFramebuffer(GL_DRAW_FRAMEBUFFER, resolved_);
  glBlitFramebuffer(0, 0, width_, height_, 0, 0, width_, height_, GL_COLOR_BUFFER_BIT, GL_NEAREST);
  glBindFramebuffer(GL_READ_FRAMEBUFFER, resolved_);
  Image image{width_, height_,
              std::vector<std::uint8_t>(static_cast<std::size_t>(width_) * static_cast<std::size_t>(height_) * 4)};
  std::vector<std::uint8_t> upsideDown(image.pixels.size());
  glReadPixels(0, 0, width_, height_, GL_RGBA, GL_UNSIGNED_BYTE, upsideDown.data());
  const auto stride = static_cast<std::ptrdiff_t>(width_) * 4;
  for (std::ptrdiff_t row = 0; row < height_; ++row) {
    std::copy_n(upsideDown.begin() + (height_ - 1 - row) * stride, stride, image.pixels.begin() + row * stride);
  }
  return image;
}

ShadowMap::ShadowMap(int size) : size_(size) {
  glGenTextures(1, &texture_);
  glBindTexture(GL_TEXTURE_2D, texture_);
  glTexImage2D(GL_TEXTURE_2D, 0, GL_DEPTH_COMPONENT32F, size, size, 0, GL_DEPTH_COMPONENT, GL_FLOAT, nullptr);
  for (const int filter : {GL_TEXTURE_MIN_FILTER, GL_TEXTURE_MAG_FILTER})
    glTexParameteri(GL_TEXTURE_2D, static_cast<GLenum>(filter), GL_LINEAR);
  for (const int wrap : {GL_TEXTURE_WRAP_S, GL_TEXTURE_WRAP_T})
    glTexParameteri(GL_TEXTURE_2D, static_cast<GLenum>(wrap), GL_CLAMP_TO_EDGE);
  glTexParameteri(GL_TEXTURE_2D, GL_TEXTURE_COMPARE_MODE, GL_COMPARE_REF_TO_TEXTURE);
  glGenFramebuffers(1, &framebuffer_);
  glBindFramebuffer(GL_FRAMEBUFFER, framebuffer_);
  glFramebufferTexture2D(GL_FRAMEBUFFER, GL_DEPTH_ATTACHMENT, GL_TEXTURE_2D, texture_, 0);
  glDrawBuffer(GL_NONE);
}

ShadowMap::~ShadowMap() {
  glDeleteFramebuffers(1, &framebuffer_);
  glDeleteTextures(1, &texture_);
}

void ShadowMap::bindForDrawing() const {
  glBindFramebuffer(GL_FRAMEBUFFER, framebuffer_);
  glViewport(0, 0, size_, size_);
  glClear(GL_DEPTH_BUFFER_BIT);
}

void ShadowMap::copy(const ShadowMap& from) const {
  glBindFramebuffer(GL_READ_FRAMEBUFFER, from.framebuffer_);
  glBindFramebuffer(GL_DRAW_FRAMEBUFFER, framebuffer_);
  glBlitFramebuffer(0, 0, size_, size_, 0, 0, size_, size_, GL_DEPTH_BUFFER_BIT, GL_NEAREST);
  glBindFramebuffer(GL_FRAMEBUFFER, framebuffer_);
  glViewport(0, 0, size_, size_);
}

SkyBox::SkyBox() {
  glGenTextures(1, &texture_);
  glBindTexture(GL_TEXTURE_CUBE_MAP, texture_);
  for (unsigned side = 0; side < 6; ++side)
    glTexImage2D(GL_TEXTURE_CUBE_MAP_POSITIVE_X + side, 0, GL_RGBA8, size, size, 0, GL_RGBA, GL_UNSIGNED_BYTE, nullptr);
  for (const int filter : {GL_TEXTURE_MIN_FILTER, GL_TEXTURE_MAG_FILTER})
    glTexParameteri(GL_TEXTURE_CUBE_MAP, static_cast<GLenum>(filter), GL_LINEAR);
  for (const int wrap : {GL_TEXTURE_WRAP_S, GL_TEXTURE_WRAP_T, GL_TEXTURE_WRAP_R})
    glTexParameteri(GL_TEXTURE_CUBE_MAP, static_cast<GLenum>(wrap), GL_CLAMP_TO_EDGE);
  glGenFramebuffers(1, &framebuffer_);
}

SkyBox::~SkyBox() {
  glDeleteFramebuffers(1, &framebuffer_);
  glDeleteTextures(1, &texture_);
}

/// By the standard's table of sides: s to the right and t up in clip space.
Eigen::Matrix4f SkyBox::directions(unsigned side) {
  static const float tables[6][9] = {{0, 0, -1, 0, -1, 0, 1, 0, 0}, {0, 0, 1, 0, -1, 0, -1, 0, 0},
                                     {1, 0, 0, 0, 0, 1, 0, 1, 0},   {1, 0, 0, 0, 0, -1, 0, -1, 0},
                                     {1, 0, 0, 0, -1, 0, 0, 0, 1},  {-1, 0, 0, 0, -1, 0, 0, 0, -1}};
  Eigen::Matrix4f m = Eigen::Matrix4f::Zero();
  m.topLeftCorner<3, 3>() = Eigen::Map<const Eigen::Matrix3f>(tables[side]);
  m(3, 3) = 1;
  return m;
}

void SkyBox::bindForDrawing(unsigned side) const {
  glBindFramebuffer(GL_FRAMEBUFFER, framebuffer_);
  glFramebufferTexture2D(GL_FRAMEBUFFER, GL_COLOR_ATTACHMENT0, GL_TEXTURE_CUBE_MAP_POSITIVE_X + side, texture_, 0);
  glViewport(0, 0, size, size);
}

Program::Program(const std::vector<const char*>& vertexParts, const std::vector<const char*>& fragmentParts)
    : id_(glCreateProgram()) {
  const GLuint shaders[] = {compiled(GL_VERTEX_SHADER, vertexParts), compiled(GL_FRAGMENT_SHADER, fragmentParts)};
  for (const GLuint shader : shaders) glAttachShader(id_, shader);
  glLinkProgram(id_);
  for (const GLuint shader : shaders) glDeleteShader(shader);
  GLint good = 0;
  glGetProgramiv(id_, GL_LINK_STATUS, &good);
  require(good != 0, "a shader program does not link");
}

VertexBuffer::VertexBuffer(const std::vector<Vertex>& vertices) : count_(static_cast<GLsizei>(vertices.size())) {
  glGenVertexArrays(1, &array_);
  glBindVertexArray(array_);
  glGenBuffers(1, &buffer_);
  glBindBuffer(GL_ARRAY_BUFFER, buffer_);
  glBufferData(GL_ARRAY_BUFFER, static_cast<GLsizeiptr>(vertices.size() * sizeof(Vertex)), vertices.data(),
               GL_STATIC_DRAW);
  const auto attribute = [](GLuint index, GLint parts, std::size_t offset) {
    glEnableVertexAttribArray(index);
    const void* at = reinterpret_cast<const void*>(offset);  // NOLINT(performance-no-int-to-ptr): so GL is told
    glVertexAttribPointer(index, parts, GL_FLOAT, GL_FALSE, sizeof(Vertex), at);
  };
  attribute(0, 3, offsetof(Vertex, position));
  attribute(1, 3, offsetof(Vertex, normal));
  attribute(2, 3, offsetof(Vertex, colour));
  attribute(3, 1, offsetof(Vertex, glow));
  attribute(4, 3, offsetof(Vertex, lantern));
}

VertexBuffer::~VertexBuffer() {
  glDeleteBuffers(1, &buffer_);
  glDeleteVertexArrays(1, &array_);
}

void VertexBuffer::draw() const {
  glBindVertexArray(array_);
  glDrawArrays(GL_TRIANGLES, 0, count_);
}

void VertexBuffer::draw(const std::vector<GLint>& firsts, const std::vector<GLsizei>& counts) const {
  glBindVertexArray(array_);
  glMultiDrawArrays(GL_TRIANGLES, firsts.data(), counts.data(), static_cast<GLsizei>(firsts.size()));
}

}  // namespace alpglow::stage
