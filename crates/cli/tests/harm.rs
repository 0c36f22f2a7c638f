//! Attempts to do harm, on Linux: `hostile_linux.rs` has what is done with the lists in `hostile/`.

#[cfg(target_os = "linux")]
mod hostile_linux;
#[cfg(target_os = "linux")]
#[path = "lists/trials.rs"]
mod trials;

fn main() {
    #[cfg(target_os = "linux")]
    hostile_linux::run();
}
