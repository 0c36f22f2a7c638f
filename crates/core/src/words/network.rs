//! What is said of groups, sockets, devices, services, addresses, names and networks.

use super::Words;
use crate::finding::{
    ClockReason, DeviceReason, DeviceTrouble, GroupReason, Met, NameReason, ReachReason, ReachTrouble, RightsReason,
    ServiceReason, ServiceTrouble, SocketReason, SocketTrouble, StoppedService,
};
use crate::guide::{Access, Reach, Service, Subject};
use crate::observation::{SystemProxy, SystemService};
use crate::prelude::*;
use crate::text::join_words;
use core::net::IpAddr;

pub(super) fn addresses(addresses: &[IpAddr]) -> String {
    join_words(&addresses.iter().map(ToString::to_string).collect::<Vec<_>>(), "and")
}

fn verb(access: Access) -> &'static str {
    match access {
        Access::Write => "read and write",
        Access::Read => "read",
    }
}

pub(super) fn met(words: &Words<'_>, met: &Met) -> String {
    match (&words.requirement.subject, met) {
        (Subject::Group(group), Met::GroupNotNeeded) => {
            format!("You are the administrator, who needs no group {}.", group.name)
        }
        (Subject::Group(group), _) => format!("You are in the group {}.", group.name),
        (Subject::Socket(socket), _) => format!("A program answers at {}.", socket.path),
        (Subject::Device(device), Met::DeviceBusy) => format!("{} is there; another program is using it now.", device.path),
        (Subject::Device(device), _) => format!("You may {} {}.", verb(device.access), device.path),
        (_, Met::ServiceAnswers { url, .. }) => format!("{url} answers as it should."),
        (Subject::Service(service), _) => format!("{}:{} takes connections.", service.host, service.port),
        (_, Met::Reached { address, .. }) => format!("{address} can be reached."),
        (Subject::Hostname(host), Met::NameLeads { addresses }) => {
            format!("{} leads to {}.", host.name, self::addresses(addresses))
        }
        (Subject::Subnet(subnet), _) => {
            format!("This machine is on no network that overlaps {}/{}.", subnet.address, subnet.prefix)
        }
        _ => words.title(),
    }
}

pub(super) fn group(words: &Words<'_>, reason: GroupReason) -> String {
    let name = if let Subject::Group(group) = &words.requirement.subject { group.name.as_str() } else { "" };
    match reason {
        GroupReason::UntilSignIn => {
            format!("You were added to the group {name}, but this session began before that: it counts from your next sign-in.")
        }
        GroupReason::NotMember => format!("You are not a member of the group {name}."),
        GroupReason::Absent => format!("This machine has no group {name}."),
    }
}

pub(super) fn group_found(reason: GroupReason) -> &'static str {
    match reason {
        GroupReason::UntilSignIn => "from your next sign-in",
        GroupReason::NotMember => "not a member",
        GroupReason::Absent => "no such group",
    }
}

fn only_for(group: Option<&str>) -> String {
    group.filter(|group| *group != "root").map(|group| format!(": it is for the group {group}")).unwrap_or_default()
}

fn with_stopped(text: String, stopped: Option<&StoppedService>) -> String {
    let Some(service) = stopped else { return text };
    let how = match service.state {
        SystemService::Disabled => "but it is stopped and disabled",
        SystemService::Masked => "but it is masked: somebody has seen to it that nothing can start it",
        SystemService::Failed => "but it has failed",
        SystemService::Stopped | SystemService::Missing | SystemService::Running => "but it is stopped",
    };
    format!("{text} The service {} is installed here, {how}.", service.name)
}

pub(super) fn socket(reason: &SocketReason) -> String {
    let path = &reason.path;
    let text = match &reason.trouble {
        SocketTrouble::Missing => format!("{path} is not there: the program that makes it is not running."),
        SocketTrouble::NotASocket => format!("{path} is there, but it is not a socket: no program listens there."),
        SocketTrouble::Dead => format!("{path} is there, but no program answers behind it any more."),
        SocketTrouble::DeniedUntilSignIn { .. } => {
            format!("You were added to the group that may use {path}, but this session began before that.")
        }
        SocketTrouble::Denied { group } => format!("{path} is there, but you may not use it{}.", only_for(group.as_deref())),
    };
    with_stopped(text, reason.stopped.as_ref())
}

pub(super) fn socket_found(reason: &SocketReason) -> &'static str {
    match &reason.trouble {
        SocketTrouble::Missing => "not there",
        SocketTrouble::NotASocket => "not a socket",
        SocketTrouble::Dead => "nobody answers",
        SocketTrouble::DeniedUntilSignIn { .. } => "denied until you sign in again",
        SocketTrouble::Denied { .. } => "permission denied",
    }
}

