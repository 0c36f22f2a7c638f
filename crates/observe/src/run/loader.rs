//! What the loader of Windows says of a program that it could not start: by the number with which the program ends (ntstatus.h).

use crate::read::pe_imports;
use object::ReadCache;
use std::fs::File;
use std::path::{Path, PathBuf};

/// A library is not there (`STATUS_DLL_NOT_FOUND`).
const NOT_FOUND: u32 = 0xc000_0135;
/// A library is there and lacks what is looked for in it (`STATUS_ORDINAL_NOT_FOUND`, `STATUS_ENTRYPOINT_NOT_FOUND`).
const LACKS: [u32; 2] = [0xc000_0138, 0xc000_0139];
/// A library is built for another processor (`STATUS_INVALID_IMAGE_FORMAT`).
const OTHER_KIND: u32 = 0xc000_007b;
/// A library could not be made ready (`STATUS_DLL_INIT_FAILED`).
const NOT_READY: u32 = 0xc000_0142;

/// What Microsoft's compilers link to comes with a package of its own.
const RUNTIME: [&str; 5] = ["vcruntime", "msvcp", "concrt", "vcomp", "mfc"];

/// Why the loader could not start a program, by its exit status; none where the program ended by itself.
pub(super) fn failure(status: i32, program: &Path) -> Option<String> {
    let status = status.cast_unsigned();
    if status == NOT_FOUND {
        let missing = missing_libraries(program);
        let Some(first) = missing.first() else { return Some("one of its libraries is not there".to_owned()) };
        let lower = first.to_lowercase();
        let comes_with = if RUNTIME.iter().any(|start| lower.starts_with(start)) {
            ", which comes with Microsoft's Visual C++ runtime"
        } else {
            ""
        };
        let verb = if missing.len() == 1 { "is" } else { "are" };
        return Some(format!("{} {verb} not there{comes_with}", setup_ready_core::text::join_words(&missing, "and")));
    }
    match status {
        status if LACKS.contains(&status) => Some("one of its libraries is of another version".to_owned()),
        OTHER_KIND => Some("one of its libraries is built for another kind of processor".to_owned()),
        NOT_READY => Some("one of its libraries could not be made ready".to_owned()),
        _ => None,
    }
}

/// The libraries that a program names and that are in none of the folders where the loader looks.
fn missing_libraries(program: &Path) -> Vec<String> {
    let Ok(file) = File::open(program) else { return Vec::new() };
    let system = std::env::var_os("SystemRoot").map_or_else(|| PathBuf::from(r"C:\Windows"), PathBuf::from);
    let own = program.parent().map(Path::to_owned);
    let path = std::env::var_os("PATH").unwrap_or_default();
    let folders: Vec<PathBuf> = own
        .into_iter()
        .chain(["System32", "SysWOW64", ""].map(|folder| system.join(folder)))
        .chain(std::env::split_paths(&path))
        .collect();
    // Names of sets stand for libraries that only the loader knows.
    let is_set = |name: &str| ["api-", "ext-"].iter().any(|start| name.to_lowercase().starts_with(start));
    let there = |name: &str| is_set(name) || folders.iter().any(|folder| folder.join(name).exists());
    let mut missing: Vec<String> = pe_imports(&ReadCache::new(file)).into_iter().filter(|name| !there(name)).collect();
    missing.sort();
    missing.dedup();
    missing
}
