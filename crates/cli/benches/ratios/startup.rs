//! Start to end of `--version`, against a program that does nothing.

use crate::{Row, fastest, milliseconds, time};
use std::path::Path;
use std::process::{Command, Stdio};

const RUNS: usize = 300;

pub(crate) fn rows() -> Vec<Row> {
    let folder = tempfile::tempdir().unwrap();
    let (source, empty) = (folder.path().join("empty.rs"), folder.path().join("empty"));
    std::fs::write(&source, "fn main() {}\n").unwrap();
    let built = Command::new("rustc").args(["-O", "-C", "strip=symbols", "-o"]).arg(&empty).arg(&source).status().unwrap();
    assert!(built.success());
    let start = |program: &Path| {
        Command::new(program).arg("--version").stdin(Stdio::null()).stdout(Stdio::null()).status().unwrap();
    };
    let ours = Path::new(env!("CARGO_BIN_EXE_setup-ready"));
    let (mut us, mut nothing) = (Vec::with_capacity(RUNS), Vec::with_capacity(RUNS));
    for _ in 0..RUNS {
        us.push(time(|| start(ours)));
        nothing.push(time(|| start(&empty)));
    }
    let (us, nothing) = (fastest(&us), fastest(&nothing));
    let more = us.saturating_sub(nothing);
    vec![Row {
        what: "`setup-ready --version`, more than an empty Rust program (milliseconds)".to_owned(),
        ours: milliseconds(us),
        other: milliseconds(nothing),
        ratio: more.as_secs_f64() * 1e3,
        target: 1.0,
    }]
}
