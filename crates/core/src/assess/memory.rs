//! `memory`: usable memory, after any cap, is that much.

use crate::cause::Cause;
use crate::finding::{Finding, Particulars};
use crate::guide::Memory;
use crate::inquiry::{Inquiry, Stop, known};
use crate::observation::Cap;
use crate::prelude::*;
use crate::text::Size;

pub(super) fn find(inquiry: &mut Inquiry<'_>, need: &Memory) -> Result<Finding, Stop> {
    let memory = inquiry.memory()?;
    let total = Size(memory.total);
    let short = |have: Size| Particulars { short_by: Some(Size(need.size.0.saturating_sub(have.0))), ..Particulars::default() };
    if total < need.size {
        let message = if is_inside_windows(inquiry)? {
            format!("Windows gives this Linux {total} of the machine's memory, and {} is needed.", need.size)
        } else {
            format!("This machine has {total} of memory in all, and {} is needed.", need.size)
        };
        return Ok(Finding::unmet(Cause::MemoryShort, message).found(total.to_string()).with(short(total)));
    }
    if let Some(cap) = lowest(&memory.caps).filter(|cap| Size(cap.amount) < need.size) {
        let usable = Size(cap.amount);
        let message = format!(
            "This machine has {total} of memory, but {} lets you use only {usable}, and {} is needed.",
            cap.by, need.size
        );
        return Ok(Finding::unmet(Cause::MemoryCapped, message).found(format!("{usable} usable")).with(short(usable)));
    }
    if need.free {
        let Some(available) = memory.available.map(Size) else {
            let message = "How much memory is free at the moment could not be found out.";
            return Ok(Finding::unknown(Cause::CouldNotLook, message).found(format!("{total} in all")));
        };
        if available < need.size {
            let message = format!(
                "This machine has enough memory, but only {available} of it is free at the moment, and {} is needed.",
                need.size
            );
            return Ok(Finding::unmet(Cause::MemoryBusy, message).found(format!("{available} free")).with(short(available)));
        }
        return Ok(Finding::met(format!("{available} free"), format!("{available} of memory is free now.")));
    }
    let usable = lowest(&memory.caps).map_or(total, |cap| Size(cap.amount).min(total));
    Ok(Finding::met(usable.to_string(), format!("{usable} of memory can be used.")))
}

/// A Linux inside Windows has what Windows gives it, and not what the machine has.
pub(super) fn is_inside_windows(inquiry: &mut Inquiry<'_>) -> Result<bool, Stop> {
    Ok(known(inquiry.surroundings())?.is_some_and(|around| around.wsl == Some(true)))
}

/// The cap that counts.
pub(super) fn lowest(caps: &[Cap]) -> Option<&Cap> {
    caps.iter().min_by_key(|cap| cap.amount)
}
