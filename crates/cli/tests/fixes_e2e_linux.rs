//! Fixes, judged by one question: carried out exactly as printed, is the requirement met? In a throwaway root, as a person of it.
//!
//! `tools/carry-out-fixes` makes the root and runs this; the table in `docs/reference/fixes.md` is what came of it.

use crate::fixes_e2e::root::{PROGRAM, Root};
use serde_json::Value;
use std::fmt::Write as _;
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
    let table: toml::Table = include_str!("fixes_e2e/situations.toml").parse().unwrap();
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

fn preflight() -> String {
    format!("echo; echo REPORT; {PROGRAM} preflight --format json; echo; echo REPORTED")
}

/// A recording of the same, so that what comes of it can be held against the machine.
fn recorded() -> String {
    format!("echo; echo RECORD; {PROGRAM} record --yes --quiet --output -; echo; echo RECORDED")
}

fn between<'w>(written: &'w str, begin: &str, end: &str) -> Option<&'w str> {
    written.split(&format!("\n{begin}\n")).nth(1).and_then(|rest| rest.split(&format!("\n{end}")).next())
}

/// Where what comes of the recording differs from what came of the machine; nothing where it does not.
fn differs(written: &str, (guide_text, who): (&str, &str), live: &Value) -> Option<String> {
    let Some(text) = between(written, "RECORD", "RECORDED") else { return Some("there is no recording".to_owned()) };
    let recording = match setup_ready_fleet::recording(text) {
        Ok(recording) => recording,
        Err(error) => return Some(format!("the recording cannot be read: {error}\n{text}")),
    };
    let guide = setup_ready_core::guide::parse(&format!("format = 1\n[project]\nname = \"Driftbuoy\"\n{guide_text}")).unwrap();
    let replayed = build_setup_ready::Preflight::new(guide).run(&recording).unwrap();
    let mut json = Vec::new();
    build_setup_ready::write::json(&replayed, &mut json).unwrap();
    let replayed: Value = serde_json::from_slice(&json).unwrap();
    // What stands for the person stands for them in both; how long an answer took, and what was free a moment ago, is another each time.
    let mut replacer = setup_ready_core::privacy::Replacer::for_guide(guide_text);
    replacer.user(who);
    replacer.home(&format!("/home/{who}"));
    replacer.project(&format!("/home/{who}/project"));
    let mut seen = |report: &Value| {
        let mut one = report["requirements"][0].clone();
        if let Some(one) = one.as_object_mut() {
            one.remove("elapsed_ms");
        }
        let numbers = regex::Regex::new(r"[0-9]+").unwrap();
        numbers.replace_all(&replacer.text(&one.to_string()), "0").into_owned()
    };
    let (there, here) = (seen(&replayed), seen(live));
    let same = there == here && live["requirements"][0]["verdict"].is_string();
    (!same).then(|| format!("from the recording: {there}\nfrom the machine:   {here}"))
}

fn report(written: &str) -> Value {
    let json = between(written, "REPORT", "REPORTED");
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
    /// What comes of a recording that was made before anything was done, where that is something else.
    differs: Option<String>,
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
    let written = root.sign_in(&format!("{session}\n{}\n{}", preflight(), recorded()));
    log += &written;
    let first = report(&written);
    let differs = differs(&written, (&format!("[require.x]\n{}", situation.guide), &situation.who), &first);
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
        // Nobody types the next line before a process that was told to end has.
        None => root.sign_in(&format!("{lines}\nsleep 0.3\n{}", preflight())),
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
        differs,
        log,
    }
}

#[test]
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
        if let Some(differs) = &outcome.differs {
            println!("== {}: a recording comes to something else\n{differs}\n{}", situation.name, outcome.log);
            wrong.push(&situation.name);
        }
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
            .eq(table(&situations, &outcomes), snapbox::file!("../../../docs/reference/fixes.md").raw());
    }
}

fn table(situations: &[Situation], outcomes: &[(usize, Outcome)]) -> String {
    let met = outcomes.iter().filter(|(_, outcome)| outcome.verdict == "met").count();
    let mut text = format!(
        "# Fixes, carried out\n\nMade by `tools/carry-out-fixes`; do not edit. Each row is a small Debian that was put into the situation. The fix that was offered there was carried out\n\
        exactly as printed, by the person named, and it was checked again: after a new terminal or a sign-in where the fix asks for one. {met} of {} were met\nby that. The situations are in \
        [`crates/cli/tests/fixes_e2e/situations.toml`](../../crates/cli/tests/fixes_e2e/situations.toml).\n\n\
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
