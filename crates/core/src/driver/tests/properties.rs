//! What must hold for every guide and every machine.

use crate::cause::Cause;
use crate::driver::Selection;
use crate::finding::{Finding, Verdict};
use crate::inquiry::{Context, Inquiry};
use crate::known::Known;
use crate::observation::{Cores, DiskRoom, FileKind, Observation, RunEnd, StartFailure};
use crate::plan;
use crate::prelude::*;
use crate::probe::Probe;
use crate::testing::{Script, debian, drive, guide, program};
use core::fmt::Write;
use proptest::prelude::*;

/// One requirement of a random guide.
#[derive(Debug, Clone)]
struct Wish {
    kind: usize,
    number: usize,
    after: Option<usize>,
    when: Option<bool>,
}

fn any_wishes() -> impl Strategy<Value = Vec<Wish>> {
    let wish = (0_usize..5, 0_usize..4, proptest::option::of(0_usize..6), proptest::option::of(any::<bool>()));
    let wish = wish.prop_map(|(kind, number, after, when)| Wish { kind, number, after, when });
    proptest::collection::vec(wish, 1..7)
}

fn gigabytes(wish: &Wish) -> usize {
    wish.number * 3 + 1
}

fn body(wishes: &[Wish]) -> String {
    let mut body = String::new();
    for (index, wish) in wishes.iter().enumerate() {
        let number = wish.number;
        let subject = match wish.kind {
            0 => format!("tool = \"t{number}\"\nversion = \">= 2\""),
            1 => format!("disk = \"{} GB\"\nat = \"/d{number}\"", gigabytes(wish)),
            2 => format!("cores = {}", number + 1),
            3 => format!("tool = [\"u{number}\", \"t{number}\"]"),
            _ => "memory = \"1 GB\"".to_owned(),
        };
        let _ = writeln!(body, "[require.r{index}]\n{subject}");
        if let Some(after) = wish.after.filter(|after| *after < index) {
            let _ = writeln!(body, "after = [\"r{after}\"]");
        }
        if let Some(holds) = wish.when {
            let _ = writeln!(body, "when = \"linux and {}manager == apt or container\"", if holds { "" } else { "not " });
        }
    }
    body
}

/// `t0` is for another processor before it is new, `t1` is new, `t2` is silent before it is new, `t3` is nowhere; 9 GB are free on each of two disks, the first of
/// which holds `/d0` and `/d1`; nobody knows where `/d3` is, nor the memory; there are two cores.
fn machine() -> Script {
    let mut script = debian();
    for (number, version) in [(0, "1.5"), (1, "2.5"), (2, "nothing")] {
        // What is built for another processor does not start, where it is tried.
        let end = if number == 0 { RunEnd::NotStarted(StartFailure::Format, String::new()) } else { RunEnd::Exit(0) };
        program(&mut script, &format!("/opt/t{number}"), end, &format!("t{number} {version}"));
        program(&mut script, &format!("/usr/bin/t{number}"), RunEnd::Exit(0), &format!("t{number} 2.{number}"));
    }
    if let Some(Observation::Program(copies)) = script.get_mut(&Probe::Program { name: "t0".into() }) {
        // Known by its header: whether it is run must not depend on when the system is known.
        copies[0].kind = FileKind::Built(vec!["s390x".into()]);
    }
    script.insert(Probe::Cores, Observation::Cores(Cores { online: 2, caps: Vec::new() }));
    for number in 0..3 {
        let path = format!("/d{number}");
        let room = DiskRoom {
            path: path.clone(),
            existing: path.clone(),
            filesystem: (number / 2).to_string(),
            available_bytes: 9_000_000_000,
            available_inodes: None,
            by_quota: false,
            read_only: false,
            writable: true,
        };
        script.insert(Probe::DiskRoom { path }, Observation::DiskRoom(room));
    }
    script
}

/// What a person would say, looking at the comment above: no driver, no probes, no order.
fn naive(wishes: &[Wish]) -> Vec<Verdict> {
    let applies = |wish: &Wish| wish.when != Some(false);
    let sum = |numbers: &[usize]| -> usize {
        wishes.iter().filter(|wish| wish.kind == 1 && applies(wish) && numbers.contains(&wish.number)).map(gigabytes).sum()
    };
    let mut verdicts: Vec<Verdict> = Vec::new();
    for (index, wish) in wishes.iter().enumerate() {
        let waits = wish.after.filter(|after| *after < index).is_some_and(|after| !verdicts[after].is_fine());
        let decided = |holds: bool| if holds { Verdict::Met } else { Verdict::Unmet };
        verdicts.push(match (wish.kind, wish.number) {
            _ if !applies(wish) => Verdict::Skipped,
            _ if waits => Verdict::Blocked,
            (0, number) => decided(number == 1),
            (1, 3) | (4, _) => Verdict::Unknown,
            (1, number) => {
                let here = sum(if number == 2 { &[2] } else { &[0, 1] });
                let anywhere = sum(&[3]);
                if here > 9 {
                    Verdict::Unmet
                } else if here + anywhere > 9 {
                    Verdict::Unknown
                } else {
                    Verdict::Met
                }
            }
            (2, number) => decided(number < 2),
            (_, number) => decided(number == 1 || number == 2),
        });
    }
    verdicts
}

