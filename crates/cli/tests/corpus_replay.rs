//! The program on a machine that has every tool of the corpus and answers as the real ones did.

use crate::harness::{Bench, of, text};
use std::fmt::Write;

#[test]
fn a_guide_of_all_tools_of_the_corpus_is_right_about_each() {
    let corpus: toml::Table = toml::from_str(include_str!("../../core/tests/corpus.toml")).unwrap();
    let tools = corpus["tool"].as_array().unwrap();
    let said = |tool: &toml::Value, key: &str| tool[key].as_str().unwrap().to_owned();
    let mut machine =
        "format = 1\npath = [\"/usr/bin\"]\n[machine]\nname = \"full-workbench\"\n[system]\nos = \"linux\"\n".to_owned();
    let mut guide = "format = 1\n[project]\nname = \"Driftbuoy\"\n".to_owned();
    for (number, tool) in tools.iter().enumerate() {
        let (name, version) = (said(tool, "name"), said(tool, "version"));
        let quoted = |key: &str| serde_json::to_string(&said(tool, key)).unwrap().replace('\u{7f}', "\\u007f");
        writeln!(
            machine,
            "[[program]]\npath = \"/usr/bin/{name}\"\nprints = {}\ncomplains = {}\nexit = {}",
            quoted("stdout"),
            quoted("stderr"),
            tool["exit"].as_integer().unwrap()
        )
        .unwrap();
        writeln!(guide, "[require.t{number}]\ntool = \"{name}\"\nversion = \"= {version}\"").unwrap();
    }
    let bench = Bench::with_guide(guide);
    bench.file("machine.toml", &machine);
    let (status, report) = bench.report(&[], &["--machine", "machine.toml"]);
    for (number, tool) in tools.iter().enumerate() {
        let (name, version) = (said(tool, "name"), said(tool, "version"));
        let one = of(&report, &format!("t{number}"));
        // A tool whose text does not hold its version is not known, and never wrong.
        let holds = ["stdout", "stderr"].iter().any(|key| said(tool, key).contains(&version));
        let expected = if holds { "met" } else { "unknown" };
        let right = one["verdict"] == expected || (!holds && one["cause"] == "tool-failed");
        assert!(right, "{name} {version}: {one:#}");
    }
    assert_eq!(status, 1, "two of them end with an error");
    // Nothing of what they print reaches the terminal raw, however it is shown.
    let shown = text(&bench.run(&["preflight", "--machine", "machine.toml", "-v"]).stdout);
    assert!(!shown.contains('\u{1b}'));
}
