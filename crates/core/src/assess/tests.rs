use crate::cause::Cause;
use crate::finding::Verdict;
use crate::guide::Protocol;
use crate::observation::{
    Binding, Choice, CoreCap, CoreState, DeviceState, DiskLimit, DiskRoom, FileKind, Holder, MemoryCap, MemoryState, Observation,
    Processor, ProgramCopy, RunEnd, SettingNumber, StartEffect, StartFailure, Surroundings,
};
use crate::prelude::*;
use crate::probe::{Permission, PortPlace, Probe};
use crate::selection::Selection;
use crate::testing::{Script, debian, drive, find, guide, program, told};
use rstest::rstest;

mod virtualization;

fn holds(body: &str, script: &Script, verdict: Verdict, cause: Option<Cause>, message: &str) {
    let finding = find(body, script);
    assert_eq!((finding.verdict, finding.cause), (verdict, cause), "{}", finding.message);
    assert_eq!(finding.message, message);
    assert!(!finding.finding.evidence.is_empty());
}

const CMAKE: &str = "tool = \"cmake\"\nversion = \">= 3.25, < 5, != 3.26.1\"";

#[rstest]
#[case::in_the_range(RunEnd::Exit(0), "cmake version 3.30.5", None, "cmake 3.30.5 is at /usr/bin/cmake.")]
#[case::too_old(
    RunEnd::Exit(0),
    "cmake version 3.22.1",
    Some(Cause::ToolTooOld),
    "cmake 3.22.1 is older than 3.25, which this project needs."
)]
#[case::too_new(
    RunEnd::Exit(0),
    "cmake version 5.0",
    Some(Cause::ToolTooNew),
    "cmake 5.0 is too new: this project works with >= 3.25, < 5, != 3.26.1."
)]
#[case::ruled_out(
    RunEnd::Exit(0),
    "cmake version 3.26.1",
    Some(Cause::ToolExcluded),
    "cmake 3.26.1 is ruled out: this project works with >= 3.25, < 5, != 3.26.1."
)]
#[case::silent(
    RunEnd::Exit(0),
    "hello",
    Some(Cause::ToolSilent),
    "/usr/bin/cmake ran, but nothing that it printed looks like a version. It said: hello"
)]
#[case::stuck(
    RunEnd::TimeUp(2_500),
    "",
    Some(Cause::ToolStuck),
    "/usr/bin/cmake was still running after 2.5 s and was stopped, with all that it had started."
)]
#[case::failing(
    RunEnd::Exit(3),
    "",
    Some(Cause::ToolFailed),
    "/usr/bin/cmake ended with an error (exit status 3) when asked for its version."
)]
#[case::crashing(
    RunEnd::Signal(11),
    "",
    Some(Cause::ToolFailed),
    "/usr/bin/cmake crashed (signal 11) when asked for its version."
)]
#[case::without_its_loader(
    RunEnd::NotStarted(StartFailure::PieceMissing, String::new()),
    "",
    Some(Cause::ToolBroken),
    "/usr/bin/cmake is there, but its loader or the interpreter named in its first line is missing."
)]
#[case::for_another_processor(
    RunEnd::NotStarted(StartFailure::Format, String::new()),
    "",
    Some(Cause::ToolWrongArch),
    "/usr/bin/cmake is not a program for this machine's kind of processor, or not a program at all."
)]
#[case::where_nothing_starts(RunEnd::NotStarted(StartFailure::NothingStarts, "no /dev/null".into()), "", Some(Cause::CouldNotLook), "cmake at /usr/bin/cmake could not be asked: no program can be started here: no /dev/null.")]
fn a_tool_is_judged_by_what_it_prints(
    #[case] end: RunEnd,
    #[case] stdout: &str,
    #[case] cause: Option<Cause>,
    #[case] message: &str,
) {
    let mut script = debian();
    program(&mut script, "/usr/bin/cmake", end, stdout);
    let verdict = match cause {
        None => Verdict::Met,
        Some(Cause::ToolSilent | Cause::ToolStuck | Cause::CouldNotLook) => Verdict::Unknown,
        Some(_) => Verdict::Unmet,
    };
    holds(CMAKE, &script, verdict, cause, message);
}

