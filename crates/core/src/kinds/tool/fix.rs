//! What settles it.

use crate::cause::Cause;
use crate::finding::{ConsentNeed, NeededArch, OtherPlace, Reason, Refusal, ToolReason, ToolTrouble};
use crate::fix::case::{Case, Seen, in_a_version};
use crate::fix::effect::{Change, Effect};
use crate::fix::fills::Fills;
use crate::fix::kind::{ReasonFixes, SubjectFixes};
use crate::fix::{Fix, Shell};
use crate::guide::{Edit, Requirement, Subject, Then, Tool};
use crate::inquiry::{Inquiry, Stop, if_known};
use crate::observation::{Os, ProgramCopy};
use crate::prelude::*;
use crate::text::join_words;

/// Whether the person must change the file itself, so that it matters whose it is.
pub(crate) fn concerns_the_file(trouble: &ToolTrouble) -> bool {
    matches!(trouble, ToolTrouble::NotExecutable { .. } | ToolTrouble::Unwanted { .. })
}

pub(crate) fn fixes(case: &Case<'_>, reason: &ToolReason) -> Vec<Fix> {
    let mut fixes: Vec<Fix> = fix(case, reason).into_iter().collect();
    if let ToolTrouble::OffPath { at } = &reason.trouble
        && case.here.os == Some(Os::Linux)
        && let Some(name) = at.rsplit('/').next()
    {
        // Every shell looks there, whatever it reads when it starts (the Filesystem Hierarchy Standard).
        let say = format!("Let all shells find {name} by a link in /usr/local/bin.");
        let mut link = case.admin_step(say, &[&format!("ln -s {} /usr/local/bin/", case.quoted(at))]);
        // The C shell looks only into what it has listed when it started (tcsh(1), rehash).
        if case.here.account.is_some_and(|account| account.shell.as_deref().is_some_and(|shell| shell.ends_with("csh"))) {
            link = link.then(Then::NewShell);
        }
        fixes.push(link);
    }
    if let Some(other) = &reason.other
        && other.place == OtherPlace::LaterOnPath
        && let Some(link) = chosen(case, &other.at, &reason.name)
    {
        // What would change other tools of the project is no way at all.
        if case.seen.disturbs {
            fixes.clear();
        }
        fixes.push(link.with_effect(Effect::one(Change::First(other.at.clone()))));
    }
    if let Some(other) = reason.other.as_ref().filter(|other| other.place == OtherPlace::NotStarted)
        && let Some(mut link) = chosen(case, &other.at, &reason.name)
    {
        link.say = format!("{} It was not started, so whether it is one that does is seen only then.", link.say);
        // What is here already comes before words about an installation.
        let at = if fixes.first().is_some_and(Fix::acts) { fixes.len() } else { 0 };
        fixes.insert(at, link);
    }
    if let ToolTrouble::Unwanted { .. } = &reason.trouble
        && case.here.os == Some(Os::Linux)
        && let Some(path) = &reason.program
    {
        fixes.insert(0, put_aside(case, path));
    }
    fixes
}

fn fix(case: &Case<'_>, reason: &ToolReason) -> Option<Fix> {
    if let Some(other) = &reason.other {
        match other.place {
            OtherPlace::LaterOnPath => {
                let fix = first_on_path(case, &other.at, "so that the copy that works is found first");
                return Some(fix.with_effect(Effect::one(Change::First(other.at.clone()))));
            }
            OtherPlace::OffPath => return Some(off_path(case, &other.at)),
            OtherPlace::NotStarted => {}
        }
    }
    let program = reason.program.as_deref();
    Some(match &reason.trouble {
        ToolTrouble::OtherName { at, .. } => link(case, at),
        ToolTrouble::OffPath { at } => off_path(case, at),
        ToolTrouble::Missing { .. } => case.install(reason.range()),
        ToolTrouble::OutOfRange { .. } if reason.trouble.cause() == Cause::ToolTooOld => case.install(reason.range()),
        ToolTrouble::OutOfRange { .. } => Fix::say(format!(
            "Install {}{} beside the one you have, and put its folder first on PATH.",
            case.title(),
            in_a_version(reason.range())
        ))
        .then(Then::NewShell),
        ToolTrouble::Unselected { .. } => choose_version(case, reason, program?),
        ToolTrouble::VersionAbsent { what, .. } => Fix::say(format!(
            "Install {what} with the version manager that {} belongs to, or choose a version that it has.",
            program?
        )),
        ToolTrouble::NotExecutable { by: Refusal::Barred, place: Some(folder) } => {
            let say = format!("Let everybody enter {folder}, so that what lies in it can be used.");
            case.admin_step(say, &[&format!("chmod a+rx {}", case.quoted(folder))])
        }
        ToolTrouble::NotExecutable { by: Refusal::LeadsNowhere, .. } => {
            Fix::say(format!("Remove the link {}, and install {}{}.", program?, case.title(), in_a_version(reason.range())))
        }
        ToolTrouble::NotExecutable { .. } => make_executable(case, program?),
        ToolTrouble::Broken { .. } | ToolTrouble::WrongArch { .. } | ToolTrouble::Placeholder | ToolTrouble::Failed { .. } => {
            install_again(case, reason, program?)
        }
        ToolTrouble::Quarantined => take_mark_away(case, program?),
        ToolTrouble::Unwanted { .. } => {
            Fix::say(format!("Uninstall {}, or take its folder off PATH while you work on this project.", case.title()))
        }
        ToolTrouble::Silent { .. }
        | ToolTrouble::Stuck { .. }
        | ToolTrouble::Incomparable { .. }
        | ToolTrouble::PerhapsUnwanted
        | ToolTrouble::NoConsent {
            need: ConsentNeed::InProject | ConsentNeed::RelativeEntry | ConsentNeed::ChoosesByFolder | ConsentNeed::Argument(_),
            ..
        }
        | ToolTrouble::NotAsked { .. }
        | ToolTrouble::PinUnread { .. } => return None,
    })
}

