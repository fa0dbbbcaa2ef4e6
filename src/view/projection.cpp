#include "alpglow/view/projection.hpp"

#include <cmath>

namespace alpglow {

Eigen::Matrix4d perspective(double verticalFieldOfView, double aspect, double nearPlane, double farPlane,
                            ClipSpace clip) {
  const double scale = 1 / std::tan(verticalFieldOfView / 2);
  Eigen::Matrix4d m = Eigen::Matrix4d::Zero();
  m(0, 0) = scale / aspect;
  m(1, 1) = clip.y == ClipUp::up ? scale : -scale;
  m(3, 2) = -1;
  // Depth is (A·z + B)/(−z): A and B follow from the depths of the near and the far plane.
  switch (clip.depth) {
    case DepthRange::minusOneToOne:
      m(2, 2) = (farPlane + nearPlane) / (nearPlane - farPlane);
      m(2, 3) = 2 * farPlane * nearPlane / (nearPlane - farPlane);
      break;
    case DepthRange::zeroToOne:
      m(2, 2) = farPlane / (nearPlane - farPlane);
      m(2, 3) = farPlane * nearPlane / (nearPlane - farPlane);
      break;
    case DepthRange::reversed:
      m(2, 2) = nearPlane / (farPlane - nearPlane);
      m(2, 3) = farPlane * nearPlane / (farPlane - nearPlane);
      break;
    case DepthRange::reversedInfinite: m(2, 3) = nearPlane; break;
  }
  return m;
}

Eigen::Matrix4d partOf(const Eigen::Matrix4d& projection, const PicturePart& part, ClipSpace clip) {
  const double up = clip.y == ClipUp::up ? 1 : -1;
  Eigen::Matrix4d m = projection;
  const auto spread = [&m](int row, double low, double high, double sign) {
    m.row(row) = (2 * m.row(row) - sign * (low + high) * m.row(3)) / (high - low);
  };
  spread(0, part.left, part.right, 1);
  spread(1, part.bottom, part.top, up);
  return m;
}

}  // namespace alpglow
