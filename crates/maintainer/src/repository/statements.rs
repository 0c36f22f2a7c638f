//! A whole repository's statements.

use super::files;
use super::names::Names;
use super::readers;
use super::statement_sink::{Source, StatementSink};
use setup_ready_core::observation::Pinned;
use setup_ready_core::statement::{Confidence, Place, Statement, Topic};
use setup_ready_observe::pinned::pinned;
use std::io::Read;
use std::path::{Path, PathBuf};

/// A file of more bytes than this is left out: no definition of a build is that long.
const LARGEST_FILE: u64 = 4 << 20;

/// A repository's statements.
///
/// ```
/// use setup_ready_maintainer::Repository;
///
/// let folder = tempfile::tempdir().unwrap();
/// std::fs::write(folder.path().join("go.mod"), "module shore.example/station\n\ngo 1.22\n").unwrap();
/// let repository = Repository::read(folder.path(), Repository::DEPTH);
/// let said: Vec<String> = repository.statements.iter().map(ToString::to_string).collect();
/// assert_eq!(said, ["go.mod:3  pinned  tool go >= 1.22"]);
/// ```
#[derive(Debug, Clone, Default, PartialEq)]
#[non_exhaustive]
pub struct Repository {
    /// Its folder.
    pub root: PathBuf,
    /// What it says, by file and line.
    pub statements: Vec<Statement>,
    /// Files that could not be read, or were left out.
    pub remarks: Vec<FileRemark>,
    /// How many files were read.
    pub files: usize,
}

/// A file that said nothing, and why.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct FileRemark {
    /// Which, and where in it.
    pub place: Place,
    /// What is wrong with it, in words.
    pub reason: String,
}

impl Repository {
    /// How many folders below the root are looked into, besides those that workspaces name.
    pub const DEPTH: usize = 1;

    /// Reads what the files of a repository say. Nothing of it is run; links are not followed, and what its own rules ignore is left out.
    pub fn read(root: &Path, depth: usize) -> Self {
        let text = |path: &str| read_file(root, path).ok();
        let found = files::find(root, depth, &text);
        let mut repository = Self { root: root.to_owned(), files: found.chosen.len(), ..Self::default() };
        // Whoever has a working copy has it from git.
        if root.join(".git").exists() {
            repository.statements.push(Statement::new(Topic::Tool("git".to_owned()), Confidence::Used, at(".git", 1)));
        }
        for path in &found.chosen {
            match read_file(root, path) {
                Ok(text) => {
                    let (statements, remark) = read_text(path, &text, &found.names);
                    repository.statements.extend(statements);
                    repository.remarks.extend(remark);
                }
                Err(reason) => repository.remarks.push(FileRemark { place: at(path, 1), reason }),
            }
        }
        // A build server may be told to fetch what no longer is.
        if !found.names.has(".gitmodules") {
            repository.statements.retain(|one| one.topic != Topic::Submodules);
        }
        if found.cut_short {
            let reason = "the folders hold more files than are looked at; what lies behind them was left out".to_owned();
            repository.remarks.push(FileRemark { place: at(".", 1), reason });
        }
        repository
    }
}

fn at(path: &str, line: usize) -> Place {
    Place { file: path.into(), line, item: String::new() }
}

/// What one file says, for tests and fuzzing too.
#[doc(hidden)]
pub fn statements_of(path: &str, text: &str) -> Vec<Statement> {
    read_text(path, text, &Names::default()).0
}

fn read_text(path: &str, text: &str, names: &Names) -> (Vec<Statement>, Option<FileRemark>) {
    let Some(reader) = readers::for_file(path) else { return (Vec::new(), None) };
    let said = StatementSink::of(path);
    let result = reader(&Source { path, text, names }, &said);
    let mut statements = said.into_statements();
    for statement in &mut statements {
        statement.is_pin = is_pin(statement, text);
    }
    // Readers that follow a file's structure come by its lines in another order.
    statements.sort_by_key(|statement| statement.place.line);
    let remark = result.err().map(|trouble| FileRemark { place: at(path, trouble.line), reason: trouble.reason });
    (statements, remark)
}

/// Whether `version_from` says the same of this file.
fn is_pin(statement: &Statement, text: &str) -> bool {
    let (Topic::Tool(name), Confidence::Pinned, Some(range)) = (&statement.topic, statement.firmness, &statement.range) else {
        return false;
    };
    let said = pinned(&statement.place.file, text, std::slice::from_ref(name));
    matches!(said, Pinned::Range(read, _) if read == *range)
}

/// A file's text, where it is one: no link, no device, not too large, and text.
fn read_file(root: &Path, path: &str) -> Result<String, String> {
    let full = root.join(path);
    let known = std::fs::symlink_metadata(&full).map_err(|error| error.to_string())?;
    if !known.is_file() {
        return Err("it is no plain file, so it was not read".to_owned());
    }
    if known.len() > LARGEST_FILE {
        return Err(format!("it has {} bytes; at most {LARGEST_FILE} are read", known.len()));
    }
    let mut bytes = Vec::new();
    let file = std::fs::File::open(&full).map_err(|error| error.to_string())?;
    file.take(LARGEST_FILE).read_to_end(&mut bytes).map_err(|error| error.to_string())?;
    String::from_utf8(bytes).map_err(|_| "it is not UTF-8 text".to_owned())
}
