# The first copy of a program on PATH, as the shell would take it.
find_program() {
  found=
  rest=$PATH:
  while [ -n "$rest" ]; do
    folder=${rest%%:*} rest=${rest#*:}
    if [ -f "$folder/$1" ] && [ -x "$folder/$1" ]; then found=$folder/$1; return; fi
  done
}

# The one version in the first line of what a program says, or nothing where that is not plain.
version_of() {
  stem=$(printf '%s\n' "$1" | tr '[:upper:]' '[:lower:]' | sed 's/[0-9.-]*$//')
  printf '%s\n' "$2" | awk -v name="$stem" 'NF {
    if (tolower($1) == name && $2 ~ /^[0-9]+([.][0-9]+)+$/ && $2 ~ /[1-9]/) { print $2; exit }
    line = tolower($0); count = split($0, words, /[^0-9A-Za-z.+~_-]+/); found = ""
    for (i = 1; i <= count; i++) {
      word = words[i]; sub(/^[vV]/, "", word)
      if (index(tolower(word), name) == 1) word = substr(word, length(name) + 1)
      if (word !~ /^[0-9]+\.[0-9]/) continue
      if (word ~ /^[0-9.]+$/) plain = 1
      sub(/[^0-9.].*$/, "", word); sub(/\.$/, "", word)
      if (found != "" && found != word) exit
      found = word
    }
    # Behind another number it may be that of another program; nothing but zeros is what nobody has set yet.
    before = substr(line, 1, index(line, found) - 1)
    if (found ~ /[1-9]/ && plain && before !~ /[0-9][.][0-9]/ && (index(before, name) || before ~ /^v?$/)) print found
    exit
  }'
}

# Starts what was found with these arguments, in a group of its own where the system can do that; after ten seconds all of it is ended.
asked_for_ten_seconds() {
  apart=$(command -v setsid) || apart=
  ${apart:+"$apart"} "$found" "$@" < /dev/null 2>&1 &
  asked=$!
  (trap 'kill "${nap-}"; exit' TERM; sleep 10 & nap=$!; wait "$nap"; kill -s KILL -- "-$asked" || kill -s KILL "$asked") > /dev/null 2>&1 &
  timer=$!
  wait "$asked" 2> /dev/null
  ended=$?
  kill "$timer" 2> /dev/null
  return "$ended"
}

# tool 'NAMES' 'RANGE' ARGUMENT...: the first of these that is here starts, and its version lies in the range; without arguments it is not started.
tool() {
  names=$1 range=$2
  shift 2
  for name in $names; do find_program "$name"; [ -z "$found" ] || break; done
  [ -n "$found" ] || { say unmet "$name is not on PATH"; return; }
  case $found in
    /*/shims/* | [!/]* | "$PWD"/*) say unknown "$found is here; this script does not start it"; return ;;
    /usr/bin/*) [ "$(uname -s)" != Darwin ] || xcode-select -p > /dev/null 2>&1 || { say unknown "$found may only stand in for it"; return; } ;;
  esac
  [ $# -gt 0 ] || { say unknown "$found is here"; return; }
  said=$(cd / && asked_for_ten_seconds "$@") || { say unknown "$found is here, and did not answer"; return; }
  [ -n "$range" ] || { say met "$found"; return; }
  version=$(version_of "$name" "$said")
  if [ -n "$version" ]; then fits "$version" "$range"; else fit=unknown; fi
  case $fit in
    inside | equal) say met "$found is $version" ;;
    outside) say unmet "$found is $version, and $range is needed" ;;
    *) say unknown "$found is here; this script cannot read its version" ;;
  esac
}
