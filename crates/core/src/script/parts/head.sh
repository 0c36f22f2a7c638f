# What came of a requirement, and why. `verdicts` keeps each for those that come after.
verdicts=' ' unmet=0 unsure=0 met=0
say() {
  verdicts="$verdicts$id=$1 "
  case $1 in
    met) met=$((met + 1)) word='met     ' ;;
    unmet) [ "$level" != must ] || unmet=$((unmet + 1)); word='NOT MET ' ;;
    waits) [ "$level" != must ] || unsure=$((unsure + 1)); word='waits   ' ;;
    skipped) return ;;
    *) [ "$level" != must ] || unsure=$((unsure + 1)); word='unknown ' ;;
  esac
  printf '%s  %-22s %s\n' "$word" "$id" "$2"
  case $1 in met) ;; *) [ -z "$why" ] || printf '%34s%s\n' '' "$why" ;; esac
}

# want ID LEVEL 'ROLES' 'COMES AFTER' 'NEEDS' WHEN WHY: whether it is to be checked now; WHEN is yes, no or unknown.
want() {
  id=$1 level=$2 why=$7
  if [ -n "$role" ] && [ -n "$3" ]; then
    case " $3 " in *" $role "*) ;; *) say skipped; return 1 ;; esac
  fi
  case $6 in
    no) say skipped; return 1 ;;
    unknown) say unknown 'this script cannot tell whether it is for this machine'; return 1 ;;
  esac
  for other in $4; do
    case $verdicts in
      *" $other=met "* | *" $other=skipped "*) ;;
      *" $other=unmet "* | *" $other=waits "*) say waits "$other comes first"; return 1 ;;
      *) say unknown "it comes after $other, which is unknown"; return 1 ;;
    esac
  done
  for other in $5; do
    case $verdicts in
      *" $other=met "* | *" $other=skipped "*) ;;
      *) say unknown "it needs $other"; return 1 ;;
    esac
  done
}

# Numbers may be larger than a shell can reckon with.
at_least() { awk -v have="$1" -v need="$2" 'BEGIN { exit !(have >= need) }'; }
megabytes() { awk -v bytes="$1" 'BEGIN { printf "%.0f MB", bytes / 1000000 }'; }

# A path of the guide; what begins with no slash lies in this folder.
place() {
  case $1 in
    /* | .) path=$1 ;;
    *) path=./$1 ;;
  esac
}

# The nearest folder above a path that is there.
above() {
  folder=$1
  while [ ! -e "$folder" ] && [ ! -h "$folder" ]; do
    case $folder in */*) folder=${folder%/*} ;; *) folder=. ;; esac
    [ -n "$folder" ] || folder=/
  done
}
