//! Modules of Python: in the folders in which this very interpreter looks (Python documentation, "The initialization of the sys.path module search
//! path" and the module `site`).

use super::{Live, Looked, MOST_NAMES, above, absent, entries, file_name, here, is_plain, place, unclear};
use crate::read::{noted_distribution, plain_name};
use setup_ready_core::observation::InstalledState;
use std::path::{Path, PathBuf};

/// What is compiled into the program where it is anywhere, and has no file of its own.
const BUILT_IN: [&str; 12] =
    ["sys", "builtins", "time", "math", "zlib", "itertools", "marshal", "gc", "errno", "posix", "pwd", "atexit"];

/// Modules of the standard library that do nothing without a part that some systems keep in a package of its own, and that is left out where what it
/// is compiled against was not there.
const PARTS: [(&str, &str); 11] = [
    ("venv", "ensurepip"),
    ("tkinter", "_tkinter"),
    ("turtle", "_tkinter"),
    ("idlelib", "_tkinter"),
    ("sqlite3", "_sqlite3"),
    ("ssl", "_ssl"),
    ("curses", "_curses"),
    ("lzma", "_lzma"),
    ("bz2", "_bz2"),
    ("ctypes", "_ctypes"),
    ("hashlib", "_hashlib"),
];

/// `3.11`, by the name of the program behind all links.
pub(super) fn release(program: &Path) -> Option<String> {
    let real = place::real(program).ok()?;
    let release = file_name(&real).strip_prefix("python")?;
    let right = release.split('.').count() == 2 && release.bytes().all(|byte| byte.is_ascii_digit() || byte == b'.');
    right.then(|| release.to_owned())
}

/// The folder that the interpreter itself is installed in, also that behind an environment.
pub(super) fn base(program: &Path) -> Option<PathBuf> {
    above(program)
}

/// The folders in which an interpreter looks.
struct Folders {
    /// Those of its own library.
    own: Vec<PathBuf>,
    /// Those of what was installed.
    sites: Vec<PathBuf>,
    /// What leads to working copies that are installed as they are: it lists the modules that it finds.
    finders: Vec<PathBuf>,
    /// Something adds to them in a way that only the interpreter can follow.
    more: bool,
}

fn folders(live: &Live, program: &Path) -> Option<Folders> {
    let (base, release) = (base(program)?, release(program)?);
    let own: Vec<PathBuf> =
        ["lib", "lib64"].iter().map(|lib| base.join(format!("{lib}/python{release}"))).filter(|folder| folder.is_dir()).collect();
    if !own.iter().any(|folder| folder.join("os.py").is_file()) {
        return None;
    }
    let environment = program.parent()?.parent()?;
    let settings = place::text(&environment.join("pyvenv.cfg")).ok();
    let alone =
        |text: &String| !text.lines().any(|line| line.replace(' ', "").eq_ignore_ascii_case("include-system-site-packages=true"));
    let mut candidates = Vec::new();
    if settings.is_some() {
        candidates.extend(["lib", "lib64"].map(|lib| environment.join(format!("{lib}/python{release}/site-packages"))));
    }
    if settings.as_ref().is_none_or(|text| !alone(text)) {
        let home = live.home.iter().flat_map(|home| {
            [
                home.join(format!(".local/lib/python{release}/site-packages")),
                home.join(format!("Library/Python/{release}/lib/python/site-packages")),
            ]
        });
        let usual = [
            format!("local/lib/python{release}/dist-packages"),
            format!("local/lib/python{release}/site-packages"),
            "lib/python3/dist-packages".to_owned(),
            format!("lib/python{release}/dist-packages"),
            format!("lib/python{release}/site-packages"),
            format!("lib64/python{release}/site-packages"),
        ];
        candidates.extend(home.chain(usual.into_iter().map(|folder| base.join(folder))));
    }
    let mut sites: Vec<PathBuf> = candidates.into_iter().filter(|folder| folder.is_dir()).collect();
    sites.dedup();
    let mut more = std::env::var_os("PYTHONHOME").is_some_and(|home| !home.is_empty());
    let mut finders = Vec::new();
    for site in sites.clone() {
        for file in entries(&site).into_iter().filter(|file| file.extension().is_some_and(|end| end == "pth")) {
            for line in place::text(&file).unwrap_or_default().lines().map(str::trim) {
                // A line that begins so is carried out, and may add anything.
                if line.starts_with("import ") || line.starts_with("import\t") {
                    match finder(line).map(|name| site.join(format!("{name}.py"))).filter(|file| file.is_file()) {
                        Some(finder) => finders.push(finder),
                        None => more |= !is_harmless(file_name(&file)),
                    }
                } else if !line.is_empty() && !line.starts_with('#') {
                    sites.push(site.join(line));
                }
            }
        }
    }
    let by_variable = std::env::var_os("PYTHONPATH").unwrap_or_default();
    let first = std::env::split_paths(&by_variable).filter(|path| path.is_absolute());
    Some(Folders { own, sites: first.chain(sites).collect(), finders, more })
}

