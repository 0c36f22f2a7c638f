//! What is fed, and with what it begins.

use build_setup_ready::demo::REPOSITORY;
use build_setup_ready::{Described, Host, Preflight};
use setup_ready_core::draft::Draft;
use setup_ready_core::manager::Manager;
use setup_ready_core::privacy::Replacer;
use setup_ready_core::proofread::{Evidence, corrected, proofread};
use setup_ready_core::survey::WhatIf;
use setup_ready_core::text::{Grammar, Pattern, Sanitised, ShellLine, Size, nearest, parse_duration};
use setup_ready_core::version::{Asked, Range, Version, find};
use setup_ready_core::{fix, guide};
use setup_ready_fleet::{recording, surveyed_text};
use setup_ready_maintainer::statements_of;
use setup_ready_observe::read;
use std::sync::LazyLock;

/// A reader, or several of a sort.
pub(crate) struct Target {
    pub(crate) name: &'static str,
    pub(crate) about: &'static str,
    /// Reads a text; the number chooses where there is a choice.
    pub(crate) feed: fn(&str, usize),
}

pub(crate) const TARGETS: &[Target] = &[
    Target {
        name: "guide",
        about: "setup guides, and a preflight of those that are right, on a described machine",
        feed: guide_text,
    },
    Target { name: "machine", about: "described machines, and a preflight on those that are right", feed: machine_text },
    Target { name: "words", about: "conditions, versions, version ranges, patterns, sizes, times", feed: words },
    Target {
        name: "shown",
        about: "the sieve, quoting for each shell, and the check that a command is one command",
        feed: shown,
    },
    Target {
        name: "files",
        about: "files of projects: pins, variables, version control, descriptions of libraries",
        feed: files,
    },
    Target {
        name: "repository",
        about: "what repositories say, in all their files; guides proofread with that",
        feed: repository,
    },
    Target { name: "records", about: "what installations of tools state of themselves", feed: records },
    Target {
        name: "sent",
        about: "recordings, assessed and recorded again, reports of many, and what is private in any text",
        feed: sent,
    },
    Target { name: "systems", about: "what the parts of systems, programs and package managers print", feed: systems },
];

/// Names of files, so that each reader gets its turn.
const NAMES: [&str; 32] = [
    "CMakeLists.txt",
    "CMakePresets.json",
    "meson.build",
    "configure.ac",
    "Makefile",
    "Dockerfile",
    "compose.yaml",
    ".github/workflows/a.yml",
    ".gitlab-ci.yml",
    "bitbucket-pipelines.yml",
    "package.json",
    "pyproject.toml",
    "setup.cfg",
    "Cargo.toml",
    "Cargo.lock",
    "rust-toolchain",
    "go.mod",
    "main.go",
    "pom.xml",
    "build.gradle",
    "Gemfile",
    "composer.json",
    "mix.exs",
    "global.json",
    "a.csproj",
    ".tool-versions",
    ".nvmrc",
    ".env.example",
    ".gitattributes",
    "README.md",
    "build.sh",
    "binding.gyp",
];

const MORE_FILES: &[&str] = &[
    "project('a', 'c', meson_version: '>=0.6')\nx = dependency('y', version: ['>=1', '<2'], required: get_option('z'))\nif host_machine.system() == 'windows'\nfind_program('a', '''b''')\nendif\n",
    "AC_INIT([a],[1])\nAS_IF([test x = y], [PKG_CHECK_MODULES([A],[b >= 1 c],,[d])])\nif test a; then\nAC_PATH_PROG([X],[y])\nfi dnl e\n",
    "FROM node:${V:-20}-slim AS a\nRUN --mount=type=cache apt-get install -y \\\n a=1 \\\n # b\n && echo <<EOF\nx\nEOF\nEXPOSE 80/tcp\n",
    "<project><properties><a>1</a><maven.compiler.release>${a}</maven.compiler.release></properties></project>",
    "~~~sh\n$ sudo dnf install -y a b || V=$(git describe $(x)) make -C y 2>&1\n~~~\n",
    "a: &x [b, *x]\nc: {<<: *x, d: |\n  e\n}\n? f\n: - g\n  - !h i\n",
];

