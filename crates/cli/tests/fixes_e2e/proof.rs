//! A situation, its proof, and the judgement.

use super::newcomer::Newcomer;
use serde::Deserialize;
use serde_json::Value;
use std::collections::BTreeMap;

/// What can make the proof pass.
#[derive(Deserialize, Clone, Copy, PartialEq, Eq, Default)]
#[serde(rename_all = "kebab-case")]
pub enum Cure {
    /// Commands and lines, typed by the person as the plan has them.
    #[default]
    Commands,
    /// Somebody who looks after the machine; the person can be told what to ask for.
    Admin,
    /// Only something that the software cannot know: it must say what is so, and never "ready".
    Person,
    /// Nothing has to be done: it works.
    None,
}

impl Cure {
    pub fn word(self) -> &'static str {
        match self {
            Self::Commands => "commands",
            Self::Admin => "an administrator",
            Self::Person => "the person",
            Self::None => "nothing to cure",
        }
    }
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Situation {
    pub name: String,
    #[serde(default)]
    pub cure: Cure,
    #[serde(default = "skipper")]
    pub who: String,
    #[serde(default = "bash")]
    pub shell: String,
    /// What runs in the person's terminals, where that is not their account's shell.
    pub session_shell: Option<String>,
    /// Their terminals are login shells.
    #[serde(default)]
    pub login: bool,
    #[serde(default)]
    pub boots: bool,
    pub prepare: String,
    /// The package managers that it is written for, in the root that has several.
    #[serde(default)]
    pub each: Vec<String>,
    /// Happens, as root, while the person is signed in.
    pub late: Option<String>,
    /// What the person types before the first check.
    pub session: Option<String>,
    pub guide: String,
    #[serde(default)]
    pub arguments: String,
    pub value: Option<String>,
    pub password: Option<String>,
    pub proof: String,
    /// The proof must also pass in a new terminal.
    #[serde(default)]
    pub fresh: bool,
    /// What at least must work afterwards where the whole cannot.
    pub partly: Option<String>,
    #[serde(default = "three")]
    pub rounds: usize,
    /// What the first report must tell.
    pub says: Option<String>,
    /// What the second report must tell.
    pub again: Option<String>,
    /// What `explain` must tell where the check can see nothing.
    pub explain: Option<String>,
    /// Something undoes each step at once, so that what is foretold does not come.
    #[serde(default)]
    pub undone: bool,
    #[serde(default)]
    pub undecided: bool,
    #[serde(default)]
    pub verdicts: BTreeMap<String, String>,
}

fn skipper() -> String {
    "skipper".into()
}
fn bash() -> String {
    "bash".into()
}
fn three() -> usize {
    3
}

#[derive(Default)]
pub struct Judged {
    /// The situation is not what it says.
    unmade: Option<String>,
    pub false_ready: bool,
    /// What was foretold of steps, and how much of that came.
    pub foretold: usize,
    pub came: usize,
    wrong: Vec<String>,
    /// The causes of what the first report does not call met.
    pub causes: Vec<String>,
    pub log: String,
}

impl Judged {
    pub fn word(&self) -> &'static str {
        match (&self.unmade, self.wrong.is_empty() && !self.false_ready) {
            (Some(_), _) => "not made",
            (None, true) => "right",
            (None, false) => "wrong",
        }
    }

    pub fn faults(&self) -> impl Iterator<Item = &str> {
        let ready = self.false_ready.then_some("wrong \"ready\"");
        self.unmade.iter().map(String::as_str).chain(ready).chain(self.wrong.iter().map(String::as_str))
    }
}

impl Judged {
    /// What was foretold of each step must have come: what it settles is met.
    fn hold_to_predictions(&mut self, plan: &Value, failed: &[Value], after: &Value) {
        let foretold =
            plan["steps"].as_array().into_iter().flatten().filter(|step| step["foreseen"] == true && step["presumed"] == false);
        for id in foretold.flat_map(|step| step["settles"].as_array().into_iter().flatten()) {
            if failed.contains(id) {
                continue;
            }
            let now = after["requirements"].as_array().into_iter().flatten().find(|requirement| requirement["id"] == *id);
            self.foretold += 1;
            if now.is_some_and(|requirement| requirement["verdict"] == "met") {
                self.came += 1;
            } else {
                self.wrong.push(format!("{id} was foretold to be met, and is not"));
            }
        }
    }
}

/// All that a report tells in words.
fn telling(report: &Value) -> String {
    let mut text = String::new();
    for requirement in report["requirements"].as_array().into_iter().flatten() {
        for part in ["message", "found", "wanted"] {
            text.push_str(requirement[part].as_str().unwrap_or_default());
            text.push('\n');
        }
    }
    for step in report["plan"]["steps"].as_array().into_iter().flatten() {
        text.push_str(&step.to_string());
        text.push('\n');
    }
    text
}

