//! What a package brings, in the words of requirements.

#![allow(clippy::wildcard_enum_match_arm, reason = "only managers whose packages are named after modules are told apart")]

use super::Topic;
use crate::catalogue::{self, libraries};
use crate::guide::Language;
use crate::manager::Manager;
use crate::prelude::*;

/// What a package brings.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Provided {
    /// These.
    Topics(Vec<Topic>),
    /// Nothing that a build would miss: what every system has, or what only serves to install.
    Nothing,
    /// Nobody here knows.
    Unknown,
}

/// What every system has, or only serves to fetch and install.
const PLAIN: [&str; 40] = [
    "apt-transport-https",
    "apt-utils",
    "apt-file",
    "base-files",
    "bash",
    "ca-certificates",
    "coreutils",
    "debian-archive-keyring",
    "debian-keyring",
    "dirmngr",
    "dnf-plugins-core",
    "dpkg-dev",
    "dumb-init",
    "epel-release",
    "findutils",
    "glibc-devel",
    "gnupg",
    "gnupg2",
    "gpg",
    "gpg-agent",
    "libc-dev",
    "libc6-dev",
    "libstdc++-dev",
    "linux-headers",
    "locales",
    "locales-all",
    "lsb-release",
    "musl-dev",
    "procps",
    "shadow",
    "software-properties-common",
    "sudo",
    "tini",
    "tzdata",
    "ubuntu-keyring",
    "util-linux",
    "which",
    "xz-utils-dev",
    "yum-utils",
    "zlib-static",
];

/// Packages that bring several things, or what no row of the catalogue says.
const SEVERAL: [(&str, &[&str]); 29] = [
    ("build-essential", &["cc", "c++", "make"]),
    ("base-devel", &["cc", "c++", "make"]),
    ("build-base", &["cc", "c++", "make"]),
    ("devel_basis", &["cc", "c++", "make"]),
    ("alpine-sdk", &["cc", "c++", "make"]),
    ("clang", &["clang"]),
    ("llvm", &["clang"]),
    ("libtool", &["libtoolize"]),
    ("libtool-bin", &["libtoolize"]),
    ("autotools-dev", &["autoconf"]),
    ("autoconf-archive", &["autoconf"]),
    ("python3", &["python3"]),
    ("python", &["python3"]),
    ("python3-venv", &["python3"]),
    ("python3-full", &["python3"]),
    ("python3-minimal", &["python3"]),
    ("python3-pip", &["pip3"]),
    ("py3-pip", &["pip3"]),
    ("python-pip", &["pip3"]),
    ("pkgconf", &["pkg-config"]),
    ("pkg-config", &["pkg-config"]),
    ("pkgconfig", &["pkg-config"]),
    ("pkgconf-pkg-config", &["pkg-config"]),
    ("ruby-full", &["ruby"]),
    ("golang", &["go"]),
    ("golang-go", &["go"]),
    ("protoc", &["protoc"]),
    ("protobuf-compiler", &["protoc"]),
    ("upx-ucl", &["upx"]),
];

/// Other names under which distributions have, or had, a library's package.
const OTHER_NAMES: [(&str, &str); 14] = [
    ("default-libmysqlclient-dev", "libmariadb"),
    ("libcurl4-gnutls-dev", "libcurl"),
    ("libcurl4-nss-dev", "libcurl"),
    ("libegl1-mesa-dev", "egl"),
    ("libfreetype6-dev", "freetype2"),
    ("libgl1-mesa-dev", "gl"),
    ("libgles2-mesa-dev", "glesv2"),
    ("libjpeg-turbo8-dev", "libjpeg"),
    ("libjpeg62-turbo-dev", "libjpeg"),
    ("libmariadb-dev-compat", "libmariadb"),
    ("libncurses5-dev", "ncurses"),
    ("libncursesw5-dev", "ncursesw"),
    ("libtiff5-dev", "libtiff-4"),
    ("libtinfo-dev", "ncurses"),
];

/// Packages that bring the headers of an interpreter.
const HEADERS: [(&str, Language); 9] = [
    ("python3-dev", Language::Python),
    ("libpython3-dev", Language::Python),
    ("python3-devel", Language::Python),
    ("ruby-dev", Language::Ruby),
    ("ruby-devel", Language::Ruby),
    ("php-dev", Language::Php),
    ("php-devel", Language::Php),
    ("libperl-dev", Language::Perl),
    ("perl-devel", Language::Perl),
];

/// One name for a program that people call by several.
pub fn canonical(name: &str) -> &str {
    match name {
        "python" => "python3",
        "nodejs" => "node",
        "pip" => "pip3",
        "pkgconf" => "pkg-config",
        "bundler" => "bundle",
        _ => catalogue::find(name).filter(|row| row.aliases.contains(&name)).map_or(name, |row| row.name),
    }
}

