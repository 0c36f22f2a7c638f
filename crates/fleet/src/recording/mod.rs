//! Recordings: what a preflight observed, without what is private, in a file. A recording is a [`Host`]: whatever can be done with a machine that is
//! described can be done with it.

mod arrived;
mod compared;
mod own;
mod private;
mod read;

pub use arrived::Foreign;
pub use compared::compared_for_others;
pub use private::{Recorded, record, record_with};
pub use read::{NotRecording, is_recorded_file, is_surveyed_file, read_recording, recorded_name, recording};

pub(crate) use arrived::{GZIP, Unpacked, sound};
pub(crate) use own::own_names;
pub(crate) use read::{LARGEST, read_bounded, short};
