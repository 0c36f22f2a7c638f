//! What settles it.

use crate::finding::{PortReason, PortTrouble, Reason};
use crate::fix::case::{Case, Seen};
use crate::fix::effect::{Change, Effect};
use crate::fix::fills::Fills;
use crate::fix::kind::{ReasonFixes, SubjectFixes};
use crate::fix::{Fix, Shell};
use crate::guide::{Edit, Port, Requirement, SetBy, Subject};
use crate::inquiry::{Inquiry, Stop, if_known};
use crate::observation::{FileType, Holder, Os, Value};
use crate::prelude::*;

/// The ways to a port, the best first.
pub(crate) fn fixes(case: &Case<'_>, reason: &PortReason) -> Vec<Fix> {
    let mut ways: Vec<Fix> = fix(case, reason).into_iter().collect();
    let PortReason::At { place: _, trouble: PortTrouble::Held { holder, .. }, free_port } = reason else { return ways };
    if let (Some(set_by), Some(free)) = (set_by(case), *free_port) {
        // A file that is not read, or that one may not write, leaves the variable.
        ways.extend(for_terminals(case, set_by, free));
    } else if let Some(pid) = holder.as_ref().and_then(|holder| holder.pid).filter(|_| case.unix())
        && ways.first().is_some_and(|way| !way.run.is_empty() && !way.admin)
    {
        // A process that is suspended, or deaf to being asked, ends by this alone (signal(7)).
        let say = format!("End process {pid}, which does not end when it is asked: it may be suspended, or deaf to that.");
        let mut way = Fix::say(say).run(vec![format!("kill -KILL {pid}")]);
        way.warn("Whatever it was doing is lost, and it cannot clean up.");
        ways.push(way);
    }
    ways
}

fn fix(case: &Case<'_>, reason: &PortReason) -> Option<Fix> {
    let (place, trouble, free) = match reason {
        PortReason::NotAPort { set_at, .. } => {
            return Some(Fix::say(format!(
                "Correct {}, in {}: it must be a number from 1 to 65535.",
                set_at.variable, set_at.place
            )));
        }
        PortReason::At { place, trouble, free_port } => (place, trouble, *free_port),
    };
    Some(match trouble {
        PortTrouble::Held { holder, .. } => match (set_by(case), free) {
            (Some(set_by), Some(free)) => move_to(case, set_by, free),
            _ => stop_holder(case, holder.as_ref(), place.port),
        },
        PortTrouble::Privileged { .. } if set_by(case).is_none() && case.here.os == Some(Os::Linux) => {
            lower_limit(case, place.port)
        }
        PortTrouble::Privileged { .. } | PortTrouble::Reserved | PortTrouble::Denied => another_port(case, free),
        PortTrouble::NoAddress => Fix::say("Correct the address in the project's settings, or connect the network that has it."),
        PortTrouble::HolderHidden { .. } => return None,
    })
}

fn set_by<'a>(case: &Case<'a>) -> Option<&'a SetBy> {
    if let Subject::Port(port) = &case.requirement.subject { port.set_by.as_ref() } else { None }
}

fn stop_holder(case: &Case<'_>, holder: Option<&Holder>, port: u16) -> Fix {
    if holder.is_some_and(|holder| holder.outgoing.is_some()) {
        return Fix::say("Wait until that connection has ended, then check again.");
    }
    if let Some(unit) = holder.and_then(|holder| holder.unit.as_deref()).filter(|_| case.here.os == Some(Os::Linux)) {
        return stop_unit(case, unit);
    }
    let Some(holder) = holder.filter(|holder| holder.is_told()) else {
        let say = "Find out which program it is, and ask its owner to stop it.";
        return if case.here.os == Some(Os::Linux) {
            case.admin_step(say, &[&format!("ss -lntup sport = :{port}")])
        } else {
            Fix::say(say)
        };
    };
    let mut fix = Fix::say(format!("Stop {holder}, in the way it was started if you can."));
    // Only a process whose number is known, and never Windows itself, which has the lowest ones.
    let windows = case.here.os == Some(Os::Windows);
    let command = |pid: u32| match case.here.shell {
        Shell::PowerShell => Some(format!("Stop-Process -Id {pid}")),
        Shell::Cmd => Some(format!("taskkill /f /pid {pid}")),
        // There such a shell has numbers of its own.
        Shell::Posix | Shell::Fish | Shell::Csh if windows => None,
        Shell::Posix | Shell::Fish | Shell::Csh => Some(format!("kill {pid}")),
    };
    let pid = holder.pid.filter(|pid| case.here.os.is_some() && !(windows && *pid <= 4));
    if let Some(command) = pid.and_then(command) {
        fix.run = vec![command];
        fix.caution = Some("Whatever it was doing is lost: look at what it is before you stop it.".to_owned());
    }
    fix
}

