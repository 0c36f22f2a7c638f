//! Recordings: what a preflight observed, without what is private, in a file. A recording is a [`Host`]: whatever can be done with a machine that is
//! described can be done with it.

mod compared;
mod decode;
mod own;
mod private;
mod read;

pub use compared::compared_for_others;
pub use decode::Foreign;
pub use private::{Recorded, record, record_with};
pub use read::{RecordingError, is_recorded_file, is_surveyed_file, read_recording, recorded_name, recording};

pub(crate) use decode::{GZIP, Unpacked, sound};
pub(crate) use own::own_names;
pub(crate) use read::{LARGEST, read_bounded, short};
