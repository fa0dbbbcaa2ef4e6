#!/usr/bin/env python3
"""How far cameras are from where they are at another frame rate, over takes in the refuge.

    tools/frame_rates.py build/release/cli/alpglow [trail warden ...]
"""
import bisect
import csv
import math
import subprocess
import sys
import tempfile

TAKES = ["round", "corridor", "corner", "doorway", "mind", "lock", "pad", "cabin", "swing-back", "strafe", "scope", "switch",
         "flare", "stairs", "cliff", "crouch", "cameras"]


def places(program, design, take, rate):
    with tempfile.NamedTemporaryFile(suffix=".csv") as trace:
        subprocess.run([program, "rehearse", f"demo/{design}.camera.toml", "--level", "demo/refuge.level.toml", "--take",
                        f"demo/{take}.take", "--fps", str(rate), "--trace", trace.name], check=True, capture_output=True)
        with open(trace.name, newline="") as file:
            return [(float(row["time_s"]), [float(row[f"camera_{axis}_m"]) for axis in "xyz"], "cut" in row["events"].split())
                    for row in csv.DictReader(file)]


def away(frames, reference):
    times = [time for time, _, _ in reference]
    for time, place, _ in frames:
        after = bisect.bisect_left(times, time - 1e-9)
        if after == len(reference):
            continue
        (ta, a, _), (tb, b, cut) = reference[max(after - 1, 0)], reference[after]
        share = 1 if cut or tb == ta else min(max((time - ta) / (tb - ta), 0), 1)
        yield math.dist(place, [x + share * (y - x) for x, y in zip(a, b)])


def say(of, rate, other, metres):
    metres = sorted(metres)
    far = 100 * sum(m > 0.01 for m in metres) / len(metres)
    print(f"{of} at {rate} and {other} fps: {far:.0f} % off by more than 1 cm, "
          f"95 % within {metres[int(0.95 * len(metres))]:.3f} m, worst {metres[-1]:.2f} m")


def main(program, designs):
    pairs = ((30, 60), (60, 240), (144, 240), (60, 1000), (240, 1000))
    together = {pair: [] for pair in pairs}
    for design in designs:
        at = {rate: {take: places(program, design, take, rate) for take in TAKES} for rate in (30, 60, 144, 240, 1000)}
        for rate, other in pairs:
            metres = [m for take in TAKES for m in away(at[rate][take], at[other][take])]
            say(design, rate, other, metres)
            together[rate, other] += metres
    for (rate, other), metres in together.items():
        say("all of them", rate, other, metres)


if __name__ == "__main__":
    main(sys.argv[1], sys.argv[2:] or ["trail", "warden", "close", "wide"])
