//! Files, folders, disks, devices and local sockets.

use super::registry;
use crate::live::Live;
use crate::windows_calls as call;
use setup_ready_core::guide::Access;
use setup_ready_core::observation::{DeviceState, DiskLimit, DiskRoom, FileType, Observation, PathState, SocketState};
use setup_ready_core::text::Pattern;
use socket2::{Domain, SockAddr, Socket, Type};
use std::fs::{File, OpenOptions};
use std::io::ErrorKind;
use std::os::windows::fs::{MetadataExt, OpenOptionsExt};
use std::path::Path;

/// To write to a file, or to add one to a folder (winnt.h, `FILE_WRITE_DATA` and `FILE_ADD_FILE`).
const WRITE: u32 = 2;
/// Folders are opened only with it (`FILE_FLAG_BACKUP_SEMANTICS`).
const FOLDERS_TOO: u32 = 0x0200_0000;
/// Every instance of a pipe is taken at the moment (winerror.h, `ERROR_PIPE_BUSY`).
const PIPE_BUSY: i32 = 231;

/// Whether this user may write a file, or make one in a folder: it is opened for that, and nothing is written.
fn may_write(path: &Path) -> bool {
    // Of a folder this attribute says nothing about writing in it.
    if path.metadata().is_ok_and(|data| data.is_file() && data.permissions().readonly()) {
        return false;
    }
    let opened = OpenOptions::new().access_mode(WRITE).custom_flags(FOLDERS_TOO).open(path);
    // What somebody else holds open is there to be written another time.
    opened.is_ok() || opened.is_err_and(|error| error.raw_os_error() == Some(32))
}

fn nearest_existing(path: &Path) -> Option<&Path> {
    path.ancestors().find(|parent| parent.exists())
}

/// How much this user may still write at a place.
pub(in crate::live) fn disk_room(path: &Path) -> Observation {
    let Some(existing) = nearest_existing(path) else {
        return Observation::CouldNotLook(format!("no folder above {} is there", path.display()));
    };
    let room = call::room(existing).and_then(|room| Ok((room, call::volume(existing)?)));
    match room {
        Ok(((available_bytes, free_bytes), filesystem)) => Observation::DiskRoom(DiskRoom {
            path: path.display().to_string(),
            existing: existing.display().to_string(),
            read_only: call::is_read_only(&filesystem).unwrap_or(false),
            filesystem,
            available_bytes,
            available_inodes: None,
            limited_by: (available_bytes < free_bytes).then_some(DiskLimit::Quota),
            writable: may_write(existing),
        }),
        Err(error) => Observation::CouldNotLook(error.to_string()),
    }
}

/// What is at a path, whose it is, and what this user may do with it.
pub(in crate::live) fn path_state(live: &Live, path: &Path, pattern: Option<&Pattern>) -> Observation {
    let writable = nearest_existing(path).is_some_and(may_write);
    let mut state = PathState { writable, ..PathState::nothing(path.display().to_string()) };
    let metadata = match path.metadata() {
        Ok(metadata) => metadata,
        Err(error) if matches!(error.kind(), ErrorKind::NotFound | ErrorKind::NotADirectory) => {
            if let Ok(target) = path.read_link() {
                state.nature = FileType::Dangling(target.display().to_string());
            } else {
                state.alike = live.kept.alike(path);
                state.example = live.kept.example(path);
            }
            return Observation::Path(state);
        }
        Err(error) => return Observation::CouldNotLook(error.to_string()),
    };
    state.nature = if metadata.is_dir() { FileType::Folder } else { FileType::File };
    state.executable = true;
    // An owner who cannot be read is not known.
    let (mine, owner) = call::owner(path).map_or((None, None), |(mine, owner)| (Some(mine), owner));
    (state.mine, state.owner) = (mine, owner);
    state.open_to = call::open_to(path).ok();
    state.holds = pattern.and_then(|pattern| {
        if metadata.is_dir() { crate::live::place::lists(path, pattern) } else { crate::live::place::holds(path, pattern) }
    });
    Observation::Path(state)
}

