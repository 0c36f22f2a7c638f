//! Finding the version in what a program printed.

use super::Version;
use super::names::{Asked, Attribution, BASES, attribution};
use crate::prelude::*;
use crate::text::without_escapes;

/// A version found in text, with the line that it stood on.
#[derive(Debug, Clone)]
#[non_exhaustive]
pub struct Found {
    /// The version.
    pub version: Version,
    /// The line, without escape sequences and surrounding space.
    pub line: String,
    /// The name that stands before it, where that is not the tool's own, in small letters.
    pub named: Option<String>,
}

/// What programs say of an option that they do not know.
const REFUSALS: [&str; 12] = [
    "invalid option",
    "unknown option",
    "unrecognized option",
    "unrecognised option",
    "illegal option",
    "no such option",
    "bad option",
    "unknown argument",
    "unrecognized argument",
    "invalid argument",
    "unknown flag",
    "option requires",
];

/// Whether a program refused the option by which it was asked, whatever its exit status is.
pub fn refuses(text: &str) -> bool {
    let text = text.get(..crate::text::floor_char_boundary(text, MOST_BYTES)).unwrap_or(text).to_lowercase();
    text.lines().take(3).any(|line| REFUSALS.iter().any(|words| line.contains(words)))
}

const MOST_LINES: usize = 40;
/// More numbers of one line are none of a version.
const MOST_TOKENS: usize = 60;
const MOST_BYTES: usize = 16 * 1024;
/// What weighs less is a number by chance.
const LIGHTEST: i32 = 15;
/// What may stand before a version of what a tool runs on: `Java version: 17`, `on Linux 6.1`.
const RUNTIMES: [&str; 14] = [
    "linux", "windows", "darwin", "java", "jvm", "python", "perl", "ruby", "node", "os", "kernel", "runtime", "libc", "protocol",
];
/// Words that announce somebody else's version, directly before it.
const OTHERS: [&str; 16] = [
    "using", "with", "linked", "library", "built", "against", "runtime", "python", "from", "libc", "glibc", "kernel", "protocol",
    "needs", "requires", "than",
];
/// Behind these a number is that of a licence.
const LICENCES: [&str; 4] = ["license", "licence", "gpl", "copyright"];

/// The likeliest version in `text`, which a program printed when it was asked as `asked` says.
///
/// Every token that looks like a version is weighed: dotted numbers, the word "version" before, the tool's own name before it, and an early
/// line speak for it; dates, years, addresses, bits, licences and other programs' names against. The heaviest wins, the earliest of equals. A wrong
/// number is worse than none: where the text names several things and none by the tool's own name, where a known tool's number stands behind
/// another's name, or where the program refused the question and does not name itself, there is none. Looks at 40 lines and 16 KiB at most.
pub fn find(text: &str, asked: &Asked<'_>) -> Option<Found> {
    let text = text.get(..crate::text::floor_char_boundary(text, MOST_BYTES)).unwrap_or(text);
    let plain = text.contains('\u{1b}').then(|| without_escapes(text));
    let text = plain.as_deref().unwrap_or(text);
    let mut best: Option<(i32, Attribution, Found)> = None;
    let mut others: Vec<String> = Vec::new();
    for (index, line) in text.lines().filter(|line| !line.trim().is_empty()).take(MOST_LINES).enumerate() {
        if !line.bytes().any(|byte| byte.is_ascii_digit()) {
            continue;
        }
        let lower = line.to_ascii_lowercase();
        let facts = Line { lower: &lower, named: asked.is_named_in(&lower) };
        let early = 8 - i32::try_from(index).unwrap_or(i32::MAX).min(8);
        for token in tokens(line).into_iter().take(MOST_TOKENS) {
            let Ok(version) = Version::parse(token.text) else { continue };
            // What nobody has set yet.
            if version.is_nothing() {
                continue;
            }
            let before = lower.get(..token.before.len()).unwrap_or("");
            let named = attribution(before, asked);
            let numbers = count_numbers(token.text);
            if numbers >= 2
                && let Attribution::Other(name) = &named
                && !is_of_a_foundation(before, name)
                && !others.contains(name)
            {
                others.push(name.clone());
            }
            // A program that refuses the question only tells of itself.
            if asked.refused
                && (numbers < 2 || !(named == Attribution::Own || (named == Attribution::Nobody && is_announced(before))))
            {
                continue;
            }
            let weight = weigh(&facts, &token, (&version, &named), asked) + early;
            if weight >= LIGHTEST && best.as_ref().is_none_or(|(heaviest, ..)| weight > *heaviest) {
                best = Some((weight, named, Found { version, line: line.trim().to_owned(), named: None }));
            }
        }
    }
    let (_, named, found) = best?;
    let strange = matches!(named, Attribution::Other(_)) && (asked.known || others.len() > 1);
    let named = if let Attribution::Other(name) = named { Some(name) } else { None };
    (!strange).then_some(Found { named, ..found })
}

struct Token<'l> {
    text: &'l str,
    before: &'l str,
    after: &'l str,
}

