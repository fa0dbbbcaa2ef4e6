// Random hands on random controls come to what they came to before.

#include "alpglow/input/player_controls.hpp"
#include "alpglow/input/touch.hpp"
#include "fuzz/random_design.hpp"
#include "recorded/record.hpp"

namespace alpglow::testing {
namespace {

/// Random numbers, but for what would not be allowed together.
template <class Section>
void randomizeWithin(Section& section, Random& random) {
  const Section before = section;
  randomize(section, random);
  if (brokenRelation(section).key != nullptr) section = before;
}

class RandomHands {
 public:
  RandomHands(unsigned seed, Record& record)
      : random_(seed),
        record_(record),
        bindings_(bindings()),
        controls_(bindings_, preferences()),
        zones_(bindings_.touch) {
    for (const Mode& mode : controls_.bindings().modes) {
      for (const Binding& binding : mode.bindings) known_.push_back(binding.control);
    }
  }

  void playFrame() {
    const double dt = random_.between(1e-3, 0.05);
    controls_.beginFrame();
    if (random_.chance(0.1)) changeSomething();
    for (int i = random_.whole(0, 5), stretch = random_.whole(0, 8); i > 0; --i) {
      if (i == stretch) controls_.beginStretch();
      move(dt * (1 - i / 6.0));
    }
    look();
  }

 private:
  static constexpr const char* modes[] = {"on-foot", "menu", "cable-car", "nowhere"};

  Bindings bindings() {
    Bindings result = standardBindings();
    result.ownActions = {"lantern", "whistle"};
    forEachControlSection(result, [&](const char*, auto& section, auto) { randomizeWithin(section, random_); });
    result.addMode("cable-car");
    for (int i = 0; i < 12; ++i) result.modes[i % 2 == 0 ? 0 : result.modes.size() - 1].bindings.push_back(binding());
    return result;
  }
  Preferences preferences() {
    Preferences result;
    if (random_.chance(0.8)) randomizeWithin(result, random_);
    return result;
  }
  Control control() {
    return {static_cast<std::uint16_t>(random_.whole(0, static_cast<int>(controlNames().size()) - 1))};
  }
  Binding binding() {
    Binding result;
    result.action = static_cast<Action>(random_.whole(0, static_cast<int>(Action::firstOfTheGame) + 2));
    result.axis = static_cast<Axis>(random_.whole(0, 2));
    result.control = control();
    result.scale = random_.between(-2, 2);
    if (random_.chance(0.3)) result.modifier = control();
    result.press = random_.chance(0.3) ? PressStyle::toggle : PressStyle::hold;
    return result;
  }

  void move(double time) {
    const double x = random_.between(-1.2, 1.2), y = random_.between(-1.2, 1.2);
    if (random_.chance(0.2)) return touch(time, x, y);
    const Control control =
        random_.chance(0.9) ? known_[static_cast<std::size_t>(random_.whole(0, static_cast<int>(known_.size()) - 1))]
                            : this->control();
    switch (kindOf(control)) {
      case ControlKind::button:
        controls_.feed({time, control, random_.chance(0.7) ? std::round(std::abs(x)) : x, 0});
        break;
      case ControlKind::axis: controls_.feed({time, control, random_.chance(0.2) ? 0 : x, 0}); break;
      case ControlKind::displacement: controls_.feed({time, control, 40 * x, 40 * y}); break;
    }
  }
  void touch(double time, double x, double y) {
    const auto out = [&](const ControlEvent& event) { controls_.feed(event); };
    const std::int64_t finger = random_.whole(0, 2);
    const bool button = random_.chance(0.1);
    switch (random_.whole(0, 9)) {
      case 0:
      case 1: zones_.down(finger, std::abs(x), std::abs(y), button); break;
      case 2: zones_.up(finger, time, out); break;
      case 3:
        if (button) zones_.cancel(time, out);
        break;
      default: zones_.move(finger, std::abs(x), std::abs(y), time, 1.6, out);
    }
  }

