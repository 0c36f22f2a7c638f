use super::component::{Component, ComponentSort, Language};
use super::kind::{KINDS, Kind, KindKeys};
use super::names;
use super::reading::{Words, check_id, check_word};
use super::subject::{
    Access, AnyOf, Checkout, Clock, Command, Device, Disk, EnvironmentVariable, Existence, Group, Hostname, Library, Limit,
    Locale, Memory, Path, PathKind, Port, PortNumbers, Protocol, Reach, Rights, Service, Setting, Socket, Subject, Subnet,
    Supply, Systems, Tool, VersionFrom, Virtualization,
};
use super::supply_parse::{component, packages, packages_in, supply};
use super::value::SetBy;
use super::vocabulary::{LIMITS, LimitKind, OTHER_WORDS, SYSTEMS};
use crate::document::{Fields, Placed, as_number, shortened};
use crate::observation::Os;
use crate::prelude::*;
use crate::problem::ProblemKind;
use crate::text::{Pattern, Sanitised, Size, join_words, parse_duration};
use crate::version::Range;
use toml::de::DeValue;

/// More ports than this are nobody's wish.
const MOST_PORTS: usize = 200;

/// What to say about a key that belongs to another kind.
pub(super) fn elsewhere(key: &str) -> Option<String> {
    if let Some(meant) = meant(key) {
        return Some(format!("did you mean `{meant}`?"));
    }
    let has = |kind: &&KindKeys| kind.further.iter().any(|further| further.name == key);
    let kinds: Vec<String> = KINDS.iter().filter(has).map(|kind| format!("`{}`", kind.subject.name)).collect();
    (!kinds.is_empty()).then(|| format!("`{key}` goes with {}", join_words(&kinds, "and")))
}

/// The key that somebody means who writes another word for it.
fn meant(key: &str) -> Option<&'static str> {
    OTHER_WORDS.iter().find(|(word, _)| *word == key).map(|(_, key)| *key)
}

/// Reads the one subject of a requirement, or several that share all else, each with its name; none or two are reported.
pub(super) fn read<'t>(fields: &Fields<'t>, words: &Words<'_>) -> Vec<(Option<Placed<&'t str>>, Subject)> {
    let mut kinds: Vec<(Kind, bool)> = Vec::with_capacity(1);
    let with_key = |kind: Kind, key: &str| {
        if kind.word() == key { Some((kind, false)) } else { (kind.several() == Some(key)).then_some((kind, true)) }
    };
    kinds.extend(fields.keys().filter_map(|key| Kind::ALL.into_iter().find_map(|kind| with_key(kind, key))));
    match kinds.as_slice() {
        [(kind, several)] => {
            let subjects = if *several {
                each(fields, *kind)
            } else {
                one(fields, *kind, words).map(|subject| (None, subject)).into_iter().collect()
            };
            if subjects.is_empty() {
                // Where the subject itself is wrong, its further keys are still known ones.
                know_keys(fields, &[*kind]);
            }
            subjects
        }
        [] => {
            let all: Vec<&str> = Kind::ALL.into_iter().map(Kind::word).collect();
            let message = format!("{} does not say what is checked", fields.place());
            let is_kind =
                |word: &&'static str| all.contains(word) || Kind::ALL.into_iter().any(|kind| kind.several() == Some(word));
            let meant = |key: &str| meant(key).filter(is_kind).or_else(|| crate::text::nearest(key, all.clone()));
            let near = fields.entries().into_iter().find_map(|(key, _)| Some((key.span, key.value, meant(key.value)?)));
            // With which kind the others go is not known.
            know_keys(fields, &Kind::ALL);
            let (span, note) = match near {
                Some((span, key, near)) => {
                    fields.pass_over(key);
                    (span, format!("`{}` is not a kind; did you mean `{near}`?", shortened(key)))
                }
                None => (fields.span(), format!("it needs one of {}", join_words(&all, "or"))),
            };
            let problem =
                crate::problem::Problem { kind: ProblemKind::Subject, span, message, note: Some(note), replacement: None };
            fields.problems().add(problem);
            Vec::new()
        }
        [_, second, ..] => {
            let key = |(kind, several): &(Kind, bool)| kind.several().filter(|_| *several).unwrap_or(kind.word());
            let named: Vec<String> = kinds.iter().map(|one| format!("`{}`", key(one))).collect();
            let message =
                format!("{} checks {} at once; make it one requirement for each", fields.place(), join_words(&named, "and"));
            fields.problems().report(ProblemKind::Subject, fields.key_span(key(second)), message);
            know_keys(fields, &kinds.iter().map(|(kind, _)| *kind).collect::<Vec<_>>());
            Vec::new()
        }
    }
}

