# port tcp|udp 'WORDS' NUMBER...: nobody holds it. WORDS are of more: that somebody holds it may be right.
port() {
  protocol=$1 words=$2
  shift 2
  [ -r "/proc/net/$protocol" ] || { say unknown 'the kernel does not tell who holds it'; return; }
  least=$(cat /proc/sys/net/ipv4/ip_unprivileged_port_start 2> /dev/null) || least=1024
  for number; do
    state=$(cat "/proc/net/$protocol" "/proc/net/${protocol}6" 2> /dev/null | awk -v port="$(printf ':%04X' "$number")" -v udp="$protocol" '
      substr($2, length($2) - 4) == port { seen = seen ? seen : "other"; if ($4 == "0A" || udp == "udp") seen = length($2) > 13 && $2 !~ /^0+:/ ? (seen == "held" ? seen : "other") : "held" }
      END { print seen ? seen : "free" }')
    case "$state $words" in
      'held ') say unmet "somebody holds $number"; return ;;
      free*) [ "$number" -ge "$least" ] || { say unknown "nobody holds $number; whether you may open it this script cannot tell"; return; } ;;
      *) say unknown "something uses $number"; return ;;
    esac
  done
  say met "nobody holds $*"
}