/// How far a clock is off, in words.
fn off(ahead_ms: i64) -> String {
    let seconds = ahead_ms.unsigned_abs() / 1_000;
    let (amount, unit) = match seconds {
        0..120 => (seconds, "second"),
        120..7_200 => (seconds / 60, "minute"),
        7_200..172_800 => (seconds / 3_600, "hour"),
        _ => (seconds / 86_400, "day"),
    };
    let several = if amount == 1 { "" } else { "s" };
    format!("{amount} {unit}{several} {}", if ahead_ms < 0 { "slow" } else { "fast" })
}

pub(super) fn clock(reason: ClockReason) -> String {
    format!("This machine's clock is {}.", off(reason.ahead_ms))
}

pub(super) fn clock_found(reason: ClockReason) -> String {
    off(reason.ahead_ms)
}

pub(super) fn rights(reason: RightsReason) -> &'static str {
    match reason {
        RightsReason::NotAdmin => "You cannot act as administrator of this machine.",
        RightsReason::NotRoot => "You are not working as the administrator now; you can become it.",
        RightsReason::Unknown => "Whether you can act as administrator could not be found out.",
    }
}

pub(super) fn device(reason: &DeviceReason) -> String {
    let path = &reason.path;
    match &reason.trouble {
        DeviceTrouble::Missing => format!("{path} is not there: the device is not connected, or has another name."),
        DeviceTrouble::NotConnected { usb } => {
            format!("No device is connected by USB that says it is {usb} (vendor and product).")
        }
        DeviceTrouble::Dead => format!("{path} is there, but no device answers behind it: its driver is not loaded."),
        DeviceTrouble::Denied { group, until_sign_in } => {
            let soon = if *until_sign_in { " You were added to that group, but this session began before that." } else { "" };
            format!("{path} is there, but you may not {} it{}.{soon}", verb(reason.access), only_for(group.as_deref()))
        }
    }
}

pub(super) fn device_found(reason: &DeviceReason) -> &'static str {
    match &reason.trouble {
        DeviceTrouble::Missing => "not there",
        DeviceTrouble::NotConnected { .. } => "not connected",
        DeviceTrouble::Dead => "no device behind it",
        DeviceTrouble::Denied { .. } => "permission denied",
    }
}

pub(super) fn service(words: &Words<'_>, reason: &ServiceReason) -> String {
    let place = &reason.place;
    let wanted = if let Subject::Service(service) = &words.requirement.subject { Some(service) } else { None };
    let text = match &reason.trouble {
        ServiceTrouble::Refused => format!("Nothing listens at {place}: the service is not running."),
        ServiceTrouble::OtherAddress { holder } => {
            let port = reason.port;
            format!(
                "Nothing listens at {place}, but port {port} is held by {holder}: it listens at another address of this machine only."
            )
        }
        ServiceTrouble::NoAnswer => format!("{place} does not answer in time."),
        ServiceTrouble::NoWay { reason } => format!("{place} cannot be reached from here: {reason}."),
        ServiceTrouble::NoName => format!("The name in {place} does not lead anywhere on this machine."),
        ServiceTrouble::OtherStatus { url, status } => other_status(url, *status, wanted.and_then(|service| service.status)),
        ServiceTrouble::OtherText { url } => {
            format!("{url} answers, but not with what is expected: {}", words.form())
        }
        ServiceTrouble::OtherProgram { holder } => {
            let who = holder.as_ref().map_or_else(|| "Another program".to_owned(), ToString::to_string);
            format!("{who} answers at {place}, and it does not speak HTTP: it is not the service that is expected there.")
        }
    };
    with_stopped(text, reason.stopped.as_ref())
}

fn other_status(address: &str, status: u16, wanted: Option<u16>) -> String {
    let should = wanted.map(|status| format!(", and {status} is expected")).unwrap_or_default();
    format!("{address} answers with the status {status}{should}.")
}

pub(super) fn service_found(reason: &ServiceReason) -> String {
    match &reason.trouble {
        ServiceTrouble::Refused => "connection refused".to_owned(),
        ServiceTrouble::OtherAddress { .. } => "another address".to_owned(),
        ServiceTrouble::NoAnswer => "no answer".to_owned(),
        ServiceTrouble::NoWay { .. } => "cannot be reached".to_owned(),
        ServiceTrouble::NoName => "unknown name".to_owned(),
        ServiceTrouble::OtherStatus { status, .. } => format!("status {status}"),
        ServiceTrouble::OtherText { .. } => "another text".to_owned(),
        ServiceTrouble::OtherProgram { .. } => "another program".to_owned(),
    }
}

