//! Who listens.

use std::io::{Error, Result};
use std::mem::size_of;
use std::net::{IpAddr, Ipv4Addr, Ipv6Addr};
use windows_sys::Win32::Foundation::{ERROR_INSUFFICIENT_BUFFER, NO_ERROR};
use windows_sys::Win32::NetworkManagement::IpHelper::{
    GetExtendedTcpTable, GetExtendedUdpTable, MIB_TCP6ROW_OWNER_PID, MIB_TCPROW_OWNER_PID, MIB_UDP6ROW_OWNER_PID,
    MIB_UDPROW_OWNER_PID, TCP_TABLE_OWNER_PID_LISTENER, UDP_TABLE_OWNER_PID,
};
use windows_sys::Win32::Networking::WinSock::{AF_INET, AF_INET6};

/// A table of the network, asked for until it fits: the number of its rows, and a buffer that begins with that number.
fn table(ask: impl Fn(*mut u64, *mut u32) -> u32) -> Result<Vec<u64>> {
    let mut room = 0;
    let mut buffer: Vec<u64> = Vec::new();
    // Between two questions it may have grown.
    for _ in 0..8 {
        match ask(buffer.as_mut_ptr(), &raw mut room) {
            NO_ERROR => return Ok(buffer),
            ERROR_INSUFFICIENT_BUFFER => buffer = vec![0; usize::try_from(room).unwrap_or(0).div_ceil(8).max(1)],
            error => return Err(Error::from_raw_os_error(i32::try_from(error).unwrap_or(-1))),
        }
    }
    Err(Error::other("the table grows faster than it can be read"))
}

/// The rows of such a table: behind their number, aligned as they need it.
///
/// # Safety
/// The buffer must be one that the system filled with rows of this type.
unsafe fn rows<T: Copy>(buffer: &[u64]) -> &[T] {
    let start = buffer.as_ptr();
    if buffer.is_empty() {
        return &[];
    }
    // SAFETY: the caller promises it; the number of rows is cut to what the buffer can hold.
    unsafe {
        let count = usize::try_from(start.cast::<u32>().read()).unwrap_or(0);
        let offset = size_of::<u32>().next_multiple_of(align_of::<T>());
        let most = (size_of_val(buffer) - offset) / size_of::<T>();
        std::slice::from_raw_parts(start.byte_add(offset).cast(), count.min(most))
    }
}

/// Ports stand in network order in the low half of a number.
fn port(number: u32) -> u16 {
    u16::from_be(u16::try_from(number & 0xffff).unwrap_or(0))
}

/// Who listens: address, port and process id, of one protocol.
///
/// # Errors
/// The system's.
pub(crate) fn listeners(tcp: bool) -> Result<Vec<(IpAddr, u16, u32)>> {
    let ask = |family: u16| {
        table(|buffer, room| {
            // SAFETY: the room that is told is the buffer's; without room the call only tells how much it needs.
            unsafe {
                if tcp {
                    GetExtendedTcpTable(buffer.cast(), room, 0, u32::from(family), TCP_TABLE_OWNER_PID_LISTENER, 0)
                } else {
                    GetExtendedUdpTable(buffer.cast(), room, 0, u32::from(family), UDP_TABLE_OWNER_PID, 0)
                }
            }
        })
    };
    let (older, newer) = (ask(AF_INET)?, ask(AF_INET6).unwrap_or_default());
    let v4 = |address: u32| IpAddr::V4(Ipv4Addr::from(u32::from_be(address)));
    let v6 = |address: [u8; 16]| IpAddr::V6(Ipv6Addr::from(address));
    // SAFETY: these are the rows of the tables that were asked for.
    Ok(unsafe {
        if tcp {
            let older = rows::<MIB_TCPROW_OWNER_PID>(&older)
                .iter()
                .map(|row| (v4(row.dwLocalAddr), port(row.dwLocalPort), row.dwOwningPid));
            let newer = rows::<MIB_TCP6ROW_OWNER_PID>(&newer)
                .iter()
                .map(|row| (v6(row.ucLocalAddr), port(row.dwLocalPort), row.dwOwningPid));
            older.chain(newer).collect()
        } else {
            let older = rows::<MIB_UDPROW_OWNER_PID>(&older)
                .iter()
                .map(|row| (v4(row.dwLocalAddr), port(row.dwLocalPort), row.dwOwningPid));
            let newer = rows::<MIB_UDP6ROW_OWNER_PID>(&newer)
                .iter()
                .map(|row| (v6(row.ucLocalAddr), port(row.dwLocalPort), row.dwOwningPid));
            older.chain(newer).collect()
        }
    })
}
