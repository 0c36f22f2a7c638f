//! What is looked at once in a run, since many questions rest on it: names in folders, start-up files, tables of the kernel.

use std::collections::HashMap;
use std::path::{Path, PathBuf};
use std::sync::{Arc, Mutex, OnceLock, PoisonError};

/// More names in a folder than these are not looked at.
const MOST_NAMES: usize = 1_000_000;

/// The names in a folder.
#[derive(Debug, Default)]
pub(super) struct Names {
    /// In ascending order.
    sorted: Vec<String>,
    /// By their small letters, only made when somebody asks.
    small: OnceLock<HashMap<String, usize>>,
}

impl Names {
    fn of(folder: &Path) -> Self {
        let entries = std::fs::read_dir(folder).into_iter().flatten().take(MOST_NAMES).flatten();
        let mut sorted: Vec<String> = entries.map(|entry| entry.file_name().to_string_lossy().into_owned()).collect();
        sorted.sort_unstable();
        Self { sorted, small: OnceLock::new() }
    }

    /// The names that begin so.
    pub(super) fn beginning<'n>(&'n self, beginning: &'n str) -> impl Iterator<Item = &'n str> {
        let first = self.sorted.partition_point(|name| name.as_str() < beginning);
        self.sorted.iter().skip(first).map(String::as_str).take_while(move |name| name.starts_with(beginning))
    }

    /// Whether there is something of this name.
    pub(super) fn has(&self, name: &str) -> bool {
        self.sorted.binary_search_by(|other| other.as_str().cmp(name)).is_ok()
    }

    /// The first name that differs from this one only in upper and lower case, or not at all.
    pub(super) fn alike(&self, name: &str) -> Option<&str> {
        let small = self.small.get_or_init(|| {
            let mut small = HashMap::with_capacity(self.sorted.len());
            for (at, name) in self.sorted.iter().enumerate() {
                small.entry(name.to_lowercase()).or_insert(at);
            }
            small
        });
        small.get(&name.to_lowercase()).and_then(|at| self.sorted.get(*at)).map(String::as_str)
    }
}

/// By its path, once it was looked at.
type Looked<T> = Mutex<HashMap<PathBuf, Arc<OnceLock<Arc<T>>>>>;

/// The processes that have each socket open, by its number.
#[cfg(target_os = "linux")]
pub(super) type Sockets = HashMap<u64, Vec<u32>>;

/// What was looked at in this run.
#[derive(Debug, Default)]
pub(super) struct RunCache {
    names: Looked<Names>,
    texts: Looked<str>,
    on_path: Mutex<Option<Arc<[PathBuf]>>>,
    elsewhere: Mutex<Option<Arc<[PathBuf]>>>,
    #[cfg(target_os = "linux")]
    sockets: Mutex<Option<Arc<Sockets>>>,
}

/// The folders that are kept, or those that are found.
fn folders(kept: &Mutex<Option<Arc<[PathBuf]>>>, find: impl FnOnce() -> Vec<PathBuf>) -> Arc<[PathBuf]> {
    let mut kept = kept.lock().unwrap_or_else(PoisonError::into_inner);
    Arc::clone(kept.get_or_insert_with(|| find().into()))
}

/// What is there by now, or what `look` gives: several that ask at the same time wait for one of them to look.
fn kept<T: ?Sized>(all: &Looked<T>, path: &Path, look: impl FnOnce() -> Arc<T>) -> Arc<T> {
    let place = {
        let mut all = all.lock().unwrap_or_else(PoisonError::into_inner);
        match all.get(path) {
            Some(place) => Arc::clone(place),
            None => Arc::clone(all.entry(path.to_owned()).or_default()),
        }
    };
    Arc::clone(place.get_or_init(look))
}

impl RunCache {
    /// The names in a folder; none where it cannot be read.
    pub(super) fn names(&self, folder: &Path) -> Arc<Names> {
        kept(&self.names, folder, || Arc::new(Names::of(folder)))
    }

    /// The name of something beside a path that differs from it only in upper and lower case.
    pub(super) fn alike(&self, path: &Path) -> Option<String> {
        self.names(path.parent()?).alike(&path.file_name()?.to_string_lossy()).map(ToOwned::to_owned)
    }

