/// Whether a file that shells or sessions read when they start sets a variable: `NAME=`, `export NAME=`, `set -gx NAME` and their like.
pub fn sets_variable(text: &str, name: &str) -> bool {
    text.lines().map(str::trim).filter(|line| !line.starts_with('#')).any(|line| {
        // Several commands may stand on one line.
        line.split([';', '&']).map(str::trim).any(|command| {
            let mut words = command.split_whitespace();
            match words.next() {
                Some("export" | "declare" | "typeset") => {
                    words.any(|word| word.strip_prefix(name).is_some_and(|rest| rest.starts_with('=')))
                }
                Some("set") => words.find(|word| !word.starts_with('-')) == Some(name),
                Some("setenv") => words.next() == Some(name),
                Some(first) => first.strip_prefix(name).is_some_and(|rest| rest.starts_with('=')),
                None => false,
            }
        })
    })
}

#[cfg(test)]
mod tests {
    use super::sets_variable;
    use rstest::rstest;

    #[rstest]
    #[case::exported("export BUOY_REGION=north", true)]
    #[case::plain("  BUOY_REGION=\"north sea\"", true)]
    #[case::behind_another("export A=1 BUOY_REGION=north", true)]
    #[case::of_fish("set -gx BUOY_REGION north", true)]
    #[case::on_a_line_with_others("cd /; export BUOY_REGION=north", true)]
    #[case::commented_out("# export BUOY_REGION=north", false)]
    #[case::a_longer_name("export BUOY_REGION_2=north", false)]
    #[case::only_used("echo $BUOY_REGION", false)]
    #[case::taken_away("unset BUOY_REGION", false)]
    fn files_that_set_a_variable_are_known(#[case] line: &str, #[case] sets: bool) {
        assert_eq!(sets_variable(&format!("# first\n{line}\n"), "BUOY_REGION"), sets);
    }
}
