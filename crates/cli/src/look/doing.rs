//! How one thing to do is laid out, wherever it stands: commands to copy, a line to add, why this one, what to mind.

use super::{TextLayout, Tone};
use setup_ready_core::fix::Fix;
use setup_ready_core::guide::{Edit, GuideFix};

/// What a fix and a guide's fix have in common.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Doing<'a> {
    run: &'a [String],
    edit: Option<&'a Edit>,
    choice: Option<&'a str>,
    caution: Option<&'a str>,
    otherwise: Option<&'a Fix>,
}

impl<'a> From<&'a Fix> for Doing<'a> {
    fn from(fix: &'a Fix) -> Self {
        Self {
            run: &fix.run,
            edit: fix.edit.as_ref(),
            choice: fix.choice.as_deref(),
            caution: fix.caution.as_deref(),
            otherwise: fix.otherwise.as_deref(),
        }
    }
}

impl<'a> From<&'a GuideFix> for Doing<'a> {
    fn from(fix: &'a GuideFix) -> Self {
        Self { run: &fix.run, edit: fix.edit.as_ref(), choice: None, caution: fix.caution.as_deref(), otherwise: None }
    }
}

impl Doing<'_> {
    /// Without what to mind, where that was said already.
    pub(crate) fn without_caution(self) -> Self {
        Self { caution: None, ..self }
    }

    /// Only what is done.
    pub(crate) fn without_remarks(self) -> Self {
        Self { caution: None, choice: None, otherwise: None, ..self }
    }

    /// Lays it out under its words; commands stand `further` in.
    pub(crate) fn draw(&self, layout: &mut TextLayout<'_>, indent: usize, further: usize) {
        self.run.iter().for_each(|command| layout.copyable(indent + further, command));
        if let Some(edit) = self.edit {
            layout.block(indent, &edit.task(), Tone::Body);
            edit.append.lines().for_each(|line| layout.copyable(indent + further, line));
        }
        if let Some(choice) = self.choice {
            layout.block(indent, choice, Tone::Quiet);
        }
        if let Some(caution) = self.caution {
            layout.labelled(indent, ("Mind:", Tone::Unsure), 6, (caution, Tone::Body));
        }
        if let Some(other) = self.otherwise {
            layout.block(indent, &format!("The next way: {}", other.say), Tone::Body);
            Self::from(other).draw(layout, indent, further);
        }
    }
}
