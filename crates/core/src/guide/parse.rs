use super::defaults::{Defaults, Own};
use super::reading::{References, check_id, check_word, condition};
use super::value::Uses;
use super::vocabulary::SYSTEMS;
use super::{Component, ComponentSort, Cores, Language};
use super::{
    EnvironmentVariable, Guide, Kind, Level, Project, Requirement, Role, Stage, Subject, Value, acceptance, command_line,
    fix_parse, get, order, place, secret_leaks, subject_parse, value,
};
use crate::document::{self, Fields, MOST_ENTRIES, Placed, as_number, shortened};
use crate::observation::Os;
use crate::prelude::*;
use crate::problem::{GuideError, ProblemKind, Problems};
use alloc::collections::BTreeMap;
use core::ops::Range;
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
pub fn parse(text: &str) -> Result<Guide, GuideError> {
    with(text, &[])
}

/// Reads a guide whose values are these: a text for each, in their order; what the guide states where there is none.
pub(super) fn with(text: &str, settings: &[String]) -> Result<Guide, GuideError> {
    let mut tree = document::parse(text)?;
    let problems = Problems::default();
    let top = Fields::of_document(&tree, &problems);
    let is_understood = check_format(&top) && get::check_needs(&top);
    let guide = is_understood.then(|| {
        let values = value::read(&Fields::of_document(&tree, &problems));
        let settings: Vec<String> =
            values.iter().enumerate().map(|(at, value)| settings.get(at).unwrap_or(&value.is).clone()).collect();
        let uses = value::fill_in(tree.get_mut(), &values, &settings, &problems);
        let mut guide = read(Fields::of_document(&tree, &problems), (values, &uses));
        guide.text = (!guide.values.is_empty()).then(|| text.into());
        guide
    });
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

fn read(top: Fields<'_>, (values, uses): (Vec<Value>, &BTreeMap<String, Uses>)) -> Guide {
    for key in ["format", "value"] {
        top.pass_over(key);
    }
    let project = read_project(&top);
    let accepted = acceptance::read(&top);
    let named = top.named_tables("require", MOST_REQUIREMENTS);
    if named.is_empty() && !top.has("require") {
        top.problems().report(ProblemKind::MissingKey, 0..0, "the guide requires nothing; add a table such as [require.git]");
    }
    let (places, index) = (place::read(&top), index(&named, &top));
    let mut words = References { roles: Vec::new(), stages: Vec::new(), places, index };
    let of_roles = read_roles(&top, &mut words);
    let of_stages = read_stages(&top, &mut words);
    let mut requirements = Vec::with_capacity(named.len());
    for (name, fields) in named {
        check_id(&name, top.problems());
        for (mut requirement, mut own) in read_requirement(&name, fields, &words) {
            let of_stage = of_stages.get(requirement.stage);
            if let Some(defaults) = of_stage {
                defaults.fill_roles(&mut requirement, &mut own);
            }
            // What one role alone needs is as that role says, then as the stage does.
            let role = if let [role] = requirement.roles.as_slice() { of_roles.get(*role) } else { None };
            if let Some(uses) = uses.get(name.value) {
                requirement.values.clone_from(&uses.values);
                let value = uses.port.and_then(|index| values.get(index));
                if let (Subject::Port(port), Some(value)) = (&mut requirement.subject, value) {
                    port.set_by = Some(value.set_by.clone());
                }
            }
            for defaults in role.into_iter().chain(of_stage) {
                defaults.fill(requirements.len(), &mut requirement, &mut own);
            }
            requirements.push(requirement);
        }
    }
    let References { roles, stages, places, .. } = words;
    bind_languages(&mut requirements, top.problems());
    tell_apart(&mut requirements);
    secret_leaks::report(&requirements, top.problems());
    order::report_cycles(&requirements, top.problems());
    order::imply(&mut requirements);
    top.finish(|_| None);
    Guide { project, roles, stages, places, values, requirements, accepted, text: None }
}

/// Where the requirements of each name will stand. Several that share all else have the name of their table together, and their own each.
fn index<'t>(named: &[(Placed<&'t str>, Fields<'t>)], top: &Fields<'t>) -> BTreeMap<&'t str, Range<usize>> {
    let mut index: BTreeMap<&'t str, Range<usize>> = BTreeMap::new();
    let mut next = 0;
    let mut add = |name: &Placed<&'t str>, range: Range<usize>| {
        if index.insert(name.value, range).is_some() {
            let message = format!("there are two requirements with the id `{}`", shortened(name.value));
            top.problems().report(ProblemKind::Duplicate, name.span.clone(), message);
        }
    };
    for (name, fields) in named {
        let several: Vec<Placed<&str>> =
            Kind::ALL.into_iter().filter_map(Kind::several).flat_map(|key| fields.listed(key)).collect();
        add(name, next..next + several.len().max(1));
        for one in &several {
            if one.value != name.value {
                add(one, next..next + 1);
            }
            next += 1;
        }
        next += usize::from(several.is_empty());
    }
    if next > MOST_REQUIREMENTS && named.len() <= MOST_REQUIREMENTS {
        let message = format!("the guide comes to {next} requirements; at most {MOST_REQUIREMENTS} are read");
        top.problems().report(ProblemKind::TooLarge, top.key_span("require"), message);
    }
    index
}

