#!/usr/bin/env python3
"""Checks the words of documents and comments: no banned subject, no sentence over 35 words, no line over 120 characters
in sources.

  tools/words.py      prints file, line and what to mend; exit code 1 if anything is found
"""
import pathlib
import re
import sys

root = pathlib.Path(__file__).resolve().parents[1]
longest_line, longest_sentence = 120, 35
banned = re.compile(r"\b(who|whoever|whom|whomever)\b", re.IGNORECASE)
documents = [root / "README.md", root / "CONTRIBUTING.md", *sorted((root / "docs").glob("*.md"))]
folders = ("include", "src", "io", "feel", "stage", "panel", "play", "sdl", "bullet", "embree", "conformance", "cli")
sources = [each for folder in folders for each in sorted((root / folder).rglob("*")) if each.suffix in (".hpp", ".cpp")]


def comments(path):
    """Stretches of comment: the number of the first line, and the words."""
    begun, words = 0, []
    for number, line in enumerate(path.read_text().splitlines(), 1):
        found = re.match(r"\s*///?(?!/) ?(.*)$", line) or re.search(r"\S.*?\s// ?(.*)$", line)
        own = re.match(r"\s*//", line)
        text = found.group(1) if found else None
        if text is not None and (text.startswith("  ") or not text.strip() or "   " in text):
            text = None  # a code sample, a table, or the end of a paragraph
        if words and (text is None or not own):
            yield begun, " ".join(words)
            words = []
        if text is not None:
            begun = begun if words else number
            words.append(text)
            if not own:
                yield begun, " ".join(words)
                words = []
    if words:
        yield begun, " ".join(words)


def paragraphs(path):
    begun, words, code = 0, [], False
    for number, line in enumerate(path.read_text().splitlines() + [""], 1):
        code ^= line.startswith("```")
        ends = code or not line.strip() or re.match(r"\s*([-*|#]|\d+\.) ?", line) or line.startswith("```")
        if words and ends:
            yield begun, " ".join(words)
            words = []
        if code or line.startswith("```") or not line.strip():
            continue
        begun = begun if words else number
        words.append(line)


def main():
    found = 0
    for path in documents + sources:
        name = path.relative_to(root)
        stretches = paragraphs(path) if path.suffix == ".md" else comments(path)
        for line, text in stretches:
            plain = re.sub(r"`[^`]*`|\"[^\"]*\"", "x", text)
            for word in banned.findall(plain):
                print(f"{name}:{line}: \"{word}\": name the subject: the camera, the host, the adapter, the player …")
                found += 1
            for sentence in re.split(r"(?<=[.!?:;|])\s", plain):
                if len(sentence.split()) > longest_sentence:
                    print(f"{name}:{line}: {len(sentence.split())} words: {sentence[:90]} …")
                    found += 1
        for number, line in enumerate(path.read_text().splitlines(), 1) if path.suffix != ".md" else []:
            if len(line) > longest_line:
                print(f"{name}:{number}: {len(line)} characters")
                found += 1
    print(f"words: {len(documents)} documents, {len(sources)} sources, {found} to mend")
    return 1 if found else 0


sys.exit(main())
