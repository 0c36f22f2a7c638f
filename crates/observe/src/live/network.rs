//! Who answers where. What may be slow is done aside, so that its time is bounded and Ctrl-C is heard.

#![allow(
    clippy::wildcard_enum_match_arm,
    reason = "the system's and the client's errors are many; the ones that tell something are named"
)]

use super::{Live, os, plain_proxy, program};
use crate::read::proxy_for;
use setup_ready_core::observation::{Connection, Fetched, Observation, RunEnd, Way};
use setup_ready_core::text::Pattern;
use std::io::{Error, ErrorKind};
use std::net::{IpAddr, SocketAddr, TcpStream, ToSocketAddrs};
use std::sync::mpsc::{RecvTimeoutError, channel};
use std::time::{Duration, Instant};

/// How much of an answer is read, in bytes.
const READ_BYTES: u64 = 1 << 20;
/// How often it is looked whether the person has interrupted.
const TICK: Duration = Duration::from_millis(50);

/// Does something aside; `None` when its time is up or the person interrupts.
fn aside<T: Send + 'static>(live: &Live, work: impl FnOnce() -> T + Send + 'static) -> Option<T> {
    let (sender, receiver) = channel();
    // It ends by its own limits, or with the program.
    std::thread::Builder::new().spawn(move || sender.send(work())).ok()?;
    let end = Instant::now() + live.time_limit + TICK;
    loop {
        match receiver.recv_timeout(TICK) {
            Ok(done) => return Some(done),
            Err(RecvTimeoutError::Disconnected) => return None,
            Err(RecvTimeoutError::Timeout) if live.interrupt.is_raised() || Instant::now() >= end => return None,
            Err(RecvTimeoutError::Timeout) => {}
        }
    }
}

/// Whether somebody takes a connection.
pub(super) fn connection(live: &Live, host: &str, port: u16) -> Observation {
    let (asked, limit) = (host.to_owned(), live.time_limit);
    let outcome = |attempt: Result<TcpStream, Connection>| attempt.map_or_else(|reason| reason, |_| Connection::Taken);
    let mut connection = aside(live, move || outcome(connect(&asked, port, limit)));
    if connection == Some(Connection::NoName) {
        let addresses = by_other_sources(live, host).into_iter().map(move |address| (address, port).into());
        connection = aside(live, move || outcome(connect_to(addresses, limit)));
    }
    Observation::Connection(connection.unwrap_or(Connection::NoAnswer))
}

/// Where a name leads by all the sources that the system is set to ask, which getent(1) does. A program that is linked with nothing reads the
/// hosts file and asks name servers, and knows no more; any other has asked all of them already.
fn by_other_sources(live: &Live, name: &str) -> Vec<IpAddr> {
    if !cfg!(target_env = "musl") {
        return Vec::new();
    }
    let run = program::asked(live, "getent", ["ahosts", "--", name].into_iter());
    let said = run.ok().filter(|run| run.end == RunEnd::Exit(0)).map(|run| run.stdout).unwrap_or_default();
    let mut addresses: Vec<IpAddr> = Vec::new();
    // A line for each address and kind of socket: the address comes first.
    for address in said.lines().filter_map(|line| line.split_whitespace().next()?.parse().ok()) {
        if !addresses.contains(&address) {
            addresses.push(address);
        }
    }
    addresses
}

/// A connection to the first address of a host that takes one.
///
/// # Errors
/// What says most of why there is none.
pub(super) fn connect(host: &str, port: u16, limit: Duration) -> Result<TcpStream, Connection> {
    connect_to((host, port).to_socket_addrs().into_iter().flatten(), limit)
}

fn connect_to(addresses: impl Iterator<Item = SocketAddr>, limit: Duration) -> Result<TcpStream, Connection> {
    let mut worst = Connection::NoName;
    for address in addresses {
        match TcpStream::connect_timeout(&address, limit) {
            Ok(stream) => return Ok(stream),
            // A name leads to several addresses; that one of them refuses says more than that another has no way.
            Err(error) if worst != Connection::Refused => worst = failed(&error),
            Err(_) => {}
        }
    }
    Err(worst)
}

