#![doc = include_str!("../README.md")]

mod proof;
mod rehearsing;
mod repository;
#[cfg(feature = "schema")]
pub mod schema;
mod witness;
mod write;

pub use proof::Proof;
pub use rehearsing::{Matrix, NewExpectation, Performance, Rehearsal, RewriteError, Rewritten, expectation};
#[doc(hidden)]
pub use repository::statements_of;
pub use repository::{FileRemark, Repository};
pub use witness::{WitnessError, Witnessed, witness};
pub use write::{Placed, SectionError, guide_html, guide_markdown, into_text};
pub use write::{Rehearsed, rehearsal_html, rehearsal_json, rehearsal_junit, rehearsal_markdown};
pub use write::{additions, draft, remarks_json, remarks_sarif};
