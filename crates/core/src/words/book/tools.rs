//! Tools, files and variables.

use super::{Page, miss, range, some, text, version};
use crate::finding::*;
use crate::observation::{AccessDenied, FileType, Piece, ScriptTrouble, StartupOutcome};
use crate::prelude::*;
use std::vec;

pub(super) fn pages() -> Vec<Page> {
    let mut all = vec![tools(), paths(), variables()];
    all.extend(unwanted());
    all
}

fn tools() -> Page {
    let all = vec![
        ToolTrouble::Missing { windows_side: None },
        ToolTrouble::Missing { windows_side: some("/mnt/c/Tools/buoyc.exe") },
        ToolTrouble::OtherName { called: text("buoyc-4"), at: text("/usr/bin/buoyc-4"), version: Some(version("4.1")) },
        ToolTrouble::OffPath { at: text("/opt/buoy/bin/buoyc") },
        ToolTrouble::NotExecutable { by: Refusal::Permissions, place: None },
        ToolTrouble::NotExecutable { by: Refusal::System, place: None },
        ToolTrouble::NotExecutable { by: Refusal::Unreadable, place: None },
        ToolTrouble::NotExecutable { by: Refusal::Barred, place: some("/home/oskar") },
        ToolTrouble::NotExecutable { by: Refusal::LeadsNowhere, place: some("/opt/buoy-3/bin/buoyc") },
        ToolTrouble::WrongArch { built_for: vec![text("x86_64")], needed: NeededArch::Machine(text("aarch64")) },
        ToolTrouble::WrongArch { built_for: vec![text("x86_64"), text("i686")], needed: NeededArch::Guide(text("aarch64")) },
        ToolTrouble::WrongArch { built_for: vec![text("riscv64")], needed: NeededArch::Refused },
        ToolTrouble::Broken { breakage: Breakage::Lacks(vec![Piece::Interpreter(text("/usr/bin/python2"))]) },
        ToolTrouble::Broken {
            breakage: Breakage::Lacks(vec![Piece::Library(text("libtide.so.3")), Piece::Library(text("libbuoy.so.1"))]),
        },
        ToolTrouble::Broken { breakage: Breakage::Lacks(vec![Piece::Loader(text("/lib/ld-musl-x86_64.so.1"))]) },
        ToolTrouble::Broken { breakage: Breakage::LoaderOrInterpreter },
        ToolTrouble::Broken { breakage: Breakage::Library(text("libtide.so.3")) },
        ToolTrouble::Broken { breakage: Breakage::Said(text("cannot open shared object file")) },
        ToolTrouble::Placeholder,
        ToolTrouble::Quarantined,
        ToolTrouble::Unselected { said: text("no version is set for command buoyc") },
        ToolTrouble::VersionAbsent { what: text("4.2"), said_in: text(".buoy-version") },
        ToolTrouble::Silent { silence: Silence::PatternMissed },
        ToolTrouble::Silent { silence: Silence::NothingLikeAVersion(some("hello")) },
        ToolTrouble::Silent { silence: Silence::NothingLikeAVersion(None) },
        ToolTrouble::Silent { silence: Silence::OpensWindow },
        ToolTrouble::Silent { silence: Silence::MightAct },
        ToolTrouble::Silent { silence: Silence::DoesNotKnow(some("unknown option --version")) },
        ToolTrouble::Stuck { after_ms: 10_000 },
        ToolTrouble::Failed { failure: Failure::Signal(11) },
        ToolTrouble::Failed { failure: Failure::Status(3, some("no licence")) },
        ToolTrouble::Failed { failure: Failure::NotStarted(text("Exec format error")) },
        ToolTrouble::OutOfRange { found: version("3.9"), miss: miss(">= 4, < 6", "3.9") },
        ToolTrouble::OutOfRange { found: version("6.1"), miss: miss(">= 4, < 6", "6.1") },
        ToolTrouble::OutOfRange { found: version("4.5"), miss: miss("< 4.5 || > 5", "4.5") },
        ToolTrouble::Incomparable { found: version("4.x") },
        ToolTrouble::Unwanted { found: Some(version("4.1")) },
        ToolTrouble::Unwanted { found: None },
        ToolTrouble::PerhapsUnwanted,
        ToolTrouble::NoConsent { need: ConsentNeed::InProject, states: None },
        ToolTrouble::NoConsent { need: ConsentNeed::RelativeEntry, states: Some(version("4.1")) },
        ToolTrouble::NoConsent { need: ConsentNeed::ChoosesByFolder, states: None },
        ToolTrouble::NoConsent { need: ConsentNeed::Argument(text("--show-release")), states: None },
        ToolTrouble::NotAsked { reason: None },
        ToolTrouble::NotAsked { reason: some("Resource temporarily unavailable") },
        ToolTrouble::PinUnread { found: Some(version("4.1")), pin: PinTrouble::NoFile(text(".buoy-version")) },
        ToolTrouble::PinUnread { found: Some(version("4.1")), pin: PinTrouble::Silent(text(".buoy-version")) },
        ToolTrouble::PinUnread { found: None, pin: PinTrouble::NotAVersion(text(".buoy-version")) },
        ToolTrouble::PinUnread { found: None, pin: PinTrouble::Unreadable(text(".buoy-version")) },
    ];
    let reason = |trouble, other| {
        let wanted = Some(WantedVersion { range: range(">= 4, < 6"), said_in: None });
        Reason::Tool(Box::new(ToolReason { name: text("buoyc"), program: some("/usr/bin/buoyc"), trouble, wanted, other }))
    };
    let other = |place| Some(OtherCopy { at: text("/opt/buoy/bin/buoyc"), version: Some(version("4.1")), place });
    let old = || ToolTrouble::OutOfRange { found: version("3.9"), miss: miss(">= 4, < 6", "3.9") };
    let mut all: Vec<Reason> = all.into_iter().map(|trouble| reason(trouble, None)).collect();
    all.extend([OtherPlace::LaterOnPath, OtherPlace::OffPath, OtherPlace::NotStarted].map(|place| reason(old(), other(place))));
    ("tool = \"buoyc\"\nversion = \">= 4, < 6\"", all)
}