const GUIDE: &str = include_str!("../../library/demo/setup-guide.toml");
const MACHINES: [&str; 3] = [
    include_str!("../../library/demo/machines/shared-server.toml"),
    include_str!("../../library/demo/machines/workshop-windows-pc.toml"),
    include_str!("../../library/demo/machines/old-macbook.toml"),
];
const CORPUS: &str = include_str!("../../core/tests/corpus.toml");

/// The texts that a target begins with.
pub(crate) fn seeds(target: &str) -> Vec<String> {
    match target {
        "guide" => {
            let mut seeds: Vec<String> =
                GUIDE.split("\n[").map(|part| format!("format = 1\n[project]\nname = \"a\"\n[{part}")).collect();
            seeds.push(GUIDE.to_owned());
            seeds
        }
        "machine" => owned(&MACHINES),
        "sent" => owned(&[
            include_str!("../../cli/tests/recordings/kept/laptop.recording.json"),
            include_str!("../../cli/tests/recordings/kept/windows.recording.json"),
            "{\"format\":1,\"project\":\"Driftbuoy\",\"machine\":{\"os\":\"linux\"},\"started\":\"2026-11-27T06:27:40Z\",\"outcome\":\"ready\",\"requirements\":[{\"id\":\"cmake\",\"kind\":\"tool\",\"level\":\"must\",\"verdict\":\"met\",\"found\":\"3.28.1\"}]}",
            "built by marisol@harbour.example at [2a0d:5600::17]:443 and 10.41.7.93:80, card 9c:b6:d0:1f:e2:47, token=sk-99, C:\\Users\\Marisol /home/oskar/x",
            "cmake >= 3.28",
        ]),
        "words" => owned(&[
            "linux and not (wsl or distro-version >= 12)",
            "1.2.3-rc.1+b7",
            "go1.21.3",
            ">= 3.25, < 5 || = 2.*",
            r"^(\w+)-(\d{1,3})$",
            "1.5 GiB",
            "5 min",
            "3.11.0b4",
        ]),
        "shown" => owned(&[
            "echo 'it'\\''s' \"a $(id)\" | cat",
            "if true; then a; fi",
            "C:\\Program Files\\x",
            "Überbrückung 浮標\u{202e}",
            "cat <<END",
        ]),
        "repository" => REPOSITORY.iter().map(|(_, text)| (*text).to_owned()).chain(owned(MORE_FILES)).collect(),
        "files" => owned(&[
            "export A='b c' # d\nE=\"f\\n\"\n",
            "[toolchain]\nchannel = \"1.75\"\n",
            "{\"engines\":{\"node\":\"^20.1 || >=18\"},\"packageManager\":\"yarn@4.1.0\"}",
            "[project]\nrequires-python = \"~=3.11\"\n",
            "module x\n\ngo 1.22\n",
            "cmake_minimum_required(VERSION 3.16...3.28)",
            "ref: refs/heads/main\n",
            "[submodule \"a\"]\n\tpath = lib/a\n\turl = ../a\n",
            "version https://git-lfs.github.com/spec/v1\noid sha256:0\n",
            "prefix=/usr\nVersion: 1.2\nRequires: a\n",
            "nodejs 20.1.0 18\n",
        ]),
        "records" => owned(&[
            "IMPLEMENTOR=\"Debian\"\nJAVA_RUNTIME_VERSION=\"17.0.15+6-Debian-1\"\nJAVA_VERSION=\"17.0.15\"\n",
            "Package: gdb\nStatus: install ok installed\nVersion: 1:13.1-3\n\nPackage: a\n",
            "d41d8cd98f00b204e9800998ecf8427e  usr/bin/gdb\n",
            "#!/usr/bin/python3\nimport sys\nfrom mesonbuild.mesonmain import main\n",
            "Name: black\nVersion: 24.8.0\nRequires-Dist: tomli>=1.1.0; (python_version < \"3.11\" and extra == 'd') or os_name != 'nt'\n\n",
            "import sys, types, os;p = os.path.join(sys._getframe(1).f_locals['sitedir'], *('a',))\n",
            "[global]\nindex-url = https://pypi.driftbuoy.example\ntimeout = 60\ntrusted-host =\n  a\n",
            "maven-core-3.9.6.jar",
            "pip_tools-7.4.1.dist-info",
        ]),
        _ => {
            // What installed programs really print, and tables of the systems.
            let table: toml::Table = toml::from_str(CORPUS).unwrap_or_default();
            let mut seeds = Vec::new();
            collect(&toml::Value::Table(table), &mut seeds);
            seeds.extend(owned(&[
                "ann:x:1000:1000:Ann:/home/ann:/bin/bash\n", "video:x:44:ann\n", "12:memory:/a\n0::/user.slice\n", "36 35 98:0 / /mnt rw,noatime master:1 - ext4 /dev/root rw\n",
                "MemTotal:  16384 kB\nMemAvailable:  1024 kB\n", "0-3,8\n", "NAME=\"Debian\"\nVERSION_ID=\"12\"\nID_LIKE=debian\n",
                "  sl  local_address rem_address   st\n   0: 0100007F:1F90 00000000:0000 0A 00000000:00000000 00:00000000 00000000  1000        0 4242 1\n",
                "Iface\tDestination\tGateway\neth0\t00000000\t0100000A\t0003\t0\t0\t0\t00000000\n", "Package: cmake\nVersion: 3.25.1-1\nCandidate: 3.25.1-1\n",
                "LoadState=loaded\nActiveState=active\nUnitFileState=enabled\n", "p4242\ncnode\nn*:7070\n", "Start Port    End Port\n      5357        5357     *\n", "\"%1\" %*", "100000 100000\n", "max\n",
                "Pages free:  1000.\nPages inactive: 20.\n", "<dictionary> {\n  HTTPSEnable : 1\n  HTTPSProxy : proxy\n}\n", "need to get 12.3 MB of archives.\nInst a (1 b)\n",
            ]));
            seeds
        }
    }
}

