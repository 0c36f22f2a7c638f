//! Every reason there is, and what is said of it: read as a beginner reads it, in `book.txt`, and compared. Written by `SNAPSHOTS=overwrite cargo test`.

use super::Words;
use crate::cause::Cause;
use crate::finding::*;
use crate::fix::Shell;
use crate::guide::{self, Access, ComponentSort, Language, Protocol};
use crate::observation::{
    Barrier, DiskLimit, Fate, Holder, Nature, Network, Piece, ScriptTrouble, SystemProxy, SystemService, Unfinished,
};
use crate::prelude::*;
use crate::probe::PortPlace;
use crate::text::Size;
use crate::version::{Miss, Range, Standing, Version};
use core::net::{IpAddr, Ipv4Addr};
use std::collections::BTreeSet;
use std::{format, string::String, vec, vec::Vec};

fn text(text: &str) -> String {
    text.to_owned()
}

fn some(text: &str) -> Option<String> {
    Some(text.to_owned())
}

fn version(text: &str) -> Version {
    Version::parse(text).unwrap()
}

fn range(text: &str) -> Range {
    Range::parse(text).unwrap()
}

fn miss(wanted: &str, found: &str) -> Box<Miss> {
    match range(wanted).judge(&version(found)) {
        Standing::Outside(miss) => miss,
        other => panic!("{found} in {wanted}: {other:?}"),
    }
}

fn holder() -> Holder {
    Holder {
        pid: Some(4711),
        name: some("beacond"),
        command: some("/usr/bin/beacond"),
        user: some("oskar"),
        outgoing: None,
        unit: some("beacon.service"),
    }
}

