//! `cores`: usable cores, after any cap.

use super::memory::is_inside_windows;
use crate::finding::{CapacityMet, CapacityReason, Conclusion, Met};
use crate::inquiry::{Inquiry, Stop};

pub(super) fn assess(inquiry: &mut Inquiry<'_>, need: u64) -> Result<Conclusion, Stop> {
    let cores = inquiry.cores()?;
    let online = cores.online;
    if online < need {
        return Ok(CapacityReason::CoresShort { online, inside_windows: is_inside_windows(inquiry)? }.into());
    }
    let all = online.saturating_mul(100);
    let lowest = cores.caps.iter().min_by_key(|cap| cap.hundredths);
    if let Some(cap) = lowest.filter(|cap| cap.hundredths < need.saturating_mul(100)) {
        return Ok(CapacityReason::CoresCapped { online, usable_hundredths: cap.hundredths, by: cap.by.clone() }.into());
    }
    let usable_hundredths = lowest.map_or(all, |cap| cap.hundredths.min(all));
    Ok(Met::Capacity(CapacityMet::Cores { usable_hundredths }).into())
}
