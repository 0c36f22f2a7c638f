# on WORD [VALUE]: whether this machine is of that sort, for the conditions of the guide.
on() {
  case $1 in
    linux) [ "$(uname -s)" = Linux ] ;;
    macos) [ "$(uname -s)" = Darwin ] ;;
    wsl) grep -q -i microsoft /proc/sys/kernel/osrelease 2> /dev/null ;;
    ci) case ${CI-} in '' | false | 0) return 1 ;; esac ;;
    distro) case " $(sed -n 's/^ID=//p; s/^ID_LIKE=//p' /etc/os-release 2> /dev/null | tr -d "\"'" | tr '\n' ' ') " in *" $2 "*) ;; *) return 1 ;; esac ;;
    arch) [ "$(uname -m)" = "$2" ] ;;
    *) return 1 ;;
  esac
}
when() { if eval "$1"; then echo yes; else echo no; fi; }
