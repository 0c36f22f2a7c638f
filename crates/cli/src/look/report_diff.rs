//! What is different from an earlier look, for whoever waits.

use super::{TextLayout, Tone};
use setup_ready_core::finding::Verdict;
use setup_ready_core::guide::Requirement;
use setup_ready_core::report::Report;
use setup_ready_core::settled::RequirementResult;
use setup_ready_core::text::join_words;
use std::collections::BTreeMap;

/// How each requirement stood: whether it was as it should be, and what was said of it.
pub(crate) struct Snapshot(BTreeMap<String, (bool, String)>);

impl Snapshot {
    pub(crate) fn of(report: &Report) -> Self {
        let one = |one: &RequirementResult| Some((report.requirement(one)?.id.clone(), (is_fine(one), report.message(one))));
        Self(report.counting().filter_map(one).collect())
    }
}

/// What is different, by title.
#[derive(Default)]
pub(crate) struct ReportDiff {
    met: Vec<String>,
    broken: Vec<String>,
    /// What was as it should be, and nobody can say now.
    lost: Vec<String>,
    open: Vec<String>,
    /// Something that was open is open in another way, or the guide asks for something else.
    otherwise: bool,
}

impl ReportDiff {
    pub(crate) fn between(before: &Snapshot, report: &Report) -> Self {
        let mut news = Self::default();
        let mut same = 0;
        for one in report.counting() {
            let Some(requirement) = report.requirement(one) else { continue };
            let was = before.0.get(&requirement.id);
            same += usize::from(was.is_some());
            let title = Requirement::title(requirement);
            match (was, is_fine(one)) {
                (Some((false, _)), true) => news.met.push(title),
                (Some((true, _)), true) => {}
                // The guide asks for it only now.
                (None, true) => news.otherwise = true,
                (was, false) => {
                    match was {
                        Some((true, _)) if one.finding.verdict() == Verdict::Unmet => news.broken.push(title.clone()),
                        Some((true, _)) => news.lost.push(title.clone()),
                        Some((false, said)) => news.otherwise |= *said != report.message(one),
                        None => news.otherwise = true,
                    }
                    news.open.push(title);
                }
            }
        }
        news.otherwise |= same < before.0.len();
        news
    }

    /// Whether all is as it was.
    pub(crate) fn is_empty(&self) -> bool {
        self.met.is_empty() && self.broken.is_empty() && self.lost.is_empty() && !self.otherwise
    }

    pub(crate) fn draw(&self, layout: &mut TextLayout<'_>) {
        let named = |titles: &[String]| format!("{}.", join_words(titles, "and"));
        if !self.met.is_empty() {
            layout.labelled(0, ("Met now:", Tone::Good), 9, (&named(&self.met), Tone::Body));
        }
        if !self.broken.is_empty() {
            layout.labelled(0, ("Not met any more:", Tone::Loud), 18, (&named(&self.broken), Tone::Body));
        }
        if !self.lost.is_empty() {
            layout.labelled(0, ("Not known any more:", Tone::Unsure), 20, (&named(&self.lost), Tone::Body));
        }
        if self.is_empty() && !self.open.is_empty() {
            layout.block(0, &format!("Nothing has changed yet. Still open: {}", named(&self.open)), Tone::Body);
        }
    }

    /// What is open still, where something has changed.
    pub(crate) fn draw_open(&self, layout: &mut TextLayout<'_>) {
        if !self.is_empty() && !self.open.is_empty() {
            layout.block(0, &format!("Still open: {}.", join_words(&self.open, "and")), Tone::Body);
        }
    }
}

fn is_fine(one: &RequirementResult) -> bool {
    one.finding.verdict().is_fine()
}
