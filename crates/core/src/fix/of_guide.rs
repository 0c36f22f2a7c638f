//! The guide's own fixes, filled in for this machine.

use super::fill::{Quoting, Values};
use super::{Circumstances, Fix, Source, quote};
use crate::finding::Verdict;
use crate::guide::{Edit, GuideFix};
use crate::inquiry::{Inquiry, Stop};
use crate::observation::Os;
use crate::prelude::*;

/// Whether what a fix is only for is not met.
pub(super) fn still_needed(inquiry: &mut Inquiry<'_>, fix: &GuideFix) -> Result<bool, Stop> {
    let Some((index, cause)) = fix.only_while else { return Ok(true) };
    let finding = inquiry.finding(index)?;
    Ok(cause.map_or(finding.verdict() == Verdict::Unmet, |cause| finding.cause() == Some(cause)))
}

/// A command with admin rights: all of it, where it is more than one program with its arguments.
fn whole_as_admin(here: &Circumstances<'_>, command: &str) -> String {
    // Quotes do not join commands, whatever stands between them.
    let mut quote_open = None;
    let joins = command.chars().any(|c| {
        match quote_open {
            Some(open) if open == c => quote_open = None,
            None if c == '\'' || c == '"' => quote_open = Some(c),
            Some(_) | None => {}
        }
        quote_open.is_none() && "|;&<>".contains(c)
    });
    let plain = here.as_admin(command);
    if !joins || plain == command || here.os == Some(Os::Windows) {
        return plain;
    }
    here.as_admin(&format!("sh -c {}", quote(command, here.shell)))
}

/// A fix of the guide with its placeholders filled in; none where the finding lacks one of them.
pub(super) fn fix(fix: &GuideFix, values: &Values<'_>) -> Option<Fix> {
    let here = values.here;
    let command = |text: &String| {
        let filled = values.fill(text, Quoting::Shell)?;
        let already = ["sudo ", "doas "].iter().any(|elevate| filled.starts_with(elevate));
        Some(if fix.admin && !already { whole_as_admin(here, &filled) } else { filled })
    };
    let words = |text: &str| values.fill(text, Quoting::Plain);
    let mut run: Vec<String> = fix.run.iter().map(command).collect::<Option<_>>()?;
    let mut edit = match &fix.edit {
        Some(edit) => Some(Edit { file: words(&edit.file)?, append: words(&edit.append)?, ..edit.clone() }),
        None => None,
    };
    // A copy is a command; what is added with admin rights is one too, since an editor would need them.
    if let Some(from) = edit.as_mut().and_then(|edit| edit.from.take()) {
        let file = edit.as_ref().map(|edit| edit.file.clone()).unwrap_or_default();
        let copy = here.shell.copy(&words(&from)?, &file);
        run.push(if fix.admin { here.as_admin(&copy) } else { copy });
        edit = edit.filter(|edit| !edit.append.is_empty());
    }
    if let Some(added) = edit.as_ref().filter(|edit| fix.admin && edit.replaces.is_none())
        && matches!(here.os, Some(Os::Linux | Os::Macos))
        && !added.file.starts_with('~')
    {
        let lines: Vec<String> = added.append.lines().map(|line| quote(line, here.shell)).collect();
        let tee = here.as_admin(&format!("tee -a {}", quote(&added.file, here.shell)));
        run.push(format!("printf '%s\\n' {} | {tee}", lines.join(" ")));
        edit = None;
    }
    Some(Fix {
        run,
        edit,
        admin: fix.admin,
        then: fix.then,
        caution: fix.caution.clone().or_else(|| if fix.admin { here.admin_caution() } else { None }),
        download_bytes: fix.download.map(|size| size.0),
        takes_ms: fix.takes_ms,
        source: Source::Guide,
        ..Fix::say(words(&fix.say)?)
    })
}