#[rstest]
#[case::by_the_catalogue("tool = \"java\"\nversion = \">= 17\"", "java", "-version", "openjdk version \"17.0.21\" 2026-01-20")]
#[case::by_the_guide(
    "tool = \"buoyctl\"\nversion = \">= 17\"\nargs = [\"--version\"]",
    "buoyctl",
    "--version",
    "buoyctl 17.0.21"
)]
#[case::by_custom("tool = \"buoyctl\"\nversion = \">= 2\"", "buoyctl", "--version", "buoyctl 2.1")]
fn a_tool_is_asked_as_it_wants_to_be(#[case] body: &str, #[case] name: &str, #[case] argument: &str, #[case] prints: &str) {
    let mut script = debian();
    let path = format!("/usr/bin/{name}");
    program(&mut script, &path, RunEnd::Exit(1), "asked in the wrong way");
    let run = crate::observation::Run { end: RunEnd::Exit(0), stdout: prints.into(), stderr: String::new(), cut: false };
    script.insert(Probe::Run { path, arguments: vec![argument.into()], permission: Permission::Question }, Observation::Run(run));
    assert_eq!(find(body, &script).verdict, Verdict::Met);
}

#[test]
fn a_tool_that_is_nowhere_is_missing() {
    let message = "cmake was not found: it is not installed, or not in a folder where your shell looks (PATH).";
    holds(CMAKE, &debian(), Verdict::Unmet, Some(Cause::ToolMissing), message);
    let message = "cmake is not on PATH, as wanted.";
    holds("tool = \"cmake\"\nexpect = \"absent\"", &debian(), Verdict::Met, None, message);
}

#[test]
fn a_good_copy_behind_a_bad_one_is_named_and_links_to_the_bad_one_are_not_run() {
    let mut script = debian();
    for (path, version) in [("/opt/bin/cmake", "3.22.1"), ("/usr/local/bin/cmake", "3.22.1"), ("/usr/bin/cmake", "3.28.3")] {
        program(&mut script, path, RunEnd::Exit(0), &format!("cmake version {version}"));
    }
    if let Some(Observation::Program(copies)) = script.get_mut(&Probe::Program { name: "cmake".into() }) {
        copies[1].real_path = "/opt/bin/cmake".into();
    }
    script.remove(&Probe::Run {
        path: "/usr/local/bin/cmake".into(),
        arguments: vec!["--version".into()],
        permission: Permission::Question,
    });
    let message = "cmake 3.22.1 is older than 3.25, which this project needs. A copy that would do (3.28.3) is at /usr/bin/cmake, but \
                   PATH names the folder of /opt/bin/cmake first.";
    holds(CMAKE, &script, Verdict::Unmet, Some(Cause::ToolShadowed), message);
}

#[rstest]
#[case::its_args_are_not_customary(
    "args = [\"--init\"]",
    false,
    "/usr/bin/cmake was not run, because the guide starts it with `--init`, which is more than a question that is known to be harmless, and that needs your consent."
)]
#[case::a_bare_word_may_name_a_file(
    "args = [\"version\"]",
    false,
    "/usr/bin/cmake was not run, because the guide starts it with `version`, which is more than a question that is known to be harmless, and that needs your consent."
)]
#[case::it_lies_in_the_project(
    "",
    true,
    "/usr/bin/cmake was not run, because the project brings it, and that needs your consent."
)]
fn nothing_beyond_a_version_is_run_without_consent(#[case] args: &str, #[case] in_project: bool, #[case] message: &str) {
    let mut script = debian();
    let copy = ProgramCopy {
        path: "/usr/bin/cmake".into(),
        real_path: "/usr/bin/cmake".into(),
        executable: true,
        in_project,
        kind: FileKind::Unknown,
        lacks: Vec::new(),
        start: StartEffect::Quiet,
        choice: Choice::Itself,
        by_relative_entry: false,
    };
    script.insert(Probe::Program { name: "cmake".into() }, Observation::Program(vec![copy]));
    let finding = find(&format!("tool = \"cmake\"\n{args}"), &script);
    assert_eq!((finding.verdict, finding.cause), (Verdict::Unknown, Some(Cause::CommandNoConsent)));
    assert_eq!(finding.message, message);
    assert!(finding.finding.evidence.iter().all(|answer| !matches!(*answer.probe, Probe::Run { .. })));
}

