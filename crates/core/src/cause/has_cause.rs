//! Facts that come to a cause.

use super::Cause;

/// The facts of why something is not met, or not known: in `reason.rs` of each kind.
pub(crate) trait HasCause {
    /// The cause that they come to.
    fn cause(&self) -> Cause;
}
