//! What settles groups, sockets, devices, services, addresses, names and networks.

#![allow(clippy::wildcard_enum_match_arm, reason = "built_in.rs names every cause; here are those that it sends")]

use super::case::Case;
use super::{Fix, Shell};
use crate::cause::Cause;
use crate::finding::StoppedService;
use crate::guide::{Edit, Subject, Then};
use crate::observation::{Os, SystemService};
use crate::prelude::*;

pub(super) fn fix(fault: &Case<'_>, cause: Cause) -> Fix {
    let path = fault.path();
    let finding = fault.finding;
    if let Some(service) = &finding.particulars.service {
        return start_service(fault, service);
    }
    match cause {
        Cause::GroupUntilSignIn | Cause::SocketDeniedUntilSignIn => fault.sign_in(),
        Cause::DeviceDenied if finding.particulars.passing => fault.sign_in(),
        Cause::GroupNotMember => fault.join_group(),
        Cause::SocketDenied | Cause::DeviceDenied => match finding.particulars.group.as_deref() {
            Some(group) if group != "root" && fault.bench.os == Some(Os::Linux) => fault.join_group(),
            _ => Fix::say(format!("Ask whoever looks after this machine to let you use {path}.")),
        },
        Cause::GroupAbsent => group_absent(fault),
        Cause::SocketMissing if fault.bench.inside_windows => Fix::say(format!(
            "Start the program that makes {path} on the Windows side, and in its settings have it passed in to this Linux."
        )),
        Cause::SocketMissing => {
            Fix::say(format!("Start the program that makes {path}; if it is not installed, install it first."))
        }
        Cause::SocketDead => Fix::say(format!(
            "Start the program behind {path} again. If it complains that the address is in use, delete {path} first."
        )),
        Cause::DeviceMissing => device_missing(fault),
        Cause::NameUnknown | Cause::NameElsewhere => name(fault, cause),
        Cause::ReachProxy if finding.particulars.path.is_some() => tell_proxy(fault),
        other => Fix::say(words(fault, other)),
    }
}

/// A service that is here is started by the system's own command (systemctl(1); the service commands of PowerShell, or `sc` and `net` in the
/// command prompt).
fn start_service(fault: &Case<'_>, service: &StoppedService) -> Fix {
    let name = fault.quoted(&service.name);
    let disabled = service.state == SystemService::Disabled;
    let say = match service.state {
        SystemService::Failed => format!("Start the service {} again. If it fails again, what it writes says why.", service.name),
        _ if disabled => format!("Allow the service {} to be started, and start it.", service.name),
        _ => format!("Start the service {}.", service.name),
    };
    let commands = match (fault.bench.os, fault.bench.shell) {
        (Some(Os::Windows), Shell::PowerShell) => {
            let allow = disabled.then(|| format!("Set-Service -Name {name} -StartupType Manual"));
            allow.into_iter().chain([format!("Start-Service -Name {name}")]).collect()
        }
        (Some(Os::Windows), _) => {
            let allow = disabled.then(|| format!("sc config {name} start= demand"));
            allow.into_iter().chain([format!("net start {name}")]).collect()
        }
        (Some(Os::Linux), _) if disabled => vec![format!("systemctl enable --now {name}")],
        (Some(Os::Linux), _) => vec![format!("systemctl restart {name}")],
        _ => Vec::new(),
    };
    fault.admin_step(say, &commands.iter().map(String::as_str).collect::<Vec<_>>())
}

/// The proxy of the system's settings, for programs in a terminal.
fn tell_proxy(fault: &Case<'_>) -> Fix {
    let shell = fault.bench.shell;
    let lines: Vec<String> = ["https_proxy", "http_proxy"].iter().map(|name| shell.set_for_good(name, fault.path())).collect();
    let mut fix = Fix::say("Tell programs in a terminal about the proxy, too.");
    match fault.bench.account.and_then(|account| account.startup_file.clone()) {
        Some(file) => fix.edit = Some(Edit { file, append: lines.join("; ") }),
        None => fix.run = lines,
    }
    fix.then = Some(Then::NewShell);
    fix
}

