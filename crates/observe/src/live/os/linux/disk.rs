use crate::live::os::Share;
use crate::read::{mount_of, windows_disk};
use nix::sys::quota::{QuotaType, quotactl_get};
use rustix::fs::StatVfsMountFlags;
use rustix::process::geteuid;
use std::fs::read_to_string;
use std::path::Path;

/// How the filesystem of a folder is shared with others, and with other users.
pub(in crate::live) fn share(folder: &Path) -> Share {
    let mounts = read_to_string("/proc/self/mountinfo").unwrap_or_default();
    let Some(mount) = mount_of(&mounts, &folder.to_string_lossy()) else { return Share::default() };
    let quota = if mount.source.starts_with("/dev/") { quota(&mount.source) } else { None };
    let outside = if super::is_inside_windows() == Some(true) { windows_disk(&mounts, &folder.to_string_lossy()) } else { None };
    Share { pool: mount.pool(), quota, outside: outside.map(|mount| mount.point) }
}

/// The room that this user's quota on a device leaves (quotactl(2)); none where there are no quotas.
fn quota(device: &str) -> Option<(Option<u64>, Option<u64>)> {
    let user = i32::try_from(geteuid().as_raw()).ok()?;
    let quota = quotactl_get(QuotaType::USRQUOTA, device, user).ok()?;
    // Limits are in blocks of 1024 bytes whatever the filesystem's own are; zero is no limit. The soft one may be passed for some days.
    let limit = |hard: Option<u64>, soft: Option<u64>| [hard, soft].into_iter().flatten().find(|limit| *limit > 0);
    let bytes = limit(quota.blocks_hard_limit(), quota.blocks_soft_limit())
        .map(|limit| limit.saturating_mul(1_024).saturating_sub(quota.occupied_space().unwrap_or(0)));
    let files = limit(quota.inodes_hard_limit(), quota.inodes_soft_limit())
        .map(|limit| limit.saturating_sub(quota.allocated_inodes().unwrap_or(0)));
    (bytes.is_some() || files.is_some()).then_some((bytes, files))
}

/// Whether a filesystem with these flags lets nothing on it be executed (statvfs(3)).
pub(in crate::live) fn forbids_execution(flags: StatVfsMountFlags) -> bool {
    flags.contains(StatVfsMountFlags::NOEXEC)
}
