use super::check::{check, host, load_guide, wrong_word};
use crate::arguments::{self, Shown};
use crate::exit::{Failure, Status};
use crate::look::doing::Doing;
use crate::look::maintainer;
use crate::look::report::{evidence, verdict_word};
use crate::look::wording::option;
use crate::look::{OutputStyle, TextLayout, Tone};
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

pub(crate) fn run(
    typed: &arguments::Explain,
    shown: &Shown,
    (interrupt, look): (&Interrupt, &OutputStyle),
) -> Result<Status, Failure> {
    let mut layout = TextLayout::new(look);
    match &typed.word {
        None => list(&mut layout, optional_guide(shown, look)?.as_ref()),
        Some(word) => match Cause::from_word(word) {
            Some(cause) => page(&mut layout, cause, optional_guide(shown, look)?.as_ref()),
            None if Rule::from_id(word).is_some() => {
                if let Some(rule) = Rule::from_id(word) {
                    maintainer::rule(&mut layout, rule);
                }
            }
            None => requirement(&mut layout, typed, shown, (word, interrupt, look))?,
        },
    }
    output::write(layout.into_text().as_bytes(), shown.output.as_deref())?;
    Ok(Status::Ready)
}

/// Causes can be explained without a guide; but one that is named, or has mistakes, is not passed over.
fn optional_guide(shown: &Shown, look: &OutputStyle) -> Result<Option<GuideFile>, Failure> {
    match load_guide(shown, look) {
        Ok(file) => Ok(Some(file)),
        Err(Failure::Load(LoadError::NotFound(_))) if shown.guide.is_none() => Ok(None),
        Err(failure) => Err(failure),
    }
}

fn list(layout: &mut TextLayout<'_>, file: Option<&GuideFile>) {
    if let Some(file) = file {
        layout.block(0, &format!("The requirements of {}", file.guide.project.name), Tone::Heading);
        layout.gap();
        let widest = file.guide.requirements.iter().map(|one| one.id.len()).max().unwrap_or(0).min(30) + 2;
        for one in &file.guide.requirements {
            let level = if one.level == Level::Must { String::new() } else { format!(" ({})", level_word(one.level)) };
            layout.labelled(2, (&one.id, Tone::Strong), widest, (&format!("{}{level}", one.title()), Tone::Body));
        }
        layout.gap();
    }
    layout.block(0, "The causes: why something is not met", Tone::Heading);
    let mut about = None;
    for cause in Cause::ALL {
        if about != Some(cause.about()) {
            about = Some(cause.about());
            layout.gap();
            layout.block(2, cause.about().title(), Tone::Strong);
        }
        layout.labelled(4, (cause.word(), Tone::Body), 28, (cause.page().meaning, Tone::Quiet));
    }
    maintainer::rules(layout);
    layout.gap();
    layout.block(0, "For one of them: setup-ready explain WORD", Tone::Body);
}

fn level_word(level: Level) -> &'static str {
    match level {
        Level::Must => "needed",
        Level::Should => "recommended",
        Level::May => "optional",
    }
}

/// The page of a cause, with what a guide says about it.
pub(crate) fn page(layout: &mut TextLayout<'_>, cause: Cause, file: Option<&GuideFile>) {
    let page = cause.page();
    layout.block(0, &format!("{}  ({})", cause.word(), cause.about().title()), Tone::Heading);
    layout.gap();
    layout.block(2, page.meaning, Tone::Body);
    layout.gap();
    layout.labelled(2, ("Recognised", Tone::Quiet), COLUMN, (page.recognised, Tone::Body));
    layout.labelled(2, ("Usual fix", Tone::Quiet), COLUMN, (page.cure, Tone::Body));
    let Some(file) = file else { return };
    let with = file.guide.requirements.iter().filter(|one| one.fixes.iter().any(|fix| fix.cause == Some(cause)));
    for one in with {
        layout.gap();
        layout.block(2, &format!("What {} says about it, for {}:", file.guide.project.name, one.title()), Tone::Body);
        for fix in one.fixes.iter().filter(|fix| fix.cause == Some(cause)) {
            guide_fix(layout, fix);
        }
    }
}

