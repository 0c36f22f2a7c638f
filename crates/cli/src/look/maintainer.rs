//! What maintainers are told: the end of a draft, the remarks of proofreading, the page of a rule.

use super::failure::{Marked, excerpt};
use super::wording::counted;
use super::{Detail, TextLayout, Tone};
use build_setup_ready::GUIDE_FILE;
use setup_ready_core::draft::{Draft, Proposal};
use setup_ready_core::guide::Guide;
use setup_ready_core::proofread::{Example, Family, Remark, Rule, Weight};
use setup_ready_core::text::Size;
use setup_ready_maintainer::{FileRemark, Proof, Repository, Witnessed};
use std::path::Path;

/// More of them are only counted.
const MOST_SHOWN: usize = 12;

/// The end of a draft: what is in it, what a person must say, what to type next.
pub(crate) fn drafted(layout: &mut TextLayout<'_>, draft: &Draft, repository: &Repository, path: &Path) {
    let text = format!(
        "{} was written, from {} in {}.",
        path.display(),
        counted(repository.statements.len(), "statement"),
        counted(repository.files, "file")
    );
    layout.block(0, &text, Tone::Strong);
    layout.gap();
    let pinned = draft.live.iter().filter(|one| !one.keys.iter().any(|(key, _)| *key == "level")).count();
    layout.labelled(2, (&pinned.to_string(), Tone::Strong), 5, ("needed: the build itself asks for it", Tone::Body));
    layout.labelled(
        2,
        (&(draft.live.len() - pinned).to_string(), Tone::Strong),
        5,
        ("recommended: the build's servers or containers use it", Tone::Body),
    );
    layout.labelled(
        2,
        (&draft.perhaps.len().to_string(), Tone::Strong),
        5,
        ("perhaps: only mentioned, so they stand there as comments", Tone::Body),
    );
    let contradicted: Vec<&Proposal> =
        draft.live.iter().filter(|one| one.notes.iter().any(|note| note.contains("contradicts itself"))).collect();
    for one in contradicted {
        layout.gap();
        for note in one.notes.iter().filter(|note| note.contains("contradicts itself")) {
            layout.labelled(2, (&one.id, Tone::Loud), 5, (note, Tone::Body));
        }
    }
    left_out(layout, &repository.remarks);
    layout.heading("What only a person knows");
    for question in &draft.questions {
        layout.labelled(2, ("-", Tone::Quiet), 2, (question, Tone::Body));
    }
    layout.heading("What next");
    layout.block(0, "Read it once, fill in each `why`, and take out what newcomers do not need. Then:", Tone::Body);
    let here = path.parent().is_none_or(|parent| parent.as_os_str().is_empty() || parent == Path::new("."));
    let found = here && path.file_name().is_some_and(|name| name == GUIDE_FILE);
    let guide = if found { String::new() } else { format!(" --guide {}", path.display()) };
    layout.copyable(2, &format!("setup-ready proofread{guide}"));
    layout.copyable(2, &format!("setup-ready preflight{guide}"));
}

/// Files that were left out, and why.
pub(crate) fn left_out(layout: &mut TextLayout<'_>, remarks: &[FileRemark]) {
    if remarks.is_empty() || layout.look().detail == Detail::Quiet {
        return;
    }
    layout.gap();
    layout.block(0, &format!("{} could not be read, and said nothing:", counted(remarks.len(), "file")), Tone::Unsure);
    for remark in remarks.iter().take(MOST_SHOWN) {
        layout.block(2, &format!("{}: {}", remark.place, remark.reason), Tone::Body);
    }
    if let Some(more) = remarks.len().checked_sub(MOST_SHOWN).filter(|more| *more > 0) {
        layout.block(2, &format!("and {more} more"), Tone::Quiet);
    }
}

