//! `setup-ready`: is this machine ready to build the project?

mod arguments;
mod ask;
mod commands;
mod exit;
mod interruption;
mod keyboard;
mod look;
mod output;

use std::process::ExitCode;

fn main() -> ExitCode {
    let typed = match arguments::parse() {
        Ok(typed) => typed,
        Err(code) => return code,
    };
    let look = look::Look::detect(&typed.shown);
    let interrupt = interruption::listen();
    match commands::run(&typed, &interrupt, &look) {
        Ok(status) => status.into(),
        Err(failure) => {
            look::failure::show(&failure, &look);
            failure.status().into()
        }
    }
}
