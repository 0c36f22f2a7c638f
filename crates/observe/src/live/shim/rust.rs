//! The manager of the Rust tools: a toolchain a folder, chosen by a variable, the project's toolchain file, or its own settings.

use super::{Live, ShimTarget, is_version, place, root, variable};
use std::path::{Path, PathBuf};

pub(super) fn stand(live: &Live, path: &Path, real: &Path, name: &str) -> Option<ShimTarget> {
    let programs = root(live, "CARGO_HOME", ".cargo")?.join("bin");
    if path.parent() != Some(&programs) || name == "rustup" {
        return None;
    }
    // Each program there is the manager itself, by a link or by a second name of the same file.
    let manager = programs.join("rustup");
    let is_manager = real.file_name().is_some_and(|file| file == "rustup") || is_same(real, &manager);
    is_manager.then(|| chosen(live, name))
}

fn is_same(one: &Path, other: &Path) -> bool {
    #[cfg(unix)]
    {
        use std::os::unix::fs::MetadataExt;
        let known = |path: &Path| path.metadata().ok().map(|known| (known.dev(), known.ino()));
        known(one).is_some() && known(one) == known(other)
    }
    #[cfg(not(unix))]
    {
        let known = |path: &Path| path.metadata().ok().map(|known| known.len());
        known(one).is_some() && known(one) == known(other)
    }
}

fn chosen(live: &Live, name: &str) -> ShimTarget {
    let Some(own) = root(live, "RUSTUP_HOME", ".rustup") else { return ShimTarget::Unclear };
    let settings = place::text(&own.join("settings.toml")).unwrap_or_default();
    let (toolchain, said_in) = match wanted(live, &settings, &own) {
        Ok(Some(wanted)) => wanted,
        Ok(None) => {
            return ShimTarget::Absent(
                format!("{name}: no toolchain is chosen"),
                own.join("settings.toml").display().to_string(),
            );
        }
        Err(stand) => return stand,
    };
    if !is_version(&toolchain) {
        return ShimTarget::Unclear;
    }
    let toolchains = own.join("toolchains");
    let host = value(&settings, "default_host_triple").unwrap_or_else(host);
    // `1.75` may be kept under its whole number.
    let folders = [toolchain.clone(), format!("{toolchain}-{host}"), format!("{toolchain}.0-{host}")];
    let file = if cfg!(windows) { format!("{name}.exe") } else { name.to_owned() };
    match folders.iter().map(|folder| toolchains.join(folder)).find(|folder| folder.is_dir()) {
        Some(folder) if folder.join("bin").join(&file).is_file() => ShimTarget::For(folder.join("bin").join(&file)),
        _ => ShimTarget::Absent(format!("{name} of {toolchain}"), said_in),
    }
}

/// The toolchain that is wanted, and where that is said: the nearest of what the settings override for a folder and what the project says.
fn wanted(live: &Live, settings: &str, own: &Path) -> Result<Option<(String, String)>, ShimTarget> {
    if let Some(name) = variable("RUSTUP_TOOLCHAIN") {
        return Ok(Some((name, "the variable RUSTUP_TOOLCHAIN".to_owned())));
    }
    let settings_place = || own.join("settings.toml").display().to_string();
    for folder in live.folder.ancestors() {
        if let Some(name) = overridden(settings, folder) {
            return Ok(Some((name, settings_place())));
        }
        for file in ["rust-toolchain", "rust-toolchain.toml"] {
            let path = folder.join(file);
            let Ok(text) = place::text(&path) else { continue };
            if let Some(channel) = value(&text, "channel") {
                return Ok(Some((channel, path.display().to_string())));
            }
            // The older form is the name alone; a path is the project's own compiler.
            return match text.trim() {
                plain if is_version(plain) => Ok(Some((plain.to_owned(), path.display().to_string()))),
                _ if value(&text, "path").is_some() => Err(ShimTarget::Unclear),
                _ => Ok(value(settings, "default_toolchain").map(|name| (name, settings_place()))),
            };
        }
    }
    Ok(value(settings, "default_toolchain").map(|name| (name, settings_place())))
}

/// The text that a key has in one of the manager's own flat files.
fn value(text: &str, key: &str) -> Option<String> {
    text.lines().find_map(|line| {
        let (name, value) = line.split('#').next().unwrap_or_default().split_once('=')?;
        (name.trim() == key).then(|| value.trim().trim_matches(['"', '\'']).to_owned())
    })
}

fn overridden(settings: &str, folder: &Path) -> Option<String> {
    let (_, overrides) = settings.split_once("[overrides]")?;
    overrides.lines().take_while(|line| !line.trim_start().starts_with('[')).find_map(|line| {
        let (path, name) = line.rsplit_once('=')?;
        let path = PathBuf::from(path.trim().trim_matches(['"', '\'']));
        (path == folder).then(|| name.trim().trim_matches(['"', '\'']).to_owned())
    })
}

/// What the manager calls this machine, where it has not noted it.
fn host() -> String {
    let system = if cfg!(windows) {
        "pc-windows-msvc"
    } else if cfg!(target_os = "macos") {
        "apple-darwin"
    } else {
        "unknown-linux-gnu"
    };
    format!("{}-{system}", std::env::consts::ARCH)
}
