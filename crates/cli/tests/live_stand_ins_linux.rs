//! What a version manager's stand-in would start in the project's folder: read, and never found out by starting it there.

use crate::harness::{Bench, of};
use rstest::rstest;
use serde_json::Value;

/// Makes a program that says a version; a stand-in that would leave a trace; and a stand-in with the lines of a manager of many tools.
const WORDS: &str = r#"
program() { mkdir -p "$(dirname "$1")"; printf '#!/bin/sh\necho %s\n' "$2" > "$1"; chmod 755 "$1"; }
stand_in() { mkdir -p "$(dirname "$1")"; printf '#!/bin/sh\n%s\ntouch "%s/started"; echo 99.0\n' "$2" "$PWD" > "$1"; chmod 755 "$1"; }
pyenv() { stand_in home/.pyenv/shims/$1; for v in 3.9.18 3.11.4 3.11.12 3.12.1; do program home/.pyenv/versions/$v/bin/$1 "Python $v"; done; echo 3.9.18 > home/.pyenv/version; }
rust() { stand_in home/.cargo/bin/rustup; ln home/.cargo/bin/rustup home/.cargo/bin/rustc; for v in stable 1.75.0; do program home/.rustup/toolchains/$v-x86_64-unknown-linux-gnu/bin/rustc "rustc $([ $v = stable ] && echo 1.91.0 || echo $v)"; done
  printf 'default_host_triple = "x86_64-unknown-linux-gnu"\ndefault_toolchain = "stable-x86_64-unknown-linux-gnu"\n\n[overrides]\n' > home/.rustup/settings.toml; }
many() { stand_in home/.many/shims/node '# many-plugin: nodejs 18.20.0'; for v in 18.20.0 20.11.1; do program home/.many/installs/nodejs/$v/bin/node v$v; done; }
images() { stand_in home/.images/bin/images-shim; ln -s images-shim home/.images/bin/node; for v in 18.20.0 22.3.0; do program home/.images/tools/image/node/$v/bin/node v$v; done
  mkdir -p home/.images/tools/user; echo '{"node":{"runtime":"18.20.0","npm":null}}' > home/.images/tools/user/platform.json; }
"#;

/// The finding for a tool on a machine that a script makes; with the trace that a started stand-in leaves.
fn looked_at(tool: &str, folder: &str, made: &str) -> (Value, bool) {
    let bench = Bench::new(&format!("[require.x]\ntool = \"{tool}\"\n"));
    let root = bench.folder.path().canonicalize().unwrap();
    let made = format!("set -e\n{WORDS}\n{made}");
    let status = bench.wrapped("bash", &["-c", &made]).current_dir(&root).status().unwrap();
    assert!(status.success(), "{made}");
    let path = format!("{}:{}:/usr/bin:/bin", root.join("home").join(folder).display(), bench.bin().display());
    let mut command = bench.command(&[], &["preflight", "--format", "json"]);
    for name in ["PYENV_VERSION", "PYENV_ROOT", "RUSTUP_TOOLCHAIN", "RUSTUP_HOME", "CARGO_HOME", "MANY_NODEJS_VERSION"] {
        command.env_remove(name);
    }
    let output = command.env("PATH", path).env("HOME", root.join("home")).output().unwrap();
    let report: Value = serde_json::from_slice(&output.stdout).unwrap_or_else(|error| panic!("{error}: {output:?}"));
    (of(&report, "x").clone(), root.join("started").exists())
}

