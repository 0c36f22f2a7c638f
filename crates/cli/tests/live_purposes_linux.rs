//! What a file, a variable or a working copy is for can be done with it: what keeps a person from that, made for the test.

use crate::harness::{Bench, causes_are, is_root, of, without_rights};
use std::fs::{Permissions, create_dir_all, set_permissions};
use std::os::unix::fs::{PermissionsExt, chown};
use std::path::Path;
use std::process::Command;

fn mode(path: &Path, bits: u32) {
    set_permissions(path, Permissions::from_mode(bits)).unwrap();
}

/// Everything of the project is the person's.
fn give(bench: &Bench) {
    if is_root() {
        let done = Command::new("chown").args(["-R", "65534:65534"]).arg(bench.project()).status().unwrap();
        assert!(done.success());
    }
}

#[test]
fn what_is_there_and_of_no_use_is_not_met() {
    let bench = Bench::new(
        "[require.closed]\nfolder = \"closed/inside\"\n[require.unread]\nfile = \"unread\"\ncontains = \"x\"
         [require.ends]\nfile = \"ends.sh\"\nexecutable = true\n[require.none]\nfile = \"none.sh\"\nexecutable = true
         [require.good]\nfile = \"good.sh\"\nexecutable = true\n[require.partly]\nfolder = \"partly\"\nwritable = true
         [require.example]\nfile = \"station.toml\"\n[require.kept]\nvariable = \"BUOY_KEPT\"\nenv_file = \"kept.env\"\n",
    );
    let files = [
        ("unread", "x", 0o200),
        ("ends.sh", "#!/bin/sh\r\n", 0o755),
        ("none.sh", "#!/opt/gone/sh\n", 0o755),
        ("good.sh", "#!/bin/sh\n", 0o755),
        ("station.toml.example", "", 0o644),
        ("kept.env", "BUOY_KEPT=1", 0o000),
    ];
    for (name, text, bits) in files {
        mode(&bench.file(name, text), bits);
    }
    create_dir_all(bench.project().join("closed/inside")).unwrap();
    create_dir_all(bench.project().join("partly/old")).unwrap();
    give(&bench);
    mode(&bench.project().join("closed"), 0o000);
    if is_root() {
        chown(bench.project().join("partly/old"), Some(0), Some(0)).unwrap();
    }
    let (_, report) = bench.report(&without_rights(), &[]);
    mode(&bench.project().join("closed"), 0o755);
    causes_are(
        &report,
        &[
            ("closed", "path-barred"),
            ("unread", "path-not-readable"),
            ("ends", "path-cannot-start"),
            ("none", "path-cannot-start"),
            ("good", ""),
            // Only the administrator can make what is another's.
            ("partly", if is_root() { "path-not-writable" } else { "" }),
            ("example", "path-missing"),
        ],
    );
    let kept = of(&report, "kept");
    assert_eq!((kept["verdict"].as_str(), kept["cause"].as_str()), (Some("unknown"), Some("could-not-look")));
    let run = |id: &str| of(&report, id)["fixes"][0]["run"][0].as_str().unwrap_or_default().to_owned();
    assert!(run("closed").starts_with("chmod u+rwx ") && run("unread").starts_with("chmod u+r "), "{report}");
    assert!(run("ends").starts_with("sed -i.old ") && run("example").starts_with("cp "), "{report}");
    // What the file that cannot be read holds nobody can tell before.
    let foreseen = |id: &str| of(&report, id)["fixes"][0]["foreseen"].as_bool();
    assert_eq!((foreseen("unread"), foreseen("ends"), run("none").as_str()), (Some(false), Some(true), ""));
}

