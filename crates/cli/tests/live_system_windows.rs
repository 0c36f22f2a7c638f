//! What only Windows has, really looked at: programs with windows, services, owners, groups, ports beside each other, sockets that are files.

use crate::harness::{Bench, causes_are, essence, of};
use std::net::{TcpListener, UdpSocket};
use std::process::Command;

/// The system's own program of this name ends well.
fn succeeds(program: &str, arguments: &[&str]) -> bool {
    Command::new(program).args(arguments).output().is_ok_and(|output| output.status.success())
}

#[test]
fn a_program_with_windows_is_not_started_and_its_file_states_a_version() {
    let bench = Bench::new(
        "[require.shell]\ntool = \"explorer\"\nversion = \">= 5\"\n[require.old]\ntool = \"explorer\"\nversion = \">= 5000\"
         [require.there]\ntool = \"explorer\"\n",
    );
    let report = bench.report(&[], &[]).1;
    causes_are(&report, &[("shell", ""), ("old", "tool-too-old"), ("there", "")]);
    assert!(of(&report, "shell")["found"].as_str().unwrap().contains('.'), "{report:#}");
    let evidence = of(&report, "shell")["evidence"].to_string();
    assert!(evidence.contains("states") && !evidence.contains("--version"), "{evidence}");
}

#[test]
fn a_service_that_is_stopped_is_told_from_one_that_is_not_there() {
    let create = |name: &str, start: &str| {
        succeeds("sc", &["create", name, "binPath=", r"C:\no-such-buoy.exe", "start=", start]) || succeeds("sc", &["query", name])
    };
    if !create("buoy-stopped", "demand") || !create("buoy-disabled", "disabled") {
        println!("left out: no service can be made here");
        return;
    }
    let bench = Bench::new(
        "[require.stopped]\nsocket = \"//./pipe/buoy-stopped\"\n[require.disabled]\nsocket = \"//./pipe/buoy-disabled\"
         [require.neither]\nsocket = \"//./pipe/buoy-neither\"\n",
    );
    let report = bench.report(&[], &[]).1;
    for name in ["buoy-stopped", "buoy-disabled"] {
        succeeds("sc", &["delete", name]);
    }
    causes_are(&report, &[("stopped", "socket-missing"), ("disabled", "socket-missing"), ("neither", "socket-missing")]);
    let message = |id: &str| essence(&report, id).2;
    assert!(message("stopped").ends_with("The service buoy-stopped is installed here, but it is stopped."), "{report:#}");
    assert!(message("disabled").ends_with("buoy-disabled is installed here, but it is stopped and disabled."), "{report:#}");
    assert!(!message("neither").contains("service"), "{report:#}");
    let fixes = of(&report, "disabled")["fixes"].to_string();
    assert!(fixes.contains("buoy-disabled -StartupType Manual") || fixes.contains("sc config buoy-disabled"), "{fixes}");
}

#[test]
fn a_file_of_ones_own_is_ones_own_and_one_may_be_kept_from_writing_it() {
    let bench = Bench::new(
        "[require.mine]\nfile = \"mine\"\nowner = \"me\"\nwritable = true\n[require.locked]\nfile = \"locked\"\nwritable = true\n",
    );
    bench.file("mine", "");
    let locked = bench.file("locked", "");
    assert!(succeeds("attrib", &["+r", &locked.display().to_string()]));
    let report = bench.report(&[], &[]).1;
    causes_are(&report, &[("mine", ""), ("locked", "path-not-writable")]);
    let fix = &of(&report, "locked")["fixes"][0];
    assert!(fix["run"][0].as_str().unwrap().starts_with("attrib -r "), "{fix:#}");
    assert_eq!(fix["admin"], false, "{fix:#}");
    succeeds("attrib", &["-r", &locked.display().to_string()]);
}

#[test]
fn groups_of_the_system_are_known_by_their_usual_names() {
    let bench = Bench::new("[require.users]\ngroup = \"users\"\n[require.none]\ngroup = \"buoy-keepers\"\n");
    let report = bench.report(&[], &[]).1;
    causes_are(&report, &[("users", ""), ("none", "group-absent")]);
}

