# group NAME: you are a member, in this session.
group() {
  case " $(id -Gn 2> /dev/null) " in
    *" $1 "*) say met "you are in $1" ;;
    '  ') say unknown 'id does not say your groups' ;;
    *) id -un > /dev/null 2>&1 || { say unknown 'this account has no name'; return; }
      if [ "$(id -u)" = 0 ]; then say met 'the administrator needs no group'; else say unmet "you are not in $1 in this session"; fi ;;
  esac
}
