//! This machine where much is missing: files, variables, packages, held ports; and waiting for changes.

use crate::{Row, fastest, milliseconds, ratio, time};
use std::fmt::Write;
use std::net::TcpListener;
use std::path::Path;
use std::process::{Child, Command, Stdio};
use std::time::Duration;

const RUNS: usize = 5;
/// Processes that stand around while ports are looked for.
const BYSTANDERS: usize = 800;
/// Tools with a package that few machines have.
const MISSING: usize = 20;

fn ours(guide: &Path, more: &[&str]) -> Command {
    let mut command = Command::new(env!("CARGO_BIN_EXE_setup-ready"));
    command
        .arg("preflight")
        .arg("--guide")
        .arg(guide)
        .args(more)
        .stdin(Stdio::null())
        .stdout(Stdio::null())
        .stderr(Stdio::null());
    command
}

fn checked(guide: &Path, more: &[&str]) {
    assert!(ours(guide, more).status().unwrap().code().is_some_and(|code| code < 2));
}

fn write_guide(folder: &Path, requirements: impl Iterator<Item = String>) -> std::path::PathBuf {
    let mut text = "format = 1\n[project]\nname = \"Driftbuoy\"\n".to_owned();
    for (at, one) in requirements.enumerate() {
        let _ = writeln!(text, "[require.c{at}]\n{one}\nwhy = \"Part {at} needs it.\"");
    }
    let file = folder.join("setup-guide.toml");
    std::fs::write(&file, text).unwrap();
    file
}

fn interleaved(mut one: impl FnMut(), mut other: impl FnMut()) -> (Duration, Duration) {
    let (mut us, mut them) = (Vec::new(), Vec::new());
    for _ in 0..RUNS {
        us.push(time(&mut one));
        them.push(time(&mut other));
    }
    (fastest(&us), fastest(&them))
}

fn row(what: &str, (us, them): (Duration, Duration), target: f64) -> Row {
    Row { what: what.to_owned(), ours: milliseconds(us), other: milliseconds(them), ratio: ratio(us, them), target }
}

fn files_and_variables() -> Row {
    let folder = tempfile::tempdir().unwrap();
    let one = |at| if at % 2 == 0 { format!("file = \"place/{at}\"") } else { format!("variable = \"BUOY_{at}\"") };
    let guide = write_guide(folder.path(), (0..10_000).map(one));
    let text = std::fs::read_to_string(&guide).unwrap();
    let peer = || assert!(text.parse::<toml::Table>().unwrap().len() > 2);
    let times = interleaved(|| checked(&guide, &["--format", "json"]), peer);
    row("10,000 files and variables of this machine, all missing, against the toml crate reading the guide", times, 8.0)
}

fn held_ports() -> Row {
    let folder = tempfile::tempdir().unwrap();
    let held: Vec<TcpListener> = (0..10).map(|_| TcpListener::bind("127.0.0.1:0").unwrap()).collect();
    let ports: Vec<u16> = held.iter().map(|one| one.local_addr().unwrap().port()).collect();
    let port = |port: &u16| format!("port = {port}\naddress = \"127.0.0.1\"");
    let mut bystanders: Vec<Child> =
        (0..BYSTANDERS).map(|_| Command::new("sleep").arg("600").stdin(Stdio::null()).spawn().unwrap()).collect();
    let guide = write_guide(folder.path(), ports.iter().map(port));
    let with_holders = |guide: &Path| checked(guide, &["--format", "json"]);
    let free = tempfile::tempdir().unwrap();
    let of_free = write_guide(free.path(), (0..10_u16).map(|at| port(&(47_310 + at))));
    // The same guide with free ports, and one look at all that every process has open.
    let times = interleaved(
        || with_holders(&guide),
        || {
            with_holders(&of_free);
            assert!(open_by_all() > BYSTANDERS);
        },
    );
    for child in &mut bystanders {
        let _ = (child.kill(), child.wait());
    }
    row("10 held ports among 800 processes, against free ones and one full look at what all have open", times, 1.1)
}

fn open_by_all() -> usize {
    let processes = std::fs::read_dir("/proc").unwrap().flatten();
    let open = processes.filter_map(|process| std::fs::read_dir(process.path().join("fd")).ok()).flatten().flatten();
    open.filter(|one| std::fs::read_link(one.path()).is_ok()).count()
}

