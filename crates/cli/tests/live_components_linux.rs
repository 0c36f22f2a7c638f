//! Modules, headers, packages, values and places, live: with installations, files and servers made for the test.

use crate::harness::{Bench, causes_are, essence, of, text, without_rights};
use std::io::{Read, Write};
use std::net::TcpListener;
use std::path::{Path, PathBuf};
use std::process::Command;

fn write(path: &Path, content: &str) {
    std::fs::create_dir_all(path.parent().unwrap()).unwrap();
    std::fs::write(path, content).unwrap();
}

/// An installation of an interpreter, with a real program under its name, first on PATH.
fn installed(bench: &Bench, name: &str, real: &str) -> PathBuf {
    let prefix = bench.folder.path().join("kit");
    let program = prefix.join("bin").join(real);
    write(&program, "");
    std::fs::copy("/bin/true", &program).unwrap();
    std::fs::set_permissions(&program, std::os::unix::fs::PermissionsExt::from_mode(0o755)).unwrap();
    std::os::unix::fs::symlink(&program, bench.bin().join(name)).unwrap();
    prefix
}

const PYTHON: &str = "[require.python]\ntool = \"python3\"\n";

#[test]
fn modules_of_python_are_those_that_this_interpreter_finds() {
    let module = |id: &str, name: &str, more: &str| format!("[require.{id}]\nmodule = \"{name}\"\nof = \"python\"\n{more}");
    let bench = Bench::new(
        &(PYTHON.to_owned()
            + &module("own", "json", "")
            + &module("half", "sqlite3", "")
            + &module("whole", "ssl", "")
            + &module("noted", "PYYAML", "version = \">= 6\"\n")
            + &module("old", "pyyaml", "version = \">= 7\"\n")
            + &module("newer", "pyyaml", "version = \"< 6\"\n")
            + &module("by-import", "yaml", "version = \">= 6\"\n")
            + &module("by-path", "charts", "")
            + &module("by-variable", "lanterns", "")
            + &module("editable", "buoys", "")
            + &module("none", "tides", "packages = { pip = \"tides\" }\n")
            + &module("none-by-path", "../../etc", "")
                .replace("[require.none-by-path]\nmodule = \"../../etc\"", "[require.none-by-path]\nmodule = \"etc\"")
            + "[require.headers]\nheaders = \"python\"\n"),
    );
    let prefix = installed(&bench, "python3", "python3.11");
    let library = prefix.join("lib/python3.11");
    for file in ["os.py", "json/__init__.py", "sqlite3/__init__.py", "ssl.py", "lib-dynload/_ssl.cpython-311-x86_64-linux-gnu.so"]
    {
        write(&library.join(file), "");
    }
    let site = library.join("site-packages");
    write(&site.join("PyYAML-6.0.1.dist-info/METADATA"), "Metadata-Version: 2.1\nName: PyYAML\nVersion: 6.0.1\n\nVersion: 9\n");
    write(&site.join("PyYAML-6.0.1.dist-info/RECORD"), "yaml/__init__.py,sha256=x,1\n");
    write(&site.join("yaml/__init__.py"), "");
    let (beside, variable) = (bench.folder.path().join("beside"), bench.folder.path().join("variable"));
    write(&site.join("beside.pth"), &format!("# a line\n{}\n", beside.display()));
    write(&beside.join("charts.py"), "");
    write(&variable.join("lanterns/__init__.py"), "");
    write(&site.join("__editable__.buoys.pth"), "import __editable___buoys_finder; __editable___buoys_finder.install()\n");
    write(&site.join("__editable___buoys_finder.py"), "MAPPING = {'buoys': '/src/buoys'}\n");
    let report = || {
        let output =
            bench.command(&[], &["preflight", "--format", "json"]).env("PYTHONPATH", &variable).env_remove("PYTHONHOME").output();
        serde_json::from_slice::<serde_json::Value>(&output.unwrap().stdout).unwrap()
    };
    let found = report();
    causes_are(
        &found,
        &[
            ("own", ""),
            ("half", "module-missing"),
            ("whole", ""),
            ("noted", ""),
            ("old", "module-too-old"),
            ("newer", "module-too-new"),
            ("by-import", ""),
            ("by-path", ""),
            ("by-variable", ""),
            ("editable", ""),
            ("none", "module-missing"),
            ("none-by-path", "module-missing"),
            ("headers", "headers-missing"),
        ],
    );
    assert!(essence(&found, "half").2.contains("its part _sqlite3"), "{found:#}");
    let commands = of(&found, "none")["fixes"][0]["run"].to_string();
    assert!(commands.contains("-m venv .venv") && commands.contains(".venv/bin/python -m pip install tides"), "{commands}");
    // What only the interpreter can follow makes what is not found unknown, and nothing is started for it.
    write(&site.join("odd.pth"), &format!("import os; open('{}', 'w')\n", bench.folder.path().join("ran").display()));
    write(&prefix.join("include/python3.11/Python.h"), "");
    let found = report();
    assert_eq!((essence(&found, "none").0.as_str(), essence(&found, "noted").0.as_str()), ("unknown", "met"));
    assert!(of(&found, "none")["fixes"][0]["run"].to_string().contains("python3 -c 'import tides'"));
    causes_are(&found, &[("headers", "")]);
    assert!(!bench.folder.path().join("ran").exists());
}

