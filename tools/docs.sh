#!/usr/bin/env bash
# Makes the site of all documents and the reference under build/site, and follows every link within it. A table without a
# head is none.
set -euo pipefail
cd "$(dirname "$0")/.."
awk 'FNR == 1 { rows = 0; code = 0 } /^```/ { code = !code } { rows = !code && /^\|/ ? rows + 1 : 0 }
  rows == 2 && !/^\|[-:| ]+\|$/ { print "docs: " FILENAME ":" FNR ": not the second line of a table"; bad = 1 } END { exit bad }' \
  ./*.md docs/*.md >&2
site=build/site
rm -rf "$site"
mkdir -p "$site"
doxygen docs/Doxyfile
cp docs/screenshots/*.png "$site"
cp -r demo LICENSE "$site"
cd "$site"
# Every file, and every place within a page, as links name them; then what links ask for.
{ find . | sed 's|^\./||'
  grep -oHE ' (id|name)="[^"]+"' -r --include='*.html' . | sed -E 's/^\.\/([^:]+): (id|name)="(.*)"$/\1#\3/'; } | sort -u > ../site-places.txt
grep -oHE '<(a|img|link|script)[^>]* (href|src)="[^"]+"' -r --include='*.html' . |
  sed -E 's/^\.\/([^:]+):.* (href|src)="(.*)"$/\1 \3/' |
  awk '$2 !~ /^([a-z]+:|\/\/)/ { target = $2; if (target ~ /^#/) target = $1 target; else if (match($1, /.*\//)) target = substr($1, 1, RLENGTH) target
    while (sub(/[^\/]+\/\.\.\//, "", target)) {} sub(/^\.\//, "", target); sub(/#$/, "", target); print target }' |
  sort -u > ../site-links.txt
# Doxygen itself links a summary of private classes that it does not show.
broken=$(comm -13 ../site-places.txt ../site-links.txt | grep -v '^class.*#nested-classes$' || true)
if [ -n "$broken" ]; then
  printf 'docs: links to nowhere:\n%s\n' "$broken" >&2
  exit 1
fi
printf 'docs: %s pages, %s links; open build/site/index.html\n' "$(find . -name '*.html' | wc -l)" "$(wc -l < ../site-links.txt)"
