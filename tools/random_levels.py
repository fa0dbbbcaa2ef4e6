#!/usr/bin/env python3
"""Levels and takes for measurements: seeded, the same on every machine.

  tools/random_levels.py FOLDER [--levels 10] [--takes 3] [--seconds 60]

Writes FOLDER/SEED.level.toml: rooms with doorways, a wood of larches, posts and fences, lanes between houses, and
stairs under beams, in turn. Beside each level it writes takes of two styles, FOLDER/SEED-STYLE-TAKE.take. All turns have
the profile of a hand (minimum jerk).

  lively    walks and runs in all directions; turns by up to 180 degrees in 0.15 to 1.2 s, with pauses of 0.1 to 1.6 s
  moderate  walks, with stops; turns by 20 to 120 degrees in 0.3 to 1.2 s, with pauses of 0.5 to 3 s

Both zoom, aim, crouch and swap the shoulder.
"""

import argparse
import math
import pathlib
import random

SIDE = 40.0          # of a level, metres
COUNTS = 1 / 0.05    # a degree of the standard look
REPORTS = 125        # of a mouse, a second


class Level:
    def __init__(self, seed):
        self.random = random.Random(seed)
        self.parts = []
        self.box("ground", "meadow", (0, -0.5, 0), (SIDE + 2, 0.5, SIDE + 2))
        for k, (x, z, w, d) in enumerate([(0, -20, 41, 0.4), (0, 20, 41, 0.4), (-20, 0, 0.4, 41), (20, 0, 0.4, 41)]):
            self.box(f"edge-{k}", "stone", (x, 0, z), (w, 4, d))

    def box(self, name, group, base, size, yaw=0.0):
        self.parts.append(f'[[box]]\nname = "{name}"\ngroup = "{group}"\nbase_m = {list(map(self.mm, base))}\n'
                          f'size_m = {list(map(self.mm, size))}\nyaw_deg = {yaw:.1f}\n')

    def post(self, name, group, base, height, radius):
        self.parts.append(f'[[cylinder]]\nname = "{name}"\ngroup = "{group}"\nbase_m = {list(map(self.mm, base))}\n'
                          f'height_m = {self.mm(height)}\nradius_m = {self.mm(radius)}\n')

    def ramp(self, name, start, end, width):
        self.parts.append(f'[[ramp]]\nname = "{name}"\ngroup = "plank"\nfrom_m = {list(map(self.mm, start))}\n'
                          f'to_m = {list(map(self.mm, end))}\nwidth_m = {self.mm(width)}\nthickness_m = 0.2\n')

    @staticmethod
    def mm(value):
        return round(float(value), 3)

    def between(self, low, high):
        return self.random.uniform(low, high)

    def wall(self, name, a, b, height, door):
        """A wall along x or z from a to b, with a doorway at a share of it, or none."""
        along = 0 if a[1] == b[1] else 1
        low, high = sorted((a[along], b[along]))
        pieces = [(low, high, 0, height)]
        if door is not None:
            width, at = self.between(1.0, 1.5), low + door * (high - low)
            left, right = at - width / 2, at + width / 2
            pieces = [(low, left, 0, height), (right, high, 0, height), (left, right, 2.1, height - 2.1)]
        for k, (start, end, base, tall) in enumerate(pieces):
            if end - start < 0.05:
                continue
            middle, length = (start + end) / 2, end - start
            place = (middle, base, a[1]) if along == 0 else (a[0], base, middle)
            self.box(f"{name}-{k}", "plaster", place, (length, tall, 0.2) if along == 0 else (0.2, tall, length))

    def rooms(self):
        edge, count = 6.5, 6
        start = -edge * count / 2
        for i in range(count + 1):
            for k in range(count):
                door = self.random.choice([None, 0.5, 0.5, 0.3, 0.7])
                height = self.between(2.7, 3.2)
                line, low, high = start + i * edge, start + k * edge, start + (k + 1) * edge
                self.wall(f"wall-x-{i}-{k}", (low, line), (high, line), height, door)
                self.wall(f"wall-z-{i}-{k}", (line, low), (line, high), height, self.random.choice([None, 0.5, 0.4]))
        for i in range(count):
            for k in range(count):
                x, z = start + (i + 0.5) * edge, start + (k + 0.5) * edge
                if self.random.random() < 0.5:
                    self.box(f"ceiling-{i}-{k}", "timber", (x, 3.2, z), (edge, 0.2, edge))
                if self.random.random() < 0.4:
                    self.post(f"post-{i}-{k}", "timber", (x + self.between(-1.5, 1.5), 0, z + self.between(-1.5, 1.5)), 3.2, 0.12)

    def wood(self):
        for k in range(90):
            x, z = self.between(-18, 18), self.between(-18, 18)
            if math.hypot(x, z) < 2:
                continue
            self.post(f"trunk-{k}", "trunk", (x, 0, z), self.between(2.5, 7), self.random.choice([0.05, 0.12, 0.2, 0.35]))
        for k in range(14):
            x, z = self.between(-18, 18), self.between(-18, 18)
            if math.hypot(x, z) > 3:
                self.box(f"boulder-{k}", "rock", (x, -0.3, z), [self.between(0.8, 3) for _ in range(3)], self.between(0, 90))
        for k in range(8):
            x, z, along = self.between(-14, 14), self.between(-14, 14), self.random.random() < 0.5
            if math.hypot(x, z) < 4:
                continue
            for p in range(9):
                place = (x + (p - 4) * 1.2, 0, z) if along else (x, 0, z + (p - 4) * 1.2)
                self.post(f"fence-{k}-{p}", "timber", place, 1.9, 0.06)
            self.box(f"rail-{k}", "timber", (x, 1.1, z), (9.6, 0.1, 0.05) if along else (0.05, 0.1, 9.6))

    def lanes(self):
        pitch = 8.0
        for i in range(-2, 3):
            for k in range(-2, 3):
                wide, deep = self.between(5, 6.4), self.between(5, 6.4)
                x, z = i * pitch + 4 + self.between(-0.4, 0.4), k * pitch + 4 + self.between(-0.4, 0.4)
                if abs(x) < 16.5 and abs(z) < 16.5:
                    self.box(f"house-{i}-{k}", "plaster", (x, 0, z), (wide, self.between(2.4, 6), deep), self.between(-4, 4))
                if self.random.random() < 0.5:
                    self.box(f"arch-{i}-{k}", "stone", (i * pitch, 2.3, k * pitch + 4), (3.2, 0.6, 0.5))
                if self.random.random() < 0.5:
                    self.post(f"lamp-{i}-{k}", "metal", (i * pitch + 0.9, 0, k * pitch + 0.9), 3, 0.07)

    def stairs(self):
        for k in range(9):
            x, z = -12 + 12 * (k % 3), -12 + 12 * (k // 3)
            if k == 4:
                continue
            height, steps = self.between(1.5, 2.6), 8
            for s in range(steps):
                self.box(f"step-{k}-{s}", "stone", (x, 0, z - 0.35 * s), (1.8, height * (s + 1) / steps, 0.35))
            self.box(f"landing-{k}", "plank", (x, height - 0.2, z - 4.6), (4, 0.2, 3.6))
            if self.random.random() < 0.6:
                self.ramp(f"ramp-{k}", (x + 2, height, z - 4.6), (x + 6.5, 0, z - 4.6), 1.6)
            for b in range(3):
                self.box(f"beam-{k}-{b}", "timber", (x, 2.2 + height * b / 2.5, z - 1.1 * b), (3, 0.25, 0.25))
            self.wall(f"side-{k}", (x - 1.1, z - 3), (x - 1.1, z + 0.5), height + 2.4, None)
            self.post(f"pillar-{k}", "stone", (x + 1.8, 0, z - 3), height - 0.2, 0.15)
        for k in range(12):
            self.post(f"pole-{k}", "pole", (self.between(-18, 18), 0, self.between(-18, 18)), 4, 0.05)

    def text(self, seed):
        [self.rooms, self.wood, self.lanes, self.stairs][seed % 4]()
        feet = [1.0, 0.02, 1.0]
        return (f'format = 1\nname = "random-{seed}"\n\n[spawn]\nfeet_m = {feet}\nheading_deg = '
                f'{self.random.choice([0, 45, 90, 200])}\n\n' + "\n".join(self.parts))


class Take:
    """Keys, mouse and wheel over time."""

    def __init__(self, seed, seconds):
        self.chance = random.Random(seed)
        self.seconds = seconds
        self.events = []  # (time, text)
        self.held = {}

    def press(self, time, key, down):
        if self.held.get(key, False) != down:
            self.held[key] = down
            self.events.append((time, f"{time:.4f} {key} {1 if down else 0}"))

    def walk(self, weights, runs, pauses):
        """In the directions of the weights (W, WA, WD, A, D, S, none), each for as long as `pauses` says."""
        time = 0.2
        while time < self.seconds - 0.5:
            keys = self.chance.choices([("KeyW",), ("KeyW", "KeyA"), ("KeyW", "KeyD"), ("KeyA",), ("KeyD",), ("KeyS",), ()],
                                       weights)[0]
            for key in ("KeyW", "KeyA", "KeyS", "KeyD"):
                self.press(time, key, key in keys)
            self.press(time, "ShiftLeft", self.chance.random() < runs)
            time += self.chance.uniform(*pauses)

    def look(self, turn, pauses):
        """Turns one after the other; `turn` says by how much yaw, to which pitch and in how many seconds."""
        time, pitch = 0.6, -10.0
        while time < self.seconds - 1.5:
            yaw, goal, length = turn()
            reports, told = math.ceil(length * REPORTS), (0, 0)
            for k in range(reports):
                s = min((k + 1) / REPORTS / length, 1)
                done = s ** 3 * (10 - 15 * s + 6 * s * s)
                now = round(-yaw * done * COUNTS), round(-(goal - pitch) * done * COUNTS)
                if now != told:
                    at = time + (k + 1) / REPORTS
                    self.events.append((at, f"{at:.4f} MouseMove {now[0] - told[0]} {now[1] - told[1]}"))
                told = now
            pitch = goal
            time += length + self.chance.uniform(*pauses)

    def act(self, pauses):
        """Zooms, aims, crouches and swaps the shoulder."""
        time = 3.0
        while time < self.seconds - 4:
            kind = self.chance.choice(["zoom", "aim", "crouch", "shoulder", "nothing"])
            if kind == "zoom":
                self.events.append((time, f"{time:.4f} MouseWheel {self.chance.choice([-1, 1])}"))
            elif kind == "shoulder":
                self.press(time, "KeyX", True)
                self.press(time + 0.1, "KeyX", False)
            elif kind != "nothing":
                key = "MouseButton2" if kind == "aim" else "ControlLeft"
                self.press(time, key, True)
                self.press(time + self.chance.uniform(0.8, 2.5), key, False)
            time += self.chance.uniform(*pauses)

    def text(self):
        self.events.sort(key=lambda event: event[0])
        return "alpglow take 1\n" + "".join(text + "\n" for _, text in self.events) + f"{self.seconds:.1f} end\n"


def pitch_goal(chance):
    return max(-35.0, min(20.0, chance.gauss(-8, 10)))


def lively(seed, seconds):
    take = Take(seed, seconds)

    def turn():
        wide = take.chance.random() < 0.35
        yaw = take.chance.gauss(0, 90 if wide else 25)
        goal = pitch_goal(take.chance)
        length = take.chance.uniform(0.15, 0.5) if wide else take.chance.uniform(0.3, 1.2)
        return max(-180.0, min(180.0, yaw)), goal, length

    take.walk([45, 12, 12, 8, 8, 7, 8], 0.4, (0.5, 2.5))
    take.look(turn, (0.1, 1.6))
    take.act((2.6, 6))
    return take.text()


def moderate(seed, seconds):
    take = Take(seed, seconds)

    def turn():
        yaw = take.chance.choice([-1, 1]) * take.chance.uniform(20, 120)
        return yaw, pitch_goal(take.chance), take.chance.uniform(0.3, 1.2)

    take.walk([50, 6, 6, 4, 4, 4, 26], 0.25, (1, 4))
    take.look(turn, (0.5, 3))
    take.act((5, 12))
    return take.text()


def main():
    parser = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    parser.add_argument("folder", type=pathlib.Path)
    parser.add_argument("--levels", type=int, default=10)
    parser.add_argument("--takes", type=int, default=3)
    parser.add_argument("--seconds", type=float, default=60)
    options = parser.parse_args()
    options.folder.mkdir(parents=True, exist_ok=True)
    for seed in range(options.levels):
        (options.folder / f"{seed}.level.toml").write_text(Level(seed).text(seed))
        for k in range(options.takes):
            for style in (lively, moderate):
                text = style(1000 * seed + k, options.seconds)
                (options.folder / f"{seed}-{style.__name__}-{k}.take").write_text(text)


if __name__ == "__main__":
    main()