fn requirement(
    layout: &mut TextLayout<'_>,
    typed: &arguments::Explain,
    shown: &Shown,
    (word, interrupt, look): (&str, &Interrupt, &OutputStyle),
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
        about(layout, &report, settled);
    }
    Ok(())
}

/// Everything about one requirement, as a report has it.
pub(crate) fn about(layout: &mut TextLayout<'_>, report: &Report, settled: &RequirementResult) {
    let Some(one) = report.requirement(settled) else { return };
    layout.block(0, &one.title(), Tone::Heading);
    layout.gap();
    describe(layout, &report.guide, one);
    if let Some(wanted) = report.words(settled).and_then(|words| words.wanted()) {
        layout.labelled(2, ("Wanted", Tone::Quiet), COLUMN, (&wanted, Tone::Body));
    }
    let finding = &settled.finding;
    let (verdict, tone) = verdict_word(finding.verdict());
    layout.heading("On this machine, now");
    let cause = finding.cause().map(|cause| format!(" ({})", cause.word())).unwrap_or_default();
    layout.labelled(2, (verdict, tone), COLUMN, (&format!("{}{cause}", report.message(settled)), Tone::Body));
    evidence(layout, 2 + COLUMN, settled);
    for other in report.alternatives(settled) {
        let title = report.requirement(other).map(Requirement::title).unwrap_or_default();
        layout.labelled(2 + COLUMN, ("-", Tone::Quiet), 2, (&format!("{title}: {}", report.message(other)), Tone::Body));
        evidence(layout, 2 + COLUMN + 2, other);
    }
    if let Some(beyond) = limitations(one, finding, report.shell) {
        layout.gap();
        layout.block(
            2,
            "If it still does not do what it should when you type it: your shell may put something before it that no other program can see. \
             Type this:",
            Tone::Body,
        );
        layout.copyable(6, &beyond.line);
        layout.block(2, "and if it says", Tone::Body);
        for (what, then) in &beyond.answers {
            layout.labelled(4, ("-", Tone::Quiet), 2, (&format!("{what}: {then}"), Tone::Body));
        }
    }
    for (number, fix) in settled.fixes.iter().enumerate() {
        layout.gap();
        let label = if number == 0 { "What to do" } else { "Or" };
        let text = format!("{}{}", fix.say, option(settled, fix));
        layout.labelled(2, (label, Tone::Strong), COLUMN, (&text, Tone::Body));
        Doing::from(fix).draw(layout, 2 + COLUMN, 2);
        if fix.admin && report.rights == Some(false) {
            let text = "You have no admin rights here: ask whoever looks after this machine to do it.";
            layout.labelled(2 + COLUMN, ("Mind:", Tone::Unsure), 6, (text, Tone::Body));
        }
    }
    others_fixes(layout, one);
}

fn describe(layout: &mut TextLayout<'_>, guide: &Guide, one: &Requirement) {
    let mut row = |label: &str, text: &str| layout.labelled(2, (label, Tone::Quiet), COLUMN, (text, Tone::Body));
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
fn others_fixes(layout: &mut TextLayout<'_>, one: &Requirement) {
    let packages = one.subject.packages();
    if packages.is_empty() && one.fixes.is_empty() {
        return;
    }
    layout.heading("What the guide names, for every system");
    for (manager, package) in packages {
        layout.labelled(2, (manager.word(), Tone::Quiet), COLUMN, (package, Tone::Body));
    }
    for fix in &one.fixes {
        let when = fix.cause.map_or_else(|| "Any cause".to_owned(), |cause| cause.word().to_owned());
        layout.labelled(2, (&when, Tone::Quiet), COLUMN, ("", Tone::Body));
        guide_fix(layout, fix);
    }
}

fn guide_fix(layout: &mut TextLayout<'_>, fix: &GuideFix) {
    layout.block(4, &fix.say, Tone::Body);
    Doing::from(fix).draw(layout, 4, 2);
}
