use super::nearest_existing;
use crate::live::program::head;
use crate::live::{Live, os, place};
use rustix::fs::{Access, AtFlags, CWD, StatVfsMountFlags, accessat, statvfs};
use rustix::process::geteuid;
use setup_ready_core::observation::{AccessDenied, FileType, MountBar, Observation, PathState, ScriptTrouble};
use setup_ready_core::text::Pattern;
use std::fs::{read_to_string, symlink_metadata};
use std::io::ErrorKind;
use std::os::unix::fs::MetadataExt;
use std::path::Path;

/// How much of a folder is looked through: beyond that, what is not this user's would have been met with.
const MOST_ENTRIES: usize = 20_000;

fn may(path: &Path, access: Access) -> bool {
    accessat(CWD, path, access, AtFlags::EACCESS).is_ok()
}

/// What is at a path, and what this user may do with it.
pub(in crate::live) fn path_state(live: &Live, path: &Path, pattern: Option<&Pattern>) -> Observation {
    let above = nearest_existing(path);
    let writable = above.is_some_and(|parent| may(parent, Access::WRITE_OK | Access::EXEC_OK));
    let mut state = PathState { writable, ..PathState::nothing(path.display().to_string()) };
    let metadata = match path.metadata() {
        Ok(metadata) => metadata,
        Err(error) if error.kind() == ErrorKind::NotFound || error.kind() == ErrorKind::NotADirectory => {
            if symlink_metadata(path).is_ok() {
                let target = path.read_link().map(|target| target.display().to_string()).unwrap_or_default();
                state.nature = FileType::Dangling(target);
            } else {
                state.alike = live.kept.alike(path);
                state.example = live.kept.example(path);
            }
            return Observation::Path(state);
        }
        Err(error) if error.kind() == ErrorKind::PermissionDenied => {
            state.barred_by = barrier_above(path);
            return if state.barred_by.is_some() {
                Observation::Path(state)
            } else {
                Observation::CouldNotLook(error.to_string())
            };
        }
        Err(error) => return Observation::CouldNotLook(error.to_string()),
    };
    let mine = metadata.uid() == geteuid().as_raw();
    state.nature = if metadata.is_file() {
        FileType::File
    } else if metadata.is_dir() {
        FileType::Folder
    } else {
        FileType::Other
    };
    state.mode = Some(metadata.mode() & 0o7777);
    state.mine = Some(mine);
    state.owner = Some(name_of(metadata.uid()));
    // The administrator's own group is joined by nobody.
    if metadata.mode() & 0o020 != 0 && metadata.gid() != 0 {
        state.writers = crate::read::group_name(&read_to_string("/etc/group").unwrap_or_default(), metadata.gid());
    }
    state.readable = may(path, Access::READ_OK);
    state.writable = may(path, Access::WRITE_OK);
    state.executable = may(path, Access::EXEC_OK);
    state.mount = mount_bar(path);
    state.script = Some(path).filter(|_| state.nature == FileType::File && state.executable).and_then(script_trouble);
    state.holds = pattern.and_then(|pattern| match state.nature {
        FileType::File => place::holds(path, pattern),
        FileType::Folder => place::lists(path, pattern),
        FileType::Missing | FileType::Other | FileType::Dangling(_) => None,
    });
    Observation::Path(state)
}

/// A working copy's folder that is another user's, and that user: git refuses to work in it (git's manual, `safe.directory`).
pub(in crate::live) fn foreign(root: &Path) -> Option<(String, Option<String>)> {
    let me = geteuid().as_raw();
    let other = |path: &Path| path.metadata().ok().map(|metadata| metadata.uid()).filter(|owner| *owner != me && me != 0);
    let owner = other(&root.join(".git")).or_else(|| other(root))?;
    Some((root.display().to_string(), Some(name_of(owner))))
}

