//! `cores`: usable cores, after any cap.

use super::memory::{is_inside_windows, lowest};
use crate::cause::Cause;
use crate::finding::Finding;
use crate::inquiry::{Inquiry, Stop};
use crate::observation::cores_text;
use crate::prelude::*;

fn counted(cores: u64) -> String {
    if cores == 1 { "1 processor core".to_owned() } else { format!("{cores} processor cores") }
}

pub(super) fn find(inquiry: &mut Inquiry<'_>, need: u64) -> Result<Finding, Stop> {
    let cores = inquiry.cores()?;
    let online = cores.online;
    if online < need {
        let message = if is_inside_windows(inquiry)? {
            format!("Windows gives this Linux {}, and {need} are needed.", counted(online))
        } else {
            format!("This machine has {}, and {need} are needed.", counted(online))
        };
        return Ok(Finding::unmet(Cause::CoresShort, message).found(online.to_string()));
    }
    if let Some(cap) = lowest(&cores.caps).filter(|cap| cap.amount < need.saturating_mul(100)) {
        let usable = cores_text(cap.amount);
        let message = format!(
            "This machine has {online} processor cores, but {} lets you use only {usable}, and {need} are needed.",
            cap.by
        );
        return Ok(Finding::unmet(Cause::CoresCapped, message).found(format!("{usable} usable")));
    }
    let usable = lowest(&cores.caps).map_or(online.saturating_mul(100), |cap| cap.amount.min(online.saturating_mul(100)));
    Ok(Finding::met(cores_text(usable), format!("{} processor cores can be used.", cores_text(usable))))
}
