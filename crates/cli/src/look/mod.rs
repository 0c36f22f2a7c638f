//! How things look. Width, colour and characters are parameters, found out once.

pub(crate) mod closing;
pub(crate) mod comparison;
pub(crate) mod doing;
pub(crate) mod failure;
pub(crate) mod maintainer;
mod opening;
pub(crate) mod plan;
pub(crate) mod progress;
pub(crate) mod rehearsal;
pub(crate) mod report;
pub(crate) mod report_diff;
pub(crate) mod survey;
mod text_layout;
pub(crate) mod wording;

pub(crate) use text_layout::{TextLayout, Tone};

use crate::arguments::{Color, Shown};
use std::io::IsTerminal;

/// How much a report shows.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Detail {
    /// The last line.
    Quiet,
    /// What is not met in full, what is met in short.
    Normal,
    /// Everything, with its evidence.
    Verbose,
}

/// Whether there is colour.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Colour {
    /// There is.
    On,
    /// There is none.
    Off,
}

/// How things look.
#[derive(Debug, Clone)]
pub(crate) struct OutputStyle {
    /// The result goes to a terminal, where its end is seen first.
    pub(crate) terminal: bool,
    /// Columns to use.
    pub(crate) width: usize,
    /// Colour on standard output.
    pub(crate) color: Colour,
    /// Colour on standard error.
    pub(crate) error_color: Colour,
    /// Only ASCII.
    pub(crate) plain: bool,
    /// Progress may be shown on standard error.
    pub(crate) progress: bool,
    /// How much is shown.
    pub(crate) detail: Detail,
}

/// The narrowest and widest lines: below, words would be torn; above, the eye loses the line.
const WIDTHS: std::ops::RangeInclusive<usize> = 32..=120;

impl OutputStyle {
    /// What the terminal, the environment and the arguments say.
    pub(crate) fn detect(shown: &Shown) -> Self {
        let (out, error) = (std::io::stdout().is_terminal(), std::io::stderr().is_terminal());
        let refused = std::env::var_os("NO_COLOR").is_some_and(|value| !value.is_empty());
        let dumb = std::env::var_os("TERM").is_some_and(|term| term == "dumb");
        let decided = |terminal: bool| match shown.color {
            Color::Always => true,
            Color::Never => false,
            Color::Auto => terminal && !refused && !dumb && !shown.plain,
        };
        let color = |terminal: bool| if decided(terminal) { Colour::On } else { Colour::Off };
        // A file does not have the terminal's colours.
        let to_file = shown.output.is_some();
        let columns = std::env::var("COLUMNS").ok().and_then(|columns| columns.parse().ok());
        let terminal = || terminal_size::terminal_size().map(|(width, _)| usize::from(width.0));
        let width = columns.or_else(terminal).unwrap_or(80);
        Self {
            terminal: out && !to_file,
            width: width.clamp(*WIDTHS.start(), *WIDTHS.end()),
            color: color(out && !to_file),
            error_color: color(error),
            plain: shown.plain,
            // A build server keeps every line, so nothing moves there.
            progress: error && !build_setup_ready::is_build_server() && !shown.plain && !dumb && !shown.quiet,
            detail: if shown.quiet {
                Detail::Quiet
            } else if shown.verbose {
                Detail::Verbose
            } else {
                Detail::Normal
            },
        }
    }

    /// Whether there is no room for two things side by side.
    pub(crate) fn is_narrow(&self) -> bool {
        self.width < 64
    }
}
