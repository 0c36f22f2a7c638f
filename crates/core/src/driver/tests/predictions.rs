//! A fix is a prediction: for every file or folder, however it is marked, and whatever is asked of it.

use crate::advice::Advice;
use crate::finding::Verdict;
use crate::fix::Effect;
use crate::guide::Guide;
use crate::observation::{AccessDenied, FileType, MountBar, Observation, PathState};
use crate::prelude::*;
use crate::probe::Probe;
use crate::selection::Selection;
use crate::settled::RequirementResult;
use crate::testing::{Script, debian, drive, guide};
use alloc::collections::BTreeSet;
use proptest::prelude::*;

/// What is asked of the one place, in one requirement.
fn any_wish() -> impl Strategy<Value = String> {
    let mode = proptest::sample::select(vec!["", "mode = \"600\"\n", "mode = \"755\"\n", "mode = \"000\"\n"]);
    let owner = proptest::sample::select(vec!["", "owner = \"me\"\n"]);
    let use_of = proptest::sample::select(vec!["", "writable = true\n", "executable = true\n", "contains = \"x\"\n"]);
    (mode, owner, use_of, 0_u8..8).prop_map(|(mode, owner, use_of, absent)| {
        if absent == 0 { "expect = \"absent\"\n".to_owned() } else { format!("{mode}{owner}{use_of}") }
    })
}

fn any_guide() -> impl Strategy<Value = (bool, Guide)> {
    (any::<bool>(), proptest::collection::vec(any_wish(), 1..4), any::<bool>()).prop_map(|(folder, wishes, waits)| {
        let kind = if folder { "folder" } else { "file" };
        let one = |(index, wish): (usize, &String)| {
            let after = if waits && index > 0 { format!("after = [\"r{}\"]\n", index - 1) } else { String::new() };
            format!("[require.r{index}]\n{kind} = \"place\"\n{wish}{after}")
        };
        (folder, guide(&wishes.iter().enumerate().map(one).collect::<String>()))
    })
}

fn any_state() -> impl Strategy<Value = PathState> {
    let nature =
        proptest::sample::select(vec![FileType::Missing, FileType::File, FileType::Folder, FileType::Dangling("/gone".into())]);
    let mode = proptest::sample::select(vec![0o000, 0o111, 0o300, 0o600, 0o644, 0o677, 0o755]);
    let owner = proptest::sample::select(vec!["skipper", "root", "mate"]);
    (nature, mode, owner, any::<[bool; 4]>()).prop_map(|(nature, mode, owner, [read_only, barred, group, holds])| {
        let mine = owner == "skipper";
        let bits = if mine { mode >> 6 } else { mode };
        let there = matches!(nature, FileType::File | FileType::Folder);
        PathState {
            nature,
            mode: there.then_some(mode),
            mine: there.then_some(mine),
            owner: there.then(|| owner.to_owned()),
            writers: (there && group && !mine).then(|| "sea".to_owned()),
            readable: bits & 4 != 0,
            writable: bits & 2 != 0 && !read_only,
            executable: bits & 1 != 0,
            mount: read_only.then(|| MountBar { at: "/".into(), read_only, no_execution: false }),
            barred_by: (barred && !there).then(|| AccessDenied { path: "/p".into(), owner: Some("root".into()), mine: false }),
            holds: Some(holds),
            ..PathState::nothing("/p/place")
        }
    })
}

/// A machine with that place, for every pattern that is asked, and something in it that is another's or is not.
fn machine(guide: &Guide, state: &PathState, foreign: bool) -> Script {
    let mut script = debian();
    for pattern in [None, Some("x".to_owned())] {
        let holds = state.holds.filter(|_| pattern.is_some());
        script.insert(Probe::Path { path: "place".into(), pattern }, Observation::Path(PathState { holds, ..state.clone() }));
    }
    let barrier = AccessDenied { path: "/p/place/old".into(), owner: Some("root".into()), mine: false };
    script.insert(Probe::Within { path: "place".into() }, Observation::Within(foreign.then_some(barrier)));
    script.insert(Probe::DatabaseGroups, Observation::DatabaseGroups(Vec::new()));
    let _ = guide;
    script
}

