//! Whatever a stranger's file holds, its reader ends, and what it says can be used.

use super::{
    branch_of_head, env_entries, has_default_route, pkg_config_version, proxy_for, routes, sets_variable, submodule_paths,
};
use crate::pinned::pinned;
use proptest::prelude::*;
use setup_ready_core::observation::Pinned;
use setup_ready_core::version::Range;

const FILES: [&str; 9] = [
    "rust-toolchain.toml",
    "rust-toolchain",
    "Cargo.toml",
    "pyproject.toml",
    "package.json",
    "go.mod",
    "CMakeLists.txt",
    ".node-version",
    "any.txt",
];

/// Texts of the pieces that such files are made of, torn apart and put together anew.
fn torn() -> impl Strategy<Value = String> {
    let piece = prop_oneof![
        4 => prop::sample::select(vec![
            "[toolchain]\nchannel = \"", "[package]\nrust-version = \"", "[project]\nrequires-python = \"", "{\"engines\":{\"node\":\"", "\"}}", "\"\n",
            "go ", "cmake_minimum_required(VERSION ", "...", ")", "Version: ${", "}", "a=${a}", "://", "@", "[::1", "path = ", "export ", "set -gx ", "ref: refs/heads/",
        ]).prop_map(ToOwned::to_owned),
        3 => "[\\^~<>=!|.,*x v0-9-]{0,12}",
        1 => ".{0,8}",
        1 => Just("\n".to_owned()),
    ];
    prop::collection::vec(piece, 0..12).prop_map(|pieces| pieces.concat())
}

proptest! {
    #[test]
    fn a_files_version_is_a_range_or_none(text in torn(), file in prop::sample::select(&FILES[..])) {
        if let Pinned::Range(range, place) = pinned(file, &text, &["node".to_owned()]) {
            prop_assert!(Range::parse(&range).is_ok(), "{range}");
            prop_assert!(place.starts_with(file));
        }
    }

    #[test]
    fn readers_of_other_files_end_too(text in torn()) {
        prop_assert!(pkg_config_version(&text).is_none_or(|version| !version.is_empty() && version.len() < 600));
        prop_assert!(submodule_paths(&text).iter().all(|path| !path.starts_with('/') && !path.contains("..")));
        let _ = (branch_of_head(&text), sets_variable(&text, "A"), env_entries(&text).count(), routes(&text), has_default_route(&text, &text));
        let _ = proxy_for(&text, |name| (name == "no_proxy").then(|| text.clone()));
    }
}
