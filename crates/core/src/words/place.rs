//! What is said of ports and disks.

use super::Words;
use crate::finding::{DiskReason, DiskTrouble, Named, PortMet, PortReason, PortTrouble};
use crate::guide::{Requirement, Subject};
use crate::observation::{DiskLimit, Holder};
use crate::prelude::*;
use crate::probe::PortPlace;
use crate::text::{Size, join_words};

pub(super) fn port_met(met: &PortMet) -> String {
    match met {
        PortMet::Own { place, url } => format!("{place} is held by the project itself: {url} answers as the guide says."),
        PortMet::Accepted { place, holder } => format!("{place} is held by {holder}, as it should be."),
        PortMet::Free { place, count, set_at } => {
            let what = match place {
                Some(place) if *count == 1 => place.to_string(),
                _ => format!("Each of the {count} ports"),
            };
            let because = set_at
                .as_ref()
                .map(|set_at| format!(" ({} in {} sets the number)", set_at.variable, set_at.place))
                .unwrap_or_default();
            format!("{what} is free{because}.")
        }
    }
}

pub(super) fn port_met_briefly(met: &PortMet) -> String {
    match met {
        PortMet::Free { .. } => "free".to_owned(),
        PortMet::Own { .. } => "held by the project itself".to_owned(),
        PortMet::Accepted { holder, .. } => format!("held by {holder}"),
    }
}

pub(super) fn port(reason: &PortReason) -> String {
    let (place, trouble) = match reason {
        PortReason::At { place, trouble, .. } => (place, trouble),
        PortReason::NotAPort { set_at, found } => {
            let found = found.map_or_else(|| "something that is no number".to_owned(), |number| number.to_string());
            return format!("{}, set in {}, holds {found}. A port is a number from 1 to 65535.", set_at.variable, set_at.place);
        }
    };
    match trouble {
        PortTrouble::Held { holder, also } => {
            let also: Vec<String> = also.iter().map(u16::to_string).collect();
            let more = if also.is_empty() { String::new() } else { format!(" Also in use: {}.", join_words(&also, "and")) };
            held(place, holder.as_ref()) + &more
        }
        PortTrouble::HolderHidden { user, accepted } => {
            let whose = user.as_ref().map(|user| format!(" of user {user}")).unwrap_or_default();
            format!(
                "{place} is in use by a program{whose} whose name only the administrator can see. If it is {}, all is well.",
                join_words(accepted, "or")
            )
        }
        PortTrouble::Privileged { from } => {
            format!("{place} is below {from}, and only the administrator may open such ports on this machine.")
        }
        PortTrouble::Denied => format!("The system does not let you open {place}."),
        PortTrouble::Reserved => format!("{place} is reserved by the system, although no program uses it."),
        PortTrouble::NoAddress => {
            let address = place.address.as_ref().map(|address| format!(" {address}")).unwrap_or_default();
            format!("This machine does not have the address{address}, so nothing can be served there.")
        }
    }
}

fn held(place: &PortPlace, holder: Option<&Holder>) -> String {
    let told = holder.filter(|holder| holder.is_told());
    if let Some((first, last)) = holder.and_then(|holder| holder.outgoing) {
        let whose = told.map_or_else(|| "a program".to_owned(), ToString::to_string);
        return format!(
            "{place} is in use at the moment by an outgoing connection of {whose}: the system takes numbers from {first} to {last} for \
             such connections, so this can happen at any time."
        );
    }
    match (told, holder.and_then(|holder| holder.user.as_ref())) {
        (Some(holder), _) => format!("{place} is already in use by {holder}."),
        (None, Some(user)) => {
            format!("{place} is already in use by a program of user {user}; only the administrator can see which one.")
        }
        (None, None) => {
            format!("{place} is already in use by another user's program; only the administrator can see which one.")
        }
    }
}

pub(super) fn port_found(reason: &PortReason) -> String {
    let trouble = match reason {
        PortReason::At { trouble, .. } => trouble,
        PortReason::NotAPort { .. } => return "not a port".to_owned(),
    };
    match trouble {
        PortTrouble::Held { holder, .. } => match holder {
            Some(holder) if holder.outgoing.is_some() => "in use by a connection".to_owned(),
            Some(holder) if holder.is_told() => format!("held by {holder}"),
            Some(Holder { user: Some(user), .. }) => format!("held by user {user}"),
            Some(_) | None => "held by somebody".to_owned(),
        },
        PortTrouble::HolderHidden { .. } => "held by a program that is not named".to_owned(),
        PortTrouble::Privileged { .. } | PortTrouble::Denied => "permission denied".to_owned(),
        PortTrouble::Reserved => "reserved".to_owned(),
        PortTrouble::NoAddress => "no such address".to_owned(),
    }
}

pub(super) fn free(bytes: u64) -> String {
    format!("{} free", Size(bytes))
}

pub(super) fn disk_met(bytes: u64, at: &str) -> String {
    format!("{} is free at {at}.", Size(bytes))
}

pub(super) fn disk(words: &Words<'_>, reason: &DiskReason) -> String {
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

pub(super) fn disk_found(reason: &DiskReason) -> String {
    match &reason.trouble {
        DiskTrouble::ReadOnly => "read-only".to_owned(),
        DiskTrouble::NoPermission => "not writable for you".to_owned(),
        DiskTrouble::InodesShort { left, .. } => format!("room for {left} files"),
        DiskTrouble::Short { .. } | DiskTrouble::ShortTogether(_) | DiskTrouble::OthersUnknown { .. } => {
            free(reason.available_bytes)
        }
    }
}

pub(super) fn disk_wanted_of(reason: &DiskReason) -> Option<String> {
    match &reason.trouble {
        DiskTrouble::ReadOnly | DiskTrouble::NoPermission => Some("writable".to_owned()),
        DiskTrouble::InodesShort { needed, .. } => Some(format!("room for {needed} files")),
        DiskTrouble::ShortTogether(together) => Some(format!("{} free, together", together.needed)),
        DiskTrouble::Short { .. } | DiskTrouble::OthersUnknown { .. } => None,
    }
}
