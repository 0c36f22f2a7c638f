//! The words of a description. The schema is made from them, and a test holds them against what the parser really reads.

use setup_ready_core::guide::vocabulary::Shape::{Either, Flag, Map, Number, Numbers, Size, Table, Tables, Text, Texts, Word};
use setup_ready_core::guide::vocabulary::{Key, SYSTEMS, may, needed};
use setup_ready_core::observation::Elevator;

const SIZE_CAP: &[Key] = &[needed("by", Text), needed("amount", Size)];
const COUNT_CAP: &[Key] = &[needed("by", Text), needed("amount", Number)];
const PORT_STATES: &[&str] = &["free", "held", "denied", "reserved", "no-address"];
const SERVICE_STATES: &[&str] = &["running", "stopped", "disabled", "failed"];
const FAILURES: &[&str] = &["piece-missing", "library-missing", "format", "denied", "not-found"];
const SITE_FAILURES: &[&str] = &["refused", "no-answer", "no-name", "no-way", "not-http", "not-secure", "proxy"];
const LANGUAGES: &[&str] = &["python", "node", "ruby", "perl", "php"];
const VERDICTS: &[&str] = &["met", "unmet", "unknown", "blocked", "skipped"];

const EXPECTED: &[Key] = &[needed("verdict", Word(VERDICTS)), may("cause", Text), may("says", Texts), may("offers", Texts)];

const SYSTEM: &[Key] = &[
    needed("os", Word(&SYSTEMS)),
    may("version", Text),
    may("edition", Text),
    may("distro", Text),
    may("distro_like", Texts),
    may("distro_version", Text),
    may("pretty", Text),
    may("arch", Text),
    may("flags", Texts),
    may("managers", Texts),
    may("modules", Texts),
];

const USER: &[Key] = &[
    may("name", Text),
    may("home", Text),
    may("shell", Text),
    may("startup_file", Text),
    may("root", Flag),
    may("admin", Flag),
    may("elevate", Word(&Elevator::WORDS)),
    may("groups", Texts),
    may("database_groups", Texts),
    may("other_groups", Texts),
];

const PROGRAM: &[Key] = &[
    needed("path", Text),
    may("real_path", Text),
    may("prints", Text),
    may("complains", Text),
    may("exit", Number),
    may("signal", Number),
    may("never_ends", Flag),
    may("does_not_start", Word(FAILURES)),
    may("built_for", Texts),
    may("lacks", Texts),
    may("placeholder", Flag),
    may("opens_window", Flag),
    may("quarantined", Flag),
    may("states", Text),
    may("executable", Flag),
    may("in_project", Flag),
];

const COMMAND: &[Key] = &[
    needed("words", Texts),
    may("prints", Text),
    may("complains", Text),
    may("exit", Number),
    may("signal", Number),
    may("never_ends", Flag),
    may("does_not_start", Word(FAILURES)),
];

const PATH: &[Key] = &[
    needed("path", Text),
    may("text", Text),
    may("mode", Text),
    may("owner", Text),
    may("open_to", Texts),
    may("writable", Flag),
    may("executable", Flag),
    may("link_to", Text),
];

const FILESYSTEM: &[Key] = &[
    needed("at", Text),
    needed("available", Size),
    may("inodes", Number),
    may("by_quota", Flag),
    may("outside", Text),
    may("read_only", Flag),
    may("writable", Flag),
];

const PORT: &[Key] = &[
    needed("port", Number),
    may("protocol", Word(&["tcp", "udp"])),
    may("state", Word(PORT_STATES)),
    may("holder", Text),
    may("pid", Number),
    may("command", Text),
    may("user", Text),
];

const fn opened(states: &'static [&'static str]) -> [Key; 4] {
    [needed("path", Text), may("state", Word(states)), may("group", Text), may("mode", Text)]
}

const DEVICE: &[Key] = &opened(&["opens", "denied", "dead", "busy"]);
const SOCKET: &[Key] = &opened(&["answers", "denied", "dead", "no-socket"]);

const fn answering(at: &'static str) -> [Key; 5] {
    [needed(at, Text), may("status", Number), may("text", Text), may("fails", Word(SITE_FAILURES)), may("reason", Text)]
}

const SERVICE: &[Key] = &answering("at");
const SITE: &[Key] = &answering("url");

/// The keys at the top of a description.
pub const TOP: &[Key] = &[
    needed("format", Number),
    may("path", Texts),
    may("other_ports", Word(PORT_STATES)),
    needed("machine", Table(&[needed("name", Text), may("about", Text), may("project", Text)])),
    may("system", Table(SYSTEM)),
    may("user", Table(USER)),
    may("memory", Table(&[needed("total", Size), may("available", Size), may("swap", Size), may("cap", Tables(SIZE_CAP))])),
    may("cores", Table(&[needed("online", Number), may("cap", Tables(COUNT_CAP))])),
    may(
        "virtualization",
        Table(&[may("processor", Flag), may("firmware", Flag), may("feature", Flag), may("started", Flag), may("held_by", Text)]),
    ),
    may("device", Tables(DEVICE)),
    may("socket", Tables(SOCKET)),
    may("filesystem", Tables(FILESYSTEM)),
    may("program", Tables(PROGRAM)),
    may("command", Tables(COMMAND)),
    may("port", Tables(PORT)),
    may("service", Tables(SERVICE)),
    may("site", Tables(SITE)),
    may(
        "network",
        Table(&[
            may("online", Flag),
            may("clock_fast_s", Number),
            may("clock_slow_s", Number),
            may("networks", Texts),
            may("system_proxy", Text),
            may("proxy_script", Flag),
        ]),
    ),
    may("system_services", Map(&Word(SERVICE_STATES))),
    may("names", Map(&Texts)),
    may("limits", Map(&Either(&[Number, Numbers, Flag, Word(&["unlimited"])]))),
    may("locales", Texts),
    may("library", Tables(&[needed("name", Text), may("version", Text), may("described_by", Text), may("loaded_from", Text)])),
    may(
        "module",
        Tables(&[needed("of", Word(LANGUAGES)), needed("name", Text), may("version", Text), may("at", Text), may("lacks", Text)]),
    ),
    may("usb", Texts),
    may("headers", Tables(&[needed("of", Word(LANGUAGES)), may("at", Text)])),
    may("installed", Map(&Map(&Text))),
    may("settings", Map(&Text)),
    may(
        "checkout",
        Table(&[
            may("present", Flag),
            may("branch", Text),
            may("submodules_not_fetched", Texts),
            may("shallow", Flag),
            may("no_tags", Flag),
            may("windows_line_ends", Number),
            may("large_files_not_fetched", Texts),
            may("changed", Number),
            may("untracked", Number),
        ]),
    ),
    may("environment", Map(&Text)),
    may("file", Tables(PATH)),
    may("folder", Tables(PATH)),
    may(
        "candidates",
        Map(&Map(&Either(&[Text, Table(&[needed("version", Text), may("download", Size), may("others", Number)])]))),
    ),
    may("expect", Map(&Table(EXPECTED))),
    may(
        "expectation",
        Tables(&[
            may("role", Text),
            may("after_start", Flag),
            may("place", Text),
            may("outcome", Word(&["ready", "not-ready", "undecided", "ready-here"])),
            may("says", Texts),
            may("require", Map(&Table(EXPECTED))),
        ]),
    ),
];