#[test]
fn a_port_that_a_program_has_on_one_address_is_not_free_for_all() {
    let (stream, datagram) = (TcpListener::bind("127.0.0.1:0").unwrap(), UdpSocket::bind("127.0.0.1:0").unwrap());
    let (first, second) = (stream.local_addr().unwrap().port(), datagram.local_addr().unwrap().port());
    let bench = Bench::new(&format!(
        "[require.stream]\nport = {first}\n[require.datagram]\nport = {second}\nprotocol = \"udp\"
         [require.beside]\nport = {first}\naddress = \"127.0.0.2\"\n"
    ));
    let report = bench.report(&[], &[]).1;
    causes_are(&report, &[("stream", "port-held"), ("datagram", "port-held"), ("beside", "")]);
    drop((stream, datagram));
    causes_are(&bench.report(&[], &[]).1, &[("stream", ""), ("datagram", "")]);
}

#[test]
fn what_is_no_socket_is_told_so() {
    let bench = Bench::new("[require.file]\nsocket = \"file\"\n[require.gone]\nsocket = \"gone.sock\"\n");
    bench.file("file", "");
    causes_are(&bench.report(&[], &[]).1, &[("file", "socket-dead"), ("gone", "socket-missing")]);
}

#[test]
fn a_program_whose_library_is_missing_says_which_and_opens_no_window() {
    let bench = Bench::new("[require.broken]\ntool = \"buoy-broken\"\n");
    // The name of a library in this program's own table of imports, changed for one that is nowhere.
    let mut bytes = std::fs::read(env!("CARGO_BIN_EXE_setup-ready")).unwrap();
    let is_name = |at: &usize| bytes.get(*at..*at + 10).is_some_and(|name| name.eq_ignore_ascii_case(b"ws2_32.dll"));
    let starts = bytes.iter().enumerate().filter(|(_, byte)| matches!(byte, b'w' | b'W')).map(|(at, _)| at);
    let places: Vec<usize> = starts.filter(is_name).collect();
    assert!(!places.is_empty());
    for at in places {
        bytes[at..at + 10].copy_from_slice(b"buoy_9.dll");
    }
    std::fs::write(bench.bin().join("buoy-broken.exe"), bytes).unwrap();
    let report = bench.report(&[], &[]).1;
    causes_are(&report, &[("broken", "tool-broken")]);
    let message = essence(&report, "broken").2;
    assert!(message.contains("missing or does not fit: buoy_9.dll is not there."), "{message}");
}

#[test]
fn a_script_is_started_by_the_program_that_opens_its_kind() {
    let bench = Bench::new(
        "[require.script]\ntool = \"buoy-script\"\nversion = \">= 2\"\n[require.window]\ntool = \"buoy-window\"
         [require.nothing]\ntool = \"buoy-nothing\"\n",
    );
    // What this kind is opened with prints what it is given.
    let opener = bench.folder.path().join("opener.cmd");
    std::fs::write(&opener, "@echo %~n1 2.4.1 %2\r\n").unwrap();
    for (name, extension) in [("buoy-script", "buoy9"), ("buoy-window", "buoy8"), ("buoy-nothing", "buoy7")] {
        std::fs::write(bench.bin().join(format!("{name}.{extension}")), "").unwrap();
    }
    let classes = windows_registry::CURRENT_USER.create(r"Software\Classes").unwrap();
    let system = std::env::var("SystemRoot").unwrap();
    for (extension, command) in
        [("buoy9", format!("\"{}\" \"%1\" %*", opener.display())), ("buoy8", format!(r"{system}\explorer.exe %1"))]
    {
        classes.create(format!(".{extension}")).unwrap().set_string("", format!("{extension}file")).unwrap();
        classes.create(format!(r"{extension}file\shell\open\command")).unwrap().set_string("", command).unwrap();
    }
    let mut command = bench.command(&[], &["preflight", "--format", "json"]);
    let output = command.env("PATHEXT", ".EXE;.CMD;.BUOY9;.BUOY8;.BUOY7").output().unwrap();
    for extension in ["buoy9", "buoy8"] {
        classes.remove_tree(format!(".{extension}")).unwrap();
        classes.remove_tree(format!("{extension}file")).unwrap();
    }
    let report: serde_json::Value = serde_json::from_slice(&output.stdout).unwrap_or_else(|error| panic!("{error}: {output:?}"));
    causes_are(&report, &[("script", ""), ("window", "tool-failed"), ("nothing", "tool-failed")]);
    assert_eq!(of(&report, "script")["found"], "2.4.1");
    assert!(essence(&report, "window").2.contains("explorer.exe, which opens a window"), "{report:#}");
    assert!(essence(&report, "nothing").2.contains("no program is set to open files that end in .buoy7"), "{report:#}");
}

