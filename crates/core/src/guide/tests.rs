use super::{Guide, Kind, Level, PortNumbers, Subject, parse};
use crate::prelude::*;
use crate::problem::GuideError;
use proptest::prelude::*;
use rstest::rstest;

const HEAD: &str = "format = 1\n[project]\nname = \"Driftbuoy\"\n[role.shore]\n[[stage]]\nid = \"machine\"\n";

fn guide(requirements: &str) -> Result<Guide, GuideError> {
    parse(&format!("{HEAD}{requirements}"))
}

fn mistakes(requirements: &str) -> Vec<String> {
    let text = format!("{HEAD}{requirements}");
    let problems = parse(&text).unwrap_err();
    problems
        .iter()
        .map(|problem| {
            format!("{} [{}] {}", text.get(problem.span.clone()).unwrap_or(""), problem.kind.word(), {
                let note = problem.note.as_deref().unwrap_or("");
                format!("{} {note}", problem.message)
            })
        })
        .collect()
}

/// Every kind with every key of it, as the design has them.
const EVERYTHING: &str = r#"
[require.all-of-it]
tool = ["python3", "python"]
stage = "machine"
title = "Python"
why = "It is needed."
level = "should"
roles = ["shore"]
when = "linux and not wsl and distro-version >= 12"
after = ["port"]
docs = "https://driftbuoy.example/python"
version = ">= 3.11"
args = ["--version"]
pattern = 'Python (\S+)'
packages = { apt = "python3", brew = "python@3.12" }
arch = "x86_64"
expect = "present"
  [[require.all-of-it.fix]]
  cause = "tool-too-old"
  say = "Install a release that is {wanted}; you have {found}."
  run = ["pyinstall {wanted}"]
  edit = { file = "{startup-file}", append = "export PATH=\"$HOME/bin:$PATH\" ${HOME}" }
  when = "linux"
  admin = true
  then = "new-shell"
  download = "30 MB"
  takes = "5 min"
  caution = "It replaces the old one."
[require.pinned]
tool = "rustc"
version_from = { file = "ci/build.txt", pattern = "rust ([0-9.]+)", at_least = true }
tested = "1.*"
packages = { cargo = "rustc", go = "example.test/rustc", npm = "@buoy/rustc" }
[require.port]
port = 7070
protocol = "tcp"
address = "127.0.0.1"
set_by = { variable = "SHORE_PORT", env_file = ".env" }
held_ok = ["shore"]
[require.ports]
port = [1883, 8883]
[require.port-span]
port = "7000-7010"
[require.disk]
disk = "12 GB"
at = "~/charts"
inodes = 100000
[require.memory]
memory = "8 GB"
free = true
[require.swap]
swap = "2 GB"
[require.cores]
cores = 4
[require.virtualization]
virtualization = "present"
[require.system]
system = { linux = ">= 5.10", macos = "any", windows = ">= 10.0.19045" }
edition = ["pro"]
distro = ["debian", "fedora"]
arch = ["x86_64"]
[require.file]
file = "~/.config/driftbuoy/buoy.key"
mode = "600"
owner = "me"
writable = true
executable = false
contains = ["BEGIN", "END"]
means = "a key"
example = "BEGIN END"
[require.folder]
folder = "charts"
expect = "absent"
[require.variable]
variable = "BUOY_REGION"
env_file = ".env"
matches = "^[a-z]+$"
[require.token]
variable = "BUOY_TOKEN"
secret = true
[require.group]
group = "dialout"
[require.rights]
rights = "admin"
[require.socket]
socket = "/run/engine.sock"
access = "read"
[require.device]
device = ["/dev/ttyUSB0", "/dev/ttyACM0"]
usb = "2e8a:000c"
access = "write"
[require.service]
service = "localhost:1883"
http = "/"
status = 200
contains = "buoy"
packages = { apt = "mosquitto" }
unit = "mosquitto"
start = "mosquitto -d"
[require.reach]
reach = "https://files.example"
status = 200
[require.clock]
clock = "1 min"
by = "https://files.example"
[require.hostname]
hostname = "shore.test"
points_to = "127.0.0.1"
[require.subnet]
subnet = "10.77.0.0/24"
[require.limit]
limit = "open-files"
at_least = 4096
[require.library]
library = "libusb-1.0"
version = ">= 1.0.26"
packages = { apt = "libusb-1.0-0-dev" }
[require.module]
module = "setuptools"
of = "all-of-it"
version = ">= 61"
packages = { apt = "python3-setuptools", pip = "setuptools" }
[require.headers]
headers = "all-of-it"
packages = { apt = "python3-dev" }
[require.package]
system_package = { apt = "ca-certificates" }
version = ">= 2020"
[require.kernel-module]
kernel_module = "cdc_acm"
[require.locale]
locale = "en_US.UTF-8"
utf8 = true
[require.setting]
setting = "user.email"
of = "git"
matches = "@"
[require.checkout]
checkout = "."
branch = "main"
submodules = true
large_files = true
clean = true
[require.command]
command = ["python3", "-c", "import serial"]
exit = 0
matches = "^$"
timeout = "5 s"
[require.any]
any_of = ["file", "folder"]
"#;

