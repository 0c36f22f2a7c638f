//! A file of bash, dash, ksh, mksh or zsh, followed command by command. What only running it would tell may or may not be.

use super::words::{Token, expand, tokens};
use super::{Effect, Follow, Truth};

/// What a list of commands came to.
struct ExecResult {
    /// How its last command ended.
    truth: Truth,
    /// The line on which the file is left for sure.
    left: Option<usize>,
}

const NOTHING: ExecResult = ExecResult { truth: Truth::Yes, left: None };

/// Where one is in a file.
struct Reading<'f, 't> {
    file: &'f str,
    depth: usize,
    tokens: Vec<Token<'t>>,
    at: usize,
    /// How deep compound commands stand in one another.
    nested: usize,
}

/// Compound commands that stand deeper in one another are not followed.
const MOST_NESTED: usize = 100;

impl<'t> Reading<'_, 't> {
    fn peek(&self) -> Option<&Token<'t>> {
        self.tokens.get(self.at)
    }

    fn next(&mut self) -> Option<Token<'t>> {
        let token = self.tokens.get(self.at).copied();
        self.at += 1;
        token
    }

    fn is_at(&self, words: &[&str]) -> bool {
        self.peek().is_some_and(|token| words.contains(&token.text))
    }

    fn pass(&mut self, words: &[&str]) {
        while self.is_at(words) {
            self.at += 1;
        }
    }
}

