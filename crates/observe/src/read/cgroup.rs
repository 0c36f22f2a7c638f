//! Control groups: which folders limit this process, and what their files say (kernel documentation, cgroup-v1 and cgroup-v2).

/// A folder of a control group that this process is in.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct CgroupFolder {
    /// The folder in the file system.
    pub folder: String,
    /// The group's path, for people.
    pub group: String,
    /// Version 2 of control groups.
    pub unified: bool,
}

/// The folders of this process's group for a controller and of all groups above it, from `/proc/self/cgroup` and `/proc/self/mountinfo`.
pub fn cgroup_folders(cgroup: &str, mountinfo: &str, controller: &str) -> Vec<CgroupFolder> {
    let mut folders = Vec::new();
    for line in cgroup.lines() {
        let mut parts = line.splitn(3, ':');
        let (Some(_), Some(controllers), Some(path)) = (parts.next(), parts.next(), parts.next()) else { continue };
        let unified = controllers.is_empty();
        if !unified && !controllers.split(',').any(|one| one == controller) {
            continue;
        }
        for (root, mount) in mounts(mountinfo, unified, controller) {
            // A container sees a part of the tree: the mount's root is where it begins.
            let below = if root == "/" { Some(path) } else { path.strip_prefix(root.as_str()) };
            let mut below = below.unwrap_or("").trim_end_matches('/');
            loop {
                let group = if below.is_empty() { "/".to_owned() } else { below.to_owned() };
                folders.push(CgroupFolder { folder: format!("{mount}{below}"), group, unified });
                match below.rsplit_once('/') {
                    Some((above, _)) => below = above,
                    None => break,
                }
            }
        }
    }
    folders
}

/// Root and mount point of each mount that has the controller (proc(5), mountinfo).
fn mounts(mountinfo: &str, unified: bool, controller: &str) -> Vec<(String, String)> {
    let read = |line: &str| {
        let (fields, source) = line.split_once(" - ")?;
        let mut source = source.split(' ');
        let (kind, options) = (source.next()?, source.nth(1)?);
        let fits = if unified { kind == "cgroup2" } else { kind == "cgroup" && options.split(',').any(|one| one == controller) };
        let mut fields = fields.split(' ').skip(3);
        fits.then(|| Some((fields.next()?.to_owned(), fields.next()?.to_owned())))?
    };
    mountinfo.lines().filter_map(read).collect()
}

/// A limit in bytes, from `memory.max` or `memory.limit_in_bytes`; none for "max" and for the number that means no limit.
pub fn memory_limit(text: &str) -> Option<u64> {
    // Version 1 says "no limit" with the largest multiple of a page.
    text.trim().parse().ok().filter(|limit| *limit < 1 << 60)
}

/// Hundredths of a core, from `cpu.max` ("150000 100000"); none for "max".
pub fn cpu_quota_v2(text: &str) -> Option<u64> {
    let (quota, period) = text.trim().split_once(' ')?;
    share(quota.parse().ok()?, period.parse().ok()?)
}

/// Hundredths of a core, from `cpu.cfs_quota_us` and `cpu.cfs_period_us`; none for -1.
pub fn cpu_quota_v1(quota: &str, period: &str) -> Option<u64> {
    share(quota.trim().parse().ok()?, period.trim().parse().ok()?)
}

fn share(quota: u64, period: u64) -> Option<u64> {
    quota.checked_mul(100)?.checked_div(period).filter(|share| *share > 0)
}

#[cfg(test)]
mod tests {
    use super::{cgroup_folders, cpu_quota_v1, cpu_quota_v2, memory_limit};

    #[test]
    fn every_group_above_counts() {
        let mountinfo = "29 23 0:26 / /sys/fs/cgroup rw shared:9 - cgroup2 cgroup2 rw,nsdelegate\n";
        let found = cgroup_folders("0::/user.slice/buoy.scope\n", mountinfo, "memory");
        let folders: Vec<&str> = found.iter().map(|one| one.folder.as_str()).collect();
        assert_eq!(folders, ["/sys/fs/cgroup/user.slice/buoy.scope", "/sys/fs/cgroup/user.slice", "/sys/fs/cgroup"]);
    }

    #[test]
    fn the_first_version_has_a_tree_for_each_controller() {
        let mountinfo = "33 25 0:28 / /sys/fs/cgroup/cpu rw - cgroup cgroup rw,cpu\n34 25 0:29 / /sys/fs/cgroup/memory rw - cgroup cgroup rw,memory\n";
        let found = cgroup_folders("4:memory:/box\n1:cpu:/\n0::/\n", mountinfo, "memory");
        let folders: Vec<&str> = found.iter().map(|one| one.folder.as_str()).collect();
        assert_eq!(folders, ["/sys/fs/cgroup/memory/box", "/sys/fs/cgroup/memory"]);
    }

    #[test]
    fn a_container_sees_its_own_part_of_the_tree() {
        let mountinfo = "33 25 0:28 /engine/abc /sys/fs/cgroup rw - cgroup2 cgroup rw\n";
        let found = cgroup_folders("0::/engine/abc/inner\n", mountinfo, "cpu");
        assert_eq!(found.first().map(|one| one.folder.as_str()), Some("/sys/fs/cgroup/inner"));
    }

    #[test]
    fn no_limit_is_no_limit() {
        assert_eq!(memory_limit("max\n"), None);
        assert_eq!(memory_limit("9223372036854771712\n"), None);
        assert_eq!(memory_limit("4294967296\n"), Some(4_294_967_296));
        assert_eq!(cpu_quota_v2("150000 100000\n"), Some(150));
        assert_eq!(cpu_quota_v2("max 100000\n"), None);
        assert_eq!(cpu_quota_v1("-1\n", "100000\n"), None);
        assert_eq!(cpu_quota_v1("50000\n", "100000\n"), Some(50));
    }
}
