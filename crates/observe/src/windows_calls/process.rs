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
    CreateToolhelp32Snapshot, PROCESSENTRY32W, Process32FirstW, Process32NextW, TH32CS_SNAPPROCESS, TH32CS_SNAPTHREAD,
    THREADENTRY32, Thread32First, Thread32Next,
};
use windows_sys::Win32::System::JobObjects::{
    AssignProcessToJobObject, CreateJobObjectW, JOB_OBJECT_LIMIT_KILL_ON_JOB_CLOSE, JOBOBJECT_EXTENDED_LIMIT_INFORMATION,
    JobObjectExtendedLimitInformation, SetInformationJobObject, TerminateJobObject,
};
use windows_sys::Win32::System::Threading::{OpenThread, ResumeThread, THREAD_SUSPEND_RESUME};

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

/// Lets a process run that was started suspended, by its only thread.
///
/// # Errors
/// The system's, or that it has none.
pub(crate) fn resume(process: u32) -> Result<()> {
    // SAFETY: the handles are closed by their owners; the structure is of numbers alone, and its size is told, as the system demands.
    unsafe {
        let snapshot = CreateToolhelp32Snapshot(TH32CS_SNAPTHREAD, 0);
        if snapshot.addr() == usize::MAX {
            return Err(Error::last_os_error());
        }
        let snapshot = OwnedHandle::from_raw_handle(snapshot);
        let mut entry: THREADENTRY32 = zeroed();
        entry.dwSize = u32::try_from(size_of::<THREADENTRY32>()).unwrap_or(0);
        let mut more = Thread32First(snapshot.as_raw_handle(), &raw mut entry);
        while more != 0 {
            if entry.th32OwnerProcessID == process {
                let thread = OpenThread(THREAD_SUSPEND_RESUME, 0, entry.th32ThreadID);
                if thread.is_null() {
                    return Err(Error::last_os_error());
                }
                let thread = OwnedHandle::from_raw_handle(thread);
                return if ResumeThread(thread.as_raw_handle()) == u32::MAX { Err(Error::last_os_error()) } else { Ok(()) };
            }
            more = Thread32Next(snapshot.as_raw_handle(), &raw mut entry);
        }
    }
    Err(Error::other("it has no thread"))
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
            // When this process ends, in whatever way, its handle is closed, and with it ends the job.
            let mut limits: JOBOBJECT_EXTENDED_LIMIT_INFORMATION = zeroed();
            limits.BasicLimitInformation.LimitFlags = JOB_OBJECT_LIMIT_KILL_ON_JOB_CLOSE;
            let size = u32::try_from(size_of::<JOBOBJECT_EXTENDED_LIMIT_INFORMATION>()).unwrap_or(0);
            SetInformationJobObject(job.0.as_raw_handle(), JobObjectExtendedLimitInformation, (&raw const limits).cast(), size);
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