pub(super) fn failed(error: &Error) -> Connection {
    match error.kind() {
        ErrorKind::ConnectionRefused => Connection::Refused,
        ErrorKind::TimedOut | ErrorKind::WouldBlock => Connection::NoAnswer,
        _ => Connection::NoWay(error.to_string()),
    }
}

/// Where a name leads. That a name cannot be looked up now is no address either.
pub(super) fn addresses(live: &Live, name: &str) -> Observation {
    let host = name.to_owned();
    let found = aside(live, move || {
        let found = (host.as_str(), 0).to_socket_addrs();
        // In the order in which programs try them.
        let mut addresses = Vec::new();
        for address in found.into_iter().flatten().map(|address| address.ip()) {
            if !addresses.contains(&address) {
                addresses.push(address);
            }
        }
        addresses
    });
    match found {
        Some(addresses) if addresses.is_empty() => Observation::Addresses(by_other_sources(live, name)),
        Some(addresses) => Observation::Addresses(addresses),
        None => Observation::CouldNotLook("the name servers did not answer in time".to_owned()),
    }
}

/// Whether there is a way out of this machine; a proxy is one.
pub(super) fn online() -> Observation {
    let proxied = ["https", "http"].iter().any(|scheme| proxy_for(&format!("{scheme}://outside.test/"), variable).is_some());
    match os::has_way_out() {
        _ if proxied => Observation::Online(true),
        Ok(way) => Observation::Online(way),
        Err(reason) => Observation::CouldNotLook(reason),
    }
}

fn variable(name: &str) -> Option<String> {
    std::env::var(name).ok()
}

/// What an address answers to `GET`. Where it sends on to is not followed: only what the guide names is asked.
pub(super) fn fetch(live: &Live, url: &str, pattern: Option<Pattern>, way: Way) -> Observation {
    if url.starts_with("https:") && cfg!(not(feature = "https")) {
        return Observation::NotSupported("this program was built without what secure connections need".to_owned());
    }
    let proxy = if way == Way::Configured { proxy_for(url, variable) } else { None };
    let (address, limit) = (url.to_owned(), live.time_limit);
    match aside(live, move || get(&address, pattern.as_ref(), proxy.as_deref(), limit)) {
        Some(Some(Fetched::Failed(Connection::NoName)))
            if host_of(url).is_some_and(|host| !by_other_sources(live, &host).is_empty()) =>
        {
            Observation::CouldNotLook(
                "only the system's own programs can look up its name, so open it in a browser to see whether it answers"
                    .to_owned(),
            )
        }
        Some(Some(fetched)) => Observation::Fetched(fetched),
        Some(None) => Observation::CouldNotLook("searching its answer for the pattern would take too long".to_owned()),
        None => Observation::Fetched(Fetched::Failed(Connection::NoAnswer)),
    }
}

fn host_of(url: &str) -> Option<String> {
    url.parse::<ureq::http::Uri>().ok()?.host().map(ToOwned::to_owned)
}

/// How many milliseconds this clock is ahead of the one that an address answers with.
pub(super) fn clock_beside(live: &Live, url: &str) -> Observation {
    if url.starts_with("https:") && cfg!(not(feature = "https")) {
        return Observation::NotSupported("this program was built without what secure connections need".to_owned());
    }
    let proxy = proxy_for(url, variable);
    let (address, limit) = (url.to_owned(), live.time_limit);
    let asked = aside(live, move || {
        let proxy = proxy.as_deref().map(ureq::Proxy::new).transpose().ok()?;
        let answer = agent(proxy, limit).get(&address).call();
        // A clock that is far off makes every certificate wrong: the connection says it then.
        Some((answer.ok()?.headers().get("date")?.to_str().ok().map(ToOwned::to_owned), std::time::SystemTime::now()))
    });
    let Some(Some((date, now))) = asked else {
        return Observation::CouldNotLook(format!(
            "{} did not answer with a time",
            setup_ready_core::text::without_credentials(url)
        ));
    };
    let seconds = |at: std::time::SystemTime| {
        at.duration_since(std::time::UNIX_EPOCH).ok().and_then(|time| i64::try_from(time.as_millis()).ok())
    };
    let theirs = date.as_deref().and_then(crate::read::http_date);
    Observation::ClockBeside(seconds(now).zip(theirs).map(|(now, theirs)| now.saturating_sub(theirs.saturating_mul(1_000))))
}

