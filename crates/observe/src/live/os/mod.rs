//! What differs between systems: the same functions, side by side.

#[cfg(target_os = "linux")]
mod linux;
#[cfg(target_os = "macos")]
mod macos;
#[cfg(unix)]
mod unix;
#[cfg(windows)]
mod windows;
#[cfg(not(target_os = "linux"))]
mod without_packages;

#[cfg(target_os = "linux")]
pub(super) use linux::*;
#[cfg(target_os = "macos")]
pub(super) use macos::*;
#[cfg(unix)]
pub(super) use unix::*;
#[cfg(windows)]
pub(super) use windows::*;
#[cfg(not(target_os = "linux"))]
pub(super) use without_packages::*;

/// Whether this looks like a build server: the variable that they agree on is set.
pub fn is_build_server() -> bool {
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
