//! The calls into Windows that the standard library does not have: the only module with unsafe code. Each function asks one thing, gives owned
//! values, and keeps no pointer beyond its call.
#![allow(unsafe_code, reason = "the system's interface is in C; each block says why it is sound")]

use std::io::{Error, Result};
use std::mem::{size_of, zeroed};
use std::net::{IpAddr, Ipv4Addr, Ipv6Addr};
use std::os::windows::ffi::OsStrExt;
use std::os::windows::io::{AsRawHandle, BorrowedHandle, FromRawHandle, OwnedHandle};
use std::path::Path;
use std::ptr::{null, null_mut};
use windows_sys::Win32::Foundation::{ERROR_INSUFFICIENT_BUFFER, NO_ERROR};
use windows_sys::Win32::NetworkManagement::IpHelper::{
    GetExtendedTcpTable, GetExtendedUdpTable, MIB_TCP6ROW_OWNER_PID, MIB_TCPROW_OWNER_PID, MIB_UDP6ROW_OWNER_PID,
    MIB_UDPROW_OWNER_PID, TCP_TABLE_OWNER_PID_LISTENER, UDP_TABLE_OWNER_PID,
};
use windows_sys::Win32::Networking::WinSock::{AF_INET, AF_INET6};
use windows_sys::Win32::Security::{
    GetTokenInformation, IsWellKnownSid, LookupAccountNameW, LookupAccountSidW, SID_AND_ATTRIBUTES, TOKEN_ELEVATION,
    TOKEN_GROUPS, TOKEN_INFORMATION_CLASS, TOKEN_QUERY, TokenElevation, TokenGroups, WinBuiltinAdministratorsSid,
};
use windows_sys::Win32::Storage::FileSystem::{GetDiskFreeSpaceExW, GetVolumePathNameW};
use windows_sys::Win32::System::Diagnostics::ToolHelp::{
    CreateToolhelp32Snapshot, PROCESSENTRY32W, Process32FirstW, Process32NextW, TH32CS_SNAPPROCESS,
};
use windows_sys::Win32::System::JobObjects::{AssignProcessToJobObject, CreateJobObjectW, TerminateJobObject};
use windows_sys::Win32::System::SystemInformation::{GlobalMemoryStatusEx, MEMORYSTATUSEX};
use windows_sys::Win32::System::Threading::{GetCurrentProcess, IsProcessorFeaturePresent, OpenProcessToken};

/// A group's right counts (winnt.h, `SE_GROUP_ENABLED`).
const ENABLED: u32 = 4;

fn wide(text: &std::ffi::OsStr) -> Vec<u16> {
    text.encode_wide().chain([0]).collect()
}

/// A text up to its end mark.
fn narrow(text: &[u16]) -> String {
    String::from_utf16_lossy(text.split(|unit| *unit == 0).next().unwrap_or_default())
}

/// The bytes that this user may still write in a folder that exists; quotas count.
///
/// # Errors
/// The system's.
pub(crate) fn room(folder: &Path) -> Result<u64> {
    let (name, mut free) = (wide(folder.as_os_str()), 0);
    // SAFETY: the name ends with a zero, and the one number that is asked for is there; the others may be null.
    let done = unsafe { GetDiskFreeSpaceExW(name.as_ptr(), &raw mut free, null_mut(), null_mut()) };
    if done == 0 { Err(Error::last_os_error()) } else { Ok(free) }
}

/// The volume that a path lies on, such as `C:\`.
///
/// # Errors
/// The system's.
pub(crate) fn volume(path: &Path) -> Result<String> {
    let (name, mut volume) = (wide(path.as_os_str()), [0_u16; 1024]);
    // SAFETY: the name ends with a zero, and the length that is told is that of the array.
    let done = unsafe { GetVolumePathNameW(name.as_ptr(), volume.as_mut_ptr(), 1024) };
    if done == 0 { Err(Error::last_os_error()) } else { Ok(narrow(&volume)) }
}

/// The machine's memory, and what of it can be had now, in bytes.
///
/// # Errors
/// The system's.
pub(crate) fn memory() -> Result<(u64, u64)> {
    // SAFETY: a structure of numbers alone, for which zeros are values; its size is told, as the system demands.
    let (done, status) = unsafe {
        let mut status: MEMORYSTATUSEX = zeroed();
        status.dwLength = u32::try_from(size_of::<MEMORYSTATUSEX>()).unwrap_or(0);
        (GlobalMemoryStatusEx(&raw mut status), status)
    };
    if done == 0 { Err(Error::last_os_error()) } else { Ok((status.ullTotalPhys, status.ullAvailPhys)) }
}

/// Whether the system says that the processor has a feature, by its number in winnt.h (`PF_...`).
pub(crate) fn has_feature(number: u32) -> bool {
    // SAFETY: any number is allowed.
    unsafe { IsProcessorFeaturePresent(number) != 0 }
}

/// What this process's token holds of a class, in a buffer that is aligned for every structure.
fn token(class: TOKEN_INFORMATION_CLASS) -> Result<Vec<u64>> {
    let mut handle = null_mut();
    // SAFETY: the pseudo handle is always valid; the handle that comes back is closed by its owner.
    let handle = unsafe {
        if OpenProcessToken(GetCurrentProcess(), TOKEN_QUERY, &raw mut handle) == 0 {
            return Err(Error::last_os_error());
        }
        OwnedHandle::from_raw_handle(handle)
    };
    let mut needed = 0;
    // SAFETY: without room the call only tells how much it needs.
    unsafe { GetTokenInformation(handle.as_raw_handle(), class, null_mut(), 0, &raw mut needed) };
    let mut buffer = vec![0_u64; usize::try_from(needed).unwrap_or(0).div_ceil(8).max(1)];
    // SAFETY: the buffer has at least the length that is told.
    let done = unsafe { GetTokenInformation(handle.as_raw_handle(), class, buffer.as_mut_ptr().cast(), needed, &raw mut needed) };
    if done == 0 { Err(Error::last_os_error()) } else { Ok(buffer) }
}

