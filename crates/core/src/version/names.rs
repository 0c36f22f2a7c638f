//! Whose version a number is: the name before it, held against the names that a tool goes by.

use crate::prelude::*;

/// Who was asked for its version, and how it came out.
#[derive(Debug, Clone, Copy)]
pub struct Asked<'a> {
    /// The program's name.
    pub name: &'a str,
    /// The name under which it is known, where that is another.
    pub known_as: &'a str,
    /// Other names of it.
    pub aliases: &'a [&'a str],
    /// What stands before its version where that is not its name; empty otherwise.
    pub says: &'a str,
    /// It is known how it says its version: a number behind another name is another program's.
    pub known: bool,
    /// It ended with an error: what it printed is about that.
    pub refused: bool,
}

/// Whose a number is.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(super) enum Attribution {
    /// The tool's own name stands before it.
    Own,
    /// No name does.
    Nobody,
    /// This one does, in small letters.
    Other(String),
}

/// What is no name where it stands before a version.
const GENERIC: [&str; 44] = [
    "version",
    "ver",
    "release",
    "rev",
    "revision",
    "v",
    "core",
    "compiler",
    "program",
    "client",
    "server",
    "tool",
    "utility",
    "utilities",
    "the",
    "is",
    "cli",
    "command",
    "line",
    "edition",
    "suite",
    "build",
    "package",
    "installed",
    "current",
    "community",
    "software",
    "interpreter",
    "assembler",
    "linker",
    "debugger",
    "formatter",
    "frontend",
    "driver",
    "daemon",
    "shell",
    "manager",
    "system",
    "project",
    "distrib",
    "full",
    "local",
    "standalone",
    "level",
];

impl<'a> Asked<'a> {
    /// A tool of which nothing is known but its name.
    pub fn of(name: &'a str) -> Self {
        Self {
            name: name.rsplit(['/', '\\']).next().unwrap_or(name),
            known_as: "",
            aliases: &[],
            says: "",
            known: false,
            refused: false,
        }
    }

    fn names(&self) -> impl Iterator<Item = String> {
        // `gfortran-12` is a `gfortran`.
        let stem = self.name.trim_end_matches(|c: char| c.is_ascii_digit() || c == '.' || c == '-');
        [self.name, stem, self.known_as]
            .into_iter()
            .chain(self.aliases.iter().copied())
            .filter(|name| !name.is_empty())
            .map(str::to_lowercase)
    }

    /// Whether a line, in small letters, has one of its names in it.
    pub(super) fn is_named_in(&self, line: &str) -> bool {
        self.names().any(|name| line.contains(&name)) || self.stands_in(line)
    }

    fn stands_in(&self, line: &str) -> bool {
        !self.says.is_empty() && line.contains(&self.says.to_lowercase())
    }

    /// Whether a word is its name, or as good as that: the whole of it, its beginning (`python` of `python3`), or its end behind other letters
    /// (`OpenSSH` for `ssh`; what stands behind a hyphen is another name).
    fn is_called(&self, word: &str) -> bool {
        self.names().any(|name| {
            let shorter = name.strip_prefix(word).is_some_and(|rest| rest.starts_with('.') || is_number(rest));
            // The projects of GNU's tools are called without the letter: `gawk` is GNU Awk.
            let without_g = name.strip_prefix('g').is_some_and(|rest| rest == word && rest.len() >= 3);
            let longer = word.strip_suffix(name.as_str()).is_some_and(|front| front.ends_with(|c: char| c.is_alphabetic()));
            let numbered = word.strip_prefix(name.as_str()).is_some_and(|rest| is_number(rest) || rest.starts_with('.'));
            // `aarch64-linux-gnu-ar` is an `ar`.
            let crossing = name.strip_suffix(word).is_some_and(|front| front.ends_with('-'));
            word == name || crossing || shorter || without_g || (name.len() >= 3 && longer) || numbered
        })
    }

    /// Whether a line, in small letters, begins with what it calls itself.
    fn begins(&self, line: &str) -> bool {
        let line = line.trim_start();
        let first = line.split(|c: char| c.is_whitespace() || ",:(/".contains(c)).next().unwrap_or("");
        self.is_called(first) || (!self.says.is_empty() && line.starts_with(&self.says.to_lowercase()))
    }

