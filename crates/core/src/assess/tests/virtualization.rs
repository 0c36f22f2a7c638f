use super::*;

struct Chain {
    able: Option<bool>,
    offered: Option<bool>,
    guest: bool,
    container: bool,
    device: DeviceState,
    database: &'static [&'static str],
}

const WHOLE: Chain =
    Chain { able: Some(true), offered: Some(true), guest: false, container: false, device: DeviceState::Opens, database: &[] };

fn denied() -> DeviceState {
    DeviceState::Denied(Some("kvm".into()), Some(0o660))
}

#[rstest]
#[case::usable(WHOLE, None)]
#[case::the_processor_lacks_it(Chain { able: Some(false), device: DeviceState::Missing, ..WHOLE }, Some(Cause::VirtCpuLacks))]
#[case::nesting_is_off(Chain { able: Some(false), guest: true, device: DeviceState::Missing, ..WHOLE }, Some(Cause::VirtNestingOff))]
#[case::firmware_has_it_off(Chain { offered: Some(false), device: DeviceState::Missing, ..WHOLE }, Some(Cause::VirtFirmwareOff))]
#[case::the_device_decides(Chain { able: Some(false), guest: true, ..WHOLE }, None)]
#[case::a_device_that_one_may_not_open_is_there_too(Chain { able: Some(false), device: denied(), ..WHOLE }, Some(Cause::VirtDenied))]
#[case::no_module(Chain { device: DeviceState::Missing, ..WHOLE }, Some(Cause::VirtModuleMissing))]
#[case::a_node_without_a_driver(Chain { device: DeviceState::Dead, ..WHOLE }, Some(Cause::VirtModuleMissing))]
#[case::not_in_the_container(Chain { device: DeviceState::Missing, container: true, ..WHOLE }, Some(Cause::VirtInContainer))]
#[case::held(Chain { device: DeviceState::Busy, ..WHOLE }, Some(Cause::VirtHeld))]
#[case::denied(Chain { device: denied(), ..WHOLE }, Some(Cause::VirtDenied))]
#[case::denied_until_sign_in(Chain { device: denied(), database: &["kvm"], ..WHOLE }, Some(Cause::VirtDeniedUntilSignIn))]
#[case::nobody_knows(Chain { able: None, device: DeviceState::Missing, ..WHOLE }, Some(Cause::CouldNotLook))]
fn virtualization_names_the_first_broken_link(#[case] chain: Chain, #[case] cause: Option<Cause>) {
    let mut script = debian();
    let around = Surroundings {
        wsl: Some(false),
        outside: Some(false),
        container: Some(chain.container),
        virtual_machine: Some(chain.guest),
        ci: Some(false),
    };
    script.insert(Probe::Surroundings, Observation::Surroundings(around));
    let processor = Processor { able: chain.able, offered: chain.offered, hypervisor: Some(chain.guest) };
    script.insert(Probe::Processor, Observation::Processor(processor));
    script.insert(
        Probe::Device { path: "/dev/kvm".into(), access: crate::guide::Access::Write },
        Observation::Device(chain.device),
    );
    let groups = chain.database.iter().map(|group| (*group).to_owned()).collect();
    script.insert(Probe::DatabaseGroups, Observation::DatabaseGroups(groups));
    assert_eq!(find("virtualization = \"usable\"", &script).cause, cause);
}