#[test]
fn every_key_of_every_kind_is_read() {
    let guide = guide(EVERYTHING).unwrap();
    assert_eq!(guide.requirements.len(), 35);
    let first = guide.requirements.first().unwrap();
    assert_eq!((first.level, first.roles.as_slice(), first.after.as_slice()), (Level::Should, &[0][..], &[2][..]));
    let fix = first.fixes.first().unwrap();
    assert_eq!((fix.takes_ms, fix.download.map(|size| size.0), fix.admin), (Some(300_000), Some(30_000_000), true));
    assert!(
        guide
            .requirements
            .iter()
            .any(|one| matches!(&one.subject, Subject::Port(port) if port.numbers == PortNumbers::Span(7000, 7010)))
    );
    let mut kinds: Vec<Kind> = guide.requirements.iter().map(|one| one.subject.kind()).collect();
    kinds.dedup();
    assert_eq!(kinds, Kind::ALL);
}

#[rstest]
#[case::an_unknown_key(
    "tool = \"git\"\nverison = \">= 2\"",
    "verison [unknown-key] `verison` is not a key of [require.x] did you mean `version`?"
)]
#[case::a_key_of_another_kind(
    "tool = \"git\"\ninodes = 5",
    "inodes [unknown-key] `inodes` is not a key of [require.x] `inodes` goes with `disk`"
)]
#[case::two_subjects(
    "tool = \"git\"\nport = 70",
    "tool [subject] [require.x] checks `port` and `tool` at once; make it one requirement for each "
)]
#[case::no_subject("tol = \"git\"", "`tol` is not a kind; did you mean `tool`?")]
#[case::a_bad_range(
    "tool = \"git\"\nversion = \"2.30\"",
    "\"2.30\" [bad-value] a bare `2.30` means different things to different people; write `>= 2.30` or `2.30.*` "
)]
#[case::a_bad_size("disk = \"12\"", "\"12\" [bad-value] `` is not a unit here")]
#[case::a_bad_pattern(
    "tool = \"git\"\npattern = \"(\"",
    "the pattern cannot be read: a `(` has no `)` to close it (unclosed group)"
)]
#[case::a_bad_condition(
    "tool = \"git\"\nwhen = \"linux and macso\"",
    "macso [bad-value] `macso` is not a fact; did you mean `macos`?"
)]
#[case::an_unknown_stage(
    "tool = \"git\"\nstage = \"machin\"",
    "\"machin\" [unknown-word] `machin` is not a stage did you mean `machine`?"
)]
#[case::an_unknown_role(
    "tool = \"git\"\nroles = [\"sore\"]",
    "\"sore\" [unknown-word] `sore` is not a role did you mean `shore`?"
)]
#[case::an_unknown_level("tool = \"git\"\nlevel = \"shuold\"", "`level` cannot be `shuold` did you mean `should`?")]
#[case::an_unknown_requirement("tool = \"git\"\nafter = [\"y\"]", "`y` is not a requirement of this guide")]
#[case::an_unknown_cause(
    "tool = \"git\"\n[[require.x.fix]]\nsay = \"Do it.\"\ncause = \"tool-to-old\"",
    "`tool-to-old` is not a cause did you mean `tool-too-old`?"
)]
#[case::an_unknown_placeholder(
    "tool = \"git\"\n[[require.x.fix]]\nsay = \"Get {wnated}.\"",
    "`{wnated}` is not a placeholder did you mean `wanted`?"
)]
#[case::a_placeholder_that_nothing_fills(
    "tool = \"git\"\n[[require.x.fix]]\nsay = \"Use {free-port}.\"",
    "nothing that is found with `tool` fills `{free-port}`: this fix would never be offered"
)]
#[case::a_placeholder_that_this_cause_does_not_fill(
    "tool = \"git\"\n[[require.x.fix]]\ncause = \"command-no-consent\"\nsay = \"Is {path} yours?\"",
    "nothing that is found with `command-no-consent` fills `{path}`"
)]
#[case::a_placeholder_without_its_pattern(
    "command = [\"git\"]\n[[require.x.fix]]\nsay = \"Install {captured}.\"",
    "`{captured}` is what `prints` finds in what a `command` printed, and nothing here is"
)]
#[case::a_cause_of_another_kind(
    "port = 7070\n[[require.x.fix]]\ncause = \"disk-short\"\nsay = \"Make room.\"",
    "`disk-short` is no cause of a `port`, which can have `port-held`, `port-privileged`, `port-reserved`,"
)]
#[case::a_fix_without_words("tool = \"git\"\n[[require.x.fix]]\nrun = \"true\"", "[require.fix] needs `say`")]
#[case::another_type("tool = \"git\"\nwhy = 5", "5 [wrong-type] `why` must be text in quotes, not a number ")]
#[case::a_port_that_is_none("port = 70000", "a port is a number from 1 to 65535")]
#[case::a_path_instead_of_a_program("tool = \"../evil\"", "`../evil` is not the name of a program on PATH")]
#[case::a_package_with_a_command_in_it(
    "tool = \"git\"\npackages = { apt = \"git; rm -rf ~\" }",
    "cannot be the name of a package"
)]
#[case::an_unknown_manager(
    "tool = \"git\"\npackages = { atp = \"git\" }",
    "`atp` is not a package manager that is known here did you mean `apt`?"
)]
#[case::an_address_that_is_none("port = 70\naddress = \"shore.test\"", "`shore.test` is not an IP address, and not localhost")]
#[case::an_empty_list("tool = []", "`tool` is an empty list")]
#[case::waiting_for_itself("tool = \"git\"\nafter = [\"x\"]", "[cycle] these wait for each other: x -> x")]
fn mistakes_say_what_would_be_right(#[case] body: &str, #[case] expected: &str) {
    let found = mistakes(&format!("[require.x]\n{body}\n"));
    assert_eq!(found.len(), 1, "{found:?}");
    assert!(found.first().unwrap().contains(expected), "{found:?}");
}

