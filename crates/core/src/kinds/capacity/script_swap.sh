# swap BYTES: memory may be put into so much room on the disk.
swap() {
  size=$(awk '$1 == "SwapTotal:" && $3 == "kB" { printf "%.0f\n", $2 * 1024 }' /proc/meminfo 2> /dev/null)
  [ -n "$size" ] || { say unknown '/proc/meminfo does not say it'; return; }
  if at_least "$size" "$1"; then say met "$(megabytes "$size")"; else say unmet "$(megabytes "$size") are here"; fi
}
