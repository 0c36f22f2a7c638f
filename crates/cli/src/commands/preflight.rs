use super::check::{checked, load_guide, next_commands};
use crate::arguments::{self, Check, Format, Shown};
use crate::exit::{Failure, Status};
use crate::look::{Detail, OutputStyle, TextLayout, Tone, report};
use crate::output;
use build_setup_ready::{GuideFile, Interrupt, random_id, remembered_id, state_folder, write};
use setup_ready_core::report::Report;
use setup_ready_core::text::join_words;
use setup_ready_fleet::{Recorded, record};
use std::cell::OnceCell;
use std::io::Write;

pub(crate) fn run(
    typed: &arguments::Preflight,
    shown: &Shown,
    (interrupt, look): (&Interrupt, &OutputStyle),
) -> Result<Status, Failure> {
    if typed.watch {
        if typed.format != Format::Text || !typed.also.is_empty() {
            let message = "--watch shows text, and another form is asked for".to_owned();
            return Err(Failure::Word { message, note: "Leave one of the two out.".to_owned() });
        }
        return super::watch::run(typed, shown, interrupt, look);
    }
    let file = load_guide(shown, look)?;
    let mut report = checked(&file, (&typed.check, None), (typed.format == Format::Text, interrupt), look)?;
    if typed.id {
        let kept = state_folder(&file.folder()).and_then(|folder| remembered_id(&folder).ok());
        report.frame.id = Some(kept.unwrap_or_else(random_id));
    }
    let told = ReportWriter { report: &report, file: &file, typed, private: OnceCell::new() };
    // The files first: whoever reads the result may end what comes after it.
    for also in &typed.also {
        // What is in a file has no colours, and is not as wide as this terminal.
        let plain = Shown { output: Some(also.file.clone()), ..shown.clone() };
        told.write(also.format, &plain, &OutputStyle::detect(&plain))?;
    }
    told.write(typed.format, shown, look)?;
    Ok(status(&report))
}

/// A report that is written in one form or several.
struct ReportWriter<'r> {
    report: &'r Report,
    file: &'r GuideFile,
    typed: &'r arguments::Preflight,
    /// The same without what is private, made once.
    private: OnceCell<Recorded>,
}

impl ReportWriter<'_> {
    fn write(&self, format: Format, shown: &Shown, look: &OutputStyle) -> Result<(), Failure> {
        let output = shown.output.as_deref();
        match format {
            Format::Text => output::write(&text(self.report, &self.typed.check, shown, look), output),
            Format::Json => output::write_large(|writer| write::json(self.report, writer), output),
            Format::Markdown => {
                let report = self.without_names(look)?;
                output::write_large(|writer| setup_ready_forms::markdown(report, writer), output)
            }
            Format::Html => {
                let page =
                    setup_ready_forms::html(self.without_names(look)?).map_err(|error| Failure::Software(error.to_string()))?;
                output::write(page.as_bytes(), output)
            }
            Format::Junit => output::write(setup_ready_forms::junit(self.report).as_bytes(), output),
            Format::Tap => output::write(setup_ready_forms::tap(self.report).as_bytes(), output),
            Format::Sarif => {
                let path = crate::results::from_here(&self.file.path);
                output::write(setup_ready_forms::sarif(self.report, &path, &self.file.text).as_bytes(), output)
            }
        }
    }

    /// The report as others may see it.
    fn without_names(&self, look: &OutputStyle) -> Result<&Report, Failure> {
        if self.typed.with_names {
            return Ok(self.report);
        }
        if let Some(made) = self.private.get() {
            return Ok(&made.report);
        }
        let made = record(self.report, self.file).map_err(|error| Failure::Software(error.to_string()))?;
        if !made.differing.is_empty() {
            let ids = join_words(&made.differing, "and");
            note(
                &format!(
                    "Note: judged otherwise there, since it rests on what was replaced: {ids}. --with-names replaces nothing."
                ),
                look,
            );
        }
        Ok(&self.private.get_or_init(|| made).report)
    }
}

pub(super) fn text(report: &Report, typed: &Check, shown: &Shown, look: &OutputStyle) -> Vec<u8> {
    let mut layout = TextLayout::new(look);
    let role = report.role.and_then(|role| report.guide.roles.get(role));
    report::draw(&mut layout, report, &next_commands("preflight", typed, shown, role));
    layout.into_text().into_bytes()
}

pub(super) fn status(report: &Report) -> Status {
    if report.frame.interrupted { Status::Interrupted } else { report.outcome().into() }
}

pub(super) fn note(text: &str, look: &OutputStyle) {
    if look.detail == Detail::Quiet {
        return;
    }
    let mut layout = TextLayout::for_errors(look);
    layout.block(0, text, Tone::Quiet);
    let _ = std::io::stderr().write_all(format!("\n{}\n", layout.into_text()).as_bytes());
}