#[test]
fn a_key_that_others_may_read_is_told_from_one_that_is_private() {
    let bench =
        Bench::new("[require.open]\nfile = \"open\"\nmode = \"600\"\n[require.closed]\nfile = \"closed\"\nmode = \"600\"\n");
    let (open, closed) = (bench.file("open", ""), bench.file("closed", ""));
    let user = format!("{}:F", std::env::var("USERNAME").unwrap());
    // Wine keeps access lists as the modes of the system below, and has no program that sets them.
    let wine = windows_registry::CURRENT_USER.open(r"Software\Wine").is_ok();
    for (path, rights, mode) in [(&open, "Users:R", "644"), (&closed, "", "600")] {
        let path = path.display().to_string();
        let set = if wine {
            let below = std::fs::canonicalize(&path).unwrap().display().to_string();
            let below = below.replace(r"\\?\C:", r"Z:").replace('\\', "/");
            let prefix = std::env::var("WINEPREFIX").unwrap();
            let below = below.replace("Z:", &format!("{prefix}/drive_c"));
            succeeds("cmd", &["/c", "start", "/wait", "/unix", "/bin/chmod", mode, &below])
        } else {
            succeeds("icacls", &[&path, "/inheritance:r", "/grant:r", &user])
                && (rights.is_empty() || succeeds("icacls", &[&path, "/grant", rights]))
        };
        assert!(set, "{path}");
    }
    let report = bench.report(&[], &[]).1;
    causes_are(&report, &[("open", "path-mode"), ("closed", "")]);
    assert!(essence(&report, "open").2.ends_with("but only you should be able to use it."), "{report:#}");
    let fix = &of(&report, "open")["fixes"][0]["run"][0];
    assert!(fix.as_str().unwrap().contains("/inheritance:r /grant:r"), "{fix}");
}

#[test]
fn a_strangers_guide_opens_no_device_and_signs_in_nowhere() {
    let bench = Bench::new(
        "[require.share]\nfile = \"//buoy-host/share/key\"\n[require.pipe]\nsocket = '\\\\buoy-host\\pipe\\engine'
         [require.console]\nfile = \"con\"\ncontains = \"x\"\n[require.env]\nvariable = \"BUOY_NOWHERE\"\nenv_file = \"CON\"
         [require.pinned]\ntool = \"cmd\"\nversion_from = \"aux.txt\"\n[require.disk]\nfolder = '\\\\.\\PhysicalDrive0'
         [require.room]\ndisk = \"1 MB\"\nat = '\\\\buoy-host\\share'\n[require.odd]\ntool = \"c:cmd\"
         [require.line]\ndevice = \"COM9\"\n",
    );
    let (_, report) = bench.report(&[], &["--time-limit", "5s"]);
    for id in ["share", "pipe", "console", "env", "disk", "room"] {
        let (verdict, cause, message) = essence(&report, id);
        assert_eq!((verdict.as_str(), cause.as_str()), ("unknown", "could-not-look"), "{id}: {message}");
        assert!(message.contains("is not opened: "), "{id}: {message}");
    }
    assert!(essence(&report, "share").2.contains("Windows would sign in there with your account"), "{report:#}");
    assert_eq!(essence(&report, "odd").1, "tool-missing");
    // A serial line is looked up, and never opened.
    assert_eq!(essence(&report, "line").1, "device-missing");
}
