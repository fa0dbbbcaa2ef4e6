#pragma once
// A trace: what a camera did, frame by frame, as CSV. Numbers read back to the same value; later columns go to the end.

#include <Eigen/Core>

#include <map>
#include <string>
#include <type_traits>
#include <utility>
#include <vector>

namespace alpglow::io {

/// One frame in the units of the file: metres, seconds, degrees.
struct TraceFrame {
  double frame = 0, time = 0, dt = 0;
  Eigen::Vector3d subject = Eigen::Vector3d::Zero();
  double subjectHeading = 0;
  Eigen::Vector3d head = Eigen::Vector3d::Zero(), pivot = Eigen::Vector3d::Zero(), camera = Eigen::Vector3d::Zero();
  /// Where the camera would be with nothing in the way; not numbers where a file does not say so.
  Eigen::Vector3d free = Eigen::Vector3d::Zero();
  double yaw = 0, pitch = 0, roll = 0;
  double fieldOfView = 0, aspect = 0, nearPlane = 0;
  double distance = 0, freeDistance = 0;
  /// Distance from the camera to the nearest obstacle, looked for up to 10 m.
  double clearance = 0;
  std::string framing;
  double opacity = 1;
  /// What limits the distance; empty while nothing does.
  std::string obstacle;
  /// What large thing covers the subject, and how much of it is drawn.
  std::string covering;
  double coveringOpacity = 1;
  /// What it comes in for early, and in how many seconds that would be; how far it is from its shoulder, metres; how
  /// long it waits before it goes out, seconds.
  std::string foreseen;
  double foreseenIn = 0, shoulderGivenUp = 0, outIn = 0;
  /// How much lower than it looks it orbits because of obstacles.
  double stooped = 0;
  /// What pushes that move the picture only turn.
  double pushYaw = 0, pushPitch = 0;
  /// What the hand's sway and unrest turn; how far the camera rests above the subject in the air, metres.
  double swayYaw = 0, swayPitch = 0, rest = 0, restAside = 0;
  /// The distance that there was room for; how much of look input counts beside a guide.
  double clearDistance = 0, handShare = 1;
  /// Where the head, and what is locked on, are on the screen: 0 in the middle, 1 at the right and at the upper edge;
  /// 9 behind the camera, and without a lock.
  double headX = 9, headY = 9, lockX = 9, lockY = 9;
  /// The conditions that hold, and the game's numbers as name=value, separated by spaces.
  std::string flags, numbers;
  /// Where targets are on the screen that are in front of the camera, as name=x,y, separated by spaces.
  std::string targets;
  /// Of a group's camera: the members that it leaves out, those that something hides, and whether one picture cannot
  /// show both.
  std::string groupLeftOut, groupHidden;
  double groupSplits = 0;
  /// Of the subject in the world, along the ground and up, metres per second.
  double speed = 0, climb = 0;
  /// Soft things that are not fully drawn, as name=opacity, separated by spaces; and the share of the subject's body
  /// that is in the picture and that nothing solid hides, 0 … 1.
  std::string fading;
  double visible = 1;
  /// The world's clock, seconds.
  double world = 0;
  /// What began or ended in this frame, separated by spaces.
  std::string events;
  /// The intent: counts that looked, the shaped stick, its turn rates, movement, notches, active blocks, device.
  double lookX = 0, lookY = 0, stickX = 0, stickY = 0, lookRateX = 0, lookRateY = 0, moveX = 0, moveY = 0, zoom = 0;
  std::string blocks, device;
  /// Bob, dip and breathing; the turn of steadying; the glance's offset from the heading; the heading.
  double bobX = 0, bobY = 0, steadyYaw = 0, steadyPitch = 0, glanceYaw = 0, glancePitch = 0, heading = 0;
  /// How much swinging back turned in this frame, and the hold-off that is left; the target and the turn that is
  /// missing.
  double swingBack = 0, holdoff = 0;
  std::string lock;
  double lockError = 0;
  double driftRate = 0;
  /// Which camera is shown, and which subject the character's camera films.
  std::string cameraName, filmed;
  /// From which framing to which, how far; the point under the crosshair, how far it drifted, and the look's scale.
  std::string framingFrom, framingTo;
  double framingBlend = 1;
  Eigen::Vector3d aim = Eigen::Vector3d::Zero();
  double aimError = 0, lookScale = 1;
};

using Trace = std::vector<TraceFrame>;

/// What stands between the spaces of a column: events, flags, blocks.
std::vector<std::string> wordsOf(const std::string& column);
/// A column of name=number, by name.
std::map<std::string, double> pairsOf(const std::string& column);
/// Whether an event happened in this frame.
bool happened(const TraceFrame& frame, const std::string& event);

/// A column: its name, and the number or the text of a frame that it holds; the other one is null.
struct TraceColumn {
  const char* name;
  double& (*number)(TraceFrame&);
  std::string& (*text)(TraceFrame&);
};

/// The column of a member; of a vector, of one of its axes.
template <auto member, int axis = -1>
constexpr TraceColumn traceColumn(const char* name) {
  using Value = std::remove_reference_t<decltype(std::declval<TraceFrame&>().*member)>;
  if constexpr (std::is_same_v<Value, std::string>) {
    return {name, nullptr, [](TraceFrame& frame) -> std::string& { return frame.*member; }};
  } else if constexpr (std::is_same_v<Value, double>) {
    return {name, [](TraceFrame& frame) -> double& { return frame.*member; }, nullptr};
  } else {
    return {name, [](TraceFrame& frame) -> double& { return (frame.*member)[axis]; }, nullptr};
  }
}

/// All columns in the order in which they are written; new ones come last, so that old readers go on by position.
inline constexpr TraceColumn traceColumns[] = {
    traceColumn<&TraceFrame::frame>("frame"),
    traceColumn<&TraceFrame::time>("time_s"),
    traceColumn<&TraceFrame::dt>("dt_s"),
    traceColumn<&TraceFrame::subject, 0>("subject_x_m"),
    traceColumn<&TraceFrame::subject, 1>("subject_y_m"),
    traceColumn<&TraceFrame::subject, 2>("subject_z_m"),
    traceColumn<&TraceFrame::subjectHeading>("subject_heading_deg"),
    traceColumn<&TraceFrame::head, 0>("head_x_m"),
    traceColumn<&TraceFrame::head, 1>("head_y_m"),
    traceColumn<&TraceFrame::head, 2>("head_z_m"),
    traceColumn<&TraceFrame::pivot, 0>("pivot_x_m"),
    traceColumn<&TraceFrame::pivot, 1>("pivot_y_m"),
    traceColumn<&TraceFrame::pivot, 2>("pivot_z_m"),
    traceColumn<&TraceFrame::camera, 0>("camera_x_m"),
    traceColumn<&TraceFrame::camera, 1>("camera_y_m"),
    traceColumn<&TraceFrame::camera, 2>("camera_z_m"),
    traceColumn<&TraceFrame::free, 0>("free_x_m"),
    traceColumn<&TraceFrame::free, 1>("free_y_m"),
    traceColumn<&TraceFrame::free, 2>("free_z_m"),
    traceColumn<&TraceFrame::yaw>("yaw_deg"),
    traceColumn<&TraceFrame::pitch>("pitch_deg"),
    traceColumn<&TraceFrame::roll>("roll_deg"),
    traceColumn<&TraceFrame::fieldOfView>("fov_deg"),
    traceColumn<&TraceFrame::aspect>("aspect"),
    traceColumn<&TraceFrame::nearPlane>("near_m"),
    traceColumn<&TraceFrame::distance>("distance_m"),
    traceColumn<&TraceFrame::freeDistance>("free_distance_m"),
    traceColumn<&TraceFrame::clearance>("clearance_m"),
    traceColumn<&TraceFrame::framing>("framing"),
    traceColumn<&TraceFrame::opacity>("opacity"),
    traceColumn<&TraceFrame::obstacle>("obstacle"),
    traceColumn<&TraceFrame::covering>("covering"),
    traceColumn<&TraceFrame::coveringOpacity>("covering_opacity"),
    traceColumn<&TraceFrame::events>("events"),
    traceColumn<&TraceFrame::lookX>("look_x_counts"),
    traceColumn<&TraceFrame::lookY>("look_y_counts"),
    traceColumn<&TraceFrame::stickX>("stick_x"),
    traceColumn<&TraceFrame::stickY>("stick_y"),
    traceColumn<&TraceFrame::lookRateX>("look_rate_x_degps"),
    traceColumn<&TraceFrame::lookRateY>("look_rate_y_degps"),
    traceColumn<&TraceFrame::moveX>("move_x"),
    traceColumn<&TraceFrame::moveY>("move_y"),
    traceColumn<&TraceFrame::zoom>("zoom"),
    traceColumn<&TraceFrame::blocks>("blocks"),
    traceColumn<&TraceFrame::device>("device"),
    traceColumn<&TraceFrame::bobX>("bob_x_m"),
    traceColumn<&TraceFrame::bobY>("bob_y_m"),
    traceColumn<&TraceFrame::steadyYaw>("steady_yaw_deg"),
    traceColumn<&TraceFrame::steadyPitch>("steady_pitch_deg"),
    traceColumn<&TraceFrame::glanceYaw>("glance_yaw_deg"),
    traceColumn<&TraceFrame::glancePitch>("glance_pitch_deg"),
    traceColumn<&TraceFrame::heading>("heading_deg"),
    traceColumn<&TraceFrame::swingBack>("swing_back_deg"),
    traceColumn<&TraceFrame::holdoff>("holdoff_s"),
    traceColumn<&TraceFrame::lock>("lock"),
    traceColumn<&TraceFrame::lockError>("lock_error_deg"),
    traceColumn<&TraceFrame::cameraName>("camera"),
    traceColumn<&TraceFrame::filmed>("filmed"),
    traceColumn<&TraceFrame::framingFrom>("framing_from"),
    traceColumn<&TraceFrame::framingTo>("framing_to"),
    traceColumn<&TraceFrame::framingBlend>("framing_blend"),
    traceColumn<&TraceFrame::aim, 0>("aim_x_m"),
    traceColumn<&TraceFrame::aim, 1>("aim_y_m"),
    traceColumn<&TraceFrame::aim, 2>("aim_z_m"),
    traceColumn<&TraceFrame::aimError>("aim_error_deg"),
    traceColumn<&TraceFrame::lookScale>("look_scale"),
    traceColumn<&TraceFrame::foreseen>("pull_in_foreseen"),
    traceColumn<&TraceFrame::foreseenIn>("pull_in_foreseen_s"),
    traceColumn<&TraceFrame::shoulderGivenUp>("shoulder_given_up_m"),
    traceColumn<&TraceFrame::outIn>("ease_out_in_s"),
    traceColumn<&TraceFrame::pushYaw>("push_yaw_deg"),
    traceColumn<&TraceFrame::pushPitch>("push_pitch_deg"),
    traceColumn<&TraceFrame::swayYaw>("sway_yaw_deg"),
    traceColumn<&TraceFrame::swayPitch>("sway_pitch_deg"),
    traceColumn<&TraceFrame::rest>("rest_m"),
    traceColumn<&TraceFrame::restAside>("rest_aside_m"),
    traceColumn<&TraceFrame::clearDistance>("clear_distance_m"),
    traceColumn<&TraceFrame::handShare>("hand_share"),
    traceColumn<&TraceFrame::headX>("head_screen_x"),
    traceColumn<&TraceFrame::headY>("head_screen_y"),
    traceColumn<&TraceFrame::lockX>("lock_screen_x"),
    traceColumn<&TraceFrame::lockY>("lock_screen_y"),
    traceColumn<&TraceFrame::flags>("flags"),
    traceColumn<&TraceFrame::numbers>("numbers"),
    traceColumn<&TraceFrame::world>("world_s"),
    traceColumn<&TraceFrame::driftRate>("idle_drift_degps"),
    traceColumn<&TraceFrame::targets>("targets_on_screen"),
    traceColumn<&TraceFrame::groupLeftOut>("group_left_out"),
    traceColumn<&TraceFrame::groupHidden>("group_hidden"),
    traceColumn<&TraceFrame::groupSplits>("group_splits"),
    traceColumn<&TraceFrame::speed>("speed_mps"),
    traceColumn<&TraceFrame::climb>("climb_mps"),
    traceColumn<&TraceFrame::fading>("fading"),
    traceColumn<&TraceFrame::visible>("visible"),
    traceColumn<&TraceFrame::stooped>("stooped_deg"),
};

std::string writeTrace(const Trace& trace);
/// Reads a trace by its column names; unknown columns are passed over. Throws InputError, also where a number is not
/// finite or time does not go on.
Trace readTrace(const std::string& path);

}  // namespace alpglow::io
