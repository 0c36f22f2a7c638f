//! What people are told.

use crate::finding::{Met, PathReason, PathTrouble};
use crate::guide::{Existence, Guide, Path, PathKind, Requirement, Subject};
use crate::observation::{AccessDenied, FileType, ScriptTrouble};
use crate::prelude::*;
use crate::text::join_words;
use crate::words::Words;
use crate::words::kind::{ReasonWords, SubjectWords};

fn word(kind: PathKind) -> &'static str {
    match kind {
        PathKind::File => "file",
        PathKind::Folder => "folder",
    }
}

fn nature(nature: &FileType) -> &'static str {
    match nature {
        FileType::File => "a file",
        FileType::Folder => "a folder",
        FileType::Missing | FileType::Other | FileType::Dangling(_) => "something else",
    }
}

pub(crate) fn message(words: &Words<'_>, reason: &PathReason) -> String {
    let Subject::Path(wanted) = &words.requirement.subject else { return words.title() };
    let (path, kind) = (&reason.path, word(wanted.kind));
    match &reason.trouble {
        PathTrouble::Missing { alike: Some(name), .. } => format!(
            "The {kind} {path} is not there. There is {name}, which differs only in upper and lower case, and this disk tells them apart."
        ),
        PathTrouble::Missing { alike: None, example: Some(name) } => {
            format!("The {kind} {path} is not there. Beside it is {name}, which is an example of it.")
        }
        PathTrouble::Missing { alike: None, example: None } => format!("The {kind} {path} is not there."),
        PathTrouble::Barred { barrier } => {
            format!("What is at {path} cannot be seen: the folder {} may not be entered by you{}.", barrier.path, whose(barrier))
        }
        PathTrouble::NotReadable { owner } => {
            let owner = owner.as_deref().map(|owner| format!(": it belongs to {owner}")).unwrap_or_default();
            format!("{path} is there, but you may not read it{owner}.")
        }
        PathTrouble::ReadOnly { mounted_at } => format!(
            "Nothing can be written to {path}: the disk at {mounted_at} is mounted read-only, and then permissions do not matter."
        ),
        PathTrouble::NoExecution { mounted_at } => format!(
            "Nothing can be executed where {path} is: the disk at {mounted_at} is mounted without execution (noexec), and then \
             permissions do not matter."
        ),
        PathTrouble::CannotStart { script: ScriptTrouble::NoInterpreter(name) } => {
            format!("{path} is executable, but its first line says that {name} runs it, and that is not there.")
        }
        PathTrouble::CannotStart { script: ScriptTrouble::LineEnds } => format!(
            "{path} is executable, but its lines end as on Windows: the system then looks for an interpreter whose name ends with an \
             invisible character."
        ),
        PathTrouble::Within { barrier, must_be_mine } => {
            let owner = barrier.owner.as_deref().unwrap_or("another user");
            let rest = if *must_be_mine { "all in it must belong to you" } else { "you may not change it" };
            format!("{path} itself is as it should be, but in it {} belongs to {owner}, and {rest}.", barrier.path)
        }
        PathTrouble::Unwanted => format!("{path} is there, and this project does not work while it is."),
        PathTrouble::Dangling { target } => format!("{path} is a link to {target}, and nothing is there."),
        PathTrouble::OtherKind { nature: found } => format!("{path} is {}, and a {kind} is needed there.", nature(found)),
        PathTrouble::NotMine { owner } => {
            let owner = owner.as_deref().unwrap_or("another user");
            format!("{path} belongs to {owner}, and it must belong to you.")
        }
        PathTrouble::OwnerUnknown => format!("Whose {path} is could not be found out."),
        PathTrouble::Mode { mode, needed } => {
            format!("{path} has the permissions {mode:o}, and they must be {needed:o}{}.", meaning(*needed))
        }
        PathTrouble::OpenToOthers { others, needed } => {
            let what = if needed & 0o200 == 0 { "read it" } else { "use it" };
            format!("{path} can be read or changed by {}, but only you should be able to {what}.", join_words(others, "and"))
        }
        PathTrouble::NoPermissionBits => format!("This system has no such permissions for {path}."),
        PathTrouble::NotWritable { owner, writers: Some(group) } => {
            let owner = owner.as_deref().unwrap_or("another user");
            format!("You may not write to {path}: it belongs to {owner}, and only members of the group {group} may.")
        }
        PathTrouble::NotWritable { owner: Some(owner), writers: None } => {
            format!("You may not write to {path}, which belongs to {owner}.")
        }
        PathTrouble::NotWritable { owner: None, writers: None } => format!("You may not write to {path}."),
        PathTrouble::NotExecutable => format!("You may not execute {path}."),
        PathTrouble::Content { missing } => {
            let needs = content(words, missing);
            match wanted.kind {
                PathKind::File => format!("{path} is there, but its text does not hold what this project needs: {needs}"),
                PathKind::Folder => format!("{path} is there, but not all in it that this project needs: {needs}"),
            }
        }
        PathTrouble::ContentUnread => {
            format!("What is in {path} could not be read, or searching it for the pattern would take too long.")
        }
    }
}

