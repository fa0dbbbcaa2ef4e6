#pragma once
// From where one sees a camera and its subject best.
//
//   const View outside = outsideOf(view, stage.obstacles(), 16.0 / 9);
//   drawCamera(view, explain(view, stage.obstacles()), lines);        // over a picture from there

#include "alpglow/space/obstacles.hpp"
#include "alpglow/view/view.hpp"

namespace alpglow::stage {

/// A view that has head, camera and where that would be in the picture, from where least stands in between; of
/// `aspect`.
View outsideOf(const View& camera, const Obstacles& world, double aspect);

}  // namespace alpglow::stage
