//! This machine, asked probe by probe, against what other programs say of it.

use build_setup_ready::{Host, Live};
use rstest::rstest;
use setup_ready_core::guide::{self, Access, Guide, Protocol};
use setup_ready_core::manager::Manager;
use setup_ready_core::observation::{Account, DeviceState, Observation, ProgramCopy};
use setup_ready_core::probe::{PortPlace, Probe};
use std::collections::BTreeSet;
use std::os::unix::fs::{PermissionsExt, symlink};
use std::path::Path;
use std::process::Command;

fn program(folder: &Path, name: &str, mode: u32) {
    std::fs::create_dir_all(folder).unwrap();
    std::fs::write(folder.join(name), "#!/bin/sh\n").unwrap();
    std::fs::set_permissions(folder.join(name), std::fs::Permissions::from_mode(mode)).unwrap();
}

fn output(program: &str, arguments: &[&str]) -> String {
    String::from_utf8(Command::new(program).args(arguments).output().unwrap().stdout).unwrap().trim().to_owned()
}

fn words(text: &str) -> BTreeSet<String> {
    text.split_whitespace().map(ToOwned::to_owned).collect()
}

fn copies(live: &Live, name: &str) -> Vec<ProgramCopy> {
    let Observation::Program(copies) = live.observe(&Probe::Program { name: name.into() }) else { panic!("no copies") };
    copies
}

/// A guide that asks for nothing that matters here.
fn no_guide() -> Guide {
    guide::parse("format = 1\n[project]\nname = \"Driftbuoy\"\n[require.x]\ncores = 1\n").unwrap()
}

#[test]
fn copies_come_in_the_order_of_path_with_their_real_files() {
    let root = tempfile::tempdir().unwrap();
    let root = root.path().canonicalize().unwrap();
    let project = root.join("project");
    program(&root.join("a"), "buoy", 0o644);
    program(&root.join("b"), "buoy", 0o755);
    program(&project.join("bin"), "buoy", 0o755);
    std::fs::create_dir(root.join("c")).unwrap();
    symlink(root.join("b/buoy"), root.join("c/buoy")).unwrap();
    std::fs::create_dir_all(root.join("d/buoy")).unwrap();
    let path = ["a", "b", "", "b", "nowhere", "c", "d", "project/bin"]
        .map(|folder| if folder.is_empty() { String::new() } else { root.join(folder).display().to_string() })
        .join(":");
    let live = Live::new(&project, &no_guide()).path(path);
    let seen: Vec<(String, String, bool, bool)> = copies(&live, "buoy")
        .into_iter()
        .map(|copy| {
            let short = |path: &str| path.strip_prefix(&format!("{}/", root.display())).unwrap().to_owned();
            (short(&copy.path), short(&copy.real_path), copy.executable, copy.in_project)
        })
        .collect();
    let expected = [
        ("a/buoy", "a/buoy", false, false),
        ("b/buoy", "b/buoy", true, false),
        ("c/buoy", "b/buoy", true, false),
        ("project/bin/buoy", "project/bin/buoy", true, true),
    ];
    assert_eq!(seen, expected.map(|(path, real, executable, inside)| (path.to_owned(), real.to_owned(), executable, inside)));
    assert!(copies(&live, "sh").is_empty());
}

#[test]
fn package_managers_are_those_whose_program_can_be_started() {
    let root = tempfile::tempdir().unwrap();
    program(&root.path().join("bin"), "brew", 0o755);
    program(&root.path().join("bin"), "apt-get", 0o755);
    program(&root.path().join("bin"), "dnf", 0o644);
    let live = Live::new(root.path(), &no_guide()).path(root.path().join("bin"));
    assert_eq!(live.observe(&Probe::Managers), Observation::Managers(vec![Manager::Apt, Manager::Brew]));
}

