//! Files of fish and of the C shell, followed line by line: blocks whose condition is not known may or may not be.

use super::words::expand;
use super::{Effect, Follow, Truth};

/// A value of several words, as both shells join it in the environment for lists of folders.
fn joined(words: &[&str], follow: &Follow<'_>, between: &str) -> Option<String> {
    let words: Option<Vec<String>> = words.iter().map(|word| expand(word, &follow.values)).collect();
    words.map(|words| words.join(between))
}

impl Follow<'_> {
    /// Follows a file of fish (fish(1), fish-language).
    pub(super) fn fish(&mut self, file: &str, text: &str, depth: usize, guard: Truth) -> Option<usize> {
        let mut blocks: Vec<Truth> = Vec::new();
        for (number, line) in text.lines().enumerate() {
            let line = line.trim();
            if line.starts_with('#') {
                continue;
            }
            for command in line.split(';') {
                let words: Vec<&str> = command.split_whitespace().take_while(|word| !word.starts_with('#')).collect();
                let inside = blocks.iter().fold(guard, |all, one| all.and(*one));
                let here = (file, number + 1);
                match words.as_slice() {
                    ["if", condition @ ..] => blocks.push(self.fish_condition(condition)),
                    ["function", ..] => blocks.push(Truth::No),
                    ["for" | "while" | "switch" | "begin", ..] => blocks.push(Truth::Perhaps),
                    ["else", ..] => {
                        if let Some(last) = blocks.last_mut() {
                            *last = last.not();
                        }
                    }
                    ["end", ..] => {
                        blocks.pop();
                    }
                    ["return" | "exit", ..] if inside == Truth::Yes => return Some(number + 1),
                    ["source" | ".", path, ..] if inside != Truth::No => {
                        if let Some(path) = expand(path, &self.values) {
                            self.read(&path, depth + 1, inside);
                        }
                    }
                    ["set", rest @ ..] => self.fish_set(here, rest, inside),
                    ["export", rest @ ..] => {
                        for (name, value) in rest.iter().filter_map(|word| word.split_once('=')) {
                            let value = expand(value, &self.values);
                            self.note(here, name, Effect::Set(value), inside);
                            self.note(here, name, Effect::Exported, inside);
                        }
                    }
                    _ => {}
                }
            }
        }
        None
    }

    fn fish_condition(&self, words: &[&str]) -> Truth {
        match words {
            ["status", "is-interactive" | "--is-interactive", ..] => self.start.interactive.into(),
            ["status", "is-login" | "--is-login", ..] => self.start.login.into(),
            ["not", rest @ ..] => self.fish_condition(rest).not(),
            ["test", "-d" | "-f" | "-e", path] => {
                expand(path, &self.values).map_or(Truth::Perhaps, |path| (self.start.exists)(&path).into())
            }
            _ => Truth::Perhaps,
        }
    }

    fn fish_set(&mut self, here: (&str, usize), words: &[&str], guard: Truth) {
        let options: String = words.iter().take_while(|word| word.starts_with('-')).flat_map(|word| word.chars()).collect();
        let rest: Vec<&str> = words.iter().copied().skip_while(|word| word.starts_with('-')).collect();
        let Some((name, values)) = rest.split_first() else { return };
        if options.contains('e') && !options.contains("export") {
            return self.note(here, name, Effect::Gone, guard);
        }
        // It only asks.
        if values.is_empty() && options.contains('q') {
            return;
        }
        let between = if name.ends_with("PATH") { ":" } else { " " };
        let value = joined(values, self, between);
        self.note(here, name, Effect::Set(value), guard);
        if options.contains('x') {
            self.note(here, name, Effect::Exported, guard);
        }
    }

    /// Follows a file of the C shell (tcsh(1)).
    pub(super) fn csh(&mut self, file: &str, text: &str, depth: usize, guard: Truth) -> Option<usize> {
        let mut blocks: Vec<Truth> = Vec::new();
        for (number, line) in text.lines().enumerate() {
            let line = line.trim();
            if line.starts_with('#') {
                continue;
            }
            let words: Vec<&str> = line.split_whitespace().collect();
            let inside = blocks.iter().fold(guard, |all, one| all.and(*one));
            let here = (file, number + 1);
            match words.as_slice() {
                [first, ..] if first.starts_with("if") && line.ends_with("then") => blocks.push(Truth::Perhaps),
                // Without a prompt nobody is at it.
                [first, ..] if first.starts_with("if") && line.contains("prompt") && line.ends_with("exit") => {
                    let without = line.contains("! $?prompt") || line.contains("!$?prompt") || line.contains("== 0");
                    if inside == Truth::Yes && without != self.start.interactive {
                        return Some(number + 1);
                    }
                }
                [first, ..] if first.starts_with("foreach") || first.starts_with("while") || first.starts_with("switch") => {
                    blocks.push(Truth::Perhaps);
                }
                ["endif" | "end" | "endsw", ..] => {
                    blocks.pop();
                }
                ["exit", ..] if inside == Truth::Yes => return Some(number + 1),
                ["source", path, ..] if inside != Truth::No => {
                    if let Some(path) = expand(path, &self.values) {
                        self.read(&path, depth + 1, inside);
                    }
                }
                ["setenv", name, values @ ..] => {
                    let value = joined(values, self, " ");
                    self.note(here, name, Effect::Set(value), inside);
                    self.note(here, name, Effect::Exported, inside);
                }
                ["unsetenv", name, ..] => self.note(here, name, Effect::Gone, inside),
                // The list of folders is the one variable that both names stand for.
                ["set", "path" | "path=(", ..] => {
                    self.note(here, "PATH", Effect::Set(None), inside);
                    self.note(here, "PATH", Effect::Exported, inside);
                }
                ["set", word, ..] => {
                    let (name, value) = word.split_once('=').unwrap_or((word, ""));
                    let value = expand(value, &self.values);
                    self.note(here, name, Effect::Set(value), inside);
                }
                _ => {}
            }
        }
        None
    }
}
