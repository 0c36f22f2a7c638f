//! The guide as a script, against the program: for each requirement its verdict is the program's or unknown, in every shell that is here, on
//! described machines that were built for it and on this one.

#[path = "script/root.rs"]
mod root;

use build_setup_ready::{Described, Preflight};
use setup_ready_core::finding::Verdict;
use setup_ready_core::guide::{self, Guide};
use setup_ready_core::report::Report;
use setup_ready_core::script::script;
use std::collections::BTreeMap;
use std::path::{Path, PathBuf};
use std::process::{Command, Stdio};
use std::sync::Mutex;
use std::sync::atomic::{AtomicUsize, Ordering};

/// The shells, with what makes each read POSIX's language.
const SHELLS: [&[&str]; 6] = [&["dash"], &["bash"], &["busybox", "sh"], &["mksh"], &["yash"], &["zsh", "--emulate", "sh"]];

/// Kinds of which most must not be unknown.
const MOSTLY_KNOWN: [&str; 9] = ["tool", "disk", "memory", "cores", "file", "folder", "variable", "group", "port"];

fn is_here(program: &str) -> bool {
    std::env::split_paths(&std::env::var_os("PATH").unwrap()).any(|folder| folder.join(program).is_file())
}

fn shells() -> Vec<&'static [&'static str]> {
    let missing: Vec<_> = SHELLS.iter().map(|words| words[0]).filter(|one| !is_here(one)).collect();
    assert!(missing.is_empty(), "install {}", missing.join(", "));
    SHELLS.to_vec()
}

/// The verdicts that a script printed, by the ids of the requirements.
fn said(text: &str) -> BTreeMap<String, &'static str> {
    let words = [("met ", "met"), ("NOT MET ", "unmet"), ("waits ", "waits"), ("unknown ", "unknown")];
    let mut all = BTreeMap::new();
    for line in text.lines().take_while(|line| !line.is_empty()) {
        if let Some((word, verdict)) = words.iter().find(|(word, _)| line.starts_with(word)) {
            let id = line[word.len()..].split_whitespace().next().unwrap();
            all.insert(id.to_owned(), *verdict);
        }
    }
    all
}

/// How often each kind was decided, and how often it was unknown.
type Counts = BTreeMap<&'static str, (usize, usize)>;

/// Where the script says something else than the program; counts what it decides.
fn differences(guide: &Guide, report: &Report, said: &BTreeMap<String, &'static str>, counts: &mut Counts) -> Vec<String> {
    let mut wrong = Vec::new();
    for (index, requirement) in guide.requirements.iter().enumerate() {
        let verdict = report.settled_at(index).unwrap().finding.verdict();
        let wanted = match verdict {
            Verdict::Met => "met",
            Verdict::Unmet => "unmet",
            Verdict::Blocked => "waits",
            Verdict::Unknown => "unknown",
            Verdict::Skipped => "skipped",
        };
        let found = said.get(&requirement.id).copied().unwrap_or("skipped");
        if found != wanted && found != "unknown" {
            wrong.push(format!("{}: the script says {found}, the program {wanted}", requirement.id));
        }
        // What the program does not know, or what waits, tells nothing of the script.
        if matches!(verdict, Verdict::Met | Verdict::Unmet) {
            let (decided, unknown) = counts.entry(requirement.subject.kind().word()).or_default();
            *(if found == "unknown" { unknown } else { decided }) += 1;
        }
    }
    wrong
}

fn told(counts: &Counts, least: usize) {
    let (mut decided, mut all) = (0, 0);
    for (kind, (known, unknown)) in counts {
        eprintln!("  {kind}: {known} of {} decided", known + unknown);
        if MOSTLY_KNOWN.contains(kind) {
            decided += known;
            all += known + unknown;
        }
    }
    let share = decided * 100 / all.max(1);
    eprintln!("{decided} of {all} decided ({share} %) of {}", MOSTLY_KNOWN.join(", "));
    assert!(share >= least, "the script decides {share} % of what it should know");
}

