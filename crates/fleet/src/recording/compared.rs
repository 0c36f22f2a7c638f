//! A comparison as others may see it.

use super::own_names;
use setup_ready_core::compare::{Comparison, Group, Side};
use setup_ready_core::observation::{AccessDenied, Observation};
use setup_ready_core::privacy::Replacer;
use setup_ready_observe::GuideFile;
use setup_ready_observe::Live;

/// A comparison without what is private, to be pasted or published: names of people and machines, addresses, tokens. What the machines are called here
/// stays as it is, unless it is a path. With `is_here`, one of them is the machine that this runs on, and its names are known.
pub fn compared_for_others(mut found: Comparison, sides: &[Side], file: Option<&GuideFile>, is_here: bool) -> Comparison {
    let is_path = |name: &String| name.contains(['/', '\\']);
    let is_here = is_here || found.names.iter().any(is_path);
    let mut replacer = Replacer::for_guide(file.map_or("", |file| file.text.as_str()));
    if let Some(file) = file.filter(|_| is_here) {
        own_names(&mut replacer, &Live::for_guide(file), &file.folder());
    }
    for (known, _) in sides.iter().filter_map(|side| side.known.as_ref()) {
        known.iter().for_each(|answer| replacer.learn(&answer.observation));
    }
    for side in sides {
        for name in &side.people {
            replacer.learn(&Observation::Within(Some(AccessDenied {
                path: String::new(),
                owner: Some(name.clone()),
                mine: false,
            })));
        }
        replacer.learn(&Observation::DatabaseGroups(side.groups.clone()));
    }
    let mut replace = |text: &mut String| *text = replacer.text(text);
    let reasons = |group: &mut Group, replace: &mut dyn FnMut(&mut String)| {
        group.reasons.iter_mut().for_each(|reason| replace(&mut reason.message));
    };
    for one in &mut found.differences {
        one.groups.iter_mut().for_each(|group| reasons(group, &mut replace));
        for fact in &mut one.deciding {
            replace(&mut fact.asked);
            fact.usual.iter_mut().chain(&mut fact.odd).for_each(&mut replace);
        }
    }
    found.names.iter_mut().filter(|name| is_path(name)).for_each(&mut replace);
    found.alike.iter_mut().for_each(|one| reasons(&mut one.group, &mut replace));
    for spread in found.within.iter_mut().chain(&mut found.machines) {
        spread.on.iter_mut().flatten().for_each(&mut replace);
    }
    found
}
