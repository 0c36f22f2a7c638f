mod predictions;
mod properties;

use super::{Driver, NotInGuideError, Selection};
use crate::cause::Cause;
use crate::finding::General;
use crate::finding::Verdict;
use crate::observation::{CoreState, Observation, RunEnd};
use crate::prelude::*;
use crate::probe::Probe;
use crate::testing::{answer, debian, drive, guide, program, settle};

const CHAIN: &str =
    "[require.a]\ntool = \"a\"\n[require.b]\ntool = \"b\"\nafter = [\"a\"]\n[require.c]\ntool = \"c\"\nafter = [\"b\"]\n";

#[test]
fn what_waits_is_blocked_by_its_own_root_and_asks_nothing() {
    let settled = settle(CHAIN, &debian());
    let verdicts: Vec<Verdict> = settled.iter().map(|one| one.finding.verdict()).collect();
    assert_eq!(verdicts, [Verdict::Unmet, Verdict::Blocked, Verdict::Blocked]);
    assert_eq!((settled[1].finding.waits_for(), settled[2].finding.waits_for()), (&[0][..], &[1][..]));
    assert_eq!(settled[2].finding.cause(), Some(Cause::WaitsFor));
    assert!(settled[2].finding.evidence.is_empty());
}

#[test]
fn a_selected_requirement_brings_what_it_waits_for() {
    let guide = guide(CHAIN);
    let settled = drive(&guide, &debian(), Selection { only: vec![1], ..Selection::default() }, |_| 0).settled;
    assert_eq!(settled.iter().map(|one| one.index).collect::<Vec<_>>(), [0, 1]);
    assert_eq!(Driver::new(&guide, Selection { only: vec![9], ..Selection::default() }).unwrap_err(), NotInGuideError);
}

#[test]
fn nothing_is_asked_twice_and_the_ready_pay_for_no_diagnosis() {
    let guide = guide("[require.a]\ntool = \"a\"\n[require.b]\ntool = \"a\"\nversion = \">= 1\"\n");
    let mut script = debian();
    program(&mut script, "/usr/bin/a", RunEnd::Exit(0), "a 1.2");
    let finished = drive(&guide, &script, Selection::default(), |_| 0);
    assert!(finished.settled.iter().all(|one| one.finding.verdict() == Verdict::Met));
    // System, surroundings, the copies, one run: no account, no package managers.
    assert_eq!(finished.known.len(), 4);
}

#[test]
fn what_was_interrupted_is_unknown_and_not_lost() {
    let guide = guide("[require.a]\ncores = 1\n[require.b]\ntool = \"b\"\n");
    let mut driver = Driver::new(&guide, Selection::default()).unwrap();
    let probes: Vec<Arc<Probe>> = core::iter::from_fn(|| driver.next_probe()).collect();
    let cores = probes.iter().find(|probe| ***probe == Probe::Cores).unwrap();
    driver.answer(cores, Observation::Cores(CoreState { online: 2, caps: Vec::new() }));
    let settled = driver.finish().settled;
    assert_eq!((settled[0].finding.verdict(), settled[1].finding.verdict()), (Verdict::Met, Verdict::Unknown));
    assert_eq!(settled[1].finding.conclusion, General::Interrupted.into());
}

#[test]
fn being_offline_is_said_once_also_where_the_first_waits_for_the_second() {
    let mut script = debian();
    script.insert(Probe::Online, Observation::Online(false));
    let reach = |name: &str, more: &str| format!("[require.{name}]\nreach = \"https://{name}.example\"\n{more}");
    let body = [reach("a", "after = [\"b\"]\n"), reach("b", ""), reach("c", "")].concat();
    let settled = settle(&body, &script);
    let verdicts: Vec<_> = settled.iter().map(|one| (one.finding.verdict(), one.finding.waits_for().to_vec())).collect();
    assert_eq!(verdicts, [(Verdict::Blocked, vec![1]), (Verdict::Unmet, vec![]), (Verdict::Blocked, vec![1])]);
    let selection = Selection { offline: true, ..Selection::default() };
    let settled = drive(&guide(&body), &script, selection, |_| 0).settled;
    assert!(settled[1..].iter().all(|one| one.finding.verdict() == Verdict::Skipped));
}

#[test]
fn a_package_manager_is_asked_once_for_all_that_is_missing() {
    let requirement = |name: &str| format!("[require.{name}]\ntool = \"{name}\"\npackages = {{ apt = \"{name}-pack\" }}\n");
    let guide = guide(&["a", "b", "c", "d"].map(requirement).concat());
    let script = debian();
    let mut driver = Driver::new(&guide, Selection::default()).unwrap();
    let mut together = Vec::new();
    while let Some(probe) = driver.next_probe() {
        let alike = driver.take_alike(&probe);
        if let Probe::Candidate { .. } = *probe {
            // While it is asked, nobody else asks it.
            assert_eq!(driver.next_probe(), None);
            together.push(1 + alike.len());
        }
        for probe in core::iter::once(probe).chain(alike) {
            driver.answer(&probe, answer(&script, &probe));
        }
    }
    assert_eq!(together, [4]);
    assert!(driver.is_finished());
}

#[test]
fn of_very_many_quick_questions_a_share_is_handed_out_and_of_few_one() {
    let handed_out = |count: usize| {
        let body = (0..count).map(|at| format!("[require.f{at}]\nfile = \"place/{at}\"\n"));
        let guide = guide(&body.collect::<String>());
        let script = debian();
        let mut driver = Driver::new(&guide, Selection::default()).unwrap();
        let (mut most, mut asked) = (0, hashbrown::HashSet::new());
        while let Some(probe) = driver.next_probe() {
            let alike = driver.take_alike(&probe);
            most = most.max(1 + alike.len());
            for probe in core::iter::once(probe).chain(alike) {
                assert!(asked.insert(Arc::clone(&probe)), "{probe} was asked twice");
                driver.answer(&probe, answer(&script, &probe));
            }
        }
        assert!(driver.is_finished());
        most
    };
    assert_eq!((handed_out(20), handed_out(3_000)), (1, 33));
}
