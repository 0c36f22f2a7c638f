//! Assessing a requirement: a pure function from what is known to a finding, or to the next questions.

mod any_of;
mod checkout;
mod command;
mod cores;
mod disk;
mod group;
mod library;
mod limit;
mod memory;
mod name;
mod path;
mod port;
mod reach;
mod service;
mod socket;
mod system;
mod system_service;
mod tool;
mod variable;
mod virtualization;

pub use disk::DiskLedger;
pub use reach::OFFLINE;
pub(crate) use tool::is_version_argument;

use crate::cause::Cause;
use crate::condition::Truth;
use crate::document::shortened_to;
use crate::finding::{Finding, Verdict};
use crate::fix::{Fix, cheapest_first, suggest};
use crate::guide::{Existence, Requirement, Subject};
use crate::inquiry::{Context, Inquiry, Stop};
use crate::prelude::*;
use crate::probe::Probe;
use crate::text::join_words;

/// What came of an assessment.
#[derive(Debug)]
pub enum Step {
    /// A finding, with the fixes that fit this machine.
    Settled(Settlement),
    /// These must be answered first.
    Ask {
        /// Questions to the machine.
        probes: Vec<Probe>,
        /// Requirements whose findings are needed.
        findings: Vec<usize>,
    },
}

/// A finding with its fixes.
#[derive(Debug, Clone)]
pub struct Settlement {
    /// The finding.
    pub finding: Arc<Finding>,
    /// What would settle it here, the first being the best.
    pub fixes: Vec<Fix>,
}

/// Stands for the disk ledger where requirements are waited for.
pub const DISK_LEDGER: usize = usize::MAX;

/// Adds up what all disk requirements need, or says what must be known first.
///
/// # Errors
/// The probes that must be answered first.
pub fn sum_disks(context: Context<'_>) -> Result<DiskLedger, Vec<Probe>> {
    let mut inquiry = Inquiry::new(context);
    disk::sum(&mut inquiry).map_err(|_| inquiry.into_open().0)
}

/// Assesses one requirement against what is known.
pub fn assess(context: Context<'_>, index: usize) -> Step {
    let mut inquiry = Inquiry::new(context);
    let Some(requirement) = context.guide.requirements.get(index) else {
        let finding = Arc::new(Finding::skipped("there is no such requirement"));
        return Step::Settled(Settlement { finding, fixes: Vec::new() });
    };
    if let Some(settlement) = settle(&mut inquiry, requirement) {
        return Step::Settled(settlement);
    }
    let (probes, findings) = inquiry.into_open();
    Step::Ask { probes, findings }
}

/// `None` where answers are still to come.
fn settle(inquiry: &mut Inquiry<'_>, requirement: &Requirement) -> Option<Settlement> {
    let mut finding = find_with_evidence(inquiry, requirement)?;
    if finding.cause == Some(Cause::NoneOf) {
        match cheapest_first(inquiry, &finding.alternatives) {
            Ok(ordered) => finding.alternatives = ordered.into_iter().map(|(index, _)| index).collect(),
            Err(Stop::Pending) => return None,
            Err(Stop::NoAnswer(..)) => {}
        }
    }
    let fixes = match suggest(inquiry, requirement, &finding) {
        Ok(fixes) => fixes,
        Err(Stop::Pending) => return None,
        Err(Stop::NoAnswer(..)) => Vec::new(),
    };
    Some(Settlement { finding: Arc::new(finding), fixes })
}

/// The finding by itself, with its evidence; `None` where answers are still to come.
pub(crate) fn find_with_evidence(inquiry: &mut Inquiry<'_>, requirement: &Requirement) -> Option<Finding> {
    let mut finding = match find(inquiry, requirement) {
        Ok(finding) => finding,
        Err(Stop::Pending) => return None,
        Err(Stop::NoAnswer(cause, reason)) => no_answer(requirement, cause, &reason),
    };
    if finding.verdict != Verdict::Skipped {
        finding.wanted = finding.wanted.or_else(|| Some(wanted(&requirement.subject)));
    }
    finding.evidence = inquiry.take_cited();
    Some(finding)
}

