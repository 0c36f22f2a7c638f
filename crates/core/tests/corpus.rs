//! The version finder against what real tools print, captured on a real machine (`tools/capture-corpus`).
#![allow(
    clippy::unwrap_used,
    clippy::print_stdout,
    clippy::panic,
    reason = "helpers of tests may be blunt, and the scores are printed"
)]

use setup_ready_core::catalogue;
use setup_ready_core::document::{self, Fields, MOST_TABLES};
use setup_ready_core::problem::Problems;
use setup_ready_core::version::{Fit, Range, Version, find};

const CORPUS: &str = include_str!("corpus.toml");

struct Captured {
    name: String,
    version: Version,
    best: [String; 2],
    plain: [String; 2],
}

fn corpus() -> Vec<Captured> {
    let tree = document::parse(CORPUS).unwrap_or_else(|problems| panic!("{problems:?}"));
    let problems = Problems::default();
    let top = Fields::of_document(&tree, &problems);
    let read = |fields: Fields<'_>| Captured {
        name: fields.owned("name").unwrap(),
        version: Version::parse(fields.text("version").unwrap().value).unwrap(),
        best: [fields.owned("stdout").unwrap(), fields.owned("stderr").unwrap()],
        plain: [fields.owned("plain_stdout").unwrap(), fields.owned("plain_stderr").unwrap()],
    };
    top.tables("tool", "tool", MOST_TABLES).into_iter().map(read).collect()
}

/// How many of a hundred are right, with the misses printed.
fn score(what: &str, tools: &[Captured], texts: fn(&Captured) -> &[String; 2], says: impl Fn(&str) -> String) -> usize {
    let mut right = 0;
    for tool in tools {
        let version = texts(tool).iter().find_map(|text| find(text, &says(&tool.name))).map(|found| found.version);
        // As a guide would ask for it; where the text does not hold the version, the right answer is none.
        let holds = texts(tool).iter().any(|text| text.contains(tool.version.text()));
        let wanted = Range::parse(&format!("= {}", tool.version)).unwrap();
        if version.as_ref().map_or(!holds, |version| wanted.fit(version) == Fit::Inside) {
            right += 1;
        } else {
            let said = version.map_or_else(|| "nothing".to_owned(), |version| version.to_string());
            println!("{what}: {} is {}, found {said}", tool.name, tool.version);
        }
    }
    println!("{what}: {right} of {} right", tools.len());
    right * 100 / tools.len()
}

#[test]
fn versions_are_found_in_what_real_tools_print() {
    let tools = corpus();
    assert!(tools.len() >= 80, "{}", tools.len());
    let says = |name: &str| {
        catalogue::find(name)
            .map(|row| row.says)
            .filter(|says| !says.is_empty())
            .map_or_else(|| name.to_owned(), ToOwned::to_owned)
    };
    let with = score("with the catalogue", &tools, |tool| &tool.best, says);
    let without = score("without it", &tools, |tool| &tool.plain, ToOwned::to_owned);
    assert!(with >= 98, "{with} %");
    assert!(without >= 90, "{without} %");
}
