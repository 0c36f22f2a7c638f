//! What holds on one system only.

#![allow(clippy::wildcard_enum_match_arm, reason = "only subjects with paths are looked at")]

use super::context::{Context, Told};
use super::sense::promised;
use super::{Remark, Rule};
use crate::condition::Condition;
use crate::guide::{GuideFix, Requirement};
use crate::manager::Manager;
use crate::observation::Os;
use crate::prelude::*;
use hashbrown::HashMap;

pub(super) fn read(context: &Context<'_>, remarks: &mut Vec<Remark>) {
    let systems = promised(context);
    for (_, requirement) in context.requirements() {
        paths(context, requirement, &systems, remarks);
    }
    for (requirement, number, told) in context.commands() {
        if let Some(fix) = requirement.fixes.get(number) {
            command(requirement, fix, &told, &systems, remarks);
        }
    }
    case(context, remarks);
}

/// On which of the promised systems something may apply.
fn reached(systems: &[Os], conditions: [Option<&Condition>; 2]) -> Vec<Os> {
    let holds = |os: &Os| conditions.iter().flatten().all(|condition| condition.may_hold_on(*os));
    systems.iter().copied().filter(holds).collect()
}

/// The systems on which a path can be.
fn homes(path: &str) -> &'static [Os] {
    let drive = path.as_bytes().get(1) == Some(&b':') && path.starts_with(|c: char| c.is_ascii_alphabetic());
    let begins = |all: &[&str]| all.iter().any(|start| path.starts_with(start));
    if drive || path.starts_with("\\\\") || path.contains("%APPDATA%") || path.contains("%USERPROFILE%") {
        &[Os::Windows]
    } else if begins(&["/Applications/", "/Library/", "~/Library/", "/opt/homebrew/"]) {
        &[Os::Macos]
    } else if begins(&["/proc/", "/sys/", "/dev/tty", "/dev/kvm", "/etc/apt", "/run/", "/home/", "/lib/"]) {
        &[Os::Linux]
    } else if path.starts_with('/') {
        &[Os::Linux, Os::Macos]
    } else {
        &Os::ALL
    }
}

/// The name of the person whose home folder a path leads into.
fn person(path: &str) -> Option<&str> {
    let lower = path.replace('\\', "/");
    let after = ["/home/", "/Users/"].iter().find_map(|start| lower.find(start).map(|at| at + start.len()))?;
    let rest = path.get(after..)?;
    let name = rest.split(['/', '\\']).next()?;
    let shared = ["", "Shared", "Public", "linuxbrew"];
    (!shared.contains(&name) && !name.contains(['{', '%', '$'])).then_some(name)
}

fn paths(context: &Context<'_>, requirement: &Requirement, systems: &[Os], remarks: &mut Vec<Remark>) {
    for (key, path) in requirement.subject.facts().paths() {
        let at = context.at(requirement, key);
        if let Some(name) = person(path) {
            let message = format!("{path} lies in the home folder of {name}");
            remarks.push(Remark::of(Rule::HomeOfOnePerson, at, message).about(&*requirement.id));
            continue;
        }
        // Outside of a place another system may be meant.
        if !context.guide.places.is_empty() {
            continue;
        }
        let homes = homes(path);
        let elsewhere: Vec<String> = reached(systems, [requirement.when.as_ref(), None])
            .iter()
            .filter(|os| !homes.contains(os))
            .map(|os| os.name().to_owned())
            .collect();
        if !elsewhere.is_empty() {
            let message = format!(
                "{path} cannot be on {}, and nothing says that this is not for it",
                crate::text::join_words(&elsewhere, "or")
            );
            remarks.push(Remark::of(Rule::PathOfOneSystem, at, message).about(&*requirement.id));
        }
    }
}

fn command(requirement: &Requirement, fix: &GuideFix, told: &Told<'_>, systems: &[Os], remarks: &mut Vec<Remark>) {
    let conditions = [requirement.when.as_ref(), fix.when.as_ref()];
    let here = reached(systems, conditions);
    let words: Vec<&str> = told.text.split_whitespace().collect();
    let program = words.iter().find(|word| !["sudo", "doas"].contains(*word) && !word.contains('=')).copied().unwrap_or_default();
    let manager = Manager::ALL.iter().find(|one| one.program() == program || (**one == Manager::Apt && program == "apt"));
    if let Some(manager) = manager {
        let names_it = conditions.iter().flatten().any(|one| one.text().contains("manager") || one.text().contains("distro"));
        // On macOS and Windows the one that is named is the usual one; on Linux each system has its own.
        let usual = manager.system();
        if !names_it && (usual == Os::Linux || here.iter().any(|os| *os != usual)) {
            let message = format!("`{program}` is not on every machine for which this is");
            let note = format!("`packages = {{ {} = \"...\" }}`, or `when = \"manager == {}\"`", manager.word(), manager.word());
            remarks.push(Remark::of(Rule::ManagerOfOneSystem, told.span.clone(), message).about(&*requirement.id).note(note));
        }
        return;
    }
    let text = told.text;
    let powershell =
        ["Get-", "Set-", "New-Item", "Invoke-", "$env:", "[Environment]::", "Add-Content"].iter().any(|mark| text.contains(mark));
    let prompt = text.contains("%USERPROFILE%")
        || text.contains("%APPDATA%")
        || program.eq_ignore_ascii_case("setx")
        || text.contains(".exe ");
    let unix = ["chmod", "chown", "export", "source", "ln", "usermod", "systemctl", "launchctl"].contains(&program)
        || text.contains("$(")
        || text.contains("/dev/null")
        || words.contains(&"<<<");
    let wrong: Vec<String> = here
        .iter()
        .filter(|os| if powershell || prompt { **os != Os::Windows } else { unix && **os == Os::Windows })
        .map(|os| os.name().to_owned())
        .collect();
    if !wrong.is_empty() {
        let message = format!("this line means nothing to the shells of {}", crate::text::join_words(&wrong, "or"));
        remarks.push(Remark::of(Rule::ShellOfOneSystem, told.span.clone(), message).about(&*requirement.id));
    }
}

fn case(context: &Context<'_>, remarks: &mut Vec<Remark>) {
    let mut seen: HashMap<String, (&str, &str)> = HashMap::new();
    for (_, requirement) in context.requirements() {
        for (key, path) in
            requirement.subject.facts().paths().into_iter().filter(|(key, _)| ["file", "folder", "env_file"].contains(key))
        {
            let folded = path.to_lowercase();
            match seen.get(&folded) {
                Some((other, id)) if *other != path => {
                    let message = format!("{path} and {other} (of `{id}`) are one file where capital letters do not count");
                    remarks
                        .push(Remark::of(Rule::NamesDifferInCase, context.at(requirement, key), message).about(&*requirement.id));
                }
                Some(_) => {}
                None => {
                    seen.insert(folded, (path, requirement.id.as_str()));
                }
            }
        }
    }
}
