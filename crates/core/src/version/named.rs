//! Programs that have their version in their name.

use super::Version;

/// The version behind a program's name in the name of a file: `3.12` of `python3.12` or `python-3.12`, where `python` is asked for. None where the rest
/// of the name is anything else.
pub fn number_behind(file: &str, name: &str) -> Option<Version> {
    let rest = file.strip_prefix(name)?;
    // Behind a digit a number would only go on: `python3` is no version 3 of `python`, but `python3.12` is no `python31`.
    let number = rest.strip_prefix('-').unwrap_or(rest);
    let digits = number.contains(|c: char| c.is_ascii_digit()) && number.chars().all(|c| c.is_ascii_digit() || c == '.');
    let goes_on = name.ends_with(|c: char| c.is_ascii_digit()) && !rest.starts_with(['-', '.']);
    if !digits || goes_on || number.ends_with('.') {
        return None;
    }
    if !rest.starts_with('.') {
        return Version::parse(number).ok();
    }
    // `python3.12` beside `python3`: the whole of it is the version.
    let stem = name.trim_end_matches(|c: char| c.is_ascii_digit() || c == '.');
    Version::parse(file.strip_prefix(stem)?).ok()
}

#[cfg(test)]
mod tests {
    use super::{Version, number_behind};
    use rstest::rstest;

    #[rstest]
    #[case::directly_behind("python", "python3.12", Some("3.12"))]
    #[case::behind_a_hyphen("gcc", "gcc-13", Some("13"))]
    #[case::further_than_the_names_own("python3", "python3.12", Some("3.12"))]
    #[case::the_name_alone("python3", "python3", None)]
    #[case::another_number("python3", "python31", None)]
    #[case::another_name("go", "gofmt", None)]
    #[case::a_word_behind("clang", "clang-format-14", None)]
    #[case::a_point_at_the_end("node", "node20.", None)]
    fn a_version_in_a_name(#[case] name: &str, #[case] file: &str, #[case] number: Option<&str>) {
        assert_eq!(number_behind(file, name).as_ref().map(Version::text), number);
    }
}
