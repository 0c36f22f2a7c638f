//! Values that must not be told: they are taken out of all that a live machine answers, before anything of it is cut or shown.

use crate::read::env_entries;
use base64::Engine;
use base64::prelude::{BASE64_STANDARD, BASE64_STANDARD_NO_PAD, BASE64_URL_SAFE, BASE64_URL_SAFE_NO_PAD};
use serde::Serialize;
use serde::de::DeserializeOwned;
use serde_json::Value;
use setup_ready_core::guide::Guide;
use setup_ready_core::observation::{Observation, Run};
use setup_ready_core::privacy::without_logins;
use setup_ready_core::probe::Probe;
use std::collections::HashMap;
use std::path::Path;
use std::sync::{Mutex, PoisonError};

/// What stands in the place of a value.
const HIDDEN: &str = "[hidden]";
/// A secret this short is no secret, and hiding it would tear other words apart.
const SHORTEST_SECRET: usize = 3;
/// The values of other variables, and single lines of values, are hidden from this length on: shorter ones are words such as `true` and `north`.
const SHORTEST_VALUE: usize = 8;
/// So many texts with hidden parts are remembered by what they were, since programs are started by them.
const MOST_REMEMBERED: usize = 10_000;

/// The values that are to be hidden.
#[derive(Default)]
pub(super) struct Secrets {
    /// Every spelling of them, the longest first.
    spellings: Vec<String>,
    /// Paths and the like that held one, by what was told instead: a question about the one means the other.
    told: Mutex<HashMap<String, String>>,
}

impl std::fmt::Debug for Secrets {
    /// How many there are, and nothing about them.
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        write!(f, "Secrets({})", self.spellings.len())
    }
}

