//! What must hold for every guide and every machine.

use crate::finding::{Conclusion, Verdict};
use crate::guide::Guide;
use crate::guide_ports::GuidePorts;
use crate::inquiry::{Context, FoundVersions, Inquiry};
use crate::known::Known;
use crate::observation::{
    CoreState, DiskRoom, FileKind, Observation, RunEnd, StartFailure, StartupOutcome, Value, VariableState,
};
use crate::plan;
use crate::prelude::*;
use crate::probe::Probe;
use crate::selection::Selection;
use crate::settled::RequirementResult;
use crate::testing::{Script, debian, drive, guide, program, told};
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
    let wish = (0_usize..8, 0_usize..4, proptest::option::of(0_usize..6), proptest::option::of(any::<bool>()));
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
            4 => "memory = \"1 GB\"".to_owned(),
            5 => format!("variable = \"V{number}\""),
            6 => format!("command = [\"t{number}\"]"),
            _ => format!("any_of = [\"r{}\", \"r{}\"]", index.saturating_sub(1), index.saturating_sub(number)),
        };
        // The first has nothing before it to choose from.
        let subject = if wish.kind == 7 && (index == 0 || number == 0) { "cores = 9".to_owned() } else { subject };
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
/// which holds `/d0` and `/d1`; nobody knows where `/d3` is, nor the memory; there are two cores; `V0` is set, `V1` empty, `V2` not set, and nobody knows
/// of `V3`; no command may be run.
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
    script.insert(Probe::Cores, Observation::Cores(CoreState { online: 2, caps: Vec::new() }));
    for (number, environment) in [Value::Set(true), Value::Empty, Value::Unset].into_iter().enumerate() {
        let probe = Probe::Variable { name: format!("V{number}"), env_file: None, pattern: None };
        script.insert(
            probe,
            Observation::Variable(VariableState {
                environment,
                file: None,
                line: None,
                of_another_system: false,
                leads_nowhere: false,
                startup: None,
                startup_line: None,
                fate: StartupOutcome::NewTerminal,
                kept_by: None,
            }),
        );
    }
    for number in 0..3 {
        let path = format!("/d{number}");
        let room = DiskRoom {
            path: path.clone(),
            existing: path.clone(),
            filesystem: (number / 2).to_string(),
            available_bytes: 9_000_000_000,
            available_inodes: None,
            limited_by: None,
            read_only: false,
            writable: true,
        };
        script.insert(Probe::DiskRoom { path }, Observation::DiskRoom(room));
    }
    script
}

/// What a person would say, looking at the comment above: no driver, no probes, no order.
struct Person<'w>(&'w [Wish]);

impl Person<'_> {
    fn applies(&self, index: usize) -> bool {
        self.0[index].when != Some(false)
    }

    fn kind(&self, index: usize) -> (usize, usize) {
        let wish = &self.0[index];
        if wish.kind == 7 && (index == 0 || wish.number == 0) { (2, 8) } else { (wish.kind, wish.number) }
    }

    fn after(&self, index: usize) -> Option<usize> {
        self.0[index].after.filter(|after| *after < index)
    }

    fn choices(&self, index: usize) -> Vec<usize> {
        let wish = &self.0[index];
        if self.kind(index).0 == 7 { vec![index - 1, index.saturating_sub(wish.number)] } else { Vec::new() }
    }

    /// The tool requirement that a command needs: the first that may be its program, unless that waits for the command.
    fn program(&self, index: usize) -> Option<usize> {
        let (6, number) = self.kind(index) else { return None };
        let tool = (0..self.0.len()).find(|other| matches!(self.kind(*other), (0 | 3, of) if of == number))?;
        let waits = self.waits(tool, index);
        (!waits && self.after(index) != Some(tool)).then_some(tool)
    }

    fn waits(&self, from: usize, target: usize) -> bool {
        from == target || self.after(from).into_iter().chain(self.choices(from)).any(|next| self.waits(next, target))
    }

    fn gigabytes(&self, places: &[usize]) -> usize {
        let there = |index: &usize| self.applies(*index) && matches!(self.kind(*index), (1, place) if places.contains(&place));
        (0..self.0.len()).filter(there).map(|index| gigabytes(&self.0[index])).sum()
    }

    fn verdict(&self, index: usize) -> Verdict {
        let decided = |holds: bool| if holds { Verdict::Met } else { Verdict::Unmet };
        if !self.applies(index) {
            return Verdict::Skipped;
        }
        // Of the tools, only the one that is nowhere cannot be started; what waits for it cannot be known either.
        let lacking = |tool: usize| self.verdict(tool) == Verdict::Blocked || (self.applies(tool) && self.kind(tool).1 == 3);
        if self.after(index).is_some_and(|after| !self.verdict(after).is_fine()) || self.program(index).is_some_and(lacking) {
            return Verdict::Blocked;
        }
        match self.kind(index) {
            (0, number) => decided(number == 1),
            (1 | 5, 3) | (4 | 6, _) => Verdict::Unknown,
            (1, number) => {
                let here = self.gigabytes(if number == 2 { &[2] } else { &[0, 1] });
                let unsure = here + self.gigabytes(&[3]) > 9;
                if here <= 9 && unsure { Verdict::Unknown } else { decided(here <= 9) }
            }
            (2, number) => decided(number < 2),
            (3, number) => decided(number == 1 || number == 2),
            (5, number) => decided(number == 0),
            _ => {
                let verdicts: Vec<Verdict> = self.choices(index).into_iter().map(|choice| self.verdict(choice)).collect();
                let open = || verdicts.iter().filter(|verdict| **verdict != Verdict::Skipped);
                if verdicts.contains(&Verdict::Met) {
                    Verdict::Met
                } else if open().next().is_none() {
                    Verdict::Skipped
                } else if open().all(|verdict| *verdict == Verdict::Unmet) {
                    Verdict::Unmet
                } else {
                    Verdict::Unknown
                }
            }
        }
    }
}

