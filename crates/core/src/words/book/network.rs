//! Ports, sockets, devices, services, and what lies outside.

use super::{Page, some, text};
use crate::finding::*;
use crate::guide::{Access, Protocol};
use crate::observation::{Holder, Network, SystemProxy, SystemService};
use crate::prelude::*;
use crate::probe::PortPlace;
use core::net::{IpAddr, Ipv4Addr};
use std::vec;

pub(super) fn pages() -> Vec<Page> {
    let mut all = ports_and_services();
    all.extend(network());
    all
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
