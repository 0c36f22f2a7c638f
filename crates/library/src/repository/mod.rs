//! What a project's own files already say. The readers are pure: a file's name and text in, statements or a range of versions out.

#[cfg(feature = "desk")]
mod files;
#[cfg(feature = "desk")]
mod format;
mod pinned;
mod ranges;
#[cfg(feature = "desk")]
mod readers;
#[cfg(feature = "desk")]
mod said;
#[cfg(feature = "desk")]
mod shell;
#[cfg(feature = "desk")]
mod statements;

pub use pinned::{pinned, version_in};
pub(crate) use ranges::from_npm as range_of_npm;
#[cfg(feature = "desk")]
pub use statements::{FileRemark, Repository, statements_of};
