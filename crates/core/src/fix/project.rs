//! What settles variables, limits, libraries, locales, settings, the working copy and commands.

use super::case::{Case, in_a_version};
use super::effect::{Change, CheckoutChange, Effect};
use super::{Fix, Shell};
use crate::finding::{
    CheckoutReason, CommandReason, LibraryReason, LibraryTrouble, LimitReason, LocaleReason, Place, SettingReason,
    VariableReason, VariableTrouble,
};
use crate::guide::{Edit, LimitKind, Subject, Then};
use crate::observation::{Fate, Os, Unfinished};
use crate::prelude::*;
use crate::version::Fit;

/// Stands where only the person knows what to write.
const YOURS: &str = "YOUR-VALUE";

/// The ways to a variable, the best first; where a person must write their own value, that is noted.
pub(super) fn variable(case: &Case<'_>, reason: &VariableReason) -> Vec<Fix> {
    let (yours, _) = example(case);
    let mut ways = ways_to_variable(case, reason);
    for fix in &mut ways {
        let mut texts = fix.run.iter().chain(fix.edit.iter().map(|edit| &edit.append));
        if fix.say.contains("your own value") && texts.any(|text| text.contains(yours)) {
            fix.own_value = Some(yours.to_owned());
        }
    }
    ways
}

fn ways_to_variable(case: &Case<'_>, reason: &VariableReason) -> Vec<Fix> {
    let (shell, name) = (case.here.shell, &reason.name);
    let env_file = if let Subject::Variable(variable) = &case.requirement.subject { variable.env_file.as_deref() } else { None };
    let in_terminals = || {
        let (yours, own) = example(case);
        let fix = Fix::say(format!("Set {name}, with your own value in the place of {own}."));
        case.in_startup_file(fix, shell.set_for_good(name, yours))
    };
    let fix = match &reason.trouble {
        VariableTrouble::OnlyInFile { file, fate, kept_by, .. } => {
            let others = match fate {
                Fate::NewTerminal => Fix::say("Nothing has to be changed any more: open a new terminal.").then(Then::NewShell),
                Fate::SignIn => super::case::sign_in(),
                Fate::NotExported => exported(shell, name, file),
                Fate::NotRead => return vec![in_terminals()],
                Fate::Left | Fate::Removed => match kept_by {
                    Some((other, line)) if *fate == Fate::Removed && case.unix() && other.starts_with("~/") => {
                        let say = format!("Make line {line} of {other} a comment; the file as it was is kept as {other}.old.");
                        Fix::say(say).run(vec![format!("sed -i.old '{line}s/^/# /' {other}")]).then(Then::NewShell)
                    }
                    Some((other, line)) => {
                        Fix::say(format!("Put the line that sets {name} before line {line} of {other}.")).then(Then::NewShell)
                    }
                    None => return vec![in_terminals()],
                },
            };
            // It may stand there and not be handed on to programs.
            return vec![others, in_terminals()];
        }
        VariableTrouble::Unwanted { .. } => unwanted(case, name),
        VariableTrouble::OtherKit { kit, .. } => {
            let fix = Fix::say(format!("Let {name} lead to the kit of the program that is on PATH: {kit}."));
            case.in_startup_file(fix, shell.set_for_good(name, kit))
        }
        VariableTrouble::OtherLineEnds { .. } => {
            let file = env_file.unwrap_or(".env");
            let fix = Fix::say(format!(
                "Save {file} with the line ends of this system and without a mark before it; as it was, it is kept as {file}.old."
            ));
            if case.unix() {
                // The mark is U+FEFF in UTF-8; a backslash and octal digits are read by printf(1) of POSIX.
                let mark = "$(printf '\\357\\273\\277')";
                fix.run(vec![format!("sed -i.old -e \"1s/^{mark}//\" -e \"s/$(printf '\\r')\\$//\" {}", case.quoted(file))])
                    .with_effect(Effect::one(Change::VariableFile(name.clone())))
            } else {
                fix
            }
        }
        VariableTrouble::Empty { place: Place::Environment }
        | VariableTrouble::Shape { place: Place::Environment }
        | VariableTrouble::LeadsNowhere { .. }
            if let (Some(file), Some(line)) =
                (case.seen.startup.filter(|file| file.starts_with("~/")), case.seen.startup_line) =>
        {
            let say = format!("Correct the value of {name} in {file}, line {line}, with your own value in the place of {YOURS}.");
            let mut fix = Fix::say(say).then(Then::NewShell);
            fix.edit = Some(Edit { line: Some(line), ..Edit::append(file, shell.set_for_good(name, YOURS)) });
            // Where that line is not the one that counts.
            return vec![fix, in_terminals()];
        }
        VariableTrouble::LeadsNowhere { .. } => {
            let mut fix = in_terminals();
            fix.say = format!("Set {name} to something that is there, in the place of {YOURS}.");
            fix
        }
        VariableTrouble::Empty { place: Place::Environment } | VariableTrouble::Shape { place: Place::Environment }
            if env_file.is_some() =>
        {
            let mut fix = in_terminals();
            fix.say = format!(
                "Correct the value of {name} where it is set for your terminals: a line at the end of the start-up file goes before others."
            );
            fix
        }
        VariableTrouble::Unset | VariableTrouble::Empty { .. } | VariableTrouble::Shape { .. } => match env_file {
            Some(file) => in_env_file(case, name, file),
            None => in_terminals(),
        },
    };
    vec![fix]
}

