#!/usr/bin/env python3
"""What including a header costs the compiler, against Eigen/Geometry: memory, which repeats, and time, which scatters.
  bench/header_cost.py [HEADER …]      from the project's root; GCC; else the camera's header and the umbrella"""
import re
import resource
import subprocess
import sys

flags = ["-std=c++17", "-DALPGLOW_MOST_FRAMINGS=8", "-Iinclude", "-isystem", "/usr/include/eigen3", "-fsyntax-only"]


def cost(header):
    """Megabytes, and seconds of the processor, the least of three."""
    megabytes, seconds = 0, []
    for _ in range(3):
        before = resource.getrusage(resource.RUSAGE_CHILDREN).ru_utime
        done = subprocess.run(["g++", *flags, "-ftime-report", "-x", "c++", "-"], input=f"#include <{header}>\n", text=True,
                              capture_output=True, check=True)
        seconds.append(resource.getrusage(resource.RUSAGE_CHILDREN).ru_utime - before)
        megabytes = int(re.search(r"^ TOTAL .* (\d+)M$", done.stderr, re.M).group(1))
    return megabytes, min(seconds)


base = cost("Eigen/Geometry")
print(f"{'Eigen/Geometry':40} {base[0]:4} MB        {base[1]:.2f} s")
for header in sys.argv[1:] or ["alpglow/camera/character_camera.hpp", "alpglow/alpglow.hpp"]:
    memory, time = cost(header)
    print(f"{header:40} {memory:4} MB {memory / base[0]:.2f} {time:6.2f} s {time / base[1]:.2f}")
