//! What no separate program can see, and the line to type that shows it: aliases, functions and remembered paths of the running shell.

use crate::finding::Finding;
use crate::fix::Shell;
use crate::guide::{Existence, Requirement, Subject};
use crate::prelude::*;
use crate::verdict::Verdict;

/// What to type where the check says met and the person still cannot, and what to do with each answer.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct Limitation {
    /// The line to type.
    pub line: String,
    /// What may come, and what to do then.
    pub answers: Vec<(String, String)>,
}

/// What is beyond the sight of a check that found its tool; `None` for what a shell cannot hide.
pub fn limitations(requirement: &Requirement, finding: &Finding, shell: Shell) -> Option<Limitation> {
    let Subject::Tool(tool) = &requirement.subject else { return None };
    let name = tool.names.first().filter(|_| tool.expect == Existence::Present && finding.verdict() == Verdict::Met)?;
    let answer = |what: &str, then: String| (what.to_owned(), then);
    let stays = "take its line out of your start-up file, too";
    Some(match shell {
        Shell::Posix => Limitation {
            line: format!("type {name}"),
            answers: vec![
                answer("an alias", format!("unalias {name} takes it away in this terminal; {stays}.")),
                answer("a function", format!("unset -f {name} takes it away in this terminal; {stays}.")),
                answer("hashed, or a file that is gone", "hash -r makes the shell look anew; in zsh it is rehash.".to_owned()),
                answer(
                    "another file than above",
                    "PATH differs in this terminal: open a new one and check again there.".to_owned(),
                ),
            ],
        },
        Shell::Csh => Limitation {
            line: format!("which {name}"),
            answers: vec![
                answer("an alias", format!("unalias {name} takes it away in this terminal; {stays}.")),
                answer(
                    "another file than above, or none",
                    "rehash makes the shell look anew; or open a new terminal and check again there.".to_owned(),
                ),
            ],
        },
        Shell::Fish => Limitation {
            line: format!("type {name}"),
            answers: vec![
                answer(
                    "a function (fish's aliases are some)",
                    format!("functions -e {name} takes it away in this terminal; {stays}."),
                ),
                answer(
                    "another file than above",
                    "PATH differs in this terminal: open a new one and check again there.".to_owned(),
                ),
            ],
        },
        Shell::PowerShell => Limitation {
            line: format!("Get-Command {name}"),
            answers: vec![
                answer(
                    "an alias or a function",
                    format!("Remove-Item Alias:{name} (or Function:{name}) takes it away; {stays}."),
                ),
                answer(
                    "another file than above",
                    "PATH differs in this terminal: open a new one and check again there.".to_owned(),
                ),
            ],
        },
        Shell::Cmd => Limitation {
            line: format!("doskey /macros | findstr /i {name}"),
            answers: vec![
                answer("a line with that name", format!("doskey {name}= takes the macro away in this terminal.")),
                answer("nothing", "no macro hides it: open a new terminal and check again there.".to_owned()),
            ],
        },
    })
}
