//! Fixes, judged by a proof that the software does not know: what the person wants to do, typed at their own prompt.
//!
//! Each situation is a throwaway root that is put into it. A person signs in, opens a terminal, checks, does what the plan says, word for word, in
//! a new terminal or after a new sign-in where it says so, and checks again, as often as somebody would. `tools/carry-out-fixes` runs this.
#![allow(
    clippy::unwrap_used,
    clippy::expect_used,
    clippy::indexing_slicing,
    clippy::panic,
    clippy::print_stdout,
    unreachable_pub,
    dead_code,
    reason = "helpers of tests may be blunt"
)]
#![cfg(target_os = "linux")]

#[path = "carried_out/newcomer.rs"]
mod newcomer;
#[path = "carried_out/proof.rs"]
mod proof;
#[path = "carried_out/root.rs"]
mod root;
#[path = "carried_out/terminal.rs"]
mod terminal;

use proof::{Judged, Situation};
use std::fmt::Write as _;
use std::sync::Mutex;
use std::sync::atomic::{AtomicUsize, Ordering};

const FAMILIES: [(&str, &str); 9] = [
    ("folders", include_str!("carried_out/proven/folders.toml")),
    ("shells", include_str!("carried_out/proven/shells.toml")),
    ("tools", include_str!("carried_out/proven/tools.toml")),
    ("packages", include_str!("carried_out/proven/packages.toml")),
    ("network", include_str!("carried_out/proven/network.toml")),
    ("account", include_str!("carried_out/proven/account.toml")),
    ("checkout", include_str!("carried_out/proven/checkout.toml")),
    ("layers", include_str!("carried_out/proven/layers.toml")),
    ("verdicts", include_str!("carried_out/proven/verdicts.toml")),
];

fn situations() -> Vec<(&'static str, Situation)> {
    let one = |(family, text): &(&'static str, &str)| {
        let mut table: toml::Table = toml::from_str(text).unwrap_or_else(|error| panic!("{family}: {error}"));
        let list = table.remove("situation").unwrap();
        let list: Vec<Situation> = list.try_into().unwrap_or_else(|error| panic!("{family}: {error}"));
        list.into_iter().map(|situation| (*family, situation)).collect::<Vec<_>>()
    };
    FAMILIES.iter().flat_map(one).collect()
}

#[test]
#[ignore = "needs a throwaway root: run tools/carry-out-fixes"]
fn what_the_plan_says_lets_the_person_do_what_they_want() {
    let situations = situations();
    let wanted = std::env::var("SITUATION").unwrap_or_default();
    let next = AtomicUsize::new(0);
    let judged: Mutex<Vec<(usize, Judged)>> = Mutex::new(Vec::new());
    // Most of the time something is waited for.
    let workers = std::thread::available_parallelism().map_or(2, usize::from) * 4;
    std::thread::scope(|scope| {
        for _ in 0..workers {
            scope.spawn(|| {
                loop {
                    let index = next.fetch_add(1, Ordering::SeqCst);
                    let Some((family, situation)) = situations.get(index) else { break };
                    if !(situation.name.contains(&wanted) || *family == wanted) {
                        continue;
                    }
                    let begun = std::time::Instant::now();
                    let outcome = proof::judge(situation);
                    let word = outcome.word();
                    println!(
                        "{word:<9} {family}: {} ({} s){}",
                        situation.name,
                        begun.elapsed().as_secs(),
                        outcome.faults().map(|fault| format!("\n            {fault}")).collect::<String>()
                    );
                    if !wanted.is_empty() {
                        println!("{}", outcome.log);
                    }
                    judged.lock().unwrap().push((index, outcome));
                }
            });
        }
    });
    let mut judged = judged.into_inner().unwrap();
    judged.sort_by_key(|(index, _)| *index);
    let count = |word: &str| judged.iter().filter(|(_, outcome)| outcome.word() == word).count();
    let false_ready = judged.iter().filter(|(_, outcome)| outcome.false_ready).count();
    println!(
        "right {} of {}, wrong {}, not made {}, wrong \"ready\" {false_ready}",
        count("right"),
        judged.len(),
        count("wrong"),
        count("not made")
    );
    if let Ok(file) = std::env::var("PROVEN_TABLE") {
        let mut text = String::new();
        for (index, outcome) in &judged {
            let (family, situation) = &situations[*index];
            let _ = writeln!(
                text,
                "{}\t{family}\t{}\t{}",
                outcome.word(),
                situation.name,
                outcome.faults().collect::<Vec<_>>().join("; ")
            );
        }
        std::fs::write(file, text).unwrap();
    }
    assert_eq!(count("not made"), 0, "situations that are not what they say");
    assert_eq!(false_ready, 0, "wrong \"ready\"");
}