/// What a start-up file sets is handed on to programs.
fn exported(shell: Shell, name: &str, file: &str) -> Fix {
    let line = match shell {
        Shell::Fish => format!("set -gx {name} ${name}"),
        Shell::Csh => format!("setenv {name} \"${name}\""),
        Shell::Posix | Shell::PowerShell | Shell::Cmd => format!("export {name}"),
    };
    // What these say counts from the next sign-in on.
    let at_sign_in = ["profile", ".login", ".zlogin"].iter().any(|name| file.ends_with(name));
    let then = if at_sign_in { Then::SignIn } else { Then::NewShell };
    let mut fix = Fix::say(format!("Let programs have {name}, too.")).then(then);
    fix.edit = Some(Edit::append(file, line));
    fix
}

/// A line of the project's file: in the place of the one that is wrong, or at its end. Where the file is missing and there is an example, it
/// is begun with that.
fn in_env_file(case: &Case<'_>, name: &str, file: &str) -> Fix {
    if let Some(example) = case.seen.example {
        let from = match file.rsplit_once('/') {
            Some((folder, _)) => format!("{folder}/{example}"),
            None => example.to_owned(),
        };
        let say = format!("Make {file} from its example {example}, and put your own values into it.");
        return Fix::say(say).run(vec![case.here.shell.copy(&from, file)]);
    }
    let (yours, own) = example(case);
    let say = match case.seen.line {
        Some(line) => format!("Correct {name} in {file}, line {line}, with your own value in the place of {own}."),
        None => format!("Set {name} in {file}, with your own value in the place of {own}."),
    };
    let mut fix = if case.seen.closed { make_own(case, file, "change").unwrap_or_else(|| Fix::say("")) } else { Fix::say("") };
    fix.say = if fix.say.is_empty() { say } else { format!("{} {say}", fix.say) };
    fix.edit = Some(Edit { line: case.seen.line, ..Edit::append(file, format!("{name}={yours}")) });
    fix
}

/// What stands for a person's own value, and how a sentence calls it: the guide's example, where it has one.
fn example<'c>(case: &'c Case<'_>) -> (&'c str, String) {
    match &case.requirement.example {
        Some(example) => (example, format!("{example}, which is an example")),
        None => (YOURS, YOURS.to_owned()),
    }
}

/// A file of the project that belongs to somebody else becomes the person's; none where the system does not tell who they are.
pub(super) fn make_own(case: &Case<'_>, file: &str, to: &str) -> Option<Fix> {
    let user = case.here.user().filter(|_| case.unix())?;
    let command = format!("chown {} {}", case.quoted(user), case.quoted(file));
    Some(case.admin_step(format!("Make {file} yours, so that you may {to} it."), &[&command]))
}

/// What makes the lines that set a variable comments, for sed of GNU and of `BusyBox`; lines of other shells look otherwise and are left.
fn of_shells(name: &str) -> String {
    format!("/^[[:space:]]*\\(export[[:space:]]\\+\\)\\?{name}=/s/^/# /")
}

