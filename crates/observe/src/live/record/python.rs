//! Distributions of Python, by the notes that installers leave beside them.

use super::{Live, is_there_and_not_empty, kind, name};
use crate::read::{
    are_plain_pip_settings, imported_module, is_plain_pip_setting, needed_distributions, noted_distribution, paths_are_changed,
    plain_name,
};
use setup_ready_core::observation::{FileKind, Recorded};
use std::collections::{BTreeMap, HashSet};
use std::path::{Path, PathBuf};
use std::time::Duration;

/// Distributions that need more others than these are started.
const MOST_NEEDED: usize = 300;
/// More names in a folder of packages than these are not looked through.
const MOST_NAMES: usize = 20_000;
/// Installers write the note last; clocks of filesystems may be so coarse.
const LATER: Duration = Duration::from_secs(2);

/// The distribution's note, where the script is a plain one that starts a module of it, and the interpreter that the script names would load just that.
pub(super) fn of_distribution(live: &Live, real: &Path, distribution: &str) -> Option<Recorded> {
    let FileKind::Script(interpreter) = kind(real)? else { return None };
    let script = super::place::text(real).ok()?;
    let module = imported_module(&script)?;
    let interpreter = Interpreter::of(live, Path::new(&interpreter))?;
    if distribution == "pip" && !pip_is_left_alone(live, &interpreter) {
        return None;
    }
    // The folder of the script itself is looked in first.
    if interpreter.has(real.parent()?, module) {
        return None;
    }
    let notes = interpreter.notes(module)?;
    let [(site, note)] = notes.get(distribution)?.as_slice() else { return None };
    let others = interpreter.sites.iter().filter(|other| *other != site);
    if !interpreter.has(site, module) || others.into_iter().any(|other| interpreter.has(other, module)) {
        return None;
    }
    let (file, text) = read(note)?;
    let value =
        |key: &str| text.lines().take_while(|line| !line.is_empty()).find_map(|line| line.strip_prefix(key).map(str::trim));
    if plain_name(value("Name:")?) != distribution || is_newer(&site.join(module), &file) {
        return None;
    }
    interpreter.has_all(distribution, &notes).then_some(())?;
    Some(Recorded { version: value("Version:")?.to_owned(), file: file.display().to_string(), runs_on: None })
}

/// Whether no setting of pip's makes it another one, or stop.
fn pip_is_left_alone(live: &Live, interpreter: &Interpreter) -> bool {
    let variables = std::env::vars_os().all(|(name, value)| {
        let name = name.to_string_lossy();
        name.strip_prefix("PIP_").is_none_or(|setting| is_plain_pip_setting(setting, &value.to_string_lossy()))
    });
    let home = live.home.as_deref().unwrap_or(Path::new("/"));
    let own = super::variable(live, "XDG_CONFIG_HOME").map_or_else(|| home.join(".config"), PathBuf::from);
    let for_all = super::variable(live, "XDG_CONFIG_DIRS").unwrap_or_else(|| "/etc/xdg".to_owned());
    let own_files = [
        PathBuf::from("/etc/pip.conf"),
        home.join(".pip/pip.conf"),
        home.join("Library/Application Support/pip/pip.conf"),
        own.join("pip/pip.conf"),
        interpreter.environment.join("pip.conf"),
    ];
    let plain = |file: &PathBuf| super::place::text(file).is_ok_and(|text| are_plain_pip_settings(&text));
    let mut files = own_files.into_iter().chain(std::env::split_paths(&for_all).map(|folder| folder.join("pip/pip.conf")));
    variables && files.all(|file| file.symlink_metadata().is_err() || plain(&file))
}

/// The notes of a folder of packages, or of several: name, and where.
type Notes = BTreeMap<String, Vec<(PathBuf, PathBuf)>>;

/// An interpreter, and the folders in which it finds packages.
struct Interpreter {
    /// `3.11`.
    release: String,
    sites: Vec<PathBuf>,
    /// The folder that it is installed in, or that of its environment.
    environment: PathBuf,
}

impl Interpreter {
    fn of(live: &Live, path: &Path) -> Option<Self> {
        let real = super::place::real(path).ok().filter(|_| path.is_absolute())?;
        let release = name(&real)?.strip_prefix("python").filter(|release| release.contains('.'))?.to_owned();
        if !matches!(kind(&real)?, FileKind::Built(_)) || !super::os::is_whole(&real) {
            return None;
        }
        let base = real.parent()?.parent()?;
        let library = format!("lib/python{release}");
        // What it reads before it reads anything else.
        let own = |file: &str| {
            ["lib", "lib64"].iter().any(|lib| is_there_and_not_empty(&base.join(format!("{lib}/python{release}/{file}"))))
        };
        if !own("os.py") || !own("encodings/__init__.py") || !own("site.py") {
            return None;
        }
        let environment = path.parent()?.parent()?;
        let settings =
            [environment.join("pyvenv.cfg"), path.parent()?.join("pyvenv.cfg")].into_iter().find(|file| file.is_file());
        let candidates: Vec<PathBuf> = if let Some(settings) = settings {
            // Its settings may let it see the system's packages too.
            let text = super::place::text(&settings).ok()?;
            let alone = text.lines().any(|line| line.replace(' ', "") == "include-system-site-packages=false");
            if !alone {
                return None;
            }
            vec![
                environment.join(&library).join("site-packages"),
                environment.join(format!("lib64/python{release}/site-packages")),
            ]
        } else {
            let own = [
                format!("{library}/site-packages"),
                format!("lib64/python{release}/site-packages"),
                format!("local/{library}/dist-packages"),
                format!("local/{library}/site-packages"),
                format!("local/lib64/python{release}/site-packages"),
                "lib/python3/dist-packages".to_owned(),
                format!("{library}/dist-packages"),
            ];
            let home = live.home.as_ref().into_iter().flat_map(|home| {
                [
                    home.join(format!(".local/{library}/site-packages")),
                    home.join(format!("Library/Python/{release}/lib/python/site-packages")),
                ]
            });
            own.iter().map(|folder| base.join(folder)).chain(home).collect()
        };
        let mut sites: Vec<PathBuf> = candidates.iter().filter_map(|folder| super::place::real(folder).ok()).collect();
        sites.sort();
        sites.dedup();
        Some(Self { release, sites, environment: environment.to_owned() })
    }

