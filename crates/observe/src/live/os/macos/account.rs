use super::ask::{ask, ran};
use crate::live::Live;
use crate::read::{group_name, user_shell};
use setup_ready_core::observation::{Account, Elevator, Observation, RunEnd};
use std::path::Path;

/// The name of a group, or its number where the system's file has none: groups that people make are in a directory, not in it.
pub(in crate::live) fn group_of(id: u32) -> String {
    let text = std::fs::read_to_string("/etc/group").unwrap_or_default();
    group_name(&text, id).unwrap_or_else(|| id.to_string())
}

fn own_name() -> Result<String, String> {
    Ok(ask("/usr/bin/id", &["-un"])?.trim().to_owned())
}

/// Who this is, and the groups of this session. Members of `admin` may act as administrator (Apple's user guide).
pub(in crate::live) fn account(_: &Live) -> Observation {
    let known = || -> Result<Account, String> {
        let name = own_name()?;
        let groups: Vec<String> = ask("/usr/bin/id", &["-Gn"])?.split_whitespace().map(ToOwned::to_owned).collect();
        let root = rustix::process::geteuid().is_root();
        let named = std::env::var("SHELL").ok().or_else(|| {
            let text = ask("/usr/bin/dscl", &[".", "-read", &format!("/Users/{name}"), "UserShell"]).ok()?;
            user_shell(&text).map(ToOwned::to_owned)
        });
        let shell = named.and_then(|shell| Some(Path::new(&shell).file_name()?.to_string_lossy().into_owned()));
        Ok(Account {
            root,
            admin: Some(root || groups.iter().any(|group| group == "admin")),
            elevate: Path::new("/usr/bin/sudo").exists().then_some(Elevator::Sudo),
            groups,
            startup_file: shell.as_deref().map(|shell| startup_file(shell).to_owned()),
            shell,
            name: Some(name),
        })
    };
    known().map_or_else(Observation::CouldNotLook, Observation::Account)
}

/// The file that a new terminal's shell reads: here it is always a sign-in shell, for which bash reads another file than elsewhere.
fn startup_file(shell: &str) -> &'static str {
    match shell {
        "zsh" => "~/.zshrc",
        "bash" => "~/.bash_profile",
        "fish" => "~/.config/fish/config.fish",
        _ => "~/.profile",
    }
}

/// The shell that runs in this terminal, as far as the session names it.
pub(in crate::live) fn shell_here() -> Option<String> {
    let shell = std::env::var("SHELL").ok()?;
    Some(Path::new(&shell).file_name()?.to_string_lossy().into_owned())
}

/// The shell that the account has; here terminals start just that one.
pub(in crate::live) fn shell_of_the_account() -> Option<String> {
    shell_here()
}

/// The groups that the directory gives this user.
pub(in crate::live) fn database_groups(_: &Live) -> Observation {
    let groups = own_name().and_then(|name| ask("/usr/bin/id", &["-Gn", "--", &name]));
    groups.map_or_else(Observation::CouldNotLook, |text| {
        Observation::DatabaseGroups(text.split_whitespace().map(ToOwned::to_owned).collect())
    })
}

/// Whether the directory has a group; dscl(1) ends with 56 where it has not.
pub(in crate::live) fn has_group(_: &Live, name: &str) -> Observation {
    if name.contains('/') {
        return Observation::Group(false);
    }
    let end = ran("/usr/bin/dscl", &[".", "-read", &format!("/Groups/{name}"), "PrimaryGroupID"]).end;
    if let RunEnd::Exit(status @ (0 | 56)) = end {
        return Observation::Group(status == 0);
    }
    Observation::CouldNotLook("the directory did not answer".to_owned())
}
