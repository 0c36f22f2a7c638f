//! `reach`: name, connection, security and status are right. Being offline is one cause, not twenty.

use super::service::{is_here, status_fits};
use crate::cause::Cause;
use crate::finding::{Finding, Particulars, Verdict};
use crate::guide::{Reach, Requirement, Subject};
use crate::inquiry::{Inquiry, Stop, known};
use crate::observation::{Connection, Fetched, Os, SystemProxy, Way};
use crate::prelude::*;
use crate::probe::without_credentials;

/// Why what needs the network is left out.
pub const OFFLINE: &str = "Not checked, because you said --offline.";

pub(super) fn find(inquiry: &mut Inquiry<'_>, requirement: &Requirement, wanted: &Reach) -> Result<Finding, Stop> {
    if inquiry.context.selection.offline {
        return Ok(Finding::skipped(OFFLINE));
    }
    let address = without_credentials(&wanted.url);
    let outside = !is_this_machine(&address);
    if outside && known(inquiry.online())? == Some(&false) {
        return offline(inquiry, requirement);
    }
    let fetched = inquiry.fetch(&wanted.url, None, Way::Configured)?;
    let finding = judge(wanted, &address, fetched);
    let is_lost =
        |fetched: &Fetched| matches!(fetched, Fetched::Failed(Connection::NoName | Connection::NoAnswer | Connection::NoWay(_)));
    if outside && matches!(fetched, Fetched::Failed(_)) && inquiry.os()? != Some(Os::Linux) {
        // Where the only way out is by a proxy, everything is lost to those who do not know it.
        if let Some(proxy) = known(inquiry.system_proxy())?.filter(|proxy| proxy.address.is_some() || proxy.script) {
            return Ok(without_proxy(&finding, proxy));
        }
    }
    if outside && is_lost(fetched) {
        // Where nothing at all can be reached, it is not this address that is at fault.
        let others = outside_addresses(inquiry, requirement)?;
        let mut all_lost = !others.is_empty();
        for (_, url) in &others {
            all_lost &= known(inquiry.fetch(url, None, Way::Configured))?.is_some_and(is_lost);
        }
        if all_lost {
            return offline(inquiry, requirement);
        }
    }
    Ok(finding)
}

/// Browsers know the proxy of the system's settings, programs in a terminal do not: that is why one works and the other does not.
fn without_proxy(finding: &Finding, proxy: &SystemProxy) -> Finding {
    let why = match &proxy.address {
        Some(address) => format!(
            "This system's settings name the proxy {address}, which browsers use; programs in this terminal do not know it."
        ),
        None => "This system's settings leave it to a script to choose a proxy. Browsers can run it, and programs in a terminal cannot."
            .to_owned(),
    };
    let particulars = Particulars { path: proxy.address.clone(), ..Particulars::default() };
    let message = format!("{} {why}", finding.message);
    Finding::unmet(Cause::ReachProxy, message).found("the proxy is not known here").with(particulars)
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
fn outside_addresses<'a>(inquiry: &mut Inquiry<'a>, requirement: &Requirement) -> Result<Vec<(usize, &'a str)>, Stop> {
    let context = inquiry.context;
    let mut found = Vec::new();
    for (index, other) in context.guide.requirements.iter().enumerate() {
        let Subject::Reach(reach) = &other.subject else { continue };
        if other.id == requirement.id
            || !context.selection.includes(other, index)
            || is_this_machine(&without_credentials(&reach.url))
        {
            continue;
        }
        if super::inapplicable(inquiry, other)?.is_none() {
            found.push((index, reach.url.as_str()));
        }
    }
    Ok(found)
}

/// The first one that waits for nothing says it; the others stand under it.
fn offline(inquiry: &mut Inquiry<'_>, requirement: &Requirement) -> Result<Finding, Stop> {
    let guide = inquiry.context.guide;
    let others = outside_addresses(inquiry, requirement)?;
    // What waits for something may wait for this one.
    let is_free = |requirement: &Requirement| requirement.after.is_empty() && requirement.needs.is_empty();
    let first = others.into_iter().map(|(index, _)| index).find(|index| guide.requirements.get(*index).is_some_and(is_free));
    let own = guide.requirements.iter().position(|one| one.id == requirement.id).unwrap_or(0);
    if let Some(first) = first.filter(|first| *first < own || !is_free(requirement)) {
        let finding = inquiry.finding(first)?;
        if finding.verdict == Verdict::Unmet && finding.cause == Some(Cause::ReachOffline) {
            let message = "Not checked yet: this machine must be online first.";
            return Ok(Finding::blocked(vec![first], message));
        }
    }
    let message =
        "This machine is offline: nothing outside can be reached. What needs the network cannot be checked until it is online.";
    Ok(Finding::unmet(Cause::ReachOffline, message).found("offline"))
}

fn judge(wanted: &Reach, address: &str, fetched: &Fetched) -> Finding {
    let unmet = |cause: Cause, found: &str, message: String| Finding::unmet(cause, message).found(found);
    match fetched {
        Fetched::Answer(status, _) if status_fits(wanted.status, *status) => {
            Finding::met(format!("status {status}"), format!("{address} can be reached."))
        }
        Fetched::Answer(status, _) => {
            let should = wanted.status.map(|status| format!(", and {status} is expected")).unwrap_or_default();
            unmet(Cause::ReachStatus, &format!("status {status}"), format!("{address} answers with the status {status}{should}."))
        }
        Fetched::NotHttp => {
            unmet(Cause::ReachStatus, "not HTTP", format!("Something answers at {address}, but it does not speak HTTP."))
        }
        Fetched::Insecure(reason) => {
            unmet(Cause::ReachTls, "not secure", format!("The connection to {address} cannot be made secure: {reason}."))
        }
        Fetched::Proxy(reason) => {
            unmet(Cause::ReachProxy, "stopped by the proxy", format!("The proxy does not let {address} through: {reason}."))
        }
        Fetched::Failed(Connection::Refused) => {
            unmet(Cause::ReachRefused, "connection refused", format!("{address} refuses the connection."))
        }
        Fetched::Failed(Connection::NoName) => {
            unmet(Cause::ReachNoName, "unknown name", format!("The host name in {address} cannot be looked up."))
        }
        Fetched::Failed(Connection::NoWay(reason)) => {
            unmet(Cause::ReachNoAnswer, "cannot be reached", format!("{address} cannot be reached from here: {reason}."))
        }
        Fetched::Failed(Connection::NoAnswer | Connection::Taken) => {
            unmet(Cause::ReachNoAnswer, "no answer", format!("{address} does not answer in time."))
        }
    }
}
