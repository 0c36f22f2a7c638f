#![allow(clippy::wildcard_enum_match_arm, reason = "only tools and libraries have packages")]

use super::{Bench, Fix, Part, Whole, quote};
use crate::catalogue;
use crate::cause::Cause;
use crate::finding::Finding;
use crate::guide::{Requirement, Subject, Then};
use crate::inquiry::{Inquiry, Stop, known};
use crate::manager::Manager;
use crate::observation::{Candidate, Offered, Os};
use crate::prelude::*;
use crate::version::{Fit, Range, Version};

fn installing_helps(cause: Cause) -> bool {
    matches!(
        cause,
        Cause::ToolMissing
            | Cause::ToolTooOld
            | Cause::ToolBroken
            | Cause::ToolWrongArch
            | Cause::ToolPlaceholder
            | Cause::LibraryMissing
            | Cause::LibraryTooOld
            | Cause::LibraryNoHeaders
    )
}

/// What is broken is installed already.
fn is_damaged(cause: Cause) -> bool {
    matches!(cause, Cause::ToolBroken | Cause::ToolWrongArch)
}

/// What package managers can do for a finding.
#[derive(Debug, Default)]
pub(super) struct Offer {
    /// Installing the package of the first manager that has one which does.
    pub(super) fix: Option<Fix>,
    /// Why the others' would not do, a sentence each.
    pub(super) refused: Vec<String>,
}

/// Looks through the packages that the guide, or else the catalogue, names for the managers of this machine. One whose version would not do is
/// no cure.
///
/// # Errors
/// When answers are still to come.
pub(super) fn offer<'a>(
    inquiry: &mut Inquiry<'a>,
    requirement: &Requirement,
    (finding, cause): (&Finding, Cause),
    bench: &Bench<'a>,
) -> Result<Offer, Stop> {
    let mut offer = Offer::default();
    // What is here under another name needs no package.
    if !installing_helps(cause) || (cause == Cause::ToolMissing && finding.particulars.path.is_some()) {
        return Ok(offer);
    }
    let range = wanted_range(requirement, finding);
    for (manager, name) in packages_for(&requirement.subject, bench.managers) {
        match known(inquiry.candidate(manager, &name))? {
            Some(Candidate::Absent) => offer.refused.push(format!("{manager} knows no package {name}.")),
            Some(Candidate::Version(offered)) if !does(range.as_ref(), &name, &offered.version) => {
                let version = plain(&offered.version);
                offer.refused.push(format!("The package {name} of {manager} is {version}, which does not do."));
            }
            candidate => {
                let own = match &finding.particulars.path {
                    Some(path) => super::is_own(inquiry, path)?,
                    None => None,
                };
                let wish = Wish { requirement, cause, finding, own };
                offer.fix = Manager::find(manager).map(|manager| install(&wish, (manager, &name), candidate, bench));
                break;
            }
        }
    }
    if offer.fix.is_none() && offer.refused.is_empty() && known(inquiry.managers())?.is_some() {
        offer.fix = by_usual_manager(requirement, (finding, cause), bench);
    }
    Ok(offer)
}

/// The manager that people of a system have who have one; systems that ship with one need no such way.
fn usual_manager(os: Option<Os>) -> Option<(&'static str, &'static str)> {
    match os {
        Some(Os::Windows) => Some((
            "winget",
            "The command winget is not here: it comes with the App Installer of Microsoft's store. Get that first, and open a new terminal.",
        )),
        Some(Os::Macos) => Some((
            "brew",
            "The command brew is not here: its own page (search for Homebrew) says how to get it. Get that first, and open a new terminal.",
        )),
        Some(Os::Linux) | None => None,
    }
}

/// Where no manager of this machine has it, and the one that is usual here is missing: how it would be with that one.
fn by_usual_manager(requirement: &Requirement, (finding, cause): (&Finding, Cause), bench: &Bench<'_>) -> Option<Fix> {
    let (word, first) = usual_manager(bench.os).filter(|(word, _)| !bench.managers.iter().any(|manager| manager == word))?;
    let name = packages_for(&requirement.subject, &[word.to_owned()]).into_iter().next().map(|(_, name)| name)?;
    let wish = Wish { requirement, cause, finding, own: None };
    let mut fix = install(&wish, (Manager::find(word)?, &name), None, bench);
    fix.warn(first);
    Some(fix)
}

/// The range that a package must be in: the one in the finding, where the guide's own comes from a file.
fn wanted_range(requirement: &Requirement, finding: &Finding) -> Option<Range> {
    match &requirement.subject {
        Subject::Tool(tool) if tool.version_from.is_some() => Range::parse(finding.wanted.as_deref()?).ok(),
        // A pattern may look for another program's number.
        Subject::Tool(tool) if tool.pattern.is_none() => tool.version.clone(),
        Subject::Library(library) => library.version.clone(),
        _ => None,
    }
}

/// A version without the distribution's epoch (deb-version(7)).
fn plain(version: &str) -> &str {
    match version.split_once(':') {
        Some((epoch, rest)) if epoch.bytes().all(|byte| byte.is_ascii_digit()) => rest,
        _ => version,
    }
}