fn find(inquiry: &mut Inquiry<'_>, requirement: &Requirement) -> Result<Finding, Stop> {
    if let Some(finding) = inapplicable(inquiry, requirement)? {
        return Ok(finding);
    }
    if let Some(finding) = blocked(inquiry, requirement)? {
        return Ok(finding);
    }
    match &requirement.subject {
        Subject::Tool(tool) => tool::find(inquiry, requirement, tool),
        Subject::Port(port) => port::find(inquiry, port),
        Subject::Disk(disk) => disk::find(inquiry, requirement, disk),
        Subject::Memory(memory) => memory::find(inquiry, memory),
        Subject::Cores(cores) => cores::find(inquiry, *cores),
        Subject::Virtualization(need) => virtualization::find(inquiry, *need),
        Subject::System(need) => system::find(inquiry, need),
        Subject::Path(path) => path::find(inquiry, path),
        Subject::Variable(variable) => variable::find(inquiry, variable),
        Subject::Group(group) => group::find(inquiry, group),
        Subject::Socket(socket) => socket::socket(inquiry, socket),
        Subject::Device(device) => socket::device(inquiry, device),
        Subject::Service(service) => service::find(inquiry, service),
        Subject::Reach(reach) => reach::find(inquiry, requirement, reach),
        Subject::Hostname(hostname) => name::hostname(inquiry, hostname),
        Subject::Subnet(subnet) => name::subnet(inquiry, subnet),
        Subject::Limit(limit) => limit::find(inquiry, limit),
        Subject::Library(library) => library::find(inquiry, library),
        Subject::Setting(setting) => checkout::setting(inquiry, setting),
        Subject::Checkout(wanted) => checkout::checkout(inquiry, wanted),
        Subject::Command(command) => command::find(inquiry, command),
        Subject::AnyOf(any_of) => any_of::find(inquiry, any_of),
    }
}

/// The finding of a requirement that does not apply here, or whose condition cannot be decided.
fn inapplicable(inquiry: &mut Inquiry<'_>, requirement: &Requirement) -> Result<Option<Finding>, Stop> {
    let (guide, selection) = (inquiry.context.guide, inquiry.context.selection);
    if !requirement.concerns(selection.role) {
        let roles: Vec<&str> =
            requirement.roles.iter().filter_map(|role| guide.roles.get(*role)).map(|role| role.id.as_str()).collect();
        return Ok(Some(Finding::skipped(format!("Only for the role {}.", join_words(&roles, "or")))));
    }
    let stage = guide.stages.get(requirement.stage);
    if stage.is_some_and(|stage| stage.after_start) && !selection.after_start {
        return Ok(Some(Finding::skipped("Checked only once the project is running, with --after-start.")));
    }
    for condition in stage.and_then(|stage| stage.when.as_ref()).into_iter().chain(&requirement.when) {
        match condition.evaluate(inquiry)? {
            Truth::True => {}
            Truth::False => return Ok(Some(Finding::skipped("The guide asks for it on other machines only."))),
            Truth::Unknown => {
                let message = "Whether this applies here depends on something that could not be found out about this machine.";
                return Ok(Some(Finding::unknown(Cause::ConditionUnknown, message)));
            }
        }
    }
    Ok(None)
}

fn blocked(inquiry: &mut Inquiry<'_>, requirement: &Requirement) -> Result<Option<Finding>, Stop> {
    let mut open = Vec::new();
    for index in &requirement.after {
        if !inquiry.finding(*index)?.verdict.is_fine() {
            open.push(*index);
        }
    }
    for index in &requirement.needs {
        // Whatever else is wrong with that program, it can be started and asked.
        if inquiry.finding(*index)?.cause.is_some_and(Cause::keeps_from_starting) {
            open.push(*index);
        }
    }
    if open.is_empty() {
        return Ok(None);
    }
    let titles: Vec<String> =
        open.iter().filter_map(|index| inquiry.context.guide.requirements.get(*index)).map(Requirement::title).collect();
    Ok(Some(Finding::blocked(open, format!("Not checked yet: it needs {} first.", join_words(&titles, "and")))))
}

/// A reason of the system's is a sentence; what is longer is no reason.
const LONGEST_REASON: usize = 240;

