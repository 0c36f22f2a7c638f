//! What the stops of the processes say: which programs are started by whom, which files are read, which ports are bound.

use super::memory::{Call, bytes, call, text};
use nix::libc;
use nix::sys::ptrace;
use nix::unistd::Pid;
use setup_ready_core::witnessed::{Seen, Started};
use std::collections::{HashMap, HashSet};
use std::net::{IpAddr, Ipv4Addr, Ipv6Addr};
use std::path::{Path, PathBuf};

/// Collects what the processes do.
pub(super) struct Follower {
    folder: PathBuf,
    /// What each process is called.
    names: HashMap<Pid, String>,
    /// The program that a process is about to become.
    becoming: HashMap<Pid, PathBuf>,
    programs: HashMap<PathBuf, Started>,
    files: HashSet<PathBuf>,
    seen: Seen,
}

/// Below these nothing belongs to a package: what the kernel shows, and what passes.
const NOT_OF_PACKAGES: [&str; 6] = ["/proc", "/sys", "/dev", "/tmp", "/run", "/var/tmp"];

impl Follower {
    pub(super) fn new(folder: PathBuf, child: Pid) -> Self {
        Self {
            folder,
            names: HashMap::from([(child, "the command".to_owned())]),
            becoming: HashMap::new(),
            programs: HashMap::new(),
            files: HashSet::new(),
            seen: Seen::default(),
        }
    }

    pub(super) fn started_nothing(&self) -> bool {
        self.programs.is_empty() && self.names.values().all(|name| name == "the command")
    }

    /// A process stopped before a call.
    pub(super) fn asks(&mut self, pid: Pid) {
        let Some(Call { number, arguments }) = call(pid) else { return };
        let [first, second, third, ..] = arguments;
        match number {
            libc::SYS_execve => {
                if let Some(path) = text(pid, first) {
                    self.becoming.insert(pid, absolute(pid, None, &path));
                }
            }
            libc::SYS_execveat => {
                if let Some(path) = text(pid, second) {
                    self.becoming.insert(pid, absolute(pid, Some(first), &path));
                }
            }
            #[cfg(target_arch = "x86_64")]
            libc::SYS_open => self.opens(pid, None, (first, second)),
            libc::SYS_openat => self.opens(pid, Some(first), (second, third)),
            libc::SYS_bind => self.binds(pid, (second, third)),
            libc::SYS_connect => self.connects(pid, (second, third)),
            _ => {}
        }
    }

    /// A process has become another program.
    pub(super) fn became(&mut self, pid: Pid) {
        // A thread that starts a program becomes the process; its old number is in the message.
        let former = ptrace::getevent(pid).ok().and_then(|message| i32::try_from(message).ok()).map_or(pid, Pid::from_raw);
        let asked = self.becoming.remove(&former).or_else(|| self.becoming.remove(&pid));
        let runs = std::fs::read_link(format!("/proc/{pid}/exe")).ok();
        let by = self.names.get(&pid).or_else(|| self.names.get(&former)).cloned().unwrap_or_else(|| "a process".to_owned());
        let Some(path) = asked.or_else(|| runs.clone()) else { return };
        let name = path.file_name().map(|name| name.to_string_lossy().into_owned()).unwrap_or_default();
        // A script is started as its interpreter, which the kernel finds by the script's first line.
        if let Some(interpreter) = interpreter(&path) {
            self.note(interpreter, &name);
        }
        self.note(path, &by);
        self.names.insert(pid, name);
    }

    fn note(&mut self, path: PathBuf, by: &str) {
        if !self.is_own(&path) {
            self.programs.entry(path).or_default().again(by);
        }
    }

    /// Whether it is the project's own, or passes.
    fn is_own(&self, path: &Path) -> bool {
        path.starts_with(&self.folder)
    }

    /// A process has another one beside it.
    pub(super) fn had_child(&mut self, pid: Pid) {
        let child = ptrace::getevent(pid).ok().and_then(|message| i32::try_from(message).ok()).map(Pid::from_raw);
        if let Some(child) = child {
            let name = self.names.get(&pid).cloned().unwrap_or_else(|| "a process".to_owned());
            self.names.insert(child, name);
        }
    }

    fn opens(&mut self, pid: Pid, folder: Option<u64>, (path, flags): (u64, u64)) {
        // What is only written is the build's own work.
        let mode = i32::try_from(flags & 3).unwrap_or(0);
        if mode != libc::O_RDONLY {
            return;
        }
        let Some(path) = text(pid, path) else { return };
        let path = absolute(pid, folder, &path);
        let passes = NOT_OF_PACKAGES.iter().any(|place| path.starts_with(place));
        if !passes && !self.is_own(&path) {
            self.files.insert(path);
        }
    }

