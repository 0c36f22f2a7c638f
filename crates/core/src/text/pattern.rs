use crate::prelude::*;
use regex::{Regex, RegexBuilder};

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
            PatternError::Syntax(text.lines().last().unwrap_or("").trim_start_matches("error: ").to_owned())
        })
    }

    /// The pattern as written.
    pub fn source(&self) -> &str {
        self.regex.as_str()
    }

    /// Whether the text holds a match.
    pub fn matches(&self, text: &str) -> bool {
        self.regex.is_match(text)
    }

    /// The first group of the first match, or the whole match where the pattern has no group.
    pub fn capture<'t>(&self, text: &'t str) -> Option<&'t str> {
        let captures = self.regex.captures(text)?;
        captures.get(1).or_else(|| captures.get(0)).map(|found| found.as_str())
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

    #[test]
    fn a_pattern_that_would_explode_is_refused() {
        assert_eq!(Pattern::new("((a{1000}){1000}){1000}"), Err(PatternError::TooLarge));
        assert_eq!(Pattern::new(&"a".repeat(1001)), Err(PatternError::TooLong(1001)));
        assert!(matches!(Pattern::new("("), Err(PatternError::Syntax(why)) if why.contains("unclosed")));
    }

    #[test]
    fn a_group_is_preferred_to_the_whole_match() {
        assert_eq!(Pattern::new(r"release (\d+)").unwrap().capture("buoy release 12"), Some("12"));
        assert_eq!(Pattern::new(r"\d+").unwrap().capture("buoy release 12"), Some("12"));
    }
}