#[rstest]
#[case::a_library("lib = \"zlib\"", "[require.x] does not say what is checked `lib` is not a kind; did you mean `library`?")]
#[case::a_variable("env = \"A\"", "`env` is not a kind; did you mean `variable`?")]
#[case::a_module("python_module = \"yaml\"\nversion = \">= 1\"", "`python_module` is not a kind; did you mean `module`?")]
#[case::a_version("tool = \"git\"\nmin_version = \"2\"", "`min_version` is not a key of [require.x] did you mean `version`?")]
#[case::what_comes_before(
    "tool = \"git\"\ndepends_on = [\"x\"]",
    "`depends_on` is not a key of [require.x] did you mean `after`?"
)]
fn other_words_lead_to_the_right_one(#[case] body: &str, #[case] expected: &str) {
    mistakes_say_what_would_be_right(body, expected);
}

/// A guide with a value, a role and a stage that say things once, and a place.
const WHOLE: &str = "format = 1\n[project]\nname = \"Driftbuoy\"\nfirst_step = [\"make\"]\n\
    [value.shore-port]\nis = 7070\nvariable = \"SHORE_PORT\"\nenv_file = \".env\"\n\
    [value.charts]\nis = \"~/charts\"\nfile = \"conf/a.yaml\"\nkey = \"charts.folder\"\n\
    [place.guest]\ntitle = \"the guest\"\nenter = \"wsl\"\n[role.shore]\nlevel = \"should\"\n\
    [[stage]]\nid = \"tools\"\nroles = [\"shore\"]\nafter = [\"git\"]\nwhy = \"It is built with it.\"\nplace = \"guest\"\n\
    [[stage]]\nid = \"running\"\nafter_start = true\nstart = [\"./station --port {shore-port}\"]\n";

