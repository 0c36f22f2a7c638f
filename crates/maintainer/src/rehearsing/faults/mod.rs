//! What makes a machine show a cause: one thing is changed on a machine on which all is met. Every cause of the registry has its row here,
//! and the engine says whether it came about.

mod capacity;
mod network;
mod path;
mod project;
mod tool;

use super::machine_builder::MachineBuilder;
use super::satisfy::Wanted;
use setup_ready_core::cause::{About, Cause};
use setup_ready_core::guide::Subject;

/// Why a cause is not made.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum NotMade {
    /// This requirement cannot have it.
    NotHere,
    /// A description has no words for it.
    NoWords,
    /// It is the trouble of another requirement, or of what looks and not of the machine.
    NotOfTheMachine,
}

/// Changes the machine so that the requirement has that cause.
pub(super) fn make(sketch: &mut MachineBuilder, wanted: Wanted<'_>, cause: Cause) -> Result<(), NotMade> {
    match cause.about() {
        About::Tool => match &wanted.requirement.subject {
            Subject::Tool(tool) => tool::make(sketch, wanted, tool, cause),
            _ => Err(NotMade::NotHere),
        },
        About::Disk | About::Memory | About::Virtualization | About::System | About::Limit | About::Group => {
            capacity::make(sketch, wanted, cause)
        }
        About::Path | About::Variable => path::make(sketch, wanted, cause),
        About::Port | About::Socket | About::Service | About::Reach | About::Name => network::make(sketch, wanted, cause),
        About::Checkout | About::Command | About::Alternatives => project::make(sketch, wanted, cause),
        // `waits-for` is the trouble of what it waits for; the others say that nobody could look.
        _ => Err(NotMade::NotOfTheMachine),
    }
}
