//! The values of a guide: what they are set to here.

use crate::finding::{General, SetAt};
use crate::guide::{Requirement, Subject, Value, ValueShape};
use crate::inquiry::{Inquiry, Stop, if_known};
use crate::observation::{SettingNumber, SettingText};
use crate::prelude::*;

/// What something sets a value to.
enum Set<'a> {
    /// Nothing does, or it cannot be found out.
    Not,
    /// This.
    To(String),
    /// Something that it cannot be, there.
    Unfit(&'a str),
}

fn set<'a>(inquiry: &mut Inquiry<'a>, value: &Value) -> Result<Set<'a>, Stop> {
    if value.shape == ValueShape::Number {
        return Ok(match if_known(inquiry.setting_number(&value.set_by))? {
            Some(SettingNumber::Number(number, _)) if value.shape.fits(&number.to_string()) => Set::To(number.to_string()),
            Some(SettingNumber::Number(_, place) | SettingNumber::NotANumber(place)) => Set::Unfit(place),
            Some(SettingNumber::Unset) | None => Set::Not,
        });
    }
    Ok(match if_known(inquiry.setting_text(&value.set_by, &value.shape))? {
        Some(SettingText::Text(text, _)) if value.shape.fits(text) => Set::To(text.clone()),
        Some(SettingText::Text(_, place) | SettingText::Other(place)) => Set::Unfit(place),
        Some(SettingText::Unset) | None => Set::Not,
    })
}

/// What all are set to; none where every one is as the guide states it.
pub(super) fn all(inquiry: &mut Inquiry<'_>) -> Result<Option<Vec<String>>, Stop> {
    let guide = inquiry.context.guide;
    let mut pending = false;
    let mut moved = false;
    let mut all = Vec::with_capacity(guide.values.len());
    for value in &guide.values {
        match set(inquiry, value) {
            Ok(Set::To(text)) => {
                moved |= text != value.is;
                all.push(text);
            }
            Ok(Set::Not | Set::Unfit(_)) => all.push(value.is.clone()),
            // All are asked for together.
            Err(_) => pending = true,
        }
    }
    if pending { Err(Stop::Pending) } else { Ok(moved.then_some(all)) }
}

/// Where one of the values that a requirement speaks of is set to something that it cannot be. A port's own number is told there.
pub(super) fn unfit(inquiry: &mut Inquiry<'_>, requirement: &Requirement) -> Result<Option<General>, Stop> {
    let guide = inquiry.context.guide;
    for value in requirement.values.iter().filter_map(|index| guide.values.get(*index)) {
        let own = matches!(&requirement.subject, Subject::Port(port) if port.set_by.as_ref() == Some(&value.set_by));
        if let Set::Unfit(place) = set(inquiry, value)?
            && !own
        {
            let set_at = SetAt { variable: value.set_by.name().to_owned(), place: place.to_owned() };
            return Ok(Some(General::ValueUnfit { set_at, must_be: value.shape.words().to_owned() }));
        }
    }
    Ok(None)
}
