//! Values that must not be told: they are taken out of all that programs print.

use crate::guide::Guide;
use crate::observation::Run;
use crate::read::env_entries;
use std::path::Path;

/// What stands in the place of a value.
const HIDDEN: &str = "[hidden]";
/// A secret this short is no secret, and hiding it would tear other words apart.
const SHORTEST_SECRET: usize = 3;
/// The values of other variables are hidden from this length on: shorter ones are words such as `true` and `north`.
const SHORTEST_VALUE: usize = 8;

/// The values that are to be hidden.
#[derive(Clone, Default)]
pub(super) struct Secrets(Vec<String>);

impl std::fmt::Debug for Secrets {
    /// How many there are, and nothing about them.
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        write!(f, "Secrets({})", self.0.len())
    }
}

impl Secrets {
    /// The values of the variables that a guide speaks of, and of all keys in the files that may set them.
    pub(super) fn of(guide: &Guide, folder: &Path) -> Self {
        let mut values = Vec::new();
        let mut files = Vec::new();
        for requirement in &guide.requirements {
            let Some((name, file, secret)) = requirement.subject.sets() else { continue };
            files.extend(file.map(|file| (file, name, secret)));
            if let Ok(value) = std::env::var(name) {
                keep(&mut values, value, secret);
            }
        }
        let mut read: Vec<&String> = files.iter().map(|(file, ..)| *file).collect();
        read.sort();
        read.dedup();
        for file in read {
            let path = folder.join(file);
            if super::os::elsewhere(&path, &[folder]).is_some() || super::os::no_file(&path).is_some() {
                continue;
            }
            let text = super::place::text(&path).unwrap_or_default();
            for (_, key, value) in env_entries(&text) {
                let secret = files.iter().any(|(of, name, secret)| *of == file && *name == key && *secret);
                keep(&mut values, value, secret);
            }
        }
        // A value that holds another one must go first.
        values.sort_by_key(|value| std::cmp::Reverse(value.len()));
        values.dedup();
        Self(values)
    }

    /// The run without them.
    pub(super) fn hide(&self, run: Run) -> Run {
        Run { stdout: self.hidden(run.stdout), stderr: self.hidden(run.stderr), ..run }
    }

    fn hidden(&self, text: String) -> String {
        let mut text = text;
        for value in &self.0 {
            if text.contains(value.as_str()) {
                text = text.replace(value.as_str(), HIDDEN);
            }
        }
        if text.contains("://") { without_logins(&text) } else { text }
    }
}

fn keep(values: &mut Vec<String>, value: String, secret: bool) {
    let number = value.chars().all(|c| c.is_ascii_digit());
    let worth = if secret { value.len() >= SHORTEST_SECRET } else { value.len() >= SHORTEST_VALUE && !number };
    if worth {
        values.push(value);
    }
}

/// A text whose addresses have lost the names and passwords in them.
fn without_logins(text: &str) -> String {
    let mut parts = text.split("://");
    let mut clean = parts.next().unwrap_or_default().to_owned();
    for part in parts {
        clean.push_str("://");
        let authority = part.find(|c: char| c.is_whitespace() || "/?#\"'<>".contains(c)).unwrap_or(part.len());
        match part.get(..authority).and_then(|authority| authority.rfind('@')) {
            Some(at) => {
                clean.push_str(HIDDEN);
                clean.push_str(part.get(at..).unwrap_or_default());
            }
            None => clean.push_str(part),
        }
    }
    clean
}

#[cfg(test)]
mod tests {
    use super::Secrets;
    use rstest::rstest;

    #[rstest]
    #[case::a_value("signed with tide-4711, twice: tide-4711", "signed with [hidden], twice: [hidden]")]
    #[case::a_value_in_another("key tide-4711-long", "key [hidden]")]
    #[case::a_login("fetch https://ann:pw@files.example/a failed", "fetch https://[hidden]@files.example/a failed")]
    #[case::a_plain_address("see https://driftbuoy.example/ask?who=a@b", "see https://driftbuoy.example/ask?who=a@b")]
    fn values_are_taken_out_of_what_programs_print(#[case] printed: &str, #[case] shown: &str) {
        let secrets = Secrets(vec!["tide-4711-long".into(), "tide-4711".into()]);
        assert_eq!(secrets.hidden(printed.to_owned()), shown);
    }
}
