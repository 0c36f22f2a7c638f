use crate::prelude::*;

/// The candidate most like `word`, or none when nothing is near enough to be what was meant.
///
/// Near means: the optimal-string-alignment distance (Damerau 1964: insert, delete, replace, swap neighbours)
/// is at most a third of the longer word's length, and at least one edit is always allowed. Words above 64 characters get no offer, so
/// that the time stays bounded whatever a stranger wrote. Letter case and `_` against `-` cost nothing.
pub fn nearest<'c>(word: &str, candidates: impl IntoIterator<Item = &'c str>) -> Option<&'c str> {
    let word = folded(word)?;
    candidates
        .into_iter()
        .filter_map(|candidate| {
            let other = folded(candidate)?;
            let allowed = (word.len().max(other.len()) / 3).max(1);
            let distance = distance(&word, &other);
            (distance <= allowed && distance < other.len()).then_some((distance, candidate))
        })
        .min_by_key(|(distance, _)| *distance)
        .map(|(_, candidate)| candidate)
}

fn folded(word: &str) -> Option<Vec<char>> {
    let letters: Vec<char> = word.chars().flat_map(char::to_lowercase).map(|c| if c == '_' { '-' } else { c }).take(65).collect();
    (letters.len() <= 64).then_some(letters)
}

fn distance(a: &[char], b: &[char]) -> usize {
    let mut before_last: Vec<usize> = Vec::new();
    let mut last: Vec<usize> = (0..=b.len()).collect();
    for (i, x) in a.iter().enumerate() {
        let mut row = vec![i + 1];
        for (j, y) in b.iter().enumerate() {
            let at = |cells: &[usize], index: usize| cells.get(index).copied().unwrap_or(usize::MAX);
            let mut best = (at(&last, j) + usize::from(x != y)).min(at(&last, j + 1) + 1).min(at(&row, j) + 1);
            let swapped = i > 0 && j > 0 && a.get(i - 1) == Some(y) && b.get(j - 1) == Some(x);
            if swapped {
                best = best.min(at(&before_last, j - 1) + 1);
            }
            row.push(best);
        }
        before_last = core::mem::replace(&mut last, row);
    }
    last.last().copied().unwrap_or(usize::MAX)
}

#[cfg(test)]
mod tests {
    use super::nearest;
    use rstest::rstest;

    #[rstest]
    #[case::a_swapped_pair("verison", Some("version"))]
    #[case::a_missing_letter("pakages", Some("packages"))]
    #[case::another_case("Version", Some("version"))]
    #[case::an_underscore("env-file", Some("env_file"))]
    #[case::nothing_alike("zzz", None)]
    #[case::too_long_to_be_a_word(&"v".repeat(5000), None)]
    fn offers_what_was_probably_meant(#[case] word: &str, #[case] expected: Option<&str>) {
        assert_eq!(nearest(word, ["version", "packages", "env_file", "why"]), expected);
    }
}
