//! Who answers where, on Windows: servers made for the test, with and without a secure connection, and the proxy of the system's settings.

use crate::harness::{Bench, causes_are, essence, of};
use sha1::Digest;
use std::io::{Read, Write};
use std::net::{TcpListener, TcpStream};
use std::sync::Arc;

/// A port at which every connection is answered like this; the thread ends with the test.
fn served(answer: impl Fn(TcpStream) + Send + 'static) -> u16 {
    let listener = TcpListener::bind("127.0.0.1:0").unwrap();
    let port = listener.local_addr().unwrap().port();
    std::thread::spawn(move || listener.incoming().flatten().for_each(answer));
    port
}

/// Reads a request's head and answers with these bytes.
fn says(mut stream: impl Read + Write, answer: &str) {
    let mut head = [0; 2048];
    let _ = stream.read(&mut head);
    let _ = stream.write_all(answer.as_bytes());
    let _ = stream.flush();
}

const WELL: &str = "HTTP/1.1 200 OK\r\nContent-Length: 11\r\nConnection: close\r\n\r\nbuoys: 2440";

#[test]
fn services_answer_as_they_should_or_it_is_said_how_they_do_not() {
    let well = served(|stream| says(stream, WELL));
    let lost = served(|stream| says(stream, "HTTP/1.1 404 Not Found\r\nContent-Length: 0\r\nConnection: close\r\n\r\n"));
    let other = served(|stream| says(stream, "220 buoy mail\r\n"));
    let silent = TcpListener::bind("127.0.0.1:0").unwrap();
    let gone = TcpListener::bind("127.0.0.1:0").unwrap().local_addr().unwrap().port();
    let wait = silent.local_addr().unwrap().port();
    let bench = Bench::new(&format!(
        "[require.well]\nservice = \"localhost:{well}\"\nhttp = \"/\"\ncontains = \"^buoys: \\\\d+$\"
         [require.text]\nservice = \"127.0.0.1:{well}\"\nhttp = \"/\"\ncontains = \"whales\"
         [require.lost]\nservice = \"127.0.0.1:{lost}\"\nhttp = \"/\"\n[require.other]\nservice = \"127.0.0.1:{other}\"\nhttp = \"/\"
         [require.gone]\nservice = \"127.0.0.1:{gone}\"\n[require.wait]\nservice = \"127.0.0.1:{wait}\"\nhttp = \"/\"
         [require.here]\nhostname = \"localhost\"\npoints_to = \"127.0.0.1\"\n[require.name]\nhostname = \"buoy.invalid\"\n"
    ));
    let report = bench.report(&[], &["--time-limit", "3s"]).1;
    causes_are(
        &report,
        &[
            ("well", ""),
            ("text", "service-other-answer"),
            ("lost", "service-other-answer"),
            ("other", "service-other-holder"),
            ("gone", "service-refused"),
            ("wait", "service-no-answer"),
            ("here", ""),
            ("name", "name-unknown"),
        ],
    );
}

/// A certificate that this user trusts, for as long as this lives: written where the user's store keeps it, as one property after the other.
struct Trusted(String);

impl Trusted {
    /// None but under Wine: a real system would have the person asked.
    fn new(certificate: &[u8]) -> Option<Self> {
        windows_registry::CURRENT_USER.open(r"Software\Wine").ok()?;
        let hash = sha1::Sha1::digest(certificate);
        let property = |id: u32, value: &[u8]| {
            let length = u32::try_from(value.len()).unwrap();
            [id, 1, length].iter().flat_map(|number| number.to_le_bytes()).chain(value.iter().copied()).collect::<Vec<u8>>()
        };
        // The numbers of wincrypt.h: CERT_SHA1_HASH_PROP_ID, and the certificate itself.
        let blob = [property(3, &hash), property(32, certificate)].concat();
        let name = hash.iter().fold(String::new(), |name, byte| name + &format!("{byte:02X}"));
        let path = format!(r"Software\Microsoft\SystemCertificates\Root\Certificates\{name}");
        windows_registry::CURRENT_USER.create(&path).unwrap().set_bytes("Blob", windows_registry::Type::Bytes, &blob).unwrap();
        Some(Self(path))
    }
}

