use super::check::{checked, load_guide, next_commands};
use crate::arguments::{self, PlanFormat, Shown};
use crate::exit::{Failure, Status};
use crate::look::{OutputStyle, TextLayout, Tone, plan};
use crate::output;
use build_setup_ready::write::Invocations;
use build_setup_ready::{Interrupt, write};
use setup_ready_core::report::{Outcome, Report};

/// Checks as a preflight does, and shows only what to do.
pub(crate) fn run(
    typed: &arguments::Plan,
    shown: &Shown,
    (interrupt, look): (&Interrupt, &OutputStyle),
) -> Result<Status, Failure> {
    let file = load_guide(shown, look)?;
    let report = checked(&file, (&typed.check, None), (typed.format == PlanFormat::Text, interrupt), look)?;
    let written = |write: fn(&Report, &mut Vec<u8>) -> std::io::Result<()>| {
        let mut text = Vec::new();
        write(&report, &mut text).map(|()| text).map_err(Failure::Output)
    };
    let text = match typed.format {
        PlanFormat::Text => {
            let mut layout = TextLayout::new(look);
            plan::draw(&mut layout, &report);
            let text = match (report.plan.steps.is_empty(), report.outcome()) {
                (true, Outcome::Ready) => "There is nothing to do: everything needed is met.",
                (true, Outcome::ReadyInPart) => {
                    "There is nothing to do for what was asked for. This checks it again; for everything, leave out what you chose:"
                }
                (true, Outcome::ReadyHere) => {
                    "There is nothing to do here; the rest belongs into another place. This says which:"
                }
                (true, Outcome::NotReady | Outcome::Undecided) => {
                    "There is nothing to do that the software knows of, and something needed is not met or not known. This says what, and why:"
                }
                (false, _) => "When that is done, check again:",
            };
            layout.gap();
            layout.block(0, text, Tone::Body);
            if !(report.plan.steps.is_empty() && report.outcome() == Outcome::Ready) {
                let role = report.role.and_then(|role| file.guide.roles.get(role));
                layout.copyable(2, &next_commands("preflight", &typed.check, shown, role).again);
            }
            layout.into_text().into_bytes()
        }
        PlanFormat::Json => written(|report, text| write::plan_json(report, text))?,
        PlanFormat::Markdown => written(|report, text| write::plan_markdown(report, text))?,
        PlanFormat::Sh => written(|report, text| write::plan_sh(report, &invocations(report), text))?,
        PlanFormat::Powershell => written(|report, text| write::plan_powershell(report, &invocations(report), text))?,
    };
    output::write(&text, shown.output.as_deref())?;
    Ok(if report.frame.interrupted { Status::Interrupted } else { report.outcome().into() })
}

/// What a script of the plan tells people to type next.
fn invocations(report: &Report) -> Invocations {
    let role = report.role.and_then(|role| report.guide.roles.get(role)).map(|role| format!(" --role {}", role.id));
    let stage = report.stage.and_then(|stage| report.guide.stages.get(stage)).map(|stage| format!(" --stage {}", stage.id));
    Invocations {
        check: format!("setup-ready preflight{}{}", role.unwrap_or_default(), stage.unwrap_or_default()),
        plan: "setup-ready plan".to_owned(),
    }
}
