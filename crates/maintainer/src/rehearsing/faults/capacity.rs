//! What machines lack: room, memory, cores, virtualization, rights, limits, libraries, modules, locales, and systems that are others.

use super::super::machine_builder::{MachineBuilder, text, texts};
use super::super::satisfy::{Wanted, bytes, offer, version_in};
use super::NotMade;
use setup_ready_core::cause::Cause;
use setup_ready_core::guide::{Component, ComponentSort, Library, Subject};
use setup_ready_core::manager::Manager;
use setup_ready_core::observation::Os;
use setup_ready_core::version::{Range, RangeMatch};

pub(super) fn make(sketch: &mut MachineBuilder, wanted: Wanted<'_>, cause: Cause) -> Result<(), NotMade> {
    match &wanted.requirement.subject {
        Subject::Disk(disk) => {
            let root = if wanted.os == Os::Windows { "C:/" } else { "/" };
            let entry = sketch.entry("filesystem", root).ok_or(NotMade::NotHere)?;
            match cause {
                Cause::DiskShort => drop(entry.insert("available".to_owned(), text(&bytes(disk.size.0 / 2)))),
                Cause::DiskReadOnly => drop(entry.insert("read_only".to_owned(), "true".to_owned())),
                Cause::DiskNoPermission => drop(entry.insert("writable".to_owned(), "false".to_owned())),
                Cause::DiskInodesShort if disk.inodes.is_some() => drop(entry.insert("inodes".to_owned(), "10".to_owned())),
                Cause::DiskShortTogether => {
                    let sizes = wanted.guide.requirements.iter().filter_map(|one| match &one.subject {
                        Subject::Disk(disk) => Some(disk.size.0),
                        _ => None,
                    });
                    let (sum, largest) =
                        sizes.fold((0_u64, 0_u64), |(sum, most), size| (sum.saturating_add(size), most.max(size)));
                    if sum == largest {
                        return Err(NotMade::NotHere);
                    }
                    entry.insert("available".to_owned(), text(&bytes(largest.midpoint(sum))));
                }
                _ => return Err(NotMade::NotHere),
            }
        }
        Subject::Memory(memory) => {
            let less = text(&bytes(memory.size.0 / 2));
            match cause {
                Cause::MemoryShort => {
                    sketch.set("memory", "total", less.clone());
                    sketch.set("memory", "available", less);
                }
                Cause::MemoryCapped => capped(sketch, wanted.os, "memory", less)?,
                Cause::MemoryBusy if memory.free => sketch.set("memory", "available", less),
                _ => return Err(NotMade::NotHere),
            }
        }
        Subject::Swap(swap) if cause == Cause::SwapShort => sketch.set("memory", "swap", text(&bytes(swap.size.0 / 2))),
        Subject::Cores(cores) => match cause {
            Cause::CoresShort if cores.count > 1 => sketch.set("cores", "online", (cores.count - 1).to_string()),
            Cause::CoresCapped if cores.count > 1 => capped(sketch, wanted.os, "cores", (cores.count - 1).to_string())?,
            _ => return Err(NotMade::NotHere),
        },
        Subject::Virtualization(_) => virtualization(sketch, wanted.os, cause)?,
        Subject::System(systems) => {
            let range = systems.versions.iter().find(|(os, _)| *os == wanted.os).and_then(|(_, range)| range.as_ref());
            match cause {
                Cause::SystemTooOld => version(sketch, range, RangeMatch::TooOld)?,
                Cause::SystemTooNew => version(sketch, range, RangeMatch::TooNew)?,
                Cause::SystemEdition if !systems.editions.is_empty() => sketch.set("system", "edition", text("another")),
                Cause::SystemArch if !systems.arches.is_empty() => sketch.set("system", "arch", text("riscv64")),
                Cause::SystemOther if !systems.distros.is_empty() => sketch.set("system", "distro", text("another")),
                _ => return Err(NotMade::NotHere),
            }
        }
        Subject::Group(group) => match cause {
            Cause::GroupAbsent => sketch.set("user", "groups", texts(&["newcomer"])),
            Cause::GroupNotMember => {
                sketch.set("user", "groups", texts(&["newcomer"]));
                sketch.set("user", "other_groups", texts(&[&group.name]));
            }
            Cause::GroupUntilSignIn => {
                sketch.set("user", "groups", texts(&["newcomer"]));
                sketch.set("user", "database_groups", texts(&["newcomer", &group.name]));
            }
            _ => return Err(NotMade::NotHere),
        },
        Subject::Rights(_) if cause == Cause::RightsMissing => {
            sketch.set("user", "admin", "false");
            sketch.unset("user", "root");
        }
        Subject::Limit(limit) => match (cause, limit.at_least) {
            (Cause::LimitLow, Some(least)) => sketch.set("limits", limit.kind.word(), (least / 2).to_string()),
            (Cause::LimitLacks, None) => sketch.set("limits", limit.kind.word(), "false"),
            _ => return Err(NotMade::NotHere),
        },
        Subject::Clock(clock) if cause == Cause::ClockWrong => {
            sketch.set("network", "clock_fast_s", (clock.within_ms / 1_000).saturating_mul(2).saturating_add(60).to_string());
        }
        Subject::Locale(locale) => match cause {
            Cause::LocaleMissing => sketch.top("locales", texts(&["C.utf8"])),
            Cause::LocaleEncoding if locale.utf8 => {
                let stem = locale.name.split('.').next().unwrap_or_default();
                sketch.top("locales", texts(&["C.utf8", &format!("{stem}.iso88591")]));
            }
            _ => return Err(NotMade::NotHere),
        },
        Subject::Library(one) => library(sketch, wanted, one, cause)?,
        Subject::Component(component) => self::component(sketch, wanted, component, cause)?,
        _ => return Err(NotMade::NotHere),
    }
    Ok(())
}

