#![allow(clippy::wildcard_enum_match_arm, reason = "only tools and libraries have packages")]

use super::{Bench, Fix, Part, Whole};
use crate::catalogue;
use crate::cause::Cause;
use crate::finding::Finding;
use crate::guide::{Requirement, Subject};
use crate::inquiry::{Inquiry, Stop, known};
use crate::observation::Candidate;
use crate::prelude::*;
use crate::version::{Fit, Range, Version};

/// How a manager installs: its command, and whether it needs admin rights.
const INSTALLERS: [(&str, &str, bool); 10] = [
    ("apt", "apt-get install", true),
    ("dnf", "dnf install", true),
    ("zypper", "zypper install", true),
    ("pacman", "pacman -S", true),
    ("apk", "apk add", true),
    ("brew", "brew install", false),
    ("port", "port install", true),
    ("winget", "winget install", false),
    ("scoop", "scoop install", false),
    ("choco", "choco install", true),
];

/// Whether a manager changes the machine for everyone.
pub(crate) fn needs_admin(manager: &str) -> bool {
    INSTALLERS.iter().any(|(name, _, admin)| *name == manager && *admin)
}

/// The command that installs packages with a manager, without what gives it admin rights.
pub(crate) fn command(manager: &str, packages: &[&str]) -> Option<String> {
    let (_, command, _) = INSTALLERS.iter().find(|(name, ..)| *name == manager)?;
    Some(format!("{command} {}", packages.join(" ")))
}

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
            Some(Candidate::Version(version)) if !does(range.as_ref(), &name, version) => {
                offer.refused.push(format!("The package {name} of {manager} is {}, which does not do.", plain(version)));
            }
            Some(Candidate::Version(_)) | None => {
                offer.fix = install(requirement, cause, (manager, name), bench);
                break;
            }
        }
    }
    Ok(offer)
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

fn install(requirement: &Requirement, cause: Cause, (manager, name): (&str, String), bench: &Bench<'_>) -> Option<Fix> {
    let admin = needs_admin(manager);
    let plain = command(manager, &[&name])?;
    let missing = matches!(cause, Cause::ToolMissing | Cause::LibraryMissing | Cause::LibraryNoHeaders);
    let verb = if missing { "Install" } else { "Install the current release of" };
    let mut fix = Fix::say(format!("{verb} {}.", requirement.title()));
    let full = if admin { bench.as_admin(&plain) } else { plain };
    fix.admin = admin;
    fix.caution = if admin { bench.admin_caution() } else { None };
    let before = full.strip_suffix(&name).unwrap_or_default().to_owned();
    fix.run = vec![full];
    fix.part =
        Some(Part { of: Whole::Packages(manager.to_owned()), before, name, after: String::new(), title: requirement.title() });
    Some(fix)
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
