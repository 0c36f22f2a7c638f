//! Fixes, judged by one question: carried out exactly as printed, is the requirement met? In a throwaway root, as a person of it.
//!
//! `tools/carry-out-fixes` makes the root and runs this; the table in `docs/fixes.md` is what came of it.
#![allow(
    clippy::unwrap_used,
    clippy::expect_used,
    clippy::indexing_slicing,
    clippy::panic,
    clippy::print_stdout,
    reason = "helpers of tests may be blunt"
)]
#![cfg(target_os = "linux")]

use serde_json::Value;
use std::fmt::Write as _;
use std::io::{BufRead, BufReader, Write};
use std::path::{Path, PathBuf};
use std::process::{Child, Command, Stdio};
use std::sync::Mutex;
use std::sync::atomic::{AtomicUsize, Ordering};

struct Situation {
    name: String,
    who: String,
    shell: String,
    /// The system's service manager is booted before the rest is prepared.
    boots: bool,
    prepare: String,
    session: String,
    late: String,
    guide: String,
    value: Option<String>,
    cause: String,
    still: Option<String>,
}

fn situations() -> Vec<Situation> {
    let table: toml::Table = include_str!("carried_out/situations.toml").parse().unwrap();
    let one = |situation: &toml::Value| {
        let text = |key: &str| situation.get(key).map(|value| value.as_str().unwrap().to_owned());
        Situation {
            name: text("name").unwrap(),
            who: text("who").unwrap_or_else(|| "skipper".into()),
            shell: text("shell").unwrap_or_else(|| "bash".into()),
            boots: situation.get("boots").is_some_and(|boots| boots.as_bool().unwrap()),
            prepare: text("prepare").unwrap_or_default(),
            session: text("session").unwrap_or_default(),
            late: text("late").unwrap_or_default(),
            guide: text("guide").unwrap(),
            value: text("value"),
            cause: text("cause").unwrap(),
            still: text("still"),
        }
    };
    table["situation"].as_array().unwrap().iter().map(one).collect()
}

/// A copy of the throwaway root that is gone afterwards, with processes, network and mounts of its own.
struct Root {
    shell: Child,
    folder: tempfile::TempDir,
    who: String,
    booted: bool,
}

/// The base root; `THROWAWAY_ROOT` says where it is.
fn base() -> PathBuf {
    let base = std::env::var_os("THROWAWAY_ROOT").expect("run tools/carry-out-fixes: it makes the root and says where it is");
    PathBuf::from(base)
}

const PROGRAM: &str = "/usr/local/lib/setup-ready";

impl Root {
    fn new(who: &str, guide: &str) -> Self {
        let folder = tempfile::tempdir().unwrap();
        let arguments = ["--mount", "--pid", "--net", "--uts", "--fork", "--kill-child", "sh"];
        let shell = Command::new("unshare").args(arguments).stdin(Stdio::piped()).stdout(Stdio::piped()).spawn().unwrap();
        let mut root = Self { shell, folder, who: who.to_owned(), booted: false };
        let (base, place) = (base(), root.folder.path().display().to_string());
        let program = env!("CARGO_BIN_EXE_setup-ready");
        root.host(&format!(
            "set -e; mount -t tmpfs none {place}; mkdir {place}/upper {place}/work {place}/root
            mount -t overlay none -o lowerdir={base},upperdir={place}/upper,workdir={place}/work {place}/root
            mount -t proc none {place}/root/proc; mount --rbind /dev {place}/root/dev; mount -t tmpfs none {place}/root/run
            touch {place}/root{PROGRAM}; mount --bind {program} {place}/root{PROGRAM}
            ip link set lo up; hostname buoy-desk; echo 127.0.0.1 localhost buoy-desk > {place}/root/etc/hosts; set +e",
            base = base.display()
        ));
        let home = root.home();
        root.put(&format!("{home}/project/setup-guide.toml"), &format!("format = 1\n[project]\nname = \"Driftbuoy\"\n{guide}\n"));
        root
    }

