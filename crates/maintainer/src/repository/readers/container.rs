//! A container's definition by its structure: instructions, joined lines, `ARG`s that are filled in (the reference of Dockerfiles).

use super::super::shell::{Kind, script};
use super::super::statement_sink::{Read, Source, StatementSink};
use setup_ready_core::statement::{
    Confidence::{Mentioned, Used},
    Restriction, Topic,
};
use std::collections::HashMap;

struct Instruction {
    word: String,
    rest: String,
    line: usize,
}

fn instructions(text: &str) -> Vec<Instruction> {
    let mut found: Vec<Instruction> = Vec::new();
    let mut goes_on = false;
    let mut heredoc: Option<String> = None;
    for (line, text) in (1..).zip(text.lines()) {
        if let Some(end) = &heredoc {
            if text.trim() == end {
                heredoc = None;
            } else if let Some(last) = found.last_mut() {
                last.rest.push('\n');
                last.rest.push_str(text);
            }
            continue;
        }
        let trimmed = text.trim();
        if trimmed.starts_with('#') || (trimmed.is_empty() && !goes_on) {
            if goes_on && let Some(last) = found.last_mut() {
                last.rest.push_str("\n#");
            }
            continue;
        }
        if goes_on {
            if let Some(last) = found.last_mut() {
                last.rest.push('\n');
                last.rest.push_str(text);
            }
        } else {
            let (word, rest) = trimmed.split_once(char::is_whitespace).unwrap_or((trimmed, ""));
            found.push(Instruction { word: word.to_ascii_uppercase(), rest: rest.to_owned(), line });
        }
        goes_on = trimmed.ends_with('\\');
        let opened = trimmed.find("<<").and_then(|at| trimmed.get(at + 2..)).filter(|_| !goes_on);
        heredoc = opened
            .map(|rest| {
                rest.trim_start_matches(['-', '"', '\'']).chars().take_while(|c| c.is_ascii_alphanumeric() || *c == '_').collect()
            })
            .filter(|end: &String| !end.is_empty());
        if heredoc.is_some()
            && let Some(last) = found.last_mut()
        {
            // The script begins in the next line.
            if let Some(at) = last.rest.find("<<") {
                last.rest.truncate(at);
            }
        }
    }
    found
}

/// `${NAME}`, `$NAME`, `${NAME:-default}` with what is known of them.
pub(super) fn filled(text: &str, known: &HashMap<String, String>) -> String {
    let mut out = String::new();
    let mut rest = text;
    while let Some(at) = rest.find('$') {
        out.push_str(rest.get(..at).unwrap_or_default());
        rest = rest.get(at + 1..).unwrap_or_default();
        let (name, default, length) = if let Some(inner) = rest.strip_prefix('{') {
            let end = inner.find('}').unwrap_or(inner.len());
            let whole = inner.get(..end).unwrap_or_default();
            let (name, default) = whole
                .split_once(":-")
                .or_else(|| whole.split_once('-'))
                .map_or((whole, None), |(name, default)| (name, Some(default)));
            (name, default, (end + 2).min(rest.len()))
        } else {
            let end = rest.find(|c: char| !c.is_ascii_alphanumeric() && c != '_').unwrap_or(rest.len());
            (rest.get(..end).unwrap_or_default(), None, end)
        };
        match known.get(name).map(String::as_str).or(default) {
            Some(value) => out.push_str(value),
            None => out.push('$'),
        }
        rest = rest.get(length..).unwrap_or_default();
    }
    out.push_str(rest);
    out
}

pub(super) fn definition(file: &Source<'_>, said: &StatementSink) -> Read {
    let all = instructions(file.text);
    let stages = all.iter().filter(|one| one.word == "FROM").count();
    let mut known: HashMap<String, String> = HashMap::new();
    let mut stage = 0;
    for one in &all {
        // What runs at the end is not what builds.
        let last = (stages > 1 && stage == stages).then(|| Restriction::Text("in the last stage".to_owned()));
        match one.word.as_str() {
            "ARG" => {
                if let Some((name, value)) = one.rest.trim().split_once('=') {
                    known.insert(name.to_owned(), value.trim_matches(['"', '\'']).to_owned());
                }
            }
            "FROM" => {
                stage += 1;
                let image = one.rest.split_whitespace().find(|word| !word.starts_with("--")).unwrap_or_default();
                let soft = stages > 1 && stage == stages;
                let limit = soft.then(|| Restriction::Text("in the last stage".to_owned()));
                said.only(limit, || {
                    for (program, range) in super::image::programs(&filled(image, &known)) {
                        said.tool(program, Used, (one.line, "FROM", range));
                    }
                });
            }
            "RUN" => {
                let text = one
                    .rest
                    .strip_prefix('[')
                    .map_or_else(|| one.rest.clone(), |list| list.trim_end_matches(']').replace(['"', ','], " "));
                let options = text.split(' ').take_while(|word| word.starts_with("--")).map(|word| word.len() + 1).sum::<usize>();
                said.only(last, || script(said, text.get(options..).unwrap_or(&text), one.line, Kind::Container));
            }
            "EXPOSE" => {
                for word in one.rest.split_whitespace() {
                    if let Ok(port) = filled(word, &known).split('/').next().unwrap_or_default().parse::<u16>() {
                        said.topic(Topic::Port(port), Mentioned, (one.line, "EXPOSE"));
                    }
                }
            }
            _ => {}
        }
    }
    Ok(())
}
