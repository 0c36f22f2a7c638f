//! What a project's own files already say. The readers are pure: a file's name and text in, statements or a range of versions out.

mod files;
mod format;
mod pinned;
mod ranges;
mod readers;
mod said;
mod shell;
mod statements;

pub use pinned::{pinned, version_in};
pub(crate) use ranges::from_npm as range_of_npm;
pub use statements::{FileRemark, Repository, statements_of};
