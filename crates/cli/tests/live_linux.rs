//! The real program on this real machine: things made for the test, looked at for real.

use crate::harness::{Bench, essence, is_root, of, text, without_rights};
use std::fmt::Write;
use std::net::{TcpListener, UdpSocket};
use std::process::Command;
use std::time::{Duration, Instant};

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
    let (status, report) = bench.report(&[], &["--time-limit", "2s"]);
    assert_eq!((status, essence(&report, "stuck").1.as_str()), (3, "tool-stuck"));
    let gone = (0..100).any(|_| {
        std::thread::sleep(Duration::from_millis(20));
        !std::path::Path::new(&format!("/proc/{}", std::fs::read_to_string(&pid).unwrap().trim())).exists()
    });
    assert!(gone);
}

#[test]
fn tools_that_hang_do_not_hold_up_the_others() {
    // More of them than there are workers, and one that counts how many had hung when it was asked.
    let hanging = 12;
    let mut guide = String::new();
    for number in 0..hanging {
        writeln!(guide, "[require.a{number:02}]\ntool = \"buoy-stuck-{number}\"").unwrap();
    }
    guide.push_str("[require.z]\ntool = \"buoy-last\"\nversion = \">= 1\"\n");
    let bench = Bench::new(&guide);
    let given_up = bench.folder.path().join("given-up");
    for number in 0..hanging {
        bench.program(&format!("buoy-stuck-{number}"), "exec sleep 987");
    }
    bench.program("buoy-last", &format!("pgrep -fc 'sleep 98[7]' > {}; echo buoy-last 1.2", given_up.display()));
    let (_, report) = bench.report(&[], &["--time-limit", "4s"]);
    assert_eq!(essence(&report, "z").0, "met");
    assert_eq!(essence(&report, "a07").1, "tool-stuck");
    let still: usize = std::fs::read_to_string(&given_up).unwrap().trim().parse().unwrap();
    assert!(still >= 4, "it had to wait until all but {still} were given up");
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
    let own = format!("(process {}", std::process::id());
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
fn addresses_of_both_families_ranges_and_connections_are_told_apart() {
    // The same number must be free beside it: other tests' connections have numbers, too, and keep them for a while after they have ended.
    let held = |at: &str, beside: &str| {
        let pick = || TcpListener::bind(format!("{at}:0")).unwrap();
        let is_alone = |one: &TcpListener| TcpListener::bind((beside, one.local_addr().unwrap().port())).is_ok();
        (0..200).map(|_| pick()).find(is_alone).unwrap()
    };
    let (specific, newer) = (held("127.0.0.2", "127.0.0.3"), held("[::1]", "127.0.0.1"));
    let dual = TcpListener::bind("[::]:0").unwrap();
    // A connection's own end has a port too, and nobody listens there.
    let connection = std::net::TcpStream::connect(specific.local_addr().unwrap()).unwrap();
    let [one, six, both, passing] = [
        specific.local_addr().unwrap().port(),
        newer.local_addr().unwrap().port(),
        dual.local_addr().unwrap().port(),
        connection.local_addr().unwrap().port(),
    ];
    let bench = Bench::new(&format!(
        "[require.same]\nport = {one}\naddress = \"127.0.0.2\"\n[require.beside]\nport = {one}\naddress = \"127.0.0.3\"
         [require.every]\nport = {one}\n[require.six]\nport = {six}\naddress = \"::1\"\n[require.four]\nport = {six}\naddress = \"127.0.0.1\"
         [require.local]\nport = {six}\naddress = \"localhost\"\n[require.both]\nport = {both}\naddress = \"127.0.0.1\"
         [require.list]\nport = [{one}, {both}]\n[require.range]\nport = \"{}-{}\"\n[require.passing]\nport = {passing}\n",
        both - 1,
        both + 1
    ));
    let (_, report) = bench.report(&[], &[]);
    let cause = |id| essence(&report, id).1;
    assert_eq!(
        ["same", "every", "six", "local", "both", "list", "range", "passing"].map(cause),
        ["port-held"; 8].map(ToOwned::to_owned)
    );
    assert_eq!(["beside", "four"].map(cause), ["", ""]);
    let own = format!("(process {}", std::process::id());
    for id in ["same", "every", "six", "both", "list", "range"] {
        assert!(essence(&report, id).2.contains(&own), "{id}: {}", essence(&report, id).2);
    }
    assert!(essence(&report, "list").2.ends_with(&format!("Also in use: {both}.")), "{report}");
    let passing = essence(&report, "passing").2;
    assert!(passing.contains("by an outgoing connection of") && passing.contains("for such connections"), "{passing}");
    // The port that is offered instead is free, and is none of those that are handed out to connections.
    let low = Bench::new("[require.low]\nport = 32766\naddress = \"127.0.0.1\"\nset_by = { variable = \"BUOY_TEST_PORT\" }\n");
    let _held = TcpListener::bind("127.0.0.1:32766");
    let say = of(&low.report(&[], &[]).1, "low")["fixes"][0]["say"].as_str().unwrap().to_owned();
    assert!(say.contains("use port 32767"), "{say}");
}

#[test]
fn the_holder_is_told_by_how_it_was_started_but_not_with_its_secrets() {
    let bench = Bench::new("[require.held]\nport = 31017\naddress = \"127.0.0.1\"\n");
    let server = bench.file(
        "server.py",
        "import socket, sys, time\ns = socket.create_server(('127.0.0.1', 31017))\nprint('up', flush=True)\ntime.sleep(60)\n",
    );
    let mut child =
        Command::new("python3").arg(&server).arg("--token=hunter2").stdout(std::process::Stdio::piped()).spawn().unwrap();
    let mut line = [0; 3];
    std::io::Read::read_exact(child.stdout.as_mut().unwrap(), &mut line).unwrap();
    let (_, report) = bench.report(&[], &[]);
    child.kill().unwrap();
    child.wait().unwrap();
    let (_, cause, message) = essence(&report, "held");
    assert_eq!(cause, "port-held");
    assert!(
        message.contains(&format!("(process {}: ", child.id())) && message.contains(&format!(" {})", server.display())),
        "{message}"
    );
    assert!(!report.to_string().contains("hunter2"));
}

#[test]
#[ignore = "only the administrator may make a network of its own"]
fn the_limit_for_low_ports_is_the_one_that_this_system_sets() {
    let bench = Bench::new("[require.low]\nport = 8080\naddress = \"127.0.0.1\"\n");
    let inside = "ip link set lo up && echo 9000 > /proc/sys/net/ipv4/ip_unprivileged_port_start && exec setpriv --reuid=65534 --regid=65534 --clear-groups \"$@\"";
    let (_, report) = bench.report(&["unshare", "--net", "sh", "-c", inside, "inside"], &[]);
    let (_, cause, message) = essence(&report, "low");
    assert_eq!(cause, "port-privileged");
    assert!(message.contains("is below 9000"), "{message}");
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
    assert_eq!(bench.report(&[], &["--only", "fits"]).1["outcome"], "ready-in-part");
    let (_, report) = bench.report(&without_rights(), &["--only", "denied"]);
    assert_eq!(essence(&report, "denied").1, "disk-no-permission");
}

#[test]
#[ignore = "only the administrator may mount"]
fn a_read_only_disk_and_needs_that_only_together_run_short() {
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

/// A filesystem in a file of its own, mounted on `disk` in the project with these options.
fn own_filesystem(bench: &Bench, maker: &[&str], options: &str) -> std::path::PathBuf {
    let (image, disk) = (bench.folder.path().join("image"), bench.project().join("disk"));
    std::fs::File::create(&image).unwrap().set_len(64 << 20).unwrap();
    std::fs::create_dir(&disk).unwrap();
    let run = |program: &str, arguments: &[&str], last: &[&std::path::Path]| {
        let output = Command::new(program).args(arguments).args(last).output().unwrap();
        assert!(output.status.success(), "{output:?}");
    };
    run(maker[0], &maker[1..], &[&image]);
    run("mount", &["-o", options], &[&image, &disk]);
    disk
}

fn unmount(disk: &std::path::Path) {
    assert!(Command::new("umount").arg(disk).status().unwrap().success());
}

#[test]
#[ignore = "needs the administrator, a kernel that mounts ext4 with quotas from a file, and setquota"]
fn a_quota_leaves_less_than_the_disk_has() {
    let bench = Bench::new("[require.charts]\ndisk = \"20 MB\"\nat = \"disk\"\n");
    let disk = own_filesystem(&bench, &["mkfs.ext4", "-q", "-O", "quota", "-E", "quotatype=usrquota"], "loop,usrquota");
    std::fs::set_permissions(&disk, std::os::unix::fs::PermissionsExt::from_mode(0o777)).unwrap();
    let all = essence(&bench.report(&without_rights(), &[]).1, "charts");
    let set = Command::new("setquota")
        .args(["-u", "65534", "0", "5000", "0", "0"])
        .arg(&disk)
        .status()
        .is_ok_and(|status| status.success());
    let less = essence(&bench.report(&without_rights(), &[]).1, "charts");
    unmount(&disk);
    assert!(all.0 == "met" && set, "{all:?}");
    assert_eq!(less.1, "disk-short");
    assert!(less.2.contains("5.1 MB is left of your quota, and 20 MB is needed"), "{less:?}");
}

#[test]
#[ignore = "only the administrator may mount"]
fn links_and_second_mounts_of_one_disk_count_as_that_disk() {
    let bench = Bench::new(
        "[require.a]\ndisk = \"6 MB\"\nat = \"disk/a\"\n[require.b]\ndisk = \"5 MB\"\nat = \"again\"\n[require.c]\ndisk = \"4 MB\"\nat = \"link/c\"
         [require.files]\ndisk = \"1 kB\"\nat = \"disk\"\ninodes = 500\n",
    );
    let [disk, again] = ["disk", "again"].map(|name| bench.project().join(name));
    std::fs::create_dir(&disk).unwrap();
    std::fs::create_dir(&again).unwrap();
    std::os::unix::fs::symlink(&disk, bench.project().join("link")).unwrap();
    let mount = |arguments: &[&str], at: &std::path::Path| {
        assert!(Command::new("mount").args(arguments).arg(at).status().unwrap().success());
    };
    mount(&["-t", "tmpfs", "-o", "size=12m,nr_inodes=100", "tmpfs"], &disk);
    mount(&["--bind", disk.to_str().unwrap()], &again);
    let (_, report) = bench.report(&[], &[]);
    unmount(&again);
    unmount(&disk);
    assert_eq!(["a", "b", "c"].map(|id| essence(&report, id).1), ["disk-short-together"; 3].map(ToOwned::to_owned));
    assert!(essence(&report, "a").2.contains("Together they need 15 MB"), "{report}");
    assert_eq!(report["plan"]["steps"].as_array().unwrap().len(), 2, "one fix for the three, and one for the files");
    assert_eq!(essence(&report, "files").1, "disk-inodes-short");
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
        let processor = one["evidence"].as_array().unwrap().iter().find(|seen| seen["asked"] == "the processor's virtualization");
        let saw = processor.and_then(|processor| processor["saw"].as_str()).unwrap_or_default();
        let (has, guest) = (saw.starts_with("the processor has it: yes"), saw.ends_with("under a hypervisor: yes"));
        let (verdict, cause, _) = essence(&report, "virt");
        // What the device does decides, whatever the processor says of itself.
        let device = one["evidence"].as_array().unwrap().iter().find(|seen| seen["asked"] == "open /dev/kvm");
        let device = device.and_then(|seen| seen["saw"].as_str()).unwrap_or_default();
        assert_eq!(essence(&report, "there").0 == "met", has || device == "opens" || device.starts_with("permission denied"));
        match (has, guest) {
            _ if device == "opens" => assert_eq!(verdict, "met"),
            _ if device.starts_with("permission denied") => assert_eq!(cause, "virt-denied"),
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
    assert!(text(&output.stdout).contains("\nREADY  All 3 needed things are met.\n"), "{}", text(&output.stdout));
    let stable = |jobs: &str| {
        let mut report = bench.report(&[], &["--jobs", jobs, "--only", "tool,some"]).1;
        (report["started"], report["elapsed_ms"]) = (0.into(), 0.into());
        report["requirements"].as_array_mut().unwrap().iter_mut().for_each(|one| one["elapsed_ms"] = 0.into());
        report
    };
    assert_eq!(stable("1"), stable("7"));
}

#[test]
fn this_system_is_told_from_others_and_busy_memory_from_small() {
    let meminfo = std::fs::read_to_string("/proc/meminfo").unwrap();
    let kib = |name: &str| {
        meminfo.lines().find_map(|line| line.strip_prefix(name)?.split_whitespace().next()?.parse::<u64>().ok()).unwrap()
    };
    let between = u64::midpoint(kib("MemTotal:"), kib("MemAvailable:"));
    let bench = Bench::new(&format!(
        "[require.other]\nsystem = {{ windows = \"any\" }}\n[require.old]\nsystem = {{ linux = \">= 99\" }}\n[require.new]\nsystem = {{ linux = \"< 2\" }}
         [require.chip]\nsystem = {{ linux = \"any\" }}\narch = [\"s390x\"]\n[require.busy]\nmemory = \"{between} KiB\"\nfree = true\n",
    ));
    let (_, report) = bench.report(&[], &[]);
    let causes = ["other", "old", "new", "chip", "busy"].map(|id| essence(&report, id).1);
    assert_eq!(causes, ["system-other", "system-too-old", "system-too-new", "system-arch", "memory-busy"]);
}

/// A control group of its own, removed at the end; none where this machine does not let one be made.
struct ControlGroup {
    folder: std::path::PathBuf,
}

impl ControlGroup {
    fn new(controller: &str, settings: &[(&str, &str)]) -> Option<Self> {
        let unique = format!("setup-ready-test-{controller}-{}", std::process::id());
        let first = std::path::Path::new("/sys/fs/cgroup").join(controller).join(&unique);
        let second = std::path::Path::new("/sys/fs/cgroup").join(&unique);
        let folder = if first.parent()?.join("cgroup.procs").exists() { first } else { second };
        std::fs::create_dir(&folder).ok()?;
        let group = Self { folder };
        settings.iter().all(|(file, value)| std::fs::write(group.folder.join(file), value).is_ok()).then_some(group)
    }

    /// Runs the program inside.
    fn report(&self, bench: &Bench, only: &str) -> serde_json::Value {
        let enter = format!("echo $$ > {}/cgroup.procs; exec \"$@\"", self.folder.display());
        bench.report(&["sh", "-c", &enter, "enter"], &["--only", only]).1
    }
}

impl Drop for ControlGroup {
    fn drop(&mut self) {
        let _ = std::fs::remove_dir(&self.folder);
    }
}

#[test]
#[ignore = "only the administrator may make control groups"]
fn caps_by_control_groups_count_and_are_named() {
    let bench = Bench::new("[require.room]\nmemory = \"300 MB\"\n[require.two]\ncores = 2\n");
    let memory = ControlGroup::new("memory", &[("memory.limit_in_bytes", "209715200")])
        .or_else(|| ControlGroup::new("memory", &[("memory.max", "209715200")]));
    let cpu = ControlGroup::new("cpu", &[("cpu.cfs_period_us", "100000"), ("cpu.cfs_quota_us", "150000")])
        .or_else(|| ControlGroup::new("cpu", &[("cpu.max", "150000 100000")]));
    let (_, cause, message) = essence(&memory.unwrap().report(&bench, "room"), "room");
    assert_eq!(cause, "memory-capped");
    assert!(message.contains("the control group /") && message.contains("setup-ready-test-memory"), "{message}");
    assert!(message.ends_with("lets you use only 209 MB, and 300 MB is needed."), "{message}");
    let (_, cause, message) = essence(&cpu.unwrap().report(&bench, "two"), "two");
    assert_eq!(cause, "cores-capped");
    assert!(message.ends_with("lets you use only 1.5, and 2 are needed."), "{message}");
}

#[test]
fn the_environment_wins_over_the_file_and_its_value_is_never_told_unless_it_is_a_number() {
    let bench = Bench::new("[require.port]\nport = 47001\nset_by = { variable = \"BUOY_TEST_PORT\", env_file = \".env\" }\n");
    bench.file(".env", "BUOY_TEST_PORT=47002\n");
    let report = |value: &str| {
        let output = bench.command(&[], &["preflight", "--format", "json"]).env("BUOY_TEST_PORT", value).output().unwrap();
        text(&output.stdout)
    };
    assert!(report("47003").contains("TCP port 47003 is free (BUOY_TEST_PORT in the environment sets the number)."));
    assert!(report("").contains("TCP port 47002 is free (BUOY_TEST_PORT in .env, line 1 sets the number)."));
    let shown = report("hunter2-is-secret");
    assert!(shown.contains("port-not-a-port") && !shown.contains("hunter2"), "{shown}");
}

#[test]
fn a_terminal_shows_what_is_waited_for_and_a_pipe_or_a_build_server_does_not() {
    let bench = Bench::new("[require.slow]\ntool = \"buoy-slow\"\n");
    // Where a terminal is kept, it answers once that shows the wait: how long this takes is the machine's matter.
    bench.program(
        "buoy-slow",
        "if [ -e kept ] && ! [ -e log ]; then for turn in 1 2 3 4 5 6 7 8; do grep -q 'waiting for' kept && break; sleep 1; done; else sleep 1; fi; echo 1.0",
    );
    let piped = bench.run(&["preflight"]);
    assert_eq!(text(&piped.stderr), "");
    // script(1) gives the program a terminal.
    let program = env!("CARGO_BIN_EXE_setup-ready");
    let shown_by = format!("{program} preflight --output report.txt");
    let shown = |kept: &str, build_server: &str| {
        let mut command = bench.wrapped("script", &["-qefc", &shown_by, kept]);
        text(&command.env("TERM", "xterm").env("CI", build_server).output().unwrap().stdout)
    };
    let (to_somebody, to_a_build_server) = (shown("kept", ""), shown("log", "true"));
    assert!(to_somebody.contains("0 of 1 known") && to_somebody.contains("waiting for "), "{to_somebody:?}");
    assert_eq!(to_a_build_server, "");
}

#[test]
fn a_hostile_guide_runs_nothing_and_reaches_no_terminal_raw() {
    let evil = "\\u001B]0;owned\\u0007\\u202E";
    let bench = Bench::with_guide(format!(
        "format = 1\n[project]\nname = \"Drift{evil}\"\nabout = \"{evil}\"\nhelp = \"{evil}\"\n[[stage]]\nid = \"s\"\ntitle = \"{evil}\"
         [require.a]\ntool = \"buoy-evil\"\nargs = [\"--delete\", \"{evil}\"]\ntitle = \"{evil}\"\nwhy = \"{evil}\"\nversion = \">= 9\"
         [require.b]\ntool = \"buoy-nowhere\"\ntitle = \"t{evil}\"\ndocs = \"{evil}\"\n[[require.b.fix]]\nsay = \"{evil} {{wanted}}\"\nrun = \"echo {evil}\"\ncaution = \"{evil}\"
         [require.c]\ncommand = [\"touch\", \"owned\"]\n[require.d]\ntool = \"inside\"\n"
    ));
    bench.program("buoy-evil", "touch owned; echo 9");
    let inside = bench.file("inside", "#!/bin/sh\ntouch owned\necho 1.0\n");
    std::fs::set_permissions(&inside, std::os::unix::fs::PermissionsExt::from_mode(0o755)).unwrap();
    for arguments in [&["preflight", "-v"][..], &["explain"], &["explain", "b"], &["preflight", "--color", "never", "--plain"]] {
        let mut command = bench.command(&[], arguments);
        let path = format!("{}:{}", bench.project().display(), std::env::var("PATH").unwrap());
        let output = command.env("PATH", format!("{}:{path}", bench.folder.path().join("bin").display())).output().unwrap();
        let shown = text(&output.stdout) + &text(&output.stderr);
        assert!(shown.len() > 100);
        assert!(!shown.contains(['\u{1b}', '\u{7}', '\u{202e}']), "{shown}");
    }
    assert!(!bench.project().join("owned").exists());
}

#[test]
fn a_closed_pipe_ends_quietly() {
    let bench = Bench::new("[require.room]\ncores = 1\n");
    let mut child = bench
        .command(&[], &["explain"])
        .stdout(std::process::Stdio::piped())
        .stderr(std::process::Stdio::piped())
        .spawn()
        .unwrap();
    drop(child.stdout.take());
    let output = child.wait_with_output().unwrap();
    assert_eq!((output.status.code(), text(&output.stderr).as_str()), (Some(0), ""));
}
