# A header's first comment tells its one idea, with a sample after "//   ": for Doxygen the file's own description. Every
# line stays on its line.
function text(line) {
  line = substr(line, 4)
  gsub(/</, "\\&lt;", line)
  return line
}
NR == 1 { print "/** @file"; held = ""; inside = 1; next }
!inside { print; next }
{
  sample = ($0 ~ /^\/\/   /)
  comment = ($0 ~ /^\/\//)
  if (NR > 2) {  # the line before, now that it is known what follows
    if (code && !sample) { code = 0; ends = 1 }
    if (sample && !code && held ~ /^\/\/$/) { print (ends ? "@endcode " : "") "@code{.cpp}"; code = 1; ends = 0 }
    else if (ends && held ~ /^\/\/$/) { print "@endcode"; ends = 0 }
    else print (held ~ /^\/\/   /) ? substr(held, 4) : text(held)
  }
  if (!comment) { print (ends || code ? "@endcode " : "") "*/"; inside = 0; next }
  held = $0
}
