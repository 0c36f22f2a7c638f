//! The plan as a script for PowerShell, to be read before it is run: as `plan_sh`, for Windows.

use super::plan::{Invocations, errand, goodbye, line, made_for, marks, titles};
use setup_ready_core::fix::Shell;
use setup_ready_core::guide::Level;
use setup_ready_core::plan::Step;
use setup_ready_core::report::Report;
use setup_ready_core::text::Sanitised;
use std::io::{self, Write};

/// What the script begins with: a step is named before it is done, and named again where it did not work; a person's step is shown and waited for; lines
/// are written into a file once, and on lines of their own.
const HEAD: &str = r#"$ErrorActionPreference = 'Stop'
$at = ''
trap {
    if ($at) { Write-Host "`nStep $at did not work. What comes after it was not done.`nSee what it says below, then look again: $again" }
    break
}
function Show-Step([string] $Number, [string] $What) {
    $script:at = $Number
    Write-Host "`nStep ${Number}: $What"
}
function Add-Line([string] $File, [string[]] $Lines) {
    $folder = Split-Path -Parent $File
    if ($folder -and -not (Test-Path -LiteralPath $folder)) { $null = New-Item -ItemType Directory -Force -Path $folder }
    if (Test-Path -LiteralPath $File) {
        $last = @(Get-Content -LiteralPath $File -Tail $Lines.Count) -join "`n"
        if ($last -ceq ($Lines -join "`n")) { Write-Host "It stands at the end of $File already."; return }
        $text = Get-Content -LiteralPath $File -Raw
        if ($text -and -not $text.EndsWith("`n")) { Add-Content -LiteralPath $File -Value '' }
    }
    Add-Content -LiteralPath $File -Value $Lines
    Write-Host "Written into ${File}:"
    $Lines | ForEach-Object { Write-Host "    $_" }
}
function Show-Person {
    Write-Host ''
    $args | ForEach-Object { Write-Host $_ }
    if ([Environment]::UserInteractive -and -not [Console]::IsInputRedirected) {
        $null = Read-Host 'Press Enter when that is done, or Ctrl-C to stop here'
    }
}
function Invoke-Step([string] $Command) {
    $global:LASTEXITCODE = 0
    Invoke-Expression $Command
    if ($global:LASTEXITCODE -ne 0) { throw "This step ended with the status ${global:LASTEXITCODE}: $Command" }
}
"#;

/// A text as one word, whatever it holds: between single quotes nothing is special but the quotes themselves, of which PowerShell knows several
/// (`about_Quoting_Rules`).
fn word(text: &str) -> String {
    let doubled = text.chars().fold(String::with_capacity(text.len() + 2), |mut doubled, c| {
        if matches!(c, '\'' | '\u{2018}' | '\u{2019}' | '\u{201a}' | '\u{201b}') {
            doubled.push(c);
        }
        doubled.push(c);
        doubled
    });
    format!("'{doubled}'")
}

/// Whether a person must do it, or put something of their own into it.
fn asks(step: &Step) -> bool {
    let edit = step.fix.edit.as_ref();
    step.fix.own_value.is_some()
        || step.fix.run.iter().any(|command| command.contains(super::plan::YOURS))
        || edit.is_some_and(|edit| edit.append.contains(super::plan::YOURS))
}

