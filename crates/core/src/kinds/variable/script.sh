# variable NAME 'FILE' 'SHAPE' 'WORDS': it is set, not empty, and fits; of its value nothing is shown. WORDS are of absent, more.
variable() {
  plain_file "$2" || { say unknown "$2 is for the program to read"; return; }
  value=$(value_of "$1" "$file")
  case "$value $4" in
    ' '*absent*) say met "$1 is not set"; return ;;
    *absent*) say unmet "$1 is set"; return ;;
    ' '*) say unmet "$1 is not set"; return ;;
    '=. '*) say unmet "$1 is empty"; return ;;
    *more*) say unknown "$1 is set; the rest this script cannot tell"; return ;;
  esac
  value=${value#=}
  if value=${value%.} shape=$3 awk 'BEGIN { exit ENVIRON["value"] !~ ENVIRON["shape"] }'; then
    say met "$1 is set"
  else
    say unmet "$1 has a value of another form"
  fi
}
