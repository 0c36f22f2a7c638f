use super::{
    Binding, DeviceState, DiskLimit, DiskRoom, Holder, Hypervisor, InstalledState, Leads, Observation, Os, Processor, Run,
    RunEnd, SettingNumber, SettingText, Surroundings, System,
};
use crate::prelude::*;
use crate::text::Size;
use core::fmt::{self, Display};

/// What was seen, as evidence shows it, on one line or a few.
#[allow(clippy::too_many_lines, reason = "one row per question, so that none can be forgotten")]
impl Display for Observation {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Self::System(system) => write!(f, "{system}"),
            Self::Surroundings(where_) => write!(f, "{where_}"),
            Self::Account(account) => {
                let groups = if account.groups.is_empty() { "none".to_owned() } else { account.groups.join(", ") };
                write!(f, "groups: {groups}")
            }
            Self::DatabaseGroups(words) | Self::Locales(words) if words.is_empty() => f.write_str("none"),
            Self::DatabaseGroups(words) | Self::Locales(words) => f.write_str(&words.join(", ")),
            Self::Managers(managers) if managers.is_empty() => f.write_str("none"),
            Self::Managers(managers) => {
                f.write_str(&managers.iter().map(|manager| manager.word()).collect::<Vec<_>>().join(", "))
            }
            Self::Program(copies) | Self::ProgramElsewhere(copies) if copies.is_empty() => f.write_str("none"),
            Self::Program(copies) | Self::ProgramElsewhere(copies) => {
                let paths: Vec<&str> = copies.iter().map(|copy| copy.path.as_str()).collect();
                f.write_str(&paths.join(", "))
            }
            Self::Run(run) => write!(f, "{run}"),
            Self::RecordedVersion(None) => f.write_str("nothing that is certain"),
            Self::RecordedVersion(Some(recorded)) => write!(f, "{}, read from {}", recorded.version, recorded.file),
            Self::FileVersion(None) => f.write_str("it states none"),
            Self::FileVersion(Some(version)) => f.write_str(version),
            Self::PortBinding(binding) => f.write_str(match binding {
                Binding::Free => "free",
                Binding::Held => "in use",
                Binding::Denied(_) => "permission denied",
                Binding::Reserved => "reserved by the system",
                Binding::NoAddress => "no such address on this machine",
            }),
            Self::PortHolder(None) => f.write_str("the system does not tell"),
            Self::PortHolder(Some(holder)) => write!(f, "{holder}"),
            Self::FreePort(None) => f.write_str("none found"),
            Self::FreePort(Some(port)) => write!(f, "{port}"),
            Self::SettingText(SettingText::Text(text, place)) => write!(f, "{text}, set in {place}"),
            Self::SettingText(SettingText::Other(place)) => write!(f, "something of another kind, set in {place}"),
            Self::SettingText(SettingText::Unset) | Self::SettingNumber(SettingNumber::Unset) | Self::Leads(Leads::Unset) => {
                f.write_str("not set")
            }
            Self::SettingNumber(SettingNumber::Number(number, place)) => write!(f, "{number}, set in {place}"),
            Self::SettingNumber(SettingNumber::NotANumber(place)) => write!(f, "not a number, set in {place}"),
            Self::DiskRoom(room) => write!(f, "{room}"),
            Self::Memory(memory) => {
                let caps = memory.caps.iter().map(|cap| (cap.by.as_str(), Size(cap.bytes).to_string()));
                write_caps(f, &Size(memory.total).to_string(), caps)
            }
            Self::Cores(cores) => {
                let caps = cores.caps.iter().map(|cap| (cap.by.as_str(), cores_text(cap.hundredths)));
                write_caps(f, &format!("{} online", cores.online), caps)
            }
            Self::Processor(processor) => write!(f, "{processor}"),
            Self::Hypervisor(hypervisor) => write!(f, "{hypervisor}"),
            Self::Device(device) => write!(f, "{device}"),
            Self::Installed(InstalledState::Here { version, at }) => {
                let version = version.as_deref().unwrap_or("there");
                write!(f, "{version}, at {at}")
            }
            Self::Installed(InstalledState::Absent { lacks: Some(part) }) => write!(f, "there without {part}"),
            Self::Installed(InstalledState::Absent { lacks: None }) => f.write_str("not installed"),
            Self::Leads(Leads::There) => f.write_str("it does"),
            Self::Leads(Leads::Elsewhere(kit)) => write!(f, "it leads elsewhere than to {kit}"),
            Self::ClockBeside(Some(ahead)) => write!(f, "{} s ahead", ahead / 1_000),
            Self::ClockBeside(None) => f.write_str("it says no time"),
            Self::Usb(true) => f.write_str("connected"),
            Self::Usb(false) => f.write_str("not connected"),
            Self::Module(true) => f.write_str("loaded"),
            Self::Module(false) => f.write_str("not loaded"),
            Self::Path(state) => write!(f, "{state}"),
            Self::Within(None) => f.write_str("all of it yours to change, as far as was looked"),
            Self::Within(Some(barrier)) => {
                write!(f, "{} belongs to {}", barrier.path, barrier.owner.as_deref().unwrap_or("another user"))
            }
            Self::Variable(state) => write!(f, "{state}"),
            Self::StartupLine(true) => f.write_str("it has it"),
            Self::StartupLine(false) => f.write_str("it does not have it"),
            Self::Group(true) => f.write_str("there"),
            Self::Group(false) => f.write_str("no such group"),
            Self::Socket(state) => write!(f, "{state}"),
            Self::Connection(connection) => write!(f, "{connection}"),
            Self::Fetched(fetched) => write!(f, "{fetched}"),
            Self::SystemProxy(proxy) => write!(f, "{proxy}"),
            Self::SystemService(service) => write!(f, "{service}"),
            Self::Online(true) => f.write_str("a way out is there"),
            Self::Online(false) => f.write_str("no way out"),
            Self::Addresses(addresses) if addresses.is_empty() => f.write_str("no address"),
            Self::Addresses(addresses) => f.write_str(&addresses.iter().map(ToString::to_string).collect::<Vec<_>>().join(", ")),
            Self::Networks(networks) => {
                let words: Vec<String> = networks.iter().map(ToString::to_string).collect();
                f.write_str(&if words.is_empty() { "none".to_owned() } else { words.join(", ") })
            }
            Self::Limit(limit) => write!(f, "{limit}"),
            Self::Library(library) => write!(f, "{library}"),
            Self::Setting(value) => f.write_str(value.words()),
            Self::Checkout(state) => write!(f, "{state}"),
            Self::Candidate(candidate) => write!(f, "{candidate}"),
            Self::PackageOf(Some((manager, name))) => write!(f, "{name} of {}", manager.word()),
            Self::Provider(Some(name)) => f.write_str(name),
            Self::Provider(None) | Self::PackageOf(None) => f.write_str("none"),
            Self::ManagerState(state) => write!(f, "{state}"),
            Self::Pinned(pinned) => write!(f, "{pinned}"),
            Self::CouldNotLook(reason) => write!(f, "could not look: {reason}"),
            Self::NotSupported(reason) => write!(f, "cannot be looked at here: {reason}"),
        }
    }
}

