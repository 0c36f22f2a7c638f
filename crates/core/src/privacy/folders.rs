//! Folders that say who somebody is or for whom they work: the home, the project's, and those around both.

use super::kept::is_common;
use super::words::in_address;
use super::{PERSON, Replacer, Where};
use crate::prelude::*;

/// Folders above the project's that are told apart.
const MOST_ABOVE: usize = 32;

impl Replacer {
    /// The person's home folder, as one path.
    pub fn home(&mut self, path: &str) {
        let path = path.trim_end_matches(['/', '\\']);
        let instead = match path.split_once(":\\") {
            Some((drive, _)) => format!("{drive}:\\Users\\{PERSON}"),
            None if path.starts_with("/Users/") => format!("/Users/{PERSON}"),
            None => format!("/home/{PERSON}"),
        };
        // Accounts of the system have homes like `/usr/sbin`, which everybody has.
        let lower = path.to_lowercase();
        let usual = ["/home/", "/users/", "\\users\\"].iter().any(|place| lower.contains(place));
        let everybodys = !usual && parts(&lower).all(is_common);
        if path == "/root" || path.starts_with("/var/root") || everybodys {
            return;
        }
        self.folder(path, instead);
        // Whoever has a folder beside it is a person too, unless it lies where anything may.
        let above = path.rsplit_once('/').map_or("", |(above, _)| above).to_lowercase();
        let last = above.rsplit('/').next().unwrap_or_default();
        if !last.is_empty() && !is_common(last) && !path.contains('\\') {
            self.homes.push(format!("{above}/"));
        }
    }

    /// The folder of the project, as one path. The home, if it is to be told, is told before.
    pub fn project(&mut self, path: &str) {
        let path = path.trim_end_matches(['/', '\\']);
        let drive = path.split_once(":\\").map(|(drive, _)| drive);
        let separator = if drive.is_some() { '\\' } else { '/' };
        let as_root = |name: &str| drive.map_or_else(|| format!("/{name}"), |drive| format!("{drive}:\\{name}"));
        let lower = path.to_lowercase();
        let homes: Vec<String> = self
            .names
            .iter()
            .filter(|name| name.place == Where::Path && name.instead.ends_with(PERSON))
            .map(|name| name.lower.clone())
            .collect();
        // What holds a project beside a home holds more than homes.
        if !homes.iter().any(|home| lower.starts_with(&format!("{home}{separator}"))) {
            self.homes.retain(|home| !lower.starts_with(home.as_str()));
        }
        self.folder(path, as_root("project"));
        // Those above it often say for whom one works. Above a home there is nothing of that.
        let mut above = path;
        for level in 1..=MOST_ABOVE {
            above = above.rsplit_once(separator).map_or("", |(above, _)| above);
            let everywhere = parts(above).count() < 2 || parts(above).all(|part| is_common(&part.to_lowercase()));
            if everywhere || homes.contains(&above.to_lowercase()) {
                break;
            }
            // Each is another folder, and stays one.
            let name = if level == 1 { "above-project".to_owned() } else { format!("above-project-{level}") };
            self.folder(above, as_root(&name));
        }
    }

    fn folder(&mut self, path: &str, instead: String) {
        let deep = path.chars().filter(|c| "/\\".contains(*c)).count() > 0 && path.len() > 3;
        if deep && !self.guide.contains(&path.to_lowercase()) && path != instead {
            if path.contains('\\') {
                self.add(&path.replace('\\', "/"), instead.replace('\\', "/"), Where::Path);
            }
            if let Some(written) = in_address(path) {
                self.add(&written, instead.clone(), Where::Path);
            }
            self.add(path, instead, Where::Path);
        }
    }
}

/// The names of the folders of a path.
fn parts(path: &str) -> impl Iterator<Item = &str> {
    path.split(['/', '\\']).filter(|part| !part.is_empty() && !part.ends_with(':'))
}