/// What a package brings. The name may carry a version, an architecture or an archive, as managers take them.
pub fn package_provides(manager: Manager, package: &str) -> Provided {
    let tools = |names: &[&str]| Provided::Topics(names.iter().map(|name| Topic::Tool((*name).to_owned())).collect());
    if let Some(library) = package.strip_prefix("pkgconfig(").and_then(|rest| rest.strip_suffix(')')) {
        return Provided::Topics(vec![Topic::Library(library.to_owned())]);
    }
    let name = bare(manager, package);
    if PLAIN.contains(&name) || name.is_empty() {
        return Provided::Nothing;
    }
    if let Some((_, names)) = SEVERAL.iter().find(|(one, _)| *one == name) {
        return tools(names);
    }
    if let Some((_, language)) = HEADERS.iter().find(|(one, _)| *one == name) {
        return Provided::Topics(vec![Topic::Headers(*language)]);
    }
    if name.ends_with("-jdk") || name.ends_with("-jdk-headless") || (name.starts_with("java-") && name.ends_with("-devel")) {
        return tools(&["javac"]);
    }
    if name.ends_with("-jre") || name.ends_with("-jre-headless") {
        return tools(&["java"]);
    }
    let library = libraries::package_provides(manager, name);
    let has = |row: &&catalogue::Row| row.packages.contains(&(manager.word(), name));
    let rows: Vec<&catalogue::Row> = catalogue::all().iter().filter(has).collect();
    let tool = rows.iter().find(|row| row.name == name).or(match rows.as_slice() {
        [only] => Some(only),
        _ => None,
    });
    if let Some((_, library)) = OTHER_NAMES.iter().find(|(one, _)| *one == name) {
        return Provided::Topics(vec![Topic::Library((*library).to_owned())]);
    }
    // Where headers have packages of their own, one that is called like a program is that program's.
    let splits = matches!(manager, Manager::Apt | Manager::Dnf | Manager::Zypper | Manager::Apk);
    let library = library.filter(|_| !(splits && tool.is_some_and(|row| row.name == name)));
    match (library, tool) {
        (Some(library), _) => Provided::Topics(vec![Topic::Library(library.name.to_owned())]),
        (None, Some(row)) => tools(&[row.name]),
        (None, None) => match module(manager, name) {
            Some(topic) => Provided::Topics(vec![topic]),
            None => by_name(&rows, name),
        },
    }
}

/// A package whose manager is not in the catalogue, but whose name is that of a program that is.
fn by_name(rows: &[&catalogue::Row], name: &str) -> Provided {
    let topics = |name: &str| Provided::Topics(vec![Topic::Tool(canonical(name).to_owned())]);
    match rows.first() {
        Some(row) => topics(row.name),
        None if catalogue::has(name) => topics(name),
        // `clang-15`: a program with its version behind it.
        None => match name.rsplit_once('-').filter(|(_, version)| version.chars().all(|c| c.is_ascii_digit() || c == '.')) {
            Some((stem, version)) if !version.is_empty() && catalogue::has(stem) => topics(stem),
            _ => Provided::Unknown,
        },
    }
}

/// The name without what managers take behind it.
fn bare(manager: Manager, package: &str) -> &str {
    let cut = |text: &str, signs: &[char]| text.find(signs).map_or(text.len(), |at| at);
    let end = match manager {
        Manager::Apt => cut(package, &['=', ':', '/']),
        Manager::Apk => cut(package, &['=', '~', '<', '>', '@']),
        Manager::Brew => package.rfind('/').map_or(package.len(), |_| package.len()),
        Manager::Dnf | Manager::Zypper | Manager::Pacman | Manager::Winget | Manager::Port | Manager::Scoop | Manager::Choco => {
            package.len()
        }
    };
    let name = package.get(..end).unwrap_or(package);
    if manager == Manager::Brew { name.rsplit('/').next().unwrap_or(name) } else { name }
}

/// A package that is named after the module in it, as the policies of the distributions have it.
fn module(manager: Manager, name: &str) -> Option<Topic> {
    let plain = |name: &str| !name.is_empty() && name.chars().all(|c| c.is_ascii_alphanumeric() || c == '_');
    let of = |language, name: &str| plain(name).then(|| Topic::Module(language, name.to_owned()));
    match manager {
        // Debian's policy for Python, 3.3: `python3-` and the name of the module.
        Manager::Apt if name.starts_with("python3-") => of(Language::Python, name.strip_prefix("python3-")?),
        Manager::Apt | Manager::Dnf if name.starts_with("php") => of(Language::Php, name.split_once('-')?.1),
        _ => None,
    }
}

#[cfg(test)]
mod tests {
    use super::{Provided, package_provides};
    use crate::manager::Manager::{self, Apk, Apt, Brew, Choco, Dnf, Pacman};
    use crate::prelude::*;
    use rstest::rstest;

    #[rstest]
    #[case::a_tool(Apt, "ninja-build", "tool ninja")]
    #[case::with_a_version_behind(Apt, "libfftw3-dev=3.3.10-1", "library fftw3")]
    #[case::of_an_architecture(Apt, "libssl-dev:arm64", "library openssl")]
    #[case::several_at_once(Apt, "build-essential", "tool cc, tool c++, tool make")]
    #[case::a_version_of_a_tool(Apt, "clang-15", "tool clang")]
    #[case::an_older_name(Apt, "libncursesw5-dev", "library ncursesw")]
    #[case::headers(Dnf, "python3-devel", "headers python")]
    #[case::asked_for_by_capability(Dnf, "pkgconfig(cairo)", "library cairo")]
    #[case::a_module(Apt, "php8.2-intl", "module php intl")]
    #[case::a_tool_that_is_a_library_too(Brew, "cmake", "tool cmake")]
    #[case::of_a_manager_without_rows(Pacman, "doxygen", "tool doxygen")]
    #[case::what_every_system_has(Apk, "ca-certificates", "nothing")]
    #[case::what_nobody_knows(Choco, "barnacle-scraper", "unknown")]
    fn a_package_stands_for_what_it_brings(#[case] manager: Manager, #[case] package: &str, #[case] wanted: &str) {
        let told = match package_provides(manager, package) {
            Provided::Topics(topics) => topics.iter().map(ToString::to_string).collect::<Vec<_>>().join(", "),
            Provided::Nothing => "nothing".to_owned(),
            Provided::Unknown => "unknown".to_owned(),
        };
        assert_eq!(told, wanted);
    }
}
