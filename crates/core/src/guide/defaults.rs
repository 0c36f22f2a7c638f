//! What a stage or a role says once for all its requirements.

use super::reading::{References, condition};
use super::{Level, Requirement};
use crate::condition::Condition;
use crate::document::Fields;
use crate::prelude::*;

/// What is taken where a requirement does not say it itself.
#[derive(Debug, Default)]
pub(super) struct Defaults {
    when: Option<Condition>,
    roles: Vec<usize>,
    level: Option<Level>,
    after: Vec<usize>,
    why: Option<String>,
    place: Option<usize>,
}

/// Which of them a requirement says itself.
#[derive(Debug, Clone, Copy)]
pub(super) struct Own {
    roles: bool,
    level: bool,
    after: bool,
}

impl Own {
    pub(super) fn of(fields: &Fields<'_>) -> Self {
        Self { roles: fields.has("roles"), level: fields.has("level"), after: fields.has("after") }
    }
}

impl Defaults {
    /// Those of a stage; its condition stands in the stage.
    pub(super) fn of_stage(fields: &Fields<'_>, words: &References<'_>) -> Self {
        Self { roles: words.roles(fields), ..Self::of(fields, words) }
    }

    /// Those of a role.
    pub(super) fn of_role(fields: &Fields<'_>, words: &References<'_>) -> Self {
        Self { when: condition(fields), ..Self::of(fields, words) }
    }

    fn of(fields: &Fields<'_>, words: &References<'_>) -> Self {
        Self {
            level: fields.word("level", &Level::ALL.map(|level| (level.word(), level))),
            after: words.all(fields, "after"),
            why: fields.owned("why"),
            place: words.place(fields),
            ..Self::default()
        }
    }

    /// Fills in for whom it is: that comes first, since a role has defaults too.
    pub(super) fn fill_roles(&self, requirement: &mut Requirement, own: &mut Own) {
        if !own.roles && !self.roles.is_empty() {
            requirement.roles.clone_from(&self.roles);
            own.roles = true;
        }
    }

    /// Fills in what a requirement, which has this index, leaves out.
    pub(super) fn fill(&self, index: usize, requirement: &mut Requirement, own: &mut Own) {
        self.fill_roles(requirement, own);
        if let (false, Some(level)) = (own.level, self.level) {
            requirement.level = level;
            own.level = true;
        }
        if !own.after && !self.after.is_empty() {
            // What all wait for does not wait for itself.
            requirement.after = self.after.iter().copied().filter(|other| *other != index).collect();
            own.after = true;
        }
        if requirement.why.is_none() {
            requirement.why.clone_from(&self.why);
        }
        requirement.place = requirement.place.or(self.place);
        if let Some(when) = &self.when {
            requirement.when = Some(requirement.when.as_ref().map_or_else(|| when.clone(), |own| own.and(when)));
        }
    }
}
