//! One plan for everything: steps merged, in a workable order, with what they cost.

mod schedule;
mod ways;

use crate::cause::Cause;
use crate::fix::{Fix, Part, Prepares, Whole};
use crate::guide::{Existence, Guide, Level, Subject, Then};
use crate::prelude::*;
use crate::settled::RequirementResult;
use crate::text::join_words;
use hashbrown::HashMap;
use schedule::Task;

/// One thing to do.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct Step {
    /// What: one fix, or what several can be done in one command.
    pub fix: Fix,
    /// The indexes of the requirements that it settles.
    pub settles: Vec<usize>,
    /// The weightiest level among them.
    pub level: Level,
}

/// The ordered, merged and costed list of what to do.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
#[non_exhaustive]
pub struct Plan {
    /// The steps, in order.
    pub steps: Vec<Step>,
    /// The sum of what is known to be downloaded.
    pub download_bytes: u64,
    /// The sum of the times that are known, in milliseconds.
    pub takes_ms: u64,
    /// How many steps download something or take time that nobody knows.
    pub steps_of_unknown_cost: usize,
    /// What must follow, each once, in the order of the steps.
    pub then: Vec<Then>,
}

/// Makes the plan from the first fix of everything that is not met.
///
/// Packages of one manager become one command, and the same step for two requirements is one step. A step comes after those that it needs: by the
/// guide's order, or because its command is what another step installs. Interruptions are as few and as late as they can be.
/// Steps with admin rights stand together: before the others, or behind them where the person must ask somebody (`rights` is `Some(false)`).
pub fn make(guide: &Guide, settled: &[RequirementResult], rights: Option<bool>) -> Plan {
    let draft = Draft::of(guide, settled);
    let todo = draft.tasks(guide);
    let mut plan = Plan::default();
    let mut waiting: Vec<usize> = Vec::new();
    for mut slot in schedule::schedule(&todo, rights != Some(false)) {
        // Needed before recommended before optional; what something needs is as weighty as that, so that no order is broken.
        slot.groups.sort_by_key(|group| group.first().and_then(|index| todo.get(*index)).map(|task| task.level));
        plan.steps.extend(slot.groups.iter().filter_map(|group| draft.step(group, &todo)));
        waiting.extend(slot.groups.iter().flatten().filter(|index| todo.get(**index).is_some_and(|task| task.then.is_some())));
        let Some(event) = slot.then else { continue };
        let follows = |index: &usize| todo.get(*index).and_then(|task| task.then);
        let (released, later): (Vec<usize>, Vec<usize>) = waiting.iter().partition(|index| follows(index) <= Some(event));
        waiting = later;
        let mut events: Vec<Step> = slot.events.iter().filter_map(|index| draft.step(&[*index], &todo)).collect();
        if let Some(closing) = draft.closing(event, &released) {
            // A step in words alone that is as weighty is itself the restart or the sign-in, also for the others.
            let serves = |step: &&mut Step| step.fix.then == Some(event) && step.level <= closing.level;
            match events.iter_mut().find(serves) {
                Some(step) => closing.settles.iter().for_each(|index| step.settle(*index, closing.level)),
                None => events.push(closing),
            }
        }
        plan.steps.append(&mut events);
        if !plan.then.contains(&event) {
            plan.then.push(event);
        }
    }
    // The line that an earlier step adds is there already.
    let mut added = hashbrown::HashSet::new();
    for step in &mut plan.steps {
        if step.fix.edit.as_ref().is_some_and(|edit| !added.insert((edit.file.clone(), edit.append.clone())))
            && !step.fix.run.is_empty()
        {
            step.fix.edit = None;
        }
    }
    let mut done: hashbrown::HashSet<String> = hashbrown::HashSet::new();
    for step in &mut plan.steps {
        step.leave_out_what_is_done(&done);
        done.extend(step.fix.run.iter().cloned());
    }
    // What is known of the parts counts, also where a step as a whole is not known.
    let known = |cost: fn(&Fix) -> Option<u64>| draft.items.iter().filter_map(|item| cost(item.fix)).fold(0, u64::saturating_add);
    plan.download_bytes = known(|fix| fix.download_bytes);
    plan.takes_ms = known(|fix| fix.takes_ms);
    plan.steps_of_unknown_cost = plan.steps.iter().filter(|step| step.fix.acts() && step.fix.takes_ms.is_none()).count();
    plan
}

/// Something to do, before what can be one command is made one.
struct Item<'s> {
    fix: &'s Fix,
    /// What is said of the same commands by others.
    also: Vec<&'s str>,
    causes: Vec<Cause>,
    settles: Vec<usize>,
    level: Level,
}

/// What a fix says where that tells it from others, what it has one type, the file and line that it has one write, and what else is to be known of it.
type Typed<'s> = (&'s str, &'s [String], Option<(&'s str, &'s str)>, (bool, Option<Then>, Option<&'s str>));

#[derive(Default)]
struct Draft<'s> {
    items: Vec<Item<'s>>,
    /// Which item settles a requirement.
    by_requirement: HashMap<usize, usize>,
}

