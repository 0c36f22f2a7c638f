//! `[expect]` of a described machine, written anew: what came of each requirement, with all else in the file as it is.

use setup_ready_core::draft::quoted;
use setup_ready_core::report::Report;
use setup_ready_core::settled::RequirementResult;
use setup_ready_core::verdict::Verdict;
use setup_ready_observe::Described;

/// One line of `[expect]` that is to be another: taken away, put there, or both.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct Rewritten {
    /// The line that goes.
    pub before: Option<String>,
    /// The line that comes.
    pub after: Option<String>,
}

/// A description with what it expects written anew.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct NewExpectation {
    /// The whole file.
    pub text: String,
    /// The lines that are others than before; none where all is as expected.
    pub changes: Vec<Rewritten>,
}

/// Why `[expect]` cannot be written anew.
#[derive(Debug, Clone, Copy, PartialEq, Eq, thiserror::Error)]
#[non_exhaustive]
pub enum RewriteError {
    /// Its entries have more than a line each.
    #[error("[expect] has entries of more than one line; write each as `id = {{ verdict = \"met\" }}`, or change them by hand")]
    SeveralLines,
}

/// Writes what came of a machine into the text of its description.
///
/// # Errors
/// When entries are written in a way that cannot be changed line by line.
pub fn expectation(text: &str, machine: &Described, report: &Report) -> Result<NewExpectation, RewriteError> {
    let newline = if text.contains("\r\n") { "\r\n" } else { "\n" };
    let lines: Vec<&str> = text.lines().collect();
    if lines.iter().any(|line| line.trim_start().starts_with("[expect.")) {
        return Err(RewriteError::SeveralLines);
    }
    let start = lines.iter().position(|line| line.trim() == "[expect]");
    let (head, block, tail) = match start {
        Some(start) => {
            let end =
                lines.iter().skip(start + 1).position(|line| line.starts_with('[')).map_or(lines.len(), |at| start + 1 + at);
            (
                lines.get(..=start).unwrap_or_default(),
                lines.get(start + 1..end).unwrap_or_default(),
                lines.get(end..).unwrap_or_default(),
            )
        }
        None => (lines.as_slice(), [].as_slice(), [].as_slice()),
    };
    let mut changes = Vec::new();
    let mut written: Vec<String> = Vec::new();
    let mut done: Vec<&str> = Vec::new();
    for line in block {
        let Some(id) = id_of(line) else {
            if line.trim().is_empty() || line.trim_start().starts_with('#') {
                written.push((*line).to_owned());
                continue;
            }
            return Err(RewriteError::SeveralLines);
        };
        if !line.contains('}') {
            return Err(RewriteError::SeveralLines);
        }
        let Some((expected, settled)) = machine.expected().iter().find(|one| one.id == id).zip(report.settled_of(id)) else {
            changes.push(Rewritten { before: Some((*line).to_owned()), after: None });
            continue;
        };
        done.push(&expected.id);
        let (verdict, cause) = (settled.finding.verdict(), settled.finding.cause());
        if verdict == expected.verdict && (expected.cause.is_none() || expected.cause == cause) {
            written.push((*line).to_owned());
        } else {
            let new = entry(id, settled);
            changes.push(Rewritten { before: Some((*line).to_owned()), after: Some(new.clone()) });
            written.push(new);
        }
    }
    // What is new stands at the end, before the empty lines that part it from what follows.
    let at = written.iter().rposition(|line| !line.trim().is_empty()).map_or(0, |last| last + 1);
    let new = report.settled.iter().filter_map(|settled| {
        let id = report.requirement(settled)?.id.as_str();
        (!done.contains(&id)).then(|| entry(id, settled))
    });
    let new: Vec<String> = new.collect();
    changes.extend(new.iter().map(|line| Rewritten { before: None, after: Some(line.clone()) }));
    written.splice(at..at, new);
    let mut all: Vec<String> = head.iter().map(|line| (*line).to_owned()).collect();
    if start.is_none() && !written.is_empty() {
        all.extend([String::new(), "[expect]".to_owned()]);
    }
    all.extend(written);
    all.extend(tail.iter().map(|line| (*line).to_owned()));
    Ok(NewExpectation { text: all.join(newline) + newline, changes })
}

