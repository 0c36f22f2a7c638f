//! Other ecosystems' ways to say which versions do, in the words of our ranges.

/// One version alone, or where fewer than three parts are given, the series: `20` is `20.*`, as version managers read it.
pub fn exact_or_series(text: &str) -> Option<String> {
    let version = text.trim().trim_start_matches(['v', '=']).trim();
    let parts: Vec<&str> = version.split('.').collect();
    let number = |part: &&str| !part.is_empty() && part.bytes().all(|byte| byte.is_ascii_digit());
    match parts.as_slice() {
        [only] if number(only) => Some(format!("{version}.*")),
        [first, second] if number(first) && number(second) => Some(format!("{version}.*")),
        [first, ..] if number(first) => Some(format!("= {version}")),
        _ => None,
    }
}

/// The numbers of a version, which may be cut short or end in `x` or `*`; a release that is no number is kept aside.
fn numbers(version: &str) -> Option<Vec<u64>> {
    let plain = version.split(['-', '+']).next()?;
    let parts = plain.split('.').take_while(|part| !matches!(*part, "x" | "X" | "*"));
    parts.map(|part| part.parse().ok()).collect()
}

/// The next version that differs in the part at `position`.
fn bumped(numbers: &[u64], position: usize) -> String {
    let kept = numbers.iter().take(position + 1).enumerate();
    let parts = kept.map(|(at, number)| if at == position { number.saturating_add(1) } else { *number });
    parts.map(|number| number.to_string()).collect::<Vec<_>>().join(".")
}

/// A range of npm's (the range grammar of the package `semver`). `None` where it says nothing that can be read; an empty text where
/// anything does.
pub fn from_npm(text: &str) -> Option<String> {
    let alternatives: Vec<String> = text.split("||").map(npm_alternative).collect::<Option<_>>()?;
    if alternatives.iter().any(String::is_empty) {
        return Some(String::new());
    }
    Some(alternatives.join(" || "))
}

fn npm_alternative(text: &str) -> Option<String> {
    if let Some((from, to)) = text.split_once(" - ") {
        let last = npm_comparator("<=", to.trim().trim_start_matches('v'))?;
        return Some(format!(">= {}, {last}", from.trim().trim_start_matches('v')));
    }
    // An operator may stand apart from its version.
    let mut joined = String::new();
    for word in text.split_whitespace() {
        joined.push_str(word);
        if word.chars().any(|c| c.is_ascii_alphanumeric() || c == '*') {
            joined.push(' ');
        }
    }
    let comparators = joined.split_whitespace().map(|word| {
        let version = word.trim_start_matches(['<', '>', '=', '^', '~']);
        let operator = word.strip_suffix(version)?;
        npm_comparator(operator, version.trim_start_matches('v'))
    });
    let comparators: Vec<String> = comparators.collect::<Option<_>>()?;
    Some(comparators.into_iter().filter(|one| !one.is_empty()).collect::<Vec<_>>().join(", "))
}

fn npm_comparator(operator: &str, version: &str) -> Option<String> {
    let given = numbers(version)?;
    if given.is_empty() {
        return Some(String::new());
    }
    let short = given.len() < 3;
    let plain = if short { given.iter().map(ToString::to_string).collect::<Vec<_>>().join(".") } else { version.to_owned() };
    let last = given.len() - 1;
    Some(match operator {
        "" | "=" if short => format!("{plain}.*"),
        "" | "=" => format!("= {plain}"),
        "^" => {
            let first = given.iter().position(|number| *number > 0).unwrap_or(last);
            format!(">= {plain}, < {}", bumped(&given, first))
        }
        "~" => format!(">= {plain}, < {}", bumped(&given, last.min(1))),
        // Where parts are left open, the whole series lies below or above.
        ">" if short => format!(">= {}", bumped(&given, last)),
        "<=" if short => format!("< {}", bumped(&given, last)),
        ">" | ">=" | "<" | "<=" => format!("{operator} {plain}"),
        _ => return None,
    })
}