impl<'s> Draft<'s> {
    fn of(guide: &Guide, settled: &'s [RequirementResult]) -> Self {
        let mut draft = Self::default();
        // The same commands are typed once, whatever is said of them; words alone are one step where they are the same.
        let mut same: HashMap<Typed<'_>, usize> = HashMap::new();
        for one in settled {
            let Some(requirement) = guide.requirements.get(one.index) else { continue };
            // An `any_of` offers the cheapest of its alternatives.
            let Some(fix) = one.fixes.first().filter(|_| !requirement.alternative) else { continue };
            let words = if fix.run.is_empty() || fix.part.is_some() { fix.say.as_str() } else { "" };
            let edit = fix.edit.as_ref().map(|edit| (edit.file.as_str(), edit.append.as_str()));
            let around = (fix.admin, fix.then, fix.caution.as_deref());
            let at = *same.entry((words, fix.run.as_slice(), edit, around)).or_insert(draft.items.len());
            draft.by_requirement.insert(one.index, at);
            let causes = one.finding.cause().into_iter();
            match draft.items.get_mut(at) {
                Some(item) => {
                    item.settles.push(one.index);
                    item.level = item.level.min(requirement.level);
                    item.causes.extend(causes);
                    if item.fix.say != fix.say && !item.also.contains(&fix.say.as_str()) {
                        item.also.push(&fix.say);
                    }
                }
                None => draft.items.push(Item {
                    fix,
                    also: Vec::new(),
                    causes: causes.collect(),
                    settles: vec![one.index],
                    level: requirement.level,
                }),
            }
        }
        draft
    }

    fn tasks(&self, guide: &Guide) -> Vec<Task> {
        let needs = self.needs(guide);
        let levels = self.levels(&needs);
        // What is needed and what is not are never one command: the one must not fail with the other.
        let mut wholes: Vec<(Whole, Option<Prepares>, String, Level)> = Vec::new();
        let task = |((item, needs), level): ((&Item<'_>, Vec<usize>), Level)| {
            let merges = item.fix.part.as_ref().map(|part| {
                let whole = (part.of, item.fix.prepares.clone(), part.before.clone(), level);
                wholes.iter().position(|one| *one == whole).unwrap_or_else(|| {
                    wholes.push(whole);
                    wholes.len() - 1
                })
            });
            let then = item.fix.then;
            let (is_event, lost_with) = (then.is_some() && !item.fix.acts(), item.fix.lost_with());
            Task { needs, then, is_event, lost_with, merges, admin: item.fix.admin, level }
        };
        self.items.iter().zip(needs).zip(levels).map(task).collect()
    }

    /// The weightiest level of each item and of all that need it.
    fn levels(&self, needs: &[Vec<usize>]) -> Vec<Level> {
        let mut levels: Vec<Level> = self.items.iter().map(|item| item.level).collect();
        for weight in Level::ALL {
            let mut open: Vec<usize> = (0..levels.len()).filter(|index| levels.get(*index) == Some(&weight)).collect();
            while let Some(index) = open.pop() {
                for need in needs.get(index).into_iter().flatten() {
                    if let Some(level) = levels.get_mut(*need).filter(|level| **level > weight) {
                        *level = weight;
                        open.push(*need);
                    }
                }
            }
        }
        levels
    }

    /// Which items must be done before each.
    fn needs(&self, guide: &Guide) -> Vec<Vec<usize>> {
        let installs = self.installs(guide);
        // Lists that are fetched anew by themselves come before what would fetch them first.
        let is_lists = |item: &&Item<'_>| item.fix.part.as_ref().is_some_and(|part| matches!(part.of, Whole::Lists(..)));
        let lists: HashMap<&str, usize> = self
            .items
            .iter()
            .enumerate()
            .filter(|(_, item)| is_lists(item))
            .flat_map(|(at, item)| item.fix.run.iter().map(move |command| (command.as_str(), at)))
            .collect();
        let of = |item: &Item<'_>| {
            let requirements = item.settles.iter().filter_map(|index| guide.requirements.get(*index));
            let first =
                requirements.flat_map(|one| one.after.iter().chain(&one.needs)).filter_map(|need| self.by_requirement.get(need));
            let programs = item.fix.run.iter().filter_map(|command| installs.get(program(command)));
            let prepares = item.fix.prepares.as_ref().map_or(0, |prepares| prepares.commands);
            let fetches = item.fix.run.iter().take(prepares).filter_map(|command| lists.get(command.as_str()));
            first.chain(programs).chain(fetches).copied().collect()
        };
        let mut needs: Vec<Vec<usize>> = self.items.iter().map(of).collect();
        needs.iter_mut().zip(ways::cleared(&self.items)).for_each(|(needs, cleared)| needs.extend(cleared));
        needs
    }

