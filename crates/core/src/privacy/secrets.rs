//! Secrets: logins in addresses, what is called a password or a token, and what looks like one. Each pass reads a text once.

use super::words::{is_word, runs, tail};
use super::{HIDDEN, Replacer};
use crate::prelude::*;

/// An unbroken run of letters and digits from this length on, with both in it, is a token and no word.
const LONGEST_WORD: usize = 19;
/// One that turns between small letters, large ones and digits every third time is one from this length on.
const SHORTEST_TOKEN: usize = 16;
/// What follows a word that ends in one of these is not told.
const ENDS: &[&str] =
    &["token", "secret", "password", "passwd", "passphrase", "passcode", "apikey", "authorization", "credential", "credentials"];
/// What follows one of these words.
const KEYS: &[&str] = &["pwd", "pass", "bearer", "cookie", "sig", "signature", "auth"];
/// The lengths of the groups of a number that is one of a kind (RFC 9562).
const UUID: [usize; 5] = [8, 4, 4, 4, 12];
/// What makes a key of more than a table.
const KINDS_OF_KEYS: &[&str] = &[
    "api",
    "access",
    "private",
    "secret",
    "licence",
    "license",
    "product",
    "activation",
    "account",
    "auth",
    "encryption",
    "signing",
];
/// What stands between the word and the value.
const BETWEEN: &[&str] = &["=", ":", "is", "was", "basic", "bearer", "digest"];
/// A key is looked for in so many bytes before what it is the key of.
const LONGEST_KEY: usize = 40;

/// A text whose addresses have lost the names and passwords in them.
pub fn without_logins(text: &str) -> String {
    if !text.contains("://") {
        return text.to_owned();
    }
    let mut parts = text.split("://");
    let mut out = parts.next().unwrap_or_default().to_owned();
    for part in parts {
        out.push_str("://");
        let authority = part.find(|c: char| c.is_whitespace() || "/?#\"'<>".contains(c)).unwrap_or(part.len());
        match part.get(..authority).and_then(|authority| authority.rfind('@')) {
            Some(at) => {
                out.push_str(HIDDEN);
                out.push_str(part.get(at..).unwrap_or_default());
            }
            None => out.push_str(part),
        }
    }
    out
}

/// A text whose keys between `-----BEGIN` and `-----END` (RFC 7468) are hidden.
pub(super) fn blocks(text: &str) -> String {
    let mut out = String::with_capacity(text.len());
    let mut rest = text;
    while let Some((before, block)) = rest.split_once("-----BEGIN ") {
        out.push_str(before);
        out.push_str(HIDDEN);
        // Cut off, it goes to the end.
        rest = block.split_once("-----END ").and_then(|(_, end)| end.split_once("-----")).map_or("", |(_, after)| after);
    }
    out.push_str(rest);
    out
}

/// What the words before lead one to expect.
#[derive(Clone, Copy, PartialEq, Eq)]
enum Expected {
    Nothing,
    /// A secret.
    Secret,
    /// A secret, if something between says so.
    Perhaps,
    /// A secret, if it has a digit.
    Odd,
    /// The number of one thing of a series.
    Serial,
}

/// What is called a token, and what looks like one.
pub(super) fn tokens(replacer: &mut Replacer, text: &str) -> String {
    let mut out = String::with_capacity(text.len());
    let mut expected = Expected::Nothing;
    for (inside, run) in runs(text, |c| !c.is_whitespace() && !"\"'`,;()<>|&".contains(c)) {
        if !inside {
            expected = across(expected, run);
            out.push_str(run);
            continue;
        }
        let lower = run.to_ascii_lowercase();
        if expected != Expected::Nothing && BETWEEN.contains(&lower.as_str()) {
            expected = match (expected, lower.as_str()) {
                (Expected::Serial, _) => Expected::Serial,
                (_, "is" | "was") => Expected::Odd,
                _ => Expected::Secret,
            };
            out.push_str(run);
            continue;
        }
        if expected == Expected::Serial && ["number", "no", "no.", "number:", "no:", "#", "#:"].contains(&lower.as_str()) {
            out.push_str(run);
            continue;
        }
        let digits = run.bytes().filter(u8::is_ascii_digit).count();
        let is_secret = match expected {
            // An option behind it is none, and a path is the folder that `PWD` names.
            Expected::Secret => !run.starts_with("--") && (!run.starts_with('/') || is_base64(run)),
            Expected::Odd => digits > 0,
            Expected::Serial => digits > 1 && run.len() >= 5 && !run.contains(['.', ':']),
            Expected::Perhaps | Expected::Nothing => false,
        };
        expected = Expected::Nothing;
        if is_secret {
            out.push_str(HIDDEN);
            continue;
        }
        match key(run, &lower) {
            Key::Of(at) if at == run.len() => {
                expected = Expected::Secret;
                out.push_str(run);
            }
            Key::Of(at) => {
                out.push_str(&opaque(replacer, run.get(..at).unwrap_or_default()));
                out.push_str(HIDDEN);
            }
            Key::OfNext(next) => {
                expected = next;
                out.push_str(run);
            }
            Key::None => out.push_str(&opaque(replacer, run)),
        }
    }
    out
}

