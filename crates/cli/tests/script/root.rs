//! Described machines, built: a folder that `chroot` makes the root of, with programs that print what is described, and a kernel's files.

#![allow(
    clippy::indexing_slicing,
    clippy::format_collect,
    clippy::format_push_string,
    clippy::unused_self,
    reason = "helpers of tests may be blunt"
)]

use std::fs;
use std::io::Write as _;
use std::os::unix::fs::{PermissionsExt, chown, symlink};
use std::path::{Path, PathBuf};
use std::process::{Command, Stdio};
use toml::Value;

/// What every machine has: the shells, and the tools that POSIX asks for.
pub(crate) struct Base(tempfile::TempDir);

/// One machine.
pub(crate) struct Built {
    folder: tempfile::TempDir,
    project: String,
    home: String,
    path: String,
    environment: Vec<(String, String)>,
    person: &'static str,
}

/// Of busybox; `df`, `id` and `uname` say what is described.
const APPLETS: [&str; 17] = [
    "awk", "cat", "env", "find", "grep", "head", "ls", "mkdir", "printf", "sed", "setsid", "sh", "sleep", "sort", "tr", "wc",
    "test",
];

fn put(root: &Path, path: &str, text: &str, mode: u32) {
    let at = root.join(path.trim_start_matches('/'));
    fs::create_dir_all(at.parent().unwrap()).unwrap();
    let _ = fs::remove_file(&at);
    fs::write(&at, text).unwrap();
    fs::set_permissions(&at, fs::Permissions::from_mode(mode)).unwrap();
}

fn found(program: &str) -> PathBuf {
    std::env::split_paths(&std::env::var_os("PATH").unwrap())
        .map(|folder| folder.join(program))
        .find(|path| path.is_file())
        .unwrap()
}

/// A copy of the program that everybody may start.
pub(crate) fn copy_of_program(folder: &Path, program: &Path) -> PathBuf {
    let copy = folder.join("the-program");
    if !copy.exists() {
        fs::copy(program, &copy).unwrap();
        fs::set_permissions(&copy, fs::Permissions::from_mode(0o755)).unwrap();
    }
    copy
}

impl Base {
    pub(crate) fn new(shells: &[&[&str]]) -> Self {
        let base = tempfile::tempdir().unwrap();
        let tools = base.path().join(".base");
        fs::create_dir(&tools).unwrap();
        for words in shells.iter().chain([&["busybox"].as_slice()]) {
            let real = fs::canonicalize(found(words[0])).unwrap();
            fs::copy(&real, tools.join(words[0])).unwrap();
            let libraries = Command::new("ldd").arg(&real).output().unwrap();
            for path in String::from_utf8_lossy(&libraries.stdout).split_whitespace().filter(|word| word.starts_with('/')) {
                let to = base.path().join(path.trim_start_matches('/'));
                fs::create_dir_all(to.parent().unwrap()).unwrap();
                let _ = fs::copy(path, to);
            }
        }
        for name in APPLETS {
            symlink("busybox", tools.join(name)).unwrap();
        }
        fs::create_dir_all(base.path().join("dev")).unwrap();
        fs::create_dir_all(base.path().join("tmp")).unwrap();
        fs::create_dir_all(base.path().join("bin")).unwrap();
        symlink("/.base/busybox", base.path().join("bin/sh")).unwrap();
        put(base.path(), "dev/null", "", 0o666);
        Self(base)
    }

    pub(crate) fn build(&self, machine: &Value) -> Built {
        let folder = tempfile::tempdir().unwrap();
        let copied =
            Command::new("cp").args(["-al"]).arg(format!("{}/.", self.0.path().display())).arg(folder.path()).status().unwrap();
        assert!(copied.success());
        fs::set_permissions(folder.path(), fs::Permissions::from_mode(0o755)).unwrap();
        let text = |table: &str, key: &str| {
            machine.get(table).and_then(|table| table.get(key)).and_then(Value::as_str).map(ToOwned::to_owned)
        };
        let name = text("user", "name").unwrap_or_else(|| "somebody".to_owned());
        let is_root = machine.get("user").and_then(|user| user.get("root")).and_then(Value::as_bool) == Some(true);
        let home = text("user", "home").unwrap_or_else(|| format!("/home/{name}"));
        let project = text("machine", "project").unwrap_or_else(|| "/project".to_owned());
        let mut built = Built {
            folder,
            path: String::new(),
            environment: Vec::new(),
            person: if is_root { "0:0" } else { "1000:1000" },
            home,
            project,
        };
        for place in [built.home.clone(), built.project.clone()] {
            built.folder_of(&place, 0o755, built.owner());
        }
        built.system(machine);
        built.kernel(machine);
        built.programs(machine);
        built.files(machine);
        built
    }
}