/// The machine after a fix, as that foretells it.
fn after(script: &Script, effect: &Effect) -> Script {
    let Effect::Changes(changes) = effect else { return script.clone() };
    let change = |(probe, before): (&Probe, &Observation)| {
        let now = changes.iter().fold(before.clone(), |now, change| change.on(probe, &now).unwrap_or(now));
        (probe.clone(), now)
    };
    script.iter().map(change).collect()
}

fn met(settled: &[RequirementResult]) -> Vec<usize> {
    settled.iter().filter(|one| one.finding.verdict() == Verdict::Met).map(|one| one.index).collect()
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 600, ..ProptestConfig::default() })]

    /// What is foretold of a fix is what an assessment of the machine after it comes to, and nothing that was met is unmet by it.
    #[test]
    fn what_a_fix_foretells_meets_its_requirement_and_undoes_no_other((folder, guide) in any_guide(), state in any_state(), foreign in any::<bool>()) {
        let script = machine(&guide, &state, foreign && folder);
        let before = drive(&guide, &script, Selection::default(), |_| 0).settled;
        for one in &before {
            for fix in one.fixes.iter().filter(|fix| fix.is_foreseen() && !fix.presumed) {
                let then = drive(&guide, &after(&script, &fix.effect), Selection::default(), |_| 0).settled;
                prop_assert_eq!(then[one.index].finding.verdict(), Verdict::Met, "{:?} by {:?}", one.finding.conclusion, fix);
                for other in met(&before) {
                    prop_assert_ne!(then[other].finding.verdict(), Verdict::Unmet, "{:?} undone by {:?}", before[other].finding.conclusion, fix);
                }
            }
        }
    }

    /// Who does what is advised, round after round, is never told the same as if it were new, and never loses what was met.
    #[test]
    fn ten_rounds_of_advice_do_not_contradict_one_another((folder, guide) in any_guide(), state in any_state(), foreign in any::<bool>()) {
        let mut script = machine(&guide, &state, foreign && folder);
        let mut advised: BTreeSet<Advice> = BTreeSet::new();
        let mut held: Vec<usize> = Vec::new();
        for _ in 0..10 {
            let selection = Selection { advised: Arc::new(advised.clone()), ..Selection::default() };
            let settled = drive(&guide, &script, selection, |_| 0).settled;
            let now = met(&settled);
            prop_assert!(held.iter().all(|index| now.contains(index)), "{held:?} then {now:?}");
            held = now;
            for one in settled.iter().filter(|one| one.finding.verdict() == Verdict::Unmet) {
                let Some(fix) = one.fixes.first() else { continue };
                let id = &guide.requirements[one.index].id;
                prop_assert!(advised.insert(Advice::of(id, fix)) || fix.choice.is_some() || !fix.acts(), "as if it were new: {fix:?}");
            }
            // One thing is done in a round.
            let Some(fix) = settled.iter().find_map(|one| one.fixes.first().filter(|fix| fix.is_foreseen() && !fix.presumed)) else { break };
            script = after(&script, &fix.effect);
        }
    }
}

/// Two ways of marking one file cannot both be: then no command is given that would undo the other.
#[test]
fn a_guide_that_contradicts_itself_gets_words_and_no_command() {
    let guide = guide("[require.r0]\nfile = \"place\"\nmode = \"600\"\n[require.r1]\nfile = \"place\"\nmode = \"755\"\n");
    let state = PathState {
        nature: FileType::File,
        mode: Some(0o600),
        mine: Some(true),
        owner: Some("skipper".into()),
        ..PathState::nothing("/p/place")
    };
    let settled = drive(&guide, &machine(&guide, &state, false), Selection::default(), |_| 0).settled;
    assert_eq!(met(&settled), [0]);
    assert!(settled[1].fixes[0].run.is_empty() && settled[1].fixes[0].say.contains("cannot both be"), "{:?}", settled[1].fixes);
}
