use super::{Fix, Shell, Source, quote};
use crate::guide::Protocol;
use crate::manager::Manager;
use crate::observation::{
    Bar, Binding, Candidate, Choice, Elevator, FileKind, Holder, ManagerState, Observation, Offered, ProgramCopy, RunEnd,
    StartEffect, Trial,
};
use crate::prelude::*;
use crate::probe::{PortPlace, Probe};
use crate::testing::{Script, debian, program, settle};
use proptest::prelude::*;
use rstest::rstest;

fn first_fix(body: &str, script: &Script) -> Fix {
    let settled = settle(&format!("[require.x]\n{body}\n"), script);
    settled.first().unwrap().fixes.first().unwrap().clone()
}

fn account(script: &mut Script, change: impl FnOnce(&mut crate::observation::Account)) {
    if let Some(Observation::Account(account)) = script.get_mut(&Probe::Account) {
        change(account);
    }
}

const PACKAGED: &str = "tool = \"cmake\"\npackages = { dnf = \"cmake\", apt = \"cmake\" }";

#[test]
fn a_package_is_installed_as_this_person_can() {
    let mut script = debian();
    let probe = Probe::Candidate { manager: Manager::Apt, package: "cmake".into() };
    script.insert(probe, Observation::Candidate(Candidate::Version("3.25".into())));
    let fix = first_fix(PACKAGED, &script);
    assert_eq!((fix.run.as_slice(), fix.admin, fix.caution), (&["sudo apt-get install cmake".to_owned()][..], true, None));
    account(&mut script, |account| account.root = true);
    assert_eq!(first_fix(PACKAGED, &script).run, ["apt-get install cmake"]);
    account(&mut script, |account| {
        (account.root, account.admin, account.elevate) = (false, Some(false), Some(Elevator::Sudo));
    });
    assert!(first_fix(PACKAGED, &script).admin);
    account(&mut script, |account| (account.admin, account.elevate) = (Some(true), None));
    let fix = first_fix(PACKAGED, &script);
    assert_eq!(
        (fix.run.as_slice(), fix.caution.as_deref()),
        (&["apt-get install cmake".to_owned()][..], Some("There is no sudo here: do it as root."))
    );
}

#[test]
fn a_common_tools_package_is_known_where_the_guide_names_none() {
    assert_eq!(first_fix("tool = \"ninja\"", &debian()).run, ["sudo apt-get install ninja-build"]);
    // A guide that names packages, but none for this manager, is not overruled.
    assert!(first_fix("tool = \"ninja\"\npackages = { brew = \"ninja\" }", &debian()).run.is_empty());
    assert!(first_fix("tool = \"buoyctl\"", &debian()).run.is_empty());
}

#[test]
fn a_guides_fix_for_this_cause_and_machine_wins_over_the_built_in_one() {
    let fixes = "
        [[require.x.fix]]\nsay = \"For another cause.\"\ncause = \"tool-too-old\"
        [[require.x.fix]]\nsay = \"Go on from {found}.\"
        [[require.x.fix]]\nsay = \"For another system.\"\nwhen = \"macos\"
        [[require.x.fix]]\nsay = \"Get {wanted} as {user}.\"\nrun = [\"sudo get {wanted}\", \"get {wanted}\"]\nadmin = true\n";
    let fix = first_fix(&format!("{PACKAGED}\nversion = \">= 3.25\"{fixes}"), &debian());
    assert_eq!(fix.source, Source::Guide);
    assert_eq!(fix.say, "Get >= 3.25 as skipper.");
    assert_eq!(fix.run, ["sudo get '>= 3.25'", "sudo get '>= 3.25'"]);
}

#[test]
fn a_held_port_is_moved_where_the_project_allows_it_and_else_its_holder_is_stopped() {
    let place = PortPlace { protocol: Protocol::Tcp, address: None, port: 7070 };
    let mut script = debian();
    script.insert(Probe::PortBinding(place.clone()), Observation::PortBinding(Binding::Held));
    script.insert(Probe::FreePort(place.clone()), Observation::FreePort(Some(7072)));
    let mine = Holder { pid: Some(9), name: Some("lighthouse".into()), command: None, user: None, outgoing: None, unit: None };
    script.insert(Probe::PortHolder(place.clone()), Observation::PortHolder(Some(mine)));
    let setting = Probe::SettingNumber(crate::guide::SetBy::variable("SHORE_PORT", Some(".env".into())));
    script.insert(setting, Observation::SettingNumber(crate::observation::SettingNumber::Unset));
    assert_eq!(first_fix("port = 7070", &script).run, ["kill 9"]);
    let edit = first_fix("port = 7070\nset_by = { variable = \"SHORE_PORT\", env_file = \".env\" }", &script).edit.unwrap();
    assert_eq!((edit.file.as_str(), edit.append.as_str()), (".env", "SHORE_PORT=7072"));
    let hidden = Holder { pid: None, name: None, command: None, user: Some("purser".into()), outgoing: None, unit: None };
    script.insert(Probe::PortHolder(place), Observation::PortHolder(Some(hidden)));
    assert_eq!(first_fix("port = 7070", &script).run, ["sudo ss -lntup sport = :7070"]);
}

