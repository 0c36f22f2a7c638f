//! Managers of one language that keep a version a folder and read one pin: a variable, a file of the project, a file of their own.

use super::{Live, Stand, is_version, nearest, root, variable};
use std::path::Path;

struct Manager {
    root_variable: &'static str,
    at_home: &'static str,
    version_variable: &'static str,
    file: &'static str,
    /// What pins may put before the number.
    prefixes: &'static [&'static str],
    /// Whether `3.11` means the newest `3.11.` something that is there.
    by_series: bool,
    /// The manager's own file in which this word stands where it goes on to the rest of PATH when no version has the program.
    goes_on: Option<(&'static str, &'static str)>,
}

/// Sources: the managers' own manuals.
const MANAGERS: [Manager; 5] = [
    Manager {
        root_variable: "PYENV_ROOT",
        at_home: ".pyenv",
        version_variable: "PYENV_VERSION",
        file: ".python-version",
        prefixes: &["python-"],
        by_series: true,
        goes_on: Some(("libexec/pyenv-which", "nonexistent_versions")),
    },
    Manager {
        root_variable: "RBENV_ROOT",
        at_home: ".rbenv",
        version_variable: "RBENV_VERSION",
        file: ".ruby-version",
        prefixes: &["ruby-"],
        by_series: false,
        goes_on: None,
    },
    Manager {
        root_variable: "NODENV_ROOT",
        at_home: ".nodenv",
        version_variable: "NODENV_VERSION",
        file: ".node-version",
        prefixes: &["v", "node-v", "node-"],
        by_series: false,
        goes_on: None,
    },
    Manager {
        root_variable: "GOENV_ROOT",
        at_home: ".goenv",
        version_variable: "GOENV_VERSION",
        file: ".go-version",
        prefixes: &[],
        by_series: true,
        goes_on: None,
    },
    Manager {
        root_variable: "JENV_ROOT",
        at_home: ".jenv",
        version_variable: "JENV_VERSION",
        file: ".java-version",
        prefixes: &[],
        by_series: false,
        goes_on: None,
    },
];

pub(super) fn stand(live: &Live, path: &Path, name: &str) -> Option<Stand> {
    MANAGERS.iter().find_map(|manager| {
        let root = root(live, manager.root_variable, manager.at_home)?;
        (path.parent() == Some(&root.join("shims"))).then(|| manager.chosen(live, &root, name))
    })
}

impl Manager {
    fn chosen(&self, live: &Live, root: &Path, name: &str) -> Stand {
        let (pin, said_in) = if let Some(pin) = variable(self.version_variable) {
            (pin, format!("the variable {}", self.version_variable))
        } else if let Some((text, place)) = nearest(live, self.file) {
            (text, place.display().to_string())
        } else if let Ok(text) = super::place::text(&root.join("version")) {
            (text, root.join("version").display().to_string())
        } else {
            return Stand::NextOnPath;
        };
        let lines = pin.lines().map(|line| line.split('#').next().unwrap_or_default());
        let words: Vec<&str> =
            lines.flat_map(|line| line.split([':', ' ', '\t'])).map(str::trim).filter(|word| !word.is_empty()).collect();
        let Some(first) = words.first() else { return Stand::NextOnPath };
        // Several may be active together: the first that has the program counts.
        for word in &words {
            if *word == "system" {
                return Stand::NextOnPath;
            }
            if !is_version(word) {
                return Stand::Unclear;
            }
            if let Some(folder) = self.folder(root, word) {
                let file = root.join("versions").join(folder).join("bin").join(name);
                if file.is_file() {
                    return Stand::For(file);
                }
            }
        }
        let text = |file: &str| super::place::text(&root.join(file)).unwrap_or_default();
        let goes_on = self.goes_on.is_some_and(|(file, word)| text(file).contains(word));
        let absent = (format!("{name} of {first}"), said_in);
        if goes_on { Stand::NextElse(absent.0, absent.1) } else { Stand::Absent(absent.0, absent.1) }
    }

    /// The folder of a version among those that are there.
    fn folder(&self, root: &Path, word: &str) -> Option<String> {
        let versions = root.join("versions");
        let plain = self.prefixes.iter().find_map(|prefix| word.strip_prefix(prefix)).unwrap_or(word);
        if let Some(exact) = [word, plain].into_iter().find(|name| versions.join(name).is_dir()) {
            return Some(exact.to_owned());
        }
        let entries = std::fs::read_dir(&versions).ok().filter(|_| self.by_series)?;
        let names = entries.flatten().filter_map(|entry| entry.file_name().into_string().ok());
        let of_series = names.filter(|name| name.strip_prefix(plain).is_some_and(|rest| rest.starts_with('.')));
        of_series
            .filter_map(|name| Some((crate::version::Version::parse(&name).ok()?, name)))
            .max_by(|a, b| a.0.compare(&b.0).unwrap_or(std::cmp::Ordering::Equal))
            .map(|(_, name)| name)
    }
}
