#!/usr/bin/env python3
"""Whether every file and every name in the tables of CONTRIBUTING.md exists."""
import pathlib
import re
import subprocess
import sys

root = pathlib.Path(__file__).resolve().parents[2]
files = subprocess.run(["git", "ls-files", "-co", "--exclude-standard"], cwd=root, capture_output=True, text=True).stdout.split()
files = files or [str(each.relative_to(root)) for each in root.rglob("*") if each.is_file() and "build" not in each.parts[:1]]
sources = [each for each in files if each.endswith((".hpp", ".cpp", ".py", ".sh", ".txt", ".cmake")) and (root / each).exists()]
text = "\n".join((root / each).read_text(errors="ignore") for each in sources if "docs/recipes.py" not in each)


def exists(name):
    plain = name.split()[0].rstrip("/").removeprefix("./")
    if plain.startswith("."):  # an ending, or a folder that the list leaves out
        return True
    if "/" in plain or re.search(r"\.(cpp|hpp|md|py|sh|txt)$", plain):
        pattern = re.compile(r"(^|.*/)" + re.escape(plain).replace(r"\*", "[^/]*") + r"(/.*)?$")
        return any(pattern.match(each) for each in files)
    if "=" in plain:
        return plain.split("=")[0] in text
    return re.search(r"\b" + re.escape(plain.split("::")[-1]) + r"\b", text) is not None


rows = [line for line in (root / "CONTRIBUTING.md").read_text().splitlines() if line.startswith("|")]
named = re.findall(r"`([^`]+)`", "\n".join(rows))
missing = sorted({name for name in named if not exists(name)})
for name in missing:
    print(f"CONTRIBUTING.md names `{name}`, which does not exist")
print(f"{len(named)} names, {len(missing)} missing")
sys.exit(1 if missing or len(named) < 50 else 0)