#[test]
fn what_is_said_once_holds_for_all() {
    let body = "[require.basics]\ntools = [\"git\", \"cmake\"]\nversion = \">= 2\"\n\
                [require.room]\ndisk = \"1 GB\"\nat = \"{charts}/north\"\nafter = []\nlevel = \"must\"\n\
                [require.port]\nstage = \"running\"\nport = \"{shore-port}\"\nwhy = \"It is {shore-port}.\"\nafter = [\"basics\"]\n\
                [require.page]\nstage = \"running\"\nservice = \"localhost:{shore-port}\"\n";
    let guide = parse(&format!("{WHOLE}{body}")).unwrap();
    let ids: Vec<&str> = guide.requirements.iter().map(|one| one.id.as_str()).collect();
    assert_eq!(ids, ["git", "cmake", "room", "port", "page"]);
    let [git, cmake, room, port, page] = guide.requirements.as_slice() else { panic!() };
    assert_eq!((git.after.as_slice(), cmake.after.as_slice(), room.after.as_slice()), (&[][..], &[0][..], &[][..]));
    assert_eq!((git.level, room.level, git.roles.as_slice(), port.roles.len()), (Level::Should, Level::Must, &[0][..], 0));
    assert_eq!((git.why.as_deref(), git.place, port.place), (Some("It is built with it."), Some(0), None));
    assert_eq!((port.after.as_slice(), port.why.as_deref()), (&[0, 1][..], Some("It is 7070.")));
    assert!(matches!(&room.subject, Subject::Disk(disk) if disk.at == "~/charts/north"));
    assert!(matches!(&page.subject, Subject::Service(service) if service.port == 7070));
    assert!(matches!(&port.subject, Subject::Port(port) if port.set_by.as_ref().is_some_and(|by| by.name() == "SHORE_PORT")));
    assert_eq!((port.values.as_slice(), room.values.as_slice(), page.values.as_slice()), (&[0][..], &[1][..], &[0][..]));
    // Where they are moved, the guide is another.
    let moved = guide.moved(&["8080".into(), "/data/x".into()]).unwrap();
    assert_eq!(moved.requirements.get(3).unwrap().title(), "port 8080");
    assert_eq!(moved.stages.get(1).unwrap().start, ["./station --port 8080"]);
    assert!(matches!(&moved.requirements.get(2).unwrap().subject, Subject::Disk(disk) if disk.at == "/data/x/north"));
    assert!(guide.moved(&["none".into(), "/data/x".into()]).is_none());
}

