use super::nearest_existing;
use crate::observation::{Nature, Observation, PathState};
use crate::text::Pattern;
use rustix::fs::{Access, AtFlags, CWD, accessat};
use rustix::process::geteuid;
use std::fs::{read_to_string, symlink_metadata};
use std::io::ErrorKind;
use std::os::unix::fs::MetadataExt;
use std::path::Path;

/// What is at a path, and what this user may do with it.
pub(in crate::live) fn path_state(path: &Path, pattern: Option<&Pattern>) -> Observation {
    let may = |path: &Path, access: Access| accessat(CWD, path, access, AtFlags::EACCESS).is_ok();
    let shown = path.display().to_string();
    let mut state = PathState {
        path: shown,
        nature: Nature::Missing,
        mode: None,
        open_to: None,
        mine: None,
        owner: None,
        writable: nearest_existing(path).is_some_and(|parent| may(parent, Access::WRITE_OK | Access::EXEC_OK)),
        executable: false,
        alike: None,
        holds: None,
    };
    let metadata = match path.metadata() {
        Ok(metadata) => metadata,
        Err(error) if error.kind() == ErrorKind::NotFound || error.kind() == ErrorKind::NotADirectory => {
            if symlink_metadata(path).is_ok() {
                let target = path.read_link().map(|target| target.display().to_string()).unwrap_or_default();
                state.nature = Nature::Dangling(target);
            } else {
                state.alike = crate::live::place::alike(path);
            }
            return Observation::Path(state);
        }
        Err(error) => return Observation::CouldNotLook(error.to_string()),
    };
    let owner = metadata.uid();
    state.nature = if metadata.is_file() {
        Nature::File
    } else if metadata.is_dir() {
        Nature::Folder
    } else {
        Nature::Other
    };
    state.mode = Some(metadata.mode() & 0o7777);
    state.mine = Some(owner == geteuid().as_raw());
    let passwd = read_to_string("/etc/passwd").unwrap_or_default();
    state.owner = Some(crate::read::user_name(&passwd, owner).unwrap_or_else(|| owner.to_string()));
    state.writable = may(path, Access::WRITE_OK);
    state.executable = may(path, Access::EXEC_OK);
    state.holds = pattern.and_then(|pattern| match state.nature {
        Nature::File => crate::live::place::holds(path, pattern),
        Nature::Folder => crate::live::place::lists(path, pattern),
        Nature::Missing | Nature::Other | Nature::Dangling(_) => None,
    });
    Observation::Path(state)
}

/// The text of a file; empty where there is none or it cannot be read.
pub(super) fn text_of(path: &Path) -> String {
    crate::live::place::text(path).unwrap_or_default()
}
