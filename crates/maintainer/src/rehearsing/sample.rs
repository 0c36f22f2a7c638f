//! A text that a pattern matches, as short as the pattern lets it be. Whoever uses one has it matched again.

use regex_syntax::hir::{Class, Hir, HirKind};

/// So deep a pattern is followed.
const DEEPEST: usize = 60;

/// A text that matches, with `first` in the place of the first group; none where the pattern is not understood.
pub(super) fn matching(pattern: &str, first: Option<&str>) -> Option<String> {
    let hir = regex_syntax::parse(pattern).ok()?;
    let compiled = setup_ready_core::text::Pattern::new(pattern).ok()?;
    // What may be left out reads better when it is there, but may stand in the way: `ready\b.*`.
    [(1, false), (0, false), (1, true)].into_iter().find_map(|(least, spaced)| {
        let mut text = String::new();
        write(&hir, How { first, least, spaced }, &mut text, DEEPEST)?;
        compiled.matches(&text).then_some(text)
    })
}

/// A text that the pattern does not match, not empty where one is found.
pub(super) fn other_than(pattern: &setup_ready_core::text::Pattern) -> Option<&'static str> {
    ["?", "no-such-value", "0", "x y", "-1", "\u{e9}"].into_iter().find(|text| !pattern.matches(text))
}

/// How a sample is made.
#[derive(Clone, Copy)]
struct How<'a> {
    /// Stands in the place of the first group.
    first: Option<&'a str>,
    /// How often at least what may be left out.
    least: u32,
    /// Spaces, where any character does.
    spaced: bool,
}

fn write(hir: &Hir, how: How<'_>, text: &mut String, deepest: usize) -> Option<()> {
    let How { first, least, spaced } = how;
    let deeper = deepest.checked_sub(1)?;
    match hir.kind() {
        HirKind::Empty | HirKind::Look(_) => {}
        HirKind::Literal(literal) => text.push_str(core::str::from_utf8(&literal.0).ok()?),
        HirKind::Class(class) => text.push(any_of(class, spaced)?),
        HirKind::Repetition(repetition) => {
            let times = repetition.min.max(least.min(repetition.max.unwrap_or(1))).min(64);
            for _ in 0..times {
                write(&repetition.sub, how, text, deeper)?;
            }
        }
        HirKind::Capture(capture) => match first.filter(|_| capture.index == 1) {
            Some(words) => text.push_str(words),
            None => write(&capture.sub, how, text, deeper)?,
        },
        HirKind::Concat(parts) => parts.iter().try_for_each(|part| write(part, how, text, deeper))?,
        HirKind::Alternation(parts) => write(parts.first()?, how, text, deeper)?,
    }
    (text.len() <= 10_000).then_some(())
}

/// A character of a class: one that people would type, where there is one.
fn any_of(class: &Class, spaced: bool) -> Option<char> {
    let is_in = |c: char| match class {
        Class::Unicode(class) => class.ranges().iter().any(|range| (range.start()..=range.end()).contains(&c)),
        Class::Bytes(class) => {
            u8::try_from(c).is_ok_and(|byte| class.ranges().iter().any(|range| (range.start()..=range.end()).contains(&byte)))
        }
    };
    let usual = ('a'..='z').chain('1'..='9').chain('A'..='Z').chain(['0', '-', '_', '.', '/', ' ']).chain('!'..='~');
    let first = spaced.then_some(' ');
    first.into_iter().chain(usual).find(|c| is_in(*c)).or_else(|| match class {
        Class::Unicode(class) => class.ranges().first().map(regex_syntax::hir::ClassUnicodeRange::start),
        Class::Bytes(_) => None,
    })
}

#[cfg(test)]
mod tests {
    use super::matching;
    use rstest::rstest;
    use setup_ready_core::text::Pattern;

    #[rstest]
    #[case::one_of_several("^(north|south|baltic)$")]
    #[case::an_address("^[^@ ]+@[^@ ]+$")]
    #[case::a_version_in_words(r"\(python ([0-9.]+)\)")]
    #[case::counted("^[A-F0-9]{8}-x{2,}$")]
    #[case::words_apart(r"(?i)\bready\b.*\d")]
    #[case::any_line("(?m)^MODE=.+$")]
    fn a_sample_matches_its_pattern(#[case] pattern: &str) {
        let text = matching(pattern, None).unwrap();
        assert!(Pattern::new(pattern).unwrap().matches(&text), "{text}");
    }
}
