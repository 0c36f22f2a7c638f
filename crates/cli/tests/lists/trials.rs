//! Cases of a list as tests, one each, which the usual options of a test program choose, list and run (`libtest-mimic`).

#![allow(dead_code, unused_imports, unused_macros, reason = "each test program uses its own part, and each system too")]

use libtest_mimic::{Arguments, Conclusion, Failed, Trial};

/// Most cases wait for a program more than they compute.
const AT_ONCE: usize = 8;

/// Runs them as `cargo test` does, several at once where nothing else is asked for.
pub(crate) fn run(tests: Vec<Trial>) -> Conclusion {
    let mut arguments = Arguments::from_args();
    let threads = std::env::var("RUST_TEST_THREADS").ok().and_then(|number| number.parse().ok());
    arguments.test_threads = arguments.test_threads.or(threads).or(Some(AT_ONCE));
    libtest_mimic::run(&arguments, tests)
}

/// A test for each case: it fails where anything about the case is wrong. Under Wine, where each start of the program takes long, one of so
/// many is looked at: the engine is the same everywhere.
pub(crate) fn of<C: Sync>(
    list: &str,
    cases: &'static [C],
    every_under_wine: usize,
    name: impl Fn(&C) -> &str,
    wrong: impl Fn(&C) -> Vec<String> + Clone + Send + 'static,
) -> Vec<Trial> {
    let every = if cfg!(windows) { every_under_wine } else { 1 };
    let test = |case: &'static C| {
        let wrong = wrong.clone();
        test(list, name(case), move || wrong(case))
    };
    cases.iter().step_by(every).map(test).collect()
}

/// One test, which fails where something is wrong.
pub(crate) fn test(list: &str, name: &str, wrong: impl FnOnce() -> Vec<String> + Send + 'static) -> Trial {
    Trial::test(full_name(list, name), move || {
        let wrong = wrong();
        if wrong.is_empty() { Ok(()) } else { Err(Failed::from(wrong.join("\n    "))) }
    })
}

/// The name by which one runs it alone, without what a shell would take for its own.
fn full_name(list: &str, name: &str) -> String {
    let plain = name.split(|c: char| !c.is_alphanumeric()).filter(|word| !word.is_empty()).collect::<Vec<_>>().join("_");
    format!("{list}::{plain}")
}

/// The same, left out for want of something, which stands in brackets behind its name. `--include-ignored` runs it all the same.
pub(crate) fn ignored_for_want_of(what: Option<String>, test: Trial) -> Trial {
    match what {
        Some(what) => test.with_kind(format!("needs {what}")).with_ignored_flag(true),
        None => test,
    }
}

/// Whether a program is on PATH.
pub(crate) fn is_here(program: &str) -> bool {
    std::env::split_paths(&std::env::var_os("PATH").unwrap_or_default()).any(|folder| folder.join(program).is_file())
}

/// Tests that are functions of their own.
macro_rules! functions {
    ($list:literal: $($name:ident),+ $(,)?) => {
        vec![$($crate::trials::test($list, stringify!($name), || {
            $name();
            Vec::new()
        })),+]
    };
}
pub(crate) use functions;
