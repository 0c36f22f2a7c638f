#!/bin/sh
# What would make this machine ready for Driftbuoy.
# It was made for one machine: Ubuntu 22.04.5 LTS, Linux 5.15.0-130-generic, x86_64.
# Read it before you run it, in the project's folder. Nobody else has: the guide's author and
# setup-ready 0.1.0 made it. Where only a person can do a step, it says so and waits.
# shellcheck disable=SC2317
(
set -eu
again='setup-ready preflight --role firmware'
# How steps are told, and lines are written; the steps themselves begin below, at 1.
at='' left=''
say_end() {
    if [ "$1" != 0 ] && [ -n "$at" ]; then
        printf '\nStep %s did not work, or was stopped (status %s). What comes after it was not done.\n' "$at" "$1" >&2
        printf 'See what it said above, then look again: %s\n' "$again" >&2
    fi
}
trap 'say_end $?' EXIT
say_step() {
    at=$1
    printf '\nStep %s: %s\n' "$1" "$2"
}
ask_person() {
    at=$1
    shift
    echo
    printf '%s\n' "$@"
    if (: < /dev/tty) 2> /dev/null; then
        printf 'Press Enter when that is done, or Ctrl-C to stop here. '
        read -r _ < /dev/tty || exit 1
    else
        left="$left $at"
    fi
}
add_lines() {
    into=$1
    shift
    case $into in /*) ;; *) into=./$into ;; esac
    mkdir -p "$(dirname "$into")"
    if [ -s "$into" ]; then
        if [ "$(tail -n $# "$into")" = "$(printf '%s\n' "$@")" ]; then
            printf 'It stands at the end of %s already.\n' "$into"
            return 0
        fi
        if [ -n "$(tail -c 1 "$into")" ]; then echo >> "$into"; fi
    fi
    printf '%s\n' "$@" >> "$into"
    printf 'Written into %s:\n' "$into"
    printf '    %s\n' "$@"
}
case $(uname -s) in Linux) ;; *) printf '%s\n' 'This was made for Linux. On another system: setup-ready plan'; exit 1 ;; esac
if [ "$(id -u)" = 0 ] && [ -n "${SUDO_USER:-}" ]; then printf '%s\n' 'Run this as yourself, without sudo: what it makes is yours, and it asks for admin rights where it needs them.'; exit 1; fi
if [ ! -e ./setup-guide.toml ]; then printf '%s\n' 'Run this in the project'\''s folder: the one with setup-guide.toml.'; exit 1; fi

# 1. Have the limit raised where it is set: the container's settings, the service, or whoever looks after this machine.
#    Settles memory.
ask_person 1 'For you, step 1: Have the limit raised where it is set: the container'\''s settings, the service, or whoever looks after this machine.'

# 2. Correct the proxy in the variables https_proxy and http_proxy, or name this address in no_proxy; ask whoever looks after the network for the right values.
#    Settles the download server.
ask_person 2 'For you, step 2: Correct the proxy in the variables https_proxy and http_proxy, or name this address in no_proxy; ask whoever looks after the network for the right values.'

# 3. Put /usr/local/bin first on PATH, so that the copy that works is found first.
#    Settles cmake.
say_step 3 'Put /usr/local/bin first on PATH, so that the copy that works is found first.'
# The line is written as it stands.
# shellcheck disable=SC2016
add_lines "$HOME"/.bashrc 'export PATH=/usr/local/bin:"$PATH"'

# 4. Install the buoy's C compiler in a version that is >= 12, < 15. The package gcc-arm-none-eabi of apt is 10.3-2021.07-4, which does not do. How: https://driftbuoy.example/handbook/compiler
#    Settles the buoy's C compiler.
ask_person 4 'For you, step 4: Install the buoy'\''s C compiler in a version that is >= 12, < 15. The package gcc-arm-none-eabi of apt is 10.3-2021.07-4, which does not do. How: https://driftbuoy.example/handbook/compiler'

# 5. Fetch the parts that come from other repositories.
#    Settles the working copy.
say_step 5 'Fetch the parts that come from other repositories.'
(
git submodule update --init --recursive
)

# 6. Give git another user.email: put it in the place of YOUR-VALUE.
#    Settles your address in git.
#    Put in your own value first:
#      git config --global user.email YOUR-VALUE
ask_person 6 'For you, step 6: Give git another user.email: put it in the place of YOUR-VALUE.' '    git config --global user.email YOUR-VALUE'

# 7. Install QEMU for the buoy's processor. (needs admin rights)
#    Settles something to run the radio simulator in.
#    QEMU for the buoy's processor or a container engine will do; QEMU for the buoy's processor is the one that a command brings.
#    For whoever looks after this machine:
#      sudo apt-get install qemu-system-arm
ask_person 7 'For whoever looks after this machine, step 7: Install QEMU for the buoy'\''s processor.' '    sudo apt-get install qemu-system-arm'

# 8. Install the chip's debugger in a version that is >= 0.12. The package openocd of apt is 0.11.0-1, which does not do. How: https://driftbuoy.example/handbook/debugger (after that, most likely, recommended)
#    Settles the chip's debugger.

# 9. Nothing has to be changed any more: sign out completely and in again.
#    Settles hardware virtualization, the group for serial devices and cmake.

at=''
if [ -n "$left" ]; then printf '\nLeft for you, since nobody could press Enter: step%s.\n' "$left"; fi
printf '%s\n' 'Now sign out completely and in again, then check again: setup-ready preflight --role firmware'
)
