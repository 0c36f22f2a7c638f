# room PLACE: sets `folder` to the nearest one that is there, and `free` to the bytes that can be written there, or to nothing.
room() {
  place "$1"
  above "$path"
  free=$(df -Pk "$folder" 2> /dev/null | awk 'END { if ($4 ~ /^[0-9]+$/) printf "%.0f", $4 * 1024 }')
}

# fitting BYTES PLACE ...: how much is needed in all of what fits by itself; it may land on one disk.
fitting() {
  sum=0
  while [ $# -gt 0 ]; do
    room "$2"
    ! at_least "${free:-0}" "$1" || sum=$(awk -v a="$sum" -v b="$1" 'BEGIN { printf "%.0f", a + b }')
    shift 2
  done
  echo "$sum"
}

# disk BYTES FILES PLACE: so much can be written there.
disk() {
  room "$3"
  [ -w "$folder" ] || { say unmet "you may not write to $folder"; return; }
  [ -n "$free" ] || { say unknown 'df does not say how much is free'; return; }
  at_least "$free" "$1" || { say unmet "$(megabytes "$free") are free, and $(megabytes "$1") are needed"; return; }
  if [ "$2" != 0 ] || grep -q -i microsoft /proc/version 2> /dev/null ||
    awk '$4 ~ /(^|,)(usr|grp|prj|u|g|p)?j?quota/ { found = 1 } END { exit !found }' /proc/mounts 2> /dev/null; then
    say unknown "$(megabytes "$free") are free, as far as this script sees"
    return
  fi
  at_least "$free" "$disk_total" || { say unknown "$(megabytes "$free") are free, which may be too little for all together"; return; }
  say met "$(megabytes "$free") are free"
}
