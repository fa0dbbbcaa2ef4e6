#include "window.hpp"

#include "alpglow/panel/theme.hpp"
#include "alpglow/sdl/start.hpp"

#include <backends/imgui_impl_opengl3.h>
#include <backends/imgui_impl_sdl.h>
#include <epoxy/gl.h>
#include <imgui.h>

#include <algorithm>
#include <cmath>
#include <cstring>
#include <filesystem>
#include <stdexcept>

namespace alpglow::play {

namespace {

constexpr double plainShare = 0.44;  // of the pixels along each side

[[noreturn]] void noWindow(const std::string& why) {
  throw std::runtime_error("no window can be opened (" + why +
                           "); rehearse, storyboard, feel and compare work without one");
}

/// A font that has degrees and dots; Dear ImGui's own where there is none.
void addFont(float size) {
  for (const char* path : {"/usr/share/fonts/truetype/dejavu/DejaVuSans.ttf", "/usr/share/fonts/TTF/DejaVuSans.ttf",
                           "C:\\Windows\\Fonts\\segoeui.ttf"}) {
    if (!std::filesystem::exists(path)) continue;
    static const ImWchar ranges[] = {0x20, 0xFF, 0x2010, 0x2030, 0x2190, 0x2193, 0x2200, 0x22FF, 0x25A0, 0x25FF, 0};
    if (ImGui::GetIO().Fonts->AddFontFromFileTTF(path, std::round(size), nullptr, ranges) != nullptr) return;
  }
  ImFontConfig config;
  config.SizePixels = std::round(size * 0.9f);
  ImGui::GetIO().Fonts->AddFontDefault(&config);
}

}  // namespace

Window::Window(const std::string& title, int width, int height, double scale) {
  try {
    sdl::start();
  } catch (const std::runtime_error& error) {
    noWindow(error.what());
  }
  SDL_GL_SetAttribute(SDL_GL_CONTEXT_MAJOR_VERSION, 3);
  SDL_GL_SetAttribute(SDL_GL_CONTEXT_MINOR_VERSION, 3);
  SDL_GL_SetAttribute(SDL_GL_CONTEXT_PROFILE_MASK, SDL_GL_CONTEXT_PROFILE_CORE);
  SDL_GL_SetAttribute(SDL_GL_DEPTH_SIZE, 24);
  const auto open = [&](int samples) {
    SDL_GL_SetAttribute(SDL_GL_MULTISAMPLEBUFFERS, samples > 0 ? 1 : 0);
    SDL_GL_SetAttribute(SDL_GL_MULTISAMPLESAMPLES, samples);
    window_ = SDL_CreateWindow(title.c_str(), SDL_WINDOWPOS_CENTERED, SDL_WINDOWPOS_CENTERED, width, height,
                               SDL_WINDOW_OPENGL | SDL_WINDOW_RESIZABLE | SDL_WINDOW_ALLOW_HIGHDPI);
    if (window_ == nullptr) return;
    context_ = SDL_GL_CreateContext(window_);
    if (context_ != nullptr) return;
    SDL_DestroyWindow(window_);
    window_ = nullptr;
  };
  const auto drawnBySoftware = [] {
    const char* name = reinterpret_cast<const char*>(glGetString(GL_RENDERER));
    const std::string renderer = name != nullptr ? name : "";
    return renderer.find("llvmpipe") != std::string::npos || renderer.find("softpipe") != std::string::npos ||
           renderer.find("Software") != std::string::npos;
  };
  open(0);
  if (window_ == nullptr) {
    const std::string why = SDL_GetError();
    SDL_Quit();
    noWindow(why.empty() ? "there is no OpenGL 3.3" : why);
  }
  software_ = drawnBySoftware();
  if (!software_) {  // smooth edges cost a card nothing
    SDL_GL_DeleteContext(context_);
    SDL_DestroyWindow(window_);
    open(4);
    if (window_ == nullptr) open(0);
  }
  SDL_GL_SetSwapInterval(1);
  IMGUI_CHECKVERSION();
  ImGui::CreateContext();
  ImGui::GetIO().IniFilename = nullptr;
  SDL_GL_GetDrawableSize(window_, &width_, &height_);
  int units = 0;
  SDL_GetWindowSize(window_, &units, nullptr);
  float dots = 96;
  if (SDL_GetDisplayDPI(SDL_GetWindowDisplayIndex(window_), nullptr, &dots, nullptr) != 0) dots = 96;
  // Where a unit is more than a pixel Dear ImGui scales by itself.
  const float perUnit = units > 0 ? static_cast<float>(width_) / static_cast<float>(units) : 1.0f;
  scale_ = scale > 0     ? static_cast<float>(scale)
           : perUnit > 1 ? 1.0f
                         : std::clamp(std::round(dots / 96 * 4) / 4, 1.0f, 3.0f);
  panel::applyTheme(scale_);
  addFont(15 * scale_ * perUnit);
  ImGui::GetIO().FontGlobalScale = 1 / perUnit;
  ImGui_ImplSDL2_InitForOpenGL(window_, context_);
  ImGui_ImplOpenGL3_Init("#version 330 core");
}

Window::~Window() {
  ImGui_ImplOpenGL3_Shutdown();
  ImGui_ImplSDL2_Shutdown();
  ImGui::DestroyContext();
  SDL_GL_DeleteContext(context_);
  SDL_DestroyWindow(window_);
  SDL_Quit();
}

bool Window::visible() const { return (SDL_GetWindowFlags(window_) & (SDL_WINDOW_MINIMIZED | SDL_WINDOW_HIDDEN)) == 0; }

void Window::begin(const std::function<void()>& input) {
  SDL_GL_GetDrawableSize(window_, &width_, &height_);
  ImGui_ImplOpenGL3_NewFrame();
  ImGui_ImplSDL2_NewFrame();
  input();
  ImGui::NewFrame();
  glBindFramebuffer(GL_FRAMEBUFFER, 0);
  glViewport(0, 0, width_, height_);
  const ImVec4 behind = ImGui::GetStyleColorVec4(ImGuiCol_WindowBg);
  glClearColor(behind.x, behind.y, behind.z, 1);
  glClear(GL_COLOR_BUFFER_BIT | GL_DEPTH_BUFFER_BIT);
}

void Window::end() {
  ImGui::Render();
  glBindFramebuffer(GL_FRAMEBUFFER, 0);
  ImGui_ImplOpenGL3_RenderDrawData(ImGui::GetDrawData());
  if (std::exchange(keeps_, false) && width_ > 0 && height_ > 0) {
    stage::Image image{width_, height_, std::vector<std::uint8_t>(static_cast<std::size_t>(width_ * height_) * 4)};
    std::vector<std::uint8_t> rows(image.pixels.size());
    glReadPixels(0, 0, width_, height_, GL_RGBA, GL_UNSIGNED_BYTE, rows.data());
    const auto stride = static_cast<std::size_t>(width_) * 4;
    for (std::size_t row = 0; row < static_cast<std::size_t>(height_); ++row)
      std::memcpy(&image.pixels[row * stride], &rows[(static_cast<std::size_t>(height_) - 1 - row) * stride], stride);
    kept_ = std::move(image);
  }
  SDL_GL_SwapWindow(window_);
}

Viewport::~Viewport() {
  glDeleteFramebuffers(1, &framebuffer_);
  glDeleteRenderbuffers(2, buffers_);
}

void Viewport::resize(int width, int height) {
  if (width == width_ && height == height_) return;
  if (framebuffer_ == 0) {
    glGenFramebuffers(1, &framebuffer_);
    glGenRenderbuffers(2, buffers_);
  }
  width_ = width;
  height_ = height;
  const GLenum kinds[] = {GL_RGBA8, GL_DEPTH_COMPONENT24}, places[] = {GL_COLOR_ATTACHMENT0, GL_DEPTH_ATTACHMENT};
  glBindFramebuffer(GL_FRAMEBUFFER, framebuffer_);
  for (int i = 0; i < 2; ++i) {
    glBindRenderbuffer(GL_RENDERBUFFER, buffers_[i]);
    glRenderbufferStorage(GL_RENDERBUFFER, kinds[i], width, height);
    glFramebufferRenderbuffer(GL_FRAMEBUFFER, places[i], GL_RENDERBUFFER, buffers_[i]);
  }
}

void Viewport::draw(stage::Scene& scene, const stage::Shot& shot, const Window& window, bool plain, int x, int y,
                    int width, int height) {
  if (width < 8 || height < 8) return;
  const int below = window.height() - y - height;
  if (!plain) return scene.draw(shot, {0, x, below, width, height});
  resize(std::max(static_cast<int>(width * plainShare), 8), std::max(static_cast<int>(height * plainShare), 8));
  scene.draw(shot, {framebuffer_, 0, 0, width_, height_});
  glBindFramebuffer(GL_READ_FRAMEBUFFER, framebuffer_);
  glBindFramebuffer(GL_DRAW_FRAMEBUFFER, 0);
  glBlitFramebuffer(0, 0, width_, height_, x, below, x + width, below + height, GL_COLOR_BUFFER_BIT, GL_LINEAR);
}

}  // namespace alpglow::play
