//! What settles groups, sockets, devices, services, addresses, names and networks.

use super::case::{Case, sign_in};
use super::effect::{Change, Effect};
use super::{Fix, Shell};
use crate::finding::{
    DeviceReason, DeviceTrouble, GroupReason, NameReason, ReachReason, ReachTrouble, RightsReason, ServiceReason, ServiceTrouble,
    SocketReason, SocketTrouble, StoppedService,
};
use crate::guide::{Hostname, Subject};
use crate::observation::{Os, SystemService};
use crate::prelude::*;
use crate::text::join_words;

pub(super) fn group(case: &Case<'_>, reason: GroupReason) -> Option<Fix> {
    let Subject::Group(group) = &case.requirement.subject else { return None };
    let name = &group.name;
    Some(match reason {
        GroupReason::UntilSignIn => sign_in().with_effect(Effect::one(Change::Joined(name.clone()))),
        GroupReason::NotMember => case.join_group(name).with_effect(Effect::one(Change::Joined(name.clone()))),
        GroupReason::Absent if case.here.os != Some(Os::Linux) => {
            Fix::say(format!("This system has no group {name}; ask the project what stands for it here."))
        }
        GroupReason::Absent => {
            let mut fix = case.join_group(name);
            fix.say = format!("Make the group {name}, and become a member of it.");
            // With a command of its own before, it cannot be one with others.
            fix.part = None;
            fix.run.insert(0, case.here.as_admin(&format!("groupadd {}", case.quoted(name))));
            fix.warn("Most groups come with a package or a driver: only make one by hand if the project says so.");
            fix.with_effect(Effect::one(Change::Joined(name.clone())))
        }
    })
}

pub(super) fn clock(case: &Case<'_>) -> Fix {
    match case.here.os {
        Some(Os::Linux) if case.here.inside_windows => {
            case.admin_step("Take the time over from Windows; it is lost when the machine sleeps.", &["hwclock -s"])
        }
        Some(Os::Linux) => case.admin_step("Have the system set its clock by the network.", &["timedatectl set-ntp true"]),
        Some(Os::Windows) => case.admin_step("Have the system set its clock by the network.", &["w32tm /resync"]),
        Some(Os::Macos) => Fix::say("Switch on \"Set time and date automatically\" in the system's settings."),
        None => Fix::say("Set the clock by the network."),
    }
}

pub(super) fn rights(reason: RightsReason) -> Option<Fix> {
    match reason {
        RightsReason::NotAdmin => {
            Some(Fix::say("Ask whoever looks after this machine for admin rights, or to do for you what needs them."))
        }
        RightsReason::NotRoot => Some(Fix::say("Do what needs this in a terminal of the administrator: sudo -s, or su.")),
        RightsReason::Unknown => None,
    }
}

pub(super) fn socket(case: &Case<'_>, reason: &SocketReason) -> Fix {
    let path = &reason.path;
    if let Some(service) = &reason.stopped {
        return start_service(case, service);
    }
    match &reason.trouble {
        SocketTrouble::DeniedUntilSignIn { .. } => sign_in(),
        SocketTrouble::Denied { group } => let_in(case, path, group.as_deref()),
        SocketTrouble::Missing if case.here.inside_windows => Fix::say(format!(
            "Start the program that makes {path} on the Windows side, and in its settings have it passed in to this Linux."
        )),
        SocketTrouble::Missing => {
            Fix::say(format!("Start the program that makes {path}; if it is not installed, install it first."))
        }
        SocketTrouble::NotASocket | SocketTrouble::Dead => Fix::say(format!(
            "Start the program behind {path} again. If it complains that the address is in use, delete {path} first."
        )),
    }
}

fn let_in(case: &Case<'_>, path: &str, group: Option<&str>) -> Fix {
    match group {
        Some(group) if group != "root" && case.here.os == Some(Os::Linux) => case.join_group(group),
        _ => Fix::say(format!("Ask whoever looks after this machine to let you use {path}.")),
    }
}

