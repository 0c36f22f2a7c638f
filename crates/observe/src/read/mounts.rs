/// A mounted filesystem.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Mount {
    /// The folder where it is mounted.
    pub point: String,
    /// The kind of filesystem.
    pub kind: String,
    /// What is mounted: a device, or a name of the filesystem's own.
    pub source: String,
}

impl Mount {
    /// Whether it is a drive of Windows, shared with a Linux inside it (Microsoft's documentation of that).
    pub fn is_of_windows(&self) -> bool {
        matches!(self.kind.as_str(), "9p" | "drvfs" | "virtiofs")
    }

    /// What is the same for two mounts that take their room from one pool although their device numbers differ: subvolumes of Btrfs,
    /// datasets of ZFS.
    pub fn pool(&self) -> Option<String> {
        match self.kind.as_str() {
            "btrfs" => Some(format!("btrfs:{}", self.source)),
            "zfs" => Some(format!("zfs:{}", self.source.split('/').next().unwrap_or(&self.source))),
            _ => None,
        }
    }
}

/// The mount that holds an absolute path, from `/proc/self/mountinfo` (proc(5)); of several at one place, the one on top.
pub fn mount_of(mountinfo: &str, path: &str) -> Option<Mount> {
    let holds = |mount: &Mount| {
        let point = mount.point.trim_end_matches('/');
        path.strip_prefix(point).is_some_and(|rest| rest.is_empty() || rest.starts_with('/'))
    };
    mountinfo.lines().filter_map(mount).filter(holds).max_by_key(|mount| mount.point.len())
}

/// The mount of the Windows disk that most likely holds this Linux as a file, seen from a folder that lies in that file itself: the system's
/// drive. None from a folder that lies on the Windows side.
pub fn windows_disk(mountinfo: &str, folder: &str) -> Option<Mount> {
    let own = mount_of(mountinfo, folder)?;
    if own.is_of_windows() || own.kind == "tmpfs" {
        return None;
    }
    let is_system_drive =
        |mount: &Mount| mount.source.get(..2).is_some_and(|drive| drive.eq_ignore_ascii_case("c:")) || mount.point == "/mnt/c";
    mountinfo.lines().filter_map(mount).find(|mount| mount.is_of_windows() && is_system_drive(mount))
}

fn mount(line: &str) -> Option<Mount> {
    let (before, after) = line.split_once(" - ")?;
    let mut after = after.split(' ');
    let point = unescaped(before.split(' ').nth(4)?);
    Some(Mount { point, kind: after.next()?.to_owned(), source: unescaped(after.next()?) })
}

/// Spaces, tabs, line ends and backslashes are written as octal numbers.
fn unescaped(text: &str) -> String {
    [("\\040", " "), ("\\011", "\t"), ("\\012", "\n"), ("\\134", "\\")]
        .iter()
        .fold(text.to_owned(), |text, (code, plain)| text.replace(code, plain))
}

#[cfg(test)]
mod tests {
    use super::{mount_of, windows_disk};
    use rstest::rstest;

    const MOUNTS: &str = "22 1 0:20 /root / rw,relatime - btrfs /dev/sda2 rw,subvol=/root
30 22 0:20 /home /home rw - btrfs /dev/sda2 rw,subvol=/home
31 22 8:1 / /boot rw - ext4 /dev/sda1 rw
32 22 0:41 / /sea rw - zfs tank/charts/sea rw
33 22 0:42 / /my\\040charts rw - tmpfs tmpfs rw
34 22 8:17 / /boot rw master:1 - xfs /dev/sdb1 rw
";

    #[rstest]
    #[case::the_root("/usr/bin", "/", Some("btrfs:/dev/sda2"))]
    #[case::another_subvolume_of_the_same_disk("/home/skipper", "/home", Some("btrfs:/dev/sda2"))]
    #[case::a_dataset("/sea", "/sea", Some("zfs:tank"))]
    #[case::a_name_with_a_space("/my charts/north", "/my charts", None)]
    #[case::a_name_that_only_begins_alike("/seaside", "/", Some("btrfs:/dev/sda2"))]
    #[case::the_one_on_top("/boot/x", "/boot", None)]
    fn a_path_lies_on_the_nearest_mount(#[case] path: &str, #[case] point: &str, #[case] pool: Option<&str>) {
        let mount = mount_of(MOUNTS, path).unwrap();
        assert_eq!((mount.point.as_str(), mount.pool().as_deref()), (point, pool));
        assert!(point != "/boot" || mount.kind == "xfs");
    }

    const GUEST: &str = "90 70 8:32 / / rw,relatime - ext4 /dev/sdc rw,discard
110 90 0:50 / /mnt/c rw,noatime - 9p C:\\134 rw,dirsync,aname=drvfs;path=C:\\134;uid=1000;mmap
111 90 0:51 / /mnt/d rw,noatime - 9p D:\\134 rw,dirsync,aname=drvfs;path=D:\\134
112 90 0:52 / /run rw - tmpfs none rw
";

    #[rstest]
    #[case::from_the_home_folder(GUEST, "/home/skipper", Some("/mnt/c"))]
    #[case::from_the_windows_side(GUEST, "/mnt/c/Users/skipper", None)]
    #[case::from_memory(GUEST, "/run/x", None)]
    #[case::elsewhere(MOUNTS, "/home", None)]
    fn a_linux_inside_windows_lies_on_its_system_drive(#[case] mounts: &str, #[case] folder: &str, #[case] point: Option<&str>) {
        assert_eq!(windows_disk(mounts, folder).map(|mount| mount.point).as_deref(), point);
    }
}