/// Hundredths of a core, for a sentence: `1.5`.
pub fn cores_text(hundredths: u64) -> String {
    match (hundredths / 100, hundredths % 100) {
        (whole, 0) => whole.to_string(),
        (whole, part) if part % 10 == 0 => format!("{whole}.{}", part / 10),
        (whole, part) => format!("{whole}.{part:02}"),
    }
}

fn write_caps<'c>(f: &mut fmt::Formatter<'_>, total: &str, mut caps: impl Iterator<Item = (&'c str, String)>) -> fmt::Result {
    f.write_str(total)?;
    caps.try_for_each(|(by, allowed)| write!(f, "; {by} allows {allowed}"))
}

impl Display for System {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let name = self.os.name();
        // What a system calls itself, else by its distribution.
        let distro = || {
            let version = self.distro_version.as_deref().map(|version| format!(" {version}")).unwrap_or_default();
            Some(format!("{}{version}", self.distro.as_deref()?))
        };
        match (&self.pretty.clone().or_else(distro), &self.version) {
            // The version of such a system is its own, not a kernel's.
            (Some(pretty), Some(version)) if pretty.contains(version.as_str()) => f.write_str(pretty)?,
            (Some(pretty), Some(version)) if self.os != Os::Linux => write!(f, "{pretty} ({version})")?,
            (Some(pretty), Some(version)) => write!(f, "{pretty}, {name} {version}")?,
            (Some(pretty), None) => f.write_str(pretty)?,
            (None, Some(version)) => write!(f, "{name} {version}")?,
            (None, None) => f.write_str(name)?,
        }
        write!(f, ", {}", self.arch)
    }
}

