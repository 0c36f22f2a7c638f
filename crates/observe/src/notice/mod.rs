//! Being told of changes in folders, where the system tells.

#[cfg(target_os = "linux")]
mod linux;
#[cfg(not(target_os = "linux"))]
mod others;

#[cfg(target_os = "linux")]
pub use linux::Notice;
#[cfg(not(target_os = "linux"))]
pub use others::Notice;
