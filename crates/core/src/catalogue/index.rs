//! The rows by their names and other names, in a table that is made when this is built: most names are asked for that no row has, and that often.

#![allow(
    clippy::indexing_slicing,
    reason = "carried out when this is built, where a mistake is no program; and below the length of a name"
)]

use super::Row;
use super::rows::ROWS;

/// More than twice as many as there are names, so that few share a place.
const PLACES: usize = 2_048;
/// What no row has the number of.
const NONE: u16 = u16::MAX;

/// The number of a row at each place, beginning with the one that the name's hash gives; the next one where that is taken.
static TABLE: [u16; PLACES] = table();

/// FNV-1a (Fowler, Noll and Vo), 32 bits.
const fn place(name: &[u8]) -> usize {
    let (mut hash, mut at) = (0x811c_9dc5_u32, 0);
    while at < name.len() {
        hash = (hash ^ name[at] as u32).wrapping_mul(0x0100_0193);
        at += 1;
    }
    hash as usize % PLACES
}

const fn put(mut table: [u16; PLACES], name: &str, row: usize) -> [u16; PLACES] {
    let mut at = place(name.as_bytes());
    while table[at] != NONE {
        at = (at + 1) % PLACES;
    }
    #[allow(clippy::cast_possible_truncation, reason = "there are some hundreds of rows")]
    let number = row as u16;
    table[at] = number;
    table
}

/// Names first: they win over another tool's other names.
const fn table() -> [u16; PLACES] {
    let mut table = [NONE; PLACES];
    let mut row = 0;
    while row < ROWS.len() {
        table = put(table, ROWS[row].name, row);
        row += 1;
    }
    row = 0;
    while row < ROWS.len() {
        let mut alias = 0;
        while alias < ROWS[row].aliases.len() {
            table = put(table, ROWS[row].aliases[alias], row);
            alias += 1;
        }
        row += 1;
    }
    table
}

/// The row that has this name, else the first that has it as another name.
pub(super) fn row(name: &str) -> Option<&'static Row> {
    let mut at = place(name.as_bytes());
    let mut other = None;
    while let Some(row) = TABLE.get(at).filter(|number| **number != NONE).and_then(|number| ROWS.get(usize::from(*number))) {
        if row.name == name {
            return Some(row);
        }
        if other.is_none() && row.aliases.contains(&name) {
            other = Some(row);
        }
        at = (at + 1) % PLACES;
    }
    other
}

#[cfg(test)]
mod tests {
    use super::{ROWS, row};

    #[test]
    fn every_name_leads_to_its_row() {
        for one in ROWS {
            assert_eq!(row(one.name).map(|row| row.name), Some(one.name));
            for alias in one.aliases.iter().filter(|alias| !ROWS.iter().any(|row| row.name == **alias)) {
                let first = ROWS.iter().find(|row| row.aliases.contains(alias)).unwrap();
                assert_eq!(row(alias).map(|row| row.name), Some(first.name));
            }
        }
        assert!(row("buoyctl").is_none() && row("").is_none());
    }
}