/// A program that the system's service manager starts would be started again; a socket of its starts one as soon as somebody asks (systemd.socket(5)).
fn stop_unit(case: &Case<'_>, unit: &str) -> Fix {
    let say = format!("Stop {unit}, which has the port, until the next restart of the machine.");
    let mut fix = case.admin_step(say, &[&format!("systemctl stop {}", case.quoted(unit))]);
    fix.warn(&format!(
        "Whoever uses it goes without meanwhile: look at what it is (systemctl status {unit}). To have it back: systemctl start {unit}."
    ));
    fix
}

/// A lower limit of the ports that everyone may open (ip(7), `ip_unprivileged_port_start`).
fn lower_limit(case: &Case<'_>, number: u16) -> Fix {
    let command = format!("sysctl net.ipv4.ip_unprivileged_port_start={number}");
    let say = format!("Let programs of every user open ports from {number} on, until the next restart.");
    let mut fix = case.admin_step(say, &[&command]);
    fix.warn("Until then any program of any user can take the place of a service on one of these ports.");
    fix
}

/// Setting the project's port to one that is free.
fn another_port(case: &Case<'_>, free: Option<u16>) -> Fix {
    if let (Some(set_by), Some(free)) = (set_by(case), free) {
        return move_to(case, set_by, free);
    }
    let offer = free.map(|free| format!(" ({free} is free)")).unwrap_or_default();
    Fix::say(format!("Have the project use another port{offer}; the guide names no setting for it."))
}

/// For every new terminal; none where no variable sets it.
fn for_terminals(case: &Case<'_>, set_by: &SetBy, free: u16) -> Option<Fix> {
    let variable = set_by.variable.as_deref()?;
    let fix = Fix::say(format!("Have the project use port {free} instead, which is free, in every new terminal."));
    let moved = moved(set_by, free, "the environment");
    Some(case.in_startup_file(fix, case.here.shell.set_for_good(variable, &free.to_string())).with_effect(moved))
}

fn moved(set_by: &SetBy, free: u16, place: &str) -> Effect {
    Effect::one(Change::Number { variable: set_by.name().to_owned(), number: free.into(), place: place.to_owned() })
}

fn move_to(case: &Case<'_>, set_by: &SetBy, free: u16) -> Fix {
    // What the environment says goes before any file; and one that is not to be changed is not changed.
    if case.seen.closed
        && let Some(fix) = for_terminals(case, set_by, free)
    {
        return fix;
    }
    let mut fix = Fix::say(format!("Have the project use port {free} instead, which is free."));
    fix.effect = moved(set_by, free, set_by.files().next().unwrap_or("the environment"));
    match (&set_by.variable, &set_by.env_file, &set_by.entry) {
        (Some(name), Some(file), _) => fix.edit = Some(Edit::append(file.as_str(), format!("{name}={free}"))),
        (_, _, Some((file, key))) => fix.say = format!("{} Set {key} to {free} in {file}.", fix.say),
        (Some(name), None, None) => {
            fix.say = format!("In the terminal in which you build, have the project use port {free} instead, which is free.");
            fix.run = vec![case.here.shell.set(name, &free.to_string())];
        }
        (None, _, None) => {}
    }
    fix
}

impl ReasonFixes for PortReason {
    fn fixes(&self, case: &Case<'_>) -> Vec<Fix> {
        fixes(case, self)
    }

    fn fills(&self, _: &Requirement) -> Fills {
        match self {
            Self::NotAPort { set_at, .. } => Fills { path: Some(set_at.place.clone()), ..Fills::default() },
            Self::At { place, trouble, free_port } => {
                let holder = if let PortTrouble::Held { holder, .. } = trouble { holder.as_ref() } else { None };
                Fills {
                    port: Some(place.port),
                    free_port: *free_port,
                    holder: holder.filter(|holder| holder.is_told()).map(ToString::to_string),
                    ..Fills::default()
                }
            }
        }
    }
}

/// What matters for choosing a fix, beside the reason.
pub(crate) fn see<'a>(inquiry: &mut Inquiry<'a>, wanted: &Port, seen: &mut Seen<'a>) -> Result<(), Stop> {
    let Some(set_by) = &wanted.set_by else { return Ok(()) };
    if let Some(file) = set_by.files().next() {
        let state = if_known(inquiry.path(file, None))?;
        seen.closed = state.is_some_and(|state| state.nature == FileType::File && !state.writable);
    }
    if let Some(variable) = &set_by.variable {
        let state = if_known(inquiry.variable(variable, None, None))?;
        seen.closed |= state.is_some_and(|state| state.environment != Value::Unset);
    }
    Ok(())
}

impl SubjectFixes for Port {
    fn see<'a>(&self, inquiry: &mut Inquiry<'a>, _: (&Requirement, &Reason), seen: &mut Seen<'a>) -> Result<(), Stop> {
        see(inquiry, self, seen)
    }
}