fn no_answer(requirement: &Requirement, cause: Cause, reason: &str) -> Finding {
    let title = requirement.title();
    let message = if cause == Cause::NotSupportedHere {
        format!("{title} cannot be checked on this system: {reason}.")
    } else {
        format!("Whether {title} is as needed could not be found out: {}.", shortened_to(reason, LONGEST_REASON))
    };
    Finding::unknown(cause, message)
}

fn path_wanted(path: &crate::guide::Path) -> String {
    if path.expect == Existence::Absent {
        return "absent".to_owned();
    }
    let mode = path.mode.map(|mode| format!("mode {mode:o}"));
    let words = [
        path.mine.then(|| "yours".to_owned()),
        mode,
        path.writable.then(|| "writable".to_owned()),
        path.executable.then(|| "executable".to_owned()),
        path.contains.is_some().then(|| "with the right text".to_owned()),
    ];
    let words: Vec<String> = words.into_iter().flatten().collect();
    if words.is_empty() { "there".to_owned() } else { join_words(&words, "and") }
}

#[allow(clippy::too_many_lines, reason = "one row per kind, so that none can be forgotten")]
/// What a subject asks for, in a few words, to stand beside what was found.
pub fn wanted(subject: &Subject) -> String {
    match subject {
        Subject::Tool(tool) => match (&tool.version, tool.expect) {
            (_, Existence::Absent) => "absent".to_owned(),
            (Some(range), _) => range.text().to_owned(),
            (None, _) => tool.version_from.as_ref().map_or_else(|| "any version".to_owned(), |file| format!("what {file} says")),
        },
        Subject::Port(_) => "free".to_owned(),
        Subject::Disk(disk) => format!("{} free", disk.size),
        Subject::Memory(memory) if memory.free => format!("{} free now", memory.size),
        Subject::Memory(memory) => memory.size.to_string(),
        Subject::Cores(cores) => cores.to_string(),
        Subject::Virtualization(crate::guide::Virtualization::Usable) => "usable by you now".to_owned(),
        Subject::Virtualization(crate::guide::Virtualization::Present) => "a processor that has it".to_owned(),
        Subject::System(need) => system::wanted(need),
        Subject::Path(path) => path_wanted(path),
        Subject::Variable(variable) => match (variable.expect, &variable.matches) {
            (Existence::Absent, _) => "not set".to_owned(),
            (Existence::Present, None) => "set".to_owned(),
            (Existence::Present, Some(_)) => "set, in the right form".to_owned(),
        },
        Subject::Group(_) => "in force".to_owned(),
        Subject::Socket(_) => "answers".to_owned(),
        Subject::Device(_) => "may be opened by you".to_owned(),
        Subject::Service(service) => match (service.status, &service.http) {
            (Some(status), _) => format!("status {status}"),
            (None, Some(_)) => "answers by HTTP".to_owned(),
            (None, None) => "takes connections".to_owned(),
        },
        Subject::Reach(reach) => reach.status.map_or_else(|| "can be reached".to_owned(), |status| format!("status {status}")),
        Subject::Hostname(hostname) => hostname.points_to.clone().unwrap_or_else(|| "known".to_owned()),
        Subject::Subnet(_) => "in no use".to_owned(),
        Subject::Limit(limit) => limit.at_least.map_or_else(|| "allowed".to_owned(), |least| format!("{least} or more")),
        Subject::Library(library) => {
            library.version.as_ref().map_or_else(|| "any version".to_owned(), |range| range.text().to_owned())
        }
        Subject::Setting(setting) => if setting.matches.is_some() { "set, in the right form" } else { "set" }.to_owned(),
        Subject::Checkout(wanted) => checkout::wanted(wanted),
        Subject::Command(command) => match (command.exit, &command.matches) {
            (0, None) => "ends well".to_owned(),
            (0, Some(_)) => "ends well, and prints what is expected".to_owned(),
            (status, _) => format!("exit status {status}"),
        },
        Subject::AnyOf(any_of) => format!("one of {}", any_of.alternatives.len()),
    }
}

#[cfg(test)]
mod tests;
