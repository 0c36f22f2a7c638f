//! `disk`: this user can write that much at that place, together with all others on that filesystem.

use crate::cause::Cause;
use crate::finding::{Finding, Particulars, Verdict, Whose};
use crate::guide::{Disk, Guide, Requirement, Subject};
use crate::inquiry::{Inquiry, Stop};
use crate::observation::{DiskLimit, DiskRoom};
use crate::prelude::*;
use crate::text::{Size, join_words};
use alloc::collections::BTreeMap;

/// More than these are only counted in a sentence.
const MOST_NAMED: usize = 5;

/// What all disk requirements that apply here need, and where.
#[derive(Debug, Clone, Default)]
pub struct DiskLedger {
    /// All of it, in bytes, wherever it lands.
    total: u64,
    /// By filesystem: the sum, and the requirements.
    sums: BTreeMap<String, (u64, Vec<usize>)>,
    /// What may land anywhere, because its place or its condition could not be found out.
    uncertain: (u64, Vec<usize>),
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
            Ok(None) => inquiry.disk_room(&disk.at).map(Some),
            Ok(Some(finding)) if finding.verdict == Verdict::Skipped => continue,
            Ok(Some(_)) => Ok(None),
            Err(stop) => Err(stop),
        };
        let (sum, parts) = match room {
            Ok(Some(room)) => ledger.sums.entry(room.filesystem.clone()).or_default(),
            Ok(None) | Err(Stop::NoAnswer(..)) => &mut ledger.uncertain,
            Err(Stop::Pending) => {
                complete = false;
                continue;
            }
        };
        *sum = sum.saturating_add(disk.size.0);
        parts.push(index);
        ledger.total = ledger.total.saturating_add(disk.size.0);
    }
    if complete { Ok(ledger) } else { Err(Stop::Pending) }
}

pub(super) fn find(inquiry: &mut Inquiry<'_>, requirement: &Requirement, disk: &Disk) -> Result<Finding, Stop> {
    let room = inquiry.disk_room(&disk.at)?;
    if let Some(mut finding) = unfit(disk, room) {
        if finding.cause == Some(Cause::DiskShort) {
            with_others(inquiry, requirement, room, &mut finding)?;
        }
        return Ok(finding);
    }
    let ledger = inquiry.disk_ledger()?;
    let available = Size(room.available_bytes);
    let found = format!("{available} free");
    let met = Finding::met(found.clone(), format!("{available} is free at {}.", room.existing)).with(about(room, None));
    if Size(ledger.total) <= available {
        return Ok(met);
    }
    // Where each of the others lands matters now, so it is evidence here too.
    let (sum, here) = ledger.sums.get(&room.filesystem).cloned().unwrap_or((disk.size.0, Vec::new()));
    let elsewhere: Vec<usize> = ledger.sums.values().flat_map(|(_, parts)| parts).copied().collect();
    look_at(inquiry, &elsewhere)?;
    let first = look_at(inquiry, &here)?.unwrap_or(room);
    let guide = inquiry.context.guide;
    let sum = Size(sum);
    if sum > available {
        let short = Size(sum.0 - available.0);
        let message = format!(
            "{} would fit alone, but {} must go on the same disk. Together they need {sum}, and {available} {}: {short} short.",
            disk.size,
            named(guide, &here, requirement),
            left(room),
        );
        let finding = Finding::unmet(Cause::DiskShortTogether, message).found(found).wanted(format!("{sum} free, together"));
        return Ok(finding.with(about(first, Some(short))));
    }
    if Size(sum.0.saturating_add(ledger.uncertain.0)) > available {
        let message = format!(
            "{available} is free, which is enough for this alone. Whether {} must go on the same disk could not be found out.",
            named(guide, &ledger.uncertain.1, requirement),
        );
        return Ok(Finding::unknown(Cause::CouldNotLook, message).found(found));
    }
    Ok(met)
}

/// What is short alone is shorter with the others that land there: one number for all, so that it is freed once.
fn with_others(inquiry: &mut Inquiry<'_>, requirement: &Requirement, room: &DiskRoom, finding: &mut Finding) -> Result<(), Stop> {
    let ledger = inquiry.disk_ledger()?;
    let Some((sum, parts)) = ledger.sums.get(&room.filesystem).filter(|(_, parts)| parts.len() > 1) else { return Ok(()) };
    if let Some(first) = look_at(inquiry, parts)? {
        finding.particulars = about(first, None);
    }
    let short = Size(sum.saturating_sub(room.available_bytes));
    let others = named(inquiry.context.guide, parts, requirement);
    finding.message = format!("{} With {others} on the same disk, it is {short} in all.", finding.message);
    finding.particulars.short_by = Some(short);
    Ok(())
}

/// Looks at the places of these requirements, so that they are evidence; gives the first one's, by which the disk is called in the fix
/// that is one for all.
fn look_at<'a>(inquiry: &mut Inquiry<'a>, parts: &[usize]) -> Result<Option<&'a DiskRoom>, Stop> {
    let mut first = None;
    for index in parts {
        if let Some(Subject::Disk(other)) = inquiry.context.guide.requirements.get(*index).map(|other| &other.subject) {
            let room = inquiry.disk_room(&other.at)?;
            first = first.or(Some(room));
        }
    }
    Ok(first)
}

/// The other requirements with their sizes, for a sentence.
fn named(guide: &Guide, parts: &[usize], requirement: &Requirement) -> String {
    let others = parts.iter().filter_map(|index| guide.requirements.get(*index)).filter(|other| other.id != requirement.id);
    let mut names: Vec<String> = others
        .filter_map(|other| {
            if let Subject::Disk(need) = &other.subject { Some(format!("{} ({})", other.title(), need.size)) } else { None }
        })
        .collect();
    if names.len() > MOST_NAMED {
        let more = names.len() - MOST_NAMED;
        names.truncate(MOST_NAMED);
        names.push(format!("{more} more"));
    }
    join_words(&names, "and")
}

fn about(room: &DiskRoom, short_by: Option<Size>) -> Particulars {
    // Room that is made in a Linux inside Windows gives Windows none back: it is its disk that must be looked at.
    let outside = match &room.limited_by {
        Some(DiskLimit::Outside(place)) => Some(place.clone()),
        Some(DiskLimit::Quota) | None => None,
    };
    let inside = outside.is_none();
    Particulars {
        path: outside.or_else(|| Some(room.existing.clone())),
        whose: if inside { Whose::Unknown } else { Whose::Foreign },
        short_by,
        ..Particulars::default()
    }
}

/// For whom, or where, what is available is free; for a sentence.
fn left(room: &DiskRoom) -> String {
    match &room.limited_by {
        Some(DiskLimit::Quota) => "is left of your quota".to_owned(),
        Some(DiskLimit::Outside(outside)) => {
            format!("is free on the Windows disk that holds this Linux (seen from here as {outside})")
        }
        None => "is free for you".to_owned(),
    }
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
        let message = format!("At {place}, {available} {}, and {} is needed: {short} short.", left(room), disk.size);
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