#[test]
fn an_environment_of_python_is_alone_unless_it_says_otherwise() {
    let bench =
        Bench::new(&(PYTHON.to_owned() + "[require.x]\nmodule = \"tides\"\nof = \"python\"\npackages = { pip = \"tides\" }\n"));
    let prefix = bench.folder.path().join("kit");
    let environment = bench.folder.path().join("environment");
    installed(&bench, "other", "python3.11");
    std::fs::create_dir_all(environment.join("bin")).unwrap();
    std::os::unix::fs::symlink(prefix.join("bin/python3.11"), environment.join("bin/python3")).unwrap();
    std::os::unix::fs::symlink(environment.join("bin/python3"), bench.bin().join("python3")).unwrap();
    write(&prefix.join("lib/python3.11/os.py"), "");
    write(&prefix.join("lib/python3.11/site-packages/tides.py"), "");
    let path = format!("{}:/usr/bin:/bin", environment.join("bin").display());
    let verdict = |settings: &str| {
        write(&environment.join("pyvenv.cfg"), settings);
        let output =
            bench.command(&[], &["preflight", "--format", "json"]).env("PATH", &path).env_remove("PYTHONPATH").output().unwrap();
        let report = serde_json::from_slice::<serde_json::Value>(&output.stdout).unwrap();
        (essence(&report, "x").1, of(&report, "x")["fixes"][0]["run"][0].as_str().unwrap_or_default().to_owned())
    };
    let (cause, command) = verdict("include-system-site-packages = false\n");
    assert_eq!(cause, "module-missing");
    assert_eq!(command, "python3 -m pip install tides");
    assert_eq!(verdict("include-system-site-packages = true\n").0, "");
}

