//! What settles it.

use crate::finding::{ComponentReason, ComponentTrouble, Reason};
use crate::fix::Fix;
use crate::fix::case::{Case, Seen};
use crate::fix::fills::Fills;
use crate::fix::kind::{ReasonFixes, SubjectFixes};
use crate::guide::{Component, ComponentSort, Installer, Language, Requirement, Subject, Then};
use crate::inquiry::{Inquiry, Stop, if_known};
use crate::observation::FileType;
use crate::prelude::*;

/// The folder of the project's own environment of Python.
const ENVIRONMENT: &str = ".venv";

pub(crate) fn fix(case: &Case<'_>, reason: &ComponentReason) -> Vec<Fix> {
    let Subject::Component(wanted) = &case.requirement.subject else { return Vec::new() };
    match (&reason.trouble, wanted.sort) {
        (ComponentTrouble::NoVersion | ComponentTrouble::Incomparable { .. } | ComponentTrouble::NoManager, _) => Vec::new(),
        (_, ComponentSort::KernelModule) => {
            let name = &wanted.name;
            vec![case.admin_step(
                format!("Load the kernel's module {name}, until the next restart."),
                &[&format!("modprobe {}", case.quoted(name))],
            )]
        }
        (_, ComponentSort::Module(language)) => {
            let own = wanted
                .installers
                .iter()
                .find_map(|(installer, name)| own_module(case, (wanted, reason), language, (*installer, name)));
            vec![own.unwrap_or_else(|| case.install(wanted.version.as_ref()))]
        }
        (_, ComponentSort::Headers(_) | ComponentSort::SystemPackage) => vec![case.install(None)],
    }
}

/// The range as the installer takes it behind a name; nothing where it has another way.
fn pinned(wanted: &Component, installer: Installer, name: &str) -> String {
    let simple = wanted.version.as_ref().map(ToString::to_string).filter(|range| !range.contains("||") && !range.contains('*'));
    match (installer, simple) {
        (Installer::Pip, Some(range)) => {
            let bound = |bound: &str| {
                let bound = bound.replace(' ', "");
                if bound.starts_with('=') { format!("={bound}") } else { bound }
            };
            format!("{name}{}", range.split(',').map(bound).collect::<Vec<_>>().join(","))
        }
        (Installer::Npm, Some(range)) => format!("{name}@{}", range.replace(',', "")),
        _ => name.to_owned(),
    }
}

/// A module for this very interpreter, where a person may put it: into the project's own environment, never among the system's own.
fn own_module(
    case: &Case<'_>,
    (wanted, reason): (&Component, &ComponentReason),
    language: Language,
    (installer, name): (Installer, &str),
) -> Option<Fix> {
    // What PATH finds by this name is what was looked at.
    let path = reason.program.as_deref()?;
    let program = path.rsplit(['/', '\\']).next()?.trim_end_matches(".exe");
    let module = case.quoted(&pinned(wanted, installer, name));
    match (language, installer) {
        // An environment has its own folder, with its interpreter in it.
        (Language::Python, Installer::Pip) if case.seen.environment => {
            let say = format!("Let pip of the environment that is active bring {name}.");
            Some(Fix::say(say).run(vec![format!("{} -m pip install {module}", case.quoted(program))]))
        }
        (Language::Python, Installer::Pip) => {
            let inside =
                if case.unix() { format!("{ENVIRONMENT}/bin/python") } else { format!("{ENVIRONMENT}\\Scripts\\python") };
            let say =
                format!("Make an environment of Python for this project ({ENVIRONMENT}), let its pip bring {name}, and use it.");
            let activate = case.here.shell.activate(ENVIRONMENT);
            let mut fix = Fix::say(say).run(vec![
                format!("{} -m venv {ENVIRONMENT}", case.quoted(program)),
                format!("{inside} -m pip install {module}"),
                activate,
            ]);
            fix.warn("The last line holds for this terminal: type it again in every new one, then check again there.");
            Some(fix)
        }
        (Language::Node, Installer::Npm) => {
            let say = format!("Let npm fetch what the project's package.json names; where {name} is not among it, add it.");
            let mut fix = Fix::say(say).run(vec!["npm install".to_owned()]);
            fix.warn(&format!("If it is still missing then: npm install --save-dev {module}"));
            Some(fix)
        }
        (Language::Ruby, Installer::Gem) => {
            let say = format!("Let gem bring {name} into your own folder.");
            Some(Fix::say(say).run(vec![format!("gem install --user-install {}", case.quoted(name))]))
        }
        _ => None,
    }
}

/// A tool that a language's own installer brings into a place of the person's own.
pub(crate) fn own_tool(case: &Case<'_>, (installer, name): (Installer, &str)) -> Fix {
    let package = case.quoted(name);
    let (command, place) = match installer {
        Installer::Cargo => (format!("cargo install --locked {package}"), "~/.cargo/bin"),
        Installer::Go => (format!("go install {}", case.quoted(&format!("{name}@latest"))), "~/go/bin"),
        Installer::Npm => (format!("npm install --global --prefix ~/.local {package}"), "~/.local/bin"),
        Installer::Gem => (format!("gem install --user-install --bindir ~/.local/bin {package}"), "~/.local/bin"),
        Installer::Pip => (String::new(), "~/.local/bin"),
    };
    let say = format!("Let {} bring {name}; it is put into {place}, which must be on PATH.", installer.word());
    if installer == Installer::Pip {
        let folder = format!("~/.local/share/{name}");
        let say =
            format!("Let pip bring {name} into a folder of its own, and put its commands into {place}, which must be on PATH.");
        return Fix::say(say).run(vec![
            format!("python3 -m venv {folder}"),
            format!("{folder}/bin/pip install {package}"),
            "mkdir -p ~/.local/bin".to_owned(),
            format!("ln -sf {folder}/bin/{package} ~/.local/bin/"),
        ]);
    }
    Fix::say(say).run(vec![command]).then(Then::NewShell)
}

impl ReasonFixes for ComponentReason {
    fn fixes(&self, case: &Case<'_>) -> Vec<Fix> {
        fix(case, self)
    }

    fn fills(&self, _: &Requirement) -> Fills {
        let found = match &self.trouble {
            ComponentTrouble::OutOfRange { found, .. } => Some(found.to_string()),
            ComponentTrouble::Incomparable { found } => Some(found.clone()),
            ComponentTrouble::Missing { .. } | ComponentTrouble::NoVersion | ComponentTrouble::NoManager => None,
        };
        Fills { found, path: self.at.clone().or_else(|| self.program.clone()), ..Fills::default() }
    }
}

/// What matters for choosing a fix, beside the reason.
pub(crate) fn see<'a>(inquiry: &mut Inquiry<'a>, reason: &ComponentReason, seen: &mut Seen<'a>) -> Result<(), Stop> {
    let program = reason.program.as_deref().unwrap_or_default();
    let above = |path: &str| path.rsplit_once(['/', '\\']).map(|(above, _)| above.to_owned());
    if let Some(folder) = above(program).and_then(|folder| above(&folder)) {
        let state = if_known(inquiry.path(&format!("{folder}/pyvenv.cfg"), None))?;
        seen.environment = state.is_some_and(|state| state.nature == FileType::File);
    }
    Ok(())
}

impl SubjectFixes for Component {
    fn see<'a>(&self, inquiry: &mut Inquiry<'a>, (_, reason): (&Requirement, &Reason), seen: &mut Seen<'a>) -> Result<(), Stop> {
        if let Reason::Component(reason) = reason { see(inquiry, reason, seen) } else { Ok(()) }
    }
}
