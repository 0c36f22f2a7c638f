use super::{Comparison, Expression, Fact, Flag};
use crate::document::shortened;
use crate::prelude::*;
use crate::text::{join_words, nearest};

/// Why a condition cannot be read, with the offset in bytes and a text that says what would be right.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[error("{message}")]
pub(crate) struct ConditionError {
    /// Where in the condition.
    pub offset: usize,
    /// How many bytes are meant.
    pub length: usize,
    /// What is wrong, and what would be right.
    pub message: String,
}

const LONGEST: usize = 1_000;
const DEEPEST: usize = 50;

/// Reads a condition.
///
/// # Errors
/// The first mistake, with its place.
pub(crate) fn parse(text: &str) -> Result<Expression, ConditionError> {
    if text.len() > LONGEST {
        let message = format!("this condition has {} bytes; at most {LONGEST} are read", text.len());
        return Err(ConditionError { offset: 0, length: 1, message });
    }
    let mut parser = Parser { tokens: tokens(text), next: 0, end: text.len(), depth: 0 };
    let condition = parser.alternatives()?;
    match parser.peek() {
        None => Ok(condition),
        Some(token) => Err(parser.error(token, format!("expected `and` or `or` before `{}`", shortened(token.text)))),
    }
}

#[derive(Debug, Clone, Copy)]
struct Token<'t> {
    text: &'t str,
    offset: usize,
}

fn tokens(text: &str) -> Vec<Token<'_>> {
    let is_word = |c: char| c.is_alphanumeric() || "-_.+~/".contains(c);
    let is_sign = |c: char| "<>=!".contains(c);
    let mut found = Vec::new();
    let mut offset = 0;
    while let Some(rest) = text.get(offset..).filter(|rest| !rest.is_empty()) {
        let first = rest.chars().next().unwrap_or(' ');
        let end_of = |belongs: &dyn Fn(char) -> bool| rest.find(|c| !belongs(c)).unwrap_or(rest.len());
        let length = if first.is_whitespace() {
            offset += end_of(&char::is_whitespace);
            continue;
        } else if first == '"' || first == '\'' {
            rest.get(1..).and_then(|inner| inner.find(first)).map_or(rest.len(), |at| at + 2)
        } else if is_word(first) {
            end_of(&is_word)
        } else if is_sign(first) {
            end_of(&is_sign)
        } else {
            first.len_utf8()
        };
        found.push(Token { text: rest.get(..length).unwrap_or(rest), offset });
        offset += length;
    }
    found
}

struct Parser<'t> {
    tokens: Vec<Token<'t>>,
    next: usize,
    end: usize,
    depth: usize,
}

impl<'t> Parser<'t> {
    fn peek(&self) -> Option<Token<'t>> {
        self.tokens.get(self.next).copied()
    }

    fn take(&mut self, word: &str) -> bool {
        let found = self.peek().is_some_and(|token| token.text == word);
        self.next += usize::from(found);
        found
    }

    #[allow(clippy::unused_self, reason = "reads as a method beside `missing`, which needs the end of the text")]
    fn error(&self, token: Token<'_>, message: String) -> ConditionError {
        ConditionError { offset: token.offset, length: token.text.len(), message }
    }

    fn missing(&self, what: &str) -> ConditionError {
        ConditionError {
            offset: self.end.saturating_sub(1),
            length: 1,
            message: format!("the condition ends where {what} should follow"),
        }
    }

    fn alternatives(&mut self) -> Result<Expression, ConditionError> {
        let mut condition = self.conjunction()?;
        while self.take("or") {
            condition = Expression::Or(Box::new(condition), Box::new(self.conjunction()?));
        }
        Ok(condition)
    }

    fn conjunction(&mut self) -> Result<Expression, ConditionError> {
        let mut condition = self.term()?;
        while self.take("and") {
            condition = Expression::And(Box::new(condition), Box::new(self.term()?));
        }
        Ok(condition)
    }

    fn term(&mut self) -> Result<Expression, ConditionError> {
        let Some(token) = self.peek() else { return Err(self.missing("a fact")) };
        self.depth += 1;
        if self.depth > DEEPEST {
            return Err(self.error(token, format!("this condition is nested deeper than {DEEPEST} levels")));
        }
        self.next += 1;
        let term = match token.text {
            "not" => Expression::Not(Box::new(self.term()?)),
            "(" => {
                let inner = self.alternatives()?;
                if !self.take(")") {
                    return Err(self.error(token, "this parenthesis is never closed".to_owned()));
                }
                inner
            }
            _ => self.fact(token)?,
        };
        self.depth -= 1;
        Ok(term)
    }

    fn fact(&mut self, token: Token<'t>) -> Result<Expression, ConditionError> {
        if let Some(flag) = Flag::ALL.iter().find(|flag| flag.word() == token.text) {
            return Ok(Expression::Flag(*flag));
        }
        let Some(fact) = Fact::ALL.iter().find(|fact| fact.word() == token.text).copied() else {
            return Err(self.error(token, unknown_fact(token.text)));
        };
        let sign = self.peek().ok_or_else(|| self.missing("a comparison such as `==`"))?;
        self.next += 1;
        let comparison = Comparison::ALL.iter().find(|one| one.word() == sign.text).copied().ok_or_else(|| {
            let offer = if sign.text == "=" {
                "; write `==`".to_owned()
            } else {
                format!(" after `{}`; write for example `==`", token.text)
            };
            self.error(sign, format!("`{}` is not a comparison{offer}", shortened(sign.text)))
        })?;
        if !fact.is_version() && !matches!(comparison, Comparison::Equal | Comparison::NotEqual) {
            return Err(self.error(sign, format!("`{}` has no order; compare it with == or !=", token.text)));
        }
        let value = self.peek().ok_or_else(|| self.missing("a value"))?;
        self.next += 1;
        let text = value.text.trim_matches(['"', '\'']);
        if fact.is_version() {
            crate::version::Version::parse(text).map_err(|error| self.error(value, error.to_string()))?;
        }
        Ok(Expression::Compare(fact, comparison, text.to_owned()))
    }
}

fn unknown_fact(word: &str) -> String {
    let known: Vec<&str> = Flag::ALL.iter().map(|flag| flag.word()).chain(Fact::ALL.iter().map(|fact| fact.word())).collect();
    let shown = shortened(word);
    if ["os", "system", "platform"].iter().any(|said| word.eq_ignore_ascii_case(said)) {
        return format!("`{shown}` is not a fact; a system is named by itself, as in `windows` or `linux and not wsl`");
    }
    match nearest(word, known.iter().copied().chain(["and", "or", "not"])) {
        Some(near) => format!("`{shown}` is not a fact; did you mean `{near}`?"),
        None => format!("`{shown}` is not a fact; the facts are {}", join_words(&known, "and")),
    }
}
