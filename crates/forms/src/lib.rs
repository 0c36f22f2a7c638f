#![doc = include_str!("../README.md")]

#[doc(hidden)]
pub mod junit;
#[doc(hidden)]
pub mod page;
#[doc(hidden)]
pub mod plots;
mod report_html;
mod report_markdown;
mod report_sarif;
mod report_tests;
#[doc(hidden)]
pub mod sarif;
#[doc(hidden)]
pub mod verdict_words;

pub use page::PageError;
pub use report_html::html;
pub use report_markdown::markdown;
pub use report_sarif::sarif;
pub use report_tests::{junit, tap};
