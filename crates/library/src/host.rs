use crate::observation::Observation;
use crate::probe::Probe;
use crate::report::MachineSource;
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};

/// Whoever answers probes: this machine, a described one, a recording, or one of your own.
///
/// An answer is raw: what was seen, not what it means. Where a host cannot answer, it says [`Observation::CouldNotLook`] or
/// [`Observation::NotSupported`] with the reason, and never guesses.
pub trait Host: Sync {
    /// Answers one question. Several may be asked at the same time, up to [`Host::jobs`].
    fn observe(&self, probe: &Probe) -> Observation;

    /// Where the answers come from, for the report.
    fn source(&self) -> MachineSource;

    /// The machine's name, for the report.
    fn name(&self) -> Option<&str> {
        None
    }

    /// The switch that ends what this host is doing, where it has one; a preflight heeds the same one.
    fn interrupt(&self) -> Option<&Interrupt> {
        None
    }

    /// How many questions are best asked at once; one unless answering takes time.
    fn jobs(&self) -> usize {
        1
    }
}

/// A switch that ends a preflight early: every program that was started is stopped, and what is known is reported.
#[derive(Debug, Clone, Default)]
pub struct Interrupt(Arc<AtomicBool>);

impl Interrupt {
    /// Ends it.
    pub fn raise(&self) {
        self.0.store(true, Ordering::SeqCst);
    }

    /// Whether it was ended.
    pub fn is_raised(&self) -> bool {
        self.0.load(Ordering::SeqCst)
    }
}
