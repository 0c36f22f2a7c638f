//! The other names of tools, sorted when this is built, so that a name which is none is known to be none at once.

use super::rows::ROWS;

/// An alias and the row that has it.
type Alias = (&'static str, usize);

const COUNT: usize = count();
const ALIASES: [Alias; COUNT] = sorted();

const fn count() -> usize {
    let (mut count, mut row) = (0, 0);
    while row < ROWS.len() {
        count += ROWS[row].aliases.len();
        row += 1;
    }
    count
}

/// By insertion: there are some fifty.
#[allow(clippy::indexing_slicing, reason = "carried out when this is built: a mistake is no program")]
const fn sorted() -> [Alias; COUNT] {
    let mut all = [("", 0); COUNT];
    let (mut filled, mut row) = (0, 0);
    while row < ROWS.len() {
        let mut alias = 0;
        while alias < ROWS[row].aliases.len() {
            let name = ROWS[row].aliases[alias];
            let mut at = filled;
            while at > 0 && is_less(name.as_bytes(), all[at - 1].0.as_bytes()) {
                all[at] = all[at - 1];
                at -= 1;
            }
            all[at] = (name, row);
            filled += 1;
            alias += 1;
        }
        row += 1;
    }
    all
}

#[allow(clippy::indexing_slicing, reason = "carried out when this is built: a mistake is no program")]
const fn is_less(one: &[u8], other: &[u8]) -> bool {
    let mut at = 0;
    while at < one.len() && at < other.len() {
        if one[at] != other[at] {
            return one[at] < other[at];
        }
        at += 1;
    }
    one.len() < other.len()
}

/// The number of the first row that has this other name.
pub(super) fn row(name: &str) -> Option<usize> {
    let first = ALIASES.partition_point(|(alias, _)| *alias < name);
    ALIASES.get(first).filter(|(alias, _)| *alias == name).map(|(_, row)| *row)
}

#[cfg(test)]
mod tests {
    use super::{ALIASES, ROWS, row};

    #[test]
    fn every_alias_leads_to_the_first_row_that_has_it() {
        assert!(ALIASES.is_sorted());
        for alias in ROWS.iter().flat_map(|row| row.aliases) {
            let first = ROWS.iter().position(|row| row.aliases.contains(alias));
            assert_eq!(row(alias), first);
        }
        assert_eq!(row("buoyctl"), None);
    }
}
