use super::super::format::{Node, toml};
use super::super::statement_sink::{Read, Source, StatementSink};
use setup_ready_core::statement::{
    Confidence::{Mentioned, Pinned},
    Restriction,
};
use setup_ready_observe::pinned::ranges::exact_or_series;

/// Crates whose build needs something of the system: the crate, and the tool or library.
const NEEDS: [(&str, Need); 34] = {
    use Need::{Library, Tool};
    [
        ("alsa-sys", Library("alsa")),
        ("bindgen", Tool("clang")),
        ("cairo-sys-rs", Library("cairo")),
        ("cmake", Tool("cmake")),
        ("curl-sys", Library("libcurl")),
        ("dbus", Library("dbus-1")),
        ("expat-sys", Library("expat")),
        ("freetype-sys", Library("freetype2")),
        ("fuse3", Library("fuse3")),
        ("gdk-sys", Library("gtk+-3.0")),
        ("glib-sys", Library("glib-2.0")),
        ("gtk-sys", Library("gtk+-3.0")),
        ("gtk4-sys", Library("gtk4")),
        ("hidapi", Library("libudev")),
        ("libdbus-sys", Library("dbus-1")),
        ("libgit2-sys", Library("libgit2")),
        ("libpulse-sys", Library("libpulse")),
        ("libsodium-sys", Library("libsodium")),
        ("libsqlite3-sys", Library("sqlite3")),
        ("libssh2-sys", Library("libssh2")),
        ("libudev-sys", Library("libudev")),
        ("libusb1-sys", Library("libusb-1.0")),
        ("libz-sys", Library("zlib")),
        ("lzma-sys", Library("liblzma")),
        ("openssl-sys", Library("openssl")),
        ("pango-sys", Library("pango")),
        ("pq-sys", Library("libpq")),
        ("prost-build", Tool("protoc")),
        ("protobuf-codegen", Tool("protoc")),
        ("rdkafka-sys", Library("rdkafka")),
        ("tonic-build", Tool("protoc")),
        ("wayland-sys", Library("wayland-client")),
        ("x11", Library("x11")),
        ("zstd-sys", Library("libzstd")),
    ]
};

#[derive(Clone, Copy)]
enum Need {
    Tool(&'static str),
    Library(&'static str),
}

fn need(name: &str) -> Option<Need> {
    NEEDS.iter().find(|(one, _)| *one == name).map(|(_, need)| *need)
}

/// `Cargo.toml` ("The Manifest Format" of the Cargo book): the oldest compiler, and what the builds of its dependencies start.
pub(super) fn manifest(file: &Source<'_>, said: &StatementSink) -> Read {
    let tree = toml(file.text)?;
    let package = tree.get("package");
    for (path, item) in
        [(&["package", "rust-version"][..], "rust-version"), (&["workspace", "package", "rust-version"], "rust-version")]
    {
        if let Some(entry) = tree.at(path)
            && let Some(version) = entry.node.text()
        {
            said.tool("rustc", Pinned, (entry.line, item, super::at_least(version)));
        }
    }
    // A member of a workspace says nothing new.
    if !file.names.has_above(file.path, "Cargo.toml") && (package.is_some() || tree.get("workspace").is_some()) {
        said.tool("cargo", Pinned, 1);
        said.only(Some(Restriction::When("not windows".to_owned())), || said.tool("cc", Pinned, 1));
    }
    for entry in tree.get("build-dependencies").map(Node::entries).unwrap_or_default() {
        let optional = entry.node.get("optional").and_then(Node::text) == Some("true");
        // What is bound at a build by a generator that brings its own parser or is found otherwise is a person's to say.
        match need(&entry.key) {
            Some(Need::Tool("protoc")) if !optional => said.tool("protoc", Pinned, (entry.line, &*entry.key)),
            Some(Need::Tool(tool)) => said.tool(tool, Mentioned, (entry.line, &*entry.key)),
            Some(Need::Library(_)) | None => {}
        }
    }
    Ok(())
}

/// `Cargo.lock`: libraries that the crates for them look for; most build their own copy where there is none, so they are only mentioned.
pub(super) fn lock(file: &Source<'_>, said: &StatementSink) -> Read {
    let tree = toml(file.text)?;
    for package in tree.get("package").map(Node::items).unwrap_or_default() {
        let Some(name) = package.entry("name") else { continue };
        if let Some(Need::Library(library)) = name.node.text().and_then(need) {
            let how = (name.line, name.node.text().unwrap_or_default());
            said.only(Some(Restriction::When("not windows".to_owned())), || said.library(library, Mentioned, how));
        }
    }
    Ok(())
}

/// `rust-toolchain.toml`, or `rust-toolchain` in its older form (rustup's book, "Overrides").
pub(super) fn toolchain(file: &Source<'_>, said: &StatementSink) -> Read {
    let channel = if file.text.contains('[') {
        let tree = toml(file.text)?;
        tree.at(&["toolchain", "channel"]).and_then(|entry| Some((entry.node.text()?.to_owned(), entry.line)))
    } else {
        super::first_line(file.text).map(|(line, number)| (line.to_owned(), number))
    };
    if let Some((channel, line)) = channel {
        let numbered = channel.starts_with(|c: char| c.is_ascii_digit());
        said.tool("rustc", Pinned, (line, "channel", if numbered { exact_or_series(&channel) } else { None }));
    }
    Ok(())
}