impl Follow<'_> {
    /// Follows a file; gives the line on which it is left before its end, where that is sure.
    pub(super) fn posix(&mut self, file: &str, text: &str, depth: usize, guard: Truth) -> Option<usize> {
        let mut reading = Reading { file, depth, tokens: tokens(text), at: 0, nested: 0 };
        while reading.peek().is_some() {
            let came = self.list(&mut reading, &[], guard);
            if came.left.is_some() {
                return came.left;
            }
            // What ends nothing that was begun.
            reading.at += 1;
        }
        None
    }

    /// Commands up to one of these words, which stays.
    fn list(&mut self, reading: &mut Reading<'_, '_>, until: &[&str], guard: Truth) -> ExecResult {
        const CLOSERS: [&str; 9] = ["then", "elif", "else", "fi", "do", "done", "esac", ";;", "}"];
        let mut came = NOTHING;
        let mut guard = guard;
        reading.nested += 1;
        loop {
            reading.pass(&["\n", ";", "&"]);
            let Some(token) = reading.peek() else { break };
            if until.contains(&token.text) || CLOSERS.contains(&token.text) || (token.sign && token.text == ")") {
                break;
            }
            let one = self.chain(reading, guard);
            came.truth = one.truth;
            if let Some(line) = one.left {
                came.left.get_or_insert(line);
                // The rest is read and not done.
                guard = Truth::No;
            }
        }
        reading.nested -= 1;
        came
    }

    /// Commands with `&&`, `||` and `|` between them.
    fn chain(&mut self, reading: &mut Reading<'_, '_>, guard: Truth) -> ExecResult {
        let mut came = self.command(reading, guard);
        while let Some(sign) = reading.peek().filter(|token| token.sign).map(|token| token.text) {
            let holds = match sign {
                "&&" => came.truth,
                "||" => came.truth.not(),
                "|" => Truth::Perhaps,
                _ => break,
            };
            reading.at += 1;
            reading.pass(&["\n"]);
            let next = self.command(reading, guard.and(holds));
            let left = came.left.or(next.left);
            let truth = if holds == Truth::No { came.truth } else { next.truth };
            came = ExecResult { truth, left };
        }
        came
    }

    fn command(&mut self, reading: &mut Reading<'_, '_>, guard: Truth) -> ExecResult {
        if reading.nested > MOST_NESTED {
            reading.at = reading.tokens.len();
            return NOTHING;
        }
        let Some(token) = reading.next() else { return NOTHING };
        match token.text {
            "!" if !token.sign => {
                let came = self.command(reading, guard);
                ExecResult { truth: came.truth.not(), ..came }
            }
            "if" if !token.sign => self.branches(reading, guard),
            "case" if !token.sign => self.case(reading, guard),
            "for" | "while" | "until" | "select" if !token.sign => {
                let _ = self.list(reading, &["do"], Truth::No);
                reading.pass(&["do"]);
                let _ = self.list(reading, &["done"], guard.and(Truth::Perhaps));
                reading.pass(&["done"]);
                NOTHING
            }
            "{" if !token.sign => {
                let came = self.list(reading, &["}"], guard);
                reading.pass(&["}"]);
                came
            }
            // What is set in there ends there.
            "(" if token.sign => {
                let _ = self.list(reading, &[")"], Truth::No);
                reading.at += 1;
                ExecResult { truth: Truth::Perhaps, left: None }
            }
            "function" if !token.sign => {
                reading.at += 1;
                self.defined(reading)
            }
            _ => self.simple(reading, token, guard),
        }
    }

    /// A function's body is not done where it stands.
    fn defined(&mut self, reading: &mut Reading<'_, '_>) -> ExecResult {
        reading.pass(&["(", ")", "\n"]);
        let _ = self.command(reading, Truth::No);
        NOTHING
    }

    fn branches(&mut self, reading: &mut Reading<'_, '_>, guard: Truth) -> ExecResult {
        let mut open = guard;
        let mut left = None;
        loop {
            let condition = self.list(reading, &["then"], open).truth;
            reading.pass(&["then"]);
            let came = self.list(reading, &["elif", "else", "fi"], open.and(condition));
            left = left.or(came.left);
            open = open.and(condition.not());
            match reading.next().map(|token| token.text) {
                Some("elif") => {}
                Some("else") => {
                    let came = self.list(reading, &["fi"], open);
                    reading.pass(&["fi"]);
                    return ExecResult { truth: Truth::Perhaps, left: left.or(came.left) };
                }
                _ => return ExecResult { truth: Truth::Perhaps, left },
            }
        }
    }

    fn case(&mut self, reading: &mut Reading<'_, '_>, guard: Truth) -> ExecResult {
        let word = reading.next().and_then(|token| expand(token.text, &self.values));
        reading.pass(&["\n"]);
        reading.pass(&["in"]);
        let (mut open, mut left) = (guard, None);
        loop {
            reading.pass(&["\n", ";;", "("]);
            if reading.peek().is_none() || reading.is_at(&["esac"]) {
                reading.at += 1;
                return ExecResult { truth: Truth::Perhaps, left };
            }
            let mut fits = Truth::No;
            while let Some(token) = reading.next().filter(|token| !(token.sign && token.text == ")")) {
                if !token.sign {
                    let pattern = expand(token.text, &self.values);
                    let one = word.as_ref().zip(pattern).map_or(Truth::Perhaps, |(word, pattern)| is_like(word, &pattern));
                    fits = match (fits, one) {
                        (Truth::Yes, _) | (_, Truth::Yes) => Truth::Yes,
                        (Truth::No, other) => other,
                        (Truth::Perhaps, _) => Truth::Perhaps,
                    };
                }
            }
            let came = self.list(reading, &[";;", "esac"], open.and(fits));
            left = left.or(came.left);
            open = open.and(fits.not());
        }
    }

    fn simple(&mut self, reading: &mut Reading<'_, '_>, first: Token<'_>, guard: Truth) -> ExecResult {
        let line = first.line;
        if first.sign {
            return NOTHING;
        }
        let mut words = vec![first.text];
        while let Some(token) = reading.peek() {
            if token.sign {
                break;
            }
            words.push(token.text);
            reading.at += 1;
        }
        // `name() ...`
        if words.len() == 1 && reading.is_at(&["("]) && reading.tokens.get(reading.at + 1).is_some_and(|token| token.text == ")")
        {
            return self.defined(reading);
        }
        let here = (reading.file, line);
        let assigned = words.iter().take_while(|word| assignment(word).is_some()).count();
        let (before, command) = words.split_at(assigned);
        let Some((name, arguments)) = command.split_first() else {
            for (name, value) in before.iter().filter_map(|word| assignment(word)) {
                self.set(here, name, value, guard);
            }
            return NOTHING;
        };
        match *name {
            "export" | "declare" | "typeset" | "readonly" | "local" => {
                let exports = *name == "export" || arguments.iter().any(|word| word.starts_with('-') && word.contains('x'));
                let removes = *name == "export" && arguments.contains(&"-n");
                for word in arguments.iter().filter(|word| !word.starts_with('-')) {
                    let name = match assignment(word) {
                        Some((name, value)) => {
                            self.set(here, name, value, guard);
                            name
                        }
                        None => word,
                    };
                    if exports && !removes {
                        self.note(here, name, Effect::Exported, guard);
                    }
                }
                NOTHING
            }
            "unset" => {
                arguments
                    .iter()
                    .filter(|word| !word.starts_with('-'))
                    .for_each(|name| self.note(here, name, Effect::Gone, guard));
                NOTHING
            }
            "." | "source" => {
                let file = arguments.first().and_then(|word| expand(word, &self.values)).filter(|_| guard != Truth::No);
                let there = file.is_some_and(|file| self.read(&file, reading.depth + 1, guard));
                ExecResult { truth: if there { Truth::Perhaps } else { Truth::No }, left: None }
            }
            "return" | "exit" => ExecResult { truth: Truth::Yes, left: (guard == Truth::Yes).then_some(line) },
            "test" | "[" | "[[" => ExecResult { truth: self.test(arguments), left: None },
            "true" | ":" => NOTHING,
            "false" => ExecResult { truth: Truth::No, left: None },
            _ => ExecResult { truth: Truth::Perhaps, left: None },
        }
    }

    fn set(&mut self, here: (&str, usize), name: &str, value: &str, guard: Truth) {
        let value = expand(value, &self.values);
        self.note(here, name, Effect::Set(value), guard);
    }

    /// What test(1) says, where that can be told without running anything.
    fn test(&self, words: &[&str]) -> Truth {
        let words: Vec<&str> = words.iter().copied().filter(|word| !["]", "]]"].contains(word)).collect();
        let value = |word: &&str| expand(word, &self.values);
        match words.as_slice() {
            ["!", rest @ ..] => self.test(rest).not(),
            ["-z", word] => value(word).map_or(Truth::Perhaps, |value| value.is_empty().into()),
            ["-n", word] | [word] => value(word).map_or(Truth::Perhaps, |value| (!value.is_empty()).into()),
            ["-f" | "-r" | "-e" | "-s" | "-d" | "-x", word] => {
                value(word).map_or(Truth::Perhaps, |path| (self.start.exists)(&path).into())
            }
            ["-t", _] => self.start.interactive.into(),
            [a, "=" | "==", b] => value(a).zip(value(b)).map_or(Truth::Perhaps, |(a, b)| is_like(&a, &b)),
            [a, "!=", b] => value(a).zip(value(b)).map_or(Truth::Perhaps, |(a, b)| is_like(&a, &b).not()),
            _ => Truth::Perhaps,
        }
    }
}

/// The name and value of an assignment.
fn assignment(word: &str) -> Option<(&str, &str)> {
    let (name, value) = word.split_once('=')?;
    let name = name.strip_suffix('+').unwrap_or(name);
    let is_name = name.starts_with(|c: char| c.is_ascii_alphabetic() || c == '_')
        && name.chars().all(|c| c.is_ascii_alphanumeric() || c == '_');
    is_name.then_some((name, value))
}

/// Whether a text fits a pattern of which only `*` at its ends is understood.
fn is_like(text: &str, pattern: &str) -> Truth {
    let inner = pattern.trim_matches('*');
    if inner.contains(['*', '?', '[', '|']) {
        return Truth::Perhaps;
    }
    match (pattern.starts_with('*'), pattern.len() > 1 && pattern.ends_with('*')) {
        _ if inner.is_empty() && pattern.contains('*') => Truth::Yes,
        (true, true) => text.contains(inner).into(),
        (true, false) => text.ends_with(inner).into(),
        (false, true) => text.starts_with(inner).into(),
        (false, false) => (text == inner).into(),
    }
}
