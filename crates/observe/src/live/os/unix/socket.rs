use rustix::fs::{self as fs, AtFlags, CWD, OFlags, accessat};
use rustix::io::Errno;
use rustix::net::{AddressFamily, SocketAddrUnix, SocketFlags, SocketType, connect, socket_with};
use setup_ready_core::guide::Access;
use setup_ready_core::observation::{DeviceState, Observation, SocketState};
use std::fs::{Metadata, OpenOptions};
use std::io::{Error, ErrorKind};
use std::os::unix::fs::{FileTypeExt, MetadataExt, OpenOptionsExt};
use std::path::Path;

/// Connects to a local socket, and closes the connection at once.
pub(in crate::live) fn socket(path: &Path) -> Observation {
    match path.metadata() {
        Ok(metadata) if !metadata.file_type().is_socket() => return Observation::Socket(SocketState::NoSocket),
        Err(error) if matches!(error.kind(), ErrorKind::NotFound | ErrorKind::NotADirectory) => {
            return Observation::Socket(SocketState::Missing);
        }
        // Where the folder may not be searched, the connection says so.
        _ => {}
    }
    let mut error = match attempt(path, SocketType::STREAM) {
        Ok(()) => return Observation::Socket(SocketState::Answers),
        Err(error) => error,
    };
    // Not every socket carries streams.
    for kind in [SocketType::DGRAM, SocketType::SEQPACKET] {
        if error != Errno::PROTOTYPE {
            break;
        }
        match attempt(path, kind) {
            Ok(()) => return Observation::Socket(SocketState::Answers),
            Err(other) => error = other,
        }
    }
    Observation::Socket(match error {
        // Its queue is full: somebody listens.
        Errno::AGAIN | Errno::INPROGRESS => SocketState::Answers,
        Errno::NOENT => SocketState::Missing,
        Errno::CONNREFUSED => SocketState::Dead,
        Errno::ACCESS | Errno::PERM => {
            // A folder on the way that one may not enter comes before the socket's own permissions.
            let barrier = path.ancestors().skip(1).find(|folder| folder.metadata().is_ok());
            let closed = path.metadata().is_err().then_some(barrier).flatten();
            let (group, mode) = owner(closed.unwrap_or(path).metadata().ok().as_ref());
            SocketState::Denied(group, mode)
        }
        error => return Observation::CouldNotLook(Error::from(error).to_string()),
    })
}

fn attempt(path: &Path, kind: SocketType) -> Result<(), Errno> {
    let address = SocketAddrUnix::new(path)?;
    let socket = socket_with(AddressFamily::UNIX, kind, SocketFlags::empty(), None)?;
    rustix::io::ioctl_fionbio(&socket, true)?;
    connect(&socket, &address)
}

fn owner(metadata: Option<&Metadata>) -> (Option<String>, Option<u32>) {
    (metadata.map(|metadata| crate::live::os::group_of(metadata.gid())), metadata.map(|metadata| metadata.mode() & 0o7777))
}

/// Opens a device and closes it again, without waiting, where that is known to do nothing. Others are only asked for their permission, and whether
/// there is a driver behind them.
pub(in crate::live) fn device(path: &Path, access: Access) -> Observation {
    let metadata = path.metadata();
    let kind = metadata.as_ref().map(Metadata::file_type);
    if kind.is_ok_and(|kind| !kind.is_char_device() && !kind.is_block_device()) {
        return Observation::Device(DeviceState::Dead);
    }
    let write = access == Access::Write;
    let quiet = metadata.as_ref().is_ok_and(|metadata| crate::live::os::opens_without_effect(path, metadata));
    let opened = if quiet {
        let flags = OFlags::NONBLOCK | OFlags::NOCTTY;
        let mut options = OpenOptions::new();
        options.read(true).write(write).custom_flags(i32::try_from(flags.bits()).unwrap_or(0));
        options.open(path).map(drop)
    } else {
        let wanted = if write { fs::Access::READ_OK | fs::Access::WRITE_OK } else { fs::Access::READ_OK };
        let allowed = accessat(CWD, path, wanted, AtFlags::EACCESS);
        if allowed.is_ok() && metadata.as_ref().is_ok_and(|metadata| !crate::live::os::has_driver(metadata)) {
            return Observation::Device(DeviceState::Dead);
        }
        allowed.map_err(Error::from)
    };
    let Err(error) = opened else { return Observation::Device(DeviceState::Opens) };
    let is = |kind: ErrorKind| error.kind() == kind;
    Observation::Device(if is(ErrorKind::NotFound) || is(ErrorKind::NotADirectory) {
        DeviceState::Missing
    } else if is(ErrorKind::PermissionDenied) {
        let (group, mode) = owner(metadata.ok().as_ref());
        DeviceState::Denied(group, mode)
    } else if is(ErrorKind::ResourceBusy) {
        DeviceState::Busy
    } else if matches!(error.raw_os_error(), Some(6 | 19)) {
        // ENXIO and ENODEV: there is a node, and no driver behind it.
        DeviceState::Dead
    } else {
        return Observation::CouldNotLook(error.to_string());
    })
}
