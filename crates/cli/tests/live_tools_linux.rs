//! Every way in which a real copy of a tool can be wrong on Linux, made for the test, and the fix where it can be carried out as printed.

use crate::harness::{Bench, essence, of};
use serde_json::Value;
use std::os::unix::fs::{PermissionsExt, symlink};
use std::path::Path;
use std::process::Command;

const BUOY: &str = "[require.buoy]\ntool = \"buoy-tool\"\nversion = \">= 2, < 3, != 2.5\"\n";

fn write_program(path: &Path, content: &[u8], mode: u32) {
    std::fs::create_dir_all(path.parent().unwrap()).unwrap();
    std::fs::write(path, content).unwrap();
    std::fs::set_permissions(path, std::fs::Permissions::from_mode(mode)).unwrap();
}

/// The report with more folders before PATH and another home.
fn report_with(bench: &Bench, folders: &[&str], arguments: &[&str]) -> Value {
    let root = bench.folder.path();
    let path = std::env::var("PATH").unwrap();
    let folders: Vec<String> = folders.iter().map(|folder| root.join(folder).display().to_string()).collect();
    let mut all = vec!["preflight", "--format", "json"];
    all.extend(arguments);
    let mut command = bench.command(&[], &all);
    let output = command.env("PATH", format!("{}:{path}", folders.join(":"))).env("HOME", root.join("home")).output().unwrap();
    serde_json::from_slice(&output.stdout).unwrap_or_else(|error| panic!("{error}: {output:?}"))
}

fn cause(report: &Value) -> String {
    essence(report, "buoy").1
}

fn runs(report: &Value) -> usize {
    of(report, "buoy")["evidence"]
        .as_array()
        .unwrap()
        .iter()
        .filter(|seen| seen["asked"].as_str().unwrap().ends_with(" --version"))
        .count()
}

#[test]
fn each_wrong_copy_gets_its_own_cause() {
    let script = |body: &str| format!("#!/bin/sh\n{body}\n").into_bytes();
    let cases: [(&str, Vec<u8>, u32, &str); 14] = [
        ("met", script("echo buoy-tool 2.4"), 0o755, ""),
        ("too old", script("echo buoy-tool 1.9"), 0o755, "tool-too-old"),
        ("too new", script("echo buoy-tool 3.0-rc1"), 0o755, "tool-too-new"),
        ("ruled out", script("echo buoy-tool 2.5"), 0o755, "tool-excluded"),
        ("not executable", script("echo buoy-tool 2.4"), 0o644, "tool-not-executable"),
        (
            "asked in another form, which is not tried",
            script("[ \"$1\" = version ] && exec echo buoy-tool 2.4; echo \"usage: buoy-tool COMMAND\" >&2; exit 2"),
            0o755,
            "tool-silent",
        ),
        ("never said", script("echo \"unknown option $1\" >&2; exit 64"), 0o755, "tool-silent"),
        ("silent", script("echo hello"), 0o755, "tool-silent"),
        ("stuck", script("sleep 600"), 0o755, "tool-stuck"),
        ("failing", script("exit 3"), 0o755, "tool-failed"),
        ("without interpreter", b"#!/nowhere/python9\n".to_vec(), 0o755, "tool-broken"),
        ("without interpreter, by env", b"#!/usr/bin/env buoy-nowhere\n".to_vec(), 0o755, "tool-broken"),
        ("nothing chosen", script("echo 'No version is set for command buoy-tool' >&2; exit 126"), 0o755, "tool-unselected"),
        ("no program at all", vec![1, 2, 3], 0o755, "tool-wrong-arch"),
    ];
    for (name, content, mode, expected) in cases {
        let bench = Bench::new(BUOY);
        write_program(&bench.folder.path().join("first/buoy-tool"), &content, mode);
        let report = report_with(&bench, &["first"], &["--time-limit", "400ms"]);
        assert_eq!(cause(&report), expected, "{name}: {}", of(&report, "buoy")["message"]);
    }
}

