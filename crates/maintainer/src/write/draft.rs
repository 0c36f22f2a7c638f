//! A first guide as a text that a maintainer goes on with.

use setup_ready_core::draft::{Draft, Proposal, Stage, quoted};
use setup_ready_core::text::Sanitised;
use std::fmt::Write;

/// A whole guide: what the repository says, each with where it says so.
pub fn draft(draft: &Draft, project: &str) -> String {
    let mut text = String::from(
        "# A first setup guide, drafted from what this repository says. Each requirement names where that stands.\n\
         # Read it once: fill in `why`, answer the questions at the end, take out what newcomers do not need.\n\
         # An editor completes it with the schema that `setup-ready schema guide` prints.\n\
         # `must` is what the build itself asks for; `should` is what its servers and containers use.\n\
         format = 1\n\n[project]\n",
    );
    let _ = writeln!(text, "name = {}", quoted(project));
    text.push_str("# about = \"\"   what it is, in a sentence\n# help = \"\"    where a newcomer may ask\n");
    if !draft.systems.is_empty() {
        let all: Vec<String> = draft.systems.iter().map(|os| quoted(os.word())).collect();
        let _ = writeln!(text, "systems = [{}]", all.join(", "));
    }
    let stages = draft.stages();
    if stages.len() > 1 {
        for (id, title) in stages.iter().map(|stage| stage.words()) {
            let _ = write!(text, "\n[[stage]]\nid = {}\ntitle = {}\n", quoted(id), quoted(title));
        }
    }
    for one in &draft.live {
        text.push('\n');
        requirement(&mut text, one, (stages.len() > 1).then_some(one.stage), "");
    }
    if !draft.perhaps.is_empty() {
        text.push_str("\n# Perhaps: somebody mentioned these, or they count only sometimes. Take out the marks of those that newcomers need.\n");
        for one in &draft.perhaps {
            text.push_str("#\n");
            requirement(&mut text, one, None, "# ");
        }
    }
    text.push_str("\n# What the repository does not say:\n");
    for question in &draft.questions {
        let _ = writeln!(text, "# - {question}");
    }
    text
}

/// Only the requirements, to be put behind those of a guide.
pub fn additions(draft: &Draft) -> String {
    let mut text = String::new();
    for os in &draft.systems {
        let _ = writeln!(text, "# The project is built on {} too: add {} to `systems`.", os.name(), quoted(os.word()));
    }
    for one in &draft.live {
        if !text.is_empty() {
            text.push('\n');
        }
        requirement(&mut text, one, None, "");
    }
    text
}

fn requirement(text: &mut String, one: &Proposal, stage: Option<Stage>, mark: &str) {
    /// More places than this are only counted.
    const MOST_SOURCES: usize = 6;
    for source in one.sources.iter().take(MOST_SOURCES) {
        let _ = writeln!(text, "# {source}");
    }
    if let Some(more) = one.sources.len().checked_sub(MOST_SOURCES).filter(|more| *more > 0) {
        let _ = writeln!(text, "# and {more} more");
    }
    for note in &one.notes {
        let _ = writeln!(text, "# {}", Sanitised::line(note));
    }
    let _ = writeln!(text, "{mark}[require.{}]", key(&one.id));
    if let Some((id, _)) = stage.map(Stage::words) {
        let _ = writeln!(text, "{mark}stage = {}", quoted(id));
    }
    for (name, value) in &one.keys {
        let _ = writeln!(text, "{mark}{name} = {value}");
    }
    if mark.is_empty() {
        text.push_str("# why = \"\"\n");
    }
}

/// An id as a key of TOML: a dot would begin another table.
fn key(id: &str) -> String {
    let bare = id.chars().all(|c| c.is_ascii_alphanumeric() || c == '-' || c == '_');
    if bare && !id.is_empty() { id.to_owned() } else { quoted(id) }
}