#[test]
fn a_filesystem_that_forbids_it_is_told() {
    if !is_root() {
        return;
    }
    let bench = Bench::new(
        "[require.run]\nfile = \"noexec/run.sh\"\nexecutable = true\n[require.start]\nfolder = \"noexec\"\nruns_programs = true\n\
         [require.plain]\nfolder = \"noexec\"\n[require.out]\nfolder = \"locked\"\nwritable = true\n",
    );
    let place = bench.project().display().to_string();
    let script = format!(
        "mkdir -p {place}/noexec {place}/locked && mount -t tmpfs -o noexec,mode=777 none {place}/noexec && mount -t tmpfs -o mode=777 none \
         {place}/locked && printf '#!/bin/sh\\n' > {place}/noexec/run.sh && chmod 755 {place}/noexec/run.sh && mount -o remount,ro {place}/locked \
         && exec \"$0\" \"$@\""
    );
    let (_, report) = bench.report(&["unshare", "--mount", "sh", "-c", &script], &[]);
    causes_are(&report, &[("run", "path-no-execution"), ("start", "path-no-execution"), ("out", "path-read-only")]);
    assert_eq!(of(&report, "plain")["verdict"], "met");
    assert!(of(&report, "run")["message"].as_str().unwrap().contains("/noexec is mounted without execution"), "{report}");
}

#[test]
fn values_that_lead_nowhere_and_files_of_another_system_are_told() {
    let bench = Bench::new(
        "[require.home]\nvariable = \"CHART_HOME\"\n[require.root]\nvariable = \"CHART_ROOT\"\n[require.words]\nvariable = \"LANG\"
         [require.region]\nvariable = \"BUOY_REGION\"\nenv_file = \".env\"\n",
    );
    bench.file(".env", "\u{feff}BUOY_REGION=north\r\n");
    let (_, report) = bench.report(&["env", "CHART_HOME=/opt/no-charts-here", "CHART_ROOT=/usr", "LANG=xx_XX.UTF-8"], &[]);
    let nowhere = "variable-leads-nowhere";
    causes_are(&report, &[("home", nowhere), ("root", ""), ("words", nowhere), ("region", "variable-line-ends")]);
    assert!(!report.to_string().contains("no-charts-here"), "a value was told");
}

#[test]
fn a_working_copy_that_git_cannot_work_in_is_told() {
    let bench = Bench::new(
        "[require.merge]\ncheckout = \"merge\"\nbranch = \"tide\"\n[require.foreign]\ncheckout = \"foreign\"\nbranch = \"main\"\n",
    );
    for name in ["merge", "foreign"] {
        let done = Command::new("git").args(["init", "-q", "-b", "main"]).arg(bench.project().join(name)).status().unwrap();
        assert!(done.success());
    }
    bench.file("merge/.git/MERGE_HEAD", "0000\n");
    give(&bench);
    if is_root() {
        chown(bench.project().join("foreign/.git"), Some(65533), Some(65533)).unwrap();
    }
    let (_, report) = bench.report(&without_rights(), &[]);
    causes_are(&report, &[("merge", "checkout-unfinished"), ("foreign", if is_root() { "checkout-not-mine" } else { "" })]);
}

#[test]
fn advice_that_was_given_before_comes_with_the_next_way() {
    let bench = Bench::new(
        "[require.chart]\nfile = \"north.map\"\n[[require.chart.fix]]\nsay = \"Fetch it.\"\nrun = \"false\"
         [[require.chart.fix]]\nsay = \"Copy it.\"\nrun = \"touch north.map\"\n",
    );
    // What is remembered lies outside of the project.
    let state = tempfile::tempdir().unwrap();
    let kept = format!("XDG_STATE_HOME={}", state.path().display());
    let fix = || of(&bench.report(&["env", &kept], &[]).1, "chart")["fixes"][0].clone();
    let (first, second) = (fix(), fix());
    assert!(first["otherwise"].is_null() && first["choice"].is_null(), "{first}");
    assert_eq!((&second["run"][0], &second["otherwise"]["run"][0]), (&"false".into(), &"touch north.map".into()), "{second}");
    assert!(second["choice"].as_str().unwrap().contains("did not help"), "{second}");
}
