//! The demonstration's part for maintainers: what the maintainer of the made-up project does before newcomers come.

use crate::exit::Failure;
use crate::look::{TextLayout, Tone};
use crate::output;
use build_setup_ready::demo::{GUIDE, MACHINES, REPOSITORY};
use build_setup_ready::{Described, GUIDE_FILE};
use setup_ready_core::draft::Draft;
use setup_ready_core::guide::Guide;
use setup_ready_core::outline::Outline;
use setup_ready_core::proofread::{Evidence, proofread};
use setup_ready_core::script::script;
use setup_ready_maintainer::{Rehearsal, statements_of};
use setup_ready_maintainer::{Rehearsed, guide_html, guide_markdown, into_text};
use std::path::Path;

/// Where the labels end.
const COLUMN: usize = 11;

/// Tells what the maintainer's commands come to on the demonstration; with a folder, what is rendered is written there.
pub(super) fn play(layout: &mut TextLayout<'_>, guide: &Guide, folder: Option<&Path>) -> Result<(), Failure> {
    layout.heading("The maintainer's desk");
    let text = "Before any of them came, the maintainer had the guide drafted from what the project's files say, read strictly, tried, and shown:";
    layout.block(0, text, Tone::Body);
    layout.gap();
    let said = |moved: bool| {
        REPOSITORY.iter().flat_map(move |(name, text)| {
            let text = if moved { text.replace("VERSION 3.25", "VERSION 3.28") } else { (*text).to_owned() };
            statements_of(name, &text)
        })
    };
    let statements: Vec<_> = said(false).collect();
    let draft = Draft::of(&statements);
    let text = format!(
        "{} requirements from what {} files of the repository say, and {} perhaps",
        draft.live.len(),
        REPOSITORY.len(),
        draft.perhaps.len()
    );
    layout.labelled(2, ("draft", Tone::Strong), COLUMN, (&text, Tone::Body));
    let remarks = |statements| proofread(GUIDE, &Evidence { statements, ..Evidence::default() });
    let now = remarks(statements).len();
    let first = if now == 0 { "nothing to remark on".to_owned() } else { format!("{now} remarks") };
    let later = remarks(said(true).collect());
    let told = later.first().map(|one| one.message.clone()).unwrap_or_default();
    let text = format!("{first}; were CMake 3.28 asked for one day in CMakeLists.txt, it would say: {told}");
    layout.labelled(2, ("proofread", Tone::Strong), COLUMN, (&text, Tone::Body));
    let rehearsal = Rehearsal::new(guide, Path::new("."));
    let machines: Vec<Described> = MACHINES.iter().filter_map(|machine| Described::parse(machine.text).ok()).collect();
    let text = Rehearsed::Machines(&rehearsal.on(&machines)).summary();
    layout.labelled(2, ("rehearse", Tone::Strong), COLUMN, (&text, Tone::Body));
    let ways = rehearsal.ways(&|_| {});
    layout.labelled(2, ("", Tone::Strong), COLUMN, (&ways.summary(), Tone::Body));
    let Some(folder) = folder else {
        let text = "the guide for people, in CONTRIBUTING.md and as a page, and as a script that checks with nothing installed: demo --into FOLDER writes them";
        layout.labelled(2, ("render", Tone::Strong), COLUMN, (text, Tone::Body));
        return Ok(());
    };
    render(guide, folder)?;
    let text =
        format!("{0}/CONTRIBUTING.md, {0}/setup.html and {0}/check-machine.sh were written from {GUIDE_FILE}", folder.display());
    layout.labelled(2, ("render", Tone::Strong), COLUMN, (&text, Tone::Body));
    Ok(())
}

/// The guide for people, beside the guide.
fn render(guide: &Guide, folder: &Path) -> Result<(), Failure> {
    let contributing = folder.join("CONTRIBUTING.md");
    let before = std::fs::read_to_string(&contributing).unwrap_or_default();
    let placed =
        into_text(&before, &guide_markdown(&Outline::of(guide))).map_err(|error| Failure::Software(error.to_string()))?;
    output::write(placed.text.as_bytes(), Some(&contributing))?;
    let page = guide_html(guide).map_err(|error| Failure::Software(error.to_string()))?;
    output::write(page.as_bytes(), Some(&folder.join("setup.html")))?;
    output::write(script(guide).as_bytes(), Some(&folder.join("check-machine.sh")))
}
