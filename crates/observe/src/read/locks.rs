/// Who holds a lock on the file with this inode, from Linux's list of locks (`proc_locks(5)`): number, sort, way, access, process, device and inode, and the
/// range. A device is `major:minor` in hexadecimal digits.
pub fn holder_of_lock(text: &str, (major, minor): (u32, u32), inode: u64) -> Option<u32> {
    let wanted = format!("{major:02x}:{minor:02x}:{inode}");
    text.lines().find_map(|line| {
        let mut words = line.split_whitespace().skip(1);
        // Who only waits for it has an arrow before the sort.
        let (sort, process, file) = (words.next()?, words.nth(2)?, words.next()?);
        (sort != "->" && file == wanted).then(|| process.parse().ok())?
    })
}

#[cfg(test)]
mod tests {
    use super::holder_of_lock;
    use rstest::rstest;

    const LOCKS: &str = "1: POSIX  ADVISORY  WRITE 812 fe:00:1234 0 EOF\n2: FLOCK  ADVISORY  WRITE 4711 00:1a:77 0 EOF\n2: -> FLOCK  ADVISORY  WRITE 4712 00:1a:77 0 EOF\n";

    #[rstest]
    #[case::held((0, 0x1a), 77, Some(4711))]
    #[case::of_another_file((0xfe, 0), 77, None)]
    #[case::by_a_range((0xfe, 0), 1234, Some(812))]
    fn a_lock_has_a_holder(#[case] device: (u32, u32), #[case] inode: u64, #[case] holder: Option<u32>) {
        assert_eq!(holder_of_lock(LOCKS, device, inode), holder);
        assert_eq!(holder_of_lock("no list\n1: FLOCK", device, inode), None);
    }
}
