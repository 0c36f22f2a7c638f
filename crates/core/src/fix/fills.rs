//! What the placeholders of a guide's fix are filled with.

use crate::prelude::*;
use crate::text::Size;

/// What a reason fills the placeholders of a guide's fix with; what it does not know stays empty.
#[derive(Debug, Default)]
pub(crate) struct Fills {
    /// What was found, where it is a value: a version, an amount, a name.
    pub(crate) found: Option<String>,
    /// What was wanted, where that is another value than the requirement's own.
    pub(crate) wanted: Option<String>,
    /// The file, folder or disk that it is about.
    pub(crate) path: Option<String>,
    /// The port that it is about.
    pub(crate) port: Option<u16>,
    /// A port that is free instead.
    pub(crate) free_port: Option<u16>,
    /// The program that holds the port.
    pub(crate) holder: Option<String>,
    /// How much is lacking.
    pub(crate) short_by: Option<Size>,
    /// What the guide's own command printed.
    pub(crate) printed: Option<String>,
}
