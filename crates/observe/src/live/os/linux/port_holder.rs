use crate::live::Live;
use crate::read::{Socket, sockets, user_name};
use rustix::process::geteuid;
use setup_ready_core::guide::Protocol;
use setup_ready_core::observation::{Holder, Observation};
use setup_ready_core::probe::PortPlace;
use std::collections::{HashMap, HashSet};
use std::fs::{read, read_dir, read_link, read_to_string};
use std::path::Path;

/// What the kernel tells is no picture of one moment: so often it is asked.
const TRIES: usize = 3;

/// Who holds a port: its socket's inode, then the process that has it open, the newest first.
pub(in crate::live) fn port_holder(live: &Live, place: &PortPlace) -> Observation {
    let mut socket = socket_at(live, place);
    for _ in 1..TRIES {
        if !matches!(socket, Ok(None)) {
            break;
        }
        // It may have been opened after the tables were read, or left out of them while others came and went.
        live.kept.forget_sockets();
        socket = socket_at(live, place);
    }
    match socket {
        Ok(socket) => Observation::PortHolder(socket.map(|socket| holder(live, &socket))),
        Err(()) => Observation::CouldNotLook("/proc/net cannot be read".to_owned()),
    }
}

/// The socket that is in the way of binding a port; an error where the system does not say.
fn socket_at(live: &Live, place: &PortPlace) -> Result<Option<Socket>, ()> {
    let tables = match place.protocol {
        Protocol::Tcp => ["/proc/net/tcp", "/proc/net/tcp6"],
        Protocol::Udp => ["/proc/net/udp", "/proc/net/udp6"],
    };
    let texts = tables.map(|table| live.kept.table(table));
    if texts.iter().all(|text| text.is_empty()) {
        return Err(());
    }
    let wanted = place.address.as_deref().and_then(|address| address.parse().ok());
    let all = || texts.iter().flat_map(|text| sockets(text, place.protocol)).filter(|socket| socket.port == place.port);
    // Who waits for connections holds it; else an outgoing connection happens to have the number.
    let listening = all().find(|socket| socket.listens && socket.is_in_the_way(wanted));
    Ok(listening.or_else(|| all().find(|socket| socket.is_in_the_way(wanted))))
}

fn holder(live: &Live, socket: &Socket) -> Holder {
    let foreign = socket.user != geteuid().as_raw();
    let named = || user_name(&live.kept.text(Path::new("/etc/passwd")), socket.user);
    let user = foreign.then(|| named().unwrap_or_else(|| socket.user.to_string()));
    let pid = process_with(live, socket);
    let name = pid.and_then(|pid| read_to_string(format!("/proc/{pid}/comm")).ok()).map(|name| name.trim_end().to_owned());
    let command = pid.and_then(|pid| read(format!("/proc/{pid}/cmdline")).ok()).and_then(|line| crate::read::started_as(&line));
    Holder { pid, name, command, user, outgoing: (!socket.listens).then(|| handed_out(live)), unit: None }
}

/// The numbers that the system takes for outgoing connections (kernel documentation, networking/ip-sysctl).
fn handed_out(live: &Live) -> (u16, u16) {
    let text = live.kept.table("/proc/sys/net/ipv4/ip_local_port_range");
    let mut numbers = text.split_whitespace().filter_map(|number| number.parse().ok());
    numbers.next().zip(numbers.next()).unwrap_or((32_768, 60_999))
}

/// Whether a port is no good offer: the system hands it out to connections, or its administrator keeps it for something.
pub(in crate::live) fn is_spoken_for(live: &Live, port: u16) -> bool {
    let (first, last) = handed_out(live);
    let kept = live.kept.table("/proc/sys/net/ipv4/ip_local_reserved_ports");
    (first..=last).contains(&port) || crate::read::is_in_ranges(&kept, port)
}

/// The process that has a socket open: of several that share it, the one that the others come from. One that was only about to start
/// another program has it for a moment too, and may be gone by now: then it is looked for once more.
fn process_with(live: &Live, socket: &Socket) -> Option<u32> {
    let is_shown = geteuid().is_root() || geteuid().as_raw() == socket.user;
    for _ in 0..TRIES {
        let all = live.kept.sockets(processes_of_sockets);
        match all.get(&socket.inode).and_then(|pids| Some((pids, *pids.first()?))) {
            Some((pids, mut pid)) => {
                while let Some(parent) = parent(pid).filter(|parent| pids.contains(parent)) {
                    pid = parent;
                }
                if Path::new(&format!("/proc/{pid}")).exists() {
                    return Some(pid);
                }
            }
            // Nobody shows what others have open.
            None if !is_shown => return None,
            None => {}
        }
        live.kept.forget_sockets();
    }
    None
}

/// All processes are looked at in no more parts than these,
const MOST_PARTS: usize = 8;
/// and none is so small that starting a thread costs more than looking.
const SMALLEST_PART: usize = 64;

/// The processes that have each socket open, the newest first. Other users' processes hide their descriptors: they are passed over.
fn processes_of_sockets() -> HashMap<u64, Vec<u32>> {
    let mut all: HashMap<u64, Vec<u32>> = HashMap::new();
    let entries = read_dir("/proc").into_iter().flatten().flatten();
    let mut pids: Vec<u32> = entries.filter_map(|entry| entry.file_name().to_str()?.parse().ok()).collect();
    pids.sort_unstable_by(|a, b| b.cmp(a));
    // A part for each core: it is the kernel's time that this costs.
    let parts = std::thread::available_parallelism().map_or(1, usize::from).min(MOST_PARTS);
    let mut parts = pids.chunks(pids.len().div_ceil(parts).max(SMALLEST_PART));
    let first = parts.next().unwrap_or_default();
    std::thread::scope(|scope| {
        let others: Vec<_> =
            parts.map(|part| (part, std::thread::Builder::new().spawn_scoped(scope, || opened_by(part)))).collect();
        let mut note =
            |opened: Vec<(u64, u32)>| opened.into_iter().for_each(|(number, pid)| all.entry(number).or_default().push(pid));
        note(opened_by(first));
        for (part, other) in others {
            // Where no thread can be had, or it failed, this one looks.
            note(other.ok().and_then(|other| other.join().ok()).unwrap_or_else(|| opened_by(part)));
        }
    });
    all
}

/// The sockets that processes have open, each once for a process, in their order.
fn opened_by(pids: &[u32]) -> Vec<(u64, u32)> {
    let mut all = Vec::new();
    for &pid in pids {
        let mut own = HashSet::new();
        for entry in read_dir(format!("/proc/{pid}/fd")).into_iter().flatten().flatten() {
            let Ok(target) = read_link(entry.path()) else { continue };
            let number = target.to_str().and_then(|target| target.strip_prefix("socket:[")?.strip_suffix(']')?.parse().ok());
            if let Some(number) = number
                && own.insert(number)
            {
                all.push((number, pid));
            }
        }
    }
    all
}

/// The process that a process comes from (proc(5), `stat`: the second field behind the name, which may hold anything).
fn parent(pid: u32) -> Option<u32> {
    let text = read_to_string(format!("/proc/{pid}/stat")).ok()?;
    text.rsplit_once(')')?.1.split_whitespace().nth(1)?.parse().ok()
}
