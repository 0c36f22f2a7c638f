use crate::guide::Protocol;
use std::collections::BTreeMap;

/// A socket that holds a port.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Listener {
    /// The port.
    pub port: u16,
    /// The socket's inode, by which its process is found.
    pub inode: u64,
    /// The user it belongs to.
    pub user: u32,
}

/// The sockets that hold ports, by port, from `/proc/net/tcp` and its like (proc(5)).
pub fn listeners(text: &str, protocol: Protocol) -> BTreeMap<u16, Listener> {
    let mut found = BTreeMap::new();
    for line in text.lines().skip(1) {
        let fields: Vec<&str> = line.split_whitespace().collect();
        let (Some(local), Some(state), Some(user), Some(inode)) = (fields.get(1), fields.get(3), fields.get(7), fields.get(9))
        else {
            continue;
        };
        // 0A is LISTEN; a UDP socket that is bound and not connected has 07.
        let holds = match protocol {
            Protocol::Tcp => *state == "0A",
            Protocol::Udp => *state == "07",
        };
        let port = local.rsplit_once(':').and_then(|(_, port)| u16::from_str_radix(port, 16).ok());
        if let (true, Some(port), Ok(user), Ok(inode)) = (holds, port, user.parse(), inode.parse()) {
            found.entry(port).or_insert(Listener { port, inode, user });
        }
    }
    found
}

#[cfg(test)]
mod tests {
    use super::listeners;
    use crate::guide::Protocol;

    #[test]
    fn only_listening_sockets_hold_a_port() {
        let text = "  sl  local_address rem_address   st tx_queue rx_queue tr tm->when retrnsmt   uid  timeout inode\n   0: 0100007F:1B9E 00000000:0000 0A 00000000:00000000 00:00000000 00000000   107        0 21013 1 0000000000000000 100 0 0 10 0\n   1: 0100007F:0BB8 0100007F:1B9E 01 00000000:00000000 00:00000000 00000000     0        0 21014 1 0000000000000000 20 4 30 10 -1\n";
        let found = listeners(text, Protocol::Tcp);
        assert_eq!(found.keys().copied().collect::<Vec<u16>>(), [7070]);
        assert_eq!(found.get(&7070).map(|listener| (listener.inode, listener.user)), Some((21013, 107)));
    }
}
