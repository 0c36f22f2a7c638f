//! What is wanted, in a few words that stand behind a title.

#![allow(clippy::too_many_lines, reason = "an arm for each kind")]

use crate::guide::{
    Access, Checkout, Command, ComponentSort, Existence, Guide, LimitKind, Path, PathKind, PortNumbers, Requirement, Rights,
    Service, Subject, Tool, Virtualization,
};
use crate::prelude::*;
use crate::text::join_words;

/// What is wanted of a requirement, in a few words: `version >= 3.25, < 5`. Empty where the title says it all.
pub fn wants(guide: &Guide, requirement: &Requirement) -> String {
    let means = requirement.means.as_deref();
    let named = |subject: String| if requirement.title.is_some() { subject } else { String::new() };
    let text = match &requirement.subject {
        Subject::Tool(one) => tool(one, requirement.title.is_some()),
        Subject::Port(port) => {
            let kind = if port.protocol == crate::guide::Protocol::Udp { "UDP port" } else { "port" };
            let numbers = match &port.numbers {
                PortNumbers::List(list) => join_words(&list.iter().map(u16::to_string).collect::<Vec<_>>(), "and"),
                PortNumbers::Span(first, last) => format!("{first} to {last}"),
            };
            let moved = port.set_by.as_ref().map(|by| format!(" (or what {} says)", by.name())).unwrap_or_default();
            format!("{kind} {numbers} free{moved}")
        }
        Subject::Disk(disk) => {
            let at = if disk.at == "." { "where the project lies".to_owned() } else { format!("at {}", disk.at) };
            format!("{} free {at}", disk.size)
        }
        Subject::Memory(memory) if memory.free => format!("{} not in use", memory.size),
        Subject::Memory(memory) => memory.size.to_string(),
        Subject::Swap(size) => size.to_string(),
        Subject::Cores(count) => format!("{count} at least"),
        Subject::Virtualization(Virtualization::Usable) => "usable by you".to_owned(),
        Subject::Virtualization(Virtualization::Present) => "in the processor".to_owned(),
        Subject::System(systems) => systems.to_string(),
        Subject::Path(one) => path(one, means),
        Subject::Variable(variable) => {
            let absent = variable.expect == Existence::Absent;
            let set = if absent { "not set" } else { "set" };
            let place = variable.env_file.as_ref().map(|file| format!(" in the environment or in {file}")).unwrap_or_default();
            let shape = means.map(|means| format!(", to {means}")).unwrap_or_default();
            let kit = variable
                .of
                .and_then(|of| guide.requirements.get(of))
                .map(|of| format!(", to the kit of {}", of.title()))
                .unwrap_or_default();
            format!("{} {set}{place}{shape}{kit}", named(format!("the variable {}", variable.name)))
        }
        Subject::Group(group) => format!("you are a member{}", named(format!(" of the group {}", group.name))),
        Subject::Rights(Rights::Admin) => "you may act as administrator".to_owned(),
        Subject::Rights(Rights::Root) => "you are the administrator".to_owned(),
        Subject::Socket(socket) => format!("{} answers you", socket.path),
        Subject::Device(device) => {
            let how = if device.access == Access::Write { "you may write to" } else { "you may read" };
            format!("{how} {}", device.path)
        }
        Subject::Service(one) => service(one, means),
        Subject::Reach(reach) => format!("{} can be reached", crate::text::without_credentials(&reach.url)),
        Subject::Clock(clock) => format!("right to within {} s", clock.within_ms / 1_000),
        Subject::Hostname(host) => match &host.points_to {
            Some(address) => format!("{} leads to {address}", host.name),
            None => format!("{} leads somewhere", host.name),
        },
        Subject::Subnet(subnet) => format!("{}/{} is not in use here", subnet.address, subnet.prefix),
        Subject::Limit(limit) => {
            let what = match limit.kind {
                LimitKind::OpenFiles => "open files",
                LimitKind::Processes => "processes",
                LimitKind::FileWatches => "watched files",
                LimitKind::PathLength => "characters in a path",
                LimitKind::SymbolicLinks => "links can be made",
            };
            limit.at_least.map_or_else(|| what.to_owned(), |least| format!("{least} {what} at least"))
        }
        Subject::Library(library) => {
            let version = library.version.as_ref().map(|range| format!("version {range}, ")).unwrap_or_default();
            format!("{}{version}with what is needed to build against it", named(format!("{}, ", library.name)))
        }
        Subject::Component(component) => {
            let what = match component.sort {
                ComponentSort::Module(language) => format!("the module {} of {}", component.name, language.name()),
                ComponentSort::Headers(language) => format!("the headers of {}", language.name()),
                ComponentSort::SystemPackage => format!("the package {}", component.name),
                ComponentSort::KernelModule => format!("the kernel module {}, loaded", component.name),
            };
            let version = component.version.as_ref().map(|range| format!("version {range}"));
            [Some(named(what)).filter(|text| !text.is_empty()), version].into_iter().flatten().collect::<Vec<_>>().join(", ")
        }
        Subject::Locale(locale) => format!("{} made here", locale.name),
        Subject::Setting(setting) => {
            let shape = means.map(|means| format!(", to {means}")).unwrap_or_default();
            format!("{} set in {}{shape}", setting.key, setting.of)
        }
        Subject::Checkout(one) => checkout(one),
        Subject::Command(one) => command(one, means),
        Subject::AnyOf(any) => {
            let titles: Vec<String> =
                any.alternatives.iter().filter_map(|index| guide.requirements.get(*index)).map(Requirement::title).collect();
            join_words(&titles, "or")
        }
    };
    text.trim().to_owned()
}

