//! The sentences: what a finding says to a person, in English. This is the one place that writes them; nothing reads them back, and neither
//! `assess` nor `fix` knows this module.

mod beyond;
mod general;
pub(crate) mod kind;
mod request;
mod worked;

pub use beyond::{Limitation, limitations};
pub(crate) use request::request;
pub(crate) use worked::success_check;

use crate::finding::{Conclusion, Finding, Met};
use crate::fix::{Shell, quote};
use crate::guide::{Guide, Requirement};
use crate::kinds::tool;
use crate::prelude::*;
use crate::text::{Pattern, join_words};

/// A finding about a requirement, to be told to somebody whose shell is known.
#[derive(Debug, Clone, Copy)]
pub struct Words<'r> {
    pub(crate) guide: &'r Guide,
    pub(crate) requirement: &'r Requirement,
    pub(crate) finding: &'r Finding,
    pub(crate) shell: Shell,
}

impl<'r> Words<'r> {
    /// The words for a finding about a requirement of a guide, with commands as that shell takes them.
    pub fn new(guide: &'r Guide, requirement: &'r Requirement, finding: &'r Finding, shell: Shell) -> Self {
        Self { guide, requirement, finding, shell }
    }

    /// One sentence or two that a beginner understands.
    pub fn message(&self) -> String {
        match &self.finding.conclusion {
            Conclusion::Met(met) => kind::of_subject(&self.requirement.subject).met(self, met),
            Conclusion::Open(reason) => kind::of_reason(reason).message(self),
            Conclusion::Waits(waiting) => general::waiting(self, waiting),
            Conclusion::LeftOut(left_out) => general::left_out(self, *left_out),
        }
    }

    /// What is worth knowing of what is met; none where there is nothing.
    pub fn remark(&self) -> Option<String> {
        let Conclusion::Met(Met::Tool(met)) = &self.finding.conclusion else { return None };
        tool::words::met_remark(met)
    }

    /// The same in a few words.
    pub fn remark_briefly(&self) -> Option<&'static str> {
        let Conclusion::Met(Met::Tool(met)) = &self.finding.conclusion else { return None };
        tool::words::met_remark_briefly(met)
    }

    /// What must fit the requirement's pattern, in words: what the guide says that it means, else the pattern.
    pub(crate) fn form(&self) -> String {
        self.form_of(self.requirement.subject.pattern().map_or("", Pattern::source))
    }

    pub(crate) fn form_of(&self, pattern: &str) -> String {
        let means = self.requirement.means.as_deref().unwrap_or(pattern);
        match &self.requirement.example {
            Some(example) => format!("{means}, for example {example}"),
            None => means.to_owned(),
        }
    }

    /// What was found, in a few words; none where there is nothing to say beside the message.
    pub fn found(&self) -> Option<String> {
        match &self.finding.conclusion {
            Conclusion::Met(met) => Some(kind::of_subject(&self.requirement.subject).met_briefly(self, met)),
            Conclusion::Open(reason) => kind::of_reason(reason).found(),
            Conclusion::Waits(_) | Conclusion::LeftOut(_) => None,
        }
    }

    /// What was wanted of that, in a few words.
    pub fn wanted(&self) -> Option<String> {
        let subject = kind::of_subject(&self.requirement.subject);
        match &self.finding.conclusion {
            Conclusion::LeftOut(_) => None,
            Conclusion::Open(reason) => kind::of_reason(reason).wanted(self).or_else(|| subject.wanted()),
            Conclusion::Met(Met::Tool(met)) => tool::words::wanted_of_met(met).or_else(|| subject.wanted()),
            Conclusion::Met(_) | Conclusion::Waits(_) => subject.wanted(),
        }
    }

    pub(crate) fn title(&self) -> String {
        self.requirement.title()
    }

    /// The titles of requirements, as a sentence names them.
    pub(crate) fn titles(&self, indexes: &[usize], conjunction: &str) -> String {
        let titles: Vec<String> =
            indexes.iter().filter_map(|index| self.guide.requirements.get(*index)).map(Requirement::title).collect();
        join_words(&titles, conjunction)
    }

    /// A command as it must be typed.
    pub(crate) fn command(&self, words: &[String]) -> String {
        words.iter().map(|word| quote(word, self.shell)).collect::<Vec<_>>().join(" ")
    }
}

#[cfg(test)]
mod book;
#[cfg(test)]
mod tests;
