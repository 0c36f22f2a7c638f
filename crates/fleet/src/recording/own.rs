//! What this machine and its person are called.

use setup_ready_core::privacy::Replacer;
use setup_ready_core::probe::Probe;
use setup_ready_observe::Host;
use setup_ready_observe::Live;
use std::path::Path;

/// Tells a replacer the names of this machine and of whoever runs this, and where the project lies.
pub(crate) fn own_names(replacer: &mut Replacer, live: &Live, folder: &Path) {
    for variable in ["USER", "LOGNAME", "USERNAME", "SUDO_USER"] {
        if let Some(name) = read(variable) {
            replacer.user(&name);
        }
    }
    for variable in ["HOME", "USERPROFILE"] {
        if let Some(path) = read(variable) {
            a_home(replacer, &path);
        }
    }
    for variable in ["HOSTNAME", "COMPUTERNAME"] {
        if let Some(name) = read(variable) {
            replacer.host(&name);
        }
    }
    if let Some(name) = read("USERDNSDOMAIN") {
        replacer.domain(&name);
    }
    if let Some(name) = read("USERDOMAIN") {
        replacer.account_domain(&name);
    }
    for variable in ["http_proxy", "https_proxy", "all_proxy", "HTTP_PROXY", "HTTPS_PROXY", "ALL_PROXY"] {
        if let Some(address) = read(variable) {
            replacer.proxy(&address);
        }
    }
    of_system(replacer);
    replacer.learn(&live.observe(&Probe::Networks));
    if let Ok(real) = folder.canonicalize() {
        // The long form of paths on Windows is shown to nobody.
        replacer.project(real.display().to_string().trim_start_matches(r"\\?\"));
    }
}

fn read(variable: &str) -> Option<String> {
    std::env::var(variable).ok().filter(|value| !value.is_empty())
}

/// A home folder as it is called, and as it is reached.
fn a_home(replacer: &mut Replacer, path: &str) {
    replacer.home(path);
    if let Ok(real) = Path::new(path).canonicalize() {
        replacer.home(real.display().to_string().trim_start_matches(r"\\?\"));
    }
}

/// What the account database, the system and the settings of its names say.
#[cfg(unix)]
fn of_system(replacer: &mut Replacer) {
    let ids = [rustix::process::getuid(), rustix::process::geteuid()];
    for id in ids {
        if let Ok(Some(user)) = nix::unistd::User::from_uid(nix::unistd::Uid::from_raw(id.as_raw())) {
            replacer.user(&user.name);
            a_home(replacer, &user.dir.display().to_string());
            // The other fields are the room and telephone numbers.
            let name = user.gecos.to_string_lossy();
            // Accounts of the system are called what they do.
            if user.name != "root" {
                replacer.full_name(name.split(',').next().unwrap_or_default());
            }
        }
    }
    replacer.host(&rustix::system::uname().nodename().to_string_lossy());
    let settings = std::fs::read_to_string("/etc/resolv.conf").unwrap_or_default();
    let lines = settings.lines().filter_map(|line| line.strip_prefix("search ").or_else(|| line.strip_prefix("domain ")));
    for domain in lines.flat_map(str::split_whitespace) {
        replacer.domain(domain);
    }
}

#[cfg(not(unix))]
fn of_system(_: &mut Replacer) {}
