//! The step that installs a package, with what must be done before it can.

use super::{Asked, Need, Wish};
use crate::finding::{Breakage, Reason, ToolTrouble};
use crate::fix::{Circumstances, Fix, Part, Prepares, Whole, quote};
use crate::guide::{Subject, Then, is_package};
use crate::inquiry::{Inquiry, Stop, if_known};
use crate::manager::Manager;
use crate::observation::{Bar, Candidate, Offered, Os, Piece, Trial};
use crate::prelude::*;

/// Installing a package with its manager.
pub(super) fn install(wish: &Wish<'_>, (manager, name): (Manager, &str), asked: &Asked<'_>, here: &Circumstances<'_>) -> Fix {
    let title = wish.requirement.title();
    let offered = asked.offered();
    let without_rights = manager.needs_admin() && here.account.is_some_and(|account| account.admin == Some(false));
    let is_tool = matches!(wish.requirement.subject, Subject::Tool(_));
    let stands_alone = offered.is_some_and(|offered| offered.others == Some(0));
    if without_rights && manager == Manager::Apt && is_tool && wish.need == Need::Missing && stands_alone {
        return unpack(&title, name, offered);
    }
    let admin = |command: &str| as_needed(manager, command, here);
    // A program elsewhere is not the package's: it would still be found first.
    let elsewhere = wish.program.filter(|path| manager.puts_programs_in(path) == Some(false));
    let again = wish.need == Need::Damaged && elsewhere.is_none();
    let its_own = wish.program.is_some_and(|path| manager.brought(path));
    let (verb, command) = match wish.need {
        _ if again => ("Reinstall", manager.reinstall()),
        Need::TooOld if its_own => ("Install the current release of", manager.upgrade()),
        Need::TooOld => ("Install the current release of", manager.install()),
        Need::Missing | Need::Damaged | Need::Partly => ("Install", manager.install()),
    };
    let held = offered.is_some_and(|offered| offered.trial == Trial::Held);
    let lifted = if held { lifting(manager, name) } else { (None, "") };
    let mut fix = Fix::say(format!("{verb} {title}."));
    // There a terminal keeps the PATH that it was opened with.
    fix.then = (here.os == Some(Os::Windows) && is_tool).then_some(Then::NewShell);
    let before = format!("{}{} ", admin(command), lifted.1);
    fix.run = lifted.0.iter().map(|first| admin(first)).chain([format!("{before}{name}")]).collect();
    fix.admin = manager.needs_admin();
    fix.caution = if manager.needs_admin() { here.admin_caution() } else { None };
    fix.download_bytes = offered.and_then(|offered| offered.download_bytes);
    if held {
        fix.warn(&format!(
            "{name} is held back here: {} is told to leave it as it is. If it was not you who told it so, first ask those who look after this machine.",
            manager.word()
        ));
    }
    if let Some(reason) = asked.not_checked() {
        let sentence = format!("Not checked whether {} can install {name} here: {reason}.", manager.word());
        fix.warn(&sentence);
        fix.not_checked = Some(sentence);
    }
    if let Some(path) = elsewhere {
        fix.say = format!("{verb} {title}, and move {path} aside, which would still be found first.");
        let aside = format!("mv {} {}", quote(path, here.shell), quote(&format!("{path}.old"), here.shell));
        fix.run.push(if wish.own == Some(true) { aside } else { here.as_admin(&aside) });
        fix.warn("If a version manager put that copy there, choose another version with it instead.");
    }
    let (prepares, commands) = preparation(manager, asked);
    let fetches = manager.fetch_lists().is_some_and(|fetch| commands.iter().any(|command| command == fetch));
    if let Some(meaning) = manager.fetching_means().filter(|_| fetches) {
        fix.warn(meaning);
    }
    if elsewhere.is_none() && !again && !held {
        fix.part = Some(Part { of: Whole::Packages(manager), before, name: name.to_owned(), after: String::new(), title });
    }
    fix.say = format!("{prepares}{}", fix.say);
    fix.prepares = (!prepares.is_empty()).then_some(Prepares { say: prepares, commands: commands.len() });
    fix.run = commands.iter().map(|command| admin(command)).chain(fix.run).collect();
    fix
}

/// A manager's command as it is typed here.
pub(super) fn as_needed(manager: Manager, command: &str, here: &Circumstances<'_>) -> String {
    if manager.needs_admin() { here.as_admin(command) } else { command.to_owned() }
}

