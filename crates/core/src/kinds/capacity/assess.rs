//! `memory`: usable memory, after any cap, is that much.

use crate::assess::kind::Assess;
use crate::finding::{CapacityMet, CapacityReason, Conclusion, Met};
use crate::guide::{Cores, Memory, Swap};
use crate::inquiry::{Inquiry, Stop, if_known};
use crate::text::Size;

pub(crate) fn assess(inquiry: &mut Inquiry<'_>, need: &Memory) -> Result<Conclusion, Stop> {
    let memory = inquiry.memory()?;
    let total = Size(memory.total);
    let short_by = |have: Size| Size(need.size.0.saturating_sub(have.0));
    if total < need.size {
        let inside_windows = is_inside_windows(inquiry)?;
        return Ok(CapacityReason::MemoryShort { total, short_by: short_by(total), inside_windows }.into());
    }
    let lowest = memory.caps.iter().min_by_key(|cap| cap.bytes);
    let usable = lowest.map_or(total, |cap| Size(cap.bytes).min(total));
    if let Some(cap) = lowest.filter(|_| usable < need.size) {
        let by = cap.by.clone();
        return Ok(CapacityReason::MemoryCapped { total, usable, short_by: short_by(usable), by }.into());
    }
    if !need.free {
        return Ok(Met::Capacity(CapacityMet::Memory { usable }).into());
    }
    Ok(match memory.available.map(Size) {
        None => CapacityReason::FreeMemoryUnknown { total }.into(),
        Some(available) if available < need.size => {
            CapacityReason::MemoryBusy { available, short_by: short_by(available) }.into()
        }
        Some(available) => Met::Capacity(CapacityMet::FreeMemory { available }).into(),
    })
}

/// `swap`: memory may be put into that much room.
pub(crate) fn assess_swap(inquiry: &mut Inquiry<'_>, need: Size) -> Result<Conclusion, Stop> {
    Ok(match inquiry.memory()?.swap.map(Size) {
        Some(swap) if swap >= need => Met::Capacity(CapacityMet::Swap { swap }).into(),
        Some(swap) => CapacityReason::SwapShort { swap, short_by: Size(need.0.saturating_sub(swap.0)) }.into(),
        None => CapacityReason::SwapUnknown.into(),
    })
}

/// A Linux inside Windows has what Windows gives it, and not what the machine has.
pub(crate) fn is_inside_windows(inquiry: &mut Inquiry<'_>) -> Result<bool, Stop> {
    Ok(if_known(inquiry.surroundings())?.is_some_and(|around| around.wsl == Some(true)))
}

pub(crate) fn assess_cores(inquiry: &mut Inquiry<'_>, need: u64) -> Result<Conclusion, Stop> {
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

impl Assess for Memory {
    fn assess(&self, inquiry: &mut Inquiry<'_>, _: usize) -> Result<Conclusion, Stop> {
        assess(inquiry, self)
    }
}

impl Assess for Swap {
    fn assess(&self, inquiry: &mut Inquiry<'_>, _: usize) -> Result<Conclusion, Stop> {
        assess_swap(inquiry, self.size)
    }
}

impl Assess for Cores {
    fn assess(&self, inquiry: &mut Inquiry<'_>, _: usize) -> Result<Conclusion, Stop> {
        assess_cores(inquiry, self.count)
    }
}
