use super::{Draft, Standing};
use crate::guide::{self, Language};
use crate::manager::Manager;
use crate::observation::Os;
use crate::prelude::*;
use crate::statement::{Confidence, Place, Restriction, Statement, Topic};
use rstest::rstest;

fn said(file: &str, firmness: Confidence, topic: Topic) -> Statement {
    Statement::new(topic, firmness, Place { file: file.into(), line: 1, item: String::new() })
}

fn tool(name: &str) -> Topic {
    Topic::Tool(name.to_owned())
}

fn library(name: &str) -> Topic {
    Topic::Library(name.to_owned())
}

/// The keys of what is suggested, without titles and packages.
fn suggested(statements: &[Statement]) -> Vec<String> {
    let draft = Draft::of(statements);
    let one = |one: &super::Proposal| {
        let keys = one.keys.iter().filter(|(key, _)| *key != "title" && *key != "packages");
        let keys: Vec<String> = keys.map(|(key, value)| format!("{key} = {value}")).collect();
        let mark = if one.standing == Standing::Live { "" } else { "# " };
        format!("{mark}{}: {}", one.id, keys.join(", "))
    };
    draft.live.iter().chain(&draft.perhaps).map(one).collect()
}

#[rstest]
#[case::a_compiler(Confidence::Pinned, tool("gcc"), "c-compiler: tool = [\"cc\", \"gcc\", \"clang\"], when = \"not windows\"")]
#[case::used_only(Confidence::Used, tool("cmake"), "cmake: tool = \"cmake\", level = \"should\"")]
#[case::mentioned_only(Confidence::Mentioned, tool("cmake"), "# cmake: tool = \"cmake\"")]
#[case::a_library(Confidence::Pinned, library("zlib"), "zlib: library = \"zlib\", when = \"not windows\"")]
#[case::one_without_a_file_for_pkg_config(
    Confidence::Pinned,
    library("boost"),
    "# boost: library = \"boost\", when = \"not windows\""
)]
#[case::a_package_that_nobody_knows(
    Confidence::Used,
    Topic::Package(Manager::Apt, "libbarnacle-dev".to_owned()),
    "# libbarnacle-dev: system_package = { apt = \"libbarnacle-dev\" }"
)]
#[case::a_port(Confidence::Used, Topic::Port(5440), "port-5440: port = 5440, held_ok = \"docker-proxy\", level = \"should\"")]
#[case::repositories_inside(Confidence::Pinned, Topic::Submodules, "checkout: checkout = \".\", submodules = true")]
#[case::large_files(Confidence::Pinned, tool("git-lfs"), "large-files: checkout = \".\", large_files = true")]
#[case::a_variable(Confidence::Mentioned, Topic::Variable("BUOY_REGION".to_owned()), "# buoy-region: variable = \"BUOY_REGION\"")]
#[case::a_service(Confidence::Mentioned, Topic::Service("postgres".to_owned(), 5432), "# postgres: service = \"localhost:5432\"")]
#[case::a_module_without_its_interpreter(
    Confidence::Pinned,
    Topic::Module(Language::Php, "intl".to_owned()),
    "# php-intl: module = \"intl\", of = \"php\""
)]
fn one_statement_becomes_one_requirement(#[case] firmness: Confidence, #[case] topic: Topic, #[case] wanted: &str) {
    assert_eq!(suggested(&[said("a", firmness, topic)]), [wanted]);
}

#[test]
fn a_module_goes_with_its_interpreter() {
    let statements = [
        said("a", Confidence::Pinned, Topic::Module(Language::Php, "intl".to_owned())),
        said("a", Confidence::Used, tool("php")),
    ];
    assert_eq!(suggested(&statements), ["php-intl: module = \"intl\", of = \"php\"", "php: tool = \"php\", level = \"should\""]);
}

#[rstest]
#[case::a_pin_that_can_be_followed(&[(">= 3.25", true)], "version_from = \"a\"")]
#[case::one_that_cannot(&[(">= 3.25", false)], "version = \">= 3.25\"")]
#[case::two_that_narrow_each_other(&[(">= 3.25", true), ("< 5", false)], "version = \">= 3.25, < 5\"")]
#[case::two_that_contradict_each_other(&[(">= 3.25", true), ("< 3", false)], "")]
fn versions_are_asked_for_as_the_pins_have_them(#[case] pins: &[(&str, bool)], #[case] wanted: &str) {
    let pin = |(range, is_pin): &(&str, bool)| Statement {
        range: Some((*range).to_owned()),
        is_pin: *is_pin,
        ..said("a", Confidence::Pinned, tool("cmake"))
    };
    let statements: Vec<Statement> = pins.iter().map(pin).collect();
    let wanted = if wanted.is_empty() { String::new() } else { format!(", {wanted}") };
    assert_eq!(suggested(&statements), [format!("cmake: tool = \"cmake\"{wanted}")]);
    let notes: usize = Draft::of(&statements).live.iter().map(|one| one.notes.len()).sum();
    assert_eq!(notes, usize::from(wanted.is_empty()));
}

