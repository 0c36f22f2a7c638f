use setup_ready_core::observation::SystemService;

/// How a service stands, from `systemctl show --property=LoadState,ActiveState,UnitFileState` (systemctl(1)), which is not translated; none
/// where it says nothing of the sort.
pub fn systemd_service(text: &str) -> Option<SystemService> {
    let value = |key: &str| text.lines().find_map(|line| line.strip_prefix(key)?.strip_prefix('=')).map(str::trim);
    Some(match (value("LoadState")?, value("ActiveState")?, value("UnitFileState").unwrap_or("")) {
        ("not-found", ..) => SystemService::Missing,
        (_, "active" | "activating" | "reloading", _) => SystemService::Running,
        (_, "failed", _) => SystemService::Failed,
        (_, _, "masked") | ("masked", ..) => SystemService::Masked,
        (_, _, "disabled") => SystemService::Disabled,
        _ => SystemService::Stopped,
    })
}

#[cfg(test)]
mod tests {
    use super::systemd_service;
    use rstest::rstest;
    use setup_ready_core::observation::SystemService::{self, Disabled, Failed, Masked, Missing, Running, Stopped};

    #[rstest]
    #[case::running("LoadState=loaded\nActiveState=active\nUnitFileState=enabled\n", Some(Running))]
    #[case::stopped_by_hand("LoadState=loaded\nActiveState=inactive\nUnitFileState=enabled\n", Some(Stopped))]
    #[case::never_enabled("ActiveState=inactive\nLoadState=loaded\nUnitFileState=disabled\n", Some(Disabled))]
    #[case::started_by_a_socket("LoadState=loaded\nActiveState=inactive\nUnitFileState=static\n", Some(Stopped))]
    #[case::masked("LoadState=masked\nActiveState=inactive\nUnitFileState=masked\n", Some(Masked))]
    #[case::crashed("LoadState=loaded\nActiveState=failed\nUnitFileState=enabled\n", Some(Failed))]
    #[case::not_there("LoadState=not-found\nActiveState=inactive\nUnitFileState=\n", Some(Missing))]
    #[case::nothing_to_read("System has not been booted with systemd as init system", None)]
    fn services_are_read_from_their_properties(#[case] text: &str, #[case] state: Option<SystemService>) {
        assert_eq!(systemd_service(text), state);
    }
}
