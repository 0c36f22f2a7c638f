use setup_ready_core::guide::Protocol;
use setup_ready_core::observation::Network;
use std::net::{IpAddr, Ipv4Addr, Ipv6Addr};

/// A socket that has a port of this machine.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Socket {
    /// The address at this end; an unspecified one is every address.
    pub address: IpAddr,
    /// The port.
    pub port: u16,
    /// It waits for others to connect; otherwise it is this end of a connection.
    pub listens: bool,
    /// The socket's inode, by which its process is found.
    pub inode: u64,
    /// The user it belongs to.
    pub user: u32,
}

/// The sockets that have ports of this machine, from `/proc/net/tcp`, `tcp6`, `udp` or `udp6` (proc(5)).
pub fn sockets(text: &str, protocol: Protocol) -> impl Iterator<Item = Socket> {
    text.lines().skip(1).filter_map(move |line| {
        let fields: Vec<&str> = line.split_whitespace().collect();
        let (address, port) = fields.get(1)?.rsplit_once(':')?;
        // 0A is LISTEN; a UDP socket that is bound and not connected has 07.
        let waiting = if protocol == Protocol::Tcp { "0A" } else { "07" };
        let socket = Socket {
            address: address_of(address)?,
            port: u16::from_str_radix(port, 16).ok()?,
            listens: *fields.get(3)? == waiting,
            user: fields.get(7)?.parse().ok()?,
            inode: fields.get(9)?.parse().ok()?,
        };
        // A connection that has ended and is only remembered belongs to nobody.
        (socket.inode != 0).then_some(socket)
    })
}

/// An address as the kernel prints it: words of the machine's own byte order in hexadecimal digits.
fn address_of(digits: &str) -> Option<IpAddr> {
    let word = |at: usize| Some(u32::from_str_radix(digits.get(at..at + 8)?, 16).ok()?.to_ne_bytes());
    match digits.len() {
        8 => Some(Ipv4Addr::from(word(0)?).into()),
        32 => {
            let bytes: Vec<u8> = [0, 8, 16, 24].into_iter().map(word).collect::<Option<Vec<_>>>()?.concat();
            Some(Ipv6Addr::from(<[u8; 16]>::try_from(bytes).ok()?).to_canonical())
        }
        _ => None,
    }
}

impl Socket {
    /// Whether it stands in the way of binding this address, every address where none is given, at its port.
    pub fn is_in_the_way(&self, wanted: Option<IpAddr>) -> bool {
        let Some(wanted) = wanted.filter(|wanted| !wanted.is_unspecified()) else { return true };
        // One that has every address of the newer family usually has those of the older one too.
        self.address == wanted || (self.address.is_unspecified() && (self.address.is_ipv6() || wanted.is_ipv4()))
    }
}

/// The networks that `/proc/net/route` (the older family) has ways to: interface, address, prefix; without the way to everywhere.
pub fn routes(text: &str) -> Vec<Network> {
    let entry = |line: &str| {
        let fields: Vec<&str> = line.split_whitespace().collect();
        let word = |at: usize| Some(u32::from_be_bytes(u32::from_str_radix(fields.get(at)?, 16).ok()?.to_ne_bytes()));
        let (address, mask) = (word(1)?, word(7)?);
        let prefix = u8::try_from(mask.leading_ones()).ok().filter(|prefix| *prefix > 0)?;
        Some(Network { interface: (*fields.first()?).to_owned(), address: Ipv4Addr::from_bits(address).into(), prefix })
    };
    text.lines().skip(1).filter_map(entry).collect()
}

/// Whether there is a way to everywhere, by `/proc/net/route` and `/proc/net/ipv6_route`.
pub fn has_default_route(older: &str, newer: &str) -> bool {
    let everywhere = |line: &str| {
        let fields: Vec<&str> = line.split_whitespace().collect();
        fields.get(1) == Some(&"00000000") && fields.get(7) == Some(&"00000000")
    };
    // The newer table also has what leads nowhere, by the machine's own interface.
    let newer_everywhere = |line: &str| {
        let fields: Vec<&str> = line.split_whitespace().collect();
        let zero = fields.first().is_some_and(|address| address.len() == 32 && address.bytes().all(|digit| digit == b'0'));
        zero && fields.get(1) == Some(&"00") && fields.last().is_some_and(|interface| *interface != "lo")
    };
    older.lines().skip(1).any(everywhere) || newer.lines().any(newer_everywhere)
}

#[cfg(test)]
mod tests {
    use super::sockets;
    use rstest::rstest;
    use setup_ready_core::guide::Protocol;
    use std::net::IpAddr;

    const TCP: &str = "  sl  local_address rem_address   st tx_queue rx_queue tr tm->when retrnsmt   uid  timeout inode
   0: 0100007F:1B9E 00000000:0000 0A 00000000:00000000 00:00000000 00000000   107        0 21013 1 0000000000000000 100 0 0 10 0
   1: 0100007F:0BB8 0100007F:1B9E 01 00000000:00000000 00:00000000 00000000     0        0 21014 1 0000000000000000 20 4 30 10 -1
   2: 0100007F:0BB9 0100007F:1B9E 06 00000000:00000000 03:00000A2C 00000000     0        0 0 3 0000000000000000
   3: 00000000000000000000000001000000:1B9F 00000000000000000000000000000000:0000 0A 00000000:00000000 00:00000000 00000000     0        0 21015 1 0 100 0 0 10 0
   4: 00000000000000000000000000000000:1BA0 00000000000000000000000000000000:0000 0A 00000000:00000000 00:00000000 00000000     0        0 21016 1 0 100 0 0 10 0
 damaged line
";

    #[test]
    fn sockets_are_read_with_their_addresses() {
        let found: Vec<_> = sockets(TCP, Protocol::Tcp)
            .map(|one| (one.address.to_string(), one.port, one.listens, one.inode, one.user))
            .collect();
        let expected = [
            ("127.0.0.1", 7070, true, 21013, 107),
            ("127.0.0.1", 3000, false, 21014, 0),
            ("::1", 7071, true, 21015, 0),
            ("::", 7072, true, 21016, 0),
        ];
        assert_eq!(found, expected.map(|(address, port, listens, inode, user)| (address.to_owned(), port, listens, inode, user)));
    }

    #[rstest]
    #[case::every_address(7070, None, true)]
    #[case::the_same_address(7070, Some("127.0.0.1"), true)]
    #[case::another_address(7070, Some("127.0.0.2"), false)]
    #[case::the_other_family(7071, Some("127.0.0.1"), false)]
    #[case::both_families(7072, Some("127.0.0.1"), true)]
    fn a_socket_is_in_the_way_where_addresses_overlap(#[case] port: u16, #[case] wanted: Option<&str>, #[case] holds: bool) {
        let wanted: Option<IpAddr> = wanted.map(|wanted| wanted.parse().unwrap());
        let socket = sockets(TCP, Protocol::Tcp).find(|socket| socket.port == port).unwrap();
        assert_eq!(socket.is_in_the_way(wanted), holds);
    }
}
