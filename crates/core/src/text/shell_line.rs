//! Whether a line for a shell is one whole command: what a reader sees is what is run, and nothing after it is drawn in.

use crate::prelude::*;
use core::fmt::{self, Display};
use core::ops::Range;

/// What keeps a text from being one command that stands by itself.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[non_exhaustive]
pub enum Flaw {
    /// There is nothing in it.
    Empty,
    /// It holds a line end.
    LineEnd,
    /// It is a comment.
    Comment,
    /// A quotation mark of this kind is not closed.
    OpenQuote(char),
    /// It goes on in the next line.
    Continued,
    /// It takes the lines that follow for its input.
    HereDocument,
    /// What this opens is not closed, or closed without being opened.
    Unbalanced(&'static str),
}

impl Display for Flaw {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Self::Empty => f.write_str("there is nothing in it"),
            Self::LineEnd => f.write_str("it holds a line end; make it a list with one command in each text"),
            Self::Comment => f.write_str("it is a comment, not a command"),
            Self::OpenQuote(mark) => write!(f, "its quotation mark {mark} is not closed"),
            Self::Continued => f.write_str("it ends as if another line followed"),
            Self::HereDocument => {
                f.write_str("it takes the lines that follow as its input; write them with `edit`, or with printf")
            }
            Self::Unbalanced(word) => write!(f, "what `{word}` opens or closes has no other end"),
        }
    }
}

/// The rules of quoting.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Grammar {
    /// Of sh and its like (POSIX, Shell Command Language, 2.2 and 2.10).
    Posix,
    /// Of the shells of Windows, where a backslash is a part of a path.
    Windows,
}

/// Whether a line for sh is so simple that it is sure to be read as it looks: commands of plain words, with what joins them and where their output
/// goes. Anything else may be one whole command too; where it stands among others, it is better handed over as one quoted text.
pub fn is_simple(text: &str) -> bool {
    /// Words that begin more than one command (POSIX, 2.4), and some that shells add to them.
    const RESERVED: [&str; 19] = [
        "if", "then", "else", "elif", "fi", "for", "while", "until", "do", "done", "case", "esac", "{", "}", "!", "function",
        "select", "time", "[[",
    ];
    // After a join or an arrow a word must come; before a join, too.
    let (mut words, mut arrow, mut word) = (0_usize, false, String::new());
    let mut rest = text.chars().peekable();
    loop {
        let c = rest.next();
        match c {
            Some('\'') => {
                word.push('q');
                if !rest.by_ref().any(|c| c == '\'') {
                    return false;
                }
            }
            Some('"') => {
                word.push('q');
                let plain = |c: char| !matches!(c, '`' | '\\' | '$' | '"');
                while rest.next_if(|c| plain(*c)).is_some() {}
                // A variable by its plain name, which no text can make end elsewhere.
                while rest.peek() == Some(&'$') {
                    rest.next();
                    if rest.next_if(|c| c.is_ascii_alphabetic() || *c == '_').is_none() {
                        return false;
                    }
                    while rest.next_if(|c| plain(*c)).is_some() {}
                }
                if rest.next() != Some('"') {
                    return false;
                }
            }
            Some('$') => {
                word.push('$');
                if rest.peek().is_none_or(|c| !c.is_ascii_alphabetic() && *c != '_') {
                    return false;
                }
            }
            Some('\\' | '`' | '(' | ')' | '{' | '}' | '#' | '[' | '!') => return false,
            Some(c) if !c.is_whitespace() && !matches!(c, ';' | '|' | '&' | '<' | '>') => word.push(c),
            other => {
                let ended = core::mem::take(&mut word);
                if !ended.is_empty() {
                    // Digits in front of an arrow belong to it, and the arrow before has no word then (POSIX, 2.10.1).
                    if arrow && matches!(other, Some('<' | '>')) && ended.bytes().all(|byte| byte.is_ascii_digit()) {
                        return false;
                    }
                    if words == 0 && !arrow && RESERVED.contains(&&*ended) {
                        return false;
                    }
                    words += usize::from(!arrow);
                    arrow = false;
                }
                match other {
                    Some('>' | '<') if arrow => return false,
                    Some('>') => {
                        rest.next_if_eq(&'>');
                        arrow = true;
                    }
                    Some('<') => arrow = true,
                    Some(join @ (';' | '|' | '&')) => {
                        let doubled = join != ';' && rest.next_if_eq(&join).is_some();
                        if words == 0 || arrow || (join == '&' && !doubled) {
                            return false;
                        }
                        words = 0;
                    }
                    Some(_) => {}
                    None => return words > 0 && !arrow,
                }
            }
        }
    }
}

/// A line that was looked through.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct ShellLine {
    /// What keeps it from being one command.
    pub flaw: Option<Flaw>,
    /// The parts between quotation marks, in bytes.
    pub quoted: Vec<Range<usize>>,
}