    fn home(&self) -> String {
        if self.who == "root" { "/root".to_owned() } else { format!("/home/{}", self.who) }
    }

    /// Runs a script in the namespaces, outside the root, and gives what it wrote.
    fn host(&mut self, script: &str) -> String {
        let input = self.shell.stdin.as_mut().unwrap();
        let end = "end of this script";
        writeln!(input, "{{ {script}\n}} 2>&1 < /dev/null; echo; echo {end}").unwrap();
        let mut written = String::new();
        let mut lines = BufReader::with_capacity(1, self.shell.stdout.as_mut().unwrap());
        loop {
            let mut line = String::new();
            assert_ne!(lines.read_line(&mut line).unwrap(), 0, "the shell ended: {written}");
            if line.trim_end() == end {
                return written;
            }
            written.push_str(&line);
        }
    }

    /// Writes a file of the person's in the root.
    fn put(&mut self, path: &str, text: &str) {
        let (place, who) = (self.folder.path().display().to_string(), self.who.clone());
        let folder = Path::new(path).parent().unwrap().display();
        self.host(&format!(
            "chroot {place}/root su {who} -s /bin/sh -c 'mkdir -p {folder}; cat >> {path}' << 'THE END OF IT'\n{text}\nTHE END OF IT"
        ));
    }

    /// Runs a script as root in the root.
    fn prepare(&mut self, script: &str) -> String {
        let place = self.folder.path().display().to_string();
        self.host(&format!(
            "cat > {place}/root/run/prepare << 'THE END OF IT'\nexport PATH=/usr/sbin:/usr/bin:/sbin:/bin DEBIAN_FRONTEND=noninteractive\nset -e\n{script}\nTHE END OF IT\nchroot {place}/root sh /run/prepare"
        ))
    }

    /// Boots the service manager.
    fn boot(&mut self) -> String {
        self.booted = true;
        self.prepare(include_str!("carried_out/boot.sh"))
    }

    /// How the root is entered: from among the processes of the service manager, where it was booted.
    fn enter(&self) -> String {
        let root = format!("{}/root", self.folder.path().display());
        if self.booted {
            format!("chroot {root} nsenter -t $(cat {root}/run/init) -m -p -C -r")
        } else {
            format!("chroot {root}")
        }
    }

    /// What comes of lines that the person types after a new sign-in, in the project's folder. They answer yes to whatever is asked.
    fn sign_in(&mut self, lines: &str) -> String {
        let (place, who, enter) = (self.folder.path().display().to_string(), self.who.clone(), self.enter());
        self.host(&format!(
            "cat > {place}/root/run/lines << 'THE END OF IT'\ncd ~/project\n{lines}\nTHE END OF IT\nchmod 644 {place}/root/run/lines
            yes | {enter} su -l {who} -c \"$(cat {place}/root/run/lines)\""
        ))
    }

    /// The same in a new terminal of the same sign-in, whose shell reads its startup file.
    fn new_shell(&mut self, shell: &str, lines: &str) -> String {
        let (place, who) = (self.folder.path().display().to_string(), self.who.clone());
        self.host(&format!(
            "printf 'cd ~/project\\n%s\\n' '{lines}' > {place}/root/run/lines; chmod 644 {place}/root/run/lines
            chroot {place}/root su -l {who} -c '{shell} -i /run/lines'"
        ))
    }
}

impl Drop for Root {
    fn drop(&mut self) {
        let _ = self.shell.kill();
        let _ = self.shell.wait();
    }
}

fn preflight() -> String {
    format!("echo; echo REPORT; {PROGRAM} preflight --format json; echo; echo REPORTED")
}

fn report(written: &str) -> Value {
    let json = written.split("\nREPORT\n").nth(1).and_then(|rest| rest.split("\nREPORTED").next());
    // What is no report has no verdict: it comes out as wrong, with all that was written.
    serde_json::from_str(json.unwrap_or_default()).unwrap_or_default()
}

/// Who carried out what in a situation, and what came of it.
struct Outcome {
    cause: String,
    say: String,
    commands: Vec<String>,
    then: Option<String>,
    verdict: String,
    message: String,
    log: String,
}