fn install_again(case: &Case<'_>, reason: &ToolReason, program: &str) -> Fix {
    let built = if let ToolTrouble::WrongArch { needed: NeededArch::Guide(arch), .. } = &reason.trouble {
        format!(", built for {arch}")
    } else {
        ", from a package for this machine".to_owned()
    };
    Fix::say(format!("Remove {program} and install {} again{built}.", case.title()))
}

/// The program is here under another name: a link in a folder of one's own gives it the one that is called.
fn link(case: &Case<'_>, at: &str) -> Fix {
    let names: &[String] = if let Subject::Tool(tool) = &case.requirement.subject { &tool.names } else { &[] };
    let (Some(name), true) = (names.first(), case.unix()) else {
        return Fix::say(format!("Give {at} the name that this project calls: {}.", join_words(names, "or")));
    };
    Fix::say(format!(
        "Give it the name that this project calls, {name}, by a link in ~/.local/bin (a folder that most systems put on PATH at the \
         next sign-in once it exists)."
    ))
    .run(vec![format!("mkdir -p ~/.local/bin && ln -s {} ~/.local/bin/{}", case.quoted(at), case.quoted(name))])
    .then(Then::SignIn)
}

/// The mark of what was downloaded is an attribute of the file (xattr(1)).
fn take_mark_away(case: &Case<'_>, program: &str) -> Fix {
    let mut fix = Fix::say(format!("Allow {program} to be started, if you trust where it comes from."))
        .run(vec![format!("xattr -d com.apple.quarantine {}", case.quoted(program))]);
    fix.warn("The mark is there to protect you from programs that somebody else has put in the place of the real one.");
    fix
}

fn folder_of(path: &str) -> &str {
    path.rsplit_once(['/', '\\']).map_or("", |(folder, _)| folder)
}

fn first_on_path(case: &Case<'_>, at: &str, why: &str) -> Fix {
    let folder = folder_of(at);
    let mut fix = Fix::say(format!("Put {folder} first on PATH, {why}."));
    let line = case.here.shell.prepend_path(folder);
    if let Some(file) = case.here.startup_file() {
        fix.edit = Some(Edit::append(file, line));
        return fix.then(Then::NewShell);
    }
    fix.say.push_str(" This does it for the terminal in which you type it:");
    fix.run(vec![line])
}

/// Where every PATH leads (the Filesystem Hierarchy Standard).
const SYSTEM_FOLDERS: [&str; 3] = ["/usr/local/bin", "/usr/bin", "/bin"];

/// On Windows what was installed since a terminal was opened is only found by the next one.
fn off_path(case: &Case<'_>, at: &str) -> Fix {
    let why = "so that your shell finds it";
    if SYSTEM_FOLDERS.contains(&folder_of(at)) && case.unix() {
        let fix = Fix::say("Your PATH has lost the system's own folders: add them behind what it has.");
        return case.in_startup_file(fix, case.here.shell.append_path(&SYSTEM_FOLDERS));
    }
    if case.here.os != Some(Os::Windows) {
        return first_on_path(case, at, why);
    }
    let folder = folder_of(at);
    let first = "Open a new terminal: it may find what this one does not know yet. If it does not, put";
    match case.here.shell.prepend_path_for_good(folder) {
        Some(line) => Fix::say(format!("{first} {folder} on your PATH.")).run(vec![line]).then(Then::NewShell),
        None => Fix { say: format!("{first} {folder} first on PATH, {why}."), ..first_on_path(case, at, why) },
    }
}

/// A folder of its own, in which nothing lies but links to the copies that were chosen one by one: nothing else changes its place.
const CHOSEN: &str = "~/.local/opt/chosen/bin";

