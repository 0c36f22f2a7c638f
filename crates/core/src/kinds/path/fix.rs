//! What settles it.

use crate::finding::{PathReason, PathTrouble, Reason, Whose};
use crate::fix::Fix;
use crate::fix::case::{Case, Seen, sign_in};
use crate::fix::effect::{Change, Effect, PathChange};
use crate::fix::fills::Fills;
use crate::fix::kind::{ReasonFixes, SubjectFixes};
use crate::guide::{Path, PathKind, Requirement, Subject};
use crate::inquiry::{Inquiry, Stop, if_known};
use crate::observation::{AccessDenied, Os, ScriptTrouble};
use crate::prelude::*;
use crate::text::join_words;

/// A file or a folder on this machine.
struct Place<'a> {
    case: &'a Case<'a>,
    wanted: &'a Path,
    /// As the guide writes it, and as the system knows it.
    asked: &'a str,
    path: &'a str,
    whose: Whose,
    folder: bool,
}

pub(crate) fn fix(case: &Case<'_>, reason: &PathReason) -> Option<Fix> {
    let Subject::Path(wanted) = &case.requirement.subject else { return None };
    let folder = wanted.kind == PathKind::Folder;
    let place = Place { case, wanted, asked: &reason.asked, path: &reason.path, whose: reason.whose, folder };
    let (path, shell) = (&reason.path, case.here.shell);
    let aside = || shell.rename(path, &format!("{path}.old"));
    Some(match &reason.trouble {
        PathTrouble::Missing { alike: Some(name), .. } => {
            let from = beside(path, name);
            place.step(format!("Give {name} the name that this project calls."), &[shell.rename(&from, path)])
        }
        PathTrouble::Missing { alike: None, example: Some(name) } => {
            let copy = shell.copy(&beside(path, name), path);
            place.step(format!("Copy {name}, the example, to {path}, and correct in it what is yours."), &[copy])
        }
        PathTrouble::Missing { alike: None, example: None } => place.missing(),
        PathTrouble::Dangling { target } if !wanted.contains.is_empty() => Fix::say(format!(
            "Bring back what {path} leads to, {target}: plug in or mount where it lies, or put what is missing there."
        )),
        PathTrouble::Dangling { .. } => {
            let remove = shell.remove_link(path, folder);
            let (what, rest) = if folder {
                ("make a folder in its place", vec![remove, shell.make_folder(path)])
            } else {
                ("put the file in its place", vec![remove])
            };
            place.made(place.step(format!("Remove the link {path}, which leads nowhere, and {what}."), &rest))
        }
        PathTrouble::OtherKind { .. } if folder && wanted.contains.is_empty() => {
            let say = format!("Move what is at {path} aside, and make a folder there.");
            place.made(place.step(say, &[aside(), shell.make_folder(path)]))
        }
        PathTrouble::OtherKind { .. } => {
            let what = if folder { "the right folder" } else { "the file" };
            place.step(format!("Move what is at {path} aside, and put {what} there."), &[aside()])
        }
        PathTrouble::Unwanted => {
            let say = format!("Move {path} aside while you work on this project; nothing is lost by that.");
            place.step(say, &[aside()]).with_effect(place.effect(PathChange::Gone))
        }
        PathTrouble::Mode { needed, .. } => place.mode(*needed),
        PathTrouble::OpenToOthers { needed, .. } if case.here.os == Some(Os::Windows) => place.mode(*needed),
        PathTrouble::OpenToOthers { .. } => Fix::say(format!("Let only yourself use {path}.")),
        PathTrouble::NotExecutable => {
            let say = format!("Make {path} executable, if you trust it.");
            if case.unix() {
                place.step(say, &[format!("chmod +x {}", case.quoted(path))]).with_effect(place.effect(PathChange::With(0o111)))
            } else {
                Fix::say(say)
            }
        }
        PathTrouble::Barred { barrier } => place.enter(barrier),
        PathTrouble::NotReadable { owner } => place.readable(owner.as_deref()),
        PathTrouble::NotWritable { owner, writers } => place.writable(owner.as_deref(), writers.as_deref()),
        PathTrouble::NotMine { owner } => place.mine(owner.as_deref(), path),
        PathTrouble::Within { barrier, .. } => place.mine(barrier.owner.as_deref(), &barrier.path),
        PathTrouble::ReadOnly { mounted_at } => Fix::say(format!(
            "Move the project to another disk, or ask whoever looks after this machine to mount {mounted_at} for writing."
        )),
        PathTrouble::NoExecution { mounted_at } => Fix::say(format!(
            "Move the project to a disk where programs may run (your home folder, usually), or ask whoever looks after this machine to \
             mount {mounted_at} with execution."
        )),
        PathTrouble::CannotStart { script } => place.starting(script),
        PathTrouble::Content { missing } => {
            let what = if folder { "Put what is missing into" } else { "Correct the text of" };
            Fix::say(format!("{what} {path}: {}.", place.needed(missing)))
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
    /// What must be in it: what the guide says, else the patterns.
    fn needed(&self, patterns: &[String]) -> String {
        let example =
            self.case.requirement.example.as_ref().map(|example| format!(", for example {example}")).unwrap_or_default();
        match &self.case.requirement.means {
            Some(means) => format!("{means}{example}"),
            None => format!("it must fit {}{example}", join_words(patterns, "and")),
        }
    }

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

    /// What lets a script start.
    fn starting(&self, script: &ScriptTrouble) -> Fix {
        let path = self.path;
        match script {
            ScriptTrouble::NoInterpreter(name) => {
                Fix::say(format!("Install what {name} belongs to, or let the first line of {path} name a program that is here."))
            }
            ScriptTrouble::LineEnds if self.case.unix() => {
                // sed(1) of GNU and of the BSDs differ in what follows -i; both take this.
                let commands = [format!("sed -i.old 's/\\r$//' {}", self.case.quoted(path))];
                let say =
                    format!("Give {path} the line ends of this system; the file as it was is kept beside it, as {path}.old.");
                self.step(say, &commands).with_effect(self.effect(PathChange::LineEnds))
            }
            ScriptTrouble::LineEnds => Fix::say(format!("Save {path} with the line ends of this system.")),
        }
    }

    /// What would be seen at this place after a change.
    fn effect(&self, to: PathChange) -> Effect {
        Effect::path(self.asked, self.path, to)
    }

    /// A fix that makes a folder where one is wanted; what else is made of it is a person's.
    fn made(&self, fix: Fix) -> Fix {
        if self.folder && self.wanted.contains.is_empty() { fix.with_effect(self.effect(PathChange::Folder)) } else { fix }
    }

    /// It lies where everything is the person's: in their home folder or in the project.
    fn is_in_own_place(&self) -> bool {
        let path = self.asked;
        !path.starts_with(['/', '\\']) && path.get(1..2) != Some(":") && !path.starts_with("..")
    }

    /// What one does about a thing of somebody else's: take it where it lies among one's own or is the administrator's, else ask.
    fn may_take(&self, owner: Option<&str>) -> bool {
        self.case.here.os == Some(Os::Windows) || self.is_in_own_place() || owner.is_none_or(|owner| owner == "root")
    }

    fn missing(&self) -> Fix {
        let (case, path) = (self.case, self.path);
        let docs = case.requirement.docs.as_ref().map(|docs| format!(" Where it comes from: {docs}")).unwrap_or_default();
        if !self.folder {
            return Fix::say(format!("Put the file at {path}.{docs}"));
        }
        if !self.wanted.contains.is_empty() {
            let all: Vec<String> = self.wanted.contains.iter().map(|pattern| pattern.source().to_owned()).collect();
            let needed = self.needed(&all);
            return Fix::say(format!(
                "Put the folder at {path}, with what belongs into it: {needed}. An empty one does not do.{docs}"
            ));
        }
        // Outside of one's own places, a folder that need only be there is what an installation leaves.
        if self.whose == Whose::Foreign && !self.is_in_own_place() && !self.wanted.writable && !self.wanted.mine {
            return Fix::say(format!(
                "{path} comes with what is installed there: install that, and do not make the folder by hand, or it is empty.{docs}"
            ));
        }
        let mut commands = vec![case.here.shell.make_folder(path)];
        // What is made with admin rights belongs to the administrator.
        commands.extend(case.here.user().filter(|_| self.whose == Whose::Foreign).map(|user| self.own(user)));
        self.made(self.step(format!("Make the folder {path}."), &commands))
    }

    /// The command that gives a place to a user: on Windows by its access list, which says what counts (icacls, in Microsoft's reference
    /// of commands).
    fn own(&self, user: &str) -> String {
        let place = self.case.quoted(self.path);
        if self.case.here.os != Some(Os::Windows) {
            // What a command with sudo has made is rarely one file.
            let whole = if self.folder { "-R " } else { "" };
            return format!("chown {whole}{} {place}", self.case.quoted(user));
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
                    let command = format!("icacls {} /inheritance:r /grant:r {right}", case.quoted(path));
                    self.step(say, &[command]).with_effect(self.effect(PathChange::Mode(needed)))
                }
                None => Fix::say(say),
            };
        }
        let say = format!("Give {path} the permissions {needed:o}.");
        let mut fix = self
            .step(say, &[format!("chmod {needed:o} {}", case.quoted(path))])
            .with_effect(self.effect(PathChange::Mode(needed)));
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

    /// A change of this user's own permission bits.
    fn allow(&self, say: String, letters: &str, bits: u32) -> Fix {
        if !self.case.unix() {
            return Fix::say(say);
        }
        self.step(say, &[format!("chmod {letters} {}", self.case.quoted(self.path))])
            .with_effect(self.effect(PathChange::With(bits)))
    }

    fn readable(&self, owner: Option<&str>) -> Fix {
        let path = self.path;
        if self.whose == Whose::Own {
            let (letters, bits) = if self.folder { ("u+rx", 0o500) } else { ("u+r", 0o400) };
            return self.allow(format!("Let yourself read {path}."), letters, bits);
        }
        self.mine(owner, path)
    }

    fn enter(&self, barrier: &AccessDenied) -> Fix {
        let (case, folder) = (self.case, &barrier.path);
        let say = format!("Let yourself enter {folder}, and check again.");
        if barrier.mine && case.unix() {
            return Fix::say(say).run(vec![format!("chmod u+rwx {}", case.quoted(folder))]);
        }
        match case.here.user() {
            Some(user) if case.unix() && self.is_in_own_place() => {
                case.admin_step(say, &[&format!("chown {} {}", case.quoted(user), case.quoted(folder))])
            }
            _ => Fix::say(format!("Ask whoever looks after this machine to let you enter {folder}.")),
        }
    }

    fn writable(&self, owner: Option<&str>, writers: Option<&str>) -> Fix {
        let (case, path) = (self.case, self.path);
        let windows = case.here.os == Some(Os::Windows);
        let quoted = case.quoted(path);
        let say = format!("Let yourself write to {path}.");
        // What is one's own needs no admin rights.
        if self.whose == Whose::Own && case.here.user().is_some() && case.here.os.is_some() {
            return match case.here.user() {
                Some(user) if windows && self.folder => Fix::say(say).run(vec![self.own(user)]),
                _ if windows => Fix::say(say).run(vec![format!("attrib -r {quoted}")]),
                // What was locked as a whole is opened as a whole.
                _ if self.folder => self.allow(say, "-R u+rwX", 0o700),
                _ => self.allow(say, "u+w", 0o200),
            };
        }
        match writers {
            Some(group) if case.here.os == Some(Os::Linux) && self.whose == Whose::Foreign => {
                let effect = Effect::Changes(vec![Change::Joined(group.to_owned())]);
                if case.seen.joined.iter().any(|joined| joined == group) { sign_in() } else { case.join_group(group) }
                    .with_effect(effect)
            }
            _ => self.mine(owner, path),
        }
    }

    /// Makes it this person's, with all that is in it; `what` is what stands in the way.
    fn mine(&self, owner: Option<&str>, what: &str) -> Fix {
        let (case, path) = (self.case, self.path);
        let windows = case.here.os == Some(Os::Windows);
        let Some(user) = case.here.user().filter(|_| case.here.os.is_some()) else {
            return Fix::say(format!("Ask whoever looks after this machine to let you use {path}."));
        };
        if !self.may_take(owner) {
            let owner = owner.unwrap_or("its owner");
            return Fix::say(format!("Ask {owner}, whose {what} is, to let you use it; it may be needed as it is."));
        }
        let own = self.own(user);
        let take = format!("icacls {} /setowner {}", case.quoted(path), case.quoted(user));
        let commands = if windows && self.wanted.mine { vec![take, own] } else { vec![own] };
        let say = if windows {
            format!("Let yourself write to {path}, if nobody else needs it for themselves.")
        } else {
            format!("Make {path} yours, if nobody else needs it.")
        };
        let mut fix = case.admin_step(say, &commands.iter().map(String::as_str).collect::<Vec<_>>());
        fix.warn("A program of its owner until now may depend on it.");
        if windows { fix } else { fix.with_effect(self.effect(PathChange::Mine)) }
    }
}

fn found_path(trouble: &PathTrouble) -> Option<String> {
    if let PathTrouble::Mode { mode, .. } = trouble {
        Some(format!("{mode:o}"))
    } else if let PathTrouble::NotMine { owner } = trouble {
        owner.clone()
    } else if let PathTrouble::Dangling { target } = trouble {
        Some(target.clone())
    } else {
        None
    }
}

fn wanted_mode(trouble: &PathTrouble) -> Option<String> {
    if let PathTrouble::Mode { needed, .. } | PathTrouble::OpenToOthers { needed, .. } = trouble {
        Some(format!("{needed:o}"))
    } else {
        None
    }
}

impl ReasonFixes for PathReason {
    fn fixes(&self, case: &Case<'_>) -> Vec<Fix> {
        fix(case, self).into_iter().collect()
    }

    fn fills(&self, _: &Requirement) -> Fills {
        Fills {
            found: found_path(&self.trouble),
            wanted: wanted_mode(&self.trouble),
            path: Some(self.path.clone()),
            ..Fills::default()
        }
    }
}

/// What matters for choosing a fix, beside the reason.
pub(crate) fn see<'a>(inquiry: &mut Inquiry<'a>, reason: &PathReason, seen: &mut Seen<'a>) -> Result<(), Stop> {
    if matches!(reason.trouble, PathTrouble::NotWritable { writers: Some(_), .. }) {
        seen.joined = if_known(inquiry.database_groups())?.map_or(&[][..], Vec::as_slice);
    }
    Ok(())
}

impl SubjectFixes for Path {
    fn see<'a>(&self, inquiry: &mut Inquiry<'a>, (_, reason): (&Requirement, &Reason), seen: &mut Seen<'a>) -> Result<(), Stop> {
        if let Reason::Path(reason) = reason { see(inquiry, reason, seen) } else { Ok(()) }
    }
}
