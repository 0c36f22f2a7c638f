//! What is met, left out, and waits.

use super::{range, some, text, version};
use crate::finding::*;
use crate::guide::Protocol;
use crate::observation::{Holder, Os, System};
use crate::prelude::*;
use crate::probe::PortPlace;
use crate::text::Size;
use core::net::{IpAddr, Ipv4Addr};
use std::vec;

type Page = (&'static str, Vec<Conclusion>);

fn page(body: &'static str, met: Vec<Met>) -> Page {
    (body, met.into_iter().map(Conclusion::Met).collect())
}

fn tools() -> Page {
    let here = |found: Option<&str>, started, remark| ToolMet::Here {
        name: text("buoyc"),
        program: text("/usr/bin/buoyc"),
        found: found.map(version),
        started,
        wanted: Some(WantedVersion { range: range(">= 4"), said_in: some(".buoy-version") }),
        remark,
    };
    let all = vec![
        here(Some("4.1"), true, None),
        here(Some("4.1"), false, None),
        here(None, true, None),
        here(None, false, None),
        here(Some("7.0"), true, Some(ToolRemark::Untried(range("< 7")))),
        here(Some("4.1"), true, Some(ToolRemark::PinUnread(PinTrouble::Silent(text(".buoy-version"))))),
        ToolMet::Absent,
        ToolMet::CannotRun { name: text("buoyc") },
        ToolMet::NotUnwanted { name: text("buoyc"), found: version("5") },
    ];
    page("tool = \"buoyc\"\nversion = \">= 4\"", all.into_iter().map(Met::Tool).collect())
}

fn ports() -> Page {
    let place = || PortPlace { protocol: Protocol::Tcp, address: None, port: 7070 };
    let holder = Holder { pid: Some(7), name: some("beacond"), command: None, user: None, outgoing: None, unit: None };
    let set_at = || Some(SetAt { variable: text("BUOY_PORT"), place: text(".env") });
    let all = vec![
        PortMet::Free { place: Some(place()), count: 1, set_at: None },
        PortMet::Free { place: Some(place()), count: 1, set_at: set_at() },
        PortMet::Free { place: None, count: 3, set_at: None },
        PortMet::Own { place: place(), url: text("http://127.0.0.1:7070/health") },
        PortMet::Accepted { place: place(), holder },
    ];
    page("port = 7070", all.into_iter().map(Met::Port).collect())
}

/// All that is met, and all ways of not having been looked at.
pub(super) fn pages() -> Vec<Page> {
    let debian = System {
        os: Os::Linux,
        version: some("6.1"),
        edition: None,
        distro: some("debian"),
        distro_like: vec![],
        distro_version: some("12"),
        pretty: some("Debian GNU/Linux 12"),
        arch: text("x86_64"),
    };
    let capacity = |body, met| page(body, vec![Met::Capacity(met)]);
    let size = || Size(8_000_000_000);
    let waits = [vec![0], vec![0, 1]].map(|on| Conclusion::Waits(Waiting { on, online: false }));
    let online = Conclusion::Waits(Waiting { on: vec![], online: true });
    let left_out = [
        LeftOut::OtherRole,
        LeftOut::UntilStarted,
        LeftOut::OtherMachine,
        LeftOut::OtherPlace,
        LeftOut::Offline,
        LeftOut::NoAlternative,
    ];
    vec![
        tools(),
        ports(),
        page("disk = \"5 GB\"\nat = \"/srv/build\"", vec![Met::Disk { available_bytes: 9_000_000_000, at: text("/srv/build") }]),
        capacity("memory = \"8 GB\"", CapacityMet::Memory { usable: size() }),
        capacity("memory = \"8 GB\"\nfree = true", CapacityMet::FreeMemory { available: size() }),
        capacity("cores = 1", CapacityMet::Cores { usable_hundredths: 150 }),
        capacity("swap = \"4 GB\"", CapacityMet::Swap { swap: size() }),
        page("virtualization = \"usable\"", vec![Met::VirtualizationUsable, Met::VirtualizationPresent]),
        page("system = { linux = \">= 5\" }", vec![Met::System(Box::new(debian))]),
        page(
            "folder = \"/srv/charts\"",
            vec![Met::PathFits { path: text("/srv/charts") }, Met::PathAbsent { path: text("/srv/charts") }],
        ),
        page(
            "variable = \"BUOY_REGION\"",
            vec![
                Met::VariableSet { place: Place::Environment },
                Met::VariableSet { place: Place::File(text(".env")) },
                Met::VariableUnset,
            ],
        ),
        page("rights = \"admin\"", vec![Met::RightsInForce]),
        page("group = \"beacon\"", vec![Met::GroupInForce, Met::GroupNotNeeded]),
        page("socket = \"/run/beacon.sock\"", vec![Met::SocketAnswers]),
        page("device = \"/dev/ttyUSB0\"", vec![Met::DeviceOpens, Met::DeviceBusy]),
        page(
            "service = \"127.0.0.1:7070\"\nhttp = \"/health\"",
            vec![Met::ServiceTakesConnections, Met::ServiceAnswers { url: text("http://127.0.0.1:7070/health"), status: 200 }],
        ),
        page(
            "reach = \"https://files.driftbuoy.example\"",
            vec![Met::Reached { address: text("https://files.driftbuoy.example"), status: 200 }],
        ),
        page("clock = \"60 s\"\nby = \"https://files.driftbuoy.example\"", vec![Met::ClockRight]),
        page("hostname = \"shore.test\"", vec![Met::NameLeads { addresses: vec![IpAddr::V4(Ipv4Addr::LOCALHOST)] }]),
        page("subnet = \"10.77.0.0/24\"", vec![Met::SubnetUnused]),
        page("limit = \"open-files\"\nat_least = 4096", vec![Met::LimitHigh { number: 8192 }, Met::Unlimited]),
        page("limit = \"symbolic-links\"", vec![Met::Able]),
        page("library = \"tide\"", vec![Met::Library { version: text("2.4") }]),
        page(
            "module = \"tide\"\nof = \"first\"",
            vec![
                Met::Installed { version: some("2.4"), at: some("/usr/lib/python3/dist-packages/tide") },
                Met::Installed { version: None, at: None },
            ],
        ),
        page("headers = \"first\"", vec![Met::Installed { version: None, at: some("/usr/include/python3.11") }]),
        page("kernel_module = \"cdc_acm\"", vec![Met::Installed { version: None, at: None }]),
        page("locale = \"de_DE.UTF-8\"", vec![Met::Locale { name: text("de_DE.utf8") }]),
        page("setting = \"user.name\"", vec![Met::SettingSet]),
        page("checkout = \".\"", vec![Met::Checkout { branch: some("main") }, Met::Checkout { branch: None }]),
        page("command = [\"tide\", \"--check\"]", vec![Met::CommandRan]),
        page("any_of = [\"first\", \"other\"]", vec![Met::AnyOf { which: 1 }]),
        (
            "memory = \"8 GB\"\nroles = [\"shore\"]",
            left_out.into_iter().map(Conclusion::LeftOut).chain(waits).chain([online]).collect(),
        ),
    ]
}
