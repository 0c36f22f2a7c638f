//! Causes that no Linux machine can be brought to show, on described machines: the message as a person reads it, and that a fix is offered.

use build_setup_ready::{Described, Preflight};
use rstest::rstest;
use setup_ready_core::cause::Cause;
use setup_ready_core::finding::Verdict;
use setup_ready_core::guide;

const PC: &str =
    "[system]\nos = \"windows\"\nversion = \"10.0.22631\"\nedition = \"home\"\n[user]\nname = \"mate\"\nadmin = true\n";
const LINUX: &str = "[system]\nos = \"linux\"\nversion = \"6.1.0\"\ndistro = \"debian\"\n[user]\nname = \"mate\"\nadmin = true\nelevate = \"sudo\"\n";
const MAC: &str = "[system]\nos = \"macos\"\nversion = \"14.1\"\narch = \"aarch64\"\n[user]\nname = \"mate\"\n";
const CAN: &str = "[virtualization]\nprocessor = true\nfirmware = true\n";
const VIRTUAL: &str = "virtualization = \"usable\"";

#[rstest]
#[case::lacks("virt-cpu-lacks", LINUX, "[virtualization]\nprocessor = false\n", VIRTUAL, "No setting can change that.")]
#[case::firmware(
    "virt-firmware-off",
    PC,
    "[virtualization]\nprocessor = true\nfirmware = false\n",
    VIRTUAL,
    "(BIOS or UEFI) has that switched off"
)]
#[case::module("virt-module-missing", LINUX, CAN, VIRTUAL, "module (kvm) is not loaded")]
#[case::denied(
    "virt-denied",
    LINUX,
    "[virtualization]\nprocessor = true\nfirmware = true\n[[device]]\npath = \"/dev/kvm\"\nstate = \"denied\"\ngroup = \"kvm\"\n",
    VIRTUAL,
    "only for the group kvm"
)]
#[case::feature(
    "virt-feature-off",
    PC,
    "[virtualization]\nprocessor = true\nfirmware = true\nfeature = false\n",
    VIRTUAL,
    "own feature for virtual machines is switched off"
)]
#[case::a_key_that_others_may_read(
    "path-mode",
    PC,
    "[[file]]\npath = \"key\"\nopen_to = [\"Users\"]\n",
    "file = \"key\"\nmode = \"400\"",
    "key can be read or changed by Users, but only you should be able to read it."
)]
#[case::not_started(
    "virt-feature-off",
    PC,
    "[virtualization]\nprocessor = true\nfirmware = true\nfeature = true\nstarted = false\n",
    VIRTUAL,
    "has not started its hypervisor"
)]
#[case::another_case(
    "path-missing",
    LINUX,
    "[[file]]\npath = \"Keys/Buoy\"\n",
    "file = \"Keys/buoy\"",
    "There is Buoy, which differs only in upper and lower case"
)]
#[case::held(
    "virt-held",
    PC,
    "[virtualization]\nprocessor = true\nfirmware = true\nheld_by = \"lighthouse-vm\"\n",
    VIRTUAL,
    "lighthouse-vm is using"
)]
#[case::reserved(
    "port-reserved",
    PC,
    "[[port]]\nport = 7070\nstate = \"reserved\"\n",
    "port = 7070",
    "reserved by the system, although no program uses it"
)]
#[case::links(
    "limit-lacks",
    PC,
    "[limits]\nsymbolic-links = false\n",
    "limit = \"symbolic-links\"",
    "does not allow you to make symbolic links"
)]
#[case::edition("system-edition", PC, "", "system = { windows = \"any\" }\nedition = [\"pro\"]", "The edition here is home")]
#[case::other("system-other", PC, "", "system = { linux = \"any\" }", "does not work on Windows")]
#[case::old("system-too-old", PC, "", "system = { windows = \">= 10.0.26100\" }", "is too old")]
#[case::new("system-too-new", MAC, "", "system = { macos = \"< 14\" }", "is too new")]
#[case::arch("system-arch", MAC, "", "system = { macos = \"any\" }\narch = [\"x86_64\"]", "is aarch64")]
#[case::placeholder(
    "tool-placeholder",
    MAC,
    "[[program]]\npath = \"/usr/bin/cc\"\nplaceholder = true\n",
    "tool = \"cc\"",
    "It was not started."
)]
#[case::downloaded(
    "tool-quarantined",
    MAC,
    "[[program]]\npath = \"/usr/local/bin/node\"\nquarantined = true\n",
    "tool = \"node\"",
    "the system would stop it and ask. It was not started."
)]
#[case::with_a_window_and_old(
    "tool-too-old",
    PC,
    "[[program]]\npath = \"/usr/bin/chartview\"\nopens_window = true\nstates = \"1.9.2\"\nnever_ends = true\n",
    "tool = \"chartview\"\nversion = \">= 2\"",
    "1.9.2 is older than 2"
)]
#[case::behind_a_proxy(
    "reach-proxy",
    PC,
    "[network]\nonline = true\nsystem_proxy = \"http://gate.test:3128\"\n[[site]]\nurl = \"https://files.example\"\nfails = \"no-answer\"\n",
    "reach = \"https://files.example\"",
    "name the proxy http://gate.test:3128, which browsers use; programs in this terminal do not know it"
)]
#[case::behind_a_script(
    "reach-proxy",
    PC,
    "[network]\nonline = true\nproxy_script = true\n[[site]]\nurl = \"https://files.example\"\nfails = \"no-name\"\n",
    "reach = \"https://files.example\"",
    "leave it to a script"
)]
#[case::behind_a_stopped_service(
    "service-refused",
    PC,
    "[[port]]\nport = 1883\nstate = \"free\"\n[system_services]\nmosquitto = \"stopped\"\n",
    "service = \"localhost:1883\"",
    "The service mosquitto is installed here, but it is stopped."
)]
#[case::behind_a_disabled_service(
    "socket-missing",
    PC,
    "[system_services]\nssh-agent = \"disabled\"\n",
    "socket = \"//./pipe/openssh-ssh-agent\"",
    "The service ssh-agent is installed here, but it is stopped and disabled."
)]
#[case::a_disk_outside_that_is_full(
    "disk-short",
    LINUX,
    "[[filesystem]]\nat = \"/\"\navailable = \"3 GB\"\noutside = \"/mnt/c\"\n",
    "disk = \"12 GB\"",
    "3 GB is free on the Windows disk that holds this Linux (seen from here as /mnt/c)"
)]
#[case::memory_of_a_guest(
    "memory-short",
    "[system]\nos = \"linux\"\nflags = [\"wsl\"]\n[user]\nname = \"mate\"\n",
    "[memory]\ntotal = \"4 GB\"\n",
    "memory = \"8 GB\"",
    "Windows gives this Linux 4 GB of the machine's memory"
)]
#[case::translated(
    "tool-wrong-arch",
    MAC,
    "[[program]]\npath = \"/usr/local/bin/node\"\nbuilt_for = [\"x86_64\"]\nprints = \"v22.1.0\"\n",
    "tool = \"node\"\narch = \"aarch64\"",
    "needs one that is built for aarch64"
)]
#[case::busy(
    "memory-busy",
    LINUX,
    "[memory]\ntotal = \"8 GB\"\navailable = \"1 GB\"\n",
    "memory = \"4 GB\"\nfree = true",
    "only 1 GB of it is free at the moment"
)]
#[case::until_sign_in(
    "virt-denied-until-sign-in",
    "[system]\nos = \"linux\"\n[user]\nname = \"mate\"\ngroups = [\"mate\"]\ndatabase_groups = [\"mate\", \"kvm\"]\n",
    "[virtualization]\nprocessor = true\nfirmware = true\n[[device]]\npath = \"/dev/kvm\"\nstate = \"denied\"\ngroup = \"kvm\"\n",
    VIRTUAL,
    "this session began before that"
)]
#[case::container(
    "virt-in-container",
    "[system]\nos = \"linux\"\nflags = [\"container\"]\n[user]\nname = \"root\"\nroot = true\n",
    CAN,
    VIRTUAL,
    "You are inside a container"
)]
#[case::no_such_locale("locale-missing", LINUX, "", "locale = \"de_DE.UTF-8\"", "There are C.utf8 and en_US.utf8.")]
#[case::a_locale_of_another_encoding(
    "locale-encoding",
    LINUX,
    "",
    "locale = \"de_DE.ISO-8859-1\"\nutf8 = true",
    "its characters are iso88591, and UTF-8 is needed"
)]
#[case::inside_windows(
    "virt-nesting-off",
    "[system]\nos = \"linux\"\nflags = [\"wsl\", \"virtual-machine\"]\n[user]\nname = \"mate\"\n",
    "[virtualization]\nprocessor = false\n",
    VIRTUAL,
    "This Linux runs inside Windows"
)]
fn a_machine_of_this_sort_shows(
    #[case] cause: &str,
    #[case] machine: &str,
    #[case] more: &str,
    #[case] subject: &str,
    #[case] words: &str,
) {
    let guide = guide::parse(&format!("format = 1\n[project]\nname = \"Driftbuoy\"\n[require.x]\n{subject}\n")).unwrap();
    let path = "path = [\"/usr/local/bin\", \"/usr/bin\"]\nother_ports = \"free\"\nlocales = [\"C.utf8\", \"en_US.utf8\", \"de_DE.iso88591\"]\n";
    let text = format!("format = 1\n{path}[machine]\nname = \"buoy-desk\"\n{machine}{more}");
    let machine = Described::parse(&text).unwrap_or_else(|problems| panic!("{problems:?}"));
    let report = Preflight::new(&guide).run(&machine).unwrap();
    let settled = report.settled.first().unwrap();
    assert_eq!(settled.finding.cause().map(Cause::word), Some(cause), "{}", report.message(settled));
    assert!(report.message(settled).contains(words), "{}", report.message(settled));
    assert!(!settled.fixes.is_empty(), "no fix is offered");
    let facts = serde_json::to_value(settled.finding.reason()).unwrap();
    assert_eq!(crate::values::left_out_of(&report.message(settled), &facts), Vec::<String>::new(), "{}", report.message(settled));
}

#[rstest]
#[case::permissions("not-supported-here", PC, "file = \"key\"\nmode = \"600\"", "has no such permissions")]
#[case::edition("condition-unknown", LINUX, "cores = 1\nwhen = \"edition == pro\"", "could not be found out about this machine")]
fn what_cannot_be_known_is_unknown_and_says_why(
    #[case] cause: &str,
    #[case] machine: &str,
    #[case] subject: &str,
    #[case] words: &str,
) {
    let guide = guide::parse(&format!("format = 1\n[project]\nname = \"Driftbuoy\"\n[require.x]\n{subject}\n")).unwrap();
    let text = format!("format = 1\n[machine]\nname = \"buoy-desk\"\n{machine}[[file]]\npath = \"key\"\n");
    let report = Preflight::new(&guide).run(&Described::parse(&text).unwrap()).unwrap();
    let settled = report.settled.first().unwrap();
    let finding = &settled.finding;
    assert_eq!(
        (finding.verdict(), finding.cause().map(Cause::word)),
        (Verdict::Unknown, Some(cause)),
        "{}",
        report.message(settled)
    );
    assert!(report.message(settled).contains(words), "{}", report.message(settled));
}
