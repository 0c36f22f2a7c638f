# The folders of the control groups that this process is in for a controller, from its own up, in both versions of them.
groups_above() {
  awk -v wanted="$1" '
    FILENAME ~ /cgroup$/ {
      rest = substr($0, index($0, ":") + 1); at = index(rest, ":"); names = "," substr(rest, 1, at - 1) ","
      if (names == ",,") own["cgroup2"] = substr(rest, at + 1)
      else if (index(names, "," wanted ",")) own["cgroup"] = substr(rest, at + 1)
      next
    }
    {
      for (i = 7; i <= NF; i++) if ($i == "-") break
      kind = $(i + 1)
      if (!(kind in own) || (kind == "cgroup" && !index("," $(i + 3) ",", "," wanted ","))) next
      below = own[kind]
      if ($4 != "/") below = index(below, $4) == 1 ? substr(below, length($4) + 1) : ""
      sub(/\/$/, "", below)
      while (1) { print $5 below; if (below == "") break; sub(/\/[^\/]*$/, "", below) }
    }' /proc/self/cgroup /proc/self/mountinfo 2> /dev/null
}
