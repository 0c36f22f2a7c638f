use super::{Driver, NotInGuide, Selection};
use crate::cause::Cause;
use crate::finding::{Finding, Verdict};
use crate::inquiry::{Context, Inquiry};
use crate::known::Known;
use crate::observation::{Cores, Observation, RunEnd};
use crate::prelude::*;
use crate::probe::Probe;
use crate::testing::{Script, debian, drive, guide, program, settle};
use core::fmt::Write;
use proptest::prelude::*;

const CHAIN: &str =
    "[require.a]\ntool = \"a\"\n[require.b]\ntool = \"b\"\nafter = [\"a\"]\n[require.c]\ntool = \"c\"\nafter = [\"b\"]\n";

#[test]
fn what_waits_is_blocked_by_its_own_root_and_asks_nothing() {
    let settled = settle(CHAIN, &debian());
    let verdicts: Vec<Verdict> = settled.iter().map(|one| one.finding.verdict).collect();
    assert_eq!(verdicts, [Verdict::Unmet, Verdict::Blocked, Verdict::Blocked]);
    assert_eq!((settled[1].finding.blocked_by.as_slice(), settled[2].finding.blocked_by.as_slice()), (&[0][..], &[1][..]));
    assert_eq!(settled[2].finding.cause, Some(Cause::WaitsFor));
    assert!(settled[2].finding.evidence.is_empty());
}

#[test]
fn a_selected_requirement_brings_what_it_waits_for() {
    let guide = guide(CHAIN);
    let settled = drive(&guide, &debian(), Selection { only: vec![1], ..Selection::default() }, |_| 0).settled;
    assert_eq!(settled.iter().map(|one| one.index).collect::<Vec<_>>(), [0, 1]);
    assert_eq!(Driver::new(&guide, Selection { only: vec![9], ..Selection::default() }).unwrap_err(), NotInGuide);
}

#[test]
fn nothing_is_asked_twice_and_the_ready_pay_for_no_diagnosis() {
    let guide = guide("[require.a]\ntool = \"a\"\n[require.b]\ntool = \"a\"\nversion = \">= 1\"\n");
    let mut script = debian();
    program(&mut script, "/usr/bin/a", RunEnd::Exit(0), "a 1.2");
    let finished = drive(&guide, &script, Selection::default(), |_| 0);
    assert!(finished.settled.iter().all(|one| one.finding.verdict == Verdict::Met));
    // System, surroundings, the copies, one run: no account, no package managers.
    assert_eq!(finished.known.len(), 4);
}

#[test]
fn what_was_interrupted_is_unknown_and_not_lost() {
    let guide = guide("[require.a]\ncores = 1\n[require.b]\ntool = \"b\"\n");
    let mut driver = Driver::new(&guide, Selection::default()).unwrap();
    let probes: Vec<Arc<Probe>> = core::iter::from_fn(|| driver.next_probe()).collect();
    let cores = probes.iter().find(|probe| ***probe == Probe::Cores).unwrap();
    driver.answer(cores, Observation::Cores(Cores { online: 2, caps: Vec::new() }));
    let settled = driver.finish().settled;
    assert_eq!((settled[0].finding.verdict, settled[1].finding.verdict), (Verdict::Met, Verdict::Unknown));
    assert!(settled[1].finding.message.contains("interrupted"));
}