#[rstest]
#[case::a_slip_of_the_pen("[value.a]\nis = 1\nvarable = \"A\"\nenv_file = \".env\"\n", "`varable` is not a key of [value.a]")]
#[case::a_slip_in_what_is_needed("[require.y]\nmodule = \"a\"\noff = \"x\"\n", "`off` is not a key of [require.y]")]
#[case::nothing_that_moves_it(
    "[value.a]\nis = 1\n",
    "[value.a] says nothing that moves it: a `variable`, or a `file` with a `key`"
)]
#[case::no_value("[value.a]\nvariable = \"A\"\n", "[value.a] needs `is`")]
#[case::a_word("[value.a]\nis = \"north\"\nvariable = \"A\"\n", "`north` is none of what a value may be")]
#[case::a_placeholder(
    "[value.port]\nis = 1\nvariable = \"A\"\n",
    "`port` cannot be the id of a value: fixes fill in something else for it"
)]
#[case::a_file_without_a_key("[value.a]\nis = 1\nfile = \"a.toml\"\n", "`file` needs `key`")]
#[case::another_format("[value.a]\nis = 1\nfile = \"a.ini\"\nkey = \"b\"\n", "keys are found in files that end in .toml, .json")]
#[case::a_file_elsewhere("[value.a]\nis = 1\nfile = \"/etc/a.toml\"\nkey = \"b\"\n", "does not lie in the project")]
#[case::no_such_value("[require.y]\nservice = \"localhost:{shore-prt}\"\n", "`{shore-prt}` names no value of this guide")]
#[case::no_such_place("[require.y]\ncores = 1\nplace = \"gest\"\n", "`gest` is not a place of this guide")]
#[case::a_place_without_a_condition("[place.a]\ntitle = \"x\"\n", "[place.a] needs `when`")]
#[case::the_same_name_twice("[require.y]\ntools = [\"x\", \"z\"]\n", "there are two requirements with the id `x`")]
#[case::a_name_that_is_no_id("[require.y]\ntools = [\"Xvfb\"]\n", "`Xvfb` cannot be an id")]
#[case::a_start_without_a_wait(
    "[[stage]]\nid = \"b\"\nstart = [\"make\"]\n",
    "`start` says how the project is started before a stage with"
)]
#[case::a_module_of_no_interpreter(
    "[require.y]\nmodule = \"a\"\nof = \"x\"\n",
    "this must be of a tool that is the interpreter of Python"
)]
#[case::a_module_by_a_path("[require.y]\nmodule = \"../a\"\nof = \"x\"\n", "`../a` cannot be the name of a module")]
#[case::an_example_that_does_not_fit(
    "[require.y]\nvariable = \"A\"\nmatches = \"^n\"\nexample = \"south\"\n",
    "the example does not fit the pattern ^n"
)]
#[case::words_for_no_pattern(
    "[require.y]\nvariable = \"A\"\nmeans = \"x\"\n",
    "`means` tells people about a pattern, and there is none here"
)]
#[case::an_edit_of_nothing(
    "[require.y]\ncores = 1\n[[require.y.fix]]\nsay = \"x\"\nedit = { file = \"a\" }\n",
    "an edit says what is done to the file"
)]
#[case::a_fix_only_while(
    "[require.y]\ncores = 1\n[[require.y.fix]]\nsay = \"x\"\nonly_while = \"x tool-mising\"\n",
    "`tool-mising` is not a cause"
)]
#[case::an_option_for_an_installer(
    "[require.y]\ntool = \"a\"\npackages = { pip = \"--index-url\" }\n",
    "cannot be the name of a package of pip"
)]
#[case::a_usb_that_is_none(
    "[require.y]\ndevice = \"/dev/a\"\nusb = \"buoy\"\n",
    "vendor and product of a device are written like"
)]
fn mistakes_in_the_newer_keys_are_told(#[case] body: &str, #[case] expected: &str) {
    let text = format!("format = 1\n[project]\nname = \"Driftbuoy\"\n[require.x]\ntool = \"git\"\n{body}");
    let found: Vec<String> = parse(&text).unwrap_err().iter().map(|problem| problem.message.clone()).collect();
    assert!(found.len() == 1 && found.first().unwrap().contains(expected), "{found:?}");
}

#[rstest]
#[case::a_number("7070", "8080", "hunter2")]
#[case::no_port("7070", "1", "70000")]
#[case::an_address("127.0.0.1", "10.0.0.1", "ghp_16C7e42F292c69")]
#[case::a_network("10.77.0.0/24", "10.88.0.0/24", "10.88.0.0")]
#[case::a_path("~/charts", "/data/charts", "sk-live-4711")]
#[case::a_path_for_a_shell("~/charts", "./charts", "/tmp/x;reboot")]
#[case::a_name("shore.test", "north.shore.test", "16c7e42f292c69")]
#[case::a_name_of_another("files.buoy.example", "other.buoy.example", "secret.evil.example")]
#[case::a_name_within_another("shore.test", "localhost", "16c7.evil.example")]
fn only_what_is_of_the_kind_of_the_value_is_followed(#[case] is: &str, #[case] moved: &str, #[case] secret: &str) {
    let shape = super::ValueShape::of(is).unwrap();
    assert!(shape.fits(moved) && !shape.fits(secret), "{shape:?}");
}

