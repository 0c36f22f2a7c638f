//! The documents say what the code does: generated ones are fresh, examples in them are read, and the rules of the house hold.

use build_setup_ready::demo::MACHINES;
use build_setup_ready::{Described, Preflight};
use setup_ready_core::cause::Cause;
use setup_ready_core::guide;
use setup_ready_core::guide::{Kind, Placeholder};
use setup_ready_core::proofread::Rule;
use setup_ready_maintainer::schema;
use snapbox::assert_data_eq;
use snapbox::data::Data;
use std::fmt::Write;
use std::path::{Path, PathBuf};

fn root() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("../..").canonicalize().unwrap()
}

fn read(path: &str) -> String {
    std::fs::read_to_string(root().join(path)).unwrap()
}

/// The examples of one language in a document.
fn examples(document: &str, language: &str) -> Vec<String> {
    let text = read(document);
    let fence = format!("```{language}\n");
    let blocks = text.split(fence.as_str()).skip(1);
    blocks.map(|block| block.split("```").next().unwrap().to_owned()).collect()
}

#[test]
fn the_page_of_causes_is_made_from_the_registry() {
    let mut page = "# Causes\n\nWhy a requirement is not met. The words are stable. This page is made from the registry (`SNAPSHOTS=overwrite cargo test`).\n".to_owned();
    let mut about = None;
    for cause in Cause::ALL {
        if about != Some(cause.about()) {
            about = Some(cause.about());
            write!(page, "\n## {}\n", cause.about().title()).unwrap();
            let fills = |one: &&Placeholder| one.about().is_some_and(|groups| groups.contains(&cause.about()));
            let filled: Vec<String> = Placeholder::ALL.iter().filter(fills).map(|one| format!("`{{{}}}`", one.word())).collect();
            if !filled.is_empty() {
                write!(page, "\nPlaceholders that such a finding may fill: {}.\n", filled.join(", ")).unwrap();
            }
        }
        let text = cause.page();
        write!(
            page,
            "\n### {}\n\n{}\n\n- Recognised: {}\n- Usual fix: {}\n",
            cause.word(),
            text.meaning,
            text.recognised,
            text.cure
        )
        .unwrap();
    }
    assert_data_eq!(page, Data::read_from(&root().join("docs/reference/causes.md"), None));
}

#[test]
fn the_page_of_rules_is_made_from_the_registry() {
    let mut page = "# The rules of proofreading\n\nWhat `setup-ready proofread` remarks on. The ids are stable, since guides accept remarks by them; `setup-ready explain ID` shows a guide that breaks each and one that keeps it. This page is made from the registry (`SNAPSHOTS=overwrite cargo test`).\n".to_owned();
    let mut family = None;
    for rule in Rule::ALL {
        if family != Some(rule.family()) {
            family = Some(rule.family());
            write!(page, "\n## {}\n\n| rule | weight | what is wrong | what a newcomer suffers | what to write |\n| --- | --- | --- | --- | --- |\n", rule.family().title()).unwrap();
        }
        let text = rule.page();
        writeln!(page, "| `{}` | {} | {} | {} | {} |", rule.id(), rule.weight().word(), text.meaning, text.suffers, text.right)
            .unwrap();
    }
    assert_data_eq!(page, Data::read_from(&root().join("docs/reference/rules.md"), None));
}

#[test]
fn guides_and_machines_in_documents_are_read_without_a_mistake() {
    for document in ["README.md", "docs/guide-format.md"] {
        // Parts of guides are read by the test of their kinds.
        for example in examples(document, "toml").into_iter().filter(|example| !example.starts_with("[require.")) {
            guide::parse(&example).unwrap_or_else(|problems| panic!("{document}: {problems:?}"));
        }
    }
    for example in examples("docs/described-machines.md", "toml") {
        Described::parse(&example).unwrap_or_else(|problems| panic!("{problems:?}"));
    }
    guide::parse(&read("setup-guide.toml")).unwrap();
}

#[test]
fn links_between_documents_lead_somewhere() {
    let mut documents: Vec<String> = ["README.md", "ARCHITECTURE.md", "CONTRIBUTING.md"].map(ToOwned::to_owned).into();
    for folder in ["docs", "docs/reference", "docs/decisions"] {
        let files = std::fs::read_dir(root().join(folder)).unwrap().flatten();
        let names = files.map(|file| format!("{folder}/{}", file.file_name().to_string_lossy()));
        documents.extend(names.filter(|name| Path::new(name).extension() == Some("md".as_ref())));
    }
    assert!(documents.len() > 20);
    for document in documents {
        let folder = root().join(&document).parent().unwrap().to_owned();
        for link in read(&document).split("](").skip(1).map(|rest| rest.split(')').next().unwrap().to_owned()) {
            let here = link.strip_prefix('#').map(|anchor| format!("# {}", anchor.replace('-', " ")));
            let inside = here.is_some_and(|heading| read(&document).to_lowercase().contains(&heading));
            assert!(inside || link.starts_with("https://") || folder.join(&link).exists(), "{document}: {link}");
        }
    }
}

