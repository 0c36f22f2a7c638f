//! Every rule of proofreading on a guide that has just that, in its line; and guides that nothing is to be said of.

use build_setup_ready::demo::{GUIDE, REPOSITORY};
use setup_ready_core::proofread::{Example, Rule, corrected};
use setup_ready_maintainer::{Proof, Repository};
use std::path::Path;

/// What is said of a guide in a repository with these files: each rule, with its line.
fn said(text: &str, files: &[(&str, &str)]) -> Vec<(Rule, usize)> {
    let folder = tempfile::tempdir().unwrap();
    for (name, body) in files {
        let path = folder.path().join(name);
        std::fs::create_dir_all(path.parent().unwrap()).unwrap();
        std::fs::write(path, body).unwrap();
    }
    let proof = Proof::read(text, folder.path(), Repository::DEPTH);
    proof.remarks.iter().map(|one| (one.rule, one.position(text).0)).collect()
}

#[test]
fn each_rule_is_broken_by_its_bad_example_alone_and_kept_by_its_good_one() {
    let mut wrong = Vec::new();
    for rule in Rule::ALL {
        let example = rule.example();
        let bad = Example::whole(example.bad);
        let line = bad.lines().position(|line| line.ends_with("# here")).map_or(1, |at| at + 1);
        let found = said(&bad, example.files);
        // A slip of syntax makes the parser stumble more than once.
        let only = found.iter().all(|(one, _)| one == rule) && found.first() == Some(&(*rule, line));
        if !only {
            wrong.push(format!("{}: {found:?} instead of line {line}", rule.id()));
        }
        if !example.good.is_empty() {
            let found = said(&Example::whole(example.good), example.files);
            if !found.is_empty() {
                wrong.push(format!("{}, the good one: {found:?}", rule.id()));
            }
        }
    }
    assert!(wrong.is_empty(), "{wrong:#?}");
}

#[test]
fn nothing_is_to_be_said_of_the_guides_that_ship() {
    assert_eq!(said(GUIDE, &REPOSITORY), []);
    let root = Path::new(env!("CARGO_MANIFEST_DIR")).join("../..");
    let own = std::fs::read_to_string(root.join("setup-guide.toml")).unwrap();
    let remarks = Proof::read(&own, &root, Repository::DEPTH).remarks;
    assert!(remarks.is_empty(), "{remarks:#?}");
}

#[test]
fn nothing_is_to_be_said_of_guides_of_other_kinds() {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/guides");
    let mut found = Vec::new();
    for entry in std::fs::read_dir(folder).unwrap().flatten() {
        let text = std::fs::read_to_string(entry.path().join("setup-guide.toml")).unwrap();
        let mut all = said(&text, &[]);
        // The files that they follow are not beside them.
        all.retain(|(rule, _)| *rule != Rule::PinUnread);
        found.extend(all.iter().map(|(rule, line)| format!("{}:{line} {}", entry.file_name().display(), rule.id())));
    }
    assert!(found.is_empty(), "{found:#?}");
}

#[test]
fn a_certain_correction_follows_the_file_and_keeps_comments() {
    let text = Example::whole(
        "[require.go] # the language\ntool = \"go\"\nversion = \">= 1.18\" # since long\nwhy = \"The shore station is written in it.\"\n",
    );
    let folder = tempfile::tempdir().unwrap();
    std::fs::write(folder.path().join("go.mod"), "module shore.example/station\n\ngo 1.22\n").unwrap();
    let proof = Proof::read(&text, folder.path(), Repository::DEPTH);
    let (right, done) = corrected(&text, &proof.remarks);
    assert_eq!((right, done), (text.replace("version = \">= 1.18\"", "version_from = \"go.mod\""), 1));
}
