//! Machines to begin with: what a system brings, and a person who begins.

use super::machine_builder::{MachineBuilder, text, texts};
use setup_ready_core::manager::Manager;
use setup_ready_core::observation::Os;

/// The folder that programs are installed into, another that PATH names before it, and one that it does not name.
pub(super) struct Folders {
    pub(super) usual: &'static str,
    pub(super) before: &'static str,
    pub(super) off_path: &'static str,
    /// Behind the name of a program.
    pub(super) ending: &'static str,
    pub(super) project: &'static str,
}

/// Where things lie on a system.
pub(super) fn folders(os: Os) -> Folders {
    match os {
        Os::Linux => Folders {
            usual: "/usr/bin",
            before: "/opt/tools/bin",
            off_path: "/usr/local/go/bin",
            ending: "",
            project: "/home/newcomer/project",
        },
        Os::Macos => Folders {
            usual: "/opt/homebrew/bin",
            before: "/Users/newcomer/bin",
            off_path: "/opt/local/bin",
            ending: "",
            project: "/Users/newcomer/project",
        },
        Os::Windows => Folders {
            usual: "C:/Program Files/Tools",
            before: "C:/Tools",
            off_path: "C:/Users/newcomer/AppData/Local/Tools",
            ending: ".exe",
            project: "C:/Users/newcomer/project",
        },
    }
}

/// The package manager of a new machine.
pub(super) fn manager(os: Os) -> Manager {
    match os {
        Os::Linux => Manager::Apt,
        Os::Macos => Manager::Brew,
        Os::Windows => Manager::Winget,
    }
}

/// A new machine: nothing is installed but what the system brings, and it says nothing of what a guide may ask beside that.
pub(crate) fn new_machine(os: Os) -> MachineBuilder {
    let mut sketch = MachineBuilder::default();
    let at = folders(os);
    sketch.top("other_ports", text("free"));
    sketch.top("path", texts(&[at.before, at.usual]));
    sketch.set("machine", "name", text("new"));
    sketch.set("machine", "project", text(at.project));
    sketch.set("system", "os", text(os.word()));
    sketch.set("system", "flags", "[]");
    sketch.set("system", "managers", texts(&[manager(os).word()]));
    sketch.set("user", "name", text("newcomer"));
    sketch.set("user", "admin", "true");
    match os {
        Os::Linux => {
            sketch.set("system", "version", text("6.12.0"));
            sketch.set("system", "distro", text("debian"));
            sketch.set("system", "distro_version", text("13"));
            sketch.set("system", "arch", text("x86_64"));
            sketch.set("user", "home", text("/home/newcomer"));
        }
        Os::Macos => {
            sketch.set("system", "version", text("15.0"));
            sketch.set("system", "arch", text("aarch64"));
            sketch.set("user", "home", text("/Users/newcomer"));
        }
        Os::Windows => {
            sketch.set("system", "version", text("10.0.26100"));
            sketch.set("system", "arch", text("x86_64"));
            sketch.set("user", "home", text("C:/Users/newcomer"));
        }
    }
    let (shell, startup) = match os {
        Os::Linux => ("bash", Some("~/.bashrc")),
        Os::Macos => ("zsh", Some("~/.zshrc")),
        Os::Windows => ("powershell", None),
    };
    sketch.set("user", "shell", text(shell));
    if let Some(startup) = startup {
        sketch.set("user", "startup_file", text(startup));
        sketch.set("user", "elevate", text("sudo"));
    }
    sketch
}

/// A new machine that says all that a guide may ask: it has much of everything, and a copy of the project.
pub(super) fn roomy_machine(os: Os) -> MachineBuilder {
    let mut sketch = new_machine(os);
    sketch.top("locales", texts(&["C.utf8", "en_US.utf8"]));
    sketch.top("usb", "[]");
    sketch.set("memory", "total", text("64 GB"));
    sketch.set("memory", "available", text("48 GB"));
    sketch.set("memory", "swap", text("64 GB"));
    sketch.set("cores", "online", "16");
    for key in ["processor", "firmware", "feature", "started"] {
        sketch.set("virtualization", key, "true");
    }
    sketch.set("network", "online", "true");
    sketch.set("network", "clock_fast_s", "0");
    sketch.set("network", "networks", texts(&["eth0 192.0.2.20/24"]));
    sketch.set("checkout", "branch", text("main"));
    for table in ["names", "settings", "system_services", "environment", "limits"] {
        // What it does not hold is then known not to be there.
        sketch.table(table);
    }
    sketch.set("user", "groups", texts(&["newcomer"]));
    sketch.set("user", "other_groups", "[]");
    let root = if os == Os::Windows { "C:/" } else { "/" };
    sketch.put("filesystem", ("at", root), &[("available", text("900 GB")), ("inodes", "100000000".to_owned())]);
    if os == Os::Linux {
        sketch.set("system", "modules", texts(&["kvm", "kvm_intel"]));
        sketch.put("device", ("path", "/dev/kvm"), &[("state", text("opens"))]);
    }
    sketch
}
