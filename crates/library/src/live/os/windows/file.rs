//! What a program's file tells, without starting it.

use crate::observation::{Observation, StartEffect};
use crate::read::{HEAD_BYTES, opens_window, pe_resources, pe_version};
use std::fs::File;
use std::io::{Read, Seek, SeekFrom};
use std::path::Path;

/// Resources beyond this are not read, in bytes: icons and the like come before the version only in large numbers.
const MOST_BYTES: u64 = 32 << 20;

/// A program with windows shows one when it is started.
pub(in crate::live) fn start_effect(_: &Path, head: &[u8]) -> StartEffect {
    if opens_window(head) { StartEffect::Window } else { StartEffect::Quiet }
}

/// The version among the resources of a program's file.
pub(in crate::live) fn file_version(path: &Path) -> Observation {
    let read = || -> std::io::Result<Option<String>> {
        let mut file = File::open(path)?;
        let mut head = Vec::with_capacity(HEAD_BYTES);
        (&mut file).take(u64::try_from(HEAD_BYTES).unwrap_or(u64::MAX)).read_to_end(&mut head)?;
        let Some(place) = pe_resources(&head) else { return Ok(None) };
        file.seek(SeekFrom::Start(place.offset))?;
        let mut resources = Vec::new();
        file.take(place.length.min(MOST_BYTES)).read_to_end(&mut resources)?;
        Ok(pe_version(&resources, place.address))
    };
    read().map_or_else(|error| Observation::CouldNotLook(error.to_string()), Observation::FileVersion)
}
