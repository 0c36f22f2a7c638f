//! Memory, cores, virtualization, the system, disks.

use super::{Page, miss, range, some, text, version};
use crate::finding::*;
use crate::observation::DiskLimit;
use crate::prelude::*;
use crate::text::Size;
use std::vec;

pub(super) fn pages() -> Vec<Page> {
    let size = |gigabytes: u64| Size(gigabytes * 1_000_000_000);
    let memory = vec![
        CapacityReason::MemoryShort { total: size(4), short_by: size(4), inside_windows: false },
        CapacityReason::MemoryShort { total: size(4), short_by: size(4), inside_windows: true },
        CapacityReason::MemoryCapped {
            total: size(64),
            usable: size(2),
            short_by: size(6),
            by: text("the control group /user.slice"),
        },
        CapacityReason::MemoryBusy { available: size(1), short_by: size(7) },
        CapacityReason::FreeMemoryUnknown { total: size(16) },
    ];
    let swap = vec![CapacityReason::SwapShort { swap: size(1), short_by: size(3) }, CapacityReason::SwapUnknown];
    let cores = vec![
        CapacityReason::CoresShort { online: 1, inside_windows: false },
        CapacityReason::CoresShort { online: 2, inside_windows: true },
        CapacityReason::CoresCapped { online: 16, usable_hundredths: 150, by: text("the control group /user.slice") },
    ];
    let virtualization = vec![
        VirtualizationReason::ProcessorLacks,
        VirtualizationReason::NestingOff { inside_windows: true },
        VirtualizationReason::NestingOff { inside_windows: false },
        VirtualizationReason::FirmwareOff,
        VirtualizationReason::ModuleMissing,
        VirtualizationReason::Denied { device: text("/dev/kvm"), group: some("kvm") },
        VirtualizationReason::Denied { device: text("/dev/kvm"), group: None },
        VirtualizationReason::DeniedUntilSignIn { device: text("/dev/kvm"), group: some("kvm") },
        VirtualizationReason::NotInContainer,
        VirtualizationReason::Held { by: some("buoyvirt") },
        VirtualizationReason::Held { by: None },
        VirtualizationReason::FeatureOff,
        VirtualizationReason::NotStarted,
        VirtualizationReason::ProcessorUnknown,
        VirtualizationReason::FeatureUnknown,
    ];
    let system =
        |trouble| Reason::System(Box::new(SystemReason { system: text("Debian GNU/Linux 11"), name: "Debian", trouble }));
    let systems = vec![
        SystemTrouble::Other,
        SystemTrouble::OtherDistribution { found: text("Arch Linux") },
        SystemTrouble::OutOfRange { found: version("11"), range: range(">= 12"), miss: miss(">= 12", "11") },
        SystemTrouble::OutOfRange { found: version("14"), range: range("< 13"), miss: miss("< 13", "14") },
        SystemTrouble::Incomparable { found: version("12.x"), range: range(">= 12") },
        SystemTrouble::Edition { found: text("Home") },
        SystemTrouble::Arch { found: text("i686") },
        SystemTrouble::Unknown { what: SystemUnknown::Version },
        SystemTrouble::Unknown { what: SystemUnknown::Distribution },
        SystemTrouble::Unknown { what: SystemUnknown::Edition },
    ];
    let disk = |trouble, limited_by| {
        Reason::Disk(Box::new(DiskReason {
            path: text("/srv/build"),
            existing: text("/srv"),
            disk: text("/srv"),
            available_bytes: 3_000_000_000,
            limited_by,
            trouble,
        }))
    };
    let together = || Together { needed: size(9), short_by: size(6), others: Named { first: vec![1], more: 2 } };
    let disks = vec![
        disk(DiskTrouble::ReadOnly, None),
        disk(DiskTrouble::NoPermission, None),
        disk(DiskTrouble::Short { short_by: size(2), together: None }, None),
        disk(DiskTrouble::Short { short_by: size(2), together: Some(together()) }, Some(DiskLimit::Quota)),
        disk(DiskTrouble::ShortTogether(together()), Some(DiskLimit::Outside(text("/mnt/c")))),
        disk(DiskTrouble::InodesShort { left: 100, needed: 50_000 }, None),
        disk(DiskTrouble::OthersUnknown { others: Named { first: vec![1], more: 0 } }, None),
    ];
    vec![
        ("memory = \"8 GB\"", memory.into_iter().map(Reason::Capacity).collect()),
        ("swap = \"4 GB\"", swap.into_iter().map(Reason::Capacity).collect()),
        ("cores = 4", cores.into_iter().map(Reason::Capacity).collect()),
        ("virtualization = \"usable\"", virtualization.into_iter().map(Reason::Virtualization).collect()),
        (
            "system = { linux = \">= 12\" }\nedition = [\"workstation\"]\ndistro = [\"debian\"]\narch = [\"x86_64\"]",
            systems.into_iter().map(system).collect(),
        ),
        ("disk = \"5 GB\"\nat = \"/srv/build\"", disks),
    ]
}
