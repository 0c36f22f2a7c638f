//! Programs that are never started to ask for their version: some of them act on any argument.

/// What stops the machine, ends programs, formats or erases disks, removes files or changes accounts; in ascending order.
const NEVER_STARTED: [&str; 66] = [
    "adduser",
    "badblocks",
    "blkdiscard",
    "cfdisk",
    "chpasswd",
    "cryptsetup",
    "dd",
    "deltree",
    "deluser",
    "diskpart",
    "diskutil",
    "fdisk",
    "format",
    "fsck",
    "gdisk",
    "groupdel",
    "halt",
    "hdparm",
    "init",
    "kexec",
    "kill",
    "killall",
    "killall5",
    "logoff",
    "losetup",
    "lvremove",
    "mkdosfs",
    "mke2fs",
    "mkfs",
    "mkswap",
    "parted",
    "passwd",
    "pkill",
    "poweroff",
    "pvremove",
    "rd",
    "reboot",
    "resize2fs",
    "rm",
    "rmdir",
    "runlevel",
    "setsid",
    "sfdisk",
    "sgdisk",
    "shred",
    "shutdown",
    "skill",
    "slay",
    "snice",
    "swapoff",
    "switch_root",
    "taskkill",
    "telinit",
    "truncate",
    "tsshutdn",
    "tune2fs",
    "umount",
    "unlink",
    "useradd",
    "userdel",
    "usermod",
    "vgremove",
    "vigr",
    "vipw",
    "wipe",
    "wipefs",
];

/// Whether a program of this name may do harm when it is started, whatever it is asked.
pub fn is_never_started(name: &str) -> bool {
    let name = name.to_ascii_lowercase();
    let name = name.strip_suffix(".exe").unwrap_or(&name);
    // One for each filesystem: `mkfs.ext4`, `fsck.fat`.
    let stem = name.split('.').next().unwrap_or_default();
    [name, stem].iter().any(|name| NEVER_STARTED.binary_search(name).is_ok())
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_acts_is_known_by_its_name_with_and_without_endings() {
        assert!(NEVER_STARTED.is_sorted());
        assert!(["reboot", "mkfs.ext4", "Shutdown.EXE", "kill"].into_iter().all(is_never_started));
        assert!(["cmake", "node", "killer", "format-all"].into_iter().all(|name| !is_never_started(name)));
    }
}
