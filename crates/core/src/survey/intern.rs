//! Texts by number, and no more of them than there is room for.

use crate::prelude::*;
use hashbrown::HashMap;

/// What stands for every text that came when there was no room any more.
pub(super) const OTHERS: &str = "others";

/// No more of a text is kept, in bytes: ids, versions and causes are short.
const LONGEST: usize = 300;

/// Texts by number.
#[derive(Debug, Clone)]
pub(super) struct Interned {
    numbers: HashMap<Box<str>, u32>,
    texts: Vec<Box<str>>,
    most: usize,
}

impl Interned {
    /// So many at most.
    pub(super) fn new(most: usize) -> Self {
        Self { numbers: HashMap::new(), texts: Vec::new(), most }
    }

    /// The number of a text.
    pub(super) fn number(&mut self, text: &str) -> u32 {
        let text = text.get(..crate::text::floor_char_boundary(text, LONGEST)).unwrap_or(text);
        if let Some(number) = self.numbers.get(text) {
            return *number;
        }
        let text = if self.texts.len() >= self.most { OTHERS } else { text };
        if let Some(number) = self.numbers.get(text) {
            return *number;
        }
        let number = u32::try_from(self.texts.len()).unwrap_or(u32::MAX);
        self.texts.push(text.into());
        self.numbers.insert(text.into(), number);
        number
    }

    /// The text of a number.
    pub(super) fn text(&self, number: u32) -> &str {
        usize::try_from(number).ok().and_then(|number| self.texts.get(number)).map_or(OTHERS, |text| text)
    }
}
