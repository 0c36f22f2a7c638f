//! Versions that are read from a tool's own installation: only where they are certain, and then the tool is not started.

use crate::harness::{Bench, of};
use rstest::rstest;
use serde_json::Value;

/// What the installations state; the programs themselves say something else, or nothing.
const STATED: &str = "9.9.9";

/// Makes a package of Node, whose interpreter only ever says its own version; and a distribution of Python, whose interpreter says nothing.
const WORDS: &str = r#"
program() { mkdir -p "$(dirname "$1")"; printf '#!/bin/sh\necho %s\n' "$2" > "$1"; chmod 755 "$1"; }
node_package() { P=home/lib/node_modules/$1; mkdir -p $P/bin $P/node_modules/tide; program home/bin/node v20.1.0
  printf '{"name":"%s","version":"9.9.9","bin":{"%s":"bin/cli.js"},"engines":{"node":">=18"},"dependencies":{"tide":"1"}}' $1 $1 > $P/package.json
  echo '{"name":"tide"}' > $P/node_modules/tide/package.json; printf '#!/usr/bin/env node\n' > $P/bin/cli.js; chmod 755 $P/bin/cli.js; ln -s ../lib/node_modules/$1/bin/cli.js home/bin/$1; }
distribution() { L=home/lib/python3.11; S=$L/site-packages; mkdir -p home/bin $L/encodings $S/mesonbuild $S/tide $S/meson-9.9.9.dist-info $S/tide-1.dist-info; cp /bin/true home/bin/python3.11
  for f in $L/os.py $L/site.py $L/encodings/__init__.py $S/mesonbuild/__init__.py $S/tide/__init__.py; do echo '#' > $f; done
  printf 'Name: meson\nVersion: 9.9.9\nRequires-Dist: tide>=1\nRequires-Dist: reef; python_version < "3.9"\n\n' > $S/meson-9.9.9.dist-info/METADATA
  printf 'Name: tide\nVersion: 1\n\n' > $S/tide-1.dist-info/METADATA; echo tide/__init__.py,, > $S/tide-1.dist-info/RECORD
  printf '#!%s/home/bin/python3.11\nimport sys\nfrom mesonbuild.mesonmain import main\n' "$PWD" > home/bin/meson; chmod 755 home/bin/meson; echo mesonbuild/__init__.py,, > $S/meson-9.9.9.dist-info/RECORD; }
"#;

/// The finding for a tool on a machine that a script makes.
fn looked_at(requirement: &str, made: &str, more: &[&str]) -> Value {
    let bench = Bench::new(&format!("[require.x]\n{requirement}\n"));
    let root = bench.folder.path().canonicalize().unwrap();
    let status = bench.wrapped("bash", &["-c", &format!("set -e\n{WORDS}\n{made}")]).current_dir(&root).status().unwrap();
    assert!(status.success(), "{made}");
    let path = format!("{}:/usr/bin:/bin", root.join("home/bin").display());
    let mut command = bench.command(&[], &[&["preflight", "--format", "json"], more].concat());
    for (name, _) in std::env::vars() {
        if ["npm_config_", "PYTHON", "PIP_", "NODE_"].iter().any(|beginning| name.starts_with(beginning)) {
            command.env_remove(name);
        }
    }
    // A script may leave variables for it.
    for line in std::fs::read_to_string(root.join("variables")).unwrap_or_default().lines() {
        command.env(line.split_once('=').unwrap().0, line.split_once('=').unwrap().1);
    }
    let output =
        command.env("PATH", path).env("HOME", root.join("home")).env("XDG_STATE_HOME", root.join("home/state")).output().unwrap();
    let report: Value = serde_json::from_slice(&output.stdout).unwrap_or_else(|error| panic!("{error}: {output:?}"));
    of(&report, "x").clone()
}

fn is_read(finding: &Value) -> bool {
    let read = |evidence: &Value| evidence["saw"].as_str().is_some_and(|saw| saw.contains(&format!("{STATED}, read from ")));
    let evidence = finding["evidence"].as_array().unwrap();
    let read = evidence.iter().any(read);
    // What was read is not asked as well.
    assert!(
        !read
            || !evidence.iter().any(|one| one["asked"]
                .as_str()
                .is_some_and(|asked| asked.ends_with("npm --version") || asked.ends_with("meson --version")))
    );
    read
}