/// Every described machine of Linux with its guide.
fn machines() -> Vec<(PathBuf, PathBuf)> {
    let top = Path::new(env!("CARGO_MANIFEST_DIR"));
    let mut guides = vec![top.join("../library/demo/setup-guide.toml")];
    guides
        .extend(std::fs::read_dir(top.join("tests/guides")).unwrap().map(|entry| entry.unwrap().path().join("setup-guide.toml")));
    guides.sort();
    let mut all = Vec::new();
    for guide in guides {
        let mut found: Vec<PathBuf> =
            std::fs::read_dir(guide.parent().unwrap().join("machines")).unwrap().map(|entry| entry.unwrap().path()).collect();
        found.sort();
        let linux = |path: &PathBuf| std::fs::read_to_string(path).unwrap().contains("os = \"linux\"");
        all.extend(found.into_iter().filter(linux).map(|machine| (guide.clone(), machine)));
    }
    all
}

#[test]
#[ignore = "needs the administrator, who builds machines of busybox, and all shells that the script is for"]
fn on_described_machines_the_script_says_what_the_program_says_or_that_it_cannot_know() {
    let base = root::Base::new(&shells());
    let all = machines();
    assert!(all.len() >= 15, "{}", all.len());
    // The other guides were written for what only the program can see: pins, places, components.
    let found = Mutex::new((Counts::new(), Counts::new(), Vec::new()));
    let next = AtomicUsize::new(0);
    let look = || {
        while let Some((guide_path, machine_path)) = all.get(next.fetch_add(1, Ordering::Relaxed)) {
            let guide = guide::parse(&std::fs::read_to_string(guide_path).unwrap()).unwrap();
            let text = std::fs::read_to_string(machine_path).unwrap();
            let machine = Described::parse(&text).unwrap();
            let report = Preflight::new(&guide).run(&machine).unwrap();
            // A program that never ends is not waited for so long here.
            let script = script(&guide).replace("sleep 10", "sleep 1");
            let built = base.build(&toml::from_str(&text).unwrap());
            for shell in shells() {
                let clock = std::time::Instant::now();
                let output = built.run(shell, &script);
                if std::env::var_os("SCRIPT_SAYS").is_some() {
                    eprintln!("{:?} {} {}\n{output}", clock.elapsed(), shell[0], machine_path.display());
                }
                let (counts, of_others, wrong) = &mut *found.lock().unwrap();
                let counts = if guide.project.name == "Driftbuoy" { counts } else { of_others };
                for one in differences(&guide, &report, &said(&output), counts) {
                    wrong.push(format!("{} in {}: {one}", machine_path.file_name().unwrap().display(), shell[0]));
                }
            }
        }
    };
    // Most of it waits.
    std::thread::scope(|scope| (0..4).for_each(|_| drop(scope.spawn(look))));
    let (counts, of_others, wrong) = found.into_inner().unwrap();
    assert!(wrong.is_empty(), "{} of {} machines\n{}", wrong.len(), all.len(), wrong.join("\n"));
    eprintln!("of the demonstration:");
    told(&counts, 85);
    eprintln!("of the others:");
    told(&of_others, 50);
}

/// A guide whose requirements are met and not met on most machines, in a folder that is made for it.
const LIVE: &str = include_str!("script/live.toml");

/// A folder with what the live guide speaks of.
fn workshop() -> tempfile::TempDir {
    use std::os::unix::fs::{PermissionsExt, symlink};
    let folder = tempfile::tempdir().unwrap();
    let at = |name: &str| folder.path().join(name);
    let write = |name: &str, text: &str, mode: u32| {
        std::fs::write(at(name), text).unwrap();
        std::fs::set_permissions(at(name), std::fs::Permissions::from_mode(mode)).unwrap();
    };
    std::fs::set_permissions(folder.path(), std::fs::Permissions::from_mode(0o777)).unwrap();
    std::fs::create_dir(at("tools")).unwrap();
    for (name, body) in [
        ("plain", "echo plain 1.4.2"),
        ("worded", "echo 'worded version 2.5.1 (Buoy 7-1)'"),
        ("leading-v", "echo v20.11.1"),
        ("noisy", "echo 'noisy 3.1 with charts 9.8.7'"),
        ("silent", "echo hello"),
        ("failing", "echo failing 1.2; exit 3"),
        ("candidate", "echo candidate 4.0.0-rc1"),
        ("on-stderr", "echo on-stderr 6.2 >&2"),
    ] {
        write(&format!("tools/{name}"), &format!("#!/bin/sh\n{body}\n"), 0o755);
    }
    write("tools/unmarked", "#!/bin/sh\necho unmarked 1.0\n", 0o644);
    write("secret", "MODE=fast\n", 0o600);
    write("open", "MODE=slow\n", 0o644);
    write("script", "#!/bin/sh\n", 0o755);
    write(
        ".env",
        "# comment\nQUOTED=\"north\" # why\nexport BARE = south\nEMPTY=\nTWICE=one\nTWICE=two\nHASH=#70\nODD='east\nMOVED=47071\n",
        0o644,
    );
    std::fs::create_dir(at("folder")).unwrap();
    symlink("gone", at("dangling")).unwrap();
    folder
}

