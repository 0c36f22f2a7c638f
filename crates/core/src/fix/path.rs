//! What settles a file or a folder that is not as it should be.

use super::Fix;
use super::case::Case;
use crate::finding::{PathReason, PathTrouble, Whose};
use crate::guide::{PathKind, Subject};
use crate::observation::Os;
use crate::prelude::*;

/// A file or a folder on this machine.
struct Place<'a> {
    case: &'a Case<'a>,
    path: &'a str,
    whose: Whose,
    folder: bool,
}

pub(super) fn fix(case: &Case<'_>, reason: &PathReason) -> Option<Fix> {
    let Subject::Path(wanted) = &case.requirement.subject else { return None };
    let folder = wanted.kind == PathKind::Folder;
    let place = Place { case, path: &reason.path, whose: reason.whose, folder };
    let (path, shell) = (&reason.path, case.here.shell);
    let make = shell.make_folder(path);
    let aside = || shell.rename(path, &format!("{path}.old"));
    Some(match &reason.trouble {
        PathTrouble::Missing { alike: Some(name) } => {
            let from = beside(path, name);
            place.step(format!("Give {name} the name that this project calls."), &[shell.rename(&from, path)])
        }
        PathTrouble::Missing { alike: None } if folder => {
            let mut commands = vec![make];
            // What is made with admin rights belongs to the administrator.
            commands.extend(case.here.user().filter(|_| place.whose == Whose::Foreign).map(|user| place.own(user)));
            place.step(format!("Make the folder {path}."), &commands)
        }
        PathTrouble::Missing { alike: None } => {
            let docs = case.requirement.docs.as_ref().map(|docs| format!(" Where it comes from: {docs}")).unwrap_or_default();
            Fix::say(format!("Put the file at {path}.{docs}"))
        }
        PathTrouble::Dangling { .. } => {
            let remove = shell.remove_link(path, folder);
            let rest = if folder { vec![remove, make] } else { vec![remove] };
            let what = if folder { "make a folder in its place" } else { "put the file in its place" };
            place.step(format!("Remove the link {path}, which leads nowhere, and {what}."), &rest)
        }
        PathTrouble::OtherKind { .. } => {
            let (what, rest) = if folder { ("make a folder", vec![aside(), make]) } else { ("put the file", vec![aside()]) };
            place.step(format!("Move what is at {path} aside, and {what} there."), &rest)
        }
        PathTrouble::Unwanted => {
            place.step(format!("Move {path} aside while you work on this project; nothing is lost by that."), &[aside()])
        }
        PathTrouble::Mode { needed, .. } => place.mode(*needed),
        PathTrouble::OpenToOthers { needed, .. } if case.here.os == Some(Os::Windows) => place.mode(*needed),
        PathTrouble::OpenToOthers { .. } => Fix::say(format!("Let only yourself use {path}.")),
        PathTrouble::NotExecutable => {
            let say = format!("Make {path} executable, if you trust it.");
            if case.unix() { place.step(say, &[format!("chmod +x {}", case.quoted(path))]) } else { Fix::say(say) }
        }
        PathTrouble::NotWritable => place.writable(false),
        PathTrouble::NotMine { .. } => place.writable(true),
        PathTrouble::Content => {
            let what = if folder { "Put what is missing into" } else { "Correct the text of" };
            let pattern = wanted.contains.as_ref()?;
            Fix::say(format!("{what} {path}: it must fit the pattern {}.", pattern.source()))
        }
        PathTrouble::OwnerUnknown | PathTrouble::ContentUnread | PathTrouble::NoPermissionBits => return None,
    })
}

/// The path of something that stands beside another.
fn beside(path: &str, name: &str) -> String {
    match path.rsplit_once(['/', '\\']) {
        None => name.to_owned(),
        Some((above, rest)) => {
            let separator = path.get(above.len()..path.len() - rest.len()).unwrap_or("/");
            format!("{above}{separator}{name}")
        }
    }
}

impl Place<'_> {
    /// Commands for whoever may change the place.
    fn step(&self, say: String, commands: &[String]) -> Fix {
        if self.case.here.os.is_none() {
            return Fix::say(say);
        }
        if self.whose == Whose::Foreign {
            return self.case.admin_step(say, &commands.iter().map(String::as_str).collect::<Vec<_>>());
        }
        Fix::say(say).run(commands.to_vec())
    }

    /// The command that gives a place to a user: on Windows by its access list, which says what counts (icacls, in Microsoft's reference
    /// of commands).
    fn own(&self, user: &str) -> String {
        let place = self.case.quoted(self.path);
        if self.case.here.os != Some(Os::Windows) {
            return format!("chown {} {place}", self.case.quoted(user));
        }
        // Of a folder, what is made in it later takes the right over.
        let right = if self.folder { "(OI)(CI)M" } else { "M" };
        format!("icacls {place} /grant {}", self.case.quoted(&format!("{user}:{right}")))
    }

    fn mode(&self, needed: u32) -> Fix {
        let (case, path) = (self.case, self.path);
        if case.here.os == Some(Os::Windows) {
            let say = format!("Let only yourself use {path}.");
            // What it would take over from the folder is cut off, and one right is left.
            return match case.here.user() {
                Some(user) => {
                    let right = case.quoted(&format!("{user}:F"));
                    self.step(say, &[format!("icacls {} /inheritance:r /grant:r {right}", case.quoted(path))])
                }
                None => Fix::say(say),
            };
        }
        let say = format!("Give {path} the permissions {needed:o}.");
        let mut fix = self.step(say, &[format!("chmod {needed:o} {}", case.quoted(path))]);
        if case.here.inside_windows && path.starts_with("/mnt/") {
            fix.warn(
                "Files on the Windows side keep no such permissions, and are slow to reach from here: better move the project into your \
                 home folder on this side.",
            );
        }
        if needed & 0o022 != 0 {
            fix.warn("With these permissions other users of this machine may change it.");
        }
        fix
    }

    fn writable(&self, must_be_mine: bool) -> Fix {
        let (case, path) = (self.case, self.path);
        let windows = case.here.os == Some(Os::Windows);
        // What is one's own needs no admin rights.
        let is_own = self.whose == Whose::Own;
        match case.here.user().filter(|_| case.here.os.is_some()) {
            Some(user) if is_own && windows && self.folder => {
                Fix::say(format!("Let yourself write to {path}.")).run(vec![self.own(user)])
            }
            Some(_) if is_own => {
                let quoted = case.quoted(path);
                let command = if windows { format!("attrib -r {quoted}") } else { format!("chmod u+w {quoted}") };
                Fix::say(format!("Let yourself write to {path}.")).run(vec![command])
            }
            Some(user) => {
                let own = self.own(user);
                let take = format!("icacls {} /setowner {}", case.quoted(path), case.quoted(user));
                let commands = if windows && must_be_mine { vec![take, own] } else { vec![own] };
                let say = if windows {
                    format!("Let yourself write to {path}, if nobody else needs it for themselves.")
                } else {
                    format!("Make {path} yours, if nobody else needs it.")
                };
                let mut fix = case.admin_step(say, &commands.iter().map(String::as_str).collect::<Vec<_>>());
                fix.warn("A program of its owner until now may depend on it.");
                fix
            }
            None => Fix::say(format!("Ask whoever looks after this machine to let you write to {path}.")),
        }
    }
}
