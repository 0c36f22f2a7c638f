//! What a person was advised before: remembered so that advice that did not help is not given again word for word.

use crate::fix::Fix;
use crate::prelude::*;
use core::fmt::{self, Display};

/// A piece of advice, known again by its words and commands; no value of the person's is in it.
///
/// ```
/// use setup_ready_core::advice::Advice;
///
/// let advice: Advice = "00000000000000ff".parse().unwrap();
/// assert_eq!(advice.to_string(), "00000000000000ff");
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct Advice(u64);

impl Advice {
    /// The advice that a fix for the requirement with this id is.
    pub fn of(id: &str, fix: &Fix) -> Self {
        let edit = fix.edit.iter().flat_map(|edit| [edit.file.as_str(), edit.append.as_str()]);
        let parts = [id, fix.say.as_str()].into_iter().chain(fix.run.iter().map(String::as_str)).chain(edit);
        // FNV-1a (Fowler, Noll, Vo), with a byte between two parts that no text has.
        let bytes = parts.flat_map(|part| part.bytes().chain([0xff]));
        Self(bytes.fold(0xcbf2_9ce4_8422_2325, |hash, byte| (hash ^ u64::from(byte)).wrapping_mul(0x0100_0000_01b3)))
    }
}

impl Display for Advice {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{:016x}", self.0)
    }
}

impl core::str::FromStr for Advice {
    type Err = core::num::ParseIntError;

    fn from_str(text: &str) -> Result<Self, Self::Err> {
        u64::from_str_radix(text, 16).map(Self)
    }
}
