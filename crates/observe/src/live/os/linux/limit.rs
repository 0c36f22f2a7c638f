use crate::live::Live;
use crate::read::cgroup_folders;
use rustix::fs::statfs;
use rustix::process::{Resource, getrlimit};
use setup_ready_core::guide::LimitKind;
use setup_ready_core::observation::{LimitState, Observation, RunEnd};
use std::fs::read_to_string;
use std::path::Path;

/// The longest path that the kernel takes (`PATH_MAX` in limits.h).
const LONGEST_PATH: u64 = 4_096;
/// Filesystems without symbolic links, by their numbers (statfs(2)): FAT, exFAT.
const WITHOUT_LINKS: [i64; 2] = [0x4d44, 0x2011_bab0];

/// A limit that is in force for this user in this session.
pub(in crate::live) fn limit(kind: LimitKind, folder: &Path) -> Observation {
    let number = |path: &str| read_to_string(path).ok().and_then(|text| text.trim().parse::<u64>().ok());
    match kind {
        LimitKind::OpenFiles => Observation::Limit(of_process(Resource::Nofile)),
        LimitKind::Processes => Observation::Limit(processes()),
        LimitKind::FileWatches => match number("/proc/sys/fs/inotify/max_user_watches") {
            Some(watches) => Observation::Limit(LimitState::Number(watches, None)),
            None => Observation::CouldNotLook("/proc/sys/fs/inotify is not there".to_owned()),
        },
        LimitKind::PathLength => Observation::Limit(LimitState::Number(LONGEST_PATH, None)),
        LimitKind::SymbolicLinks => match statfs(folder) {
            Ok(filesystem) => {
                #[allow(clippy::useless_conversion, reason = "the number is narrower on some processors")]
                let kind = i64::try_from(filesystem.f_type).unwrap_or(0);
                Observation::Limit(LimitState::Able(!WITHOUT_LINKS.contains(&kind)))
            }
            Err(error) => Observation::CouldNotLook(error.to_string()),
        },
    }
}

/// The locales that the system lists, by its own command (locale(1), POSIX).
pub(in crate::live) fn locales(live: &Live) -> Observation {
    let program = ["/usr/bin/locale", "/bin/locale"].into_iter().map(Path::new).find(|path| path.exists());
    let Some(program) = program else {
        return Observation::CouldNotLook("the system's command `locale` is not there".to_owned());
    };
    let run = live.run(program, &["-a".to_owned()]);
    match run.end {
        RunEnd::Exit(0) => Observation::Locales(run.stdout.lines().map(|line| line.trim().to_owned()).collect()),
        RunEnd::Exit(_) | RunEnd::Signal(_) | RunEnd::TimeUp(_) | RunEnd::Interrupted | RunEnd::NotStarted(..) => {
            Observation::CouldNotLook("the system's command `locale` did not answer".to_owned())
        }
    }
}

fn of_process(resource: Resource) -> LimitState {
    let limit = getrlimit(resource);
    match limit.current {
        Some(current) => LimitState::Number(current, limit.maximum.or(Some(u64::MAX))),
        None => LimitState::Unlimited,
    }
}

/// The least of what the user, the control groups and the kernel allow.
fn processes() -> LimitState {
    let user = of_process(Resource::Nproc);
    let own = read_to_string("/proc/self/cgroup").unwrap_or_default();
    let mounts = read_to_string("/proc/self/mountinfo").unwrap_or_default();
    let number = |path: &Path| read_to_string(path).ok().and_then(|text| text.trim().parse::<u64>().ok());
    let groups = cgroup_folders(&own, &mounts, "pids")
        .into_iter()
        .filter_map(|folder| number(&Path::new(&folder.folder).join("pids.max")));
    let kernel = number(Path::new("/proc/sys/kernel/threads-max"));
    let least = groups.chain(kernel).min();
    match (user, least) {
        (LimitState::Number(current, most), Some(least)) => {
            LimitState::Number(current.min(least), most.map(|most| most.min(least)))
        }
        (LimitState::Unlimited, Some(least)) => LimitState::Number(least, None),
        (state, _) => state,
    }
}
