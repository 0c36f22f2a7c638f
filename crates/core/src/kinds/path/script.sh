# Whether what lies at a path is such, in the words of find.
is() { [ -n "$(find -L "$path" -prune "$@" 2> /dev/null)" ]; }

# path file|folder PLACE 'MODE' 'WORDS' TEXT...: it is there as it should be; WORDS are of mine, writable, executable, more; TEXT stands in it.
path() {
  sort=$1 mode=$3 words=" $4 "
  place "$2"
  shift 4
  above "$path"
  [ ! -d "$folder" ] || [ -x "$folder" ] || { say unmet "you may not enter $folder"; return; }
  [ -e "$path" ] || { say unmet "$path is not there"; return; }
  case $sort in file) [ -f "$path" ] ;; *) [ -d "$path" ] ;; esac || { say unmet "$path is no $sort"; return; }
  case $words in *' mine '*) is -user "$(id -u)" || { say unmet "$path is not yours"; return; } ;; esac
  [ -z "$mode" ] || is -perm "$mode" || { say unmet "the permissions of $path are not $mode"; return; }
  case $words in *' writable '*) { [ -w "$path" ] && { [ -f "$path" ] || [ -x "$path" ]; }; } || { say unmet "you may not write to $path"; return; } ;; esac
  case $words in *' executable '*) [ -x "$path" ] || { say unmet "$path is not marked as a program"; return; } ;; esac
  [ -r "$path" ] || { say unknown "you may not read $path"; return; }
  for text; do grep -q -F -e "$text" "$path" || { say unmet "$path does not hold $text"; return; }; done
  case $words in *' more '*) say unknown "$path is there; the rest this script cannot tell" ;; *) say met "$path" ;; esac
}
