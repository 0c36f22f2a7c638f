use super::path::text_of;
use crate::read::sets_variable;
use std::path::Path;

/// Files that new shells and sessions read, at home.
const AT_HOME: [&str; 9] =
    [".profile", ".bash_profile", ".bashrc", ".zshenv", ".zprofile", ".zshrc", ".config/fish/config.fish", ".login", ".cshrc"];
/// The same for every user.
const FOR_ALL: [&str; 2] = ["/etc/environment", "/etc/profile"];

/// The first file that new terminals read and that sets a variable.
pub(in crate::live) fn startup_file_with(name: &str, home: Option<&Path>) -> Option<String> {
    let own = AT_HOME.into_iter().filter(|file| home.is_some_and(|home| sets_variable(&text_of(&home.join(file)), name)));
    let mut parts: Vec<_> =
        std::fs::read_dir("/etc/profile.d").into_iter().flatten().flatten().map(|entry| entry.path()).collect();
    parts.retain(|path| path.extension().is_some_and(|extension| extension == "sh"));
    parts.sort();
    let parts = parts.into_iter().filter(|path| sets_variable(&text_of(path), name)).map(|path| path.display().to_string());
    let mut all = own
        .map(|file| format!("~/{file}"))
        .chain(parts)
        .chain(FOR_ALL.into_iter().filter(|file| sets_variable(&text_of(Path::new(file)), name)).map(ToOwned::to_owned));
    all.next()
}