#[test]
fn a_program_for_another_processor_is_known_by_its_header_and_not_started() {
    let bench = Bench::new(BUOY);
    let mut content = std::fs::read("/bin/true").unwrap();
    // The architecture in an ELF header: S/390, which no processor here is.
    content[18..20].copy_from_slice(&22_u16.to_le_bytes());
    let other = if content[5] == 2 { [0, 22] } else { [22, 0] };
    content[18..20].copy_from_slice(&other);
    write_program(&bench.folder.path().join("first/buoy-tool"), &content, 0o755);
    let report = report_with(&bench, &["first"], &[]);
    assert_eq!((cause(&report).as_str(), runs(&report)), ("tool-wrong-arch", 0));
    assert!(essence(&report, "buoy").2.contains("is built for s390x, and this machine's processor is "), "{report}");
}

#[test]
fn missing_pieces_are_named_without_starting_the_program() {
    let bench = Bench::new(BUOY);
    let root = bench.folder.path();
    std::fs::write(root.join("part.c"), "int part(void) { return 2; }\n").unwrap();
    std::fs::write(root.join("main.c"), "int part(void); int main(void) { return part() - 2; }\n").unwrap();
    let build = |folder: &str, arguments: &[&str]| {
        std::fs::create_dir_all(root.join(folder)).unwrap();
        let program = format!("{folder}/buoy-tool");
        let done = Command::new("cc").args(["-o", &program, "main.c"]).args(arguments).current_dir(root).status().unwrap();
        assert!(done.success());
    };
    assert!(
        Command::new("cc")
            .args(["-shared", "-fPIC", "-o", "libbuoypart.so", "part.c"])
            .current_dir(root)
            .status()
            .unwrap()
            .success()
    );
    build("library", &["-L.", "-lbuoypart"]);
    build("loader", &["part.c", "-Wl,--dynamic-linker=/nowhere/loader.so.1"]);
    build("found", &["-L.", "-lbuoypart", "-Wl,-rpath,$ORIGIN/.."]);
    write_program(&root.join("script/buoy-tool"), b"#!/usr/bin/env -S buoy-python -u\n", 0o755);
    let cases = [
        ("library", "needs the library libbuoypart.so, which is not"),
        ("loader", "/nowhere/loader.so.1"),
        ("script", "a script for buoy-python"),
    ];
    for (folder, words) in cases {
        let report = report_with(&bench, &[folder], &[]);
        assert_eq!((cause(&report).as_str(), runs(&report)), ("tool-broken", 0), "{folder}");
        assert!(essence(&report, "buoy").2.contains(words), "{report}");
    }
    // What is beside the program is found, so it is started (and says no version).
    let report = report_with(&bench, &["found"], &[]);
    assert_eq!((cause(&report).as_str(), runs(&report)), ("tool-silent", 1));
}

#[test]
fn a_copy_off_path_is_told_where_path_has_none_that_does() {
    let bench = Bench::new(BUOY);
    let started = bench.folder.path().join("started");
    write_program(&bench.folder.path().join("first/buoy-tool"), b"#!/bin/sh\necho buoy-tool 1.0\n", 0o755);
    let good = format!("#!/bin/sh\ntouch {}\necho buoy-tool 2.1\n", started.display());
    write_program(&bench.folder.path().join("home/.cargo/bin/buoy-tool"), good.as_bytes(), 0o755);
    let report = report_with(&bench, &["first"], &[]);
    assert_eq!((cause(&report).as_str(), started.exists()), ("tool-too-old", false));
    assert!(
        essence(&report, "buoy").2.contains("/home/.cargo/bin/buoy-tool, in a folder that is not on PATH; it was not started")
    );
    let report = report_with(&bench, &["first"], &["--allow-commands"]);
    assert_eq!((cause(&report).as_str(), started.exists()), ("tool-off-path", true), "{report}");
}

#[test]
fn a_tool_that_this_system_calls_otherwise_is_recognised_and_its_fix_works_as_printed() {
    let bench = Bench::new("[require.buoy]\ntool = \"fd\"\nversion = \">= 8\"\n");
    let root = bench.folder.path();
    write_program(&root.join("first/fdfind"), b"#!/bin/sh\necho fdfind 8.6.0\n", 0o755);
    let report = report_with(&bench, &["first", "home/.local/bin"], &[]);
    assert_eq!(cause(&report), "tool-missing");
    assert!(essence(&report, "buoy").2.contains("This machine calls it fdfind (8.6.0, at "), "{report}");
    let line = of(&report, "buoy")["fixes"][0]["run"][0].as_str().unwrap();
    assert!(Command::new("sh").args(["-c", line]).env("HOME", root.join("home")).status().unwrap().success());
    assert_eq!(cause(&report_with(&bench, &["home/.local/bin"], &[])), "");
}

