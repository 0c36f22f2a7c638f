//! The forms of a report for others, each read by something that is not ours, in situations that people are in.

mod cases;

use crate::harness::{in_folder, text};
use crate::trials;
use cases::{CASES, Case};
use libtest_mimic::Trial;
use serde_json::Value;
use std::collections::BTreeMap;
use std::fmt::Write as _;
use std::path::Path;
use std::process::Command;

/// The guide's first lines: what follows begins at the fourth.
const GUIDE: &str = "format = 1\nproject.name = \"Buoy\"\n\n";
const MACHINE: &str = "format = 1\nother_ports = \"free\"\npath = [\"/usr/bin\", \"/home/marisol/bin\"]\n[machine]\nname = \"made-up\"\n\
    [system]\nos = \"linux\"\ndistro = \"debian\"\ndistro_version = \"12\"\narch = \"x86_64\"\n[user]\nname = \"marisol\"\nhome = \"/home/marisol\"\n\
    shell = \"bash\"\n[[program]]\npath = \"/usr/bin/buoyctl\"\nprints = \"buoyctl 2.1\"\n";
const FORMS: [(&str, &str); 6] =
    [("junit", "r.xml"), ("tap", "r.tap"), ("sarif", "r.sarif"), ("markdown", "r.md"), ("html", "r.html"), ("json", "r.json")];

/// What a reader of `JUnit` makes of each case: by its name, with all that it says.
fn junit(read: &str) -> Result<BTreeMap<String, (String, String)>, String> {
    let report = quick_junit::Report::deserialize_from_str(read).map_err(|error| error.to_string())?;
    let other = junit_parser::from_reader(read.as_bytes()).map_err(|error| error.to_string())?;
    let mut made = BTreeMap::new();
    let mut counts = [0_u64; 3];
    for case in report.test_suites.iter().flat_map(|suite| &suite.test_cases) {
        let (word, said) = match &case.status {
            quick_junit::TestCaseStatus::Success { .. } => ("success", String::new()),
            quick_junit::TestCaseStatus::NonSuccess { kind, message, description, .. } => {
                let failed = *kind == quick_junit::NonSuccessKind::Failure;
                let said = format!("{} {}", message.as_deref().unwrap_or_default(), description.as_deref().unwrap_or_default());
                (if failed { "failure" } else { "error" }, said)
            }
            quick_junit::TestCaseStatus::Skipped { message, .. } => {
                ("skipped", message.as_deref().unwrap_or_default().to_owned())
            }
        };
        counts[0] += 1;
        counts[1] += u64::from(word == "failure");
        counts[2] += u64::from(word == "error");
        let name = format!("{} {}", case.classname.as_deref().unwrap_or_default(), case.name.as_str());
        if made.insert(name.clone(), (word.to_owned(), said)).is_some() {
            return Err(format!("two cases are called {name}"));
        }
    }
    let told = [other.tests, other.failures, other.errors];
    if told == counts { Ok(made) } else { Err(format!("it counts {told:?}, and holds {counts:?}")) }
}

/// What Perl's reader of TAP makes of each test, in a line each: the word, then its name and what it says.
const PERL: &str = r#"
use TAP::Parser; binmode STDOUT, ":utf8"; local $/; open my $in, "<:utf8", $ARGV[0]; my $parser = TAP::Parser->new({ tap => <$in> });
while (my $one = $parser->next) {
    if ($one->is_test) { print "\n", ($one->has_skip ? "skip" : $one->has_todo ? "todo" : $one->is_ok ? "ok" : "not ok"), "\t", $one->description, " ", $one->explanation }
    elsif ($one->is_yaml) { my $data = $one->data; print " ", map { my $text = $data->{$_}; $text =~ s/\n/ /g; "$text " } sort keys %$data }
    elsif (!$one->is_plan && !$one->is_version) { print "\nunknown\t", $one->as_string }
}
print "\nwrong\t$_" for $parser->parse_errors;
"#;

fn tap(within: &Path) -> Option<Vec<(String, String)>> {
    let perl = Command::new("perl").args(["-e", PERL, "r.tap"]).current_dir(within).output().ok()?;
    // A Perl without its modules reads nothing.
    perl.status.success().then(|| {
        let told = text(&perl.stdout);
        told.lines().filter_map(|line| line.split_once('\t')).map(|(word, rest)| (word.to_owned(), rest.to_owned())).collect()
    })
}