/// Says which language a module or headers are of, by the tool that they name.
fn bind_languages(requirements: &mut [Requirement], problems: &Problems) {
    let language = |index: usize| match requirements.get(index).map(|one| &one.subject) {
        Some(Subject::Tool(tool)) => tool.names.iter().find_map(|name| Language::of_tool(name)),
        _ => None,
    };
    let mut found: Vec<(usize, Option<Language>)> = Vec::new();
    for (index, requirement) in requirements.iter().enumerate() {
        if let Subject::Component(Component { of: Some(of), .. }) = &requirement.subject {
            found.push((index, language(*of)));
        } else if let Subject::Variable(EnvironmentVariable { of: Some(of), .. }) = &requirement.subject
            && !matches!(requirements.get(*of).map(|one| &one.subject), Some(Subject::Tool(_)))
        {
            problems.report(ProblemKind::BadValue, requirement.span.clone(), "`of` names a requirement that is no tool");
        }
    }
    for (index, language) in found {
        let Some(requirement) = requirements.get_mut(index) else { continue };
        let (Subject::Component(component), Some(language)) = (&mut requirement.subject, language) else {
            let message = "this must be of a tool that is the interpreter of Python, Node.js, Ruby, Perl or PHP";
            problems.report(ProblemKind::BadValue, requirement.span.clone(), message);
            continue;
        };
        match &mut component.sort {
            ComponentSort::Module(of) => *of = language,
            ComponentSort::Headers(of) => {
                *of = language;
                language.name().clone_into(&mut component.name);
            }
            ComponentSort::SystemPackage | ComponentSort::KernelModule => {}
        }
    }
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
        return Project {
            name: String::new(),
            about: None,
            home: None,
            help: None,
            systems: Vec::new(),
            first_step: Vec::new(),
            needs: None,
            get: Vec::new(),
        };
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
        first_step: command_line::commands(&fields, "first_step"),
        needs: get::read_needs(&fields),
        get: get::read(&fields),
    };
    fields.finish(|_| None);
    project
}

fn read_roles(top: &Fields<'_>, words: &mut References<'_>) -> Vec<Defaults> {
    let mut all = Vec::new();
    for (name, fields) in top.named_tables("role", MOST_ENTRIES) {
        check_id(&name, top.problems());
        words.roles.push(Role { id: name.value.to_owned(), about: fields.owned("about") });
        all.push(Defaults::of_role(&fields, words));
        fields.finish(|_| None);
    }
    all
}

