//! What a report is about; in a file or a pipe, where it is read from the top, also how it came out.

use super::{TextLayout, Tone, closing};
use setup_ready_core::observation::Surroundings;
use setup_ready_core::report::{MachineSource, Report};
use setup_ready_core::text::join_words;

pub(super) fn draw(layout: &mut TextLayout<'_>, report: &Report) {
    let project = &report.guide.project;
    let role = report.role.and_then(|role| report.guide.roles.get(role));
    let whom = match role {
        Some(role) => format!(", for the role {}", role.id),
        None if report.guide.roles.is_empty() => String::new(),
        None => ", for every role".to_owned(),
    };
    layout.block(0, &format!("Is this machine ready for {}{whom}?", project.name), Tone::Strong);
    layout.block(0, &machine(report), Tone::Quiet);
    if !layout.look().terminal {
        layout.gap();
        closing::standing(layout, report);
    }
}

fn machine(report: &Report) -> String {
    let place = report.surroundings.as_ref().map(Surroundings::words).unwrap_or_default();
    let place = if place.is_empty() { String::new() } else { format!("; this is {}", join_words(&place, "and")) };
    let system = report.system.as_ref().map_or_else(|| "a system that could not be found out".to_owned(), ToString::to_string);
    let name = match (report.frame.source, &report.frame.machine_name) {
        (MachineSource::Live, _) | (_, None) => String::new(),
        (MachineSource::Described, Some(name)) => format!("{name} (described): "),
        (MachineSource::Recording, Some(name)) => format!("{name} (recorded): "),
    };
    format!("{name}{system}{place}")
}
