# What situations are made with. Read before each `prepare`, as root in the throwaway root.
P=$HOME_OF/project H=$HOME_OF WHO=$WHO
fake() { mkdir -p "${3:-/usr/local/bin}"; printf '#!/bin/sh\necho %s %s\n' "$1" "$2" > "${3:-/usr/local/bin}/$1"; chmod 755 "${3:-/usr/local/bin}/$1"; }
mine() { chown -hR "$WHO:" "$@"; }
as() { su "$WHO" -s /bin/sh -c "export HOME=$H; cd $P; $*"; }
listed() { (cd /srv/packages && apt-ftparchive packages . > Packages 2> /dev/null); apt-get update -qq; }
# a package NAME VERSION with control lines and files that are in /tmp/package
packed() {
  mkdir -p /tmp/package/DEBIAN
  printf 'Package: %s\nVersion: %s\nArchitecture: all\nMaintainer: nobody\n%sDescription: made for a situation\n' "$1" "$2" "$3" > /tmp/package/DEBIAN/control
  dpkg-deb --build --root-owner-group /tmp/package "/srv/packages/$1_$2_all.deb" > /dev/null
  rm -r /tmp/package
  listed
}
good_package() { mkdir -p "/tmp/package${3:-/usr/bin}"; fake "${4:-$1}" "$2" "/tmp/package${3:-/usr/bin}"; packed "$1" "$2" ""; }
broken_package() { fake "$1" "$2" /tmp/package/usr/bin; packed "$1" "$2" "Depends: $3
"; }
conflicting_package() { fake "$1" "$2" /tmp/package/usr/bin; packed "$1" "$2" "Conflicts: $3
"; }
asking_package() {
  fake "$1" "$2" /tmp/package/usr/bin
  mkdir -p /tmp/package/DEBIAN
  printf '#!/bin/sh\nprintf "Which sea? (y/n) "; read answer\n' > /tmp/package/DEBIAN/postinst
  chmod 755 /tmp/package/DEBIAN/postinst
  packed "$1" "$2" ""
}
need_package() { ls "/srv/packages/$1"_*.deb > /dev/null; }
# a unit NAME COMMAND of the service manager
unit() {
  printf '[Unit]\nDescription=%s\n[Service]\nExecStart=%s\n[Install]\nWantedBy=multi-user.target\n' "$1" "$2" > "/etc/systemd/system/$1.service"
  systemctl daemon-reload
  systemctl enable -q "$1"
}
# a repository in the project's folder, whose file `chart` has two commits
repository() {
  as 'git config --global user.name Skipper; git config --global user.email s@buoys.example; git config --global protocol.file.allow always; git init -q -b main; echo setup-guide.toml > .git/info/exclude; echo one > chart; git add chart; git commit -q -m one; echo 1.5 > chart; git commit -q -am more'
}
submodule() {
  as 'git init -q -b main ../radio; cd ../radio; echo 1 > driver; git add driver; git commit -q -m 1; echo 2 > driver; git commit -q -am 2; cd ../project; git submodule --quiet add ../radio radio 2> /dev/null || git -c protocol.file.allow=always submodule --quiet add /home/skipper/radio radio; git commit -q -m radio'
}
nested_submodule() {
  as 'git init -q -b main ../antenna; cd ../antenna; echo 1 > driver; git add driver; git commit -q -m 1; git init -q -b main ../radio; cd ../radio; git submodule --quiet add /home/skipper/antenna antenna; git commit -q -m 1; cd ../project; git submodule --quiet add /home/skipper/radio radio; git commit -q -m radio'
}
