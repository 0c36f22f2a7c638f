//! Where results go: standard output, or a file that is written whole or not at all.

use crate::exit::Failure;
use std::io::{ErrorKind, Write};
use std::path::Path;

/// Writes a result.
pub(crate) fn write(text: &[u8], file: Option<&Path>) -> Result<(), Failure> {
    let Some(path) = file else { return to_stdout(text) };
    let failed = |reason| Failure::Write { path: path.to_owned(), reason };
    let folder = path.parent().filter(|folder| !folder.as_os_str().is_empty()).unwrap_or_else(|| Path::new("."));
    let name = path.file_name().unwrap_or_default().to_string_lossy();
    let temporary = folder.join(format!(".{name}.{}.part", std::process::id()));
    let written = std::fs::write(&temporary, text).and_then(|()| std::fs::rename(&temporary, path));
    written.map_err(|error| {
        let _ = std::fs::remove_file(&temporary);
        failed(error)
    })
}

fn to_stdout(text: &[u8]) -> Result<(), Failure> {
    let mut stdout = std::io::stdout().lock();
    match stdout.write_all(text).and_then(|()| stdout.flush()) {
        // Whoever reads has seen enough.
        Err(error) if error.kind() == ErrorKind::BrokenPipe => Ok(()),
        other => other.map_err(Failure::Output),
    }
}
