//! `disk`: this user can write that much at that place, together with all others on that filesystem.

use crate::cause::Cause;
use crate::finding::{Finding, Particulars};
use crate::guide::{Disk, Requirement, Subject};
use crate::inquiry::{Inquiry, Stop};
use crate::observation::DiskRoom;
use crate::prelude::*;
use crate::text::{Size, join_words};
use alloc::collections::BTreeMap;

/// More than these are only counted in a sentence.
const MOST_NAMED: usize = 5;

/// What all disk requirements that apply here need together, by filesystem.
#[derive(Debug, Clone, Default)]
pub struct DiskLedger {
    sums: BTreeMap<String, (u64, Vec<usize>)>,
}

/// Needs that land on one filesystem add up: asks every place once.
pub(super) fn sum(inquiry: &mut Inquiry<'_>) -> Result<DiskLedger, Stop> {
    let mut ledger = DiskLedger::default();
    let mut complete = true;
    for (index, requirement) in inquiry.context.guide.requirements.iter().enumerate() {
        let Subject::Disk(disk) = &requirement.subject else { continue };
        if !inquiry.context.selection.includes(requirement, index) {
            continue;
        }
        let room = match super::inapplicable(inquiry, requirement) {
            Ok(None) => inquiry.disk_room(&disk.at),
            Ok(Some(_)) => continue,
            Err(stop) => Err(stop),
        };
        match room {
            Ok(room) => {
                let (sum, parts) = ledger.sums.entry(room.filesystem.clone()).or_default();
                *sum = sum.saturating_add(disk.size.0);
                parts.push(index);
            }
            Err(Stop::Pending) => complete = false,
            Err(Stop::NoAnswer(..)) => {}
        }
    }
    if complete { Ok(ledger) } else { Err(Stop::Pending) }
}

pub(super) fn find(inquiry: &mut Inquiry<'_>, requirement: &Requirement, disk: &Disk) -> Result<Finding, Stop> {
    let room = inquiry.disk_room(&disk.at)?;
    if let Some(finding) = unfit(disk, room) {
        return Ok(finding);
    }
    let nothing = (disk.size.0, Vec::new());
    let (sum, parts) = inquiry.disk_ledger()?.sums.get(&room.filesystem).unwrap_or(&nothing);
    let sum = Size(*sum);
    let available = Size(room.available_bytes);
    let found = format!("{available} free");
    if sum <= available {
        return Ok(Finding::met(found, format!("{available} is free at {}.", room.existing)).with(about(room, None)));
    }
    let guide = inquiry.context.guide;
    let mut others: Vec<String> = Vec::new();
    for other in parts.iter().filter_map(|index| guide.requirements.get(*index)).filter(|other| other.id != requirement.id) {
        if let Subject::Disk(need) = &other.subject {
            // What the others rest on is evidence here too.
            let _ = inquiry.disk_room(&need.at)?;
            others.push(format!("{} ({})", other.title(), need.size));
        }
        if others.len() == MOST_NAMED {
            others.push(format!("{} more", parts.len().saturating_sub(MOST_NAMED + 1)));
            break;
        }
    }
    let short = Size(sum.0 - available.0);
    let message = format!(
        "{} would fit alone, but {} must go on the same disk. Together they need {sum}, and {available} is free: {short} short.",
        disk.size,
        join_words(&others, "and"),
    );
    let finding = Finding::unmet(Cause::DiskShortTogether, message).found(found).wanted(format!("{sum} free, together"));
    Ok(finding.with(about(room, Some(short))))
}

fn about(room: &DiskRoom, short_by: Option<Size>) -> Particulars {
    Particulars { path: Some(room.existing.clone()), short_by, ..Particulars::default() }
}

/// Why the place will not do by itself.
fn unfit(disk: &Disk, room: &DiskRoom) -> Option<Finding> {
    let place = if room.existing == room.path {
        room.path.clone()
    } else {
        format!("{} (which does not exist yet; its nearest existing folder is {})", room.path, room.existing)
    };
    let available = Size(room.available_bytes);
    if room.read_only {
        let message = format!("The disk that holds {place} is mounted read-only: nothing can be written there.");
        return Some(Finding::unmet(Cause::DiskReadOnly, message).found("read-only").with(about(room, None)));
    }
    if !room.writable {
        let message = format!("You may not write at {place}.");
        return Some(Finding::unmet(Cause::DiskNoPermission, message).found("not writable for you").with(about(room, None)));
    }
    if room.available_bytes < disk.size.0 {
        let short = Size(disk.size.0 - room.available_bytes);
        let message = format!("At {place}, {available} is free for you, and {} is needed: {short} short.", disk.size);
        return Some(Finding::unmet(Cause::DiskShort, message).found(format!("{available} free")).with(about(room, Some(short))));
    }
    let (wanted, left) = disk.inodes.zip(room.available_inodes)?;
    if left >= wanted {
        return None;
    }
    let message = format!("The disk that holds {place} can take {left} more files, and {wanted} are needed.");
    Some(
        Finding::unmet(Cause::DiskInodesShort, message)
            .found(format!("room for {left} files"))
            .wanted(format!("room for {wanted} files"))
            .with(about(room, None)),
    )
}
