//! What maintainers are told: the end of a draft, the remarks of proofreading, the page of a rule.

use super::failure::{Marked, excerpt};
use super::wording::counted;
use super::{Detail, Ink, Paper};
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
pub(crate) fn drafted(paper: &mut Paper<'_>, draft: &Draft, repository: &Repository, path: &Path) {
    let text = format!(
        "{} was written, from {} in {}.",
        path.display(),
        counted(repository.statements.len(), "statement"),
        counted(repository.files, "file")
    );
    paper.block(0, &text, Ink::Strong);
    paper.gap();
    let pinned = draft.live.iter().filter(|one| !one.keys.iter().any(|(key, _)| *key == "level")).count();
    paper.labelled(2, (&pinned.to_string(), Ink::Strong), 5, ("needed: the build itself asks for it", Ink::Body));
    paper.labelled(
        2,
        (&(draft.live.len() - pinned).to_string(), Ink::Strong),
        5,
        ("recommended: the build's servers or containers use it", Ink::Body),
    );
    paper.labelled(
        2,
        (&draft.perhaps.len().to_string(), Ink::Strong),
        5,
        ("perhaps: only mentioned, so they stand there as comments", Ink::Body),
    );
    let contradicted: Vec<&Proposal> =
        draft.live.iter().filter(|one| one.notes.iter().any(|note| note.contains("contradicts itself"))).collect();
    for one in contradicted {
        paper.gap();
        for note in one.notes.iter().filter(|note| note.contains("contradicts itself")) {
            paper.labelled(2, (&one.id, Ink::Loud), 5, (note, Ink::Body));
        }
    }
    left_out(paper, &repository.remarks);
    paper.heading("What only a person knows");
    for question in &draft.questions {
        paper.labelled(2, ("-", Ink::Quiet), 2, (question, Ink::Body));
    }
    paper.heading("What next");
    paper.block(0, "Read it once, fill in each `why`, and take out what newcomers do not need. Then:", Ink::Body);
    let here = path.parent().is_none_or(|parent| parent.as_os_str().is_empty() || parent == Path::new("."));
    let found = here && path.file_name().is_some_and(|name| name == GUIDE_FILE);
    let guide = if found { String::new() } else { format!(" --guide {}", path.display()) };
    paper.copyable(2, &format!("setup-ready proofread{guide}"));
    paper.copyable(2, &format!("setup-ready preflight{guide}"));
}

/// Files that were left out, and why.
pub(crate) fn left_out(paper: &mut Paper<'_>, remarks: &[FileRemark]) {
    if remarks.is_empty() || paper.look().detail == Detail::Quiet {
        return;
    }
    paper.gap();
    paper.block(0, &format!("{} could not be read, and said nothing:", counted(remarks.len(), "file")), Ink::Unsure);
    for remark in remarks.iter().take(MOST_SHOWN) {
        paper.block(2, &format!("{}: {}", remark.place, remark.reason), Ink::Body);
    }
    if let Some(more) = remarks.len().checked_sub(MOST_SHOWN).filter(|more| *more > 0) {
        paper.block(2, &format!("and {more} more"), Ink::Quiet);
    }
}