/// What is missing of several things, in words.
fn content(words: &Words<'_>, missing: &[String]) -> String {
    let Subject::Path(wanted) = &words.requirement.subject else { return String::new() };
    match (&words.requirement.means, missing.len() < wanted.contains.len()) {
        (None, _) if missing.len() <= 1 => words.form_of(missing.first().map_or("", String::as_str)),
        (None, _) => join_words(missing, "and"),
        (Some(_), false) => words.form(),
        (Some(means), true) => format!("{means} (nothing fits {})", join_words(missing, "and")),
    }
}

fn whose(barrier: &AccessDenied) -> String {
    match &barrier.owner {
        _ if barrier.mine => ", although it is yours".to_owned(),
        Some(owner) => format!(", and belongs to {owner}"),
        None => String::new(),
    }
}

/// Modes that beginners meet, in words.
fn meaning(mode: u32) -> &'static str {
    match mode {
        0o600 | 0o400 | 0o700 => " (only you may use it)",
        0o644 => " (everyone may read it, only you may change it)",
        0o755 => " (everyone may use it, only you may change it)",
        _ => "",
    }
}

pub(crate) fn found(reason: &PathReason) -> Option<String> {
    let text = match &reason.trouble {
        PathTrouble::Missing { alike: Some(_), .. } => "under another name",
        PathTrouble::Missing { alike: None, .. } => "not there",
        PathTrouble::Barred { .. } => "not to be seen",
        PathTrouble::NotReadable { .. } => "not readable for you",
        PathTrouble::ReadOnly { .. } => "on a read-only disk",
        PathTrouble::NoExecution { .. } => "on a disk without execution",
        PathTrouble::CannotStart { script: ScriptTrouble::NoInterpreter(_) } => "a script without its interpreter",
        PathTrouble::CannotStart { script: ScriptTrouble::LineEnds } => "a script with line ends of Windows",
        PathTrouble::Within { .. } => "partly somebody else's",
        PathTrouble::Unwanted => "there",
        PathTrouble::Dangling { .. } => "a link to nothing",
        PathTrouble::OtherKind { nature: found } => nature(found),
        PathTrouble::NotMine { owner } => {
            return Some(format!("of {}", owner.as_deref().unwrap_or("another user")));
        }
        PathTrouble::Mode { mode, .. } => return Some(format!("{mode:o}")),
        PathTrouble::OpenToOthers { .. } => "open to others",
        PathTrouble::NotWritable { .. } => "not writable for you",
        PathTrouble::NotExecutable => "not executable",
        PathTrouble::Content { .. } => "something else in it",
        PathTrouble::OwnerUnknown | PathTrouble::NoPermissionBits | PathTrouble::ContentUnread => return None,
    };
    Some(text.to_owned())
}

