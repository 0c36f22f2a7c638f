//! A guide as Markdown, to stand in a project's document for contributors, and its place there between two marks.

use setup_ready_core::guide::{Project, Then};
use setup_ready_core::outline::{Chapter, Item, Outline, level_word, systems_in_words};
use setup_ready_core::text::{Sanitised, without_credentials};
use std::fmt::Write;

/// The comment before what is written.
pub(crate) const BEGIN: &str = "<!-- setup guide: begin -->";
/// The comment behind it.
pub(crate) const END: &str = "<!-- setup guide: end -->";
/// Stands behind the first mark, for whoever edits the file.
const NOTE: &str = "<!-- Written from setup-guide.toml by `setup-ready render markdown --into FILE`: change the guide, and have it written again. -->";

/// Text of the guide within a line of Markdown: nothing in it is markup, but what stands between back quotes is a command.
pub(super) fn plain(text: &str) -> String {
    let text = Sanitised::line(text).to_string();
    let parts: Vec<&str> = text.split('`').collect();
    if parts.len().is_multiple_of(2) {
        return escaped(&text);
    }
    let part = |(at, part): (usize, &&str)| if at % 2 == 1 && !part.is_empty() { code(part) } else { escaped(part) };
    parts.iter().enumerate().map(part).collect()
}

fn escaped(text: &str) -> String {
    let mut out = String::new();
    for c in text.chars() {
        if matches!(c, '\\' | '`' | '*' | '_' | '[' | ']' | '<' | '>' | '|' | '#' | '~') {
            out.push('\\');
        }
        out.push(c);
    }
    out
}

/// A command within a line.
fn code(text: &str) -> String {
    let text = Sanitised::command(text).to_string().replace('|', "\\|");
    let longest = text.split(|c| c != '`').map(str::len).max().unwrap_or(0);
    let fence = "`".repeat(longest + 1);
    let pad = if text.starts_with('`') || text.ends_with('`') { " " } else { "" };
    format!("{fence}{pad}{text}{pad}{fence}")
}

/// Commands on lines of their own.
fn block(out: &mut String, lines: &[impl AsRef<str>]) {
    let lines: Vec<String> = lines.iter().map(|line| Sanitised::command(line.as_ref()).to_string()).collect();
    let longest = lines.iter().flat_map(|line| line.split(|c| c != '`')).map(str::len).max().unwrap_or(0);
    let fence = "`".repeat(longest.max(2) + 1);
    let _ = writeln!(out, "{fence}sh\n{}\n{fence}\n", lines.join("\n"));
}

/// The guide as Markdown; its headings begin at the second level.
pub fn guide_markdown(outline: &Outline<'_>) -> String {
    let project = &outline.guide.project;
    let mut out = format!("## Getting ready to work on {}\n\n", plain(&project.name));
    let systems = systems_in_words(&outline.systems);
    let _ = writeln!(out, "You can work on {systems}.\n");
    getting(&mut out, project);
    out.push_str("This command, in the project's folder, looks at your machine, says what is missing, and how you get it:\n\n");
    block(&mut out, &["setup-ready preflight"]);
    if !outline.guide.roles.is_empty() {
        out.push_str("Which of these are you? Each needs only what names it, and what is for everyone.\n\n");
        for role in &outline.guide.roles {
            let about = role.about.as_deref().map(|about| format!(": {}", plain(about))).unwrap_or_default();
            let _ = writeln!(out, "- **{}**{about}", plain(&role.id));
        }
        out.push('\n');
    }
    for (number, chapter) in outline.chapters.iter().enumerate() {
        stage(&mut out, number + 1, chapter, outline);
    }
    installing(&mut out, outline);
    advice(&mut out, outline);
    out.push_str("### When you are stuck\n\n");
    out.push_str("`setup-ready explain` has a page for each thing above; `setup-ready plan --format markdown` writes down what is missing, to be sent along.");
    if let Some(help) = &project.help {
        let _ = write!(out, " {}", plain(help));
    }
    out.push('\n');
    if !project.first_step.is_empty() {
        out.push_str("\n### When all is ready\n\n");
        block(&mut out, &project.first_step);
    }
    format!("{}\n", out.trim_end())
}

/// Where the program comes from.
fn getting(out: &mut String, project: &Project) {
    if project.get.is_empty() {
        return;
    }
    let release = project.needs.as_ref().map(|needs| format!(", release {}", code(needs.text()))).unwrap_or_default();
    let _ = writeln!(out, "First get the program `setup-ready`{release}:\n");
    for way in &project.get {
        let with = way.title().map(|title| format!("{}: ", plain(title))).unwrap_or_default();
        let line = if way.is_page() { format!("<{}>", without_credentials(&way.line)) } else { code(&way.line) };
        let _ = writeln!(out, "- {with}{line}");
    }
    out.push('\n');
}