#[test]
#[ignore = "needs all shells that the script is for"]
fn on_this_machine_the_script_says_what_the_program_says_or_that_it_cannot_know() {
    let folder = workshop();
    let held = std::net::TcpListener::bind("127.0.0.1:0").unwrap();
    let held_udp = std::net::UdpSocket::bind("127.0.0.1:0").unwrap();
    let free = std::net::TcpListener::bind("127.0.0.1:0").unwrap();
    let text = LIVE
        .replace("HELD_UDP", &held_udp.local_addr().unwrap().port().to_string())
        .replace("HELD", &held.local_addr().unwrap().port().to_string())
        .replace("FREE", &free.local_addr().unwrap().port().to_string());
    drop(free);
    let guide = guide::parse(&text).unwrap();
    std::fs::write(folder.path().join("setup-guide.toml"), &text).unwrap();
    std::fs::write(folder.path().join("check.sh"), script(&guide)).unwrap();
    let path = format!("{}/tools:{}", folder.path().display(), std::env::var("PATH").unwrap());
    let mut counts = Counts::new();
    let mut wrong = Vec::new();
    let ordinary: &[&str] = &["setpriv", "--reuid", "12345", "--regid", "12345", "--clear-groups"];
    let root = Command::new("id").arg("-u").output().unwrap().stdout == b"0\n";
    let mut persons: Vec<&[&str]> = vec![&[]];
    if root && is_here("setpriv") {
        persons.push(ordinary);
    }
    for person in persons {
        let run = |words: &[&str]| {
            let all: Vec<&str> = person.iter().copied().chain(words.iter().copied()).collect();
            Command::new(all[0])
                .args(&all[1..])
                .current_dir(folder.path())
                .env("PATH", &path)
                .env("HOME", folder.path())
                .env("BUOY_SET", "north")
                .env("BUOY_FITS", "north")
                .env("BUOY_MAIL", "ada@driftbuoy.example")
                .env("BUOY_ODD", "west")
                .env("BUOY_EMPTY", "")
                .env("BUOY_PORT", held.local_addr().unwrap().port().to_string())
                .env_remove("BUOY_UNSET")
                .stdin(Stdio::null())
                .output()
                .unwrap()
        };
        let program = root::copy_of_program(folder.path(), Path::new(env!("CARGO_BIN_EXE_setup-ready")));
        let checked = run(&[
            program.to_str().unwrap(),
            "preflight",
            "--guide-owner",
            "root",
            "--format",
            "json",
            "--offline",
            "--start-all",
        ]);
        let report: serde_json::Value = serde_json::from_slice(&checked.stdout).unwrap_or_else(|_| {
            panic!("{}{}", String::from_utf8_lossy(&checked.stdout), String::from_utf8_lossy(&checked.stderr))
        });
        for shell in shells() {
            let mut words = shell.to_vec();
            words.push("./check.sh");
            let output = run(&words);
            let said = said(&String::from_utf8_lossy(&output.stdout));
            for requirement in &guide.requirements {
                let all = report["requirements"].as_array().unwrap();
                let one = all.iter().find(|one| one["id"] == requirement.id.as_str()).unwrap();
                let wanted = one["verdict"].as_str().unwrap().replace("blocked", "waits");
                let found = said.get(&requirement.id).copied().unwrap_or("skipped");
                if found != wanted && found != "unknown" {
                    wrong.push(format!(
                        "{} in {} {person:?}: the script says {found}, the program {wanted}: {}",
                        requirement.id, shell[0], one["message"]
                    ));
                }
                if wanted == "met" || wanted == "unmet" {
                    let (decided, unknown) = counts.entry(requirement.subject.kind().word()).or_default();
                    *(if found == "unknown" { unknown } else { decided }) += 1;
                }
            }
        }
    }
    assert!(wrong.is_empty(), "{} differences\n{}", wrong.len(), wrong.join("\n"));
    told(&counts, 85);
}

