//! Guides as files: found from anywhere in the project, read whole, refused with the reason.

use build_setup_ready::{GuideFile, LoadError};
use std::path::{Path, PathBuf};

const GUIDE: &str = "format = 1\n[project]\nname = \"Driftbuoy\"\n[require.git]\ntool = \"git\"\n";

fn project(text: &[u8]) -> (tempfile::TempDir, PathBuf) {
    let root = tempfile::tempdir().unwrap();
    std::fs::create_dir_all(root.path().join("firmware/src")).unwrap();
    let path = root.path().join("setup-guide.toml");
    std::fs::write(&path, text).unwrap();
    (root, path)
}

#[test]
fn the_nearest_guide_above_is_found() {
    let (root, path) = project(GUIDE.as_bytes());
    assert_eq!(GuideFile::find(&root.path().join("firmware/src")).unwrap(), path);
    let nearer = root.path().join("firmware/setup-guide.toml");
    std::fs::write(&nearer, GUIDE).unwrap();
    assert_eq!(GuideFile::find(&root.path().join("firmware/src")).unwrap(), nearer);
    // A folder of that name is no guide.
    std::fs::create_dir(root.path().join("firmware/src/setup-guide.toml")).unwrap();
    assert_eq!(GuideFile::find(&root.path().join("firmware/src")).unwrap(), nearer);
    let nowhere = tempfile::tempdir().unwrap();
    assert!(matches!(GuideFile::find(nowhere.path()), Err(LoadError::NotFound(folder)) if folder == nowhere.path()));
}

#[test]
fn a_guide_knows_its_folder_and_its_digest() {
    let (root, path) = project(GUIDE.as_bytes());
    let file = GuideFile::load(&path).unwrap();
    assert_eq!((file.folder(), file.guide.requirements.len()), (root.path().to_owned(), 1));
    // The digest that sha256sum gives for this text.
    assert_eq!(file.sha256, "c6e2d8508259fb832920f94865964ee0c985b8d450827d3e0768b19dd1a2f232");
    assert_eq!(GuideFile { path: "setup-guide.toml".into(), ..file }.folder(), Path::new("."));
}

#[test]
fn what_cannot_be_read_says_why() {
    let (_root, path) = project(b"format = 1\n\xc3\x28\n");
    let message = GuideFile::load(&path).unwrap_err().to_string();
    assert!(message.ends_with("is not UTF-8 text: line 2 holds the byte 0xc3; save it as UTF-8"), "{message}");
    let (_root, path) = project(b"format = 1\n[project]\nname = \"Driftbuoy\"\n[require.a]\ntool = 5\nwhy = 6\n");
    let error = GuideFile::load(&path).unwrap_err();
    assert!(error.to_string().ends_with("setup-guide.toml has 2 mistakes"), "{error}");
    let LoadError::Mistakes { mistakes, text, .. } = error else { panic!("no mistakes") };
    assert_eq!(mistakes.iter().map(|problem| problem.position(&text)).collect::<Vec<_>>(), [(5, 8), (6, 7)]);
    let message = GuideFile::load(Path::new("/nowhere/setup-guide.toml")).unwrap_err().to_string();
    assert!(message.starts_with("/nowhere/setup-guide.toml cannot be read: "), "{message}");
}
