//! Plain HTTP by way of a proxy: the whole address stands in the request (RFC 9112, section 3.2.2). The client that asks everything else
//! only knows tunnels, which most proxies refuse for plain HTTP.

use super::network::{connect, failed};
use base64::Engine;
use base64::engine::general_purpose::STANDARD;
use setup_ready_core::observation::{Connection, Fetched};
use std::io::{Error, ErrorKind, Read, Write};
use std::net::TcpStream;
use std::time::Duration;

/// The longest head of an answer, in bytes, and the most fields in it.
const LONGEST_HEAD: usize = 32 << 10;
const MOST_FIELDS: usize = 100;

/// The status that a proxy answers for an address.
pub(super) fn get(url: &str, proxy: &ureq::Proxy, limit: Duration) -> Fetched {
    let by_proxy = |reason: &str| Fetched::Proxy(reason.to_owned());
    let stream = match connect(proxy.host(), proxy.port(), limit) {
        Ok(stream) => stream,
        Err(Connection::NoName) => return by_proxy("its own name cannot be looked up"),
        Err(Connection::Refused) => return by_proxy("nothing listens where it should be"),
        Err(Connection::NoAnswer | Connection::NoWay(_) | Connection::Taken) => return by_proxy("it does not answer"),
    };
    let limited = stream.set_read_timeout(Some(limit)).and_then(|()| stream.set_write_timeout(Some(limit)));
    match limited.and_then(|()| ask(stream, url, proxy)) {
        Ok(Some(407)) => by_proxy("it asks for a name and a password"),
        // What proxies say of an address that they cannot reach (RFC 9110, sections 15.6.3 and 15.6.5).
        Ok(Some(502 | 504)) => Fetched::Failed(Connection::NoAnswer),
        Ok(Some(status)) => Fetched::Answer(status, None),
        Ok(None) => by_proxy("it does not speak HTTP"),
        Err(error) => match failed(&error) {
            Connection::NoAnswer => Fetched::Failed(Connection::NoAnswer),
            Connection::Refused | Connection::NoName | Connection::NoWay(_) | Connection::Taken => {
                by_proxy("it ended the connection")
            }
        },
    }
}

/// The status in the answer; none where it is no HTTP.
fn ask(mut stream: TcpStream, url: &str, proxy: &ureq::Proxy) -> Result<Option<u16>, Error> {
    let authority = url.strip_prefix("http://").unwrap_or(url).split(['/', '?', '#']).next().unwrap_or_default();
    let host = authority.rsplit_once('@').map_or(authority, |(_, host)| host);
    // An address is one word; what is none would be a second request.
    if url.chars().any(|c| c.is_ascii_control() || c == ' ') {
        return Err(Error::from(ErrorKind::InvalidInput));
    }
    let login = proxy.username().map(|name| {
        let login = format!("{name}:{}", proxy.password().unwrap_or_default());
        format!("Proxy-Authorization: Basic {}\r\n", STANDARD.encode(login))
    });
    let software = concat!("setup-ready/", env!("CARGO_PKG_VERSION"));
    let login = login.unwrap_or_default();
    let request = format!("GET {url} HTTP/1.1\r\nHost: {host}\r\nUser-Agent: {software}\r\n{login}Connection: close\r\n\r\n");
    stream.write_all(request.as_bytes())?;
    let mut head = Vec::new();
    let mut part = [0; 4_096];
    while head.len() < LONGEST_HEAD {
        let count = stream.read(&mut part)?;
        head.extend(part.iter().take(count));
        let mut fields = [httparse::EMPTY_HEADER; MOST_FIELDS];
        let mut answer = httparse::Response::new(&mut fields);
        match answer.parse(&head) {
            Ok(httparse::Status::Complete(_)) => return Ok(answer.code),
            Ok(httparse::Status::Partial) if count > 0 => {}
            Ok(httparse::Status::Partial) | Err(_) => return Ok(None),
        }
    }
    Ok(None)
}