/// What a build was seen to use, and what of that the guide lacks.
pub(crate) fn witnessed(
    layout: &mut TextLayout<'_>,
    witnessed: &Witnessed,
    (guide, understated): (&Guide, &[(usize, String)]),
    (lacks, written): (usize, bool),
) {
    let seen = &witnessed.seen;
    if layout.look().detail == Detail::Quiet && lacks == 0 {
        return;
    }
    layout.gap();
    let text = format!(
        "It started {} outside of the project and read {} of the system.",
        counted(seen.programs.len(), "program"),
        counted(seen.files.len(), "file")
    );
    layout.block(0, &text, Tone::Body);
    let text = format!(
        "The folder of the project grew by {}, and the largest process took {}: the true figures for `disk` and `memory`.",
        Size(seen.grown_bytes),
        Size(seen.largest_process_bytes)
    );
    layout.block(0, &text, Tone::Body);
    if !seen.addresses.is_empty() {
        let some: Vec<&str> = seen.addresses.iter().take(3).map(String::as_str).collect();
        let text = format!(
            "It asked {} outside ({}): name the host with `reach`, if newcomers need it.",
            counted(seen.addresses.len(), "address").replace("addresss", "addresses"),
            some.join(", ")
        );
        layout.block(0, &text, Tone::Body);
    }
    if witnessed.owners.manager.is_none() {
        let text = "Whose files these are is known by dpkg's notes only, which this system does not have: libraries and headers are not told.";
        layout.block(0, text, Tone::Unsure);
    }
    if witnessed.status != 0 {
        let text = format!("The build ended with {}: what it would have used after that was not seen.", witnessed.status);
        layout.block(0, &text, Tone::Loud);
    }
    for (index, words) in understated {
        if let Some(one) = guide.requirements.get(*index) {
            let text = format!("the guide says level = \"{}\", and it was {words}: take the level away.", one.level.word());
            layout.labelled(2, (&one.id, Tone::Loud), 4, (&text, Tone::Body));
        }
    }
    let (text, tone) = match lacks {
        0 if witnessed.status != 0 => ("The guide names all that it used until then.".to_owned(), Tone::Body),
        0 => ("The guide names all that it used.".to_owned(), Tone::Good),
        several if written => {
            (format!("{} written into the guide: read it, and fill in each `why`.", counted(several, "thing")), Tone::Good)
        }
        several => {
            let text = format!(
                "The guide lacks {}. The same command with --correct (before the --) writes it into the guide.",
                counted(several, "thing")
            );
            (text, Tone::Loud)
        }
    };
    layout.block(0, &text, tone);
}

/// What came of comparing a guide with its repository.
pub(crate) fn additions(layout: &mut TextLayout<'_>, draft: &Draft) {
    if layout.look().detail == Detail::Quiet {
        return;
    }
    let count = draft.live.len() + draft.systems.len();
    let text = if count == 0 {
        "The guide speaks of everything that the repository says.".to_owned()
    } else {
        format!("The repository says {} that the guide does not speak of.", counted(count, "thing"))
    };
    layout.gap();
    layout.block(0, &text, if count == 0 { Tone::Good } else { Tone::Loud });
    if count > 0 {
        layout.block(0, "What is pinned or used stands above, ready to be put behind the guide. What newcomers do not need is accepted there: setup-ready explain used-unlisted", Tone::Body);
    }
}

fn tone(weight: Weight) -> Tone {
    match weight {
        Weight::Heavy => Tone::Loud,
        Weight::Middling => Tone::Unsure,
        Weight::Light => Tone::Strong,
    }
}

/// The remarks, each with its place, what newcomers suffer, and what would be right.
pub(crate) fn remarks(layout: &mut TextLayout<'_>, proof: &Proof, done: &[String], (path, text, with): (&str, &str, &str)) {
    let detail = layout.look().detail;
    if detail != Detail::Quiet {
        for one in &proof.remarks {
            remark(layout, one, (path, text));
        }
        left_out(layout, &proof.files);
        if !done.is_empty() {
            layout.gap();
            layout.block(0, &format!("Carried out in the file ({}):", counted(done.len(), "correction")), Tone::Good);
            for one in done {
                layout.block(2, one, Tone::Body);
            }
        }
    }
    layout.gap();
    let count = proof.remarks.len();
    if count == 0 {
        layout.block(0, &format!("{path}: nothing to remark on."), Tone::Good);
        return;
    }
    let by = |weight: Weight| proof.remarks.iter().filter(|one| one.rule.weight() == weight).count();
    let parts: Vec<String> = [(Weight::Heavy, "wrong"), (Weight::Middling, "doubtful"), (Weight::Light, "could be better")]
        .into_iter()
        .map(|(weight, word)| (by(weight), word))
        .filter(|(count, _)| *count > 0)
        .map(|(count, word)| format!("{count} {word}"))
        .collect();
    let text = format!("{path}: {} ({})", counted(count, "remark"), parts.join(", "));
    layout.block(0, &text, Tone::Loud);
    if detail == Detail::Quiet {
        return;
    }
    let certain = proof.remarks.iter().filter(|one| one.correction.is_some()).count();
    if certain > 0 && done.is_empty() {
        layout.block(0, &format!("With a certain correction: {certain}. To have it written into the file:"), Tone::Body);
        layout.copyable(2, &format!("setup-ready proofread --correct{with}"));
    }
    if let Some(one) = proof.remarks.first() {
        layout.block(0, &format!("More about one of them: setup-ready explain {}", one.rule.id()), Tone::Quiet);
    }
}

