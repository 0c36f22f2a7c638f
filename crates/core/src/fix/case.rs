use super::{Bench, Fix, Part, Whole, quote};
use crate::finding::Finding;
use crate::guide::{Requirement, Then};
use crate::observation::Os;
use crate::prelude::*;
use crate::text::join_words;

/// One finding on one machine.
pub(super) struct Case<'a> {
    pub(super) requirement: &'a Requirement,
    pub(super) finding: &'a Finding,
    pub(super) bench: &'a Bench<'a>,
    /// Why no package was offered, a sentence each.
    pub(super) refused: &'a [String],
    /// Whether the file that it is about is the person's own.
    pub(super) own: Option<bool>,
}

impl Case<'_> {
    pub(super) fn title(&self) -> String {
        self.requirement.title()
    }

    pub(super) fn path(&self) -> &str {
        self.finding.particulars.path.as_deref().unwrap_or("the place that is named")
    }

    pub(super) fn quoted(&self, text: &str) -> String {
        quote(text, self.bench.shell)
    }

    pub(super) fn wanted(&self) -> String {
        match self.finding.wanted.as_deref() {
            None | Some("any version") => String::new(),
            Some(range) => format!(" in a version that is {range}"),
        }
    }

    pub(super) fn install(&self) -> Fix {
        let docs = self.requirement.docs.as_ref().map(|docs| format!(" How: {docs}")).unwrap_or_default();
        let named = self.requirement.subject.packages();
        let why = if !self.refused.is_empty() {
            format!(" {}", self.refused.join(" "))
        } else if named.is_empty() || self.bench.managers.is_empty() {
            String::new()
        } else {
            format!(" The guide names no package of it for {}.", join_words(self.bench.managers, "or"))
        };
        Fix::say(format!("Install {}{}.{why}{docs}", self.title(), self.wanted()))
    }

    pub(super) fn unix(&self) -> bool {
        matches!(self.bench.os, Some(Os::Linux | Os::Macos))
    }

    /// A step for whoever has admin rights.
    pub(super) fn admin_step(&self, say: impl Into<String>, commands: &[&str]) -> Fix {
        let mut fix = Fix::say(say);
        fix.run = commands.iter().map(|command| self.bench.as_admin(command)).collect();
        fix.admin = true;
        fix.caution = self.bench.admin_caution();
        fix
    }

    #[allow(clippy::unused_self, reason = "it stands with the other steps")]
    pub(super) fn sign_in(&self) -> Fix {
        let mut fix = Fix::say("Nothing has to be changed any more: sign out completely and in again.");
        fix.then = Some(Then::SignIn);
        fix
    }

    pub(super) fn join_group(&self) -> Fix {
        let group = self.finding.particulars.group.as_deref().unwrap_or("kvm");
        let user = self.bench.account.and_then(|account| account.name.as_deref()).unwrap_or("YOUR-NAME");
        let mut fix = Fix::say(format!("Become a member of the group {group}."));
        let (name, person) = (self.quoted(group), self.quoted(user));
        let (before, after) = match self.bench.os {
            Some(Os::Macos) => (format!("dseditgroup -o edit -a {person} -t user "), String::new()),
            Some(Os::Windows) => ("net localgroup ".to_owned(), format!(" {person} /add")),
            Some(Os::Linux) | None => ("usermod -aG ".to_owned(), format!(" {person}")),
        };
        let before = self.bench.as_admin(&before);
        fix.run = vec![format!("{before}{name}{after}")];
        // Elsewhere one command takes one group.
        if matches!(self.bench.os, Some(Os::Linux) | None) {
            fix.part = Some(Part { of: Whole::Groups, before, name, after, title: group.to_owned() });
        }
        fix.admin = true;
        fix.then = Some(Then::SignIn);
        fix.caution = self.bench.admin_caution();
        if let Some(price) = price_of(group) {
            fix.warn(price);
        }
        fix
    }
}

/// What membership in a group costs in security, where it is not known to be harmless.
fn price_of(group: &str) -> Option<&'static str> {
    match group {
        // Rights to devices and their like, as distributions describe them.
        "audio" | "video" | "render" | "input" | "kvm" | "dialout" | "uucp" | "plugdev" | "cdrom" | "floppy" | "tape" | "lp"
        | "scanner" | "netdev" | "bluetooth" | "users" | "games" | "lock" => None,
        "root" | "sudo" | "wheel" | "admin" | "Administrators" | "disk" | "kmem" | "shadow" => {
            Some("This group is as good as admin rights: whatever you start can then change everything on this machine.")
        }
        _ => Some(
            "Look at what the members of this group may do: where it may talk to a program that runs as administrator (a container \
             engine, for example), it is as good as admin rights.",
        ),
    }
}
