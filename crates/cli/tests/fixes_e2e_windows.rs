//! Fixes for the command prompt of Windows, done as they are printed, and checked again.

use crate::harness::{Bench, causes_are, of};
use rstest::rstest;
use serde_json::Value;
use std::os::windows::process::CommandExt;
use std::process::Command;

/// The report of somebody who typed it at the command prompt, or in the script that this is.
fn report_at_prompt(bench: &Bench, before: &str) -> Value {
    let program = env!("CARGO_BIN_EXE_setup-ready");
    let output = script(bench, &format!("{before}\r\n@\"{program}\" preflight --format json"));
    serde_json::from_slice(&output).unwrap_or_else(|error| panic!("{error}: {}", String::from_utf8_lossy(&output)))
}

/// What a script for the command prompt writes to its output.
fn script(bench: &Bench, text: &str) -> Vec<u8> {
    let path = bench.folder.path().join("script.cmd");
    std::fs::write(&path, format!("@echo off\r\n{text}\r\n")).unwrap();
    let output = Command::new("cmd").arg("/c").arg(&path).current_dir(bench.project()).output().unwrap();
    output.stdout
}

/// Has the command prompt carry a line out as it would when it is typed.
fn typed(bench: &Bench, line: &str) {
    let mut prompt = Command::new("cmd");
    assert!(prompt.raw_arg(format!("/d /c {line}")).current_dir(bench.project()).output().unwrap().status.success(), "{line}");
}

#[rstest]
#[case::a_folder("path-missing", "folder = \"sea charts\\\\north\"", "", &["mkdir "])]
#[case::a_folder_with_a_sign_that_is_special_there("path-missing", "folder = \"a ^b & (more)\"", "", &["mkdir "])]
#[case::a_file_where_a_folder_should_be("path-other-kind", "folder = \"it's here\"", "it's here", &["move ", "mkdir "])]
#[case::a_file_too_many("path-unwanted", "file = \"old marks\"\nexpect = \"absent\"", "old marks", &["move "])]
#[case::a_file_that_is_locked("path-not-writable", "file = \"my key\"\nwritable = true", "+my key", &["attrib -r "])]
fn what_is_printed_settles_it(#[case] cause: &str, #[case] subject: &str, #[case] file: &str, #[case] starts: &[&str]) {
    let bench = Bench::new(&format!("[require.x]\n{subject}\n"));
    let name = file.trim_start_matches('+');
    if !name.is_empty() {
        let path = bench.file(name, "");
        let mut permissions = path.metadata().unwrap().permissions();
        permissions.set_readonly(file.starts_with('+'));
        std::fs::set_permissions(&path, permissions).unwrap();
    }
    let report = report_at_prompt(&bench, "");
    causes_are(&report, &[("x", cause)]);
    let commands: Vec<&str> = of(&report, "x")["fixes"][0]["run"].as_array().unwrap().iter().filter_map(Value::as_str).collect();
    assert_eq!(commands.len(), starts.len(), "{commands:?}");
    assert!(commands.iter().zip(starts).all(|(command, start)| command.starts_with(start)), "{commands:?}");
    for command in &commands {
        typed(&bench, command);
    }
    let after = report_at_prompt(&bench, "");
    assert_eq!(of(&after, "x")["verdict"], "met", "{commands:?} {after:#}");
}

#[test]
fn a_variable_is_set_for_this_terminal_as_it_is_printed() {
    let held = std::net::TcpListener::bind("127.0.0.1:0").unwrap();
    let port = held.local_addr().unwrap().port();
    let bench = Bench::new(&format!(
        "[require.x]\nport = {port}\naddress = \"127.0.0.1\"\nset_by = {{ variable = \"BUOY_PORT\" }}\n[require.y]\nvariable = \"BUOY_MARK\"\nexpect = \"absent\"\n"
    ));
    let report = report_at_prompt(&bench, "set BUOY_MARK=1");
    causes_are(&report, &[("x", "port-held"), ("y", "variable-unwanted")]);
    let command = |id: &str| of(&report, id)["fixes"][0]["run"][0].as_str().unwrap().to_owned();
    let after = report_at_prompt(&bench, &format!("set BUOY_MARK=1\r\n{}\r\n{}", command("x"), command("y")));
    assert_eq!(
        (&of(&after, "x")["verdict"], &of(&after, "y")["verdict"]),
        (&Value::from("met"), &Value::from("met")),
        "{after:#}"
    );
}
