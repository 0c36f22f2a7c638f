use crate::guide::Protocol;
use crate::observation::{Holder, Observation};
use crate::probe::PortPlace;
use crate::read::{Listener, listeners, user_name};
use rustix::process::geteuid;
use std::fs::{read_dir, read_link, read_to_string};
use std::path::Path;

/// Who holds a port: its socket's inode, then the process that has it open, the newest first.
pub(in crate::live) fn port_holder(place: &PortPlace) -> Observation {
    let tables = match place.protocol {
        Protocol::Tcp => ["/proc/net/tcp", "/proc/net/tcp6"],
        Protocol::Udp => ["/proc/net/udp", "/proc/net/udp6"],
    };
    let texts: Vec<String> = tables.into_iter().filter_map(|table| read_to_string(table).ok()).collect();
    if texts.is_empty() {
        return Observation::CouldNotLook("/proc/net cannot be read".to_owned());
    }
    let listener = texts.iter().find_map(|text| listeners(text, place.protocol).remove(&place.port));
    Observation::PortHolder(listener.map(|listener| holder(&listener)))
}

fn holder(listener: &Listener) -> Holder {
    let passwd = read_to_string("/etc/passwd").unwrap_or_default();
    let foreign = listener.user != geteuid().as_raw();
    let user = foreign.then(|| user_name(&passwd, listener.user).unwrap_or_else(|| listener.user.to_string()));
    let pid = process_with(listener.inode);
    let name = pid.and_then(|pid| read_to_string(format!("/proc/{pid}/comm")).ok()).map(|name| name.trim_end().to_owned());
    Holder { pid, name, user }
}

fn process_with(inode: u64) -> Option<u32> {
    let socket = format!("socket:[{inode}]");
    let mut pids: Vec<u32> =
        read_dir("/proc").ok()?.flatten().filter_map(|entry| entry.file_name().to_str()?.parse().ok()).collect();
    pids.sort_unstable_by(|a, b| b.cmp(a));
    pids.into_iter().find(|pid| {
        // Other users' processes hide their descriptors: they are passed over.
        let Ok(descriptors) = read_dir(format!("/proc/{pid}/fd")) else { return false };
        descriptors.flatten().any(|entry| read_link(entry.path()).is_ok_and(|target| target == Path::new(&socket)))
    })
}
