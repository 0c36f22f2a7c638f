use crate::live::Live;
use crate::read::{Program, group_name, group_names_of_ids, user_name};
use rustix::process::{getegid, geteuid, getgroups};
use setup_ready_core::observation::{Account, Elevator, Observation, ProgramCopy, RunEnd};
use std::fs::read_to_string;
use std::io::IsTerminal;
use std::path::Path;

/// Members of these may act as administrator on most systems.
const ADMIN_GROUPS: [&str; 3] = ["sudo", "wheel", "admin"];

fn own_name() -> Option<String> {
    user_name(&read_to_string("/etc/passwd").unwrap_or_default(), geteuid().as_raw())
}

/// The name of a group, or its number where it has none.
pub(in crate::live) fn group_of(id: u32) -> String {
    group_name(&read_to_string("/etc/group").unwrap_or_default(), id).unwrap_or_else(|| id.to_string())
}

/// Who this is, and the groups that this process has.
pub(in crate::live) fn account(live: &Live) -> Observation {
    let mut ids: Vec<u32> = match getgroups() {
        Ok(groups) => groups.into_iter().map(rustix::process::Gid::as_raw).collect(),
        Err(error) => return Observation::CouldNotLook(error.to_string()),
    };
    ids.push(getegid().as_raw());
    let groups = group_names_of_ids(&read_to_string("/etc/group").unwrap_or_default(), &ids);
    let root = geteuid().is_root();
    let elevate = Elevator::ALL.into_iter().find(|program| first_copy(live, program.word()).is_some());
    // A file of rules may give more. Asking for it (`sudo -n -l`) is written into the administrator's log, and mailed to them of somebody without rights.
    let may = elevate.is_some() && groups.iter().any(|group| ADMIN_GROUPS.contains(&group.as_str()));
    let shell = shell_here();
    Observation::Account(Account {
        name: own_name(),
        root,
        admin: Some(root || may),
        elevate,
        groups,
        startup_file: shell.as_deref().map(|shell| startup_file(shell, live.home.as_deref())),
        shell,
    })
}

/// The file that an interactive shell reads when it starts.
fn startup_file(shell: &str, home: Option<&Path>) -> String {
    let file = match shell {
        "bash" => "~/.bashrc",
        "zsh" => match std::env::var("ZDOTDIR").ok().filter(|folder| folder.starts_with('/')) {
            Some(folder) => return format!("{folder}/.zshrc"),
            None => "~/.zshrc",
        },
        "fish" => "~/.config/fish/config.fish",
        "mksh" => "~/.mkshrc",
        // Where it has a file of its own, it does not read the other one.
        "tcsh" if home.is_some_and(|home| home.join(".tcshrc").exists()) => "~/.tcshrc",
        "tcsh" | "csh" => "~/.cshrc",
        _ => "~/.profile",
    };
    file.to_owned()
}

/// The shell that runs in this terminal: the program that started this one, past processes of our own; else the one that the session names.
pub(in crate::live) fn shell_here() -> Option<String> {
    let name = |process: u32| read_to_string(format!("/proc/{process}/comm")).ok().map(|name| name.trim_end().to_owned());
    let own = name(std::process::id());
    let mut process = std::os::unix::process::parent_id();
    let mut started_by = name(process);
    for _ in 0..MOST_PROCESSES {
        if started_by != own {
            break;
        }
        let stat = read_to_string(format!("/proc/{process}/stat")).unwrap_or_default();
        // The parent's number stands behind the name in brackets and the state (`proc_pid_stat(5)`).
        let parent =
            stat.rsplit(')').next().and_then(|rest| rest.split_whitespace().nth(1)).and_then(|number| number.parse().ok());
        let Some(parent) = parent else { break };
        process = parent;
        started_by = name(process);
    }
    // One that a script or another program runs in is nobody's terminal.
    started_by.filter(|name| Program::of(name).is_some() && std::io::stdin().is_terminal()).or_else(|| {
        let shell = std::env::var("SHELL").ok()?;
        Some(Path::new(&shell).file_name()?.to_string_lossy().into_owned())
    })
}

/// So many processes of our own may stand between.
const MOST_PROCESSES: usize = 4;

/// The shell that the account database gives this user.
pub(in crate::live) fn shell_of_the_account() -> Option<String> {
    let id = geteuid().as_raw().to_string();
    let text = read_to_string("/etc/passwd").ok()?;
    let entry = text.lines().find(|line| line.split(':').nth(2) == Some(id.as_str()))?;
    Some(entry.rsplit(['/', ':']).next()?.to_owned())
}

fn first_copy(live: &Live, name: &str) -> Option<ProgramCopy> {
    crate::live::program::copies(live, name).into_iter().find(|copy| copy.executable)
}

/// The groups that the account database gives this user. `id` asks every source that is configured, network directories included;
/// `/etc/group` is the way without it.
pub(in crate::live) fn database_groups(live: &Live) -> Observation {
    let Some(name) = own_name() else {
        return Observation::CouldNotLook("this user has no name in the account database".to_owned());
    };
    if let Some(id) = first_copy(live, "id").filter(ProgramCopy::is_the_persons) {
        let run = live.run(Path::new(&id.path), &["-Gn".to_owned(), "--".to_owned(), name.clone()]);
        if run.end == RunEnd::Exit(0) {
            return Observation::DatabaseGroups(run.stdout.split_whitespace().map(ToOwned::to_owned).collect());
        }
    }
    let text = match read_to_string("/etc/group") {
        Ok(text) => text,
        Err(error) => return Observation::CouldNotLook(error.to_string()),
    };
    let lists = |line: &str| {
        let (group, members) = (line.split(':').next()?, line.rsplit(':').next()?);
        members.split(',').any(|member| member == name).then(|| group.to_owned())
    };
    Observation::DatabaseGroups(text.lines().filter_map(lists).collect())
}

/// Whether the account database has a group; `getent` asks the sources beside `/etc/group`.
pub(in crate::live) fn has_group(live: &Live, name: &str) -> Observation {
    let file = read_to_string("/etc/group");
    if file.as_ref().is_ok_and(|text| text.lines().any(|line| line.split(':').next() == Some(name))) {
        return Observation::Group(true);
    }
    if let Some(getent) = first_copy(live, "getent").filter(ProgramCopy::is_the_persons) {
        let run = live.run(Path::new(&getent.path), &["group".to_owned(), "--".to_owned(), name.to_owned()]);
        // getent(1): 2 is "not found".
        if let RunEnd::Exit(status @ (0 | 2)) = run.end {
            return Observation::Group(status == 0);
        }
    }
    match file {
        Ok(_) => Observation::Group(false),
        Err(error) => Observation::CouldNotLook(error.to_string()),
    }
}