/// The id that a line of `[expect]` is about.
fn id_of(line: &str) -> Option<&str> {
    let (id, rest) = line.split_once('=')?;
    let id = id.trim();
    rest.trim_start().starts_with('{').then(|| id.trim_matches('"')).filter(|id| !id.starts_with('#'))
}

/// A line for what came of a requirement.
fn entry(id: &str, settled: &RequirementResult) -> String {
    let key =
        if id.bytes().all(|byte| byte.is_ascii_alphanumeric() || b"-_".contains(&byte)) { id.to_owned() } else { quoted(id) };
    let verdict = settled.finding.verdict();
    let cause = settled.finding.cause().filter(|_| matches!(verdict, Verdict::Unmet | Verdict::Unknown | Verdict::Blocked));
    match cause {
        Some(cause) => format!("{key} = {{ verdict = {}, cause = {} }}", quoted(verdict.word()), quoted(cause.word())),
        None => format!("{key} = {{ verdict = {} }}", quoted(verdict.word())),
    }
}

#[cfg(test)]
mod tests {
    use super::{RewriteError, expectation};
    use rstest::rstest;
    use setup_ready_core::guide;
    use setup_ready_observe::{Described, Preflight};

    const GUIDE: &str =
        "format = 1\n[project]\nname = \"Driftbuoy\"\n[require.git]\ntool = \"git\"\n[require.cores]\ncores = 2\n";
    const MACHINE: &str = "format = 1\n[machine]\nname = \"m\"\n[cores]\nonline = 4\n";

    fn rewritten(more: &str) -> Result<super::NewExpectation, RewriteError> {
        let text = format!("{MACHINE}{more}");
        let machine = Described::parse(&text).unwrap();
        let report = Preflight::new(guide::parse(GUIDE).unwrap()).run(&machine).unwrap();
        expectation(&text, &machine, &report)
    }

    #[rstest]
    #[case::nothing_was_expected(
        "",
        "\n[expect]\ngit = { verdict = \"unmet\", cause = \"tool-missing\" }\ncores = { verdict = \"met\" }\n",
        2
    )]
    #[case::all_is_as_expected(
        "[expect]\n# By hand.\ngit = { verdict = \"unmet\" }\ncores = { verdict = \"met\" }\n",
        "[expect]\n# By hand.\ngit = { verdict = \"unmet\" }\ncores = { verdict = \"met\" }\n",
        0
    )]
    #[case::one_is_otherwise(
        "[expect]\ngit = { verdict = \"met\" }   # why\ncores = { verdict = \"met\" }\n",
        "[expect]\ngit = { verdict = \"unmet\", cause = \"tool-missing\" }\ncores = { verdict = \"met\" }\n",
        1
    )]
    #[case::one_is_gone_and_more_follows(
        "[expect]\nold = { verdict = \"met\" }\n\n[environment]\nA = \"1\"\n",
        "[expect]\ngit = { verdict = \"unmet\", cause = \"tool-missing\" }\ncores = { verdict = \"met\" }\n\n[environment]\nA = \"1\"\n",
        3
    )]
    fn what_is_expected_is_written_anew_and_all_else_stays(#[case] before: &str, #[case] after: &str, #[case] changes: usize) {
        let new = rewritten(before).unwrap();
        assert_eq!(new.text, format!("{MACHINE}{after}"));
        assert_eq!(new.changes.len(), changes);
        let machine = Described::parse(&new.text).unwrap();
        let report = Preflight::new(guide::parse(GUIDE).unwrap()).run(&machine).unwrap();
        assert_eq!(machine.differences(&report), Vec::<String>::new());
    }

    #[test]
    fn entries_of_several_lines_are_left_to_the_person() {
        assert_eq!(rewritten("[expect.git]\nverdict = \"met\"\n").unwrap_err(), RewriteError::SeveralLines);
    }
}
