//! How a script checks it: it cannot, only the program.

use crate::guide::Service;
use crate::script::kind::SubjectScript;

impl SubjectScript for Service {}
