//! 24 real tools and 20 other checks, against what starting programs can give and against two scripts that do the same.

use crate::{Row, fastest, milliseconds, ratio, time};
use std::fmt::Write;
use std::path::{Path, PathBuf};
use std::process::{Command, Stdio};
use std::time::Duration;

const RUNS: usize = 9;
/// Tools that say their version with `--version`; the first 24 that are here are taken, slow ones first.
const CANDIDATES: [&str; 44] = [
    "npm", "node", "mvn", "javac", "java", "cargo", "rustc", "rustfmt", "rustup", "python3", "pip3", "gcc", "g++", "cc", "git",
    "make", "perl", "gdb", "valgrind", "cmake", "clang", "curl", "wget", "tar", "gzip", "xz", "bash", "sed", "grep", "awk",
    "tmux", "psql", "ld", "as", "ar", "objdump", "strip", "readelf", "openssl", "diff", "find", "xargs", "sort", "qemu-img",
];

pub(crate) fn rows() -> Vec<Row> {
    let folder = tempfile::tempdir().unwrap();
    let tools: Vec<(&str, PathBuf)> = CANDIDATES
        .iter()
        .filter_map(|name| Some((*name, on_path(name)?)))
        .filter(|(_, path)| says_version(path))
        .take(24)
        .collect();
    let guide = folder.path().join("setup-guide.toml");
    std::fs::write(&guide, guide_text(&tools)).unwrap();
    let (sequential, parallel) = (folder.path().join("sequential.sh"), folder.path().join("parallel.sh"));
    std::fs::write(&sequential, script(&tools, "")).unwrap();
    std::fs::write(&parallel, script(&tools, " &")).unwrap();
    let with = |more: &[&str]| {
        run(Command::new(env!("CARGO_BIN_EXE_setup-ready")).arg("preflight").arg("--guide").arg(&guide).args(more));
    };
    let (ours, starting_all) = (|| with(&[]), || with(&["--start-all"]));
    let by_script = |script: &Path| run(Command::new("bash").arg(script));
    // Once for the disk's sake.
    ours();
    by_script(&parallel);
    let [mut us, mut all, mut one_by_one, mut together, mut limit] = [(); 5].map(|()| Vec::with_capacity(RUNS));
    for _ in 0..RUNS {
        us.push(time(ours));
        all.push(time(starting_all));
        one_by_one.push(time(|| by_script(&sequential)));
        together.push(time(|| by_script(&parallel)));
        limit.push(best_possible(&tools));
    }
    let [us, all, one_by_one, together, limit] = [us, all, one_by_one, together, limit].map(|times| fastest(&times));
    let row = |(us, how): (Duration, &str), what: &str, other: Duration, target: f64| Row {
        what: format!("preflight of {} tools and 20 other checks{how}, against {what}", tools.len()),
        ours: milliseconds(us),
        other: milliseconds(other),
        ratio: ratio(us, other),
        target,
    };
    let (read, started) = ((us, ""), (all, " with --start-all"));
    let jobs = "a script with background jobs";
    vec![
        row(read, jobs, together, 0.35),
        row(started, jobs, together, 1.0),
        row(started, "the limit: the slowest one, or all CPU time over the cores", limit, 1.10),
        row(started, "a script that does them one after another", one_by_one, 0.70),
    ]
}

fn on_path(name: &str) -> Option<PathBuf> {
    let path = std::env::var_os("PATH")?;
    std::env::split_paths(&path).map(|folder| folder.join(name)).find(|file| file.is_file())
}

fn says_version(path: &Path) -> bool {
    Command::new(path)
        .arg("--version")
        .stdin(Stdio::null())
        .stdout(Stdio::null())
        .stderr(Stdio::null())
        .status()
        .is_ok_and(|status| status.success())
}

fn run(command: &mut Command) {
    let status = command.stdin(Stdio::null()).stdout(Stdio::null()).stderr(Stdio::null()).status().unwrap();
    assert!(status.code().is_some());
}

fn guide_text(tools: &[(&str, PathBuf)]) -> String {
    let mut text = "format = 1\n[project]\nname = \"Driftbuoy\"\n".to_owned();
    for (index, (name, _)) in tools.iter().enumerate() {
        let _ = writeln!(text, "[require.tool-{index}]\ntool = \"{name}\"\nversion = \">= 0.0.1\"");
    }
    for port in 0..10 {
        let _ = writeln!(text, "[require.port-{port}]\nport = {}", 47_310 + port);
    }
    for (index, at) in ["~", ".", "/tmp", "/", "/var"].iter().enumerate() {
        let _ = writeln!(text, "[require.disk-{index}]\ndisk = \"1 kB\"\nat = \"{at}\"");
    }
    text.push_str(
        "[require.memory]\nmemory = \"1 MB\"\n[require.free]\nmemory = \"1 MB\"\nfree = true\n[require.cores]\ncores = 1\n",
    );
    text.push_str("[require.more]\ncores = 2\n[require.virt]\nvirtualization = \"present\"\n");
    text
}

/// The same checks as people write them.
fn script(tools: &[(&str, PathBuf)], job: &str) -> String {
    let mut text = String::new();
    for (name, _) in tools {
        let _ = writeln!(text, "{{ command -v {name} && {name} --version; }} >/dev/null 2>&1{job}");
    }
    for port in 0..10 {
        let _ = writeln!(text, "(exec 3<>/dev/tcp/127.0.0.1/{}) 2>/dev/null{job}", 47_310 + port);
    }
    for at in ["~", ".", "/tmp", "/", "/var"] {
        let _ = writeln!(text, "df -P {at} >/dev/null{job}");
    }
    for command in
        ["grep MemTotal /proc/meminfo", "grep MemAvailable /proc/meminfo", "nproc", "nproc", "grep -cE 'vmx|svm' /proc/cpuinfo"]
    {
        let _ = writeln!(text, "{command} >/dev/null{job}");
    }
    text.push_str("wait\n");
    text
}

/// No order of starts can be faster than the slowest program, nor than all their CPU time spread over the cores.
fn best_possible(tools: &[(&str, PathBuf)]) -> Duration {
    let cores = u32::try_from(std::thread::available_parallelism().map_or(1, std::num::NonZero::get)).unwrap_or(1);
    let before = children_cpu();
    let slowest = tools.iter().map(|(_, path)| time(|| run(Command::new(path).arg("--version")))).max().unwrap_or_default();
    slowest.max(children_cpu().saturating_sub(before) / cores)
}

/// CPU time of all children so far, from `/proc/self/stat` (fields 16 and 17, in hundredths of a second).
fn children_cpu() -> Duration {
    let stat = std::fs::read_to_string("/proc/self/stat").unwrap_or_default();
    let fields: Vec<&str> = stat.rsplit(')').next().unwrap_or("").split_whitespace().collect();
    let ticks = |index: usize| fields.get(index).and_then(|field| field.parse::<u64>().ok()).unwrap_or(0);
    Duration::from_millis((ticks(13) + ticks(14)) * 10)
}
