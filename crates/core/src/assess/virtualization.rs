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
    if os != Os::Linux {
        return Err(Stop::NoAnswer(
            Cause::NotSupportedHere,
            format!("using it on {} is checked by a later version of the software", os.name()),
        ));
    }
    match inquiry.device(KVM)? {
        Device::Opens => Ok(Finding::met("usable", "Virtual machines can be run with hardware help.")),
        Device::Missing if surroundings.container == Some(true) => {
            let message = "You are inside a container, and it was not given the virtualization device (/dev/kvm).";
            unmet(Cause::VirtInContainer, "not in this container", message)
        }
        Device::Missing | Device::Dead => {
            let message = "The processor and the firmware are ready, but the kernel's virtualization module (kvm) is not loaded.";
            unmet(Cause::VirtModuleMissing, "module not loaded", message)
        }
        Device::Busy => {
            unmet(Cause::VirtHeld, "held by another program", "Another hypervisor is using the processor's virtualization now.")
        }
        Device::Denied(group, _) => denied(inquiry, group.as_deref()),
    }
}

fn denied(inquiry: &mut Inquiry<'_>, group: Option<&str>) -> Result<Finding, Stop> {
    let listed = match inquiry.database_groups() {
        Ok(groups) => group.is_some_and(|group| groups.iter().any(|one| one == group)),
        Err(Stop::Pending) => return Err(Stop::Pending),
        Err(Stop::NoAnswer(..)) => false,
    };
    let in_session = match inquiry.account() {
        Ok(account) => group.is_some_and(|group| account.groups.iter().any(|one| one == group)),
        Err(Stop::Pending) => return Err(Stop::Pending),
        Err(Stop::NoAnswer(..)) => false,
    };
    let name = group.unwrap_or("that owns it");
    let particulars = Particulars { path: Some(KVM.to_owned()), group: group.map(ToOwned::to_owned), ..Particulars::default() };
    let finding = if listed && !in_session {
        let message = format!("You were added to the group {name}, which may use {KVM}, but this session began before that.");
        Finding::unmet(Cause::VirtDeniedUntilSignIn, message).found("denied until you sign in again")
    } else {
        let message = format!("Virtualization works here, but {KVM} is only for the group {name}, and you are not in it.");
        Finding::unmet(Cause::VirtDenied, message).found("permission denied")
    };
    Ok(finding.with(particulars))
}
