//! Drafts, guides, rehearsals and remarks for others to read: a function per form.

mod draft;
mod guide_html;
mod guide_markdown;
mod rehearsals;
mod remarks;

pub use draft::{additions, draft};
pub use guide_html::guide_html;
pub(crate) use guide_markdown::{BEGIN, END};
pub use guide_markdown::{Placed, SectionError, guide_markdown, into_text};
pub use rehearsals::{Rehearsed, rehearsal_html, rehearsal_json, rehearsal_junit, rehearsal_markdown};
pub use remarks::{remarks_json, remarks_sarif};