impl Drop for Trusted {
    fn drop(&mut self) {
        windows_registry::CURRENT_USER.remove_tree(&self.0).unwrap();
    }
}

#[test]
fn a_certificate_counts_when_this_system_trusts_it() {
    let signed = rcgen::generate_simple_self_signed(vec!["localhost".to_owned()]).unwrap();
    let certificate = signed.cert.der().clone();
    let trusted = Trusted::new(&certificate);
    let key = rustls::pki_types::PrivateKeyDer::try_from(signed.signing_key.serialize_der()).unwrap();
    let provider = Arc::new(rustls::crypto::ring::default_provider());
    let config = rustls::ServerConfig::builder_with_provider(provider)
        .with_safe_default_protocol_versions()
        .unwrap()
        .with_no_client_auth()
        .with_single_cert(vec![certificate], key)
        .unwrap();
    let config = Arc::new(config);
    let port = served(move |stream| {
        let connection = rustls::ServerConnection::new(Arc::clone(&config)).unwrap();
        says(rustls::StreamOwned::new(connection, stream), WELL);
    });
    let plain = served(|stream| says(stream, WELL));
    let bench = Bench::new(&format!(
        "[require.stranger]\nreach = \"https://localhost:{port}/\"\n[require.plain]\nreach = \"https://localhost:{plain}/\"\n"
    ));
    if let Some(trusted) = trusted {
        // Wine cannot ask whether a certificate was revoked; all else about it is in order now.
        let (_, _, message) = essence(&bench.report(&[], &[]).1, "stranger");
        assert!(message.ends_with("whether its certificate was revoked could not be found out."), "{message}");
        drop(trusted);
    }
    let report = bench.report(&[], &[]).1;
    causes_are(&report, &[("stranger", "reach-tls"), ("plain", "reach-tls")]);
    let (stranger, plain) = (essence(&report, "stranger").2, essence(&report, "plain").2);
    assert!(stranger.contains("nobody whom this system trusts has signed its certificate"), "{stranger}");
    assert!(plain.contains("it does not speak TLS"), "{plain}");
}

#[test]
fn the_proxy_of_the_systems_settings_is_told_where_a_terminal_does_not_know_it() {
    let bench = Bench::new("[require.far]\nreach = \"http://buoy-files.invalid/\"\n");
    let key = windows_registry::CURRENT_USER.create(r"Software\Microsoft\Windows\CurrentVersion\Internet Settings").unwrap();
    let before = (key.get_u32("ProxyEnable"), key.get_string("ProxyServer"));
    key.set_u32("ProxyEnable", 1).unwrap();
    key.set_string("ProxyServer", "http=gate.test:3128;https=gate.test:3129").unwrap();
    let (_, report) = bench.report(&[], &[]);
    match before.0 {
        Ok(enabled) => key.set_u32("ProxyEnable", enabled).unwrap(),
        Err(_) => key.remove_value("ProxyEnable").unwrap(),
    }
    match before.1 {
        Ok(server) => key.set_string("ProxyServer", server).unwrap(),
        Err(_) => key.remove_value("ProxyServer").unwrap(),
    }
    if essence(&report, "far").1 == "reach-offline" {
        println!("left out: this machine has no network at all");
        return;
    }
    causes_are(&report, &[("far", "reach-proxy")]);
    let fix = of(&report, "far")["fixes"][0]["run"].to_string();
    assert!(essence(&report, "far").2.contains("the proxy http://gate.test:3129"), "{report:#}");
    assert!(fix.contains("https_proxy") && fix.contains("http://gate.test:3129"), "{fix}");
}
