//! How it is looked at.

use crate::assess::is_met;
use crate::assess::kind::Assess;
use crate::finding::{Conclusion, DeviceReason, DeviceTrouble, Met, Reason};
use crate::guide::Device;
use crate::inquiry::{Inquiry, Stop};
use crate::kinds::group::assess::comes_with_sign_in;
use crate::observation::DeviceState;

/// Of several, the first that may be opened does; else what stands in the way of the first that is there.
pub(crate) fn assess(inquiry: &mut Inquiry<'_>, wanted: &Device) -> Result<Conclusion, Stop> {
    if let Some(usb) = &wanted.usb
        && !*inquiry.usb(usb)?
    {
        let trouble = DeviceTrouble::NotConnected { usb: usb.clone() };
        return Ok(DeviceReason { path: wanted.path.clone(), access: wanted.access, trouble }.into());
    }
    let missing = |conclusion: &Conclusion| {
        matches!(conclusion, Conclusion::Open(Reason::Device(DeviceReason { trouble: DeviceTrouble::Missing, .. })))
    };
    let mut best = one_device(inquiry, wanted)?;
    for other in &wanted.or {
        if is_met(&best) {
            break;
        }
        let next = one_device(inquiry, &Device { path: other.clone(), ..wanted.clone() })?;
        if is_met(&next) || (missing(&best) && !missing(&next)) {
            best = next;
        }
    }
    Ok(best)
}

fn one_device(inquiry: &mut Inquiry<'_>, wanted: &Device) -> Result<Conclusion, Stop> {
    let trouble = match inquiry.device(&wanted.path, wanted.access)? {
        DeviceState::Opens => return Ok(Met::DeviceOpens.into()),
        DeviceState::Busy => return Ok(Met::DeviceBusy.into()),
        DeviceState::Missing => DeviceTrouble::Missing,
        DeviceState::Dead => DeviceTrouble::Dead,
        DeviceState::Denied(group, _) => {
            DeviceTrouble::Denied { until_sign_in: comes_with_sign_in(inquiry, group.as_deref())?, group: group.clone() }
        }
    };
    Ok(DeviceReason { path: wanted.path.clone(), access: wanted.access, trouble }.into())
}

impl Assess for Device {
    fn assess(&self, inquiry: &mut Inquiry<'_>, _: usize) -> Result<Conclusion, Stop> {
        assess(inquiry, self)
    }
}
