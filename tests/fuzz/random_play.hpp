#pragma once
// A random design, a random world and a random game, from a seed. Ordinary play keeps to what the documents ask of a
// host; hostile play puts bad numbers into everything that a host hands over or answers.

#include "alpglow/base/state.hpp"
#include "alpglow/space/neighbourhood.hpp"
#include "fuzz/balls.hpp"
#include "fuzz/legal_view.hpp"
#include "fuzz/random_design.hpp"
#include "support/camera_run.hpp"

#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <functional>
#include <stdexcept>
#include <string>
#include <vector>

namespace alpglow::testing {

/// How a game treats its camera.
enum class Style {
  ordinary,
  hostile,  ///< bad numbers from the host, and damaged states
  reborn,   ///< ordinary, with a camera of its own for each frame that takes over the saved state
  shifted,  ///< ordinary, with the world's origin a thousand kilometres elsewhere every now and then
};

class RandomPlay {
 public:
  RandomPlay(unsigned seed, Style style, bool open = false)
      : random_(seed),
        hostile_(style == Style::hostile),
        reborn_(style == Style::reborn),
        shifted_(style == Style::shifted),
        design_(randomDesign(random_)),
        world_(random_, random_.chance(0.4) || open ? 0 : random_.whole(1, 40), hostile_ ? 0.02 : 0),
        subject_(wardenAt({0, 0, 0})),
        camera_(design_, subject_),
        rates_(random_.whole(0, 5)),
        lists_(random_.chance(0.5)) {}

  /// Plays so many frames; what went wrong first, or nothing.
  std::string play(int frames) {
    for (int frame = 0; frame < frames; ++frame) {
      std::string wrong;
      try {
        wrong = playFrame();
      } catch (const std::logic_error& error) {
        wrong = error.what();
      }
      if (!wrong.empty()) return "frame " + std::to_string(frame) + ": " + wrong;
    }
    return {};
  }
  const CompiledDesign& design() const { return design_; }
  const CharacterCamera& camera() const { return camera_; }
  /// What was seen, as if the origin had never been elsewhere.
  struct Seen {
    Eigen::Vector3d position;
    double yaw, pitch, fieldOfView, distance;
    std::uint32_t events;
  };
  std::vector<Seen> views;
  bool keepsViews = false;
  /// Looks at every view.
  std::function<void(const View&)> watch;
  /// Of all that was seen.
  std::uint64_t checksum() const { return checksum_; }

 private:
  double maybe(double number) const { return hostile_ ? world_.poison(number) : number; }

  double frameTime() {
    const double times[] = {1 / 24.0, 1 / 60.0, 1 / 144.0, 1e-3};
    if (random_.chance(0.01)) return random_.chance(0.5) ? 0 : random_.between(0, 5);
    if (random_.chance(0.005)) return std::pow(10, random_.between(-250, 3));
    return rates_ < 4 ? times[rates_] : rates_ == 4 ? times[random_.whole(0, 3)] : random_.between(1e-3, 0.1);
  }

  std::vector<IntentSample> samples(double dt) {
    std::vector<IntentSample> result;
    for (int i = random_.whole(0, 3); i > 0; --i) {
      const double time = i > 1 ? 0 : random_.between(0, dt);
      const bool held = random_.chance(0.5);
      switch (random_.whole(0, 40)) {
        case 0: result.push_back(IntentSample::turn(time, {random_.between(-1, 1), random_.between(-1, 1)})); break;
        case 1: result.push_back(IntentSample::zoom(time, random_.whole(-3, 3))); break;
        case 2: result.push_back(IntentSample::zoomRate(time, random_.between(-1, 1))); break;
        case 3: result.push_back(IntentSample::glance(time, held)); break;
        case 4: result.push_back(IntentSample::swapShoulder(time)); break;
        case 5: result.push_back(IntentSample::swingBack(time)); break;
        case 6: result.push_back(IntentSample::aim(time, aims_ = held)); break;
        case 7: result.push_back(IntentSample::switchPerspective(time)); break;
        default: result.push_back(IntentSample::look(time, {random_.between(-80, 80), random_.between(-40, 40)}));
      }
    }
    for (IntentSample& sample : result)
      sample.time = maybe(sample.time), sample.x = maybe(sample.x), sample.y = maybe(sample.y);
    return result;
  }

