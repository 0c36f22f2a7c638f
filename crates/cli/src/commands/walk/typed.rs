//! What the person types at a stop, and which requirement or word they mean.

use setup_ready_core::cause::Cause;
use setup_ready_core::guide::Guide;

/// What the person wants at a stop.
pub(super) enum WalkCommand {
    CheckAgain,
    /// Of what; of all that is open, where nothing is named.
    Explain(Option<String>),
    Skip,
    Quit,
    Help,
    Unclear(String),
}

/// More of what is none of the words is not repeated.
const MOST_REPEATED: usize = 60;

impl WalkCommand {
    pub(super) fn of(line: &str) -> Self {
        let line = line.trim();
        let (first, rest) = line.split_once(char::is_whitespace).unwrap_or((line, ""));
        let rest = rest.trim();
        match (first.to_lowercase().as_str(), rest) {
            ("", _) => Self::CheckAgain,
            ("explain" | "e", "") => Self::Explain(None),
            ("explain" | "e", what) => Self::Explain(Some(what.to_owned())),
            ("skip" | "s", "") => Self::Skip,
            ("quit" | "q" | "exit", "") => Self::Quit,
            ("help" | "h" | "?", "") => Self::Help,
            _ => Self::Unclear(shortened(line)),
        }
    }
}

fn shortened(line: &str) -> String {
    match line.char_indices().nth(MOST_REPEATED) {
        Some((end, _)) => format!("{}...", line.get(..end).unwrap_or_default()),
        None => line.to_owned(),
    }
}

/// What a word after `explain` means.
pub(super) enum ExplainTarget {
    Requirement(usize),
    Cause(Cause),
    Nothing,
}

/// By its id, as reports call it, or by a part of that which only one of them has.
pub(super) fn resolve_target(guide: &Guide, word: &str) -> ExplainTarget {
    if let Some(index) = guide.find(word) {
        return ExplainTarget::Requirement(index);
    }
    if let Some(cause) = Cause::from_word(word) {
        return ExplainTarget::Cause(cause);
    }
    let word = word.to_lowercase();
    let titles: Vec<String> = guide.requirements.iter().map(|one| one.title().to_lowercase()).collect();
    let whole = titles.iter().position(|title| *title == word);
    let mut parts = titles.iter().enumerate().filter(|(_, title)| title.contains(&word)).map(|(index, _)| index);
    match (whole, parts.next(), parts.next()) {
        (Some(index), _, _) | (None, Some(index), None) => ExplainTarget::Requirement(index),
        (None, _, _) => ExplainTarget::Nothing,
    }
}
