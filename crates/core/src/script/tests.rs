use super::script;
use crate::guide;
use crate::prelude::*;
use rstest::rstest;

fn line(subject: &str) -> String {
    let guide = guide::parse(&format!("format = 1\n[project]\nname = \"X\"\n[require.x]\n{subject}\n")).unwrap();
    let text = script(&guide);
    let line = text.lines().find(|line| line.starts_with("want x ")).unwrap_or_default();
    line.split_once("&& ").map(|(_, check)| check.to_owned()).unwrap_or_default()
}

#[rstest]
#[case::a_tool("tool = \"cmake\"\nversion = \">= 3.25, < 5\"", "tool 'cmake' '>= 3.25, < 5' --version")]
#[case::a_tool_whose_output_needs_a_pattern("tool = \"pip3\"\nversion = \">= 3\"\npattern = \"([0-9.]+)\"", "tool 'pip3' '>= 3'")]
#[case::a_quote_in_a_path("file = \"it's\"", "path file 'it'\\''s' '' ''")]
#[case::the_home_folder("folder = \"~/a b\"", "path folder \"$HOME\"'/a b' '' ''")]
#[case::a_literal_in_a_file("file = \"a\"\ncontains = \"MODE=fast\"", "path file 'a' '' '' 'MODE=fast'")]
#[case::a_pattern_in_a_file("file = \"a\"\ncontains = \"MODE=.*\"", "path file 'a' '' 'more'")]
#[case::a_shape_that_awk_knows("variable = \"A\"\nmatches = \"^(north|south)$\"", "variable A '' '^(north|south)$' ''")]
#[case::a_shape_that_it_does_not("variable = \"A\"\nmatches = \"^\\\\d+$\"", "variable A '' '' 'more'")]
#[case::a_port_that_may_be_moved("port = 7070\nset_by = { variable = \"PORT\" }", "port tcp '' \"$(moved PORT '' 7070)\"")]
#[case::a_command_is_never_run("command = [\"make\", \"check\"]", "only 'command make check'")]
fn each_requirement_is_one_line(#[case] subject: &str, #[case] wanted: &str) {
    assert_eq!(line(subject), wanted);
}

#[test]
fn no_kind_takes_more_than_its_share_of_a_readers_time() {
    for part in [
        super::Part::Tool,
        super::Part::System,
        super::Part::Disk,
        super::Part::Memory,
        super::Part::Cores,
        super::Part::Path,
        super::Part::Variable,
        super::Part::Port,
    ] {
        let lines: Vec<&str> = part.text().lines().collect();
        let mut from = 0;
        for (at, line) in lines.iter().enumerate() {
            if line.ends_with("() {") {
                from = at;
            }
            assert!(*line != "}" || at - from <= 25, "{part:?} has a function of {} lines", at - from);
        }
    }
}
