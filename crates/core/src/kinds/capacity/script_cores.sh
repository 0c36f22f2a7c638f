# How many numbers a list such as 0-3,8 has.
count() { awk -F, '{ for (i = 1; i <= NF; i++) { n = split($i, a, "-"); sum += n == 2 ? a[2] - a[1] + 1 : 1 } } END { print sum + 0 }'; }

# cores COUNT: that many are online, and no limit keeps them from you.
cores() {
  online=$(count < /sys/devices/system/cpu/online 2> /dev/null) || online=0
  [ "${online:-0}" -gt 0 ] || { say unknown 'the kernel does not say how many there are'; return; }
  [ "$online" -ge "$1" ] || { say unmet "$online are here"; return; }
  allowed=$(sed -n 's/^Cpus_allowed_list:[[:space:]]*//p' /proc/self/status 2> /dev/null | count)
  [ "$allowed" -gt 0 ] || { say unknown 'the kernel does not say how many this session may use'; return; }
  [ "$allowed" -ge "$1" ] || { say unmet "$allowed may be used in this session"; return; }
  for one in $(groups_above cpu); do
    share=$(cat "$one/cpu.max" 2> /dev/null || cat "$one/cpu.cfs_quota_us" "$one/cpu.cfs_period_us" 2> /dev/null) || continue
    share=$(printf '%s\n' "$share" | awk '{ all = all " " $0 } END { split(all, a, " "); if (a[1] > 0 && a[2] > 0) print int(a[1] * 100 / a[2]) }')
    [ "${share:-0}" = 0 ] || [ "$share" -ge "$(($1 * 100))" ] || { say unmet "a limit ($one) leaves $share hundredths of a core"; return; }
  done
  say met "$allowed may be used"
}
