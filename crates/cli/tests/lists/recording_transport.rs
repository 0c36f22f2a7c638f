//! What arrives is seldom what was sent: shells, editors, mails, chats and packers change it on its way.
//!
//! Each row is one way. What still says the same is read; of the rest it is told what it is and what to ask for. Written before anything was
//! done for it, from docs/many-machines.md and from what is known of those programs; of the first 47, 11 held then.

use crate::harness::{in_folder, text};
use crate::trials;
use libtest_mimic::Trial;
use std::io::Write as _;
use std::path::Path;
use std::process::Output;
use std::sync::OnceLock;

const SENT: &str = include_str!("../recordings/kept/laptop.recording.json");

enum Then {
    /// Everything reads it, and it says the same.
    Read,
    /// Nothing reads it; these words are told, by each command.
    Told(&'static [&'static str]),
}
use Then::{Read, Told};

type Way = (&'static str, &'static str, fn(&str) -> Vec<u8>, Then);

fn utf16(text: &str, order: fn(u16) -> [u8; 2]) -> Vec<u8> {
    text.encode_utf16().flat_map(order).collect()
}

fn lines(sent: &str, change: impl Fn(&str) -> String) -> Vec<u8> {
    sent.lines().map(|line| change(line) + "\n").collect::<String>().into_bytes()
}

fn again(sent: &str, write: impl Fn(&serde_json::Value) -> String) -> Vec<u8> {
    write(&serde_json::from_str(sent).unwrap()).into_bytes()
}

fn gzip(bytes: &[u8]) -> Vec<u8> {
    let mut packed = flate2::write::GzEncoder::new(Vec::new(), flate2::Compression::fast());
    packed.write_all(bytes).unwrap();
    packed.finish().unwrap()
}

/// With its keys in the order of their letters, as many tools write them.
fn sorted(sent: &str) -> Vec<u8> {
    again(sent, |value| serde_json::to_string_pretty(value).unwrap())
}

/// The first block of an archive as tar writes it (POSIX.1-1988): the name, and `ustar` at its place.
fn tar(sent: &str) -> Vec<u8> {
    let mut block = vec![0; 512];
    block[..19].copy_from_slice(b"mine.recording.json");
    block[257..263].copy_from_slice(b"ustar\0");
    block.extend(sent.as_bytes());
    block
}

const DEEP: &str = "\u{a0}";

