//! The fixes that the software knows itself, by cause.

use super::case::Case;
use super::{Bench, Fix, Shell};
use crate::cause::Cause;
use crate::finding::{Finding, Whose};
use crate::guide::{Edit, Requirement, Subject, Then};
use crate::observation::Os;
use crate::prelude::*;
use crate::text::join_words;

#[allow(clippy::too_many_lines, reason = "one row per cause, so that none can be forgotten")]
/// The fixes for a cause; none where no general one exists.
pub(super) fn fixes(
    requirement: &Requirement,
    finding: &Finding,
    cause: Cause,
    (bench, refused, own): (&Bench<'_>, &[String], Option<bool>),
) -> Vec<Fix> {
    let fault = Case { requirement, finding, bench, refused, own };
    match cause {
        Cause::ToolMissing if finding.particulars.path.is_some() => vec![fault.link()],
        Cause::ToolMissing | Cause::ToolTooOld => vec![fault.install()],
        Cause::ToolTooNew | Cause::ToolExcluded => vec![fault.other_version()],
        Cause::ToolShadowed => vec![fault.first_on_path("so that the copy that works is found first")],
        Cause::ToolOffPath => vec![fault.off_path()],
        Cause::ToolUnselected => vec![fault.choose_version()],
        Cause::ToolNotExecutable => vec![fault.make_executable()],
        Cause::ToolBroken | Cause::ToolWrongArch | Cause::ToolPlaceholder | Cause::ToolFailed => vec![fault.install_again()],
        Cause::ToolQuarantined => vec![fault.take_mark_away()],
        Cause::ToolStuck => vec![Fix::say(format!(
            "Run {} --version yourself and see what it waits for. If it is only slow, give it more time with --time-limit.",
            fault.path()
        ))],
        Cause::ToolUnwanted => {
            vec![Fix::say(format!("Uninstall {}, or take its folder off PATH while you work on this project.", fault.title()))]
        }
        Cause::PortHeld => fault.port_held(),
        Cause::PortPrivileged => vec![fault.privileged_port()],
        Cause::PortReserved => vec![fault.another_port()],
        Cause::PortNoAddress => {
            vec![Fix::say("Correct the address in the project's settings, or connect the network that has it.")]
        }
        Cause::PortNotAPort => vec![Fix::say(format!("Write a number from 1 to 65535 there: {}.", fault.path()))],
        Cause::DiskShort | Cause::DiskShortTogether => vec![fault.free_space()],
        Cause::DiskInodesShort => vec![Fix::say(format!(
            "Delete folders with many small files (old builds, caches) on the disk that holds {}.",
            fault.path()
        ))],
        Cause::DiskReadOnly | Cause::DiskNoPermission => {
            vec![Fix::say(
                "Use a folder of your own on another disk, or ask whoever looks after this machine for the permission to write.",
            )]
        }
        Cause::MemoryShort | Cause::CoresShort if bench.inside_windows => vec![give_guest_more(&requirement.subject)],
        Cause::MemoryShort => vec![Fix::say("Work on a machine with more memory; this cannot be settled here.")],
        Cause::MemoryCapped | Cause::CoresCapped => vec![Fix::say(
            "Have the limit raised where it is set: the container's settings, the service, or whoever looks after this machine.",
        )],
        Cause::MemoryBusy => vec![Fix::say("Close programs that use much memory (browsers, other builds), then check again.")],
        Cause::CoresShort => vec![Fix::say("Work on a machine with more cores, or expect the build to take longer.")],
        Cause::VirtFirmwareOff if bench.os == Some(Os::Macos) => {
            vec![Fix::say("Ask whoever looks after this machine: its firmware has no switch that you could set.")]
        }
        Cause::VirtFirmwareOff => {
            let mut fix = Fix::say(
                "Restart, open the firmware settings (often with F2 or Del), and switch on the entry named VT-x, AMD-V or SVM.",
            );
            fix.then = Some(Then::Restart);
            vec![fix]
        }
        Cause::VirtModuleMissing => vec![fault.load_module()],
        Cause::VirtDenied => vec![fault.join_group()],
        Cause::VirtDeniedUntilSignIn => vec![fault.sign_in()],
        Cause::VirtNestingOff if bench.inside_windows => vec![nest_inside_windows()],
        Cause::VirtFeatureOff => vec![fault.switch_feature_on()],
        Cause::VirtNestingOff => {
            vec![Fix::say("Switch on nested virtualization for this virtual machine on its host, or work on the host itself.")]
        }
        Cause::VirtInContainer => {
            vec![Fix::say("Start the container with the device /dev/kvm passed in, or work outside the container.")]
        }
        Cause::VirtHeld => vec![Fix::say("Stop the other virtual machine program, then check again.")],
        Cause::SystemOther | Cause::SystemEdition | Cause::SystemArch => {
            vec![Fix::say(format!(
                "Work on a system that fits ({}), for example in a virtual machine on this one.",
                finding.wanted.as_deref().unwrap_or("see the guide")
            ))]
        }
        Cause::SystemTooOld => vec![Fix::say("Upgrade the operating system, or work in a virtual machine with a newer one.")],
        Cause::SystemTooNew => vec![Fix::say(
            "Ask the project whether it works here by now; otherwise work in a virtual machine with an older system.",
        )],
        Cause::VirtCpuLacks => vec![Fix::say("Work on another machine; this processor cannot do it.")],
        Cause::PathMissing
        | Cause::PathOtherKind
        | Cause::PathNotWritable
        | Cause::PathNotMine
        | Cause::PathMode
        | Cause::PathContent
        | Cause::PathNotExecutable
        | Cause::PathUnwanted
        | Cause::PathDangling => vec![super::path::fix(&fault, cause)],
        Cause::VariableUnset
        | Cause::VariableEmpty
        | Cause::VariableShape
        | Cause::VariableOnlyInFile
        | Cause::VariableUnwanted
        | Cause::LimitLow
        | Cause::LimitLacks
        | Cause::LibraryMissing
        | Cause::LibraryTooOld
        | Cause::LibraryTooNew
        | Cause::LibraryNoHeaders
        | Cause::SettingUnset
        | Cause::SettingShape
        | Cause::CheckoutNone
        | Cause::CheckoutBranch
        | Cause::CheckoutSubmodules
        | Cause::CheckoutLargeFiles
        | Cause::CheckoutDirty
        | Cause::CommandFailed
        | Cause::CommandOutput
        | Cause::CommandStuck
        | Cause::CommandNotFound => vec![super::workspace::fix(&fault, cause)],
        Cause::GroupAbsent
        | Cause::GroupNotMember
        | Cause::GroupUntilSignIn
        | Cause::SocketMissing
        | Cause::SocketDenied
        | Cause::SocketDeniedUntilSignIn
        | Cause::SocketDead
        | Cause::DeviceMissing
        | Cause::DeviceDenied
        | Cause::ServiceRefused
        | Cause::ServiceNoAnswer
        | Cause::ServiceOtherAnswer
        | Cause::ServiceOtherHolder
        | Cause::ReachOffline
        | Cause::ReachNoName
        | Cause::ReachRefused
        | Cause::ReachNoAnswer
        | Cause::ReachTls
        | Cause::ReachProxy
        | Cause::ReachStatus
        | Cause::NameUnknown
        | Cause::NameElsewhere
        | Cause::SubnetTaken => vec![super::connection::fix(&fault, cause)],
        // What no requirement is unmet by, and what its alternatives settle.
        Cause::ToolSilent
        | Cause::CommandNoConsent
        | Cause::NoneOf
        | Cause::CouldNotLook
        | Cause::NotSupportedHere
        | Cause::WaitsFor
        | Cause::ConditionUnknown => Vec::new(),
    }
}

impl Case<'_> {
    fn other_version(&self) -> Fix {
        let mut fix = Fix::say(format!(
            "Install {}{} beside the one you have, and put its folder first on PATH.",
            self.title(),
            self.wanted()
        ));
        fix.then = Some(Then::NewShell);
        fix
    }

    /// The program is here under another name: a link in a folder of one's own gives it the one that is called.
    fn link(&self) -> Fix {
        let Subject::Tool(tool) = &self.requirement.subject else { return self.install() };
        let (Some(name), true) = (tool.names.first(), matches!(self.bench.os, Some(Os::Linux | Os::Macos))) else {
            return Fix::say(format!(
                "Give {} the name that this project calls: {}.",
                self.path(),
                join_words(&tool.names, "or")
            ));
        };
        let mut fix = Fix::say(format!(
            "Give it the name that this project calls, {name}, by a link in ~/.local/bin (a folder that most systems put on PATH at \
             the next sign-in once it exists)."
        ));
        fix.run = vec![format!("mkdir -p ~/.local/bin && ln -s {} ~/.local/bin/{}", self.quoted(self.path()), self.quoted(name))];
        fix.then = Some(Then::SignIn);
        fix
    }

    fn install_again(&self) -> Fix {
        Fix::say(format!("Remove {} and install {} again, from a package for this machine.", self.path(), self.title()))
    }

    /// The mark of what was downloaded is an attribute of the file (xattr(1)).
    fn take_mark_away(&self) -> Fix {
        let mut fix = Fix::say(format!("Allow {} to be started, if you trust where it comes from.", self.path()));
        fix.run = vec![format!("xattr -d com.apple.quarantine {}", self.quoted(self.path()))];
        fix.warn("The mark is there to protect you from programs that somebody else has put in the place of the real one.");
        fix
    }

    fn first_on_path(&self, why: &str) -> Fix {
        let path = self.path();
        let folder = path.rsplit_once(['/', '\\']).map_or("", |(folder, _)| folder);
        let mut fix = Fix::say(format!("Put {folder} first on PATH, {why}."));
        let line = self.bench.shell.prepend_path(folder);
        if let Some(file) = self.bench.account.and_then(|account| account.startup_file.clone()) {
            fix.edit = Some(Edit { file, append: line });
            fix.then = Some(Then::NewShell);
        } else {
            fix.say.push_str(" This does it for the terminal in which you type it:");
            fix.run = vec![line];
        }
        fix
    }

    /// On Windows what was installed since a terminal was opened is only found by the next one.
    fn off_path(&self) -> Fix {
        let mut fix = self.first_on_path("so that your shell finds it");
        if self.bench.os != Some(Os::Windows) {
            return fix;
        }
        let path = self.path();
        let folder = path.rsplit_once(['/', '\\']).map_or("", |(folder, _)| folder);
        if let Some(line) = self.bench.shell.prepend_path_for_good(folder) {
            fix = Fix { run: vec![line], then: Some(Then::NewShell), ..Fix::say(format!("Put {folder} on your PATH.")) };
        }
        let then = fix.say.strip_prefix("Put ").unwrap_or(&fix.say);
        fix.say = format!("Open a new terminal: it may find what this one does not know yet. If it does not, put {then}");
        fix
    }

    fn choose_version(&self) -> Fix {
        let wanted = self.wanted().replace(" in a version that is", " that is");
        let path = self.path();
        Fix::say(format!(
            "Choose a version of {}{wanted} with the version manager that is in charge of {path}; its message says how.",
            self.title()
        ))
    }

    fn make_executable(&self) -> Fix {
        let say = format!("Make {} executable, if you trust it.", self.path());
        let command = format!("chmod +x {}", self.quoted(self.path()));
        if self.own == Some(false) {
            return self.admin_step(say, &[&command]);
        }
        let mut fix = Fix::say(say);
        fix.run = vec![command];
        fix
    }

    fn port_held(&self) -> Vec<Fix> {
        if matches!(&self.requirement.subject, Subject::Port(port) if port.set_by.is_some())
            && self.finding.particulars.free_port.is_some()
        {
            return vec![self.another_port()];
        }
        let particulars = &self.finding.particulars;
        if particulars.passing {
            return vec![Fix::say("Wait until that connection has ended, then check again.")];
        }
        let Some(holder) = &particulars.holder else {
            let mut fix = Fix::say("Find out which program it is, and ask its owner to stop it.");
            if let Some(port) = particulars.port.filter(|_| self.bench.os == Some(Os::Linux)) {
                fix.run = vec![self.bench.as_admin(&format!("ss -lntup sport = :{port}"))];
                fix.admin = true;
                fix.caution = self.bench.admin_caution();
            }
            return vec![fix];
        };
        let mut fix = Fix::say(format!("Stop {holder}, in the way it was started if you can."));
        // Only a process whose number is known, and never Windows itself, which has the lowest ones.
        let windows = self.bench.os == Some(Os::Windows);
        let command = |pid: u32| match self.bench.shell {
            Shell::PowerShell => Some(format!("Stop-Process -Id {pid}")),
            Shell::Cmd => Some(format!("taskkill /f /pid {pid}")),
            // There such a shell has numbers of its own.
            Shell::Posix | Shell::Fish if windows => None,
            Shell::Posix | Shell::Fish => Some(format!("kill {pid}")),
        };
        let pid = particulars.pid.filter(|pid| self.bench.os.is_some() && !(windows && *pid <= 4));
        if let Some(command) = pid.and_then(command) {
            fix.run = vec![command];
            fix.caution = Some("Whatever it was doing is lost: look at what it is before you stop it.".to_owned());
        }
        vec![fix]
    }

    /// Below the limit: another port, or a lower limit (ip(7), `ip_unprivileged_port_start`).
    fn privileged_port(&self) -> Fix {
        let Subject::Port(port) = &self.requirement.subject else { return self.another_port() };
        let (None, Some(number), Some(Os::Linux)) = (&port.set_by, self.finding.particulars.port, self.bench.os) else {
            return self.another_port();
        };
        let command = format!("sysctl net.ipv4.ip_unprivileged_port_start={number}");
        let say = format!("Let programs of every user open ports from {number} on, until the next restart.");
        let mut fix = self.admin_step(say, &[&command]);
        fix.warn("Until then any program of any user can take the place of a service on one of these ports.");
        fix
    }

    /// Setting the project's port to one that is free.
    fn another_port(&self) -> Fix {
        let free = self.finding.particulars.free_port;
        let Subject::Port(port) = &self.requirement.subject else { return Fix::say("Use another port.") };
        let (Some(set_by), Some(free)) = (&port.set_by, free) else {
            let offer = free.map(|free| format!(" ({free} is free)")).unwrap_or_default();
            return Fix::say(format!("Have the project use another port{offer}; the guide names no setting for it."));
        };
        let mut fix = Fix::say(format!("Have the project use port {free} instead, which is free."));
        let line = format!("{}={free}", set_by.variable);
        match &set_by.env_file {
            Some(file) => fix.edit = Some(Edit { file: file.clone(), append: line }),
            None => {
                fix.run = vec![self.bench.shell.set(&set_by.variable, &free.to_string())];
            }
        }
        fix
    }

    fn free_space(&self) -> Fix {
        if self.finding.particulars.whose == Whose::Foreign {
            let short = self.finding.particulars.short_by.map_or_else(|| "enough".to_owned(), |size| size.to_string());
            return Fix::say(format!(
                "On the Windows side, free at least {short} on the disk that is seen from here as {}. What is deleted in this Linux gives \
                 Windows nothing back by itself.",
                self.path()
            ));
        }
        let short = self.finding.particulars.short_by.map_or_else(|| "enough".to_owned(), |size| size.to_string());
        let mut fix = Fix::say(format!(
            "Free at least {short} on the disk that holds {}, or move the folder to a larger disk.",
            self.path()
        ));
        if matches!(self.bench.os, Some(Os::Linux | Os::Macos)) {
            fix.say.push_str(" This shows what takes the room:");
            fix.run = vec![format!("du -xhd1 {} | sort -h", self.quoted(self.path()))];
        }
        fix
    }

    /// The system starts its hypervisor or not as its start settings say (bcdedit, in Microsoft's reference of commands).
    fn switch_feature_on(&self) -> Fix {
        if self.finding.particulars.not_started {
            let say =
                "Have the system start its hypervisor from the next restart on, in a terminal that was started as administrator.";
            let mut fix = self.admin_step(say, &["bcdedit /set hypervisorlaunchtype auto"]);
            fix.then = Some(Then::Restart);
            return fix;
        }
        let mut fix =
            Fix::say("Switch on the system's feature for virtual machines, in a terminal that was started as administrator.");
        fix.run = vec!["dism /online /enable-feature /featurename:HypervisorPlatform /all /norestart".to_owned()];
        fix.admin = true;
        fix.then = Some(Then::Restart);
        fix.caution = self.bench.admin_caution();
        fix
    }

    fn load_module(&self) -> Fix {
        let mut fix =
            Fix::say("Load the kernel's virtualization module (the first name is for Intel processors, the second for AMD).");
        fix.run = vec![format!("{} || {}", self.bench.as_admin("modprobe kvm_intel"), self.bench.as_admin("modprobe kvm_amd"))];
        fix.admin = true;
        fix.caution = self.bench.admin_caution();
        fix
    }
}

