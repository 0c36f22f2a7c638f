#![doc = include_str!("../README.md")]

mod recording;
mod side;
mod surveying;
mod write;

pub use recording::compared_for_others;
pub use recording::{Foreign, RecordingError, is_recorded_file, is_surveyed_file, read_recording, recorded_name, recording};
pub use recording::{Recorded, record, record_with};
pub use side::{CompareError, side_in_file, side_of};
pub use surveying::{Broken, PassedOver, RowForm, Surveyed, Surveying, Written, rows, surveyed_text};
pub use write::{comparison_html, comparison_json, comparison_markdown, recording_json, survey_html, survey_json};
