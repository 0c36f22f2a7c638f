//! Consents that the person gave, remembered outside the project: for exactly what was shown.

use crate::state::{read_own, write_own};
use setup_ready_core::selection::Consent;
use setup_ready_observe::Ask;
use setup_ready_observe::state_folder::{UntrustedStateError, is_own};
use std::collections::{BTreeMap, BTreeSet};
use std::io;
use std::path::{Path, PathBuf};
use std::sync::Arc;

/// Where consents are remembered: a file with a line for each thing that was agreed to, the mark of it ([`Ask::mark`]). Deleting the file
/// takes all of them back.
#[derive(Debug, Clone)]
pub struct Consents {
    file: PathBuf,
}

impl Consents {
    /// Those in a state folder (see [`state_folder`](setup_ready_observe::state_folder)).
    pub fn in_folder(folder: &Path) -> Self {
        Self { file: folder.join("consents") }
    }

    /// The file.
    pub fn file(&self) -> &Path {
        &self.file
    }

    /// Why what the file says is not believed.
    ///
    /// # Errors
    /// When somebody else could have written the file or its folder.
    pub fn distrusted(&self) -> Result<(), UntrustedStateError> {
        self.file.parent().map_or(Ok(()), |folder| is_own(folder, true)).and_then(|()| is_own(&self.file, false))
    }

    /// The marks of all that was agreed to. A file that cannot be read, or is not the person's alone, holds none.
    pub fn marks(&self) -> BTreeSet<String> {
        read_own(&self.file).map(|text| text.lines().map(|line| line.trim().to_owned()).collect()).unwrap_or_default()
    }

    /// Remembers that the person agreed to something.
    ///
    /// # Errors
    /// When the file cannot be written or is not the person's alone; then nothing of it was.
    pub fn remember<'a>(&self, asks: impl IntoIterator<Item = &'a Ask>) -> io::Result<()> {
        self.distrusted().map_err(io::Error::other)?;
        let mut marks = self.marks();
        let before = marks.len();
        marks.extend(asks.into_iter().map(|ask| ask.mark.clone()));
        if marks.len() == before {
            return Ok(());
        }
        write_own(&self.file, &marks.into_iter().map(|mark| mark + "\n").collect::<String>())
    }
}

/// The consent to what was asked and agreed to, and to nothing else.
pub fn consent_to<'a>(asks: impl IntoIterator<Item = &'a Ask>) -> Consent {
    let agreed: BTreeMap<Vec<String>, String> = asks.into_iter().map(|ask| (ask.words.clone(), ask.mark.clone())).collect();
    if agreed.is_empty() { Consent::Withheld } else { Consent::For(Arc::new(agreed)) }
}
