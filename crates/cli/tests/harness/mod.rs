//! A folder with a guide and programs, and the real program run in it.

#![allow(dead_code, reason = "each test file uses its own part")]

use serde_json::Value;
use std::io::Read;
use std::path::{Path, PathBuf};
use std::process::{Child, Command, Output, Stdio};
use std::sync::OnceLock;
use std::sync::mpsc::{Receiver, channel};

/// A file of the demonstration: where it lies in its folder, what is in it, and who may what with it.
type DemoFile = (PathBuf, Vec<u8>, std::fs::Permissions);

fn files_in(folder: &Path, below: &Path, found: &mut Vec<DemoFile>) {
    for entry in std::fs::read_dir(folder.join(below)).unwrap().flatten() {
        let at = below.join(entry.file_name());
        if entry.file_type().unwrap().is_dir() {
            files_in(folder, &at, found);
        } else {
            found.push((at, std::fs::read(entry.path()).unwrap(), entry.metadata().unwrap().permissions()));
        }
    }
}

/// Puts the demonstration's project there. The program writes it once for all tests: that takes it seconds, since it walks through all that it shows.
pub(crate) fn demonstration(into: &Path) {
    static FILES: OnceLock<Vec<DemoFile>> = OnceLock::new();
    let files = FILES.get_or_init(|| {
        let bench = Bench::new("[require.unused]\ncores = 1\n");
        let output = bench.run(&["demo", "--into", "sea", "-q"]);
        assert_eq!(output.status.code(), Some(0), "{}", text(&output.stderr));
        let mut files = Vec::new();
        files_in(&bench.project().join("sea"), Path::new(""), &mut files);
        files
    });
    for (at, content, permissions) in files {
        let path = into.join(at);
        std::fs::create_dir_all(path.parent().unwrap()).unwrap();
        std::fs::write(&path, content).unwrap();
        std::fs::set_permissions(path, permissions.clone()).unwrap();
    }
}

/// What the program says in a folder, on a page so wide, whatever stands around the tests.
pub(crate) fn in_folder(within: &Path, columns: &str, arguments: &[&str]) -> Output {
    Command::new(env!("CARGO_BIN_EXE_setup-ready"))
        .args(arguments)
        .current_dir(within)
        .env("COLUMNS", columns)
        .env_remove("NO_COLOR")
        .env_remove("CI")
        .output()
        .unwrap()
}

/// Starts a program whose two streams come as one, as a terminal has them, piece by piece.
pub(crate) fn listened_to(command: &mut Command) -> (Child, Receiver<Vec<u8>>) {
    let (mut stream, output) = std::io::pipe().unwrap();
    let child = command.stdout(output.try_clone().unwrap()).stderr(output).spawn().unwrap();
    // What the command holds of the pipe would keep it open.
    command.stdout(Stdio::null()).stderr(Stdio::null());
    let (sender, written) = channel();
    std::thread::spawn(move || {
        let mut buffer = [0; 4096];
        while let Ok(count @ 1..) = stream.read(&mut buffer) {
            let _ = sender.send(buffer[..count].to_vec());
        }
    });
    (child, written)
}

pub(crate) struct Bench {
    pub(crate) folder: tempfile::TempDir,
    bin: PathBuf,
}

impl Bench {
    /// A folder with a guide of these requirements.
    pub(crate) fn new(requirements: &str) -> Self {
        Self::with_guide(format!("format = 1\n[project]\nname = \"Driftbuoy\"\n{requirements}"))
    }

    pub(crate) fn with_guide(guide: impl AsRef<[u8]>) -> Self {
        let folder = tempfile::tempdir().unwrap();
        let (project, bin) = (folder.path().join("project"), folder.path().join("bin"));
        std::fs::create_dir_all(&project).unwrap();
        std::fs::create_dir_all(&bin).unwrap();
        std::fs::write(project.join("setup-guide.toml"), guide).unwrap();
        // Other users must be able to get here.
        #[cfg(unix)]
        std::fs::set_permissions(folder.path(), std::os::unix::fs::PermissionsExt::from_mode(0o755)).unwrap();
        Self { folder, bin }
    }

    pub(crate) fn project(&self) -> PathBuf {
        self.folder.path().join("project")
    }

    /// A shell script on PATH.
    #[cfg(unix)]
    pub(crate) fn program(&self, name: &str, body: &str) -> PathBuf {
        let path = self.bin.join(name);
        std::fs::write(&path, format!("#!/bin/sh\n{body}\n")).unwrap();
        std::fs::set_permissions(&path, std::os::unix::fs::PermissionsExt::from_mode(0o755)).unwrap();
        path
    }

    /// A program of Windows on PATH: a batch file, which its interpreter starts.
    #[cfg(windows)]
    pub(crate) fn program(&self, name: &str, body: &str) -> PathBuf {
        let path = self.bin.join(format!("{name}.cmd"));
        std::fs::write(&path, format!("@echo off\r\n{body}\r\n")).unwrap();
        path
    }

