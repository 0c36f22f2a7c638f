//! What settles it.

use crate::finding::{NameReason, Reason};
use crate::fix::Fix;
use crate::fix::case::{Case, Seen};
use crate::fix::effect::{Change, Effect};
use crate::fix::fills::Fills;
use crate::fix::kind::{ReasonFixes, SubjectFixes};
use crate::guide::{Hostname, Requirement, Subject, Subnet};
use crate::inquiry::{Inquiry, Stop};
use crate::observation::Os;
use crate::prelude::*;
use crate::text::join_words;

pub(crate) fn fix(case: &Case<'_>, reason: &NameReason) -> Fix {
    let Subject::Hostname(host) = &case.requirement.subject else {
        return match reason {
            NameReason::SubnetTaken { free: Some(free), .. } if case.seen.moves.is_some() => {
                let say = format!("Have the project use {free} instead, which is in no use here.");
                case.moved(say, free)
            }
            NameReason::SubnetTaken { networks, .. } => {
                let taken = join_words(&networks.iter().map(ToString::to_string).collect::<Vec<_>>(), "and");
                Fix::say(format!(
                    "Leave the network that takes these addresses ({taken}) while you work on this project, or have the project use other \
                     ones."
                ))
            }
            NameReason::Unknown | NameReason::Elsewhere { .. } => unknown_name(case),
        };
    };
    let Some(address) = &host.points_to else {
        return Fix::say(format!("Look whether you are in the network that knows the name {}.", host.name));
    };
    let fix = in_hosts_file(case, host, address, matches!(reason, NameReason::Elsewhere { .. }));
    // A name's answer may come from elsewhere than from that file, but not as the first.
    match address.parse() {
        Ok(address) if !fix.run.is_empty() => fix.with_effect(Effect::one(Change::Name(host.name.clone(), address))),
        _ => fix,
    }
}

fn in_hosts_file(case: &Case<'_>, host: &Hostname, address: &str, correct: bool) -> Fix {
    let windows = case.here.os == Some(Os::Windows);
    let file = if windows { "C:\\Windows\\System32\\drivers\\etc\\hosts" } else { "/etc/hosts" };
    let line = format!("{address} {}", host.name);
    // With a line end before it, whatever the file ends with.
    let add = || {
        let text = case.quoted(&format!("\\n{line}\\n"));
        format!("printf {text} | {}", case.here.as_admin(&format!("tee -a {file}")))
    };
    if correct && case.here.os == Some(Os::Linux) {
        let say = format!(
            "Make the lines of {file} that name {} comments, and add the right one; the file as it was is kept as {file}.old.",
            host.name
        );
        let name = host.name.replace('.', "\\.");
        let pattern = case.quoted(&format!("/[[:space:]]{name}\\([[:space:]]\\|$\\)/s/^/# /"));
        let comment = case.here.as_admin(&format!("sed -i.old {pattern} {file}"));
        return case.admin_step(say, &[]).run(vec![comment, add()]);
    }
    if correct {
        let say = format!("Correct the line with {} in {file}, with admin rights, so that it reads: {line}", host.name);
        return case.admin_step(say, &[]);
    }
    let say = format!("Give this machine the name {}: add a line to {file}.", host.name);
    if windows {
        return case.admin_step(say, &[&case.here.shell.append(&line, file)]);
    }
    case.admin_step(say, &[]).run(vec![add()])
}

pub(crate) fn unknown_name(case: &Case<'_>) -> Fix {
    let _ = case;
    Fix::say("Look whether the name is written rightly, and whether you are in the network that knows it.")
}

impl ReasonFixes for NameReason {
    fn fixes(&self, case: &Case<'_>) -> Vec<Fix> {
        vec![fix(case, self)]
    }

    fn fills(&self, _: &Requirement) -> Fills {
        let found = match self {
            Self::Elsewhere { addresses } => {
                Some(join_words(&addresses.iter().map(ToString::to_string).collect::<Vec<_>>(), "and"))
            }
            Self::SubnetTaken { networks, .. } => {
                Some(join_words(&networks.iter().map(ToString::to_string).collect::<Vec<_>>(), "and"))
            }
            Self::Unknown => None,
        };
        Fills { found, ..Fills::default() }
    }
}

/// What matters for choosing a fix, beside the reason.
pub(crate) fn see<'a>(inquiry: &Inquiry<'a>, requirement: &Requirement, seen: &mut Seen<'a>) {
    let guide = inquiry.context.guide;
    seen.moves = requirement.values.first().and_then(|index| guide.values.get(*index)).map(|value| &value.set_by);
}

impl SubjectFixes for Hostname {}

impl SubjectFixes for Subnet {
    fn see<'a>(
        &self,
        inquiry: &mut Inquiry<'a>,
        (requirement, _): (&Requirement, &Reason),
        seen: &mut Seen<'a>,
    ) -> Result<(), Stop> {
        see(inquiry, requirement, seen);
        Ok(())
    }
}
