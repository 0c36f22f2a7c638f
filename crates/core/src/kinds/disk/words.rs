//! What people are told.

use crate::finding::{DiskReason, DiskTrouble, Met, Named};
use crate::guide::{Disk, Guide, Requirement, Subject};
use crate::observation::DiskLimit;
use crate::prelude::*;
use crate::text::{Size, join_words};
use crate::words::Words;
use crate::words::kind::{ReasonWords, SubjectWords};

pub(crate) fn free(bytes: u64) -> String {
    format!("{} free", Size(bytes))
}

pub(crate) fn message(words: &Words<'_>, reason: &DiskReason) -> String {
    let available = Size(reason.available_bytes);
    let place = if reason.existing == reason.path {
        reason.path.clone()
    } else {
        format!("{} (which does not exist yet; its nearest existing folder is {})", reason.path, reason.existing)
    };
    let needed = if let Subject::Disk(disk) = &words.requirement.subject { disk.size } else { Size(0) };
    match &reason.trouble {
        DiskTrouble::ReadOnly => format!("The disk that holds {place} is mounted read-only: nothing can be written there."),
        DiskTrouble::NoPermission => format!("You may not write at {place}."),
        DiskTrouble::Short { short_by, together } => {
            let text = format!("At {place}, {available} {}, and {needed} is needed: {short_by} short.", left(reason));
            match together {
                Some(together) => format!(
                    "{text} With {} on the same disk, it is {} in all.",
                    others(words, &together.others),
                    together.short_by
                ),
                None => text,
            }
        }
        DiskTrouble::ShortTogether(together) => format!(
            "{needed} would fit alone, but {} must go on the same disk. Together they need {}, and {available} {}: {} short.",
            others(words, &together.others),
            together.needed,
            left(reason),
            together.short_by,
        ),
        DiskTrouble::InodesShort { left, needed } => {
            format!("The disk that holds {place} can take {left} more files, and {needed} are needed.")
        }
        DiskTrouble::OthersUnknown { others: named } => format!(
            "{available} is free, which is enough for this alone. Whether {} must go on the same disk could not be found out.",
            others(words, named),
        ),
    }
}

/// For whom, or where, what is available is free; for a sentence.
fn left(reason: &DiskReason) -> String {
    match &reason.limited_by {
        Some(DiskLimit::Quota) => "is left of your quota".to_owned(),
        Some(DiskLimit::Outside(outside)) => {
            format!("is free on the Windows disk that holds this Linux (seen from here as {outside})")
        }
        None => "is free for you".to_owned(),
    }
}

/// The other requirements with their sizes.
fn others(words: &Words<'_>, named: &Named) -> String {
    let with_size = |requirement: &Requirement| {
        if let Subject::Disk(need) = &requirement.subject {
            Some(format!("{} ({})", requirement.title(), need.size))
        } else {
            None
        }
    };
    let mut titles: Vec<String> =
        named.first.iter().filter_map(|index| words.guide.requirements.get(*index)).filter_map(with_size).collect();
    if named.more > 0 {
        titles.push(format!("{} more", named.more));
    }
    join_words(&titles, "and")
}

pub(crate) fn found(reason: &DiskReason) -> String {
    match &reason.trouble {
        DiskTrouble::ReadOnly => "read-only".to_owned(),
        DiskTrouble::NoPermission => "not writable for you".to_owned(),
        DiskTrouble::InodesShort { left, .. } => format!("room for {left} files"),
        DiskTrouble::Short { .. } | DiskTrouble::ShortTogether(_) | DiskTrouble::OthersUnknown { .. } => {
            free(reason.available_bytes)
        }
    }
}

pub(crate) fn wanted_of(reason: &DiskReason) -> Option<String> {
    match &reason.trouble {
        DiskTrouble::ReadOnly | DiskTrouble::NoPermission => Some("writable".to_owned()),
        DiskTrouble::InodesShort { needed, .. } => Some(format!("room for {needed} files")),
        DiskTrouble::ShortTogether(together) => Some(format!("{} free, together", together.needed)),
        DiskTrouble::Short { .. } | DiskTrouble::OthersUnknown { .. } => None,
    }
}

impl ReasonWords for DiskReason {
    fn message(&self, words: &Words<'_>) -> String {
        message(words, self)
    }

    fn found(&self) -> Option<String> {
        Some(found(self))
    }

    fn wanted(&self, _: &Words<'_>) -> Option<String> {
        wanted_of(self)
    }
}

impl SubjectWords for Disk {
    fn met(&self, words: &Words<'_>, met: &Met) -> String {
        let Met::Disk { available_bytes, at } = met else { return words.title() };
        format!("{} is free at {at}.", Size(*available_bytes))
    }

    fn met_briefly(&self, words: &Words<'_>, met: &Met) -> String {
        if let Met::Disk { available_bytes, .. } = met { free(*available_bytes) } else { words.title() }
    }

    fn wanted(&self) -> Option<String> {
        Some(format!("{} free", self.size))
    }

    fn listed(&self, _: &Requirement, _: &Guide) -> String {
        let at = if self.at == "." { "where the project lies".to_owned() } else { format!("at {}", self.at) };
        format!("{} free {at}", self.size)
    }
}
