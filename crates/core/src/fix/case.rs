//! One requirement on one machine, as the fixes of all families see it.

use super::{Circumstances, Fix, Part, Whole, quote};
use crate::guide::{Edit, Requirement, SetBy, Then};
use crate::manager::Manager;
use crate::observation::Os;
use crate::prelude::*;
use crate::text::join_words;
use crate::version::Range;

/// One requirement on one machine.
pub(crate) struct Case<'a> {
    pub(crate) requirement: &'a Requirement,
    pub(crate) here: &'a Circumstances<'a>,
    /// Why no package was offered, a sentence each.
    pub(crate) refused: &'a [String],
    /// Whether the file that it is about is the person's own.
    pub(crate) own: Option<bool>,
    /// What else was seen that matters for choosing.
    pub(crate) seen: Seen<'a>,
}

/// What was seen beside the reason itself, where it matters for choosing a fix.
#[derive(Debug, Clone, Copy, Default)]
#[allow(clippy::struct_excessive_bools, reason = "each is seen or not, apart from the others")]
pub(crate) struct Seen<'a> {
    /// The groups that the account database gives the person.
    pub(crate) joined: &'a [String],
    /// The start-up file that sets the variable.
    pub(crate) startup: Option<&'a str>,
    /// The line of that start-up file.
    pub(crate) startup_line: Option<usize>,
    /// The line of its file where the variable's value stands.
    pub(crate) line: Option<usize>,
    /// The example of the file that is missing.
    pub(crate) example: Option<&'a str>,
    /// Putting the folder of the copy that would do first would change which copy of another tool of the guide is found.
    pub(crate) disturbs: bool,
    /// The file of the project that sets the value is there and not this user's to change, or the environment goes before it.
    pub(crate) closed: bool,
    /// What moves the value that the requirement is about.
    pub(crate) moves: Option<&'a SetBy>,
    /// The interpreter is that of an environment of its own.
    pub(crate) environment: bool,
    /// Tracked files of the working copy have changes that are not committed.
    pub(crate) dirty: bool,
}

impl Case<'_> {
    pub(crate) fn title(&self) -> String {
        self.requirement.title()
    }

    pub(crate) fn quoted(&self, text: &str) -> String {
        quote(text, self.here.shell)
    }

    pub(crate) fn install(&self, range: Option<&Range>) -> Fix {
        let docs = self.requirement.docs.as_ref().map(|docs| format!(" How: {docs}")).unwrap_or_default();
        let named = self.requirement.subject.packages();
        let why = if !self.refused.is_empty() {
            format!(" {}", self.refused.join(" "))
        } else if named.is_empty() || self.here.managers.is_empty() {
            String::new()
        } else {
            let managers: Vec<&str> = self.here.managers.iter().copied().map(Manager::word).collect();
            format!(" The guide names no package of it for {}.", join_words(&managers, "or"))
        };
        Fix::say(format!("Install {}{}.{why}{docs}", self.title(), in_a_version(range)))
    }

    /// Setting the value that the requirement is about to another, where the guide says that it may be moved.
    pub(crate) fn moved(&self, say: String, to: &str) -> Fix {
        let Some(by) = self.seen.moves else { return Fix::say(say) };
        let mut fix = Fix::say(say);
        match (&by.variable, &by.env_file, &by.entry) {
            (Some(name), Some(file), _) => fix.edit = Some(Edit::append(file.as_str(), format!("{name}={to}"))),
            (_, _, Some((file, key))) => fix.say = format!("{} Set {key} to {to} in {file}.", fix.say),
            (Some(name), None, None) => return self.in_startup_file(fix, self.here.shell.set_for_good(name, to)),
            (None, _, None) => {}
        }
        fix
    }

    pub(crate) fn unix(&self) -> bool {
        matches!(self.here.os, Some(Os::Linux | Os::Macos))
    }

    /// A step for whoever has admin rights.
    pub(crate) fn admin_step(&self, say: impl Into<String>, commands: &[&str]) -> Fix {
        let mut fix = Fix::say(say).run(commands.iter().map(|command| self.here.as_admin(command)).collect());
        fix.admin = true;
        fix.caution = self.here.admin_caution();
        fix
    }

    /// A line that must stand in the startup file of the person's shell, or be typed where there is none.
    pub(crate) fn in_startup_file(&self, mut fix: Fix, line: String) -> Fix {
        match self.here.startup_file() {
            Some(file) => fix.edit = Some(Edit::append(file, line)),
            None => fix.run = vec![line],
        }
        // These read it at a sign-in, and in no other terminal.
        let only_at_sign_in = self.here.startup_file() == Some("~/.profile") && self.unix();
        fix.then(if only_at_sign_in { Then::SignIn } else { Then::NewShell })
    }

    /// Joining a group. Whoever the person is must be known for the command.
    pub(crate) fn join_group(&self, group: &str) -> Fix {
        let say = format!("Become a member of the group {group}.");
        let Some(user) = self.here.user() else {
            let mut fix = Fix::say(say).then(Then::SignIn);
            fix.admin = true;
            return fix;
        };
        let (name, person) = (self.quoted(group), self.quoted(user));
        let (before, after) = match self.here.os {
            Some(Os::Macos) => (format!("dseditgroup -o edit -a {person} -t user "), String::new()),
            Some(Os::Windows) => ("net localgroup ".to_owned(), format!(" {person} /add")),
            Some(Os::Linux) | None => ("usermod -aG ".to_owned(), format!(" {person}")),
        };
        let mut fix = self.admin_step(say, &[&format!("{before}{name}{after}")]).then(Then::SignIn);
        // Elsewhere one command takes one group.
        if matches!(self.here.os, Some(Os::Linux) | None) {
            let before = self.here.as_admin(&before);
            fix.part = Some(Part { of: Whole::Groups, before, name, after, title: group.to_owned() });
        }
        if let Some(price) = price_of(group) {
            fix.warn(price);
        }
        fix
    }
}

/// Which versions would do, as the end of "Install cmake".
pub(crate) fn in_a_version(range: Option<&Range>) -> String {
    range.map(|range| format!(" in a version that is {range}")).unwrap_or_default()
}

/// Signing in anew is all that is left to do.
pub(crate) fn sign_in() -> Fix {
    Fix::say("Nothing has to be changed any more: sign out completely and in again.").then(Then::SignIn)
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
