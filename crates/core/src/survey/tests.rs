use super::{Changed, Dimension, Entry, Moment, Row, Tally, WhatIf, week};
use crate::guide::Level;
use crate::prelude::*;
use crate::report::Outcome;
use crate::verdict::Verdict;
use proptest::prelude::*;
use rstest::rstest;

fn entry(id: Option<&str>, day: u32, system: &str, cmake: &str, met: bool) -> Entry<'static> {
    let row = Row {
        id: "cmake".into(),
        kind: "tool".into(),
        level: Level::Must,
        verdict: if met { Verdict::Met } else { Verdict::Unmet },
        cause: (!met).then(|| "tool-too-old".into()),
        found: Some(cmake.to_owned().into()),
        fix: (!met).then(|| "Install a newer one.".into()),
    };
    Entry {
        project: "Driftbuoy".into(),
        guide: None,
        id: id.map(|id| id.to_owned().into()),
        started: format!("2026-11-{day:02}T10:00:00Z").into(),
        os: Some(system.to_owned().into()),
        distro: None,
        distro_version: None,
        arch: None,
        role: None,
        outcome: if met { Outcome::Ready } else { Outcome::NotReady },
        in_part: false,
        elsewhere: false,
        requirements: vec![row],
    }
}

#[rstest]
#[case("2026-11-27", "2026-W48")]
#[case("2027-01-01", "2026-W53")]
#[case("2024-12-30", "2025-W01")]
#[case("2020-02-29", "2020-W09")]
#[case("1970-01-01", "1970-W01")]
fn weeks_are_those_of_the_calendar(#[case] date: &str, #[case] wanted: &str) {
    let day = Moment::parse(date).unwrap().day;
    assert_eq!(week(day), wanted);
    assert_eq!(super::date(day), date);
}

#[test]
fn the_newest_report_of_a_machine_counts_whichever_comes_first() {
    for reverse in [false, true] {
        let mut reports = [entry(Some("a"), 2, "linux", "3.20", false), entry(Some("a"), 9, "linux", "3.28", true)];
        if reverse {
            reports.reverse();
        }
        let mut tally = Tally::new(None, None);
        for report in &reports {
            tally.add(report, None);
        }
        let survey = tally.finish();
        assert_eq!((survey.reports, survey.machines, survey.ready, survey.not_ready), (2, 1, 1, 0));
        let [advised] = survey.advised.as_slice() else { panic!("{survey:?}") };
        assert_eq!((advised.met_next.count, advised.met_next.of), (1, 1));
    }
}

#[rstest]
#[case("cmake >= 3.28", Changed::Lost)]
#[case("cmake>=3.25, <4", Changed::Stays)]
fn another_range_is_judged_by_the_version_that_was_found(#[case] text: &str, #[case] wanted: Changed) {
    let what_if = WhatIf::parse(text).unwrap();
    let entry = entry(None, 1, "linux", "3.25.1", true);
    assert_eq!(what_if.judge("cmake", &entry.requirements), Some(wanted));
}

/// Found by the property below: two reports of one machine of one moment, one of them ready, on two threads.
#[test]
fn two_reports_of_one_moment_come_to_the_same_in_either_order() {
    let reports = [entry(Some("a"), 2, "linux", "3.20", false), entry(Some("a"), 2, "linux", "3.20", true)];
    let come = |order: [usize; 2]| {
        let mut tally = Tally::new(None, None);
        for at in order {
            tally.add(reports.get(at).unwrap(), None);
        }
        tally.finish()
    };
    assert_eq!(come([0, 1]), come([1, 0]));
}

proptest! {
    /// However reports are spread over tallies, they come to the same.
    #[test]
    fn what_is_counted_side_by_side_comes_to_the_same(reports in proptest::collection::vec((0u8..6, 1u32..28, 0u8..3, 20u32..30, any::<bool>()), 1..40), cut in 0usize..40) {
        let made: Vec<Entry<'static>> = reports
            .iter()
            .enumerate()
            .map(|(at, (id, day, system, minor, met))| {
                let id = (*id > 2).then(|| format!("{id}-{}", at / 2));
                entry(id.as_deref(), (*day + u32::try_from(at).unwrap()) % 28 + 1, ["linux", "macos", "windows"][usize::from(*system)], &format!("3.{minor}"), *met)
            })
            .collect();
        let what_if = || Some((WhatIf::parse("cmake >= 3.25").unwrap(), "cmake".to_owned()));
        let mut whole = Tally::new(Some(Dimension::System), what_if());
        for entry in &made {
            whole.add(entry, None);
        }
        let (first, second) = made.split_at(cut.min(made.len()));
        let mut one = Tally::new(Some(Dimension::System), what_if());
        let mut other = one.clone();
        for entry in second {
            one.add(entry, None);
        }
        for entry in first {
            other.add(entry, None);
        }
        one.merge(other);
        prop_assert_eq!(one.finish(), whole.finish());
    }
}