#[test]
fn a_tool_off_path_is_found_not_started_and_its_fix_works_as_printed() {
    let bench = Bench::new(BUOY);
    let started = bench.folder.path().join("started");
    let script = format!("#!/bin/sh\ntouch {}\necho buoy-tool 2.1\n", started.display());
    write_program(&bench.folder.path().join("home/.local/bin/buoy-tool"), script.as_bytes(), 0o755);
    let report = report_with(&bench, &[], &[]);
    assert_eq!((cause(&report).as_str(), started.exists()), ("tool-off-path", false));
    let fix = &of(&report, "buoy")["fixes"][0];
    let line = fix["edit"]["append"].as_str().or(fix["run"][0].as_str()).unwrap();
    // Carried out literally, it turns the requirement met.
    let program = env!("CARGO_BIN_EXE_setup-ready");
    let output = Command::new("sh")
        .args(["-c", &format!("{line}\nexec {program} preflight -q")])
        .current_dir(bench.project())
        .output()
        .unwrap();
    assert_eq!(output.status.code(), Some(0), "{line}: {output:?}");
}

#[test]
fn one_file_under_several_names_is_one_copy_and_the_good_one_behind_is_named() {
    let bench = Bench::new(BUOY);
    let root = bench.folder.path();
    write_program(&root.join("first/buoy-tool"), b"#!/bin/sh\necho buoy-tool 1.0\n", 0o755);
    std::fs::create_dir(root.join("second")).unwrap();
    symlink(root.join("first/buoy-tool"), root.join("second/buoy-tool")).unwrap();
    let alone = report_with(&bench, &["first", "second", "first"], &[]);
    assert_eq!((cause(&alone).as_str(), runs(&alone)), ("tool-too-old", 1));
    write_program(&root.join("third/buoy-tool"), b"#!/bin/sh\necho buoy-tool 2.2\n", 0o755);
    let report = report_with(&bench, &["first", "second", "third"], &[]);
    assert_eq!((cause(&report).as_str(), runs(&report)), ("tool-shadowed", 2));
    let (_, _, message) = essence(&report, "buoy");
    assert!(message.contains(&format!("A copy that would do (2.2) is at {}/third/buoy-tool", root.display())), "{message}");
}

#[test]
fn what_must_be_absent_is_unwanted_where_it_is() {
    let bench = Bench::new("[require.buoy]\ntool = \"buoy-tool\"\nversion = \"1.*\"\nexpect = \"absent\"\n");
    assert_eq!(essence(&report_with(&bench, &[], &[]), "buoy").0, "met");
    for (version, expected) in [("1.4", "tool-unwanted"), ("2.0", "")] {
        write_program(
            &bench.folder.path().join("first/buoy-tool"),
            format!("#!/bin/sh\necho buoy-tool {version}\n").as_bytes(),
            0o755,
        );
        assert_eq!(cause(&report_with(&bench, &["first"], &[])), expected);
    }
}

#[test]
fn a_relative_folder_on_path_is_nobodys_choice() {
    let bench = Bench::new(BUOY);
    let (root, elsewhere) = (bench.folder.path(), bench.folder.path().join("elsewhere"));
    let trap = root.join("trap");
    write_program(&elsewhere.join("tools/buoy-tool"), b"#!/bin/sh\necho buoy-tool 2.3\n", 0o755);
    // The project has a program at the same relative place, which must not be what is started.
    let hostile = format!("#!/bin/sh\ntouch {}\necho buoy-tool 2.3\n", trap.display());
    write_program(&bench.project().join("tools/buoy-tool"), hostile.as_bytes(), 0o755);
    let mut command = bench.command(&[], &["preflight", "-q", "--guide", "../project"]);
    let path = format!("tools:{}", std::env::var("PATH").unwrap());
    assert_eq!(command.current_dir(&elsewhere).env("PATH", &path).output().unwrap().status.code(), Some(3));
    let mut command = bench.command(&[], &["preflight", "-q"]);
    assert_eq!(command.env("PATH", &path).output().unwrap().status.code(), Some(3), "inside the project it needs consent");
    assert!(!trap.exists());
}
