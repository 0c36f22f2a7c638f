//! A text that a pattern matches, as short as the pattern lets it be. Whoever uses one has it matched again.

use regex_syntax::hir::{Class, Hir, HirKind};

/// So deep a pattern is followed.
const DEEPEST: usize = 60;

/// A text that matches, with `first` in the place of the first group; none where the pattern is not understood.
pub(super) fn matching(pattern: &str, first: Option<&str>) -> Option<String> {
    let hir = regex_syntax::parse(pattern).ok()?;
    let mut text = String::new();
    write(&hir, first, &mut text, DEEPEST)?;
    Some(text)
}

/// A text that the pattern does not match, not empty where one is found.
pub(super) fn other_than(pattern: &crate::text::Pattern) -> Option<&'static str> {
    ["?", "no-such-value", "0", "x y", "-1", "\u{e9}"].into_iter().find(|text| !pattern.matches(text))
}

fn write(hir: &Hir, first: Option<&str>, text: &mut String, deepest: usize) -> Option<()> {
    let deeper = deepest.checked_sub(1)?;
    match hir.kind() {
        HirKind::Empty | HirKind::Look(_) => {}
        HirKind::Literal(literal) => text.push_str(core::str::from_utf8(&literal.0).ok()?),
        HirKind::Class(class) => text.push(any_of(class)?),
        HirKind::Repetition(repetition) => {
            // Once reads better than never: `[a-z]*`.
            let times = repetition.min.max(u32::from(repetition.max != Some(0))).min(64);
            for _ in 0..times {
                write(&repetition.sub, first, text, deeper)?;
            }
        }
        HirKind::Capture(capture) => match first.filter(|_| capture.index == 1) {
            Some(words) => text.push_str(words),
            None => write(&capture.sub, first, text, deeper)?,
        },
        HirKind::Concat(parts) => parts.iter().try_for_each(|part| write(part, first, text, deeper))?,
        HirKind::Alternation(parts) => write(parts.first()?, first, text, deeper)?,
    }
    (text.len() <= 10_000).then_some(())
}

/// A character of a class: one that people would type, where there is one.
fn any_of(class: &Class) -> Option<char> {
    let is_in = |c: char| match class {
        Class::Unicode(class) => class.ranges().iter().any(|range| (range.start()..=range.end()).contains(&c)),
        Class::Bytes(class) => {
            u8::try_from(c).is_ok_and(|byte| class.ranges().iter().any(|range| (range.start()..=range.end()).contains(&byte)))
        }
    };
    let usual = ('a'..='z').chain('1'..='9').chain('A'..='Z').chain(['0', '-', '_', '.', '/', ' ']).chain('!'..='~');
    usual.into_iter().find(|c| is_in(*c)).or_else(|| match class {
        Class::Unicode(class) => class.ranges().first().map(regex_syntax::hir::ClassUnicodeRange::start),
        Class::Bytes(_) => None,
    })
}

#[cfg(test)]
mod tests {
    use super::matching;
    use crate::text::Pattern;
    use rstest::rstest;

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