#[test]
fn packages_of_node_gems_of_ruby_and_modules_of_perl_are_found_where_they_are() {
    let bench = Bench::new(
        "[require.node]\ntool = \"node\"\n[require.ruby]\ntool = \"ruby\"\n[require.perl]\ntool = \"perl\"\n\
         [require.near]\nmodule = \"charts\"\nof = \"node\"\nversion = \">= 2\"\n[require.scoped]\nmodule = \"@buoy/tides\"\nof = \"node\"\n\
         [require.no-package]\nmodule = \"lanterns\"\nof = \"node\"\npackages = { npm = \"lanterns\" }\n\
         [require.gem]\nmodule = \"anchor\"\nof = \"ruby\"\nversion = \">= 1.10\"\n[require.no-gem]\nmodule = \"anch\"\nof = \"ruby\"\npackages = { gem = \"anch\" }\n\
         [require.pm]\nmodule = \"Buoy::Tide\"\nof = \"perl\"\nversion = \">= 1.2\"\n[require.no-pm]\nmodule = \"Buoy::Wind\"\nof = \"perl\"\n\
         [require.ruby-headers]\nheaders = \"ruby\"\n",
    );
    for (name, real) in [("node", "node"), ("ruby", "ruby3.1"), ("perl", "perl5.36.0")] {
        installed(&bench, name, real);
    }
    let prefix = bench.folder.path().join("kit");
    write(&bench.folder.path().join("node_modules/charts/package.json"), "{\"version\": \"2.1.0\"}");
    write(&bench.project().join("node_modules/@buoy/tides/package.json"), "{}");
    for version in ["1.9.0", "1.10.2-x86_64-linux"] {
        write(&prefix.join(format!("lib/ruby/gems/3.1.0/specifications/anchor-{version}.gemspec")), "");
    }
    write(&prefix.join("include/ruby-3.1.0/ruby.h"), "");
    write(
        &prefix.join("lib/perl5/5.36.0/Buoy/Tide.pm"),
        "package Buoy::Tide;\n# our $VERSION = '0.1';\nour $VERSION = '1.23';\n1;\n",
    );
    let (_, report) = bench.report(&[], &[]);
    causes_are(
        &report,
        &[
            ("near", ""),
            ("scoped", ""),
            ("no-package", "module-missing"),
            ("gem", ""),
            ("no-gem", "module-missing"),
            ("pm", ""),
            ("no-pm", "module-missing"),
            ("ruby-headers", ""),
        ],
    );
    let found: Vec<&str> = ["near", "gem", "pm"].into_iter().map(|id| of(&report, id)["found"].as_str().unwrap()).collect();
    assert_eq!(found, ["2.1.0", "1.10.2", "1.23"]);
}

/// The system's own interpreters, asked themselves: what is read is never the opposite of what they say.
#[test]
fn what_is_read_is_what_the_interpreters_of_this_machine_say() {
    let python = [
        "json",
        "os",
        "sqlite3",
        "ssl",
        "lzma",
        "venv",
        "tkinter",
        "curses",
        "ensurepip",
        "distutils",
        "no_such_buoy",
        "apt_pkg",
        "yaml",
    ];
    let perl = ["strict", "POSIX", "File::Spec", "Encode", "Test::More", "JSON::XS", "No::Such::Buoy", "Data::Dumper"];
    let mut guide = "[require.python]\ntool = \"python3\"\n[require.perl]\ntool = \"perl\"\n".to_owned();
    for (language, names) in [("python", &python[..]), ("perl", &perl[..])] {
        for (at, name) in names.iter().enumerate() {
            let table = format!("[require.{language}-{at}]\nmodule = \"{name}\"\nof = \"{language}\"\n");
            guide.push_str(&table);
        }
    }
    let bench = Bench::new(&guide);
    let output = bench.command(&[], &["preflight", "--format", "json"]).env("PATH", "/usr/bin:/bin").output().unwrap();
    let report: serde_json::Value = serde_json::from_slice(&output.stdout).unwrap();
    let loads =
        |program: &str, words: &[&str]| Command::new(program).args(words).output().is_ok_and(|output| output.status.success());
    let mut compared = 0;
    let mut hold = |id: String, loads: bool| match essence(&report, &id).0.as_str() {
        "unknown" | "blocked" => {}
        verdict => {
            compared += 1;
            assert_eq!(verdict == "met", loads, "{}", essence(&report, &id).2);
        }
    };
    for (at, name) in python.iter().enumerate() {
        let wanted = if *name == "venv" { "import venv, ensurepip".to_owned() } else { format!("import {name}") };
        hold(format!("python-{at}"), loads("/usr/bin/python3", &["-c", &wanted]));
    }
    for (at, name) in perl.iter().enumerate() {
        hold(format!("perl-{at}"), loads("/usr/bin/perl", &[&format!("-M{name}"), "-e", "1"]));
    }
    // Perl is on every Debian; elsewhere there may be neither.
    assert!(compared >= 6 || !Path::new("/usr/bin/perl").exists(), "{compared}");
}

