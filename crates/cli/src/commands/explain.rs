use super::check::{check, host, load_guide, wrong_word};
use crate::arguments::{self, Shown};
use crate::exit::{Failure, Status};
use crate::look::desk;
use crate::look::doing::Doing;
use crate::look::report::{evidence, verdict_word};
use crate::look::{Ink, Look, Paper};
use crate::output;
use build_setup_ready::{GuideFile, Interrupt, Live, LoadError};
use setup_ready_core::cause::Cause;
use setup_ready_core::guide::{Guide, GuideFix, Level, Requirement, Subject};
use setup_ready_core::proofread::Rule;
use setup_ready_core::report::Report;
use setup_ready_core::selection::Selection;
use setup_ready_core::settled::RequirementResult;
use setup_ready_core::text::join_words;
use setup_ready_core::words::limitations;

const COLUMN: usize = 13;

pub(crate) fn run(typed: &arguments::Explain, shown: &Shown, (interrupt, look): (&Interrupt, &Look)) -> Result<Status, Failure> {
    let mut paper = Paper::new(look);
    match &typed.word {
        None => list(&mut paper, optional_guide(shown, look)?.as_ref()),
        Some(word) => match Cause::from_word(word) {
            Some(cause) => page(&mut paper, cause, optional_guide(shown, look)?.as_ref()),
            None if Rule::from_id(word).is_some() => {
                if let Some(rule) = Rule::from_id(word) {
                    desk::rule(&mut paper, rule);
                }
            }
            None => requirement(&mut paper, typed, shown, (word, interrupt, look))?,
        },
    }
    output::write(paper.into_text().as_bytes(), shown.output.as_deref())?;
    Ok(Status::Ready)
}

/// Causes can be explained without a guide; but one that is named, or has mistakes, is not passed over.
fn optional_guide(shown: &Shown, look: &Look) -> Result<Option<GuideFile>, Failure> {
    match load_guide(shown, look) {
        Ok(file) => Ok(Some(file)),
        Err(Failure::Load(LoadError::NotFound(_))) if shown.guide.is_none() => Ok(None),
        Err(failure) => Err(failure),
    }
}

fn list(paper: &mut Paper<'_>, file: Option<&GuideFile>) {
    if let Some(file) = file {
        paper.block(0, &format!("The requirements of {}", file.guide.project.name), Ink::Heading);
        paper.gap();
        let widest = file.guide.requirements.iter().map(|one| one.id.len()).max().unwrap_or(0).min(30) + 2;
        for one in &file.guide.requirements {
            let level = if one.level == Level::Must { String::new() } else { format!(" ({})", level_word(one.level)) };
            paper.labelled(2, (&one.id, Ink::Strong), widest, (&format!("{}{level}", one.title()), Ink::Body));
        }
        paper.gap();
    }
    paper.block(0, "The causes: why something is not met", Ink::Heading);
    let mut about = None;
    for cause in Cause::ALL {
        if about != Some(cause.about()) {
            about = Some(cause.about());
            paper.gap();
            paper.block(2, cause.about().title(), Ink::Strong);
        }
        paper.labelled(4, (cause.word(), Ink::Body), 28, (cause.page().meaning, Ink::Quiet));
    }
    desk::rules(paper);
    paper.gap();
    paper.block(0, "For one of them: setup-ready explain WORD", Ink::Body);
}

fn level_word(level: Level) -> &'static str {
    match level {
        Level::Must => "needed",
        Level::Should => "recommended",
        Level::May => "optional",
    }
}

/// The page of a cause, with what a guide says about it.
pub(crate) fn page(paper: &mut Paper<'_>, cause: Cause, file: Option<&GuideFile>) {
    let page = cause.page();
    paper.block(0, &format!("{}  ({})", cause.word(), cause.about().title()), Ink::Heading);
    paper.gap();
    paper.block(2, page.meaning, Ink::Body);
    paper.gap();
    paper.labelled(2, ("Recognised", Ink::Quiet), COLUMN, (page.recognised, Ink::Body));
    paper.labelled(2, ("Usual fix", Ink::Quiet), COLUMN, (page.cure, Ink::Body));
    let Some(file) = file else { return };
    let with = file.guide.requirements.iter().filter(|one| one.fixes.iter().any(|fix| fix.cause == Some(cause)));
    for one in with {
        paper.gap();
        paper.block(2, &format!("What {} says about it, for {}:", file.guide.project.name, one.title()), Ink::Body);
        for fix in one.fixes.iter().filter(|fix| fix.cause == Some(cause)) {
            guide_fix(paper, fix);
        }
    }
}

fn requirement(
    paper: &mut Paper<'_>,
    typed: &arguments::Explain,
    shown: &Shown,
    (word, interrupt, look): (&str, &Interrupt, &Look),
) -> Result<(), Failure> {
    let file = load_guide(shown, look)?;
    let Some(index) = file.guide.find(word) else {
        let ids = file.guide.requirements.iter().map(|one| one.id.as_str());
        let words = Cause::ALL.iter().map(|cause| cause.word());
        let words = words.chain(Rule::ALL.iter().map(|rule| rule.id()));
        let known: Vec<&str> = ids.chain(words).collect();
        return Err(wrong_word("requirement, cause or rule", word, &known));
    };
    let host = host(typed.machine.as_deref(), &file, Live::TIME_LIMIT, interrupt)?;
    let selection = Selection { only: vec![index], after_start: true, ..Selection::default() };
    let report = check(&file, (selection, Vec::new()), None, (&*host, interrupt), look)?;
    if let Some(settled) = report.settled_at(index) {
        about(paper, &report, settled);
    }
    Ok(())
}

