//! What must hold after every attempt, whatever it tried.

use super::attempt::Attempt;
use super::large::is_odd;
use std::collections::BTreeMap;
use std::io::Read;
use std::os::unix::fs::MetadataExt;
use std::os::unix::process::{CommandExt, ExitStatusExt};
use std::path::{Path, PathBuf};
use std::process::{Command, Stdio};
use std::time::{Duration, Instant};

/// An attempt in its place, ready to be made.
pub(crate) struct Trial<'a> {
    pub(crate) attempt: &'a Attempt,
    pub(crate) folder: tempfile::TempDir,
    pub(crate) root: PathBuf,
    pub(crate) run: Command,
    pub(crate) judge: Option<Command>,
    /// How long the hostile programs sleep, in seconds: a number that is theirs alone.
    pub(crate) nap: String,
}

/// How many times longer than here anything may take.
const SLOWEST_MACHINE: u64 = 10;

impl Trial<'_> {
    /// Makes the attempt, and tells how it got through; empty where it was held.
    pub(crate) fn failures(mut self) -> Vec<String> {
        let before = files(&self.root);
        // Eight runs, each of which asks a package manager that may read its lists anew for seconds, are given more.
        let usual = if self.attempt.run.as_ref().is_some_and(|run| run.contains("everywhere")) { 120 } else { 30 };
        // A busy machine is slow, and a hang has no end: only that is told from the other.
        let limit = Duration::from_secs(SLOWEST_MACHINE * self.attempt.ends_within.unwrap_or(usual));
        let (text, status) = output(&mut self.run, limit);
        let mut failures = Vec::new();
        match status {
            None => failures.push(format!("did not end within {} s", limit.as_secs())),
            Some(_) if self.attempt.may_die => {}
            Some(status) => match (status.code(), self.attempt.run.is_some()) {
                (None, _) => failures.push(format!("ended by signal {:?}", status.signal())),
                (Some(code), _) if !self.attempt.status.is_empty() && !self.attempt.status.contains(&code) => {
                    failures.push(format!("ended with {code}"));
                }
                (Some(_), _) if !self.attempt.status.is_empty() => {}
                (Some(code), false) if code > 3 => failures.push(format!("ended with {code}")),
                (Some(1), true) if text.contains("it did not end within") => failures.push("did not hear the signal".to_owned()),
                _ => {}
            },
        }
        if self.root.join("ran").exists() {
            failures.push("something was started".to_owned());
        }
        if text.contains("panicked at") && !self.attempt.may_die {
            failures.push("panicked".to_owned());
        }
        failures.extend(oddities(&text));
        for secret in ["hunter2-Very", "hunter2-Ver%"].into_iter().chain(self.attempt.never_says.iter().map(String::as_str)) {
            if text.contains(secret) {
                failures.push(format!("said {secret:?}"));
            }
        }
        failures.extend(
            self.attempt
                .says
                .iter()
                .filter(|wanted| !text.contains(wanted.as_str()))
                .map(|wanted| format!("did not say {wanted:?}")),
        );
        failures.extend(self.changed(&before));
        if let Some(judge) = &mut self.judge {
            let (said, status) = output(judge, limit);
            if !status.is_some_and(|status| status.success()) {
                failures.push(format!("judged: {}", said.trim()));
            }
        }
        if living(&self.nap) {
            failures.push("a child lives on".to_owned());
            let _ = Command::new("pkill").args(["-9", "-f", &self.nap]).status();
        }
        if std::env::var_os("HOSTILE_SHOWN").is_some() {
            eprintln!("{text}");
        }
        drop(self.folder);
        failures
    }

    /// What was written where nothing may be.
    fn changed(&self, before: &BTreeMap<PathBuf, String>) -> Vec<String> {
        let after = files(&self.root);
        let mut allowed: Vec<&str> = self.attempt.may_write.iter().map(String::as_str).collect();
        allowed.extend(["ran", "held", "strace.txt", "home/.local"]);
        if self.attempt.run.as_ref().is_some_and(|run| run.contains("carry_out") || run.contains("plan_script")) {
            allowed.extend(["plan.sh", "stand", "away", "started", "carried"]);
        }
        let is_allowed = |path: &Path| allowed.iter().any(|one| path.starts_with(one) || Path::new(one).parent() == Some(path));
        let differs = after.iter().filter(|(path, what)| before.get(*path) != Some(what)).map(|(path, _)| path);
        let gone = before.keys().filter(|path| !after.contains_key(*path));
        let mut named: Vec<_> = differs
            .chain(gone)
            .filter(|path| !is_allowed(path))
            .map(|path| format!("changed {}", path.display().to_string().escape_debug()))
            .collect();
        named.truncate(5);
        named
    }
}