/// The finder that a line switches on, as setuptools writes it: `import __editable___NAME_finder; ...`.
fn finder(line: &str) -> Option<&str> {
    let name = line.strip_prefix("import ")?.split(';').next()?.trim();
    (name.starts_with("__editable__") && name.chars().all(|c| c.is_alphanumeric() || c == '_')).then_some(name)
}

/// Files that installers leave everywhere, and that add no folders.
fn is_harmless(file: &str) -> bool {
    matches!(file, "distutils-precedence.pth" | "_virtualenv.pth" | "matplotlib-nspkg.pth") || file.ends_with("-nspkg.pth")
}

pub(super) fn module(live: &Live, program: &Path, name: &str) -> Looked {
    let Some(folders) = folders(live, program) else { return Err(unclear(program)) };
    if !is_plain(name) || name.contains('/') {
        return Ok(absent());
    }
    let first = name.split('.').next().unwrap_or(name);
    if BUILT_IN.contains(&first) {
        return Err(format!("{first} is a part of the interpreter itself"));
    }
    if let Some(found) = noted(&folders.sites, name) {
        return Ok(found);
    }
    let path = name.replace('.', "/");
    if let Some(file) = folders.own.iter().find_map(|folder| file_of(folder, &path)) {
        let part = PARTS.iter().find(|(module, _)| *module == first).map(|(_, part)| *part);
        return Ok(match part.filter(|part| !has_part(&folders.own, part)) {
            Some(part) => InstalledState::Absent { lacks: Some(format!("its part {part}")) },
            None => here(None, &file),
        });
    }
    if let Some((site, file)) = folders.sites.iter().find_map(|site| Some((site, file_of(site, &path)?))) {
        return Ok(here(version_of_module(site, first), &file));
    }
    let lists = |finder: &&PathBuf| place::text(finder).is_ok_and(|text| text.contains(&format!("'{first}'")));
    if let Some(finder) = folders.finders.iter().find(lists) {
        return Ok(here(None, finder));
    }
    if folders.more {
        return Err("something adds to the folders in which this interpreter looks, in a way that only it can follow".to_owned());
    }
    Ok(absent())
}

/// A distribution of that name, with the version in its own notes.
fn noted(sites: &[PathBuf], name: &str) -> Option<InstalledState> {
    let wanted = plain_name(name);
    let mut all = sites.iter().flat_map(|site| entries(site));
    let note =
        all.find(|path| noted_distribution(file_name(path)).is_some_and(|noted| noted.installed && noted.name == wanted))?;
    Some(here(version_in(&note), &note))
}

fn version_in(note: &Path) -> Option<String> {
    let text = [note.join("METADATA"), note.join("PKG-INFO"), note.to_owned()].iter().find_map(|file| place::text(file).ok())?;
    let mut lines = text.lines().take_while(|line| !line.is_empty());
    lines.find_map(|line| line.strip_prefix("Version:")).map(|version| version.trim().to_owned())
}

/// The version of the distribution that brought a module of another name, by the lists in its notes.
fn version_of_module(site: &Path, module: &str) -> Option<String> {
    let notes = entries(site).into_iter().filter(|path| noted_distribution(file_name(path)).is_some_and(|noted| noted.installed));
    let brings = |note: &PathBuf| {
        let listed = |file: &str| place::text(&note.join(file)).unwrap_or_default();
        listed("top_level.txt").lines().any(|line| line.trim() == module)
            || listed("RECORD").lines().any(|line| {
                let first = line.split(['/', ',']).next().unwrap_or_default();
                first == module || first.strip_suffix(".py") == Some(module)
            })
    };
    version_in(&notes.take(MOST_NAMES).find(brings)?)
}

/// The file of a module in a folder: a package, a source file, or one that is built.
fn file_of(folder: &Path, path: &str) -> Option<PathBuf> {
    let whole = folder.join(path);
    let package = whole.join("__init__.py");
    if package.is_file() {
        return Some(package);
    }
    let source = folder.join(format!("{path}.py"));
    if source.is_file() {
        return Some(source);
    }
    built(whole.parent()?, file_name(&whole)).or_else(|| built(&folder.join("lib-dynload"), file_name(&whole)))
}

fn built(folder: &Path, name: &str) -> Option<PathBuf> {
    let is_it = |file: &PathBuf| {
        let file = file_name(file);
        let ends = Path::new(file).extension().is_some_and(|end| end == "so" || end == "pyd");
        ends && file.strip_prefix(name).is_some_and(|rest| rest.starts_with('.'))
    };
    entries(folder).into_iter().find(is_it)
}

/// Whether a part is there; where nothing is built apart from the program, it may be in that.
fn has_part(own: &[PathBuf], part: &str) -> bool {
    let none_apart = own.iter().all(|folder| entries(&folder.join("lib-dynload")).is_empty());
    let compiled = part.starts_with('_') && none_apart;
    compiled || own.iter().any(|folder| file_of(folder, part).is_some())
}
