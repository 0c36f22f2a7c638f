//! What package managers can do for a tool or a library.

mod install;

pub(super) use install::{of_missing_library, with_repair};

use super::{Circumstances, Fix, Part, Whole};
use crate::catalogue;
use crate::document::{shortened, shortened_to};
use crate::finding::{ComponentTrouble, General, LibraryTrouble, OtherPlace, Reason, Refusal, ToolTrouble};
use crate::guide::{Requirement, Subject, is_package};
use crate::inquiry::{Inquiry, Stop, if_known};
use crate::manager::Manager;
use crate::observation::{Candidate, ManagerState, Offered, Os, Trial};
use crate::packages::packages_for;
use crate::prelude::*;
use crate::probe::Probe;
use crate::text::join_words;
use crate::version::{Range, RangeMatch, Version};

/// More packages than these are not named in a sentence.
const MOST_NAMED: usize = 6;

/// So many characters of a manager's own words are told.
const MOST_WORDS: usize = 160;

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
                    ToolTrouble::OutOfRange { miss, .. } if miss.fit == RangeMatch::TooOld => Need::TooOld,
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
                    LibraryTrouble::OutOfRange { miss, .. } if miss.fit == RangeMatch::TooOld => Need::TooOld,
                    LibraryTrouble::OutOfRange { .. } | LibraryTrouble::Incomparable { .. } => return None,
                };
                wish(need, library.version.as_ref(), None)
            }
            // Who runs is known only once it is installed and started.
            (reason, subject) if super::supply::is_nobody(reason) && !subject.packages().is_empty() => {
                wish(Need::Missing, None, None)
            }
            (Reason::Component(reason), Subject::Component(component)) => {
                let need = match &reason.trouble {
                    ComponentTrouble::Missing { lacks: None } => Need::Missing,
                    ComponentTrouble::Missing { lacks: Some(_) } => Need::Partly,
                    ComponentTrouble::OutOfRange { miss, .. } if miss.fit == RangeMatch::TooOld => Need::TooOld,
                    ComponentTrouble::OutOfRange { .. }
                    | ComponentTrouble::NoVersion
                    | ComponentTrouble::Incomparable { .. }
                    | ComponentTrouble::NoManager => return None,
                };
                wish(need, component.version.as_ref(), None)
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
    let mut renewal = None;
    for (manager, name) in packages_for(&requirement.subject, here.managers) {
        let asked = Asked::ask(inquiry, manager, &name)?;
        let Some(refusal) = refusal(&wish, (manager, &name), asked.candidate) else {
            if let Some(path) = wish.program {
                wish.own = super::circumstances::is_own(inquiry, path)?;
            }
            offer.fix = Some(install::install(&wish, (manager, &name), &asked, here));
            break;
        };
        renewal = renewal.or_else(|| renew_lists(&wish, manager, &refusal, &asked, here));
        offer.refused.push(refusal);
    }
    offer.fix = offer.fix.or(renewal);
    if offer.fix.is_none() && offer.refused.is_empty() {
        offer = of_that_name(inquiry, &wish, here)?;
    }
    if offer.fix.is_none() && offer.refused.is_empty() && if_known(inquiry.managers())?.is_some() {
        offer.fix = by_usual_manager(&wish, here);
    }
    Ok(offer)
}

/// What was asked of a manager about a package, and what it said.
struct Asked<'a> {
    candidate: Option<&'a Candidate>,
    /// Why it did not answer.
    unanswered: Option<String>,
    state: Option<&'a ManagerState>,
}

impl<'a> Asked<'a> {
    /// # Errors
    /// When answers are still to come.
    fn ask(inquiry: &mut Inquiry<'a>, manager: Manager, name: &str) -> Result<Self, Stop> {
        inquiry.want(Probe::ManagerState { manager });
        let (candidate, unanswered) = match inquiry.candidate(manager, name) {
            Ok(candidate) => (Some(candidate), None),
            Err(Stop::NoAnswer(General::CouldNotLook { reason })) => (None, Some(reason)),
            Err(Stop::NoAnswer(_)) => (None, None),
            Err(Stop::Pending) => return Err(Stop::Pending),
        };
        Ok(Self { candidate, unanswered, state: if_known(inquiry.manager_state(manager))? })
    }

    fn offered(&self) -> Option<&'a Offered> {
        if let Some(Candidate::Version(offered)) = self.candidate { Some(offered) } else { None }
    }

    /// How many days old its lists are, where that is too many.
    fn old_lists(&self) -> Option<u64> {
        self.state.and_then(|state| state.lists_days).filter(|days| *days >= OLD_LISTS_DAYS)
    }

    /// Why it is not known whether the package can be installed.
    fn not_checked(&self) -> Option<&str> {
        match self.candidate {
            Some(Candidate::Version(Offered { trial: Trial::NotTried(reason), .. })) => Some(reason),
            Some(Candidate::Unlisted) => Some("its list of packages was never fetched"),
            _ => self.unanswered.as_deref(),
        }
    }
}

/// Lists of packages that are older name what is gone, and lack what is new: a distribution publishes fixes every few days.
const OLD_LISTS_DAYS: u64 = 14;

