//! Failures, and the mistakes in a guide with their places.

use super::{Colour, OutputStyle, TextLayout, Tone};
use crate::exit::Failure;
use annotate_snippets::renderer::DecorStyle;
use annotate_snippets::{AnnotationKind, Level, Renderer, Snippet};
use build_setup_ready::{GUIDE_FILE, LoadError};
use setup_ready_core::problem::ProblemKind;
use setup_ready_core::text::Sanitised;
use std::io::Write;
use std::ops::Range;

/// More mistakes than this are only counted: whoever has that many corrects some first.
const MOST_SHOWN: usize = 20;

/// Shows a failure on standard error.
pub(crate) fn show(failure: &Failure, look: &OutputStyle) {
    let mut layout = TextLayout::for_errors(look);
    if let Failure::Load(LoadError::Mistakes { path, text, mistakes }) = failure {
        let path = path.display().to_string();
        for (index, problem) in mistakes.iter().take(MOST_SHOWN).enumerate() {
            let number = format!("mistake {} of {}", index + 1, mistakes.count());
            let marked =
                Marked { span: problem.span.clone(), message: &problem.message, hint: problem.note.as_deref(), tone: Tone::Loud };
            let drawn = excerpt(&marked, &number, (&path, text), (look, look.error_color));
            layout.ready_made(&drawn);
            layout.gap();
            layout.gap();
        }
        if let Some(more) = mistakes.count().checked_sub(MOST_SHOWN).filter(|more| *more > 0) {
            layout.block(0, &format!("... and {more} more."), Tone::Quiet);
        }
    }
    layout.block(0, &format!("setup-ready: {failure}"), Tone::Loud);
    for line in next_steps(failure) {
        layout.block(2, &line, Tone::Body);
    }
    let _ = std::io::stderr().write_all(layout.into_text().as_bytes());
}

fn next_steps(failure: &Failure) -> Vec<String> {
    let line = |text: &str| vec![text.to_owned()];
    match failure {
        Failure::Load(LoadError::NotFound(_)) => vec![
            format!("Go to the project's folder (the one with {GUIDE_FILE}) and try again, or name the file with --guide FILE."),
            "To see what this software does without a project: setup-ready demo".to_owned(),
        ],
        Failure::Load(LoadError::Mistakes { mistakes, .. }) => {
            line(if mistakes.iter().any(|one| one.kind == ProblemKind::Needs) {
                "Nothing was checked. Get a release that the guide accepts, then try again."
            } else if mistakes.count() == 1 {
                "Nothing was checked. Correct it, or tell the project's maintainer."
            } else {
                "Nothing was checked. Correct them, or tell the project's maintainer."
            })
        }
        Failure::Load(_) => line("Nothing was checked."),
        Failure::Recording { .. } => line("Nothing was checked. A recording is made with: setup-ready record"),
        Failure::OtherOwner { owner, .. } => vec![
            "Nothing was checked: whoever owns a guide decides what is looked at and what you are told to type.".to_owned(),
            format!("Where you know and trust them, add --guide-owner {}", owner.number),
        ],
        Failure::LeadsOut(_) => line("Nothing was checked. Where you know what it leads to, name that file with --guide FILE."),
        Failure::Word { note, .. } => vec![note.clone()],
        Failure::Write { .. } => line("Choose another place with --output FILE."),
        Failure::Output(_) => Vec::new(),
        Failure::Software(_) => line("This is a fault of the software; please report it."),
    }
}

/// A place in a text, and what is said of it.
pub(crate) struct Marked<'m> {
    /// In bytes.
    pub(crate) span: Range<usize>,
    /// What is wrong.
    pub(crate) message: &'m str,
    /// What would be right.
    pub(crate) hint: Option<&'m str>,
    /// How loudly it is said.
    pub(crate) tone: Tone,
}

/// What is said of a place, with the place. The excerpt is a few lines at most, each cut to a readable length.
pub(crate) fn excerpt(
    problem: &Marked<'_>,
    number: &str,
    (path, text): (&str, &str),
    (look, color): (&OutputStyle, Colour),
) -> String {
    let renderer = if color == Colour::On {
        // The same inks as everywhere.
        Renderer::styled().error(problem.tone.style()).help(Tone::Strong.style()).line_num(Tone::Quiet.style())
    } else {
        Renderer::plain()
    };
    let decor = if look.plain { DecorStyle::Ascii } else { DecorStyle::Unicode };
    let renderer = renderer.term_width(look.width).decor_style(decor);
    let before = text.get(..setup_ready_core::text::floor_char_boundary(text, problem.span.start)).unwrap_or(text);
    let line = before.matches('\n').count() + 1;
    let start = text
        .get(..setup_ready_core::text::floor_char_boundary(text, problem.span.start))
        .and_then(|before| before.rfind('\n'))
        .map_or(0, |at| at + 1);
    let from_start = text.get(start..).unwrap_or("");
    let source = from_start.lines().next().unwrap_or("");
    let shown = source.get(..setup_ready_core::text::floor_char_boundary(source, 400)).unwrap_or(source);
    let (from, to) =
        (problem.span.start.saturating_sub(start).min(shown.len()), problem.span.end.saturating_sub(start).min(shown.len()));
    // What would act on the terminal keeps its width, so that the mark stays under its place.
    let is_plain = |c: char| c == '\t' || !Sanitised::hides(c);
    let clean: String = shown.chars().map(|c| if is_plain(c) { c } else { '?' }).collect();
    let path = Sanitised::line(path).to_string();
    // Lines that the renderer leaves long are broken here: behind the title's word, and behind the gutter with "hint".
    let broken = |text: &str, before: usize| {
        // Words of a guide are not torn at their hyphens.
        let width = look.width.saturating_sub(before).max(20);
        let whole = textwrap::Options::new(width).word_splitter(textwrap::WordSplitter::NoHyphenation);
        textwrap::fill(&Sanitised::line(text).to_string(), whole)
    };
    let message = broken(problem.message, number.len() + 2);
    let note = problem.hint.map(|note| broken(note, line.to_string().len() + 10));
    let level = Level::ERROR.with_name(number);
    let snippet = Snippet::source(clean).line_start(line).path(path).annotation(AnnotationKind::Primary.span(from..to.max(from)));
    let mut group = level.primary_title(message).element(snippet);
    if let Some(note) = note {
        group = group.element(Level::HELP.with_name("hint").message(note));
    }
    renderer.render(&[group])
}