impl Secrets {
    /// The values of the variables that a guide speaks of, and of all keys in the files that may set them.
    pub(super) fn of(guide: &Guide, folder: &Path) -> Self {
        let mut values = Vec::new();
        let mut files = Vec::new();
        // What a guide lets people move is shown: it can only be a number, an address, the name of a host or a path.
        let is_value = |name: &str| guide.values.iter().any(|value| value.set_by.variable.as_deref() == Some(name));
        for requirement in &guide.requirements {
            let Some((name, file, secret)) = requirement.subject.sets() else { continue };
            files.extend(file.map(|file| (file, name, secret)));
            if let Ok(value) = std::env::var(name)
                && (secret || !is_value(name))
            {
                keep(&mut values, &value, secret);
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
            for entry in env_entries(&text) {
                let secret = files.iter().any(|(of, name, secret)| *of == file && *name == entry.name && *secret);
                if secret || !is_value(entry.name) {
                    keep(&mut values, &entry.value, secret);
                }
            }
        }
        Self::new(&values)
    }

    fn new(values: &[String]) -> Self {
        let mut spellings: Vec<String> = values.iter().flat_map(|value| spelled(value)).collect();
        // A value that holds another one must go first.
        spellings.sort_by(|a, b| b.len().cmp(&a.len()).then_with(|| a.cmp(b)));
        spellings.dedup();
        Self { spellings, told: Mutex::default() }
    }

    /// The run without them. Where its output was cut, a value that the cut went through is taken out as well.
    pub(super) fn hide(&self, run: Run) -> Run {
        let hidden = |text: String| self.without_cut(self.hidden(text), run.cut);
        Run { stdout: hidden(run.stdout), stderr: hidden(run.stderr), ..run }
    }

    fn hidden(&self, text: String) -> String {
        let mut text = text;
        for value in &self.spellings {
            if text.contains(value.as_str()) {
                text = text.replace(value.as_str(), HIDDEN);
            }
        }
        if text.contains("://") { without_logins(&text) } else { text }
    }

    /// A text that may have been cut within a value, without the beginning of that value at its end.
    fn without_cut(&self, mut text: String, cut: bool) -> String {
        if !cut {
            return text;
        }
        let begun = |value: &String| {
            let ends = value.char_indices().map(|(at, _)| at).skip(1);
            ends.filter(|at| value.get(..*at).is_some_and(|start| text.ends_with(start))).max()
        };
        if let Some(length) = self.spellings.iter().filter_map(begun).max() {
            text.truncate(text.len() - length);
            text.push_str(HIDDEN);
        }
        text
    }

    /// An answer without them, wherever in it they stand: in paths, names of branches, command lines, targets of links.
    pub(super) fn hide_in(&self, observation: Observation) -> Observation {
        if self.spellings.is_empty() {
            return observation;
        }
        changed(&observation, &|text| {
            let hidden = self.hidden(text.to_owned());
            if hidden != text {
                let mut told = self.told.lock().unwrap_or_else(PoisonError::into_inner);
                if told.len() < MOST_REMEMBERED {
                    told.insert(hidden.clone(), text.to_owned());
                }
            }
            hidden
        })
        .unwrap_or(observation)
    }

    /// A question as it was meant: about what was told with hidden parts, it is about the thing itself.
    pub(super) fn unredact(&self, probe: &Probe) -> Option<Probe> {
        let told = self.told.lock().unwrap_or_else(PoisonError::into_inner);
        let thing = |text: &String| told.get(text).cloned();
        // What a host told before comes back in these alone.
        if let Probe::Run { path, arguments, permission } = probe {
            let (arguments, permission) = (arguments.clone(), permission.clone());
            Some(Probe::Run { path: thing(path)?, arguments, permission })
        } else if let Probe::FileVersion { path } = probe {
            Some(Probe::FileVersion { path: thing(path)? })
        } else if let Probe::RecordedVersion { tool, path } = probe {
            Some(Probe::RecordedVersion { tool: tool.clone(), path: thing(path)? })
        } else if let Probe::SystemService { name } = probe {
            Some(Probe::SystemService { name: thing(name)? })
        } else {
            None
        }
    }
}

/// A value with its texts changed; `None` where nothing changes.
fn changed<T: Serialize + DeserializeOwned>(value: &T, change: &dyn Fn(&str) -> String) -> Option<T> {
    let mut tree = serde_json::to_value(value).ok()?;
    if !change_texts(&mut tree, change) {
        return None;
    }
    serde_json::from_value(tree).ok()
}

/// Changes every text in a tree; whether any changed.
fn change_texts(tree: &mut Value, change: &dyn Fn(&str) -> String) -> bool {
    match tree {
        Value::String(text) => {
            let new = change(text);
            let differs = new != *text;
            *text = new;
            differs
        }
        Value::Array(list) => list.iter_mut().map(|value| change_texts(value, change)).filter(|changed| *changed).count() > 0,
        Value::Object(table) => {
            table.values_mut().map(|value| change_texts(value, change)).filter(|changed| *changed).count() > 0
        }
        Value::Null | Value::Bool(_) | Value::Number(_) => false,
    }
}

fn keep(values: &mut Vec<String>, value: &str, secret: bool) {
    let number = value.chars().all(|c| c.is_ascii_digit());
    let worth = if secret { value.len() >= SHORTEST_SECRET } else { value.len() >= SHORTEST_VALUE && !number };
    if worth {
        values.push(value.to_owned());
    }
    // Of a value of several lines each tells something.
    if value.contains('\n') {
        values.extend(value.lines().map(str::trim).filter(|line| line.len() >= SHORTEST_VALUE).map(ToOwned::to_owned));
    }
}

/// A value as it stands, and in the encodings in which programs print values: Base64 and its form for addresses (RFC 4648), hexadecimal
/// digits, percent signs (RFC 3986) and those of forms, JSON, and quotes of shells.
fn spelled(value: &str) -> Vec<String> {
    let mut all = vec![value.to_owned()];
    if value.len() >= SHORTEST_VALUE {
        all.extend([BASE64_STANDARD, BASE64_URL_SAFE].map(|engine| engine.encode(value)));
        all.extend([BASE64_STANDARD_NO_PAD, BASE64_URL_SAFE_NO_PAD].map(|engine| engine.encode(value)));
        let hex = crate::guide_file::hex(value.as_bytes());
        all.extend([hex.to_uppercase(), hex]);
    }
    for (keeps, space) in [("-_.~", "%20"), ("-_.~/", "%20"), ("-_.*", "+"), ("-_.~!*'()", "%20")] {
        let upper = percented(value, keeps, space);
        all.extend([lower_escapes(&upper), upper]);
    }
    all.extend(serde_json::to_string(value).ok().and_then(|text| Some(text.strip_prefix('"')?.strip_suffix('"')?.to_owned())));
    all.push(value.replace('\'', r"'\''"));
    all.extend(
        [value.replace('\n', "\r\n"), value.replace('\n', " "), value.replace('\n', "")]
            .into_iter()
            .filter(|_| value.contains('\n')),
    );
    all
}

fn percented(value: &str, keeps: &str, space: &str) -> String {
    use std::fmt::Write;
    value.bytes().fold(String::new(), |mut text, byte| {
        match byte {
            b' ' => text.push_str(space),
            _ if byte.is_ascii_alphanumeric() || keeps.as_bytes().contains(&byte) => text.push(char::from(byte)),
            _ => drop(write!(text, "%{byte:02X}")),
        }
        text
    })
}

/// The same with small letters after percent signs.
fn lower_escapes(text: &str) -> String {
    let mut parts = text.split('%');
    let mut all = parts.next().unwrap_or_default().to_owned();
    for part in parts {
        all.push('%');
        let (digits, rest) = part.split_at_checked(2).unwrap_or((part, ""));
        all.push_str(&digits.to_lowercase());
        all.push_str(rest);
    }
    all
}

#[cfg(test)]
mod tests {
    use super::{HIDDEN, Secrets};
    use proptest::prelude::*;
    use rstest::rstest;
    use setup_ready_core::observation::{Observation, Run, RunEnd};
    use setup_ready_core::probe::Probe;

