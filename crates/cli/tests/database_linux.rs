//! The figures of a survey, and those of a real database that the same rows were loaded into.

#![cfg(target_os = "linux")]
#![allow(
    clippy::expect_used,
    clippy::indexing_slicing,
    clippy::panic,
    clippy::unwrap_used,
    reason = "helpers of tests may be blunt"
)]

use setup_ready_core::survey::Dimension;
use setup_ready_fleet::Surveying;
use std::collections::BTreeMap;
use std::fmt::Write as _;
use std::io::Write as _;
use std::path::{Path, PathBuf};
use std::process::{Command, Stdio};

/// So many reports.
const REPORTS: usize = 100_000;

/// Where Debian puts the programs of the newest server that is here.
fn programs() -> Option<PathBuf> {
    let mut found: Vec<PathBuf> =
        std::fs::read_dir("/usr/lib/postgresql").ok()?.flatten().map(|entry| entry.path().join("bin")).collect();
    found.retain(|bin| bin.join("initdb").is_file());
    found.sort();
    found.pop()
}

/// A server of one's own: in a folder, behind a local socket, as an ordinary user, gone when it is dropped.
struct Server {
    folder: tempfile::TempDir,
    bin: PathBuf,
}

impl Server {
    fn start(bin: PathBuf) -> Self {
        let folder = tempfile::tempdir().unwrap();
        let server = Self { folder, bin };
        let data = server.folder.path().join("data");
        if rustix::process::geteuid().is_root() {
            assert!(Command::new("chown").arg("nobody").arg(server.folder.path()).status().unwrap().success());
        }
        server.run(
            "initdb",
            &["-D", &data.display().to_string(), "-A", "trust", "-U", "surveyor", "--no-sync", "-E", "UTF8", "--locale", "C"],
        );
        let options = format!("-k {} -c listen_addresses='' -c fsync=off -c max_wal_size=4GB", server.folder.path().display());
        server.run(
            "pg_ctl",
            &[
                "-D",
                &data.display().to_string(),
                "-o",
                &options,
                "-w",
                "-l",
                &server.folder.path().join("log").display().to_string(),
                "start",
            ],
        );
        server
    }

    /// As an ordinary user: the server refuses to run as the administrator.
    fn command(&self, program: &str) -> Command {
        let program = self.bin.join(program);
        let mut command = if rustix::process::geteuid().is_root() {
            let mut command = Command::new("setpriv");
            command.args(["--reuid=nobody", "--regid=nogroup", "--clear-groups"]).arg(program);
            command
        } else {
            Command::new(program)
        };
        command.current_dir("/").env("HOME", self.folder.path());
        command
    }

    fn run(&self, program: &str, arguments: &[&str]) {
        let output = self.command(program).args(arguments).stdout(Stdio::null()).stderr(Stdio::inherit()).status().unwrap();
        assert!(output.success(), "{program} {arguments:?}");
    }

    fn psql(&self, arguments: &[&str], input: Stdio) -> String {
        let mut command = self.command("psql");
        command.args([
            "-h",
            &self.folder.path().display().to_string(),
            "-U",
            "surveyor",
            "-d",
            "postgres",
            "-v",
            "ON_ERROR_STOP=1",
            "-q",
            "-A",
            "-t",
            "-F",
            "|",
        ]);
        let output = command.args(arguments).stdin(input).output().unwrap();
        assert!(output.status.success(), "{arguments:?}: {}", String::from_utf8_lossy(&output.stderr));
        String::from_utf8(output.stdout).unwrap()
    }
}

impl Drop for Server {
    fn drop(&mut self) {
        let data = self.folder.path().join("data").display().to_string();
        let _ = self.command("pg_ctl").args(["-D", &data, "-m", "immediate", "-w", "stop"]).stdout(Stdio::null()).status();
    }
}

