use crate::live::Live;
use crate::windows_calls as call;
use setup_ready_core::observation::{Account, Observation};

/// Who this is, with which rights, and in which shell.
pub(in crate::live) fn account(_: &Live) -> Observation {
    let (groups, administrator) = match call::groups() {
        Ok(groups) => groups,
        Err(error) => return Observation::CouldNotLook(error.to_string()),
    };
    let root = match call::is_elevated() {
        Ok(elevated) => elevated,
        Err(error) => return Observation::CouldNotLook(error.to_string()),
    };
    Observation::Account(Account {
        name: std::env::var("USERNAME").ok().filter(|name| !name.is_empty()),
        root,
        // Whose token holds the administrators, if only to be asked about, may have them asked about.
        admin: Some(root || administrator),
        elevate: None,
        groups,
        shell: shell(),
        // Which file PowerShell reads, and whether it may, depends on settings: what lasts is set by a command.
        startup_file: None,
    })
}

/// The shell that this program was typed into: the nearest of the processes that it comes from.
fn shell() -> Option<String> {
    let all = call::processes().ok()?;
    let mut id = std::process::id();
    // A chain of processes is short; ids that were used again may close a ring.
    for _ in 0..16 {
        let process = all.iter().find(|process| process.id == id)?;
        let name = process.name.to_ascii_lowercase();
        let name = name.strip_suffix(".exe").unwrap_or(&name);
        if matches!(name, "cmd" | "powershell" | "pwsh" | "bash" | "fish" | "zsh") {
            return Some(name.to_owned());
        }
        id = process.parent;
    }
    None
}

/// The groups of this machine that the account database gives this user: a new sign-in has them.
pub(in crate::live) fn database_groups(_: &Live) -> Observation {
    let groups = call::account_name().and_then(|name| call::database_groups(&name));
    groups.map_or_else(|error| Observation::CouldNotLook(error.to_string()), Observation::DatabaseGroups)
}

/// Whether the account database has a group.
pub(in crate::live) fn has_group(_: &Live, name: &str) -> Observation {
    Observation::Group(call::has_account(name))
}