const WAYS: &[Way] = &[
    // Encodings.
    (
        "with the mark of UTF-8 before it, as Notepad saves",
        "a.recording.json",
        |sent| [b"\xef\xbb\xbf", sent.as_bytes()].concat(),
        Read,
    ),
    (
        "redirected by Windows PowerShell: UTF-16 with its mark and CRLF",
        "b.recording.json",
        |sent| utf16(&format!("\u{feff}{}", sent.replace('\n', "\r\n")), u16::to_le_bytes),
        Read,
    ),
    ("UTF-16 in the other order", "c.recording.json", |sent| utf16(&format!("\u{feff}{sent}"), u16::to_be_bytes), Read),
    ("UTF-16 without a mark", "d.recording.json", |sent| utf16(sent, u16::to_le_bytes), Read),
    ("with the line ends of Windows", "e.recording.json", |sent| sent.replace('\n', "\r\n").into_bytes(), Read),
    (
        "saved as Latin-1",
        "f.recording.json",
        |sent| {
            sent.replacen("firmware", "f\u{1}rmware", 1)
                .into_bytes()
                .iter()
                .map(|byte| if *byte == 1 { 0xfc } else { *byte })
                .collect()
        },
        Told(&["not UTF-8", "encoding"]),
    ),
    // Editors and formatters.
    ("on one line", "g.recording.json", |sent| again(sent, ToString::to_string), Read),
    ("with its keys in another order", "h.recording.json", sorted, Read),
    ("indented by tabs", "i.recording.json", |sent| lines(sent, |line| line.replace("  ", "\t")), Read),
    ("with empty lines around it", "j.recording.json", |sent| format!("\n\n{sent}\n\n\n").into_bytes(), Read),
    (
        "with a comma that somebody left behind",
        "k.recording.json",
        |sent| {
            sent.trim_end().strip_suffix('}').unwrap().trim_end().to_owned().into_bytes().into_iter().chain(*b",\n}\n").collect()
        },
        Told(&["line "]),
    ),
    // Names.
    ("called by a browser as the second of its name", "mine.recording (1).json", |sent| sent.as_bytes().to_vec(), Read),
    ("called in capitals", "MINE.RECORDING.JSON", |sent| sent.as_bytes().to_vec(), Read),
    ("called .txt, since the forum takes nothing else", "mine.recording.json.txt", |sent| sent.as_bytes().to_vec(), Read),
    ("called by no ending", "recording", |sent| sent.as_bytes().to_vec(), Read),
    ("called like a described machine", "mine.toml", |sent| sent.as_bytes().to_vec(), Read),
    // Packed.
    ("compressed with gzip", "l.recording.json.gz", |sent| gzip(sent.as_bytes()), Read),
    ("compressed with gzip, and called as if it were not", "m.recording.json", |sent| gzip(sent.as_bytes()), Read),
    (
        "compressed with gzip, without its end",
        "lm.recording.json.gz",
        |sent| {
            let packed = gzip(sent.as_bytes());
            packed[..packed.len() / 2].to_vec()
        },
        Told(&["compressed with gzip", "whole file"]),
    ),
    (
        "in a zip archive",
        "n.zip",
        |sent| [b"PK\x03\x04\x14\0\0\0\x08\0", sent.as_bytes()].concat(),
        Told(&["zip archive", "unpack"]),
    ),
    (
        "in a zip archive, and called as if it were not",
        "o.recording.json",
        |sent| [b"PK\x03\x04\x14\0\0\0\x08\0", sent.as_bytes()].concat(),
        Told(&["zip archive", "unpack"]),
    ),
    ("in a tar archive", "p.tar", tar, Told(&["tar archive", "unpack"])),
    ("in a compressed tar archive", "q.tar.gz", |sent| gzip(&tar(sent)), Told(&["tar archive", "unpack"])),
    ("compressed with xz", "r.recording.json.xz", |_| b"\xfd7zXZ\0\0\x04".to_vec(), Told(&["compressed with xz", "unpack"])),
    (
        "compressed with zstd",
        "s.recording.json.zst",
        |_| b"\x28\xb5\x2f\xfd\x04\0".to_vec(),
        Told(&["compressed with zstd", "unpack"]),
    ),
    ("compressed with bzip2", "t.recording.json.bz2", |_| b"BZh91AY&SY\0".to_vec(), Told(&["compressed with bzip2", "unpack"])),
    ("in a 7z archive", "u.7z", |_| b"7z\xbc\xaf\x27\x1c\0\x04".to_vec(), Told(&["7z archive", "unpack"])),
    // Mails, chats, issues.
    ("between the fences of Markdown", "v.recording.json", |sent| format!("```json\n{sent}```\n").into_bytes(), Read),
    (
        "with the prompt before it and behind it, copied from a terminal",
        "w.recording.json",
        |sent| format!("ann@here:~/driftbuoy$ setup-ready record --yes\n{sent}ann@here:~/driftbuoy$ \n").into_bytes(),
        Read,
    ),
    (
        "with a greeting and a name below",
        "x.recording.json",
        |sent| format!("Hello Ada,\n\nhere it is:\n\n{sent}\nGreetings, Ann\n").into_bytes(),
        Read,
    ),
    ("quoted in an answer", "y.recording.json", |sent| lines(sent, |line| format!("> {line}")), Read),
    (
        "with blanks that a web page made hard",
        "z.recording.json",
        |sent| {
            lines(sent, |line| {
                let bare = line.trim_start();
                DEEP.repeat(line.len() - bare.len()) + bare
            })
        },
        Read,
    ),
    (
        "with curly quotation marks, as word processors like them",
        "aa.recording.json",
        |sent| lines(sent, |line| line.replace('"', "\u{201d}")),
        Told(&["quotation marks", "attach"]),
    ),
    (
        "with what HTML makes of quotation marks",
        "ab.recording.json",
        |sent| lines(sent, |line| line.replace('"', "&quot;")),
        Told(&["quotation marks", "attach"]),
    ),
    (
        "with its long lines broken",
        "ac.recording.json",
        |sent| sent.replacen("6.1.0-28-amd64", "6.1.0-28\n-amd64", 1).into_bytes(),
        Told(&["lines", "broken", "attach"]),
    ),
    (
        "as mail carries it (quoted-printable)",
        "ad.recording.json",
        |sent| lines(sent, |line| line.replacen(": ", ": =20", 1).replacen("=20\"", "=\n\"", 1)),
        Told(&["attach"]),
    ),
    ("without its end", "ae.recording.json", |sent| sent.as_bytes()[..sent.len() / 2].to_vec(), Told(&["cut off", "whole file"])),
    (
        "without its beginning",
        "af.recording.json",
        |sent| sent.as_bytes()[sent.len() / 2..].to_vec(),
        Told(&["beginning", "whole file"]),
    ),
    (
        "without the middle, since the terminal kept only so much",
        "ag.recording.json",
        |sent| {
            let (first, rest) = (&sent[..sent.len() / 3], &sent[sent.len() / 2..]);
            format!("{first}{rest}").into_bytes()
        },
        Told(&["whole file"]),
    ),
    ("with nothing in it but line ends", "ah.recording.json", |_| b"\r\n\r\n".to_vec(), Told(&["empty"])),
    (
        "with its keys in another order, between fences",
        "ba.recording.json",
        |sent| format!("It says:\n\n```\n{}\n```\n", String::from_utf8(sorted(sent)).unwrap()).into_bytes(),
        Read,
    ),
    (
        "below a greeting, without its end",
        "bb.recording.json",
        |sent| format!("Hello Ada,\n\n{}", &sent[..sent.len() / 2]).into_bytes(),
        Told(&["cut off", "whole file"]),
    ),
    (
        "below a greeting, without its beginning",
        "bc.recording.json",
        |sent| format!("Hello Ada,\n\n{}", &sent[sent.len() / 2..]).into_bytes(),
        Told(&["beginning", "whole file"]),
    ),
    (
        "with the numbers of lines before it, as viewers of code show them",
        "bd.recording.json",
        |sent| format!("1 {}", sent.replace('\n', "\n2 ")).into_bytes(),
        Told(&["setup-ready record"]),
    ),
    (
        "as a text within another document",
        "be.recording.json",
        |sent| serde_json::to_string(sent).unwrap().into_bytes(),
        Told(&["setup-ready "]),
    ),
    (
        "quoted twice, with a line of who wrote it",
        "bf.recording.json",
        |sent| [b"On Friday Ann wrote:\n".to_vec(), lines(sent, |line| format!(">> {line}"))].concat(),
        Read,
    ),
    // Something else was sent.
    ("a picture of it", "ai.png", |_| b"\x89PNG\r\n\x1a\n\0\0\0\rIHDR".to_vec(), Told(&["picture", "setup-ready record"])),
    ("a photograph of it", "aj.jpg", |_| b"\xff\xd8\xff\xe0\0\x10JFIF".to_vec(), Told(&["picture", "setup-ready record"])),
    ("a PDF of it", "ak.pdf", |_| b"%PDF-1.7\n%\xe2\xe3".to_vec(), Told(&["PDF", "setup-ready record"])),
    (
        "the page of a report",
        "al.html",
        |_| b"<!doctype html>\n<html lang=\"en\"><head><title>Driftbuoy</title>".to_vec(),
        Told(&["HTML", "setup-ready record"]),
    ),
    (
        "the report for build servers",
        "am.xml",
        |_| b"<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n<testsuites name=\"Driftbuoy\">".to_vec(),
        Told(&["XML", "setup-ready record"]),
    ),
    (
        "the report as it was shown",
        "an.txt",
        |_| b"NOT READY  2 of 14 needed things are not met.\n\n  unmet    CMake\n".to_vec(),
        Told(&["setup-ready record"]),
    ),
    ("somebody else's JSON", "ao.json", |_| b"{\"name\": \"tides\", \"version\": \"1.0.0\"}".to_vec(), Told(&["setup-ready "])),
    ("two of them in one file", "ap.recording.json", |sent| format!("{sent}{sent}").into_bytes(), Told(&["more than one"])),
];