#[rstest]
#[case::a_package_of_node("npm", "node_package npm", true)]
#[case::whose_description_names_another(
    "npm",
    "node_package npm; sed -i 's/\"npm\",\"version/\"nmp\",\"version/' home/lib/node_modules/npm/package.json",
    false
)]
#[case::whose_link_leads_to_another_file(
    "npm",
    "node_package npm; cp home/lib/node_modules/npm/bin/cli.js home/lib/node_modules/npm/bin/other.js; ln -sf ../lib/node_modules/npm/bin/other.js home/bin/npm",
    false
)]
#[case::without_what_it_needs("npm", "node_package npm; rm -r home/lib/node_modules/npm/node_modules", false)]
#[case::for_a_newer_node("npm", "node_package npm; program home/bin/node v16.0.0", false)]
#[case::with_a_setting_of_the_session("npm", "node_package npm; echo npm_config_usage=true > variables", false)]
#[case::before_which_another_goes("npm", "node_package npm; mkdir -p home/node_modules/npm", false)]
#[case::that_the_persons_settings_lead_away("yarn", "node_package yarn; echo 'yarn-path \"/x.js\"' > home/.yarnrc", false)]
#[case::a_distribution_of_python("meson", "distribution", true)]
#[case::of_which_two_are_noted(
    "meson",
    "distribution; cp -r home/lib/python3.11/site-packages/meson-9.9.9.dist-info home/lib/python3.11/site-packages/meson-1.0.dist-info",
    false
)]
#[case::of_which_the_person_has_an_own(
    "meson",
    "distribution; mkdir -p home/.local/lib/python3.11/site-packages/mesonbuild; touch home/.local/lib/python3.11/site-packages/mesonbuild/__init__.py",
    false
)]
#[case::whose_module_is_gone("meson", "distribution; rm -r home/lib/python3.11/site-packages/mesonbuild", false)]
#[case::that_needs_what_is_gone("meson", "distribution; rm -r home/lib/python3.11/site-packages/tide", false)]
#[case::that_was_changed_later(
    "meson",
    "distribution; touch -d '+1 hour' home/lib/python3.11/site-packages/mesonbuild/__init__.py",
    false
)]
#[case::that_is_a_working_copy(
    "meson",
    "distribution; echo '{\"dir_info\":{\"editable\":true}}' > home/lib/python3.11/site-packages/meson-9.9.9.dist-info/direct_url.json",
    false
)]
#[case::before_which_a_folder_goes(
    "meson",
    "distribution; echo 'import sys; sys.path.insert(0, \"/x\")' > home/lib/python3.11/site-packages/a.pth",
    false
)]
#[case::whose_script_says_something_itself(
    "meson",
    "distribution; printf '#!%s/home/bin/python3.11\\nprint(7)\\n' \"$PWD\" > home/bin/meson",
    false
)]
fn a_version_is_read_only_where_it_is_certain(#[case] tool: &str, #[case] made: &str, #[case] read: bool) {
    let finding = looked_at(&format!("tool = \"{tool}\"\nversion = \">= 3\""), made, &[]);
    assert_eq!(is_read(&finding), read, "{finding}");
    assert!(!read || finding["verdict"] == "met", "{finding}");
}

#[rstest]
#[case::too_old_by_what_is_stated("version = \">= 10\"", &[])]
#[case::for_doubters("version = \">= 3\"", &["--start-all"])]
#[case::a_question_of_the_guides_own("version = \">= 3\"\npattern = \"v([0-9.]+)\"", &[])]
#[case::unwanted("version = \">= 3\"\nexpect = \"absent\"", &[])]
fn what_is_stated_only_ever_says_that_nothing_is_wrong(#[case] version: &str, #[case] more: &[&str]) {
    let finding = looked_at(&format!("tool = \"npm\"\n{version}"), "node_package npm", more);
    assert!(!is_read(&finding), "{finding}");
    // The interpreter's own words, since that is all it ever says.
    assert!(finding["message"].as_str().unwrap().contains("20.1.0"), "{finding}");
}
