//! `clock`: it is right, beside the one of an address of the guide's.

use crate::assess::kind::Assess;
use crate::finding::{ClockReason, Conclusion, General, LeftOut, Met};
use crate::guide::Clock;
use crate::inquiry::{Inquiry, Stop};
use crate::prelude::*;
use crate::text::without_credentials;

pub(crate) fn assess(inquiry: &mut Inquiry<'_>, wanted: &Clock) -> Result<Conclusion, Stop> {
    if inquiry.context.selection.offline {
        return Ok(Conclusion::LeftOut(LeftOut::Offline));
    }
    Ok(match inquiry.clock_beside(&wanted.by)? {
        Some(ahead) if ahead.unsigned_abs() <= wanted.within_ms => Met::ClockRight.into(),
        Some(ahead) => ClockReason::new(*ahead).into(),
        None => {
            let reason = format!("{} answers without saying what time it is", without_credentials(&wanted.by));
            General::CouldNotLook { reason }.into()
        }
    })
}

impl Assess for Clock {
    fn assess(&self, inquiry: &mut Inquiry<'_>, _: usize) -> Result<Conclusion, Stop> {
        assess(inquiry, self)
    }
}
