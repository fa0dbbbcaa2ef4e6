#pragma once
// Projection matrices for column vectors, with the clip space named at the call.
//
//   const Matrix4d p = perspective(fov, aspect, 0.1, 1000, {DepthRange::reversed, ClipUp::down});
//
// They take view space with x right, y up and the camera looking along −z.

#include <Eigen/Core>

namespace alpglow {

/// Which depth the near and the far plane get after the division by w.
enum class DepthRange {
  minusOneToOne,     ///< near −1, far 1
  zeroToOne,         ///< near 0, far 1
  reversed,          ///< near 1, far 0: floating-point depth keeps its precision far away
  reversedInfinite,  ///< near 1, 0 at infinity; the far distance is not used
};

/// Where +Y points in clip space.
enum class ClipUp { up, down };

struct ClipSpace {
  DepthRange depth = DepthRange::minusOneToOne;
  ClipUp y = ClipUp::up;
};

/// A part of the picture, for tiles, for several screens, or to shift by parts of a pixel (temporal filters): 0 in the
/// middle, 1 at the right and at the upper edge. It may reach beyond the picture; low < high in both directions.
struct PicturePart {
  double left = -1, right = 1, bottom = -1, top = 1;
  /// One of `columns` × `rows`, counted from the left and from the top.
  static PicturePart tile(int column, int row, int columns, int rows) {
    return {-1 + 2.0 * column / columns, -1 + 2.0 * (column + 1) / columns, 1 - 2.0 * (row + 1) / rows,
            1 - 2.0 * row / rows};
  }
};

/// A perspective projection for a vertical field of view in (0, π) radians, aspect > 0 (width over height) and planes
/// 0 < near < far in metres. Outside of that the matrix is no projection: not finite where planes are equal or the
/// field of view is 0. With `reversedInfinite` the far plane is not read.
Eigen::Matrix4d perspective(double verticalFieldOfView, double aspect, double nearPlane, double farPlane,
                            ClipSpace clip);
/// What a projection shows of a part of the picture fills the whole of the clip space instead.
Eigen::Matrix4d partOf(const Eigen::Matrix4d& projection, const PicturePart& part, ClipSpace clip);

}  // namespace alpglow
