//! Modules of Perl: files in the folders of `@INC` (perlrun, perlvar), as the usual installations have them.

use super::{Live, Looked, above, absent, entries, file_name, here, place, unclear};
use std::path::{Path, PathBuf};

/// A module's version stands in its first lines.
const MOST_LINES: usize = 200;

/// The folders in which the interpreter of an installation looks, with those of each version below them.
pub(super) fn folders(live: &Live, base: &Path) -> Vec<PathBuf> {
    let mut roots = vec![
        base.join("lib/perl5"),
        base.join("share/perl5"),
        base.join("share/perl"),
        base.join("lib/perl"),
        base.join("local/share/perl"),
        base.join("local/share/perl5"),
        base.join("local/lib/perl5"),
        base.join("lib64/perl5"),
        base.join("lib/site_perl"),
    ];
    // Debian and those like it keep what is built under the name of the architecture.
    for library in [base.join("lib"), base.join("local/lib")] {
        let built =
            entries(&library).into_iter().filter(|path| file_name(path).contains("-linux-") || file_name(path).contains("-gnu"));
        roots.extend(built.flat_map(|path| ["perl", "perl5", "perl-base"].map(|name| path.join(name))));
    }
    if base == Path::new("/usr") {
        roots.push(PathBuf::from("/etc/perl"));
    }
    let by_variable = std::env::var_os("PERL5LIB").unwrap_or_default();
    roots.extend(std::env::split_paths(&by_variable).filter(|path| path.is_absolute()));
    roots.extend(live.home.iter().map(|home| home.join("perl5/lib/perl5")));
    let mut all = Vec::new();
    for root in roots {
        let is_version = |path: &PathBuf| {
            let name = file_name(path);
            name.starts_with(|c: char| c.is_ascii_digit()) || matches!(name, "site_perl" | "vendor_perl" | "core_perl")
        };
        let below: Vec<PathBuf> = entries(&root).into_iter().filter(is_version).collect();
        let further: Vec<PathBuf> = below
            .iter()
            .flat_map(|folder| entries(folder))
            .filter(|path| is_version(path) || file_name(path).contains("-linux") || file_name(path).contains("darwin"))
            .collect();
        all.push(root);
        all.extend(below);
        all.extend(further);
    }
    all
}

pub(super) fn module(live: &Live, program: &Path, name: &str) -> Looked {
    let Some(base) = above(program) else { return Err(unclear(program)) };
    if !file_name(&place::real(program).unwrap_or_default()).starts_with("perl") {
        return Err(unclear(program));
    }
    let parts: Vec<&str> = name.split("::").collect();
    if parts.iter().any(|part| part.is_empty() || !part.chars().all(|c| c.is_ascii_alphanumeric() || c == '_')) {
        return Ok(absent());
    }
    let file = format!("{}.pm", parts.join("/"));
    let found = folders(live, &base).into_iter().map(|folder| folder.join(&file)).find(|file| file.is_file());
    Ok(found.map_or_else(absent, |file| here(version(&file), &file)))
}

/// The number behind `$VERSION =`, or that of the `package` line (perldoc -f package).
fn version(file: &Path) -> Option<String> {
    let text = place::text(file).ok()?;
    text.lines().take(MOST_LINES).filter(|line| !line.trim_start().starts_with('#')).find_map(|line| {
        let (_, rest) = line.split_once("VERSION")?;
        let rest = rest.trim_start().strip_prefix('=')?.trim_start().trim_start_matches(['"', '\'', 'v']);
        let number: String = rest.chars().take_while(|c| c.is_ascii_digit() || "._".contains(*c)).collect();
        let number = number.trim_end_matches('.').replace('_', "");
        (!number.is_empty() && number.starts_with(|c: char| c.is_ascii_digit())).then_some(number)
    })
}
