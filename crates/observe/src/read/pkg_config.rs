use std::collections::HashMap;

/// Variables may name others so deep, and a version be so long, in bytes.
const DEEPEST: usize = 8;
const LONGEST: usize = 256;

/// The version in a library's description for builds (pc(5)), with the file's own variables put in; `None` where it says none.
pub fn pkg_config_version(text: &str) -> Option<String> {
    let mut variables = HashMap::new();
    let mut version = None;
    for line in text.lines() {
        let line = line.split('#').next().unwrap_or_default().trim();
        let Some(end) = line.find(['=', ':']) else { continue };
        let (name, value) = (line.get(..end)?.trim(), line.get(end + 1..)?.trim());
        if line.get(end..=end) == Some("=") {
            variables.insert(name, value);
        } else if name == "Version" {
            version = Some(value);
        }
    }
    let mut version = version?.to_owned();
    for _ in 0..DEEPEST {
        let Some((before, rest)) = version.split_once("${") else { break };
        let (name, after) = rest.split_once('}')?;
        version = format!("{before}{}{after}", variables.get(name)?);
        if version.len() > LONGEST {
            return None;
        }
    }
    let version = version.trim();
    (!version.is_empty() && !version.contains("${")).then(|| version.to_owned())
}

/// The descriptions that this one asks for (`Requires`, pc(5)), by their names; versions are left out. What is private
/// to it matters only to who links it in statically.
pub fn pkg_config_requires(text: &str) -> Vec<String> {
    let lines = text.lines().filter_map(|line| line.split('#').next()?.trim().split_once(':'));
    let asked = lines.filter(|(key, _)| key.trim() == "Requires").map(|(_, value)| value);
    let mut names = Vec::new();
    for value in asked {
        let mut skip = false;
        for word in value.split([',', ' ', '\t']).filter(|word| !word.is_empty()) {
            // What follows a comparison is its version.
            if word.starts_with(['<', '>', '=', '!']) {
                skip = word.chars().all(|c| "<>=!".contains(c));
            } else if !core::mem::take(&mut skip) && !word.contains('$') {
                names.push(word.to_owned());
            }
        }
    }
    names
}

#[cfg(test)]
mod tests {
    use super::{pkg_config_requires, pkg_config_version};
    use rstest::rstest;

    #[rstest]
    #[case::several("Requires: yaml-0.1 >= 0.2, zlib\nRequires.private: m\n", &["yaml-0.1", "zlib"])]
    #[case::with_versions_close_by("Requires: glib-2.0>=2.40 gio\n", &["glib-2.0>=2.40", "gio"])]
    #[case::none("Name: buoy\n", &[])]
    fn what_a_description_asks_for_is_found(#[case] text: &str, #[case] names: &[&str]) {
        assert_eq!(pkg_config_requires(text), names);
    }

    #[rstest]
    #[case::plain("prefix=/usr\nName: libusb-1.0\nVersion: 1.0.26\nLibs: -L${prefix}/lib\n", Some("1.0.26"))]
    #[case::by_variables("major=3\nnumber=${major}.40\nVersion: ${number}.1 # the release\n", Some("3.40.1"))]
    #[case::by_itself("a=${a}${a}${a}${a}\nVersion: ${a}\n", None)]
    #[case::by_nothing("Version: ${nowhere}\n", None)]
    #[case::not_said("Name: buoy\n", None)]
    fn the_version_of_a_description_is_found(#[case] text: &str, #[case] version: Option<&str>) {
        assert_eq!(pkg_config_version(text).as_deref(), version);
    }
}