/// What is still expected behind a gap between two runs.
fn across(expected: Expected, gap: &str) -> Expected {
    let joins = gap.len() < 8 && gap.chars().all(|c| " \t\"'`{=:".contains(c));
    if !joins {
        Expected::Nothing
    } else if expected == Expected::Perhaps && gap.contains([':', '=']) {
        Expected::Secret
    } else {
        expected
    }
}

/// Whether a run calls something a secret.
enum Key {
    None,
    /// What comes from this byte of the run on; at its end, what comes next.
    Of(usize),
    OfNext(Expected),
}

fn key(run: &str, lower: &str) -> Key {
    for (at, _) in run.match_indices(['=', ':']) {
        let value = run.get(at + 1..).unwrap_or_default();
        // A path is none: `PWD=/srv/driftbuoy`.
        if !value.starts_with('/') && is_key(run.get(..at).unwrap_or_default()) {
            return Key::Of(at + 1);
        }
    }
    let word = lower.trim_end_matches([':', '=']);
    if ["serial", "serialnumber", "serial-number"].contains(&word) || (["s/n", "sn"].contains(&word) && word != lower) {
        return Key::OfNext(Expected::Serial);
    }
    if !is_key(run) {
        return Key::None;
    }
    // An option has its value behind a blank.
    Key::OfNext(if run.starts_with('-') || lower == "bearer" { Expected::Secret } else { Expected::Perhaps })
}

/// Whether the last words of this say that a secret follows, such as `BUOY_SECRET`, `accessKey` and `--api-key`.
fn is_key(text: &str) -> bool {
    let text = tail(text, LONGEST_KEY);
    let ends = |end: &&str| {
        text.len().checked_sub(end.len()).and_then(|at| text.get(at..)).is_some_and(|tail| tail.eq_ignore_ascii_case(end))
    };
    // Hardly any does: the words are only made where one may.
    if !ENDS.iter().chain(KEYS).chain(&["key"]).any(ends) {
        return false;
    }
    let mut words: Vec<String> = vec![String::new()];
    let mut small = false;
    for letter in text.chars() {
        if !letter.is_alphanumeric() || (small && letter.is_uppercase()) {
            words.push(String::new());
        }
        small = letter.is_lowercase();
        if letter.is_alphanumeric()
            && let Some(word) = words.last_mut()
        {
            word.extend(letter.to_lowercase());
        }
    }
    let mut words = words.iter().rev().map(String::as_str);
    let (last, before) = (words.next().unwrap_or_default(), words.next().unwrap_or_default());
    ENDS.iter().any(|end| last.ends_with(end)) || KEYS.contains(&last) || (last == "key" && KINDS_OF_KEYS.contains(&before))
}

