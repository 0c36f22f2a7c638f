# setting KEY 'SHAPE' 'WORDS': git has it, and it fits.
setting() {
  command -v git > /dev/null || { say unknown 'git is not here'; return; }
  value=$(git config --get "$1" 2> /dev/null) || { if [ $? = 1 ]; then say unmet "git has no $1"; else say unknown 'git did not answer'; fi; return; }
  [ -n "$value" ] || { say unknown "$1 is empty"; return; }
  case $3 in more) say unknown "$1 is set; its form this script cannot tell"; return ;; esac
  if printf '%s\n' "$value" | awk -v shape="$2" '$0 !~ shape { exit 1 }'; then say met "$1 is set"; else say unmet "$1 has a value of another form"; fi
}
