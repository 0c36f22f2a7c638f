//! What is wanted, in a few words that stand behind a title.

use crate::guide::{Guide, Requirement};
use crate::prelude::*;
use crate::words;

/// What is wanted of a requirement, in a few words: `version >= 3.25, < 5`. Empty where the title says it all.
pub fn wants(guide: &Guide, requirement: &Requirement) -> String {
    words::kind::of_subject(&requirement.subject).listed(requirement, guide).trim().to_owned()
}
