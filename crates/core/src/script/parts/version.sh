# fits VERSION RANGE: sets `fit` to inside, outside, equal (inside, and at a limit) or unknown. Plain numbers with dots only.
fits() {
  fit=$(awk -v version="$1" -v range="$2" '
    # The order of two versions by their numbers, of the first so many only where that is said.
    function order(a, b, only,  x, y, n, m, i) {
      n = split(a, x, "."); m = split(b, y, "."); if (m > n) n = m; if (only) n = m
      for (i = 1; i <= n; i++) if (x[i] + 0 != y[i] + 0) return x[i] + 0 < y[i] + 0 ? -1 : 1
      return 0
    }
    BEGIN {
      if (version !~ /^[0-9]+(\.[0-9]+)*$/) { print "unknown"; exit }
      result = "outside"; ways = split(range, way, /\|\|/)
      for (w = 1; w <= ways; w++) {
        all = "inside"; count = split(way[w], bound, ",")
        for (i = 1; i <= count; i++) {
          gsub(/[ \t]/, "", bound[i]); sign = bound[i]; sub(/[0-9].*$/, "", sign); limit = substr(bound[i], length(sign) + 1)
          series = sub(/\.\*$/, "", limit)
          if (limit !~ /^[0-9]+(\.[0-9]+)*$/) { print "unknown"; exit }
          is = order(version, limit, series); if (is == 0) all = all == "inside" ? "equal" : all
          if (!(sign == ">=" ? is >= 0 : sign == ">" ? is > 0 : sign == "<=" ? is <= 0 : sign == "<" ? is < 0 : sign == "!=" ? is : !is)) all = "outside"
        }
        if (all != "outside") result = all
      }
      print result
    }')
}
