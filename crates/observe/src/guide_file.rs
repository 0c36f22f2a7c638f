use setup_ready_core::guide::{self, Guide};
use setup_ready_core::problem::GuideError;
use sha2::{Digest, Sha256};
use std::io::Read;
use std::path::{Path, PathBuf};
use std::sync::Arc;

/// The name of a guide's file.
pub const GUIDE_FILE: &str = "setup-guide.toml";

/// A guide that was read from a file.
///
/// In a build task, before a long build starts:
/// ```
/// use setup_ready_core::finding::Verdict;
/// use setup_ready_observe::{GuideFile, Live, Preflight};
/// use std::sync::Arc;
///
/// fn before_the_build(folder: &std::path::Path) -> Result<(), Box<dyn std::error::Error>> {
///     let file = GuideFile::load(&GuideFile::find(folder)?)?;
///     let report = Preflight::new(Arc::clone(&file.guide)).run(&Live::for_guide(&file))?;
///     let unmet = report.settled.iter().filter(|one| one.finding.verdict() == Verdict::Unmet);
///     let messages: Vec<String> = unmet.map(|one| report.message(one)).collect();
///     if messages.is_empty() { Ok(()) } else { Err(messages.join("\n").into()) }
/// }
///
/// let folder = tempfile::tempdir().unwrap();
/// let guide = "format = 1\n[project]\nname = \"Driftbuoy\"\n[require.charts]\nfolder = \"charts\"\n";
/// std::fs::write(folder.path().join("setup-guide.toml"), guide).unwrap();
/// let error = before_the_build(folder.path()).unwrap_err();
/// assert!(error.to_string().ends_with("charts is not there."));
/// ```
#[derive(Debug, Clone)]
pub struct GuideFile {
    /// Where it was found.
    pub path: PathBuf,
    /// Its text, for excerpts.
    pub text: String,
    /// The SHA-256 of its text, in hexadecimal digits.
    pub sha256: String,
    /// What it says.
    pub guide: Arc<Guide>,
}

impl From<&GuideFile> for Arc<Guide> {
    fn from(file: &GuideFile) -> Self {
        Self::clone(&file.guide)
    }
}

/// Why a file could not be used.
#[derive(Debug, thiserror::Error)]
#[non_exhaustive]
pub enum LoadError {
    /// There is none.
    #[error("there is no {GUIDE_FILE} in {0} or any folder above it")]
    NotFound(PathBuf),
    /// It cannot be read.
    #[error("{path} cannot be read: {reason}")]
    Unreadable {
        /// Which file.
        path: PathBuf,
        /// Why, in the system's words.
        reason: std::io::Error,
    },
    /// It is larger than is read.
    #[error("{path} is larger than {limit} bytes, which is the most that is read", limit = setup_ready_core::document::LARGEST_BYTES)]
    TooLarge {
        /// Which file.
        path: PathBuf,
    },
    /// It is not UTF-8.
    #[error("{path} is not UTF-8 text: line {line} holds the byte 0x{byte:02x}; save it as UTF-8")]
    NotUtf8 {
        /// Which file.
        path: PathBuf,
        /// The line with the first wrong byte.
        line: usize,
        /// That byte.
        byte: u8,
    },
    /// It has mistakes.
    #[error("{path} has {} mistake{}", mistakes.count(), if mistakes.count() == 1 { "" } else { "s" })]
    Mistakes {
        /// Which file.
        path: PathBuf,
        /// Its text, for excerpts.
        text: String,
        /// Every mistake, in the order of the text.
        mistakes: GuideError,
    },
}

impl GuideFile {
    /// Reads the guide at `path`.
    ///
    /// # Errors
    /// When the file cannot be read, is too large, is not UTF-8, or has mistakes.
    pub fn load(path: &Path) -> Result<Self, LoadError> {
        let text = read_text(path)?;
        match guide::parse(&text) {
            Ok(guide) => Ok(Self { path: path.to_owned(), sha256: hex(&Sha256::digest(&text)), text, guide: Arc::new(guide) }),
            Err(mistakes) => Err(LoadError::Mistakes { path: path.to_owned(), text, mistakes }),
        }
    }

