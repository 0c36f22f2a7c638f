use super::check::load_guide;
use crate::arguments::{self, RemarksFormat, Shown};
use crate::exit::{Failure, Status};
use crate::look::{OutputStyle, TextLayout, maintainer};
use crate::output;
use build_setup_ready::LoadError;
use build_setup_ready::write::{Readers, write_whole};
use setup_ready_core::proofread::{Remark, corrected};
use setup_ready_maintainer::Proof;
use setup_ready_maintainer::{remarks_json, remarks_sarif};
use std::path::{Path, PathBuf};

/// Reads the guide as its strictest reader does.
pub(crate) fn run(typed: &arguments::Proofread, shown: &Shown, look: &OutputStyle) -> Result<Status, Failure> {
    let (path, mut text) = text_of_guide(shown, look)?;
    let folder = path.parent().filter(|parent| !parent.as_os_str().is_empty()).unwrap_or_else(|| Path::new(".")).to_owned();
    let read = |text: &str| Proof::read(text, &folder, usize::from(typed.depth));
    let mut proof = read(&text);
    let mut done: Vec<String> = Vec::new();
    if typed.correct {
        let before = text.clone();
        // What was corrected may show what it hid; it ends, since each time something certain is done.
        for _ in 0..MOST_ROUNDS {
            let (right, count) = corrected(&text, &proof.remarks);
            if count == 0 || right == text {
                break;
            }
            let better = read(&right);
            // A correction that makes another mistake is none.
            if heavy(&better.remarks) > heavy(&proof.remarks) {
                break;
            }
            done.extend(proof.remarks.iter().filter_map(|one| maintainer::done(one, &text)));
            (text, proof) = (right, better);
        }
        if text != before {
            let written = write_whole(&path, text.as_bytes(), Readers::AsUsual);
            written.map_err(|reason| Failure::Write { path: path.clone(), reason })?;
        }
    }
    let shown_path = path.display().to_string();
    match typed.format {
        RemarksFormat::Text => {
            let mut layout = TextLayout::new(look);
            let with = shown.guide.as_ref().map(|guide| format!(" --guide {}", guide.display())).unwrap_or_default();
            maintainer::remarks(&mut layout, &proof, &done, (&shown_path, &text, &with));
            output::write(layout.into_text().as_bytes(), shown.output.as_deref())?;
        }
        RemarksFormat::Json => output::write(remarks_json(&proof, &shown_path, &text).as_bytes(), shown.output.as_deref())?,
        RemarksFormat::Sarif => {
            output::write(remarks_sarif(&proof, &crate::results::from_here(&path), &text).as_bytes(), shown.output.as_deref())?;
        }
    }
    Ok(if proof.remarks.is_empty() { Status::Ready } else { Status::NotReady })
}

/// Corrections are tried again so often.
const MOST_ROUNDS: usize = 8;

fn heavy(remarks: &[Remark]) -> usize {
    remarks.iter().filter(|one| one.rule.family() == setup_ready_core::proofread::Family::GuideError).count()
}

/// The guide's text, also where it has mistakes: they are remarks too.
fn text_of_guide(shown: &Shown, look: &OutputStyle) -> Result<(PathBuf, String), Failure> {
    match load_guide(shown, look) {
        Ok(file) => Ok((file.path, file.text)),
        Err(Failure::Load(LoadError::Mistakes { path, text, .. })) => Ok((path, text)),
        Err(failure) => Err(failure),
    }
}
