//! Files of a working copy (gitrepository-layout(5), gitmodules(5)).

/// The branch that a `HEAD` file names; none where a commit is checked out by itself.
pub fn branch_of_head(text: &str) -> Option<String> {
    text.trim().strip_prefix("ref:")?.trim().strip_prefix("refs/heads/").map(ToOwned::to_owned)
}

/// The paths of the submodules that a `.gitmodules` file names and that are meant to be fetched. A path that leads out of the working
/// copy is left out, as git itself refuses it.
pub fn submodule_paths(text: &str) -> Vec<String> {
    let mut paths: Vec<(Option<String>, bool)> = Vec::new();
    for line in text.lines().map(str::trim) {
        if line.starts_with("[submodule") {
            paths.push((None, true));
        }
        let Some((key, value)) = line.split_once('=') else { continue };
        let Some(last) = paths.last_mut() else { continue };
        let value = value.trim().trim_matches('"');
        match key.trim() {
            "path" => last.0 = Some(value.to_owned()),
            "update" => last.1 = value != "none",
            _ => {}
        }
    }
    let inside = |path: &String| !path.is_empty() && !path.starts_with('/') && !path.split(['/', '\\']).any(|part| part == "..");
    paths.into_iter().filter_map(|(path, wanted)| path.filter(|path| wanted && inside(path))).collect()
}

/// The commits that are recorded for submodules, by their paths, from `git ls-files -s -z` (git's manual).
pub fn gitlinks(text: &str) -> std::collections::HashMap<&str, String> {
    let one = |line: &'_ str| -> Option<(usize, String)> {
        let (about, path) = line.split_once('\t')?;
        let mut words = about.split(' ');
        (words.next()? == "160000").then_some(())?;
        Some((line.len() - path.len(), words.next()?.to_owned()))
    };
    text.split_terminator('\0').filter_map(|line| one(line).and_then(|(at, commit)| Some((line.get(at..)?, commit)))).collect()
}

/// The commit of a reference in the file of packed ones.
pub fn packed_ref(text: &str, name: &str) -> Option<String> {
    text.lines()
        .find_map(|line| line.split_once(' ').filter(|(_, other)| other.trim() == name))
        .map(|(commit, _)| commit.to_owned())
}

/// How the pointer of a large file begins (the Git LFS specification, version 1).
const POINTER: &[u8] = b"version https://git-lfs";

/// Whether a file's first bytes are the pointer of a large file.
pub fn is_large_file_pointer(head: &[u8]) -> bool {
    head.starts_with(POINTER)
}

#[cfg(test)]
mod tests {
    use super::{branch_of_head, submodule_paths};

    #[test]
    fn a_branch_is_told_from_a_commit() {
        assert_eq!(branch_of_head("ref: refs/heads/tide/spring\n").as_deref(), Some("tide/spring"));
        assert_eq!(branch_of_head("0123456789abcdef0123456789abcdef01234567\n"), None);
    }

    #[test]
    fn submodules_are_those_that_are_meant_to_be_fetched() {
        let text = "[submodule \"radio\"]\n\tpath = parts/radio\n\turl = ../radio\n[submodule \"old\"]\n\tpath = parts/old\n\tupdate = none\n\
                    [submodule \"out\"]\n\tpath = ../outside\n";
        assert_eq!(submodule_paths(text), ["parts/radio"]);
    }
}