impl ShellLine {
    /// Looks a line through. Linear in its length.
    pub fn read(text: &str, grammar: Grammar) -> Self {
        let mut reader = Reader { grammar, word: String::new(), command: true, open: Vec::new(), quoted: Vec::new() };
        let flaw = reader.flaw(text);
        Self { flaw, quoted: reader.quoted }
    }

    /// Whether a byte of the line stands between quotation marks.
    pub fn is_quoted(&self, at: usize) -> bool {
        self.quoted.iter().any(|range| range.contains(&at))
    }
}

struct Reader {
    grammar: Grammar,
    /// The plain word that is being read.
    word: String,
    /// Whether the word is one that a command begins with.
    command: bool,
    /// What is open, by what will close it.
    open: Vec<&'static str>,
    quoted: Vec<Range<usize>>,
}

impl Reader {
    fn flaw(&mut self, text: &str) -> Option<Flaw> {
        if text.contains(['\n', '\r', '\u{85}', '\u{2028}', '\u{2029}', '\u{b}', '\u{c}']) {
            return Some(Flaw::LineEnd);
        }
        match text.trim_start() {
            "" => return Some(Flaw::Empty),
            start if start.starts_with('#') => return Some(Flaw::Comment),
            _ => {}
        }
        let mut rest = text.char_indices().peekable();
        let mut last = ' ';
        while let Some((at, c)) = rest.next() {
            let before = core::mem::replace(&mut last, c);
            match c {
                '\\' if self.grammar == Grammar::Posix => match rest.next() {
                    None => return Some(Flaw::Continued),
                    Some((_, escaped)) => self.word.push(escaped),
                },
                '`' if self.grammar == Grammar::Windows => {
                    rest.next()?;
                }
                '\'' | '"' | '`' => {
                    let end = self.end_of_quote(text, at, c)?;
                    let Ok(end) = end else { return Some(Flaw::OpenQuote(c)) };
                    self.quoted.push(at..end + 1);
                    self.word.push('q');
                    while rest.next_if(|(next, _)| *next <= end).is_some() {}
                }
                '<' if self.grammar == Grammar::Posix && rest.next_if(|(_, next)| *next == '<').is_some() => {
                    if rest.next_if(|(_, next)| *next == '<').is_none() {
                        return Some(Flaw::HereDocument);
                    }
                }
                '$' if self.grammar == Grammar::Posix && rest.next_if(|(_, next)| *next == '{').is_some() => self.open.push("}"),
                '}' if self.open.last() == Some(&"}") && self.grammar == Grammar::Posix => {
                    self.open.pop();
                }
                '(' => {
                    self.word.clear();
                    self.open.push(")");
                    self.command = true;
                }
                ')' => {
                    if let Some(flaw) = self.end_word() {
                        return Some(flaw);
                    }
                    if self.open.pop() != Some(")") {
                        return Some(Flaw::Unbalanced("("));
                    }
                }
                // A comment goes to the end.
                '#' if self.word.is_empty() && before.is_whitespace() => break,
                ';' | '|' | '&' => {
                    if let Some(flaw) = self.end_word() {
                        return Some(flaw);
                    }
                    self.command = true;
                }
                c if c.is_whitespace() => {
                    if let Some(flaw) = self.end_word() {
                        return Some(flaw);
                    }
                }
                c => self.word.push(c),
            }
        }
        if let Some(flaw) = self.end_word() {
            return Some(flaw);
        }
        if let Some(closing) = self.open.last() {
            return Some(Flaw::Unbalanced(opening(closing)));
        }
        let end = text.trim_end();
        (end.ends_with('|') || end.ends_with("&&")).then_some(Flaw::Continued)
    }

    /// Where a quotation ends that begins at a place; `Err` where it does not.
    #[allow(clippy::unnecessary_wraps, reason = "the caller's `?` is for what cannot be")]
    fn end_of_quote(&self, text: &str, start: usize, mark: char) -> Option<Result<usize, ()>> {
        let mut rest = text.get(start + 1..)?.char_indices();
        while let Some((at, c)) = rest.next() {
            if c == mark {
                return Some(Ok(start + 1 + at));
            }
            if c == '\\' && mark != '\'' && self.grammar == Grammar::Posix {
                rest.next();
            }
        }
        Some(Err(()))
    }

