# Boots the system's service manager in the throwaway root, with processes, mounts and control groups of its own. Its number is in /run/init: who
# signs in enters there, since it takes orders only from processes that it can see.
cat > /run/boot << 'BOOT'
mkdir -p /run/pts
mount --bind /dev/pts /run/pts
mount -t tmpfs -o mode=755 none /dev
mkdir /dev/pts
mount --bind /run/pts /dev/pts
for node in 'null 3' 'zero 5' 'full 7' 'random 8' 'urandom 9'; do
  set -- $node
  mknod -m 666 "/dev/$1" c 1 "$2"
done
mknod -m 666 /dev/tty c 5 0
mknod -m 666 /dev/ptmx c 5 2
mkdir -p /sys/fs/cgroup
mount -t cgroup2 none /sys/fs/cgroup
exec env -i container=throwaway PATH="$PATH" /lib/systemd/systemd --system --unit=basic.target --log-target=null --show-status=0
BOOT
setsid unshare --mount --pid --cgroup --fork --kill-child --mount-proc sh /run/boot > /run/boot.log 2>&1 < /dev/null &
for try in $(seq 200); do
  pgrep -n -f 'systemd --system' > /run/init || true
  [ -S /run/dbus/system_bus_socket ] && [ -S /run/systemd/private ] && break
  sleep 0.1
done
