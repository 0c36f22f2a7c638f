//! `rights`: what this user may do on this machine.

use crate::assess::kind::Assess;
use crate::finding::{Conclusion, Met, RightsFacts, RightsReason};
use crate::guide::Rights;
use crate::inquiry::{Inquiry, Stop};

pub(crate) fn assess(inquiry: &mut Inquiry<'_>, wanted: Rights) -> Result<Conclusion, Stop> {
    let account = inquiry.account()?;
    let reason = match (wanted, account.root, account.admin) {
        (_, true, _) | (Rights::Admin, _, Some(true)) => return Ok(Met::RightsInForce.into()),
        (_, false, Some(false)) => RightsReason::NotAdmin,
        (Rights::Root, false, Some(true)) => RightsReason::NotRoot,
        (_, false, None) => RightsReason::Unknown,
    };
    Ok(RightsFacts::from(reason).into())
}

impl Assess for Rights {
    fn assess(&self, inquiry: &mut Inquiry<'_>, _: usize) -> Result<Conclusion, Stop> {
        assess(inquiry, *self)
    }
}
