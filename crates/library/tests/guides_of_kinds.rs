//! Guides for eight kinds of projects, each with machines that say what they expect of it: no guide needs a command of its own for what the
//! language can say.

use build_setup_ready::{Described, GuideFile};
use rstest::rstest;
use setup_ready_core::guide::{Kind, Subject};
use std::path::{Path, PathBuf};

fn machines(folder: &Path) -> Vec<PathBuf> {
    let mut all: Vec<PathBuf> = std::fs::read_dir(folder.join("machines")).unwrap().map(|entry| entry.unwrap().path()).collect();
    all.sort();
    all
}

#[rstest]
#[case::in_cpp("cpp")]
#[case::in_go("go")]
#[case::in_rust("rust")]
#[case::in_python("python")]
#[case::in_node("node")]
#[case::in_java("java")]
#[case::of_firmware("firmware")]
#[case::of_a_web_application("web")]
fn every_machine_finds_what_it_expects(#[case] kind: &str) {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("../cli/tests/guides").join(kind);
    let file = GuideFile::load(&folder.join("setup-guide.toml")).unwrap_or_else(|error| panic!("{error}"));
    assert!(!file.guide.requirements.iter().any(|one| matches!(one.subject, Subject::Command(_))));
    let machines = machines(&folder);
    assert!(machines.len() >= 3);
    let mut wrong = Vec::new();
    for path in machines {
        let text = std::fs::read_to_string(&path).unwrap();
        let machine = Described::parse(&text).unwrap_or_else(|mistakes| panic!("{}: {mistakes}", path.display()));
        assert!(!machine.expectations().is_empty(), "{}", path.display());
        let disagreements = machine.disagreements(std::sync::Arc::clone(&file.guide));
        wrong.extend(disagreements.into_iter().map(|text| format!("{}: {text}", machine.machine_name())));
    }
    assert!(wrong.is_empty(), "{}", wrong.join("\n"));
}

#[rstest]
#[case::in_cpp("cpp")]
#[case::in_go("go")]
#[case::in_java("java")]
#[case::in_node("node")]
#[case::of_a_web_application("web")]
fn a_value_that_is_moved_to_where_it_is_changes_nothing(#[case] kind: &str) {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("../cli/tests/guides").join(kind);
    let guide = GuideFile::load(&folder.join("setup-guide.toml")).unwrap().guide;
    let stated: Vec<String> = guide.values.iter().map(|value| value.is.clone()).collect();
    let moved = guide.moved(&stated).unwrap();
    assert_eq!(format!("{:?}", moved.requirements), format!("{:?}", guide.requirements));
}

#[test]
fn what_guides_could_not_say_is_said_somewhere() {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("../cli/tests/guides");
    let guides =
        std::fs::read_dir(folder).unwrap().map(|entry| GuideFile::load(&entry.unwrap().path().join("setup-guide.toml")).unwrap());
    let guides: Vec<GuideFile> = guides.collect();
    let has = |kind: Kind| guides.iter().any(|file| file.guide.requirements.iter().any(|one| one.subject.kind() == kind));
    for kind in [
        Kind::Module,
        Kind::Headers,
        Kind::SystemPackage,
        Kind::KernelModule,
        Kind::Swap,
        Kind::Rights,
        Kind::Clock,
        Kind::Checkout,
    ] {
        assert!(has(kind), "{}", kind.word());
    }
    assert!(guides.iter().filter(|file| !file.guide.values.is_empty()).count() >= 4);
    assert!(guides.iter().filter(|file| !file.guide.places.is_empty()).count() >= 2);
}
