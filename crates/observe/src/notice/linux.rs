//! Being told of changes in folders (inotify(7)).

use rustix::fd::OwnedFd;
use rustix::fs::inotify::{CreateFlags, ReadFlags, Reader, WatchFlags, add_watch, init};
use std::collections::HashMap;
use std::mem::MaybeUninit;
use std::path::PathBuf;

/// More folders than these are not listened to; the others are looked at now and then.
const MOST_FOLDERS: usize = 500;

/// What tells of changes in folders.
#[derive(Debug)]
pub struct Notice {
    queue: OwnedFd,
    folders: HashMap<i32, PathBuf>,
}

impl Notice {
    /// Listens to these folders; `None` where the system does not tell.
    pub fn of(folders: &[PathBuf]) -> Option<Self> {
        let queue = init(CreateFlags::NONBLOCK | CreateFlags::CLOEXEC).ok()?;
        let what = WatchFlags::ATTRIB
            | WatchFlags::CLOSE_WRITE
            | WatchFlags::CREATE
            | WatchFlags::DELETE
            | WatchFlags::MOVE
            | WatchFlags::MOVE_SELF
            | WatchFlags::DELETE_SELF
            | WatchFlags::ONLYDIR;
        let mut by_number = HashMap::new();
        for folder in folders.iter().take(MOST_FOLDERS) {
            // One that this user may not read tells nothing; a limit of the system may be met.
            by_number.insert(add_watch(&queue, folder, what).ok()?, folder.clone());
        }
        Some(Self { queue, folders: by_number })
    }

    /// The folders in which something changed since this was asked last.
    pub fn heard(&self) -> Vec<PathBuf> {
        let mut space = [MaybeUninit::uninit(); 4096];
        let mut events = Reader::new(&self.queue, &mut space);
        let mut heard: Vec<PathBuf> = Vec::new();
        while let Ok(event) = events.next() {
            // Where too much happened to be told, it may have been anywhere.
            if event.events().contains(ReadFlags::QUEUE_OVERFLOW) {
                return self.folders.values().cloned().collect();
            }
            if let Some(folder) = self.folders.get(&event.wd()).filter(|folder| !heard.contains(folder)) {
                heard.push(folder.clone());
            }
        }
        heard
    }
}