/// What a build was seen to use, and what of that the guide lacks.
pub(crate) fn witnessed(
    paper: &mut Paper<'_>,
    witnessed: &Witnessed,
    (guide, understated): (&Guide, &[(usize, String)]),
    (lacks, written): (usize, bool),
) {
    let seen = &witnessed.seen;
    if paper.look().detail == Detail::Quiet && lacks == 0 {
        return;
    }
    paper.gap();
    let text = format!(
        "It started {} outside of the project and read {} of the system.",
        counted(seen.programs.len(), "program"),
        counted(seen.files.len(), "file")
    );
    paper.block(0, &text, Ink::Body);
    let text = format!(
        "The folder of the project grew by {}, and the largest process took {}: the true figures for `disk` and `memory`.",
        Size(seen.grown_bytes),
        Size(seen.largest_process_bytes)
    );
    paper.block(0, &text, Ink::Body);
    if !seen.addresses.is_empty() {
        let some: Vec<&str> = seen.addresses.iter().take(3).map(String::as_str).collect();
        let text = format!(
            "It asked {} outside ({}): name the host with `reach`, if newcomers need it.",
            counted(seen.addresses.len(), "address").replace("addresss", "addresses"),
            some.join(", ")
        );
        paper.block(0, &text, Ink::Body);
    }
    if witnessed.owners.manager.is_none() {
        let text = "Whose files these are is known by dpkg's notes only, which this system does not have: libraries and headers are not told.";
        paper.block(0, text, Ink::Unsure);
    }
    if witnessed.status != 0 {
        let text = format!("The build ended with {}: what it would have used after that was not seen.", witnessed.status);
        paper.block(0, &text, Ink::Loud);
    }
    for (index, words) in understated {
        if let Some(one) = guide.requirements.get(*index) {
            let text = format!("the guide says level = \"{}\", and it was {words}: take the level away.", one.level.word());
            paper.labelled(2, (&one.id, Ink::Loud), 4, (&text, Ink::Body));
        }
    }
    let (text, ink) = match lacks {
        0 if witnessed.status != 0 => ("The guide names all that it used until then.".to_owned(), Ink::Body),
        0 => ("The guide names all that it used.".to_owned(), Ink::Good),
        several if written => {
            (format!("{} written into the guide: read it, and fill in each `why`.", counted(several, "thing")), Ink::Good)
        }
        several => {
            let text = format!(
                "The guide lacks {}. The same command with --correct (before the --) writes it into the guide.",
                counted(several, "thing")
            );
            (text, Ink::Loud)
        }
    };
    paper.block(0, &text, ink);
}

/// What came of comparing a guide with its repository.
pub(crate) fn additions(paper: &mut Paper<'_>, draft: &Draft) {
    if paper.look().detail == Detail::Quiet {
        return;
    }
    let count = draft.live.len() + draft.systems.len();
    let text = if count == 0 {
        "The guide speaks of everything that the repository says.".to_owned()
    } else {
        format!("The repository says {} that the guide does not speak of.", counted(count, "thing"))
    };
    paper.gap();
    paper.block(0, &text, if count == 0 { Ink::Good } else { Ink::Loud });
    if count > 0 {
        paper.block(0, "What is pinned or used stands above, ready to be put behind the guide. What newcomers do not need is accepted there: setup-ready explain used-unlisted", Ink::Body);
    }
}

fn ink(weight: Weight) -> Ink {
    match weight {
        Weight::Heavy => Ink::Loud,
        Weight::Middling => Ink::Unsure,
        Weight::Light => Ink::Strong,
    }
}