fn tells(pattern: &str, text: &str) -> bool {
    regex::Regex::new(pattern).unwrap_or_else(|error| panic!("{pattern}: {error}")).is_match(text)
}

pub fn judge(situation: &Situation) -> Judged {
    let mut judged = Judged::default();
    let mut newcomer = Newcomer::new(situation);
    let ready = |report: &Value| report["outcome"] == "ready";
    let works = newcomer.proves(&situation.proof);
    let first = newcomer.checks();
    let open = first["requirements"].as_array().into_iter().flatten().filter(|requirement| requirement["verdict"] != "met");
    judged.causes = open.filter_map(|requirement| requirement["cause"].as_str()).map(ToOwned::to_owned).collect();
    let outcome = first["outcome"].as_str().unwrap_or("no report").to_owned();
    if works != (situation.cure == Cure::None) {
        judged.unmade = Some(format!("the proof {} before anything was done", if works { "passes" } else { "fails" }));
    }
    if let Some(pattern) = &situation.says
        && !tells(pattern, &telling(&first))
    {
        judged.wrong.push(format!("the first report does not tell: {pattern}"));
    }
    for (id, verdict) in &situation.verdicts {
        let requirement = first["requirements"].as_array().into_iter().flatten().find(|requirement| requirement["id"] == **id);
        if requirement.is_none_or(|requirement| requirement["verdict"] != **verdict) {
            judged.wrong.push(format!("{id} is not {verdict}"));
        }
    }
    if situation.cure == Cure::None {
        let right = if situation.undecided { "undecided" } else { "ready" };
        if outcome != right {
            judged.wrong.push(format!("{outcome} instead of {right}: {}", summary(&first)));
        }
        if situation.undecided && first["plan"]["steps"].as_array().is_none_or(Vec::is_empty) {
            judged.wrong.push("undecided without a plan".into());
        }
        judged.log = newcomer.log();
        return judged;
    }
    if situation.explain.is_none() && ready(&first) && !works {
        judged.false_ready = true;
    }
    let mut report = first;
    let mut advised = Vec::new();
    let mut second = None;
    for round in 0..situation.rounds {
        if report["outcome"].is_null() || ready(&report) || report["plan"]["steps"].as_array().is_none_or(Vec::is_empty) {
            break;
        }
        let steps = report["plan"]["steps"].to_string();
        // The same advice once more: nobody follows it again.
        if advised.contains(&steps) {
            if situation.cure == Cure::Commands {
                judged.wrong.push("the same plan came back".into());
            }
            break;
        }
        advised.push(steps);
        newcomer.does(&report["plan"]);
        let before = std::mem::replace(&mut report, Value::Null);
        report = newcomer.checks();
        if !situation.undone {
            judged.hold_to_predictions(&before["plan"], &newcomer.failed, &report);
        }
        if round == 0 {
            second = Some(telling(&report));
        }
    }
    let mut works = newcomer.proves(&situation.proof);
    if works && situation.fresh {
        newcomer.opens_a_terminal();
        works = newcomer.proves(&situation.proof);
    }
    if let Some(pattern) = &situation.again
        && !second.is_some_and(|text| tells(pattern, &text))
    {
        judged.wrong.push(format!("the second report does not tell: {pattern}"));
    }
    if let Some(pattern) = &situation.explain {
        let told = newcomer.explains();
        if !tells(pattern, &told) {
            judged.wrong.push(format!("explain does not tell: {pattern}"));
        }
    } else if ready(&report) && !works {
        judged.false_ready = true;
    }
    if let Some(partly) = &situation.partly
        && !newcomer.proves(partly)
    {
        judged.wrong.push("what could be done was not".into());
    }
    if situation.cure == Cure::Commands && !works {
        judged.wrong.push(format!("not cured: {}", summary(&report)));
    } else if works && !ready(&report) && situation.partly.is_none() {
        judged.wrong.push(format!("it works, and the report says: {}", summary(&report)));
    }
    judged.log = newcomer.log();
    judged
}

fn summary(report: &Value) -> String {
    let open = report["requirements"].as_array().into_iter().flatten().filter(|requirement| requirement["verdict"] != "met");
    let texts: Vec<_> = open
        .map(|one| format!("{} {}", one["cause"].as_str().unwrap_or("?"), one["message"].as_str().unwrap_or_default()))
        .collect();
    if texts.is_empty() { report["outcome"].as_str().unwrap_or("no report").to_owned() } else { texts.join(" / ") }
}
