//! Whether a service of the system stands behind a socket or a port that nobody answers at.

use crate::finding::StoppedService;
use crate::inquiry::{Inquiry, Stop, if_known};
use crate::observation::{Os, SystemService};
use crate::prelude::*;
use crate::probe::Probe;

/// The services that usually listen on a port (IANA's registry of service names and port numbers), as packages call them on Linux and as
/// installers do on Windows.
const BY_PORT: [(u16, &[&str], &[&str]); 9] = [
    (22, &["ssh", "sshd"], &["sshd"]),
    (1883, &["mosquitto"], &["mosquitto"]),
    (3306, &["mysql", "mariadb"], &["MySQL84", "MySQL80", "MariaDB"]),
    (5432, &["postgresql"], &["postgresql-x64-18", "postgresql-x64-17", "postgresql-x64-16", "postgresql-x64-15"]),
    (5672, &["rabbitmq-server"], &["RabbitMQ"]),
    (6379, &["redis-server", "redis"], &["Redis"]),
    (8086, &["influxdb"], &["influxdb"]),
    (11_211, &["memcached"], &["memcached"]),
    (27_017, &["mongod"], &["MongoDB"]),
];

/// A few sockets are not called by their service's name.
const BY_SOCKET: [(&str, &str); 3] = [(".s.PGSQL", "postgresql"), ("openssh-ssh-agent", "ssh-agent"), ("mysqld", "mysql")];

/// What the service behind a port may be called on this system.
///
/// # Errors
/// When it is not known yet which system this is.
pub(crate) fn names_for_port(inquiry: &mut Inquiry<'_>, port: u16) -> Result<Vec<String>, Stop> {
    let Some((_, linux, windows)) = BY_PORT.iter().find(|(number, ..)| *number == port) else { return Ok(Vec::new()) };
    let names = match inquiry.os()? {
        Some(Os::Linux) => *linux,
        Some(Os::Windows) => *windows,
        Some(Os::Macos) | None => &[],
    };
    Ok(names.iter().map(|name| (*name).to_owned()).collect())
}

/// What the service behind a socket may be called: mostly as its file is.
pub(crate) fn names_for_socket(path: &str) -> Vec<String> {
    let file = path.rsplit(['/', '\\']).next().unwrap_or(path);
    let stem = file.split(".sock").next().unwrap_or(file);
    let known = BY_SOCKET.iter().find(|(start, _)| file.starts_with(start)).map(|(_, name)| (*name).to_owned());
    let plain = !stem.is_empty() && stem.chars().all(|c| c.is_ascii_alphanumeric() || matches!(c, '-' | '_'));
    known.into_iter().chain(plain.then(|| stem.to_owned())).collect()
}

/// The first service of one of these names that is here and does not run.
pub(crate) fn stopped(inquiry: &mut Inquiry<'_>, names: &[String]) -> Result<Option<StoppedService>, Stop> {
    for name in names {
        inquiry.want(Probe::SystemService { name: name.clone() });
    }
    for name in names {
        let Some(state) = if_known(inquiry.system_service(name))? else { continue };
        match state {
            SystemService::Missing | SystemService::Running => {}
            SystemService::Stopped | SystemService::Disabled | SystemService::Masked | SystemService::Failed => {
                return Ok(Some(StoppedService { name: name.clone(), state: *state }));
            }
        }
    }
    Ok(None)
}