/// The remarks, each with its place, what newcomers suffer, and what would be right.
pub(crate) fn remarks(paper: &mut Paper<'_>, proof: &Proof, done: &[String], (path, text, with): (&str, &str, &str)) {
    let detail = paper.look().detail;
    if detail != Detail::Quiet {
        for one in &proof.remarks {
            remark(paper, one, (path, text));
        }
        left_out(paper, &proof.files);
        if !done.is_empty() {
            paper.gap();
            paper.block(0, &format!("Carried out in the file ({}):", counted(done.len(), "correction")), Ink::Good);
            for one in done {
                paper.block(2, one, Ink::Body);
            }
        }
    }
    paper.gap();
    let count = proof.remarks.len();
    if count == 0 {
        paper.block(0, &format!("{path}: nothing to remark on."), Ink::Good);
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
    paper.block(0, &text, Ink::Loud);
    if detail == Detail::Quiet {
        return;
    }
    let certain = proof.remarks.iter().filter(|one| one.correction.is_some()).count();
    if certain > 0 && done.is_empty() {
        paper.block(0, &format!("With a certain correction: {certain}. To have it written into the file:"), Ink::Body);
        paper.copyable(2, &format!("setup-ready proofread --correct{with}"));
    }
    if let Some(one) = proof.remarks.first() {
        paper.block(0, &format!("More about one of them: setup-ready explain {}", one.rule.id()), Ink::Quiet);
    }
}

fn remark(paper: &mut Paper<'_>, one: &Remark, (path, text): (&str, &str)) {
    let name = one.rule.weight().word();
    let hint = match (&one.note, &one.correction) {
        (Some(note), _) => Some(note.clone()),
        (None, Some(correction)) => Some(format!("{} (certain: `--correct` writes it)", correction.says)),
        (None, None) => Some(one.rule.page().right.to_owned()),
    };
    let look = paper.look();
    let marked = Marked { span: one.span.clone(), message: &one.message, hint: hint.as_deref(), ink: ink(one.rule.weight()) };
    let drawn = excerpt(&marked, name, (path, text), (look, look.color));
    paper.ready_made(&drawn);
    paper.ready_made("\n");
    paper.labelled(2, ("Newcomers:", Ink::Quiet), 11, (one.rule.page().suffers, Ink::Quiet));
    paper.labelled(2, ("Rule:", Ink::Quiet), 11, (one.rule.id(), Ink::Quiet));
    paper.gap();
}

/// A correction that was carried out.
pub(crate) fn done(one: &Remark, text: &str) -> Option<String> {
    let correction = one.correction.as_ref()?;
    let of = one.of.as_ref().map(|of| format!("{of}: ")).unwrap_or_default();
    Some(format!("line {}: {of}{} ({})", one.position(text).0, correction.says, one.rule.id()))
}

/// The list of rules.
pub(crate) fn rules(paper: &mut Paper<'_>) {
    paper.gap();
    paper.block(0, "The rules of proofreading: what a guide may break", Ink::Heading);
    let mut family: Option<Family> = None;
    for rule in Rule::ALL {
        if family != Some(rule.family()) {
            family = Some(rule.family());
            paper.gap();
            paper.block(2, rule.family().title(), Ink::Strong);
        }
        paper.labelled(4, (rule.id(), Ink::Body), 28, (rule.page().meaning, Ink::Quiet));
    }
}

/// The page of a rule.
pub(crate) fn rule(paper: &mut Paper<'_>, rule: Rule) {
    const COLUMN: usize = 13;
    let (page, example) = (rule.page(), rule.example());
    paper.block(0, &format!("{}  ({})", rule.id(), rule.family().title()), Ink::Heading);
    paper.gap();
    paper.block(2, page.meaning, Ink::Body);
    paper.gap();
    paper.labelled(2, ("Newcomers", Ink::Quiet), COLUMN, (page.suffers, Ink::Body));
    paper.labelled(2, ("Instead", Ink::Quiet), COLUMN, (page.right, Ink::Body));
    for (name, body) in example.files {
        paper.gap();
        paper.block(2, &format!("Where the repository has {name}:"), Ink::Quiet);
        body.lines().for_each(|line| paper.copyable(4, line));
    }
    for (title, text) in [("This breaks it:", example.bad), ("This keeps it:", example.good)] {
        if !text.is_empty() {
            paper.gap();
            paper.block(2, title, Ink::Quiet);
            Example::whole(text).lines().skip(skipped(text)).for_each(|line| paper.copyable(4, line));
        }
    }
    paper.gap();
    paper.block(2, "To let one stand, with the reason, in the guide:", Ink::Quiet);
    paper.copyable(4, "[proofread]");
    paper.copyable(4, &format!("accept = [{{ rule = \"{}\", of = \"ID\", because = \"...\" }}]", rule.id()));
}

/// The head that every part of a guide has is not shown.
fn skipped(text: &str) -> usize {
    if text.contains("[project]") || text.starts_with("format") { 0 } else { 4 }
}
