//! Plans for machines on which several things are broken at once: whoever follows one from its first step to its last is done.

mod cases;

use crate::harness::{in_folder, text};
use crate::trials;
use cases::{CASES, Case};
use libtest_mimic::Trial;
use serde_json::Value;

const GUIDE: &str = "format = 1\nproject.name = \"Buoy\"\n";
const MACHINE: &str = "format = 1\nother_ports = \"free\"\npath = [\"/usr/bin\"]\n[machine]\nname = \"made-up\"\n\
    [system]\nos = \"linux\"\ndistro = \"debian\"\ndistro_version = \"12\"\nmanagers = [\"apt\"]\n\
    [user]\nname = \"mate\"\nshell = \"bash\"\nstartup_file = \"~/.bashrc\"\nADMIN\ngroups = [\"mate\"]\nother_groups = [\"dialout\", \"power\", \"engine\", \"kvm\"]\n\
    [candidates.apt]\ntree = \"2.1.0\"\njq = \"1.6\"\nninja-build = \"1.11.1\"\ngit = \"1:2.39.5\"\nlibsqlite3-dev = \"3.40.1\"\n";

/// What each step says and has one type or write, with its level where it is not needed.
fn steps(plan: &Value) -> Vec<String> {
    let words = |value: &Value| match value {
        Value::Array(all) => all.iter().filter_map(Value::as_str).collect::<Vec<_>>().join("\n"),
        other => other.as_str().unwrap_or_default().to_owned(),
    };
    let level = |step: &Value| match step["level"].as_str() {
        Some("should") => " (recommended)",
        Some("may") => " (optional)",
        _ => "",
    };
    let one = |step: &Value| {
        let say = words(&step["say"]);
        format!("{}{}\n{}\n{}", say.trim_end_matches('.'), level(step), words(&step["run"]), words(&step["edit"]["append"]))
    };
    plan["plan"]["steps"].as_array().unwrap().iter().map(one).collect()
}

fn wrong(case: &Case) -> Vec<String> {
    let folder = tempfile::tempdir().unwrap();
    let within = folder.path();
    std::fs::write(within.join("setup-guide.toml"), format!("{GUIDE}{}{}", case.before.concat(), case.guide)).unwrap();
    let no_admin = case.asked.contains(&"no-admin");
    let admin = if no_admin { "admin = false" } else { "admin = true\nelevate = \"sudo\"" };
    std::fs::write(within.join("m.toml"), format!("{}{}{}", MACHINE.replace("ADMIN", admin), case.also.concat(), case.machine))
        .unwrap();
    let output = in_folder(within, "80", &["plan", "--machine", "m.toml", "--format", "json"]);
    let Ok(plan) = serde_json::from_slice::<Value>(&output.stdout) else {
        return vec![format!("no plan: {}", text(&output.stderr))];
    };
    let steps = steps(&plan);
    let all = format!("\n      {}", steps.join("\n----").replace('\n', "\n      "));
    let with = |word: &str| -> Vec<usize> { (0..steps.len()).filter(|at| steps[*at].contains(word)).collect() };
    let mut wrong = Vec::new();
    let mut last = 0;
    for word in case.order {
        if *word == "admin-together" {
            let admin: Vec<bool> = plan["plan"]["steps"].as_array().unwrap().iter().map(|step| step["admin"] == true).collect();
            let changes = admin.windows(2).filter(|two| two[0] != two[1]).count();
            if changes > 2 {
                wrong.push("admin steps are apart".to_owned());
            }
            continue;
        }
        match with(word).into_iter().next() {
            Some(at) if at >= last => last = at,
            Some(_) => wrong.push(format!("{word:?} comes too early")),
            None => wrong.push(format!("no step has {word:?}")),
        }
    }
    if let [first, rest @ ..] = case.together
        && !with(first).iter().any(|at| rest.iter().all(|word| steps[*at].contains(word)))
    {
        wrong.push(format!("{:?} are not together", case.together));
    }
    wrong.extend(
        case.once.iter().filter(|word| with(word).len() != 1).map(|word| format!("{word:?} stands {} times", with(word).len())),
    );
    wrong.extend(case.never.iter().filter(|word| !with(word).is_empty()).map(|word| format!("{word:?} is there")));
    if !wrong.is_empty() {
        wrong.push(all);
    }
    wrong
}

/// A plan for several things at once can be followed.
pub(crate) fn tests() -> Vec<Trial> {
    trials::of("at_once", CASES, 6, |case| case.name, wrong)
}
