//! What package managers can do for a tool or a library.

use super::{Circumstances, Fix, Part, Whole, quote};
use crate::catalogue;
use crate::document::shortened;
use crate::finding::{LibraryTrouble, OtherPlace, Reason, Refusal, ToolTrouble};
use crate::guide::{Requirement, Subject, Then, is_package};
use crate::inquiry::{Inquiry, Stop, if_known};
use crate::manager::Manager;
use crate::observation::{Candidate, ManagerState, Offered, Os};
use crate::prelude::*;
use crate::text::join_words;
use crate::version::{Fit, Range, Version};

/// More packages than these are not named in a sentence.
const MOST_NAMED: usize = 6;

/// What installing would settle.
struct Wish<'a> {
    requirement: &'a Requirement,
    /// The range that the package must be in.
    range: Option<&'a Range>,
    need: Need,
    /// The copy that is there now, which may not be the package's.
    program: Option<&'a str>,
    /// Whether that copy is the person's own.
    own: Option<bool>,
}

/// Why something is installed.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Need {
    /// It is not here.
    Missing,
    /// What is here is too old.
    TooOld,
    /// What is here is installed and damaged.
    Damaged,
    /// Only a stand-in, or only a part of it, is here.
    Partly,
}

impl<'a> Wish<'a> {
    /// None where installing does not help. What is here under another name needs no package.
    fn of(requirement: &'a Requirement, reason: &'a Reason) -> Option<Self> {
        let wish = |need, range, program| Some(Self { requirement, range, need, program, own: None });
        match (reason, &requirement.subject) {
            (Reason::Tool(reason), Subject::Tool(tool))
                if reason.other.as_ref().is_none_or(|other| other.place == OtherPlace::NotStarted) =>
            {
                let need = match &reason.trouble {
                    ToolTrouble::Missing { .. } | ToolTrouble::NotExecutable { by: Refusal::LeadsNowhere, .. } => Need::Missing,
                    ToolTrouble::OutOfRange { miss, .. } if miss.fit == Fit::TooOld => Need::TooOld,
                    ToolTrouble::Broken { .. } | ToolTrouble::WrongArch { .. } => Need::Damaged,
                    ToolTrouble::Placeholder => Need::Partly,
                    ToolTrouble::OtherName { .. }
                    | ToolTrouble::OffPath { .. }
                    | ToolTrouble::NotExecutable { .. }
                    | ToolTrouble::Quarantined
                    | ToolTrouble::Unselected { .. }
                    | ToolTrouble::VersionAbsent { .. }
                    | ToolTrouble::Silent { .. }
                    | ToolTrouble::Stuck { .. }
                    | ToolTrouble::Failed { .. }
                    | ToolTrouble::OutOfRange { .. }
                    | ToolTrouble::Incomparable { .. }
                    | ToolTrouble::Unwanted { .. }
                    | ToolTrouble::PerhapsUnwanted
                    | ToolTrouble::NoConsent { .. }
                    | ToolTrouble::NotAsked { .. }
                    | ToolTrouble::PinUnread { .. } => return None,
                };
                // A pattern may look for another program's number.
                let range = reason.range().filter(|_| tool.pattern.is_none() || tool.version_from.is_some());
                wish(need, range, reason.program.as_deref())
            }
            // What is here already needs no package.
            (Reason::Library(reason), Subject::Library(library)) if reason.other.is_none() => {
                let need = match &reason.trouble {
                    LibraryTrouble::Missing => Need::Missing,
                    LibraryTrouble::NoHeaders { .. } | LibraryTrouble::Lacks { .. } => Need::Partly,
                    LibraryTrouble::OutOfRange { miss, .. } if miss.fit == Fit::TooOld => Need::TooOld,
                    LibraryTrouble::OutOfRange { .. } | LibraryTrouble::Incomparable { .. } => return None,
                };
                wish(need, library.version.as_ref(), None)
            }
            _ => None,
        }
    }
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
    reason: &Reason,
    here: &Circumstances<'a>,
) -> Result<Offer, Stop> {
    let mut offer = Offer::default();
    let Some(mut wish) = Wish::of(requirement, reason) else { return Ok(offer) };
    for (manager, name) in packages_for(&requirement.subject, here.managers) {
        match if_known(inquiry.candidate(manager, &name))? {
            Some(Candidate::Absent) => offer.refused.push(format!("{} knows no package {name}.", manager.word())),
            Some(Candidate::Version(offered)) if !does(wish.range, &name, &offered.version) => {
                let version = plain(&offered.version);
                offer.refused.push(format!("The package {name} of {} is {version}, which does not do.", manager.word()));
            }
            Some(Candidate::Version(Offered { hindered: Some(words), .. })) => {
                let words = shortened(words.trim_end_matches('.'));
                offer.refused.push(format!("The package {name} of {} cannot be installed here: {words}.", manager.word()));
            }
            Some(Candidate::Version(Offered { removes, .. })) if !removes.is_empty() => {
                let removed = join_words(&removes.iter().take(MOST_NAMED).map(|one| shortened(one)).collect::<Vec<_>>(), "and");
                offer.refused.push(format!(
                    "Installing the package {name} of {} would remove {removed}: decide which of them you need.",
                    manager.word()
                ));
            }
            candidate => {
                if let Some(path) = wish.program {
                    wish.own = super::circumstances::is_own(inquiry, path)?;
                }
                offer.fix = Some(install(&wish, (manager, &name), candidate, here));
                break;
            }
        }
    }
    if offer.fix.is_none() && offer.refused.is_empty() {
        offer.fix = of_that_name(inquiry, &wish, here)?;
    }
    if offer.fix.is_none() && offer.refused.is_empty() && if_known(inquiry.managers())?.is_some() {
        offer.fix = by_usual_manager(&wish, here);
    }
    Ok(offer)
}

