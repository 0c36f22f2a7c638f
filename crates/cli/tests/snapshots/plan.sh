#!/bin/sh
# What would make this machine ready for Driftbuoy.
# Read it before you run it, in the project's folder. Nobody else has: the guide's author and
# setup-ready 0.1.0 made it. Where only a person can do a step, it says so and waits.
set -eu
person() {
    echo
    printf '%s\n' "$@"
    if (: < /dev/tty) 2> /dev/null; then
        printf 'Press Enter when that is done, or Ctrl-C to stop here. '
        read -r _ < /dev/tty || exit 1
    fi
}
steps() {

# 1. Have the limit raised where it is set: the container's settings, the service, or whoever looks after this machine.
#    Settles memory.
person 'For you, step 1: Have the limit raised where it is set: the container'\''s settings, the service, or whoever looks after this machine.'

# 2. Correct the proxy in the variables https_proxy and http_proxy, or name this address in no_proxy; ask whoever looks after the network for the right values.
#    Settles the download server.
person 'For you, step 2: Correct the proxy in the variables https_proxy and http_proxy, or name this address in no_proxy; ask whoever looks after the network for the right values.'

# 3. Put /usr/local/bin first on PATH, so that the copy that works is found first.
#    Settles cmake.
# The line is written as it stands.
# shellcheck disable=SC2016
printf '%s\n' 'export PATH=/usr/local/bin:"$PATH"' >> "$HOME"/.bashrc

# 4. Install the buoy's C compiler in a version that is >= 12, < 15. The package gcc-arm-none-eabi of apt is 10.3-2021.07-4, which does not do. How: https://driftbuoy.example/handbook/compiler
#    Settles the buoy's C compiler.
person 'For you, step 4: Install the buoy'\''s C compiler in a version that is >= 12, < 15. The package gcc-arm-none-eabi of apt is 10.3-2021.07-4, which does not do. How: https://driftbuoy.example/handbook/compiler'

# 5. Fetch the parts that come from other repositories.
#    Settles the working copy.
(
git submodule update --init --recursive
)

# 6. Give git another user.email: put it in the place of YOUR-VALUE.
#    Settles your address in git.
#    Put in your own value first:
#      git config --global user.email YOUR-VALUE
person 'For you, step 6: Give git another user.email: put it in the place of YOUR-VALUE.' '    git config --global user.email YOUR-VALUE'

# 7. Install QEMU for the buoy's processor. (needs admin rights)
#    Settles something to run the radio simulator in.
#    QEMU for the buoy's processor or a container engine will do; QEMU for the buoy's processor is the one that a command brings.
#    For whoever looks after this machine:
#      sudo apt-get install qemu-system-arm
person 'For whoever looks after this machine, step 7: Install QEMU for the buoy'\''s processor.' '    sudo apt-get install qemu-system-arm'

# 8. Install the chip's debugger in a version that is >= 0.12. The package openocd of apt is 0.11.0-1, which does not do. How: https://driftbuoy.example/handbook/debugger (after that, most likely, recommended)
#    Settles the chip's debugger.

# 9. Nothing has to be changed any more: sign out completely and in again.
#    Settles hardware virtualization, the group for serial devices and cmake.

echo 'Now sign out completely and in again, then check again: setup-ready preflight --role firmware'
}
steps