/// A run without blanks, whose long parts of letters and digits are hidden.
fn opaque(replacer: &mut Replacer, run: &str) -> String {
    if run.len() < SHORTEST_TOKEN {
        return run.to_owned();
    }
    // Three parts of Base64 between points (RFC 7519).
    if let Some(at) =
        run.find("eyJ").filter(|at| run.get(*at..).is_some_and(|rest| rest.matches('.').count() >= 2 && !rest.contains('/')))
    {
        let (before, token) = run.split_at_checked(at).unwrap_or((run, ""));
        return format!("{before}{}", hidden(replacer, token));
    }
    let mut out = String::with_capacity(run.len());
    for (inside, part) in runs(run, |c| is_word(c) || c == '-') {
        out.push_str(&if inside { numbers(replacer, part) } else { part.to_owned() });
    }
    let run = core::mem::take(&mut out);
    for (inside, part) in runs(&run, |c| c.is_ascii_alphanumeric() || "+/=".contains(c)) {
        if inside && is_base64(part) {
            out.push_str(&hidden(replacer, part));
        } else {
            for (inside, word) in runs(part, is_word) {
                let letters = word.chars().any(|c| c.is_ascii_alphabetic());
                let digits = word.chars().any(|c| c.is_ascii_digit());
                // The number of a commit belongs to the version before it.
                let of_version =
                    out.strip_suffix(['.', '+', '-']).is_some_and(|before| before.ends_with(|c: char| c.is_ascii_digit()))
                        && word.bytes().all(|byte| byte.is_ascii_hexdigit());
                let long = inside && word.len() > LONGEST_WORD && letters && digits && !of_version;
                if long && !replacer.words.contains(&word.to_lowercase()) {
                    out.push_str(&hidden(replacer, word));
                } else {
                    out.push_str(word);
                }
            }
        }
    }
    out
}

fn hidden(replacer: &mut Replacer, token: &str) -> String {
    let next = format!("hidden-{}", replacer.tokens.len() + 1);
    replacer.tokens.entry(token.to_owned()).or_insert(next).clone()
}

/// Groups between dashes, with the numbers of machines and people hidden, whose parts are short (RFC 9562, and those of Windows), and keys of licences.
fn numbers(replacer: &mut Replacer, part: &str) -> String {
    if is_licence(part) {
        return hidden(replacer, part);
    }
    if let Some((before, number)) = part.split_once("S-1-5-21-") {
        return format!("{before}{}", hidden(replacer, number));
    }
    let groups: Vec<&str> = part.split('-').collect();
    let mut told: Vec<String> = Vec::new();
    let mut at = 0;
    while let Some(group) = groups.get(at) {
        let five = groups.get(at..at + UUID.len()).filter(|five| {
            five.iter()
                .zip(UUID)
                .all(|(group, length)| group.len() == length && group.bytes().all(|byte| byte.is_ascii_hexdigit()))
        });
        told.push(five.map_or_else(|| (*group).to_owned(), |five| hidden(replacer, &five.join("-"))));
        at += five.map_or(1, <[&str]>::len);
    }
    told.join("-")
}

/// Three groups and more of four to six large letters and digits.
fn is_licence(text: &str) -> bool {
    let groups = text.split('-');
    let digits = text.bytes().filter(u8::is_ascii_digit).count();
    groups.clone().count() >= 3
        && digits >= 2
        && text.bytes().filter(u8::is_ascii_uppercase).count() >= 2
        && groups.into_iter().all(|group| {
            (4..=6).contains(&group.len()) && group.bytes().all(|byte| byte.is_ascii_uppercase() || byte.is_ascii_digit())
        })
}

/// Letters and digits as chance has them (RFC 4648), and not as a path or a word has them: the sort changes at every third or more often.
fn is_base64(text: &str) -> bool {
    let sort = |byte: u8| match byte {
        b'a'..=b'z' => 1,
        b'A'..=b'Z' => 2,
        b'0'..=b'9' => 3,
        _ => 0,
    };
    let bytes = text.as_bytes();
    let turns = bytes.windows(2).filter(|pair| {
        let sorts: Vec<u8> = pair.iter().map(|byte| sort(*byte)).collect();
        matches!(sorts.as_slice(), [a, b] if a != b && *a != 0 && *b != 0)
    });
    let all_sorts = (1..=3).all(|one| bytes.iter().any(|byte| sort(*byte) == one));
    text.len() >= SHORTEST_TOKEN
        && all_sorts
        && (!text.starts_with('/') || text.contains(['+', '=']))
        && text.split('/').any(|part| part.len() >= 8)
        && turns.count() * 3 >= text.len()
}
