//! Which unit of the system's service manager has a port, where the program that has it belongs to somebody else. Whoever asks the kernel for its
//! sockets is told the control group of each, which the service manager names after the unit; a socket that it opened itself it lists.

use super::{Live, program};
use crate::read::{unit_of_group, unit_of_listed, unit_of_sockets};
use setup_ready_core::guide::Protocol;
use setup_ready_core::observation::{Holder, Observation, RunEnd};
use setup_ready_core::probe::PortPlace;
use std::fs::read_to_string;

/// What holds a port, with the unit that has it.
pub(super) fn with_unit(live: &Live, place: &PortPlace, seen: Observation) -> Observation {
    let Observation::PortHolder(Some(holder)) = seen else { return seen };
    let foreign = holder.user.is_some() && holder.outgoing.is_none();
    let unit = if foreign { unit(live, place, &holder) } else { None };
    Observation::PortHolder(Some(Holder { unit, ..holder }))
}

fn unit(live: &Live, place: &PortPlace, holder: &Holder) -> Option<String> {
    if let Some(pid) = holder.pid {
        return unit_of_group(read_to_string(format!("/proc/{pid}/cgroup")).ok()?.trim());
    }
    let kind = match place.protocol {
        Protocol::Tcp => "-t",
        Protocol::Udp => "-u",
    };
    let printed = |name: &str, words: &[&str]| {
        let run = program::asked(live, name, words.iter().copied()).ok()?;
        (run.end == RunEnd::Exit(0)).then_some(run.stdout)
    };
    let filter = format!("sport = :{}", place.port);
    let by_group = printed("ss", &["-l", "-n", "-H", kind, "--cgroup", &filter]).and_then(|text| unit_of_sockets(&text));
    by_group.or_else(|| {
        let text = printed("systemctl", &["list-sockets", "--no-legend", "--no-pager", "--plain"])?;
        unit_of_listed(&text, place.port)
    })
}
