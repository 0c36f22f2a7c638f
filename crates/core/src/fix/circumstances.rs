//! What fixes need to know about the machine.

use super::Shell;
use crate::inquiry::{Inquiry, Stop, if_known};
use crate::manager::Manager;
use crate::observation::{Account, Os};
use crate::prelude::*;
use crate::probe::Probe;

/// What fixes need to know about the machine; what could not be found out is absent.
#[derive(Debug)]
pub(crate) struct Circumstances<'a> {
    pub(crate) os: Option<Os>,
    /// A Linux inside Windows.
    pub(crate) inside_windows: bool,
    pub(crate) account: Option<&'a Account>,
    pub(crate) managers: &'a [Manager],
    pub(crate) shell: Shell,
}

impl<'a> Circumstances<'a> {
    pub(super) fn look(inquiry: &mut Inquiry<'a>) -> Result<Self, Stop> {
        for probe in [Probe::System, Probe::Surroundings, Probe::Account, Probe::Managers] {
            inquiry.want(probe);
        }
        let os = if_known(inquiry.system())?.map(|system| system.os);
        let inside_windows = if_known(inquiry.surroundings())?.is_some_and(|around| around.wsl == Some(true));
        let account = if_known(inquiry.account())?;
        let managers = if_known(inquiry.managers())?.map_or(&[][..], Vec::as_slice);
        let shell = Shell::of(account.and_then(|account| account.shell.as_deref()), os);
        Ok(Self { os, inside_windows, account, managers, shell })
    }

    /// The person's name, where the system tells.
    pub(crate) fn user(&self) -> Option<&'a str> {
        self.account.and_then(|account| account.name.as_deref())
    }

    /// The file that the person's shell reads when it starts.
    pub(crate) fn startup_file(&self) -> Option<&'a str> {
        self.account.and_then(|account| account.startup_file.as_deref())
    }

    /// The command as it must be typed here to run with admin rights.
    pub(crate) fn as_admin(&self, command: &str) -> String {
        match self.account {
            Some(account) if !account.root => match account.elevate {
                Some(elevator) => format!("{} {command}", elevator.word()),
                None => command.to_owned(),
            },
            _ => command.to_owned(),
        }
    }

    /// What to know before a step that needs admin rights.
    pub(crate) fn admin_caution(&self) -> Option<String> {
        let account = self.account?;
        if account.root {
            None
        } else if account.admin == Some(false) {
            // All of it is asked for in one text.
            None
        } else if self.os == Some(Os::Windows) {
            Some("Do it in a terminal that was started as administrator.".to_owned())
        } else if account.elevate.is_none() {
            Some("There is no sudo here: do it as root.".to_owned())
        } else {
            None
        }
    }
}

/// Whether a file is this person's own; `None` where it cannot be found out.
///
/// # Errors
/// When the answer is still to come.
pub(super) fn is_own(inquiry: &mut Inquiry<'_>, path: &str) -> Result<Option<bool>, Stop> {
    Ok(if_known(inquiry.path(path, None))?.and_then(|state| state.mine))
}