pub(super) fn device(case: &Case<'_>, reason: &DeviceReason) -> Fix {
    let path = &reason.path;
    match &reason.trouble {
        DeviceTrouble::Denied { until_sign_in: true, .. } => sign_in(),
        DeviceTrouble::Denied { group, .. } => let_in(case, path, group.as_deref()),
        DeviceTrouble::NotConnected { .. } => {
            let mut fix = Fix::say("Connect the device, with a cable that carries data. This lists what is connected now:");
            fix.run = if case.here.os == Some(Os::Linux) { vec!["lsusb".to_owned()] } else { Vec::new() };
            fix
        }
        DeviceTrouble::Missing | DeviceTrouble::Dead => {
            let serial = ["ttyUSB", "ttyACM"].iter().any(|name| path.contains(name));
            let mut fix = Fix::say(format!("Connect the device, with a cable that carries data, and look again for {path}."));
            if serial && case.here.os == Some(Os::Linux) {
                fix.say.push_str(" This lists the serial devices that are here now:");
                fix.run = vec!["ls -l /dev/serial/by-id".to_owned()];
            }
            fix
        }
    }
}

/// A service that is here is started by the system's own command (systemctl(1); the service commands of PowerShell, or `sc` and `net` in the
/// command prompt).
fn start_service(case: &Case<'_>, service: &StoppedService) -> Fix {
    let name = case.quoted(&service.name);
    let disabled = service.state == SystemService::Disabled;
    let say = match service.state {
        SystemService::Failed => format!("Start the service {} again. If it fails again, what it writes says why.", service.name),
        SystemService::Masked => format!("Let the service {} be started again (it is masked), and start it.", service.name),
        _ if disabled => format!("Allow the service {} to be started, and start it.", service.name),
        SystemService::Missing | SystemService::Running | SystemService::Stopped | SystemService::Disabled => {
            format!("Start the service {}.", service.name)
        }
    };
    let commands = match (case.here.os, case.here.shell) {
        (Some(Os::Windows), Shell::PowerShell) => {
            let allow = disabled.then(|| format!("Set-Service -Name {name} -StartupType Manual"));
            allow.into_iter().chain([format!("Start-Service -Name {name}")]).collect()
        }
        (Some(Os::Windows), _) => {
            let allow = disabled.then(|| format!("sc config {name} start= demand"));
            allow.into_iter().chain([format!("net start {name}")]).collect()
        }
        (Some(Os::Linux), _) if service.state == SystemService::Masked => {
            vec![format!("systemctl unmask {name}"), format!("systemctl restart {name}")]
        }
        (Some(Os::Linux), _) if disabled => vec![format!("systemctl enable --now {name}")],
        (Some(Os::Linux), _) => vec![format!("systemctl restart {name}")],
        (Some(Os::Macos) | None, _) => Vec::new(),
    };
    case.admin_step(say, &commands.iter().map(String::as_str).collect::<Vec<_>>())
}

pub(super) fn service(case: &Case<'_>, reason: &ServiceReason) -> Fix {
    if let Some(service) = &reason.stopped {
        return start_service(case, service);
    }
    Fix::say(match &reason.trouble {
        ServiceTrouble::NoName => return unknown_name(case),
        ServiceTrouble::Refused => "Start the service, then check again.",
        ServiceTrouble::OtherAddress { .. } => {
            "Have it listen at the address that this project uses (its settings name one), and start it again."
        }
        ServiceTrouble::NoAnswer | ServiceTrouble::NoWay { .. } => {
            "Look whether the service has stopped working: start it again, and read what it writes."
        }
        ServiceTrouble::OtherStatus { .. } | ServiceTrouble::OtherText { .. } => {
            "Look at what the service writes: it runs, and something in it is not as it should be."
        }
        ServiceTrouble::OtherProgram { .. } => {
            "Stop the program that has taken the port, or move it to another port; then start the service."
        }
    })
}

pub(super) fn reach(case: &Case<'_>, reason: &ReachReason) -> Fix {
    if let Some(address) = reason.system_proxy.as_ref().and_then(|proxy| proxy.address.as_deref()) {
        return tell_proxy(case, address);
    }
    let ask_network = "Correct the proxy in the variables https_proxy and http_proxy, or name this address in no_proxy; ask whoever looks \
                       after the network for the right values.";
    if reason.system_proxy.is_some() {
        return Fix::say(ask_network);
    }
    Fix::say(match &reason.trouble {
        ReachTrouble::Offline => "Connect this machine to the network, then check again.",
        ReachTrouble::NoNames => {
            "Disconnect from the network and connect again. If a phone in the same network opens web pages and this machine does not, the name \
             server that it asks is the fault: on Linux /etc/resolv.conf names it (a private network that was left on may have changed it); ask \
             whoever looks after the network for the right one."
        }
        ReachTrouble::NoName => {
            "Look whether other addresses can be opened in a browser. If they can, this one is wrong or for a network that you are not in; \
             if none can, connect to the network again."
        }
        ReachTrouble::Refused | ReachTrouble::NoAnswer | ReachTrouble::NoWay { .. } => {
            "Try it in a browser, and once more later. If it works elsewhere, something in this network is in the way: ask whoever looks \
             after it."
        }
        ReachTrouble::Insecure { .. } => {
            "Look whether this machine's clock is right. In a company's network, ask for its certificate and install it for the whole \
             system; do not switch the check off."
        }
        ReachTrouble::Proxy { .. } => ask_network,
        ReachTrouble::Status { .. } | ReachTrouble::NotHttp => {
            "Open the address in a browser: it may need an account, or may have moved."
        }
    })
}

