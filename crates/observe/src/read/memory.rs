/// Total and available memory in bytes, from `/proc/meminfo` (proc(5)); none where a line is missing or unreadable.
pub fn meminfo(text: &str) -> (Option<u64>, Option<u64>) {
    (meminfo_of(text, "MemTotal"), meminfo_of(text, "MemAvailable"))
}

/// One of its lines, in bytes.
pub fn meminfo_of(text: &str, key: &str) -> Option<u64> {
    let value = text.lines().find_map(|line| line.strip_prefix(key)?.strip_prefix(':'))?;
    let kibibytes: u64 = value.trim().strip_suffix("kB")?.trim().parse().ok()?;
    kibibytes.checked_mul(1024)
}

#[cfg(test)]
mod tests {
    #[test]
    fn kilobytes_there_are_of_1024_bytes() {
        let text = "MemTotal:       24683656 kB\nMemFree:        23000000 kB\nMemAvailable:   24000000 kB\n";
        assert_eq!(super::meminfo(text), (Some(24_683_656 * 1024), Some(24_000_000 * 1024)));
        assert_eq!(super::meminfo("MemTotal: much\n"), (None, None));
    }
}