fn stage(out: &mut String, number: usize, chapter: &Chapter<'_>, outline: &Outline<'_>) {
    let _ = writeln!(out, "### {number}. {}\n", plain(&chapter.stage.title));
    if let Some(intro) = &chapter.stage.intro {
        let _ = writeln!(out, "{}\n", plain(intro));
    }
    if chapter.stage.after_start && !chapter.stage.start.is_empty() {
        block(out, &chapter.stage.start);
    }
    let whom = chapter.items.iter().any(|item| !item.roles.is_empty());
    out.push_str(if whom {
        "| what | wanted | | for | why |\n| --- | --- | --- | --- | --- |\n"
    } else {
        "| what | wanted | | why |\n| --- | --- | --- | --- |\n"
    });
    for item in &chapter.items {
        let title = plain(&item.title);
        let level = if item.requirement.alternative { "one of several" } else { level_word(item.requirement.level) };
        let _ = write!(out, "| {title} | {} | {level} |", wanted(item, outline));
        if whom {
            let roles = if item.roles.is_empty() {
                "everyone".to_owned()
            } else {
                item.roles.iter().map(|role| plain(role)).collect::<Vec<_>>().join(", ")
            };
            let _ = write!(out, " {roles} |");
        }
        let why = item.requirement.why.as_deref().map(plain).unwrap_or_default();
        let docs = item.requirement.docs.as_deref().map(|docs| format!(" [More]({})", link(docs))).unwrap_or_default();
        let _ = writeln!(out, " {why}{docs} |");
    }
    out.push('\n');
}

/// An address as the target of a link.
fn link(address: &str) -> String {
    let address = Sanitised::line(&setup_ready_core::text::without_credentials(address)).to_string();
    // What would end the target, or the cell that it stands in, is written by its number (RFC 3986).
    address.chars().map(|c| if " ()<>|\"`\\".contains(c) { format!("%{:02X}", u32::from(c)) } else { c.to_string() }).collect()
}

fn wanted(item: &Item<'_>, outline: &Outline<'_>) -> String {
    let only = if item.systems == outline.systems || item.systems.is_empty() {
        String::new()
    } else {
        format!(" (only on {})", systems_in_words(&item.systems))
    };
    let place = item.place.map(|place| format!(" (in {})", plain(place))).unwrap_or_default();
    format!("{}{place}{only}", plain(&item.wants)).trim().to_owned()
}

/// The packages, a column for each package manager, and a command for all of them.
fn installing(out: &mut String, outline: &Outline<'_>) {
    let managers: Vec<_> = outline.systems.iter().flat_map(|os| outline.managers(*os)).collect();
    if managers.is_empty() {
        return;
    }
    out.push_str("### Installing it\n\nAll that has a package, with one command; take the one for your system:\n\n");
    for manager in &managers {
        if let Some(command) = outline.install_all(*manager, None) {
            let _ = writeln!(out, "{} with {}:\n", manager.system().name(), manager.word());
            block(out, &[command]);
        }
    }
    if !outline.guide.roles.is_empty() {
        out.push_str(
            "They bring what any of the roles needs; `setup-ready plan --role ROLE` has only what is missing for yours.\n\n",
        );
    }
}

/// What the guide itself says to do.
fn advice(out: &mut String, outline: &Outline<'_>) {
    let with: Vec<&Item<'_>> =
        outline.chapters.iter().flat_map(|chapter| &chapter.items).filter(|item| !item.advice.is_empty()).collect();
    if with.is_empty() {
        return;
    }
    out.push_str("### How to get what has no package\n\n");
    for item in with {
        for one in &item.advice {
            let on = one.when.as_ref().map(|when| format!(" ({})", plain(when))).unwrap_or_default();
            let _ = write!(out, "- **{}**{on}: {}", plain(&item.title), plain(one.say));
            for command in &one.run {
                let _ = write!(out, " {}", code(command));
            }
            if let Some((task, lines)) = &one.edit {
                let _ = write!(out, " {}", plain(task));
                for line in lines.lines() {
                    let _ = write!(out, " {}", code(line));
                }
            }
            match one.then {
                Some(Then::NewShell) => out.push_str(" Then open a new terminal."),
                Some(Then::SignIn) => out.push_str(" Then sign out and in again."),
                Some(Then::Restart) => out.push_str(" Then restart."),
                None => {}
            }
            out.push('\n');
        }
    }
    out.push('\n');
}

