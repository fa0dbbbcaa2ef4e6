#!/usr/bin/env python3
"""Small random changes to the core, one at a time: does a short test notice?

  tools/mutate.py [--count 100] [--seed 1] [--build build/mutants] [--only FILE...]

Each change is one of: a comparison flipped or moved by one, an operator or a sign exchanged, a term or a statement
dropped, a number changed, `min` and `max`, `true` and `false`, or two clocks exchanged; each one that is possible in
src/ and include/ is as likely as any other. It is noticed if it does not compile, or if a short test fails or takes
five minutes: the recorded games first, then those of the core, and what passes those meets those of files, stage and
feel. What is not noticed is
listed with its line, to be judged by hand. The working tree is not touched: the changes are built in a copy.
"""

import argparse
import pathlib
import random
import re
import shutil
import subprocess
import sys
import time

ROOT = pathlib.Path(__file__).resolve().parent.parent
SWAPS = [
    (r"(?<![<>=!\-])<(?![<=])(?= )", "<="), (r"(?<= )<=(?= )", "<"), (r"(?<= )>(?= )", ">="), (r"(?<= )>=(?= )", ">"),
    (r"(?<= )==(?= )", "!="), (r"(?<= )!=(?= )", "=="), (r"(?<= )&&(?= )", "||"), (r"(?<= )\|\|(?= )", "&&"),
    (r"(?<= )\+(?= )", "-"), (r"(?<= )-(?= )", "+"), (r"(?<= )\*(?= )", "/"), (r"(?<= )/(?= )", "*"),
    (r"(?<= )\+=(?= )", "-="), (r"(?<= )-=(?= )", "+="), (r"std::min\b", "std::max"), (r"std::max\b", "std::min"),
    (r"\btrue\b", "false"), (r"\bfalse\b", "true"), (r"\bstd::sin\b", "std::cos"), (r"\bstd::cos\b", "std::sin"),
    (r"(?<=[(,= ])-(?=[a-zA-Z(])", ""), (r"(?<=[(, ])!(?=[a-z(])", ""), (r"\b0\.5\b", "0.25"), (r"(?<= / )2\b", "3"),
    (r"(?<= \* )2\b", "3"), (r"\bseconds\b(?=[),;])", "(seconds * 0.5)"), (r"\btime\.world\b", "time.player"),
    (r"\btime\.player\b", "time.world"), (r"\.yaw\b", ".pitch"), (r"\.pitch\b", ".yaw"), (r"\.x\(\)", ".z()"),
    (r"\.y\(\)", ".x()"), (r"\bfirst\b", "third"), (r"\bverticalHalfLife\b", "halfLife"), (r"\bleash\b", "verticalLeash"),
]
STATEMENT = re.compile(r"^\s+(?!return|const|double|int|bool|auto|case|break|if|for|else|struct|using|static|constexpr"
                       r"|std::|Vector3d|Eigen|View|[A-Z]\w+ \w+[;({=])[^/#{}]*;\s*$")
CODE = re.compile(r"^\s*(//|#|\*|namespace|using|static_assert|template)|^\s*$")


def mutations(line):
    """All single changes of a line."""
    found = []
    code = line.split("//")[0]
    for pattern, other in SWAPS:
        for match in re.finditer(pattern, code):
            found.append(line[: match.start()] + other + line[match.end():])
    if STATEMENT.match(code):
        found.append(re.sub(r"\S.*", ";", line, count=1))
    return found


def sites(only):
    files = [pathlib.Path(f).resolve() for f in only] if only else sorted(
        [*(ROOT / "src").rglob("*.cpp"), *(ROOT / "include").rglob("*.hpp")])
    for file in files:
        for number, line in enumerate(file.read_text().splitlines(keepends=True)):
            if CODE.match(line):
                continue
            for changed in mutations(line):
                yield file.relative_to(ROOT), number, line, changed


def run(command, seconds):
    try:
        return subprocess.run(command, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL, timeout=seconds).returncode
    except subprocess.TimeoutExpired:
        return 1


def main():
    parser = argparse.ArgumentParser(description=__doc__, formatter_class=argparse.RawDescriptionHelpFormatter)
    parser.add_argument("--count", type=int, default=100)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--build", default="build/mutants")
    parser.add_argument("--minutes", type=float, default=1e9, help="stop after so many")
    parser.add_argument("--only", nargs="*", default=[])
    options = parser.parse_args()
    work = ROOT / options.build
    copy, build = work / "source", work / "build"
    shutil.rmtree(copy, ignore_errors=True)
    files = subprocess.run(["git", "ls-files"], cwd=ROOT, capture_output=True, text=True, check=True).stdout.split("\n")
    for name in filter(None, files):
        (copy / name).parent.mkdir(parents=True, exist_ok=True)
        shutil.copy2(ROOT / name, copy / name)
    flags = ["-DCMAKE_BUILD_TYPE=Release", "-DCMAKE_CXX_FLAGS_RELEASE=-O1",
             "-DALPGLOW_BUILD_TOOLS=ON", "-DALPGLOW_BUILD_EXAMPLES=ON", "-DALPGLOW_BUILD_TESTS=ON"]
    subprocess.run(["cmake", "-S", copy, "-B", build, "-G", "Ninja", *flags], check=True, stdout=subprocess.DEVNULL)
    stages = [("recorded_tests",), ("core_tests", "parts_tests"),
              ("stage_tests", "io_tests", "conformance_tests", "feel_tests")]

    def failing(stage):
        """The build, or the first of these tests that fails; nothing if all is well."""
        if run(["cmake", "--build", build, "--target", *stage], 1800) != 0:
            return "the build"
        short = ["--gtest_filter=-Shard/*", "--gtest_fail_fast"]
        return next((name for name in stage if run([build / "tests" / name, *short], 300) != 0), None)

    for stage in stages:
        if (what := failing(stage)):
            sys.exit(f"mutate: {what} fails without any change")
    chosen = list(sites(options.only))
    random.Random(options.seed).shuffle(chosen)
    unnoticed = done = 0
    end = time.monotonic() + 60 * options.minutes
    for file, number, line, changed in chosen[: options.count]:
        if time.monotonic() > end:
            break
        target = copy / file
        before = target.read_text()
        lines = before.splitlines(keepends=True)
        lines[number] = changed
        target.write_text("".join(lines))
        noticed = any(failing(stage) for stage in stages)
        target.write_text(before)
        done += 1
        print(f"{done}: {'noticed' if noticed else 'missed'} {file}:{number + 1}", file=sys.stderr, flush=True)
        if noticed:
            continue
        unnoticed += 1
        print(f"not noticed: {file}:{number + 1}\n  - {line.strip()}\n  + {changed.strip()}", flush=True)
    if done:
        print(f"{done - unnoticed} of {done} changes noticed ({100 * (done - unnoticed) / done:.0f} %)")


if __name__ == "__main__":
    main()
