//! The shipped demonstration: each machine's `[expect]` holds, for every requirement, however many jobs ask.

use build_setup_ready::demo::{DemoMachine, GUIDE, MACHINES};
use build_setup_ready::{Described, Preflight, write};
use rstest::rstest;
use setup_ready_core::finding::Verdict;
use setup_ready_core::guide::{self, Guide};
use setup_ready_core::report::Outcome;
use setup_ready_core::selection::Selection;

fn demo_guide() -> Guide {
    guide::parse(GUIDE).unwrap_or_else(|problems| panic!("{problems:?}"))
}

fn machine(name: &str) -> Described {
    let machine: &DemoMachine = MACHINES.iter().find(|machine| machine.name == name).unwrap();
    Described::parse(machine.text).unwrap_or_else(|problems| panic!("{problems:?}"))
}

#[rstest]
#[case("clean-debian-laptop", Outcome::NotReady)]
#[case("shared-server", Outcome::NotReady)]
#[case("build-container", Outcome::NotReady)]
#[case("ready-workstation", Outcome::Ready)]
#[case("old-macbook", Outcome::NotReady)]
#[case("workshop-windows-pc", Outcome::NotReady)]
#[case("linux-inside-windows", Outcome::NotReady)]
fn every_machine_is_as_it_expects(#[case] name: &str, #[case] outcome: Outcome) {
    let guide = demo_guide();
    let machine = machine(name);
    let report = Preflight::new(&guide).run(&machine).unwrap();
    assert_eq!(machine.differences(&report), Vec::<String>::new());
    assert_eq!(machine.expected().len(), guide.requirements.len(), "every requirement has its expectation");
    assert_eq!(report.outcome(), outcome);
}

#[rstest]
#[case::machines_that_are_not_ready_have_problems("workshop-windows-pc")]
#[case::a_machine_that_is_ready_has_none("ready-workstation")]
fn problems_are_what_keeps_the_outcome_from_being_ready(#[case] name: &str) {
    let guide = demo_guide();
    let report = Preflight::new(&guide).run(&machine(name)).unwrap();
    let problems = report.problems();
    assert_eq!(problems.is_empty(), report.outcome().is_ready());
    assert_eq!(report.outcome().exit_status(), u8::from(!problems.is_empty()));
    for problem in problems {
        assert!(!problem.message.is_empty());
        assert!(problem.fix.is_some() || problem.result.finding.verdict() == Verdict::Blocked, "{problem:?}");
    }
}

#[test]
fn a_wrong_expectation_is_told() {
    let guide = demo_guide();
    let text = MACHINES[0].text.replace("git = { verdict = \"unmet\", cause = \"tool-missing\" }", "git = { verdict = \"met\" }");
    let machine = Described::parse(&text).unwrap();
    let report = Preflight::new(&guide).run(&machine).unwrap();
    assert_eq!(machine.differences(&report), ["git is expected to be met and is unmet (tool-missing)"]);
}

#[test]
fn the_report_is_the_same_for_every_number_of_jobs() {
    let guide = demo_guide();
    let machine = machine("shared-server");
    let json = |jobs| {
        let selection = Selection { role: Some(1), ..Selection::default() };
        let mut report = Preflight::new(&guide).select(selection).jobs(jobs).on_progress(|_| ()).run(&machine).unwrap();
        report.frame.started = String::new();
        report.frame.elapsed_ms = 0;
        let mut text = Vec::new();
        write::json(&report, &mut text).unwrap();
        String::from_utf8(text).unwrap().lines().filter(|line| !line.contains("elapsed_ms")).collect::<Vec<_>>().join("\n")
    };
    let alone = json(1);
    assert!(alone.len() > 5_000);
    for jobs in [2, 3, 8, 32] {
        assert_eq!(json(jobs), alone);
    }
}

#[test]
fn every_message_about_every_machine_says_what_was_found_and_what_it_does_not_fit() {
    let guide = demo_guide();
    for machine in MACHINES {
        let described = Described::parse(machine.text).unwrap();
        let report = Preflight::new(&guide).run(&described).unwrap();
        let mut open = 0;
        for settled in &report.settled {
            let Some(reason) = settled.finding.reason() else { continue };
            open += 1;
            let (message, facts) = (report.message(settled), serde_json::to_value(reason).unwrap());
            assert_eq!(crate::values::left_out_of(&message, &facts), Vec::<String>::new(), "{}: {message}", machine.name);
        }
        assert!(open > 0 || report.outcome() == Outcome::Ready);
    }
}