/// None where searching the answer would take too long.
fn get(url: &str, pattern: Option<&Pattern>, proxy: Option<&str>, limit: Duration) -> Option<Fetched> {
    let Ok(configured) = proxy.map(ureq::Proxy::new).transpose() else {
        return Some(Fetched::Proxy("the variable that names it holds no address".to_owned()));
    };
    if let Some(proxy) =
        configured.as_ref().filter(|proxy| proxy.protocol() == ureq::ProxyProtocol::Http && url.starts_with("http:"))
    {
        return Some(plain_proxy::get(url, proxy, limit));
    }
    let agent = agent(configured, limit);
    let answer = match agent.get(url).call() {
        Ok(answer) => answer,
        Err(error) => return Some(explain(&error, proxy.is_some())),
    };
    let status = answer.status().as_u16();
    if status == 407 && proxy.is_some() {
        return Some(Fetched::Proxy("it asks for a name and a password".to_owned()));
    }
    let holds = match pattern {
        None => None,
        Some(pattern) => {
            let mut body = answer.into_body();
            let text = body.with_config().limit(READ_BYTES).lossy_utf8(true).read_to_string();
            match text.map(|text| pattern.search().finds(&text)) {
                Ok(None) => return None,
                Ok(found) => found,
                Err(_) => Some(false),
            }
        }
    };
    Some(Fetched::Answer(status, holds))
}

fn agent(proxy: Option<ureq::Proxy>, limit: Duration) -> ureq::Agent {
    let config = ureq::Agent::config_builder()
        .timeout_global(Some(limit))
        .http_status_as_error(false)
        .max_redirects(0)
        .max_redirects_will_error(false)
        .proxy(proxy)
        .user_agent(concat!("setup-ready/", env!("CARGO_PKG_VERSION")));
    #[cfg(feature = "https")]
    let config = {
        use ureq::tls::{RootCerts, TlsConfig, TlsProvider};
        let provider = std::sync::Arc::new(rustls::crypto::ring::default_provider());
        config.tls_config(
            TlsConfig::builder()
                .provider(TlsProvider::Rustls)
                .root_certs(RootCerts::PlatformVerifier)
                .unversioned_rustls_crypto_provider(provider)
                .build(),
        )
    };
    config.build().into()
}

/// What a failed request says about the way there. The client's own words are kept out: they may hold an address with a password.
fn explain(error: &ureq::Error, proxied: bool) -> Fetched {
    let by_proxy = |reason: &str| Fetched::Proxy(reason.to_owned());
    match error {
        ureq::Error::Timeout(_) => Fetched::Failed(Connection::NoAnswer),
        ureq::Error::HostNotFound if proxied => by_proxy("its own name cannot be looked up"),
        ureq::Error::HostNotFound => Fetched::Failed(Connection::NoName),
        ureq::Error::ConnectProxyFailed(answer) => {
            let status = answer.split_whitespace().find(|word| word.len() == 3 && word.bytes().all(|byte| byte.is_ascii_digit()));
            match status {
                Some("407") => by_proxy("it asks for a name and a password"),
                Some(status) => Fetched::Proxy(format!("it answers with the status {status}")),
                None => by_proxy("it refuses"),
            }
        }
        ureq::Error::Io(error) => by_system(error, proxied),
        ureq::Error::Protocol(_) | ureq::Error::LargeResponseHeader(..) => Fetched::NotHttp,
        #[cfg(feature = "https")]
        ureq::Error::Rustls(error) => Fetched::Insecure(insecure(error)),
        ureq::Error::Tls(_) => Fetched::Insecure("the name in its address cannot be in a certificate".to_owned()),
        _ => Fetched::Failed(Connection::NoAnswer),
    }
}

