//! The real program on Windows, or on Wine, with things made for the test.

use crate::harness::{Bench, causes_are, essence, of, text};
use std::net::TcpListener;
use std::time::{Duration, Instant};

#[test]
fn programs_of_several_kinds_are_found_and_told_apart() {
    let bench = Bench::new(
        "[require.batch]\ntool = \"buoyctl\"\nversion = \">= 2\"\n[require.old]\ntool = \"plotter\"\nversion = \">= 2\"
         [require.built]\ntool = \"buoy-mark\"\nversion = \">= 0.1\"\n[require.gone]\ntool = \"buoy-gone\"
         [require.broken]\ntool = \"buoy-broken\"\n[require.store]\ntool = \"buoy-store\"\n",
    );
    bench.program("buoyctl", "echo buoyctl 2.4.1");
    bench.program("plotter", "echo plotter 1.9");
    std::fs::copy(env!("CARGO_BIN_EXE_setup-ready"), bench.bin().join("buoy-mark.exe")).unwrap();
    std::fs::write(bench.bin().join("buoy-broken.exe"), "no program").unwrap();
    let store = bench.folder.path().join("WindowsApps");
    std::fs::create_dir(&store).unwrap();
    std::fs::write(store.join("buoy-store.exe"), "").unwrap();
    let path = std::env::var_os("PATH").unwrap();
    let folders = [bench.bin().to_owned(), store].into_iter().chain(std::env::split_paths(&path));
    let mut command = bench.command(&[], &["preflight", "--format", "json"]);
    let output = command.env("PATH", std::env::join_paths(folders).unwrap()).output().unwrap();
    let report: serde_json::Value = serde_json::from_slice(&output.stdout).unwrap_or_else(|error| panic!("{error}: {output:?}"));
    causes_are(
        &report,
        &[("batch", ""), ("old", "tool-too-old"), ("built", ""), ("gone", "tool-missing"), ("store", "tool-placeholder")],
    );
    assert_eq!(of(&report, "broken")["verdict"], "unmet", "{report:#}");
    assert_eq!(of(&report, "batch")["found"], "2.4.1");
    assert_eq!(report["machine"]["os"], "windows");
}

#[test]
fn a_held_port_names_its_holder_and_a_free_one() {
    let held = TcpListener::bind("127.0.0.1:0").unwrap();
    let port = held.local_addr().unwrap().port();
    let bench = Bench::new(&format!("[require.room]\nport = {port}\naddress = \"127.0.0.1\"\n"));
    let (status, report) = bench.report(&[], &[]);
    causes_are(&report, &[("room", "port-held")]);
    let message = essence(&report, "room").2;
    // Wine does not tell whose a connection is.
    let tells = windows_registry::CURRENT_USER.open(r"Software\Wine").is_err();
    assert!(status == 1 && (!tells || message.contains(&format!("process {}", std::process::id()))), "{message}");
    assert!(message.contains(&format!("TCP port {port} at 127.0.0.1 is already in use")), "{message}");
    drop(held);
    causes_are(&bench.report(&[], &[]).1, &[("room", "")]);
}

#[test]
fn a_hung_program_is_ended_with_what_it_started() {
    let bench = Bench::new("[require.stuck]\ntool = \"buoy-stuck\"\n");
    // The inner one writes as long as it lives.
    let mark = bench.folder.path().join("alive");
    let inner = bench.program("buoy-inner", &format!(":again\r\necho x>> \"{}\"\r\ngoto again", mark.display()));
    bench.program("buoy-stuck", &format!("cmd /c \"{}\"", inner.display()));
    let clock = Instant::now();
    let (_, report) = bench.report(&[], &["--time-limit", "2s"]);
    let (verdict, cause, _) = essence(&report, "stuck");
    assert_eq!((verdict.as_str(), cause.as_str()), ("unknown", "tool-stuck"));
    assert!(clock.elapsed() < Duration::from_secs(60));
    let size = || std::fs::metadata(&mark).unwrap().len();
    std::thread::sleep(Duration::from_millis(300));
    let before = size();
    std::thread::sleep(Duration::from_millis(500));
    assert_eq!(size(), before, "what it started is still alive");
}

#[test]
fn files_variables_and_the_machine_are_really_looked_at() {
    let bench = Bench::new(
        "[require.new]\ntool = \"buoy-new\"\n[require.charts]\nfolder = \"charts\"\nwritable = true\n[require.lost]\nfolder = \"lost\"
         [require.key]\nfile = \"~/no-such-buoy.key\"\n[require.text]\nfile = \"text\"\ncontains = \"^whale$\"
         [require.set]\nvariable = \"BUOY_SET\"\n[require.unset]\nvariable = \"BUOY_UNSET\"\n[require.later]\nvariable = \"BUOY_LATER\"
         [require.much]\ndisk = \"900 TB\"\n[require.memory]\nmemory = \"1 MB\"\n[require.cores]\ncores = 1
         [require.system]\nsystem = { windows = \">= 10\" }\n[require.pipe]\nsocket = \"//./pipe/no-such-buoy\"
         [require.paths]\nlimit = \"path-length\"\nat_least = 200\n",
    );
    std::fs::create_dir(bench.project().join("charts")).unwrap();
    bench.file("text", "a\nwhale\nb");
    // A variable for new terminals, which this one does not have.
    let settings = windows_registry::CURRENT_USER.create("Environment").unwrap();
    settings.set_string("BUOY_LATER", "set").unwrap();
    // A folder that new terminals search, and this one does not.
    let folder = bench.folder.path().join("new");
    std::fs::create_dir(&folder).unwrap();
    std::fs::write(folder.join("buoy-new.cmd"), "@echo buoy-new 1.0\r\n").unwrap();
    let before = settings.get_string("Path").ok();
    settings.set_string("Path", folder.display().to_string()).unwrap();
    let mut command = bench.command(&[], &["preflight", "--format", "json"]);
    let output = command.env("BUOY_SET", "1").output().unwrap();
    settings.remove_value("BUOY_LATER").unwrap();
    match before {
        Some(path) => settings.set_expand_string("Path", path).unwrap(),
        None => settings.remove_value("Path").unwrap(),
    }
    let report: serde_json::Value = serde_json::from_slice(&output.stdout).unwrap_or_else(|error| panic!("{error}: {output:?}"));
    causes_are(
        &report,
        &[
            ("new", "tool-off-path"),
            ("charts", ""),
            ("lost", "path-missing"),
            ("key", "path-missing"),
            ("text", ""),
            ("set", ""),
            ("unset", "variable-unset"),
            ("later", "variable-only-in-file"),
            ("much", "disk-short"),
            ("memory", ""),
            ("cores", ""),
            ("system", ""),
            ("pipe", "socket-missing"),
            ("paths", ""),
        ],
    );
    assert!(essence(&report, "later").2.contains("your user's settings"));
    // Paths are shown as people write them here.
    let shown = text(&output.stdout);
    assert!(!shown.contains(r"\\\\?\\"), "{shown}");
}