fn paths() -> Page {
    let barrier = |owner: Option<&str>, mine| AccessDenied { path: text("/srv/charts/old"), owner: owner.map(text), mine };
    let all = vec![
        PathTrouble::Missing { alike: None, example: None },
        PathTrouble::Missing { alike: some("Charts"), example: None },
        PathTrouble::Missing { alike: None, example: some("charts.example") },
        PathTrouble::Barred { barrier: barrier(Some("oskar"), false) },
        PathTrouble::Barred { barrier: barrier(None, true) },
        PathTrouble::NotReadable { owner: some("oskar") },
        PathTrouble::NotReadable { owner: None },
        PathTrouble::ReadOnly { mounted_at: text("/srv") },
        PathTrouble::NoExecution { mounted_at: text("/srv") },
        PathTrouble::CannotStart { script: ScriptTrouble::NoInterpreter(text("/usr/bin/python2")) },
        PathTrouble::CannotStart { script: ScriptTrouble::LineEnds },
        PathTrouble::Within { barrier: barrier(Some("root"), false), must_be_mine: true },
        PathTrouble::Within { barrier: barrier(None, false), must_be_mine: false },
        PathTrouble::Dangling { target: text("/srv/gone") },
        PathTrouble::OtherKind { nature: FileType::File },
        PathTrouble::NotMine { owner: some("root") },
        PathTrouble::OwnerUnknown,
        PathTrouble::Mode { mode: 0o644, needed: 0o600 },
        PathTrouble::Mode { mode: 0o600, needed: 0o755 },
        PathTrouble::OpenToOthers { others: vec![text("Everyone")], needed: 0o600 },
        PathTrouble::NoPermissionBits,
        PathTrouble::NotWritable { owner: some("root"), writers: some("staff") },
        PathTrouble::NotWritable { owner: None, writers: None },
        PathTrouble::NotExecutable,
        PathTrouble::Content { missing: vec![text("depth=")] },
        PathTrouble::ContentUnread,
    ];
    let reason = |trouble| {
        Reason::Path(Box::new(PathReason {
            path: text("/srv/charts"),
            asked: text("/srv/charts"),
            whose: Whose::Foreign,
            trouble,
        }))
    };
    ("folder = \"/srv/charts\"\nowner = \"me\"\nwritable = true", all.into_iter().map(reason).collect())
}

fn variables() -> Page {
    let file = || Place::File(text("~/.bashrc"));
    let only = |fate, kept_by: Option<(&str, usize)>| VariableTrouble::OnlyInFile {
        line: Some(12),
        fate,
        kept_by: kept_by.map(|(file, line)| (text(file), line)),
        file: text("~/.bashrc"),
    };
    let all = vec![
        VariableTrouble::Unset,
        VariableTrouble::Empty { place: Place::Environment },
        VariableTrouble::Shape { place: file() },
        only(StartupOutcome::NewTerminal, None),
        only(StartupOutcome::SignIn, None),
        only(StartupOutcome::NotExported, None),
        only(StartupOutcome::NotRead, None),
        only(StartupOutcome::Left, Some(("~/.bashrc", 5))),
        only(StartupOutcome::Removed, Some(("~/.profile", 40))),
        VariableTrouble::OtherLineEnds { place: file() },
        VariableTrouble::LeadsNowhere { place: file() },
        VariableTrouble::OtherKit { place: Place::Environment, program: text("/usr/bin/buoyc"), kit: text("/opt/buoy-4") },
    ];
    let reason = |trouble| Reason::Variable(VariableReason { name: text("BUOY_REGION"), trouble });
    (
        "variable = \"BUOY_REGION\"\nmatches = \"^[a-z]+$\"\nmeans = \"small letters\"\nexample = \"north\"",
        all.into_iter().map(reason).collect(),
    )
}

fn unwanted() -> Vec<Page> {
    let path =
        PathReason { path: text("/srv/charts"), asked: text("/srv/charts"), whose: Whose::Own, trouble: PathTrouble::Unwanted };
    let variable = VariableReason { name: text("BUOY_REGION"), trouble: VariableTrouble::Unwanted { place: Place::Environment } };
    vec![
        ("folder = \"/srv/charts\"\nexpect = \"absent\"", vec![Reason::Path(Box::new(path))]),
        ("variable = \"BUOY_REGION\"\nexpect = \"absent\"", vec![Reason::Variable(variable)]),
    ]
}
