//! Kits of Java, and what runs on them.

use super::{Live, is_there_and_not_empty, kind, name, variable};
use crate::read::{java_release, library_release};
use setup_ready_core::observation::{FileKind, Recorded, RunsOn};
use std::path::Path;

/// The launcher's own library, by which a program of a kit is told from any other.
const LAUNCHER: &str = "libjli.so";

/// A kit's own program: `bin/NAME` beside the kit's `release`, with all that it needs to start.
pub(super) fn of_kit(real: &Path) -> Option<Recorded> {
    let home = real.parent().filter(|folder| folder.ends_with("bin"))?.parent()?;
    if !matches!(kind(real)?, FileKind::Built(_)) || !is_launcher(real) {
        return None;
    }
    let machine = if cfg!(windows) {
        "bin/server/jvm.dll"
    } else if cfg!(target_os = "macos") {
        "lib/server/libjvm.dylib"
    } else {
        "lib/server/libjvm.so"
    };
    if !super::os::is_whole(real) || !super::os::is_whole(&home.join(machine)) {
        return None;
    }
    let whole = ["lib/modules", "lib/jvm.cfg", machine].iter().all(|piece| is_there_and_not_empty(&home.join(piece)));
    let file = home.join("release");
    let text = crate::live::place::text(&file).ok().filter(|_| whole)?;
    Some(Recorded { version: java_release(&text)?.to_owned(), file: file.display().to_string(), runs_on: None })
}

/// Elsewhere than on Linux the kit's own folder must do.
fn is_launcher(real: &Path) -> bool {
    if !cfg!(target_os = "linux") {
        return true;
    }
    let needs = std::fs::File::open(real).ok().and_then(|file| crate::read::elf_needs(&object::ReadCache::new(file)));
    needs.is_some_and(|needs| needs.libraries.iter().any(|library| library == LAUNCHER))
}

/// What comes as libraries in `lib` beside `bin`, one of which has the version in its name.
pub(super) fn of_library(live: &Live, real: &Path, library: &str) -> Option<Recorded> {
    let home = real.parent().filter(|folder| folder.ends_with("bin"))?.parent()?;
    if !matches!(kind(real)?, FileKind::Script(_)) {
        return None;
    }
    let libraries = libraries(home)?;
    let mut stating = libraries.iter().filter_map(|file| Some((file, library_release(name(file)?, library)?)));
    let (file, version) = stating.next()?;
    if stating.next().is_some() {
        return None;
    }
    let range = needed_java(library, version)?;
    Some(Recorded { version: version.to_owned(), file: file.display().to_string(), runs_on: Some(on_java(live, range)) })
}

/// The Java releases on which this says its version. Sources: the notes of each release, and the compatibility table of Gradle's manual.
fn needed_java(library: &str, version: &str) -> Option<&'static str> {
    let major: u32 = version.split('.').next()?.parse().ok()?;
    match (library, major) {
        ("maven-core", 3) => Some(">= 1.8"),
        ("gradle-launcher", 7 | 8) => Some(">= 1.8, < 22"),
        ("maven-core", 4) | ("gradle-launcher", 9) => Some(">= 17"),
        _ => None,
    }
}

/// The Java that scripts start: the one that the variable names, else the first on PATH.
pub(super) fn on_java(live: &Live, range: &str) -> RunsOn {
    let named = variable(live, "JAVA_HOME").map(|home| Path::new(&home).join("bin/java").display().to_string());
    RunsOn { name: "java".to_owned(), path: named, range: range.to_owned() }
}

/// All libraries of an installation; `None` where there are none, or one of them leads nowhere.
pub(super) fn libraries(home: &Path) -> Option<Vec<std::path::PathBuf>> {
    let entries = std::fs::read_dir(home.join("lib")).ok()?.flatten().map(|entry| entry.path());
    let all: Vec<_> = entries.filter(|path| path.extension().is_some_and(|kind| kind == "jar")).collect();
    (!all.is_empty() && all.iter().all(|path| is_there_and_not_empty(path))).then_some(all)
}