    /// What a word at the place of a command opens or closes.
    fn end_word(&mut self) -> Option<Flaw> {
        let word = core::mem::take(&mut self.word);
        if word.is_empty() || !self.command || self.grammar == Grammar::Windows {
            self.command &= word.is_empty();
            return None;
        }
        self.command = false;
        match word.as_str() {
            "if" => self.open.push("fi"),
            "case" => self.open.push("esac"),
            "{" => self.open.push("end"),
            "do" => self.open.push("done"),
            "}" | "fi" | "esac" | "done" => {
                let closes = if word == "}" { "end" } else { &*word };
                if self.open.pop() != Some(closes) {
                    return Some(Flaw::Unbalanced(opening(closes)));
                }
                return None;
            }
            // After these comes another command.
            "then" | "else" | "elif" | "while" | "until" | "!" => {}
            // `for x in a b; do`: what loops must say `do`, which comes at the place of a command.
            _ => return None,
        }
        self.command = true;
        None
    }
}

/// What a person would look for where its end is missing.
fn opening(closing: &str) -> &'static str {
    match closing {
        ")" => "(",
        "}" => "${",
        "end" => "{",
        "fi" => "if",
        "esac" => "case",
        _ => "do",
    }
}

#[cfg(test)]
mod tests {
    use super::{Flaw, Grammar, ShellLine, is_simple};
    use rstest::rstest;

    #[rstest]
    #[case::a_plain_command("sudo apt install cmake", None)]
    #[case::quotes_of_each_kind(r#"echo 'it'\''s' "a \" b" `date`"#, None)]
    #[case::several_in_one_line("cd src && make || exit 1; ls | wc -l", None)]
    #[case::a_loop("for f in a b; do echo \"$f\"; done", None)]
    #[case::a_condition("if [ -e a ]; then rm a; fi", None)]
    #[case::a_function("f() { echo \"$1\"; }", None)]
    #[case::a_substitution("echo ${HOME} $(id -u)", None)]
    #[case::a_text_that_is_fed("tr a b <<< abc", None)]
    #[case::in_the_background("setup-station &", None)]
    #[case::nothing("  ", Some(Flaw::Empty))]
    #[case::two_lines("echo a\necho b", Some(Flaw::LineEnd))]
    #[case::a_return("rm -r x\recho", Some(Flaw::LineEnd))]
    #[case::a_comment(" # echo", Some(Flaw::Comment))]
    #[case::an_apostrophe("echo it's", Some(Flaw::OpenQuote('\'')))]
    #[case::an_open_double_quote("echo \"a", Some(Flaw::OpenQuote('"')))]
    #[case::a_backslash_at_the_end("echo a \\", Some(Flaw::Continued))]
    #[case::a_pipe_at_the_end("echo a |", Some(Flaw::Continued))]
    #[case::a_here_document("cat <<END", Some(Flaw::HereDocument))]
    #[case::an_open_parenthesis("( echo a", Some(Flaw::Unbalanced("(")))]
    #[case::an_open_substitution("echo $(date", Some(Flaw::Unbalanced("(")))]
    #[case::a_closed_one("echo a )", Some(Flaw::Unbalanced("(")))]
    #[case::an_open_expansion("echo ${HOME", Some(Flaw::Unbalanced("${")))]
    #[case::an_open_condition("if true; then", Some(Flaw::Unbalanced("if")))]
    #[case::an_open_group("{ echo a;", Some(Flaw::Unbalanced("{")))]
    #[case::a_closed_group("echo a; }", Some(Flaw::Unbalanced("{")))]
    #[case::a_closed_loop("done", Some(Flaw::Unbalanced("do")))]
    fn lines_that_are_one_command_are_told_from_others(#[case] line: &str, #[case] flaw: Option<Flaw>) {
        assert_eq!(ShellLine::read(line, Grammar::Posix).flaw, flaw);
    }

    #[rstest]
    #[case::a_plain_command("sudo apt install cmake", true)]
    #[case::quotes("echo 'it'\\''s'", false)]
    #[case::single_quotes("mkdir -p 'a b'", true)]
    #[case::a_variable("export PATH=/opt/bin:\"$PATH\"", true)]
    #[case::joined("cd src && make || exit 1; ls | wc -l > out", true)]
    #[case::an_arrow_to_nowhere("echo <", false)]
    #[case::an_arrow_before_a_join("echo > ; ls", false)]
    #[case::a_number_before_a_second_arrow("cat <0<file", false)]
    #[case::a_join_after_nothing("&& ls", false)]
    #[case::two_joins("a ;; b", false)]
    #[case::a_word_that_begins_more("if true", false)]
    #[case::a_substitution("echo \"$(date)\"", false)]
    fn simple_lines_are_told_from_others(#[case] line: &str, #[case] simple: bool) {
        assert_eq!(is_simple(line), simple);
    }

    #[test]
    fn windows_paths_are_no_continuations() {
        assert_eq!(ShellLine::read(r"cd C:\buoy\", Grammar::Windows).flaw, None);
        assert!(ShellLine::read("sh -c 'echo {path}'", Grammar::Posix).is_quoted(14));
    }
}
