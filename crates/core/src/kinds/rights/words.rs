//! What people are told.

use crate::finding::{Met, RightsFacts, RightsReason};
use crate::guide::{Guide, Requirement, Rights};
use crate::prelude::*;
use crate::words::Words;
use crate::words::kind::{ReasonWords, SubjectWords};

pub(crate) fn message(reason: RightsReason) -> &'static str {
    match reason {
        RightsReason::NotAdmin => "You cannot act as administrator of this machine.",
        RightsReason::NotRoot => "You are not working as the administrator now; you can become it.",
        RightsReason::Unknown => "Whether you can act as administrator could not be found out.",
    }
}

impl ReasonWords for RightsFacts {
    fn message(&self, _: &Words<'_>) -> String {
        message(self.rights).to_owned()
    }

    fn found(&self) -> Option<String> {
        None
    }
}

impl SubjectWords for Rights {
    fn met(&self, _: &Words<'_>, _: &Met) -> String {
        "You have the rights that are needed.".to_owned()
    }

    fn met_briefly(&self, _: &Words<'_>, _: &Met) -> String {
        "you have them".to_owned()
    }

    fn wanted(&self) -> Option<String> {
        Some(
            match self {
                Self::Admin => "may act as administrator",
                Self::Root => "is the administrator",
            }
            .to_owned(),
        )
    }

    fn listed(&self, _: &Requirement, _: &Guide) -> String {
        match self {
            Self::Admin => "you may act as administrator",
            Self::Root => "you are the administrator",
        }
        .to_owned()
    }
}
