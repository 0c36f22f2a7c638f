//! The version finder against what real tools print, captured on real machines (`tools/capture-corpus`, `tools/corpus/capture-in-root`).
#![allow(
    clippy::unwrap_used,
    clippy::print_stdout,
    clippy::panic,
    reason = "helpers of tests may be blunt, and the scores are printed"
)]

use rstest::rstest;
use setup_ready_core::catalogue;
use setup_ready_core::document::{self, Fields, MOST_TABLES};
use setup_ready_core::privacy::Replacer;
use setup_ready_core::problem::Problems;
use setup_ready_core::version::{Asked, Range, RangeMatch, Version, find, refuses};

struct Captured {
    name: String,
    version: Version,
    best: [String; 2],
    plain: [String; 2],
    refused: [bool; 2],
}

fn corpus(text: &str) -> Vec<Captured> {
    let tree = document::parse(text).unwrap_or_else(|problems| panic!("{problems:?}"));
    let problems = Problems::default();
    let top = Fields::of_document(&tree, &problems);
    let read = |fields: Fields<'_>| Captured {
        name: fields.owned("name").unwrap(),
        version: Version::parse(fields.text("version").unwrap().value).unwrap(),
        best: [fields.owned("stdout").unwrap(), fields.owned("stderr").unwrap()],
        plain: [fields.owned("plain_stdout").unwrap(), fields.owned("plain_stderr").unwrap()],
        refused: ["exit", "plain_exit"].map(|key| fields.number(key).unwrap().value != 0),
    };
    top.tables("tool", "tool", MOST_TABLES).into_iter().map(read).collect()
}

/// Of how many tools the version was found, of how many nothing where there is something, and of how many a wrong one.
#[derive(Debug, Default, PartialEq)]
struct Score {
    right: usize,
    missed: Vec<String>,
    wrong: Vec<String>,
}

fn score(tools: &[Captured], catalogued: bool) -> Score {
    let mut score = Score::default();
    for tool in tools {
        let (texts, refused) = if catalogued { (&tool.best, tool.refused[0]) } else { (&tool.plain, tool.refused[1]) };
        let asked = if catalogued { catalogue::asked(&tool.name) } else { Asked::of(&tool.name) };
        let asked = Asked { refused: refused || texts.iter().any(|text| refuses(text)), ..asked };
        let found = texts.iter().find_map(|text| find(text, &asked));
        let found = found.filter(|found| !found.named.as_deref().is_some_and(catalogue::has)).map(|found| found.version);
        // As a guide would ask for it; where the text does not hold the version, the right answer is none.
        let holds = texts.iter().any(|text| text.contains(tool.version.text()));
        let wanted = Range::parse(&format!("= {}", tool.version)).unwrap();
        match found {
            Some(version) if wanted.fit(&version) == RangeMatch::Inside => score.right += 1,
            None if !holds => score.right += 1,
            None => score.missed.push(format!("{} {}", tool.name, tool.version)),
            Some(version) => score.wrong.push(format!("{} {}, found {version}", tool.name, tool.version)),
        }
    }
    score
}

#[rstest]
#[case::of_this_machine(include_str!("corpus.toml"), 140)]
#[case::of_debians_packages(include_str!("corpus-debian.toml"), 250)]
fn versions_are_found_in_what_real_tools_print(#[case] text: &str, #[case] least: usize) {
    let tools = corpus(text);
    assert!(tools.len() >= least, "{}", tools.len());
    for (catalogued, target) in [(true, 99), (false, 93)] {
        let score = score(&tools, catalogued);
        let with = if catalogued { "with" } else { "without" };
        println!(
            "{with} the catalogue: {} of {} right; missed {:#?}; wrong {:#?}",
            score.right,
            tools.len(),
            score.missed,
            score.wrong
        );
        // Its emulator speaks for it; nobody asks it without the catalogue.
        let wrong: Vec<&String> = score.wrong.iter().filter(|one| catalogued || !one.starts_with("erl ")).collect();
        assert!(wrong.is_empty(), "{wrong:#?}");
        assert!(score.right * 100 >= tools.len() * target, "{} of {}: {:#?}", score.right, tools.len(), score.missed);
    }
}

/// What programs of every machine print says nothing about a person, and its versions stay as they are in what is sent to others.
#[rstest]
#[case::of_many_systems(include_str!("corpus.toml"))]
#[case::of_debian(include_str!("corpus-debian.toml"))]
fn what_real_tools_print_keeps_its_version_when_it_is_sent(#[case] text: &str) {
    let mut changed = Vec::new();
    for tool in corpus(text) {
        let mut replacer = Replacer::for_guide(&format!("[require.x]\ntool = \"{}\"\n", tool.name));
        for printed in tool.best.iter().chain(&tool.plain) {
            let sent = replacer.text(printed);
            let asked = |text: &str| Asked { refused: refuses(text), ..catalogue::asked(&tool.name) };
            let found = |text: &str| find(text, &asked(text)).map(|found| found.version.text().to_owned());
            assert_eq!(found(&sent), found(printed), "{}: {sent}", tool.name);
            let lines = printed.lines().zip(sent.lines()).filter(|(before, after)| before != after);
            changed.extend(lines.map(|(before, after)| format!("{}: {before}\n    {after}\n", tool.name)));
        }
    }
    // Besides addresses of mail, a handful: a bundle of options that looks like a token, the host that a package was built on.
    let others: Vec<&String> = changed.iter().filter(|line| !line.contains("@mail.invalid")).collect();
    assert!(others.len() <= 8, "{others:#?}");
}

#[test]
fn what_real_programs_tell_of_a_person_is_gone_when_it_is_sent() {
    let tree = document::parse(include_str!("told.toml")).unwrap_or_else(|problems| panic!("{problems:?}"));
    let problems = Problems::default();
    let top = Fields::of_document(&tree, &problems);
    let mut replacer = Replacer::for_guide("[require.chartctl]\ntool = \"chartctl\"\n");
    replacer.user("marisol");
    replacer.full_name("Marisol Quintero Paz");
    replacer.host("tern-wing-7.lab.harbour.example");
    replacer.home("/home/marisol");
    replacer.project("/home/marisol/customers/harbour/driftbuoy");
    let mut left = Vec::new();
    for program in top.tables("program", "program", MOST_TABLES) {
        let (name, lines) = (program.owned("name").unwrap(), program.texts("printed"));
        // Line by line, and as one text.
        let lines: Vec<String> = lines.into_iter().map(|line| line.value.to_owned()).collect();
        for text in lines.iter().cloned().chain([lines.join("\n")]) {
            let sent = replacer.text(&text).to_lowercase();
            let told = ["marisol", "quintero", "tern-wing-7", "kelp", "harbour.example", "3e:60:e6", "9a:19:a0"];
            left.extend(told.iter().filter(|one| sent.contains(**one)).map(|one| format!("{name}: {one} in {sent}")));
            assert_eq!(sent.lines().count(), text.lines().count(), "{name}: {sent}");
        }
    }
    assert!(left.is_empty(), "{left:#?}");
}