/// A working copy's folder that is another user's: here git looks at that itself, by lists that are not read.
pub(in crate::live) fn foreign(_: &Path) -> Option<(String, Option<String>)> {
    None
}

/// What in a folder is not this user's to change: here access lists are inherited, and a folder speaks for what is in it.
pub(in crate::live) fn within(_: &Path) -> Observation {
    Observation::Within(None)
}

/// Serial lines are looked up and never opened, since that resets what is connected; other devices are opened for a moment.
pub(in crate::live) fn device(path: &Path, access: Access) -> Observation {
    let name = path.display().to_string();
    // In every folder such a name means the line.
    let last = path.file_name().map(|name| name.to_string_lossy().into_owned()).unwrap_or_default();
    let short = name.strip_prefix(r"\\.\").unwrap_or(&last);
    if short.len() > 3 && short.get(..3).is_some_and(|start| start.eq_ignore_ascii_case("com")) {
        let there = registry::serial_lines().iter().any(|line| line.eq_ignore_ascii_case(short));
        return Observation::Device(if there { DeviceState::Opens } else { DeviceState::Missing });
    }
    Observation::Device(match OpenOptions::new().read(true).write(access == Access::Write).open(path) {
        Ok(_) => DeviceState::Opens,
        Err(error) if error.kind() == ErrorKind::NotFound => DeviceState::Missing,
        Err(error) if error.kind() == ErrorKind::PermissionDenied => DeviceState::Denied(None, None),
        Err(error) => return Observation::CouldNotLook(error.to_string()),
    })
}

/// Whether somebody answers at a named pipe, or at a local socket that is a file.
pub(in crate::live) fn socket(path: &Path) -> Observation {
    let name = path.display().to_string().replace('/', "\\");
    if !name.starts_with(r"\\.\pipe\") {
        return local_socket(path);
    }
    Observation::Socket(match OpenOptions::new().read(true).write(true).open(&name) {
        Ok(_) => SocketState::Answers,
        Err(error) if error.raw_os_error() == Some(PIPE_BUSY) => SocketState::Answers,
        Err(error) if error.kind() == ErrorKind::NotFound => SocketState::Missing,
        Err(error) if error.kind() == ErrorKind::PermissionDenied => SocketState::Denied(None, None),
        Err(error) => return Observation::CouldNotLook(error.to_string()),
    })
}

fn local_socket(path: &Path) -> Observation {
    match std::fs::symlink_metadata(path) {
        Err(error) if error.kind() == ErrorKind::NotFound => return Observation::Socket(SocketState::Missing),
        // A socket is marked as something special (winnt.h, `FILE_ATTRIBUTE_REPARSE_POINT`).
        Ok(data) if data.file_attributes() & 0x400 == 0 => return Observation::Socket(SocketState::NoSocket),
        _ => {}
    }
    let address = match SockAddr::unix(path) {
        Ok(address) => address,
        Err(error) => return Observation::CouldNotLook(error.to_string()),
    };
    let connected = Socket::new(Domain::UNIX, Type::STREAM, None).and_then(|socket| socket.connect(&address));
    Observation::Socket(match connected {
        Ok(()) => SocketState::Answers,
        Err(error) if error.kind() == ErrorKind::ConnectionRefused => SocketState::Dead,
        Err(error) if error.kind() == ErrorKind::PermissionDenied => SocketState::Denied(None, None),
        // The numbers of winsock2.h: WSAEINVAL and WSAENETDOWN where what is there is no socket, and WSAEAFNOSUPPORT.
        Err(error) if matches!(error.raw_os_error(), Some(10_022 | 10_050)) => SocketState::NoSocket,
        Err(error) if error.raw_os_error() == Some(10_047) => {
            return Observation::NotSupported("this Windows is too old for local sockets that are files".to_owned());
        }
        Err(error) => return Observation::CouldNotLook(error.to_string()),
    })
}

/// Opens a file for reading.
///
/// # Errors
/// The system's.
pub(in crate::live) fn open_file(path: &Path) -> std::io::Result<File> {
    File::open(path)
}
