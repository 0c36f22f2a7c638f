//! Proofreading a guide where it lies: with what its repository says, and with what is offered on new machines.

use crate::rehearsing::new_machine;
use crate::repository::{FileRemark, Repository};
use setup_ready_core::cause::Cause;
use setup_ready_core::document::LARGEST_BYTES;
use setup_ready_core::guide::{self, Guide, Subject};
use setup_ready_core::observation::{Os, Pinned};
use setup_ready_core::proofread::{Evidence, Remark, proofread};
use setup_ready_core::rehearsal::is_left_alone;
use setup_ready_core::selection::Selection;
use setup_ready_observe::Preflight;
use setup_ready_observe::pinned::version_in;
use std::path::Path;

/// A guide with what its strictest reader says of it.
#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
pub struct Proof {
    /// The remarks, in the order of the text.
    pub remarks: Vec<Remark>,
    /// Files of the repository that could not be read.
    pub files: Vec<FileRemark>,
}

impl Proof {
    /// Reads a guide's text; `folder` is the root of its repository.
    ///
    /// ```
    /// use setup_ready_maintainer::{Proof, Repository};
    ///
    /// let folder = tempfile::tempdir().unwrap();
    /// std::fs::write(folder.path().join("go.mod"), "module shore.example/station\n\ngo 1.22\n").unwrap();
    /// let guide = "format = 1\n[project]\nname = \"Driftbuoy\"\nhelp = \"Ask.\"\n[require.go]\ntool = \"go\"\nversion = \">= 1.18\"\nwhy = \"The shore station is written in it.\"\n";
    /// let proof = Proof::read(guide, folder.path(), Repository::DEPTH);
    /// assert_eq!(proof.remarks[0].message, "go.mod:3 asks for >= 1.22, and this accepts 1.18 too");
    /// ```
    pub fn read(text: &str, folder: &Path, depth: usize) -> Self {
        let Ok(guide) = guide::parse(text) else {
            return Self { remarks: proofread(text, &Evidence::default()), files: Vec::new() };
        };
        let repository = Repository::read(folder, depth);
        let evidence = Evidence { pins: pins(&guide, folder), unfixed: unfixed(&guide), statements: repository.statements };
        Self { remarks: proofread(text, &evidence), files: repository.remarks }
    }
}

/// What the files say that `version_from` names.
fn pins(guide: &Guide, folder: &Path) -> Vec<(usize, Pinned)> {
    let mut found = Vec::new();
    for (index, requirement) in guide.requirements.iter().enumerate() {
        let Subject::Tool(tool) = &requirement.subject else { continue };
        let Some(from) = &tool.version_from else { continue };
        let path = folder.join(&from.file);
        let plain = std::fs::symlink_metadata(&path).is_ok_and(|known| known.is_file() && known.len() <= LARGEST_BYTES as u64);
        let text = if plain { std::fs::read_to_string(&path).ok() } else { None };
        let pattern = from.pattern.as_ref().map(setup_ready_core::text::Pattern::source);
        let pinned = text.map_or(Pinned::NoFile, |text| version_in(&from.file, &text, &tool.names, pattern));
        found.push((index, pinned));
    }
    found
}

/// What is not met on a new machine and has no fix there, by assessing it.
fn unfixed(guide: &Guide) -> Vec<(usize, Os, Cause)> {
    let promised = |os: Os| guide.project.systems.contains(&os) || (guide.project.systems.is_empty() && os == Os::Linux);
    let mut found = Vec::new();
    let shared = std::sync::Arc::new(guide.clone());
    for os in Os::ALL.into_iter().filter(|os| promised(*os)) {
        let Ok(machine) = new_machine(os).machine() else { continue };
        let selection = Selection { after_start: true, ..Selection::default() };
        let Ok(report) = Preflight::new(std::sync::Arc::clone(&shared)).select(selection).run(&machine) else { continue };
        for one in &report.settled {
            let Some(requirement) = guide.requirements.get(one.index) else { continue };
            if let Some(cause) = one.finding.cause().filter(|_| is_left_alone(requirement, one)) {
                found.push((one.index, os, cause));
            }
        }
    }
    found.sort_by_key(|(index, os, _)| (*index, *os));
    found
}

#[cfg(test)]
mod tests {
    use super::new_machine;
    use setup_ready_core::observation::Os;

    #[test]
    fn new_machines_are_described_without_a_mistake() {
        for os in Os::ALL {
            let read = new_machine(os).machine();
            assert!(read.is_ok(), "{os:?}: {read:?}");
        }
    }
}