#[rstest]
#[case::a_second_form_after_a_refusal("buoyctl", RunEnd::Exit(2), Cause::ToolSilent, 1)]
#[case::what_stops_the_machine("reboot", RunEnd::Exit(0), Cause::ToolSilent, 0)]
#[case::what_makes_filesystems("mkfs.ext4", RunEnd::Exit(0), Cause::ToolSilent, 0)]
fn a_program_is_not_started_with(#[case] name: &str, #[case] end: RunEnd, #[case] cause: Cause, #[case] runs: usize) {
    let mut script = debian();
    program(&mut script, &format!("/usr/bin/{name}"), end, "unknown option");
    let finding = find(&format!("tool = \"{name}\"\nversion = \">= 2\""), &script);
    assert_eq!((finding.verdict, finding.cause), (Verdict::Unknown, Some(cause)), "{}", finding.message);
    assert_eq!(finding.finding.evidence.iter().filter(|answer| matches!(*answer.probe, Probe::Run { .. })).count(), runs);
    let there = find(&format!("tool = \"{name}\""), &script);
    assert_eq!(there.verdict, Verdict::Met, "that it is there needs no start");
}

fn with_copy(script: &mut Script, elsewhere: bool, path: &str, kind: FileKind) {
    let copy = ProgramCopy {
        path: path.into(),
        real_path: path.into(),
        executable: true,
        in_project: false,
        kind,
        lacks: Vec::new(),
        start: StartEffect::Quiet,
        choice: Choice::Itself,
        by_relative_entry: false,
    };
    let name = "cmake".to_owned();
    if elsewhere {
        script.insert(
            Probe::ProgramElsewhere { name, packages: vec![(crate::manager::Manager::Apt, "cmake".to_owned())] },
            Observation::ProgramElsewhere(vec![copy]),
        );
    } else {
        script.insert(Probe::Program { name }, Observation::Program(vec![copy]));
    }
}

#[test]
fn a_tool_off_path_is_named_and_not_started() {
    let mut script = debian();
    with_copy(&mut script, true, "/opt/cmake/bin/cmake", FileKind::Unknown);
    let message = "cmake is installed at /opt/cmake/bin/cmake, but your shell does not look in that folder (it is not on PATH).";
    holds(CMAKE, &script, Verdict::Unmet, Some(Cause::ToolOffPath), message);
    // A placeholder off PATH is nothing to put on it.
    with_copy(&mut script, true, "/opt/cmake/bin/cmake", FileKind::Placeholder);
    assert_eq!(find(CMAKE, &script).cause, Some(Cause::ToolMissing));
}

#[rstest]
#[case::a_placeholder(
    FileKind::Placeholder,
    Some(Cause::ToolPlaceholder),
    "/usr/bin/cmake only stands in for the program: starting it would offer to install the real one. It was not started."
)]
#[case::for_another_processor(FileKind::Built(vec!["aarch64".into()]), Some(Cause::ToolWrongArch), "/usr/bin/cmake is built for aarch64, and this machine's processor is x86_64.")]
#[case::for_several(FileKind::Built(vec!["aarch64".into(), "x86_64".into()]), None, "cmake 3.30 is at /usr/bin/cmake.")]
#[case::for_an_older_one_that_may_run(FileKind::Built(vec!["i686".into()]), None, "cmake 3.30 is at /usr/bin/cmake.")]
#[case::a_script(FileKind::Script("/bin/sh".into()), None, "cmake 3.30 is at /usr/bin/cmake.")]
fn what_the_file_says_need_not_be_tried(#[case] kind: FileKind, #[case] cause: Option<Cause>, #[case] message: &str) {
    let mut script = debian();
    program(&mut script, "/usr/bin/cmake", RunEnd::Exit(0), "cmake version 3.30");
    with_copy(&mut script, false, "/usr/bin/cmake", kind);
    let finding = find(CMAKE, &script);
    assert_eq!((finding.cause, finding.message.as_str()), (cause, message));
    let started = finding.finding.evidence.iter().any(|answer| matches!(*answer.probe, Probe::Run { .. }));
    assert_eq!(started, cause.is_none());
}

