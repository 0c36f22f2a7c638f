//! The system, its memory, cores, virtualization and limits.

use super::ask::{ask, kernel_flag, kernel_number};
use crate::read::{launch_limit, plist_text, vm_stat};
use rustix::process::{Resource, getrlimit};
use setup_ready_core::guide::LimitKind;
use setup_ready_core::observation::{
    CoreState, Hypervisor, LimitState, MemoryState, Observation, Os, Processor, Surroundings, System,
};
use std::fs::read_to_string;
use std::path::Path;

/// The system, from its property list. A translated process is told another architecture than the machine's, so the kernel is asked for it.
pub(in crate::live) fn system() -> Observation {
    let text = read_to_string("/System/Library/CoreServices/SystemVersion.plist").unwrap_or_default();
    let version = plist_text(&text, "ProductVersion").map(ToOwned::to_owned);
    let name = plist_text(&text, "ProductName").unwrap_or("macOS");
    let pretty = version.as_ref().map(|version| format!("{name} {version}"));
    let uname = rustix::system::uname();
    let arch = if kernel_flag("hw.optional.arm64") == Some(true) {
        "aarch64".to_owned()
    } else {
        crate::live::os::arch(&uname.machine().to_string_lossy())
    };
    Observation::System(System {
        os: Os::Macos,
        version,
        edition: None,
        distro: None,
        distro_like: Vec::new(),
        distro_version: None,
        pretty,
        arch,
    })
}

/// Guest of a hypervisor, and the build server.
pub(in crate::live) fn surroundings(_: &Path) -> Observation {
    Observation::Surroundings(Surroundings {
        wsl: Some(false),
        outside: Some(false),
        container: Some(false),
        virtual_machine: kernel_flag("kern.hv_vmm_present"),
        ci: Some(crate::live::os::is_build_server()),
    })
}

/// Memory.
pub(in crate::live) fn memory() -> Observation {
    match kernel_number("hw.memsize") {
        // A zero is no machine's memory: it means that nobody could look.
        Ok(total @ 1..) => {
            let available = ask("/usr/bin/vm_stat", &[]).ok().and_then(|text| vm_stat(&text));
            Observation::Memory(MemoryState { total, available, caps: Vec::new(), swap: None })
        }
        Ok(_) => Observation::CouldNotLook("the kernel names no memory".to_owned()),
        Err(reason) => Observation::CouldNotLook(reason),
    }
}

/// Cores.
pub(in crate::live) fn cores() -> Observation {
    match std::thread::available_parallelism() {
        Ok(cores) => Observation::Cores(CoreState { online: u64::try_from(cores.get()).unwrap_or(0), caps: Vec::new() }),
        Err(error) => Observation::CouldNotLook(error.to_string()),
    }
}

/// Whether the system's framework can use the processor (Apple's Hypervisor documentation, `kern.hv_support`).
pub(in crate::live) fn processor() -> Observation {
    let able = kernel_flag("kern.hv_support");
    Observation::Processor(Processor { able, offered: able, hypervisor: kernel_flag("kern.hv_vmm_present") })
}

/// The system's framework is always there.
pub(in crate::live) fn hypervisor() -> Observation {
    Observation::Hypervisor(Hypervisor { enabled: Some(true), started: Some(true), held_by: None })
}

/// The longest path that the kernel takes (`PATH_MAX` in sys/syslimits.h).
const LONGEST_PATH: u64 = 1_024;

/// A limit that is in force for this user in this session.
pub(in crate::live) fn limit(kind: LimitKind, _: &Path) -> Observation {
    match kind {
        LimitKind::OpenFiles => Observation::Limit(least("maxfiles", Resource::Nofile)),
        LimitKind::Processes => Observation::Limit(least("maxproc", Resource::Nproc)),
        LimitKind::PathLength => Observation::Limit(LimitState::Number(LONGEST_PATH, None)),
        // Every filesystem that a home folder can be on has them.
        LimitKind::SymbolicLinks => Observation::Limit(LimitState::Able(true)),
        LimitKind::FileWatches => Observation::NotSupported(format!("macOS has no limit for {}", kind.word())),
    }
}

/// The locales that are here, a folder each (setlocale(3)).
pub(in crate::live) fn locales(_: &crate::live::Live) -> Observation {
    match std::fs::read_dir("/usr/share/locale") {
        Ok(entries) => {
            Observation::Locales(entries.flatten().map(|entry| entry.file_name().to_string_lossy().into_owned()).collect())
        }
        Err(error) => Observation::CouldNotLook(format!("/usr/share/locale: {error}")),
    }
}

/// What this process may have, of at most what sessions are started with.
fn least(session: &str, resource: Resource) -> LimitState {
    let own = getrlimit(resource);
    let most = match ask("/bin/launchctl", &["limit", session]).ok().and_then(|text| launch_limit(&text)) {
        Some(LimitState::Number(_, most)) => most,
        _ => None,
    };
    match own.current {
        Some(current) => LimitState::Number(current, own.maximum.into_iter().chain(most).min().or(Some(u64::MAX))),
        None => LimitState::Unlimited,
    }
}
