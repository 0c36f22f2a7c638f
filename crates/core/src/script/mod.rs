//! A guide as a POSIX script that checks a machine which has nothing of ours: for each requirement it says what the program would, or that it
//! cannot know. It is read by the stranger who runs it, so it has a function for each kind and a line for each requirement.

mod condition;
pub(crate) mod kind;
mod lines;
pub(crate) mod part;
pub(crate) mod values;

use crate::guide::Guide;
use crate::prelude::*;
use crate::text::Sanitised;
use alloc::collections::BTreeSet;
use core::fmt::Write;
use part::Part;

/// A text of the guide in a comment.
fn remark(text: &str) -> String {
    Sanitised::line(text).to_string()
}

/// The script that checks a machine against a guide. What its values are set to elsewhere it does not follow: what rests on one that may be moved is unknown.
pub fn script(guide: &Guide) -> String {
    let mut needed: BTreeSet<Part> = BTreeSet::new();
    let mut body = String::new();
    let mut stage = usize::MAX;
    for index in order(guide) {
        let Some(requirement) = guide.requirements.get(index) else { continue };
        if requirement.stage != stage {
            stage = requirement.stage;
            if let Some(stage) = guide.stages.get(stage) {
                let _ = writeln!(body, "\n# {}", remark(&stage.title));
            }
        }
        let line = lines::line(guide, requirement, &mut needed);
        let _ = writeln!(body, "{line}");
    }
    let mut out = String::from("#!/bin/sh\n");
    let project = remark(&guide.project.name);
    let _ = write!(
        out,
        "# Is this machine ready to build {project}? Looks, changes nothing, and sends nothing anywhere. Written by\n\
         # `setup-ready render sh` from setup-guide.toml; for what it cannot know, and for what to do: setup-ready preflight\n\
         #\n\
         # In the folder of the project:  sh THIS-FILE"
    );
    if guide.roles.is_empty() {
        out.push('\n');
    } else {
        let roles: Vec<&str> = guide.roles.iter().map(|role| role.id.as_str()).collect();
        let _ = writeln!(out, "   or, for one role:  sh THIS-FILE {}", roles.join("|"));
    }
    out.push_str("# It ends with 0 ready, 1 not ready, 2 wrong use, 3 undecided.\nset -u\nunset CDPATH\n");
    roles(&mut out, guide);
    out.push('\n');
    out.push_str(include_str!("parts/head.sh"));
    for part in needed {
        let _ = write!(out, "\n{}", part.text());
    }
    let disks: Vec<String> = guide.requirements.iter().filter_map(lines::disk_place).collect();
    if !disks.is_empty() {
        let _ = writeln!(out, "\ndisk_total=$(fitting {})", disks.join(" "));
    }
    out.push_str(&body);
    out.push_str(include_str!("parts/end.sh"));
    out
}

fn roles(out: &mut String, guide: &Guide) {
    out.push_str("role=${1-}\n");
    let known: Vec<&str> = guide.roles.iter().map(|role| role.id.as_str()).collect();
    if known.is_empty() {
        out.push_str("[ $# = 0 ] || { echo 'This guide has no roles: leave the word out.' >&2; exit 2; }\n");
    } else {
        let _ = writeln!(
            out,
            "case $role in '' | {}) ;; *) echo 'The roles are: {}' >&2; exit 2 ;; esac",
            known.join(" | "),
            known.join(", ")
        );
    }
}

/// The requirements in the order of the guide, but each behind what it rests on.
fn order(guide: &Guide) -> Vec<usize> {
    let mut done: Vec<usize> = Vec::new();
    let mut seen: BTreeSet<usize> = BTreeSet::new();
    for first in 0..guide.requirements.len() {
        // Each entry with whether what it rests on has been put before it.
        let mut open = vec![(first, false)];
        while let Some((index, ready)) = open.pop() {
            if ready {
                done.push(index);
                continue;
            }
            if !seen.insert(index) {
                continue;
            }
            open.push((index, true));
            if let Some(requirement) = guide.requirements.get(index) {
                open.extend(
                    lines::dependencies(requirement)
                        .into_iter()
                        .filter(|other| !seen.contains(other))
                        .map(|other| (other, false)),
                );
            }
        }
    }
    done
}

#[cfg(test)]
mod tests;
