use setup_ready_core::guide::Guide;
use setup_ready_core::observation::Observation;
use setup_ready_core::probe::Probe;
use setup_ready_core::report::MachineSource;
use setup_ready_core::selection::{Consent, Selection};
use std::path::PathBuf;
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};

/// Whoever answers probes: this machine, a described one, a recording, or one of your own.
///
/// An answer is raw: what was seen, not what it means. Where a host cannot answer, it says [`Observation::CouldNotLook`] or
/// [`Observation::NotSupported`] with the reason, and never guesses.
///
/// ```
/// use setup_ready_core::observation::{CoreState, Observation};
/// use setup_ready_core::report::{MachineSource, Outcome};
/// use setup_ready_core::{guide, probe::Probe};
/// use setup_ready_observe::{Host, Preflight};
///
/// /// A list of machines that knows their cores and nothing else.
/// struct Inventory {
///     cores: u64,
/// }
///
/// impl Host for Inventory {
///     fn observe(&self, probe: &Probe) -> Observation {
///         match probe {
///             Probe::Cores => Observation::Cores(CoreState { online: self.cores, caps: Vec::new() }),
///             _ => Observation::NotSupported("the inventory does not list it".into()),
///         }
///     }
///
///     fn source(&self) -> MachineSource {
///         MachineSource::Described
///     }
/// }
///
/// let guide = guide::parse("format = 1\n[project]\nname = \"Driftbuoy\"\n[require.cores]\ncores = 4\n").unwrap();
/// assert_eq!(Preflight::new(&guide).run(&Inventory { cores: 8 }).unwrap().outcome(), Outcome::Ready);
/// assert_eq!(Preflight::new(&guide).run(&Inventory { cores: 2 }).unwrap().outcome(), Outcome::NotReady);
/// ```
pub trait Host: Sync {
    /// Answers one question. Several may be asked at the same time, up to [`Host::jobs`].
    fn observe(&self, probe: &Probe) -> Observation;

    /// Answers several questions of one sort, in their order: what is cheaper to ask at once may be.
    fn observe_together(&self, probes: &[Arc<Probe>]) -> Vec<Observation> {
        probes.iter().map(|probe| self.observe(probe)).collect()
    }

    /// The files and folders that an answer rests on, where it can only change with them; none where it may change by itself, or that is not known.
    fn watch_paths(&self, _: &Probe) -> Vec<PathBuf> {
        Vec::new()
    }

    /// A preflight begins: what was kept of the machine for an earlier one is forgotten.
    fn begin(&self) {}

    /// What is checked here, of what was chosen: a recording knows what was chosen when it was made. Nothing is started on a machine that is only
    /// described, so nobody need agree.
    fn selection(&self, _: &Guide, selection: Selection) -> Selection {
        let consent = if self.source() == MachineSource::Live { selection.consent } else { Consent::Given };
        Selection { consent, ..selection }
    }

    /// How many milliseconds an answer took to get, where that was before.
    fn elapsed_ms_of(&self, _: &Probe) -> Option<u64> {
        None
    }

    /// When it was looked, by RFC 3339, and for how many milliseconds, where that was before.
    fn recorded_at(&self) -> Option<(&str, u64)> {
        None
    }

    /// Where the answers come from, for the report.
    fn source(&self) -> MachineSource;

    /// The machine's name, for the report.
    fn name(&self) -> Option<&str> {
        None
    }

    /// A random word by which reports of one machine can be told to be that, where it has one.
    fn id(&self) -> Option<&str> {
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
///
/// ```
/// let interrupt = setup_ready_observe::Interrupt::default();
/// let same = interrupt.clone();
/// // In a handler of signals, say:
/// same.raise();
/// assert!(interrupt.is_raised());
/// ```
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
