//! `reach`: name, connection, security and status are right. Being offline is one cause, not twenty.

use crate::assess::kind::Assess;
use crate::cause::Cause;
use crate::finding::{Conclusion, LeftOut, Met, ReachReason, ReachTrouble, Waiting};
use crate::guide::{Reach, Subject};
use crate::inquiry::{Inquiry, Stop, if_known};
use crate::kinds::service::assess::{is_here, status_fits};
use crate::observation::{Connection, Fetched, Os, Way};
use crate::prelude::*;
use crate::text::without_credentials;

pub(crate) fn assess(inquiry: &mut Inquiry<'_>, index: usize, wanted: &Reach) -> Result<Conclusion, Stop> {
    if inquiry.context.selection.offline {
        return Ok(Conclusion::LeftOut(LeftOut::Offline));
    }
    let address = without_credentials(&wanted.url);
    let outside = !is_this_machine(&address);
    if outside && if_known(inquiry.online())? == Some(&false) {
        return everything(inquiry, index, address, ReachTrouble::Offline);
    }
    let fetched = inquiry.fetch(&wanted.url, None, Way::Configured)?;
    let is_lost =
        |fetched: &Fetched| matches!(fetched, Fetched::Failed(Connection::NoName | Connection::NoAnswer | Connection::NoWay(_)));
    let is_unnamed = |fetched: &Fetched| matches!(fetched, Fetched::Failed(Connection::NoName));
    let trouble = match judge(wanted, fetched) {
        Ok(status) => return Ok(Met::Reached { address, status }.into()),
        Err(trouble) => trouble,
    };
    if outside && matches!(fetched, Fetched::Failed(_)) && inquiry.os()? != Some(Os::Linux) {
        // Where the only way out is by a proxy, everything is lost to those who do not know it.
        if let Some(proxy) = if_known(inquiry.system_proxy())?.filter(|proxy| proxy.address.is_some() || proxy.script) {
            return Ok(ReachReason { address, trouble, system_proxy: Some(proxy.clone()) }.into());
        }
    }
    if outside && is_lost(fetched) {
        // Where nothing at all can be reached, it is not this address that is at fault.
        let others = outside_addresses(inquiry, index)?;
        let (mut all_lost, mut by_name) = (!others.is_empty(), is_unnamed(fetched));
        for (_, url) in &others {
            let other = if_known(inquiry.fetch(url, None, Way::Configured))?;
            all_lost &= other.is_some_and(is_lost);
            by_name &= other.is_some_and(is_unnamed);
        }
        if all_lost {
            let connected = if_known(inquiry.online())? == Some(&true);
            let trouble = if by_name && connected { ReachTrouble::NoNames } else { ReachTrouble::Offline };
            return everything(inquiry, index, address, trouble);
        }
    }
    Ok(ReachReason { address, trouble, system_proxy: None }.into())
}

fn is_this_machine(address: &str) -> bool {
    let host = address.split_once("://").map_or("", |(_, rest)| rest);
    let host = host.split(['/', '?', '#']).next().unwrap_or("");
    let name = if host.starts_with('[') {
        host.split_once(']').map_or(host, |(name, _)| name)
    } else {
        host.split(':').next().unwrap_or("")
    };
    is_here(name.trim_start_matches('['))
}

/// The other outside addresses that this preflight looks at, by requirement.
fn outside_addresses<'a>(inquiry: &mut Inquiry<'a>, index: usize) -> Result<Vec<(usize, &'a str)>, Stop> {
    let context = inquiry.context;
    let mut found = Vec::new();
    for (at, other) in context.guide.requirements.iter().enumerate() {
        let Subject::Reach(reach) = &other.subject else { continue };
        if at == index || !context.selection.includes(other, at) || is_this_machine(&without_credentials(&reach.url)) {
            continue;
        }
        if crate::assess::inapplicable(inquiry, other)?.is_none() {
            found.push((at, reach.url.as_str()));
        }
    }
    Ok(found)
}

/// The first one that waits for nothing says it; the others stand under it.
fn everything(inquiry: &mut Inquiry<'_>, index: usize, address: String, trouble: ReachTrouble) -> Result<Conclusion, Stop> {
    let guide = inquiry.context.guide;
    let others = outside_addresses(inquiry, index)?;
    // What waits for something may wait for this one.
    let is_free = |index: usize| guide.requirements.get(index).is_some_and(|one| one.after.is_empty() && one.needs.is_empty());
    let first = others.into_iter().map(|(index, _)| index).find(|index| is_free(*index));
    if let Some(first) = first.filter(|first| *first < index || !is_free(index)) {
        let finding = inquiry.finding(first)?;
        if crate::assess::is_unmet(finding) && matches!(finding.cause(), Some(Cause::ReachOffline | Cause::ReachNoNames)) {
            return Ok(Conclusion::Waits(Waiting { on: vec![first], online: true }));
        }
    }
    Ok(ReachReason { address, trouble, system_proxy: None }.into())
}

/// The status, where the address answers as it should.
fn judge(wanted: &Reach, fetched: &Fetched) -> Result<u16, ReachTrouble> {
    Err(match fetched {
        Fetched::Answer(status, _) if status_fits(wanted.status, *status) => return Ok(*status),
        Fetched::Answer(status, _) => ReachTrouble::Status { status: *status },
        Fetched::NotHttp => ReachTrouble::NotHttp,
        Fetched::Insecure(reason) => ReachTrouble::Insecure { reason: reason.clone() },
        Fetched::Proxy(reason) => ReachTrouble::Proxy { reason: reason.clone() },
        Fetched::Failed(Connection::Refused) => ReachTrouble::Refused,
        Fetched::Failed(Connection::NoName) => ReachTrouble::NoName,
        Fetched::Failed(Connection::NoWay(reason)) => ReachTrouble::NoWay { reason: reason.clone() },
        Fetched::Failed(Connection::NoAnswer | Connection::Taken) => ReachTrouble::NoAnswer,
    })
}

impl Assess for Reach {
    fn assess(&self, inquiry: &mut Inquiry<'_>, index: usize) -> Result<Conclusion, Stop> {
        assess(inquiry, index, self)
    }
}
