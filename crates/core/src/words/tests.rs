use crate::observation::RunEnd;
use crate::testing::{debian, find, program};
use rstest::rstest;

#[rstest]
#[case::the_stricter_of_two(">= 3.25, >= 4", "3.26.1", "buoyc 3.26.1 is older than 4, which this project needs.")]
#[case::the_nearer_of_two_that_would_do(">= 20 || >= 18", "17", "buoyc 17 is older than 18, which this project needs.")]
#[case::not_older_and_still_too_old("> 4", "4", "buoyc 4 is not newer than 4, which this project needs it to be.")]
#[case::too_new("< 5 || < 7", "7.1", "buoyc 7.1 is too new: this project works with < 5 || < 7.")]
#[case::in_a_gap("< 5 || >= 7", "6", "buoyc 6 is ruled out: this project works with < 5 || >= 7.")]
fn what_is_said_of_a_version_is_true(#[case] range: &str, #[case] version: &str, #[case] message: &str) {
    let mut script = debian();
    program(&mut script, "/usr/bin/buoyc", RunEnd::Exit(0), &std::format!("buoyc {version}"));
    assert_eq!(find(&std::format!("tool = \"buoyc\"\nversion = \"{range}\""), &script).message, message);
}

#[rstest]
#[case::the_processor_and_not_the_version("tool = \"buoyc\"\nversion = \">= 1\"\narch = \"aarch64\"", Some("built for aarch64"))]
#[case::nothing_that_is_not_asked_for("tool = \"buoyx\"", None)]
#[case::the_version("tool = \"buoyx\"\nversion = \">= 1\"", Some(">= 1"))]
fn what_is_wanted_is_wanted_of_what_failed(#[case] body: &str, #[case] wanted: Option<&str>) {
    use crate::observation::{FileKind, Observation, ProgramCopy};
    let mut script = debian();
    program(&mut script, "/usr/bin/buoyc", RunEnd::Exit(0), "buoyc 1.2");
    let copy = ProgramCopy { kind: FileKind::Built(std::vec!["x86_64".into()]), ..crate::testing::copy("/usr/bin/buoyc") };
    script.insert(crate::probe::Probe::Program { name: "buoyc".into() }, Observation::Program(std::vec![copy]));
    assert_eq!(find(body, &script).wanted.as_deref(), wanted);
}
