use super::{Plan, make};
use crate::guide::Then;
use crate::manager::Manager;
use crate::observation::{Candidate, CoreState, DeviceState, ManagerState, Observation, Processor};
use crate::prelude::*;
use crate::probe::Probe;
use crate::selection::Selection;
use crate::testing::{Script, debian, drive, guide};

fn plan(body: &str, script: &Script) -> Plan {
    let guide = guide(body);
    let settled = drive(&guide, script, Selection::default(), |_| 0).settled;
    make(&guide, &settled, None)
}

fn said(plan: &Plan) -> Vec<String> {
    plan.steps.iter().map(|step| format!("{} {:?} {:?}", step.fix.say, step.fix.run, step.settles)).collect()
}

#[test]
fn packages_become_one_command_and_a_sign_in_comes_once_and_last() {
    let mut script = debian();
    script.insert(
        Probe::Processor,
        Observation::Processor(Processor { able: Some(true), offered: Some(true), hypervisor: Some(false) }),
    );
    script.insert(
        Probe::Device { path: "/dev/kvm".into(), access: crate::guide::Access::Write },
        Observation::Device(DeviceState::Denied(Some("kvm".into()), None)),
    );
    script.insert(Probe::DatabaseGroups, Observation::DatabaseGroups(Vec::new()));
    let body = "
        [require.a]\ntool = \"a\"\npackages = { brew = \"a\", apt = \"a-pkg\" }
        [require.virt]\nvirtualization = \"usable\"\nlevel = \"should\"
        [require.b]\ntool = \"b\"\npackages = { apt = \"b-pkg\" }
        [require.c]\ntool = \"c\"\ntitle = \"the second of a\"\npackages = { apt = \"a-pkg\" }
        [require.d]\ntool = \"d\"\n[[require.d.fix]]\nsay = \"Fetch d.\"\nrun = \"fetch d\"\ndownload = \"10 MB\"\ntakes = \"90 s\"\n";
    let plan = plan(body, &script);
    let expected = [
        r#"Install a, b and the second of a with apt. ["sudo apt-get install a-pkg b-pkg"] [0, 2, 3]"#,
        r#"Fetch d. ["fetch d"] [4]"#,
        r#"Become a member of the group kvm. ["sudo usermod -aG kvm skipper"] [1]"#,
        "Sign out completely and in again, so that the changes above take effect. [] [1]",
    ];
    assert_eq!(said(&plan), expected);
    assert_eq!((plan.download_bytes, plan.takes_ms, plan.steps_of_unknown_cost), (10_000_000, 90_000, 2));
    assert_eq!(plan.then, [Then::SignIn]);
}

#[test]
fn old_lists_are_fetched_once_and_first() {
    let mut script = debian();
    let state = ManagerState { barred: None, lists_days: Some(40) };
    script.insert(Probe::ManagerState { manager: Manager::Apt }, Observation::ManagerState(state));
    for (package, candidate) in [("a", Candidate::Version("2.0".into())), ("b", Candidate::Absent), ("c", Candidate::Absent)] {
        let probe = Probe::Candidate { manager: Manager::Apt, package: package.into() };
        script.insert(probe, Observation::Candidate(candidate));
    }
    let tool = |name: &str| format!("[require.{name}]\ntool = \"{name}\"\npackages = {{ apt = \"{name}\" }}\n");
    let plan = plan(&["a", "b", "c"].map(tool).concat(), &script);
    let lists = "Have apt fetch its lists of packages anew, which are 40 days old: newer ones may have what is missing of b and c. Then check again.";
    let expected =
        [format!("{lists} [\"sudo apt-get update\"] [1, 2]"), "Install a. [\"sudo apt-get install a\"] [0]".to_owned()];
    assert_eq!(said(&plan), expected);
    let caution = plan.steps[0].fix.caution.as_deref().unwrap_or_default();
    assert!(caution.contains("apt knows no package b.") && caution.contains("apt knows no package c."), "{caution}");
}

#[test]
fn the_same_step_for_two_is_one_step() {
    let mut script = debian();
    script.insert(Probe::Cores, Observation::Cores(CoreState { online: 1, caps: Vec::new() }));
    let plan = plan("[require.a]\ncores = 2\nlevel = \"may\"\n[require.b]\ncores = 4\n", &script);
    assert_eq!(said(&plan), ["Work on a machine with more cores, or expect the build to take longer. [] [0, 1]"]);
    assert_eq!(plan.steps[0].level, crate::guide::Level::Must);
}

#[test]
fn a_restart_in_words_is_the_restart_and_makes_a_sign_in_needless() {
    let fixes = |id: &str, say: &str, then: &str| {
        format!("[require.{id}]\ntool = \"{id}\"\n[[require.{id}.fix]]\nsay = \"{say}\"\nthen = \"{then}\"\n")
    };
    let body = fixes("a", "Restart into the firmware.", "restart")
        + "[require.b]\ntool = \"b\"\n[[require.b.fix]]\nsay = \"Join.\"\nrun = \"join\"\nthen = \"sign-in\"\n";
    let plan = plan(&body, &debian());
    assert_eq!(said(&plan), [r#"Join. ["join"] [1]"#, "Restart into the firmware. [] [0, 1]"]);
    assert_eq!(plan.then, [Then::Restart]);
}

#[test]
fn a_step_comes_after_what_its_command_needs_and_after_what_that_needs_to_take_effect() {
    let fix = |id: &str, run: &str, more: &str| {
        format!("[require.{id}]\ntool = \"{id}\"\n[[require.{id}.fix]]\nsay = \"Get {id}.\"\nrun = \"{run}\"\n{more}\n")
    };
    let body = fix("chart", "sudo fetcher chart", "")
        + &fix("fetcher", "get fetcher", "then = \"new-shell\"")
        + &fix("buoy", "get buoy", "admin = true");
    let expected = [
        r#"Get buoy. ["sudo get buoy"] [2]"#,
        r#"Get fetcher. ["get fetcher"] [1]"#,
        "Open a new terminal, so that the changes above take effect. [] [1]",
        r#"Get chart. ["sudo fetcher chart"] [0]"#,
    ];
    assert_eq!(said(&plan(&body, &debian())), expected);
}

#[test]
fn of_alternatives_the_cheapest_is_in_the_plan_and_it_says_why() {
    let body = "
        [require.either]\nany_of = [\"a\", \"b\"]
        [require.a]\ntool = \"a\"\npackages = { apt = \"a-pkg\" }
        [require.b]\ntool = \"b\"\n[[require.b.fix]]\nsay = \"Get b.\"\nrun = \"get b\"\n";
    let plan = plan(body, &debian());
    assert_eq!(said(&plan), [r#"Get b. ["get b"] [0]"#]);
    assert_eq!(plan.steps[0].fix.choice.as_deref(), Some("b or a will do; b needs no admin rights."));
}
