use super::{Bench, Fix};
use crate::catalogue;
use crate::cause::Cause;
use crate::finding::Finding;
use crate::guide::{Requirement, Subject};
use crate::prelude::*;

/// A package of a package manager.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Package {
    /// The manager.
    pub manager: String,
    /// The package's name there.
    pub name: String,
    /// What it is installed for, in words.
    pub title: String,
}

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

/// Installing the package that the guide names for a manager of this machine.
pub(super) fn fix(requirement: &Requirement, finding: &Finding, cause: Cause, bench: &Bench<'_>) -> Option<Fix> {
    // What is here under another name needs no package.
    if !installing_helps(cause) || (cause == Cause::ToolMissing && finding.particulars.path.is_some()) {
        return None;
    }
    let (manager, name) = package_for(&requirement.subject, bench.managers)?;
    let admin = needs_admin(manager);
    let plain = command(manager, &[&name])?;
    let missing = matches!(cause, Cause::ToolMissing | Cause::LibraryMissing | Cause::LibraryNoHeaders);
    let verb = if missing { "Install" } else { "Install the current release of" };
    let mut fix = Fix::say(format!("{verb} {}.", requirement.title()));
    fix.run = vec![if admin { bench.as_admin(&plain) } else { plain }];
    fix.admin = admin;
    fix.caution = if admin { bench.admin_caution() } else { None };
    fix.package = Some(Package { manager: manager.clone(), name, title: requirement.title() });
    Some(fix)
}

/// The first manager of this machine that has a package: the guide's, or where the guide names none at all, the catalogue's.
fn package_for<'m>(subject: &Subject, managers: &'m [String]) -> Option<(&'m String, String)> {
    let named = subject.packages();
    if !named.is_empty() {
        return managers
            .iter()
            .find_map(|manager| named.iter().find(|(of, _)| of == manager).map(|(_, name)| (manager, name.clone())));
    }
    let Subject::Tool(tool) = subject else { return None };
    let row = tool.names.iter().find_map(|name| catalogue::find(name))?;
    managers
        .iter()
        .find_map(|manager| row.packages.iter().find(|(of, _)| of == manager).map(|(_, name)| (manager, (*name).to_owned())))
}