fn run(arguments: &[&str], within: &Path) -> Output {
    in_folder(within, "80", arguments)
}

fn verdicts(output: &Output) -> Vec<String> {
    let report: serde_json::Value = serde_json::from_slice(&output.stdout).unwrap_or_default();
    let all = report["requirements"].as_array().cloned().unwrap_or_default();
    all.iter().map(|one| format!("{} {} {}", one["id"], one["verdict"], one["message"])).collect()
}

/// What was sent: its text, what a replay of it comes to, and what the survey counts it as.
struct Sent {
    text: String,
    verdicts: Vec<String>,
    counted_as: &'static str,
}

/// What is wrong with how each command takes it.
fn wrong(within: &Path, file: &str, then: &Then, sent: &Sent) -> Vec<String> {
    let replayed = run(&["preflight", "--machine", file, "--format", "json"], within);
    let compared = run(&["compare", "sent.json", file], within);
    let surveyed = run(&["survey", file, "--format", "json"], within);
    let mut wrong = Vec::new();
    match then {
        Read => {
            // A report cannot be replayed, and is said to be one however it arrived.
            let is_told = sent.verdicts.is_empty() && text(&replayed.stderr).contains("it is a report");
            if verdicts(&replayed) != sent.verdicts || (sent.verdicts.is_empty() && !is_told) {
                wrong.push(format!("preflight: {}", text(&replayed.stderr)));
            }
            if compared.status.code() != Some(0) {
                wrong.push(format!("compare: {}", text(&compared.stderr)));
            }
            let survey: serde_json::Value = serde_json::from_slice(&surveyed.stdout).unwrap_or_default();
            if survey[sent.counted_as] != 1 || survey["broken"] != 0 {
                wrong.push(format!("survey: {} {}", survey["broken_named"], text(&surveyed.stderr)));
            }
        }
        Told(words) => {
            for (command, output) in [("preflight", &replayed), ("compare", &compared), ("survey", &surveyed)] {
                let said = format!("{}{}", text(&output.stdout), text(&output.stderr));
                let said = said.split_whitespace().collect::<Vec<_>>().join(" ");
                // What is whole enough to be known as a report is said to be that.
                if command == "preflight" && sent.verdicts.is_empty() && said.contains("it is a report") {
                    continue;
                }
                let missing: Vec<_> = words.iter().filter(|word| !said.contains(**word)).collect();
                if !missing.is_empty() || !said.contains(file) || matches!(output.status.code(), Some(0 | 1 | 3)) {
                    wrong.push(format!("{command} ({:?}), without {missing:?}: {said}", output.status.code()));
                }
            }
        }
    }
    wrong
}