/// Everything about one requirement, as a report has it.
pub(crate) fn about(paper: &mut Paper<'_>, report: &Report, settled: &RequirementResult) {
    let Some(one) = report.requirement(settled) else { return };
    paper.block(0, &one.title(), Ink::Heading);
    paper.gap();
    describe(paper, &report.guide, one);
    if let Some(wanted) = report.words(settled).and_then(|words| words.wanted()) {
        paper.labelled(2, ("Wanted", Ink::Quiet), COLUMN, (&wanted, Ink::Body));
    }
    let finding = &settled.finding;
    let (verdict, ink) = verdict_word(finding.verdict());
    paper.heading("On this machine, now");
    let cause = finding.cause().map(|cause| format!(" ({})", cause.word())).unwrap_or_default();
    paper.labelled(2, (verdict, ink), COLUMN, (&format!("{}{cause}", report.message(settled)), Ink::Body));
    evidence(paper, 2 + COLUMN, settled);
    for other in report.alternatives(settled) {
        let title = report.requirement(other).map(Requirement::title).unwrap_or_default();
        paper.labelled(2 + COLUMN, ("-", Ink::Quiet), 2, (&format!("{title}: {}", report.message(other)), Ink::Body));
        evidence(paper, 2 + COLUMN + 2, other);
    }
    if let Some(beyond) = limitations(one, finding, report.shell) {
        paper.gap();
        paper.block(
            2,
            "If it still does not do what it should when you type it: your shell may put something before it that no other program can see. \
             Type this:",
            Ink::Body,
        );
        paper.copyable(6, &beyond.line);
        paper.block(2, "and if it says", Ink::Body);
        for (what, then) in &beyond.answers {
            paper.labelled(4, ("-", Ink::Quiet), 2, (&format!("{what}: {then}"), Ink::Body));
        }
    }
    for (number, fix) in settled.fixes.iter().enumerate() {
        paper.gap();
        let label = if number == 0 { "What to do" } else { "Or" };
        paper.labelled(2, (label, Ink::Strong), COLUMN, (&fix.say, Ink::Body));
        Doing::from(fix).draw(paper, 2 + COLUMN, 2);
        if fix.admin && report.rights == Some(false) {
            let text = "You have no admin rights here: ask whoever looks after this machine to do it.";
            paper.labelled(2 + COLUMN, ("Mind:", Ink::Unsure), 6, (text, Ink::Body));
        }
    }
    others_fixes(paper, one);
}

fn describe(paper: &mut Paper<'_>, guide: &Guide, one: &Requirement) {
    let mut row = |label: &str, text: &str| paper.labelled(2, (label, Ink::Quiet), COLUMN, (text, Ink::Body));
    row("Id", &one.id);
    row("Checks", &format!("{} ({})", one.subject.title(), one.subject.kind().word()));
    if let Subject::AnyOf(any_of) = &one.subject {
        let named = any_of.alternatives.iter().filter_map(|other| guide.requirements.get(*other));
        let titles: Vec<String> = named.map(|other| format!("{} ({})", other.title(), other.id)).collect();
        row("One of", &join_words(&titles, "or"));
    }
    if one.alternative {
        row("Counts", "only as one of several that would do");
    }
    row("Matters", level_word(one.level));
    if let Some(stage) = guide.stages.get(one.stage) {
        row("Stage", &stage.title);
    }
    let roles: Vec<&str> = one.roles.iter().filter_map(|role| guide.roles.get(*role)).map(|role| role.id.as_str()).collect();
    row("For", &if roles.is_empty() { "everyone".to_owned() } else { format!("the role {}", join_words(&roles, "or")) });
    let after: Vec<&str> =
        one.after.iter().filter_map(|other| guide.requirements.get(*other)).map(|other| other.id.as_str()).collect();
    if !after.is_empty() {
        row("After", &join_words(&after, "and"));
    }
    if let Some(why) = &one.why {
        row("Why", why);
    }
    if let Some(docs) = &one.docs {
        row("Read more", docs);
    }
}

/// Every package and fix that the guide names, for every system.
fn others_fixes(paper: &mut Paper<'_>, one: &Requirement) {
    let packages = one.subject.packages();
    if packages.is_empty() && one.fixes.is_empty() {
        return;
    }
    paper.heading("What the guide names, for every system");
    for (manager, package) in packages {
        paper.labelled(2, (manager.word(), Ink::Quiet), COLUMN, (package, Ink::Body));
    }
    for fix in &one.fixes {
        let when = fix.cause.map_or_else(|| "Any cause".to_owned(), |cause| cause.word().to_owned());
        paper.labelled(2, (&when, Ink::Quiet), COLUMN, ("", Ink::Body));
        guide_fix(paper, fix);
    }
}

fn guide_fix(paper: &mut Paper<'_>, fix: &GuideFix) {
    paper.block(4, &fix.say, Ink::Body);
    Doing::from(fix).draw(paper, 4, 2);
}