/// A version specifier of Python's (the version specifiers of the packaging standard, first in PEP 440), and the caret of some of its tools.
pub fn from_python(text: &str) -> Option<String> {
    let comparators = text.split(',').map(str::trim).filter(|one| !one.is_empty()).map(|one| {
        let version = one.trim_start_matches(['<', '>', '=', '!', '~', '^']).trim();
        let operator = one.get(..one.len() - one.trim_start_matches(['<', '>', '=', '!', '~', '^']).len())?;
        let given = numbers(version)?;
        Some(match operator {
            "==" if version.ends_with(".*") => version.to_owned(),
            "==" | "===" => format!("= {version}"),
            "~=" => format!(">= {version}, < {}", bumped(&given, given.len().checked_sub(2)?)),
            "^" | "~" => return npm_comparator(operator, version),
            ">" | ">=" | "<" | "<=" | "!=" => format!("{operator} {version}"),
            _ => return None,
        })
    });
    Some(comparators.collect::<Option<Vec<_>>>()?.join(", "))
}

#[cfg(test)]
mod tests {
    use super::{exact_or_series, from_npm, from_python};
    use rstest::rstest;
    use setup_ready_core::version::Range;

    #[rstest]
    #[case::a_caret("^20.1.0", ">= 20.1.0, < 21")]
    #[case::a_caret_before_one("^0.2.3", ">= 0.2.3, < 0.3")]
    #[case::a_tilde("~20.1.3", ">= 20.1.3, < 20.2")]
    #[case::a_tilde_on_one_number("~20", ">= 20, < 21")]
    #[case::two_comparators(">=18 <21", ">= 18, < 21")]
    #[case::an_operator_apart(">= 18.17", ">= 18.17")]
    #[case::above_a_series(">20", ">= 21")]
    #[case::up_to_a_series("<=20.1", "< 20.2")]
    #[case::alternatives("18 || 20.x", "18.* || 20.*")]
    #[case::from_to("18.1.0 - 20", ">= 18.1.0, < 21")]
    #[case::anything("*", "")]
    #[case::one_alone("20.11.0", "= 20.11.0")]
    fn npm_ranges_keep_their_meaning(#[case] theirs: &str, #[case] ours: &str) {
        assert_eq!(from_npm(theirs).as_deref(), Some(ours));
        assert!(ours.is_empty() || Range::parse(ours).is_ok());
    }

    #[rstest]
    #[case::two(">=3.11,<4", ">= 3.11, < 4")]
    #[case::compatible("~=3.11", ">= 3.11, < 4")]
    #[case::compatible_with_three("~=3.11.2", ">= 3.11.2, < 3.12")]
    #[case::a_series("==3.11.*", "3.11.*")]
    #[case::but_one(">= 3.11, != 3.12.1", ">= 3.11, != 3.12.1")]
    #[case::a_caret("^3.11", ">= 3.11, < 4")]
    fn python_specifiers_keep_their_meaning(#[case] theirs: &str, #[case] ours: &str) {
        assert_eq!(from_python(theirs).as_deref(), Some(ours));
        assert!(Range::parse(ours).is_ok());
    }

    #[rstest]
    #[case::of_words("lts/iron")]
    #[case::of_another_kind("workspace:*")]
    #[case::empty_parts("..")]
    fn what_is_no_range_is_none(#[case] text: &str) {
        assert_eq!((from_npm(text), exact_or_series(text)), (None, None));
    }

    #[rstest]
    #[case::three_parts("v20.11.0", Some("= 20.11.0"))]
    #[case::two_parts("3.11", Some("3.11.*"))]
    #[case::one_part("20", Some("20.*"))]
    #[case::another_interpreter("pypy3.9", None)]
    fn a_version_of_few_parts_is_a_series(#[case] text: &str, #[case] range: Option<&str>) {
        assert_eq!(exact_or_series(text).as_deref(), range);
    }
}