#[rstest]
#[case::bash("bash", "export PATH='/opt/a b':\"$PATH\"")]
#[case::fish("fish", "set -gx PATH '/opt/a b' $PATH")]
fn the_good_copy_is_put_first_in_the_words_of_the_shell(#[case] shell: &str, #[case] line: &str) {
    let mut script = debian();
    program(&mut script, "/usr/bin/cmake", RunEnd::Exit(0), "cmake 1.0");
    program(&mut script, "/opt/a b/cmake", RunEnd::Exit(0), "cmake 3.0");
    account(&mut script, |account| account.shell = Some(shell.into()));
    let edit = first_fix("tool = \"cmake\"\nversion = \">= 2\"", &script).edit.unwrap();
    assert_eq!((edit.file.as_str(), edit.append.as_str()), ("~/.bashrc", line));
}

#[test]
fn paths_in_commands_are_quoted() {
    let mut script = debian();
    let path = "/opt/it's; rm/cmake";
    let copy = ProgramCopy {
        path: path.into(),
        real_path: path.into(),
        executable: false,
        in_project: false,
        kind: FileKind::Unknown,
        lacks: Vec::new(),
        start: StartEffect::Quiet,
        choice: Choice::Itself,
        by_relative_entry: false,
    };
    script.insert(Probe::Program { name: "cmake".into() }, Observation::Program(vec![copy]));
    assert_eq!(first_fix("tool = \"cmake\"", &script).run, [r"chmod +x '/opt/it'\''s; rm/cmake'"]);
}

/// What a POSIX shell makes of one quoted word (POSIX Shell 2.2).
fn unquoted(word: &str) -> Option<String> {
    let mut plain = String::new();
    let mut rest = word;
    while !rest.is_empty() {
        if let Some(inner) = rest.strip_prefix('\'') {
            let (text, after) = inner.split_once('\'')?;
            plain.push_str(text);
            rest = after;
        } else if let Some(after) = rest.strip_prefix('\\') {
            let first = after.chars().next()?;
            plain.push(first);
            rest = &after[first.len_utf8()..];
        } else {
            let first = rest.chars().next()?;
            if " \t\n$`\"*?[];&|<>(){}~#!".contains(first) {
                return None;
            }
            plain.push(first);
            rest = &rest[first.len_utf8()..];
        }
    }
    Some(plain)
}

proptest! {
    #[test]
    fn any_text_is_one_word_of_a_shell(text in "[a-z '\"$`\\\\\n*~-]{0,12}") {
        let word = quote(&text, Shell::Posix);
        prop_assert!(!word.is_empty());
        prop_assert_eq!(unquoted(&word), Some(text));
    }
}

#[rstest]
#[case::plain_paths(r"C:\Users\mate\charts", r"C:\Users\mate\charts", r"C:\Users\mate\charts")]
#[case::spaces_and_quotes("C:\\the mate's", "'C:\\the mate''s'", "\"C:\\the mate's\"")]
#[case::signs_of_the_prompt("a&b^c|d>e", "'a&b^c|d>e'", "\"a&b^c|d>e\"")]
#[case::variables("%PATH% $HOME", "'%PATH% $HOME'", "\"\"^%\"PATH\"^%\" $HOME\"")]
#[case::line_ends("a\nb", "'a\nb'", "\"ab\"")]
fn words_are_quoted_for_the_shells_of_windows(#[case] text: &str, #[case] powershell: &str, #[case] prompt: &str) {
    assert_eq!((quote(text, Shell::PowerShell).as_str(), quote(text, Shell::Cmd).as_str()), (powershell, prompt));
}

#[test]
fn a_group_that_is_as_good_as_admin_rights_says_so() {
    let caution = |group: &str| {
        let mut script = debian();
        script.insert(Probe::Group { name: group.into() }, Observation::Group(true));
        script.insert(Probe::DatabaseGroups, Observation::DatabaseGroups(Vec::new()));
        first_fix(&format!("group = \"{group}\""), &script).caution.unwrap_or_default()
    };
    assert!(caution("disk").starts_with("This group is as good as admin rights"));
    assert!(caution("engine").starts_with("Look at what the members of this group may do"));
    assert_eq!(caution("dialout"), "");
}