/// Why a text has no one place for the guide.
#[derive(Debug, Clone, Copy, PartialEq, Eq, thiserror::Error)]
#[non_exhaustive]
pub enum SectionError {
    /// The first mark stands alone.
    #[error("it has the mark `{BEGIN}` and no `{END}` behind it")]
    NoEnd,
    /// The last mark stands alone, or before the first.
    #[error("it has the mark `{END}` without a `{BEGIN}` before it")]
    NoBeginning,
    /// There are two.
    #[error("it has the mark `{BEGIN}` more than once")]
    Several,
}

/// A text with the rendered guide between its marks.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct Placed {
    /// The whole text.
    pub text: String,
    /// It had no marks, so they were put at its end.
    pub marks_are_new: bool,
}

/// Puts the rendered guide between the marks of a text, or at its end with marks where it has none; all else stays to the byte.
///
/// # Errors
/// When the marks do not say where.
pub fn into_text(text: &str, rendered: &str) -> Result<Placed, SectionError> {
    let newline = if text.contains("\r\n") { "\r\n" } else { "\n" };
    let body = format!("{BEGIN}\n{NOTE}\n\n{rendered}\n{END}").replace('\n', newline);
    let (begins, ends): (Vec<usize>, Vec<usize>) =
        (text.match_indices(BEGIN).map(|(at, _)| at).collect(), text.match_indices(END).map(|(at, _)| at).collect());
    match (begins.as_slice(), ends.as_slice()) {
        ([], []) => {
            let gap = if text.is_empty() || text.ends_with("\n\n") { "" } else { newline };
            let end = if text.is_empty() || text.ends_with('\n') { "" } else { newline };
            Ok(Placed { text: format!("{text}{end}{gap}{body}{newline}"), marks_are_new: true })
        }
        ([begin], [end]) if begin < end => {
            let (before, after) = (text.get(..*begin).unwrap_or_default(), text.get(end + END.len()..).unwrap_or_default());
            Ok(Placed { text: format!("{before}{body}{after}"), marks_are_new: false })
        }
        ([_], []) => Err(SectionError::NoEnd),
        ([], _) | ([_], [_]) => Err(SectionError::NoBeginning),
        _ => Err(SectionError::Several),
    }
}

#[cfg(test)]
mod tests {
    use super::{SectionError, code, guide_markdown, into_text, plain};
    use rstest::rstest;
    use setup_ready_core::outline::Outline;

    #[rstest]
    #[case::no_marks("# Us\n", Ok("# Us\n\n<>\n"))]
    #[case::no_line_at_the_end("# Us", Ok("# Us\n\n<>\n"))]
    #[case::between_marks("a\n<!-- setup guide: begin -->\nold\n<!-- setup guide: end -->\nz\n", Ok("a\n<>\nz\n"))]
    #[case::no_end("<!-- setup guide: begin -->\n", Err(SectionError::NoEnd))]
    #[case::the_wrong_way_round("<!-- setup guide: end --><!-- setup guide: begin -->", Err(SectionError::NoBeginning))]
    #[case::twice(
        "<!-- setup guide: begin --><!-- setup guide: end --><!-- setup guide: begin --><!-- setup guide: end -->",
        Err(SectionError::Several)
    )]
    fn the_guide_stands_between_its_marks(#[case] before: &str, #[case] after: Result<&str, SectionError>) {
        let body = into_text("", "BODY\n").unwrap().text;
        let placed = into_text(before, "BODY\n").map(|placed| placed.text.replace(body.trim_end(), "<>"));
        assert_eq!(placed.as_deref().map_err(|error| *error), after);
        if let Ok(first) = into_text(before, "BODY\n") {
            assert_eq!(into_text(&first.text, "BODY\n").unwrap().text, first.text, "a second time changes nothing");
        }
    }

    #[test]
    fn words_of_the_guide_are_no_markup() {
        assert_eq!(plain("a|b <script> *x*\n# y"), "a\\|b \\<script\\> \\*x\\* \\# y");
        assert_eq!(plain("say `a_b` and c_d"), "say `a_b` and c\\_d");
        assert_eq!(plain("one ` alone"), "one \\` alone");
        assert_eq!(code("echo `date` | sort"), "``echo `date` \\| sort``");
        let guide = "format = 1\n[project]\nname = \"X\"\n[require.a]\ntool = \"git\"\ntitle = \"<!-- setup guide: end -->\"\n";
        let guide = setup_ready_core::guide::parse(guide).unwrap();
        let text = guide_markdown(&Outline::of(&guide));
        assert!(into_text("", &text).is_ok_and(|placed| into_text(&placed.text, &text).is_ok()), "a title cannot end the part");
    }
}
