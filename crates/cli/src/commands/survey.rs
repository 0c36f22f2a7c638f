use super::check::load_guide;
use crate::arguments::{self, By, Shown, SurveyFormat};
use crate::exit::{Failure, Status};
use crate::look::{Detail, OutputStyle, TextLayout, Tone, survey};
use crate::output;
use build_setup_ready::{GuideFile, Interrupt, LoadError};
use setup_ready_core::survey::{Dimension, WhatIf, WhatIfError};
use setup_ready_fleet::{RowForm, Surveying, Written, rows};
use setup_ready_fleet::{survey_html, survey_json};
use std::io::Write;

/// Puts many reports together.
pub(crate) fn run(
    typed: &arguments::Survey,
    shown: &Shown,
    (interrupt, look): (&Interrupt, &OutputStyle),
) -> Result<Status, Failure> {
    // Reports can be put together anywhere; recordings need the guide.
    let file: Option<GuideFile> = match load_guide(shown, look) {
        Ok(file) => Some(file),
        Err(Failure::Load(LoadError::NotFound(_))) => None,
        Err(other) => return Err(other),
    };
    let what_if = typed.what_if.as_deref().map(|text| asked(text, file.as_ref())).transpose()?;
    let surveying = Surveying {
        paths: typed.files.clone(),
        guide: file.as_ref(),
        by: typed.by.map(|by| match by {
            By::System => Dimension::System,
            By::Distro => Dimension::Distro,
            By::Arch => Dimension::Arch,
            By::Role => Dimension::Role,
            By::Week => Dimension::Week,
        }),
        what_if,
        jobs: typed.jobs.map(usize::from),
        interrupt: interrupt.clone(),
    };
    let line = survey::Reading::start(look);
    let progress = |bytes: u64| line.update(bytes);
    let form = match typed.format {
        SurveyFormat::Rows => Some(RowForm::Json),
        SurveyFormat::Csv => Some(RowForm::Csv),
        SurveyFormat::Text | SurveyFormat::Json | SurveyFormat::Html => None,
    };
    if let Some(form) = form {
        return as_rows(&surveying, form, shown, (&progress, look));
    }
    let surveyed = surveying.read(&progress);
    drop(line);
    let project =
        file.as_ref().map(|file| file.guide.project.name.clone()).or_else(|| surveyed.project.clone()).unwrap_or_default();
    let text = match typed.format {
        SurveyFormat::Json => survey_json(&surveyed, &project),
        SurveyFormat::Html => survey_html(&surveyed, &project).map_err(|error| Failure::Software(error.to_string()))?,
        SurveyFormat::Text | SurveyFormat::Rows | SurveyFormat::Csv => {
            let mut layout = TextLayout::new(look);
            survey::draw(&mut layout, &surveyed, &project);
            layout.into_text()
        }
    };
    output::write(text.as_bytes(), shown.output.as_deref())?;
    Ok(match (surveyed.interrupted, surveyed.broken, surveyed.survey.reports) {
        (true, ..) => Status::Interrupted,
        (_, _, 0) => Status::WrongUse,
        (_, 0, _) => Status::Ready,
        _ => Status::NotReady,
    })
}

fn asked(text: &str, file: Option<&GuideFile>) -> Result<WhatIf, Failure> {
    let word = |message: String, note: String| Failure::Word { message, note };
    let example = || "Example: --what-if 'cmake >= 3.28'".to_owned();
    let what_if = WhatIf::parse(text).map_err(|error| word(format!("--what-if {text}: {error}"), example()))?;
    let Some(file) = file else { return Ok(what_if) };
    match what_if.changed(&file.guide) {
        Ok(_) => Ok(what_if),
        Err(error @ WhatIfError::NotInGuide(_)) => {
            let all = WhatIf::candidates(&file.guide);
            let near = setup_ready_core::text::nearest(&what_if.of, all.iter().copied());
            let note =
                near.map_or_else(|| format!("Those that have one: {}.", all.join(", ")), |near| format!("Did you mean {near}?"));
            Err(word(error.to_string(), note))
        }
        Err(error) => Err(word(format!("--what-if {text}: {error}"), example())),
    }
}

/// Rows are written as they are made.
fn as_rows(
    surveying: &Surveying<'_>,
    form: RowForm,
    shown: &Shown,
    (progress, look): (&(dyn Fn(u64) + Sync), &OutputStyle),
) -> Result<Status, Failure> {
    let came = std::cell::RefCell::new(Written::default());
    output::write_stream(
        |writer| {
            *came.borrow_mut() = rows(surveying, form, writer, progress)?;
            Ok(())
        },
        shown.output.as_deref(),
    )?;
    let written = came.into_inner();
    name(&written, look);
    Ok(match (surveying.interrupt.is_raised(), written.reports, written.broken.is_empty()) {
        (true, ..) => Status::Interrupted,
        (_, 0, _) => Status::WrongUse,
        (_, _, true) => Status::Ready,
        _ => Status::NotReady,
    })
}

/// Names what could not be used, beside the rows.
fn name(written: &Written, look: &OutputStyle) {
    let copies = survey::copies(written.copies);
    if (written.broken.is_empty() && written.passed_over.count == 0 && copies.is_none()) || look.detail == Detail::Quiet {
        return;
    }
    let mut layout = TextLayout::for_errors(look);
    for one in &written.broken {
        layout.block(0, &survey::broken(one), Tone::Body);
    }
    if let Some(copies) = copies {
        layout.block(0, &format!("{copies}."), Tone::Body);
    }
    if written.passed_over.count > 0 {
        layout.block(0, &written.passed_over.to_string(), Tone::Body);
    }
    let _ = std::io::stderr().write_all(layout.into_text().as_bytes());
}