fn by_system(error: &Error, proxied: bool) -> Fetched {
    #[cfg(feature = "https")]
    {
        let mut source: Option<&(dyn std::error::Error + 'static)> = error.get_ref().map(|inner| inner as _);
        while let Some(inner) = source {
            if let Some(inner) = inner.downcast_ref::<rustls::Error>() {
                return Fetched::Insecure(insecure(inner));
            }
            source = inner.source();
        }
    }
    // How the standard library begins what the system's resolver says, for which it has no kind; on Windows it has a range of numbers
    // (winsock2.h, `WSAHOST_NOT_FOUND` to `WSANO_DATA`).
    let by_number = cfg!(windows) && matches!(error.raw_os_error(), Some(11_001..=11_004));
    if by_number || error.to_string().starts_with("failed to lookup address information") {
        return if proxied {
            Fetched::Proxy("its own name cannot be looked up".to_owned())
        } else {
            Fetched::Failed(Connection::NoName)
        };
    }
    match error.kind() {
        ErrorKind::ConnectionRefused if proxied => Fetched::Proxy("nothing listens where it should be".to_owned()),
        // It hung up in the middle, or sent what is no answer.
        ErrorKind::ConnectionReset | ErrorKind::ConnectionAborted | ErrorKind::UnexpectedEof | ErrorKind::BrokenPipe => {
            Fetched::NotHttp
        }
        _ => Fetched::Failed(failed(error)),
    }
}

/// The certificate is trusted as far as that.
#[cfg(feature = "https")]
const UNASKED: &str = "whether its certificate was revoked could not be found out";

/// How Windows says that it could not ask whoever signed a certificate (winerror.h: `CERT_E_REVOCATION_FAILURE`,
/// `CRYPT_E_REVOCATION_OFFLINE`, `CRYPT_E_NO_REVOCATION_CHECK`), as numbers that the standard library puts behind the system's words.
#[cfg(feature = "https")]
const UNASKED_NUMBERS: [&str; 3] = ["(os error -2146762482)", "(os error -2146885613)", "(os error -2146885614)"];

/// What is wrong with a certificate, in words.
#[cfg(feature = "https")]
fn insecure(error: &rustls::Error) -> String {
    use rustls::CertificateError as Wrong;
    let text = match error {
        rustls::Error::InvalidCertificate(wrong) => match wrong {
            Wrong::UnknownIssuer => {
                "nobody whom this system trusts has signed its certificate (in a company's network, the company may have put its own in \
                 between)"
            }
            Wrong::Expired | Wrong::ExpiredContext { .. } => "its certificate has expired, or this machine's clock is wrong",
            Wrong::NotValidYet | Wrong::NotValidYetContext { .. } => {
                "its certificate is not valid yet, or this machine's clock is wrong"
            }
            Wrong::NotValidForName | Wrong::NotValidForNameContext { .. } => "its certificate is for another name",
            Wrong::Revoked => "its certificate was revoked",
            Wrong::UnknownRevocationStatus => UNASKED,
            Wrong::Other(rustls::OtherError(error)) => {
                let words = error.to_string();
                if !UNASKED_NUMBERS.iter().any(|number| words.ends_with(number)) {
                    return format!("its certificate is not in order ({words})");
                }
                UNASKED
            }
            other => return format!("its certificate is not in order ({other})"),
        },
        rustls::Error::InvalidMessage(_) => "it does not speak TLS",
        other => return other.to_string(),
    };
    text.to_owned()
}