    /// Which item puts a program where it can be called.
    fn installs<'g>(&self, guide: &'g Guide) -> HashMap<&'g str, usize> {
        let mut installs = HashMap::new();
        for (at, item) in self.items.iter().enumerate() {
            for requirement in item.settles.iter().filter_map(|index| guide.requirements.get(*index)) {
                if let Subject::Tool(tool) = &requirement.subject
                    && tool.expect == Existence::Present
                {
                    installs.extend(tool.names.iter().map(|name| (name.as_str(), at)));
                }
            }
        }
        installs
    }

    /// One step of items that can be one command.
    fn step(&self, group: &[usize], todo: &[Task]) -> Option<Step> {
        let items: Vec<&Item<'_>> = group.iter().filter_map(|index| self.items.get(*index)).collect();
        let first = items.first()?;
        let fix = first.fix;
        let mut step = Step {
            fix: Fix {
                download_bytes: sum(items.iter().map(|item| item.fix.download_bytes)),
                takes_ms: sum(items.iter().map(|item| item.fix.takes_ms)),
                presumed: items.iter().all(|item| item.fix.presumed),
                ..fix.clone()
            },
            settles: items.iter().flat_map(|item| item.settles.iter().copied()).collect(),
            level: group.iter().filter_map(|index| todo.get(*index)).map(|task| task.level).min()?,
        };
        step.settles.sort_unstable();
        for say in items.iter().flat_map(|item| &item.also) {
            step.fix.say = format!("{} {say}", step.fix.say);
        }
        if let (Some(part), true) = (&fix.part, items.len() > 1) {
            let parts: Vec<&Part> = items.iter().filter_map(|item| item.fix.part.as_ref()).collect();
            let names = without_repeats(parts.iter().map(|part| part.name.as_str()));
            let titles = without_repeats(parts.iter().map(|part| part.title.as_str()));
            let prepares = fix.prepares.as_ref().map_or("", |prepares| prepares.say.as_str());
            step.fix.say = format!("{prepares}{}", part.of.say(&join_words(&titles, "and")));
            if let Some(last) = step.fix.run.last_mut() {
                *last = format!("{}{}{}", part.before, names.join(part.of.between()), part.after);
            }
            step.fix.choice = together(items.iter().filter_map(|item| item.fix.choice.as_deref()));
            step.fix.not_checked = together(items.iter().filter_map(|item| item.fix.not_checked.as_deref()));
            step.fix.caution = together(items.iter().filter_map(|item| item.fix.caution.as_deref()));
        }
        Some(step)
    }

    /// The step that lets others take effect; none where none waits.
    fn closing(&self, then: Then, waiting: &[usize]) -> Option<Step> {
        let waiting: Vec<&Item<'_>> = waiting.iter().filter_map(|index| self.items.get(*index)).collect();
        let level = waiting.iter().map(|item| item.level).min()?;
        let say = match then {
            Then::NewShell => "Open a new terminal, so that the changes above take effect.",
            Then::SignIn => "Sign out completely and in again, so that the changes above take effect.",
            Then::Restart => "Restart the machine, so that the changes above take effect.",
        };
        let mut settles: Vec<usize> = waiting.iter().flat_map(|item| item.settles.iter().copied()).collect();
        settles.sort_unstable();
        Some(Step { fix: Fix { then: Some(then), ..Fix::say(say) }, settles, level })
    }
}

/// What a command starts, past what gives it admin rights.
fn program(command: &str) -> &str {
    command.split_whitespace().find(|word| !matches!(*word, "sudo" | "doas")).unwrap_or_default()
}

/// The sum where every part is known.
fn sum(mut parts: impl Iterator<Item = Option<u64>>) -> Option<u64> {
    parts.try_fold(0_u64, |sum, part| Some(sum.saturating_add(part?)))
}

/// Sentences in one text, each once, also where one is part of another.
fn together<'w>(sentences: impl Iterator<Item = &'w str>) -> Option<String> {
    let all = without_repeats(sentences);
    let whole = |one: &&&str| !all.iter().any(|other| other != *one && other.contains(**one));
    let kept: Vec<&str> = all.iter().filter(whole).copied().collect();
    (!kept.is_empty()).then(|| kept.join(" "))
}

fn without_repeats<'w>(words: impl Iterator<Item = &'w str>) -> Vec<&'w str> {
    let mut seen: hashbrown::HashSet<&str> = hashbrown::HashSet::new();
    words.filter(|word| seen.insert(word)).collect()
}

impl Step {
    /// Without what only makes the rest possible, where earlier steps did it.
    fn leave_out_what_is_done(&mut self, done: &hashbrown::HashSet<String>) {
        let Some(prepares) = &self.fix.prepares else { return };
        let commands = self.fix.run.get(..prepares.commands).unwrap_or_default();
        if !commands.is_empty() && commands.iter().all(|command| done.contains(command)) {
            self.fix.run.drain(..prepares.commands);
            if let Some(rest) = self.fix.say.strip_prefix(&prepares.say) {
                self.fix.say = rest.to_owned();
            }
            self.fix.prepares = None;
        }
    }

    fn settle(&mut self, index: usize, level: Level) {
        if !self.settles.contains(&index) {
            self.settles.push(index);
        }
        self.level = self.level.min(level);
    }
}

#[cfg(test)]
mod tests;