/// What starts with a digit at the start of a word, or behind a name: `v1.2`, `go1.22`, `jq-1.6`, `shore/1.22.1`.
fn tokens(line: &str) -> Vec<Token<'_>> {
    let mut found = Vec::new();
    let mut from = 0;
    while let Some(offset) = line.get(from..).and_then(|rest| rest.find(|c: char| c.is_ascii_digit())) {
        let digit = from + offset;
        let before = line.get(..digit).unwrap_or("");
        let rest = line.get(digit..).unwrap_or("");
        let length = rest.find(|c: char| !(c.is_ascii_alphanumeric() || "._+~-".contains(c))).unwrap_or(rest.len());
        let text = rest.get(..length).unwrap_or("").trim_end_matches(['.', '_', '+', '~', '-']);
        // The number of a name goes before the hyphen: `iproute2-6.1.0`.
        let of_a_name = before.ends_with(|c: char| c.is_ascii_alphabetic()) && !before.ends_with(['v', 'V', 'r', 'R']);
        if let Some((number, _)) = text.split_once('-').filter(|(number, rest)| {
            of_a_name && number.bytes().all(|byte| byte.is_ascii_digit()) && rest.starts_with(|c: char| c.is_ascii_digit())
        }) {
            from = digit + number.len() + 1;
            continue;
        }
        // An `r` in front belongs to the version, when it is a word of its own.
        let revision = before.ends_with(['r', 'R']) && before.chars().rev().nth(1).is_none_or(char::is_whitespace);
        let start = if revision { digit - 1 } else { digit };
        let text = line.get(start..digit + text.len()).unwrap_or(text);
        found.push(Token { text, before: line.get(..start).unwrap_or(""), after: rest.get(length..).unwrap_or("") });
        from = digit + length.max(1);
    }
    found
}

/// Whether a word such as "version" stands directly before.
fn is_announced(before: &str) -> bool {
    let word = before.trim_end_matches(|c: char| !c.is_alphanumeric()).rsplit(|c: char| !c.is_alphanumeric()).next();
    matches!(word, Some("version" | "ver" | "release" | "rev" | "distrib"))
}

/// Whether a name is one of what a tool runs on or is built with, or a part of an address.
fn is_of_a_foundation(before: &str, name: &str) -> bool {
    let clause = before.rsplit([',', ';', '(', ')']).next().unwrap_or("");
    let mut words = clause.split(|c: char| !c.is_alphanumeric());
    RUNTIMES.contains(&name) || before.contains("://") || words.any(|word| BASES.contains(&word) || OTHERS.contains(&word))
}

/// Whether a number is a part of the name of a processor's architecture.
fn is_of_an_architecture(token: &Token<'_>) -> bool {
    let start = token.before.rfind(|c: char| !c.is_ascii_alphanumeric()).map_or(0, |at| at + 1);
    let word = format!("{}{}", token.before.get(start..).unwrap_or(""), token.text).to_ascii_lowercase();
    ["x86_64", "x86-64", "x64", "amd64", "aarch64", "arm64", "i386", "i586", "i686", "ppc64", "s390x", "riscv64"]
        .iter()
        .any(|name| word.starts_with(name))
}

/// What holds for every token of a line.
struct Line<'l> {
    /// In small letters, byte by byte as the line itself.
    lower: &'l str,
    named: bool,
}

fn weigh(line: &Line<'_>, token: &Token<'_>, (version, named): (&Version, &Attribution), asked: &Asked<'_>) -> i32 {
    let before = line.lower.get(..token.before.len()).unwrap_or("");
    let stem = before.trim_end_matches(['-', '/', '_', ' ', ':', '(', '[', '"', '\'', '=', 'v', ',']);
    let word = stem.rsplit(|c: char| !c.is_alphanumeric()).next().unwrap_or("");
    let numbers = count_numbers(token.text);
    let announced = is_announced(before);
    let directly = *named == Attribution::Own && !announced;
    let letters = before.chars().last().is_some_and(|c| c.is_alphanumeric() && c != 'v')
        && !directly
        && version.scheme == super::Scheme::Plain;
    let runtime = match named {
        Attribution::Other(name) => RUNTIMES.contains(&name.as_str()),
        Attribution::Own | Attribution::Nobody => false,
    };
    let clause = before.rsplit([',', ';', '(', ')']).next().unwrap_or("");
    let based = clause.split(|c: char| !c.is_alphanumeric()).any(|word| BASES.contains(&word));
    let sentence = before.rsplit([',', ';']).next().unwrap_or("");
    let licence = sentence.split(|c: char| !c.is_alphanumeric()).any(|word| LICENCES.contains(&word)) || sentence.contains("(c)");
    let own_number = asked.is_number_of_name(before, token.text);
    let after_number = before.ends_with(':') && before.trim_end_matches(':').ends_with(|c: char| c.is_ascii_digit());
    let mut weight = 0;
    let mut add = |holds: bool, by: i32| weight += if holds { by } else { 0 };
    add(numbers >= 2, 30);
    add(announced, 30);
    // The version of the product, where a program of it has another one of its own.
    add(word == "distrib", 20);
    add(announced && matches!(named, Attribution::Other(_)), -40);
    add(runtime, -60);
    add(own_number, -100);
    add(before.ends_with('v'), 15);
    add(line.named, 15);
    add(directly, 30);
    add(stem.is_empty(), 12);
    add(letters, -25);
    add(before.matches(['(', '[']).count() > before.matches([')', ']']).count() && !directly, -12);
    add(OTHERS.contains(&word) && !directly, -30);
    add(based, -30);
    add(numbers < 2 && !announced && !directly, -25);
    // The number of a line, or of something in a list.
    add(numbers < 2 && token.after.starts_with(':'), -60);
    add(is_of_an_architecture(token), -100);
    add(is_date(token.text), -70);
    add(is_year(token.text) && !directly && !announced, -40);
    add(token.after.trim_start().starts_with("bit") || token.text.contains("bit"), -80);
    add(before.contains("://") || before.ends_with('@') || (before.ends_with(':') && !(after_number && numbers > 2)), -40);
    add(licence, -70);
    add(numbers == 4 && token.text.starts_with("127."), -80);
    add(token.after.starts_with('%'), -80);
    weight
}

