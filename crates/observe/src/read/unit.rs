//! Units of the service manager, in what systems print.

/// The service that a control group is named after (systemd.unit(5)): the last part that is one, of the system and not of a person's own.
pub fn unit_of_group(group: &str) -> Option<String> {
    if group.contains("/user.slice/") {
        return None;
    }
    let part = group.rsplit('/').find(|part| part.ends_with(".service"))?;
    is_a_name(part).then(|| part.to_owned())
}

/// The unit of the first socket of a list by `ss --cgroup`, each with `cgroup:PATH` at the end of its line.
pub fn unit_of_sockets(printed: &str) -> Option<String> {
    printed.lines().find_map(|line| unit_of_group(line.split_once("cgroup:")?.1.trim()))
}

/// The socket unit that listens at a port, from lines of `systemctl list-sockets`: where, which unit, what it starts.
pub fn unit_of_listed(printed: &str, port: u16) -> Option<String> {
    printed.lines().find_map(|line| {
        let mut words = line.split_whitespace();
        let (place, unit) = (words.next()?, words.next()?);
        let at = place.rsplit(':').next()?.parse::<u16>().ok()?;
        (at == port && is_a_name(unit)).then(|| unit.to_owned())
    })
}

/// Whether it can stand in a command as it is.
fn is_a_name(unit: &str) -> bool {
    unit.bytes().all(|byte| byte.is_ascii_alphanumeric() || b"-_.@:".contains(&byte)) && !unit.starts_with('-')
}

#[cfg(test)]
mod tests {
    use super::{unit_of_group, unit_of_listed, unit_of_sockets};
    use rstest::rstest;

    #[rstest]
    #[case::a_service("0::/system.slice/shore-old.service", Some("shore-old.service"))]
    #[case::below_one("/system.slice/engine.service/child", Some("engine.service"))]
    #[case::of_a_person("/user.slice/user-1000.slice/user@1000.service/app.slice/x.service", None)]
    #[case::none("/init.scope", None)]
    #[case::a_name_that_is_a_command("/system.slice/$(reboot).service", None)]
    fn a_group_is_named_after_its_service(#[case] group: &str, #[case] unit: Option<&str>) {
        assert_eq!(unit_of_group(group).as_deref(), unit);
    }

    #[test]
    fn a_socket_tells_its_unit() {
        let printed = "LISTEN 0 5 0.0.0.0:7070 0.0.0.0:* cgroup:/system.slice/shore-old.service\n";
        assert_eq!(unit_of_sockets(printed).as_deref(), Some("shore-old.service"));
        let listed = "/run/dbus/system_bus_socket dbus.socket dbus.service\n[::]:7070 shore-old.socket shore-old.service\n";
        assert_eq!(unit_of_listed(listed, 7070).as_deref(), Some("shore-old.socket"));
        assert_eq!(unit_of_listed(listed, 70), None);
    }
}