#[test]
fn the_account_is_the_one_that_id_names() {
    let live = Live::new(".", &no_guide());
    let Observation::Account(Account { name, root, groups, .. }) = live.observe(&Probe::Account) else { panic!("no account") };
    assert_eq!(name.unwrap(), output("id", &["-un"]));
    assert_eq!(root, output("id", &["-u"]) == "0");
    assert_eq!(groups.into_iter().collect::<BTreeSet<String>>(), words(&output("id", &["-Gn"])));
    let Observation::DatabaseGroups(groups) = live.observe(&Probe::DatabaseGroups) else { panic!("no groups") };
    assert_eq!(groups.into_iter().collect::<BTreeSet<String>>(), words(&output("id", &["-Gn", &output("id", &["-un"])])));
}

#[test]
fn the_system_is_the_one_that_uname_names() {
    let Observation::System(system) = Live::new(".", &no_guide()).observe(&Probe::System) else { panic!("no system") };
    assert_eq!(system.version.unwrap(), output("uname", &["-r"]));
    assert_eq!(system.arch, output("uname", &["-m"]));
}

#[test]
fn room_on_a_disk_is_what_df_says_an_ordinary_user_has() {
    let folder = tempfile::tempdir().unwrap();
    let place = folder.path().join("not/there");
    let Observation::DiskRoom(room) = Live::new(".", &no_guide()).observe(&Probe::DiskRoom { path: place.display().to_string() })
    else {
        panic!("no room")
    };
    assert_eq!(room.existing, folder.path().canonicalize().unwrap().display().to_string());
    assert!(room.writable && !room.read_only);
    let df: u64 = output("df", &["--output=avail", "-B1", &room.existing]).lines().last().unwrap().trim().parse().unwrap();
    // Others write meanwhile.
    assert!(room.available_bytes.abs_diff(df) < 2_000_000_000, "{} {df}", room.available_bytes);
}

#[rstest]
#[case::one_that_opens("/dev/null", DeviceState::Opens)]
#[case::one_that_is_not_there("/dev/no-such-buoy", DeviceState::Missing)]
fn devices_are_opened(#[case] path: &str, #[case] device: DeviceState) {
    assert_eq!(
        Live::new(".", &no_guide()).observe(&Probe::Device { path: path.into(), access: Access::Write }),
        Observation::Device(device)
    );
}

#[test]
#[ignore = "only the administrator may make device nodes"]
fn a_device_without_a_driver_is_dead() {
    let folder = tempfile::tempdir().unwrap();
    let node = folder.path().join("node");
    // Number 240 is for local use, and nobody drives it here.
    assert!(Command::new("mknod").arg(&node).args(["c", "240", "0"]).status().unwrap().success());
    assert_eq!(
        Live::new(".", &no_guide()).observe(&Probe::Device { path: node.display().to_string(), access: Access::Write }),
        Observation::Device(DeviceState::Dead)
    );
}

#[test]
fn names_that_are_no_modules_are_not_looked_for() {
    let live = Live::new(".", &no_guide());
    assert!(matches!(live.observe(&Probe::Module { name: "../kernel".into() }), Observation::CouldNotLook(_)));
    assert_eq!(live.observe(&Probe::Module { name: "no_such_buoy".into() }), Observation::Module(false));
}

#[test]
fn of_several_processes_that_share_a_port_the_first_one_holds_it() {
    let listener = std::net::TcpListener::bind("127.0.0.1:0").unwrap();
    rustix::io::fcntl_setfd(&listener, rustix::io::FdFlags::empty()).unwrap();
    let mut child = Command::new("sleep").arg("60").spawn().unwrap();
    rustix::io::fcntl_setfd(&listener, rustix::io::FdFlags::CLOEXEC).unwrap();
    let port = listener.local_addr().unwrap().port();
    let place = PortPlace { protocol: Protocol::Tcp, address: None, port };
    let seen = Live::new(".", &no_guide()).observe(&Probe::PortHolder(place));
    child.kill().unwrap();
    child.wait().unwrap();
    let Observation::PortHolder(Some(holder)) = seen else { panic!("{seen:?}") };
    assert_eq!(holder.pid, Some(std::process::id()));
}

#[test]
fn locales_are_those_that_the_system_lists() {
    let Observation::Locales(locales) = Live::new(".", &no_guide()).observe(&Probe::Locales) else { panic!("no locales") };
    // POSIX has this one on every system (Base Definitions 7.2).
    assert!(locales.iter().any(|name| name == "POSIX" || name == "C"), "{locales:?}");
}
