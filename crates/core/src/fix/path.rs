#![allow(clippy::wildcard_enum_match_arm, reason = "built_in.rs names every cause; here are those that it sends")]

use super::Fix;
use super::case::Case;
use crate::cause::Cause;
use crate::guide::{PathKind, Subject};
use crate::prelude::*;

/// What settles a file or a folder that is not as it should be.
pub(super) fn fix(fault: &Case<'_>, cause: Cause) -> Fix {
    let path = fault.path();
    let quoted = fault.quoted(path);
    let folder = matches!(&fault.requirement.subject, Subject::Path(path) if path.kind == PathKind::Folder);
    let make = format!("mkdir -p {quoted}");
    let unix = |say: String, commands: &[String]| {
        if fault.finding.particulars.foreign && fault.unix() {
            return fault.admin_step(say, &commands.iter().map(String::as_str).collect::<Vec<_>>());
        }
        let mut fix = Fix::say(say);
        if fault.unix() {
            fix.run = commands.to_vec();
        }
        fix
    };
    match cause {
        Cause::PathMissing if folder => {
            let user = fault.bench.account.and_then(|account| account.name.as_deref());
            let mut commands = vec![make];
            // What is made with admin rights belongs to the administrator.
            commands.extend(
                user.filter(|_| fault.finding.particulars.foreign).map(|user| format!("chown {} {quoted}", fault.quoted(user))),
            );
            unix(format!("Make the folder {path}."), &commands)
        }
        Cause::PathMissing => {
            let docs = fault.requirement.docs.as_ref().map(|docs| format!(" Where it comes from: {docs}")).unwrap_or_default();
            Fix::say(format!("Put the file at {path}.{docs}"))
        }
        Cause::PathDangling => {
            let rest = if folder { vec![format!("rm {quoted}"), make] } else { vec![format!("rm {quoted}")] };
            let what = if folder { "make a folder in its place" } else { "put the file in its place" };
            unix(format!("Remove the link {path}, which leads nowhere, and {what}."), &rest)
        }
        Cause::PathOtherKind => {
            let aside = format!("mv {quoted} {}", fault.quoted(&format!("{path}.old")));
            let (what, rest) = if folder { ("make a folder", vec![aside, make]) } else { ("put the file", vec![aside]) };
            unix(format!("Move what is at {path} aside, and {what} there."), &rest)
        }
        Cause::PathUnwanted => {
            let aside = format!("mv {quoted} {}", fault.quoted(&format!("{path}.old")));
            unix(format!("Move {path} aside while you work on this project; nothing is lost by that."), &[aside])
        }
        Cause::PathMode => {
            let mode = fault.finding.wanted.as_deref().unwrap_or("600");
            let mut fix = unix(format!("Give {path} the permissions {mode}."), &[format!("chmod {mode} {quoted}")]);
            if fault.bench.inside_windows && path.starts_with("/mnt/") {
                fix.warn(
                    "Files on the Windows side keep no such permissions, and are slow to reach from here: better move the project into \
                     your home folder on this side.",
                );
            }
            if u32::from_str_radix(mode, 8).is_ok_and(|mode| mode & 0o022 != 0) {
                fix.warn("With these permissions other users of this machine may change it.");
            }
            fix
        }
        Cause::PathNotExecutable => unix(format!("Make {path} executable, if you trust it."), &[format!("chmod +x {quoted}")]),
        Cause::PathNotWritable | Cause::PathNotMine => {
            let user = fault.bench.account.and_then(|account| account.name.as_deref());
            let own = fault.finding.particulars.passing;
            match user.filter(|_| fault.unix()) {
                // What is one's own needs no admin rights.
                Some(_) if own => unix(format!("Let yourself write to {path}."), &[format!("chmod u+w {quoted}")]),
                Some(user) => {
                    let command = format!("chown {} {quoted}", fault.quoted(user));
                    let mut fix = fault.admin_step(format!("Make {path} yours, if nobody else needs it."), &[&command]);
                    fix.warn("A program of its owner until now may depend on it.");
                    fix
                }
                None => Fix::say(format!("Ask whoever looks after this machine to let you write to {path}.")),
            }
        }
        _ => {
            let what = if folder { "Put what is missing into" } else { "Correct the text of" };
            Fix::say(format!("{what} {path}: it must fit {}.", pattern(fault).unwrap_or_default()))
        }
    }
}

fn pattern(fault: &Case<'_>) -> Option<String> {
    match &fault.requirement.subject {
        Subject::Path(path) => path.contains.as_ref().map(|pattern| format!("the pattern {}", pattern.source())),
        _ => None,
    }
}