/// Whether a manager's packages are a system's own, and mostly called as their programs are.
fn is_of_a_system(manager: Manager) -> bool {
    matches!(manager, Manager::Apt | Manager::Dnf | Manager::Zypper | Manager::Pacman | Manager::Apk)
}

/// Where neither the guide nor the catalogue names a package: one that is called as the tool is.
fn of_that_name(inquiry: &mut Inquiry<'_>, wish: &Wish<'_>, here: &Circumstances<'_>) -> Result<Option<Fix>, Stop> {
    let Subject::Tool(tool) = &wish.requirement.subject else { return Ok(None) };
    let named = |name: &String| catalogue::find(name).is_some() || !is_package(name);
    if wish.need != Need::Missing || !tool.packages.is_empty() || tool.names.iter().any(named) {
        return Ok(None);
    }
    let Some(name) = tool.names.first() else { return Ok(None) };
    for manager in here.managers.iter().copied().filter(|manager| is_of_a_system(*manager)) {
        if let Some(candidate @ Candidate::Version(offered)) = if_known(inquiry.candidate(manager, name))?
            && offered.hindered.is_none()
            && offered.removes.is_empty()
            && does(wish.range, name, &offered.version)
        {
            let mut fix = install(wish, (manager, name), Some(candidate), here);
            fix.warn("The guide names no package: this one only has the same name. Look at what it says of itself before you install it.");
            return Ok(Some(fix));
        }
    }
    Ok(None)
}

/// The manager that people of a system have who have one; systems that ship with one need no such way.
fn usual_manager(os: Option<Os>) -> Option<(Manager, &'static str)> {
    match os {
        Some(Os::Windows) => Some((
            Manager::Winget,
            "The command winget is not here: it comes with the App Installer of Microsoft's store. Get that first, and open a new terminal.",
        )),
        Some(Os::Macos) => Some((
            Manager::Brew,
            "The command brew is not here: its own page (search for Homebrew) says how to get it. Get that first, and open a new terminal.",
        )),
        Some(Os::Linux) | None => None,
    }
}

