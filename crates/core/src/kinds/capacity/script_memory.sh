# A line of /proc/meminfo in bytes.
meminfo() { awk -v key="$1:" '$1 == key && $3 == "kB" { printf "%.0f\n", $2 * 1024 }' /proc/meminfo 2> /dev/null; }

# memory BYTES all|free: the machine has it, and no control group keeps it from you.
memory() {
  total=$(meminfo MemTotal)
  [ -n "$total" ] || { say unknown '/proc/meminfo does not say it'; return; }
  at_least "$total" "$1" || { say unmet "$(megabytes "$total") are here, and $(megabytes "$1") are needed"; return; }
  for one in $(groups_above memory); do
    limit=$(cat "$one/memory.max" 2> /dev/null || cat "$one/memory.limit_in_bytes" 2> /dev/null) || continue
    case $limit in *[!0-9]* | '') continue ;; esac
    at_least "$limit" "$1" || { say unmet "a limit ($one) leaves $(megabytes "$limit")"; return; }
  done
  [ "$2" != free ] || total=$(meminfo MemAvailable)
  [ -n "$total" ] || { say unknown '/proc/meminfo does not say it'; return; }
  at_least "$total" "$1" || { say unmet "$(megabytes "$total") are not in use"; return; }
  say met "$(megabytes "$total")"
}