pub(super) fn service_wanted(service: &Service) -> String {
    match (service.status, &service.http) {
        (Some(status), _) => format!("status {status}"),
        (None, Some(_)) => "answers by HTTP".to_owned(),
        (None, None) => "takes connections".to_owned(),
    }
}

pub(super) fn reach(words: &Words<'_>, reason: &ReachReason) -> String {
    let address = &reason.address;
    let wanted = if let Subject::Reach(reach) = &words.requirement.subject { reach.status } else { None };
    let text = match &reason.trouble {
        ReachTrouble::Offline => {
            "This machine is offline: nothing outside can be reached. What needs the network cannot be checked until it is online."
                .to_owned()
        }
        ReachTrouble::NoNames => {
            "No host name can be looked up on this machine, although it is connected to a network: either that network leads nowhere, or its \
             name service (DNS) does not work. What needs the network cannot be checked until it does."
                .to_owned()
        }
        ReachTrouble::NoName => format!("The host name in {address} cannot be looked up."),
        ReachTrouble::Refused => format!("{address} refuses the connection."),
        ReachTrouble::NoAnswer => format!("{address} does not answer in time."),
        ReachTrouble::NoWay { reason } => format!("{address} cannot be reached from here: {reason}."),
        ReachTrouble::Insecure { reason } => format!("The connection to {address} cannot be made secure: {reason}."),
        ReachTrouble::Proxy { reason } => format!("The proxy does not let {address} through: {reason}."),
        ReachTrouble::Status { status } => other_status(address, *status, wanted),
        ReachTrouble::NotHttp => format!("Something answers at {address}, but it does not speak HTTP."),
    };
    match &reason.system_proxy {
        // Browsers know the proxy of the system's settings, programs in a terminal do not: that is why one works and the other does not.
        Some(SystemProxy { address: Some(proxy), .. }) => format!(
            "{text} This system's settings name the proxy {proxy}, which browsers use; programs in this terminal do not know it."
        ),
        Some(SystemProxy { address: None, .. }) => format!(
            "{text} This system's settings leave it to a script to choose a proxy. Browsers can run it, and programs in a terminal cannot."
        ),
        None => text,
    }
}

pub(super) fn reach_found(reason: &ReachReason) -> String {
    if reason.system_proxy.is_some() {
        return "the proxy is not known here".to_owned();
    }
    match &reason.trouble {
        ReachTrouble::Offline => "offline".to_owned(),
        ReachTrouble::NoNames => "no names are looked up".to_owned(),
        ReachTrouble::NoName => "unknown name".to_owned(),
        ReachTrouble::Refused => "connection refused".to_owned(),
        ReachTrouble::NoAnswer => "no answer".to_owned(),
        ReachTrouble::NoWay { .. } => "cannot be reached".to_owned(),
        ReachTrouble::Insecure { .. } => "not secure".to_owned(),
        ReachTrouble::Proxy { .. } => "stopped by the proxy".to_owned(),
        ReachTrouble::Status { status } => format!("status {status}"),
        ReachTrouble::NotHttp => "not HTTP".to_owned(),
    }
}

pub(super) fn reach_wanted(reach: &Reach) -> String {
    reach.status.map_or_else(|| "can be reached".to_owned(), |status| format!("status {status}"))
}

pub(super) fn name(words: &Words<'_>, reason: &NameReason) -> String {
    match (&words.requirement.subject, reason) {
        (Subject::Subnet(subnet), NameReason::SubnetTaken { networks, .. }) => {
            let taken = join_words(&networks.iter().map(ToString::to_string).collect::<Vec<_>>(), "and");
            format!(
                "This machine is on {taken}, which overlaps {}/{}: addresses there would be ambiguous.",
                subnet.address, subnet.prefix
            )
        }
        (Subject::Hostname(host), NameReason::Elsewhere { addresses }) => {
            let should = host.points_to.as_deref().unwrap_or_default();
            format!("The name {} leads to {}, and it should lead to {should}.", host.name, self::addresses(addresses))
        }
        (Subject::Hostname(host), _) => format!("The name {} does not lead anywhere on this machine.", host.name),
        _ => words.title(),
    }
}

pub(super) fn name_found(reason: &NameReason) -> String {
    match reason {
        NameReason::Unknown => "unknown".to_owned(),
        NameReason::Elsewhere { addresses } => self::addresses(addresses),
        NameReason::SubnetTaken { networks, .. } => {
            join_words(&networks.iter().map(ToString::to_string).collect::<Vec<_>>(), "and")
        }
    }
}