/// The name of a user, or the number where there is none.
fn name_of(user: u32) -> String {
    crate::read::user_name(&read_to_string("/etc/passwd").unwrap_or_default(), user).unwrap_or_else(|| user.to_string())
}

/// The first folder on the way to a path that this user may not enter; links on the way are followed.
fn barrier_above(path: &Path) -> Option<AccessDenied> {
    // A link at the end leads on to where the way is barred.
    let target = path.read_link().ok().map(|target| path.parent().unwrap_or(path).join(target));
    let path = target.as_deref().unwrap_or(path);
    let mut above: Vec<&Path> = path.ancestors().skip(1).collect();
    above.reverse();
    let folder = above.into_iter().find(|folder| folder.is_dir() && !may(folder, Access::EXEC_OK))?;
    let owner = folder.metadata().ok()?.uid();
    Some(AccessDenied { path: folder.display().to_string(), owner: Some(name_of(owner)), mine: owner == geteuid().as_raw() })
}

/// What the filesystem keeps everybody from, where it does (statvfs(3)).
fn mount_bar(path: &Path) -> Option<MountBar> {
    let flags = statvfs(path).ok()?.f_flag;
    let (read_only, no_execution) = (flags.contains(StatVfsMountFlags::RDONLY), os::forbids_execution(flags));
    if !read_only && !no_execution {
        return None;
    }
    // The topmost folder with its device number: where another one begins, something else is mounted.
    let real = path.canonicalize().ok()?;
    let device = real.metadata().ok()?.dev();
    let same = |folder: &&Path| folder.metadata().is_ok_and(|metadata| metadata.dev() == device);
    let device_root = real.ancestors().take_while(same).last()?.display().to_string();
    // Where the system lists its mounts (Linux), a folder that is mounted onto itself is told too.
    let mounts = read_to_string("/proc/self/mountinfo").unwrap_or_default();
    let at = crate::read::mount_of(&mounts, &real.to_string_lossy()).map_or(device_root, |mount| mount.point);
    Some(MountBar { at, read_only, no_execution })
}

/// Why a script that may be executed would not start, by its first line (execve(2)).
fn script_trouble(path: &Path) -> Option<ScriptTrouble> {
    let head = head(path).ok()?;
    let line = head.strip_prefix(b"#!")?.split(|byte| *byte == b'\n').next()?;
    let line = String::from_utf8_lossy(line);
    if line.ends_with('\r') {
        return Some(ScriptTrouble::LineEnds);
    }
    let interpreter = line.split_whitespace().next()?;
    let there = !interpreter.starts_with('/') || Path::new(interpreter).exists();
    (!there).then(|| ScriptTrouble::NoInterpreter(interpreter.to_owned()))
}

/// The first thing in a folder that is not this user's to change. Links are not followed, and other filesystems are not entered.
pub(in crate::live) fn within(folder: &Path) -> Observation {
    let (me, Ok(top)) = (geteuid().as_raw(), folder.metadata()) else { return Observation::Within(None) };
    let mut left = MOST_ENTRIES;
    let mut folders = vec![folder.to_owned()];
    while let Some(folder) = folders.pop().filter(|_| me != 0) {
        for entry in std::fs::read_dir(&folder).into_iter().flatten().flatten() {
            left = left.saturating_sub(1);
            let Ok(metadata) = entry.metadata() else { continue };
            if left == 0 || metadata.is_symlink() || metadata.dev() != top.dev() {
                continue;
            }
            let path = entry.path();
            let needed = if metadata.is_dir() { Access::WRITE_OK | Access::EXEC_OK } else { Access::WRITE_OK };
            if metadata.uid() != me && !may(&path, needed) {
                let owner = Some(name_of(metadata.uid()));
                return Observation::Within(Some(AccessDenied { path: path.display().to_string(), owner, mine: false }));
            }
            if metadata.is_dir() {
                folders.push(path);
            }
        }
        if left == 0 {
            break;
        }
    }
    Observation::Within(None)
}