pub(crate) fn wanted_of(reason: &PathReason) -> Option<String> {
    match &reason.trouble {
        PathTrouble::Mode { needed, .. } => Some(format!("{needed:o}")),
        PathTrouble::OpenToOthers { .. } => Some("only for you".to_owned()),
        PathTrouble::NotMine { .. } => Some("yours".to_owned()),
        PathTrouble::Within { must_be_mine, .. } => {
            Some(if *must_be_mine { "yours, with all in it" } else { "writable, with all in it" }.to_owned())
        }
        PathTrouble::NotWritable { .. } | PathTrouble::ReadOnly { .. } => Some("writable".to_owned()),
        PathTrouble::NotReadable { .. } => Some("readable".to_owned()),
        PathTrouble::NoExecution { .. } | PathTrouble::CannotStart { .. } | PathTrouble::NotExecutable => {
            Some("executable".to_owned())
        }
        PathTrouble::Missing { .. }
        | PathTrouble::Barred { .. }
        | PathTrouble::Unwanted
        | PathTrouble::Dangling { .. }
        | PathTrouble::OtherKind { .. }
        | PathTrouble::OwnerUnknown
        | PathTrouble::NoPermissionBits
        | PathTrouble::Content { .. }
        | PathTrouble::ContentUnread => None,
    }
}

pub(crate) fn wanted(path: &Path) -> String {
    if path.expect == Existence::Absent {
        return "not there".to_owned();
    }
    let mode = path.mode.map(|mode| format!("mode {mode:o}"));
    let words = [
        path.mine.then(|| "yours".to_owned()),
        mode,
        path.writable.then(|| "writable".to_owned()),
        path.executable.then(|| "executable".to_owned()),
        path.runs_programs.then(|| "where programs may start".to_owned()),
        (!path.contains.is_empty()).then(|| "with the right text".to_owned()),
    ];
    let words: Vec<String> = words.into_iter().flatten().collect();
    if words.is_empty() { "there".to_owned() } else { join_words(&words, "and") }
}

impl ReasonWords for PathReason {
    fn message(&self, words: &Words<'_>) -> String {
        message(words, self)
    }

    fn found(&self) -> Option<String> {
        found(self)
    }

    fn wanted(&self, _: &Words<'_>) -> Option<String> {
        wanted_of(self)
    }
}

#[allow(clippy::wildcard_enum_match_arm, reason = "a kind is met in ways of its own")]
impl SubjectWords for Path {
    fn met(&self, words: &Words<'_>, met: &Met) -> String {
        match met {
            Met::PathFits { path } => format!("{path} is as it should be."),
            Met::PathAbsent { path } => format!("{path} is not there, as wanted."),
            _ => words.title(),
        }
    }

    fn met_briefly(&self, _: &Words<'_>, met: &Met) -> String {
        if let Met::PathAbsent { .. } = met { "not there" } else { "as it should be" }.to_owned()
    }

    fn wanted(&self) -> Option<String> {
        Some(wanted(self))
    }

    fn listed(&self, requirement: &Requirement, _: &Guide) -> String {
        if self.expect == Existence::Absent {
            return format!("{} must not be there", self.path);
        }
        let own = |place: &String| if place == "." { "this folder".to_owned() } else { place.clone() };
        let places: Vec<String> = core::iter::once(&self.path).chain(&self.or).map(own).collect();
        let mut parts = vec![join_words(&places, "or")];
        if self.mine {
            parts.push("yours".to_owned());
        }
        if let Some(mode) = self.mode {
            parts.push(format!("permissions {mode:o}"));
        }
        if self.writable {
            parts.push("writable".to_owned());
        }
        if self.executable {
            parts.push("executable".to_owned());
        }
        if self.runs_programs {
            parts.push("on a disk that lets programs start".to_owned());
        }
        if !self.contains.is_empty() {
            let holds = requirement.means.as_deref().unwrap_or("what the guide looks for");
            parts.push(format!("{} {holds}", if self.kind == PathKind::File { "holding" } else { "with" }));
        }
        parts.join(", ")
    }
}
