#![allow(clippy::wildcard_enum_match_arm, reason = "built_in.rs names every cause; here are those that it sends")]

use super::Fix;
use super::case::Case;
use crate::cause::Cause;
use crate::finding::Whose;
use crate::guide::{PathKind, Subject};
use crate::observation::Os;
use crate::prelude::*;

/// What settles a file or a folder that is not as it should be.
pub(super) fn fix(fault: &Case<'_>, cause: Cause) -> Fix {
    let (path, shell) = (fault.path(), fault.bench.shell);
    let quoted = fault.quoted(path);
    let folder = matches!(&fault.requirement.subject, Subject::Path(path) if path.kind == PathKind::Folder);
    let make = shell.make_folder(path);
    let aside = || shell.rename(path, &format!("{path}.old"));
    match cause {
        Cause::PathMissing if fault.finding.particulars.alike.is_some() => {
            let name = fault.finding.particulars.alike.as_deref().unwrap_or_default();
            let from = path.rsplit_once(['/', '\\']).map_or_else(
                || name.to_owned(),
                |(above, rest)| {
                    let separator = path.get(above.len()..path.len() - rest.len()).unwrap_or("/");
                    format!("{above}{separator}{name}")
                },
            );
            step(fault, format!("Give {name} the name that this project calls."), &[shell.rename(&from, path)])
        }
        Cause::PathMissing if folder => {
            let mut commands = vec![make];
            // What is made with admin rights belongs to the administrator.
            commands.extend(
                user(fault).filter(|_| fault.finding.particulars.whose == Whose::Foreign).map(|user| own(fault, user, folder)),
            );
            step(fault, format!("Make the folder {path}."), &commands)
        }
        Cause::PathMissing => {
            let docs = fault.requirement.docs.as_ref().map(|docs| format!(" Where it comes from: {docs}")).unwrap_or_default();
            Fix::say(format!("Put the file at {path}.{docs}"))
        }
        Cause::PathDangling => {
            let remove = shell.remove_link(path, folder);
            let rest = if folder { vec![remove, make] } else { vec![remove] };
            let what = if folder { "make a folder in its place" } else { "put the file in its place" };
            step(fault, format!("Remove the link {path}, which leads nowhere, and {what}."), &rest)
        }
        Cause::PathOtherKind => {
            let (what, rest) = if folder { ("make a folder", vec![aside(), make]) } else { ("put the file", vec![aside()]) };
            step(fault, format!("Move what is at {path} aside, and {what} there."), &rest)
        }
        Cause::PathUnwanted => {
            step(fault, format!("Move {path} aside while you work on this project; nothing is lost by that."), &[aside()])
        }
        Cause::PathMode => mode(fault),
        Cause::PathNotExecutable => {
            let say = format!("Make {path} executable, if you trust it.");
            if fault.unix() { step(fault, say, &[format!("chmod +x {quoted}")]) } else { Fix::say(say) }
        }
        Cause::PathNotWritable | Cause::PathNotMine => writable(fault, folder),
        _ => {
            let what = if folder { "Put what is missing into" } else { "Correct the text of" };
            Fix::say(format!("{what} {path}: it must fit {}.", pattern(fault).unwrap_or_default()))
        }
    }
}

/// Commands for whoever may change the place.
fn step(fault: &Case<'_>, say: String, commands: &[String]) -> Fix {
    if fault.bench.os.is_none() {
        return Fix::say(say);
    }
    if fault.finding.particulars.whose == Whose::Foreign {
        return fault.admin_step(say, &commands.iter().map(String::as_str).collect::<Vec<_>>());
    }
    Fix { run: commands.to_vec(), ..Fix::say(say) }
}

fn user<'a>(fault: &Case<'a>) -> Option<&'a str> {
    fault.bench.account.and_then(|account| account.name.as_deref())
}

/// The command that gives a place to a user: on Windows by its access list, which says what counts (icacls, in Microsoft's reference of
/// commands).
fn own(fault: &Case<'_>, user: &str, folder: bool) -> String {
    let place = fault.quoted(fault.path());
    if fault.bench.os != Some(Os::Windows) {
        return format!("chown {} {place}", fault.quoted(user));
    }
    // Of a folder, what is made in it later takes the right over.
    let right = if folder { "(OI)(CI)M" } else { "M" };
    format!("icacls {place} /grant {}", fault.quoted(&format!("{user}:{right}")))
}

fn mode(fault: &Case<'_>) -> Fix {
    let path = fault.path();
    if fault.bench.os == Some(Os::Windows) {
        // What it would take over from the folder is cut off, and one right is left.
        let user = user(fault).unwrap_or("YOUR-NAME");
        let command = format!("icacls {} /inheritance:r /grant:r {}", fault.quoted(path), fault.quoted(&format!("{user}:F")));
        return step(fault, format!("Let only yourself use {path}."), &[command]);
    }
    let mode = fault.finding.wanted.as_deref().unwrap_or("600");
    let mut fix = step(fault, format!("Give {path} the permissions {mode}."), &[format!("chmod {mode} {}", fault.quoted(path))]);
    if fault.bench.inside_windows && path.starts_with("/mnt/") {
        fix.warn(
            "Files on the Windows side keep no such permissions, and are slow to reach from here: better move the project into your home \
             folder on this side.",
        );
    }
    if u32::from_str_radix(mode, 8).is_ok_and(|mode| mode & 0o022 != 0) {
        fix.warn("With these permissions other users of this machine may change it.");
    }
    fix
}

fn writable(fault: &Case<'_>, folder: bool) -> Fix {
    let path = fault.path();
    let windows = fault.bench.os == Some(Os::Windows);
    // What is one's own needs no admin rights.
    let is_own = fault.finding.particulars.whose == Whose::Own;
    match user(fault).filter(|_| fault.bench.os.is_some()) {
        Some(user) if is_own && windows && folder => {
            Fix { run: vec![own(fault, user, folder)], ..Fix::say(format!("Let yourself write to {path}.")) }
        }
        Some(_) if is_own => {
            let quoted = fault.quoted(path);
            let command = if windows { format!("attrib -r {quoted}") } else { format!("chmod u+w {quoted}") };
            Fix { run: vec![command], ..Fix::say(format!("Let yourself write to {path}.")) }
        }
        Some(user) => {
            let own = own(fault, user, folder);
            let take = format!("icacls {} /setowner {}", fault.quoted(path), fault.quoted(user));
            let commands = if windows && fault.finding.cause == Some(Cause::PathNotMine) { vec![take, own] } else { vec![own] };
            let say = if windows {
                format!("Let yourself write to {path}, if nobody else needs it for themselves.")
            } else {
                format!("Make {path} yours, if nobody else needs it.")
            };
            let mut fix = fault.admin_step(say, &commands.iter().map(String::as_str).collect::<Vec<_>>());
            fix.warn("A program of its owner until now may depend on it.");
            fix
        }
        None => Fix::say(format!("Ask whoever looks after this machine to let you write to {path}.")),
    }
}

fn pattern(fault: &Case<'_>) -> Option<String> {
    match &fault.requirement.subject {
        Subject::Path(path) => path.contains.as_ref().map(|pattern| format!("the pattern {}", pattern.source())),
        _ => None,
    }
}
