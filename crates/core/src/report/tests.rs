use super::{MachineSource, Outcome, Report, ReportMetadata};
use crate::observation::{CoreState, Observation, RunEnd};
use crate::prelude::*;
use crate::probe::Probe;
use crate::selection::Selection;
use crate::testing::{debian, drive, guide, program};
use rstest::rstest;

fn outcome(body: &str) -> (Outcome, [usize; 5]) {
    let mut script = debian();
    script.insert(Probe::Cores, Observation::Cores(CoreState { online: 2, caps: Vec::new() }));
    program(&mut script, "/usr/bin/good", RunEnd::Exit(0), "good 1.0");
    let guide = guide(body);
    let finished = drive(&guide, &script, Selection::default(), |_| 0);
    let frame = ReportMetadata {
        software: "0".into(),
        guide_path: None,
        guide_sha256: None,
        source: MachineSource::Described,
        machine_name: None,
        started: String::new(),
        elapsed_ms: 0,
        interrupted: false,
        id: None,
    };
    let report = Report::new(None, frame, finished);
    let counts = report.counts();
    (report.outcome(), [counts.met, counts.unmet, counts.unknown, counts.blocked, counts.skipped])
}

#[rstest]
#[case::all_met("[require.a]\ncores = 1\n[require.b]\ntool = \"good\"\n", Outcome::Ready, [2, 0, 0, 0, 0])]
#[case::a_must_unmet("[require.a]\ncores = 1\n[require.b]\ntool = \"bad\"\n", Outcome::NotReady, [1, 1, 0, 0, 0])]
#[case::only_a_should_unmet("[require.a]\ncores = 1\n[require.b]\ntool = \"bad\"\nlevel = \"should\"\n", Outcome::Ready, [1, 1, 0, 0, 0])]
#[case::a_must_unknown("[require.a]\ncores = 1\n[require.b]\nmemory = \"1 GB\"\n", Outcome::Undecided, [1, 0, 1, 0, 0])]
#[case::unmet_outweighs_unknown("[require.a]\ncores = 9\n[require.b]\nmemory = \"1 GB\"\n", Outcome::NotReady, [0, 1, 1, 0, 0])]
#[case::a_may_unknown("[require.a]\nmemory = \"1 GB\"\nlevel = \"may\"\n", Outcome::Ready, [0, 0, 1, 0, 0])]
#[case::a_must_behind_an_unmet_should("[require.a]\ntool = \"bad\"\nlevel = \"should\"\n[require.b]\ncores = 1\nafter = [\"a\"]\n", Outcome::NotReady, [0, 1, 0, 1, 0])]
#[case::a_must_behind_an_unknown_should("[require.a]\nmemory = \"1 GB\"\nlevel = \"should\"\n[require.b]\ncores = 1\nafter = [\"a\"]\n", Outcome::Undecided, [0, 0, 1, 1, 0])]
#[case::what_does_not_apply_is_no_obstacle("[require.a]\ncores = 9\nwhen = \"windows\"\n[require.b]\ncores = 1\nafter = [\"a\"]\n", Outcome::Ready, [1, 0, 0, 0, 1])]
fn the_outcome_is_decided_by_the_musts(#[case] body: &str, #[case] expected: Outcome, #[case] counts: [usize; 5]) {
    assert_eq!(outcome(body), (expected, counts));
}
