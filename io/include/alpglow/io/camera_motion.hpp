#pragma once
// A camera's motion as glTF 2.0, for a modelling program: one node with a perspective camera, whose translation and
// rotation are animated; and its field of view, by the extension KHR_animation_pointer, which readers that do not know
// it pass over.
//
//   io::writeWhole("round.gltf", io::cameraMotion(trace, "round"));

#include "alpglow/io/trace.hpp"

#include <string>

namespace alpglow::io {

/// The file's content; times begin at 0. Throws InputError for a trace without frames.
std::string cameraMotion(const Trace& trace, const std::string& name);

}  // namespace alpglow::io
