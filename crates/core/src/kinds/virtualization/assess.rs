//! `virtualization`: the first broken link of the chain hardware, firmware, kernel, device, permission.

use crate::assess::kind::Assess;
use crate::finding::{Conclusion, Met, VirtualizationReason};
use crate::guide::{Access, Virtualization};
use crate::inquiry::{Inquiry, Stop, if_known};
use crate::observation::{DeviceState, Os};
use crate::prelude::*;
use crate::probe::Probe;

/// Linux gives hypervisors to programs through this device (kernel documentation, virt/kvm/api).
const KVM: &str = "/dev/kvm";

pub(crate) fn assess(inquiry: &mut Inquiry<'_>, need: Virtualization) -> Result<Conclusion, Stop> {
    inquiry.want(Probe::System);
    inquiry.want(Probe::Surroundings);
    inquiry.want(Probe::Processor);
    inquiry.want(Probe::Device { path: KVM.to_owned(), access: Access::Write });
    let os = inquiry.system()?.os;
    let surroundings = inquiry.surroundings()?;
    let processor = inquiry.processor()?;
    // What the device does decides; what the processor says of itself only explains.
    let device = if os == Os::Linux { if_known(inquiry.device(KVM, Access::Write))? } else { None };
    if let Some(DeviceState::Opens | DeviceState::Denied(..) | DeviceState::Busy) = device {
        if need == Virtualization::Present {
            return Ok(Met::VirtualizationPresent.into());
        }
        return by_device(inquiry, surroundings.container == Some(true));
    }
    let guest = surroundings.virtual_machine == Some(true) || processor.hypervisor == Some(true);
    let inside_windows = surroundings.wsl == Some(true);
    match processor.able {
        Some(true) => {}
        Some(false) if inside_windows || guest => return Ok(VirtualizationReason::NestingOff { inside_windows }.into()),
        Some(false) => return Ok(VirtualizationReason::ProcessorLacks.into()),
        None => return Ok(VirtualizationReason::ProcessorUnknown.into()),
    }
    if need == Virtualization::Present {
        return Ok(Met::VirtualizationPresent.into());
    }
    if processor.offered == Some(false) {
        return Ok(VirtualizationReason::FirmwareOff.into());
    }
    match os {
        Os::Linux => by_device(inquiry, surroundings.container == Some(true)),
        Os::Windows => by_feature(inquiry),
        // The system's own framework needs no device and no group.
        Os::Macos => Ok(Met::VirtualizationUsable.into()),
    }
}

/// An optional feature of the system gives hypervisors to programs.
fn by_feature(inquiry: &mut Inquiry<'_>) -> Result<Conclusion, Stop> {
    let hypervisor = inquiry.hypervisor()?;
    Ok(match (&hypervisor.held_by, hypervisor.enabled, hypervisor.started) {
        (Some(holder), ..) => VirtualizationReason::Held { by: Some(holder.clone()) }.into(),
        (None, Some(true), Some(false)) => VirtualizationReason::NotStarted.into(),
        (None, Some(true), _) => Met::VirtualizationUsable.into(),
        (None, Some(false), _) => VirtualizationReason::FeatureOff.into(),
        (None, None, _) => VirtualizationReason::FeatureUnknown.into(),
    })
}

/// A device gives hypervisors to programs.
fn by_device(inquiry: &mut Inquiry<'_>, container: bool) -> Result<Conclusion, Stop> {
    Ok(match inquiry.device(KVM, Access::Write)? {
        DeviceState::Opens => Met::VirtualizationUsable.into(),
        DeviceState::Missing if container => VirtualizationReason::NotInContainer.into(),
        DeviceState::Missing | DeviceState::Dead => VirtualizationReason::ModuleMissing.into(),
        DeviceState::Busy => VirtualizationReason::Held { by: None }.into(),
        DeviceState::Denied(group, _) => {
            let (device, group) = (KVM.to_owned(), group.clone());
            let soon = crate::kinds::group::assess::comes_with_sign_in(inquiry, group.as_deref())?;
            if soon {
                VirtualizationReason::DeniedUntilSignIn { device, group }.into()
            } else {
                VirtualizationReason::Denied { device, group }.into()
            }
        }
    })
}

impl Assess for Virtualization {
    fn assess(&self, inquiry: &mut Inquiry<'_>, _: usize) -> Result<Conclusion, Stop> {
        assess(inquiry, *self)
    }
}