#[test]
fn a_placeholder_behind_a_copy_that_will_not_do_is_not_started() {
    let mut script = debian();
    program(&mut script, "/opt/bin/cmake", RunEnd::Exit(0), "cmake version 3.1");
    program(&mut script, "/usr/bin/cmake", RunEnd::Exit(0), "cmake version 3.30");
    if let Some(Observation::Program(copies)) = script.get_mut(&Probe::Program { name: "cmake".into() }) {
        copies[1].kind = FileKind::Placeholder;
    }
    let guide = guide(&format!("[require.x]\n{CMAKE}\n"));
    let finished = drive(&guide, &script, Selection::default(), |_| 0);
    assert_eq!(finished.settled[0].finding.cause(), Some(Cause::ToolTooOld));
    let started =
        Probe::Run { path: "/usr/bin/cmake".into(), arguments: vec!["--version".into()], permission: Permission::Question };
    assert!(finished.known.get(&started).is_none());
}

#[rstest]
#[case::no_version_chosen(1, "No version is set for command cmake", Cause::ToolUnselected)]
#[case::a_chosen_version_that_is_not_there(
    1,
    "version 3.30 is not installed (set by /home/mate/.version)",
    Cause::ToolUnselected
)]
#[case::a_missing_library(
    127,
    "cmake: error while loading shared libraries: libbuoy.so.3: cannot open shared object file",
    Cause::ToolBroken
)]
#[case::an_interpreter_that_env_cannot_find(127, "/usr/bin/env: 'python3.9': No such file or directory", Cause::ToolBroken)]
#[case::a_file_that_the_program_misses_itself(2, "cmake 3.30: settings: No such file or directory", Cause::ToolFailed)]
fn a_failing_program_is_believed_where_its_words_prove_it(#[case] status: i32, #[case] words: &str, #[case] cause: Cause) {
    let mut script = debian();
    program(&mut script, "/usr/bin/cmake", RunEnd::Exit(status), words);
    let finding = find("tool = \"cmake\"\nversion = \">= 99\"", &script);
    let expected = if cause == Cause::ToolFailed { Cause::ToolTooOld } else { cause };
    assert_eq!(finding.cause, Some(expected), "{}", finding.message);
}

fn place(port: u16) -> PortPlace {
    PortPlace { protocol: Protocol::Tcp, address: None, port }
}

#[rstest]
#[case::free(Binding::Free, None, "TCP port 7070 is free.")]
#[case::held(Binding::Held, Some(Cause::PortHeld), "TCP port 7070 is already in use by lighthouse (process 9).")]
#[case::privileged(
    Binding::Denied(Some(8000)),
    Some(Cause::PortPrivileged),
    "TCP port 7070 is below 8000, and only the administrator may open such ports on this machine."
)]
#[case::reserved(
    Binding::Reserved,
    Some(Cause::PortReserved),
    "TCP port 7070 is reserved by the system, although no program uses it."
)]
#[case::nowhere(
    Binding::NoAddress,
    Some(Cause::PortNoAddress),
    "This machine does not have the address, so nothing can be served there."
)]
fn a_port_is_judged_by_binding_it(#[case] binding: Binding, #[case] cause: Option<Cause>, #[case] message: &str) {
    let mut script = debian();
    let holder = Holder { pid: Some(9), name: Some("lighthouse".into()), command: None, user: None, outgoing: None, unit: None };
    script.insert(Probe::PortBinding(place(7070)), Observation::PortBinding(binding));
    script.insert(Probe::PortHolder(place(7070)), Observation::PortHolder(Some(holder)));
    script.insert(Probe::FreePort(place(7070)), Observation::FreePort(Some(7071)));
    holds("port = 7070", &script, if cause.is_some() { Verdict::Unmet } else { Verdict::Met }, cause, message);
    if cause == Some(Cause::PortHeld) {
        let message = "TCP port 7070 is held by lighthouse (process 9), as it should be.";
        holds("port = 7070\nheld_ok = [\"lighthouse\"]", &script, Verdict::Met, None, message);
    }
}