#[test]
fn all_mistakes_come_at_once_in_the_order_of_the_text() {
    let found =
        mistakes("[require.a]\ntool = \"git\"\nversion = \"2\"\nstage = \"nowhere\"\n[require.b]\ndisk = \"much\"\nat = 5\n");
    let kinds: Vec<&str> = found.iter().map(|line| line.split(['[', ']']).nth(1).unwrap()).collect();
    assert_eq!(kinds, ["bad-value", "unknown-word", "bad-value", "wrong-type"], "{found:?}");
}

#[rstest]
#[case::not_toml("format = 1\n[project\n", "this is not TOML")]
#[case::another_format("format = 2\nanything = [", "this is not TOML")]
#[case::a_later_format("format = 2\n[new]\nthing = 1\n", "format 2 is not known; this software reads format 1")]
#[case::no_format("[project]\nname = \"x\"\n", "the file must start with `format = 1`")]
#[case::no_project("format = 1\n[require.x]\ntool = \"git\"\n", "the guide needs a table [project]")]
fn what_cannot_be_a_guide_is_refused_at_once(#[case] text: &str, #[case] part: &str) {
    let problems = parse(text).unwrap_err();
    assert!(problems.first().unwrap().message.contains(part), "{problems:?}");
}

#[test]
fn size_and_depth_are_bounded_and_the_limit_is_named() {
    let large = " ".repeat(50_000_000);
    assert!(parse(&large).unwrap_err().first().unwrap().message.contains("at most 4194304 are read"));
    for deep in [format!("format = 1\nx = {}", "[".repeat(10_000)), format!("format = 1\nx{} = 1", ".y".repeat(10_000))] {
        let problems = parse(&deep).unwrap_err();
        assert!(problems.iter().any(|problem| problem.message.contains("nested deeper than 32 levels")), "{problems:?}");
    }
}

#[test]
fn longer_circles_are_found_and_named() {
    let found = mistakes(
        "[require.a]\ntool = \"a\"\nafter = [\"b\"]\n[require.b]\ntool = \"b\"\nafter = [\"c\"]\n[require.c]\nany_of = [\"a\"]\n",
    );
    assert_eq!(found.len(), 1);
    assert!(found.first().unwrap().contains("a -> b -> c -> a"), "{found:?}");
}

proptest! {
    /// A slip of the pen anywhere in a guide gives messages with places inside the text, and never a panic.
    #[test]
    fn a_slip_of_the_pen_is_reported_where_it_is(at in 0_usize..3_000, cut in 0_usize..6, typed in "[\\PC\\n]{0,3}") {
        let whole = format!("{HEAD}{EVERYTHING}");
        let start = crate::text::floor_char_boundary(&whole, at);
        let end = crate::text::floor_char_boundary(&whole, start + cut);
        let text = format!("{}{typed}{}", &whole[..start], &whole[end.max(start)..]);
        for problem in parse(&text).err().iter().flat_map(|mistakes| mistakes.iter()) {
            prop_assert!(problem.span.start <= problem.span.end && problem.span.end <= text.len(), "{problem:?}");
            prop_assert!(text.get(problem.span.clone()).is_some(), "{problem:?}");
            prop_assert!(!problem.message.is_empty());
            let (line, column) = problem.position(&text);
            prop_assert!(line <= text.lines().count() + 1 && column >= 1);
        }
    }
}

#[test]
fn a_title_cannot_pass_for_lines_of_ours() {
    let guide = parse(
        "format = 1\n[project]\nname = \"Driftbuoy\"\n[require.x]\ncores = 1\ntitle = \"cores\\r\\n\\n  These were reviewed.\"\n",
    )
    .unwrap();
    assert_eq!(guide.requirements[0].title(), "cores These were reviewed.");
}