    /// The path of the guide in `folder` or the nearest folder above it.
    ///
    /// # Errors
    /// When there is none.
    pub fn find(folder: &Path) -> Result<PathBuf, LoadError> {
        let found = folder.ancestors().map(|folder| folder.join(GUIDE_FILE)).find(|path| path.is_file());
        found.ok_or_else(|| LoadError::NotFound(folder.to_owned()))
    }

    /// The folder that the guide speaks of.
    pub fn folder(&self) -> PathBuf {
        match self.path.parent() {
            Some(parent) if !parent.as_os_str().is_empty() => parent.to_owned(),
            _ => PathBuf::from("."),
        }
    }
}

/// Reads a text of bounded size.
///
/// # Errors
/// When the file cannot be read, is too large, or is not UTF-8.
pub fn read_text(path: &Path) -> Result<String, LoadError> {
    let unreadable = |reason| LoadError::Unreadable { path: path.to_owned(), reason };
    #[cfg(unix)]
    if path.metadata().is_ok_and(|known| std::os::unix::fs::FileTypeExt::is_fifo(&known.file_type())) {
        return read_from(Patient::open(path).map_err(unreadable)?, path);
    }
    read_from(std::fs::File::open(path).map_err(unreadable)?, path)
}

/// A pipe that is read without ever waiting long for somebody to write it.
#[cfg(unix)]
struct Patient {
    pipe: std::fs::File,
    until: std::time::Instant,
}

#[cfg(unix)]
impl Patient {
    fn open(path: &Path) -> std::io::Result<Self> {
        use std::os::unix::fs::OpenOptionsExt;
        let flags = i32::try_from(rustix::fs::OFlags::NONBLOCK.bits()).unwrap_or(0);
        let pipe = std::fs::OpenOptions::new().read(true).custom_flags(flags).open(path)?;
        Ok(Self { pipe, until: std::time::Instant::now() + std::time::Duration::from_secs(10) })
    }
}

#[cfg(unix)]
impl Read for Patient {
    fn read(&mut self, buffer: &mut [u8]) -> std::io::Result<usize> {
        loop {
            match self.pipe.read(buffer) {
                Err(error) if error.kind() == std::io::ErrorKind::WouldBlock && std::time::Instant::now() < self.until => {
                    std::thread::sleep(std::time::Duration::from_millis(10));
                }
                other => return other,
            }
        }
    }
}

/// Reads a text of bounded size from what is open; `path` is for messages.
///
/// # Errors
/// When the file cannot be read, is too large, or is not UTF-8.
pub fn read_from(file: impl Read, path: &Path) -> Result<String, LoadError> {
    let unreadable = |reason| LoadError::Unreadable { path: path.to_owned(), reason };
    let limit = setup_ready_core::document::LARGEST_BYTES;
    let mut bytes = Vec::new();
    let most = u64::try_from(limit).unwrap_or(u64::MAX);
    file.take(most.saturating_add(1)).read_to_end(&mut bytes).map_err(unreadable)?;
    if bytes.len() > limit {
        return Err(LoadError::TooLarge { path: path.to_owned() });
    }
    String::from_utf8(bytes).map_err(|error| {
        let valid = error.utf8_error().valid_up_to();
        let bytes = error.as_bytes();
        let line = bytes.iter().take(valid).filter(|byte| **byte == b'\n').count() + 1;
        LoadError::NotUtf8 { path: path.to_owned(), line, byte: bytes.get(valid).copied().unwrap_or(0) }
    })
}

/// Bytes in hexadecimal digits.
pub fn hex(bytes: &[u8]) -> String {
    use std::fmt::Write;
    bytes.iter().fold(String::new(), |mut text, byte| {
        let _ = write!(text, "{byte:02x}");
        text
    })
}
