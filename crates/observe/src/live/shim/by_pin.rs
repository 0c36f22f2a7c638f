//! Managers of one language that keep a version a folder and read one pin: a variable, a file of the project, a file of their own. They are known
//! by how their folder is called and laid out: a short form of the language and `env`, with `shims` and `versions` in it.

use super::{Live, ShimTarget, is_version, nearest, variable};
use setup_ready_core::version::Version;
use std::cmp::Ordering;
use std::path::Path;

/// What differs between them.
struct Manager {
    /// What stands before `env` in their names.
    language: &'static str,
    /// The project's file that pins a version.
    file: &'static str,
    /// What pins may put before the number.
    prefixes: &'static [&'static str],
    /// Whether `3.11` means the newest `3.11.` something that is there.
    by_series: bool,
    /// The word that stands in its program `...-which` where it goes on to the rest of PATH when no version has the program.
    goes_on: Option<&'static str>,
}

/// Sources: the managers' own manuals.
const MANAGERS: [Manager; 5] = [
    Manager {
        language: "py",
        file: ".python-version",
        prefixes: &["python-"],
        by_series: true,
        goes_on: Some("nonexistent_versions"),
    },
    Manager { language: "rb", file: ".ruby-version", prefixes: &["ruby-"], by_series: false, goes_on: None },
    Manager { language: "nod", file: ".node-version", prefixes: &["v", "node-v", "node-"], by_series: false, goes_on: None },
    Manager { language: "go", file: ".go-version", prefixes: &[], by_series: true, goes_on: None },
    Manager { language: "j", file: ".java-version", prefixes: &[], by_series: false, goes_on: None },
];

pub(super) fn stand(live: &Live, path: &Path, name: &str) -> Option<ShimTarget> {
    let shims = path.parent().filter(|folder| folder.ends_with("shims"))?;
    let root = shims.parent().filter(|root| root.join("versions").is_dir() && !live.project.holds(root))?;
    let called = root.file_name()?.to_str()?.trim_start_matches('.');
    let manager = MANAGERS.iter().find(|manager| called.strip_suffix("env") == Some(manager.language))?;
    Some(manager.chosen(live, (root, called), name))
}

impl Manager {
    fn chosen(&self, live: &Live, (root, called): (&Path, &str), name: &str) -> ShimTarget {
        let by_variable = format!("{}_VERSION", called.to_ascii_uppercase());
        let (pin, said_in) = if let Some(pin) = variable(&by_variable) {
            (pin, format!("the variable {by_variable}"))
        } else if let Some((text, place)) = nearest(live, self.file) {
            (text, place.display().to_string())
        } else if let Ok(text) = super::place::text(&root.join("version")) {
            (text, root.join("version").display().to_string())
        } else {
            return ShimTarget::NextOnPath;
        };
        let lines = pin.lines().map(|line| line.split('#').next().unwrap_or_default());
        let words: Vec<&str> =
            lines.flat_map(|line| line.split([':', ' ', '\t'])).map(str::trim).filter(|word| !word.is_empty()).collect();
        let Some(first) = words.first() else { return ShimTarget::NextOnPath };
        // Several may be active together: the first that has the program counts.
        for word in &words {
            if *word == "system" {
                return ShimTarget::NextOnPath;
            }
            if !is_version(word) {
                return ShimTarget::Unclear;
            }
            if let Some(folder) = self.folder(root, word) {
                let file = root.join("versions").join(folder).join("bin").join(name);
                if file.is_file() {
                    return ShimTarget::For(file);
                }
            }
        }
        let which = || super::place::text(&root.join("libexec").join(format!("{called}-which"))).unwrap_or_default();
        let what = format!("{name} of {first}");
        if self.goes_on.is_some_and(|word| which().contains(word)) {
            ShimTarget::NextElse(what, said_in)
        } else {
            ShimTarget::Absent(what, said_in)
        }
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
        let ordered = of_series.filter_map(|name| Some((Version::parse(&name).ok()?, name)));
        ordered.max_by(|a, b| a.0.compare(&b.0).unwrap_or(Ordering::Equal)).map(|(_, name)| name)
    }
}