fn owned(texts: &[&str]) -> Vec<String> {
    texts.iter().map(|text| (*text).to_owned()).collect()
}

fn collect(value: &toml::Value, texts: &mut Vec<String>) {
    match value {
        toml::Value::String(text) => texts.push(text.clone()),
        toml::Value::Array(list) => list.iter().for_each(|value| collect(value, texts)),
        toml::Value::Table(table) => table.values().for_each(|value| collect(value, texts)),
        toml::Value::Integer(_) | toml::Value::Float(_) | toml::Value::Boolean(_) | toml::Value::Datetime(_) => {}
    }
}

fn guide_text(text: &str, choice: usize) {
    let Ok(guide) = guide::parse(text) else { return };
    let Some(Ok(machine)) = MACHINES.get(choice % MACHINES.len()).map(|text| Described::parse(text)) else { return };
    preflight(&guide, &machine);
}

/// What somebody sent: a recording or a report, and any text that may hold something private.
fn sent(text: &str, _: usize) {
    static DEMO: LazyLock<Option<guide::Guide>> = LazyLock::new(|| guide::parse(GUIDE).ok());
    let mut replacer = Replacer::for_guide(GUIDE);
    replacer.user("marisol");
    replacer.home("/home/marisol");
    replacer.host("tern-wing-7.lab.harbour.example");
    let _ = replacer.text(text);
    let _ = (WhatIf::parse(text), surveyed_text(text));
    if let (Ok(recording), Some(guide)) = (recording(text), &*DEMO) {
        preflight(guide, &recording);
    }
}

fn machine_text(text: &str, _: usize) {
    static DEMO: LazyLock<Option<guide::Guide>> = LazyLock::new(|| guide::parse(GUIDE).ok());
    if let (Ok(machine), Some(guide)) = (Described::parse(text), &*DEMO) {
        preflight(guide, &machine);
    }
}

