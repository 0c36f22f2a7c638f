//! What small repositories say, against lists that were written before anything could read them.

use rstest::rstest;
use setup_ready_maintainer::Repository;
use std::collections::BTreeSet;
use std::path::{Path, PathBuf};

fn folder() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/repositories")
}

fn spaced(line: &str) -> String {
    line.split_whitespace().collect::<Vec<_>>().join(" ")
}

#[rstest]
#[case("rust-native")]
#[case("node-web")]
#[case("python-native")]
#[case("go-service")]
#[case("cmake-desktop")]
#[case("meson-library")]
#[case("autotools-tool")]
#[case("java-services")]
#[case("php-ruby-site")]
#[case("dotnet-elixir")]
#[case("monorepo")]
#[case("contradictions")]
fn a_repository_says_what_its_list_says(#[case] name: &str) {
    let repository = Repository::read(&folder().join(name), Repository::DEPTH);
    let remarks = repository.remarks.iter().map(|remark| format!("! {}", remark.place));
    let said: BTreeSet<String> = repository.statements.iter().map(|one| spaced(&one.to_string())).chain(remarks).collect();
    let wanted: BTreeSet<String> =
        std::fs::read_to_string(folder().join(format!("{name}.statements"))).unwrap().lines().map(spaced).collect();
    let missed: Vec<&String> = wanted.difference(&said).collect();
    let wrong: Vec<&String> = said.difference(&wanted).collect();
    assert!(missed.is_empty() && wrong.is_empty(), "{name}\nmissed: {missed:#?}\nmore than wanted: {wrong:#?}");
}
