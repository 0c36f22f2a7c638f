# limit open-files|file-watches LEAST: it is that high in this session.
limit() {
  case $1 in open-files) now=$(awk '/^Max open files/ { print $4 }' /proc/self/limits 2> /dev/null) ;; *) now=$(cat /proc/sys/fs/inotify/max_user_watches 2> /dev/null) ;; esac
  case $now in
    unlimited) say met unlimited ;;
    '' | *[!0-9]*) say unknown 'the system does not say it' ;;
    *) if at_least "$now" "$2"; then say met "$now"; else say unmet "$now, and $2 is needed"; fi ;;
  esac
}
