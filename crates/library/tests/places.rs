//! Work that goes on in more than one place: what is *ready*, what is only *ready here*, and what a report from elsewhere adds to it.

use build_setup_ready::{Described, Preflight};
use rstest::rstest;
use setup_ready_core::elsewhere::PlaceReport;
use setup_ready_core::finding::Verdict;
use setup_ready_core::guide::{self, Guide};
use setup_ready_core::report::{Outcome, Report};
use setup_ready_core::selection::Selection;

const WINDOWS: &str = "[system]\nos = \"windows\"\nversion = \"10.0.22631\"\n";
const INSIDE: &str = "[system]\nos = \"linux\"\nversion = \"6.1\"\nflags = [\"wsl\", \"virtual-machine\"]\n";
const LINUX: &str = "[system]\nos = \"linux\"\nversion = \"6.1\"\n";
const MACHINE: &str = "[[file]]\npath = \"anywhere\"\n[[file]]\npath = \"there\"\n";

/// Without a `when`, the Linux inside Windows: outside of it is Windows, and a plain Linux is neither.
const GUEST: &str = "enter = \"wsl\"\n";
/// Where it does not hold, one is outside.
const ANY: &str = "when = \"container\"\n";
/// What nobody can find out.
const UNCLEAR: &str = "when = \"distro == debian\"\n";

fn guide_of(place: &str) -> Guide {
    let head = "format = 1\n[project]\nname = \"Driftbuoy\"\n";
    let text = format!(
        "{head}[place.guest]\n{place}[require.anywhere]\nfile = \"anywhere\"\n[require.there]\nfile = \"there\"\nplace = \"guest\"\n\
         [require.nice]\nfile = \"nice\"\nlevel = \"should\"\n"
    );
    guide::parse(&text).unwrap_or_else(|problems| panic!("{problems:?}"))
}

fn report(place: &str, machine: &str, said: Option<usize>, told: Option<PlaceReport>) -> Report {
    let machine = Described::parse(&format!("format = 1\n[machine]\nname = \"desk\"\n{machine}{MACHINE}")).unwrap();
    let selection = Selection { place: said, ..Selection::default() };
    let preflight = told.into_iter().fold(Preflight::new(guide_of(place)).select(selection), Preflight::with);
    preflight.run(&machine).unwrap()
}

#[rstest]
#[case::outside(GUEST, WINDOWS, None, Outcome::ReadyHere)]
#[case::inside(GUEST, INSIDE, None, Outcome::Ready)]
#[case::where_there_is_no_such_place(GUEST, LINUX, None, Outcome::Ready)]
#[case::outside_by_what_was_said(GUEST, INSIDE, Some(7), Outcome::ReadyHere)]
#[case::inside_by_what_was_said(GUEST, WINDOWS, Some(0), Outcome::Ready)]
#[case::wherever_it_does_not_hold(ANY, LINUX, None, Outcome::ReadyHere)]
#[case::where_it_cannot_be_found_out(UNCLEAR, LINUX, None, Outcome::Undecided)]
#[case::outside_by_a_condition_of_its_own("when = \"wsl\"\noutside = \"not ci\"\n", LINUX, None, Outcome::ReadyHere)]
fn ready_here_is_not_ready(#[case] place: &str, #[case] machine: &str, #[case] said: Option<usize>, #[case] outcome: Outcome) {
    let report = report(place, machine, said, None);
    assert_eq!(report.outcome(), outcome);
    let remaining: Vec<usize> = report.other_places().iter().map(|one| one.remaining.len()).collect();
    assert_eq!(remaining, if outcome == Outcome::ReadyHere { vec![1] } else { Vec::new() });
}

/// What was told of the three requirements, in their order.
#[rstest]
#[case::all_is_met([Some(Verdict::Met), Some(Verdict::Met), Some(Verdict::Met)], Outcome::Ready)]
#[case::what_belongs_there_is_not([Some(Verdict::Met), Some(Verdict::Unmet), None], Outcome::NotReady)]
#[case::what_belongs_everywhere_is_not([Some(Verdict::Unmet), Some(Verdict::Met), None], Outcome::NotReady)]
#[case::what_is_not_needed_is_not([Some(Verdict::Met), Some(Verdict::Met), Some(Verdict::Unmet)], Outcome::Ready)]
#[case::something_is_unknown([Some(Verdict::Unknown), Some(Verdict::Met), None], Outcome::Undecided)]
#[case::something_waits([Some(Verdict::Met), Some(Verdict::Blocked), None], Outcome::Undecided)]
#[case::what_belongs_there_was_left_out([Some(Verdict::Met), None, None], Outcome::ReadyHere)]
#[case::nothing_is_told([None, None, None], Outcome::ReadyHere)]
fn what_is_told_of_another_place_counts_besides(#[case] told: [Option<Verdict>; 3], #[case] outcome: Outcome) {
    let verdicts = told.into_iter().enumerate().filter_map(|(index, verdict)| Some((index, verdict?)));
    let report = report(GUEST, WINDOWS, None, Some(PlaceReport::new(0, verdicts, None)));
    assert_eq!(report.outcome(), outcome);
}

#[test]
fn what_is_not_met_here_is_not_mended_by_what_is_told() {
    let text = "format = 1\n[machine]\nname = \"desk\"\n".to_owned() + WINDOWS;
    let all = (0..3).map(|index| (index, Verdict::Met));
    let report =
        Preflight::new(guide_of(GUEST)).with(PlaceReport::new(0, all, None)).run(&Described::parse(&text).unwrap()).unwrap();
    assert_eq!(report.outcome(), Outcome::NotReady);
}

#[rstest]
#[case::a_report_that_is_none("{", "it is not a report")]
#[case::a_list("[1]", "it is not a report")]
#[case::another_guide(r#"{"requirements": [], "guide": {"sha256": "b"}, "place": "guest"}"#, "another guide")]
#[case::no_guide(r#"{"requirements": [], "place": "guest"}"#, "another guide")]
#[case::no_place(r#"{"requirements": [], "guide": {"sha256": "a"}}"#, "in no place of the guide")]
#[case::another_place(r#"{"requirements": [], "guide": {"sha256": "a"}, "place": "far"}"#, "in `far`")]
fn only_a_report_of_this_guide_and_place_is_taken_along(#[case] text: &str, #[case] words: &str) {
    let error = build_setup_ready::told(text, (&guide_of(GUEST), "a"), 0).unwrap_err().to_string();
    assert!(error.contains(words), "{error}");
}

#[test]
fn of_a_report_the_verdicts_count_and_nothing_else() {
    let text = r#"{"guide": {"sha256": "a"}, "place": "guest", "started": "2026-11-26T20:00:00Z", "outcome": "ready", "requirements": [
        {"id": "anywhere", "verdict": "met"}, {"id": "there", "verdict": "skipped", "facts": {"left_out": "role"}},
        {"id": "nice", "verdict": "splendid"}, {"id": "no-such", "verdict": "unmet"}, {"verdict": "unmet"}, 7]}"#;
    let told = build_setup_ready::told(text, (&guide_of(GUEST), "a"), 0).unwrap();
    assert_eq!(told.verdicts.into_iter().collect::<Vec<_>>(), [(0, Verdict::Met)]);
    assert_eq!(told.started.as_deref(), Some("2026-11-26T20:00:00Z"));
}
