use super::{Guide, Kind, Level, PortNumbers, Subject, parse};
use crate::prelude::*;
use crate::problem::Mistakes;
use proptest::prelude::*;
use rstest::rstest;

const HEAD: &str = "format = 1\n[project]\nname = \"Driftbuoy\"\n[role.shore]\n[[stage]]\nid = \"machine\"\n";

fn guide(requirements: &str) -> Result<Guide, Mistakes> {
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
version_from = "rust-toolchain.toml"
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
contains = "BEGIN"
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
[require.socket]
socket = "/run/engine.sock"
access = "read"
[require.device]
device = "/dev/ttyUSB0"
access = "write"
[require.service]
service = "localhost:1883"
http = "/"
status = 200
contains = "buoy"
[require.reach]
reach = "https://files.example"
status = 200
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
    assert_eq!(guide.requirements.len(), 28);
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
#[case::a_bad_pattern("tool = \"git\"\npattern = \"(\"", "the pattern cannot be read: unclosed group")]
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
        let start = whole.floor_char_boundary(at);
        let end = whole.floor_char_boundary((start + cut).min(whole.len()));
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