fn carry_out(situation: &Situation) -> Outcome {
    let mut root = Root::new(&situation.who, &format!("[require.x]\n{}", situation.guide));
    if situation.shell != "bash" {
        root.prepare(&format!("usermod --shell /usr/bin/{} {}", situation.shell, situation.who));
    }
    let mut log = if situation.boots { root.boot() } else { String::new() };
    log += &root.prepare(&situation.prepare);
    // Who is signed in while it happens keeps the groups of then.
    let session = if situation.late.is_empty() { situation.session.clone() } else { format!("sudo sh -c '{}'", situation.late) };
    let written = root.sign_in(&format!("{session}\n{}", preflight()));
    log += &written;
    let first = report(&written);
    let one = &first["requirements"][0];
    let text = |value: &Value| value.as_str().unwrap_or_default().to_owned();
    let fix = &one["fixes"][0];
    let fill = |line: &str| match &situation.value {
        Some(value) => line.replace("YOUR-VALUE", &format!("'{value}'")),
        None => line.to_owned(),
    };
    let run: Vec<String> = fix["run"].as_array().into_iter().flatten().map(|line| fill(&text(line))).collect();
    let mut commands = run.clone();
    if let Some(file) = fix["edit"]["file"].as_str() {
        let line = fill(&text(&fix["edit"]["append"]));
        let path = match file.strip_prefix("~/") {
            Some(rest) => format!("{}/{rest}", root.home()),
            None => format!("{}/project/{file}", root.home()),
        };
        root.put(&path, &line);
        commands.push(format!("{line}  >> {file}"));
    }
    let then = fix["then"].as_str().map(ToOwned::to_owned);
    let lines = format!("{}\n{}", situation.session, run.join("\n"));
    let written = match then.as_deref() {
        None => root.sign_in(&format!("{lines}\n{}", preflight())),
        Some("new-shell") => {
            log += &root.sign_in(&lines);
            root.new_shell(&situation.shell, &preflight())
        }
        Some(_) => {
            log += &root.sign_in(&lines);
            root.sign_in(&preflight())
        }
    };
    log += &written;
    let second = report(&written);
    let now = &second["requirements"][0];
    Outcome {
        cause: text(&one["cause"]),
        say: text(&fix["say"]),
        commands,
        then,
        verdict: text(&now["verdict"]),
        message: text(&now["message"]),
        log,
    }
}

#[test]
#[ignore = "needs a throwaway root: run tools/carry-out-fixes"]
fn what_the_fix_says_is_what_settles_it() {
    let situations = situations();
    let wanted = std::env::var("SITUATION").unwrap_or_default();
    let next = AtomicUsize::new(0);
    let outcomes: Mutex<Vec<(usize, Outcome)>> = Mutex::new(Vec::new());
    std::thread::scope(|scope| {
        for _ in 0..std::thread::available_parallelism().map_or(2, usize::from) {
            scope.spawn(|| {
                loop {
                    let index = next.fetch_add(1, Ordering::SeqCst);
                    let Some(situation) = situations.get(index) else { break };
                    if situation.name.contains(&wanted) {
                        let outcome = carry_out(situation);
                        outcomes.lock().unwrap().push((index, outcome));
                    }
                }
            });
        }
    });
    let mut outcomes = outcomes.into_inner().unwrap();
    outcomes.sort_by_key(|(index, _)| *index);
    let mut wrong = Vec::new();
    for (index, outcome) in &outcomes {
        let situation = &situations[*index];
        let expected = if situation.still.is_some() { "unmet" } else { "met" };
        if outcome.cause != situation.cause || outcome.verdict != expected {
            println!(
                "== {}\n{} -> {}: {}\n{:?}\n{}",
                situation.name, outcome.cause, outcome.verdict, outcome.message, outcome.commands, outcome.log
            );
            wrong.push(&situation.name);
        }
    }
    assert!(wrong.is_empty(), "{wrong:#?}");
    let met = outcomes.iter().filter(|(_, outcome)| outcome.verdict == "met").count();
    assert!(met * 10 >= outcomes.len() * 9, "{met} of {}", outcomes.len());
    if wanted.is_empty() {
        snapbox::Assert::new()
            .action_env("SNAPSHOTS")
            .eq(table(&situations, &outcomes), snapbox::file!("../../../docs/fixes.md").raw());
    }
}

