use crate::arguments::{Shown, shape};
use crate::exit::{Failure, Status};
use crate::output;

pub(crate) fn run(shell: clap_complete::Shell, shown: &Shown) -> Result<Status, Failure> {
    let mut text = Vec::new();
    clap_complete::generate(shell, &mut shape(), "setup-ready", &mut text);
    output::write(&text, shown.output.as_deref())?;
    Ok(Status::Ready)
}