fn list<'v>(machine: &'v Value, key: &str) -> Vec<&'v Value> {
    machine.get(key).and_then(Value::as_array).map(|all| all.iter().collect()).unwrap_or_default()
}

fn string<'v>(value: &'v Value, key: &str) -> Option<&'v str> {
    value.get(key).and_then(Value::as_str)
}

fn bytes(value: Option<&str>) -> u64 {
    value.map_or(0, |text| setup_ready_core::text::Size::parse(text).unwrap().0)
}

fn quoted(text: &str) -> String {
    format!("'{}'", text.replace('\'', "'\\''"))
}

impl Built {
    fn owner(&self) -> u32 {
        if self.person == "0:0" { 0 } else { 1000 }
    }

    fn root(&self) -> &Path {
        self.folder.path()
    }

    fn resolved(&self, path: &str) -> String {
        match path {
            "~" => self.home.clone(),
            "." => self.project.clone(),
            _ if path.starts_with("~/") => format!("{}/{}", self.home, &path[2..]),
            _ if path.starts_with('/') => path.to_owned(),
            _ => format!("{}/{path}", self.project),
        }
    }

    /// A folder with all above it that are not there, whose they are too.
    fn folder_of(&self, path: &str, mode: u32, owner: u32) {
        let mut at = self.root().to_path_buf();
        for part in path.split('/').filter(|part| !part.is_empty()) {
            at.push(part);
            if fs::create_dir(&at).is_ok() {
                chown(&at, Some(owner), Some(owner)).unwrap();
            }
        }
        fs::set_permissions(&at, fs::Permissions::from_mode(mode)).unwrap();
    }

    fn system(&self, machine: &Value) {
        let of = |key: &str| machine.get("system").and_then(|system| string(system, key)).unwrap_or_default().to_owned();
        let like = machine.get("system").map(|system| list(system, "distro_like")).unwrap_or_default();
        let like: Vec<&str> = like.iter().filter_map(|one| one.as_str()).collect();
        if !of("distro").is_empty() {
            put(self.root(), "etc/os-release", &format!("ID={}\nID_LIKE=\"{}\"\n", of("distro"), like.join(" ")), 0o644);
        }
        let arch = if of("arch").is_empty() { "x86_64".to_owned() } else { of("arch") };
        let uname =
            format!("#!/bin/sh\ncase $1 in -s) echo Linux ;; -r) echo {} ;; -m) echo {arch} ;; esac\n", quoted(&of("version")));
        put(self.root(), ".base/uname", &uname, 0o755);
        let user = machine.get("user");
        let groups: Vec<&str> =
            user.map(|user| list(user, "groups")).unwrap_or_default().iter().filter_map(|one| one.as_str()).collect();
        let uid = self.owner();
        let id = format!(
            "#!/bin/sh\ncase $1 in -u) echo {uid} ;; -un) echo somebody ;; -Gn) echo {} ;; esac\n",
            quoted(&groups.join(" "))
        );
        put(self.root(), ".base/id", &id, 0o755);
        let mut cases: Vec<(String, u64)> = list(machine, "filesystem")
            .iter()
            .map(|one| (string(one, "at").unwrap().to_owned(), bytes(string(one, "available"))))
            .collect();
        cases.sort_by_key(|(at, _)| std::cmp::Reverse(at.len()));
        let cases: String = cases
            .iter()
            .map(|(at, room)| {
                let at = at.trim_end_matches('/');
                format!("  {}|{}/*) echo /dev/x 1 1 {} 1% {at}/ ;;\n", quoted(at), quoted(at), room / 1024)
            })
            .collect();
        // The real one follows the folder; where the script stands in one, that is where.
        let df = format!(
            "#!/bin/sh\nshift\ncase $1 in /*) at=$1 ;; .) at=$PWD ;; *) at=$PWD/${{1#./}} ;; esac\necho Filesystem\ncase $at in\n{cases}esac\n"
        );
        put(self.root(), ".base/df", &df, 0o755);
    }

