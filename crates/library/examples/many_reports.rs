//! Streams reports of made-up newcomers, one a line: `many_reports NUMBER [SEED] [ids]`. To see how a survey does with many:
//! `cargo run --release --example many_reports -- 1000000 | setup-ready survey -`

use build_setup_ready::demo::{GUIDE, class};

use build_setup_ready::{Described, Preflight, Selection, parse_guide};
use std::error::Error;
use std::io::{BufWriter, Write};

/// So many machines are made and assessed; their reports come again and again, each with its own moment, time and id: no two are equal to the
/// byte, since the same report sent twice counts once.
const MACHINES: usize = 400;

/// Stands where the number of milliseconds comes.
const ELAPSED: u64 = 9_876_543_210;

fn main() -> Result<(), Box<dyn Error>> {
    let mut words = std::env::args().skip(1);
    let number: u64 = words.next().map_or(Ok(1_000), |word| word.parse())?;
    let seed: u64 = words.next().map_or(Ok(7), |word| word.parse())?;
    let ids = words.next().is_some_and(|word| word == "ids");
    let guide = parse_guide(GUIDE).map_err(|mistakes| mistakes.to_string())?;
    let mut texts = Vec::new();
    for newcomer in class(seed, MACHINES) {
        let machine = Described::parse(&newcomer.machine).map_err(|mistakes| mistakes.to_string())?;
        let selection = Selection { role: guide.role(newcomer.role), ..Selection::default() };
        let mut report = Preflight::new(&guide).select(selection).run(&machine)?;
        report.frame.started = String::from("MOMENT");
        report.frame.elapsed_ms = ELAPSED;
        report.frame.id = ids.then(|| "IDENTITY".to_owned());
        let mut pretty = Vec::new();
        build_setup_ready::write::json(&report, &mut pretty)?;
        // One a line, as programs send them.
        let text = String::from_utf8(pretty)?.lines().map(str::trim_start).collect::<String>();
        let (before, after) = text.split_once("MOMENT").ok_or("no moment")?;
        let (first, second) = before.split_once("IDENTITY").unwrap_or((before, ""));
        let (third, rest) = after.split_once(&ELAPSED.to_string()).ok_or("no time")?;
        texts.push([first, second, third, rest].map(ToOwned::to_owned));
    }
    let mut out = BufWriter::with_capacity(1 << 20, std::io::stdout().lock());
    for at in 0..number {
        let Some([first, second, third, rest]) = texts.get(usize::try_from(at)? % texts.len()) else { continue };
        let id = if ids { format!("{:032x}", at / 2) } else { String::new() };
        let (week, hour) = (at % 20, at % 24);
        let day = week * 7 % 28 + 1;
        let month = 6 + week / 5;
        // A closed pipe is no failure: whoever reads has seen enough.
        if writeln!(out, "{first}{id}{second}2026-{month:02}-{day:02}T{hour:02}:00:00Z{third}{at}{rest}").is_err() {
            return Ok(());
        }
    }
    Ok(())
}
