//! Feeds each reader with texts that nobody would write, made from those that somebody did: `setup-ready-fuzz TARGET [--seconds N] [--cases N]
//! [--seed N]`; without a target, the list of them. No text may lead to a panic or take a second. What does is written to a file and named.

#![allow(clippy::print_stdout, clippy::print_stderr, clippy::exit, reason = "a tool for those who develop this")]

mod mutate;
mod targets;

use cpu_time::ThreadTime;
use std::panic::{AssertUnwindSafe, catch_unwind};
use std::time::{Duration, Instant};

/// No text of this size takes so long.
const SLOWEST: Duration = Duration::from_secs(1);
/// How long a text may become, in bytes.
const LONGEST: usize = 16 << 10;

fn main() {
    let words: Vec<String> = std::env::args().skip(1).collect();
    let number = |name: &str, default: u64| {
        let at = words.iter().position(|word| word == name);
        at.and_then(|at| words.get(at + 1)).and_then(|text| text.parse().ok()).unwrap_or(default)
    };
    let Some(target) = words.first().and_then(|name| targets::TARGETS.iter().find(|target| target.name == *name)) else {
        for target in targets::TARGETS {
            println!("{:10} {}", target.name, target.about);
        }
        std::process::exit(i32::from(!words.is_empty()) * 2);
    };
    let cases = number("--cases", u64::MAX);
    let until = Instant::now() + Duration::from_secs(number("--seconds", if cases == u64::MAX { 10 } else { 1 << 20 }));
    let seed = number("--seed", fastrand::u64(..));
    let mut chance = fastrand::Rng::with_seed(seed);
    let seeds = targets::seeds(target.name);
    let (mut done, mut slowest) = (0_u64, Duration::ZERO);
    while done < cases && (done.trailing_zeros() < 6 || Instant::now() < until) {
        let bytes = mutate::mutated(&seeds, &mut chance, LONGEST);
        let text = String::from_utf8_lossy(&bytes);
        let choice = chance.usize(..);
        // The processor's time: others may have the machine meanwhile.
        let clock = ThreadTime::now();
        let held = catch_unwind(AssertUnwindSafe(|| (target.feed)(&text, choice)));
        let took = clock.elapsed();
        slowest = slowest.max(took);
        if held.is_err() || took > SLOWEST {
            let file = std::env::temp_dir().join(format!("setup-ready-fuzz-{}-{seed}-{done}", target.name));
            let _ = std::fs::write(&file, &bytes);
            eprintln!(
                "{}: case {done} of seed {seed} (choice {choice}) took {took:?}, panicked: {}; {}",
                target.name,
                held.is_err(),
                file.display()
            );
            std::process::exit(1);
        }
        done += 1;
    }
    println!("{:10} {done} cases of seed {seed}: no panic, the slowest took {} ms", target.name, slowest.as_millis());
}