/// A folder with the guide and with what was sent.
fn folder_with(sent: &Sent) -> tempfile::TempDir {
    let folder = tempfile::tempdir().unwrap();
    std::fs::write(folder.path().join("setup-guide.toml"), include_str!("../recordings/kept/setup-guide.toml")).unwrap();
    std::fs::write(folder.path().join("sent.json"), &sent.text).unwrap();
    folder
}

/// The recording, and the report that its replay comes to.
fn both() -> &'static [Sent; 2] {
    static BOTH: OnceLock<[Sent; 2]> = OnceLock::new();
    BOTH.get_or_init(|| {
        let mut recording = Sent { text: SENT.to_owned(), verdicts: Vec::new(), counted_as: "recordings" };
        let folder = folder_with(&recording);
        let replayed = run(&["preflight", "--machine", "sent.json", "--format", "json"], folder.path());
        recording.verdicts = verdicts(&replayed);
        assert!(recording.verdicts.len() > 10);
        [recording, Sent { text: text(&replayed.stdout), verdicts: Vec::new(), counted_as: "reports" }]
    })
}

/// What was changed on its way is read, or it is told what became of it.
pub(crate) fn tests() -> Vec<Trial> {
    let case = |(way, sent): (&'static Way, usize)| {
        let (name, file, make, then) = way;
        let kind = ["a_recording", "a_report"][sent];
        trials::test("arrived", &format!("{kind}_{name}"), move || {
            let sent = &both()[sent];
            let folder = folder_with(sent);
            std::fs::write(folder.path().join(file), make(&sent.text)).unwrap();
            wrong(folder.path(), file, then, sent)
        })
    };
    // What is read is the same everywhere; under Wine, each start of the program takes long.
    let ways = WAYS.iter().take(if cfg!(windows) { 6 } else { WAYS.len() });
    let mut tests: Vec<Trial> = ways.flat_map(|way| [(way, 0), (way, 1)]).map(case).collect();
    tests.extend(trials::functions!(
        "arrived": what_a_folder_holds_besides_is_named,
        what_another_place_told_is_read_from_whatever_its_shell_wrote,
    ));
    tests
}

