//! How one thing to do is laid out, wherever it stands: commands to copy, a line to add, why this one, what to mind.

use super::{Ink, Paper};
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
    pub(crate) fn draw(&self, paper: &mut Paper<'_>, indent: usize, further: usize) {
        self.run.iter().for_each(|command| paper.copyable(indent + further, command));
        if let Some(edit) = self.edit {
            paper.block(indent, &edit.task(), Ink::Body);
            edit.append.lines().for_each(|line| paper.copyable(indent + further, line));
        }
        if let Some(choice) = self.choice {
            paper.block(indent, choice, Ink::Quiet);
        }
        if let Some(caution) = self.caution {
            paper.labelled(indent, ("Mind:", Ink::Unsure), 6, (caution, Ink::Body));
        }
        if let Some(other) = self.otherwise {
            paper.block(indent, &format!("The next way: {}", other.say), Ink::Body);
            Self::from(other).draw(paper, indent, further);
        }
    }
}