/// Reasons of the sort, with a requirement that they may be of.
type Page = (&'static str, Vec<Reason>);

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
    let barrier = |owner: Option<&str>, mine| Barrier { path: text("/srv/charts/old"), owner: owner.map(text), mine };
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
        PathTrouble::OtherKind { nature: Nature::File },
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
        only(Fate::NewTerminal, None),
        only(Fate::SignIn, None),
        only(Fate::NotExported, None),
        only(Fate::NotRead, None),
        only(Fate::Left, Some(("~/.bashrc", 5))),
        only(Fate::Removed, Some(("~/.profile", 40))),
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

fn capacities() -> Vec<Page> {
    let size = |gigabytes: u64| Size(gigabytes * 1_000_000_000);
    let memory = vec![
        CapacityReason::MemoryShort { total: size(4), short_by: size(4), inside_windows: false },
        CapacityReason::MemoryShort { total: size(4), short_by: size(4), inside_windows: true },
        CapacityReason::MemoryCapped {
            total: size(64),
            usable: size(2),
            short_by: size(6),
            by: text("the control group /user.slice"),
        },
        CapacityReason::MemoryBusy { available: size(1), short_by: size(7) },
        CapacityReason::FreeMemoryUnknown { total: size(16) },
    ];
    let swap = vec![CapacityReason::SwapShort { swap: size(1), short_by: size(3) }, CapacityReason::SwapUnknown];
    let cores = vec![
        CapacityReason::CoresShort { online: 1, inside_windows: false },
        CapacityReason::CoresShort { online: 2, inside_windows: true },
        CapacityReason::CoresCapped { online: 16, usable_hundredths: 150, by: text("the control group /user.slice") },
    ];
    let virtualization = vec![
        VirtualizationReason::ProcessorLacks,
        VirtualizationReason::NestingOff { inside_windows: true },
        VirtualizationReason::NestingOff { inside_windows: false },
        VirtualizationReason::FirmwareOff,
        VirtualizationReason::ModuleMissing,
        VirtualizationReason::Denied { device: text("/dev/kvm"), group: some("kvm") },
        VirtualizationReason::Denied { device: text("/dev/kvm"), group: None },
        VirtualizationReason::DeniedUntilSignIn { device: text("/dev/kvm"), group: some("kvm") },
        VirtualizationReason::NotInContainer,
        VirtualizationReason::Held { by: some("buoyvirt") },
        VirtualizationReason::Held { by: None },
        VirtualizationReason::FeatureOff,
        VirtualizationReason::NotStarted,
        VirtualizationReason::ProcessorUnknown,
        VirtualizationReason::FeatureUnknown,
    ];
    let system =
        |trouble| Reason::System(Box::new(SystemReason { system: text("Debian GNU/Linux 11"), name: "Debian", trouble }));
    let systems = vec![
        SystemTrouble::Other,
        SystemTrouble::OtherDistribution { found: text("Arch Linux") },
        SystemTrouble::OutOfRange { found: version("11"), range: range(">= 12"), miss: miss(">= 12", "11") },
        SystemTrouble::OutOfRange { found: version("14"), range: range("< 13"), miss: miss("< 13", "14") },
        SystemTrouble::Incomparable { found: version("12.x"), range: range(">= 12") },
        SystemTrouble::Edition { found: text("Home") },
        SystemTrouble::Arch { found: text("i686") },
        SystemTrouble::Unknown { what: SystemUnknown::Version },
        SystemTrouble::Unknown { what: SystemUnknown::Distribution },
        SystemTrouble::Unknown { what: SystemUnknown::Edition },
    ];
    let disk = |trouble, limited_by| {
        Reason::Disk(Box::new(DiskReason {
            path: text("/srv/build"),
            existing: text("/srv"),
            disk: text("/srv"),
            available_bytes: 3_000_000_000,
            limited_by,
            trouble,
        }))
    };
    let together = || Together { needed: size(9), short_by: size(6), others: Named { first: vec![1], more: 2 } };
    let disks = vec![
        disk(DiskTrouble::ReadOnly, None),
        disk(DiskTrouble::NoPermission, None),
        disk(DiskTrouble::Short { short_by: size(2), together: None }, None),
        disk(DiskTrouble::Short { short_by: size(2), together: Some(together()) }, Some(DiskLimit::Quota)),
        disk(DiskTrouble::ShortTogether(together()), Some(DiskLimit::Outside(text("/mnt/c")))),
        disk(DiskTrouble::InodesShort { left: 100, needed: 50_000 }, None),
        disk(DiskTrouble::OthersUnknown { others: Named { first: vec![1], more: 0 } }, None),
    ];
    vec![
        ("memory = \"8 GB\"", memory.into_iter().map(Reason::Capacity).collect()),
        ("swap = \"4 GB\"", swap.into_iter().map(Reason::Capacity).collect()),
        ("cores = 4", cores.into_iter().map(Reason::Capacity).collect()),
        ("virtualization = \"usable\"", virtualization.into_iter().map(Reason::Virtualization).collect()),
        (
            "system = { linux = \">= 12\" }\nedition = [\"workstation\"]\ndistro = [\"debian\"]\narch = [\"x86_64\"]",
            systems.into_iter().map(system).collect(),
        ),
        ("disk = \"5 GB\"\nat = \"/srv/build\"", disks),
    ]
}

fn ports_and_services() -> Vec<Page> {
    let place = || PortPlace { protocol: Protocol::Tcp, address: None, port: 7070 };
    let at = |trouble, free_port| Reason::Port(Box::new(PortReason::At { place: place(), trouble, free_port }));
    let set_at = || SetAt { variable: text("BUOY_PORT"), place: text(".env") };
    let ports = vec![
        at(PortTrouble::Held { holder: Some(holder()), also: vec![7071, 7072] }, Some(7073)),
        at(PortTrouble::Held { holder: None, also: vec![] }, None),
        at(PortTrouble::HolderHidden { user: some("oskar"), accepted: vec![text("beacond")] }, None),
        at(PortTrouble::Privileged { from: 1024 }, Some(8080)),
        at(PortTrouble::Denied, None),
        at(PortTrouble::Reserved, Some(7073)),
        at(PortTrouble::NoAddress, None),
        Reason::Port(Box::new(PortReason::NotAPort { set_at: set_at(), found: Some(99_999) })),
        Reason::Port(Box::new(PortReason::NotAPort { set_at: set_at(), found: None })),
    ];
    let stopped = |state| Some(StoppedService { name: text("beacon.service"), state });
    let socket = |trouble, stopped| Reason::Socket(Box::new(SocketReason { path: text("/run/beacon.sock"), trouble, stopped }));
    let states = [SystemService::Stopped, SystemService::Disabled, SystemService::Masked, SystemService::Failed];
    let mut sockets: Vec<Reason> = states.map(|state| socket(SocketTrouble::Missing, stopped(state))).into();
    sockets.extend([
        socket(SocketTrouble::Missing, None),
        socket(SocketTrouble::NotASocket, None),
        socket(SocketTrouble::Dead, None),
        socket(SocketTrouble::Denied { group: some("beacon") }, None),
        socket(SocketTrouble::Denied { group: None }, None),
        socket(SocketTrouble::DeniedUntilSignIn { group: some("beacon") }, None),
    ]);
    let device = |trouble| Reason::Device(DeviceReason { path: text("/dev/ttyUSB0"), access: Access::Read, trouble });
    let devices = vec![
        device(DeviceTrouble::Missing),
        device(DeviceTrouble::NotConnected { usb: text("1366:1015") }),
        device(DeviceTrouble::Dead),
        device(DeviceTrouble::Denied { group: some("dialout"), until_sign_in: false }),
        device(DeviceTrouble::Denied { group: some("dialout"), until_sign_in: true }),
        device(DeviceTrouble::Denied { group: None, until_sign_in: false }),
    ];
    let url = || text("http://127.0.0.1:7070/health");
    let service =
        |trouble| Reason::Service(Box::new(ServiceReason { place: text("127.0.0.1:7070"), port: 7070, trouble, stopped: None }));
    let services = vec![
        service(ServiceTrouble::Refused),
        service(ServiceTrouble::OtherAddress { holder: holder() }),
        service(ServiceTrouble::NoAnswer),
        service(ServiceTrouble::NoWay { reason: text("Network is unreachable") }),
        service(ServiceTrouble::NoName),
        service(ServiceTrouble::OtherStatus { url: url(), status: 503 }),
        service(ServiceTrouble::OtherText { url: url() }),
        service(ServiceTrouble::OtherProgram { holder: Some(holder()) }),
        service(ServiceTrouble::OtherProgram { holder: None }),
    ];
    vec![
        ("port = 7070", ports),
        ("socket = \"/run/beacon.sock\"", sockets),
        ("device = \"/dev/ttyUSB0\"", devices),
        ("service = \"127.0.0.1:7070\"\nhttp = \"/health\"\ncontains = \"Driftbuoy\"", services),
    ]
}

fn network() -> Vec<Page> {
    let proxy = || SystemProxy { address: some("http://squid.example:3128"), script: false };
    let reach = |trouble, system_proxy| {
        Reason::Reach(Box::new(ReachReason { address: text("https://files.driftbuoy.example"), trouble, system_proxy }))
    };
    let reached = vec![
        reach(ReachTrouble::Offline, None),
        reach(ReachTrouble::NoNames, None),
        reach(ReachTrouble::NoName, None),
        reach(ReachTrouble::NoName, Some(proxy())),
        reach(ReachTrouble::Refused, None),
        reach(ReachTrouble::NoAnswer, Some(SystemProxy { address: None, script: true })),
        reach(ReachTrouble::NoWay { reason: text("Network is unreachable") }, None),
        reach(ReachTrouble::Insecure { reason: text("the certificate expired") }, None),
        reach(ReachTrouble::Proxy { reason: text("it asks for a name and a password") }, None),
        reach(ReachTrouble::Status { status: 404 }, None),
        reach(ReachTrouble::NotHttp, None),
    ];
    let lab = Network { interface: text("eth0"), address: IpAddr::V4(Ipv4Addr::new(10, 77, 0, 5)), prefix: 24 };
    let names = vec![
        Reason::Name(NameReason::Unknown),
        Reason::Name(NameReason::Elsewhere { addresses: vec![IpAddr::V4(Ipv4Addr::LOCALHOST)] }),
    ];
    let subnets = vec![
        Reason::Name(NameReason::SubnetTaken { networks: vec![lab.clone()], free: some("10.78.0.0/24") }),
        Reason::Name(NameReason::SubnetTaken { networks: vec![lab], free: None }),
    ];
    vec![
        ("reach = \"https://files.driftbuoy.example\"", reached),
        (
            "clock = \"60 s\"\nby = \"https://files.driftbuoy.example\"",
            vec![Reason::Clock(ClockReason::new(7_200_000)), Reason::Clock(ClockReason::new(-90_000))],
        ),
        ("hostname = \"shore.test\"\npoints_to = \"192.0.2.7\"", names),
        ("subnet = \"10.77.0.0/24\"", subnets),
    ]
}

fn the_project() -> Vec<Page> {
    let library = |trouble, other| {
        Reason::Library(Box::new(LibraryReason { description: some("/usr/lib/pkgconfig/tide.pc"), other, trouble }))
    };
    let other = || Some(OtherDescription { at: text("/opt/tide/lib/pkgconfig/tide.pc"), version: text("2.4") });
    let old = || LibraryTrouble::OutOfRange { found: version("1.9"), miss: miss(">= 2", "1.9") };
    let libraries = vec![
        library(LibraryTrouble::Missing, None),
        library(LibraryTrouble::Missing, other()),
        library(LibraryTrouble::Lacks { other: text("swell") }, None),
        library(LibraryTrouble::NoHeaders { loaded_from: text("/usr/lib/libtide.so.2") }, None),
        library(old(), None),
        library(LibraryTrouble::OutOfRange { found: version("3.1"), miss: miss("< 3", "3.1") }, None),
        library(old(), other()),
        library(LibraryTrouble::Incomparable { found: text("unstable") }, None),
        library(LibraryTrouble::Incomparable { found: text("unstable") }, other()),
    ];
    let component = |sort, trouble| {
        Reason::Component(Box::new(ComponentReason { sort, program: some("/usr/bin/python3"), at: None, trouble }))
    };
    let python = ComponentSort::Module(Language::Python);
    let modules = vec![
        component(python, ComponentTrouble::Missing { lacks: None }),
        component(python, ComponentTrouble::Missing { lacks: some("numpy") }),
        component(python, ComponentTrouble::OutOfRange { found: version("1.9"), miss: miss(">= 2", "1.9") }),
        component(python, ComponentTrouble::OutOfRange { found: version("3.1"), miss: miss("< 3", "3.1") }),
        component(python, ComponentTrouble::NoVersion),
        component(python, ComponentTrouble::Incomparable { found: text("dev") }),
    ];
    let packages = vec![
        component(ComponentSort::SystemPackage, ComponentTrouble::Missing { lacks: None }),
        component(ComponentSort::SystemPackage, ComponentTrouble::NoManager),
    ];
    let locales = vec![
        LocaleReason::Missing { others: vec![] },
        LocaleReason::Missing { others: vec![text("C.UTF-8"), text("en_US.UTF-8")] },
        LocaleReason::OtherEncoding { encoding: text("ISO-8859-1") },
        LocaleReason::OtherEncoding { encoding: text("") },
    ];
    let parts = || vec![text("libs/tide"), text("libs/swell")];
    let checkouts = vec![
        CheckoutReason::NoWorkingCopy,
        CheckoutReason::Branch { branch: some("feature") },
        CheckoutReason::Branch { branch: None },
        CheckoutReason::Unfinished { what: Unfinished::Merge },
        CheckoutReason::Unfinished { what: Unfinished::Rebase },
        CheckoutReason::Unfinished { what: Unfinished::Locked(text(".git/index.lock")) },
        CheckoutReason::Foreign { folder: text("/srv/driftbuoy"), owner: some("root") },
        CheckoutReason::Foreign { folder: text("/srv/driftbuoy"), owner: None },
        CheckoutReason::Submodules { missing: parts() },
        CheckoutReason::SubmodulesMoved { moved: parts() },
        CheckoutReason::SubmodulesEmptied { emptied: (0..9).map(|number| format!("libs/part-{number}")).collect() },
        CheckoutReason::LargeFiles { missing: vec![text("charts/north.bin")] },
        CheckoutReason::Shallow,
        CheckoutReason::NoTags,
        CheckoutReason::WindowsEnds { texts: 12 },
        CheckoutReason::EndsUnknown,
        CheckoutReason::Dirty { changed: 1 },
        CheckoutReason::Dirty { changed: 3 },
        CheckoutReason::ChangesUnknown,
    ];
    let commands = vec![
        CommandReason::NoConsent,
        CommandReason::NotFound,
        CommandReason::NotStarted { reason: text("Permission denied") },
        CommandReason::NothingStarts { reason: text("Resource temporarily unavailable") },
        CommandReason::TimeUp { after_ms: 10_000 },
        CommandReason::Interrupted,
        CommandReason::Crashed { signal: 11, said: some("broken pipe") },
        CommandReason::Status { status: 3, said: some("no licence") },
        CommandReason::Status { status: 3, said: None },
        CommandReason::Output { printed: text("tide 1.9") },
        CommandReason::Output { printed: text("") },
    ];
    let general = vec![
        General::CouldNotLook { reason: text("the system did not say") },
        General::NotSupported { reason: text("Windows has no such limits") },
        General::ConditionUnknown,
        General::ValueUnfit {
            set_at: SetAt { variable: text("BUOY_HOST"), place: text(".env") },
            must_be: text("the name of a host"),
        },
        General::Interrupted,
    ];
    vec![
        ("library = \"tide\"\nversion = \">= 2\"", libraries),
        ("module = \"tide\"\nof = \"first\"\nversion = \">= 2\"", modules),
        ("system_package = { apt = \"tide-data\" }", packages),
        (
            "headers = \"first\"",
            vec![component(ComponentSort::Headers(Language::Python), ComponentTrouble::Missing { lacks: None })],
        ),
        ("kernel_module = \"cdc_acm\"", vec![component(ComponentSort::KernelModule, ComponentTrouble::Missing { lacks: None })]),
        ("locale = \"de_DE.UTF-8\"", locales.into_iter().map(Reason::Locale).collect()),
        (
            "setting = \"user.name\"\nmatches = \"^[A-Z]\"\nmeans = \"your name, with a large letter\"",
            vec![Reason::Setting(SettingReason::Unset), Reason::Setting(SettingReason::Shape)],
        ),
        ("group = \"beacon\"", [GroupReason::Absent, GroupReason::NotMember, GroupReason::UntilSignIn].map(Reason::Group).into()),
        (
            "rights = \"admin\"",
            [RightsReason::NotAdmin, RightsReason::NotRoot, RightsReason::Unknown]
                .map(|rights| Reason::Rights(rights.into()))
                .into(),
        ),
        (
            "limit = \"open-files\"\nat_least = 4096",
            vec![
                Reason::Limit(LimitReason::Low { number: 1024, needed: 4096, own: true }),
                Reason::Limit(LimitReason::Low { number: 1024, needed: 4096, own: false }),
            ],
        ),
        ("limit = \"symbolic-links\"", vec![Reason::Limit(LimitReason::Lacks)]),
        ("checkout = \".\"\nbranch = \"main\"", checkouts.into_iter().map(Reason::Checkout).collect()),
        (
            "command = [\"tide\", \"--check\"]\nmatches = \"^tide 2\"\nmeans = \"tide 2\"",
            commands.into_iter().map(Reason::Command).collect(),
        ),
        (
            "any_of = [\"first\"]",
            vec![
                Reason::AnyOf(AnyOfReason::NoneMet { open: vec![0, 1] }),
                Reason::AnyOf(AnyOfReason::Unsure { open: vec![0, 1] }),
            ],
        ),
        ("memory = \"8 GB\"", general.into_iter().map(Reason::General).collect()),
    ]
}

#[test]
fn every_reason_has_words_that_read_as_sentences() {
    let pages =
        [vec![tools(), paths(), variables()], unwanted(), capacities(), ports_and_services(), network(), the_project()].concat();
    let (mut book, mut causes, mut flaws) = (String::new(), BTreeSet::new(), Vec::new());
    for (body, reasons) in pages {
        let source = format!(
            "format = 1\n[project]\nname = \"Driftbuoy\"\n[require.first]\ntitle = \"the first thing\"\ntool = \"python3\"\n[require.other]\ntitle = \"space for charts\"\ndisk = \"1 GB\"\n[require.thing]\n{body}\n"
        );
        let guide = guide::parse(&source).unwrap_or_else(|mistakes| panic!("{body}: {mistakes}"));
        let requirement = guide.requirements.iter().find(|one| one.id == "thing").unwrap();
        book.push_str(&format!("\n# {}\n", body.replace('\n', ", ")));
        for reason in reasons {
            let finding = Finding::new(Conclusion::Open(reason));
            let cause = finding.cause().map_or("", Cause::word);
            causes.insert(cause);
            let words = Words::new(&guide, requirement, &finding, Shell::Posix);
            let (message, found, wanted) = (words.message(), words.found(), words.wanted());
            // Something that stands for nothing leaves a gap.
            if ["  ", "..", " ,", "()", "``"].iter().any(|gap| message.contains(gap)) || message.ends_with([' ', ':']) {
                flaws.push(format!("{cause}: {message}"));
            }
            book.push_str(&format!("{cause}: {message}\n"));
            if found.is_some() || wanted.is_some() {
                book.push_str(&format!(
                    "    found {}; wanted {}\n",
                    found.as_deref().unwrap_or("-"),
                    wanted.as_deref().unwrap_or("-")
                ));
            }
        }
    }
    assert!(flaws.is_empty(), "{flaws:#?}");
    let missing: Vec<&str> = Cause::ALL.iter().map(|cause| cause.word()).filter(|word| !causes.contains(word)).collect();
    assert_eq!(missing, ["waits-for"], "these causes stand in no page of the book");
    let path = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("src/words/book.txt");
    if std::env::var("SNAPSHOTS").is_ok_and(|word| word == "overwrite") {
        std::fs::write(&path, &book).unwrap();
    }
    let kept = std::fs::read_to_string(&path).unwrap_or_default().replace("\r\n", "\n");
    assert!(kept == book, "what is said has changed: read it with SNAPSHOTS=overwrite cargo test, in src/words/book.txt");
}