    fn kernel(&self, machine: &Value) {
        let root = self.root();
        let memory = machine.get("memory");
        let of = |key: &str| memory.and_then(|memory| string(memory, key)).map(|text| bytes(Some(text)) / 1024);
        let mut info = String::new();
        for (name, key) in [("MemTotal", "total"), ("MemAvailable", "available"), ("SwapTotal", "swap")] {
            if let Some(kilobytes) = of(key) {
                info += &format!("{name}: {kilobytes} kB\n");
            }
        }
        put(root, "proc/meminfo", &info, 0o644);
        let flags: Vec<&str> = machine
            .get("system")
            .map(|system| list(system, "flags"))
            .unwrap_or_default()
            .iter()
            .filter_map(|one| one.as_str())
            .collect();
        let name = if flags.contains(&"wsl") { "Linux version 5.15-microsoft\n" } else { "Linux version 6\n" };
        put(root, "proc/version", name, 0o644);
        put(root, "proc/sys/kernel/osrelease", name, 0o644);
        put(root, "proc/sys/net/ipv4/ip_unprivileged_port_start", "1024\n", 0o644);
        put(root, "proc/self/cgroup", "0::/limited\n", 0o644);
        put(root, "proc/self/mountinfo", "29 23 0:26 / /sys/fs/cgroup rw - cgroup2 cgroup2 rw\n", 0o644);
        put(root, "proc/mounts", "/dev/x / ext4 rw,relatime 0 0\n", 0o644);
        if let Some(least) =
            memory.map(|memory| list(memory, "cap")).unwrap_or_default().iter().map(|cap| bytes(string(cap, "amount"))).min()
        {
            put(root, "sys/fs/cgroup/limited/memory.max", &format!("{least}\n"), 0o644);
        }
        if let Some(cores) = machine.get("cores") {
            let online = cores.get("online").and_then(Value::as_integer).unwrap();
            put(root, "sys/devices/system/cpu/online", &format!("0-{}\n", online - 1), 0o644);
            put(root, "proc/self/status", &format!("Cpus_allowed_list:\t0-{}\n", online - 1), 0o644);
            if let Some(least) = list(cores, "cap").iter().filter_map(|cap| cap.get("amount").and_then(Value::as_integer)).min() {
                put(root, "sys/fs/cgroup/limited/cpu.max", &format!("{} 100000\n", least * 100_000), 0o644);
            }
        }
        let line = |number: i64| format!("   0: 00000000:{number:04X} 00000000:0000 0A 0 0\n");
        let mut tcp = String::from("  sl  local_address rem_address   st\n");
        for port in list(machine, "port") {
            if string(port, "state").is_none_or(|state| state == "held") {
                tcp += &line(port.get("port").and_then(Value::as_integer).unwrap());
            }
        }
        // A description that does not say that the others are free says nothing of any.
        if string(machine, "other_ports") == Some("free") {
            put(root, "proc/net/tcp", &tcp, 0o644);
        }
        let limits = machine.get("limits");
        if let Some(watches) = limits.and_then(|limits| limits.get("file-watches")).and_then(Value::as_integer) {
            put(root, "proc/sys/fs/inotify/max_user_watches", &format!("{watches}\n"), 0o644);
        }
    }