fn read_stages(top: &Fields<'_>, words: &mut References<'_>) -> Vec<Defaults> {
    let mut all = Vec::new();
    for fields in if top.has("stage") { top.tables("stage", "stage", MOST_ENTRIES) } else { Vec::new() } {
        if let Some(id) = fields.required("id") {
            check_id(&id, top.problems());
            if words.stages.iter().any(|stage| stage.id == id.value) {
                let message = format!("there are two stages with the id `{}`", shortened(id.value));
                top.problems().report(ProblemKind::Duplicate, id.span, message);
            }
            let (after_start, start) = (fields.flag("after_start").unwrap_or(false), command_line::commands(&fields, "start"));
            if !after_start && !start.is_empty() {
                let message = "`start` says how the project is started before a stage with `after_start = true` is checked";
                top.problems().report(ProblemKind::BadValue, fields.key_span("start"), message);
            }
            all.push(Defaults::of_stage(&fields, words));
            words.stages.push(Stage {
                id: id.value.to_owned(),
                title: fields.one_line("title").unwrap_or_else(|| id.value.to_owned()),
                intro: fields.owned("intro"),
                after_start,
                start,
                when: condition(&fields),
            });
        }
        fields.finish(|_| None);
    }
    if words.stages.is_empty() {
        // A guide without stages is one stage.
        let (id, title) = ("setup".into(), "What is needed".into());
        words.stages.push(Stage { id, title, intro: None, after_start: false, start: Vec::new(), when: None });
    }
    all
}

/// Reads a table that requires something, or several things that share all else.
fn read_requirement(name: &Placed<&str>, fields: Fields<'_>, words: &References<'_>) -> Vec<(Requirement, Own)> {
    let subjects = subject_parse::read(&fields, words);
    let stage = fields.text("stage").and_then(|id| {
        let known: Vec<&str> = words.stages.iter().map(|stage| stage.id.as_str()).collect();
        check_word(&fields, "stage", &id, &known);
        words.stages.iter().position(|stage| stage.id == id.value)
    });
    let levels = Level::ALL.map(|level| (level.word(), level));
    let fixes = if fields.has("fix") { fields.tables("fix", "require.fix", MOST_ENTRIES) } else { Vec::new() };
    let when = condition(&fields);
    let kind = subjects.first().map(|(_, subject)| subject.kind());
    let fixes = fixes.into_iter().filter_map(|fix| fix_parse::read(fix, words, (kind, when.as_ref()))).collect();
    let requirement = Requirement {
        id: name.value.to_owned(),
        stage: stage.unwrap_or(0),
        place: words.place(&fields),
        title: fields.one_line("title"),
        why: fields.owned("why"),
        level: fields.word("level", &levels).unwrap_or(Level::Must),
        roles: words.roles(&fields),
        when,
        after: words.all(&fields, "after"),
        means: subjects.first().and_then(|(_, subject)| subject_parse::means(&fields, subject)),
        example: subjects.first().and_then(|(_, subject)| subject_parse::example(&fields, subject)),
        docs: fields.owned("docs"),
        values: Vec::new(),
        fixes,
        needs: Vec::new(),
        alternative: false,
        span: name.span.clone(),
        subject: Subject::Cores(Cores { count: 0 }),
    };
    let own = Own::of(&fields);
    fields.finish(subject_parse::elsewhere);
    let Some(several) = subjects.first().map(|(name, _)| name.is_some()) else { return vec![(requirement, own)] };
    let named = |(name, subject): (Option<Placed<&str>>, Subject)| {
        let mut one = Requirement { subject, ..requirement.clone() };
        if let Some(name) = name {
            one.title = one.title.map(|title| format!("{title} ({})", name.value));
            (one.id, one.span) = (name.value.to_owned(), name.span);
        }
        (one, own)
    };
    if several {
        return subjects.into_iter().map(named).collect();
    }
    let subject = subjects.into_iter().next().map_or(Subject::Cores(Cores { count: 0 }), |(_, subject)| subject);
    vec![(Requirement { subject, ..requirement }, own)]
}