fn remark(layout: &mut TextLayout<'_>, one: &Remark, (path, text): (&str, &str)) {
    let name = one.rule.weight().word();
    let hint = match (&one.note, &one.correction) {
        (Some(note), _) => Some(note.clone()),
        (None, Some(correction)) => Some(format!("{} (certain: `--correct` writes it)", correction.says)),
        (None, None) => Some(one.rule.page().right.to_owned()),
    };
    let look = layout.look();
    let marked = Marked { span: one.span.clone(), message: &one.message, hint: hint.as_deref(), tone: tone(one.rule.weight()) };
    let drawn = excerpt(&marked, name, (path, text), (look, look.color));
    layout.ready_made(&drawn);
    layout.ready_made("\n");
    layout.labelled(2, ("Newcomers:", Tone::Quiet), 11, (one.rule.page().suffers, Tone::Quiet));
    layout.labelled(2, ("Rule:", Tone::Quiet), 11, (one.rule.id(), Tone::Quiet));
    layout.gap();
}

/// A correction that was carried out.
pub(crate) fn done(one: &Remark, text: &str) -> Option<String> {
    let correction = one.correction.as_ref()?;
    let of = one.of.as_ref().map(|of| format!("{of}: ")).unwrap_or_default();
    Some(format!("line {}: {of}{} ({})", one.position(text).0, correction.says, one.rule.id()))
}

/// The list of rules.
pub(crate) fn rules(layout: &mut TextLayout<'_>) {
    layout.gap();
    layout.block(0, "The rules of proofreading: what a guide may break", Tone::Heading);
    let mut family: Option<Family> = None;
    for rule in Rule::ALL {
        if family != Some(rule.family()) {
            family = Some(rule.family());
            layout.gap();
            layout.block(2, rule.family().title(), Tone::Strong);
        }
        layout.labelled(4, (rule.id(), Tone::Body), 28, (rule.page().meaning, Tone::Quiet));
    }
}

/// The page of a rule.
pub(crate) fn rule(layout: &mut TextLayout<'_>, rule: Rule) {
    const COLUMN: usize = 13;
    let (page, example) = (rule.page(), rule.example());
    layout.block(0, &format!("{}  ({})", rule.id(), rule.family().title()), Tone::Heading);
    layout.gap();
    layout.block(2, page.meaning, Tone::Body);
    layout.gap();
    layout.labelled(2, ("Newcomers", Tone::Quiet), COLUMN, (page.suffers, Tone::Body));
    layout.labelled(2, ("Instead", Tone::Quiet), COLUMN, (page.right, Tone::Body));
    for (name, body) in example.files {
        layout.gap();
        layout.block(2, &format!("Where the repository has {name}:"), Tone::Quiet);
        body.lines().for_each(|line| layout.copyable(4, line));
    }
    for (title, text) in [("This breaks it:", example.bad), ("This keeps it:", example.good)] {
        if !text.is_empty() {
            layout.gap();
            layout.block(2, title, Tone::Quiet);
            Example::whole(text).lines().skip(skipped(text)).for_each(|line| layout.copyable(4, line));
        }
    }
    layout.gap();
    layout.block(2, "To let one stand, with the reason, in the guide:", Tone::Quiet);
    layout.copyable(4, "[proofread]");
    layout.copyable(4, &format!("accept = [{{ rule = \"{}\", of = \"ID\", because = \"...\" }}]", rule.id()));
}

/// The head that every part of a guide has is not shown.
fn skipped(text: &str) -> usize {
    if text.contains("[project]") || text.starts_with("format") { 0 } else { 4 }
}
