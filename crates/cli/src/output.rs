//! Where results go: standard output, or a file that is written whole or not at all.

use crate::exit::Failure;
use build_setup_ready::write::{Readers, write_whole};
use std::io::{BufWriter, ErrorKind, Write};
use std::path::Path;

/// The file, where one is named; `-` is standard output, which may belong to somebody else and can then not be opened by its name.
fn named(file: Option<&Path>) -> Option<&Path> {
    file.filter(|path| path.as_os_str() != "-")
}

/// Writes a result.
pub(crate) fn write(text: &[u8], file: Option<&Path>) -> Result<(), Failure> {
    let Some(path) = named(file) else { return to_stdout(|stdout| stdout.write_all(text)) };
    write_whole(path, text, Readers::AsUsual).map_err(|reason| Failure::Write { path: path.to_owned(), reason })
}

/// Writes a result that may be large, as it is made where it goes to standard output.
pub(crate) fn write_large(make: impl Fn(&mut Large<'_>) -> std::io::Result<()>, file: Option<&Path>) -> Result<(), Failure> {
    let buffered = |out: &mut dyn Write| {
        let mut out = Large::with_capacity(1 << 16, out);
        make(&mut out).and_then(|()| out.flush())
    };
    if named(file).is_none() {
        return to_stdout(buffered);
    }
    let mut text = Vec::new();
    buffered(&mut text).map_err(Failure::Output)?;
    write(&text, file)
}

/// Writes a result that may be larger than memory: to standard output as it is made, to a file under another name first.
pub(crate) fn write_stream(make: impl FnOnce(&mut dyn Write) -> std::io::Result<()>, file: Option<&Path>) -> Result<(), Failure> {
    match named(file) {
        None => to_stdout(|out| make(&mut BufWriter::with_capacity(1 << 16, out))),
        Some(path) => build_setup_ready::write::write_whole_as_made(path, make)
            .map_err(|reason| Failure::Write { path: path.to_owned(), reason }),
    }
}

/// Whatever takes a large result, a piece at a time.
pub(crate) type Large<'w> = BufWriter<&'w mut dyn Write>;

fn to_stdout(make: impl FnOnce(&mut dyn Write) -> std::io::Result<()>) -> Result<(), Failure> {
    let mut stdout = std::io::stdout().lock();
    match make(&mut stdout).and_then(|()| stdout.flush()) {
        // Whoever reads has seen enough.
        Err(error) if error.kind() == ErrorKind::BrokenPipe => Ok(()),
        other => other.map_err(Failure::Output),
    }
}
