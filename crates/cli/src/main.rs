//! `setup-ready`: is this machine ready to build the project?

mod arguments;
mod ask;
mod commands;
mod exit;
mod interruption;
mod keyboard;
mod look;
mod output;
mod results;
mod supervisor;

use std::process::ExitCode;

fn main() -> ExitCode {
    let typed = match arguments::parse() {
        Ok(typed) => typed,
        Err(code) => return code,
    };
    if let Some(end) = supervisor::keep(&typed) {
        return end;
    }
    let look = look::OutputStyle::detect(&typed.shown);
    let interrupt = interruption::listen();
    let result = commands::run(&typed, &interrupt, &look);
    supervisor::end_what_is_left();
    match result {
        Ok(status) => status.into(),
        Err(failure) => {
            look::failure::show(&failure, &look);
            failure.status().into()
        }
    }
}
