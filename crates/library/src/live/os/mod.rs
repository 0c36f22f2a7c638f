//! What differs between systems: the same functions, side by side.

#[cfg(target_os = "linux")]
mod linux;
#[cfg(target_os = "macos")]
mod macos;
#[cfg(unix)]
mod unix;
#[cfg(windows)]
mod windows;

#[cfg(target_os = "linux")]
pub(super) use linux::*;
#[cfg(target_os = "macos")]
pub(super) use macos::*;
#[cfg(unix)]
pub(super) use unix::*;
#[cfg(windows)]
pub(super) use windows::*;

/// Whether this looks like a build server: the variable that they agree on is set.
fn is_build_server() -> bool {
    std::env::var_os("CI").is_some_and(|value| !value.is_empty() && value != "false" && value != "0")
}

/// Architectures have several names.
fn arch(name: &str) -> String {
    match name {
        "amd64" | "x64" | "AMD64" => "x86_64",
        "arm64" | "ARM64" => "aarch64",
        "i386" | "i486" | "i586" => "i686",
        other => other,
    }
    .to_owned()
}

/// What the processor itself says: the ability, and whether a hypervisor is in charge (Intel SDM volume 2, CPUID leaf 1; AMD APM
/// volume 3, function `8000_0001`). None on other processors.
fn ask_processor() -> Option<(bool, bool)> {
    #[cfg(target_arch = "x86_64")]
    {
        let cpu = raw_cpuid::CpuId::new();
        let features = cpu.get_feature_info()?;
        let svm = cpu.get_extended_processor_and_feature_identifiers().is_some_and(|more| more.has_svm());
        Some((features.has_vmx() || svm, features.has_hypervisor()))
    }
    #[cfg(not(target_arch = "x86_64"))]
    None
}