/// Markdown as it is seen: what is written in it, with a mark in front of each item, and what stands in blocks of code.
fn seen(markdown: &str) -> (String, Vec<String>) {
    use pulldown_cmark::{Event, Tag, TagEnd};
    let (mut all, mut blocks, mut within, mut numbers) = (String::new(), Vec::new(), false, Vec::new());
    for event in pulldown_cmark::Parser::new(markdown) {
        match event {
            Event::Start(Tag::CodeBlock(_)) => {
                within = true;
                blocks.push(String::new());
            }
            Event::End(TagEnd::CodeBlock) => within = false,
            Event::Text(text) | Event::Code(text) if within => blocks.last_mut().unwrap().push_str(&text),
            Event::Text(text) | Event::Code(text) => all.push_str(&text),
            Event::SoftBreak | Event::HardBreak => all.push(' '),
            Event::Start(Tag::List(first)) => numbers.push(first),
            Event::End(TagEnd::List(_)) => drop(numbers.pop()),
            Event::Start(Tag::Item) => match numbers.last_mut() {
                Some(Some(number)) => {
                    let _ = write!(all, "\n{number}. ");
                    *number += 1;
                }
                _ => all.push_str("\n- "),
            },
            Event::Html(text) | Event::InlineHtml(text) => {
                let _ = write!(all, "\nHTML: {text}");
            }
            Event::Start(Tag::Link { .. } | Tag::Image { .. } | Tag::Emphasis) => all.push_str("\nMARKUP: "),
            Event::End(TagEnd::Paragraph | TagEnd::Heading(_)) => all.push('\n'),
            _ => {}
        }
    }
    (all, blocks.into_iter().map(|block| block.trim_end().to_owned()).collect())
}

struct Read {
    junit: BTreeMap<String, (String, String)>,
    tap: Option<Vec<(String, String)>>,
    sarif: Value,
    markdown: (String, Vec<String>),
    titles: BTreeMap<String, String>,
}

/// What is not as it must be, of one case.
fn wrong(case: &Case) -> Vec<String> {
    let folder = tempfile::tempdir().unwrap();
    let (root, below) = (folder.path(), folder.path().join("below"));
    std::fs::create_dir(&below).unwrap();
    std::fs::create_dir(root.join(".git")).unwrap();
    let at = case.asked.iter().position(|word| *word == "--guide").map_or("setup-guide.toml", |at| case.asked[at + 1]);
    let within = if at.starts_with("..") { below.as_path() } else { root };
    std::fs::create_dir_all(within.join(at).parent().unwrap()).unwrap();
    std::fs::write(within.join(at), format!("{GUIDE}{}", case.guide)).unwrap();
    std::fs::write(within.join("machine.toml"), format!("{MACHINE}{}", case.machine)).unwrap();
    let run = |more: &[&str]| {
        let arguments = [&["preflight", "--machine", "machine.toml"], case.asked, more].concat();
        in_folder(within, "80", &arguments)
    };
    let also: Vec<String> = FORMS.iter().map(|(form, file)| format!("{form}={file}")).collect();
    let also: Vec<&str> = also.iter().flat_map(|one| ["--also", one.as_str()]).collect();
    let output = run(&also);
    let mut wrong = Vec::new();
    if output.status.code() != Some(case.status) {
        wrong.push(format!("status {:?}: {}{}", output.status.code(), text(&output.stdout), text(&output.stderr)));
        return wrong;
    }
    let mut texts = BTreeMap::new();
    for (form, file) in FORMS {
        let text_of = std::fs::read_to_string(within.join(file)).unwrap();
        let alone = run(&["--format", form]);
        if alone.status.code() != Some(case.status) {
            wrong.push(format!("{form} alone: status {:?}", alone.status.code()));
        }
        wrong.extend(case.nowhere.iter().filter(|part| text_of.contains(**part)).map(|part| format!("{form} has {part:?}")));
        texts.insert(form, text_of);
    }
    let report: Value = serde_json::from_str(&texts["json"]).unwrap();
    let titles = report["requirements"].as_array().unwrap().iter();
    let titles = titles.map(|one| (one["id"].as_str().unwrap().to_owned(), one["title"].as_str().unwrap().to_owned())).collect();
    match junit(&texts["junit"]) {
        Ok(junit) => {
            let (tap, sarif) = (tap(within), serde_json::from_str(&texts["sarif"]).unwrap());
            let read = Read { junit, tap, sarif, markdown: seen(&texts["markdown"]), titles };
            wrong.extend(case.each.iter().flat_map(|wants| of_one(&read, wants)));
            wrong.extend(of_all(&read, case, &texts["html"]));
        }
        Err(error) => wrong.push(format!("JUnit: {error}")),
    }
    wrong
}