#[test]
fn without_admin_rights_a_package_that_stands_alone_is_unpacked_at_home() {
    let mut script = debian();
    account(&mut script, |account| account.admin = Some(false));
    let offered = |others| Candidate::Version(Offered { others, ..Offered::from("3.25") });
    let probe = Probe::Candidate { manager: Manager::Apt, package: "cmake".into() };
    script.insert(probe.clone(), Observation::Candidate(offered(Some(0))));
    let fix = first_fix(PACKAGED, &script);
    assert!(!fix.admin && fix.run[1] == "env -C ~/.local/opt/cmake apt-get download cmake", "{fix:?}");
    // What brings others along would not run without them.
    script.insert(probe, Observation::Candidate(offered(Some(2))));
    let fix = first_fix(PACKAGED, &script);
    assert!(fix.admin);
}

#[rstest]
#[case::new_enough("1:3.25.1-1", Some("sudo apt-get install cmake"), "Install cmake.")]
#[case::too_old(
    "3.22.1-1",
    None,
    "Install cmake in a version that is >= 3.25. The package cmake of apt is 3.22.1-1, which does not do. How: https://driftbuoy.example"
)]
#[case::of_another_numbering("rolling", Some("sudo apt-get install cmake"), "Install cmake.")]
fn a_package_is_only_offered_where_its_version_would_do(#[case] version: &str, #[case] command: Option<&str>, #[case] say: &str) {
    let body = format!("{PACKAGED}\nversion = \">= 3.25\"\ndocs = \"https://driftbuoy.example\"");
    let mut script = debian();
    let probe = Probe::Candidate { manager: Manager::Apt, package: "cmake".into() };
    script.insert(probe.clone(), Observation::Candidate(Candidate::Version(version.into())));
    let fix = first_fix(&body, &script);
    assert_eq!((fix.run.first().map(String::as_str), fix.say.as_str()), (command, say));
    // Another manager that is here may have a newer one.
    script.insert(Probe::Managers, Observation::Managers(vec![Manager::Apt, Manager::Dnf]));
    let dnf = Probe::Candidate { manager: Manager::Dnf, package: "cmake".into() };
    script.insert(dnf, Observation::Candidate(Candidate::Version("3.30".into())));
    assert_eq!(first_fix(&body, &script).run.first().map(String::as_str), Some(command.unwrap_or("sudo dnf install cmake")));
    script.insert(probe, Observation::Candidate(Candidate::Absent));
    script.insert(Probe::Managers, Observation::Managers(vec![Manager::Apt]));
    assert!(first_fix(&body, &script).say.contains("apt knows no package cmake."));
}

#[rstest]
#[case::it_cannot_be_installed(
    Trial::Refused("cmake : Depends: mooring but it is not installable".into()),
    (None, 0),
    &[],
    "The package cmake of apt cannot be installed here: cmake : Depends: mooring but it is not installable."
)]
#[case::it_would_remove_another(
    Trial::Removes(vec!["tree".into()]),
    (None, 0),
    &[],
    "Installing the package cmake of apt would remove tree: decide which of them you need."
)]
#[case::something_is_half_installed(
    Trial::Unfinished,
    (None, 0),
    &["sudo apt-get --fix-broken install", "sudo apt-get install cmake"],
    "Have apt repair what is half installed. Then: Install cmake."
)]
#[case::another_installation_runs(
    Trial::Unhindered,
    (Some(Bar::Process(4711)), 0),
    &["sudo apt-get install cmake"],
    "Another installation is running (process 4711): wait until it has ended. Then: Install cmake."
)]
#[case::one_was_broken_off(
    Trial::Unhindered,
    (Some(Bar::BrokenOff), 0),
    &["sudo dpkg --configure -a", "sudo apt-get install cmake"],
    "Bring the installation to its end that was broken off. Then: Install cmake."
)]
#[case::the_lists_are_old(
    Trial::Unhindered,
    (None, 200),
    &["sudo apt-get update", "sudo apt-get install cmake"],
    "Have apt fetch its lists of packages anew: they are 200 days old, and may name what is gone. Then: Install cmake."
)]
#[case::newer_lists_may_have_what_it_needs(
    Trial::Refused("cmake : Depends: mooring".into()),
    (None, 30),
    &["sudo apt-get update"],
    "Have apt fetch its lists of packages anew, which are 30 days old: newer ones may have what is missing of cmake. Then check again."
)]
#[case::it_is_held_back(
    Trial::Held,
    (None, 0),
    &["sudo apt-get install --allow-change-held-packages cmake"],
    "Install cmake."
)]
fn the_manager_is_asked_what_an_installation_would_do(
    #[case] trial: Trial,
    #[case] (barred, lists_days): (Option<Bar>, u64),
    #[case] run: &[&str],
    #[case] words: &str,
) {
    let mut script = debian();
    let probe = Probe::Candidate { manager: Manager::Apt, package: "cmake".into() };
    script.insert(probe, Observation::Candidate(Candidate::Version(Offered { trial, ..Offered::from("3.25") })));
    let state = ManagerState { barred, lists_days: Some(lists_days) };
    script.insert(Probe::ManagerState { manager: Manager::Apt }, Observation::ManagerState(state));
    let fix = first_fix(PACKAGED, &script);
    assert_eq!(fix.run, run, "{}", fix.say);
    assert!(fix.say.contains(words), "{}", fix.say);
}

