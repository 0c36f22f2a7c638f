//! The demonstration: the guide of Driftbuoy, a made-up project, and machines to try it on.

mod class;
pub use class::{Newcomer, class};

/// The guide's text.
pub const GUIDE: &str = include_str!("../../demo/setup-guide.toml");

/// The files of the project that say something of what building it needs: a path, and a text.
pub const REPOSITORY: [(&str, &str); 11] = [
    (".env.example", include_str!("../../demo/repository/.env.example")),
    (".github/workflows/build.yml", include_str!("../../demo/repository/.github/workflows/build.yml")),
    (".gitmodules", include_str!("../../demo/repository/.gitmodules")),
    ("CMakeLists.txt", include_str!("../../demo/repository/CMakeLists.txt")),
    ("CMakePresets.json", include_str!("../../demo/repository/CMakePresets.json")),
    ("CONTRIBUTING.md", include_str!("../../demo/repository/CONTRIBUTING.md")),
    ("Makefile", include_str!("../../demo/repository/Makefile")),
    ("compose.yaml", include_str!("../../demo/repository/compose.yaml")),
    ("firmware/CMakeLists.txt", include_str!("../../demo/repository/firmware/CMakeLists.txt")),
    ("page/package.json", include_str!("../../demo/repository/page/package.json")),
    ("shore/pyproject.toml", include_str!("../../demo/repository/shore/pyproject.toml")),
];

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
    DemoMachine { name: "clean-debian-laptop", text: include_str!("../../demo/machines/clean-debian-laptop.toml") },
    DemoMachine { name: "shared-server", text: include_str!("../../demo/machines/shared-server.toml") },
    DemoMachine { name: "build-container", text: include_str!("../../demo/machines/build-container.toml") },
    DemoMachine { name: "ready-workstation", text: include_str!("../../demo/machines/ready-workstation.toml") },
    DemoMachine { name: "old-macbook", text: include_str!("../../demo/machines/old-macbook.toml") },
    DemoMachine { name: "workshop-windows-pc", text: include_str!("../../demo/machines/workshop-windows-pc.toml") },
    DemoMachine { name: "linux-inside-windows", text: include_str!("../../demo/machines/linux-inside-windows.toml") },
];