fn what_a_folder_holds_besides_is_named() {
    let folder = tempfile::tempdir().unwrap();
    std::fs::write(folder.path().join("setup-guide.toml"), include_str!("../recordings/kept/setup-guide.toml")).unwrap();
    let class = folder.path().join("class");
    std::fs::create_dir(&class).unwrap();
    for name in ["ann.recording.json", "ben.recording.json.txt", "notes.md", "the rest.zip", "z.log"] {
        std::fs::write(class.join(name), SENT).unwrap();
    }
    let told = "4 files were not read, since their names end in none of .json, .ndjson and .jsonl: class/ben.recording.json.txt, class/notes.md, \
                class/the rest.zip and 1 more. To have one of them read, name it."
    .replace('/', std::path::MAIN_SEPARATOR_STR);
    for (form, on_stdout) in [("text", true), ("csv", false)] {
        let output = run(&["survey", "class", "--format", form], folder.path());
        let shown = text(if on_stdout { &output.stdout } else { &output.stderr });
        assert!(shown.split_whitespace().collect::<Vec<_>>().join(" ").contains(&told), "{shown}");
        assert_eq!(output.status.code(), Some(0));
    }
}

fn what_another_place_told_is_read_from_whatever_its_shell_wrote() {
    let folder = tempfile::tempdir().unwrap();
    let guide = "format = 1\n[project]\nname = \"Driftbuoy\"\n[place.guest]\ntitle = \"the guest\"\nwhen = \"ci and not ci\"\n\
                 [require.there]\ncores = 1\nplace = \"guest\"\n";
    std::fs::write(folder.path().join("setup-guide.toml"), guide).unwrap();
    let told = text(&run(&["preflight", "--place", "guest", "--format", "json"], folder.path()).stdout);
    let ready = "READY Nothing is needed here, and all that was told of other places is as it should be.";
    let marked = format!("\u{feff}{told}");
    for bytes in [told.clone().into_bytes(), marked.clone().into_bytes(), utf16(&marked, u16::to_le_bytes)] {
        std::fs::write(folder.path().join("guest.json"), bytes).unwrap();
        let output = run(&["preflight", "--with", "guest=guest.json", "-q"], folder.path());
        assert_eq!(
            (text(&output.stdout).split_whitespace().collect::<Vec<_>>().join(" ").as_str(), output.status.code()),
            (ready, Some(0))
        );
    }
}
