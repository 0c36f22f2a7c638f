use super::super::shell::{Kind, script};
use super::super::statement_sink::{Read, Source, StatementSink};

/// Blocks in these languages are lines for a shell; one without a language may be anything, and is read as far as it looks like that.
const SHELLS: [&str; 9] = ["", "sh", "bash", "shell", "console", "zsh", "shell-session", "terminal", "shellsession"];

/// Fenced blocks of prose (`CommonMark`, 4.5): what people are told to install.
pub(super) fn document(file: &Source<'_>, said: &StatementSink) -> Read {
    let mut open: Option<(char, usize, bool)> = None;
    let mut block = String::new();
    let mut first = 0;
    let mut rendered = false;
    for (line, text) in (1..).zip(file.text.lines()) {
        let trimmed = text.trim_start();
        // What was written from the guide says nothing beside the guide.
        if trimmed.starts_with(crate::write::BEGIN) || trimmed.starts_with(crate::write::END) {
            rendered = trimmed.starts_with(crate::write::BEGIN);
        }
        if rendered {
            continue;
        }
        let indent = text.len() - trimmed.len();
        let mark = trimmed.chars().next().filter(|c| *c == '`' || *c == '~');
        let length = mark.map_or(0, |mark| trimmed.chars().take_while(|c| *c == mark).count());
        match (open, mark) {
            (None, Some(mark)) if length >= 3 && indent < 8 => {
                let language = trimmed
                    .trim_start_matches(mark)
                    .trim()
                    .split([' ', ',', '{'])
                    .next()
                    .unwrap_or_default()
                    .to_ascii_lowercase();
                open = Some((mark, length, SHELLS.contains(&language.as_str())));
                block.clear();
                first = line + 1;
            }
            (Some((opened, least, shell)), Some(mark))
                if mark == opened && length >= least && trimmed.trim_start_matches(mark).trim().is_empty() =>
            {
                if shell {
                    script(said, &block, first, Kind::Mention);
                }
                open = None;
            }
            (Some(_), _) => {
                block.push_str(without_prompt(trimmed));
                block.push('\n');
            }
            (None, _) => {}
        }
    }
    Ok(())
}

/// A line without the prompt that is shown before it.
fn without_prompt(line: &str) -> &str {
    let as_root = |rest: &str| {
        // A comment reads as words; what an administrator types begins with a program.
        let first = rest.split_whitespace().next().unwrap_or_default();
        matches!(first, "apt" | "apt-get" | "dnf" | "yum" | "zypper" | "pacman" | "apk" | "make")
    };
    match line.strip_prefix("$ ").or_else(|| line.strip_prefix("> ")).or_else(|| line.strip_prefix("% ")) {
        Some(rest) => rest,
        None => line.strip_prefix("# ").filter(|rest| as_root(rest)).unwrap_or(line),
    }
}
