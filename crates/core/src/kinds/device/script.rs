//! How a script checks it: it cannot, only the program.

use crate::guide::Device;
use crate::script::kind::SubjectScript;

impl SubjectScript for Device {}
