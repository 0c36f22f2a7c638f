//! The guide's own fixes, filled in for this machine.

use super::fill::{Quoting, Values};
use super::{Circumstances, Fix, Source, quote};
use crate::finding::Verdict;
use crate::guide::{Edit, GuideFix};
use crate::inquiry::{Inquiry, Stop};
use crate::observation::{Elevator, Os};
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
        let already = Elevator::WORDS.iter().any(|word| filled.split(' ').next() == Some(word));
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

#[cfg(test)]
mod tests {
    use crate::fix::Fix;
    use crate::observation::{Observation, Run, RunEnd};
    use crate::prelude::*;
    use crate::probe::{Permission, Probe};
    use crate::selection::{Consent, Selection};
    use crate::testing::{debian, drive, guide};
    use rstest::rstest;

    /// The fixes of the last requirement.
    fn fixes(body: &str) -> Vec<Fix> {
        let mut script = debian();
        let run = |stderr: &str| Run { end: RunEnd::Exit(1), stdout: String::new(), stderr: stderr.into(), cut: false };
        let words = vec!["python3".to_owned(), "-c".to_owned(), "import tides".to_owned()];
        let probe = Probe::Command { words, timeout_ms: None, permission: Permission::Given };
        script.insert(probe, Observation::Run(run("ModuleNotFoundError: No module named 'tides'")));
        let selection = Selection { consent: Consent::Given, ..Selection::default() };
        drive(&guide(body), &script, selection, |_| 0).settled.pop().unwrap().fixes.to_vec()
    }

    const MISSING: &str = "[require.x]\ntool = \"cmake\"\n[[require.x.fix]]\nsay = \"Do it.\"\n";

    #[rstest]
    #[case::one_program("run = \"apply it\"\nadmin = true", "sudo apply it")]
    #[case::a_pipe("run = \"echo a | tee /etc/b\"\nadmin = true", "sudo sh -c 'echo a | tee /etc/b'")]
    #[case::a_sign_in_quotes("run = \"apply 'a|b'\"\nadmin = true", "sudo apply 'a|b'")]
    #[case::a_copy("edit = { file = \".env\", from = \".env.example\" }", "cp .env.example .env")]
    #[case::a_copy_with_rights("edit = { file = \"/etc/b\", from = \"b\" }\nadmin = true", "sudo cp b /etc/b")]
    #[case::lines_with_rights(
        "edit = { file = \"/etc/b\", append = \"it's\\ntwo\" }\nadmin = true",
        "printf '%s\\n' 'it'\\''s' two | sudo tee -a /etc/b"
    )]
    fn what_is_done_is_one_command(#[case] fix: &str, #[case] command: &str) {
        let all = fixes(&format!("{MISSING}{fix}\n"));
        let first = all.first().unwrap();
        assert_eq!((first.run.as_slice(), first.edit.is_none()), (&[command.to_owned()][..], true));
    }

    #[test]
    fn a_change_says_what_it_does() {
        let task = |edit: &str| fixes(&format!("{MISSING}edit = {edit}\n")).swap_remove(0).edit.unwrap().task();
        assert_eq!(task("{ file = \"a\", append = \"b\" }"), "Add this line to a:");
        assert_eq!(task("{ file = \"a\", append = \"b\\nc\" }"), "Add these lines to a:");
        let replace = "{ file = \"a\", replace = { pattern = \"^b=\", with = \"b=1\" } }";
        assert_eq!(task(replace), "In a, put this in the place of what fits ^b=:");
    }

    #[rstest]
    #[case::while_it_is_missing("only_while = \"y\"", "Do it.")]
    #[case::while_that_is_why("only_while = \"y tool-missing\"", "Do it.")]
    #[case::while_another_thing_is_why("only_while = \"y tool-too-old\"", "Install cmake")]
    fn a_fix_may_be_for_while_something_else_is_not_met(#[case] key: &str, #[case] begins: &str) {
        let all = fixes(&format!("[require.y]\ntool = \"ninja\"\n{MISSING}{key}\n"));
        assert!(all.first().unwrap().say.starts_with(begins), "{all:?}");
    }

    #[test]
    fn what_a_command_said_is_filled_in() {
        let command = "[require.x]\ncommand = [\"python3\", \"-c\", \"import tides\"]\n";
        let fix = |pattern: &str| {
            format!("[[require.x.fix]]\nprints = '{pattern}'\nsay = \"Get {{captured}}.\"\nrun = \"get {{captured}}\"\n")
        };
        let found = fixes(&format!("{command}{}{}", fix("no such thing"), fix("No module named (.*)")));
        assert_eq!(found.first().map(|fix| fix.say.as_str()), Some("Get 'tides'."));
        assert_eq!(found.first().unwrap().run, ["get ''\\''tides'\\'''"]);
    }
}
