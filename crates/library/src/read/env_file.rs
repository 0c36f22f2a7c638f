/// The keys and values of a `.env`-style file, with the numbers of their lines. Quotes, `export`, blank lines and comments are understood;
/// nothing is expanded.
pub fn env_entries(text: &str) -> impl Iterator<Item = (usize, &str, String)> {
    text.lines().enumerate().filter_map(|(number, line)| {
        let line = line.trim_start_matches('\u{feff}').trim();
        let line = line.strip_prefix("export ").map_or(line, str::trim_start);
        let (name, value) = line.split_once('=').filter(|_| !line.starts_with('#'))?;
        Some((number + 1, name.trim_end(), unquoted(value.trim())))
    })
}

/// Whether a file has what only some of its readers pass over: line ends of Windows, or the mark that some editors put before a text.
pub fn is_of_another_system(text: &str) -> bool {
    text.starts_with('\u{feff}') || text.contains("\r\n")
}

/// The value of a key in a `.env`-style file, with the number of its line; the last one wins.
pub fn env_value(text: &str, key: &str) -> Option<(usize, String)> {
    env_entries(text).filter(|(_, name, _)| *name == key).last().map(|(number, _, value)| (number, value))
}

fn unquoted(value: &str) -> String {
    for quote in ['"', '\''] {
        if let Some(inner) = value.strip_prefix(quote) {
            return inner.split_once(quote).map_or(inner, |(inner, _)| inner).to_owned();
        }
    }
    // A comment starts at a hash behind a space, so that colours and addresses with a hash survive.
    value.split_once(" #").map_or(value, |(value, _)| value.trim_end()).to_owned()
}

#[cfg(test)]
mod tests {
    use super::env_value;
    use rstest::rstest;

    #[rstest]
    #[case::plain("SHORE_PORT=7070", Some("7070"))]
    #[case::exported("export SHORE_PORT=7071", Some("7071"))]
    #[case::quoted("SHORE_PORT = \"7072\" # the page", Some("7072"))]
    #[case::single_quotes("SHORE_PORT='70 73'", Some("70 73"))]
    #[case::a_comment_after("SHORE_PORT=7074 # the page", Some("7074"))]
    #[case::a_hash_inside("SHORE_PORT=#70", Some("#70"))]
    #[case::the_last_one_wins("SHORE_PORT=1\nSHORE_PORT=2\n", Some("2"))]
    #[case::set_to_nothing("SHORE_PORT=", Some(""))]
    #[case::commented_out("#SHORE_PORT=1", None)]
    #[case::another_key("MY_SHORE_PORT=1", None)]
    fn values_are_read_as_shells_do(#[case] text: &str, #[case] value: Option<&str>) {
        assert_eq!(env_value(text, "SHORE_PORT").map(|(_, value)| value).as_deref(), value);
    }
}
