//! What settles it.

use crate::finding::{LimitReason, Reason};
use crate::fix::case::{Case, Seen};
use crate::fix::effect::{Change, Effect};
use crate::fix::fills::Fills;
use crate::fix::kind::{ReasonFixes, SubjectFixes};
use crate::fix::{Fix, Shell};
use crate::guide::{Limit, LimitKind, Requirement, Subject, Then};
use crate::inquiry::{Inquiry, Stop, if_known};
use crate::observation::Os;
use crate::prelude::*;

pub(crate) fn fix(case: &Case<'_>, reason: LimitReason) -> Option<Fix> {
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

impl ReasonFixes for LimitReason {
    fn fixes(&self, case: &Case<'_>) -> Vec<Fix> {
        fix(case, *self).into_iter().collect()
    }

    fn fills(&self, _: &Requirement) -> Fills {
        let found = if let Self::Low { number, .. } = self { Some(number.to_string()) } else { None };
        Fills { found, ..Fills::default() }
    }
}

/// What matters for choosing a fix, beside the reason.
pub(crate) fn see<'a>(inquiry: &mut Inquiry<'a>, wanted: &Limit, seen: &mut Seen<'a>) -> Result<(), Stop> {
    let letter = match wanted.kind {
        LimitKind::OpenFiles => 'n',
        LimitKind::Processes => 'u',
        LimitKind::FileWatches | LimitKind::PathLength | LimitKind::SymbolicLinks => return Ok(()),
    };
    let file = if_known(inquiry.account())?.and_then(|account| account.startup_file.as_deref());
    if let Some(file) = file {
        let pattern = format!("(?m)^\\s*ulimit\\s+(-[HS]\\s*)*-[HS]*{letter}\\b");
        let holds = if_known(inquiry.path_searched(file, &pattern))?.and_then(|state| state.holds);
        seen.startup = (holds == Some(true)).then_some(file);
    }
    Ok(())
}

impl SubjectFixes for Limit {
    fn see<'a>(&self, inquiry: &mut Inquiry<'a>, (_, reason): (&Requirement, &Reason), seen: &mut Seen<'a>) -> Result<(), Stop> {
        if matches!(reason, Reason::Limit(_)) { see(inquiry, self, seen) } else { Ok(()) }
    }
}
