//! Services that the system looks after.

use super::wide;
use std::io::{Error, Result};
use std::mem::zeroed;
use std::ptr::null;
use windows_sys::Win32::Foundation::ERROR_SERVICE_DOES_NOT_EXIST;
use windows_sys::Win32::System::Services::{
    CloseServiceHandle, OpenSCManagerW, OpenServiceW, QueryServiceStatus, SC_HANDLE, SC_MANAGER_CONNECT, SERVICE_QUERY_STATUS,
    SERVICE_STATUS, SERVICE_STOP_PENDING, SERVICE_STOPPED,
};

/// A handle of the service manager's, which is closed otherwise than others.
struct Handle(SC_HANDLE);

impl Drop for Handle {
    fn drop(&mut self) {
        // SAFETY: the handle is this one's own.
        unsafe { CloseServiceHandle(self.0) };
    }
}

/// Whether a service runs; none where there is no such one.
///
/// # Errors
/// The system's.
pub(crate) fn is_running(name: &str) -> Result<Option<bool>> {
    let name = wide(name.as_ref());
    // SAFETY: the name ends with a zero; the handles are closed by their owners; a structure of numbers alone.
    unsafe {
        let manager = OpenSCManagerW(null(), null(), SC_MANAGER_CONNECT);
        if manager.is_null() {
            return Err(Error::last_os_error());
        }
        let manager = Handle(manager);
        let service = OpenServiceW(manager.0, name.as_ptr(), SERVICE_QUERY_STATUS);
        if service.is_null() {
            let error = Error::last_os_error();
            let missing = error.raw_os_error().and_then(|code| u32::try_from(code).ok()) == Some(ERROR_SERVICE_DOES_NOT_EXIST);
            return if missing { Ok(None) } else { Err(error) };
        }
        let service = Handle(service);
        let mut status: SERVICE_STATUS = zeroed();
        if QueryServiceStatus(service.0, &raw mut status) == 0 {
            return Err(Error::last_os_error());
        }
        Ok(Some(!matches!(status.dwCurrentState, SERVICE_STOPPED | SERVICE_STOP_PENDING)))
    }
}
