//! The shapes of guides that could make the work grow faster than the guide: each with 10,000 requirements against 1,000, by the program itself.

use crate::{Row, fastest, milliseconds, ratio, time};
use std::fmt::Write;
use std::path::Path;
use std::process::{Command, Stdio};

/// Of these the fastest counts; a small guide is run more often, because what disturbs it weighs more.
const RUNS: usize = 7;
const SMALL_RUNS: usize = 3;
/// How many of the layer before each requirement of a layer waits for.
const LAYER: usize = 4;

fn before(index: usize) -> String {
    let first = (index / LAYER - 1) * LAYER;
    (first..first + LAYER).map(|other| format!("\"c{other}\"")).collect::<Vec<_>>().join(", ")
}

fn requirement(shape: &str, index: usize) -> String {
    let tool = format!("tool = \"t{index}\"\n");
    match shape {
        "a chain" if index > 0 => format!("{tool}after = [\"c{}\"]\n", index - 1),
        "layers" if index >= LAYER => format!("{tool}after = [{}]\n", before(index)),
        "a star" if index > 0 => format!("{tool}after = [\"c0\"]\n"),
        "layers of `any_of`" if index >= LAYER => format!("any_of = [{}]\n", before(index)),
        "`any_of` in `any_of`" if index > 0 => format!("any_of = [\"c{}\"]\n", index - 1),
        "all disks, short together" => format!("disk = \"1 GB\"\nat = \"place/{index}\"\n"),
        _ => format!("{tool}version = \">= 3\"\nwhy = \"Part {index} needs it.\"\n"),
    }
}

fn guide(shape: &str, count: usize) -> String {
    let mut text = "format = 1\n[project]\nname = \"Driftbuoy\"\n".to_owned();
    for index in 0..count {
        let _ = write!(text, "[require.c{index}]\n{}", requirement(shape, index));
    }
    text
}

const MACHINE: &str = "format = 1\n[machine]\nname = \"large\"\n[system]\nos = \"linux\"\nmanagers = [\"apt\"]\n[user]\nname = \"skipper\"\n\
                       elevate = \"sudo\"\nadmin = true\n[[filesystem]]\nat = \"/\"\navailable = \"5 GB\"\n";

pub(crate) fn rows() -> Vec<Row> {
    let folder = std::env::temp_dir().join(format!("setup-ready-shapes-{}", std::process::id()));
    std::fs::create_dir_all(&folder).unwrap();
    let machine = folder.join("machine.toml");
    std::fs::write(&machine, MACHINE).unwrap();
    let run = |form: &str, file: &Path| {
        time(|| {
            let mut command = Command::new(env!("CARGO_BIN_EXE_setup-ready"));
            command.arg("preflight").arg("--guide").arg(file).arg("--machine").arg(&machine).args(["--format", form]);
            let status = command.stdout(Stdio::null()).stderr(Stdio::null()).status().unwrap();
            assert_eq!(status.code(), Some(1));
        })
    };
    let (small_file, large_file) = (folder.join("small.toml"), folder.join("large.toml"));
    let shapes =
        ["a chain", "layers", "a star", "layers of `any_of`", "`any_of` in `any_of`", "all disks, short together", "all unmet"];
    let mut rows = Vec::new();
    for shape in shapes {
        std::fs::write(&small_file, guide(shape, 1_000)).unwrap();
        std::fs::write(&large_file, guide(shape, 10_000)).unwrap();
        for form in ["text", "json"] {
            let (mut small, mut large) = (Vec::new(), Vec::new());
            for _ in 0..RUNS {
                small.extend((0..SMALL_RUNS).map(|_| run(form, &small_file)));
                large.push(run(form, &large_file));
            }
            let (small, large) = (fastest(&small), fastest(&large));
            rows.push(Row {
                what: format!("{shape}, as {form}: 10,000 requirements against 1,000"),
                ours: milliseconds(large),
                other: milliseconds(small),
                ratio: ratio(large, small),
                target: 12.0,
            });
        }
    }
    let _ = std::fs::remove_dir_all(&folder);
    rows
}
