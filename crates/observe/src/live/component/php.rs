//! Extensions of PHP: switched on by a file of settings beside it, and there as a built file. What is compiled into the program cannot be seen.

use super::{Looked, above, absent, entries, file_name, here, place, unclear};
use std::path::{Path, PathBuf};

/// Always compiled in (PHP manual, "Extension List/Categorization").
const ALWAYS: [&str; 8] = ["core", "date", "hash", "json", "pcre", "reflection", "spl", "standard"];

pub(super) fn module(program: &Path, name: &str) -> Looked {
    let real = place::real(program).map_err(|error| error.to_string())?;
    let (Some(base), Some(release)) = (above(program), file_name(&real).strip_prefix("php")) else {
        return Err(unclear(program));
    };
    let name = name.to_lowercase();
    if !name.chars().all(|c| c.is_ascii_alphanumeric() || c == '_') {
        return Ok(absent());
    }
    if ALWAYS.contains(&name.as_str()) {
        return Ok(here(None, &real));
    }
    // Debian and those like it, Red Hat and those like it, and an installation of its own.
    let settings = [
        PathBuf::from(format!("/etc/php/{release}/cli/conf.d")),
        PathBuf::from("/etc/php.d"),
        base.join("etc/php/conf.d"),
        base.join("etc/conf.d"),
    ];
    let settings: Vec<PathBuf> = settings.into_iter().filter(|folder| folder.is_dir()).collect();
    let Some(folder) = settings.first() else {
        return Err("where this PHP keeps its settings is not known, and what is compiled into it cannot be seen".to_owned());
    };
    let switches_on = |file: &PathBuf| {
        let text = place::text(file).unwrap_or_default();
        text.lines().any(|line| {
            let Some((key, value)) = line.trim().split_once('=') else { return false };
            let value = value.trim().trim_matches('"').trim_end_matches(".so");
            matches!(key.trim(), "extension" | "zend_extension") && value.rsplit('/').next() == Some(name.as_str())
        })
    };
    if let Some(file) = entries(folder).into_iter().find(switches_on) {
        return Ok(here(None, &file));
    }
    // The packages of these systems have a file for each that is not compiled in: one without a file may be.
    let known = ["/usr/lib/php", "/usr/lib64/php"].iter().flat_map(|folder| entries(Path::new(folder)));
    let built = known
        .flat_map(|folder| [folder.join(format!("{name}.so")), folder.join(format!("modules/{name}.so"))])
        .any(|file| file.is_file());
    if built || folder.starts_with("/etc") && !COMPILED_IN.contains(&name.as_str()) {
        return Ok(absent());
    }
    Err(format!("whether {name} is compiled into this PHP cannot be seen"))
}

/// What distributions compile into the program.
const COMPILED_IN: [&str; 14] = [
    "filter",
    "libxml",
    "openssl",
    "pcntl",
    "random",
    "session",
    "sodium",
    "zlib",
    "ctype",
    "tokenizer",
    "posix",
    "readline",
    "ftp",
    "iconv",
];