/// Whether this process may do what an administrator may.
///
/// # Errors
/// The system's.
pub(crate) fn is_elevated() -> Result<bool> {
    let buffer = token(TokenElevation)?;
    // SAFETY: for this class the system has written this structure; the buffer is aligned and long enough for it.
    Ok(unsafe { buffer.as_ptr().cast::<TOKEN_ELEVATION>().read() }.TokenIsElevated != 0)
}

/// The groups of this process: those in force by name, and whether the administrators are among them, in force or not.
///
/// # Errors
/// The system's.
pub(crate) fn groups() -> Result<(Vec<String>, bool)> {
    let buffer = token(TokenGroups)?;
    let (mut names, mut admin) = (Vec::new(), false);
    // SAFETY: for this class the system has written this structure, with as many entries as it says; their pointers lead into the same buffer,
    // which lives until the end.
    let entries: &[SID_AND_ATTRIBUTES] = unsafe {
        let groups = buffer.as_ptr().cast::<TOKEN_GROUPS>();
        let count = usize::try_from((*groups).GroupCount).unwrap_or(0);
        std::slice::from_raw_parts((&raw const (*groups).Groups).cast(), count)
    };
    for entry in entries {
        // SAFETY: the pointer is a security identifier of the system's.
        admin |= unsafe { IsWellKnownSid(entry.Sid, WinBuiltinAdministratorsSid) } != 0;
        if entry.Attributes & ENABLED == 0 {
            continue;
        }
        let (mut name, mut domain) = ([0_u16; 256], [0_u16; 256]);
        let (mut name_room, mut domain_room, mut kind) = (256, 256, 0);
        // SAFETY: as above; the lengths that are told are those of the arrays.
        let found = unsafe {
            let (name, domain) = (name.as_mut_ptr(), domain.as_mut_ptr());
            LookupAccountSidW(null(), entry.Sid, name, &raw mut name_room, domain, &raw mut domain_room, &raw mut kind)
        };
        // Sign-in sessions have no name.
        if found != 0 {
            names.push(narrow(&name));
        }
    }
    Ok((names, admin))
}

/// Whether the account database knows a user or a group of this name.
pub(crate) fn has_account(name: &str) -> bool {
    let (name, mut identifier, mut domain) = (wide(name.as_ref()), [0_u64; 16], [0_u16; 256]);
    let (mut room, mut domain_room, mut kind) = (128, 256, 0);
    // SAFETY: the name ends with a zero; the lengths that are told are those of the arrays.
    unsafe {
        let identifier = identifier.as_mut_ptr().cast();
        LookupAccountNameW(
            null(),
            name.as_ptr(),
            identifier,
            &raw mut room,
            domain.as_mut_ptr(),
            &raw mut domain_room,
            &raw mut kind,
        ) != 0
    }
}

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

/// A process: its id, the id of the one that it came from, and the name of its file.
#[derive(Debug, Clone)]
pub(crate) struct Process {
    pub(crate) id: u32,
    pub(crate) parent: u32,
    pub(crate) name: String,
}

/// The processes that run now.
///
/// # Errors
/// The system's.
pub(crate) fn processes() -> Result<Vec<Process>> {
    let mut all = Vec::new();
    // SAFETY: the handle is closed by its owner; the structure is of numbers alone, and its size is told, as the system demands.
    unsafe {
        let snapshot = CreateToolhelp32Snapshot(TH32CS_SNAPPROCESS, 0);
        if snapshot.addr() == usize::MAX {
            return Err(Error::last_os_error());
        }
        let snapshot = OwnedHandle::from_raw_handle(snapshot);
        let mut entry: PROCESSENTRY32W = zeroed();
        entry.dwSize = u32::try_from(size_of::<PROCESSENTRY32W>()).unwrap_or(0);
        let mut more = Process32FirstW(snapshot.as_raw_handle(), &raw mut entry);
        while more != 0 {
            all.push(Process { id: entry.th32ProcessID, parent: entry.th32ParentProcessID, name: narrow(&entry.szExeFile) });
            more = Process32NextW(snapshot.as_raw_handle(), &raw mut entry);
        }
    }
    Ok(all)
}

/// A job: a process and all that it starts, to be ended together.
#[derive(Debug)]
pub(crate) struct Job(OwnedHandle);

impl Job {
    /// A job with this process in it.
    ///
    /// # Errors
    /// The system's.
    pub(crate) fn of(process: BorrowedHandle<'_>) -> Result<Self> {
        // SAFETY: both handles are valid for the calls; the job's is closed by its owner.
        unsafe {
            let job = CreateJobObjectW(null(), null());
            if job.is_null() {
                return Err(Error::last_os_error());
            }
            let job = Self(OwnedHandle::from_raw_handle(job));
            if AssignProcessToJobObject(job.0.as_raw_handle(), process.as_raw_handle()) == 0 {
                return Err(Error::last_os_error());
            }
            Ok(job)
        }
    }

    /// Ends all of it.
    pub(crate) fn end(&self) {
        // SAFETY: the handle is the job's own.
        unsafe { TerminateJobObject(self.0.as_raw_handle(), 1) };
    }
}
