//! What a project's own files already say. The readers are pure: a file's name and text in, a range of versions out.

mod pinned;
mod ranges;

pub use pinned::{pinned, version_in};
pub(crate) use ranges::from_npm as range_of_npm;
