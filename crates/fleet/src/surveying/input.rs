//! Where reports come from: files, folders, standard input, compressed or not, one a file or one a line; a block at a time.

use crate::recording::{Foreign, GZIP, LARGEST, RecordingError, Unpacked, is_surveyed_file};
use setup_ready_core::text::Sanitised;
use setup_ready_observe::encoding::Utf16;
use std::fs::File;
use std::io::{self, BufRead, BufReader, Read};
use std::path::{Path, PathBuf};

/// How much is handed out at once, at least.
const BLOCK: usize = 4 << 20;
/// So deep folders are looked into.
const DEEPEST: usize = 16;

/// Some lines of a source, or all of it.
pub(super) struct Block {
    /// Where it is from.
    pub(super) source: String,
    /// The number of its first line.
    pub(super) line: u64,
    /// Whole lines; or one document.
    pub(super) bytes: Vec<u8>,
    /// It is one document, on however many lines.
    pub(super) whole: bool,
    /// The line cannot be used, and nothing of it is kept.
    pub(super) problem: Option<RecordingError>,
}

impl Block {
    /// The documents in it.
    pub(super) fn documents(&self) -> impl Iterator<Item = &[u8]> {
        let mut rest = Some(self.bytes.as_slice()).filter(|_| self.problem.is_none());
        std::iter::from_fn(move || {
            let all = rest?;
            let end = if self.whole { None } else { memchr::memchr(b'\n', all) };
            rest = end.and_then(|end| all.get(end + 1..)).filter(|rest| !rest.is_empty());
            Some(end.and_then(|end| all.get(..end)).unwrap_or(all))
        })
    }
}

/// Something that cannot be read at all.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(super) struct Unreadable {
    pub(super) source: String,
    pub(super) line: u64,
    pub(super) reason: String,
}

/// The files that paths mean.
#[derive(Default)]
pub(super) struct Files {
    pub(super) found: Vec<PathBuf>,
    /// Those that lie in a folder and have another name.
    pub(super) passed_over: PassedOver,
}

/// Files that were not read for their names, of which the first are named.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct PassedOver {
    /// How many there are.
    pub count: u64,
    /// The first of them.
    pub first: Vec<PathBuf>,
}

impl std::fmt::Display for PassedOver {
    /// What is said of them, where there are any.
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        let named: Vec<String> = self.first.iter().map(|path| Sanitised::line(&path.display().to_string()).to_string()).collect();
        let more = self.count - self.first.len() as u64;
        let more = if more == 0 { String::new() } else { format!(" and {more} more") };
        let (was, since, it) =
            if self.count == 1 { ("file was", "its name ends", "it") } else { ("files were", "their names end", "one of them") };
        let (count, named) = (self.count, named.join(", "));
        write!(
            f,
            "{count} {was} not read, since {since} in none of .json, .ndjson and .jsonl: {named}{more}. To have {it} read, name it."
        )
    }
}

/// So many are named.
const MOST_PASSED_OVER: usize = 3;

/// The files that a path means: itself, or those with reports in a folder, in the order of their names.
pub(super) fn files(path: &Path, depth: usize, all: &mut Files) {
    if !path.is_dir() {
        all.found.push(path.to_owned());
        return;
    }
    let mut within: Vec<PathBuf> = std::fs::read_dir(path).into_iter().flatten().flatten().map(|entry| entry.path()).collect();
    within.sort();
    for path in within {
        let is_hidden = path.file_name().is_some_and(|name| name.as_encoded_bytes().starts_with(b"."));
        // A link may lead round in a circle, and to what nobody named.
        if path.is_symlink() {
            continue;
        }
        if path.is_dir() && depth < DEEPEST {
            files(&path, depth + 1, all);
        } else if is_surveyed_file(&path) && path.is_file() {
            all.found.push(path);
        } else if path.is_file() && !is_hidden {
            all.passed_over.count += 1;
            if all.passed_over.first.len() < MOST_PASSED_OVER {
                all.passed_over.first.push(path);
            }
        }
    }
}

