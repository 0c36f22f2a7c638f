//! Conditions of Python's requirements (the packaging standard on dependency specifiers, first in PEP 508): comparisons, `and`, `or`, brackets.

/// Deeper brackets than these are not followed.
const DEEPEST: usize = 20;

/// Whether a condition holds, by what is known of its comparisons (name, sign, value); `None` where that cannot be told. An empty one holds.
pub(super) fn holds<'m>(marker: &'m str, compare: impl Fn((&'m str, &'m str, &'m str)) -> Option<bool>) -> Option<bool> {
    let words = words(marker)?;
    let mut reader = Reader { words: &words, at: 0, compare: &compare };
    if words.is_empty() {
        return Some(true);
    }
    let found = reader.either(0).ok()?;
    if reader.at == words.len() { found } else { None }
}

/// The words of a condition: names, signs, values without their quotes, brackets. `None` where one does not end.
fn words(marker: &str) -> Option<Vec<&str>> {
    let mut words = Vec::new();
    let mut rest = marker.trim_start();
    while let Some(first) = rest.chars().next() {
        let end = match first {
            '(' | ')' => 1,
            '"' | '\'' => {
                let length = rest.get(1..)?.find(first)?;
                words.push(rest.get(1..=length)?);
                rest = rest.get(length + 2..)?.trim_start();
                continue;
            }
            '<' | '>' | '=' | '!' | '~' => rest.find(|c: char| !"<>=!~".contains(c)).unwrap_or(rest.len()),
            _ => rest.find(|c: char| !(c.is_alphanumeric() || "_.".contains(c))).unwrap_or(rest.len()),
        };
        words.push(rest.get(..end).filter(|word| !word.is_empty())?);
        rest = rest.get(end..)?.trim_start();
    }
    Some(words)
}

/// A text is no condition.
struct NotACondition;

/// Reads a condition from left to right.
struct Reader<'m, 'r, C> {
    words: &'r [&'m str],
    at: usize,
    compare: &'r C,
}

impl<'m, C: Fn((&'m str, &'m str, &'m str)) -> Option<bool>> Reader<'m, '_, C> {
    fn next(&mut self) -> Result<&'m str, NotACondition> {
        let word = self.words.get(self.at).ok_or(NotACondition)?;
        self.at += 1;
        Ok(word)
    }

    fn takes(&mut self, word: &str) -> bool {
        let is = self.words.get(self.at) == Some(&word);
        self.at += usize::from(is);
        is
    }

    fn either(&mut self, depth: usize) -> Result<Option<bool>, NotACondition> {
        let mut found = self.both(depth)?;
        while self.takes("or") {
            found = match (found, self.both(depth)?) {
                (Some(true), _) | (_, Some(true)) => Some(true),
                (Some(false), Some(false)) => Some(false),
                (None, _) | (_, None) => None,
            };
        }
        Ok(found)
    }

    fn both(&mut self, depth: usize) -> Result<Option<bool>, NotACondition> {
        let mut found = self.one(depth)?;
        while self.takes("and") {
            found = match (found, self.one(depth)?) {
                (Some(false), _) | (_, Some(false)) => Some(false),
                (Some(true), Some(true)) => Some(true),
                (None, _) | (_, None) => None,
            };
        }
        Ok(found)
    }

    fn one(&mut self, depth: usize) -> Result<Option<bool>, NotACondition> {
        if self.takes("(") {
            if depth >= DEEPEST {
                return Err(NotACondition);
            }
            let found = self.either(depth + 1)?;
            return if self.takes(")") { Ok(found) } else { Err(NotACondition) };
        }
        let comparison = (self.next()?, self.next()?, self.next()?);
        Ok((self.compare)(comparison))
    }
}
