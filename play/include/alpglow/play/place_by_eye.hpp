#pragma once
// A camera that was moved to where it looks right, as the numbers of a framing.

#include "alpglow/follow/subject.hpp"
#include "alpglow/framing/framing.hpp"
#include "alpglow/view/view.hpp"

#include <string>
#include <utility>
#include <vector>

namespace alpglow::play {

/// Keys of a framing with their values in the units of files, with which a camera of this framing that looks where
/// `view` looks sits where it sits: with c = camera − anchor without its rise, looking along f (pitch p, horizontally
/// h), r to the right: shoulder = c·r, distance = −(c·h)/cos p, rise = c·up + distance·sin p. The anchor's height
/// stays. Empty where the camera is not behind the anchor, looks too steeply to say, or a number lies out of its range.
std::vector<std::pair<std::string, double>> placedByEye(const View& view, const Subject& subject,
                                                        const Framing& framing);

}  // namespace alpglow::play
