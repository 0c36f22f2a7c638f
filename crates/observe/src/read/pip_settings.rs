/// Settings of pip that take any text.
const TEXTS: [&str; 10] = [
    "cache-dir",
    "cert",
    "client-cert",
    "extra-index-url",
    "find-links",
    "index",
    "index-url",
    "proxy",
    "root-user-action",
    "trusted-host",
];
/// Settings that are on or off; pip refuses any other word.
const SWITCHES: [&str; 6] =
    ["break-system-packages", "disable-pip-version-check", "no-cache-dir", "no-color", "no-index", "prefer-binary"];
const NUMBERS: [&str; 3] = ["default-timeout", "retries", "timeout"];
const WORDS_OF_SWITCHES: [&str; 12] = ["0", "1", "true", "false", "yes", "no", "on", "off", "y", "n", "t", "f"];

/// Whether a setting of pip, by its name in a file or behind `PIP_` in a variable, changes nothing for a pip that is asked for its version (the manual of pip,
/// "Configuration"): it neither hands on to another interpreter nor stops because of it.
pub fn is_plain_pip_setting(name: &str, value: &str) -> bool {
    let name = name.trim().to_ascii_lowercase().replace('_', "-");
    let value = value.trim();
    if SWITCHES.contains(&name.as_str()) {
        return WORDS_OF_SWITCHES.contains(&value.to_ascii_lowercase().as_str());
    }
    if NUMBERS.contains(&name.as_str()) {
        return !value.is_empty() && value.len() < 10 && value.bytes().all(|byte| byte.is_ascii_digit());
    }
    TEXTS.contains(&name.as_str())
}

/// The same for all settings of a file of pip's.
pub fn are_plain_pip_settings(text: &str) -> bool {
    let mut in_section = false;
    let mut last_takes_text = false;
    text.lines().all(|line| {
        let plain = line.trim();
        if plain.is_empty() || plain.starts_with(['#', ';']) {
            return true;
        }
        if line.starts_with([' ', '\t']) {
            return last_takes_text;
        }
        if let Some(rest) = plain.strip_prefix('[') {
            in_section = rest.strip_suffix(']').is_some_and(|name| !name.is_empty() && !name.contains(['[', ']']));
            return in_section;
        }
        let Some((name, value)) = plain.split_once(['=', ':']) else { return false };
        last_takes_text = TEXTS.contains(&name.trim().to_ascii_lowercase().replace('_', "-").as_str());
        // What is put in from elsewhere in the file may be anything.
        in_section && !value.contains('%') && is_plain_pip_setting(name, value)
    })
}

#[cfg(test)]
mod tests {
    use super::{are_plain_pip_settings, is_plain_pip_setting};
    use rstest::rstest;

    #[rstest]
    #[case::an_index("[global]\nindex-url = https://pypi.driftbuoy.example/simple\n# for all\ntimeout = 60\n", true)]
    #[case::two_hosts("[global]\ntrusted-host =\n  one.example\n  two.example\n", true)]
    #[case::another_interpreter("[global]\npython = /opt/python\n", false)]
    #[case::a_switch_that_is_none("[global]\nno-cache-dir = perhaps\n", false)]
    #[case::a_section_that_does_not_end("[global\n", false)]
    #[case::no_section("timeout = 60\n", false)]
    #[case::prose("[global]\nhello\n", false)]
    fn plain_settings_are_told_from_those_that_matter(#[case] text: &str, #[case] plain: bool) {
        assert_eq!(are_plain_pip_settings(text), plain);
        assert!(is_plain_pip_setting("NO_CACHE_DIR", "1") && !is_plain_pip_setting("PYTHON", "/x"));
    }
}
