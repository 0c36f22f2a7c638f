//! `disk`: this user can write that much at that place, together with all others on that filesystem.

use crate::assess::kind::Assess;
use crate::finding::{Conclusion, DiskReason, DiskTrouble, Met, Together};
use crate::guide::{Disk, Subject};
use crate::inquiry::{Inquiry, Stop};
use crate::ledger::{DiskLedger, Sum};
use crate::observation::{DiskLimit, DiskRoom};
use crate::prelude::*;
use crate::text::Size;

/// Needs that land on one filesystem add up: asks every place once.
pub(crate) fn sum(inquiry: &mut Inquiry<'_>) -> Result<DiskLedger, Stop> {
    let mut ledger = DiskLedger::default();
    let mut complete = true;
    for (index, requirement) in inquiry.context.guide.requirements.iter().enumerate() {
        let Subject::Disk(disk) = &requirement.subject else { continue };
        if !inquiry.context.selection.includes(requirement, index) {
            continue;
        }
        let room = match crate::assess::inapplicable(inquiry, requirement) {
            Ok(None) => inquiry.disk_room(&disk.at).map(Some),
            Ok(Some(Conclusion::LeftOut(_))) => continue,
            Ok(Some(_)) => Ok(None),
            Err(stop) => Err(stop),
        };
        let sum = match room {
            Ok(Some(room)) => {
                if room.available_bytes >= disk.size.0 {
                    let fitting = ledger.fitting.entry(room.filesystem.clone()).or_default();
                    fitting.called.get_or_insert_with(|| room.clone());
                    fitting.bytes = fitting.bytes.saturating_add(disk.size.0);
                    fitting.parts.push(index);
                    ledger.total = ledger.total.saturating_add(disk.size.0);
                }
                let sum = ledger.sums.entry(room.filesystem.clone()).or_default();
                sum.called.get_or_insert_with(|| room.clone());
                sum
            }
            Ok(None) | Err(Stop::NoAnswer(_)) => {
                ledger.total = ledger.total.saturating_add(disk.size.0);
                &mut ledger.uncertain
            }
            Err(Stop::Pending) => {
                complete = false;
                continue;
            }
        };
        sum.bytes = sum.bytes.saturating_add(disk.size.0);
        sum.parts.push(index);
    }
    ledger.evidence = inquiry.take_cited().into();
    if complete { Ok(ledger) } else { Err(Stop::Pending) }
}

pub(crate) fn assess(inquiry: &mut Inquiry<'_>, index: usize, disk: &Disk) -> Result<Conclusion, Stop> {
    let room = inquiry.disk_room(&disk.at)?;
    let available = Size(room.available_bytes);
    if let Some(mut trouble) = unfit(disk, room) {
        let mut called = room;
        if let DiskTrouble::Short { together, .. } = &mut trouble {
            // What is short alone is shorter with the others that land there: one number for all, so that it is freed once.
            let ledger = inquiry.disk_ledger()?;
            if let Some(sum) = ledger.sums.get(&room.filesystem).filter(|sum| sum.parts.len() > 1) {
                inquiry.shared = Some(Arc::clone(&ledger.evidence));
                called = sum.called.as_ref().unwrap_or(room);
                *together = Some(all_of(sum, available, index));
            }
        }
        return Ok(reason(room, called, trouble));
    }
    let ledger = inquiry.disk_ledger()?;
    let met = Met::Disk { available_bytes: room.available_bytes, at: room.existing.clone() };
    if Size(ledger.total) <= available {
        return Ok(met.into());
    }
    // Where each of the others lands matters now.
    inquiry.shared = Some(Arc::clone(&ledger.evidence));
    let alone = Sum { bytes: disk.size.0, ..Sum::default() };
    let sum = ledger.fitting.get(&room.filesystem).unwrap_or(&alone);
    if Size(sum.bytes) > available {
        let called = sum.called.as_ref().unwrap_or(room);
        return Ok(reason(room, called, DiskTrouble::ShortTogether(all_of(sum, available, index))));
    }
    if Size(sum.bytes.saturating_add(ledger.uncertain.bytes)) > available {
        return Ok(reason(room, room, DiskTrouble::OthersUnknown { others: ledger.uncertain.others(index) }));
    }
    Ok(met.into())
}

fn all_of(sum: &Sum, available: Size, index: usize) -> Together {
    Together { needed: Size(sum.bytes), short_by: Size(sum.bytes.saturating_sub(available.0)), others: sum.others(index) }
}

fn reason(room: &DiskRoom, called: &DiskRoom, trouble: DiskTrouble) -> Conclusion {
    let disk = match &called.limited_by {
        Some(DiskLimit::Outside(place)) => place.clone(),
        Some(DiskLimit::Quota) | None => called.existing.clone(),
    };
    DiskReason {
        path: room.path.clone(),
        existing: room.existing.clone(),
        disk,
        available_bytes: room.available_bytes,
        limited_by: room.limited_by.clone(),
        trouble,
    }
    .into()
}

/// Why the place will not do by itself.
fn unfit(disk: &Disk, room: &DiskRoom) -> Option<DiskTrouble> {
    if room.read_only {
        return Some(DiskTrouble::ReadOnly);
    }
    if !room.writable {
        return Some(DiskTrouble::NoPermission);
    }
    if room.available_bytes < disk.size.0 {
        return Some(DiskTrouble::Short { short_by: Size(disk.size.0 - room.available_bytes), together: None });
    }
    // Whatever is written is at least one file.
    let (needed, left) = (disk.inodes.unwrap_or(1), room.available_inodes?);
    (left < needed).then_some(DiskTrouble::InodesShort { left, needed })
}

impl Assess for Disk {
    fn assess(&self, inquiry: &mut Inquiry<'_>, index: usize) -> Result<Conclusion, Stop> {
        assess(inquiry, index, self)
    }
}
