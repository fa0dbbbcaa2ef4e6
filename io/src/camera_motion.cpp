#include "alpglow/io/camera_motion.hpp"

#include "alpglow/base/rotation.hpp"
#include "alpglow/io/input_error.hpp"

#include <fmt/format.h>

#include <algorithm>
#include <cstdint>
#include <cstring>
#include <vector>

namespace alpglow::io {

namespace {

std::string base64(const std::vector<float>& numbers) {
  static const char letters[] = "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/";
  std::vector<std::uint8_t> bytes(numbers.size() * 4);
  for (std::size_t i = 0; i < numbers.size(); ++i) {  // little-endian, whatever the machine is
    std::uint32_t bits = 0;
    std::memcpy(&bits, &numbers[i], 4);
    for (std::size_t byte = 0; byte < 4; ++byte) bytes[4 * i + byte] = static_cast<std::uint8_t>(bits >> (8 * byte));
  }
  std::string text;
  for (std::size_t i = 0; i < bytes.size(); i += 3) {
    const std::size_t count = std::min<std::size_t>(bytes.size() - i, 3);
    std::uint32_t three = 0;
    for (std::size_t k = 0; k < 3; ++k) three = three << 8 | (k < count ? bytes[i + k] : 0u);
    for (std::size_t k = 0; k < 4; ++k) text += k <= count ? letters[three >> (18 - 6 * k) & 63] : '=';
  }
  return text;
}

/// Numbers of one kind after the other, each a view of one buffer.
struct Buffer {
  std::vector<float> numbers;
  std::string views, accessors;
  int count = 0;

  int add(const std::vector<float>& values, int parts, const char* type, const std::string& bounds = "") {
    if (count > 0) {
      views += ",";
      accessors += ",";
    }
    views += fmt::format(R"({{"buffer":0,"byteOffset":{},"byteLength":{}}})", numbers.size() * 4, values.size() * 4);
    accessors += fmt::format(R"({{"bufferView":{},"componentType":5126,"count":{},"type":"{}"{}}})", count,
                             values.size() / static_cast<std::size_t>(parts), type, bounds);
    numbers.insert(numbers.end(), values.begin(), values.end());
    return count++;
  }
};

}  // namespace

std::string cameraMotion(const Trace& trace, const std::string& name) {
  if (trace.empty()) throw InputError(name, "has no frames");
  std::vector<float> times, places, turns, lenses;
  Eigen::Quaterniond before = Eigen::Quaterniond::Identity();
  for (const TraceFrame& frame : trace) {
    times.push_back(static_cast<float>(frame.time - trace.front().time));
    for (int i = 0; i < 3; ++i) places.push_back(static_cast<float>(frame.camera[i]));
    Eigen::Quaterniond turn(rotationOf(degrees(frame.yaw), degrees(frame.pitch), degrees(frame.roll)));
    if (turn.dot(before) < 0) turn.coeffs() = -turn.coeffs();  // readers go straight from one to the next
    before = turn;
    for (int i = 0; i < 4; ++i) turns.push_back(static_cast<float>(turn.coeffs()[i]));
    lenses.push_back(static_cast<float>(degrees(frame.fieldOfView)));
  }
  Buffer buffer;
  const int time =
      buffer.add(times, 1, "SCALAR", fmt::format(R"(,"min":[{}],"max":[{}])", times.front(), times.back()));
  const int place = buffer.add(places, 3, "VEC3"), turn = buffer.add(turns, 4, "VEC4"),
            lens = buffer.add(lenses, 1, "SCALAR");
  std::string quoted;
  for (const char c : name) {
    if (c == '"' || c == '\\') quoted += '\\';
    if (static_cast<unsigned char>(c) >= 0x20) quoted += c;
  }
  const auto sampler = [&](int output) { return fmt::format(R"({{"input":{},"output":{}}})", time, output); };
  const TraceFrame& first = trace.front();
  return fmt::format(
      R"({{"asset":{{"version":"2.0","generator":"alpglow"}},"extensionsUsed":["KHR_animation_pointer"],)"
      R"("scene":0,"scenes":[{{"nodes":[0]}}],"nodes":[{{"name":"{0}","camera":0}}],)"
      R"("cameras":[{{"type":"perspective","perspective":{{"yfov":{1},"aspectRatio":{2},"znear":{3}}}}}],)"
      R"("animations":[{{"name":"{0}","samplers":[{4},{5},{6}],"channels":[)"
      R"({{"sampler":0,"target":{{"node":0,"path":"translation"}}}},)"
      R"({{"sampler":1,"target":{{"node":0,"path":"rotation"}}}},)"
      R"({{"sampler":2,"target":{{"path":"pointer","extensions":{{"KHR_animation_pointer":)"
      R"({{"pointer":"/cameras/0/perspective/yfov"}}}}}}}}]}}],)"
      R"("buffers":[{{"byteLength":{7},"uri":"data:application/octet-stream;base64,{8}"}}],)"
      R"("bufferViews":[{9}],"accessors":[{10}]}})"
      "\n",
      quoted, degrees(first.fieldOfView), first.aspect > 0 ? first.aspect : 16.0 / 9.0,
      first.nearPlane > 0 ? first.nearPlane : 0.1, sampler(place), sampler(turn), sampler(lens),
      buffer.numbers.size() * 4, base64(buffer.numbers), buffer.views, buffer.accessors);
}

}  // namespace alpglow::io