fn unwanted(case: &Case<'_>, name: &str) -> Fix {
    let gone = Effect::one(Change::VariableGone(name.to_owned()));
    if let (Some(file), Some(Os::Linux)) = (case.seen.startup.filter(|file| file.starts_with("/etc/profile")), case.here.os) {
        let say =
            format!("Make the line of {file} that sets {name} for everyone a comment; the file as it was is kept beside it.");
        // What begins with a dot is not read from there.
        let command = format!("sed -i.old {} {file}", case.quoted(&of_shells(name)));
        return case.admin_step(say, &[&command]).then(Then::SignIn).with_effect(gone);
    }
    let own = case
        .seen
        .startup
        .filter(|file| file.starts_with("~/") && !["config.fish", ".cshrc", ".login"].iter().any(|other| file.ends_with(other)));
    if let (Some(file), Some(Os::Linux)) = (own, case.here.os) {
        return Fix::say(format!(
            "Make the line of {file} that sets {name} a comment; the file as it was is kept beside it, with .old behind its name."
        ))
        .run(vec![format!("sed -i.old {} {file}", case.quoted(&of_shells(name)))])
        .then(Then::NewShell)
        .with_effect(gone);
    }
    Fix::say(format!("Take {name} away in this terminal, and take its line out of the file that sets it."))
        .run(vec![case.here.shell.unset(name)])
}

pub(super) fn limit(case: &Case<'_>, reason: LimitReason) -> Option<Fix> {
    let Subject::Limit(limit) = &case.requirement.subject else { return None };
    let (needed, own) = match reason {
        LimitReason::Low { needed, own, .. } => (needed, own),
        LimitReason::Lacks => return Some(lacking(case, limit.kind)),
    };
    let linux = case.here.os == Some(Os::Linux);
    if let (Some(file), LimitKind::OpenFiles | LimitKind::Processes, true) = (case.seen.startup, limit.kind, case.unix()) {
        let letter = if limit.kind == LimitKind::Processes { 'u' } else { 'n' };
        let say = format!(
            "Make the line of {file} that lowers the limit (ulimit) a comment; the file as it was is kept beside it, with .old behind its name."
        );
        let pattern = case.quoted(&format!("/^[[:space:]]*ulimit[[:space:]].*-[HS]*{letter}/s/^/# /"));
        return Some(Fix::say(say).run(vec![format!("sed -i.old {pattern} {file}")]).then(Then::NewShell));
    }
    let raised = Effect::one(Change::Limit(limit.kind, needed));
    Some(match limit.kind {
        LimitKind::OpenFiles | LimitKind::Processes if own && case.unix() => {
            let letter = if limit.kind == LimitKind::Processes { 'u' } else { 'n' };
            let fix = Fix::say("Raise the limit for new terminals; you may do that yourself.");
            let line = match (case.here.shell, limit.kind) {
                (Shell::Csh, LimitKind::Processes) => format!("limit maxproc {needed}"),
                (Shell::Csh, _) => format!("limit descriptors {needed}"),
                _ => format!("ulimit -{letter} {needed}"),
            };
            case.in_startup_file(fix, line).with_effect(raised)
        }
        LimitKind::OpenFiles | LimitKind::Processes if linux => {
            let item = if limit.kind == LimitKind::Processes { "nproc" } else { "nofile" };
            let line = case.quoted(&format!("{} - {item} {needed}", case.here.user().unwrap_or("*")));
            let tee = case.here.as_admin("tee -a /etc/security/limits.d/zz-project.conf");
            case.admin_step("Raise the limit for your sessions.", &[])
                .run(vec![format!("echo {line} | {tee}")])
                .then(Then::SignIn)
                .with_effect(raised)
        }
        LimitKind::FileWatches if linux => {
            // Files are read in the order of their names, and the last one counts.
            let file = "/etc/sysctl.d/zz-file-watches.conf";
            let tee = case.here.as_admin(&format!("tee {file}"));
            let mut fix =
                case.admin_step("Let programs watch more files, now and after the next start.", &[&format!("sysctl -p {file}")]);
            fix.run.insert(0, format!("echo fs.inotify.max_user_watches={needed} | {tee}"));
            fix.with_effect(raised)
        }
        LimitKind::PathLength | LimitKind::SymbolicLinks => lacking(case, limit.kind),
        LimitKind::OpenFiles | LimitKind::Processes | LimitKind::FileWatches => {
            Fix::say("Ask whoever looks after this machine to raise the limit.")
        }
    })
}