fn preflight(guide: &guide::Guide, machine: &dyn Host) {
    if let Ok(report) = Preflight::new(guide).run(machine) {
        let mut written = Vec::new();
        let _ = build_setup_ready::write::json(&report, &mut written);
        let _ = build_setup_ready::write::plan_sh(&report, &build_setup_ready::write::Invocations::default(), &mut written);
        let _ = build_setup_ready::write::plan_markdown(&report, &mut written);
        let _ = setup_ready_forms::markdown(&report, &mut written);
        let _ = (setup_ready_forms::junit(&report), setup_ready_forms::tap(&report), setup_ready_forms::html(&report));
    }
}

fn words(text: &str, choice: usize) {
    let _ = guide::parse(&format!("format = 1\n[project]\nname = \"a\"\n[require.x]\ncores = 1\nwhen = '''{text}'''\n"));
    let range = Range::parse(text);
    if let (Ok(version), Ok(range)) = (Version::parse(text), &range) {
        let _ = range.judge(&version);
    }
    if let Some(found) = find(text, &Asked::of("buoy")) {
        let _ = found.version.compare(&found.version);
        assert!(Version::parse(&found.version.to_string()).is_ok(), "{}", found.version);
    }
    // Building one costs more than all the rest.
    if choice.is_multiple_of(16)
        && let Ok(pattern) = Pattern::new(text)
    {
        let _ = (pattern.search().finds(text), pattern.capture("buoy release 12.4"));
    }
    let _ = (Size::parse(text), parse_duration(text), nearest(text, ["linux", "macos"]));
}

fn shown(text: &str, choice: usize) {
    for sieve in [Sanitised::line(text).to_string(), Sanitised::command(text).to_string(), Sanitised::lines(text).to_string()] {
        assert!(sieve.chars().all(|c| matches!(c, '\n' | '\t') || !Sanitised::hides(c)), "{sieve:?}");
    }
    let shells = [fix::Shell::Posix, fix::Shell::Fish, fix::Shell::PowerShell, fix::Shell::Cmd];
    if let Some(shell) = shells.get(choice % shells.len()) {
        let _ = fix::quote(text, *shell);
    }
    let line = format!("true {}", fix::quote(text, fix::Shell::Posix));
    let whole = ShellLine::read(&line, Grammar::Posix).flaw;
    assert!(
        whole.is_none() || text.contains(['\n', '\r', '\u{85}', '\u{2028}', '\u{2029}', '\u{b}', '\u{c}']),
        "{line:?}: {whole:?}"
    );
    let _ = (ShellLine::read(text, Grammar::Posix), ShellLine::read(text, Grammar::Windows));
}

fn files(text: &str, choice: usize) {
    const NAMES: [&str; 9] = [
        "rust-toolchain.toml",
        "Cargo.toml",
        "package.json",
        "pyproject.toml",
        ".python-version",
        ".nvmrc",
        "go.mod",
        "CMakeLists.txt",
        "VERSION",
    ];
    let name = NAMES.get(choice % NAMES.len()).copied().unwrap_or_default();
    let _ = read::pinned(name, text, &["node".to_owned(), "yarn".to_owned()]);
    let _ = (read::env_entries(text).count(), read::env_value(text, "A"), read::version_in("x.txt", text, &[], Some("[0-9.]+")));
    for file in ["a.toml", "a.json", "a.yaml", "a.properties"] {
        let _ = read::keyed(file, text, "a.b");
    }
    let _ = (read::branch_of_head(text), read::submodule_paths(text), read::is_large_file_pointer(text.as_bytes()));
    let _ = (read::pkg_config_version(text), read::sets_variable(text, "PATH"), read::file_kind(text.as_bytes()));
}

fn records(text: &str, choice: usize) {
    let _ = (read::java_release(text), read::library_release(text, "maven-core"), read::imported_module(text));
    let _ = (read::debian_stanza(text, "gdb").and_then(read::debian_release), read::debian_sum(text, "/usr/bin/gdb"));
    let _ = (read::noted_distribution(text), read::plain_name(text), read::paths_are_changed(text));
    let _ = read::needed_distributions(text, "3.11", choice.is_multiple_of(2));
    let _ = (read::are_plain_pip_settings(text), read::is_plain_pip_setting("timeout", text));
}