fn essence(finding: &Finding) -> (Verdict, Option<Cause>, String) {
    (finding.verdict, finding.cause, finding.message.clone())
}

proptest! {
    #[test]
    fn a_naive_evaluator_agrees(wishes in any_wishes()) {
        let settled = drive(&guide(&body(&wishes)), &machine(), Selection::default(), |_| 0).settled;
        let verdicts: Vec<Verdict> = settled.iter().map(|one| one.finding.verdict).collect();
        prop_assert_eq!(verdicts, naive(&wishes));
    }

    #[test]
    fn the_order_of_answers_never_matters(wishes in any_wishes(), picks in proptest::collection::vec(any::<usize>(), 60)) {
        let guide = guide(&body(&wishes));
        let plain = drive(&guide, &machine(), Selection::default(), |_| 0);
        let mut picks = picks.into_iter().cycle();
        let mixed = drive(&guide, &machine(), Selection::default(), |_| picks.next().unwrap());
        for (a, b) in plain.settled.iter().zip(&mixed.settled) {
            prop_assert_eq!(essence(&a.finding), essence(&b.finding));
            prop_assert_eq!(&a.fixes, &b.fixes);
        }
        prop_assert_eq!(plain.known.len(), mixed.known.len());
    }

    #[test]
    fn one_more_fact_may_resolve_an_unknown_and_never_flips_a_verdict(wishes in any_wishes(), lost in proptest::collection::vec(any::<bool>(), 40)) {
        let guide = guide(&body(&wishes));
        let mut poorer = machine();
        let mut probes: Vec<Probe> = poorer.keys().cloned().collect();
        probes.sort();
        for (probe, _) in probes.into_iter().zip(lost).filter(|(_, lost)| *lost) {
            poorer.insert(probe, Observation::CouldNotLook("lost".into()));
        }
        let less = drive(&guide, &poorer, Selection::default(), |_| 0).settled;
        let more = drive(&guide, &machine(), Selection::default(), |_| 0).settled;
        let decided = |verdict: Verdict| matches!(verdict, Verdict::Met | Verdict::Unmet | Verdict::Skipped);
        for (less, more) in less.iter().zip(&more) {
            if decided(less.finding.verdict) {
                prop_assert_eq!(less.finding.verdict, more.finding.verdict, "{} / {}", less.finding.message, more.finding.message);
            }
        }
    }

    #[test]
    fn the_evidence_alone_reproduces_a_finding(wishes in any_wishes()) {
        let guide = guide(&body(&wishes));
        let settled = drive(&guide, &machine(), Selection::default(), |_| 0).settled;
        let findings: Vec<Option<Arc<Finding>>> = settled.iter().map(|one| Some(Arc::clone(&one.finding))).collect();
        for one in &settled {
            let mut known = Known::default();
            for answer in &one.finding.evidence {
                known.learn(Arc::clone(&answer.probe), (*answer.observation).clone(), 0);
            }
            // Disks that the finding does not rest on need not be known; whether they apply must be.
            for number in 0..4 {
                known.learn(Arc::new(Probe::DiskRoom { path: format!("/d{number}") }), Observation::CouldNotLook("left out".into()), 0);
            }
            for probe in [Probe::System, Probe::Managers, Probe::Surroundings] {
                known.learn(Arc::new(probe.clone()), crate::testing::answer(&machine(), &probe), 0);
            }
            let selection = Selection::default();
            let context = Context { guide: &guide, selection: &selection, known: &known, findings: &findings, disk_ledger: None };
            let ledger = crate::assess::sum_disks(context).unwrap_or_else(|missing| panic!("{missing:?}"));
            let mut inquiry = Inquiry::new(Context { disk_ledger: Some(&ledger), ..context });
            let again = crate::assess::find_with_evidence(&mut inquiry, guide.requirements.get(one.index).unwrap());
            let again = again.map(|finding| (finding.verdict, finding.cause));
            prop_assert_eq!(again, Some((one.finding.verdict, one.finding.cause)));
        }
    }

    #[test]
    fn the_plan_settles_whatever_has_a_fix_and_nothing_else(wishes in any_wishes()) {
        let guide = guide(&body(&wishes));
        let settled = drive(&guide, &machine(), Selection::default(), |_| 0).settled;
        let plan = plan::make(&guide, &settled);
        let mut planned: Vec<usize> = plan.steps.iter().flat_map(|step| step.settles.iter().copied()).collect();
        planned.sort_unstable();
        planned.dedup();
        let fixable: Vec<usize> = settled.iter().filter(|one| !one.fixes.is_empty()).map(|one| one.index).collect();
        prop_assert_eq!(planned, fixable);
        prop_assert!(settled.iter().all(|one| one.fixes.is_empty() || one.finding.verdict == Verdict::Unmet));
    }
}
