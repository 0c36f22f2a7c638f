use super::vocabulary::SYSTEMS;
use super::{Guide, GuideFix, Level, Project, Requirement, Role, Stage, Subject, order, subject_parse};
use crate::condition::{self, Condition};
use crate::document::{self, Fields, Placed, as_number, shortened};
use crate::prelude::*;
use crate::problem::{Problem, ProblemKind, Problems};
use alloc::collections::BTreeMap;

/// The format number that is read.
pub const FORMAT: u64 = 1;

/// Reads a guide.
///
/// # Errors
/// Every mistake that was found, in the order of the text; of syntax, the first three.
pub fn parse(text: &str) -> Result<Guide, Vec<Problem>> {
    let tree = document::parse(text)?;
    let problems = Problems::default();
    let guide = {
        let top = Fields::of_document(&tree, &problems);
        if check_format(&top) { Some(read(top)) } else { None }
    };
    match guide {
        Some(guide) if problems.is_empty() => Ok(guide),
        _ => Err(problems.into_sorted()),
    }
}

/// Another format may mean anything, so nothing else is read then.
pub(crate) fn check_format(top: &Fields<'_>) -> bool {
    let span = top.key_span("format");
    let message = match top.raw("format").map(|value| as_number(value.get_ref())) {
        Some(Some(FORMAT)) => return true,
        Some(Some(other)) => format!("format {other} is not known; this software reads format {FORMAT}"),
        Some(None) => format!("`format` must be the number {FORMAT}"),
        None => format!("the file must start with `format = {FORMAT}`"),
    };
    let span = if top.has("format") { span } else { 0..0 };
    top.problems().report(ProblemKind::Format, span, message);
    false
}

fn read(top: Fields<'_>) -> Guide {
    let project = read_project(&top);
    let roles = read_roles(&top);
    let stages = read_stages(&top);
    let named = top.named_tables("require");
    if named.is_empty() && !top.has("require") {
        top.problems().report(ProblemKind::MissingKey, 0..0, "the guide requires nothing; add a table such as [require.git]");
    }
    let mut index = BTreeMap::new();
    for (position, (name, _)) in named.iter().enumerate() {
        index.insert(name.value, position);
    }
    let words = Words { roles: &roles, stages: &stages, index: &index };
    let mut requirements = Vec::with_capacity(named.len());
    for (name, fields) in named {
        check_id(&name, top.problems());
        requirements.push(read_requirement(&name, fields, &words));
    }
    order::report_cycles(&requirements, top.problems());
    order::imply(&mut requirements);
    top.finish(|_| None);
    Guide { project, roles, stages, requirements }
}

fn read_project(top: &Fields<'_>) -> Project {
    let Some(fields) = top.table("project", "project") else {
        if !top.has("project") {
            top.problems().report(ProblemKind::MissingKey, 0..0, "the guide needs a table [project] with a `name`");
        }
        return Project { name: String::new(), about: None, home: None, help: None, systems: Vec::new() };
    };
    let systems = fields.texts("systems");
    for system in &systems {
        check_word(&fields, "system", system, &SYSTEMS);
    }
    let project = Project {
        name: fields.required("name").map(|name| name.value.to_owned()).unwrap_or_default(),
        about: fields.owned("about"),
        home: fields.owned("home"),
        help: fields.owned("help"),
        systems: systems.into_iter().map(|system| system.value.to_owned()).collect(),
    };
    fields.finish(|_| None);
    project
}

/// Reports a word that is not in its list.
pub(super) fn check_word(fields: &Fields<'_>, what: &str, word: &Placed<&str>, known: &[&str]) -> bool {
    let right = known.contains(&word.value);
    if !right {
        let message = format!("`{}` is not a {what}", shortened(word.value));
        fields.problems().unknown_word(ProblemKind::UnknownWord, word.span.clone(), message, (word.value, known));
    }
    right
}

fn check_id(name: &Placed<&str>, problems: &Problems) {
    let right = |c: char| c.is_ascii_lowercase() || c.is_ascii_digit() || c == '-' || c == '_' || c == '.';
    if name.value.is_empty() || name.value.len() > 80 || !name.value.chars().all(right) {
        let message =
            format!("`{}` cannot be an id: use up to 80 lowercase letters, digits, `-`, `_` and `.`", shortened(name.value));
        problems.report(ProblemKind::BadValue, name.span.clone(), message);
    }
}