#[test]
fn a_variable_leads_to_the_kit_of_the_program_on_path() {
    let bench = Bench::new("[require.java]\ntool = \"java\"\n[require.home]\nvariable = \"BUOY_HOME\"\nof = \"java\"\n");
    let prefix = installed(&bench, "java", "java");
    let other = bench.folder.path().join("other");
    std::fs::create_dir(&other).unwrap();
    for (value, cause) in [(&prefix, ""), (&other, "variable-other-kit")] {
        let output = bench.command(&[], &["preflight", "--format", "json"]).env("BUOY_HOME", value).output().unwrap();
        let report = serde_json::from_slice::<serde_json::Value>(&output.stdout).unwrap();
        causes_are(&report, &[("home", cause)]);
        assert!(!text(&output.stdout).contains(&other.display().to_string()), "the value itself is not told");
    }
}

#[test]
fn packages_rights_swap_modules_and_devices_of_this_system() {
    let bench = Bench::new(
        "[require.package]\nsystem_package = { apt = \"dpkg\" }\n[require.no-package]\nsystem_package = { apt = \"buoy-none\" }\n\
         [require.rights]\nrights = \"root\"\n[require.swap]\nswap = \"900 TB\"\n[require.kernel]\nkernel_module = \"buoy_none\"\n\
         [require.usb]\ndevice = [\"/dev/null\", \"/dev/buoy\"]\nusb = \"ffff:ffff\"\n[require.devices]\ndevice = [\"/dev/buoy\", \"/dev/null\"]\n",
    );
    let (_, report) = bench.report(&without_rights(), &[]);
    causes_are(
        &report,
        &[("swap", "swap-short"), ("rights", "rights-missing"), ("devices", ""), ("kernel", "kernel-module-missing")],
    );
    if Path::new("/var/lib/dpkg/status").exists() {
        causes_are(&report, &[("package", ""), ("no-package", "package-missing")]);
    }
    if Path::new("/sys/bus/usb/devices").exists() {
        causes_are(&report, &[("usb", "device-missing")]);
    } else {
        assert_eq!(essence(&report, "usb").0, "unknown");
    }
}

fn git(folder: &Path, words: &[&str]) {
    let done = Command::new("git").arg("-C").arg(folder).args(words).output().unwrap();
    assert!(done.status.success(), "{words:?}: {}", text(&done.stderr));
}

#[test]
fn history_tags_and_line_ends_of_a_working_copy() {
    let bench = Bench::new(
        "[require.history]\ncheckout = \"copy\"\nhistory = \"full\"\n[require.tags]\ncheckout = \"copy\"\ntags = true\n\
         [require.ends]\ncheckout = \"copy\"\nline_ends = \"lf\"\n",
    );
    let source = bench.folder.path().join("source");
    std::fs::create_dir(&source).unwrap();
    git(&source, &["init", "-q", "-b", "main"]);
    git(&source, &["config", "user.email", "mate@driftbuoy.example"]);
    git(&source, &["config", "user.name", "mate"]);
    for (file, ends) in [("a.txt", "one\ntwo\n"), ("b.bat", "one\r\ntwo\r\n")] {
        write(&source.join(file), ends);
    }
    write(&source.join(".gitattributes"), "*.bat eol=crlf\n");
    for message in ["first", "second"] {
        git(&source, &["add", "."]);
        git(&source, &["commit", "-q", "--allow-empty", "-m", message]);
    }
    git(&source, &["tag", "v1"]);
    let copy = bench.project().join("copy");
    let address = format!("file://{}", source.display());
    git(&bench.project(), &["clone", "-q", "--depth", "1", "--no-tags", &address, "copy"]);
    write(&copy.join("a.txt"), "one\r\ntwo\r\n");
    let (_, report) = bench.report(&[], &[]);
    causes_are(&report, &[("history", "checkout-shallow"), ("tags", "checkout-no-tags"), ("ends", "checkout-line-ends")]);
    assert!(essence(&report, "ends").2.contains("(1)"), "what is meant to end so does not count");
    // What is advised cures it.
    git(&copy, &["fetch", "-q", "--unshallow", "--tags"]);
    git(&copy, &["checkout", "-q", "--", "a.txt"]);
    let (_, report) = bench.report(&[], &[]);
    causes_are(&report, &[("history", ""), ("tags", ""), ("ends", "")]);
}

