//! Each written from what the README and `--help` promise, before the answer was looked at.

/// One thing that happens.
pub(super) enum Step {
    /// The program is started with these arguments.
    Starts(&'static [&'static str]),
    /// It is waiting, and has said each of the first and none of the second since the last step that read.
    Waits(&'static [&'static str], &'static [&'static str]),
    /// These bytes go to its input.
    Types(&'static str),
    /// Somebody does this in another window, in the project's folder.
    Does(&'static str),
    /// Its input ends.
    Closes,
    /// It gets a signal.
    Signals(&'static str),
    /// It ends with this status, having said so.
    Ends(i32, &'static [&'static str], &'static [&'static str]),
}

/// A guide, and what happens.
pub(super) struct Case {
    pub(super) name: &'static str,
    pub(super) guide: &'static str,
    pub(super) steps: &'static [Step],
}

use Step::{Does, Starts, Types, Waits};

pub(super) const TWO: &str = "
    [[stage]]\nid = \"place\"\ntitle = \"A place\"\nintro = \"Where charts go.\"
    [[stage]]\nid = \"tools\"\ntitle = \"Tools\"
    [require.charts]\nfolder = \"charts\"\nstage = \"place\"
    [require.plotter]\ntool = \"plotter\"\nversion = \">= 2\"\nstage = \"tools\"\ntitle = \"the plotter\"\n";

pub(super) const PAIR: &str =
    "[require.charts]\nfolder = \"charts\"\n[require.plotter]\ntool = \"plotter\"\nversion = \">= 2\"\ntitle = \"the plotter\"\n";

/// A plotter as it must be, and one that is too old.
pub(super) const PLOTTER: Step = Does("printf '#!/bin/sh\\necho plotter 2.1\\n' > $BIN/plotter; chmod +x $BIN/plotter");
pub(super) const OLD_PLOTTER: Step = Does("printf '#!/bin/sh\\necho plotter 1.4\\n' > $BIN/plotter; chmod +x $BIN/plotter");
pub(super) const CHARTS: Step = Does("mkdir charts");

pub(super) const WALK: Step = Starts(&["walk"]);
pub(super) const WATCH: Step = Starts(&["preflight", "--watch"]);
pub(super) const STOPS: Step = Waits(&[], &[]);
pub(super) const ENTER: Step = Types("\n");