/// The first packages of Debian's lists whose names are no programs here.
fn packages() -> Vec<String> {
    let printed = Command::new("apt-cache").args(["pkgnames", "lib"]).output();
    let text = printed.map(|output| String::from_utf8_lossy(&output.stdout).into_owned()).unwrap_or_default();
    let mut names: Vec<&str> = text.lines().filter(|name| name.ends_with("-dev") && name.len() < 20).collect();
    names.sort_unstable();
    names.into_iter().step_by(37).take(MISSING).map(ToOwned::to_owned).collect()
}

fn missing_packages() -> Option<Row> {
    let packages = packages();
    if packages.len() < MISSING {
        return None;
    }
    let folder = tempfile::tempdir().unwrap();
    let one = |(at, name): (usize, &String)| format!("tool = \"none-{at}\"\npackages = {{ apt = \"{name}\" }}");
    let guide = write_guide(folder.path(), packages.iter().enumerate().map(one));
    let quiet = |program: &str, words: &[&str]| {
        let mut command = Command::new(program);
        command.args(words).args(&packages).stdin(Stdio::null()).stdout(Stdio::null()).stderr(Stdio::null());
        assert!(command.status().unwrap().code().is_some());
    };
    let by_hand = || {
        quiet("apt-cache", &["policy", "--"]);
        quiet("apt-get", &["install", "--print-uris", "-q", "--"]);
    };
    let times = interleaved(|| checked(&guide, &[]), by_hand);
    Some(row(
        "20 missing tools with packages of apt, against one `apt-cache policy` and one `apt-get --print-uris` of the 20 by hand",
        times,
        1.15,
    ))
}

/// The nanoseconds that all threads of a process ran (`/proc/PID/task/TID/schedstat`).
fn ran(process: u32) -> u64 {
    let threads = std::fs::read_dir(format!("/proc/{process}/task")).into_iter().flatten().flatten();
    let time = |thread: std::fs::DirEntry| {
        let text = std::fs::read_to_string(thread.path().join("schedstat")).ok()?;
        text.split_whitespace().next()?.parse::<u64>().ok()
    };
    threads.filter_map(time).sum()
}

fn idle_watch() -> Row {
    let folder = tempfile::tempdir().unwrap();
    let held = TcpListener::bind("127.0.0.1:0").unwrap();
    let port = held.local_addr().unwrap().port();
    let one = |at: u16| match at % 5 {
        0 => format!("tool = \"none-{at}\""),
        1 => format!("file = \"place/{at}\""),
        2 => format!("variable = \"BUOY_{at}\""),
        3 => format!("library = \"none-{at}\""),
        _ => format!("port = {port}\naddress = \"127.0.0.1\""),
    };
    let guide = write_guide(folder.path(), (0..30).map(one));
    let mut watch = ours(&guide, &["--watch"]).stdin(Stdio::piped()).spawn().unwrap();
    std::thread::sleep(Duration::from_secs(10));
    let worker = std::fs::read_to_string(format!("/proc/{0}/task/{0}/children", watch.id())).unwrap_or_default();
    let both: Vec<u32> =
        std::iter::once(watch.id()).chain(worker.split_whitespace().filter_map(|pid| pid.parse().ok())).collect();
    let before: u64 = both.iter().map(|pid| ran(*pid)).sum();
    std::thread::sleep(Duration::from_secs(60));
    let after: u64 = both.iter().map(|pid| ran(*pid)).sum();
    assert!(watch.try_wait().unwrap().is_none());
    let _ = Command::new("kill").arg("-INT").arg(watch.id().to_string()).status();
    let _ = watch.wait();
    let spent = Duration::from_nanos(after - before);
    Row {
        what: "`--watch` with 30 open requirements, idle for a minute: processor time (milliseconds)".to_owned(),
        ours: milliseconds(spent),
        other: "60 s".to_owned(),
        ratio: spent.as_secs_f64() * 1e3,
        target: 20.0,
    }
}

pub(crate) fn rows() -> Vec<Row> {
    let mut rows = vec![files_and_variables(), held_ports()];
    rows.extend(missing_packages());
    rows.push(idle_watch());
    rows
}