    fn programs(&mut self, machine: &Value) {
        let mut folders: Vec<String> =
            list(machine, "path").iter().filter_map(|one| one.as_str()).map(ToOwned::to_owned).collect();
        let given = machine.get("path").is_some();
        for program in list(machine, "program") {
            let path = string(program, "path").unwrap();
            let above = path.rsplit_once('/').unwrap().0.to_owned();
            if !given && !folders.contains(&above) {
                folders.push(above);
            }
            let flag = |key: &str| program.get(key).and_then(Value::as_bool) == Some(true);
            let body = if flag("never_ends") {
                "sleep 5".to_owned()
            } else if program.get("does_not_start").is_some() || program.get("signal").is_some() {
                "exit 127".to_owned()
            } else {
                let prints = quoted(string(program, "prints").unwrap_or_default());
                let complains = quoted(string(program, "complains").unwrap_or_default());
                let exit = program.get("exit").and_then(Value::as_integer).unwrap_or(0);
                format!("{}printf '%s\\n' {prints}\nprintf '%s' {complains} >&2\nexit {exit}", self.settings(path, machine))
            };
            let built_for = list(program, "built_for");
            let stands_in =
                flag("placeholder") || (!built_for.is_empty() && !built_for.iter().any(|arch| arch.as_str() == Some("x86_64")));
            let text = if stands_in { "\u{7f}ELF and nothing else".to_owned() } else { format!("#!/bin/sh\n{body}\n") };
            let marked = program.get("executable").and_then(Value::as_bool) != Some(false);
            put(self.root(), path, &text, if marked { 0o755 } else { 0o644 });
        }
        folders.push("/.base".to_owned());
        self.path = folders.join(":");
        for (key, value) in machine.get("environment").and_then(Value::as_table).into_iter().flatten() {
            self.environment.push((key.clone(), value.as_str().unwrap().to_owned()));
        }
        if machine
            .get("system")
            .map(|system| list(system, "flags"))
            .unwrap_or_default()
            .iter()
            .any(|one| one.as_str() == Some("ci"))
        {
            self.environment.push(("CI".to_owned(), "true".to_owned()));
        }
    }

    /// What git answers when it is asked for a setting.
    fn settings(&self, path: &str, machine: &Value) -> String {
        let Some(settings) = machine.get("settings").and_then(Value::as_table).filter(|_| path.ends_with("/git")) else {
            return "case $1 in config) exit 9 ;; esac\n".to_owned();
        };
        let cases: String = settings
            .iter()
            .map(|(key, value)| format!("{}) echo {}; exit 0 ;; ", quoted(key), quoted(value.as_str().unwrap())))
            .collect();
        format!("case $1 in config) case $3 in {cases} esac; exit 1 ;; esac\n")
    }

    fn files(&self, machine: &Value) {
        for (key, folder) in [("folder", true), ("file", false)] {
            for one in list(machine, key) {
                let path = self.resolved(string(one, "path").unwrap());
                let at = self.root().join(path.trim_start_matches('/'));
                let owner = if string(one, "owner").is_some_and(|owner| !self.home.ends_with(&format!("/{owner}"))) {
                    4321
                } else {
                    self.owner()
                };
                self.folder_of(path.rsplit_once('/').unwrap().0, 0o755, self.owner());
                if let Some(target) = string(one, "link_to") {
                    symlink(self.resolved(target), &at).unwrap();
                    continue;
                }
                let marked = one.get("executable").and_then(Value::as_bool) == Some(true);
                let usual = if folder || marked { 0o755 } else { 0o644 };
                let mut mode = string(one, "mode").map_or(usual, |mode| u32::from_str_radix(mode, 8).unwrap());
                if one.get("writable").and_then(Value::as_bool) == Some(false) {
                    mode &= !0o222;
                }
                if folder {
                    self.folder_of(&path, mode, owner);
                } else {
                    put(self.root(), &path, string(one, "text").unwrap_or_default(), mode);
                }
                chown(&at, Some(owner), Some(owner)).unwrap();
            }
        }
    }

    /// What the script says in a shell there.
    pub(crate) fn run(&self, shell: &[&str], script: &str) -> String {
        put(self.root(), ".base/check.sh", script, 0o644);
        let cd = format!(
            "cd {} && exec {} /.base/check.sh",
            quoted(&self.project),
            shell
                .iter()
                .enumerate()
                .map(|(at, word)| if at == 0 { format!("/.base/{word}") } else { (*word).to_owned() })
                .collect::<Vec<_>>()
                .join(" ")
        );
        let output = Command::new(found("chroot"))
            .args(["--userspec", self.person, "--groups", ""])
            .arg(self.root())
            .args(["/.base/busybox", "sh", "-c", &cd])
            .env_clear()
            .envs(self.environment.iter().map(|(key, value)| (key, value)))
            .env("PATH", &self.path)
            .env("HOME", &self.home)
            .stdin(Stdio::null())
            .output()
            .unwrap();
        let text = String::from_utf8_lossy(&output.stdout).into_owned();
        let complaints = String::from_utf8_lossy(&output.stderr);
        if !complaints.trim().is_empty() {
            std::io::stderr().write_all(format!("{}: {complaints}\n", shell[0]).as_bytes()).unwrap();
        }
        text
    }
}