  void answered(const BindAnswer& answer) {
    record_.add(6,
                {static_cast<double>(answer.what), static_cast<double>(answer.inTheWay.action), answer.inTheWay.scale});
  }
  void changeSomething() {
    const char* const mode = modes[random_.whole(0, 3)];
    const Binding other = binding();
    const auto blocks = static_cast<std::uint32_t>(random_.whole(1, 15));
    switch (random_.whole(0, 14)) {
      case 0: record_.add(6, {1.0 * controls_.setMode(mode)}); break;
      case 1: controls_.setMode("on-foot"); break;
      case 2: controls_.block("menu", blocks, 0.001); break;
      case 3: controls_.block("letter", Blocked::look); break;
      case 4: controls_.unblock("menu", 0.002); break;
      case 5: controls_.unblock("letter"); break;
      case 6: controls_.releaseAll(); break;
      case 7: controls_.releasePad(); break;
      case 8: answered(controls_.bind(mode, other)); break;
      case 9: record_.add(6, {1.0 * controls_.unbind("on-foot", other.action, other.control)}); break;
      case 10:
        if (random_.chance(0.1)) record_.add(6, {1.0 * controls_.unbindAll("on-foot", other.action)});
        break;
      case 11: controls_.bindNext(mode, other, {known_[0], other.modifier}); break;
      case 12: controls_.cancelBindNext(); break;
      case 13: controls_.setPreferences(preferences()); break;
      default: controls_.requestPointerLock(blocks % 2 == 0);
    }
  }

  void look() {
    const Intent intent = controls_.intent();
    for (const IntentSample& s : intent.samples) record_.add(0, {s.time * 100, static_cast<double>(s.kind), s.x, s.y});
    record_.add(1, {intent.turn.value_or(Rate{-2, 0}).x, intent.turn.value_or(Rate()).y, intent.zoomRate.value_or(-2),
                    intent.glance ? 1.0 * *intent.glance : 2, intent.aim ? 1.0 * *intent.aim : 2, intent.turnScale.x,
                    intent.turnScale.y, 1.0 * intent.blocked});
    record_.add(2, {controls_.move().x, controls_.move().y, controls_.rise()});
    for (int i = 0; i <= static_cast<int>(Action::firstOfTheGame) + 2; ++i) {
      const auto action = static_cast<Action>(i);
      const ActionState state = controls_.state(action);
      const Rate value = controls_.value(action);
      const Displacement moved = controls_.displaced(action);
      record_.add(3, {1.0 * state.exists, 1.0 * state.held, 1.0 * state.pressed, 1.0 * state.released, value.x, value.y,
                      moved.x, moved.y});
    }
    for (const ActionChange& change : controls_.changes())
      record_.add(4, {change.time * 100, static_cast<double>(change.action), 1.0 * change.began});
    record_.add(5, {controls_.lookedBy().x, controls_.lookedBy().y, controls_.turn().x, controls_.turn().y,
                    controls_.zoomedBy(), 1.0 * controls_.pointerLocked(), 1.0 * controls_.wantsPointerLock(),
                    static_cast<double>(controls_.device()), static_cast<double>(controls_.mode().size())});
    answered(controls_.boundNext());
  }

  Random random_;
  Record& record_;
  Bindings bindings_;
  PlayerControls controls_;
  TouchZones zones_;
  std::vector<Control> known_;
};

TEST(Recorded, Hands) {
  const std::vector<std::string> names = {"samples", "intent", "moves", "actions", "changes", "traced", "bound"};
  compareWithRecord(ALPGLOW_RECORDS "/hands.txt", names, 150, [](unsigned seed, Record& record) {
    RandomHands hands(seed, record);
    for (int frame = 0; frame < 300; ++frame) hands.playFrame();
  });
}

}  // namespace
}  // namespace alpglow::testing
