# What attempts are made with; each runs in a bash that has read this, in the project's folder.
shopt -s expand_aliases
put() { mkdir -p "$(dirname -- "$1")"; cat > "$1"; chmod 755 -- "$1"; }
# A program that proves by a file that it was started.
bait() { printf '#!/bin/sh\n: > "%s"\necho 9.9.9\n' "$CANARY" | put "$1"; }
honest() { printf '#!/bin/sh\necho %s\n' "$2" | put "$1"; }
# A program with these lines; what it needs of the attempt is written into it, since its environment may be cleaned.
script() { printf '#!/bin/sh\nCANARY="%s" ROOT="%s" PROJECT="%s"\n%s\n' "$CANARY" "$ROOT" "$PROJECT" "$2" | put "$1"; }
bait_reads_variable() { script "$1" "case \"\$$2\" in *\"\$PROJECT\"*) : > \"\$CANARY\";; esac; echo 9.0"; }
# A program that looks for a file here and in the folders above, as tools look for settings, and is led by it.
reads_up() { script "$1" "d=\$PWD; while [ -n \"\$d\" ]; do [ ! -e \"\$d/$2\" ] || : > \"\$CANARY\"; d=\${d%/*}; done; echo 9.0"; }
commit() { git -c user.name=a -c user.email=a@b.example commit -qm a --allow-empty; }
repository() { git init -q -b main .; echo a > a; git add -A; commit; }

everywhere() {
  "$PROGRAM" preflight -v; "$PROGRAM" preflight --format json; "$PROGRAM" plan; "$PROGRAM" plan --format sh
  "$PROGRAM" plan --format markdown; "$PROGRAM" plan --format json; "$PROGRAM" explain; "$PROGRAM" explain x
}
# A person at a terminal who types one line.
at_terminal() { late_at_terminal 0 "$@"; }
late_at_terminal() {
  local wait=$1 typed=$2; shift 2
  (sleep "$wait"; printf '%s\n' "$typed") | command script -qec "$(printf '%q ' "$PROGRAM" "$@")" /dev/null
}
# It is carried out away from the project, in a folder that passes for it: elsewhere a script does nothing, and nothing could be seen of it.
passes_for_the_project() { mkdir -p "$AWAY"; : > "$AWAY/setup-guide.toml"; }
plan_script() { "$PROGRAM" plan --format sh > "$ROOT/plan.sh" || true; passes_for_the_project; }
# The script as a person would run it, where nothing that it could start does more than say so.
carry_out() {
  passes_for_the_project
  mkdir -p "$ROOT/stand" "$AWAY/home"
  local name
  for name in sudo doas su apt-get apt dnf brew systemctl useradd usermod groupadd adduser locale-gen localedef kill killall sysctl git chown; do
    printf '#!/bin/sh\necho "%s" >> "%s/started"\n' "$name" "$ROOT" | put "$ROOT/stand/$name"
  done
  (cd "$AWAY" && HOME="$AWAY/home" PATH="$ROOT/stand:/usr/bin:/bin" timeout 20 sh "$ROOT/plan.sh" < /dev/null > "$ROOT/carried" 2>&1) || true
}
# Something that listens at $PORT, until the attempt is over.
held=()
trap '[ ${#held[@]} = 0 ] || kill -9 "${held[@]}" 2> /dev/null' EXIT
hold() {
  "$@" > "$ROOT/held" 2>&1 & held+=($!)
  for _ in $(seq 100); do (exec 3<> "/dev/tcp/127.0.0.1/$PORT") 2> /dev/null && return; sleep 0.1; done
}
serve() { hold "$PYTHON" "$SUITE/serve.py" "$PORT" "$1"; }
record() { hold "$PYTHON" "$SUITE/serve.py" "$PORT" "${1:-}" "$ROOT/requests.txt"; : > "$ROOT/requests.txt"; }
signalled() { "$PYTHON" "$SUITE/signalled.py" "$1" "$PROGRAM" preflight; }
# Fails where that file was opened, other than to ask about it.
opened() {
  strace -f -qq -e trace=open,openat,openat2 -o "$ROOT/strace.txt" "$PROGRAM" preflight
  [ -s "$ROOT/strace.txt" ] && ! grep -F "$1\"" "$ROOT/strace.txt" | grep -v O_PATH
}
# Recordings and reports of this machine, in `sent`, and one of them changed by lines of Python: `d` is what it says, `text` how it is written.
sent() {
  mkdir -p sent
  "$PROGRAM" record --yes --quiet --output sent/good.recording.json > /dev/null 2>&1
  "$PROGRAM" preflight --format json --output sent/good.json > /dev/null 2>&1 || true
  [ -s sent/good.recording.json ] && [ -s sent/good.json ]
}
forged() {
  "$PYTHON" - "$1" "$2" "$3" <<'PYTHON'
import json, sys
d = json.load(open(sys.argv[1]))
def everywhere(value, change):
    if isinstance(value, str): return change(value)
    if isinstance(value, list): return [everywhere(one, change) for one in value]
    if isinstance(value, dict): return {key: everywhere(one, change) for key, one in value.items()}
    return value
def answers(kind): return [one for one in d["answers"] if (one["probe"] if isinstance(one["probe"], str) else next(iter(one["probe"]))) == kind]
text = None
exec(sys.argv[3])
open(sys.argv[2], "w").write(json.dumps(d) if text is None else text)
PYTHON
}
# Everything that reads what was sent.
receives() {
  "$PROGRAM" preflight -v --machine "$1"; "$PROGRAM" plan --machine "$1"; "$PROGRAM" plan --machine "$1" --format sh; "$PROGRAM" explain --machine "$1"
  "$PROGRAM" compare "$1" sent/good.recording.json; "$PROGRAM" compare "$1" sent/good.json --format markdown; "$PROGRAM" survey sent; "$PROGRAM" rehearse --machine "$1"
}