fn lacking(case: &Case<'_>, kind: LimitKind) -> Fix {
    let windows = case.here.os == Some(Os::Windows);
    match kind {
        LimitKind::PathLength if windows => {
            let command = "reg add HKLM\\SYSTEM\\CurrentControlSet\\Control\\FileSystem /v LongPathsEnabled /t REG_DWORD /d 1 /f";
            case.admin_step("Let Windows use long paths.", &[command]).then(Then::Restart)
        }
        LimitKind::SymbolicLinks if windows => {
            let mut fix = Fix::say(
                "Switch on developer mode (Settings, System, For developers): with it every user may make symbolic links.",
            );
            fix.warn("Developer mode also lets Windows install programs that nobody has signed.");
            fix
        }
        LimitKind::SymbolicLinks => {
            Fix::say("Move the project to a disk whose filesystem has symbolic links; those of memory sticks often have none.")
        }
        LimitKind::PathLength => Fix::say("Move the project to a folder with a shorter path."),
        LimitKind::OpenFiles | LimitKind::Processes | LimitKind::FileWatches => {
            Fix::say("Ask whoever looks after this machine to raise the limit.")
        }
    }
}

pub(super) fn library(case: &Case<'_>, reason: &LibraryReason) -> Option<Fix> {
    let Subject::Library(library) = &case.requirement.subject else { return None };
    let range = library.version.as_ref();
    if let Some(other) = &reason.other
        && let Some((folder, _)) = other.at.rsplit_once('/')
    {
        let say = format!("Let builds find the description of {} in {folder} first, by PKG_CONFIG_PATH.", case.title());
        let line = case.here.shell.prepend_to("PKG_CONFIG_PATH", folder);
        let (at, version) = (other.at.clone(), other.version.clone());
        let found = Effect::one(Change::Library { name: library.name.clone(), at, version });
        return Some(case.in_startup_file(Fix::say(say), line).with_effect(found));
    }
    Some(match &reason.trouble {
        // Where packages were named and none does, that is what there is to say.
        LibraryTrouble::NoHeaders { .. } if case.refused.is_empty() => Fix::say(format!(
            "Install what is needed to build against {}: in most systems a package of its own, whose name ends in -dev or -devel.",
            case.title()
        )),
        LibraryTrouble::OutOfRange { miss, .. } if miss.fit != Fit::TooOld => Fix::say(format!(
            "Install another release of {}{} beside this one, and name its pkgconfig folder in PKG_CONFIG_PATH.",
            case.title(),
            in_a_version(range)
        )),
        LibraryTrouble::Lacks { other } => Fix::say(format!(
            "Install what is needed to build against {other}: in most systems a package whose name ends in -dev or -devel."
        )),
        LibraryTrouble::Incomparable { .. } => return None,
        LibraryTrouble::Missing | LibraryTrouble::NoHeaders { .. } | LibraryTrouble::OutOfRange { .. } => case.install(range),
    })
}

/// Locales are made from a list (locale-gen(8) of Debian and those like it) or by name (localedef(1)).
pub(super) fn locale(case: &Case<'_>, reason: &LocaleReason) -> Option<Fix> {
    let Subject::Locale(locale) = &case.requirement.subject else { return None };
    let name = &locale.name;
    let wanted = match reason {
        LocaleReason::Missing { .. } => name.clone(),
        LocaleReason::OtherEncoding { .. } => format!("{}.UTF-8", name.split(['.', '@']).next().unwrap_or(name)),
    };
    if case.here.os != Some(Os::Linux) {
        return Some(Fix::say(format!("Add the language and region of {wanted} in the system's settings.")));
    }
    let plain = wanted.split('@').next().unwrap_or(&wanted);
    let (language, encoding) = plain.split_once('.').unwrap_or((plain, "UTF-8"));
    let command = format!("localedef -i {} -f {} {}", case.quoted(language), case.quoted(encoding), case.quoted(&wanted));
    // A name stands for one encoding: what is made has another one.
    if let LocaleReason::OtherEncoding { .. } = reason {
        let say = format!("Make the locale {wanted}, and tell the guide's maintainer that {name} is another one.");
        return Some(case.admin_step(say, &[&command]));
    }
    let made = Effect::one(Change::Locale(wanted.clone()));
    Some(case.admin_step(format!("Make the locale {wanted}."), &[&command]).with_effect(made))
}