    #[rstest]
    #[case::a_value("signed with tide-4711, twice: tide-4711", "signed with [hidden], twice: [hidden]")]
    #[case::a_value_in_another("key tide-4711-long", "key [hidden]")]
    #[case::in_base64("token dGlkZS00NzExLWxvbmc=", "token [hidden]")]
    #[case::in_hexadecimal_digits("token 746964652d343731312d6c6f6e67", "token [hidden]")]
    #[case::a_login("fetch https://ann:pw@files.example/a failed", "fetch https://[hidden]@files.example/a failed")]
    #[case::a_plain_address("see https://driftbuoy.example/ask?who=a@b", "see https://driftbuoy.example/ask?who=a@b")]
    fn values_are_taken_out_of_what_programs_print(#[case] printed: &str, #[case] shown: &str) {
        let secrets = Secrets::new(&["tide-4711-long".into(), "tide-4711".into()]);
        assert_eq!(secrets.hidden(printed.to_owned()), shown);
    }

    #[test]
    fn a_question_about_what_was_told_means_the_thing_itself() {
        let secrets = Secrets::new(&["tide-4711".into()]);
        let path = "/opt/tide-4711/cmake";
        let told = secrets.hide_in(Observation::FileVersion(Some(path.into())));
        assert_eq!(told, Observation::FileVersion(Some(format!("/opt/{HIDDEN}/cmake"))));
        let unredact = secrets.unredact(&Probe::FileVersion { path: format!("/opt/{HIDDEN}/cmake") });
        assert_eq!(unredact, Some(Probe::FileVersion { path: path.into() }));
    }

    proptest! {
        /// Whatever stands around a value, in whichever encoding, and wherever the output was cut: no good part of it is left.
        #[test]
        fn no_cut_shows_a_value(value in "[a-zA-Z0-9+/=%' _.-]{9,40}", before in "[ -~]{0,20}", at in 0usize..200, form in 0usize..20) {
            let spellings = super::spelled(&value);
            let spelling = &spellings[form % spellings.len()];
            let whole = format!("{before}{spelling} and more after it");
            let cut = whole.get(..at.min(whole.len())).unwrap_or(&whole).to_owned();
            let was_cut = cut.len() < whole.len();
            let run = Run { end: RunEnd::Exit(0), stdout: cut, stderr: String::new(), cut: was_cut };
            let shown = Secrets::new(std::slice::from_ref(&value)).hide(run).stdout;
            let good_part: String = spelling.chars().take(8).collect();
            prop_assume!(!before.contains(&good_part) && !" and more after it".contains(&good_part));
            prop_assert!(!shown.contains(&good_part), "{shown}");
        }
    }
}