/// What a reader sees of everything below a folder: its kind, size, rights and time of change. Of the folder itself nothing.
fn files(root: &Path) -> BTreeMap<PathBuf, String> {
    let mut all = BTreeMap::new();
    let mut waiting = vec![root.to_owned()];
    while let Some(folder) = waiting.pop() {
        for entry in std::fs::read_dir(folder).into_iter().flatten().flatten() {
            let Ok(known) = entry.path().symlink_metadata() else { continue };
            if known.is_dir() {
                waiting.push(entry.path());
            }
            let what = format!(
                "{:o} {} {} {}",
                known.mode(),
                if known.is_dir() { 0 } else { known.len() },
                known.mtime(),
                known.mtime_nsec()
            );
            all.insert(entry.path().strip_prefix(root).unwrap().to_owned(), what);
        }
    }
    all
}

/// All that a command wrote, and its end; `None` where it had to be ended.
fn output(command: &mut Command, limit: Duration) -> (String, Option<std::process::ExitStatus>) {
    let (mut reader, writer) = std::io::pipe().unwrap();
    command.stdin(Stdio::null()).stdout(writer.try_clone().unwrap()).stderr(writer).process_group(0);
    let mut child = command.spawn().unwrap();
    // The command holds the pipe's other end, too.
    command.stdout(Stdio::null()).stderr(Stdio::null());
    rustix::io::ioctl_fionbio(&reader, true).unwrap();
    let end = Instant::now() + limit;
    let mut bytes = Vec::new();
    loop {
        // What it wrote is in the pipe when it has ended, so whatever is read after its end is all, whoever else holds the pipe.
        let status = child.try_wait().unwrap();
        read_what_is_there(&mut reader, &mut bytes);
        if status.is_some() {
            return (String::from_utf8_lossy(&bytes).into_owned(), status);
        }
        if Instant::now() > end {
            let _ = Command::new("kill").args(["-9", "--", &format!("-{}", child.id())]).status();
            let _ = child.wait();
            return (String::from_utf8_lossy(&bytes).into_owned(), None);
        }
        std::thread::sleep(Duration::from_millis(20));
    }
}

/// Reads on without waiting. Of what never ends, the first part is enough.
fn read_what_is_there(reader: &mut impl Read, bytes: &mut Vec<u8>) {
    let mut part = vec![0; 65536];
    while let Ok(length @ 1..) = reader.read(&mut part) {
        if bytes.len() <= 64 << 20 {
            bytes.extend(part.get(..length).unwrap_or_default());
        }
    }
}

/// Characters that reached the reader although they are not what they seem. What a terminal adds itself is not counted.
fn oddities(text: &str) -> Option<String> {
    let text = text.replace("\r\n", "\n").replace("\u{1b}[m", "").replace("\u{fffd}", "?");
    let mut seen: Vec<char> = text.chars().filter(|one| is_odd(*one)).collect();
    seen.sort_unstable();
    seen.dedup();
    let accents =
        text.chars().collect::<Vec<_>>().windows(6).any(|six| six.iter().all(|one| ('\u{300}'..'\u{370}').contains(one)));
    (!seen.is_empty() || accents).then(|| {
        format!(
            "showed {}{}",
            seen.iter().map(|one| one.escape_unicode().to_string()).collect::<String>(),
            if accents { " a heap of accents" } else { "" }
        )
    })
}

/// Whether a process with that word in its command line is there, a moment after.
fn living(word: &str) -> bool {
    let is_there = || {
        std::fs::read_dir("/proc").unwrap().flatten().any(|entry| {
            let line = std::fs::read(entry.path().join("cmdline")).unwrap_or_default();
            String::from_utf8_lossy(&line).contains(word) && !String::from_utf8_lossy(&line).contains("HOSTILE")
        })
    };
    (0..100).all(|_| {
        std::thread::sleep(Duration::from_millis(50));
        is_there()
    })
}
