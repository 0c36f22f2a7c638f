//! `limit`: the one in force for this user is high enough, or the ability is there.

use crate::assess::kind::Assess;
use crate::finding::{Conclusion, LimitReason, Met};
use crate::guide::Limit;
use crate::inquiry::{Inquiry, Stop};
use crate::observation::LimitState;

pub(crate) fn assess(inquiry: &mut Inquiry<'_>, wanted: &Limit) -> Result<Conclusion, Stop> {
    Ok(match *inquiry.limit(wanted.kind)? {
        LimitState::Unlimited => Met::Unlimited.into(),
        LimitState::Able(true) => Met::Able.into(),
        LimitState::Able(false) => LimitReason::Lacks.into(),
        LimitState::Number(number, most) => match wanted.at_least {
            Some(needed) if number < needed => {
                LimitReason::Low { number, needed, own: most.is_some_and(|most| most >= needed) }.into()
            }
            _ => Met::LimitHigh { number }.into(),
        },
    })
}

impl Assess for Limit {
    fn assess(&self, inquiry: &mut Inquiry<'_>, _: usize) -> Result<Conclusion, Stop> {
        assess(inquiry, self)
    }
}
