//! The demonstration: the guide of Driftbuoy, a made-up project, and machines to try it on.

/// The guide's text.
pub const GUIDE: &str = include_str!("../demo/setup-guide.toml");

/// A machine of the demonstration.
#[derive(Debug, Clone, Copy)]
#[non_exhaustive]
pub struct DemoMachine {
    /// Its name, which is also its file's.
    pub name: &'static str,
    /// Its description.
    pub text: &'static str,
}

/// The machines; the demonstration tours the first four.
pub const MACHINES: [DemoMachine; 7] = [
    DemoMachine { name: "clean-debian-laptop", text: include_str!("../demo/machines/clean-debian-laptop.toml") },
    DemoMachine { name: "shared-server", text: include_str!("../demo/machines/shared-server.toml") },
    DemoMachine { name: "build-container", text: include_str!("../demo/machines/build-container.toml") },
    DemoMachine { name: "ready-workstation", text: include_str!("../demo/machines/ready-workstation.toml") },
    DemoMachine { name: "old-macbook", text: include_str!("../demo/machines/old-macbook.toml") },
    DemoMachine { name: "workshop-windows-pc", text: include_str!("../demo/machines/workshop-windows-pc.toml") },
    DemoMachine { name: "linux-inside-windows", text: include_str!("../demo/machines/linux-inside-windows.toml") },
];