/// Answers with this date for as long as the test runs.
fn server(date: &'static str) -> u16 {
    let listener = TcpListener::bind("127.0.0.1:0").unwrap();
    let port = listener.local_addr().unwrap().port();
    std::thread::spawn(move || {
        for mut stream in listener.incoming().flatten() {
            let _ = stream.read(&mut [0; 2_048]);
            let _ = write!(stream, "HTTP/1.1 200 OK\r\nDate: {date}\r\nContent-Length: 2\r\nConnection: close\r\n\r\nok");
        }
    });
    port
}

#[test]
fn the_clock_is_held_against_an_answer() {
    let (wrong, none) = (server("Sun, 06 Nov 1994 08:49:37 GMT"), server("soon"));
    let bench = Bench::new(&format!(
        "[require.wrong]\nclock = \"1 min\"\nby = \"http://127.0.0.1:{wrong}\"\n[require.none]\nclock = \"1 min\"\nby = \"http://127.0.0.1:{none}\"\n"
    ));
    let output = bench
        .command(&[], &["preflight", "--format", "json"])
        .env_remove("http_proxy")
        .env_remove("HTTP_PROXY")
        .output()
        .unwrap();
    let report: serde_json::Value = serde_json::from_slice(&output.stdout).unwrap();
    causes_are(&report, &[("wrong", "clock-wrong")]);
    assert!(essence(&report, "wrong").2.contains("days fast"));
    assert_eq!(essence(&report, "none").0, "unknown");
    let (_, offline) = bench.report(&[], &["--offline"]);
    assert_eq!(essence(&offline, "wrong").0, "skipped");
}

#[test]
fn values_are_followed_where_they_were_moved_to_and_nothing_else_is_told() {
    let page = server("Sun, 06 Nov 1994 08:49:37 GMT");
    let bench = Bench::new(&format!(
        "[value.page]\nis = 1\nfile = \"conf/station.yaml\"\nkey = \"page.port\"\n[value.charts]\nis = \"~/charts\"\nvariable = \"BUOY_CHARTS\"\nenv_file = \".env\"\n\
         [value.host]\nis = \"shore.test\"\nvariable = \"BUOY_HOST\"\n[require.page]\nservice = \"localhost:{{page}}\"\nhttp = \"/\"\ncontains = \"ok\"\n\
         [require.port]\nport = \"{{page}}\"\n[require.charts]\nfolder = \"{{charts}}\"\n[require.host]\nhostname = \"{{host}}\"\n{}",
        ""
    ));
    write(&bench.project().join("conf/station.yaml"), &format!("page:\n  port: {page}\n"));
    bench.file(".env", "BUOY_CHARTS=./moved\n");
    std::fs::create_dir(bench.project().join("moved")).unwrap();
    let run = |host: &str| {
        let output = bench.command(&[], &["preflight", "--format", "json"]).env("BUOY_HOST", host).output().unwrap();
        text(&output.stdout)
    };
    let report: serde_json::Value = serde_json::from_str(&run("localhost")).unwrap();
    causes_are(&report, &[("page", ""), ("charts", ""), ("host", "")]);
    assert_eq!(essence(&report, "port").0, "met", "{report:#}");
    // What is of no such kind is not told, and not looked up either.
    let shown = run("16c7e42f292c6912");
    assert!(shown.contains("value-unfit") && !shown.contains("16c7e42f"), "{shown}");
    bench.file(".env", "BUOY_CHARTS=sk-live-47110815\n");
    let shown = run("localhost");
    assert!(shown.contains("value-unfit") && !shown.contains("sk-live"), "{shown}");
    let again: serde_json::Value = serde_json::from_str(&shown).unwrap();
    assert!(essence(&again, "charts").2.contains(".env, line 1"), "{shown}");
}