    /// Whether one of its names is a word of a line, in small letters.
    fn stands_as_word(&self, line: &str) -> bool {
        self.begins(line)
            || line
                .split(|c: char| !(c.is_alphanumeric() || "-_+.#".contains(c)))
                .any(|word| self.names().any(|name| word == name))
    }

    /// Whether a number is a part of the tool's own name: the `5.4` of `lua5.4`.
    pub(super) fn is_number_of_name(&self, before: &str, number: &str) -> bool {
        let name = self.name.to_lowercase();
        name.strip_suffix(number).is_some_and(|stem| before.ends_with(stem))
    }
}

fn is_number(text: &str) -> bool {
    text.chars().all(|c| c.is_ascii_digit() || "-.".contains(c))
}

/// Words that announce somebody else's version anywhere before it, up to a comma or a bracket.
pub(super) const BASES: [&str; 9] = ["based", "using", "linked", "built", "against", "requires", "needs", "powered", "supports"];

/// What a sentence about a foundation has in it, or what is said of every program.
const NO_NAMES: [&str; 24] = [
    "using", "with", "linked", "library", "built", "against", "from", "needs", "requires", "than", "based", "on", "by", "of",
    "for", "and", "to", "debian", "ubuntu", "fedora", "homebrew", "compiled", "in", "at",
];

/// Whose a number is that stands behind this, which is in small letters: the word before it, past words such as "version" and what is in brackets.
pub(super) fn attribution(before: &str, asked: &Asked<'_>) -> Attribution {
    let is_separator = |c: char| c.is_whitespace() || "-/_:([\"'=,*>".contains(c);
    let mut rest = before.trim_end_matches(is_separator);
    // A `v` of its own belongs to the number.
    rest = match rest.strip_suffix('v') {
        Some(front) if front.is_empty() || front.ends_with(|c: char| !c.is_alphanumeric()) => {
            front.trim_end_matches(is_separator)
        }
        Some(_) | None => rest,
    };
    let says = asked.says.to_lowercase();
    let says = says.trim_end_matches(is_separator);
    let mut announced = false;
    loop {
        if !says.is_empty() && rest.ends_with(says) {
            return Attribution::Own;
        }
        if let Some(open) = rest.strip_suffix(')').and_then(|inner| inner.rfind('(')) {
            // `GPT fdisk (sgdisk) version`
            if asked.is_called(rest.get(open + 1..rest.len() - 1).unwrap_or("").trim()) {
                return Attribution::Own;
            }
            rest = rest.get(..open).unwrap_or("").trim_end_matches(is_separator);
            continue;
        }
        rest = rest.trim_end_matches([')', ']', '.', '!', ';']).trim_end_matches(is_separator);
        let start = rest
            .rfind(|c: char| !(c.is_alphanumeric() || "-_+#.".contains(c)))
            .map_or(0, |at| at + rest[at..].chars().next().map_or(1, char::len_utf8));
        let word = rest.get(start..).unwrap_or("");
        if word.is_empty() {
            return Attribution::Nobody;
        }
        if asked.is_called(word) {
            return Attribution::Own;
        }
        if !GENERIC.contains(&word) {
            // What a line that begins with its name calls the version is its own.
            let based = before.split(|c: char| !c.is_alphanumeric()).any(|word| BASES.contains(&word));
            let from = before.contains(" from ") || before.contains(" utility");
            if !based && ((announced && asked.stands_as_word(before)) || (from && asked.begins(before))) {
                return Attribution::Own;
            }
            // Numbers and marks are no name.
            let named = word.chars().filter(|c| c.is_alphabetic()).count() >= 2 && !NO_NAMES.contains(&word);
            return if named { Attribution::Other(word.to_owned()) } else { Attribution::Nobody };
        }
        announced |= matches!(word, "version" | "ver" | "release" | "rev");
        rest = rest.get(..start).unwrap_or("").trim_end_matches(is_separator);
    }
}
