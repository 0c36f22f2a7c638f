# any_of ID...: one of these is met.
any_of() {
  result=skipped
  for other; do
    case $verdicts in
      *" $other=met "*) result=met; break ;;
      *" $other=skipped "*) ;;
      *" $other=unmet "*) [ $result = unknown ] || result=unmet ;;
      *) result=unknown ;;
    esac
  done
  case $result in
    met) say met "$other" ;;
    unmet) say unmet "none of these is met: $*" ;;
    unknown) say unknown "of these: $*" ;;
    skipped) say skipped ;;
  esac
}
