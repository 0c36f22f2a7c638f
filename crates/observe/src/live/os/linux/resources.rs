use crate::read::{CgroupFolder, cgroup_folders, count_online, cpu_quota_v1, cpu_quota_v2, meminfo, memory_limit};
use setup_ready_core::observation::{CoreCap, CoreState, MemoryCap, MemoryState, Observation};
use std::fs::read_to_string;
use std::path::Path;

fn folders(controller: &str) -> Vec<CgroupFolder> {
    let read = |path| read_to_string(path).unwrap_or_default();
    cgroup_folders(&read("/proc/self/cgroup"), &read("/proc/self/mountinfo"), controller)
}

fn file(folder: &CgroupFolder, name: &str) -> Option<String> {
    read_to_string(Path::new(&folder.folder).join(name)).ok()
}

fn named(folder: &CgroupFolder) -> String {
    match folder.group.as_str() {
        "/" => "the control group of this container or session".to_owned(),
        group => format!("the control group {group}"),
    }
}

/// Memory, and the control groups that cap it.
pub(in crate::live) fn memory() -> Observation {
    let text = match read_to_string("/proc/meminfo") {
        Ok(text) => text,
        Err(error) => return Observation::CouldNotLook(format!("/proc/meminfo: {error}")),
    };
    let (total, available) = meminfo(&text);
    // A zero is no machine's memory: it means that nobody could look.
    let Some(total) = total.filter(|total| *total > 0) else {
        return Observation::CouldNotLook("/proc/meminfo names no total".to_owned());
    };
    let cap = |folder: &CgroupFolder| {
        let text = file(folder, if folder.unified { "memory.max" } else { "memory.limit_in_bytes" })?;
        Some(MemoryCap { by: named(folder), bytes: memory_limit(&text)? })
    };
    let caps = folders("memory").iter().filter_map(cap).filter(|cap| cap.bytes < total).collect();
    Observation::Memory(MemoryState { total, available, caps, swap: crate::read::meminfo_of(&text, "SwapTotal") })
}

/// Cores, and the affinity and control groups that cap them.
pub(in crate::live) fn cores() -> Observation {
    let text = read_to_string("/sys/devices/system/cpu/online").ok();
    let allowed = rustix::thread::sched_getaffinity(None).ok().map(|set| u64::from(set.count()));
    let Some(online) = text.as_deref().and_then(count_online).or(allowed) else {
        return Observation::CouldNotLook("neither /sys nor the scheduler tells the cores".to_owned());
    };
    let affinity = allowed.filter(|allowed| *allowed < online);
    let mut caps: Vec<CoreCap> = affinity
        .into_iter()
        .map(|allowed| CoreCap { by: "the CPU affinity of this session".to_owned(), hundredths: allowed * 100 })
        .collect();
    for folder in folders("cpu") {
        let quota = if folder.unified {
            file(&folder, "cpu.max").and_then(|text| cpu_quota_v2(&text))
        } else {
            file(&folder, "cpu.cfs_quota_us")
                .zip(file(&folder, "cpu.cfs_period_us"))
                .and_then(|(quota, period)| cpu_quota_v1(&quota, &period))
        };
        caps.extend(quota.filter(|quota| *quota < online * 100).map(|hundredths| CoreCap { by: named(&folder), hundredths }));
    }
    Observation::Cores(CoreState { online, caps })
}
