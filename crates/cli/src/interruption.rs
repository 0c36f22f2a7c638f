//! Ctrl-C and its like, heard at any moment: what runs is stopped and what is known is shown; whatever takes longer than that is not waited for.

#![allow(clippy::exit, reason = "whoever interrupts does not wait until a computation ends")]

use crate::exit::Status;
use crate::supervisor::end_what_is_left;
use build_setup_ready::Interrupt;
use build_setup_ready::start_nothing_more;
use build_setup_ready::write::no_more_files;
use std::sync::atomic::{AtomicBool, Ordering};
use std::time::Duration;

/// So long may it take to stop what runs and to show what is known.
const GRACE: Duration = Duration::from_millis(170);

/// The switch that is raised by the first signal. The second one ends the program at once.
pub(crate) fn listen() -> Interrupt {
    static HEARD: AtomicBool = AtomicBool::new(false);
    let interrupt = Interrupt::default();
    let switch = interrupt.clone();
    // Where no handler can be set, the system's own way ends the program.
    let _ = ctrlc::set_handler(move || {
        if HEARD.swap(true, Ordering::SeqCst) {
            end();
        }
        switch.raise();
        let _ = std::thread::Builder::new().spawn(|| {
            std::thread::sleep(GRACE);
            end();
        });
    });
    interrupt
}

/// Ends the program here and now, with what it started, and without half a file.
fn end() -> ! {
    let _none = no_more_files(GRACE);
    let _nothing = start_nothing_more();
    end_what_is_left();
    std::process::exit(Status::Interrupted.number());
}
