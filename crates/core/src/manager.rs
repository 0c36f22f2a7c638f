//! The package managers that are known: what shows that one is here, and how it installs.

/// A package manager.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Manager {
    /// Its word in guides.
    pub word: &'static str,
    /// The program that shows that it is here.
    pub program: &'static str,
    /// The command that installs the packages whose names follow it.
    pub install: &'static str,
    /// The command that installs them again where they are installed already.
    pub reinstall: &'static str,
    /// It changes the machine for everyone, and needs admin rights for that.
    pub admin: bool,
}

impl Manager {
    const fn new(word: &'static str, program: &'static str, install: &'static str, reinstall: &'static str, admin: bool) -> Self {
        Self { word, program, install, reinstall, admin }
    }

    /// Every manager that is known: a system's own before those that people add.
    pub const ALL: [Self; 10] = [
        Self::new("apt", "apt-get", "apt-get install", "apt-get install --reinstall", true),
        Self::new("dnf", "dnf", "dnf install", "dnf reinstall", true),
        Self::new("zypper", "zypper", "zypper install", "zypper install --force", true),
        Self::new("pacman", "pacman", "pacman -S", "pacman -S", true),
        Self::new("apk", "apk", "apk add", "apk fix", true),
        Self::new("winget", "winget", "winget install", "winget install --force", false),
        Self::new("brew", "brew", "brew install", "brew reinstall", false),
        Self::new("port", "port", "port install", "port -n upgrade --force", true),
        Self::new("scoop", "scoop", "scoop install", "scoop update --force", false),
        Self::new("choco", "choco", "choco install", "choco install --force", true),
    ];

    /// Their words.
    #[allow(clippy::indexing_slicing, reason = "done while it is compiled")]
    pub const WORDS: [&str; Self::ALL.len()] = {
        let mut words = [""; Self::ALL.len()];
        let mut at = 0;
        while at < words.len() {
            words[at] = Self::ALL[at].word;
            at += 1;
        }
        words
    };

    /// The manager with this word.
    pub fn find(word: &str) -> Option<&'static Self> {
        static ALL: [Manager; Manager::ALL.len()] = Manager::ALL;
        ALL.iter().find(|manager| manager.word == word)
    }

    /// Whether it is where the programs of this manager go, which serves the whole system; `None` for those that have folders of their own.
    pub(crate) fn puts_programs_in(&self, path: &str) -> Option<bool> {
        let folders = ["/usr/bin/", "/usr/sbin/", "/bin/", "/sbin/"];
        let of_the_system = matches!(self.word, "apt" | "dnf" | "zypper" | "pacman" | "apk");
        of_the_system.then(|| folders.iter().any(|folder| path.starts_with(folder)))
    }
}
