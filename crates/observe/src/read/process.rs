/// How a process was started, from `/proc/PID/cmdline` (proc(5)): its program, and the script or subcommand that follows at once. What
/// comes later may hold secrets and is not kept.
pub fn started_as(line: &[u8]) -> Option<String> {
    let mut words = line.split(|byte| *byte == 0).map(String::from_utf8_lossy).filter(|word| !word.is_empty());
    let program = words.next()?.into_owned();
    // Some programs write a sentence of their own there.
    if program.contains(' ') && !program.starts_with('/') {
        return None;
    }
    let tells = |word: &str| !word.starts_with('-') && !word.contains(['=', ':', '@', ' ']) && word.len() < 200;
    Some(match words.next().filter(|word| tells(word)) {
        Some(second) => format!("{program} {second}"),
        None => program,
    })
}

/// Whether a number is in a list such as `80,3000-3010` (the form of the kernel's lists of ports).
pub fn is_in_ranges(text: &str, number: u16) -> bool {
    text.split([',', '\n'])
        .filter_map(|part| {
            let (first, last) = part.trim().split_once('-').unwrap_or((part.trim(), part.trim()));
            Some(first.parse::<u16>().ok()?..=last.parse::<u16>().ok()?)
        })
        .any(|range| range.contains(&number))
}

#[cfg(test)]
mod tests {
    use super::{is_in_ranges, started_as};
    use rstest::rstest;

    #[rstest]
    #[case::a_script(b"node\0/srv/shore/server.js\0--port\x007070\0", Some("node /srv/shore/server.js"))]
    #[case::an_option_first(b"/usr/bin/python3\0-m\0http.server\0", Some("/usr/bin/python3"))]
    #[case::a_secret(b"broker\0password=hunter2\0", Some("broker"))]
    #[case::a_sentence(b"shore: worker 3 of 8\0", None)]
    #[case::a_kernel_thread(b"", None)]
    fn a_process_is_told_by_how_it_was_started(#[case] line: &[u8], #[case] told: Option<&str>) {
        assert_eq!(started_as(line).as_deref(), told);
    }

    #[rstest]
    #[case::alone("80,3000-3010\n", 80, true)]
    #[case::inside("80,3000-3010\n", 3005, true)]
    #[case::outside("80,3000-3010\n", 3011, false)]
    #[case::nothing("\n", 80, false)]
    fn a_number_is_found_in_ranges(#[case] list: &str, #[case] number: u16, #[case] holds: bool) {
        assert_eq!(is_in_ranges(list, number), holds);
    }
}
