//! Flat rows, one for each requirement of each report: for a database, or a table.

use super::input::Block;
use super::pipeline::Pipeline;
use super::{Broken, Judge, PassedOver, Surveying};
use serde::Serialize;
use setup_ready_core::survey::Entry;
use std::io::{self, Write};

/// The form of rows.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum RowForm {
    /// A JSON object a line.
    Json,
    /// Values with commas between (RFC 4180), the first line their names.
    Csv,
}

/// One row.
#[derive(Serialize)]
struct Flat<'e> {
    machine: Option<&'e str>,
    checked: &'e str,
    guide: Option<&'e str>,
    system: Option<&'e str>,
    distro: Option<&'e str>,
    distro_version: Option<&'e str>,
    arch: Option<&'e str>,
    role: Option<&'e str>,
    outcome: setup_ready_core::report::Outcome,
    requirement: &'e str,
    kind: &'e str,
    level: &'static str,
    verdict: &'static str,
    cause: Option<&'e str>,
    version: Option<&'e str>,
    found: Option<&'e str>,
    fix: Option<&'e str>,
}

/// What was written as rows, and what was not.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
#[non_exhaustive]
pub struct Written {
    /// How many reports.
    pub reports: u64,
    /// How many were copies of others, to the byte, and were not written.
    pub copies: u64,
    /// What could not be used.
    pub broken: Vec<Broken>,
    /// What lies in a folder and was not read, for its name.
    pub passed_over: PassedOver,
}

/// The names of the columns, in their order; the first numbers the report.
const COLUMNS: [&str; 18] = [
    "report",
    "machine",
    "checked",
    "guide",
    "system",
    "distro",
    "distro_version",
    "arch",
    "role",
    "outcome",
    "requirement",
    "kind",
    "level",
    "verdict",
    "cause",
    "version",
    "found",
    "fix",
];

/// The rows of each report of a block, with the report's mark: which of two copies is written is decided in the order of the files.
type Rows = Vec<(u64, Vec<String>)>;

fn add(rows: &mut Rows, (entry, mark): (&Entry<'_>, u64), form: RowForm) {
    let mut made = Vec::with_capacity(entry.requirements.len());
    for row in &entry.requirements {
        let flat = Flat {
            machine: entry.id.as_deref(),
            checked: &entry.started,
            guide: entry.guide.as_deref(),
            system: entry.os.as_deref(),
            distro: entry.distro.as_deref(),
            distro_version: entry.distro_version.as_deref(),
            arch: entry.arch.as_deref(),
            role: entry.role.as_deref(),
            outcome: entry.outcome,
            requirement: &row.id,
            kind: &row.kind,
            level: row.level.word(),
            verdict: row.verdict.word(),
            cause: row.cause.as_deref(),
            version: row.version(),
            found: row.found.as_deref(),
            fix: row.fix.as_deref(),
        };
        let text = match form {
            // A value of ours can always be written.
            RowForm::Json => serde_json::to_string(&flat).unwrap_or_default(),
            RowForm::Csv => csv(&flat),
        };
        made.push(text);
    }
    rows.push((mark, made));
}

fn csv(flat: &Flat<'_>) -> String {
    let outcome =
        serde_json::to_value(flat.outcome).ok().and_then(|value| value.as_str().map(ToOwned::to_owned)).unwrap_or_default();
    let cells = [
        flat.machine,
        Some(flat.checked),
        flat.guide,
        flat.system,
        flat.distro,
        flat.distro_version,
        flat.arch,
        flat.role,
        Some(&outcome),
        Some(flat.requirement),
        Some(flat.kind),
        Some(flat.level),
        Some(flat.verdict),
        flat.cause,
        flat.version,
        flat.found,
        flat.fix,
    ];
    cells.map(|cell| self::cell(cell.unwrap_or_default())).join(",")
}

/// A cell. What a table program would take for a formula is a text for it.
fn cell(text: &str) -> String {
    let text = setup_ready_core::text::Sanitised::line(text).to_string();
    let formula = text.starts_with(['=', '+', '-', '@']);
    let text = if formula { format!("'{text}") } else { text };
    if text.contains([',', '"', '\n', '\r']) { format!("\"{}\"", text.replace('"', "\"\"")) } else { text }
}

/// Writes the rows of all reports as they are read, and says how many there were and what was left out.
///
/// # Errors
/// When the writer fails.
pub fn rows(
    surveying: &Surveying<'_>,
    form: RowForm,
    writer: &mut dyn Write,
    progress: &(dyn Fn(u64) + Sync),
) -> io::Result<Written> {
    let judge = Judge::of(surveying);
    let pipeline = Pipeline { paths: &surveying.paths, jobs: surveying.jobs, interrupt: &surveying.interrupt, progress };
    let (mut reports, mut broken, mut failed) = (0, super::SurveyProgress::default(), None);
    if form == RowForm::Csv {
        writeln!(writer, "{}\r", COLUMNS.join(","))?;
    }
    let work = |block: &Block| {
        judge.each(block, Rows::default(), |rows, entry, _, mark| {
            add(rows, (entry, mark), form);
            true
        })
    };
    let ran = pipeline.run(&|block| judge.meets(block), &work, &mut |part| match part {
        Ok(part) => {
            broken.take(part.recordings, part.broken);
            let came = part.made.iter().filter(|(mark, _)| judge.copies.is_new(*mark)).try_for_each(|(_, rows)| {
                reports += 1;
                rows.iter().try_for_each(|text| match form {
                    RowForm::Json => writeln!(writer, "{{\"report\":{reports},{}", text.get(1..).unwrap_or_default()),
                    RowForm::Csv => write!(writer, "{reports},{text}\r\n"),
                })
            });
            failed = came.err();
            failed.is_none()
        }
        Err(unreadable) => {
            broken.take(0, vec![unreadable]);
            true
        }
    });
    match failed {
        Some(error) => Err(error),
        None => Ok(Written { reports, copies: judge.copies.count(), broken: broken.named, passed_over: ran.passed_over }),
    }
}