/// Several of a kind that has names, each with its own.
fn each<'t>(fields: &Fields<'t>, kind: Kind) -> Vec<(Option<Placed<&'t str>>, Subject)> {
    let key = kind.several().unwrap_or_default();
    let names = fields.some_texts(key);
    for name in &names {
        check_id(name, fields.problems());
    }
    let each = |subject: &dyn Fn(&str) -> Subject| {
        names.iter().map(|name| (Some(name.clone()), subject(name.value))).collect::<Vec<_>>()
    };
    if kind == Kind::Library {
        let version = fields.read("version", Range::parse);
        let packages = packages(fields);
        let library = |name: &str| Library { name: name.to_owned(), version: version.clone(), packages: packages.clone() };
        return each(&|name| Subject::Library(library(name)));
    }
    let Some(tool) = tool(fields, key) else { return Vec::new() };
    each(&|name| Subject::Tool(Tool { names: vec![name.to_owned()], ..tool.clone() }))
}

/// What the pattern of a subject means, in words.
pub(super) fn means(fields: &Fields<'_>, subject: &Subject) -> Option<String> {
    with_pattern(fields, subject, "means")?;
    fields.one_line("means")
}

/// Something that fits the pattern of a subject.
pub(super) fn example(fields: &Fields<'_>, subject: &Subject) -> Option<String> {
    let pattern = with_pattern(fields, subject, "example")?;
    let example = fields.text("example")?;
    if example.value.chars().any(Sanitised::hides) {
        bad(fields, example.span, "an example has only characters that can be seen and typed");
        return None;
    }
    if !pattern.matches(example.value) {
        bad(fields, example.span, format!("the example does not fit the pattern {}", shortened(pattern.source())));
        return None;
    }
    Some(example.value.to_owned())
}

/// The pattern that a key speaks of; without one, the key is reported.
fn with_pattern<'s>(fields: &Fields<'_>, subject: &'s Subject, key: &'static str) -> Option<&'s Pattern> {
    let takes = |kind: &KindKeys| kind.kind == subject.kind() && kind.further.iter().any(|further| further.name == key);
    if !KINDS.iter().any(takes) || !fields.has(key) {
        return None;
    }
    let pattern = subject.pattern();
    if pattern.is_none() {
        bad(fields, fields.key_span(key), format!("`{key}` tells people about a pattern, and there is none here"));
    }
    pattern
}

fn know_keys(fields: &Fields<'_>, kinds: &[Kind]) {
    for kind in KINDS.iter().filter(|keys| kinds.contains(&keys.kind)) {
        fields.pass_over(kind.subject.name);
        kind.several.into_iter().for_each(|key| fields.pass_over(key));
        kind.further.iter().for_each(|key| fields.pass_over(key.name));
    }
}