#[rstest]
#[case::set(SettingNumber::Number(8080, ".env, line 3".into()), None, "TCP port 8080 is free (SHORE_PORT in .env, line 3 sets the number).")]
#[case::not_set(
    SettingNumber::Unset,
    Some(Cause::PortHeld),
    "TCP port 7070 is already in use by another user's program; only the administrator can see which one."
)]
#[case::too_high(SettingNumber::Number(70_000, "the environment".into()), Some(Cause::PortNotAPort), "SHORE_PORT, set in the environment, holds 70000. A port is a number from 1 to 65535.")]
#[case::no_number(SettingNumber::NotANumber(".env, line 3".into()), Some(Cause::PortNotAPort), "SHORE_PORT, set in .env, line 3, holds something that is no number. A port is a number from 1 to 65535.")]
fn a_port_comes_from_where_the_project_reads_it(
    #[case] setting: SettingNumber,
    #[case] cause: Option<Cause>,
    #[case] message: &str,
) {
    let mut script = debian();
    let probe = Probe::SettingNumber(crate::guide::SetBy::variable("SHORE_PORT", Some(".env".into())));
    script.insert(probe, Observation::SettingNumber(setting));
    script.insert(Probe::PortBinding(place(8080)), Observation::PortBinding(Binding::Free));
    script.insert(Probe::PortBinding(place(7070)), Observation::PortBinding(Binding::Held));
    let body = "port = 7070\nset_by = { variable = \"SHORE_PORT\", env_file = \".env\" }";
    holds(body, &script, if cause.is_some() { Verdict::Unmet } else { Verdict::Met }, cause, message);
}

fn room(path: &str, filesystem: &str, gigabytes: u64) -> (Probe, Observation) {
    let room = DiskRoom {
        path: path.into(),
        existing: path.into(),
        filesystem: filesystem.into(),
        available_bytes: gigabytes * 1_000_000_000,
        available_inodes: Some(1_000),
        limited_by: path.contains("quota").then_some(DiskLimit::Quota),
        read_only: path.contains("cdrom"),
        writable: !path.contains("root"),
    };
    (Probe::DiskRoom { path: path.into() }, Observation::DiskRoom(room))
}

#[rstest]
#[case::enough("disk = \"10 GB\"\nat = \"/a\"", None, "15 GB is free at /a.")]
#[case::short(
    "disk = \"20 GB\"\nat = \"/a\"",
    Some(Cause::DiskShort),
    "At /a, 15 GB is free for you, and 20 GB is needed: 5 GB short."
)]
#[case::short_by_quota(
    "disk = \"20 GB\"\nat = \"/quota\"",
    Some(Cause::DiskShort),
    "At /quota, 15 GB is left of your quota, and 20 GB is needed: 5 GB short."
)]
#[case::read_only(
    "disk = \"1 GB\"\nat = \"/cdrom\"",
    Some(Cause::DiskReadOnly),
    "The disk that holds /cdrom is mounted read-only: nothing can be written there."
)]
#[case::not_mine("disk = \"1 GB\"\nat = \"/root\"", Some(Cause::DiskNoPermission), "You may not write at /root.")]
#[case::too_many_files(
    "disk = \"1 GB\"\nat = \"/a\"\ninodes = 5000",
    Some(Cause::DiskInodesShort),
    "The disk that holds /a can take 1000 more files, and 5000 are needed."
)]
fn a_disk_is_judged_by_what_may_be_written(#[case] body: &str, #[case] cause: Option<Cause>, #[case] message: &str) {
    let mut script = debian();
    script.extend([room("/a", "8", 15), room("/cdrom", "9", 15), room("/root", "8", 15), room("/quota", "8", 15)]);
    holds(body, &script, if cause.is_some() { Verdict::Unmet } else { Verdict::Met }, cause, message);
}