/// The setting lies on the other side (Microsoft's documentation of the `.wslconfig` file).
/// A Linux inside Windows gets what a file of the user on the Windows side says (Microsoft's documentation of its settings).
fn give_guest_more(subject: &Subject) -> Fix {
    let line = if let Subject::Memory(memory) = subject {
        // In whole gibibytes, as people write it there, and a little more than what is needed: the kernel takes some.
        format!("memory={}GB", memory.size.0.div_ceil(1 << 30) + 1)
    } else if let Subject::Cores(cores) = subject {
        format!("processors={cores}")
    } else {
        String::new()
    };
    let mut fix = Fix::say(format!(
        "If the machine has more, let this Linux have more of it. On the Windows side, write the two lines `[wsl2]` and `{line}` into the \
         file .wslconfig in your Windows home folder (where it has a part `[wsl2]` already, only the second line, in that part). Then type \
         `wsl --shutdown` in a Windows terminal, and open this Linux again."
    ));
    fix.warn("What this Linux takes, Windows does not have meanwhile. The shutdown ends all that runs in it.");
    fix
}

fn nest_inside_windows() -> Fix {
    Fix::say(
        "On the Windows side, write the two lines `[wsl2]` and `nestedVirtualization=true` into the file .wslconfig in your Windows \
         home folder (where it has a part `[wsl2]` already, only the second line, in that part). Then type `wsl --shutdown` in a \
         Windows terminal, and open this Linux again. It needs Windows 11.",
    )
}