/// The ways to a setting, the best first.
pub(super) fn setting(case: &Case<'_>, reason: SettingReason) -> Vec<Fix> {
    let Subject::Setting(setting) = &case.requirement.subject else { return Vec::new() };
    let key = case.quoted(&setting.key);
    let say = match reason {
        SettingReason::Unset => format!("Give git your {}: put it in the place of {YOURS}.", setting.key),
        SettingReason::Shape => format!("Give git another {}: put it in the place of {YOURS}.", setting.key),
    };
    let mut ways = vec![Fix::say(say).run(vec![format!("git config --global {key} {YOURS}")])];
    if reason == SettingReason::Shape {
        let say = format!("Give git another {} for this repository alone, whose own settings go before yours.", setting.key);
        ways.push(Fix::say(say).run(vec![format!("git config {key} {YOURS}")]));
    }
    ways
}

/// The ways to a working copy, the best first.
pub(super) fn checkouts(case: &Case<'_>, reason: &CheckoutReason) -> Vec<Fix> {
    let mut ways: Vec<Fix> = checkout(case, reason).into_iter().collect();
    if let (CheckoutReason::Submodules { .. }, Subject::Checkout(wanted)) = (reason, &case.requirement.subject) {
        let git = git_in(case, &wanted.path);
        let say = "Take over the addresses that the project has for these parts now, and fetch them.";
        let commands = ["submodule sync --recursive", "submodule update --init --recursive"];
        ways.push(Fix::say(say).run(commands.iter().map(|command| format!("{git} {command}")).collect()));
    }
    ways
}

fn git_in(case: &Case<'_>, path: &str) -> String {
    if path == "." { "git".to_owned() } else { format!("git -C {}", case.quoted(path)) }
}

/// Files with the line ends that the project has.
fn own_line_ends(git: &str) -> Fix {
    let commands = ["config core.autocrlf input", "rm --cached -r -q .", "reset --hard"];
    let say = "Have git leave line ends as the project has them, and get the files once more.";
    let mut fix = Fix::say(say).run(commands.iter().map(|command| format!("{git} {command}")).collect());
    fix.warn("The last line throws away what is not committed: commit or stash it first.");
    fix
}