/// A guide of tools, ports, disks and conditions that depend on each other, with a machine that meets some of it.
fn any_case() -> impl Strategy<Value = (String, Script)> {
    let requirement = (0_usize..5, 0_usize..4, proptest::option::of(0_usize..6), any::<bool>());
    proptest::collection::vec(requirement, 1..7).prop_map(|all| {
        let mut body = String::new();
        let mut script = debian();
        for (index, (kind, answer, after, conditional)) in all.into_iter().enumerate() {
            let _ = writeln!(body, "[require.r{index}]");
            let subject = match kind {
                0 => format!("tool = \"t{answer}\"\nversion = \">= 2\"\n"),
                1 => format!("disk = \"{} GB\"\nat = \"/d{answer}\"\n", answer * 3 + 1),
                2 => "cores = 3\n".to_owned(),
                3 => format!("tool = [\"u{answer}\", \"t{answer}\"]\n"),
                _ => format!("memory = \"{} GB\"\n", answer + 1),
            };
            body.push_str(&subject);
            if let Some(after) = after.filter(|after| *after < index) {
                let _ = writeln!(body, "after = [\"r{after}\"]");
            }
            if conditional {
                body.push_str("when = \"linux and manager == apt or container\"\n");
            }
        }
        for (number, version) in [(0, "1.5"), (1, "2.5"), (2, "nothing")] {
            program(&mut script, &format!("/opt/t{number}"), RunEnd::Exit(0), &format!("t{number} {version}"));
            program(&mut script, &format!("/usr/bin/t{number}"), RunEnd::Exit(0), &format!("t{number} 2.{number}"));
        }
        script.insert(Probe::Cores, Observation::Cores(Cores { online: 2, caps: Vec::new() }));
        for number in 0..3 {
            let path = format!("/d{number}");
            let room = crate::observation::DiskRoom {
                path: path.clone(),
                existing: path.clone(),
                filesystem: (number / 2).to_string(),
                available_bytes: 9_000_000_000,
                available_inodes: None,
                read_only: false,
                writable: true,
            };
            script.insert(Probe::DiskRoom { path }, Observation::DiskRoom(room));
        }
        (body, script)
    })
}

fn essence(finding: &Finding) -> (Verdict, Option<Cause>, String) {
    (finding.verdict, finding.cause, finding.message.clone())
}

proptest! {
    #[test]
    fn the_order_of_answers_never_matters((body, script) in any_case(), picks in proptest::collection::vec(any::<usize>(), 60)) {
        let guide = guide(&body);
        let plain = drive(&guide, &script, Selection::default(), |_| 0);
        let mut picks = picks.into_iter().cycle();
        let mixed = drive(&guide, &script, Selection::default(), |_| picks.next().unwrap());
        for (a, b) in plain.settled.iter().zip(&mixed.settled) {
            prop_assert_eq!(essence(&a.finding), essence(&b.finding));
            prop_assert_eq!(&a.fixes, &b.fixes);
        }
        prop_assert_eq!(plain.known.len(), mixed.known.len());
    }

    #[test]
    fn the_evidence_alone_reproduces_a_finding((body, script) in any_case()) {
        let guide = guide(&body);
        let settled = drive(&guide, &script, Selection::default(), |_| 0).settled;
        let findings: Vec<Option<Arc<Finding>>> = settled.iter().map(|one| Some(Arc::clone(&one.finding))).collect();
        for one in &settled {
            let mut known = Known::default();
            for answer in &one.finding.evidence {
                known.learn(Arc::clone(&answer.probe), (*answer.observation).clone(), 0);
            }
            // Disks that the finding does not rest on need not be known.
            for number in 0..4 {
                let probe = Probe::DiskRoom { path: format!("/d{number}") };
                known.learn(Arc::new(probe), Observation::CouldNotLook("left out".into()), 0);
            }
            for probe in [Probe::System, Probe::Managers, Probe::Surroundings] {
                known.learn(Arc::new(probe.clone()), crate::testing::answer(&script, &probe), 0);
            }
            let selection = Selection::default();
            let context = Context { guide: &guide, selection: &selection, known: &known, findings: &findings, disk_ledger: None };
            let ledger = crate::assess::sum_disks(context).unwrap_or_default();
            let mut inquiry = Inquiry::new(Context { disk_ledger: Some(&ledger), ..context });
            let again = crate::assess::find_with_evidence(&mut inquiry, guide.requirements.get(one.index).unwrap());
            prop_assert_eq!(again.map(|finding| essence(&finding)), Some(essence(&one.finding)));
        }
    }
}