/// What must be done before the manager can install anything: sentences, and the commands for them.
fn preparation(manager: Manager, asked: &Asked<'_>) -> (String, Vec<String>) {
    let word = manager.word();
    let (mut sentences, mut commands): (Vec<String>, Vec<String>) = (Vec::new(), Vec::new());
    match asked.state.and_then(|state| state.barred.as_ref()) {
        Some(Bar::Process(process)) => {
            sentences.push(format!("Another installation is running (process {process}): wait until it has ended."));
        }
        Some(Bar::LeftLock(file)) => {
            sentences.push(format!("Remove the lock {file}, which an installation left that has ended."));
            commands.push(format!("rm {file}"));
        }
        Some(Bar::BrokenOff) => {
            sentences.push("Bring the installation to its end that was broken off.".to_owned());
            commands.extend(manager.resume().map(ToOwned::to_owned));
        }
        None => {}
    }
    if asked.offered().is_some_and(|offered| offered.trial == Trial::Unfinished) {
        sentences.push(format!("Have {word} repair what is half installed."));
        commands.extend(manager.repair().map(ToOwned::to_owned));
    }
    if let Some(fetch) = manager.fetch_lists().filter(|_| !manager.fetches_by_itself()) {
        if asked.candidate == Some(&Candidate::Unlisted) {
            sentences.push(format!("Have {word} fetch its list of packages, which is not here yet."));
            commands.push(fetch.to_owned());
        } else if let Some(days) = asked.old_lists() {
            sentences.push(format!(
                "Have {word} fetch its lists of packages anew: they are {days} days old, and may name what is gone."
            ));
            commands.push(fetch.to_owned());
        }
    }
    if sentences.is_empty() {
        return (String::new(), commands);
    }
    (format!("{} Then: ", sentences.join(" ")), commands)
}

/// How a package is installed all the same that the manager is told to leave as it is: a command before, and what stands behind the manager's own.
fn lifting(manager: Manager, name: &str) -> (Option<String>, &'static str) {
    match manager {
        Manager::Apt => (None, " --allow-change-held-packages"),
        Manager::Dnf => (None, " --setopt=disable_excludes=all"),
        Manager::Zypper => (Some(format!("zypper removelock {name}")), ""),
        // It asks, and takes a yes.
        Manager::Pacman | Manager::Apk | Manager::Winget | Manager::Brew | Manager::Port | Manager::Scoop | Manager::Choco => {
            (None, "")
        }
    }
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

/// The installation, and what to do where the package is installed already and its program is gone.
pub(in crate::fix) fn with_repair(fix: Fix, reason: &Reason) -> Vec<Fix> {
    let missing = matches!(reason, Reason::Tool(tool) if matches!(tool.trouble, ToolTrouble::Missing { .. }));
    let again = fix.part.as_ref().filter(|_| missing).and_then(|part| {
        let Whole::Packages(manager) = part.of else { return None };
        let command = part.before.replacen(manager.install(), manager.reinstall(), 1);
        if command == part.before {
            return None;
        }
        let say = format!("Install {} once more: its package may be installed, with the program gone.", part.title);
        let run = vec![format!("{command}{}{}", part.name, part.after)];
        Some(Fix { say, run, part: None, ..fix.clone() })
    });
    core::iter::once(fix).chain(again).collect()
}

/// Installing the package again whose shared library a program misses: its notes name the file, which is gone.
///
/// # Errors
/// When answers are still to come.
pub(in crate::fix) fn of_missing_library(
    inquiry: &mut Inquiry<'_>,
    reason: &Reason,
    here: &Circumstances<'_>,
) -> Result<Option<Fix>, Stop> {
    let Reason::Tool(tool) = reason else { return Ok(None) };
    let ToolTrouble::Broken { breakage } = &tool.trouble else { return Ok(None) };
    let library = match breakage {
        Breakage::Lacks(pieces) => {
            pieces.iter().find_map(|piece| if let Piece::Library(name) = piece { Some(name.as_str()) } else { None })
        }
        // The loader's own words (ld.so(8)).
        Breakage::Library(words) | Breakage::Said(words) => {
            words.split_once("shared libraries: ").and_then(|(_, rest)| rest.split(':').next())
        }
        Breakage::LoaderOrInterpreter => None,
    };
    let Some(library) = library.map(str::trim).filter(|name| !name.is_empty() && !name.contains('/')) else { return Ok(None) };
    let Some(Some((manager, name))) = if_known(inquiry.package_of(library))? else { return Ok(None) };
    if !is_package(name) {
        return Ok(None);
    }
    let mut fix = Fix::say(format!("Install the package {name} again: {library} is one of its files, and is gone."));
    fix.run = vec![as_needed(*manager, &format!("{} {name}", manager.reinstall()), here)];
    fix.admin = manager.needs_admin();
    fix.caution = if fix.admin { here.admin_caution() } else { None };
    Ok(Some(fix))
}
