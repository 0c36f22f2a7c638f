//! The package managers that are known: what shows that one is here, and how it installs.

use crate::observation::system::Os;
use serde::{Deserialize, Serialize};

macro_rules! managers {
    ($($variant:ident $word:literal $program:literal $install:literal $upgrade:literal $reinstall:literal $admin:literal)+) => {
        /// A package manager.
        #[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
        #[serde(rename_all = "kebab-case")]
        pub enum Manager {
            $(#[doc = concat!("The one that guides call `", $word, "`.")] $variant),+
        }

        impl Manager {
            /// Every manager that is known: a system's own before those that people add.
            pub const ALL: &'static [Self] = &[$(Self::$variant),+];

            /// Their words, in the same order.
            pub const WORDS: &'static [&'static str] = &[$($word),+];

            /// Its word in guides.
            pub fn word(self) -> &'static str {
                match self { $(Self::$variant => $word),+ }
            }

            /// The program that shows that it is here.
            pub fn program(self) -> &'static str {
                match self { $(Self::$variant => $program),+ }
            }

            /// The command that installs the packages whose names follow it.
            pub fn install(self) -> &'static str {
                match self { $(Self::$variant => $install),+ }
            }

            /// The command that brings them up to the newest release where they are installed already.
            pub fn upgrade(self) -> &'static str {
                match self { $(Self::$variant => $upgrade),+ }
            }

            /// The command that installs them again where they are installed already.
            pub fn reinstall(self) -> &'static str {
                match self { $(Self::$variant => $reinstall),+ }
            }

            /// Whether it changes the machine for everyone, and needs admin rights for that.
            pub fn needs_admin(self) -> bool {
                match self { $(Self::$variant => $admin),+ }
            }
        }
    };
}

managers! {
    Apt "apt" "apt-get" "apt-get install" "apt-get install" "apt-get install --reinstall" true
    Dnf "dnf" "dnf" "dnf install" "dnf upgrade" "dnf reinstall" true
    Zypper "zypper" "zypper" "zypper install" "zypper install" "zypper install --force" true
    Pacman "pacman" "pacman" "pacman -S" "pacman -S" "pacman -S" true
    Apk "apk" "apk" "apk add" "apk add --upgrade" "apk fix" true
    Winget "winget" "winget" "winget install" "winget upgrade" "winget install --force" false
    Brew "brew" "brew" "brew install" "brew upgrade" "brew reinstall" false
    Port "port" "port" "port install" "port upgrade" "port -n upgrade --force" true
    Scoop "scoop" "scoop" "scoop install" "scoop update" "scoop update --force" false
    Choco "choco" "choco" "choco install" "choco upgrade" "choco install --force" true
}

impl Manager {
    /// The manager with this word.
    pub fn from_word(word: &str) -> Option<Self> {
        Self::ALL.iter().copied().find(|manager| manager.word() == word)
    }

    /// The system on which it is at home.
    pub fn system(self) -> Os {
        match self {
            Self::Apt | Self::Dnf | Self::Zypper | Self::Pacman | Self::Apk => Os::Linux,
            Self::Brew | Self::Port => Os::Macos,
            Self::Winget | Self::Scoop | Self::Choco => Os::Windows,
        }
    }

    /// Whether it is where the programs of this manager go, which serves the whole system; `None` for those that have folders of their own.
    pub(crate) fn puts_programs_in(self, path: &str) -> Option<bool> {
        let folders = ["/usr/bin/", "/usr/sbin/", "/bin/", "/sbin/"];
        match self {
            Self::Apt | Self::Dnf | Self::Zypper | Self::Pacman | Self::Apk => {
                Some(folders.iter().any(|folder| path.starts_with(folder)))
            }
            Self::Winget | Self::Brew | Self::Port | Self::Scoop | Self::Choco => None,
        }
    }

    /// Whether a program at this path is most likely one that the manager installed.
    pub(crate) fn brought(self, path: &str) -> bool {
        let path = path.to_ascii_lowercase();
        let within = |marks: &[&str]| marks.iter().any(|mark| path.contains(mark));
        match self {
            Self::Apt | Self::Dnf | Self::Zypper | Self::Pacman | Self::Apk => self.puts_programs_in(&path) == Some(true),
            Self::Brew => within(&["/cellar/", "/homebrew/", "/linuxbrew/"]),
            Self::Port => within(&["/opt/local/"]),
            Self::Winget => within(&["\\winget\\"]),
            Self::Scoop => within(&["\\scoop\\"]),
            Self::Choco => within(&["\\chocolatey\\"]),
        }
    }

    /// The command with which it fetches its lists of packages; none where it has none of its own.
    pub fn fetch_lists(self) -> Option<&'static str> {
        match self {
            Self::Apt => Some("apt-get update"),
            Self::Dnf => Some("dnf makecache --refresh"),
            Self::Zypper => Some("zypper refresh"),
            // Newer packages beside older ones do not go together there: its lists are fetched together with all that is newer.
            Self::Pacman => Some("pacman -Syu"),
            Self::Apk => Some("apk update"),
            Self::Brew => Some("brew update"),
            Self::Port => Some("port selfupdate"),
            Self::Scoop => Some("scoop update"),
            Self::Winget | Self::Choco => None,
        }
    }

    /// What to know before its lists are fetched.
    pub(crate) fn fetching_means(self) -> Option<&'static str> {
        let whole = "That brings the whole system up to date, and may take a while.";
        (self == Self::Pacman).then_some(whole)
    }

    /// Whether it fetches old lists anew before it installs anything.
    pub(crate) fn fetches_by_itself(self) -> bool {
        matches!(self, Self::Dnf | Self::Brew | Self::Winget | Self::Scoop | Self::Choco)
    }

    /// The command that brings an installation to its end that was broken off.
    pub(crate) fn resume(self) -> Option<&'static str> {
        (self == Self::Apt).then_some("dpkg --configure -a")
    }

    /// The command that repairs what is half installed.
    pub(crate) fn repair(self) -> Option<&'static str> {
        (self == Self::Apt).then_some("apt-get --fix-broken install")
    }
}
