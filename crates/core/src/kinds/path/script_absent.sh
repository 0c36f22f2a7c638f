# absent PLACE: nothing is there.
absent() {
  place "$1"
  above "$path"
  if [ -e "$path" ] || [ -h "$path" ]; then say unmet "$path is there"; return; fi
  if [ -d "$folder" ] && [ ! -x "$folder" ]; then say unmet "you may not enter $folder"; return; fi
  say met "$path is not there"
}
