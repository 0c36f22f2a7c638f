# library NAME 'RANGE': pkg-config finds it, with what it needs.
library() {
  pkg-config --exists "$1" 2> /dev/null || { say unknown 'pkg-config does not find it, or is not here'; return; }
  version=$(pkg-config --modversion "$1" 2> /dev/null)
  [ -n "$2" ] || { say met "$version"; return; }
  fits "$version" "$2"
  case $fit in
    inside | equal) say met "$version" ;;
    outside) say unmet "$version, and $2 is needed" ;;
    *) say unknown "$version" ;;
  esac
}
