//! Where the rows of each first letter are, worked out when this is built: most names are asked for that no row has.

use super::rows::ROWS;
use core::ops::Range;

/// The number of the first row that begins with each letter or a later one.
const STARTS: [usize; 257] = starts();

#[allow(clippy::indexing_slicing, reason = "carried out when this is built: a mistake is no program")]
const fn starts() -> [usize; 257] {
    let mut starts = [0; 257];
    let (mut letter, mut row) = (0, 0);
    while letter < starts.len() {
        while row < ROWS.len() && (ROWS[row].name.as_bytes()[0] as usize) < letter {
            row += 1;
        }
        starts[letter] = row;
        letter += 1;
    }
    starts
}

/// The rows whose names begin with a letter.
pub(super) fn beginning_with(letter: u8) -> Range<usize> {
    let at = |letter: usize| STARTS.get(letter).copied().unwrap_or(ROWS.len());
    at(usize::from(letter))..at(usize::from(letter) + 1)
}