fn systems(text: &str, choice: usize) {
    let _ = (read::user_name(text, 1000), read::group_name(text, 44), read::group_names_of_ids(text, &[44, 1000]));
    let manager = Manager::ALL.get(choice % Manager::ALL.len()).copied();
    let _ = (
        manager.and_then(|manager| read::candidate(manager, "cmake", &["cmake", "jq"], text)),
        read::download_of_each(text, &["cmake", "jq"]),
    );
    let _ = (
        read::apt_trial(text, text),
        read::dnf_trial(text),
        read::dnf5_trial(text, text),
        read::zypper_trial(text, text.len().is_multiple_of(2)),
    );
    let _ = (read::zypper_costs(text, &["cmake"]), read::dnf_costs(text, &["cmake"]), read::pacman_costs(text, &["cmake"]));
    let _ =
        (read::pacman_conflict(&read::pacman_offers(text), &[read::pacman_installed(text)]), read::pacman_refusal(text, text));
    let _ = (read::alternatives(text), read::holder_of_lock(text, (0, 26), 77), read::sets_variable(text, "A"));
    started(text);
    let half = text.len() / 2;
    let (a, b) = text.split_at(setup_ready_core::text::floor_char_boundary(text, half));
    let _ = (read::cgroup_folders(a, b, "memory"), read::memory_limit(text), read::cpu_quota_v2(text), read::cpu_quota_v1(a, b));
    let _ = (read::cpuinfo_flags(text, &["vmx"]), read::count_online(text), read::meminfo(text), read::os_release(text));
    let _ = (read::elf_needs(text.as_bytes()), read::loader_cache(text.as_bytes()), read::opens_window(text.as_bytes()));
    let _ = (read::pe_resources(text.as_bytes()), read::pe_version(text.as_bytes(), 7), read::pe_imports(text.as_bytes()));
    let _ = (
        read::expanded(text, |name| Some(name.to_owned())),
        read::plist_text(text, "A"),
        read::apfs_container(text, "/Users/ann"),
    );
    let _ = (
        read::vm_stat(text),
        read::lsof_holder(text),
        read::user_shell(text),
        read::launch_limit(text),
        read::proxy_of_scutil(text),
    );
    let _ = (read::is_kept_back(text), read::mount_of(text, "/mnt/a"), read::windows_disk(text, "/mnt/c"), read::routes(text));
    let _ = (read::sockets(text, setup_ready_core::guide::Protocol::Tcp).count(), read::has_default_route(a, b));
    let _ = (read::started_as(text.as_bytes()), read::is_in_ranges(text, 7), read::proxy_for(text, |_| Some(b.to_owned())));
    let _ = (read::systemd_service(text), read::reserved_ports(text), read::proxy_of_settings(true, a, b));
    let _ = read::open_command(text, "C:\\a.txt", &[a.to_owned()]);
    let _ = find(text, &Asked::of("cmake"));
}

/// A stranger's start-up file, read as each shell reads it.
fn started(text: &str) {
    use read::Program;
    let file = |_: &str| Some(text.to_owned());
    for program in [Program::Bash, Program::Posix, Program::Mksh, Program::Zsh, Program::Fish, Program::Csh] {
        let trail = read::follow(read::StartupConfig {
            program,
            login: true,
            interactive: true,
            home: "/h",
            environment: &|_| None,
            text: &file,
            exists: &|_| true,
        });
        let _ = trail.outcome("A", false);
    }
}

fn repository(text: &str, choice: usize) {
    let name = NAMES.get(choice % NAMES.len()).copied().unwrap_or("README.md");
    let statements = statements_of(name, text);
    let draft = setup_ready_maintainer::draft(&Draft::of(&statements), "a");
    // Whatever a repository says, what is drafted from it can be read.
    assert!(statements.is_empty() || !draft.contains("\n[require.") || guide::parse(&draft).is_ok(), "{draft}");
    let evidence = Evidence { statements, ..Evidence::default() };
    let remarks = proofread(&draft, &evidence);
    let (right, _) = corrected(&draft, &remarks);
    assert!(guide::parse(&draft).is_err() || guide::parse(&right).is_ok(), "{right}");
    // And a guide that is anything.
    let remarks = proofread(text, &evidence);
    let _ = corrected(text, &remarks);
}
