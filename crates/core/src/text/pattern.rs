use crate::prelude::*;
use regex::{Regex, RegexBuilder};
use regex_automata::hybrid::dfa::{Cache, DFA};
use regex_automata::nfa::thompson;
use regex_automata::util::syntax;
use regex_automata::{Input, MatchErrorKind};

/// A stranger's regular expression, of bounded size, matched in time linear in the text.
#[derive(Debug, Clone)]
pub struct Pattern {
    regex: Regex,
}

/// Why a pattern is refused.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[non_exhaustive]
pub enum PatternError {
    /// It is longer than anyone needs.
    #[error("the pattern has {0} characters; at most {max} are read", max = Pattern::LONGEST)]
    TooLong(usize),
    /// Compiled, it would take too much memory.
    #[error("the pattern becomes too large; make its repetitions smaller")]
    TooLarge,
    /// It is not a regular expression.
    #[error("the pattern cannot be read: {0}")]
    Syntax(String),
}

/// What the parser of patterns says, and what we say instead.
const WORDS: [(&str, &str); 17] = [
    ("unclosed group", "a `(` has no `)` to close it (unclosed group); a bracket that is meant is written `\\(`"),
    ("unopened group", "a `)` has no `(` before it; a bracket that is meant is written `\\)`"),
    ("unclosed character class", "a `[` has no `]` to close it; a bracket that is meant is written `\\[`"),
    ("invalid character class range", "a range in `[...]` goes backwards; write the smaller one first, such as `a-z`"),
    (
        "repetition operator missing expression",
        "nothing stands before `*`, `+`, `?` or `{`; where the sign itself is meant, write `\\` before it",
    ),
    ("unclosed counted repetition", "a `{` has no `}`; a brace that is meant is written `\\{`"),
    (
        "repetition quantifier expects a valid decimal",
        "behind `{` stands a number, such as `{2}` or `{2,4}`; a brace that is meant is written `\\{`",
    ),
    ("invalid repetition count range", "in `{a,b}` the first number is the smaller one"),
    ("look-around", "looking ahead or behind (`(?=`, `(?!`, `(?<=`) is not known here; write the pattern without it"),
    ("backreferences", "referring back to a group (`\\1`) is not known here; write the pattern without it"),
    (
        "unrecognized escape sequence",
        "a `\\` stands before a letter that means nothing with it; for a backslash itself, write `\\\\`",
    ),
    ("incomplete escape sequence", "a `\\` stands at the end; for a backslash itself, write `\\\\`"),
    (
        "Unicode property not found",
        "behind `\\p` stands what is not known here; known are the general sorts: `\\p{L}` a letter, `\\p{N}` a number, `\\p{Lu}` a capital",
    ),
    (
        "Unicode property value not found",
        "behind `\\p` stands what is not known here; known are the general sorts: `\\p{L}` a letter, `\\p{N}` a number, `\\p{Lu}` a capital",
    ),
    ("unrecognized flag", "between `(?` and `)` stands what is no sign of a mode; `(?i)` is: small and capital letters are one"),
    ("duplicate flag", "a mode stands twice between `(?` and `)`"),
    ("empty character class", "there is nothing in `[]`"),
];

impl Pattern {
    /// The most characters that a pattern may have.
    pub const LONGEST: usize = 1_000;
    const LARGEST_BYTES: usize = 1 << 20;

    /// Compiles a pattern.
    ///
    /// # Errors
    /// When it is too long, too large or not a regular expression.
    pub fn new(source: &str) -> Result<Self, PatternError> {
        let length = source.chars().count();
        if length > Self::LONGEST {
            return Err(PatternError::TooLong(length));
        }
        let built = RegexBuilder::new(source)
            .size_limit(Self::LARGEST_BYTES)
            .dfa_size_limit(Self::LARGEST_BYTES)
            .multi_line(true)
            .build();
        built.map(|regex| Self { regex }).map_err(|error| {
            let text = error.to_string();
            if matches!(error, regex::Error::CompiledTooBig(_)) {
                return PatternError::TooLarge;
            }
            let why = text.lines().last().unwrap_or("").trim_start_matches("error: ");
            let ours = WORDS.iter().find(|(theirs, _)| why.starts_with(theirs)).map(|(_, ours)| *ours);
            PatternError::Syntax(ours.unwrap_or(why).to_owned())
        })
    }

    /// The pattern as written.
    pub fn source(&self) -> &str {
        self.regex.as_str()
    }

