//! A person in a situation: signs in, opens terminals, types what the plan says.

use super::proof::Situation;
use super::root::{PROGRAM, Root};
use super::terminal::Terminal;
use serde_json::Value;
use std::fmt::Write as _;

pub struct Newcomer<'situation> {
    root: Root,
    terminal: Terminal,
    situation: &'situation Situation,
    log: String,
    reports: usize,
    /// The commands of each step that was done.
    done: Vec<(Value, Value)>,
    /// What the steps would have settled of which a command failed.
    pub failed: Vec<Value>,
}

impl<'situation> Newcomer<'situation> {
    pub fn new(situation: &'situation Situation) -> Self {
        let guide = if situation.guide.contains("[require.")
            && !situation.guide.trim_start().starts_with("file")
            && !situation.guide.trim_start().starts_with("tool")
        {
            situation.guide.clone()
        } else {
            format!("[require.x]\n{}", situation.guide)
        };
        let mut root = Root::of(&situation.who, &guide, !situation.each.is_empty());
        let mut log = String::new();
        if situation.shell != "bash" {
            log += &root.prepare(&format!("usermod --shell $(command -v {}) {}", situation.shell, situation.who));
        }
        if situation.boots {
            log += &root.boot();
        }
        log += &root.situate(&situation.prepare);
        let shell = shell(situation);
        root.sign_in_at_desk(&shell);
        if let Some(late) = &situation.late {
            log += &root.situate(late);
        }
        let mut newcomer = Self {
            terminal: Terminal::open(&shell, situation.password.as_deref()),
            root,
            situation,
            log,
            reports: 0,
            done: Vec::new(),
            failed: Vec::new(),
        };
        newcomer.root.start_in(&newcomer.terminal.device);
        if let Some(session) = &situation.session {
            newcomer.terminal.type_line(session);
        }
        newcomer
    }

    fn replace_terminal(&mut self) {
        let new = Terminal::open(&shell(self.situation), self.situation.password.as_deref());
        let old = std::mem::replace(&mut self.terminal, new);
        let _ = write!(self.log, "{}\n-- a new terminal --\n", old.text());
        self.root.start_in(&self.terminal.device);
    }

    pub fn opens_a_terminal(&mut self) {
        self.replace_terminal();
    }

    fn signs_in(&mut self) {
        self.log += "\n-- a new sign-in --\n";
        self.root.sign_in_at_desk(&shell(self.situation));
        self.replace_terminal();
    }

    /// Whether the person can do what they want to do, here and now.
    pub fn proves(&mut self, proof: &str) -> bool {
        let plain = shell(self.situation).starts_with("fish") || shell(self.situation).starts_with("tcsh");
        let line = if plain { proof.to_owned() } else { format!("( {proof} )") };
        self.terminal.type_line(&line) == Some(0)
    }

    /// Checks, and gives the report; null where there is none.
    pub fn checks(&mut self) -> Value {
        self.reports += 1;
        let file = format!("/tmp/report-{}", self.reports);
        // Where the disk for temporary files is what is full, the home folder does.
        let file = if self.situation.guide.contains("/tmp") { format!("{}{file}", self.root.home()) } else { file };
        self.root.situate(&format!("mkdir -p $(dirname {file}); chmod 1777 $(dirname {file})"));
        self.terminal.type_line(&format!("{PROGRAM} preflight {} --format json --output {file}", self.situation.arguments));
        let report = self.root.read(&file).and_then(|text| serde_json::from_str::<Value>(&text).ok()).unwrap_or_default();
        let _ = writeln!(self.log, "\n-- report {} --\n{:#}\n{:#}", self.reports, report["requirements"], report["plan"]);
        report
    }

    pub fn explains(&mut self) -> String {
        let before = self.terminal.text().len();
        self.terminal.type_line(&format!("{PROGRAM} explain x"));
        self.terminal.text().get(before..).unwrap_or_default().to_owned()
    }

    /// Does what a plan says, word for word.
    pub fn does(&mut self, plan: &Value) {
        let fill = |line: &str| match &self.situation.value {
            Some(value) => line.replace("YOUR-VALUE", &format!("'{value}'")),
            None => line.to_owned(),
        };
        let mut due = None;
        for step in plan["steps"].as_array().into_iter().flatten() {
            // What was done before is not done again: what stands below it for that case is.
            let before = self.done.contains(&(step["run"].clone(), step["edit"].clone()));
            let step = if before && step["otherwise"].is_object() { &step["otherwise"] } else { step };
            self.done.push((step["run"].clone(), step["edit"].clone()));
            let run: Vec<String> = step["run"].as_array().into_iter().flatten().filter_map(Value::as_str).map(fill).collect();
            let edit = step["edit"].as_object();
            let after = step["then"].as_str();
            // What could not be carried out has foretold nothing.
            if run.iter().filter(|line| self.terminal.type_line(line) != Some(0)).count() > 0 {
                self.failed.extend(step["settles"].as_array().into_iter().flatten().cloned());
            }
            if let Some(edit) = edit {
                self.edits(
                    &edit["file"],
                    &fill(edit["append"].as_str().unwrap_or_default()),
                    edit.get("line").and_then(Value::as_u64),
                );
            }
            if run.is_empty() && edit.is_none() && after.is_some() {
                self.waits_for(after);
                due = None;
            } else if after.is_some() {
                due = after.max(due);
            }
        }
        self.waits_for(due);
    }

    fn waits_for(&mut self, then: Option<&str>) {
        match then {
            Some("new-shell") => self.replace_terminal(),
            Some(_) => self.signs_in(),
            None => {}
        }
    }

    fn edits(&mut self, file: &Value, line: &str, number: Option<u64>) {
        let file = file.as_str().unwrap_or_default();
        let path = match file.strip_prefix("~/") {
            Some(rest) => format!("{}/{rest}", self.root.home()),
            None if file.starts_with('/') => file.to_owned(),
            None => format!("{}/project/{file}", self.root.home()),
        };
        let came = self.root.edit(&path, line, number, &self.situation.who);
        let _ = writeln!(self.log, "\n-- {line} >> {path} {came}");
    }

    pub fn log(&self) -> String {
        format!("{}\n-- the last terminal --\n{}", self.log, self.terminal.text())
    }
}

/// What runs in the person's terminals.
fn shell(situation: &Situation) -> String {
    match (&situation.session_shell, situation.login, situation.shell.as_str()) {
        (Some(shell), ..) => shell.clone(),
        (None, _, "sh") => "dash -l".into(),
        (None, _, "tcsh") => "tcsh".into(),
        (None, true, shell) => format!("{shell} -l"),
        (None, false, shell) => format!("{shell} -i"),
    }
}