/// Whether a package's version is in the range. Packages that only stand for another (`default-jdk`) have numbers of their own.
fn does(range: Option<&Range>, name: &str, version: &str) -> bool {
    let Some(range) = range.filter(|_| !name.starts_with("default-")) else { return true };
    let fit = Version::parse(plain(version)).map_or(Fit::Incomparable, |version| range.fit(&version));
    matches!(fit, Fit::Inside | Fit::Incomparable)
}

/// What is to be installed, and for what.
struct Wish<'a> {
    requirement: &'a Requirement,
    cause: Cause,
    finding: &'a Finding,
    /// Whether what is there now is the person's own.
    own: Option<bool>,
}

fn install(wish: &Wish<'_>, (manager, name): (&Manager, &str), candidate: Option<&Candidate>, bench: &Bench<'_>) -> Fix {
    let title = wish.requirement.title();
    let offered = match candidate {
        Some(Candidate::Version(offered)) => Some(offered),
        _ => None,
    };
    let without_rights = manager.admin && bench.account.is_some_and(|account| account.admin == Some(false));
    if without_rights
        && manager.word == "apt"
        && wish.cause == Cause::ToolMissing
        && offered.is_some_and(|offered| offered.others == Some(0))
    {
        return unpack(&title, name, offered);
    }
    let admin = |command: &str| if manager.admin { bench.as_admin(command) } else { command.to_owned() };
    // A program elsewhere is not the package's: it would still be found first.
    let path = wish.finding.particulars.path.as_deref().filter(|_| matches!(wish.requirement.subject, Subject::Tool(_)));
    let elsewhere = path.filter(|path| manager.puts_programs_in(path) == Some(false));
    let again = is_damaged(wish.cause) && elsewhere.is_none();
    let verb = match wish.cause {
        _ if again => "Reinstall",
        Cause::ToolTooOld | Cause::LibraryTooOld => "Install the current release of",
        _ => "Install",
    };
    let mut fix = Fix::say(format!("{verb} {title}."));
    // There a terminal keeps the PATH that it was opened with.
    let is_tool = matches!(wish.requirement.subject, Subject::Tool(_));
    fix.then = (bench.os == Some(Os::Windows) && is_tool).then_some(Then::NewShell);
    let before = format!("{} ", admin(if again { manager.reinstall } else { manager.install }));
    fix.run = vec![format!("{before}{name}")];
    fix.admin = manager.admin;
    fix.caution = if manager.admin { bench.admin_caution() } else { None };
    fix.download_bytes = offered.and_then(|offered| offered.download_bytes);
    if let Some(path) = elsewhere {
        fix.say = format!("{verb} {title}, and move {path} aside, which would still be found first.");
        let aside = format!("mv {} {}", quote(path, bench.shell), quote(&format!("{path}.old"), bench.shell));
        fix.run.push(if wish.own == Some(true) { aside } else { bench.as_admin(&aside) });
        fix.warn("If a version manager put that copy there, choose another version with it instead.");
    }
    if candidate == Some(&Candidate::Unlisted) {
        let then = fix.say;
        fix.say = format!("Have {} fetch its list of packages, which is not here yet. Then: {then}", manager.word);
        fix.run.insert(0, admin("apt-get update"));
    } else if elsewhere.is_none() && !again {
        let of = Whole::Packages(manager.word.to_owned());
        fix.part = Some(Part { of, before, name: name.to_owned(), after: String::new(), title });
    }
    fix
}

/// A package in one's own home folder, for whom may not install any: fetched, unpacked, its programs linked to where they are found.
fn unpack(title: &str, name: &str, offered: Option<&Offered>) -> Fix {
    let folder = format!("~/.local/opt/{name}");
    let mut fix = Fix::say(format!(
        "Install {title} for yourself alone, without admin rights: its package is unpacked into {folder}, and its programs get links in \
         ~/.local/bin (a folder that most systems put on PATH at the next sign-in once it exists)."
    ));
    fix.run = vec![
        format!("mkdir -p {folder} ~/.local/bin"),
        format!("env -C {folder} apt-get download {name}"),
        format!("dpkg -x {folder}/{name}_*.deb {folder}"),
        format!("ln -s {folder}/usr/bin/* ~/.local/bin/"),
    ];
    fix.then = Some(Then::SignIn);
    fix.caution =
        Some("It gets no updates, and a program that looks for files of its own under /usr does not find them.".to_owned());
    fix.download_bytes = offered.and_then(|offered| offered.download_bytes);
    fix
}

/// The packages for managers of this machine, in the machine's order: the guide's, or where the guide names none at all, the catalogue's.
fn packages_for<'m>(subject: &Subject, managers: &'m [String]) -> Vec<(&'m str, String)> {
    let named = subject.packages();
    if !named.is_empty() {
        let of =
            |manager: &'m String| named.iter().find(|(of, _)| of == manager).map(|(_, name)| (manager.as_str(), name.clone()));
        return managers.iter().filter_map(of).collect();
    }
    let Subject::Tool(tool) = subject else { return Vec::new() };
    let Some(row) = tool.names.iter().find_map(|name| catalogue::find(name)) else { return Vec::new() };
    let of = |manager: &'m String| {
        row.packages.iter().find(|(of, _)| of == manager).map(|(_, name)| (manager.as_str(), (*name).to_owned()))
    };
    managers.iter().filter_map(of).collect()
}
