//! The children of this process, those among them that others left (`PR_SET_CHILD_SUBREAPER`, prctl(2)).

use rustix::process::{Pid, Signal, WaitOptions, kill_process, waitpid};
use std::time::Duration;

/// How often it is looked for more, with a pause in between: whoever is ended may leave children of its own.
const MOST_ROUNDS: u32 = 300;

/// Whether this process has no children.
pub(super) fn is_alone() -> bool {
    children().is_empty()
}

/// Ends all children of this process, and theirs.
pub(super) fn end_all() {
    for round in 0..MOST_ROUNDS {
        let children = children();
        if children.is_empty() {
            return;
        }
        for child in children {
            // One that belongs to another user cannot be ended.
            let _ = kill_process(child, Signal::KILL);
            let _ = waitpid(Some(child), WaitOptions::NOHANG);
        }
        std::thread::sleep(Duration::from_millis(if round < 20 { 1 } else { 5 }));
    }
}

/// The children by the kernel's list for each thread, where it has one, else by the parent that each process names.
fn children() -> Vec<Pid> {
    let lists = std::fs::read_dir("/proc/self/task").into_iter().flatten().flatten();
    let texts: Vec<String> = lists.filter_map(|thread| std::fs::read_to_string(thread.path().join("children")).ok()).collect();
    let listed = texts.iter().flat_map(|text| text.split_whitespace());
    let pids = |words: &mut dyn Iterator<Item = i32>| words.filter_map(Pid::from_raw).collect();
    if texts.is_empty() { pids(&mut by_parent().into_iter()) } else { pids(&mut listed.filter_map(|word| word.parse().ok())) }
}

fn by_parent() -> Vec<i32> {
    let own = std::process::id().to_string();
    let mut found = Vec::new();
    for entry in std::fs::read_dir("/proc").into_iter().flatten().flatten() {
        let Some(pid) = entry.file_name().to_str().and_then(|name| name.parse().ok()) else { continue };
        let stat = std::fs::read_to_string(entry.path().join("stat")).unwrap_or_default();
        // The name before may hold anything, but ends at the last parenthesis (proc(5)).
        let parent = stat.rsplit_once(')').and_then(|(_, rest)| rest.split_whitespace().nth(1));
        if parent == Some(own.as_str()) {
            found.push(pid);
        }
    }
    found
}
