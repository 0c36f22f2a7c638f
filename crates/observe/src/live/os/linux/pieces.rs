use crate::read::{elf_needs, loader_cache};
use object::ReadCache;
use setup_ready_core::observation::Piece;
use std::collections::HashSet;
use std::fs::File;
use std::path::{Path, PathBuf};
use std::sync::OnceLock;

/// Where the loader looks when nothing else names a folder (ld.so(8)); multi-architecture systems list theirs in the cache.
const DEFAULT_FOLDERS: [&str; 4] = ["/lib64", "/usr/lib64", "/lib", "/usr/lib"];

/// Which pieces a program's file needs and this system does not have. Only the libraries that it names itself are looked for: what is
/// missing behind those, the loader tells when it is started.
pub(in crate::live) fn lacks(path: &Path) -> Vec<Piece> {
    let Ok(file) = File::open(path) else { return Vec::new() };
    let Some(needs) = elf_needs(&ReadCache::new(file)) else { return Vec::new() };
    let Some(loader) = needs.loader else { return Vec::new() };
    if !Path::new(&loader).exists() {
        return vec![Piece::Loader(loader)];
    }
    // Other loaders have their own places to look.
    let glibc = Path::new(&loader).file_name().is_some_and(|name| name.to_string_lossy().starts_with("ld-linux"));
    let usual = loader.starts_with("/lib/") || loader.starts_with("/lib64/");
    let Some(cache) = cache().filter(|_| glibc && usual) else { return Vec::new() };
    let origin = path.parent().unwrap_or(path).display().to_string();
    let environment = std::env::var("LD_LIBRARY_PATH").unwrap_or_default();
    let folders = needs.folders.iter().map(|folder| folder.replace("${ORIGIN}", &origin).replace("$ORIGIN", &origin));
    let folders: Vec<String> = folders
        .chain(environment.split([':', ';']).map(ToOwned::to_owned))
        .chain(DEFAULT_FOLDERS.map(ToOwned::to_owned))
        .collect();
    // A folder with a token that only the loader knows may have anything.
    if folders.iter().any(|folder| folder.contains('$')) {
        return Vec::new();
    }
    let there = |name: &String| {
        if name.contains('/') {
            Path::new(name).exists()
        } else {
            cache.contains(name) || folders.iter().any(|folder| Path::new(folder).join(name).exists())
        }
    };
    needs.libraries.into_iter().filter(|name| !there(name)).map(Piece::Library).collect()
}

/// More libraries than these are not followed.
const MOST_LIBRARIES: usize = 400;

/// Whether all shared libraries that a program needs, and those that they need, are there as files. `false` also where one lies where only its loader would look.
pub(in crate::live) fn is_whole(path: &Path) -> bool {
    let triplet = format!("{}-linux-gnu", std::env::consts::ARCH);
    let usual: Vec<PathBuf> = DEFAULT_FOLDERS
        .iter()
        .map(PathBuf::from)
        .chain(["/lib", "/usr/lib", "/usr/local/lib"].map(|folder| Path::new(folder).join(&triplet)))
        .collect();
    let mut seen: HashSet<PathBuf> = HashSet::new();
    let mut waiting = vec![path.to_owned()];
    while let Some(file) = waiting.pop() {
        let Some(needs) = File::open(&file).ok().and_then(|opened| elf_needs(&ReadCache::new(opened))) else {
            // A script needs none; anything else that is no program of this system is no library.
            return file == path;
        };
        let origin = file.parent().unwrap_or(&file).display().to_string();
        let own =
            needs.folders.iter().map(|folder| PathBuf::from(folder.replace("${ORIGIN}", &origin).replace("$ORIGIN", &origin)));
        let folders: Vec<PathBuf> = own.chain(usual.iter().cloned()).collect();
        for library in &needs.libraries {
            let Some(found) = folders.iter().map(|folder| folder.join(library)).find(|file| file.is_file()) else { return false };
            if seen.len() >= MOST_LIBRARIES {
                return false;
            }
            if seen.insert(found.clone()) {
                waiting.push(found);
            }
        }
    }
    true
}

/// The shared object that programs load for a library with this name, where there is one.
pub(in crate::live) fn loads(library: &str) -> Option<String> {
    let wanted = format!("lib{}.so.", library.strip_prefix("lib").unwrap_or(library));
    let fits = |name: &&String| name.starts_with(&wanted);
    if let Some(name) = cache().and_then(|cache| cache.iter().filter(fits).min()) {
        return Some(name.clone());
    }
    // Loaders without a cache look into folders.
    let names = DEFAULT_FOLDERS.iter().filter_map(|folder| std::fs::read_dir(folder).ok()).flatten().flatten();
    names.map(|entry| entry.file_name().to_string_lossy().into_owned()).find(|name| name.starts_with(&wanted))
}

/// The names in the loader's cache, read once.
fn cache() -> Option<&'static HashSet<String>> {
    static CACHE: OnceLock<Option<HashSet<String>>> = OnceLock::new();
    CACHE.get_or_init(|| loader_cache(&std::fs::read("/etc/ld.so.cache").ok()?)).as_ref()
}