  void walk(double seconds) {
    ReferenceFrame& frame = subject_.frame;
    const double dt = std::min(seconds, 5.0);
    if (random_.chance(0.03))
      walks_ = random_.point(random_.chance(0.1) ? 30 : 4), walks_.y() *= random_.chance(0.8) ? 0 : 1;
    if (random_.chance(0.03)) turns_ = random_.chance(0.5) ? 0 : random_.between(-6, 6);
    if (random_.chance(0.02)) height_ = random_.between(0.3, 2);
    if (random_.chance(0.005)) board();
    if (frame.id != 0) {
      frame.rotation = (Rotation(Eigen::AngleAxisd(spin_ * dt, frame.up)) * frame.rotation).normalized();
      const Eigen::Vector3d offset = subject_.feet - frame.origin;
      subject_.feet = frame.origin + drift_ * dt + Eigen::AngleAxisd(spin_ * dt, frame.up) * offset;
      frame.origin += drift_ * dt;
      frame.velocity = drift_ + spin_ * frame.up.cross(subject_.feet - frame.origin);
      frame.yawRate = random_.chance(0.5) ? spin_ : 0;
    }
    subject_.feet += walks_ * dt;
    subject_.velocity = frame.velocity + walks_;
    subject_.heading = std::remainder(subject_.heading + turns_ * dt, 2 * pi);
    subject_.onGround = random_.chance(0.95);
    subject_.teleported = false;
    if (random_.chance(0.003)) subject_.feet += random_.point(40), subject_.teleported = random_.chance(0.5);
    subject_.head = subject_.feet + height_ * frame.scale * frame.up + random_.point(1e-3);
  }

  void board() {
    subject_.frame = ReferenceFrame();
    if (random_.chance(0.5)) return;
    ReferenceFrame& frame = subject_.frame;
    frame.id = static_cast<std::uint32_t>(random_.whole(0, 3));
    frame.origin = subject_.feet + random_.point(5);
    if (random_.chance(0.3)) frame.up = random_.point(1).normalized();
    if (random_.chance(0.3))
      frame.scale = std::pow(10, random_.between(-1, 1)), largest_ = std::max(largest_, frame.scale);
    if (frame.id == 0) return;
    const Eigen::Vector3d axis = random_.point(1).normalized();
    frame.rotation = Rotation(Eigen::AngleAxisd(random_.between(-3, 3), axis));
    drift_ = random_.point(8);
    spin_ = random_.between(-2, 2);
  }

  Subject told() const {
    Subject subject = subject_;
    // As engines hand it down: either sign, and lengths that floats have drifted to.
    const double drifted = 1 + 1e-4 * std::sin(7 * clock_), sign = std::sin(1000 * clock_) < 0 ? -1 : 1;
    subject.frame.rotation.coeffs() *= sign * drifted;
    subject.frame.up *= drifted;
    for (double* number : {&subject.feet.x(), &subject.head.y(), &subject.velocity.z(), &subject.heading,
                           &subject.frame.origin.x(), &subject.frame.scale, &subject.frame.yawRate,
                           &subject.frame.up.x(), &subject.frame.velocity.x(), &subject.frame.rotation.w()})
      *number = maybe(*number);
    return subject;
  }

