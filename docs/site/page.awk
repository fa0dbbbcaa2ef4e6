# A page for Doxygen: pictures lie beside the pages of the site, and headings have the anchors that links expect.
function slug(text) {
  text = tolower(text)
  gsub(/[^a-z0-9 -]/, "", text)
  gsub(/ /, "-", text)
  return base "-" text
}
FNR == 1 { base = FILENAME; sub(/^.*\//, "", base); sub(/\.md$/, "", base) }
/^```/ { code = !code }
!code && /^## / { $0 = $0 " {#" slug(substr($0, 4)) "}" }
!code {
  gsub(/\]\((docs\/)?screenshots\//, "](")
  gsub(/\]\(#/, "](#" base "-")
  gsub(/\]\((\.\.\/)?examples\)/, "](files.html)")
  gsub(/\]\((\.\.\/)?demo\//, "](demo/")
  while (match($0, /\]\([a-z\/.]*[a-z]+\.md#/)) {  # a place on another page
    link = substr($0, RSTART + 2, RLENGTH - 6)
    sub(/^.*\//, "", link)
    $0 = substr($0, 1, RSTART - 1) "](#" link "-" substr($0, RSTART + RLENGTH)
  }
  while (match($0, /\]\((\.\.\/)?(examples|include)\/[a-z_\/]+\.[ch]pp\)/)) {  # a source
    link = substr($0, RSTART + 2, RLENGTH - 3)
    sub(/^.*\//, "", link)
    gsub(/_/, "__", link)
    sub(/\./, "_8", link)
    $0 = substr($0, 1, RSTART - 1) "](" link "_source.html)" substr($0, RSTART + RLENGTH)
  }
}
{ print }