fn one(fields: &Fields<'_>, kind: Kind, words: &Words<'_>) -> Option<Subject> {
    let text = |fields: &Fields<'_>| fields.required(kind.word()).map(|text| text.value.to_owned());
    Some(match kind {
        Kind::Tool => Subject::Tool(tool(fields, "tool")?),
        Kind::Port => Subject::Port(port(fields)?),
        Kind::Disk => {
            let at = fields.owned("at").unwrap_or_else(|| ".".to_owned());
            let inodes = fields.number("inodes").map(|number| number.value);
            Subject::Disk(Disk { size: fields.read("disk", Size::parse)?, at, inodes })
        }
        Kind::Memory => {
            let free = flag(fields, "free");
            Subject::Memory(Memory { size: fields.read("memory", Size::parse)?, free })
        }
        Kind::Swap => Subject::Swap(fields.read("swap", Size::parse)?),
        Kind::Cores => Subject::Cores(fields.number("cores")?.value),
        Kind::Virtualization => Subject::Virtualization(
            fields.word("virtualization", &[("usable", Virtualization::Usable), ("present", Virtualization::Present)])?,
        ),
        Kind::System => Subject::System(system(fields)?),
        Kind::File => Subject::Path(path(fields, (PathKind::File, "file"))?),
        Kind::Folder => Subject::Path(path(fields, (PathKind::Folder, "folder"))?),
        Kind::Variable => Subject::Variable(variable(fields, words)?),
        Kind::Group => Subject::Group(Group { name: names::plain(fields, "group")? }),
        Kind::Rights => Subject::Rights(fields.word("rights", &[("admin", Rights::Admin), ("root", Rights::Root)])?),
        Kind::Socket => Subject::Socket(Socket { path: text(fields)?, access: access(fields), supply: supply(fields) }),
        Kind::Device => Subject::Device(device(fields)?),
        Kind::Service => Subject::Service(service(fields)?),
        Kind::Reach => Subject::Reach(Reach { url: url(fields, "reach")?, status: status(fields) }),
        Kind::Clock => {
            let by = url(fields, "by");
            Subject::Clock(Clock { within_ms: fields.read("clock", parse_duration)?, by: by? })
        }
        Kind::Hostname => Subject::Hostname(hostname(fields)?),
        Kind::Subnet => Subject::Subnet(fields.read("subnet", subnet)?),
        Kind::Limit => Subject::Limit(limit(fields)?),
        Kind::Library => Subject::Library(Library {
            name: names::plain(fields, "library")?,
            version: fields.read("version", Range::parse),
            packages: packages(fields),
        }),
        Kind::Module => Subject::Component(component(fields, words, ComponentSort::Module(Language::Python))?),
        Kind::Headers => Subject::Component(component(fields, words, ComponentSort::Headers(Language::Python))?),
        Kind::SystemPackage => {
            let named = packages_in(fields, "system_package").0;
            let name = named.first().map(|(_, name)| name.clone())?;
            let version = fields.read("version", Range::parse);
            let sort = ComponentSort::SystemPackage;
            Subject::Component(Component { sort, name, of: None, version, packages: named, installers: Vec::new() })
        }
        Kind::KernelModule => Subject::Component(component(fields, words, ComponentSort::KernelModule)?),
        Kind::Locale => Subject::Locale(locale(fields)?),
        Kind::Setting => Subject::Setting(setting(fields)?),
        Kind::Checkout => Subject::Checkout(Checkout {
            path: text(fields)?,
            branch: names::branch(fields),
            submodules: flag(fields, "submodules"),
            large_files: flag(fields, "large_files"),
            clean: flag(fields, "clean"),
            history: fields.word("history", &[("full", ())]).is_some(),
            tags: flag(fields, "tags"),
            line_ends: fields.word("line_ends", &[("lf", ())]).is_some(),
        }),
        Kind::Command => Subject::Command(command(fields)?),
        Kind::AnyOf => Subject::AnyOf(AnyOf {
            alternatives: fields.some_texts("any_of").iter().filter_map(|id| words.one(fields, id)).collect(),
        }),
    })
}

fn flag(fields: &Fields<'_>, key: &'static str) -> bool {
    fields.flag(key).unwrap_or(false)
}

fn existence(fields: &Fields<'_>) -> Existence {
    fields.word("expect", &[("present", Existence::Present), ("absent", Existence::Absent)]).unwrap_or(Existence::Present)
}

fn access(fields: &Fields<'_>) -> Access {
    fields.word("access", &[("read", Access::Read), ("write", Access::Write)]).unwrap_or(Access::Write)
}

fn device(fields: &Fields<'_>) -> Option<Device> {
    let mut paths = owned(fields.some_texts("device")).into_iter();
    let hexadecimal = |text: &str| text.len() == 4 && text.bytes().all(|byte| byte.is_ascii_hexdigit());
    let usb = fields.read("usb", |text| {
        let right = text.split_once(':').is_some_and(|(vendor, product)| hexadecimal(vendor) && hexadecimal(product));
        right.then(|| text.to_lowercase()).ok_or("vendor and product of a device are written like \"2e8a:000c\"")
    });
    Some(Device { path: paths.next()?, or: paths.collect(), usb, access: access(fields) })
}

fn bad(fields: &Fields<'_>, span: core::ops::Range<usize>, message: impl Into<String>) {
    fields.problems().report(ProblemKind::BadValue, span, message);
}

fn owned(texts: Vec<Placed<&str>>) -> Vec<String> {
    texts.into_iter().map(|text| text.value.to_owned()).collect()
}

