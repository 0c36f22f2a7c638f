use super::registry;
use crate::windows_calls as call;
use setup_ready_core::observation::{
    CoreCap, CoreState, Hypervisor, MemoryCap, MemoryState, Observation, Os, Processor, Surroundings, System, SystemService,
};
use std::path::Path;

/// The first build of Windows 11 (Microsoft's release information); the registry still calls it Windows 10.
const WINDOWS_11: u32 = 22_000;
/// The firmware has virtualization switched on (winnt.h, `PF_VIRT_FIRMWARE_ENABLED`).
const FIRMWARE_ENABLED: u32 = 21;

/// The system, as its registry tells.
pub(in crate::live) fn system() -> Observation {
    let number = registry::version_number;
    let build = registry::version_text("CurrentBuildNumber").or_else(|| registry::version_text("CurrentBuild"));
    let version = build.as_ref().map(|build| {
        format!(
            "{}.{}.{build}",
            number("CurrentMajorVersionNumber").unwrap_or(10),
            number("CurrentMinorVersionNumber").unwrap_or(0)
        )
    });
    let edition = registry::version_text("EditionID").map(|id| edition(&id).to_owned());
    let product = registry::version_text("ProductName");
    let new = build.and_then(|build| build.parse::<u32>().ok()).is_some_and(|build| build >= WINDOWS_11);
    let pretty = product.map(|name| if new { name.replace("Windows 10", "Windows 11") } else { name });
    Observation::System(System {
        os: Os::Windows,
        version,
        edition,
        distro: None,
        distro_like: Vec::new(),
        distro_version: None,
        pretty,
        arch: native_arch(),
    })
}

/// The words that guides use for editions, by the system's ids.
fn edition(id: &str) -> &str {
    match id {
        "Core" | "CoreN" | "CoreSingleLanguage" | "CoreCountrySpecific" => "home",
        "Professional" | "ProfessionalN" => "pro",
        "ProfessionalWorkstation" | "ProfessionalWorkstationN" => "pro-workstation",
        "Education" | "EducationN" | "ProfessionalEducation" => "education",
        "Enterprise" | "EnterpriseN" | "EnterpriseS" => "enterprise",
        other => other,
    }
}

/// The machine's own architecture; a program for another one is told its own beside it.
fn native_arch() -> String {
    let of = |name: &str| std::env::var(name).ok().filter(|arch| !arch.is_empty());
    let arch = of("PROCESSOR_ARCHITEW6432").or_else(|| of("PROCESSOR_ARCHITECTURE"));
    crate::live::os::arch(arch.as_deref().unwrap_or(std::env::consts::ARCH))
}

/// What the processor says of hypervisors.
#[derive(Default)]
struct Asked {
    able: Option<bool>,
    hypervisor: Option<bool>,
    /// This system is the one that the hypervisor is managed from: no guest, although one is in charge.
    manages: bool,
}

/// Bit 0 of EBX: this partition may make others (Microsoft's Hypervisor Top Level Functional Specification, 0x40000003).
#[cfg(target_arch = "x86_64")]
fn ask_processor() -> Asked {
    let cpuid = raw_cpuid::CpuId::new();
    let vendor = cpuid.get_vendor_info().map(|vendor| vendor.as_str().to_owned());
    let able = match vendor.as_deref() {
        Some("AuthenticAMD" | "HygonGenuine") => {
            cpuid.get_extended_processor_and_feature_identifiers().map(|info| info.has_svm())
        }
        _ => cpuid.get_feature_info().map(|info| info.has_vmx()),
    };
    let hypervisor = cpuid.get_feature_info().map(|info| info.has_hypervisor());
    let microsoft = cpuid.get_hypervisor_info().is_some_and(|info| info.identify() == raw_cpuid::Hypervisor::HyperV);
    let manages = microsoft && raw_cpuid::cpuid!(0x4000_0003).ebx & 1 == 1;
    Asked { able, hypervisor, manages }
}

/// Other processors have no such question.
#[cfg(not(target_arch = "x86_64"))]
fn ask_processor() -> Asked {
    Asked::default()
}

/// What the processor and the firmware say about virtualization.
pub(in crate::live) fn processor() -> Observation {
    let asked = ask_processor();
    // With the system's own hypervisor in charge, the ability is used already, and hidden from everyone else.
    let offered = asked.manages || call::has_feature(FIRMWARE_ENABLED);
    Observation::Processor(Processor {
        able: if asked.manages { Some(true) } else { asked.able },
        offered: Some(offered),
        hypervisor: asked.hypervisor.map(|there| there && !asked.manages),
    })
}

/// Whether the system gives its hypervisor to programs: its library is there only where the feature is switched on. That it was started, the
/// processor tells, where it can be asked.
pub(in crate::live) fn hypervisor() -> Observation {
    let there = super::own_program("WinHvPlatform.dll").exists();
    let started = cfg!(target_arch = "x86_64").then(|| ask_processor().manages);
    Observation::Hypervisor(Hypervisor { enabled: Some(there), started, held_by: None })
}

/// Guest of a hypervisor, and the build server.
pub(in crate::live) fn surroundings(_: &Path) -> Observation {
    let asked = ask_processor();
    Observation::Surroundings(Surroundings {
        wsl: Some(false),
        outside: Some(false),
        container: Some(registry::is_container()),
        virtual_machine: asked.hypervisor.map(|there| there && !asked.manages),
        ci: Some(crate::live::os::is_build_server()),
    })
}

/// The job that this process is in, for a sentence.
const JOB: &str = "the job that this terminal runs in";

/// Memory, and what the job that this process is in leaves of it.
pub(in crate::live) fn memory() -> Observation {
    let cap = call::caps().memory.map(|bytes| MemoryCap { by: JOB.to_owned(), bytes });
    match call::memory() {
        // A zero is no machine's memory: it means that nobody could look.
        Ok((total @ 1.., available)) => {
            Observation::Memory(MemoryState { total, available: Some(available), caps: cap.into_iter().collect(), swap: None })
        }
        Ok(_) => Observation::CouldNotLook("the system names no memory".to_owned()),
        Err(error) => Observation::CouldNotLook(error.to_string()),
    }
}

/// Cores, and what binds this process to fewer.
pub(in crate::live) fn cores() -> Observation {
    let online = match std::thread::available_parallelism() {
        Ok(cores) => u64::try_from(cores.get()).unwrap_or(0),
        Err(error) => return Observation::CouldNotLook(error.to_string()),
    };
    let caps = call::caps();
    let bound = caps.affinity.map(|cores| CoreCap {
        by: "the processors that this terminal is bound to".to_owned(),
        hundredths: u64::from(cores).saturating_mul(100),
    });
    // Hundredths of a percent of all cores, in hundredths of a core.
    let rate = caps.rate.map(|rate| CoreCap { by: JOB.to_owned(), hundredths: u64::from(rate).saturating_mul(online) / 100 });
    Observation::Cores(CoreState { online, caps: bound.into_iter().chain(rate).collect() })
}

/// How a service stands.
pub(in crate::live) fn system_service(name: &str) -> Observation {
    match call::is_running(name) {
        Ok(None) => Observation::SystemService(SystemService::Missing),
        Ok(Some(true)) => Observation::SystemService(SystemService::Running),
        Ok(Some(false)) if registry::is_disabled(name) => Observation::SystemService(SystemService::Disabled),
        Ok(Some(false)) => Observation::SystemService(SystemService::Stopped),
        Err(error) => Observation::CouldNotLook(error.to_string()),
    }
}