    fn binds(&mut self, pid: Pid, (at, length): (u64, u64)) {
        if let Some((_, port)) = address(pid, at, length).filter(|(_, port)| *port > 0) {
            self.seen.ports.insert(port);
        }
    }

    fn connects(&mut self, pid: Pid, (at, length): (u64, u64)) {
        /// More addresses are not kept.
        const MOST: usize = 64;
        if let Some((ip, port)) =
            address(pid, at, length).filter(|(ip, port)| !ip.is_loopback() && !ip.is_unspecified() && *port > 0)
            && self.seen.addresses.len() < MOST
        {
            self.seen.addresses.insert(std::net::SocketAddr::new(ip, port).to_string());
        }
    }

    /// What was seen, each file by the name that it has in a package's list.
    pub(super) fn into_seen(self) -> Seen {
        let mut seen = self.seen;
        for (path, started) in &self.programs {
            let known = by_its_own_name(path);
            let one: &mut Started = seen.programs.entry(known).or_default();
            one.times += started.times;
            one.by.extend(started.by.iter().take(3).cloned());
        }
        for path in self.files {
            // What was looked for and is not there was found elsewhere, or not needed.
            if let Ok(real) = path.canonicalize()
                && real.is_file()
            {
                seen.files.insert(real.to_string_lossy().into_owned());
                if !path.is_symlink() {
                    continue;
                }
                seen.files.insert(path.to_string_lossy().into_owned());
            }
        }
        seen
    }
}

/// A program by the name that somebody installed it under: the first of a chain of links that a package has, which is told by its folder; links that
/// choose between alternatives belong to nobody.
fn by_its_own_name(path: &Path) -> String {
    let mut at = path.to_owned();
    for _ in 0..8 {
        let chosen = at.read_link().ok().filter(|target| target.starts_with("/etc/alternatives"));
        let Some(chosen) = chosen else { break };
        match chosen.read_link() {
            Ok(next) => at = next,
            Err(_) => break,
        }
    }
    let folder = at.parent().and_then(|folder| folder.canonicalize().ok());
    match (folder, at.file_name()) {
        (Some(folder), Some(name)) => folder.join(name).to_string_lossy().into_owned(),
        _ => at.to_string_lossy().into_owned(),
    }
}

/// The program that the first line of a script names (execve(2)).
fn interpreter(path: &Path) -> Option<PathBuf> {
    use std::io::Read;
    let mut first = [0; 256];
    let read = std::fs::File::open(path).ok()?.read(&mut first).ok()?;
    let line = first.get(..read)?.split(|byte| *byte == b'\n').next()?;
    let words = std::str::from_utf8(line).ok()?.strip_prefix("#!")?.trim();
    words.split_whitespace().next().map(PathBuf::from)
}

/// A path as the process means it: from its folder, or from one that it has open.
fn absolute(pid: Pid, folder: Option<u64>, path: &str) -> PathBuf {
    if path.starts_with('/') {
        return plain(Path::new(path));
    }
    let at = folder.and_then(|folder| i32::try_from(folder.cast_signed()).ok()).filter(|at| *at >= 0);
    let link = match at {
        Some(at) => format!("/proc/{pid}/fd/{at}"),
        None => format!("/proc/{pid}/cwd"),
    };
    plain(&std::fs::read_link(link).unwrap_or_default().join(path))
}

/// Without `.` and `..`.
fn plain(path: &Path) -> PathBuf {
    let mut out = PathBuf::new();
    for part in path.components() {
        if part == std::path::Component::ParentDir {
            out.pop();
        } else if part != std::path::Component::CurDir {
            out.push(part);
        }
    }
    out
}

/// An address of the internet's families (ip(7), ipv6(7)).
fn address(pid: Pid, at: u64, length: u64) -> Option<(IpAddr, u16)> {
    let raw = bytes(pid, at, usize::try_from(length.min(28)).ok()?);
    let family = u16::from_ne_bytes(raw.get(..2)?.try_into().ok()?);
    let port = u16::from_be_bytes(raw.get(2..4)?.try_into().ok()?);
    let ip = match i32::from(family) {
        libc::AF_INET => IpAddr::V4(Ipv4Addr::from(<[u8; 4]>::try_from(raw.get(4..8)?).ok()?)),
        libc::AF_INET6 => IpAddr::V6(Ipv6Addr::from(<[u8; 16]>::try_from(raw.get(8..24)?).ok()?)),
        _ => return None,
    };
    Some((ip, port))
}