/// Where no manager of this machine has it, and the one that is usual here is missing: how it would be with that one.
fn by_usual_manager(wish: &Wish<'_>, here: &Circumstances<'_>) -> Option<Fix> {
    let (manager, first) = usual_manager(here.os).filter(|(manager, _)| !here.managers.contains(manager))?;
    let name = packages_for(&wish.requirement.subject, &[manager]).into_iter().next().map(|(_, name)| name)?;
    let mut fix = install(wish, (manager, &name), None, here);
    fix.warn(first);
    Some(fix)
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

fn install(wish: &Wish<'_>, (manager, name): (Manager, &str), candidate: Option<&Candidate>, here: &Circumstances<'_>) -> Fix {
    let title = wish.requirement.title();
    let offered = match candidate {
        Some(Candidate::Version(offered)) => Some(offered),
        Some(Candidate::Absent | Candidate::Unlisted) | None => None,
    };
    let without_rights = manager.needs_admin() && here.account.is_some_and(|account| account.admin == Some(false));
    let is_tool = matches!(wish.requirement.subject, Subject::Tool(_));
    let stands_alone = offered.is_some_and(|offered| offered.others == Some(0));
    if without_rights && manager == Manager::Apt && is_tool && wish.need == Need::Missing && stands_alone {
        return unpack(&title, name, offered);
    }
    let admin = |command: &str| if manager.needs_admin() { here.as_admin(command) } else { command.to_owned() };
    // A program elsewhere is not the package's: it would still be found first.
    let elsewhere = wish.program.filter(|path| manager.puts_programs_in(path) == Some(false));
    let again = wish.need == Need::Damaged && elsewhere.is_none();
    let verb = match wish.need {
        _ if again => "Reinstall",
        Need::TooOld => "Install the current release of",
        Need::Missing | Need::Damaged | Need::Partly => "Install",
    };
    let mut fix = Fix::say(format!("{verb} {title}."));
    // There a terminal keeps the PATH that it was opened with.
    fix.then = (here.os == Some(Os::Windows) && is_tool).then_some(Then::NewShell);
    let before = format!("{} ", admin(if again { manager.reinstall() } else { manager.install() }));
    fix.run = vec![format!("{before}{name}")];
    fix.admin = manager.needs_admin();
    fix.caution = if manager.needs_admin() { here.admin_caution() } else { None };
    fix.download_bytes = offered.and_then(|offered| offered.download_bytes);
    if let Some(path) = elsewhere {
        fix.say = format!("{verb} {title}, and move {path} aside, which would still be found first.");
        let aside = format!("mv {} {}", quote(path, here.shell), quote(&format!("{path}.old"), here.shell));
        fix.run.push(if wish.own == Some(true) { aside } else { here.as_admin(&aside) });
        fix.warn("If a version manager put that copy there, choose another version with it instead.");
    }
    let state = offered.map_or(ManagerState::Ready, |offered| offered.manager);
    if let ManagerState::Busy(process) = state {
        fix.say = format!("Wait until the other installation (process {process}) has ended. Then: {}", fix.say);
    } else if state == ManagerState::Broken {
        fix.say = format!("Have {} repair what is half installed. Then: {}", manager.word(), fix.say);
        fix.run.insert(0, admin("apt-get --fix-broken install"));
    } else if candidate == Some(&Candidate::Unlisted) {
        fix.say = format!("Have {} fetch its list of packages, which is not here yet. Then: {}", manager.word(), fix.say);
        fix.run.insert(0, admin("apt-get update"));
    } else if elsewhere.is_none() && !again {
        fix.part = Some(Part { of: Whole::Packages(manager), before, name: name.to_owned(), after: String::new(), title });
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
fn packages_for(subject: &Subject, managers: &[Manager]) -> Vec<(Manager, String)> {
    let named = subject.packages();
    if !named.is_empty() {
        let of = |manager: &Manager| named.iter().find(|(of, _)| of == manager).cloned();
        return managers.iter().filter_map(of).collect();
    }
    let Subject::Tool(tool) = subject else { return Vec::new() };
    let Some(row) = tool.names.iter().find_map(|name| catalogue::find(name)) else { return Vec::new() };
    let of = |manager: &Manager| {
        row.packages.iter().find(|(of, _)| *of == manager.word()).map(|(_, name)| (*manager, (*name).to_owned()))
    };
    managers.iter().filter_map(of).collect()
}

/// The installation, and what to do where the package is installed already and its program is gone.
pub(super) fn with_repair(fix: Fix, reason: &Reason) -> Vec<Fix> {
    let missing = matches!(reason, Reason::Tool(tool) if matches!(tool.trouble, ToolTrouble::Missing { .. }));
    let again = fix.part.as_ref().filter(|part| missing && part.of == Whole::Packages(Manager::Apt)).and_then(|part| {
        let command = fix.run.last()?.strip_suffix(&format!("{}{}", part.name, part.after))?.to_owned();
        let say = format!("Install {} once more: its package may be installed, with the program gone.", part.title);
        let run = vec![format!("{command}--reinstall {}{}", part.name, part.after)];
        Some(Fix { say, run, part: None, ..fix.clone() })
    });
    core::iter::once(fix).chain(again).collect()
}
