# no_tool NAME...: none of these may be on PATH.
no_tool() {
  for name; do
    find_program "$name"
    [ -z "$found" ] || { say unknown "$found is here, and must not be"; return; }
  done
  say met "$* is not here"
}