fn tool(fields: &Fields<'_>, key: &'static str) -> Option<Tool> {
    let names = fields.some_texts(key);
    for name in &names {
        // A path would start a file of the guide's choosing; PATH is the person's choice.
        if name.value.trim().is_empty()
            || name.value.contains(['/', '\\', '\0'])
            || name.value.starts_with('-')
            || name.value.len() > 100
        {
            bad(fields, name.span.clone(), format!("`{}` is not the name of a program on PATH", shortened(name.value)));
        }
    }
    let args = fields.texts("args");
    if let Some(many) = args.get(20) {
        bad(fields, many.span.clone(), "at most 20 arguments are passed");
    }
    let (packages, installers) = packages_in(fields, "packages");
    let tool = Tool {
        names: owned(names),
        version: fields.read("version", Range::parse),
        version_from: version_from(fields),
        tested: fields.read("tested", Range::parse),
        args: owned(args),
        pattern: fields.read("pattern", Pattern::new),
        packages,
        installers,
        arch: fields.owned("arch"),
        expect: existence(fields),
    };
    if tool.version.is_some() && tool.version_from.is_some() {
        bad(fields, fields.key_span("version_from"), "`version` and `version_from` both say which version is wanted; keep one");
    }
    (!tool.names.is_empty()).then_some(tool)
}

/// A file that says a version: its name alone where its own way is known, else with what finds the version in it.
fn version_from(fields: &Fields<'_>) -> Option<VersionFrom> {
    if !fields.is_table("version_from") {
        let file = names::project_file(fields, "version_from")?;
        return Some(VersionFrom { file, pattern: None, at_least: false });
    }
    let table = fields.table("version_from", "version_from")?;
    let at_least = flag(&table, "at_least");
    let (file, pattern) = (names::project_file(&table, "file"), table.read("pattern", Pattern::new));
    if !table.has("file") {
        table.missing("file");
    }
    table.finish(|_| None);
    Some(VersionFrom { file: file?, pattern, at_least })
}

fn variable(fields: &Fields<'_>, words: &Words<'_>) -> Option<EnvironmentVariable> {
    let variable = EnvironmentVariable {
        name: names::variable(fields)?,
        env_file: names::project_file(fields, "env_file"),
        of: fields.text("of").and_then(|id| words.one(fields, &id)),
        matches: fields.read("matches", Pattern::new),
        secret: flag(fields, "secret"),
        expect: existence(fields),
    };
    // Whether a pattern fits tells something about the value; with many of them, all of it.
    if variable.secret && variable.matches.is_some() {
        bad(fields, fields.key_span("matches"), "of a `secret` variable only whether it is set is told; leave out `matches`");
    }
    Some(variable)
}

fn port(fields: &Fields<'_>) -> Option<Port> {
    let message = "a port is a number from 1 to 65535, a list of them, or a text such as \"7000-7010\"";
    let number =
        |value: &DeValue<'_>| as_number(value).and_then(|number| u16::try_from(number).ok()).filter(|number| *number > 0);
    let value = fields.raw("port")?;
    let numbers = match value.get_ref() {
        DeValue::Array(list) => list.iter().map(|one| number(one.get_ref())).collect::<Option<Vec<u16>>>().map(PortNumbers::List),
        DeValue::String(text) => match text.split_once('-') {
            Some((first, last)) => (first.trim().parse().ok().zip(last.trim().parse().ok()))
                .filter(|(first, last): &(u16, u16)| *first > 0 && first <= last)
                .map(|(first, last)| PortNumbers::Span(first, last)),
            // What a value says.
            None => text.parse().ok().filter(|number| *number > 0).map(|number| PortNumbers::List(vec![number])),
        },
        single @ (DeValue::Integer(_) | DeValue::Float(_) | DeValue::Boolean(_) | DeValue::Datetime(_) | DeValue::Table(_)) => {
            number(single).map(|one| PortNumbers::List(vec![one]))
        }
    };
    let count = numbers.as_ref().map_or(0, |numbers| match numbers {
        PortNumbers::List(list) => list.len(),
        PortNumbers::Span(first, last) => usize::from(last - first) + 1,
    });
    match count {
        0 => bad(fields, value.span(), message),
        1..=MOST_PORTS => {}
        _ => bad(fields, value.span(), format!("{count} ports at once; at most {MOST_PORTS} are checked")),
    }
    let set_by = fields.table("set_by", "set_by").and_then(|table| {
        let variable = names::variable(&table);
        let env_file = names::project_file(&table, "env_file");
        table.finish(|_| None);
        Some(SetBy::variable(variable?, env_file))
    });
    if set_by.is_some() && count > 1 {
        bad(fields, fields.key_span("set_by"), "`set_by` sets one port; give it to a requirement with one port");
    }
    let address = fields.read("address", |text| {
        let known = text == "localhost" || text.parse::<core::net::IpAddr>().is_ok();
        known.then(|| text.to_owned()).ok_or_else(|| format!("`{}` is not an IP address, and not localhost", shortened(text)))
    });
    let protocol = fields.word("protocol", &[("tcp", Protocol::Tcp), ("udp", Protocol::Udp)]).unwrap_or(Protocol::Tcp);
    Some(Port { numbers: numbers?, protocol, address, set_by, held_ok: owned(fields.texts("held_ok")) })
}