    /// All notes of packages; `None` where something changes the way in which packages are found.
    fn notes(&self, module: &str) -> Option<Notes> {
        let mut notes = Notes::new();
        for site in &self.sites {
            for entry in std::fs::read_dir(site).ok()?.take(MOST_NAMES).flatten() {
                let Ok(file) = entry.file_name().into_string() else { continue };
                let changes = |text: &str| {
                    // Those make room for packages that share a name, which is told in it.
                    if file.ends_with("-nspkg.pth") { text.contains(&format!("'{module}'")) } else { paths_are_changed(text) }
                };
                if has_ending(&file, "pth") && super::place::text(&entry.path()).map_or(true, |text| changes(&text)) {
                    return None;
                }
                if matches!(file.as_str(), "sitecustomize.py" | "usercustomize.py") {
                    return None;
                }
                let Some(found) = noted_distribution(&file) else { continue };
                let path = if found.installed { entry.path() } else { PathBuf::new() };
                notes.entry(found.name).or_default().push((site.clone(), path));
            }
        }
        Some(notes)
    }

    /// Whether a folder has a module.
    fn has(&self, folder: &Path, module: &str) -> bool {
        let built = |entry: std::fs::DirEntry| {
            let file = entry.file_name();
            file.to_str().is_some_and(|file| {
                file.starts_with(module)
                    && file.get(module.len()..).is_some_and(|rest| rest.starts_with('.'))
                    && (has_ending(file, "so") || has_ending(file, "pyd"))
            })
        };
        is_there_and_not_empty(&folder.join(format!("{module}.py")))
            || folder.join(module).join("__init__.py").is_file()
            || (folder.join(module).is_dir() && !self.sites.iter().any(|site| site == folder))
            || std::fs::read_dir(folder).is_ok_and(|entries| entries.take(MOST_NAMES).flatten().any(built))
    }

    /// Whether all distributions that one needs are there, with their modules.
    fn has_all(&self, distribution: &str, notes: &Notes) -> bool {
        let mut seen: HashSet<String> = HashSet::from([distribution.to_owned()]);
        let mut waiting = vec![distribution.to_owned()];
        while let Some(name) = waiting.pop() {
            let Some([(site, note)]) = notes.get(&name).map(Vec::as_slice) else { return false };
            let Some((_, text)) = read(note) else { return false };
            if !modules(note).iter().all(|module| site.join(module).exists()) {
                return false;
            }
            let older = super::place::text(&note.join("requires.txt")).unwrap_or_default();
            let needed = needed_distributions(&text, &self.release, false);
            for needed in needed.into_iter().chain(needed_distributions(&older, &self.release, true)) {
                if seen.len() > MOST_NEEDED {
                    return false;
                }
                if seen.insert(needed.clone()) {
                    waiting.push(needed);
                }
            }
        }
        true
    }
}

/// The note itself, of an installed package and not of a working copy.
fn read(note: &Path) -> Option<(PathBuf, String)> {
    let working_copy = super::place::text(&note.join("direct_url.json")).is_ok_and(|text| text.contains("\"editable\""));
    if note.as_os_str().is_empty() || working_copy {
        return None;
    }
    let files = [note.join("METADATA"), note.join("PKG-INFO"), note.to_owned()];
    files.into_iter().find_map(|file| Some((file.clone(), super::place::text(&file).ok()?)))
}

/// The modules and folders that a distribution brought, by its own list; none where it has no list.
fn modules(note: &Path) -> Vec<String> {
    let list = super::place::text(&note.join("RECORD")).unwrap_or_default();
    let mut first: Vec<&str> = Vec::new();
    for line in list.lines() {
        let path = line.split(',').next().unwrap_or_default().trim_matches('"');
        let top = path.split('/').next().unwrap_or_default();
        if !top.is_empty()
            && !top.starts_with('.')
            && top != "__pycache__"
            && !path.starts_with('/')
            && first.last() != Some(&top)
        {
            first.push(top);
        }
    }
    first.sort_unstable();
    first.dedup();
    first.into_iter().map(ToOwned::to_owned).collect()
}

/// Whether something of a module was changed after the note was written.
fn is_newer(module: &Path, note: &Path) -> bool {
    // The list of files is written last.
    let record = note.with_file_name("RECORD");
    let last = if record.is_file() { record } else { note.to_owned() };
    let Ok(written) = last.metadata().and_then(|known| known.modified()) else { return true };
    let later = |path: &Path| path.metadata().and_then(|known| known.modified()).is_ok_and(|changed| changed > written + LATER);
    if module.is_dir() {
        let entries = std::fs::read_dir(module).into_iter().flatten().take(MOST_NAMES).flatten().map(|entry| entry.path());
        entries.filter(|path| path.is_file()).any(|path| later(&path))
    } else {
        later(&module.with_extension("py"))
    }
}

fn has_ending(file: &str, ending: &str) -> bool {
    Path::new(file).extension().is_some_and(|kind| kind == ending)
}
