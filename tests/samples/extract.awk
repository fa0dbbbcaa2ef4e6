# Makes one C++ file of all code samples: what stands in comments after "//   " in headers, and in ```cpp in documents.
# Each becomes the body of a function whose parameters are what its context gives it (contexts.txt).
#   awk -f extract.awk contexts.txt FILE...
FNR == 1 { end_sample(); file = FILENAME; sub(/^.*\.\.\//, "", file); inside = 0 }
FILENAME ~ /contexts\.txt$/ {
  if ($0 !~ /^#/ && (at = index($0, ": ")) > 0) context[substr($0, 1, at - 1)] = substr($0, at + 2)
  next
}
function begin_sample() {
  name = FILENAME
  found = 0
  for (known in context) if (substr(name, length(name) - length(known) + 1) == known) { found = 1; given = context[known] }
  if (!found) { printf "#error %s has a code sample, but tests/samples/contexts.txt does not say what it stands in\n", name; given = "" }
  if (given == "text") { inside = 2; return }
  inside = 1
  ++samples
  printf "namespace sample_%d {\nvoid sample(%s) {\n#line %d \"%s\"\n", samples, given, FNR, FILENAME
}
function end_sample() {
  if (inside == 1) printf "}\n}  // namespace\n\n"
  inside = 0
}
FILENAME ~ /\.hpp$/ {
  if ($0 ~ /^\/\/   /) {
    if (!inside) begin_sample()
    if (inside == 1) print substr($0, 6)
  } else if (inside) end_sample()
  next
}
FILENAME ~ /\.md$/ {
  if ($0 ~ /^```cpp/) { begin_sample(); next }
  if ($0 ~ /^```/) { end_sample(); next }
  if (inside == 1) print
}
END { end_sample(); if (samples < 1) print "#error there is not a single code sample" }