#[test]
fn disks_that_fit_alone_but_not_together_say_so_and_others_are_left_out() {
    let mut script = debian();
    script.extend([room("/a", "8", 15), room("/b", "8", 15), room("/c", "9", 15), room("/d", "8", 15)]);
    let guide = "[require.a]\ndisk = \"6 GB\"\nat = \"/a\"\n[require.b]\ndisk = \"12 GB\"\nat = \"/b\"\n[require.c]\ndisk = \"12 GB\"\nat = \
                 \"/c\"\n[require.d]\ndisk = \"9 GB\"\nat = \"/d\"\nwhen = \"windows\"\n";
    let guide = self::guide(guide);
    let settled = drive(&guide, &script, Selection::default(), |_| 0).settled;
    let causes: Vec<Option<Cause>> = settled.iter().map(|one| one.finding.cause()).collect();
    assert_eq!(causes, [Some(Cause::DiskShortTogether), Some(Cause::DiskShortTogether), None, None]);
    let expected = "6 GB would fit alone, but disk space at /b (12 GB) must go on the same disk. Together they need 18 GB, and 15 GB is \
                    free for you: 3 GB short.";
    assert_eq!(told(&guide, &settled[0]).message, expected);
}

#[rstest]
#[case::enough(8, None, "memory = \"4 GB\"", None, "8 GB of memory can be used.")]
#[case::short(
    2,
    None,
    "memory = \"4 GB\"",
    Some(Cause::MemoryShort),
    "This machine has 2 GB of memory in all, and 4 GB is needed."
)]
#[case::capped(
    8,
    Some(3),
    "memory = \"4 GB\"",
    Some(Cause::MemoryCapped),
    "This machine has 8 GB of memory, but the control group /box lets you use only 3 GB, and 4 GB is needed."
)]
#[case::busy(
    8,
    None,
    "memory = \"4 GB\"\nfree = true",
    Some(Cause::MemoryBusy),
    "This machine has enough memory, but only 1 GB of it is free at the moment, and 4 GB is needed."
)]
fn memory_is_what_can_be_used(
    #[case] total: u64,
    #[case] cap: Option<u64>,
    #[case] body: &str,
    #[case] cause: Option<Cause>,
    #[case] message: &str,
) {
    let gigabyte = 1_000_000_000;
    let caps = cap.map(|cap| MemoryCap { by: "the control group /box".into(), bytes: cap * gigabyte }).into_iter().collect();
    let mut script = debian();
    script.insert(
        Probe::Memory,
        Observation::Memory(MemoryState { total: total * gigabyte, available: Some(gigabyte), caps, swap: None }),
    );
    holds(body, &script, if cause.is_some() { Verdict::Unmet } else { Verdict::Met }, cause, message);
}

#[rstest]
#[case::enough(4, None, None, "4 processor cores can be used.")]
#[case::short(1, None, Some(Cause::CoresShort), "This machine has 1 processor core, and 2 are needed.")]
#[case::capped(
    8,
    Some(150),
    Some(Cause::CoresCapped),
    "This machine has 8 processor cores, but the control group /box lets you use only 1.5, and 2 are needed."
)]
fn cores_are_those_that_can_be_used(
    #[case] online: u64,
    #[case] cap: Option<u64>,
    #[case] cause: Option<Cause>,
    #[case] message: &str,
) {
    let caps = cap.map(|hundredths| CoreCap { by: "the control group /box".into(), hundredths }).into_iter().collect();
    let mut script = debian();
    script.insert(Probe::Cores, Observation::Cores(CoreState { online, caps }));
    holds("cores = 2", &script, if cause.is_some() { Verdict::Unmet } else { Verdict::Met }, cause, message);
}

