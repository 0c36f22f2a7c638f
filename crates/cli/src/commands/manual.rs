use crate::arguments::{Shown, shape};
use crate::exit::{Failure, Status};
use crate::output;

/// Writes the manual page of the program, or of one of its commands.
pub(crate) fn run(command: Option<&str>, shown: &Shown) -> Result<Status, Failure> {
    let mut program = shape();
    // Its commands have their common options and whole names only then.
    program.build();
    let page = match command {
        None => program,
        Some(name) => {
            let found = program.find_subcommand(name).cloned();
            found.ok_or_else(|| Failure::Word {
                message: format!("there is no command {name}"),
                note: "All commands: setup-ready --help".to_owned(),
            })?
        }
    };
    let mut text = Vec::new();
    clap_mangen::Man::new(page).render(&mut text).map_err(|error| Failure::Software(error.to_string()))?;
    output::write(&text, shown.output.as_deref())?;
    Ok(Status::Ready)
}
