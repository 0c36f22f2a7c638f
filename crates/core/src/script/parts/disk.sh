# disk BYTES FILES PLACE: so much can be written there. What is needed in all (`disk_total`) may land on the same disk.
disk() {
  place "$3"
  above "$path"
  [ -w "$folder" ] || { say unmet "you may not write to $folder"; return; }
  free=$(df -Pk "$folder" 2> /dev/null | awk 'END { if ($4 ~ /^[0-9]+$/) printf "%.0f", $4 * 1024 }')
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