/// Small reports of made-up machines, a line each; two thirds can be told to be of machines that come again.
fn reports() -> String {
    let mut text = String::new();
    for at in 0..REPORTS {
        let (cmake, met) = (["3.22.1", "3.25.1", "3.28.3"][at % 3], at % 3 != 0);
        let id = if at % 3 == 2 { String::new() } else { format!("\"id\":\"{:032x}\",", at / 6) };
        let (day, second) = (1 + (at / 7) % 28, at % 60);
        let (distro, version) = [("debian", "12"), ("ubuntu", "24.04"), ("fedora", "41")][at % 5 % 3];
        let verdict = if met { "\"met\",\"cause\":null" } else { "\"unmet\",\"cause\":\"tool-too-old\"" };
        let fixes = if met { "" } else { "{\"say\":\"Install a newer cmake.\"}" };
        let outcome = if met { "ready" } else { "not-ready" };
        let _ = writeln!(
            text,
            "{{\"format\":1,\"project\":\"Driftbuoy\",\"guide\":{{\"sha256\":\"{}\"}},\"machine\":{{{id}\"os\":\"linux\",\"distro\":\"{distro}\",\"distro_version\":\"{version}\",\"arch\":\"x86_64\"}},\"role\":\"firmware\",\"started\":\"2026-11-{day:02}T{:02}:00:{second:02}Z\",\"elapsed_ms\":{at},\"outcome\":\"{outcome}\",\"requirements\":[{{\"id\":\"cmake\",\"kind\":\"tool\",\"level\":\"must\",\"verdict\":{verdict},\"found\":\"{cmake}\",\"fixes\":[{fixes}]}},{{\"id\":\"memory\",\"kind\":\"memory\",\"level\":\"should\",\"verdict\":\"{}\",\"cause\":null,\"found\":\"8 GB\",\"fixes\":[]}}]}}",
            at % 4,
            at / REPORTS.div_ceil(24),
            if at % 10 == 0 { "skipped" } else { "met" },
        );
    }
    text
}

fn read(text: &str) -> BTreeMap<String, String> {
    text.lines().filter_map(|line| line.rsplit_once('|')).map(|(name, count)| (name.to_owned(), count.to_owned())).collect()
}

#[test]
fn a_database_gives_the_figures_of_the_survey() {
    let bin = programs().expect("this needs PostgreSQL (Debian's package postgresql)");
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("reports.ndjson");
    std::fs::write(&path, reports()).unwrap();
    let surveyed = Surveying { paths: vec![path.clone()], by: Some(Dimension::Distro), ..Surveying::default() }.read(&|_| {});
    let survey = surveyed.survey;
    assert_eq!((survey.reports, surveyed.broken), (REPORTS as u64, 0));

    let server = Server::start(bin);
    let sql = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../sql");
    let file = |name: &str| std::fs::read_to_string(sql.join(name)).unwrap();
    let tell = |text: &str| server.psql(&["-c", text], Stdio::null());
    tell(&file("schema.sql"));
    let mut rows = Command::new(env!("CARGO_BIN_EXE_setup-ready"))
        .args(["survey", "--format", "rows"])
        .arg(&path)
        .current_dir(folder.path())
        .stdout(Stdio::piped())
        .spawn()
        .unwrap();
    server.psql(
        &["-c", "COPY finding_line FROM STDIN WITH (FORMAT csv, DELIMITER e'\\x01', QUOTE e'\\x02')"],
        rows.stdout.take().unwrap().into(),
    );
    assert!(rows.wait().unwrap().success());
    tell(&file("load.sql"));
    tell(&file("views.sql"));

    let pairs = |all: Vec<(String, String)>| all.into_iter().collect::<BTreeMap<_, _>>();
    let outcomes = read(&tell("SELECT outcome, machines FROM outcomes"));
    assert_eq!(
        outcomes,
        pairs(vec![("ready".into(), survey.ready.to_string()), ("not-ready".into(), survey.not_ready.to_string())])
    );
    let stops = read(&tell("SELECT requirement || ' ' || unmet, asked FROM stops WHERE unmet > 0"));
    assert_eq!(
        stops,
        pairs(
            survey
                .stops
                .iter()
                .map(|one| (format!("{} {}", one.requirement, one.machines.count), one.machines.of.to_string()))
                .collect()
        )
    );
    let versions = read(&tell("SELECT requirement || ' ' || version, machines FROM versions"));
    let counted = survey.tools.iter().flat_map(|tool| {
        tool.versions.iter().map(|(version, count)| (format!("{} {version}", tool.requirement), count.to_string()))
    });
    assert_eq!(versions, pairs(counted.collect()));
    let weeks = read(&tell("SELECT week || ' ' || ready, machines FROM weeks"));
    assert_eq!(
        weeks,
        pairs(survey.weeks.iter().map(|one| (format!("{} {}", one.week, one.ready.count), one.ready.of.to_string())).collect())
    );
    let by_distro = read(&tell("SELECT distro || ' ' || unmet, asked FROM stops_by_distro WHERE unmet > 0"));
    let groups = survey.stops.iter().flat_map(|stop| &stop.groups);
    assert_eq!(by_distro, pairs(groups.map(|(name, share)| (format!("{name} {}", share.count), share.of.to_string())).collect()));
    let advised = read(&tell("SELECT requirement || ' ' || met_next, times FROM advised"));
    assert_eq!(
        advised,
        pairs(
            survey
                .advised
                .iter()
                .map(|one| (format!("{} {}", one.requirement, one.met_next.count), one.met_next.of.to_string()))
                .collect()
        )
    );
    assert!(survey.advised.iter().any(|one| one.met_next.count > 0), "some machine was mended");
    let _ = std::io::stderr().flush();
}