#[rstest]
#[case::one_of_them("system = { linux = \">= 5.10\", macos = \"any\" }", None, "This is debian 12, Linux 6.1.0, x86_64.")]
#[case::another_system("system = { windows = \"any\" }", Some(Cause::SystemOther), "This project does not work on Linux.")]
#[case::too_old(
    "system = { linux = \">= 6.2\" }",
    Some(Cause::SystemTooOld),
    "Linux 6.1.0 is too old: this project works with >= 6.2."
)]
#[case::too_new(
    "system = { linux = \"< 6\" }",
    Some(Cause::SystemTooNew),
    "Linux 6.1.0 is too new: this project works with < 6."
)]
#[case::another_distribution(
    "system = { linux = \"any\" }\ndistro = [\"fedora\", \"alpine\"]",
    Some(Cause::SystemOther),
    "This is debian, and this project works on fedora or alpine."
)]
#[case::that_distribution("system = { linux = \"any\" }\ndistro = [\"debian\"]", None, "This is debian 12, Linux 6.1.0, x86_64.")]
#[case::another_processor(
    "system = { linux = \"any\" }\narch = [\"aarch64\"]",
    Some(Cause::SystemArch),
    "The kind of processor here is x86_64, and this project works with aarch64."
)]
#[case::nobody_knows_the_edition(
    "system = { linux = \"any\" }\nedition = [\"pro\"]",
    Some(Cause::CouldNotLook),
    "Which edition this is could not be found out."
)]
fn the_system_is_one_that_does(#[case] body: &str, #[case] cause: Option<Cause>, #[case] message: &str) {
    let verdict = match cause {
        None => Verdict::Met,
        Some(Cause::CouldNotLook) => Verdict::Unknown,
        Some(_) => Verdict::Unmet,
    };
    holds(body, &debian(), verdict, cause, message);
}

#[test]
fn an_edition_that_lacks_something_is_named() {
    let mut script = debian();
    if let Some(Observation::System(system)) = script.get_mut(&Probe::System) {
        system.edition = Some("home".into());
    }
    let message = "The edition here is home, and this project works with pro or education.";
    holds(
        "system = { linux = \"any\" }\nedition = [\"pro\", \"education\"]",
        &script,
        Verdict::Unmet,
        Some(Cause::SystemEdition),
        message,
    );
}

#[rstest]
#[case::another_role("roles = [\"docs\"]", Verdict::Met, None)]
#[case::elsewhere("when = \"windows\"", Verdict::Skipped, None)]
#[case::here("when = \"linux and distro == debian\"", Verdict::Met, None)]
#[case::nobody_knows("when = \"edition == pro\"", Verdict::Unknown, Some(Cause::ConditionUnknown))]
fn only_what_applies_is_checked(#[case] line: &str, #[case] verdict: Verdict, #[case] cause: Option<Cause>) {
    let mut script = debian();
    script.insert(Probe::Cores, Observation::Cores(CoreState { online: 4, caps: Vec::new() }));
    let finding = find(&format!("cores = 2\n{line}"), &script);
    assert_eq!((finding.verdict, finding.cause), (verdict, cause));
}

#[test]
fn what_a_system_does_not_have_is_not_guessed() {
    let mut script = debian();
    script.insert(Probe::Memory, Observation::NotSupported("there is no such thing".to_owned()));
    let finding = find("memory = \"4 GB\"", &script);
    assert_eq!((finding.verdict, finding.cause), (Verdict::Unknown, Some(Cause::NotSupportedHere)));
    assert!(finding.message.contains("there is no such thing"));
}

#[test]
fn a_service_that_listens_at_another_address_is_told_from_one_that_does_not_run() {
    let mut script = debian();
    let connection = Probe::Connection { host: "127.0.0.1".into(), port: 7070 };
    script.insert(connection, Observation::Connection(crate::observation::Connection::Refused));
    let body = "service = \"127.0.0.1:7070\"";
    holds(
        body,
        &script,
        Verdict::Unmet,
        Some(Cause::ServiceRefused),
        "Nothing listens at 127.0.0.1:7070: the service is not running.",
    );
    let place = PortPlace { protocol: Protocol::Tcp, address: None, port: 7070 };
    let holder = Holder { pid: None, name: Some("tideserver".into()), user: None, command: None, outgoing: None, unit: None };
    script.insert(Probe::PortHolder(place), Observation::PortHolder(Some(holder)));
    let message = "Nothing listens at 127.0.0.1:7070, but port 7070 is held by tideserver: it listens at another address of this machine only.";
    holds(body, &script, Verdict::Unmet, Some(Cause::ServiceRefused), message);
}
