# state_of NAME 'SHAPE' 'FILE': set, other (not of the shape), empty or unset; the environment counts before the file, of which the last line counts.
state_of() {
  awk -v name="$1" -v shape="$2" -v file="$3" '
    function judge(value) { print value == "" ? "empty" : shape != "" && value !~ shape ? "other" : "set"; done = 1; exit }
    function trimmed(text) { sub(/^[ \t]+/, "", text); sub(/[ \t]+$/, "", text); return text }
    BEGIN {
      if (name in ENVIRON) judge(ENVIRON[name])
      while (file != "" && (getline line < file) > 0) {
        line = trimmed(line); sub(/^export [ \t]*/, "", line); at = index(line, "=")
        if (at == 0 || line ~ /^#/ || trimmed(substr(line, 1, at - 1)) != name) continue
        value = trimmed(substr(line, at + 1)); quote = substr(value, 1, 1)
        if (quote == "\"" || quote == "\047") {
          value = substr(value, 2); if (index(value, quote)) value = substr(value, 1, index(value, quote) - 1)
        } else if (index(value, " #")) value = trimmed(substr(value, 1, index(value, " #") - 1))
        last = value; seen = 1
      }
      if (seen) judge(last)
      print "unset"
    }'
}

# variable NAME 'FILE' 'SHAPE' 'WORDS': it is set, not empty, and fits; of its value nothing is shown. WORDS are of absent, more.
variable() {
  file=${2:+./$2}
  [ -f "$file" ] || file=
  [ -z "$file" ] || ! LC_ALL=C grep -q "$(printf '\r')" "$file" || { say unknown "$file has line ends of Windows"; return; }
  [ -z "$file" ] || [ ! -h "$file" ] || { say unknown "$file is a link"; return; }
  state=$(state_of "$1" "$3" "$file")
  case "$state $4" in
    unset*absent*) say met "$1 is not set" ;;
    *absent*) say unmet "$1 is set" ;;
    set*more*) say unknown "$1 is set; the rest this script cannot tell" ;;
    set*) say met "$1 is set" ;;
    other*) say unmet "$1 has a value of another form" ;;
    *) say unmet "$1 is $state" ;;
  esac
}
