//! One plan for everything: steps merged, in a workable order, with what they cost.

use crate::driver::Settled;
use crate::fix::{Fix, Package};
use crate::guide::{Edit, Guide, Level, Then};
use crate::prelude::*;
use crate::text::join_words;
use hashbrown::HashMap;

/// One thing to do.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Step {
    /// What, in words.
    pub say: String,
    /// Commands that can be pasted as they stand.
    pub run: Vec<String>,
    /// A line to add to a file.
    pub edit: Option<Edit>,
    /// The indexes of the requirements that it settles.
    pub settles: Vec<usize>,
    /// The weightiest level among them.
    pub level: Level,
    /// It needs admin rights.
    pub admin: bool,
    /// What must follow before it takes effect.
    pub then: Option<Then>,
    /// What one should know before.
    pub caution: Option<String>,
    /// How much is downloaded, where it is known.
    pub download_bytes: Option<u64>,
    /// How long it takes in milliseconds, where it is known.
    pub takes_ms: Option<u64>,
}

/// The ordered, merged and costed list of what to do.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Plan {
    /// The steps, in order.
    pub steps: Vec<Step>,
    /// The sum of what is known to be downloaded.
    pub download_bytes: u64,
    /// The sum of the times that are known, in milliseconds.
    pub takes_ms: u64,
    /// How many steps download something or take time that nobody knows.
    pub steps_of_unknown_cost: usize,
    /// What must follow, each once.
    pub then: Vec<Then>,
}

/// Makes the plan from the first fix of everything that is not met.
///
/// Packages of one manager become one command, and the same step for two requirements is one step. What is needed comes before what is
/// recommended, and of each, steps with admin rights stand together before the others; what needs a new terminal, a sign-in or a restart comes last, and that once.
pub fn make(guide: &Guide, settled: &[Settled]) -> Plan {
    let mut draft = Draft::default();
    for one in settled {
        // An `any_of` offers the cheapest of its alternatives.
        if guide.requirements.get(one.index).is_some_and(|requirement| requirement.alternative) {
            continue;
        }
        let Some(fix) = one.fixes.first() else { continue };
        let level = guide.requirements.get(one.index).map_or(Level::Must, |requirement| requirement.level);
        draft.add(fix, one.index, level);
    }
    draft.finish()
}

#[derive(Default)]
struct Draft {
    steps: Vec<Step>,
    /// Where the step of a package manager stands, with its packages, and what its command starts with.
    managers: Vec<(Package, usize, Vec<String>, Vec<String>)>,
    /// Where a step stands, by its words and commands.
    same: HashMap<(String, Vec<String>), usize>,
}

impl Draft {
    fn add(&mut self, fix: &Fix, index: usize, level: Level) {
        if let Some(package) = &fix.package
            && let Some((_, at, names, titles)) = self.managers.iter_mut().find(|(first, ..)| first.manager == package.manager)
        {
            names.push(package.name.clone());
            titles.push(package.title.clone());
            if let Some(step) = self.steps.get_mut(*at) {
                step.settle(index, level);
            }
            return;
        }
        let key = (fix.say.clone(), fix.run.clone());
        if let Some(step) = self.same.get(&key).and_then(|at| self.steps.get_mut(*at)) {
            step.settle(index, level);
            return;
        }
        if let Some(package) = &fix.package {
            self.managers.push((package.clone(), self.steps.len(), vec![package.name.clone()], vec![package.title.clone()]));
        }
        self.same.insert(key, self.steps.len());
        self.steps.push(Step {
            say: fix.say.clone(),
            run: fix.run.clone(),
            edit: fix.edit.clone(),
            settles: vec![index],
            level,
            admin: fix.admin,
            then: fix.then,
            caution: fix.caution.clone(),
            download_bytes: fix.download_bytes,
            takes_ms: fix.takes_ms,
        });
    }

    fn finish(mut self) -> Plan {
        for (package, at, mut names, mut titles) in core::mem::take(&mut self.managers) {
            if let Some(step) = self.steps.get_mut(at).filter(|_| names.len() > 1) {
                dedup(&mut names);
                dedup(&mut titles);
                step.say = format!("Install {} with {}.", join_words(&titles, "and"), package.manager);
                // The command of the first one, with all packages in place of its own.
                let first = step.run.first().and_then(|run| run.strip_suffix(&package.name)).unwrap_or_default();
                step.run = vec![format!("{first}{}", names.join(" "))];
            }
        }
        let mut steps = self.steps;
        steps.sort_by_key(|step| (step.late(), step.level, !step.admin));
        if let Some(closing) = closing(&steps) {
            // A step in words alone that is as weighty is itself the restart or the sign-in, also for the others.
            let serves = |step: &&mut Step| step.late() >= closing.then && step.late().is_some() && step.level <= closing.level;
            match steps.iter_mut().find(serves) {
                Some(step) => closing.settles.iter().for_each(|index| step.settle(*index, closing.level)),
                None => steps.push(closing),
            }
        }
        steps.sort_by_key(|step| (step.late(), step.level, !step.admin));
        let mut plan = Plan { then: follow_ups(&steps), ..Plan::default() };
        for step in &steps {
            plan.download_bytes = plan.download_bytes.saturating_add(step.download_bytes.unwrap_or(0));
            plan.takes_ms = plan.takes_ms.saturating_add(step.takes_ms.unwrap_or(0));
            let acts = !step.run.is_empty() || step.edit.is_some();
            plan.steps_of_unknown_cost += usize::from(acts && step.takes_ms.is_none());
        }
        plan.steps = steps;
        plan
    }
}

fn dedup(words: &mut Vec<String>) {
    let mut seen: hashbrown::HashSet<String> = hashbrown::HashSet::new();
    words.retain(|word| seen.insert(word.clone()));
}

impl Step {
    fn settle(&mut self, index: usize, level: Level) {
        if !self.settles.contains(&index) {
            self.settles.push(index);
        }
        self.level = self.level.min(level);
    }

    /// What this step is itself, where it is only words.
    fn late(&self) -> Option<Then> {
        self.then.filter(|_| self.run.is_empty() && self.edit.is_none())
    }
}

/// A restart makes a sign-in needless, and a sign-in a new terminal: only the greatest remains.
fn follow_ups(steps: &[Step]) -> Vec<Then> {
    steps.iter().filter_map(|step| step.then).max().into_iter().collect()
}

/// The step that lets the others take effect; none where they need none.
fn closing(steps: &[Step]) -> Option<Step> {
    let waiting: Vec<&Step> = steps.iter().filter(|step| step.then.is_some() && step.late().is_none()).collect();
    let then = waiting.iter().filter_map(|step| step.then).max()?;
    let say = match then {
        Then::NewShell => "Open a new terminal, so that the changes above take effect.",
        Then::SignIn => "Sign out completely and in again, so that the changes above take effect.",
        Then::Restart => "Restart the machine, so that the changes above take effect.",
    };
    Some(Step {
        say: say.to_owned(),
        run: Vec::new(),
        edit: None,
        settles: waiting.iter().flat_map(|step| step.settles.iter().copied()).collect(),
        level: waiting.iter().map(|step| step.level).min().unwrap_or(Level::Must),
        admin: false,
        then: Some(then),
        caution: None,
        download_bytes: None,
        takes_ms: None,
    })
}

#[cfg(test)]
mod tests;