fn rust_files(folder: &Path, found: &mut Vec<PathBuf>) {
    for entry in std::fs::read_dir(folder).unwrap().flatten() {
        let path = entry.path();
        if path.is_dir() {
            rust_files(&path, found);
        } else if path.extension().is_some_and(|extension| extension == "rs") {
            found.push(path);
        }
    }
}

#[test]
fn no_file_is_longer_than_600_lines() {
    let mut files = Vec::new();
    rust_files(&root().join("crates"), &mut files);
    assert!(files.len() > 60);
    let long: Vec<&PathBuf> = files.iter().filter(|path| std::fs::read_to_string(path).unwrap().lines().count() > 600).collect();
    assert!(long.is_empty(), "{long:?}");
}

#[test]
fn the_core_depends_on_nothing_that_can_look() {
    let manifest = read("crates/core/Cargo.toml");
    let dependencies = manifest.split("[dependencies]\n").nth(1).unwrap().split("\n\n").next().unwrap();
    // What only makes schemas is left out unless it is asked for.
    let needed = dependencies.lines().filter(|line| !line.contains("optional = true"));
    let names: Vec<&str> = needed.map(|line| line.split('.').next().unwrap()).collect();
    assert_eq!(names, ["hashbrown", "regex", "regex-automata", "serde", "thiserror", "toml", "unicode-properties"]);
    assert!(read("crates/core/src/lib.rs").contains("#![no_std]\n#![forbid(unsafe_code)]"));
    // None of the five may bring the standard library along.
    let workspace = read("Cargo.toml");
    for name in names {
        let line = workspace.lines().find(|line| line.starts_with(&format!("{name} = "))).unwrap();
        assert!(line.contains("default-features = false") && !line.contains("\"std\""), "{line}");
    }
}

/// Where a cause is made: for real on Linux, or where Linux has no such thing, on a described machine.
const MADE: [(&str, &str); 10] = [
    ("described", include_str!("../../library/tests/described_causes.rs")),
    ("live", include_str!("live_linux.rs")),
    ("live", include_str!("live_tools_linux.rs")),
    ("live", include_str!("live_workspace_linux.rs")),
    ("live", include_str!("live_network_linux.rs")),
    ("live", include_str!("live_purposes_linux.rs")),
    ("live", include_str!("live_components_linux.rs")),
    ("described", include_str!("guides/java/machines/two-kits.toml")),
    ("live", include_str!("live_order.rs")),
    ("live", include_str!("live_order_linux.rs")),
];

#[test]
fn no_cause_is_forgotten_by_the_tests() {
    let made = |word: &str| MADE.iter().find(|(_, text)| text.contains(&format!("\"{word}\""))).map(|(how, _)| *how);
    let mut missing = Vec::new();
    for cause in Cause::ALL {
        match made(cause.word()) {
            Some(how) => println!("{}: {how}", cause.word()),
            None => missing.push(cause.word()),
        }
    }
    assert!(missing.is_empty(), "{missing:?}");
}

#[test]
fn every_kinds_example_comes_out_as_its_section_says() {
    let page = read("docs/guide-format.md");
    let kinds = page.split("## Kinds\n").nth(1).unwrap().split("\n## ").next().unwrap();
    let sections: Vec<&str> = kinds.split("\n### ").skip(1).collect();
    assert_eq!(sections.len(), Kind::ALL.len() - 1);
    for section in sections {
        let example = section.split("```toml\n").nth(1).unwrap().split("```").next().unwrap();
        let guide = guide::parse(&format!("format = 1\n[project]\nname = \"Driftbuoy\"\n{example}"));
        let guide = guide.unwrap_or_else(|problems| panic!("{section}: {problems:?}"));
        let claims: Vec<&str> = section.lines().find(|line| line.starts_with("On `")).unwrap().split("On `").skip(1).collect();
        assert!(claims.len() > 1 || section.starts_with("`cores`"), "{section}");
        for claim in claims {
            let (name, claimed) = claim.trim().trim_end_matches('.').split_once("`: ").unwrap();
            let machine = MACHINES.iter().find(|machine| machine.name == name).unwrap();
            let machine = Described::parse(machine.text).unwrap();
            let report = Preflight::new(&guide).run(&machine).unwrap();
            // The last requirement is the one that is shown.
            let settled = report.settled.last().unwrap();
            let finding = &settled.finding;
            let cause = finding.cause().map(|cause| format!(", `{}`", cause.word())).unwrap_or_default();
            assert_eq!(format!("{}{cause}", finding.verdict().word()), claimed, "{name}: {}", report.message(settled));
        }
    }
    let unnamed: Vec<&str> =
        Cause::ALL.iter().map(|cause| cause.word()).filter(|word| !kinds.contains(&format!("`{word}`"))).collect();
    assert!(unnamed.is_empty(), "{unnamed:?}");
}

