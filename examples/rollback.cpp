// A game with rollback: the camera is a value, like everything else of a tick; and what two machines disagree about.

#include <alpglow/alpglow.hpp>

#include <cstdio>
#include <vector>

using namespace alpglow;

int main() {
  const CompiledDesign design{CameraDesign()};
  const NoObstacles world;
  Subject warden;
  CharacterCamera camera(design, warden);
  const auto tick = [&](CharacterCamera& of, double turn) {
    const IntentSample samples[] = {IntentSample::look(0, {turn, 0})};
    of.step(1.0 / 60, Intent{samples}, warden, world, 16.0 / 9.0);
  };

  std::vector<CharacterCamera> snapshots;  // or camera.save(), to send it
  for (int i = 0; i < 60; ++i) {
    snapshots.push_back(camera);
    tick(camera, 4);
  }
  camera = snapshots[40];  // an input of tick 40 has arrived late
  for (int i = 40; i < 60; ++i) tick(camera, i == 40 ? 9 : 4);

  CharacterCamera other(design, warden);  // the other machine did not hear of it
  for (int i = 0; i < 60; ++i) tick(other, 4);
  const CharacterCamera::Saved ours = camera.save(), theirs = other.save();
  std::printf("hashes %s\n%s\n", ours.hash() == theirs.hash() ? "agree" : "differ", camera.difference(theirs).c_str());
  camera.restore(theirs);
  std::printf("now %s\n", camera.save() == theirs ? "the same" : "another");
}