/// What a finding says, and what it says it with.
fn essence(guide: &Guide, settled: &RequirementResult) -> (Conclusion, String) {
    (settled.finding.conclusion.clone(), told(guide, settled).message)
}

proptest! {
    #[test]
    fn a_naive_evaluator_agrees(wishes in any_wishes()) {
        let settled = drive(&guide(&body(&wishes)), &machine(), Selection::default(), |_| 0).settled;
        let verdicts: Vec<Verdict> = settled.iter().map(|one| one.finding.verdict()).collect();
        let person = Person(&wishes);
        let said: Vec<Verdict> = (0..wishes.len()).map(|index| person.verdict(index)).collect();
        prop_assert_eq!(verdicts, said);
    }

    #[test]
    fn the_order_of_answers_never_matters(wishes in any_wishes(), picks in proptest::collection::vec(any::<usize>(), 60)) {
        let guide = guide(&body(&wishes));
        let plain = drive(&guide, &machine(), Selection::default(), |_| 0);
        let mut picks = picks.into_iter().cycle();
        let mixed = drive(&guide, &machine(), Selection::default(), |_| picks.next().unwrap());
        for (a, b) in plain.settled.iter().zip(&mixed.settled) {
            prop_assert_eq!(essence(&guide, a), essence(&guide, b));
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
            if decided(less.finding.verdict()) {
                prop_assert_eq!(less.finding.verdict(), more.finding.verdict(), "{:?} / {:?}", less.finding.conclusion, more.finding.conclusion);
            }
        }
    }

    #[test]
    fn the_evidence_alone_reproduces_a_finding(wishes in any_wishes()) {
        let guide = guide(&body(&wishes));
        let settled = drive(&guide, &machine(), Selection::default(), |_| 0).settled;
        let all: Vec<Option<RequirementResult>> = settled.iter().cloned().map(Some).collect();
        for one in &settled {
            let mut known = Known::default();
            // What a sum is made of is told once, where it is first used.
            let shared = one.finding.shared_evidence.iter().flat_map(|answers| answers.iter());
            for answer in one.finding.evidence.iter().chain(shared) {
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
            let context = Context { guide: &guide, selection: &selection, known: &known, predicted: None, ahead: false, ports: &GuidePorts::of(&guide), versions: &FoundVersions::default(), settled: &all, disk_ledger: None };
            let ledger = crate::assess::sum_disks(context).unwrap_or_else(|missing| panic!("{missing:?}"));
            let mut inquiry = Inquiry::new(Context { disk_ledger: Some(&ledger), ..context });
            let again = crate::assess::finding_with_evidence(&mut inquiry, one.index, guide.requirements.get(one.index).unwrap());
            let again = again.map(|finding| (finding.verdict(), finding.cause()));
            prop_assert_eq!(again, Some((one.finding.verdict(), one.finding.cause())));
        }
    }

    #[test]
    fn the_plan_settles_whatever_has_a_fix_and_nothing_else(wishes in any_wishes()) {
        let guide = guide(&body(&wishes));
        let settled = drive(&guide, &machine(), Selection::default(), |_| 0).settled;
        let plan = plan::make(&guide, &settled, None);
        let mut planned: Vec<usize> = plan.steps.iter().flat_map(|step| step.settles.iter().copied()).collect();
        planned.sort_unstable();
        planned.dedup();
        let fixable: Vec<usize> = settled.iter().filter(|one| !one.fixes.is_empty() && !guide.requirements[one.index].alternative).map(|one| one.index).collect();
        prop_assert_eq!(planned, fixable);
        prop_assert!(settled.iter().all(|one| one.fixes.is_empty() || !one.finding.verdict().is_fine()));
    }
}