/// Writes the plan as a script for PowerShell. Commands for another shell stand in it as comments, and so does what is only recommended.
///
/// # Errors
/// When the writer fails.
pub fn plan_powershell(report: &Report, invocations: &Invocations, mut writer: impl Write) -> io::Result<()> {
    writeln!(writer, "# What would make this machine ready for {}.", line(&report.guide.project.name))?;
    writeln!(writer, "# {}", made_for(report))?;
    writeln!(writer, "# Read it before you run it, in the project's folder. Nobody else has: the guide's author and")?;
    let software = line(&report.frame.software);
    writeln!(writer, "# setup-ready {software} made it. Where only a person can do a step, it says so and waits.")?;
    writeln!(writer, "$again = {}", word(&invocations.check))?;
    writer.write_all(HEAD.as_bytes())?;
    let guide = report.frame.guide_path.as_deref().and_then(|path| std::path::Path::new(path).file_name()?.to_str());
    if let Some(guide) = guide.map(line) {
        let text = word(&format!("Run this in the project's folder: the one with {guide}."));
        writeln!(writer, "if (-not (Test-Path -LiteralPath {})) {{ Write-Host {text}; exit 1 }}", word(&format!("./{guide}")))?;
    }
    let mut interrupted = false;
    for (number, step) in report.plan.steps.iter().enumerate() {
        writeln!(writer, "\n# {}. {}{}", number + 1, line(&step.fix.say), marks(step))?;
        writeln!(writer, "#    Settles {}.", line(&titles(report, step)))?;
        if let Some(caution) = &step.fix.caution {
            writeln!(writer, "#    Mind: {}", line(caution))?;
        }
        let other_shell = report.shell != Shell::PowerShell;
        let not_allowed = step.fix.admin && report.rights == Some(false);
        let replaces = step.fix.edit.as_ref().is_some_and(|edit| edit.line.is_some() || edit.replaces.is_some());
        let (asks, needed) = (asks(step), step.level == Level::Must);
        let comment = other_shell || asks || replaces || interrupted || not_allowed || !needed;
        let why = if other_shell {
            "It is written for another shell:"
        } else if interrupted {
            "Only after the step above, in a script made when that is done:"
        } else if not_allowed {
            "For whoever looks after this machine:"
        } else if asks || replaces {
            "Put in your own value first:"
        } else {
            "It is not needed; if you want it:"
        };
        if comment && step.fix.acts() {
            writeln!(writer, "#    {why}")?;
        }
        if !comment && step.fix.acts() {
            writeln!(writer, "Show-Step {} {}", number + 1, word(&line(&step.fix.say)))?;
        }
        for command in &step.fix.run {
            if comment {
                writeln!(writer, "#      {}", Sanitised::command(&line(command)))?;
            } else {
                writeln!(writer, "Invoke-Step {}", word(&Sanitised::command(command).to_string()))?;
            }
        }
        if let Some(edit) = &step.fix.edit {
            let file = match edit.file.strip_prefix("~/").or_else(|| edit.file.strip_prefix("~\\")) {
                Some(rest) => format!("(Join-Path $HOME {})", word(&line(rest))),
                None => word(&line(&edit.file)),
            };
            let texts: Vec<String> = edit.append.lines().map(|text| word(&line(text))).collect();
            let start = if comment { "#      " } else { "" };
            writeln!(writer, "{start}Add-Line {file} {}", texts.join(", "))?;
        }
        let of_a_person = asks || replaces || not_allowed || (!step.fix.acts() && step.fix.then.is_none());
        if of_a_person && !interrupted && !other_shell && needed {
            let lines: Vec<String> = errand(number + 1, step, not_allowed).iter().map(|text| word(text)).collect();
            writeln!(writer, "Show-Person {}", lines.join(" "))?;
        }
        interrupted |= step.fix.then.is_some() && !step.fix.acts();
    }
    if report.plan.steps.is_empty() {
        writeln!(writer, "\nWrite-Host 'Nothing is to be done that the software knows of.'")?;
    }
    writeln!(writer, "\nWrite-Host {}", word(&goodbye(report, invocations)))
}

#[cfg(test)]
mod tests {
    use super::word;
    use proptest::prelude::*;

    /// What PowerShell would read of a word between single quotes; none where it would end before its end.
    fn read(word: &str) -> Option<String> {
        let quotes = ['\'', '\u{2018}', '\u{2019}', '\u{201a}', '\u{201b}'];
        let inner = word.strip_prefix('\'')?.strip_suffix('\'')?;
        let mut text = String::new();
        let mut rest = inner.chars();
        while let Some(c) = rest.next() {
            if quotes.contains(&c) && !rest.next().is_some_and(|next| quotes.contains(&next)) {
                return None;
            }
            text.push(c);
        }
        Some(text)
    }

    proptest! {
        #[test]
        fn whatever_a_text_holds_is_one_word(text in "[ -~\u{2018}\u{2019}\u{201a}\u{201b}é]{0,40}") {
            prop_assert_eq!(read(&word(&text)), Some(text));
        }
    }
}
