use super::Described;
use crate::Host;
use setup_ready_core::guide::{Protocol, SetBy};
use setup_ready_core::observation::{Binding, Observation, Way};

use rstest::rstest;
use setup_ready_core::probe::{Permission, PortPlace, Probe};

fn machine(body: &str) -> Described {
    Described::parse(&format!("format = 1\n{body}")).unwrap_or_else(|problems| panic!("{problems:?}"))
}

fn saw(body: &str, probe: &Probe) -> String {
    machine(&format!("{body}\n[machine]\nname = \"m\"\nproject = \"/home/skipper/driftbuoy\"\n")).observe(probe).to_string()
}

/// A service that answers otherwise at one of its paths.
const SERVICE: &str = "[[service]]\nat = \"localhost:7070\"\ntext = \"Shore\"\n[[service]]\nat = \"localhost:7070/health\"\nstatus = 503\ntext = \"ill\"";

#[rstest]
#[case::programs_in_the_order_of_path("path = [\"/b\", \"/a\"]\n[[program]]\npath = \"/a/x\"\n[[program]]\npath = \"/b/x\"\n[[program]]\npath = \"/c/x\"", Probe::Program { name: "x".into() }, "/b/x, /a/x")]
#[case::a_program_that_is_not_mentioned("", Probe::Program { name: "x".into() }, "none")]
#[case::what_a_program_prints("[[program]]\npath = \"/a/x\"\nprints = \"x 1.2\"", Probe::Run { path: "/a/x".into(), arguments: Vec::new(), permission: Permission::Question }, "x 1.2")]
#[case::memory_that_is_not_mentioned("", Probe::Memory, "could not look: the described machine does not say")]
#[case::the_filesystem_that_holds_a_place("[[filesystem]]\nat = \"/\"\navailable = \"9 GB\"\n[[filesystem]]\nat = \"/home\"\navailable = \"5 GB\"", Probe::DiskRoom { path: "~/charts".into() }, "5 GB free for this user at /home")]
#[case::a_number_from_a_file("[[file]]\npath = \".env\"\ntext = \"SHORE_PORT=70\"", Probe::SettingNumber(SetBy::variable("SHORE_PORT", Some(".env".into()))), "70, set in .env, line 1")]
#[case::a_secret_is_not_told(
    "[environment]\nSHORE_PORT = \"hunter2\"",
    Probe::SettingNumber(SetBy::variable("SHORE_PORT", None)),
    "not a number, set in the environment"
)]
#[case::a_program_of_windows("[[program]]\npath = \"C:\\\\Tools\\\\x.exe\"", Probe::Program { name: "x".into() }, "C:\\Tools\\x.exe")]
#[case::a_service_by_its_path(SERVICE, Probe::Fetch { url: "http://localhost:7070/health".into(), pattern: Some("fine".into()), way: Way::Direct }, "status 503; the text does not fit")]
#[case::a_service_where_no_path_is_described(SERVICE, Probe::Fetch { url: "http://localhost:7070/".into(), pattern: Some("Shore".into()), way: Way::Direct }, "status 200; the text fits")]
#[case::a_service_of_which_a_path_alone_is_described("[[service]]\nat = \"localhost:7071/health\"", Probe::Connection { host: "localhost".into(), port: 7071 }, "connected")]
fn a_described_machine_answers_as_a_real_one(#[case] body: &str, #[case] probe: Probe, #[case] answer: &str) {
    let (top, tables) = body.split_at(body.find('[').filter(|_| !body.starts_with("path")).unwrap_or(0));
    let home = "[user]\nname = \"skipper\"\n";
    let body = if body.starts_with("path") { format!("{body}\n{home}") } else { format!("{top}{home}{tables}") };
    assert_eq!(saw(&body, &probe), answer);
}

#[test]
fn ports_are_unknown_unless_the_others_are_said_to_be_free() {
    let place = PortPlace { protocol: Protocol::Tcp, address: None, port: 7070 };
    let quiet = machine("[machine]\nname = \"m\"\n[[port]]\nport = 7071\n");
    assert!(matches!(quiet.observe(&Probe::PortBinding(place.clone())), Observation::CouldNotLook(_)));
    let open = machine("other_ports = \"free\"\n[machine]\nname = \"m\"\n[[port]]\nport = 7071\n");
    assert_eq!(open.observe(&Probe::PortBinding(place.clone())), Observation::PortBinding(Binding::Free));
    assert_eq!(open.observe(&Probe::FreePort(place)), Observation::FreePort(Some(7072)));
}

#[rstest]
#[case::an_unknown_key("[machine]\nname = \"m\"\nabuot = \"x\"", "`abuot` is not a key of [machine]")]
#[case::an_unknown_cause(
    "[machine]\nname = \"m\"\n[expect]\ncmake = { verdict = \"unmet\", cause = \"tool-to-old\" }",
    "`cause` cannot be `tool-to-old`"
)]
#[case::an_unknown_flag(
    "[machine]\nname = \"m\"\n[system]\nos = \"linux\"\nflags = [\"contianer\"]",
    "`contianer` is not a flag of a machine"
)]
#[case::a_missing_size("[machine]\nname = \"m\"\n[[filesystem]]\nat = \"/\"", "[filesystem] needs `available`")]
#[case::no_name("[system]\nos = \"linux\"", "the description needs a table [machine]")]
fn mistakes_in_a_description_are_listed(#[case] body: &str, #[case] message: &str) {
    let problems = Described::parse(&format!("format = 1\n{body}\n")).unwrap_err();
    assert_eq!(problems.len(), 1, "{problems:?}");
    assert!(problems[0].message.contains(message), "{problems:?}");
}
