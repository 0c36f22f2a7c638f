# Packages, lists and states of one package manager, in the root that has several. The first word of each situation is `only MANAGER`.
only() {
  M=$1
  for other in apt:apt-get dnf:dnf zypper:zypper pacman:pacman; do
    [ "${other%:*}" = "$M" ] || mv "/usr/bin/${other#*:}" "/usr/bin/${other#*:}.elsewhere"
  done
  case $M in dnf | zypper) package shell 1 provides=/bin/sh && lists && installed shell ;; esac
}
# a package NAME VERSION [needs=NAME] [conflicts=NAME] [provides=NAME] [slow=yes] [program=NAME] [in=FOLDER]
# [content=FILE] in the manager's repository
package() {
  name=$1 version=$2 needs= conflicts= provides= slow= content= program=$1 in=/usr/bin
  shift 2
  for word; do eval "${word%%=*}=\${word#*=}"; done
  rm -rf /tmp/package
  mkdir -p "/tmp/package$in"
  fake "$program" "$version" "/tmp/package$in"
  [ -z "$content" ] || cp "$content" "/tmp/package$in/$program"
  case $M in
    apt)
      mkdir -p /tmp/package/DEBIAN
      [ -z "$slow" ] || { printf '#!/bin/sh\nsleep 600\n' > /tmp/package/DEBIAN/preinst; chmod 755 /tmp/package/DEBIAN/preinst; }
      packed "$name" "$version" "${needs:+Depends: $needs
}${conflicts:+Conflicts: $conflicts
}${provides:+Provides: $provides
}" ;;
    dnf | zypper)
      {
        printf 'Name: %s\nVersion: %s\nRelease: 1\nSummary: made for a situation\nLicense: none\nBuildArch: noarch\nAutoReqProv: no\n' "$name" "$version"
        [ -z "$needs" ] || echo "Requires: $needs"
        [ -z "$conflicts" ] || echo "Conflicts: $conflicts"
        [ -z "$provides" ] || echo "Provides: $provides"
        printf '%%description\n.\n'
        [ -z "$slow" ] || printf '%%pre\nsleep 600\n'
        printf '%%files\n%s/%s\n' "$in" "$program"
      } > /tmp/spec
      cp -r /tmp/package /tmp/built
      rpmbuild -bb --quiet --define '_rpmdir /srv/rpm' --buildroot /tmp/built /tmp/spec > /dev/null 2>&1
      (cd /srv/rpm && createrepo_c --quiet .) ;;
    pacman)
      (
        cd /tmp/package
        {
          printf 'pkgname = %s\npkgver = %s-1\npkgdesc = made for a situation\nsize = 100\narch = any\n' "$name" "$version"
          [ -z "$needs" ] || echo "depend = $needs"
          [ -z "$conflicts" ] || echo "conflict = $conflicts"
          [ -z "$provides" ] || echo "provides = $provides"
        } > .PKGINFO
        [ -z "$slow" ] || printf 'pre_install() {\n  sleep 600\n}\n' > .INSTALL
        set -- .PKGINFO
        [ -z "$slow" ] || set -- .PKGINFO .INSTALL
        bsdtar -czf "/srv/pacman/$name-$version-1-any.pkg.tar.gz" "$@" usr
        repo-add -q /srv/pacman/buoys.db.tar.gz "/srv/pacman/$name-$version-1-any.pkg.tar.gz" > /dev/null 2>&1
      ) ;;
  esac
}
# the administrator fetches the lists
lists() {
  case $M in
    apt) apt-get update -qq ;;
    dnf) dnf makecache -q ;;
    zypper) zypper --non-interactive --quiet refresh ;;
    pacman) pacman -Syy > /dev/null ;;
  esac
}
# the administrator installs
installed() {
  case $M in
    apt) apt-get install -y -qq "$@" ;;
    dnf) dnf install -y -q "$@" ;;
    zypper) zypper --non-interactive --quiet install "$@" ;;
    pacman) pacman -S --noconfirm "$@" > /dev/null ;;
  esac
}
held() {
  case $M in
    apt) apt-mark hold "$1" ;;
    dnf) echo "excludepkgs=$1" >> /etc/dnf/dnf.conf ;;
    zypper) zypper --non-interactive addlock "$1" ;;
    pacman) sed -i "s/^\[options\]/[options]\nIgnorePkg = $1/" /etc/pacman.conf ;;
  esac
}
lists_of() { case $M in apt) echo /var/lib/apt/lists ;; dnf) echo /var/cache/dnf ;; zypper) echo /var/cache/zypp ;; pacman) echo /var/lib/pacman/sync ;; esac; }
lists_gone() { rm -rf "$(lists_of)"/*; }
lists_aged() { find "$(lists_of)" -exec touch -h -d "$1 days ago" {} +; }
# the repository gives one version up for another, and the lists are as they were
moved_on() { mv "$(lists_of)" /run/lists; find /srv -name "$1[-_]$2*" -delete; package "$1" "$3"; rm -rf "$(lists_of)"; cp -a /run/lists "$(lists_of)"; }
# a real installation of a package that takes long
busy() { package barge 1 slow=yes; lists; (installed barge < /dev/null > /dev/null 2>&1 &) ; sleep 3; }
interrupted() { busy; pkill -9 -f barge || true; pkill -9 -x "$M" || true; pkill -9 sleep || true; sleep 0.5; package barge 1; lists || true; }
no_repository() { rm -f /etc/yum.repos.d/* /etc/zypp/repos.d/* /etc/apt/sources.list; sed -i '/^\[buoys\]/,$d' /etc/pacman.conf; lists_gone; }
bad_settings() {
  case $M in
    apt) echo 'deb [ nonsense' > /etc/apt/sources.list ;;
    dnf) echo 'nonsense' > /etc/yum.repos.d/buoys.repo ;;
    zypper) echo 'nonsense' > /etc/zypp/repos.d/buoys.repo ;;
    pacman) echo 'SigLevel = Nonsense' >> /etc/pacman.conf ;;
  esac
}
unreachable() { mv /srv /srv.unplugged; }
# a library NAME VERSION, in the package NAME-devel
library_package() {
  printf 'Name: %s\nDescription: made for a situation\nVersion: %s\n' "$1" "$2" > /run/description
  package "$1-devel" "$2" program="$1.pc" in=/usr/share/pkgconfig content=/run/description
}