  void callSomething() {
    const bool on = random_.chance(0.5);
    switch (random_.whole(0, 60)) {
      case 0: camera_.setCondition(Condition::sprinting, on); break;
      case 1: camera_.setCondition(Condition::crouched, on); break;
      case 2: camera_.setCondition(design_.flag("swimming") | design_.flag("talking"), on); break;
      case 3: camera_.switchPerspective(); break;
      case 4: camera_.setShoulder(static_cast<Shoulder>(random_.whole(0, 2))); break;
      case 5: camera_.swingBack(); break;
      case 6: camera_.endHoldoff(); break;
      case 7: camera_.cancelSwingBack(); break;
      case 8: camera_.setFocus(maybe(random_.between(0, 20))); break;
      case 10: camera_.endLock(); break;
      case 11: locked_ = on; break;
      case 12: {
        const Eigen::Vector3d offset = maybe(1) * random_.point(random_.chance(0.1) ? 1e6 : 10);
        shift(offset);
        break;
      }
      case 13: {
        takeOver();
        if (hostile_) damage();
        break;
      }
      case 14:
        if (random_.chance(0.1))
          camera_.setPose({maybe(random_.between(-4, 4)), maybe(random_.between(-2, 2)), maybe(3)});
        break;
      case 19: {
        const int number = random_.whole(-1, 2);
        camera_.setNumber(number, maybe(random_.between(0, 1)));
        break;
      }
      case 20: {
        GuideGoal goal;
        if (random_.chance(0.5)) {
          const Eigen::Vector3d away = random_.point(6);
          goal.point = Eigen::Vector3d(subject_.feet + maybe(1) * away);
        }
        if (random_.chance(0.5)) goal.yaw = maybe(random_.between(-4, 4));
        if (random_.chance(0.5)) goal.pitch = maybe(random_.between(-1, 1));
        goal.playerShare = maybe(random_.between(0, 1));
        camera_.guide(goal);
        break;
      }
      case 21: camera_.endGuide(); break;
      case 18: camera_.setUnrest(maybe(random_.between(-1, 2))); break;
      case 15:
        if (random_.chance(0.1)) camera_.changeSubject(told());
        break;
      case 16:
      case 17:
        if (const auto kinds = static_cast<int>(design_.pushes().size()); kinds > 0 || hostile_) {
          const int kind = random_.whole(0, hostile_ ? 6 : kinds - 1);
          const double strength = maybe(random_.between(-3, 3));
          camera_.push(kind, strength, on ? told().velocity : Eigen::Vector3d(0, 0, 0));
        }
        break;
      default: break;
    }
    if (locked_) {
      Target target;
      target.id = static_cast<std::uint32_t>(random_.whole(1, random_.chance(0.02) ? 3 : 1));
      target.position = subject_.feet + 5 * Eigen::Vector3d(std::sin(clock_), 0.2, std::cos(clock_));
      target.position.x() = maybe(target.position.x()), target.velocity.y() = maybe(0), target.radius = maybe(0.5);
      camera_.lockOn(target);
    }
  }

  void shift(const Eigen::Vector3d& offset) {
    camera_.shift(offset);
    if (!legalPosition(offset) || offset.norm() > 1e7) return;
    world_.follow(offset);
    subject_.feet += offset, subject_.head += offset, subject_.frame.origin += offset;
  }

  /// Another camera goes on from here.
  void takeOver() {
    CharacterCamera other(design_, wardenAt({3, 2, 1}));
    if (!other.restore(camera_.save())) throw std::logic_error("its own state was refused");
    camera_ = other;
  }

  /// Takes over a state with a few bytes changed. The checksum is right again, as somebody would make it who means
  /// harm.
  void damage() {
    const CharacterCamera::Saved saved = camera_.save();
    for (int tries = 0; tries < 30; ++tries) {
      CharacterCamera::Saved damaged = saved;
      for (int i = random_.whole(1, 4); i > 0; --i) {
        const int at = random_.whole(0, sizeof damaged.fields - 8);
        double number;
        std::memcpy(&number, damaged.fields + at, sizeof number);
        number = random_.chance(0.3) ? random_.between(-3, 3) : random_.chance(0.3) ? number * 1.5 : maybe(number);
        const bool one = random_.chance(0.5);
        const auto byte = static_cast<unsigned char>(random_.whole(0, 255));
        if (one) damaged.fields[at] = byte;
        if (!one) std::memcpy(damaged.fields + at, &number, sizeof number);
      }
      const bool same = std::memcmp(damaged.fields, saved.fields, sizeof saved.fields) == 0;
      if (!same && camera_.restore(damaged)) throw std::logic_error("a damaged state was not noticed");
      damaged.checksum = checksumOf(damaged.fields, sizeof damaged.fields);
      camera_.restore(damaged);
    }
  }

