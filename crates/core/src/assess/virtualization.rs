//! `virtualization`: the first broken link of the chain hardware, firmware, kernel, device, permission.

use crate::cause::Cause;
use crate::finding::{Finding, Particulars};
use crate::guide::Virtualization;
use crate::inquiry::{Inquiry, Stop};
use crate::observation::{Device, Os};
use crate::prelude::*;
use crate::probe::Probe;

/// Linux gives hypervisors to programs through this device (kernel documentation, virt/kvm/api).
const KVM: &str = "/dev/kvm";

pub(super) fn find(inquiry: &mut Inquiry<'_>, need: Virtualization) -> Result<Finding, Stop> {
    inquiry.want(Probe::System);
    inquiry.want(Probe::Surroundings);
    inquiry.want(Probe::Processor);
    let os = inquiry.system()?.os;
    let surroundings = inquiry.surroundings()?;
    let processor = inquiry.processor()?;
    let unmet = |cause: Cause, found: &str, message: &str| Ok(Finding::unmet(cause, message).found(found));
    let guest = surroundings.virtual_machine == Some(true) || processor.hypervisor == Some(true);
    match processor.able {
        Some(true) => {}
        Some(false) if surroundings.wsl == Some(true) => {
            let message =
                "This Linux runs inside Windows, and Windows does not let it run virtual machines in turn (nesting is off).";
            return unmet(Cause::VirtNestingOff, "nesting is off", message);
        }
        Some(false) if guest => {
            let message =
                "This is a virtual machine, and its host does not let it run virtual machines in turn (nesting is off).";
            return unmet(Cause::VirtNestingOff, "nesting is off", message);
        }
        Some(false) => {
            let message = "This processor cannot run virtual machines with hardware help. No setting can change that.";
            return unmet(Cause::VirtCpuLacks, "the processor lacks it", message);
        }
        None => {
            let message = "Whether this processor can run virtual machines with hardware help could not be found out.";
            return Ok(Finding::unknown(Cause::CouldNotLook, message));
        }
    }
    if need == Virtualization::Present {
        return Ok(Finding::met("the processor has it", "The processor can run virtual machines with hardware help."));
    }
    if processor.offered == Some(false) {
        let message = "The processor can run virtual machines, but the machine's firmware (BIOS or UEFI) has that switched off.";
        return unmet(Cause::VirtFirmwareOff, "off in the firmware", message);
    }
    match os {
        Os::Linux => by_device(inquiry, surroundings.container == Some(true)),
        Os::Windows => by_feature(inquiry),
        // The system's own framework needs no device and no group.
        Os::Macos => Ok(usable()),
    }
}

fn usable() -> Finding {
    Finding::met("usable", "Virtual machines can be run with hardware help.")
}

fn held(holder: &str) -> Finding {
    let message = format!("{holder} is using the processor's virtualization now, and only one program can.");
    Finding::unmet(Cause::VirtHeld, message).found("held by another program")
}

/// An optional feature of the system gives hypervisors to programs.
fn by_feature(inquiry: &mut Inquiry<'_>) -> Result<Finding, Stop> {
    let hypervisor = inquiry.hypervisor()?;
    if let Some(holder) = &hypervisor.held_by {
        return Ok(held(holder));
    }
    Ok(match (hypervisor.enabled, hypervisor.started) {
        (Some(true), Some(false)) => Finding::unmet(
            Cause::VirtFeatureOff,
            "The system's own feature for virtual machines is switched on, but the system has not started its hypervisor: it was told not to, \
             or has not been restarted since.",
        )
        .found("not started")
        .with(Particulars { not_started: true, ..Particulars::default() }),
        (Some(true), _) => usable(),
        (Some(false), _) => Finding::unmet(
            Cause::VirtFeatureOff,
            "The processor and the firmware are ready, but the system's own feature for virtual machines is switched off.",
        )
        .found("feature is off"),
        (None, _) => Finding::unknown(
            Cause::CouldNotLook,
            "Whether the system's feature for virtual machines is switched on could not be found out.",
        ),
    })
}

/// A device gives hypervisors to programs.
fn by_device(inquiry: &mut Inquiry<'_>, container: bool) -> Result<Finding, Stop> {
    let unmet = |cause: Cause, found: &str, message: &str| Ok(Finding::unmet(cause, message).found(found));
    match inquiry.device(KVM, crate::guide::Access::Write)? {
        Device::Opens => Ok(usable()),
        Device::Missing if container => {
            let message = "You are inside a container, and it was not given the virtualization device (/dev/kvm).";
            unmet(Cause::VirtInContainer, "not in this container", message)
        }
        Device::Missing | Device::Dead => {
            let message = "The processor and the firmware are ready, but the kernel's virtualization module (kvm) is not loaded.";
            unmet(Cause::VirtModuleMissing, "module not loaded", message)
        }
        Device::Busy => Ok(held("Another hypervisor")),
        Device::Denied(group, _) => denied(inquiry, group.as_deref()),
    }
}

fn denied(inquiry: &mut Inquiry<'_>, group: Option<&str>) -> Result<Finding, Stop> {
    let soon = super::group::comes_with_sign_in(inquiry, group)?;
    let name = group.unwrap_or("that owns it");
    let particulars = Particulars { path: Some(KVM.to_owned()), group: group.map(ToOwned::to_owned), ..Particulars::default() };
    let finding = if soon {
        let message = format!("You were added to the group {name}, which may use {KVM}, but this session began before that.");
        Finding::unmet(Cause::VirtDeniedUntilSignIn, message).found("denied until you sign in again")
    } else {
        let message = format!("Virtualization works here, but {KVM} is only for the group {name}, and you are not in it.");
        Finding::unmet(Cause::VirtDenied, message).found("permission denied")
    };
    Ok(finding.with(particulars))
}
