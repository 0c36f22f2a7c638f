//! Gems of Ruby, by the descriptions that `RubyGems` keeps of them (`specifications/NAME-VERSION.gemspec`), and the files of its own library.

use super::{Live, Looked, above, absent, entries, file_name, here, is_plain, unclear};
use setup_ready_core::version::Version;
use std::path::{Path, PathBuf};

/// `3.1.0`: what the folders are called by, with the last number always zero (`RbConfig`, `ruby_version`).
pub(super) fn release(program: &Path) -> Option<String> {
    let base = above(program)?;
    let real = super::place::real(program).ok()?;
    let named = file_name(&real).strip_prefix("ruby").filter(|number| number.contains('.')).map(|number| format!("{number}.0"));
    let is_release = |name: &str| name.starts_with(|c: char| c.is_ascii_digit()) && name.ends_with(".0");
    let found: Vec<String> =
        entries(&base.join("lib/ruby")).iter().map(|path| file_name(path).to_owned()).filter(|name| is_release(name)).collect();
    // Where several are there, only the program's name tells.
    named.or_else(|| if let [only] = found.as_slice() { Some(only.clone()) } else { None })
}

pub(super) fn module(live: &Live, program: &Path, name: &str) -> Looked {
    let (Some(base), Some(release)) = (above(program), release(program)) else { return Err(unclear(program)) };
    if !is_plain(name) {
        return Ok(absent());
    }
    let gems = base.join("lib/ruby/gems").join(&release).join("specifications");
    let mut folders = vec![gems.join("default"), gems, base.join("local/lib/ruby/gems").join(&release).join("specifications")];
    if base == Path::new("/usr") {
        let debian = ["/usr/share/rubygems-integration/all", "/var/lib/gems"].map(PathBuf::from);
        folders.extend([
            debian[0].join("specifications"),
            Path::new("/usr/share/rubygems-integration").join(&release).join("specifications"),
            debian[1].join(&release).join("specifications"),
            Path::new("/usr/share/gems/specifications").to_owned(),
            Path::new("/usr/lib64/gems/ruby").join("specifications"),
        ]);
    }
    if let Some(home) = &live.home {
        folders.push(home.join(".gem/ruby").join(&release).join("specifications"));
        folders.push(home.join(".local/share/gem/ruby").join(&release).join("specifications"));
    }
    for variable in ["GEM_HOME", "GEM_PATH"] {
        let paths = std::env::var_os(variable).unwrap_or_default();
        folders.extend(std::env::split_paths(&paths).filter(|path| path.is_absolute()).map(|path| path.join("specifications")));
    }
    let version = |path: &PathBuf| {
        let text = file_name(path).strip_suffix(".gemspec")?.strip_prefix(name)?.strip_prefix('-')?.to_owned();
        // What stands behind a version is the platform that it is built for.
        let number = text.split('-').next()?.to_owned();
        Some((Version::parse(&number).ok()?, number, path.clone()))
            .filter(|(_, number, _)| number.starts_with(|c: char| c.is_ascii_digit()))
    };
    let found = folders.iter().flat_map(|folder| entries(folder)).filter_map(|path| version(&path));
    let newest = found.reduce(|a, b| if a.0.compare(&b.0) == Some(core::cmp::Ordering::Less) { b } else { a });
    if let Some((_, number, path)) = newest {
        return Ok(here(Some(number), &path));
    }
    // What came with the interpreter and is no gem.
    let library = [base.join("lib/ruby").join(&release), base.join("lib/ruby/vendor_ruby")];
    let file = library.iter().map(|folder| folder.join(format!("{name}.rb"))).find(|file| file.is_file());
    Ok(file.map_or_else(absent, |file| here(None, &file)))
}
