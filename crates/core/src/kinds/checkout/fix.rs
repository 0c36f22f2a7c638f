//! What settles it.

use crate::finding::{CheckoutReason, Reason};
use crate::fix::Fix;
use crate::fix::case::{Case, Seen};
use crate::fix::effect::{Change, CheckoutChange, Effect};
use crate::fix::fills::Fills;
use crate::fix::kind::{ReasonFixes, SubjectFixes};
use crate::guide::{Checkout, Requirement, Subject};
use crate::inquiry::{Inquiry, Stop, if_known};
use crate::observation::Unfinished;
use crate::prelude::*;

/// The ways to a working copy, the best first.
pub(crate) fn fixes(case: &Case<'_>, reason: &CheckoutReason) -> Vec<Fix> {
    let mut ways: Vec<Fix> = fix(case, reason).into_iter().collect();
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

fn fix(case: &Case<'_>, reason: &CheckoutReason) -> Option<Fix> {
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

impl ReasonFixes for CheckoutReason {
    fn fixes(&self, case: &Case<'_>) -> Vec<Fix> {
        fixes(case, self)
    }

    fn fills(&self, requirement: &Requirement) -> Fills {
        let found = if let Self::Branch { branch } = self { branch.clone() } else { None };
        let path = if let Subject::Checkout(checkout) = &requirement.subject { Some(checkout.path.clone()) } else { None };
        Fills { found, path, ..Fills::default() }
    }
}

/// What matters for choosing a fix, beside the reason.
pub(crate) fn see<'a>(inquiry: &mut Inquiry<'a>, wanted: &Checkout, seen: &mut Seen<'a>) -> Result<(), Stop> {
    let state = if_known(inquiry.checkout(wanted))?;
    seen.dirty = state.is_some_and(|state| state.changed.is_some_and(|count| count > state.untracked));
    Ok(())
}

impl SubjectFixes for Checkout {
    fn see<'a>(&self, inquiry: &mut Inquiry<'a>, _: (&Requirement, &Reason), seen: &mut Seen<'a>) -> Result<(), Stop> {
        see(inquiry, self, seen)
    }
}
