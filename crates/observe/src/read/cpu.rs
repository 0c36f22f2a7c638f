/// Whether the processor's flags in `/proc/cpuinfo` hold one of `wanted`; none where there are no flags.
pub fn cpuinfo_flags(text: &str, wanted: &[&str]) -> Option<bool> {
    let flags = text.lines().find_map(|line| line.strip_prefix("flags")?.trim_start().strip_prefix(':'))?;
    Some(flags.split_whitespace().any(|flag| wanted.contains(&flag)))
}

/// How many processors a list such as `0-3,8` names (`/sys/devices/system/cpu/online`); none where it cannot be read.
pub fn count_online(text: &str) -> Option<u64> {
    let mut count: u64 = 0;
    for part in text.trim().split(',') {
        let (first, last) = part.split_once('-').unwrap_or((part, part));
        let (first, last): (u64, u64) = (first.parse().ok()?, last.parse().ok()?);
        count = count.checked_add(last.checked_sub(first)?)?.checked_add(1)?;
    }
    Some(count)
}

#[cfg(test)]
mod tests {
    use super::{count_online, cpuinfo_flags};

    #[test]
    fn whole_words_are_flags() {
        let text = "processor\t: 0\nflags\t\t: fpu vmx_like svm hypervisor\n";
        assert_eq!(cpuinfo_flags(text, &["vmx"]), Some(false));
        assert_eq!(cpuinfo_flags(text, &["vmx", "svm"]), Some(true));
        assert_eq!(cpuinfo_flags("processor: 0\n", &["vmx"]), None);
    }

    #[test]
    fn ranges_of_processors_are_counted() {
        assert_eq!(count_online("0-3,8\n"), Some(5));
        assert_eq!(count_online("0\n"), Some(1));
        assert_eq!(count_online("3-1"), None);
    }
}
