//! What settles it.

use crate::finding::{ReachReason, ReachTrouble};
use crate::fix::Fix;
use crate::fix::case::Case;
use crate::fix::fills::Fills;
use crate::fix::kind::{ReasonFixes, SubjectFixes};
use crate::guide::{Reach, Requirement};
use crate::prelude::*;

pub(crate) fn fix(case: &Case<'_>, reason: &ReachReason) -> Fix {
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

impl ReasonFixes for ReachReason {
    fn fixes(&self, case: &Case<'_>) -> Vec<Fix> {
        vec![fix(case, self)]
    }

    fn fills(&self, _: &Requirement) -> Fills {
        let found = if let ReachTrouble::Status { status } = &self.trouble { Some(status.to_string()) } else { None };
        Fills { found, ..Fills::default() }
    }
}

impl SubjectFixes for Reach {}