fn table(situations: &[Situation], outcomes: &[(usize, Outcome)]) -> String {
    let met = outcomes.iter().filter(|(_, outcome)| outcome.verdict == "met").count();
    let mut text = format!(
        "# Fixes, carried out\n\nMade by `tools/carry-out-fixes`; do not edit. Each row is a small Debian that was put into the situation. The fix that was offered there was carried out\n\
        exactly as printed, by the person named, and it was checked again: after a new terminal or a sign-in where the fix asks for one. {met} of {} were met\nby that. The situations are in \
        [`crates/cli/tests/carried_out/situations.toml`](../crates/cli/tests/carried_out/situations.toml).\n\n\
        The person is skipper, who may use sudo, unless a row says guest, who may not, or root.\n\n| situation | cause | fix | then |\n| --- | --- | --- | --- |\n",
        outcomes.len()
    );
    for (index, outcome) in outcomes {
        let situation = &situations[*index];
        let who = if situation.who == "skipper" { String::new() } else { format!(" ({})", situation.who) };
        // Numbers of processes and of ports that were free differ from run to run.
        let command = |command: &String| match command.strip_prefix("kill ") {
            Some(_) => "`kill NUMBER`".to_owned(),
            None => format!("`{command}`"),
        };
        let fix = if outcome.commands.is_empty() {
            outcome.say.clone()
        } else {
            outcome.commands.iter().map(command).collect::<Vec<_>>().join("<br>")
        };
        let result = match (&situation.still, &outcome.then) {
            (Some(why), _) => format!("not met: {why}"),
            (None, None) => "met".to_owned(),
            (None, Some(then)) => format!("met, after a {}", then.replace("new-shell", "new terminal")),
        };
        let _ = writeln!(text, "| {}{who} | `{}` | {} | {result} |", situation.name, outcome.cause, fix.replace('|', "\\|"));
    }
    text
}

const SEVERAL: &str = "
    [require.ninja]\ntool = \"ninja\"
    [require.tree]\ntool = \"tree\"\nversion = \">= 2\"\npackages = { apt = \"tree\" }
    [require.jq]\ntool = \"jq\"
    [require.serial]\ngroup = \"dialout\"\ntitle = \"the group for the serial line\"
    [require.screen]\ngroup = \"video\"\ntitle = \"the group for the chart screen\"
    [require.charts]\nfolder = \"sea charts\"
    [require.out]\nfolder = \"/srv/out\"\nwritable = true
    [require.name]\nhostname = \"shore.test\"\npoints_to = \"127.0.0.1\"
    [require.port]\nport = 80\nset_by = { variable = \"SHORE_PORT\", env_file = \".env\" }
    [require.files]\nlimit = \"open-files\"\nat_least = 2000\n";

#[test]
#[ignore = "needs a throwaway root: run tools/carry-out-fixes"]
fn the_plan_as_a_script_makes_the_root_ready() {
    let mut root = Root::new("skipper", SEVERAL);
    let plan = root.sign_in(&format!("{PROGRAM} plan"));
    let written = root.sign_in(&format!("{PROGRAM} plan --format sh --output ~/steps.sh; sh ~/steps.sh"));
    let after = root.new_shell("bash", &format!("{PROGRAM} preflight --again --quiet"));
    assert!(after.contains("\nREADY  "), "{plan}\n{written}\n{after}");
    // Three packages are one command, two groups another, and there is one sign-in, which comes last.
    snapbox::Assert::new()
        .action_env("SNAPSHOTS")
        .eq(plan.replace(PROGRAM, "setup-ready"), snapbox::file!("snapshots/several.txt").raw());
}