/// A limit that somebody set; where that is done, only on Linux.
fn capped(sketch: &mut MachineBuilder, os: Os, table: &str, amount: String) -> Result<(), NotMade> {
    if os != Os::Linux {
        return Err(NotMade::NotHere);
    }
    sketch.put(&format!("{table}.cap"), ("by", "the control group /user.slice"), &[("amount", amount)]);
    Ok(())
}

fn version(sketch: &mut MachineBuilder, range: Option<&Range>, fit: RangeMatch) -> Result<(), NotMade> {
    let other = range.and_then(|range| range.missing(fit)).ok_or(NotMade::NotHere)?;
    sketch.set("system", "version", text(&other.to_string()));
    Ok(())
}

fn virtualization(sketch: &mut MachineBuilder, os: Os, cause: Cause) -> Result<(), NotMade> {
    let linux = os == Os::Linux;
    match cause {
        Cause::VirtCpuLacks => {
            sketch.set("virtualization", "processor", "false");
            sketch.drop("device", "/dev/kvm");
        }
        Cause::VirtFirmwareOff if os != Os::Macos => {
            sketch.set("virtualization", "firmware", "false");
            sketch.set("virtualization", "started", "false");
            sketch.drop("device", "/dev/kvm");
        }
        Cause::VirtModuleMissing if linux => {
            sketch.set("system", "modules", "[]");
            sketch.drop("device", "/dev/kvm");
        }
        Cause::VirtDenied if linux => denied(sketch),
        Cause::VirtDeniedUntilSignIn if linux => {
            denied(sketch);
            sketch.set("user", "database_groups", texts(&["newcomer", "kvm"]));
        }
        Cause::VirtNestingOff => {
            sketch.set("system", "flags", texts(&["virtual-machine"]));
            sketch.set("virtualization", "processor", "false");
            sketch.drop("device", "/dev/kvm");
        }
        Cause::VirtInContainer if linux => {
            sketch.set("system", "flags", texts(&["container"]));
            sketch.drop("device", "/dev/kvm");
        }
        Cause::VirtHeld if os != Os::Macos => {
            sketch.set("virtualization", "held_by", text("another hypervisor"));
            if linux {
                sketch.put("device", ("path", "/dev/kvm"), &[("state", text("busy"))]);
            }
        }
        Cause::VirtFeatureOff if os == Os::Windows => {
            sketch.set("virtualization", "feature", "false");
            sketch.set("virtualization", "started", "false");
        }
        _ => return Err(NotMade::NotHere),
    }
    Ok(())
}

fn denied(sketch: &mut MachineBuilder) {
    let fields = [("state", text("denied")), ("group", text("kvm")), ("mode", text("660"))];
    sketch.put("device", ("path", "/dev/kvm"), &fields);
    sketch.set("user", "other_groups", texts(&["kvm"]));
}

fn library(sketch: &mut MachineBuilder, wanted: Wanted<'_>, library: &Library, cause: Cause) -> Result<(), NotMade> {
    let other = |fit| library.version.as_ref().and_then(|range| range.missing(fit)).ok_or(NotMade::NotHere);
    let fields = match cause {
        Cause::LibraryMissing => {
            sketch.drop("library", &library.name);
            return Ok(());
        }
        Cause::LibraryNoHeaders => vec![("loaded_from", text(&format!("lib{}.so.1", library.name)))],
        Cause::LibraryTooOld => vec![("version", text(&other(RangeMatch::TooOld)?.to_string()))],
        Cause::LibraryTooNew => vec![("version", text(&other(RangeMatch::TooNew)?.to_string()))],
        _ => return Err(NotMade::NotHere),
    };
    sketch.put("library", ("name", &library.name), &fields);
    offer(sketch, wanted, &version_in(library.version.as_ref()));
    Ok(())
}

fn component(sketch: &mut MachineBuilder, wanted: Wanted<'_>, component: &Component, cause: Cause) -> Result<(), NotMade> {
    match (component.sort, cause) {
        (ComponentSort::Module(_), Cause::ModuleMissing) => sketch.drop("module", &component.name),
        (ComponentSort::Module(language), Cause::ModuleTooOld | Cause::ModuleTooNew) => {
            let fit = if cause == Cause::ModuleTooOld { RangeMatch::TooOld } else { RangeMatch::TooNew };
            let other = component.version.as_ref().and_then(|range| range.missing(fit)).ok_or(NotMade::NotHere)?;
            let fields = [("of", text(language.word())), ("version", text(&other.to_string()))];
            sketch.put("module", ("name", &component.name), &fields);
        }
        (ComponentSort::Headers(language), Cause::HeadersMissing) => sketch.drop("headers", language.word()),
        (ComponentSort::SystemPackage, Cause::PackageMissing) => {
            for manager in Manager::ALL.iter().filter(|manager| manager.system() == wanted.os) {
                sketch.without(&format!("installed.{}", manager.word()));
                sketch.table(&format!("installed.{}", manager.word()));
            }
        }
        (ComponentSort::KernelModule, Cause::KernelModuleMissing) => {
            sketch.set("system", "modules", texts(&["kvm", "kvm_intel"]));
        }
        _ => return Err(NotMade::NotHere),
    }
    Ok(())
}