/// Where only words help.
fn words(fault: &Case<'_>, cause: Cause) -> String {
    let found = fault.finding.found.as_deref().unwrap_or("that network");
    match cause {
        Cause::ServiceRefused => "Start the service, then check again.".to_owned(),
        Cause::ServiceNoAnswer => "Look whether the service has stopped working: start it again, and read what it writes.".to_owned(),
        Cause::ServiceOtherAnswer => "Look at what the service writes: it runs, and something in it is not as it should be.".to_owned(),
        Cause::ServiceOtherHolder => {
            "Stop the program that has taken the port, or move it to another port; then start the service.".to_owned()
        }
        Cause::ReachOffline => "Connect this machine to the network, then check again.".to_owned(),
        Cause::ReachNoName => {
            "Look whether other addresses can be opened in a browser. If they can, this one is wrong or for a network that you are not in; \
             if none can, connect to the network again."
                .to_owned()
        }
        Cause::ReachRefused | Cause::ReachNoAnswer => {
            "Try it in a browser, and once more later. If it works elsewhere, something in this network is in the way: ask whoever looks \
             after it."
                .to_owned()
        }
        Cause::ReachTls => {
            "Look whether this machine's clock is right. In a company's network, ask for its certificate and install it for the whole \
             system; do not switch the check off."
                .to_owned()
        }
        Cause::ReachProxy => {
            "Correct the proxy in the variables https_proxy and http_proxy, or name this address in no_proxy; ask whoever looks after the \
             network for the right values."
                .to_owned()
        }
        Cause::ReachStatus => "Open the address in a browser: it may need an account, or may have moved.".to_owned(),
        Cause::SubnetTaken => format!(
            "Leave the network that takes these addresses ({found}) while you work on this project, or have the project use other ones."
        ),
        _ => format!("Look at {} yourself.", fault.title()),
    }
}

fn group_absent(fault: &Case<'_>) -> Fix {
    let group = fault.finding.particulars.group.as_deref().unwrap_or_default();
    if fault.bench.os != Some(Os::Linux) {
        return Fix::say(format!("This system has no group {group}; ask the project what stands for it here."));
    }
    let mut fix = fault.join_group();
    fix.say = format!("Make the group {group}, and become a member of it.");
    // With a command of its own before, it cannot be one with others.
    fix.part = None;
    fix.run.insert(0, fault.bench.as_admin(&format!("groupadd {}", fault.quoted(group))));
    let know = "Most groups come with a package or a driver: only make one by hand if the project says so.";
    fix.warn(know);
    fix
}

fn device_missing(fault: &Case<'_>) -> Fix {
    let path = fault.path();
    let serial = ["ttyUSB", "ttyACM"].iter().any(|name| path.contains(name));
    let mut fix = Fix::say(format!("Connect the device, with a cable that carries data, and look again for {path}."));
    if serial && fault.bench.os == Some(Os::Linux) {
        fix.say.push_str(" This lists the serial devices that are here now:");
        fix.run = vec!["ls -l /dev/serial/by-id".to_owned()];
    }
    fix
}

fn name(fault: &Case<'_>, cause: Cause) -> Fix {
    let Subject::Hostname(host) = &fault.requirement.subject else {
        return Fix::say("Look whether the name is written rightly, and whether you are in the network that knows it.");
    };
    let Some(address) = &host.points_to else {
        return Fix::say(format!("Look whether you are in the network that knows the name {}.", host.name));
    };
    let windows = fault.bench.os == Some(Os::Windows);
    let file = if windows { "C:\\Windows\\System32\\drivers\\etc\\hosts" } else { "/etc/hosts" };
    let line = format!("{address} {}", host.name);
    if cause == Cause::NameElsewhere {
        return Fix {
            admin: true,
            caution: fault.bench.admin_caution(),
            ..Fix::say(format!("Correct the line with {} in {file}, with admin rights, so that it reads: {line}", host.name))
        };
    }
    let say = format!("Give this machine the name {}: add a line to {file}.", host.name);
    if windows {
        return fault.admin_step(say, &[&fault.bench.shell.append(&line, file)]);
    }
    let mut fix = fault.admin_step(say, &[]);
    fix.run = vec![format!("echo {} | {}", fault.quoted(&line), fault.bench.as_admin(&format!("tee -a {file}")))];
    fix
}
