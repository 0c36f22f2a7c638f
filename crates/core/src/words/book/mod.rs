//! Every finding there is, and what is said of it: read as a beginner reads it, in `book.txt`, and compared. Written by `SNAPSHOTS=overwrite cargo test`.
#![allow(
    clippy::too_many_lines,
    clippy::unnecessary_wraps,
    clippy::wildcard_enum_match_arm,
    reason = "lists, and what shortens them"
)]

mod machine;
mod met;
mod network;
mod project;
mod tools;

use super::Words;
use crate::cause::Cause;
use crate::finding::{Conclusion, Finding, Reason};
use crate::fix::Shell;
use crate::guide;
use crate::prelude::*;
use crate::version::{Mismatch, Range, RangePosition, Version};
use std::collections::BTreeSet;
use std::fmt::Write as _;

/// Reasons of the sort, with a requirement that they may be of.
type Page = (&'static str, Vec<Reason>);

fn text(text: &str) -> String {
    text.to_owned()
}

fn some(text: &str) -> Option<String> {
    Some(text.to_owned())
}

fn version(text: &str) -> Version {
    Version::parse(text).unwrap()
}

fn range(text: &str) -> Range {
    Range::parse(text).unwrap()
}

fn miss(wanted: &str, found: &str) -> Box<Mismatch> {
    match range(wanted).judge(&version(found)) {
        RangePosition::Outside(miss) => miss,
        other => panic!("{found} in {wanted}: {other:?}"),
    }
}

#[test]
fn every_finding_has_words_that_read_as_sentences() {
    let reasons = [tools::pages(), machine::pages(), network::pages(), project::pages()].concat();
    let open = reasons.into_iter().map(|(body, reasons)| (body, reasons.into_iter().map(Conclusion::Open).collect::<Vec<_>>()));
    let pages = open.chain(met::pages());
    let (mut book, mut causes, mut flaws) = (String::new(), BTreeSet::new(), Vec::new());
    for (body, conclusions) in pages {
        let source = format!(
            "format = 1\n[project]\nname = \"Driftbuoy\"\n[role.shore]\nabout = \"You build the shore station.\"\n[require.first]\ntitle = \"the first thing\"\ntool = \"python3\"\n[require.other]\ntitle = \"space for charts\"\ndisk = \"1 GB\"\n[require.thing]\n{body}\n"
        );
        let guide = guide::parse(&source).unwrap_or_else(|mistakes| panic!("{body}: {mistakes}"));
        let requirement = guide.requirements.iter().find(|one| one.id == "thing").unwrap();
        let _ = writeln!(book, "\n# {}", body.replace('\n', ", "));
        for conclusion in conclusions {
            let finding = Finding::new(conclusion);
            let cause = finding.cause().map_or_else(|| finding.verdict().word(), Cause::word);
            causes.insert(cause);
            let words = Words::new(&guide, requirement, &finding, Shell::Posix);
            let (message, found, wanted) = (words.message(), words.found(), words.wanted());
            // Something that stands for nothing leaves a gap.
            if ["  ", "..", " ,", "()", "``"].iter().any(|gap| message.contains(gap)) || message.ends_with([' ', ':']) {
                flaws.push(format!("{cause}: {message}"));
            }
            let _ = writeln!(book, "{cause}: {message}");
            if found.is_some() || wanted.is_some() {
                let _ =
                    writeln!(book, "    found {}; wanted {}", found.as_deref().unwrap_or("-"), wanted.as_deref().unwrap_or("-"));
            }
        }
    }
    assert!(flaws.is_empty(), "{flaws:#?}");
    let missing: Vec<&str> = Cause::ALL.iter().map(|cause| cause.word()).filter(|word| !causes.contains(word)).collect();
    assert!(missing.is_empty(), "these causes stand on no page of the book: {missing:?}");
    let path = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("src/words/book/book.txt");
    if std::env::var("SNAPSHOTS").is_ok_and(|word| word == "overwrite") {
        std::fs::write(&path, &book).unwrap();
    }
    let kept = std::fs::read_to_string(&path).unwrap_or_default().replace("\r\n", "\n");
    assert!(kept == book, "what is said has changed: read it with SNAPSHOTS=overwrite cargo test, in src/words/book/book.txt");
}
