//! The real program on this real machine: things made for the test, looked at for real.
#![allow(
    clippy::unwrap_used,
    clippy::expect_used,
    clippy::print_stdout,
    clippy::indexing_slicing,
    clippy::panic,
    reason = "helpers of tests may be blunt"
)]
#![cfg(target_os = "linux")]

mod bench;

use bench::{Bench, essence, of, text};
use std::net::{TcpListener, UdpSocket};
use std::process::Command;
use std::time::{Duration, Instant};

fn is_root() -> bool {
    text(&Command::new("id").arg("-u").output().unwrap().stdout).trim() == "0"
}

/// Becomes a user without rights, where the test is run by the administrator; else it is one already.
fn without_rights() -> Vec<&'static str> {
    if is_root() { vec!["setpriv", "--reuid=65534", "--regid=65534", "--clear-groups"] } else { Vec::new() }
}

#[test]
fn tools_are_found_run_and_compared() {
    let bench = Bench::new(
        "[require.met]\ntool = \"buoy-met\"\nversion = \">= 2, < 3\"\n[require.missing]\ntool = \"buoy-nowhere\"\nwhy = \"It paints.\"
         packages = { apt = \"buoy\", dnf = \"buoy\" }\n[require.old]\ntool = \"buoy-old\"\nversion = \">= 2\"
         [require.errors]\ntool = \"buoy-err\"\nversion = \">= 4\"\n[require.broken]\ntool = \"buoy-broken\"
         [require.plain]\ntool = \"buoy-plain\"\n[require.failing]\ntool = \"buoy-fails\"\n[require.escapes]\ntool = \"buoy-red\"\n",
    );
    bench.program("buoy-met", "echo buoy-met 2.4.1");
    bench.program("buoy-old", "echo buoy-old version 1.9");
    bench.program("buoy-err", "echo buoy-err 4.5 >&2");
    bench.program("buoy-fails", "exit 9");
    bench.program("buoy-red", "printf '\\033[31m1.5\\033[0m\\n\\033]0;gotcha\\007'");
    let broken = bench.program("buoy-broken", "");
    std::fs::write(&broken, "#!/nowhere/at/all\n").unwrap();
    let plain = bench.program("buoy-plain", "");
    std::fs::set_permissions(&plain, std::os::unix::fs::PermissionsExt::from_mode(0o644)).unwrap();
    let (status, report) = bench.report(&[], &[]);
    assert_eq!((status, report["outcome"].as_str()), (1, Some("not-ready")));
    let cause = |id| essence(&report, id).1;
    let causes = ["met", "missing", "old", "errors", "broken", "plain", "failing", "escapes"].map(cause);
    assert_eq!(causes, ["", "tool-missing", "tool-too-old", "", "tool-broken", "tool-not-executable", "tool-failed", ""]);
    assert_eq!(essence(&report, "old").2, "buoy-old 1.9 is older than 2, which this project needs.");
    let evidence = &of(&report, "errors")["evidence"][1];
    assert!(evidence["asked"].as_str().unwrap().ends_with("/bin/buoy-err --version"));
    assert_eq!(evidence["saw"], "buoy-err 4.5");
    // Nothing that a program prints reaches the terminal raw.
    let shown = text(&bench.run(&["preflight", "-v"]).stdout);
    assert!(shown.contains(r"\x1b[31m1.5\x1b[0m") && shown.contains(r"\x1b]0;gotcha\x07"), "{shown}");
    assert!(!shown.contains('\u{1b}') && !shown.contains('\u{7}'));
}

#[test]
fn a_stuck_tool_costs_its_limit_and_leaves_nothing_behind() {
    let bench = Bench::new("[require.stuck]\ntool = \"buoy-stuck\"\n[require.room]\ncores = 1\n");
    let pid = bench.folder.path().join("pid");
    bench.program("buoy-stuck", &format!("sleep 987 & echo $! > {}; sleep 987", pid.display()));
    let (status, report) = bench.report(&[], &["--time-limit", "300ms"]);
    assert_eq!((status, essence(&report, "stuck").1.as_str()), (1, "tool-stuck"));
    let gone = (0..100).any(|_| {
        std::thread::sleep(Duration::from_millis(20));
        !std::path::Path::new(&format!("/proc/{}", std::fs::read_to_string(&pid).unwrap().trim())).exists()
    });
    assert!(gone);
}

#[test]
fn an_interruption_ends_children_and_prints_what_is_known() {
    let bench = Bench::new("[require.stuck]\ntool = \"buoy-stuck\"\n[require.room]\ncores = 1\n");
    let pid = bench.folder.path().join("pid");
    bench.program("buoy-stuck", &format!("echo $$ > {}; exec sleep 987", pid.display()));
    let mut command = bench.command(&[], &["preflight", "--format", "json", "--time-limit", "60s"]);
    let child = command.stdout(std::process::Stdio::piped()).stderr(std::process::Stdio::null()).spawn().unwrap();
    let begun = Instant::now();
    while std::fs::read_to_string(&pid).unwrap_or_default().trim().is_empty() && begun.elapsed() < Duration::from_secs(20) {
        std::thread::sleep(Duration::from_millis(10));
    }
    Command::new("kill").args(["-INT", &child.id().to_string()]).status().unwrap();
    let output = child.wait_with_output().unwrap();
    assert_eq!(output.status.code(), Some(130));
    let report: serde_json::Value = serde_json::from_slice(&output.stdout).unwrap();
    assert_eq!(report["interrupted"], true);
    assert_eq!((essence(&report, "stuck").0.as_str(), essence(&report, "room").0.as_str()), ("unknown", "met"));
    assert!(!std::path::Path::new(&format!("/proc/{}", std::fs::read_to_string(&pid).unwrap().trim())).exists());
}

#[test]
fn ports_are_really_bound() {
    let (tcp, udp) = (TcpListener::bind("127.0.0.1:0").unwrap(), UdpSocket::bind("0.0.0.0:0").unwrap());
    let (tcp, udp) = (tcp.local_addr().map(|at| (tcp, at.port())).unwrap(), udp.local_addr().map(|at| (udp, at.port())).unwrap());
    let bench = Bench::new(&format!(
        "[require.held]\nport = {0}\n[require.udp]\nport = {1}\nprotocol = \"udp\"\n[require.elsewhere]\nport = {0}\naddress = \"127.9.9.9\"
         [require.nowhere]\nport = {0}\naddress = \"198.51.100.7\"\n[require.low]\nport = 81\naddress = \"127.0.0.1\"
         [require.set]\nport = {0}\nset_by = {{ variable = \"BUOY_TEST_PORT\", env_file = \".env\" }}\n",
        tcp.1, udp.1
    ));
    let free = TcpListener::bind("0.0.0.0:0").unwrap().local_addr().unwrap().port();
    bench.file(".env", &format!("# the page\nexport BUOY_TEST_PORT=\"{free}\"\n"));
    let (_, report) = bench.report(&[], &["--only", "held,udp,elsewhere,nowhere,set"]);
    let own = format!("(process {})", std::process::id());
    assert_eq!(essence(&report, "held").1, "port-held");
    assert!(essence(&report, "held").2.contains(&own), "{report}");
    assert!(essence(&report, "udp").2.contains(&own), "{report}");
    assert_eq!(essence(&report, "elsewhere").0, "met");
    assert_eq!(essence(&report, "nowhere").1, "port-no-address");
    assert_eq!(essence(&report, "set").2, format!("TCP port {free} is free (BUOY_TEST_PORT in .env, line 2 sets the number)."));
    // Another user sees that it is held and whose it is, and may not bind low ports.
    let (_, report) = bench.report(&without_rights(), &["--only", "held,low"]);
    assert_eq!(essence(&report, "low").1, "port-privileged");
    if is_root() {
        assert!(essence(&report, "held").2.contains("a program of user root; only the administrator"), "{report}");
    }
}

#[test]
fn disks_are_judged_at_the_nearest_folder_that_exists() {
    let bench = Bench::new(
        "[require.short]\ndisk = \"900 TB\"\nat = \"not/there/yet\"\n[require.fits]\ndisk = \"1 kB\"\nat = \"not/there/yet\"
         [require.denied]\ndisk = \"1 kB\"\nat = \"/root/charts\"\n[require.together]\ndisk = \"1 kB\"\n",
    );
    let (status, report) = bench.report(&[], &["--only", "short,fits"]);
    assert_eq!((status, essence(&report, "short").1.as_str()), (1, "disk-short"));
    let project = bench.project().canonicalize().unwrap();
    assert!(essence(&report, "short").2.contains(&format!("nearest existing folder is {}", project.display())), "{report}");
    assert_eq!(bench.report(&[], &["--only", "fits"]).1["outcome"], "ready");
    let (_, report) = bench.report(&without_rights(), &["--only", "denied"]);
    assert_eq!(essence(&report, "denied").1, "disk-no-permission");
}

#[test]
fn a_read_only_disk_and_needs_that_only_together_run_short() {
    if !is_root() {
        return eprintln!("left out: only the administrator may mount");
    }
    let bench = Bench::new("[require.a]\ndisk = \"6 MB\"\nat = \"disk/a\"\n[require.b]\ndisk = \"5 MB\"\nat = \"disk/b/c\"\n");
    let disk = bench.project().join("disk");
    std::fs::create_dir(&disk).unwrap();
    let mount = |options: &str| {
        let done = Command::new("mount").args(["-t", "tmpfs", "-o", options, "tmpfs"]).arg(&disk).status().unwrap();
        assert!(done.success());
    };
    mount("size=8m");
    let (_, together) = bench.report(&[], &[]);
    let (_, alone) = bench.report(&[], &["--only", "a"]);
    mount("remount,ro");
    let (_, read_only) = bench.report(&[], &[]);
    assert!(Command::new("umount").arg(&disk).status().unwrap().success());
    assert_eq!([essence(&together, "a").1, essence(&together, "b").1], ["disk-short-together", "disk-short-together"]);
    assert_eq!(essence(&alone, "a").0, "met");
    assert_eq!(essence(&read_only, "a").1, "disk-read-only");
}

#[test]
fn memory_and_cores_are_those_of_this_machine() {
    let bench = Bench::new(
        "[require.much]\nmemory = \"900 TB\"\n[require.some]\nmemory = \"50 MB\"\n[require.many]\ncores = 90000\n[require.two]\ncores = 2\n",
    );
    let (_, report) = bench.report(&[], &[]);
    assert_eq!([essence(&report, "much").1, essence(&report, "many").1], ["memory-short", "cores-short"]);
    assert_eq!(essence(&report, "some").0, "met");
    let one_core = bench.report(&["taskset", "-c", "0"], &["--only", "two"]).1;
    let online = std::fs::read_to_string("/sys/devices/system/cpu/online").unwrap();
    if online.trim() != "0" {
        assert_eq!(essence(&one_core, "two").1, "cores-capped");
        assert!(essence(&one_core, "two").2.contains("the CPU affinity of this session lets you use only 1"));
    }
}

#[test]
fn virtualization_is_the_same_chain_for_the_administrator_and_for_nobody() {
    let bench = Bench::new("[require.virt]\nvirtualization = \"usable\"\n[require.there]\nvirtualization = \"present\"\n");
    for before in [Vec::new(), without_rights()] {
        let (_, report) = bench.report(&before, &[]);
        let one = of(&report, "virt");
        let processor =
            one["evidence"].as_array().unwrap().iter().find(|seen| seen["asked"] == "the processor's virtualization").unwrap();
        let has = processor["saw"].as_str().unwrap().starts_with("the processor has it: yes");
        let guest = processor["saw"].as_str().unwrap().ends_with("under a hypervisor: yes");
        let (verdict, cause, _) = essence(&report, "virt");
        assert_eq!(essence(&report, "there").0 == "met", has);
        match (has, guest) {
            (false, true) => assert_eq!(cause, "virt-nesting-off"),
            (false, false) => assert_eq!(cause, "virt-cpu-lacks"),
            (true, _) => assert!(
                verdict == "met"
                    || ["virt-denied", "virt-module-missing", "virt-in-container", "virt-held"].contains(&cause.as_str())
            ),
        }
    }
}

#[test]
fn the_ready_are_told_so_and_the_report_does_not_depend_on_jobs() {
    let bench = Bench::new(
        "[require.tool]\ntool = \"buoy\"\nversion = \"2.*\"\n[require.disk]\ndisk = \"1 kB\"\n[require.some]\nmemory = \"50 MB\"\n",
    );
    bench.program("buoy", "echo buoy 2.4");
    let output = bench.run(&["preflight"]);
    assert_eq!(output.status.code(), Some(0));
    assert!(text(&output.stdout).ends_with("READY  All 3 needed things are met.\n"), "{}", text(&output.stdout));
    let stable = |jobs: &str| {
        let mut report = bench.report(&[], &["--jobs", jobs, "--only", "tool,some"]).1;
        (report["started"], report["elapsed_ms"]) = (0.into(), 0.into());
        report["requirements"].as_array_mut().unwrap().iter_mut().for_each(|one| one["elapsed_ms"] = 0.into());
        report
    };
    assert_eq!(stable("1"), stable("7"));
}
