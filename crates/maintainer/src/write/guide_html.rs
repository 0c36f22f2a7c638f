//! The guide as a page of its own.

use minijinja::context;
use serde::Serialize;
use setup_ready_core::guide::{GetWay, Guide, Then};
use setup_ready_core::observation::Os;
use setup_ready_core::outline::{Advice, Item, Outline, level_word, systems_in_words};
use setup_ready_core::text::without_credentials;
use setup_ready_forms::page::{PageError, STYLE, clean, command, render};

const GUIDE: &str = include_str!("../../templates/guide.html");
/// Lets one choose the system and the role; without it all is shown.
const CHOOSE: &str = include_str!("../../templates/choose.js");

#[derive(Serialize)]
struct Choice {
    id: String,
    name: String,
    about: Option<String>,
}

#[derive(Serialize)]
struct Step<'o> {
    title: String,
    wants: String,
    level: &'static str,
    /// Ids of the roles that it is for, with spaces between; empty for everyone.
    roles: String,
    role_names: String,
    /// Words of the systems, with spaces between.
    systems: String,
    only_on: Option<String>,
    place: Option<&'o str>,
    why: Option<String>,
    docs: Option<String>,
    installs: Vec<Command>,
    advice: Vec<RenderedFix>,
}

#[derive(Serialize)]
struct Command {
    system: &'static str,
    system_name: &'static str,
    manager: &'static str,
    line: String,
}

#[derive(Serialize)]
struct RenderedFix {
    systems: String,
    when: Option<String>,
    cause: Option<&'static str>,
    say: String,
    run: Vec<String>,
    task: Option<String>,
    lines: Option<String>,
    then: Option<&'static str>,
}

#[derive(Serialize)]
struct Stage<'o> {
    number: usize,
    title: String,
    intro: Option<String>,
    start: Vec<String>,
    steps: Vec<Step<'o>>,
}

/// A way to get the program, on the systems where it can be gone.
#[derive(Serialize)]
struct Way {
    title: Option<&'static str>,
    systems: String,
    page: Option<String>,
    line: String,
}

impl Way {
    fn of(way: &GetWay) -> Self {
        let systems: Vec<&str> = Os::ALL.into_iter().filter(|os| way.fits(Some(*os))).map(Os::word).collect();
        let page = way.is_page().then(|| clean(&without_credentials(&way.line)));
        Self { title: way.title(), systems: systems.join(" "), page, line: command(&way.line) }
    }
}

fn step<'o>(item: &'o Item<'_>, outline: &'o Outline<'_>) -> Step<'o> {
    let words = |systems: &[setup_ready_core::observation::Os]| systems.iter().map(|os| os.word()).collect::<Vec<_>>().join(" ");
    let told = |one: &Advice<'_>| RenderedFix {
        systems: words(&one.systems),
        when: one.when.as_deref().map(clean),
        cause: one.cause,
        say: clean(one.say),
        run: one.run.iter().map(|line| command(line)).collect(),
        task: one.edit.as_ref().map(|(task, _)| clean(task)),
        lines: one.edit.as_ref().map(|(_, lines)| clean(lines)),
        then: one.then.map(|then| match then {
            Then::NewShell => "Then open a new terminal.",
            Then::SignIn => "Then sign out and in again.",
            Then::Restart => "Then restart.",
        }),
    };
    let of_all = item.systems == outline.systems || item.systems.is_empty();
    Step {
        title: clean(&item.title),
        wants: clean(&item.wants),
        level: if item.requirement.alternative { "one of several" } else { level_word(item.requirement.level) },
        roles: item.roles.join(" "),
        role_names: item.roles.join(", "),
        systems: words(&item.systems),
        only_on: (!of_all).then(|| systems_in_words(&item.systems)),
        place: item.place,
        why: item.requirement.why.as_deref().map(clean),
        // An address of another scheme could be a script.
        docs: item
            .requirement
            .docs
            .as_deref()
            .filter(|docs| docs.starts_with("https://") || docs.starts_with("http://"))
            .map(without_credentials),
        installs: item
            .installs
            .iter()
            .map(|install| Command {
                system: install.system.word(),
                system_name: install.system.name(),
                manager: install.manager.word(),
                line: command(&install.command),
            })
            .collect(),
        advice: item.advice.iter().map(told).collect(),
    }
}

/// The guide as a page of its own, for a project's site.
///
/// # Errors
/// Never, unless this software has a fault.
pub fn guide_html(guide: &Guide) -> Result<String, PageError> {
    let outline = Outline::of(guide);
    let project = &guide.project;
    let stages: Vec<Stage<'_>> = outline
        .chapters
        .iter()
        .enumerate()
        .map(|(index, chapter)| Stage {
            number: index + 1,
            title: clean(&chapter.stage.title),
            intro: chapter.stage.intro.as_deref().map(clean),
            start: if chapter.stage.after_start {
                chapter.stage.start.iter().map(|line| command(line)).collect()
            } else {
                Vec::new()
            },
            steps: chapter.items.iter().map(|item| step(item, &outline)).collect(),
        })
        .collect();
    let systems: Vec<Choice> =
        outline.systems.iter().map(|os| Choice { id: os.word().to_owned(), name: os.name().to_owned(), about: None }).collect();
    let roles: Vec<Choice> = guide
        .roles
        .iter()
        .map(|role| Choice { id: role.id.clone(), name: clean(&role.id), about: role.about.as_deref().map(clean) })
        .collect();
    let managers = outline.systems.iter().flat_map(|os| outline.managers(*os));
    let all: Vec<Command> = managers
        .filter_map(|manager| {
            let line = outline.install_all(manager, None)?;
            let system = manager.system();
            Some(Command { system: system.word(), system_name: system.name(), manager: manager.word(), line: command(&line) })
        })
        .collect();
    let home = project
        .home
        .as_deref()
        .filter(|home| home.starts_with("https://") || home.starts_with("http://"))
        .map(without_credentials);
    let values = context! {
        style => minijinja::Value::from_safe_string(STYLE.to_owned()),
        script => minijinja::Value::from_safe_string(CHOOSE.to_owned()),
        name => clean(&project.name),
        about => project.about.as_deref().map(clean),
        help => project.help.as_deref().map(clean),
        home => home,
        needs => project.needs.as_ref().map(|needs| clean(needs.text())),
        get => project.get.iter().map(Way::of).collect::<Vec<_>>(),
        systems_in_words => systems_in_words(&outline.systems),
        systems => systems,
        roles => roles,
        stages => stages,
        all => all,
        first_step => project.first_step.iter().map(|line| command(line)).collect::<Vec<_>>(),
    };
    render(GUIDE, values)
}
