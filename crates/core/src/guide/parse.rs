use super::reading::{Words, check_id, check_word, condition};
use super::vocabulary::SYSTEMS;
use super::{Guide, Level, Project, Requirement, Role, Stage, Subject, fix_parse, oracle, order, subject_parse};
use crate::document::{self, Fields, MOST_ENTRIES, Placed, as_number, shortened};
use crate::observation::Os;
use crate::prelude::*;
use crate::problem::{Mistakes, ProblemKind, Problems};
use alloc::collections::BTreeMap;
use hashbrown::HashMap;

/// The format number that is read.
pub const FORMAT: u64 = 1;

/// The most requirements that a guide may have.
const MOST_REQUIREMENTS: usize = 10_000;

/// Reads a guide.
///
/// ```
/// let error = setup_ready_core::guide::parse("format = 1\n[project]\nname = \"Driftbuoy\"\n[require.git]\ntol = \"git\"\n").unwrap_err();
/// assert_eq!(error.count(), 1);
/// assert_eq!(error.to_string(), "line 5, column 1: [require.git] does not say what is checked (`tol` is not a kind; did you mean `tool`?)");
/// ```
///
/// # Errors
/// Every mistake that was found, in the order of the text; of syntax, the first three.
pub fn parse(text: &str) -> Result<Guide, Mistakes> {
    let tree = document::parse(text)?;
    let problems = Problems::default();
    let guide = {
        let top = Fields::of_document(&tree, &problems);
        if check_format(&top) { Some(read(top)) } else { None }
    };
    match guide {
        Some(guide) if problems.is_empty() => Ok(guide),
        _ => Err(problems.into_mistakes(text)),
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
    let named = top.named_tables("require", MOST_REQUIREMENTS);
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
    tell_apart(&mut requirements);
    oracle::report(&requirements, top.problems());
    order::report_cycles(&requirements, top.problems());
    order::imply(&mut requirements);
    top.finish(|_| None);
    Guide { project, roles, stages, requirements }
}

/// Requirements that would be called the same are called by their ids too.
fn tell_apart(requirements: &mut [Requirement]) {
    let mut alike: HashMap<String, Vec<usize>> = HashMap::new();
    for (index, requirement) in requirements.iter().enumerate() {
        alike.entry(requirement.title()).or_default().push(index);
    }
    for (title, indexes) in alike.into_iter().filter(|(_, indexes)| indexes.len() > 1) {
        // Variants of one thing for several machines never stand beside each other.
        if indexes.iter().all(|index| requirements.get(*index).is_some_and(|one| one.when.is_some())) {
            continue;
        }
        for index in indexes {
            if let Some(requirement) = requirements.get_mut(index) {
                requirement.title = Some(format!("{title} ({})", requirement.id));
            }
        }
    }
}

fn read_project(top: &Fields<'_>) -> Project {
    let Some(fields) = top.table("project", "project") else {
        if !top.has("project") {
            top.problems().report(ProblemKind::MissingKey, 0..0, "the guide needs a table [project] with a `name`");
        }
        return Project { name: String::new(), about: None, home: None, help: None, systems: Vec::new() };
    };
    let systems = fields.texts("systems");
    let known = |system: &Placed<&str>| {
        check_word(&fields, "system", system, &SYSTEMS);
        Os::from_word(system.value)
    };
    let project = Project {
        name: fields.required("name").map(|name| name.value.to_owned()).unwrap_or_default(),
        about: fields.owned("about"),
        home: fields.owned("home"),
        help: fields.owned("help"),
        systems: systems.iter().filter_map(known).collect(),
    };
    fields.finish(|_| None);
    project
}

fn read_roles(top: &Fields<'_>) -> Vec<Role> {
    let read = |(name, fields): (Placed<&str>, Fields<'_>)| {
        check_id(&name, top.problems());
        let role = Role { id: name.value.to_owned(), about: fields.owned("about") };
        fields.finish(|_| None);
        role
    };
    top.named_tables("role", MOST_ENTRIES).into_iter().map(read).collect()
}

fn read_stages(top: &Fields<'_>) -> Vec<Stage> {
    let mut stages: Vec<Stage> = Vec::new();
    for fields in if top.has("stage") { top.tables("stage", "stage", MOST_ENTRIES) } else { Vec::new() } {
        if let Some(id) = fields.required("id") {
            check_id(&id, top.problems());
            if stages.iter().any(|stage| stage.id == id.value) {
                let message = format!("there are two stages with the id `{}`", shortened(id.value));
                top.problems().report(ProblemKind::Duplicate, id.span, message);
            }
            stages.push(Stage {
                id: id.value.to_owned(),
                title: fields.one_line("title").unwrap_or_else(|| id.value.to_owned()),
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
    let fixes = if fields.has("fix") { fields.tables("fix", "require.fix", MOST_ENTRIES) } else { Vec::new() };
    let when = condition(&fields);
    let fixes = fixes.into_iter().filter_map(|fix| fix_parse::read(fix, when.as_ref())).collect();
    let requirement = Requirement {
        id: name.value.to_owned(),
        stage: stage.unwrap_or(0),
        title: fields.one_line("title"),
        why: fields.owned("why"),
        level: fields.word("level", &levels).unwrap_or(Level::Must),
        roles: fields.texts("roles").iter().filter_map(role_index).collect(),
        when,
        after: fields.texts("after").iter().filter_map(|id| words.requirement(&fields, id)).collect(),
        docs: fields.owned("docs"),
        fixes,
        needs: Vec::new(),
        alternative: false,
        span: name.span.clone(),
        subject: subject.unwrap_or(Subject::Cores(0)),
    };
    fields.finish(subject_parse::elsewhere);
    requirement
}
