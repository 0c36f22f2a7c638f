//! How it reads.

use super::context::{Context, Told};
use super::{Remark, Rule};
use crate::guide::Requirement;
use crate::prelude::*;

/// More characters than this are not read where a sentence is expected.
const LONGEST_TITLE: usize = 80;
const LONGEST_WHY: usize = 400;
const LONGEST_SAY: usize = 500;

pub(super) fn read(context: &Context<'_>, remarks: &mut Vec<Remark>) {
    for (_, requirement) in context.requirements() {
        if let Some(why) = context.told(requirement, "why") {
            if repeats(&why, requirement) {
                let message = format!("the reason of `{}` says only what is checked", requirement.id);
                remarks.push(Remark::of(Rule::WhyRepeats, why.span.clone(), message).about(&*requirement.id));
            }
            length(&why, LONGEST_WHY, requirement, remarks);
            unfinished(&why, &requirement.id, remarks);
        }
        for (key, most) in [("title", LONGEST_TITLE), ("means", LONGEST_TITLE)] {
            if let Some(told) = context.told(requirement, key) {
                length(&told, most, requirement, remarks);
                unfinished(&told, &requirement.id, remarks);
            }
        }
        for (number, fix) in requirement.fixes.iter().enumerate() {
            for say in context.fix_texts(requirement, number, "say") {
                length(&say, LONGEST_SAY, requirement, remarks);
                unfinished(&say, &requirement.id, remarks);
                if fix.run.is_empty() && fix.edit.is_none() && !names_a_deed(say.text) {
                    let message = format!("fix {} of `{}` names nothing to do", number + 1, requirement.id);
                    remarks.push(Remark::of(Rule::SayWithoutDeed, say.span.clone(), message).about(&*requirement.id));
                }
            }
        }
    }
    for number in 0..context.guide.stages.len() {
        for told in context.stage(number, "intro") {
            unfinished(&told, "", remarks);
        }
    }
}

/// Words without meaning of their own.
const EMPTY: [&str; 30] = [
    "a",
    "an",
    "and",
    "are",
    "be",
    "build",
    "building",
    "builds",
    "for",
    "in",
    "installed",
    "is",
    "it",
    "must",
    "need",
    "needed",
    "needs",
    "of",
    "on",
    "program",
    "project",
    "required",
    "requires",
    "the",
    "this",
    "to",
    "tool",
    "version",
    "we",
    "you",
];

fn repeats(why: &Told<'_>, requirement: &Requirement) -> bool {
    let words = |text: &str| -> Vec<String> {
        text.split(|c: char| !c.is_alphanumeric())
            .map(str::to_lowercase)
            .filter(|word| !word.is_empty() && !EMPTY.contains(&word.as_str()))
            .collect()
    };
    let title = words(&format!("{} {} {}", requirement.title(), requirement.id, requirement.subject.title()));
    let own = words(why.text);
    own.iter().all(|word| title.contains(word))
}

fn length(told: &Told<'_>, most: usize, requirement: &Requirement, remarks: &mut Vec<Remark>) {
    let count = told.text.chars().count();
    if count > most {
        let message = format!("this has {count} characters; more than {most} are not read here");
        remarks.push(Remark::of(Rule::TextTooLong, told.span.clone(), message).about(&*requirement.id));
    }
}

fn unfinished(told: &Told<'_>, id: &str, remarks: &mut Vec<Remark>) {
    let marks = ["TODO", "FIXME", "TBD", "XXX", "???", "lorem ipsum", "<your", "fill in"];
    if let Some(mark) = marks.iter().find(|mark| told.text.contains(**mark)) {
        let remark = Remark::of(Rule::TextUnfinished, told.span.clone(), format!("this still says `{mark}`"));
        remarks.push(if id.is_empty() { remark } else { remark.about(id) });
    }
}

/// Words with which a sentence tells somebody to do something.
const DEEDS: [&str; 76] = [
    "add",
    "allow",
    "answer",
    "ask",
    "buy",
    "call",
    "change",
    "check",
    "choose",
    "clear",
    "click",
    "clone",
    "close",
    "connect",
    "copy",
    "create",
    "delete",
    "disable",
    "download",
    "edit",
    "empty",
    "enable",
    "enter",
    "fetch",
    "find",
    "follow",
    "free",
    "get",
    "give",
    "go",
    "grant",
    "install",
    "join",
    "leave",
    "let",
    "log",
    "look",
    "make",
    "mount",
    "move",
    "open",
    "pick",
    "place",
    "plug",
    "press",
    "pull",
    "put",
    "quit",
    "raise",
    "read",
    "reboot",
    "reinstall",
    "remove",
    "rename",
    "replace",
    "request",
    "restart",
    "run",
    "save",
    "see",
    "select",
    "send",
    "set",
    "sign",
    "start",
    "stop",
    "switch",
    "take",
    "tell",
    "turn",
    "type",
    "unpack",
    "update",
    "upgrade",
    "use",
    "write",
];

fn names_a_deed(text: &str) -> bool {
    let mut words = text.split(|c: char| !c.is_alphanumeric()).map(str::to_lowercase);
    words.any(|word| DEEDS.contains(&word.as_str()))
}
