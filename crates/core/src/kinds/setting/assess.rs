//! How it is looked at.

use crate::assess::kind::Assess;
use crate::finding::{Conclusion, Met, SettingReason};
use crate::guide::Setting;
use crate::inquiry::{Inquiry, Stop};
use crate::observation::Value;

pub(crate) fn assess(inquiry: &mut Inquiry<'_>, wanted: &Setting) -> Result<Conclusion, Stop> {
    Ok(match inquiry.setting(&wanted.of, &wanted.key, wanted.matches.as_ref())? {
        Value::Set(true) => Met::SettingSet.into(),
        Value::Set(false) => SettingReason::Shape.into(),
        Value::Unset | Value::Empty => SettingReason::Unset.into(),
    })
}

impl Assess for Setting {
    fn assess(&self, inquiry: &mut Inquiry<'_>, _: usize) -> Result<Conclusion, Stop> {
        assess(inquiry, self)
    }
}
