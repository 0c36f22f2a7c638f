# value_of NAME 'FILE': `=`, its value and a dot; nothing where it is not set. The environment counts before the file, of which the last line counts.
value_of() {
  awk -v name="$1" -v file="$2" '
    function trimmed(text) { sub(/^[ \t]+/, "", text); sub(/[ \t]+$/, "", text); return text }
    BEGIN {
      if (name in ENVIRON) { printf "=%s.", ENVIRON[name]; exit }
      while (file != "" && (getline line < file) > 0) {
        line = trimmed(line); sub(/^export [ \t]*/, "", line); at = index(line, "=")
        if (at == 0 || line ~ /^#/ || trimmed(substr(line, 1, at - 1)) != name) continue
        value = trimmed(substr(line, at + 1)); quote = substr(value, 1, 1)
        if (quote == "\"" || quote == "\047") {
          value = substr(value, 2); if (index(value, quote)) value = substr(value, 1, index(value, quote) - 1)
        } else if (index(value, " #")) value = trimmed(substr(value, 1, index(value, " #") - 1))
        last = value; seen = 1
      }
      if (seen) printf "=%s.", last
    }'
}

# plain_file 'FILE': sets `file` to it, or to nothing where it is not there; fails where only the program can read it.
plain_file() {
  file=${1:+./$1}
  [ -e "$file" ] || [ -h "$file" ] || file=
  [ -z "$file" ] || { [ -f "$file" ] && [ ! -h "$file" ] && [ -r "$file" ] && ! LC_ALL=C grep -q "$(printf '\r')" "$file"; }
}
