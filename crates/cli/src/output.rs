//! Where results go: standard output, or a file that is written whole or not at all.

use crate::exit::Failure;
use build_setup_ready::write::{Readers, write_whole};
use std::io::{ErrorKind, Write};
use std::path::Path;

/// Writes a result.
pub(crate) fn write(text: &[u8], file: Option<&Path>) -> Result<(), Failure> {
    let Some(path) = file else { return to_stdout(text) };
    write_whole(path, text, Readers::AsUsual).map_err(|reason| Failure::Write { path: path.to_owned(), reason })
}

fn to_stdout(text: &[u8]) -> Result<(), Failure> {
    let mut stdout = std::io::stdout().lock();
    match stdout.write_all(text).and_then(|()| stdout.flush()) {
        // Whoever reads has seen enough.
        Err(error) if error.kind() == ErrorKind::BrokenPipe => Ok(()),
        other => other.map_err(Failure::Output),
    }
}
