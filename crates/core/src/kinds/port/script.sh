# moved NAME 'FILE' NUMBER: the number that the project is set to, or this one; `odd` where that is none, `?` where only the program can tell.
moved() {
  plain_file "$2" || { echo '?'; return; }
  value=$(value_of "$1" "$file")
  # Set to nothing in the environment, the file counts.
  [ "$value" != =. ] || [ -z "$file" ] || { echo '?'; return; }
  value=${value#=}
  value=${value%.} usual=$3 awk 'BEGIN {
    value = ENVIRON["value"]; sub(/^[ \t]+/, "", value); sub(/[ \t]+$/, "", value)
    number = value ~ /^[0-9]+$/ ? value + 0 : 0
    if (value == "") print ENVIRON["usual"]; else if (value ~ /^[+]/) print "?"
    else if (number < 1 || number > 65535) print "odd"; else print number
  }'
}

# port tcp|udp 'WORDS' NUMBER...: nobody holds it. WORDS are of more: that somebody holds it may be right.
port() {
  protocol=$1 words=$2
  shift 2
  [ -r "/proc/net/$protocol" ] || { say unknown 'the kernel does not tell who holds it'; return; }
  least=$(cat /proc/sys/net/ipv4/ip_unprivileged_port_start 2> /dev/null) || least=1024
  for number; do
    case $number in
      odd) say unmet 'what the project is set to is no port'; return ;;
      '?') say unknown 'what the project is set to is for the program to read'; return ;;
    esac
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