/// Reads a file, or standard input where it is `-`, and hands on its blocks until `take` says that it is enough.
pub(super) fn read(path: &Path, take: &mut dyn FnMut(Block) -> bool) -> Result<(), Unreadable> {
    let name = path.display().to_string();
    let failed =
        |line: u64, error: &io::Error| Unreadable { source: name.clone(), line, reason: format!("it cannot be read: {error}") };
    let raw: Box<dyn Read> = if path.as_os_str() == "-" {
        Box::new(io::stdin())
    } else {
        let known = path.metadata().map_err(|error| failed(0, &error))?;
        if !known.is_file() {
            return Err(Unreadable { source: name, line: 0, reason: "it is not a file".to_owned() });
        }
        Box::new(File::open(path).map_err(|error| failed(0, &error))?)
    };
    let mut raw = BufReader::with_capacity(1 << 16, raw);
    let beginning = raw.fill_buf().map_err(|error| failed(0, &error))?;
    if beginning.is_empty() {
        return Err(Unreadable { source: name, line: 0, reason: RecordingError::Empty.to_string() });
    }
    let mut input: Box<dyn BufRead> = if beginning.starts_with(&GZIP) {
        Box::new(BufReader::with_capacity(1 << 16, Unpacked::new(raw)))
    } else {
        Box::new(raw)
    };
    let beginning = input.fill_buf().map_err(|error| failed(0, &error))?;
    if let Some(foreign) = Foreign::by_first_bytes(beginning) {
        return Err(Unreadable { source: name, line: 0, reason: foreign.to_string() });
    }
    if let Some(order) = Utf16::of(beginning) {
        let text = utf16(input, order).map_err(|error| failed(0, &error))?;
        input = Box::new(io::Cursor::new(text));
    }
    let mut is_empty = true;
    let mut take = |block: Block| {
        is_empty &= block.problem.is_none() && block.bytes.trim_ascii().is_empty();
        take(block)
    };
    blocks(input, &name, &mut take).map_err(|(line, error)| failed(line, &error))?;
    if is_empty { Err(Unreadable { source: name, line: 0, reason: RecordingError::Empty.to_string() }) } else { Ok(()) }
}

/// All of an input that is in UTF-16: nobody writes many reports so.
fn utf16(input: impl Read, order: Utf16) -> io::Result<String> {
    let mut bytes = Vec::new();
    input.take(2 * LARGEST + 2).read_to_end(&mut bytes)?;
    if bytes.len() as u64 > 2 * LARGEST {
        return Err(io::Error::other(RecordingError::TooLarge));
    }
    order.text(&bytes).ok_or_else(|| io::Error::other(RecordingError::NotUtf8))
}

/// Cuts an input at the ends of lines. One whose first line is no whole document is one document.
fn blocks(mut input: Box<dyn BufRead>, name: &str, take: &mut dyn FnMut(Block) -> bool) -> Result<(), (u64, io::Error)> {
    let mut carried: Vec<u8> = Vec::new();
    let mut line = 1;
    let mut whole = None;
    loop {
        let before = carried.len();
        let read = input.by_ref().take(BLOCK as u64).read_to_end(&mut carried).map_err(|error| (line, error))?;
        let ended = read == 0;
        let is_whole = *whole.get_or_insert_with(|| is_one_document(&carried));
        let too_long = carried.len() as u64 > LARGEST;
        if too_long && is_whole {
            return Err((line, io::Error::other(RecordingError::TooLarge)));
        }
        if too_long && memchr::memchr(b'\n', carried.get(before..).unwrap_or_default()).is_none() {
            // The lines behind it go on.
            let Some(rest) = behind_line(&mut input).map_err(|error| (line, error))? else {
                take(of_line(name, line));
                return Ok(());
            };
            carried = rest;
            if !take(of_line(name, line)) {
                return Ok(());
            }
            line += 1;
            continue;
        }
        if is_whole {
            if !ended {
                continue;
            }
            take(Block { source: name.to_owned(), line: 1, bytes: carried, whole: true, problem: None });
            return Ok(());
        }
        let end = if ended { carried.len() } else { memchr::memrchr(b'\n', &carried).map_or(0, |at| at + 1) };
        if end == 0 && !ended {
            continue;
        }
        let rest = carried.split_off(end);
        let lines = memchr::memchr_iter(b'\n', &carried).count() as u64;
        let bytes = std::mem::replace(&mut carried, rest);
        let block = Block { source: name.to_owned(), line, bytes, whole: false, problem: None };
        line += lines;
        if (!block.bytes.is_empty() && !take(block)) || ended {
            return Ok(());
        }
    }
}

fn of_line(name: &str, line: u64) -> Block {
    Block { source: name.to_owned(), line, bytes: Vec::new(), whole: false, problem: Some(RecordingError::TooLarge) }
}

/// What was read behind the end of the line that goes on; `None` where it ends with the input.
fn behind_line(input: &mut dyn Read) -> io::Result<Option<Vec<u8>>> {
    let mut piece = vec![0; 1 << 16];
    loop {
        let length = input.read(&mut piece)?;
        let read = piece.get(..length).unwrap_or_default();
        if read.is_empty() {
            return Ok(None);
        }
        if let Some(at) = memchr::memchr(b'\n', read) {
            return Ok(Some(read.get(at + 1..).unwrap_or_default().to_vec()));
        }
    }
}

/// Whether a text is one document on several lines: its first line is no whole one.
fn is_one_document(beginning: &[u8]) -> bool {
    let text = beginning.trim_ascii_start();
    let first = text.split(|byte| *byte == b'\n').next().unwrap_or_default().trim_ascii_end();
    first.len() < text.trim_ascii_end().len() && !first.ends_with(b"}")
}