#[rstest]
#[case::python_by_the_managers_own_file("python3", ".pyenv/shims", "pyenv python3", "3.9.18")]
#[case::python_by_a_pin("python3", ".pyenv/shims", "pyenv python3; echo 3.12.1 > project/.python-version", "3.12.1")]
#[case::python_by_a_series("python3", ".pyenv/shims", "pyenv python3; echo 3.11 > project/.python-version", "3.11.12")]
#[case::python_by_a_pin_above("python3", ".pyenv/shims", "pyenv python3; echo 3.12.1 > .python-version", "3.12.1")]
#[case::python_of_the_system(
    "python3",
    ".pyenv/shims",
    "pyenv python3; echo system > project/.python-version; program bin/python3 'Python 3.7.3'",
    "3.7.3"
)]
#[case::python_of_the_system_where_a_newer_manager_goes_on(
    "python3",
    ".pyenv/shims",
    "pyenv python3; echo 3.13.0 > project/.python-version; program bin/python3 'Python 3.7.3'; mkdir home/.pyenv/libexec; echo nonexistent_versions > home/.pyenv/libexec/pyenv-which",
    "3.7.3"
)]
#[case::ruby(
    "ruby",
    ".rbenv/shims",
    "stand_in home/.rbenv/shims/ruby; program home/.rbenv/versions/3.3.0/bin/ruby 'ruby 3.3.0'; echo ruby-3.3.0 > project/.ruby-version",
    "3.3.0"
)]
#[case::java(
    "java",
    ".jenv/shims",
    "stand_in home/.jenv/shims/java; program home/.jenv/versions/17/bin/java 'openjdk 17.0.9'; echo 17 > project/.java-version",
    "17.0.9"
)]
#[case::node_by_a_pin(
    "node",
    concat!(".nod", "env/shims"),
    "stand_in home/.nod''env/shims/node; program home/.nod''env/versions/20.9.0/bin/node v20.9.0; echo v20.9.0 > project/.node-version",
    "20.9.0"
)]
#[case::node_by_package_json(
    "node",
    ".images/bin",
    "images; echo '{\"images\":{\"node\":\"22.3.0\"}}' > project/package.json",
    "22.3.0"
)]
#[case::node_by_the_persons_choice("node", ".images/bin", "images", "18.20.0")]
#[case::rust_by_default("rustc", ".cargo/bin", "rust", "1.91.0")]
#[case::rust_by_a_toolchain_file(
    "rustc",
    ".cargo/bin",
    "rust; printf '[toolchain]\\nchannel = \"1.75\"\\n' > project/rust-toolchain.toml",
    "1.75.0"
)]
#[case::rust_by_the_older_file("rustc", ".cargo/bin", "rust; echo 1.75.0 > project/rust-toolchain", "1.75.0")]
#[case::rust_by_an_override(
    "rustc",
    ".cargo/bin",
    "rust; echo \"\\\"$PWD/project\\\" = \\\"1.75.0-x86_64-unknown-linux-gnu\\\"\" >> home/.rustup/settings.toml",
    "1.75.0"
)]
#[case::one_of_many_by_a_pin("node", ".many/shims", "many; echo 'nodejs 20.11.1 # why' > project/.tool-versions", "20.11.1")]
#[case::one_of_many_by_the_persons_choice("node", ".many/shims", "many; echo 'nodejs 18.20.0' > home/.tool-versions", "18.20.0")]
#[case::one_of_many_with_a_second_choice(
    "node",
    ".many/shims",
    "many; echo 'nodejs 21.0.0 20.11.1' > project/.tool-versions",
    "20.11.1"
)]
fn the_version_is_that_of_the_program_which_would_start_here(
    #[case] tool: &str,
    #[case] folder: &str,
    #[case] made: &str,
    #[case] found: &str,
) {
    let (finding, started) = looked_at(tool, folder, made);
    assert_eq!(
        (finding["verdict"].as_str().unwrap(), finding["found"].as_str().unwrap_or_default()),
        ("met", found),
        "{finding:#}"
    );
    assert!(!started, "the stand-in was started");
}

#[rstest]
#[case::a_version_that_is_not_there(
    "python3",
    ".pyenv/shims",
    "pyenv python3; echo 3.13.0 > project/.python-version",
    "unmet",
    "3.13.0, which "
)]
#[case::a_toolchain_that_is_not_there(
    "rustc",
    ".cargo/bin",
    "rust; echo 1.60.0 > project/rust-toolchain",
    "unmet",
    "rustc of 1.60.0, which "
)]
#[case::a_pin_that_is_a_path(
    "python3",
    ".pyenv/shims",
    "pyenv python3; echo ../../../project/evil > project/.python-version",
    "unknown",
    "cannot be read"
)]
#[case::a_toolchain_that_is_a_path(
    "rustc",
    ".cargo/bin",
    "rust; printf '[toolchain]\\npath = \"x\"\\n' > project/rust-toolchain.toml",
    "unknown",
    "cannot be read"
)]
#[case::a_tool_of_many_that_is_a_path(
    "node",
    ".many/shims",
    "many; echo \"nodejs path:$PWD/project\" > project/.tool-versions",
    "unknown",
    "cannot be read"
)]
#[case::no_version_at_all("node", ".many/shims", "many", "unmet", "no version of nodejs is chosen")]
#[case::a_manager_whose_settings_are_not_read(
    "node",
    ".other/shims",
    "stand_in home/.other/shims/node; mkdir home/.other/installs",
    "unknown",
    "cannot be read"
)]
#[case::a_runtime_with_a_file_of_the_project(
    "dotnet",
    "x",
    "stand_in bin/dotnet; echo '{\"sdk\":{\"version\":\"8.0.1\"}}' > project/global.json",
    "unknown",
    "cannot be read"
)]
fn what_is_not_there_or_cannot_be_read_is_told(
    #[case] tool: &str,
    #[case] folder: &str,
    #[case] made: &str,
    #[case] verdict: &str,
    #[case] says: &str,
) {
    let (finding, started) = looked_at(tool, folder, made);
    assert_eq!(finding["verdict"], verdict, "{finding:#}");
    assert!(finding["message"].as_str().unwrap().contains(says), "{}", finding["message"]);
    assert!(!started, "the stand-in was started");
}