    /// A search through large texts that gives up where it would take long.
    pub fn search(&self) -> PatternSearch<'_> {
        let config = DFA::config()
            .cache_capacity(CACHE_BYTES)
            .skip_cache_capacity_check(true)
            .unicode_word_boundary(true)
            .minimum_cache_clear_count(Some(MOST_CLEARED));
        let syntax = syntax::Config::new().multi_line(true);
        let thompson = thompson::Config::new().nfa_size_limit(Some(Self::LARGEST_BYTES));
        let dfa = DFA::builder().configure(config).syntax(syntax).thompson(thompson).build(self.source()).ok();
        PatternSearch { pattern: self, states: dfa.map(|dfa| (dfa.create_cache(), dfa)) }
    }

    /// Whether the text holds a match. Linear in the text, and for those of a program's output, not for large ones.
    pub fn matches(&self, text: &str) -> bool {
        self.regex.is_match(text)
    }

    /// The first group of the first match, or the whole match where the pattern has no group.
    pub fn capture<'t>(&self, text: &'t str) -> Option<&'t str> {
        let captures = self.regex.captures(text)?;
        captures.get(1).or_else(|| captures.get(0)).map(|found| found.as_str())
    }
}

/// The memory for what a search has learned, in bytes.
const CACHE_BYTES: usize = 2 << 20;
/// A pattern that makes a search forget all it has learned so often is one that was made to be slow.
const MOST_CLEARED: usize = 10;
/// So much is searched in the slow way where the quick one cannot be gone, in bytes.
const LARGEST_SLOW: usize = 64 << 10;

/// A pattern with what was learned in searching for it.
#[derive(Debug)]
pub struct PatternSearch<'p> {
    pattern: &'p Pattern,
    states: Option<(Cache, DFA)>,
}

impl PatternSearch<'_> {
    /// Whether a text holds a match; `None` where finding that out would take too long.
    pub fn finds(&mut self, text: &str) -> Option<bool> {
        let Some((cache, dfa)) = &mut self.states else { return self.slowly(text) };
        match dfa.try_search_fwd(cache, &Input::new(text).earliest(true)) {
            Ok(found) => Some(found.is_some()),
            // It met a letter for which the boundaries of words cannot be told quickly.
            Err(error) if matches!(error.kind(), MatchErrorKind::Quit { .. }) => self.slowly(text),
            Err(_) => None,
        }
    }

    fn slowly(&self, text: &str) -> Option<bool> {
        (text.len() <= LARGEST_SLOW).then(|| self.pattern.matches(text))
    }
}

impl PartialEq for Pattern {
    fn eq(&self, other: &Self) -> bool {
        self.source() == other.source()
    }
}

impl Eq for Pattern {}

#[cfg(test)]
mod tests {
    use super::{Pattern, PatternError};
    use crate::prelude::*;

    #[test]
    fn a_pattern_that_would_explode_is_refused() {
        assert_eq!(Pattern::new("((a{1000}){1000}){1000}"), Err(PatternError::TooLarge));
        assert_eq!(Pattern::new(&"a".repeat(1001)), Err(PatternError::TooLong(1001)));
        assert!(matches!(Pattern::new("("), Err(PatternError::Syntax(why)) if why.contains("unclosed")));
    }

    #[test]
    fn a_search_agrees_with_a_match_and_gives_up_on_what_is_made_to_be_slow() {
        let cases = [
            (r"^\w+@\w+$", "x\nann@sea\n"),
            (r"\bbuoy\b", "die buoy, größer"),
            (r"^b$", "a\nb"),
            (r"(x+x+)+y", "xxxxxxxxxxxx"),
            ("", ""),
        ];
        for (source, text) in cases {
            let pattern = Pattern::new(source).unwrap();
            assert_eq!(pattern.search().finds(text), Some(pattern.matches(text)), "{source}");
        }
        let slow = Pattern::new("a[ab]{1000}c").unwrap();
        let mut seed = 1_u64;
        let mut letter = |_| {
            seed = seed.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1);
            if seed >> 40 & 1 == 0 { 'a' } else { 'b' }
        };
        let text: String = (0..300_000).map(&mut letter).collect();
        assert_eq!(slow.search().finds(&text), None);
    }

    #[test]
    fn a_group_is_preferred_to_the_whole_match() {
        assert_eq!(Pattern::new(r"release (\d+)").unwrap().capture("buoy release 12"), Some("12"));
        assert_eq!(Pattern::new(r"\d+").unwrap().capture("buoy release 12"), Some("12"));
    }
}
