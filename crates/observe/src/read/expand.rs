/// A text of the registry with its variables filled in: `%NAME%` (Microsoft's `ExpandEnvironmentStrings`). One that is not set stays as it is.
pub fn expanded(text: &str, variable: impl Fn(&str) -> Option<String>) -> String {
    let mut all = String::with_capacity(text.len());
    let mut rest = text;
    while let Some((before, behind)) = rest.split_once('%') {
        all.push_str(before);
        let filled = behind.split_once('%').and_then(|(name, after)| Some((variable(name)?, after)));
        let (value, after) = filled.unwrap_or_else(|| ("%".to_owned(), behind));
        all.push_str(&value);
        rest = after;
    }
    all.push_str(rest);
    all
}

#[cfg(test)]
mod tests {
    use super::expanded;
    use rstest::rstest;

    #[rstest]
    #[case::nothing_to_fill(r"C:\Windows", r"C:\Windows")]
    #[case::a_variable(r"%SystemRoot%\system32", r"C:\Windows\system32")]
    #[case::one_that_is_not_set(r"%BUOY%\bin;%SystemRoot%", r"%BUOY%\bin;C:\Windows")]
    #[case::a_sign_by_itself("100 % sure", "100 % sure")]
    #[case::two_signs("%%", "%%")]
    fn variables_are_filled_in(#[case] text: &str, #[case] expected: &str) {
        assert_eq!(expanded(text, |name| (name == "SystemRoot").then(|| r"C:\Windows".to_owned())), expected);
    }
}