fn system(fields: &Fields<'_>) -> Option<Systems> {
    let table = fields.table("system", "system")?;
    let mut versions = Vec::new();
    for (name, value) in table.entries() {
        check_word(fields, "system", &name, &SYSTEMS);
        let Some(os) = Os::from_word(name.value) else { continue };
        match value.get_ref().as_str() {
            Some("any" | "*") => versions.push((os, None)),
            Some(text) => match Range::parse(text) {
                Ok(range) => versions.push((os, Some(range))),
                Err(error) => bad(fields, value.span(), error.to_string()),
            },
            None => fields.problems().report(
                ProblemKind::WrongType,
                value.span(),
                "a version range in quotes, or \"any\", stands here",
            ),
        }
    }
    let list = |key| owned(fields.texts(key));
    Some(Systems { versions, editions: list("edition"), distros: list("distro"), arches: list("arch") })
}

fn path(fields: &Fields<'_>, (kind, key): (PathKind, &'static str)) -> Option<Path> {
    let mut places = owned(fields.some_texts(key)).into_iter();
    let mode = |text: &str| {
        u32::from_str_radix(text, 8).ok().filter(|mode| *mode <= 0o7777).ok_or("a mode is written in octal digits, like \"600\"")
    };
    if fields.texts(key).iter().any(|place| place.value.trim().is_empty()) {
        bad(fields, fields.key_span(key), format!("`{key}` is empty"));
    }
    Some(Path {
        kind,
        path: places.next()?,
        or: places.collect(),
        mode: fields.read("mode", mode),
        mine: fields.word("owner", &[("me", ())]).is_some(),
        writable: flag(fields, "writable"),
        executable: flag(fields, "executable"),
        runs_programs: flag(fields, "runs_programs"),
        contains: patterns(fields, "contains"),
        expect: existence(fields),
    })
}

/// Patterns that must all fit something.
fn patterns(fields: &Fields<'_>, key: &'static str) -> Vec<Pattern> {
    let read = |text: Placed<&str>| Pattern::new(text.value).map_err(|error| bad(fields, text.span, error.to_string())).ok();
    fields.some_texts(key).into_iter().filter_map(read).collect()
}

fn status(fields: &Fields<'_>) -> Option<u16> {
    let number = fields.number("status")?;
    let status = u16::try_from(number.value).ok().filter(|status| (100..600).contains(status));
    if status.is_none() {
        bad(fields, number.span, "an HTTP status is a number from 100 to 599");
    }
    status
}

fn service(fields: &Fields<'_>) -> Option<Service> {
    let address = fields.required("service")?;
    let parsed = address.value.rsplit_once(':').and_then(|(host, port)| {
        let port: u16 = port.parse().ok().filter(|port| *port > 0)?;
        (!host.is_empty()).then(|| (host.trim_matches(['[', ']']).to_owned(), port))
    });
    if parsed.is_none() {
        bad(fields, address.span, "a service is written as host and port, like \"localhost:1883\"");
    }
    let (http, status, contains) = (fields.owned("http"), status(fields), fields.read("contains", Pattern::new));
    if status.is_some() && http.is_none() {
        bad(fields, fields.key_span("status"), "`status` needs `http`, the path to ask for");
    }
    if contains.is_some() && http.is_none() {
        bad(fields, fields.key_span("contains"), "`contains` needs `http`, the path to ask for");
    }
    let supply = supply(fields);
    parsed.map(|(host, port)| Service { host, port, http, status, contains, supply })
}

fn url(fields: &Fields<'_>, key: &'static str) -> Option<String> {
    let url = fields.required(key)?;
    let host = url.value.strip_prefix("https://").or_else(|| url.value.strip_prefix("http://"));
    if host.is_none_or(|host| host.is_empty() || host.starts_with('/')) {
        bad(fields, url.span, "an address to reach starts with https:// or http://");
        return None;
    }
    Some(url.value.to_owned())
}