#[test]
fn a_value_leads_no_pattern_to_a_file_of_somebody_elses() {
    let bench = Bench::new(
        "[value.key]\nis = \"./key\"\nvariable = \"BUOY_KEY\"\n[require.a]\nfile = \"{key}\"\ncontains = \"^BEGIN\"\n\
         [require.b]\nfile = \"{key}\"\ncontains = \"END$\"\n[require.names]\nfolder = \"/etc\"\ncontains = [\"passwd\", \"group\"]\n",
    );
    let outside = bench.folder.path().join("outside");
    for place in [bench.file("own", "BEGIN END"), outside.clone()] {
        std::fs::write(&place, "BEGIN END").unwrap();
        let output = bench.command(&[], &["preflight", "--format", "json"]).env("BUOY_KEY", &place).output().unwrap();
        let report: serde_json::Value = serde_json::from_slice(&output.stdout).unwrap();
        let expected = if place == outside { "could-not-look" } else { "" };
        for id in ["a", "b"] {
            assert_eq!(essence(&report, id).1, expected, "{report:#}");
        }
        assert_eq!(essence(&report, "names").0, "met");
    }
}

#[test]
fn what_belongs_into_another_place_is_not_ready_here() {
    let bench = Bench::new(
        "[place.guest]\ntitle = \"the guest\"\nwhen = \"windows\"\noutside = \"linux\"\nenter = \"enter-guest\"\n\
         [role.crew]\n[require.here]\ncores = 1\n[require.there]\nfile = \"there\"\nplace = \"guest\"\n\
         [require.anywhere]\nfile = \"anywhere\"\n",
    );
    let anywhere = bench.file("anywhere", "");
    let role = text(&bench.run(&["preflight", "--role", "crew"]).stdout);
    assert!(role.contains("  setup-ready preflight --role crew\n"), "{role}");
    let output = bench.run(&["preflight"]);
    let shown = text(&output.stdout);
    assert_eq!(output.status.code(), Some(3), "{shown}");
    assert!(shown.contains("READY HERE") && shown.contains("  enter-guest\n  setup-ready preflight\n"), "{shown}");
    let told = |expected: i32| {
        let made = bench.run(&["preflight", "--place", "guest", "--format", "json", "--output", "guest.json"]);
        assert_eq!(made.status.code(), Some(expected), "{}", text(&made.stderr));
        bench.run(&["preflight", "--with", "guest=guest.json"])
    };
    assert_eq!(told(1).status.code(), Some(1));
    bench.file("there", "");
    // What belongs to no place must hold in each of them.
    std::fs::remove_file(&anywhere).unwrap();
    assert_eq!(told(1).status.code(), Some(1));
    bench.file("anywhere", "");
    let both = bench.run(&["preflight", "--with", "guest=guest.json"]);
    assert!(text(&both.stdout).contains("1 thing not as it should be"), "{}", text(&both.stdout));
    assert_eq!(both.status.code(), Some(1));
    let both = told(0);
    assert_eq!(both.status.code(), Some(0), "{}", text(&both.stdout));
    // A report of another state of the guide, of no place, or that is none, is refused with what to do.
    bench.file("none.json", "{}");
    bench.run(&["preflight", "--format", "json", "--output", "here.json"]);
    for (with, words) in [
        ("guest=none.json", "it is not a report"),
        ("guest=here.json", "it was made in no place of the guide"),
        ("guest=absent.json", "it cannot be read"),
        ("gest=guest.json", "Did you mean guest?"),
        ("guest", "Write the place and the file"),
    ] {
        let refused = bench.run(&["preflight", "--with", with]);
        let said = text(&refused.stderr).split_whitespace().collect::<Vec<_>>().join(" ");
        assert!(refused.status.code() == Some(2) && said.contains(words), "{with}: {said}");
    }
    let guide = std::fs::read_to_string(bench.project().join("setup-guide.toml")).unwrap();
    bench.file("setup-guide.toml", &(guide + "# another line\n"));
    let refused = bench.run(&["preflight", "--with", "guest=guest.json"]);
    assert!(text(&refused.stderr).contains("another guide"), "{}", text(&refused.stderr));
}
