//! Names of things outside: they go into questions and printed commands, so nothing but a name may pass.

use crate::document::{Fields, Placed, shortened};
use crate::prelude::*;
use crate::problem::ProblemKind;

/// What [`is_package`] demands, for messages.
pub(crate) const PACKAGE_RULE: &str = "letters, digits, `-`, `_`, `.`, `+` and `@`, beginning with a letter or digit and not ending in `-` or a single `+`, which package \
     managers take for removing and adding";

/// Whether a text is the name of a package and nothing else: no file, no address, no option, no pattern, and no mark for a removal (apt's
/// `name-`; names such as `g++` end in two).
pub(crate) fn is_package(name: &str) -> bool {
    let right = |c: char| c.is_ascii_alphanumeric() || "-_.+@".contains(c);
    let ends_as_mark = name.ends_with('-') || (name.ends_with('+') && !name.ends_with("++"));
    name.starts_with(|c: char| c.is_ascii_alphanumeric()) && name.chars().all(right) && !ends_as_mark && name.len() <= 200
}

/// A name that no program could take for an option.
pub(crate) fn placed<'t>(fields: &Fields<'t>, key: &'static str) -> Option<Placed<&'t str>> {
    let name = fields.required(key)?;
    if name.value.starts_with('-') {
        let message = format!("`{}` begins like an option, so it cannot be a name here", shortened(name.value));
        fields.problems().report(ProblemKind::BadValue, name.span, message);
        return None;
    }
    Some(name)
}

/// The same, as a text of the caller's own.
pub(crate) fn plain(fields: &Fields<'_>, key: &'static str) -> Option<String> {
    placed(fields, key).map(|name| name.value.to_owned())
}

/// The same, where it may be left out.
pub(crate) fn optional(fields: &Fields<'_>, key: &'static str) -> Option<String> {
    if fields.has(key) { plain(fields, key) } else { None }
}

/// The name of a variable that a shell could set (POSIX, 3.216), or one of Windows with a part in parentheses.
pub(crate) fn variable(fields: &Fields<'_>) -> Option<String> {
    let name = fields.required("variable")?;
    let word = |text: &str| text.bytes().all(|byte| byte.is_ascii_alphanumeric() || byte == b'_');
    let (stem, part) = name.value.strip_suffix(')').and_then(|rest| rest.split_once('(')).unwrap_or((name.value, "x"));
    let begins = stem.starts_with(|c: char| c.is_ascii_alphabetic() || c == '_');
    if !begins || !word(stem) || !word(part) || part.is_empty() {
        let message = format!(
            "`{}` cannot be the name of a variable: letters, digits and `_`, not beginning with a digit",
            shortened(name.value)
        );
        fields.problems().report(ProblemKind::BadValue, name.span, message);
        return None;
    }
    Some(name.value.to_owned())
}

/// The name of a branch, by the rules of git-check-ref-format(1).
pub(crate) fn branch(fields: &Fields<'_>) -> Option<String> {
    let name = fields.text("branch")?;
    let text = name.value;
    let wrong = text.is_empty()
        || text.starts_with(['-', '/', '.'])
        || text.ends_with(['/', '.'])
        || text.strip_suffix(".lock").is_some()
        || ["..", "//", "@{", "/."].iter().any(|part| text.contains(part))
        || text.contains(|c: char| c.is_control() || c.is_whitespace() || "~^:?*[\\".contains(c));
    if wrong {
        let message = format!("`{}` cannot be the name of a branch", shortened(text));
        fields.problems().report(ProblemKind::BadValue, name.span, message);
        return None;
    }
    Some(text.to_owned())
}

/// A file of the project, from which something is read and told.
pub(crate) fn project_file(fields: &Fields<'_>, key: &'static str) -> Option<String> {
    let file = fields.text(key)?;
    let drive = file.value.as_bytes().get(1) == Some(&b':');
    if file.value.starts_with(['/', '~', '\\']) || drive {
        let message =
            format!("`{}` does not lie in the project; `{key}` is a path from the guide's folder", shortened(file.value));
        fields.problems().report(ProblemKind::BadValue, file.span, message);
        return None;
    }
    Some(file.value.to_owned())
}

#[cfg(test)]
mod tests {
    use super::is_package;

    #[test]
    fn only_names_are_packages() {
        assert!(
            ["cmake", "g++", "libstdc++-12-dev", "python@3.12", "Kitware.CMake", "qemu-system-arm"].into_iter().all(is_package)
        );
        let wrong =
            ["./x.deb", "https://a.example/x.deb", "libc6-", "libc6+", "-oX", "a b", "a;b", "lib*", "libc6/sid", "a:b", ""];
        assert!(!wrong.into_iter().any(is_package));
    }
}