impl Surroundings {
    /// What it is, in words; empty for an ordinary machine.
    pub fn words(&self) -> Vec<&'static str> {
        let guest = if self.outside == Some(true) {
            "a Linux inside Windows (with the project's files on the Windows side, where they are slow and keep no permissions)"
        } else {
            "a Linux inside Windows"
        };
        let all = [
            (self.wsl, guest),
            (self.container, "a container"),
            (self.virtual_machine, "a virtual machine"),
            (self.ci, "a build server"),
        ];
        all.into_iter().filter(|(holds, _)| *holds == Some(true)).map(|(_, word)| word).collect()
    }
}

impl Display for Surroundings {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self.words().as_slice() {
            [] => f.write_str("none of them"),
            words => f.write_str(&words.join(", ")),
        }
    }
}

impl Display for Run {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let end = match &self.end {
            RunEnd::Exit(0) => None,
            RunEnd::Exit(status) => Some(format!("exit status {status}")),
            RunEnd::Signal(signal) => Some(format!("ended by signal {signal}")),
            RunEnd::TimeUp(ms) => Some(format!("stopped after {} s", crate::text::seconds(*ms))),
            RunEnd::Interrupted => Some("interrupted".to_owned()),
            RunEnd::NotStarted(_, reason) => Some(format!("could not be started: {reason}")),
        };
        let text = [self.stdout.trim(), self.stderr.trim()].into_iter().find(|text| !text.is_empty());
        let lines = text.map(|text| {
            text.lines()
                .filter(|line| !line.trim().is_empty())
                .take(3)
                .map(|line| line.chars().take(200).collect())
                .collect::<Vec<String>>()
        });
        let text = lines.map(|lines| lines.join("\n"));
        match (text, end) {
            (Some(text), None) => f.write_str(&text),
            (Some(text), Some(end)) => write!(f, "{text} ({end})"),
            (None, Some(end)) => f.write_str(&end),
            (None, None) => f.write_str("nothing printed"),
        }
    }
}

impl Display for Holder {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        // How it was started tells more where the name is that of an interpreter.
        let command = self.command.as_ref().filter(|command| command.contains(' '));
        match (&self.name, self.pid) {
            (Some(name), Some(pid)) => match command {
                Some(command) => write!(f, "{name} (process {pid}: {command})")?,
                None => write!(f, "{name} (process {pid})")?,
            },
            (Some(name), None) => f.write_str(name)?,
            (None, Some(pid)) => write!(f, "process {pid}")?,
            (None, None) => match &self.unit {
                Some(unit) => return write!(f, "{unit}, which the system starts"),
                None => f.write_str("a program that is not named")?,
            },
        }
        match &self.user {
            Some(user) => write!(f, " of user {user}"),
            None => Ok(()),
        }
    }
}

impl Display for DiskRoom {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let left = match &self.limited_by {
            Some(DiskLimit::Quota) => "left by this user's quota".to_owned(),
            Some(DiskLimit::Outside(disk)) => format!("left by the disk outside that holds it ({disk})"),
            None => "free for this user".to_owned(),
        };
        write!(f, "{} {left} at {}", Size(self.available_bytes), self.existing)?;
        if self.read_only {
            f.write_str(", read-only")?;
        }
        if !self.writable {
            f.write_str(", not writable for this user")?;
        }
        Ok(())
    }
}

impl Display for Processor {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let word = |holds: Option<bool>| match holds {
            Some(true) => "yes",
            Some(false) => "no",
            None => "not known",
        };
        let (able, offered, hypervisor) = (word(self.able), word(self.offered), word(self.hypervisor));
        write!(f, "the processor has it: {able}; the system offers it: {offered}; under a hypervisor: {hypervisor}")
    }
}

impl Display for Hypervisor {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(match self.enabled {
            Some(true) => "the system's feature is on",
            Some(false) => "the system's feature is off",
            None => "whether the system's feature is on is not known",
        })?;
        match &self.held_by {
            Some(program) => write!(f, "; {program} holds the processor's virtualization"),
            None => Ok(()),
        }
    }
}

impl Display for DeviceState {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Self::Opens => f.write_str("opens"),
            Self::Missing => f.write_str("not there"),
            Self::Denied(Some(group), Some(mode)) => write!(f, "permission denied (group {group}, mode {mode:o})"),
            Self::Denied(..) => f.write_str("permission denied"),
            Self::Dead => f.write_str("there, but nothing answers behind it"),
            Self::Busy => f.write_str("in use by another program"),
        }
    }
}