/// How many numbers stand at the start: `1.22.1` has three.
fn count_numbers(text: &str) -> usize {
    let digits = |part: &str| part.starts_with(|c: char| c.is_ascii_digit());
    text.trim_start_matches(['r', 'R']).split(['.', '_']).take_while(|part| digits(part)).count()
}

fn is_year(text: &str) -> bool {
    text.len() == 4 && matches!(text.parse::<u32>(), Ok(1970..=2100))
}

fn is_date(text: &str) -> bool {
    let parts: Vec<&str> = text.split('-').collect();
    matches!(parts.as_slice(), [year, month, day, ..] if is_year(year) && month.len() <= 2 && day.starts_with(|c: char| c.is_ascii_digit()))
}

#[cfg(test)]
mod tests {
    use super::{Asked, find};
    use rstest::rstest;

    #[rstest]
    #[case::plain("cmake", "cmake version 3.25.1\n\nCMake suite maintained and supported by Kitware", Some("3.25.1"))]
    #[case::a_name_before_a_hyphen("jq", "jq-1.6", Some("1.6"))]
    #[case::a_name_without_a_space("go", "go version go1.22.4 linux/amd64", Some("1.22.4"))]
    #[case::nothing_but_a_number("ninja", "1.11.1\n", Some("1.11.1"))]
    #[case::a_number_after_a_v("node", "v20.20.2", Some("20.20.2"))]
    #[case::a_distribution_in_parentheses(
        "gcc",
        "gcc (Debian 12.2.0-14+deb12u1) 12.2.0\nCopyright (C) 2022 Free Software Foundation",
        Some("12.2.0")
    )]
    #[case::a_year_and_bits("tool", "tool, 64-bit, Copyright 2019, version 7", Some("7"))]
    #[case::a_date_after("rustc", "rustc 1.95.0 (59807616e 2026-04-14)", Some("1.95.0"))]
    #[case::a_quoted_version(
        "openjdk",
        "openjdk version \"17.0.15\" 2025-04-15\nOpenJDK Runtime Environment (build 17.0.15+6-Debian)",
        Some("17.0.15")
    )]
    #[case::a_patch_level("ssh", "OpenSSH_9.2p1 Debian-2+deb12u7, OpenSSL 3.0.17 1 Jul 2025", Some("9.2p1"))]
    #[case::the_interpreter_after("pip", "pip 23.2.1 from /usr/lib/python3/dist-packages/pip (python 3.11)", Some("23.2.1"))]
    #[case::colours_into_a_pipe("buoyctl", "\u{1b}[1mbuoyctl\u{1b}[0m \u{1b}[32m2.4.0\u{1b}[0m", Some("2.4.0"))]
    #[case::a_revision_of_its_own("ndk", "ndk r26.1 ready", Some("r26.1"))]
    #[case::the_runtime_on_a_later_line(
        "mvn",
        "Apache Maven 3.8.7\nMaven home: /usr/share/maven\nJava version: 17.0.21, vendor: Debian",
        Some("3.8.7")
    )]
    #[case::the_number_in_its_own_name("lua5.4", "lua5.4: unrecognized option '--version'", None)]
    #[case::a_number_by_chance("ant", "Unknown argument: --version\n  -autoproxy   Java1.5+: use the OS proxy settings", None)]
    #[case::a_commit_behind_it(
        "scons",
        "SCons by others:\n\tSCons: v4.4.0.fc8d0ec215ee6cba, Sat, 30 Jul 2022",
        Some("4.4.0.fc8d0ec215ee6cba")
    )]
    #[case::no_version("tool", "usage: tool [options] file", None)]
    #[case::only_an_address("broker", "listening at 127.0.0.1:1883", None)]
    fn finds_the_version_that_a_person_would(#[case] tool: &str, #[case] text: &str, #[case] version: Option<&str>) {
        assert_eq!(find(text, &Asked::of(tool)).as_ref().map(|found| found.version.text()), version);
    }
}