#[test]
fn a_version_that_is_only_used_refuses_no_other() {
    let used = |range: &str| Statement { range: Some(range.to_owned()), ..said("a", Confidence::Used, tool("node")) };
    assert_eq!(
        suggested(&[used("18.*"), used("20.*"), used("18.*")]),
        ["node: tool = \"node\", tested = \"18.* || 20.*\", level = \"should\""]
    );
}

#[test]
fn a_library_that_counts_otherwise_is_asked_for_without_a_version() {
    let statement = Statement { range: Some(">= 2.10".to_owned()), ..said("a", Confidence::Pinned, library("freetype2")) };
    assert_eq!(suggested(core::slice::from_ref(&statement)), ["freetype2: library = \"freetype2\", when = \"not windows\""]);
}

#[test]
fn what_only_one_of_several_ways_to_build_asks_for_is_recommended() {
    let both =
        [said("CMakeLists.txt", Confidence::Pinned, tool("cmake")), said("configure.ac", Confidence::Pinned, tool("autoconf"))];
    let [cmake, autoconf] = suggested(&both).try_into().unwrap();
    assert!(cmake.ends_with("level = \"should\"") && autoconf.ends_with("level = \"should\""), "{cmake} {autoconf}");
    // What both ask for is needed whichever way one goes.
    let shared =
        [said("CMakeLists.txt", Confidence::Pinned, library("zlib")), said("configure.ac", Confidence::Pinned, library("zlib"))];
    assert_eq!(suggested(&shared), ["zlib: library = \"zlib\", when = \"not windows\""]);
}

#[test]
fn conditions_that_say_nothing_on_the_only_system_are_left_out() {
    let only = |when: &str| Some(Restriction::When(when.to_owned()));
    let system = |os| said("ci", Confidence::Used, Topic::System(os));
    let here = Statement { only: only("linux"), ..said("a", Confidence::Pinned, library("x11")) };
    assert_eq!(suggested(&[system(Os::Linux), here.clone()]), ["x11: library = \"x11\""]);
    assert_eq!(suggested(&[system(Os::Linux), system(Os::Macos), here]), ["x11: library = \"x11\", when = \"linux\""]);
}

#[test]
fn ids_are_told_apart() {
    let statements = [
        said("a", Confidence::Pinned, tool("valgrind")),
        said("a", Confidence::Pinned, library("valgrind")),
        said("a", Confidence::Pinned, library("libnl-3.0")),
    ];
    let ids: Vec<String> = Draft::of(&statements).live.into_iter().map(|one| one.id).collect();
    assert_eq!(ids, ["valgrind", "valgrind-library", "libnl-3.0"]);
}

#[test]
fn additions_are_what_a_guide_does_not_speak_of_and_has_not_accepted() {
    let guide = |accept: &str| {
        let text = format!(
            "format = 1\n[project]\nname = \"Driftbuoy\"\nsystems = [\"linux\"]\n[require.cmake]\ntool = \"cmake\"\n[require.cairo]\nlibrary = \"cairo\"\npackages = {{ dnf = \"cairo-devel\" }}\n{accept}"
        );
        guide::parse(&text).unwrap()
    };
    let mut package = said("ci", Confidence::Used, library("cairo"));
    package.package = Some((Manager::Apt, "libcairo2-dev".to_owned()));
    let statements = [
        said("a", Confidence::Pinned, tool("cmake")),
        package,
        said("ci", Confidence::Used, tool("jq")),
        said("a", Confidence::Mentioned, tool("ninja")),
        said("ci", Confidence::Used, Topic::System(Os::Macos)),
    ];
    let names = |accept: &str| {
        let draft = Draft::additions(&statements, &guide(accept));
        (draft.live.into_iter().map(|one| one.id).collect::<Vec<_>>(), draft.systems, draft.perhaps.len())
    };
    assert_eq!(names(""), (vec!["jq".to_owned()], vec![Os::Macos], 0));
    let accept =
        "[proofread]\naccept = [{ rule = \"used-unlisted\", of = \"tool jq\", because = \"Only the release needs it.\" }]\n";
    assert_eq!(names(accept).0, Vec::<String>::new());
}
