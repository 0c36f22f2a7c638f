//! What people are told.

use crate::finding::{ClockReason, Met};
use crate::guide::{Clock, Guide, Requirement};
use crate::prelude::*;
use crate::words::Words;
use crate::words::kind::{ReasonWords, SubjectWords};

/// How far a clock is off, in words.
fn off(ahead_ms: i64) -> String {
    let seconds = ahead_ms.unsigned_abs() / 1_000;
    let (amount, unit) = match seconds {
        0..120 => (seconds, "second"),
        120..7_200 => (seconds / 60, "minute"),
        7_200..172_800 => (seconds / 3_600, "hour"),
        _ => (seconds / 86_400, "day"),
    };
    let several = if amount == 1 { "" } else { "s" };
    format!("{amount} {unit}{several} {}", if ahead_ms < 0 { "slow" } else { "fast" })
}

pub(crate) fn message(reason: ClockReason) -> String {
    format!("This machine's clock is {}.", off(reason.ahead_ms))
}

pub(crate) fn found(reason: ClockReason) -> String {
    off(reason.ahead_ms)
}

impl ReasonWords for ClockReason {
    fn message(&self, _: &Words<'_>) -> String {
        message(*self)
    }

    fn found(&self) -> Option<String> {
        Some(found(*self))
    }
}

impl SubjectWords for Clock {
    fn met(&self, _: &Words<'_>, _: &Met) -> String {
        "This machine's clock is right.".to_owned()
    }

    fn met_briefly(&self, _: &Words<'_>, _: &Met) -> String {
        "right".to_owned()
    }

    fn wanted(&self) -> Option<String> {
        Some("right".to_owned())
    }

    fn listed(&self, _: &Requirement, _: &Guide) -> String {
        format!("right to within {} s", self.within_ms / 1_000)
    }
}
