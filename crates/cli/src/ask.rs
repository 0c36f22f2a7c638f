//! Questions to the person at a terminal. Nothing is asked of a pipe.

use crate::look::{Ink, Look, Paper};
use build_setup_ready::Consents;
use build_setup_ready::guide::{Guide, Requirement};
use std::io::{IsTerminal, Write};
use std::path::Path;

/// Whether somebody is there to answer.
pub(crate) fn somebody_is_there() -> bool {
    std::io::stdin().is_terminal() && std::io::stderr().is_terminal()
}

fn show(paper: Paper<'_>) {
    let _ = std::io::stderr().write_all(paper.into_text().as_bytes());
}

fn answer(question: &str) -> Option<String> {
    let mut error = std::io::stderr();
    let _ = write!(error, "{question} ");
    let _ = error.flush();
    let mut line = String::new();
    // The end of the input is no answer.
    let read = std::io::stdin().read_line(&mut line).ok()?;
    let _ = if read == 0 { writeln!(error) } else { Ok(()) };
    (read > 0).then(|| line.trim().to_owned())
}

/// Has the person choose a role; `None` is every role.
pub(crate) fn role(guide: &Guide, look: &Look) -> Option<usize> {
    let mut paper = Paper::for_errors(look);
    paper.block(0, &format!("What do you want to do in {}?", guide.project.name), Ink::Strong);
    paper.gap();
    for (number, role) in guide.roles.iter().enumerate() {
        let about = role.about.as_ref().map(|about| format!(": {about}")).unwrap_or_default();
        paper.labelled(2, (&format!("{}", number + 1), Ink::Strong), 3, (&format!("{}{about}", role.id), Ink::Body));
    }
    paper.gap();
    show(paper);
    loop {
        let word = answer("A number or a name, or only Enter for everything:")?;
        if word.is_empty() {
            return None;
        }
        let by_number =
            word.parse::<usize>().ok().and_then(|number| number.checked_sub(1)).filter(|index| *index < guide.roles.len());
        if let Some(index) = by_number.or_else(|| guide.role(&word)) {
            return Some(index);
        }
        let mut paper = Paper::for_errors(look);
        paper.block(0, &format!("There is no {word} in the list."), Ink::Body);
        show(paper);
    }
}

/// Shows the exact commands and asks whether they may be run; the word "yes" alone is a yes, and is remembered.
pub(crate) fn consent(commands: &[(&Requirement, Vec<String>)], sha256: &str, folder: &Path, look: &Look) -> bool {
    let consents = Consents::of_user();
    if consents.as_ref().is_some_and(|consents| consents.has(sha256)) {
        return true;
    }
    if !somebody_is_there() {
        return false;
    }
    let mut paper = Paper::for_errors(look);
    let text = "This guide wants to run these commands on your machine, beyond asking programs for their version. They can do whatever you \
                can do: read them first.";
    paper.block(0, text, Ink::Strong);
    paper.gap();
    for (requirement, words) in commands {
        let quote = |word: &String| build_setup_ready::fix::quote(word, build_setup_ready::fix::Shell::Posix);
        paper.copyable(2, &words.iter().map(quote).collect::<Vec<_>>().join(" "));
        paper.block(6, &format!("for {}", requirement.title()), Ink::Quiet);
    }
    paper.gap();
    let folder = folder.canonicalize().unwrap_or_else(|_| folder.to_owned());
    paper.block(0, &format!("They run in {}.", folder.display()), Ink::Quiet);
    if let Some(consents) = &consents {
        let text = format!(
            "A yes is remembered for exactly this guide; a changed guide asks again. To take every yes back, delete {}",
            consents.file().display()
        );
        paper.block(0, &text, Ink::Quiet);
    }
    paper.gap();
    show(paper);
    let yes = answer("Run them? Type yes, or only Enter to leave them out:").is_some_and(|word| word.eq_ignore_ascii_case("yes"));
    if let Some(consents) = consents.filter(|_| yes)
        && let Err(error) = consents.remember(sha256)
    {
        let mut paper = Paper::for_errors(look);
        paper.block(0, &format!("Your yes counts now, but cannot be remembered: {error}."), Ink::Body);
        show(paper);
    }
    yes
}