fn of_one(read: &Read, (id, junit, tap, sarif): &(&str, &str, &str, &str)) -> Vec<String> {
    let mut wrong = Vec::new();
    let title = read.titles.get(*id).map_or(*id, String::as_str);
    // By its id, or by a title that no other has.
    let is_it =
        |name: &str| name.split(|c: char| c.is_whitespace() || "()".contains(c)).any(|word| word == *id) || name.contains(title);
    let mut found = read.junit.iter().filter(|(name, _)| is_it(name)).map(|(_, (word, _))| word.as_str());
    let (first, second) = (found.next().unwrap_or("nothing"), found.next());
    if first != *junit && second != Some(junit) {
        wrong.push(format!("{id} is {first} in JUnit and not {junit}: {:?}", read.junit));
    }
    if let Some(told) = &read.tap {
        let mut found = told.iter().filter(|(_, name)| is_it(name)).map(|(word, _)| word.as_str());
        let (first, second) = (found.next().unwrap_or("nothing"), found.next());
        if first != *tap && second != Some(tap) {
            wrong.push(format!("{id} is {first} in TAP and not {tap}: {told:?}"));
        }
    }
    let results = read.sarif["runs"][0]["results"].as_array().unwrap();
    let of_it = results.iter().find(|one| one["message"]["text"].as_str().unwrap().starts_with(&format!("{id}: ")));
    let told = of_it.map_or(String::new(), |one| {
        format!("{} {}", one["level"].as_str().unwrap(), one["locations"][0]["physicalLocation"]["region"]["startLine"])
    });
    let near = |told: &str| {
        let (level, line) = told.split_once(' ')?;
        Some((level.to_owned(), line.parse::<u32>().ok()?))
    };
    // At the table, or at the line in it that names what is wanted.
    let fits = match (near(&told), near(sarif)) {
        (Some((level, line)), Some((wanted, from))) => level == wanted && (from..from + 2).contains(&line),
        (told, wanted) => told.is_none() && wanted.is_none(),
    };
    if !fits {
        wrong.push(format!("{id} is {told:?} in SARIF and not {sarif:?}"));
    }
    wrong
}

fn of_all(read: &Read, case: &Case, html: &str) -> Vec<String> {
    let mut wrong = Vec::new();
    let junit = read.junit.iter().map(|(name, (_, said))| format!("{name} {said}")).collect::<Vec<_>>().join(" ");
    let (markdown, blocks) = &read.markdown;
    let unescaped = html
        .replace("&lt;", "<")
        .replace("&gt;", ">")
        .replace("&quot;", "\"")
        .replace("&#x27;", "'")
        .replace("&#39;", "'")
        .replace("&amp;", "&");
    let mut forms = vec![("JUnit", junit.as_str()), ("HTML", unescaped.as_str())];
    let tap = read.tap.as_ref().map(|told| told.iter().map(|(_, rest)| rest.as_str()).collect::<Vec<_>>().join(" "));
    forms.extend(tap.as_deref().map(|tap| ("TAP", tap)));
    for part in case.says {
        wrong.extend(
            forms
                .iter()
                .filter(|(_, said)| !said.contains(part))
                .map(|(form, said)| format!("{form} does not say {part:?}: {said:.600}")),
        );
    }
    wrong.extend(
        case.pasted
            .iter()
            .filter(|part| !markdown.contains(**part))
            .map(|part| format!("Markdown does not say {part:?}: {markdown}")),
    );
    wrong.extend(
        case.not_pasted
            .iter()
            .filter(|part| markdown.contains(**part) || blocks.iter().any(|block| block.contains(**part)))
            .map(|part| format!("Markdown says {part:?}: {markdown}")),
    );
    wrong.extend(
        case.not_pasted
            .iter()
            .filter(|part| **part == "marisol" && html.contains(**part))
            .map(|part| format!("HTML says {part:?}")),
    );
    wrong.extend(
        case.blocks
            .iter()
            .filter(|block| !blocks.iter().any(|one| one == *block))
            .map(|block| format!("no block of Markdown is {block:?}: {blocks:?}")),
    );
    wrong.extend(
        ["MARKUP: ", "HTML: "]
            .iter()
            .filter(|mark| markdown.contains(**mark))
            .map(|mark| format!("Markdown has {mark}: {markdown}")),
    );
    wrong.extend(
        ["<script>alert", "<img src=x", "<b>net"]
            .iter()
            .filter(|part| html.contains(**part))
            .map(|part| format!("HTML has {part}")),
    );
    for one in read.tap.iter().flatten().filter(|(word, _)| ["wrong", "unknown"].contains(&word.as_str())) {
        wrong.push(format!("TAP: {one:?}"));
    }
    let schema: Value = serde_json::from_str(include_str!("../schemas/sarif-2.1.0.json")).unwrap();
    let complaints: Vec<String> =
        jsonschema::validator_for(&schema).unwrap().iter_errors(&read.sarif).map(|error| error.to_string()).collect();
    wrong.extend(complaints.into_iter().map(|error| format!("SARIF: {error}")));
    for one in read.sarif["runs"][0]["results"].as_array().unwrap() {
        let uri = one["locations"][0]["physicalLocation"]["artifactLocation"]["uri"].as_str().unwrap();
        // A code host looks for it below the repository's root.
        let wanted =
            if case.asked.contains(&"my guides/setup-guide.toml") { "my%20guides/setup-guide.toml" } else { "setup-guide.toml" };
        if uri != wanted {
            wrong.push(format!("SARIF: the file is {uri:?}"));
        }
    }
    wrong
}

/// Each form says to its readers what they must know.
pub(crate) fn tests() -> Vec<Trial> {
    trials::of("forms", CASES, 8, |case| case.name, wrong)
}
