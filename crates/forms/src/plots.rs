//! Plots as SVG. They are read without colour: each bar has its number in words beside it, and takes the page's own ink.

use super::page::{PageError, render};
use minijinja::context;
use serde::Serialize;

const BARS: &str = include_str!("../templates/bars.svg");
const LINE: &str = include_str!("../templates/line.svg");

/// A bar: what it is, what stands behind it, and how long it is, of the whole.
#[derive(Debug)]
pub struct Bar {
    pub label: String,
    pub value: String,
    pub share: f64,
}

/// In pixels.
const WIDTH: usize = 720;
const ROW: usize = 26;
const LABELS: usize = 190;
const VALUES: usize = 150;
/// Of a line: its height with the names below it, and where its own field begins and ends.
const HEIGHT: usize = 260;
const FIELD: std::ops::Range<usize> = 15..220;
const LEFT: usize = 60;
const RIGHT: usize = 690;
/// So many weeks have their names below them.
const MOST_NAMES: usize = 8;

/// A share of a length in pixels.
#[allow(clippy::cast_precision_loss, clippy::cast_possible_truncation, clippy::cast_sign_loss, reason = "some hundred pixels")]
fn of(share: f64, length: usize) -> usize {
    (share.clamp(0.0, 1.0) * length as f64).round() as usize
}

#[derive(Serialize)]
struct DrawnBar {
    label: String,
    value: String,
    top: usize,
    middle: usize,
    long: usize,
}

/// Bars below each other, the first at the top.
///
/// # Errors
/// Never, unless this software has a fault.
pub fn bars(bars: &[Bar]) -> Result<String, PageError> {
    let longest = WIDTH - LABELS - VALUES;
    let drawn = |(row, bar): (usize, &Bar)| DrawnBar {
        label: shortened(&bar.label, 26),
        value: bar.value.clone(),
        top: row * ROW + 4,
        middle: row * ROW + ROW / 2,
        long: of(bar.share, longest),
    };
    let drawn: Vec<DrawnBar> = bars.iter().take(1_000).enumerate().map(drawn).collect();
    let height = ROW * drawn.len().max(1);
    render(BARS, context! { width => WIDTH, height, labels => LABELS, longest, thick => ROW - 8, bars => drawn })
}

#[derive(Serialize)]
struct Point<'w> {
    x: usize,
    y: usize,
    name: Option<&'w str>,
}

#[derive(Serialize)]
struct Mark {
    y: usize,
    percent: usize,
}

/// A share week by week, as a line with a mark for each week.
///
/// # Errors
/// Never, unless this software has a fault.
pub fn line(weeks: &[(String, f64)]) -> Result<String, PageError> {
    let high = FIELD.end - FIELD.start;
    let last = weeks.len().saturating_sub(1).max(1);
    let every = weeks.len().div_ceil(MOST_NAMES).max(1);
    let point = |(at, (week, share)): (usize, &'_ (String, f64))| {
        let name = at.is_multiple_of(every).then(|| week.clone());
        (LEFT + at * (RIGHT - LEFT) / last, FIELD.end - of(*share, high), name)
    };
    let drawn: Vec<(usize, usize, Option<String>)> = weeks.iter().enumerate().map(point).collect();
    let points: Vec<Point<'_>> = drawn.iter().map(|(x, y, name)| Point { x: *x, y: *y, name: name.as_deref() }).collect();
    let marks: Vec<Mark> = (0..=4).map(|quarter| Mark { y: FIELD.end - quarter * high / 4, percent: quarter * 25 }).collect();
    render(LINE, context! { width => WIDTH, height => HEIGHT, left => LEFT, right => RIGHT, marks, points })
}

fn shortened(text: &str, most: usize) -> String {
    if text.chars().count() <= most { text.to_owned() } else { text.chars().take(most - 1).chain(['…']).collect() }
}
