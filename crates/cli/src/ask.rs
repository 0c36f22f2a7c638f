//! Questions to the person at a terminal. Nothing is asked of a pipe.

use crate::keyboard;
use crate::look::{OutputStyle, TextLayout, Tone};
use build_setup_ready::{Ask, Consents, ForeignOwner};
use setup_ready_core::guide::Guide;
use setup_ready_core::text::join_words;
use std::io::{IsTerminal, Write};
use std::path::Path;
use std::sync::{Mutex, PoisonError};

/// Whether somebody is there to answer.
pub(crate) fn somebody_is_there() -> bool {
    std::io::stdin().is_terminal() && std::io::stderr().is_terminal()
}

fn show(layout: TextLayout<'_>) {
    let _ = std::io::stderr().write_all(layout.into_text().as_bytes());
}

fn answer(question: &str) -> Option<String> {
    let mut error = std::io::stderr();
    let _ = write!(error, "{question} ");
    let _ = error.flush();
    // The end of the input is no answer.
    let line = keyboard::answer();
    let _ = if line.is_none() { writeln!(error) } else { Ok(()) };
    Some(line?.trim().to_owned())
}

/// Asks a question to which the word "yes" alone is a yes.
pub(crate) fn yes(question: &str) -> bool {
    answer(question).is_some_and(|word| word.eq_ignore_ascii_case("yes"))
}

/// Has the person choose a role; `None` is every role.
pub(crate) fn role(guide: &Guide, look: &OutputStyle) -> Option<usize> {
    let mut layout = TextLayout::for_errors(look);
    layout.block(0, &format!("What do you want to do in {}?", guide.project.name), Tone::Strong);
    layout.gap();
    for (number, role) in guide.roles.iter().enumerate() {
        let about = role.about.as_ref().map(|about| format!(": {about}")).unwrap_or_default();
        layout.labelled(2, (&format!("{}", number + 1), Tone::Strong), 3, (&format!("{}{about}", role.id), Tone::Body));
    }
    layout.gap();
    show(layout);
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
        let mut layout = TextLayout::for_errors(look);
        layout.block(0, &format!("There is no {word} in the list."), Tone::Body);
        show(layout);
    }
}

/// Asks whether a guide of another user is to be used; the yes holds until this program ends.
pub(crate) fn other_owner(path: &Path, owner: &ForeignOwner, look: &OutputStyle) -> bool {
    static AGREED: Mutex<Option<u32>> = Mutex::new(None);
    let mut agreed = AGREED.lock().unwrap_or_else(PoisonError::into_inner);
    if *agreed == Some(owner.number) {
        return true;
    }
    if !somebody_is_there() {
        return false;
    }
    let mut layout = TextLayout::for_errors(look);
    let text = format!(
        "{} belongs to another user: {owner}. Whoever owns a guide decides what is looked at and what you are told to type.",
        path.display()
    );
    layout.block(0, &text, Tone::Strong);
    layout.gap();
    show(layout);
    let yes = answer("Use it? Type yes, or only Enter to leave it:").is_some_and(|word| word.eq_ignore_ascii_case("yes"));
    *agreed = yes.then_some(owner.number);
    yes
}

/// Shows the exact commands and asks whether they may be run; the word "yes" alone is a yes, and is remembered for exactly what was shown.
/// Gives those that the person agrees to, now or before.
pub(crate) fn consent(asks: Vec<Ask>, consents: Option<&Consents>, folder: &Path, look: &OutputStyle) -> Vec<Ask> {
    let before = consents.map(Consents::marks).unwrap_or_default();
    let (mut agreed, new): (Vec<Ask>, Vec<Ask>) = asks.into_iter().partition(|ask| before.contains(&ask.mark));
    if new.is_empty() || !somebody_is_there() {
        return agreed;
    }
    let mut layout = TextLayout::for_errors(look);
    let text = "This guide wants to run these commands on your machine, beyond asking programs for their version. They can do whatever you \
                can do: read them first.";
    layout.block(0, text, Tone::Strong);
    list(&mut layout, &new);
    layout.gap();
    let folder = folder.canonicalize().unwrap_or_else(|_| folder.to_owned());
    layout.block(0, &format!("They run in {}.", folder.display()), Tone::Quiet);
    match consents.map(|consents| (consents, consents.distrusted())) {
        Some((consents, Ok(()))) => {
            let text = format!(
                "A yes is remembered for exactly these commands, programs and files, in this folder; what has changed is asked for again. To \
                 take every yes back, delete {}",
                consents.file().display()
            );
            layout.block(0, &text, Tone::Quiet);
        }
        Some((_, Err(reason))) => {
            layout.block(
                0,
                &format!("What you agreed to before is not believed, and a yes counts only now: {reason}."),
                Tone::Body,
            );
        }
        None => layout.block(0, "A yes counts only now: there is no place of your own to remember it.", Tone::Quiet),
    }
    layout.gap();
    show(layout);
    let yes = answer("Run them? Type yes, or only Enter to leave them out:").is_some_and(|word| word.eq_ignore_ascii_case("yes"));
    if !yes {
        return agreed;
    }
    if let Some(consents) = consents.filter(|consents| consents.distrusted().is_ok())
        && let Err(error) = consents.remember(&new)
    {
        let mut layout = TextLayout::for_errors(look);
        layout.block(0, &format!("Your yes counts now, but cannot be remembered: {error}."), Tone::Body);
        show(layout);
    }
    agreed.extend(new);
    agreed
}

/// The argument lists, those of one program together.
fn list(layout: &mut TextLayout<'_>, asks: &[Ask]) {
    let mut programs: Vec<&Path> = Vec::new();
    for ask in asks {
        if !programs.contains(&ask.program.as_path()) {
            programs.push(&ask.program);
        }
    }
    let quote = |word: &String| setup_ready_core::fix::quote(word, setup_ready_core::fix::Shell::Posix);
    for program in programs {
        let of_it: Vec<&Ask> = asks.iter().filter(|ask| ask.program == program).collect();
        layout.gap();
        let many = if of_it.len() > 1 { format!(", {} times", of_it.len()) } else { String::new() };
        layout.block(2, &format!("{} is started{many}:", program.display()), Tone::Body);
        let mut before: Option<&Ask> = None;
        for ask in of_it {
            if before.is_none_or(|before| before.words != ask.words) {
                layout.copyable(4, &ask.words.iter().map(quote).collect::<Vec<_>>().join(" "));
            }
            layout.block(8, &format!("for {}", ask.title), Tone::Quiet);
            if !ask.scripts.is_empty() {
                let scripts: Vec<String> = ask.scripts.iter().map(|script| script.display().to_string()).collect();
                let them = if scripts.len() == 1 { "read it too" } else { "read them too" };
                let names: Vec<&str> = scripts.iter().map(String::as_str).collect();
                layout.block(
                    8,
                    &format!("which does what {} of the project says: {them}", join_words(&names, "and")),
                    Tone::Quiet,
                );
            }
            before = Some(ask);
        }
    }
}
