//! Processes, and jobs to end them with.

use super::narrow;
use std::io::{Error, Result};
use std::mem::{size_of, zeroed};
use std::os::windows::io::{AsRawHandle, BorrowedHandle, FromRawHandle, OwnedHandle};
use std::ptr::null;
use windows_sys::Win32::System::Diagnostics::Debug::{
    SEM_FAILCRITICALERRORS, SEM_NOGPFAULTERRORBOX, SEM_NOOPENFILEERRORBOX, SetErrorMode,
};
use windows_sys::Win32::System::Diagnostics::ToolHelp::{
    CreateToolhelp32Snapshot, PROCESSENTRY32W, Process32FirstW, Process32NextW, TH32CS_SNAPPROCESS,
};
use windows_sys::Win32::System::JobObjects::{AssignProcessToJobObject, CreateJobObjectW, TerminateJobObject};

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

/// Has this process and all that it starts end in silence where the system would open a window about an error and wait.
pub(crate) fn open_no_windows_of_errors() {
    // SAFETY: it only sets switches of this process.
    unsafe { SetErrorMode(SEM_FAILCRITICALERRORS | SEM_NOGPFAULTERRORBOX | SEM_NOOPENFILEERRORBOX) };
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
