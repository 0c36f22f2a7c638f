//! Texts that are too long, too deep or too odd to be written into a list: `@names:100000@` and their like.

use std::fmt::Write as _;

/// One of each class that may not reach a reader as it is: controls, invisible ones, blanks, directions, tags, private, unassigned, a heap of accents.
const ODD: &str = "\u{7}\u{8}\r\u{1b}[31m\u{7f}\u{85}\u{9b}2J\u{a0}\u{ad}\u{34f}\u{61c}\u{115f}\u{1160}\u{1680}\u{17b4}\u{180e}\u{2003}\u{200b}\u{200d}\u{200e}\u{2028}\
                   \u{2029}\u{202e}\u{202f}\u{205f}\u{2060}\u{2066}\u{206a}\u{2800}\u{3000}\u{3164}\u{e000}\u{fe0f}\u{feff}\u{ffa0}\u{fff9}\u{fffe}\u{1bca0}\u{1d173}\u{378}\
                   \u{e0001}\u{e0041}\u{e0100}\u{f0000}\u{10ffff}a\u{300}\u{301}\u{302}\u{303}\u{304}\u{305}\u{306}\u{307}\u{308}";

/// Whether a character of an output shows what it is, or does what it must not.
pub(crate) fn is_odd(character: char) -> bool {
    let code = character as u32;
    (character.is_control() && character != '\n')
        || ODD
            .chars()
            .skip_while(|one| *one != '\u{a0}')
            .any(|one| one == character && !one.is_ascii() && !(0x300..0x370).contains(&(one as u32)))
        || matches!(code, 0x200b..=0x200f | 0x2028..=0x202e | 0x2060..=0x206f | 0xfe00..=0xfe0f | 0xe000..=0xf8ff | 0xe0000..=0xe0fff | 0xf0000..)
}

/// The text with its large and odd parts made.
pub(crate) fn filled(text: &str) -> String {
    let octal = |text: &str| {
        text.bytes().fold(String::new(), |mut all, byte| {
            let _ = write!(all, "\\{byte:03o}");
            all
        })
    };
    let escaped = ODD.chars().fold(String::new(), |mut all, one| {
        let _ = write!(all, "\\U{:08X}", one as u32);
        all
    });
    let raw: String = ODD.chars().filter(|one| !one.is_control()).collect();
    let mut text = text
        .replace("@odd-printf@", &octal(ODD))
        .replace("@odd-file@", &octal(ODD))
        .replace("@odd-raw@", &raw)
        .replace("@odd@", &format!("{escaped}\\n"));
    let large = |text: &str| text.match_indices('@').find_map(|(at, _)| Some((at, part(text.get(at..)?)?)));
    while let Some((start, (length, made))) = large(&text) {
        text.replace_range(start..start + length, &made);
    }
    text
}

/// The part that a text begins with: its length, and what is made of it.
fn part(text: &str) -> Option<(usize, String)> {
    let end = text.get(1..)?.find('@')? + 1;
    let (kind, count) = text.get(1..end)?.split_once(':')?;
    let count: usize = count.parse().ok()?;
    let list = |make: &dyn Fn(usize) -> String| (0..count).map(make).collect::<Vec<_>>();
    let quoted = |stem: &str| list(&|number| format!("\"{stem}{number}\"")).join(", ");
    let git = "[require.git]\ntool = \"git\"\n";
    let made = match kind {
        "alternatives" => format!("{git}[require.x]\nany_of = [{}]\n", vec!["\"git\""; count].join(", ")),
        "names" => format!("[require.x]\ntool = [{}]\n", quoted("lure-")),
        "stages" => list(&|number| format!("[[stage]]\nid = \"s{number}\"\ntitle = \"t\"\n")).concat() + git,
        "roles" => list(&|number| format!("[role.r{number}]\n")).concat() + git,
        "requirements" => list(&|number| format!("[require.r{number}]\ntool = \"git\"\n")).concat(),
        "roles-of-one" => format!("[role.r]\n{git}roles = [{}]\n", vec!["\"r\""; count].join(", ")),
        "fixes" => git.to_owned() + &list(&|number| format!("[[require.git.fix]]\nsay = \"s{number}\"\n")).concat(),
        "runs" => format!("{git}[[require.git.fix]]\nsay = \"s\"\nrun = [{}]\n", quoted("true ")),
        "words" => format!("[require.x]\ncommand = [\"true\", {}]\n", quoted("w")),
        "nested" => format!("[require.x]\ntool = {}\"git\"{}\n", "[".repeat(count), "]".repeat(count)),
        "long" => format!("{git}why = \"{}\"\n", "x".repeat(count)),
        "condition" => format!("{git}when = \"{}linux{}\"\n", "(".repeat(count), ")".repeat(count)),
        "commands" => list(&|number| format!("[require.r{number}]\ncommand = [\"true\", \"lure-{number}\"]\n")).concat(),
        _ => return None,
    };
    Some((end + 1, made))
}
