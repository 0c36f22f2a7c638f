use crate::live::Live;
use crate::live::os;
use crate::live::variable::AtStart;
use crate::read::{Outcome, Place, Program, StartupConfig, StartupTrace, follow, sets_variable};
use setup_ready_core::observation::StartupOutcome;
use std::path::{Path, PathBuf};

/// Files that new shells and sessions read, at home.
const AT_HOME: [&str; 11] = [
    ".profile",
    ".bash_profile",
    ".bashrc",
    ".zshenv",
    ".zprofile",
    ".zshrc",
    ".mkshrc",
    ".config/fish/config.fish",
    ".login",
    ".cshrc",
    ".tcshrc",
];
/// The same for every user.
const FOR_ALL: [&str; 2] = ["/etc/environment", "/etc/profile"];

/// What a shell of this person does on its start.
fn trail(live: &Live, program: Program, (login, interactive): (bool, bool), home: &Path) -> StartupTrace {
    let text = |file: &str| Some(live.kept.text(Path::new(file)).to_string()).filter(|text| !text.is_empty());
    let exists = |file: &str| Path::new(file).exists();
    let environment = |name: &str| std::env::var(name).ok().filter(|value| !value.is_empty());
    let home = home.to_string_lossy();
    follow(StartupConfig { program, login, interactive, home: &home, environment: &environment, text: &text, exists: &exists })
}

/// The line of a start-up file that sets a variable, by what the shell of this terminal and that of the account would do; else the first file that
/// has such a line.
pub(in crate::live) fn startup_line_of(name: &str, live: &Live) -> Option<AtStart> {
    let home = live.home.as_deref()?;
    let shown = |file: &str| match file.strip_prefix(&*home.to_string_lossy()) {
        Some(rest) => format!("~{rest}"),
        None => file.to_owned(),
    };
    let at =
        |place: &Place, fate: StartupOutcome| AtStart { file: shown(&place.file), line: Some(place.line), fate, kept_by: None };
    let sets = |file: &Path| {
        let text = live.kept.text(file);
        text.contains(name) && sets_variable(&text, name)
    };
    let own = AT_HOME.iter().map(|file| home.join(file)).filter(|file| sets(file));
    let own: Vec<String> = own.map(|file| file.to_string_lossy().into_owned()).collect();
    let here = || os::shell_here().as_deref().and_then(Program::of);
    if !own.is_empty()
        && let Some(program) = here()
    {
        let terminal = trail(live, program, (cfg!(target_os = "macos"), true), home);
        match terminal.outcome(name, false) {
            Outcome::Given(place) => return Some(at(place, StartupOutcome::NewTerminal)),
            Outcome::Kept(place) => return Some(at(place, StartupOutcome::NotExported)),
            Outcome::Gone(place) => {
                let set = terminal.deeds.iter().rfind(|deed| deed.name == name && deed.place != *place);
                if let Some(set) = set {
                    let kept_by = Some((shown(&place.file), place.line));
                    return Some(AtStart { kept_by, ..at(&set.place, StartupOutcome::Removed) });
                }
            }
            Outcome::Untouched => {}
        }
        let account = os::shell_of_the_account().as_deref().and_then(Program::of).unwrap_or(program);
        match trail(live, account, (true, true), home).outcome(name, false) {
            Outcome::Given(place) => return Some(at(place, StartupOutcome::SignIn)),
            Outcome::Kept(place) => return Some(at(place, StartupOutcome::NotExported)),
            Outcome::Gone(_) | Outcome::Untouched => {}
        }
        let file = own.first()?;
        let number = live.kept.text(Path::new(file)).lines().position(|line| sets_variable(line, name)).map(|at| at + 1);
        let left = terminal.ends.iter().find(|end| own.contains(&end.file));
        let fate = if left.is_some() { StartupOutcome::Left } else { StartupOutcome::NotRead };
        let kept_by = left.map(|end| (shown(&end.file), end.line));
        return Some(AtStart { file: shown(left.map_or(file, |end| &end.file)), line: number, fate, kept_by });
    }
    let parts = live.kept.names(Path::new("/etc/profile.d"));
    let parts = parts
        .beginning("")
        .filter(|name| Path::new(name).extension().is_some_and(|kind| kind == "sh"))
        .map(|name| format!("/etc/profile.d/{name}"));
    let for_all = parts.chain(FOR_ALL.map(ToOwned::to_owned));
    let file = own.into_iter().chain(for_all.filter(|file| sets(Path::new(file)))).next()?;
    Some(AtStart { file: shown(&file), ..AtStart::default() })
}

/// The start-up files that may set a variable.
pub(in crate::live) fn startup_files(live: &Live) -> Vec<PathBuf> {
    let own = live.home.iter().flat_map(|home| AT_HOME.iter().map(|file| home.join(file)));
    own.chain(FOR_ALL.iter().map(PathBuf::from)).chain([PathBuf::from("/etc/profile.d")]).collect()
}