fn read_roles(top: &Fields<'_>) -> Vec<Role> {
    let read = |(name, fields): (Placed<&str>, Fields<'_>)| {
        check_id(&name, top.problems());
        let role = Role { id: name.value.to_owned(), about: fields.owned("about") };
        fields.finish(|_| None);
        role
    };
    top.named_tables("role").into_iter().map(read).collect()
}

fn read_stages(top: &Fields<'_>) -> Vec<Stage> {
    let mut stages: Vec<Stage> = Vec::new();
    for fields in if top.has("stage") { top.tables("stage", "stage") } else { Vec::new() } {
        if let Some(id) = fields.required("id") {
            check_id(&id, top.problems());
            if stages.iter().any(|stage| stage.id == id.value) {
                let message = format!("there are two stages with the id `{}`", shortened(id.value));
                top.problems().report(ProblemKind::Duplicate, id.span, message);
            }
            stages.push(Stage {
                id: id.value.to_owned(),
                title: fields.owned("title").unwrap_or_else(|| id.value.to_owned()),
                intro: fields.owned("intro"),
                after_start: fields.flag("after_start").unwrap_or(false),
                when: condition(&fields),
            });
        }
        fields.finish(|_| None);
    }
    if stages.is_empty() {
        // A guide without stages is one stage.
        stages.push(Stage { id: "setup".into(), title: "What is needed".into(), intro: None, after_start: false, when: None });
    }
    stages
}

/// What a requirement may refer to.
pub(super) struct Words<'g> {
    roles: &'g [Role],
    stages: &'g [Stage],
    index: &'g BTreeMap<&'g str, usize>,
}

impl Words<'_> {
    /// The index of the requirement that a text names; reported where there is none.
    pub(super) fn requirement(&self, fields: &Fields<'_>, name: &Placed<&str>) -> Option<usize> {
        let found = self.index.get(name.value).copied();
        if found.is_none() {
            let known: Vec<&str> = self.index.keys().copied().collect();
            let near = crate::text::nearest(name.value, known.iter().copied());
            let known: Vec<&str> = if near.is_some() || known.len() <= 12 { known } else { Vec::new() };
            check_word(fields, "requirement of this guide", name, &known);
        }
        found
    }
}

/// The `when` of a table.
pub(super) fn condition(fields: &Fields<'_>) -> Option<Condition> {
    let text = fields.text("when")?;
    match condition::parse(text.value) {
        Ok(condition) => Some(condition),
        Err(error) => {
            // Inside plain quotes the offset is exact; with escapes the whole text is pointed at.
            let plain = text.span.len() == text.value.len() + 2;
            let start = text.span.start + 1 + error.offset;
            let span = if plain { start..start + error.length } else { text.span };
            fields.problems().report(ProblemKind::BadValue, span, error.message);
            None
        }
    }
}

fn read_requirement(name: &Placed<&str>, fields: Fields<'_>, words: &Words<'_>) -> Requirement {
    let subject = subject_parse::read(&fields, words);
    let stage = fields.text("stage").and_then(|id| {
        let known: Vec<&str> = words.stages.iter().map(|stage| stage.id.as_str()).collect();
        check_word(&fields, "stage", &id, &known);
        words.stages.iter().position(|stage| stage.id == id.value)
    });
    let role_index = |id: &Placed<&str>| {
        let position = words.roles.iter().position(|role| role.id == id.value);
        if position.is_none() {
            let known: Vec<&str> = words.roles.iter().map(|role| role.id.as_str()).collect();
            check_word(&fields, "role", id, &known);
        }
        position
    };
    let levels = Level::ALL.map(|level| (level.word(), level));
    let fixes = if fields.has("fix") { fields.tables("fix", "require.fix") } else { Vec::new() };
    let requirement = Requirement {
        id: name.value.to_owned(),
        stage: stage.unwrap_or(0),
        title: fields.owned("title"),
        why: fields.owned("why"),
        level: fields.word("level", &levels).unwrap_or(Level::Must),
        roles: fields.texts("roles").iter().filter_map(role_index).collect(),
        when: condition(&fields),
        after: fields.texts("after").iter().filter_map(|id| words.requirement(&fields, id)).collect(),
        docs: fields.owned("docs"),
        fixes: fixes.into_iter().filter_map(GuideFix::read).collect(),
        needs: Vec::new(),
        alternative: false,
        span: name.span.clone(),
        subject: subject.unwrap_or(Subject::Cores(0)),
    };
    fields.finish(subject_parse::elsewhere);
    requirement
}
