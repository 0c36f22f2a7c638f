//! Paths that a stranger's text names and that are not opened: opening them does more than looking.

use std::path::{Component, Path, Prefix};

/// Names that mean devices in every folder, with any extension (Microsoft's "Naming Files, Paths, and Namespaces"): reading one may wait for
/// the person to type.
const DEVICES: [&str; 6] = ["CON", "PRN", "AUX", "NUL", "CONIN$", "CONOUT$"];

fn prefix(path: &Path) -> Option<Prefix<'_>> {
    match path.components().next() {
        Some(Component::Prefix(prefix)) => Some(prefix.kind()),
        _ => None,
    }
}

fn is_on(path: &Path, machine: &std::ffi::OsStr) -> bool {
    matches!(prefix(path), Some(Prefix::UNC(other, _) | Prefix::VerbatimUNC(other, _)) if other.eq_ignore_ascii_case(machine))
}

/// Why a path on another machine is not looked at; none where it is on this one, or on one that holds a place of the person's own.
pub(in crate::live) fn elsewhere(path: &Path, own: &[&Path]) -> Option<String> {
    let (Prefix::UNC(machine, _) | Prefix::VerbatimUNC(machine, _)) = prefix(path)? else { return None };
    if own.iter().any(|place| is_on(place, machine)) {
        return None;
    }
    let machine = machine.to_string_lossy();
    Some(format!("it lies on another machine ({machine}), and Windows would sign in there with your account to look at it"))
}

/// Why a path that means a device is not looked at as a file.
pub(in crate::live) fn no_file(path: &Path) -> Option<String> {
    if matches!(prefix(path), Some(Prefix::DeviceNS(_))) {
        return Some("it is a device and no file".to_owned());
    }
    let is_device = |name: &str| {
        let stem = name.split(['.', ':']).next().unwrap_or(name).trim_end().to_ascii_uppercase();
        let numbered = ["COM", "LPT"].iter().filter_map(|start| stem.strip_prefix(start));
        let mut numbers = numbered.filter(|rest| rest.chars().count() == 1);
        DEVICES.contains(&stem.as_str()) || numbers.any(|number| number.chars().all(|c| c.is_ascii_digit() || "¹²³".contains(c)))
    };
    let names = path.components().filter_map(|part| if let Component::Normal(name) = part { name.to_str() } else { None });
    names.into_iter().find(|name| is_device(name)).map(|name| format!("{name} is the name of a device on Windows, and no file"))
}

#[cfg(test)]
mod tests {
    use super::{elsewhere, no_file};
    use rstest::rstest;
    use std::path::Path;

    #[rstest]
    #[case::another_machine(r"\\buoy-host\share\key", true)]
    #[case::with_other_slashes("//buoy-host/share/key", true)]
    #[case::its_long_form(r"\\?\UNC\buoy-host\share\key", true)]
    #[case::a_pipe_of_another_machine(r"\\buoy-host\pipe\engine", true)]
    #[case::the_projects_own(r"\\Shore\projects\other", false)]
    #[case::a_pipe(r"\\.\pipe\engine", false)]
    #[case::here(r"C:\keys\buoy", false)]
    fn other_machines_are_not_signed_in_to(#[case] path: &str, #[case] refused: bool) {
        assert_eq!(elsewhere(Path::new(path), &[Path::new(r"\\shore\projects\driftbuoy")]).is_some(), refused);
    }

    #[rstest]
    #[case::the_console(r"C:\project\con", true)]
    #[case::with_an_extension(r"C:\project\NUL.txt", true)]
    #[case::as_a_folder(r"C:\project\aux\key", true)]
    #[case::a_serial_line(r"C:\project\COM3", true)]
    #[case::the_whole_disk(r"\\.\PhysicalDrive0", true)]
    #[case::a_name_that_begins_alike(r"C:\project\console\common\lpt10", false)]
    fn devices_are_not_read(#[case] path: &str, #[case] refused: bool) {
        assert_eq!(no_file(Path::new(path)).is_some(), refused);
    }
}
