//! What counts as the project: the whole working copy that its guide lies in.

use std::path::{Path, PathBuf};

/// Folders below the home folder in which people's own programs lie, beside those that languages use.
const OWN: [&str; 6] = [".cargo", ".gem", ".local/bin", ".local/share", ".rustup", "bin"];
/// The system's own folders.
const SYSTEM: [&str; 10] =
    ["/bin", "/lib", "/nix", "/opt", "/sbin", "/snap", "/usr", "/run/current-system", "/Applications", "/Library"];

/// A project's folder, with what nevertheless counts as outside.
#[derive(Debug, Clone)]
pub(super) struct WorkingCopy {
    /// The topmost folder, behind all links.
    pub(super) root: PathBuf,
    /// It is the home folder or holds it: the customary folders for programs in it are the person's.
    wide: bool,
    customary: Vec<PathBuf>,
}

impl WorkingCopy {
    /// The one that a folder lies in: the topmost folder above it that holds a `.git`, but not the home folder, which people keep their
    /// settings in, nor what holds that.
    pub(super) fn of(folder: &Path, home: Option<&Path>, usual: &[PathBuf]) -> Self {
        let home = home.map(|home| super::place::real(home).unwrap_or_else(|_| home.to_owned()));
        let holds_home = |folder: &Path| folder.parent().is_none() || home.as_ref().is_some_and(|home| home.starts_with(folder));
        let above = folder.ancestors().take_while(|above| *above == folder || !holds_home(above));
        let root = above.filter(|above| above.join(".git").symlink_metadata().is_ok()).last().unwrap_or(folder).to_owned();
        let wide = holds_home(&root);
        let own = home.iter().flat_map(|home| OWN.iter().map(|name| home.join(name)));
        let customary =
            if wide { own.chain(usual.iter().cloned()).chain(SYSTEM.iter().map(PathBuf::from)).collect() } else { Vec::new() };
        Self { root, wide, customary }
    }

    /// Whether a path lies in it; what links lead to is a question of its own.
    pub(super) fn holds(&self, path: &Path) -> bool {
        path.starts_with(&self.root) && !self.customary.iter().any(|folder| path.starts_with(folder))
    }

    /// The folder that no variable may mention; none where that would be every path of the person's.
    pub(super) fn unmentioned(&self) -> Option<&Path> {
        (!self.wide).then_some(&*self.root)
    }
}

#[cfg(test)]
mod tests {
    use super::WorkingCopy;
    use rstest::rstest;

    #[rstest]
    #[case::a_guide_in_a_folder_below("home/radio/docs", "home/radio/bin/git", true)]
    #[case::a_submodule("home/radio/vendor/chip", "home/radio/bin/git", true)]
    #[case::another_project("home/radio/docs", "home/other/bin/git", false)]
    #[case::settings_kept_in_the_home_folder("home/plain", "home/bin/git", false)]
    #[case::the_home_folder_itself("home", "home/scripts/git", true)]
    #[case::the_home_folder_itself_and_a_customary_folder("home", "home/.cargo/bin/git", false)]
    fn what_counts_as_the_project(#[case] guide: &str, #[case] path: &str, #[case] inside: bool) {
        let place = tempfile::tempdir().unwrap();
        let root = crate::live::place::real(place.path()).unwrap();
        for folder in
            ["home/.git", "home/radio/.git", "home/radio/docs", "home/radio/vendor/chip/.git", "home/other/.git", "home/plain"]
        {
            std::fs::create_dir_all(root.join(folder)).unwrap();
        }
        let copy = WorkingCopy::of(&root.join(guide), Some(&root.join("home")), &[]);
        assert_eq!(copy.holds(&root.join(path)), inside, "{copy:?}");
    }
}
