//! What settles it.

use crate::finding::{Place, Reason, VariableReason, VariableTrouble};
use crate::fix::case::{Case, Seen, sign_in};
use crate::fix::effect::{Change, Effect};
use crate::fix::fills::Fills;
use crate::fix::kind::{ReasonFixes, SubjectFixes};
use crate::fix::{Fix, Shell};
use crate::guide::{Edit, EnvironmentVariable, Requirement, Subject, Then};
use crate::inquiry::{Inquiry, Stop, if_known};
use crate::observation::{FileType, Os, StartupOutcome};
use crate::prelude::*;

/// Stands where only the person knows what to write.
pub(crate) const YOURS: &str = "YOUR-VALUE";

/// The ways to a variable, the best first; where a person must write their own value, that is noted.
pub(crate) fn fixes(case: &Case<'_>, reason: &VariableReason) -> Vec<Fix> {
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
                StartupOutcome::NewTerminal => {
                    Fix::say("Nothing has to be changed any more: open a new terminal.").then(Then::NewShell)
                }
                StartupOutcome::SignIn => sign_in(),
                StartupOutcome::NotExported => exported(shell, name, file),
                StartupOutcome::NotRead => return vec![in_terminals()],
                StartupOutcome::Left | StartupOutcome::Removed => match kept_by {
                    Some((other, line)) if *fate == StartupOutcome::Removed && case.unix() && other.starts_with("~/") => {
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
pub(crate) fn make_own(case: &Case<'_>, file: &str, to: &str) -> Option<Fix> {
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

impl ReasonFixes for VariableReason {
    fn fixes(&self, case: &Case<'_>) -> Vec<Fix> {
        fixes(case, self)
    }

    fn fills(&self, requirement: &Requirement) -> Fills {
        let path = if let Subject::Variable(variable) = &requirement.subject { variable.env_file.clone() } else { None };
        Fills { path, ..Fills::default() }
    }
}

/// What matters for choosing a fix, beside the reason.
pub(crate) fn see<'a>(inquiry: &mut Inquiry<'a>, wanted: &EnvironmentVariable, seen: &mut Seen<'a>) -> Result<(), Stop> {
    let state = if_known(inquiry.variable(&wanted.name, wanted.env_file.as_deref(), wanted.matches.as_ref()))?;
    seen.startup = state.and_then(|state| state.startup.as_deref());
    seen.startup_line = state.and_then(|state| state.startup_line);
    seen.line = state.and_then(|state| state.line);
    if let Some(file) = &wanted.env_file {
        let state = if_known(inquiry.path(file, None))?;
        seen.example = state.and_then(|state| state.example.as_deref());
        seen.closed = state.is_some_and(|state| state.nature == FileType::File && !state.writable);
    }
    Ok(())
}

impl SubjectFixes for EnvironmentVariable {
    fn see<'a>(&self, inquiry: &mut Inquiry<'a>, _: (&Requirement, &Reason), seen: &mut Seen<'a>) -> Result<(), Stop> {
        see(inquiry, self, seen)
    }
}
