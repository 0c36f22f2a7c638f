//! What a program's file tells, without starting it.

use super::registry;
use crate::live::program::head;
use crate::read::{open_command, opens_window, pe_resources, pe_version};
use setup_ready_core::observation::{Observation, StartEffect};
use std::fs::File;
use std::io::{Read, Seek, SeekFrom};
use std::path::{Path, PathBuf};

/// Resources beyond this are not read, in bytes: icons and the like come before the version only in large numbers.
const MOST_BYTES: u64 = 32 << 20;

/// A program with windows shows one when it is started.
pub(in crate::live) fn start_effect(_: &Path, head: &[u8]) -> StartEffect {
    if opens_window(head) { StartEffect::Window } else { StartEffect::Quiet }
}

/// The version among the resources of a program's file.
pub(in crate::live) fn file_version(path: &Path) -> Observation {
    let read = || -> std::io::Result<Option<String>> {
        let Some(place) = pe_resources(&head(path)?) else { return Ok(None) };
        let mut file = File::open(path)?;
        file.seek(SeekFrom::Start(place.offset))?;
        let mut resources = Vec::new();
        file.take(place.length.min(MOST_BYTES)).read_to_end(&mut resources)?;
        Ok(pe_version(&resources, place.address))
    };
    read().map_or_else(|error| Observation::CouldNotLook(error.to_string()), Observation::FileVersion)
}

/// Which program starts a file that the system does not start by itself, with all its words: the one that files of its kind are opened with.
///
/// # Errors
/// Where there is none, or it would open a window.
pub(in crate::live) fn started_by(path: &Path, arguments: &[String]) -> Result<Option<(PathBuf, Vec<String>)>, String> {
    let extension = path.extension().map(|extension| extension.to_string_lossy().to_lowercase()).unwrap_or_default();
    if extension.is_empty() || matches!(extension.as_str(), "exe" | "com" | "bat" | "cmd") {
        return Ok(None);
    }
    let template =
        registry::opens(&extension).ok_or_else(|| format!("no program is set to open files that end in .{extension}"))?;
    let mut words = open_command(&template, &path.display().to_string(), arguments).into_iter();
    let Some(program) = words.next().map(PathBuf::from) else { return Err(format!("what opens .{extension} is no command")) };
    let read = head(&program);
    let start = read.map_err(|error| format!("{}, which opens files that end in .{extension}: {error}", program.display()))?;
    if opens_window(&start) {
        return Err(format!("files that end in .{extension} are opened by {}, which opens a window", program.display()));
    }
    Ok(Some((program, words.collect())))
}