/// Why a package would be no cure, in a sentence; none where it may be one.
fn refusal(wish: &Wish<'_>, (manager, name): (Manager, &str), candidate: Option<&Candidate>) -> Option<String> {
    let word = manager.word();
    match candidate? {
        Candidate::Absent => Some(format!("{word} knows no package {name}.")),
        Candidate::Unusable(words) => Some(format!(
            "{word} could not be asked, as it is set up here: {}.",
            shortened_to(words.trim_end_matches('.'), MOST_WORDS)
        )),
        Candidate::Version(Offered { brings: Some((brought, version)), .. }) if !does(wish.range, brought, version) => {
            Some(format!("The package {name} of {word} brings {brought} {}, which does not do.", plain(version)))
        }
        Candidate::Version(offered) if !does(wish.range, name, &offered.version) => {
            Some(format!("The package {name} of {word} is {}, which does not do.", plain(&offered.version)))
        }
        Candidate::Version(Offered { trial: Trial::Refused(words), .. }) => {
            let words = shortened_to(words.trim_end_matches('.'), MOST_WORDS);
            Some(format!("The package {name} of {word} cannot be installed here: {words}."))
        }
        Candidate::Version(Offered { trial: Trial::Removes(removes), .. }) => {
            let gone = join_words(&removes.iter().take(MOST_NAMED).map(|one| shortened(one)).collect::<Vec<_>>(), "and");
            Some(format!("Installing the package {name} of {word} would remove {gone}: decide which of them you need."))
        }
        Candidate::Version(_) | Candidate::Unlisted => None,
    }
}

/// Newer lists, where those that do not have what is wanted are old.
fn renew_lists(wish: &Wish<'_>, manager: Manager, refusal: &str, asked: &Asked<'_>, here: &Circumstances<'_>) -> Option<Fix> {
    let days = asked.old_lists()?;
    let fetch = manager.fetch_lists()?;
    let may_help = !matches!(asked.candidate, Some(Candidate::Unusable(_)));
    may_help.then(|| {
        let title = wish.requirement.title();
        let of = Whole::Lists(manager, days);
        let before = install::as_needed(manager, fetch, here);
        let mut fix = Fix::say(of.say(&title)).run(vec![before.clone()]);
        fix.part = Some(Part { of, before, name: String::new(), after: String::new(), title });
        fix.admin = manager.needs_admin();
        fix.caution = if fix.admin { here.admin_caution() } else { None };
        fix.warn(refusal);
        if let Some(meaning) = manager.fetching_means() {
            fix.warn(meaning);
        }
        fix
    })
}

/// Whether a manager's packages are a system's own, and mostly called as their programs are.
fn is_of_a_system(manager: Manager) -> bool {
    matches!(manager, Manager::Apt | Manager::Dnf | Manager::Zypper | Manager::Pacman | Manager::Apk)
}

/// Where neither the guide nor the catalogue names a package: one that is called as the tool is.
fn of_that_name<'a>(inquiry: &mut Inquiry<'a>, wish: &Wish<'_>, here: &Circumstances<'a>) -> Result<Offer, Stop> {
    let mut offer = Offer::default();
    let Subject::Tool(tool) = &wish.requirement.subject else { return Ok(offer) };
    let named = |name: &String| catalogue::find(name).is_some() || !is_package(name);
    if wish.need != Need::Missing || !tool.packages.is_empty() || tool.names.iter().any(named) {
        return Ok(offer);
    }
    let Some(name) = tool.names.first() else { return Ok(offer) };
    for manager in here.managers.iter().copied().filter(|manager| is_of_a_system(*manager)) {
        let asked = Asked::ask(inquiry, manager, name)?;
        if let Some(fix) = unnamed(wish, (manager, name), &asked, here) {
            offer.fix = Some(fix);
            break;
        }
        let provider = if_known(inquiry.provider(manager, name))?.and_then(Option::as_ref);
        let Some(other) = provider.filter(|other| is_package(other)) else { continue };
        let asked = Asked::ask(inquiry, manager, other)?;
        if let Some(fix) = unnamed(wish, (manager, other), &asked, here) {
            offer.fix = Some(fix);
            break;
        }
    }
    Ok(offer)
}

/// A package that nobody named for the tool.
fn unnamed(wish: &Wish<'_>, (manager, name): (Manager, &str), asked: &Asked<'_>, here: &Circumstances<'_>) -> Option<Fix> {
    let may_do =
        matches!(asked.candidate, Some(Candidate::Version(_))) && refusal(wish, (manager, name), asked.candidate).is_none();
    may_do.then(|| {
        let mut fix = install::install(wish, (manager, name), asked, here);
        let same = matches!(&wish.requirement.subject, Subject::Tool(tool) if tool.names.iter().any(|tool| tool == name));
        let why = if same { "this one only has the same name" } else { "this one has a program of that name" };
        fix.warn(&format!("The guide names no package: {why}. Look at what it says of itself before you install it."));
        fix
    })
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
    let nothing = Asked { candidate: None, unanswered: None, state: None };
    let mut fix = install::install(wish, (manager, &name), &nothing, here);
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
    let fit = Version::parse(plain(version)).map_or(RangeMatch::Incomparable, |version| range.fit(&version));
    matches!(fit, RangeMatch::Inside | RangeMatch::Incomparable)
}
