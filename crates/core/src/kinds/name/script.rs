//! How a script checks it: it cannot, only the program.

use crate::guide::{Hostname, Subnet};
use crate::script::kind::SubjectScript;

impl SubjectScript for Hostname {}

impl SubjectScript for Subnet {}