/// The fields of a definition, and of those that it is one of, with what they mean.
fn fields_of(definition: &serde_json::Value, rows: &mut Vec<(String, String)>) {
    let said = |value: &serde_json::Value| value["description"].as_str().unwrap_or_default().replace('\n', " ");
    for (name, value) in definition["properties"].as_object().into_iter().flatten() {
        // What is one value is explained where it is chosen.
        let meaning = [value, definition].map(said).into_iter().find(|meaning| !meaning.is_empty());
        rows.push((name.clone(), meaning.unwrap_or_default()));
    }
    for list in ["anyOf", "oneOf", "allOf"] {
        for one in definition[list].as_array().into_iter().flatten() {
            if let Some(word) = one["const"].as_str() {
                rows.push((word.to_owned(), said(one)));
            }
            fields_of(one, rows);
        }
    }
}

#[test]
fn the_example_of_the_readme_is_the_one_that_is_run() {
    let example = examples("README.md", "rust").concat();
    let run = read("crates/observe/src/guide_file.rs").replace("/// ", "").replace("///\n", "\n");
    for line in example.lines().filter(|line| line.contains("GuideFile::load") || line.contains("Preflight::new")) {
        let call = line.split_whitespace().find(|word| word.contains("::")).unwrap();
        assert!(run.contains(call.split('(').next().unwrap()), "{line}");
    }
    assert!(example.lines().count() >= 4);
}

#[test]
fn the_page_of_facts_is_fresh() {
    let schema = schema::report();
    let mut page = "# The facts of findings\n\nIn a report as JSON each requirement has `facts`: what was found as values, so that nobody needs to \
                    read sentences back. Which of them are there, the cause decides. This page is made from the types.\n"
        .to_owned();
    for (name, definition) in schema["$defs"].as_object().unwrap().iter().filter(|(name, _)| !name.starts_with("Json")) {
        let mut rows = Vec::new();
        fields_of(definition, &mut rows);
        rows.dedup();
        if rows.is_empty() || ["Conclusion", "Reason", "Cause", "Verdict", "Counts"].contains(&name.as_str()) {
            continue;
        }
        let about = definition["description"].as_str().unwrap_or_default().replace('\n', " ");
        let _ = write!(page, "\n## {name}\n\n{about}\n\n| field | meaning |\n| --- | --- |\n");
        for (field, meaning) in rows {
            let _ = writeln!(page, "| `{field}` | {meaning} |");
        }
    }
    assert_data_eq!(page, Data::read_from(&root().join("docs/reference/facts.md"), None));
}

/// The names of all properties in a schema.
fn property_names(schema: &serde_json::Value, names: &mut Vec<String>) {
    if let Some(properties) = schema.get("properties").and_then(serde_json::Value::as_object) {
        names.extend(properties.keys().cloned());
    }
    if let Some(fields) = schema.as_object() {
        fields.values().for_each(|inner| property_names(inner, names));
    }
    for inner in schema.as_array().into_iter().flatten() {
        property_names(inner, names);
    }
}

#[test]
fn every_word_of_the_formats_is_documented() {
    for (schema, page) in [
        (schema::guide(), "docs/guide-format.md"),
        (schema::machine(), "docs/described-machines.md"),
        (schema::report(), "docs/report.md"),
    ] {
        // The facts have a page of their own, made from the schema.
        let page = read(page) + &read("docs/reference/facts.md");
        let mut names = Vec::new();
        property_names(&schema, &mut names);
        assert!(names.len() > 40);
        let whole =
            |name: &str| page.split(|c: char| !c.is_ascii_alphanumeric() && c != '_' && c != '-').any(|word| word == name);
        let missing: Vec<&String> = names.iter().filter(|name| !whole(name)).collect();
        assert!(missing.is_empty(), "{missing:?}");
    }
}
