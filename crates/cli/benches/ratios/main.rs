//! The benchmarks: ratios measured in one run, never absolute times. `cargo bench` prints the table of `docs/performance.md`; with a
//! word behind `--bench ratios --` only the rows of that file.
#![allow(
    clippy::unwrap_used,
    clippy::expect_used,
    clippy::print_stdout,
    clippy::indexing_slicing,
    clippy::panic,
    reason = "a benchmark may be blunt, and prints its table"
)]

mod kinds;
mod large;
mod live;
mod many;
mod shapes;
mod startup;
mod tools;

use std::time::{Duration, Instant};

/// One row of the table.
pub(crate) struct Row {
    pub(crate) what: String,
    pub(crate) ours: String,
    pub(crate) other: String,
    pub(crate) ratio: f64,
    pub(crate) target: f64,
}

/// The rows of one file, by its name.
type Part = (&'static str, fn() -> Vec<Row>);

fn main() {
    let arguments: Vec<String> = std::env::args().collect();
    if let [_, mode, count] = arguments.as_slice()
        && mode.starts_with("child-")
    {
        return large::child(mode, count.parse().unwrap_or(0));
    }
    println!("| what | ours | against | ratio | target |\n| --- | --- | --- | --- | --- |");
    let only = arguments.iter().skip(1).find(|word| !word.starts_with('-'));
    let all: [Part; 7] = [
        ("tools", tools::rows),
        ("startup", startup::rows),
        ("large", large::rows),
        ("live", live::rows),
        ("kinds", kinds::rows),
        ("shapes", shapes::rows),
        ("many", many::rows),
    ];
    for (_, rows) in all.into_iter().filter(|(name, _)| only.is_none_or(|only| only == name)) {
        for row in rows() {
            let verdict = if row.ratio <= row.target { "" } else { " (missed)" };
            println!("| {} | {} | {} | {:.2} | {:.2}{verdict} |", row.what, row.ours, row.other, row.ratio, row.target);
        }
    }
}

/// The time of one call.
pub(crate) fn time(mut call: impl FnMut()) -> Duration {
    let clock = Instant::now();
    call();
    clock.elapsed()
}

/// The fastest one: what else the machine is busy with only ever adds.
pub(crate) fn fastest(times: &[Duration]) -> Duration {
    times.iter().min().copied().unwrap_or_default()
}

pub(crate) fn ratio(ours: Duration, other: Duration) -> f64 {
    ours.as_secs_f64() / other.as_secs_f64().max(1e-9)
}

pub(crate) fn milliseconds(time: Duration) -> String {
    format!("{:.1} ms", time.as_secs_f64() * 1e3)
}