    /// The name of an example of a file that is not there, beside it.
    pub(super) fn example(&self, path: &Path) -> Option<String> {
        let name = path.file_name()?.to_string_lossy().into_owned();
        let folder = path.parent()?;
        let names = self.names(folder);
        let (stem, extension) = name.rsplit_once('.').filter(|(stem, _)| !stem.is_empty()).unwrap_or((name.as_str(), ""));
        let words = ["example", "sample", "template", "dist"];
        let behind = words.iter().map(|word| format!("{name}.{word}"));
        let between = words.iter().filter(|_| !extension.is_empty()).map(|word| format!("{stem}.{word}.{extension}"));
        behind.chain(between).find(|example| names.has(example) && folder.join(example).is_file())
    }

    /// The folders of PATH, each once.
    pub(super) fn on_path(&self, find: impl FnOnce() -> Vec<PathBuf>) -> Arc<[PathBuf]> {
        folders(&self.on_path, find)
    }

    /// The other folders in which programs usually are.
    pub(super) fn elsewhere(&self, find: impl FnOnce() -> Vec<PathBuf>) -> Arc<[PathBuf]> {
        folders(&self.elsewhere, find)
    }

    /// The text of a file that is none of the project's, which may be changed while this runs without anybody expecting it to be noticed; empty where it
    /// cannot be read.
    pub(super) fn text(&self, file: &Path) -> Arc<str> {
        self.text_by(file, |file| super::place::text(file).unwrap_or_default())
    }

    /// The same, read in another way.
    pub(super) fn text_by(&self, file: &Path, read: impl FnOnce(&Path) -> String) -> Arc<str> {
        kept(&self.texts, file, || read(file).into())
    }

    /// The same of one of the kernel's tables, which have no size that is known before.
    #[cfg(target_os = "linux")]
    pub(super) fn table(&self, file: &str) -> Arc<str> {
        self.text_by(Path::new(file), |file| std::fs::read_to_string(file).unwrap_or_default())
    }

    /// The processes that have each socket open, by its number.
    #[cfg(target_os = "linux")]
    pub(super) fn sockets(&self, look: impl FnOnce() -> Sockets) -> Arc<Sockets> {
        let mut sockets = self.sockets.lock().unwrap_or_else(PoisonError::into_inner);
        Arc::clone(sockets.get_or_insert_with(|| Arc::new(look())))
    }

    /// Forgets what the kernel said of sockets: it is looked at anew.
    #[cfg(target_os = "linux")]
    pub(super) fn forget_sockets(&self) {
        self.texts.lock().unwrap_or_else(PoisonError::into_inner).retain(|file, _| !file.starts_with("/proc/net"));
        *self.sockets.lock().unwrap_or_else(PoisonError::into_inner) = None;
    }

    /// Forgets everything: another run begins.
    pub(super) fn forget(&self) {
        self.names.lock().unwrap_or_else(PoisonError::into_inner).clear();
        self.texts.lock().unwrap_or_else(PoisonError::into_inner).clear();
        *self.on_path.lock().unwrap_or_else(PoisonError::into_inner) = None;
        *self.elsewhere.lock().unwrap_or_else(PoisonError::into_inner) = None;
        #[cfg(target_os = "linux")]
        self.forget_sockets();
    }
}

#[cfg(test)]
mod tests {
    use super::RunCache;

    #[test]
    fn a_folder_is_looked_at_once_a_run() {
        let folder = tempfile::tempdir().unwrap();
        let file = |name: &str| std::fs::write(folder.path().join(name), "a line\n").unwrap();
        ["python3.9", "python3.12", "python", "Charts", ".env.example"].into_iter().for_each(file);
        let kept = RunCache::default();
        let names = kept.names(folder.path());
        assert_eq!(names.beginning("python3").collect::<Vec<_>>(), ["python3.12", "python3.9"]);
        assert_eq!(kept.alike(&folder.path().join("charts")).as_deref(), Some("Charts"));
        assert_eq!(kept.example(&folder.path().join(".env")).as_deref(), Some(".env.example"));
        assert_eq!(&*kept.text(&folder.path().join("python")), "a line\n");
        // What changes is seen by the next run.
        file("tides");
        std::fs::write(folder.path().join("python"), "another\n").unwrap();
        assert!(!kept.names(folder.path()).has("tides"));
        assert_eq!(&*kept.text(&folder.path().join("python")), "a line\n");
        kept.forget();
        assert!(kept.names(folder.path()).has("tides"));
        assert_eq!(&*kept.text(&folder.path().join("python")), "another\n");
    }
}
