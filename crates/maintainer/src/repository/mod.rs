//! What a project's own files already say. The readers are pure: a file's name and text in, statements or a range of versions out.

mod files;
mod format;
mod names;
mod readers;
mod shell;
mod statement_sink;
mod statements;

pub use statements::{FileRemark, Repository, statements_of};
