# system 'LINUX' 'DISTRIBUTIONS' 'ARCHITECTURES' 'EDITIONS': the kernel's version lies in the range; `-` is any, empty is none.
system() {
  [ "$(uname -s)" = Linux ] || { say unknown 'this script knows the versions of Linux only'; return; }
  [ -n "$1" ] || { say unmet 'the project does not work on Linux'; return; }
  if [ -n "$2" ]; then
    like=$(sed -n 's/^ID=//p; s/^ID_LIKE=//p' /etc/os-release 2> /dev/null | tr -d "\"'" | tr '\n' ' ')
    fits=no
    for one in $2; do case " $like " in *" $one "*) fits=yes ;; esac; done
    [ -n "$like" ] || { say unknown '/etc/os-release does not say which distribution this is'; return; }
    [ $fits = yes ] || { say unmet "this is $like"; return; }
  fi
  release=$(uname -r)
  version=${release%%-*}
  fit=inside
  [ "$1" = - ] || { fits "$version" "$1"; [ "$fit" != equal ] || [ "$version" = "$release" ] || fit=unknown; }
  case $release in *rc*) [ "$1" = - ] || fit=unknown ;; esac
  case $fit in
    outside) say unmet "Linux $release is not $1"; return ;;
    unknown) say unknown "Linux $release"; return ;;
  esac
  [ -z "$4" ] || { say unknown 'this script does not know editions'; return; }
  [ -n "$3" ] || { say met "Linux $release"; return; }
  case " $3 " in *" $(uname -m) "*) say met "Linux $release" ;; *) say unmet "this is $(uname -m)" ;; esac
}
