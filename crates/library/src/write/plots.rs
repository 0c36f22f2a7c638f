//! Plots as SVG, drawn by a kept package. They are read without colour: each bar has its number in words beside it, and takes the page's own ink.

use plotters::prelude::*;
use plotters::style::text_anchor::{HPos, Pos, VPos};

/// The plot could not be drawn: a fault of this software.
#[derive(Debug, thiserror::Error)]
#[error("a plot could not be drawn: {0}")]
pub(super) struct PlotError(String);

fn failed(error: impl std::fmt::Display) -> PlotError {
    PlotError(error.to_string())
}

/// A bar: what it is, what stands behind it, and how long it is, of the whole.
pub(super) struct Bar {
    pub(super) label: String,
    pub(super) value: String,
    pub(super) share: f64,
}

/// In pixels.
const WIDTH: i32 = 720;
const ROW: i32 = 26;
const LABELS: i32 = 190;
const VALUES: i32 = 150;

/// Texts and lines take the page's ink, light or dark.
fn in_ink(svg: &str) -> String {
    svg.replace("#000000", "currentColor").replace("<svg ", "<svg aria-hidden=\"true\" ")
}

/// Bars below each other, the first at the top.
pub(super) fn bars(bars: &[Bar]) -> Result<String, PlotError> {
    let mut svg = String::new();
    let rows = i32::try_from(bars.len()).unwrap_or(i32::MAX / ROW).clamp(1, 1_000);
    {
        let size = (WIDTH.unsigned_abs(), (rows * ROW).unsigned_abs());
        let root = SVGBackend::with_string(&mut svg, size).into_drawing_area();
        let font = ("sans-serif", 17).into_font();
        let right = font.clone().color(&BLACK).pos(Pos::new(HPos::Right, VPos::Center));
        let left = font.color(&BLACK).pos(Pos::new(HPos::Left, VPos::Center));
        let longest = f64::from(WIDTH - LABELS - VALUES);
        for (row, bar) in (0..rows).zip(bars) {
            let (top, middle) = (row * ROW, row * ROW + ROW / 2);
            #[allow(clippy::cast_possible_truncation, reason = "a share of some hundred pixels")]
            let long = (bar.share.clamp(0.0, 1.0) * longest).round() as i32;
            let frame =
                Rectangle::new([(LABELS, top + 4), (LABELS + WIDTH - LABELS - VALUES, top + ROW - 4)], BLACK.stroke_width(1));
            let filled = Rectangle::new([(LABELS, top + 4), (LABELS + long, top + ROW - 4)], BLACK.filled());
            root.draw(&frame).map_err(failed)?;
            root.draw(&filled).map_err(failed)?;
            root.draw(&Text::new(shortened(&bar.label, 26), (LABELS - 8, middle), right.clone())).map_err(failed)?;
            root.draw(&Text::new(bar.value.clone(), (WIDTH - VALUES + 8, middle), left.clone())).map_err(failed)?;
        }
        root.present().map_err(failed)?;
    }
    Ok(in_ink(&svg))
}

/// A share week by week, as a line with a mark for each week.
pub(super) fn line(weeks: &[(String, f64)]) -> Result<String, PlotError> {
    let mut svg = String::new();
    {
        let root = SVGBackend::with_string(&mut svg, (WIDTH.unsigned_abs(), 260)).into_drawing_area();
        let last = weeks.len().saturating_sub(1).max(1);
        let mut chart = ChartBuilder::on(&root)
            .margin(10)
            .x_label_area_size(30)
            .y_label_area_size(50)
            .build_cartesian_2d(0..last, 0.0..100.0)
            .map_err(failed)?;
        let name = |at: &usize| weeks.get(*at).map(|(week, _)| week.clone()).unwrap_or_default();
        let percent = |share: &f64| format!("{share:.0} %");
        chart
            .configure_mesh()
            .disable_x_mesh()
            .light_line_style(BLACK.mix(0.0))
            .bold_line_style(BLACK.mix(0.25))
            .x_labels(weeks.len().clamp(2, 8))
            .y_labels(5)
            .x_label_formatter(&name)
            .y_label_formatter(&percent)
            .label_style(("sans-serif", 16).into_font().color(&BLACK))
            .draw()
            .map_err(failed)?;
        let points = || weeks.iter().enumerate().map(|(at, (_, share))| (at, share * 100.0));
        chart.draw_series(LineSeries::new(points(), BLACK.stroke_width(2))).map_err(failed)?;
        chart.draw_series(points().map(|point| Circle::new(point, 4, BLACK.filled()))).map_err(failed)?;
        root.present().map_err(failed)?;
    }
    Ok(in_ink(&svg))
}

fn shortened(text: &str, most: usize) -> String {
    if text.chars().count() <= most { text.to_owned() } else { text.chars().take(most - 1).chain(['…']).collect() }
}