  std::string playFrame() {
    const double dt = frameTime();
    if (reborn_) takeOver();
    if (shifted_ && ++frames_ % 40 == 20) {
      shift((origin_.x() == 0 ? 1 : -1) * Eigen::Vector3d(1e6, 2e4, -8e5));
      origin_ += (origin_.x() == 0 ? 1 : -1) * Eigen::Vector3d(1e6, 2e4, -8e5);
    }
    clock_ += std::min(dt, 1.0);
    callSomething();
    const double ratio = random_.chance(0.98) ? 1 : random_.between(0, 1);  // slow motion
    const FrameTime time{maybe(dt), maybe(dt * ratio)};
    const bool aimed = aims_;
    std::vector<IntentSample> told_ = samples(dt);
    Intent intent{told_};
    intent.aim = aimed;
    if (random_.chance(0.3)) intent.turn = {maybe(random_.between(-1, 1)), maybe(random_.between(-1, 1))};
    const double world = dt * ratio;
    if (ticks_ && world > 0) {
      const FrameTime half{time.player / 2, time.world / 2};
      camera_.look(half, intent);
      walk(world / 2);
      camera_.tick(half.world, told());
      intent.samples = {};
      intent.aim = aims_;
      camera_.look(half, intent);
      walk(world / 2);
    } else {
      camera_.look(time, intent);
      walk(world);
    }
    if (random_.chance(0.01)) ticks_ = !ticks_;
    const double aspect = random_.chance(0.01) ? random_.between(0.05, 20) : 16.0 / 9.0;
    const double seenIn = maybe(aspect);
    const View view =
        random_.chance(0.002)
            ? camera_.updateWithoutSubject(time)
            : camera_.update(time, told(), lists_ ? near_ : static_cast<const Obstacles&>(world_), seenIn);
    if (std::getenv("ALPGLOW_FUZZ_TRACE") != nullptr) {
      std::printf(
          "%g s, world %g, platform %u, scale %g, spin %g, framing %d, blend %.3f, pivot %.3f m from feet, events %u\n",
          time.player, time.world, subject_.frame.id, subject_.frame.scale, spin_, view.framing, view.framingBlend,
          (view.pivot - subject_.feet).norm(), view.events);
    }
    if (watch) watch(view);
    if (keepsViews)
      views.push_back({view.position - origin_, view.yaw, view.pitch, view.fieldOfView, view.distance, view.events});
    const double seen[] = {view.position.x(), view.position.y(), view.position.z(), view.yaw,
                           view.pitch,        view.fieldOfView,  view.opacity,      view.lookScale,
                           view.steadyYaw,    view.swayPitch,    view.lockError,    view.aimDistance,
                           view.velocity.x(), view.holdoff,      view.aimError,     static_cast<double>(view.events)};
    unsigned char bytes[sizeof seen + sizeof checksum_];
    std::memcpy(bytes, seen, sizeof seen);
    std::memcpy(bytes + sizeof seen, &checksum_, sizeof checksum_);
    checksum_ = checksumOf(bytes, sizeof bytes);
    std::string wrong = whatIsWrong(view, design_);
    if (wrong.empty() && !hostile_) wrong = whatIsOrdinary(view);
    return wrong;
  }

  /// What holds on top where the host does everything right.
  std::string whatIsOrdinary(const View& view) const {
    if ((view.faults & ~std::uint32_t{Fault::subjectMissing | Fault::costly}) != 0)
      return "faults are " + std::to_string(view.faults);
    if ((view.faults & Fault::subjectMissing) != 0) return {};
    const double scale = largest_;
    const double reach = (pivotReach(design_, 2) + design_.design().lead.longest) * scale + 3;
    const double away = (view.pivot - subject_.feet).norm();
    if (!(away < reach + moves_)) return "the pivot is " + std::to_string(away) + " m away from the feet";
    const Framing& framing = design_.design().framings[static_cast<std::size_t>(view.framing)].framing;
    if (view.framingBlend == 1 && view.swayPitch == 0 && view.steadyPitch == 0 &&
        !(view.pitch >= framing.pitch.low - 1e-9 && view.pitch <= framing.pitch.high + 1e-9))
      return "pitch is " + std::to_string(view.pitch) + " beyond its limits";
    return {};
  }

  mutable Random random_;
  bool hostile_, reborn_, shifted_;
  CompiledDesign design_;
  Balls world_;
  Subject subject_;
  CharacterCamera camera_;
  int rates_;
  bool lists_;
  Neighbourhood near_{world_, 64};
  std::uint64_t checksum_ = 0;
  int frames_ = 0;
  Eigen::Vector3d origin_ = {0, 0, 0};
  bool aims_ = false, ticks_ = false, locked_ = false;
  Eigen::Vector3d walks_ = {1.5, 0, 0}, drift_ = {0, 0, 0};
  double turns_ = 0, spin_ = 0, height_ = 1.68, clock_ = 0, moves_ = 60, largest_ = 1;
};

}  // namespace alpglow::testing