#[derive(serde::Deserialize)]
struct Corpus {
    tool: Vec<Captured>,
}

/// What a real program printed when it was asked for its version.
#[derive(serde::Deserialize)]
struct Captured {
    name: String,
    version: String,
    exit: i64,
    stdout: String,
    stderr: String,
}

/// A number that is another program's would be a wrong verdict; of what is in doubt the script reads nothing.
#[test]
fn of_what_real_programs_print_the_script_reads_no_wrong_version() {
    let guide = guide::parse(LIVE.replace("HELD_UDP", "1").replace("HELD", "2").replace("FREE", "3").as_str()).unwrap();
    let script = script(&guide);
    let function = &script[script.find("version_of() {").unwrap()..script.find("# Starts what was found").unwrap()];
    let top = Path::new(env!("CARGO_MANIFEST_DIR")).join("../core/tests");
    let (mut read, mut all, mut wrong) = (0, 0, Vec::new());
    for file in ["corpus.toml", "corpus-debian.toml"] {
        let corpus: Corpus = toml::from_str(&std::fs::read_to_string(top.join(file)).unwrap()).unwrap();
        for one in corpus.tool.iter().filter(|one| one.exit == 0) {
            all += 1;
            let said = format!("{}{}", one.stdout, one.stderr);
            let program = format!("{function}\nversion_of \"$1\" \"$2\"");
            let output = Command::new("sh").args(["-c", &program, "x", &one.name, said.trim()]).output().unwrap();
            let found = String::from_utf8_lossy(&output.stdout).trim().to_owned();
            // Packages and programs write zeros otherwise: 6.0 and 6.00, 4.9.0 and 4.09.00; what a distribution adds stands behind a sign.
            let numbers = |text: &str| -> Vec<u64> {
                let plain = text.split(|c: char| !(c.is_ascii_digit() || c == '.')).next().unwrap();
                plain.split('.').map(|part| part.parse().unwrap_or(0)).collect()
            };
            let (wanted, said) = (numbers(&one.version), numbers(&found));
            match found.as_str() {
                "" => {}
                _ if wanted.starts_with(&said) || said.starts_with(&wanted) => read += 1,
                _ => wrong.push(format!("{} is {}, and the script reads {found}", one.name, one.version)),
            }
        }
    }
    eprintln!("of {all} outputs {read} are read");
    assert!(wrong.is_empty(), "{wrong:#?}");
    assert!(read * 2 > all, "{read} of {all}");
}

#[test]
fn the_script_of_the_demonstration_is_clean_and_says_when_it_is_used_wrong() {
    let guide = guide::parse(build_setup_ready::demo::GUIDE).unwrap();
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("check.sh");
    std::fs::write(&path, script(&guide)).unwrap();
    let output = Command::new("sh").arg(&path).arg("sailor").output().unwrap();
    assert_eq!(
        (output.status.code(), String::from_utf8_lossy(&output.stderr).trim()),
        (Some(2), "The roles are: firmware, shore, docs")
    );
}

#[test]
#[ignore = "needs shellcheck"]
fn the_script_of_the_demonstration_has_no_remarks_of_shellcheck() {
    let guide = guide::parse(build_setup_ready::demo::GUIDE).unwrap();
    let folder = tempfile::tempdir().unwrap();
    let path = folder.path().join("check.sh");
    std::fs::write(&path, script(&guide)).unwrap();
    let output = Command::new("shellcheck").arg(&path).output().unwrap();
    assert!(output.status.success(), "{}", String::from_utf8_lossy(&output.stdout));
}