    /// The folder of this test that is first on PATH.
    pub(crate) fn bin(&self) -> &Path {
        &self.bin
    }

    pub(crate) fn file(&self, name: &str, text: &str) -> PathBuf {
        let path = self.project().join(name);
        std::fs::write(&path, text).unwrap();
        path
    }

    /// The program, ready to be run in the project's folder as a plain terminal of 80 columns would.
    pub(crate) fn command(&self, before: &[&str], arguments: &[&str]) -> Command {
        let program = Path::new(env!("CARGO_BIN_EXE_setup-ready"));
        let mut words: Vec<&std::ffi::OsStr> = before.iter().map(AsRef::as_ref).collect();
        words.push(program.as_os_str());
        let mut command = Command::new(words[0]);
        command.args(&words[1..]).args(arguments).current_dir(self.project()).stdin(Stdio::null());
        let path = std::env::var_os("PATH").unwrap();
        let folders = [self.bin.clone()].into_iter().chain(std::env::split_paths(&path));
        command
            .env("PATH", std::env::join_paths(folders).unwrap())
            .env("LOCALAPPDATA", self.folder.path().join("state"))
            .env("COLUMNS", "80")
            // What is remembered between two runs stays in the test.
            .env("XDG_STATE_HOME", self.folder.path().join("state"))
            .env_remove("NO_COLOR")
            .env_remove("CI");
        command
    }

    /// Another program, in the same surroundings.
    pub(crate) fn wrapped(&self, program: &str, arguments: &[&str]) -> Command {
        let mut command = Command::new(program);
        let path = std::env::var("PATH").unwrap();
        command
            .args(arguments)
            .current_dir(self.project())
            .stdin(Stdio::null())
            .env("PATH", format!("{}:{path}", self.bin.display()))
            .env_remove("NO_COLOR")
            .env_remove("CI");
        command
    }

    /// What comes back where the program has a terminal, and somebody who types these lines.
    #[cfg(unix)]
    pub(crate) fn at_terminal(&self, typed: &str, arguments: &str) -> String {
        let state = self.folder.path().join("state");
        let program = format!("env XDG_STATE_HOME={} {} {arguments}", state.display(), env!("CARGO_BIN_EXE_setup-ready"));
        let shell = format!("printf '{typed}' | script -qec '{program}' /dev/null");
        text(&self.wrapped("sh", &["-c", &shell]).output().unwrap().stdout)
    }

    pub(crate) fn run(&self, arguments: &[&str]) -> Output {
        self.command(&[], arguments).output().unwrap()
    }

    /// The report as JSON, run by way of other programs (`setpriv`, `taskset`), with the exit status.
    pub(crate) fn report(&self, before: &[&str], arguments: &[&str]) -> (i32, Value) {
        let mut all = vec!["preflight", "--format", "json"];
        all.extend(arguments);
        let output = self.command(before, &all).output().unwrap();
        let value = serde_json::from_slice(&output.stdout);
        (output.status.code().unwrap(), value.unwrap_or_else(|error| panic!("{error}: {output:?}")))
    }
}

/// What a report says of one requirement.
pub(crate) fn of<'r>(report: &'r Value, id: &str) -> &'r Value {
    report["requirements"].as_array().unwrap().iter().find(|one| one["id"] == id).unwrap_or_else(|| panic!("no {id}"))
}

/// Each requirement with the cause that it must show; none where it is met.
pub(crate) fn causes_are(report: &Value, expected: &[(&str, &str)]) {
    let found: Vec<(&str, String)> = expected.iter().map(|(id, _)| (*id, essence(report, id).1)).collect();
    let found: Vec<(&str, &str)> = found.iter().map(|(id, cause)| (*id, cause.as_str())).collect();
    assert_eq!(found, expected, "{report:#}");
    for (id, cause) in expected {
        let verdict = if cause.is_empty() { "met" } else { "unmet" };
        assert_eq!(of(report, id)["verdict"], verdict, "{id}");
        // Whatever is not met has a way out, and says what it rests on.
        assert_eq!(of(report, id)["fixes"].as_array().unwrap().is_empty(), cause.is_empty(), "{id}");
        assert_ne!(of(report, id)["evidence"].as_array().unwrap().len(), 0, "{id}");
    }
}

/// Verdict, cause and message of one requirement.
pub(crate) fn essence(report: &Value, id: &str) -> (String, String, String) {
    let one = of(report, id);
    let text = |key: &str| one[key].as_str().unwrap_or("").to_owned();
    (text("verdict"), text("cause"), text("message"))
}

pub(crate) fn text(bytes: &[u8]) -> String {
    String::from_utf8(bytes.to_vec()).unwrap()
}

pub(crate) fn is_root() -> bool {
    text(&Command::new("id").arg("-u").output().unwrap().stdout).trim() == "0"
}

/// Becomes a user without rights, where the test is run by the administrator; else it is one already.
pub(crate) fn without_rights() -> Vec<&'static str> {
    if is_root() { vec!["setpriv", "--reuid=65534", "--regid=65534", "--clear-groups"] } else { Vec::new() }
}
