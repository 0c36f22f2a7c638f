//! What a file outside the project holds is nobody's business: one pattern tells one thing about it, many of them would spell it out.

use super::{Live, place};
use setup_ready_core::guide::{Guide, PathKind, Subject};
use setup_ready_core::text::Pattern;
use std::collections::{BTreeSet, HashMap};
use std::path::PathBuf;

/// The patterns that a guide may not ask outside the project.
#[derive(Debug, Default)]
pub(super) struct SpelledOut {
    /// Files of which it asks more than one.
    files: Vec<PathBuf>,
    /// Patterns that it asks of files which a value leads to: where that is moved to is not known before, and may be one place for all.
    moved: BTreeSet<String>,
}

/// Whether a pattern is a plain name: asking for it in a folder tells no more than asking for the file itself.
fn is_plain(pattern: &str) -> bool {
    pattern.chars().all(|c| c.is_alphanumeric() || "_- ".contains(c))
}

impl SpelledOut {
    pub(super) fn of(live: &Live, guide: &Guide) -> Self {
        let mut asked: HashMap<PathBuf, &str> = HashMap::new();
        let mut all = Self::default();
        for requirement in &guide.requirements {
            let Subject::Path(path) = &requirement.subject else { continue };
            let counts = |pattern: &&str| path.kind == PathKind::File || !is_plain(pattern);
            for pattern in path.contains.iter().map(Pattern::source).filter(counts) {
                if !requirement.values.is_empty() {
                    all.moved.insert(pattern.to_owned());
                }
                for place in [&path.path].into_iter().chain(&path.or) {
                    let real = real_place(live, place);
                    if !live.project.holds(&real) && *asked.entry(real.clone()).or_insert(pattern) != pattern {
                        all.files.push(real);
                    }
                }
            }
        }
        // One pattern tells one thing, wherever it is asked.
        if all.moved.len() == 1 {
            all.moved.clear();
        }
        all
    }

    /// Why a pattern is not looked for at a place.
    pub(super) fn refusal(&self, live: &Live, path: &str, pattern: &str) -> Option<&'static str> {
        let real = real_place(live, path);
        let refused = self.files.contains(&real) || (self.moved.contains(pattern) && !live.project.holds(&real));
        refused.then_some(
            "the guide asks several patterns of this file, which lies outside the project: together they would tell what it holds",
        )
    }
}

fn real_place(live: &Live, path: &str) -> PathBuf {
    let path = live.place(path);
    place::real(&path).unwrap_or(path)
}