#[rstest]
#[case::it_did_not_answer(Observation::CouldNotLook("apt-cache did not answer in time".into()))]
#[case::it_was_not_tried(Observation::Candidate(Candidate::Version(Offered {
    trial: Trial::NotTried("apt-get did not answer in time".into()),
    ..Offered::from("3.25")
})))]
fn what_was_not_checked_is_said(#[case] answer: Observation) {
    let mut script = debian();
    script.insert(Probe::Candidate { manager: Manager::Apt, package: "cmake".into() }, answer);
    let fix = first_fix(PACKAGED, &script);
    assert_eq!(fix.run, ["sudo apt-get install cmake"]);
    let told = fix.not_checked.unwrap();
    assert!(told.starts_with("Not checked whether apt can install cmake here: apt-"), "{told}");
    assert!(fix.caution.unwrap().contains(&told));
}

#[test]
fn a_missing_library_is_installed_again_with_its_package() {
    let mut script = debian();
    let words = "/usr/bin/jq: error while loading shared libraries: libonig.so.5: cannot open shared object file: No such file or directory";
    program(&mut script, "/usr/bin/jq", RunEnd::Exit(127), words);
    let owner = Some((Manager::Apt, "libonig5".to_owned()));
    script.insert(Probe::PackageOf { file: "libonig.so.5".into() }, Observation::PackageOf(owner));
    let fix = first_fix("tool = \"jq\"", &script);
    assert_eq!(fix.run, ["sudo apt-get install --reinstall libonig5"]);
    assert_eq!(fix.say, "Install the package libonig5 again: libonig.so.5 is one of its files, and is gone.");
}

#[test]
fn the_package_that_has_the_program_is_offered_where_none_is_named() {
    let mut script = debian();
    script.insert(Probe::Managers, Observation::Managers(vec![Manager::Dnf]));
    let candidate = |package: &str| Probe::Candidate { manager: Manager::Dnf, package: package.into() };
    script.insert(candidate("buoyctl"), Observation::Candidate(Candidate::Absent));
    script.insert(candidate("buoy-tools"), Observation::Candidate(Candidate::Version("2.0".into())));
    let provider = Probe::Provider { manager: Manager::Dnf, program: "buoyctl".into() };
    // What cannot be the name of a package stands in no command.
    script.insert(provider.clone(), Observation::Provider(Some("buoy;reboot".into())));
    assert!(first_fix("tool = \"buoyctl\"", &script).run.is_empty());
    script.insert(provider, Observation::Provider(Some("buoy-tools".into())));
    let fix = first_fix("tool = \"buoyctl\"", &script);
    assert_eq!(fix.run, ["sudo dnf install buoy-tools"]);
    assert!(fix.caution.unwrap().contains("this one has a program of that name"));
}

#[test]
fn a_unit_that_has_a_port_is_stopped_by_its_manager() {
    let mut script = debian();
    let place = PortPlace { protocol: Protocol::Tcp, address: None, port: 7070 };
    script.insert(Probe::PortBinding(place.clone()), Observation::PortBinding(Binding::Held));
    let unit = Some("shore-old.socket".to_owned());
    let holder = Holder { pid: None, name: None, command: None, user: Some("root".into()), outgoing: None, unit };
    script.insert(Probe::PortHolder(place), Observation::PortHolder(Some(holder)));
    assert_eq!(first_fix("port = 7070", &script).run, ["sudo systemctl stop shore-old.socket"]);
}

#[test]
fn a_package_of_the_tools_name_is_offered_where_nobody_names_one() {
    let mut script = debian();
    let probe = Probe::Candidate { manager: Manager::Apt, package: "buoyctl".into() };
    script.insert(probe.clone(), Observation::Candidate(Candidate::Version("2.0".into())));
    let fix = first_fix("tool = \"buoyctl\"\nversion = \">= 2\"", &script);
    assert_eq!(fix.run, ["sudo apt-get install buoyctl"]);
    assert!(fix.caution.unwrap().contains("only has the same name"));
    // One that would not do is not offered, and neither is one where the guide names others.
    assert!(first_fix("tool = \"buoyctl\"\nversion = \">= 3\"", &script).run.is_empty());
    assert!(first_fix("tool = \"buoyctl\"\npackages = { dnf = \"buoyctl\" }", &script).run.is_empty());
}