fn tool(tool: &Tool, titled: bool) -> String {
    if tool.expect == Existence::Absent {
        return format!("{} must not be here", join_words(&tool.names, "or"));
    }
    let name = (titled || tool.names.len() > 1).then(|| join_words(&tool.names, "or"));
    let version = tool.version.as_ref().map(|range| format!("version {range}"));
    let from = tool.version_from.as_ref().map(|from| format!("the version that {} says", from.file));
    let arch = tool.arch.as_ref().map(|arch| format!("built for {arch}"));
    let any = [&version, &from, &arch].iter().all(|one| one.is_none()) && name.is_none();
    [name, version, from, arch, any.then(|| "any version".to_owned())].into_iter().flatten().collect::<Vec<_>>().join(", ")
}

fn path(path: &Path, means: Option<&str>) -> String {
    if path.expect == Existence::Absent {
        return format!("{} must not be there", path.path);
    }
    let own = |place: &String| if place == "." { "this folder".to_owned() } else { place.clone() };
    let places: Vec<String> = core::iter::once(&path.path).chain(&path.or).map(own).collect();
    let mut parts = vec![join_words(&places, "or")];
    if path.mine {
        parts.push("yours".to_owned());
    }
    if let Some(mode) = path.mode {
        parts.push(format!("permissions {mode:o}"));
    }
    if path.writable {
        parts.push("writable".to_owned());
    }
    if path.executable {
        parts.push("executable".to_owned());
    }
    if path.runs_programs {
        parts.push("on a disk that lets programs start".to_owned());
    }
    if !path.contains.is_empty() {
        let holds = means.unwrap_or("what the guide looks for");
        parts.push(format!("{} {holds}", if path.kind == PathKind::File { "holding" } else { "with" }));
    }
    parts.join(", ")
}

fn service(service: &Service, means: Option<&str>) -> String {
    let place = format!("{}:{}{}", service.host, service.port, service.http.as_deref().unwrap_or(""));
    let says = service.contains.as_ref().and(means).map(|means| format!(" with {means}")).unwrap_or_default();
    format!("{place} answers{says}")
}

fn checkout(checkout: &Checkout) -> String {
    let mut parts = vec!["a clone of the repository".to_owned()];
    if let Some(branch) = &checkout.branch {
        parts.push(format!("on the branch {branch}"));
    }
    let wanted = [
        (checkout.submodules, "with its submodules"),
        (checkout.large_files, "with its large files"),
        (checkout.history, "with all of its history"),
        (checkout.tags, "with its tags"),
        (checkout.line_ends, "with the line ends of Unix"),
        (checkout.clean, "with nothing uncommitted"),
    ];
    parts.extend(wanted.into_iter().filter(|(is, _)| *is).map(|(_, text)| text.to_owned()));
    parts.join(", ")
}

fn command(command: &Command, means: Option<&str>) -> String {
    let ends = if command.exit == 0 { "ends well".to_owned() } else { format!("ends with {}", command.exit) };
    let says = command.matches.as_ref().and(means).map(|means| format!(" and says {means}")).unwrap_or_default();
    format!("`{}` {ends}{says}", command.words.join(" "))
}