fn hostname(fields: &Fields<'_>) -> Option<Hostname> {
    let points_to = fields.read("points_to", |text| match text.parse::<core::net::IpAddr>() {
        Ok(_) => Ok(text.to_owned()),
        Err(_) => Err(format!("`{}` is not an IP address", shortened(text))),
    });
    let name = names::placed(fields, "hostname")?;
    let right = |c: char| c.is_alphanumeric() || "-._".contains(c);
    if name.value.is_empty() || name.value.len() > 253 || !name.value.chars().all(right) {
        bad(fields, name.span, format!("`{}` cannot be the name of a host", shortened(name.value)));
    }
    Some(Hostname { name: name.value.to_owned(), points_to })
}

fn subnet(text: &str) -> Result<Subnet, &'static str> {
    let wrong = "a network is written as address and prefix, like \"10.77.0.0/24\"";
    let (address, prefix) = text.split_once('/').ok_or(wrong)?;
    let address: core::net::IpAddr = address.parse().map_err(|_| wrong)?;
    let longest = if address.is_ipv4() { 32 } else { 128 };
    let prefix: u8 = prefix.parse().ok().filter(|prefix| *prefix <= longest).ok_or(wrong)?;
    Ok(Subnet { address, prefix })
}

fn command(fields: &Fields<'_>) -> Option<Command> {
    let words = owned(fields.some_texts("command"));
    let number = fields.number("exit");
    let exit = number.as_ref().and_then(|number| u8::try_from(number.value).ok());
    if let Some(number) = number.filter(|_| exit.is_none()) {
        bad(fields, number.span, "an exit status is a number from 0 to 255");
    }
    let timeout_ms = fields.read("timeout", parse_duration);
    let matches = fields.read("matches", Pattern::new);
    let supply = Supply { packages: packages(fields), ..Supply::default() };
    (!words.is_empty()).then(|| Command { words, supply, exit: exit.unwrap_or(0), matches, timeout_ms })
}

fn limit(fields: &Fields<'_>) -> Option<Limit> {
    let name = fields.required("limit")?;
    check_word(fields, "limit", &name, &LIMITS);
    let at_least = fields.number("at_least").map(|number| number.value);
    let kind = LimitKind::from_word(name.value)?;
    let ability = kind == LimitKind::SymbolicLinks;
    if ability && at_least.is_some() {
        bad(fields, fields.key_span("at_least"), "symbolic links are there or not; `at_least` says nothing about them");
    }
    if !ability && !fields.has("at_least") {
        bad(fields, name.span.clone(), format!("`{}` is a number: say with `at_least` how high it must be", name.value));
    }
    Some(Limit { kind, at_least })
}

/// A locale's name goes into a command that a person pastes (POSIX Base Definitions 8.2: language, territory, encoding, modifier).
fn locale(fields: &Fields<'_>) -> Option<Locale> {
    let name = names::placed(fields, "locale")?;
    let right = |c: char| c.is_ascii_alphanumeric() || "_.-@".contains(c);
    if name.value.is_empty()
        || name.value.len() > 60
        || !name.value.starts_with(|c: char| c.is_ascii_alphabetic())
        || !name.value.chars().all(right)
    {
        bad(fields, name.span, format!("`{}` is not the name of a locale, like \"en_US.UTF-8\"", shortened(name.value)));
    }
    Some(Locale { name: name.value.to_owned(), utf8: flag(fields, "utf8") })
}

fn setting(fields: &Fields<'_>) -> Option<Setting> {
    let key = names::placed(fields, "setting")?;
    let of = fields.text("of");
    if let Some(of) = &of {
        check_word(fields, "version control whose settings are read", of, &["git"]);
    }
    // A key becomes an argument: nothing but a key may pass (git-config(1)).
    let right = |c: char| c.is_ascii_alphanumeric() || "-_./:@".contains(c);
    if !key.value.chars().all(right) || !key.value.contains('.') || key.value.starts_with(['-', '.']) {
        bad(fields, key.span.clone(), format!("`{}` is not the key of a setting, like \"user.email\"", shortened(key.value)));
    }
    Some(Setting {
        key: key.value.to_owned(),
        of: of.map_or_else(|| "git".to_owned(), |of| of.value.to_owned()),
        matches: fields.read("matches", Pattern::new),
    })
}