fn checkout(case: &Case<'_>, reason: &CheckoutReason) -> Option<Fix> {
    let Subject::Checkout(checkout) = &case.requirement.subject else { return None };
    let git = git_in(case, &checkout.path);
    let run =
        |say: &str, commands: &[&str]| Fix::say(say).run(commands.iter().map(|command| format!("{git} {command}")).collect());
    let comes = |to: CheckoutChange| Effect::one(Change::Checkout(checkout.path.clone(), to));
    Some(match reason {
        CheckoutReason::NoWorkingCopy => {
            Fix::say("Get the project with `git clone` instead of as an archive; its page says from where.")
        }
        CheckoutReason::Unfinished { what: Unfinished::Locked(lock) } => {
            let mut fix =
                Fix::say("Make sure that no git is running here any more, and take away the lock that one has left behind.").run(
                    vec![if case.unix() { format!("rm {}", case.quoted(lock)) } else { format!("del {}", case.quoted(lock)) }],
                );
            fix.warn("While a git is running, its lock keeps the working copy whole.");
            fix.with_effect(comes(CheckoutChange::Unlocked))
        }
        CheckoutReason::Unfinished { what } => {
            let verb = what.verb();
            Fix::say(format!(
                "Finish the {verb} (solve what `git status` lists, `git add` it, then `git {verb} --continue`), or give it up with \
                 `git {verb} --abort`."
            ))
        }
        CheckoutReason::Foreign { folder, .. } => {
            let say = "Make the working copy yours: git does not work in one of another user's.";
            match case.here.user() {
                Some(user) if case.unix() => {
                    let mut fix = case.admin_step(say, &[&format!("chown -R {} {}", case.quoted(user), case.quoted(folder))]);
                    fix.warn("If that other user works in it too, get a copy of your own instead.");
                    fix.with_effect(comes(CheckoutChange::Mine))
                }
                _ => Fix::say(say),
            }
        }
        CheckoutReason::SubmodulesMoved { .. } => {
            let say = "Bring these parts back to the commits that the project records.";
            let mut fix = run(say, &["submodule update --init --recursive"]);
            fix.caution = Some("What you have committed in them yourself stays on its branch there.".to_owned());
            fix.with_effect(comes(CheckoutChange::Parts))
        }
        CheckoutReason::SubmodulesEmptied { emptied } => {
            let commands = emptied.iter().map(|path| format!("git -C {} restore .", case.quoted(path))).collect();
            Fix::say("Bring back the files of these parts.").run(commands).with_effect(comes(CheckoutChange::Parts))
        }
        CheckoutReason::Submodules { .. } => {
            run("Fetch the parts that come from other repositories.", &["submodule update --init --recursive"])
        }
        CheckoutReason::LargeFiles { .. } => {
            run("Fetch the large files (this needs the program git-lfs).", &["lfs install", "lfs pull"])
        }
        CheckoutReason::Shallow => {
            run("Fetch the rest of the history.", &["fetch --unshallow --tags"]).with_effect(comes(CheckoutChange::Whole))
        }
        CheckoutReason::NoTags => run("Fetch the tags.", &["fetch --tags"]).with_effect(comes(CheckoutChange::Whole)),
        CheckoutReason::WindowsEnds { .. } => own_line_ends(&git),
        CheckoutReason::Branch { .. } => {
            let wanted = checkout.branch.as_ref()?;
            let branch = case.quoted(wanted);
            let there = comes(CheckoutChange::Branch(wanted.clone()));
            if case.seen.dirty {
                let say = "Put aside what is not committed, and go to the branch that is wanted.";
                let mut fix = run(say, &["stash", &format!("switch {branch}")]);
                fix.caution = Some("`git stash pop` on the branch where you were brings it back.".to_owned());
                return Some(fix.with_effect(comes(CheckoutChange::PutAside).and(there)));
            }
            run("Go to the branch that is wanted.", &[&format!("switch {branch}")]).with_effect(there)
        }
        CheckoutReason::Dirty { changed, untracked } if changed > untracked => {
            let mut fix = run("Commit your changes, or put them aside.", &["stash"]);
            fix.caution = Some("This puts aside changes to files that git tracks; `git stash pop` brings them back.".to_owned());
            fix.with_effect(comes(CheckoutChange::PutAside))
        }
        // The guide itself or somebody's settings may be among new files, so no command moves them.
        CheckoutReason::Dirty { .. } => Fix::say(
            "Git does not track some new files; `git status` lists them. Commit those that belong to the project, and move the others to \
             another folder or name them in .git/info/exclude.",
        ),
        CheckoutReason::ChangesUnknown | CheckoutReason::EndsUnknown => return None,
    })
}

pub(super) fn command(case: &Case<'_>, reason: &CommandReason) -> Option<Fix> {
    let Subject::Command(command) = &case.requirement.subject else { return None };
    match reason {
        CommandReason::NotFound => Some(Fix::say(format!("Install {}, then check again.", command.words.first()?))),
        CommandReason::NotStarted { .. }
        | CommandReason::TimeUp { .. }
        | CommandReason::Crashed { .. }
        | CommandReason::Status { .. }
        | CommandReason::Output { .. } => {
            let words: Vec<String> = command.words.iter().map(|word| case.quoted(word)).collect();
            Some(Fix::say("Run it yourself in the project's folder, and do what its message says.").run(vec![words.join(" ")]))
        }
        CommandReason::NoConsent | CommandReason::NothingStarts { .. } | CommandReason::Interrupted => None,
    }
}