/// The proxy of the system's settings, for programs in a terminal.
fn tell_proxy(case: &Case<'_>, address: &str) -> Fix {
    let shell = case.here.shell;
    let lines: Vec<String> = ["https_proxy", "http_proxy"].iter().map(|name| shell.set_for_good(name, address)).collect();
    let fix = Fix::say("Tell programs in a terminal about the proxy, too.");
    if case.here.startup_file().is_some() {
        return case.in_startup_file(fix, lines.join("; "));
    }
    fix.run(lines).then(crate::guide::Then::NewShell)
}

pub(super) fn name(case: &Case<'_>, reason: &NameReason) -> Fix {
    let Subject::Hostname(host) = &case.requirement.subject else {
        return match reason {
            NameReason::SubnetTaken { free: Some(free), .. } if case.seen.moves.is_some() => {
                let say = format!("Have the project use {free} instead, which is in no use here.");
                case.moved(say, free)
            }
            NameReason::SubnetTaken { networks, .. } => {
                let taken = join_words(&networks.iter().map(ToString::to_string).collect::<Vec<_>>(), "and");
                Fix::say(format!(
                    "Leave the network that takes these addresses ({taken}) while you work on this project, or have the project use other \
                     ones."
                ))
            }
            NameReason::Unknown | NameReason::Elsewhere { .. } => unknown_name(case),
        };
    };
    let Some(address) = &host.points_to else {
        return Fix::say(format!("Look whether you are in the network that knows the name {}.", host.name));
    };
    let fix = in_hosts_file(case, host, address, matches!(reason, NameReason::Elsewhere { .. }));
    // A name's answer may come from elsewhere than from that file, but not as the first.
    match address.parse() {
        Ok(address) if !fix.run.is_empty() => fix.with_effect(Effect::one(Change::Name(host.name.clone(), address))),
        _ => fix,
    }
}

fn in_hosts_file(case: &Case<'_>, host: &Hostname, address: &str, correct: bool) -> Fix {
    let windows = case.here.os == Some(Os::Windows);
    let file = if windows { "C:\\Windows\\System32\\drivers\\etc\\hosts" } else { "/etc/hosts" };
    let line = format!("{address} {}", host.name);
    // With a line end before it, whatever the file ends with.
    let add = || {
        let text = case.quoted(&format!("\\n{line}\\n"));
        format!("printf {text} | {}", case.here.as_admin(&format!("tee -a {file}")))
    };
    if correct && case.here.os == Some(Os::Linux) {
        let say = format!(
            "Make the lines of {file} that name {} comments, and add the right one; the file as it was is kept as {file}.old.",
            host.name
        );
        let name = host.name.replace('.', "\\.");
        let pattern = case.quoted(&format!("/[[:space:]]{name}\\([[:space:]]\\|$\\)/s/^/# /"));
        let comment = case.here.as_admin(&format!("sed -i.old {pattern} {file}"));
        return case.admin_step(say, &[]).run(vec![comment, add()]);
    }
    if correct {
        let say = format!("Correct the line with {} in {file}, with admin rights, so that it reads: {line}", host.name);
        return case.admin_step(say, &[]);
    }
    let say = format!("Give this machine the name {}: add a line to {file}.", host.name);
    if windows {
        return case.admin_step(say, &[&case.here.shell.append(&line, file)]);
    }
    case.admin_step(say, &[]).run(vec![add()])
}

fn unknown_name(case: &Case<'_>) -> Fix {
    let _ = case;
    Fix::say("Look whether the name is written rightly, and whether you are in the network that knows it.")
}