fn chosen(case: &Case<'_>, at: &str, name: &str) -> Option<Fix> {
    let file_name = at.rsplit('/').next().filter(|_| case.unix())?;
    let file = case.here.startup_file()?;
    let say = format!(
        "Let your shell find this copy of {name} first, and nothing else of its folder: by a link in {CHOSEN}, which goes first on PATH."
    );
    let mut fix = Fix::say(say).run(vec![format!(
        "mkdir -p {CHOSEN} && ln -sf {} {CHOSEN}/{}",
        case.quoted(at),
        if file_name == name { String::new() } else { case.quoted(name) }
    )]);
    let line = match case.here.shell {
        Shell::Fish => format!("set -gx PATH {CHOSEN} $PATH"),
        Shell::Csh => format!("setenv PATH {CHOSEN}:\"$PATH\""),
        Shell::Posix | Shell::PowerShell | Shell::Cmd => format!("export PATH={CHOSEN}:\"$PATH\""),
    };
    fix.edit = Some(Edit::append(file, line));
    Some(fix.then(Then::NewShell))
}

/// What must not be found gets another name; it is one's own, or it takes admin rights.
fn put_aside(case: &Case<'_>, path: &str) -> Fix {
    let command = case.here.shell.rename(path, &format!("{path}.aside"));
    let say = format!("Give {path} another name while you work on this project; nothing is lost by that.");
    let fix = if case.own == Some(true) { Fix::say(say).run(vec![command]) } else { case.admin_step(say, &[&command]) };
    fix.with_effect(Effect::one(Change::Aside(path.to_owned())))
}

fn choose_version(case: &Case<'_>, reason: &ToolReason, program: &str) -> Fix {
    let wanted = reason.range().map(|range| format!(" that is {range}")).unwrap_or_default();
    Fix::say(format!(
        "Choose a version of {}{wanted} with the version manager that is in charge of {program}; its message says how.",
        case.title()
    ))
}

fn make_executable(case: &Case<'_>, program: &str) -> Fix {
    let say = format!("Make {program} executable, if you trust it.");
    if !case.unix() && case.here.shell != Shell::Posix {
        return Fix::say(say);
    }
    // A script is read, too, by its interpreter.
    let bits = if case.own == Some(false) { "a+rx" } else { "+x" };
    let command = format!("chmod {bits} {}", case.quoted(program));
    if case.own == Some(false) { case.admin_step(say, &[&command]) } else { Fix::say(say).run(vec![command]) }
}

impl ReasonFixes for ToolReason {
    fn fixes(&self, case: &Case<'_>) -> Vec<Fix> {
        fixes(case, self)
    }

    fn fills(&self, _: &Requirement) -> Fills {
        Fills {
            found: self.version().map(ToString::to_string),
            wanted: self.range().map(ToString::to_string),
            path: self.path().map(ToOwned::to_owned),
            ..Fills::default()
        }
    }
}

/// What matters for choosing a fix, beside the reason.
pub(crate) fn see<'a>(
    inquiry: &mut Inquiry<'a>,
    requirement: &Requirement,
    reason: &ToolReason,
    seen: &mut Seen<'a>,
) -> Result<(), Stop> {
    if let Some(other) = reason.other.as_ref().filter(|other| other.place == OtherPlace::LaterOnPath) {
        seen.disturbs = disturbs(inquiry, requirement, &other.at)?;
    }
    Ok(())
}

/// Whether putting the folder of a program first on PATH would change which copy of another tool of the guide is found.
fn disturbs(inquiry: &mut Inquiry<'_>, requirement: &Requirement, at: &str) -> Result<bool, Stop> {
    let folder = at.rsplit_once('/').map_or("", |(folder, _)| folder);
    let names = inquiry.context.guide.requirements.iter().filter(|other| other.id != requirement.id);
    let names = names.filter_map(|other| if let Subject::Tool(tool) = &other.subject { Some(&tool.names) } else { None });
    for name in names.flatten().take(MOST_NEIGHBOURS) {
        // One after the other: what is asked must not depend on what happens to be known already.
        let Some(copies) = if_known(inquiry.program(name))? else { continue };
        let lies_there = |copy: &ProgramCopy| copy.path.rsplit_once('/').is_some_and(|(other, _)| other == folder);
        if copies.iter().skip(1).any(lies_there) && !copies.first().is_some_and(lies_there) {
            return Ok(true);
        }
    }
    Ok(false)
}

/// More tools than these are not looked at for one another's sake.
const MOST_NEIGHBOURS: usize = 200;

impl SubjectFixes for Tool {
    fn see<'a>(
        &self,
        inquiry: &mut Inquiry<'a>,
        (requirement, reason): (&Requirement, &Reason),
        seen: &mut Seen<'a>,
    ) -> Result<(), Stop> {
        if let Reason::Tool(reason) = reason { see(inquiry, requirement, reason, seen) } else { Ok(()) }
    }
}
