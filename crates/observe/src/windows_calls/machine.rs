//! Memory, cores, and what the job that this process is in leaves of them.

use std::io::{Error, Result};
use std::mem::{size_of, zeroed};
use std::ptr::null_mut;
use windows_sys::Win32::System::JobObjects::{
    JOB_OBJECT_CPU_RATE_CONTROL_ENABLE, JOB_OBJECT_CPU_RATE_CONTROL_HARD_CAP, JOB_OBJECT_LIMIT_JOB_MEMORY,
    JOB_OBJECT_LIMIT_PROCESS_MEMORY, JOBOBJECT_CPU_RATE_CONTROL_INFORMATION, JOBOBJECT_EXTENDED_LIMIT_INFORMATION,
    JobObjectCpuRateControlInformation, JobObjectExtendedLimitInformation, QueryInformationJobObject,
};
use windows_sys::Win32::System::SystemInformation::{GlobalMemoryStatusEx, MEMORYSTATUSEX};
use windows_sys::Win32::System::Threading::{GetCurrentProcess, GetProcessAffinityMask, IsProcessorFeaturePresent};

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

/// What limits this process; none where nothing does, or the system does not tell.
#[derive(Debug, Clone, Copy, Default)]
pub(crate) struct Caps {
    /// Bytes that the job may have.
    pub(crate) memory: Option<u64>,
    /// Hundredths of a percent of all cores that the job may have.
    pub(crate) rate: Option<u32>,
    /// The cores that the process is bound to.
    pub(crate) affinity: Option<u32>,
}

/// What the job that this process is in, and its binding to cores, leave of the machine.
pub(crate) fn caps() -> Caps {
    Caps { memory: job_memory(), rate: job_rate(), affinity: affinity() }
}

fn job_memory() -> Option<u64> {
    // SAFETY: without a job's handle the own one is meant; structures of numbers alone, whose size is told.
    let (done, limits) = unsafe {
        let mut limits: JOBOBJECT_EXTENDED_LIMIT_INFORMATION = zeroed();
        let size = u32::try_from(size_of::<JOBOBJECT_EXTENDED_LIMIT_INFORMATION>()).unwrap_or(0);
        let class = JobObjectExtendedLimitInformation;
        (QueryInformationJobObject(null_mut(), class, (&raw mut limits).cast(), size, null_mut()), limits)
    };
    let flags = limits.BasicLimitInformation.LimitFlags;
    // A limit of nothing is none: this program runs.
    let of = |flag: u32, bytes: usize| u64::try_from(bytes).ok().filter(|bytes| done != 0 && flags & flag != 0 && *bytes > 0);
    let job = of(JOB_OBJECT_LIMIT_JOB_MEMORY, limits.JobMemoryLimit);
    job.into_iter().chain(of(JOB_OBJECT_LIMIT_PROCESS_MEMORY, limits.ProcessMemoryLimit)).min()
}

fn job_rate() -> Option<u32> {
    // SAFETY: as above; every variant of the union is a number.
    unsafe {
        let mut rate: JOBOBJECT_CPU_RATE_CONTROL_INFORMATION = zeroed();
        let size = u32::try_from(size_of::<JOBOBJECT_CPU_RATE_CONTROL_INFORMATION>()).unwrap_or(0);
        let class = JobObjectCpuRateControlInformation;
        let done = QueryInformationJobObject(null_mut(), class, (&raw mut rate).cast(), size, null_mut());
        let hard = JOB_OBJECT_CPU_RATE_CONTROL_ENABLE | JOB_OBJECT_CPU_RATE_CONTROL_HARD_CAP;
        (done != 0 && rate.ControlFlags & hard == hard).then_some(rate.Anonymous.CpuRate)
    }
}

fn affinity() -> Option<u32> {
    let (mut own, mut system) = (0, 0);
    // SAFETY: the pseudo handle is always valid, and both numbers are there.
    let done = unsafe { GetProcessAffinityMask(GetCurrentProcess(), &raw mut own, &raw mut system) };
    // Zero is a process with threads in several groups of processors: nothing binds it.
    (done != 0 && own != 0 && own != system).then(|| own.count_ones())
}
