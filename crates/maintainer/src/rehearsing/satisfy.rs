//! What a machine must have for a requirement to be met.

#![allow(clippy::wildcard_enum_match_arm, reason = "a machine that has much of everything meets the kinds that are not named")]

use super::baseline::{Folders, folders, manager};
use super::machine_builder::{MachineBuilder, text, texts};
use super::sample::matching;
use setup_ready_core::guide::{ComponentSort, Existence, Guide, Path, PathKind, Requirement, Rights, Subject, Systems, Tool};
use setup_ready_core::observation::Os;
use setup_ready_core::packages::packages_for;
use setup_ready_core::text::Pattern;
use setup_ready_core::version::Range;

/// Ways in which a tool may say its version, `{n}` for its name and `{v}` for the version.
pub(super) const SAYINGS: [&str; 5] =
    ["{n} version {v}", "{n} {v}", "v{v}", "openjdk version \"{v}\" 2026-01-20", "go version go{v} linux/amd64"];

/// A guide's requirement on a system, with what the project's files say.
#[derive(Clone, Copy)]
pub(super) struct Wanted<'g> {
    pub(super) guide: &'g Guide,
    pub(super) requirement: &'g Requirement,
    pub(super) os: Os,
    /// The files that `version_from` names, with their texts.
    pub(super) pins: &'g [(String, String)],
    /// How its tool says its version, of [`SAYINGS`].
    pub(super) saying: usize,
}

/// The version that is put on a machine where any does.
pub(super) const ANY_VERSION: &str = "20.1.4";

/// A version in a range.
pub(super) fn version_in(range: Option<&Range>) -> String {
    let Some(range) = range else { return ANY_VERSION.to_owned() };
    let usual = [ANY_VERSION].into_iter().find_map(|text| {
        let version = setup_ready_core::version::Version::parse(text).ok()?;
        (range.fit(&version) == setup_ready_core::version::RangeMatch::Inside).then(|| text.to_owned())
    });
    usual.or_else(|| range.shared(range).map(|version| version.to_string())).unwrap_or_else(|| ANY_VERSION.to_owned())
}

impl Wanted<'_> {
    pub(super) fn at(&self) -> Folders {
        folders(self.os)
    }

    /// The path of a program in a folder.
    pub(super) fn program(&self, folder: &str, name: &str) -> String {
        format!("{folder}/{name}{}", self.at().ending)
    }

    /// What a tool prints when it says a version.
    pub(super) fn says(&self, tool: &Tool, version: &str) -> String {
        if let Some(text) = tool.pattern.as_ref().and_then(|pattern| matching(pattern.source(), Some(version))) {
            return text;
        }
        let name = tool.names.first().map_or("", String::as_str);
        SAYINGS.get(self.saying).copied().unwrap_or("{v}").replace("{n}", name).replace("{v}", version)
    }

    /// The range of versions of a tool: the guide's, or that of the file it names.
    pub(super) fn range(&self, tool: &Tool) -> Option<Range> {
        if tool.version.is_some() {
            return tool.version.clone();
        }
        let from = tool.version_from.as_ref()?;
        let (_, said) = self.pins.iter().find(|(file, _)| *file == from.file)?;
        let pattern = from.pattern.as_ref().map(Pattern::source);
        match setup_ready_observe::pinned::version_in(&from.file, said, &tool.names, pattern) {
            setup_ready_core::observation::Pinned::Range(text, _) => Range::parse(&text).ok(),
            setup_ready_core::observation::Pinned::Version(text, _) => Range::parse(&format!("= {text}")).ok(),
            _ => None,
        }
    }
}

/// Puts on the machine what meets the requirement.
pub(super) fn meet(sketch: &mut MachineBuilder, wanted: Wanted<'_>) {
    let at = wanted.at();
    match &wanted.requirement.subject {
        Subject::Tool(tool) if tool.expect == Existence::Present => install(sketch, wanted, tool),
        Subject::Disk(disk) => {
            let at_top = if wanted.os == Os::Windows { "C:/" } else { "/" };
            let room = disk.size.0.saturating_mul(4).max(900_000_000_000);
            sketch.put("filesystem", ("at", at_top), &[("available", text(&bytes(room))), ("inodes", "100000000".to_owned())]);
        }
        Subject::Memory(memory) => {
            let room = memory.size.0.saturating_mul(4).max(64_000_000_000);
            sketch.set("memory", "total", text(&bytes(room)));
            sketch.set("memory", "available", text(&bytes(room)));
        }
        Subject::Swap(swap) => sketch.set("memory", "swap", text(&bytes(swap.size.0.saturating_mul(4).max(64_000_000_000)))),
        Subject::Cores(cores) => sketch.set("cores", "online", cores.count.saturating_mul(2).max(16).to_string()),
        Subject::System(need) => of_system(sketch, wanted.os, need),
        Subject::Path(path) if path.expect == Existence::Present => path_of(sketch, wanted, path),
        Subject::Variable(variable) if variable.expect == Existence::Present => {
            let kit = variable.of.map(|_| at.usual.rsplit_once('/').map_or("/usr", |(above, _)| above).to_owned());
            let fits = variable.matches.as_ref().and_then(|pattern| matching(pattern.source(), None));
            let example = wanted.requirement.example.clone();
            let value = kit.or(example).or(fits).unwrap_or_else(|| "harbour".to_owned());
            sketch.set("environment", &variable.name, text(&value));
        }
        Subject::Group(group) => {
            sketch.set("user", "groups", texts(&["newcomer", &group.name]));
        }
        Subject::Rights(Rights::Root) => sketch.set("user", "root", "true"),
        Subject::Socket(socket) => sketch.put("socket", ("path", &socket.path), &[("state", text("answers"))]),
        Subject::Device(device) => {
            sketch.put("device", ("path", &device.path), &[("state", text("opens"))]);
            sketch.top("usb", texts(&device.usb.iter().collect::<Vec<_>>()));
        }
        Subject::Service(service) => {
            let place = format!("{}:{}{}", service.host, service.port, service.http.as_deref().unwrap_or(""));
            let said = service.contains.as_ref().and_then(|pattern| matching(pattern.source(), None)).unwrap_or_default();
            let status = service.status.unwrap_or(200).to_string();
            sketch.put("service", ("at", place.trim_end_matches('/')), &[("status", status), ("text", text(&said))]);
        }
        Subject::Reach(reach) => {
            let status = reach.status.unwrap_or(200).to_string();
            sketch.put("site", ("url", reach.url.trim_end_matches('/')), &[("status", status)]);
        }
        Subject::Clock(clock) => sketch.put("site", ("url", clock.by.trim_end_matches('/')), &[]),
        Subject::Hostname(host) => {
            sketch.set("names", &host.name, text(host.points_to.as_deref().unwrap_or("127.0.0.1")));
        }
        Subject::Limit(limit) => match limit.at_least {
            Some(least) => sketch.set("limits", limit.kind.word(), least.to_string()),
            None => sketch.set("limits", limit.kind.word(), "true"),
        },
        Subject::Library(library) => {
            let version = version_in(library.version.as_ref());
            sketch.put("library", ("name", &library.name), &[("version", text(&version))]);
            offer(sketch, wanted, &version);
        }
        Subject::Component(component) => {
            let version = version_in(component.version.as_ref());
            match component.sort {
                ComponentSort::Module(language) => {
                    let fields = [("of", text(language.word())), ("version", text(&version))];
                    sketch.put("module", ("name", &component.name), &fields);
                }
                ComponentSort::Headers(language) => sketch.put("headers", ("of", language.word()), &[]),
                ComponentSort::SystemPackage => {
                    for (manager, name) in packages_for(&wanted.requirement.subject, &[manager(wanted.os)]) {
                        sketch.set(&format!("installed.{}", manager.word()), &name, text(&version));
                    }
                }
                ComponentSort::KernelModule => sketch.set("system", "modules", texts(&["kvm", "kvm_intel", &component.name])),
            }
            offer(sketch, wanted, &version);
        }
        Subject::Locale(locale) => sketch.top("locales", texts(&["C.utf8", "en_US.utf8", &locale.name])),
        Subject::Setting(setting) => {
            let fits = setting.matches.as_ref().and_then(|pattern| matching(pattern.source(), None));
            let value = wanted.requirement.example.clone().or(fits).unwrap_or_else(|| "Newcomer".to_owned());
            sketch.set("settings", &setting.key, text(&value));
        }
        Subject::Command(command) => {
            let said = command.matches.as_ref().and_then(|pattern| matching(pattern.source(), None)).unwrap_or_default();
            let fields = [("exit", command.exit.to_string()), ("prints", text(&said)), ("words", texts(&command.words))];
            sketch.put_words("command", &command.words.join(" "), &fields);
            if let Some(program) = command.words.first().filter(|program| !program.contains(['/', '\\'])) {
                let path = wanted.program(at.usual, program);
                if !sketch.has("program", &path) {
                    sketch.put("program", ("path", &path), &[("prints", text(&format!("{program} {ANY_VERSION}")))]);
                }
            }
        }
        // Every port is free, the working copy is whole, the processor can do it; of alternatives each is a requirement of its own.
        _ => {}
    }
}

/// A size as a description has it.
pub(super) fn bytes(count: u64) -> String {
    format!("{} MB", count.div_ceil(1_000_000))
}

/// The package manager has it in this version.
pub(super) fn offer(sketch: &mut MachineBuilder, wanted: Wanted<'_>, version: &str) {
    for (manager, name) in packages_for(&wanted.requirement.subject, &[manager(wanted.os)]) {
        sketch.set(&format!("candidates.{}", manager.word()), &name, text(version));
    }
}

/// A tool where the package manager puts it.
pub(super) fn install(sketch: &mut MachineBuilder, wanted: Wanted<'_>, tool: &Tool) {
    let range = wanted.range(tool);
    let version = version_in(range.as_ref());
    let Some(name) = tool.names.first() else { return };
    let mut fields = vec![("prints", text(&wanted.says(tool, &version)))];
    if let Some(arch) = &tool.arch {
        fields.push(("built_for", texts(&[arch])));
    }
    sketch.put("program", ("path", &wanted.program(wanted.at().usual, name)), &fields);
    if let Some((file, said)) =
        tool.version_from.as_ref().and_then(|from| wanted.pins.iter().find(|(file, _)| *file == from.file))
    {
        sketch.put("file", ("path", file), &[("text", text(said))]);
    }
    // A pattern may look for another program's number.
    let offered = if tool.pattern.is_some() { ANY_VERSION } else { &version };
    offer(sketch, wanted, offered);
}

fn of_system(sketch: &mut MachineBuilder, os: Os, systems: &Systems) {
    if let Some((_, Some(range))) = systems.versions.iter().find(|(of, _)| *of == os) {
        let here = sketch
            .get("system", "version")
            .and_then(|version| setup_ready_core::version::Version::parse(version.trim_matches('"')).ok());
        if here.is_none_or(|here| range.fit(&here) != setup_ready_core::version::RangeMatch::Inside) {
            sketch.set("system", "version", text(&version_in(Some(range))));
        }
    }
    for (key, all) in [("edition", &systems.editions), ("distro", &systems.distros), ("arch", &systems.arches)] {
        let fits = |now: &str| all.iter().any(|one| one == now.trim_matches('"'));
        if let Some(first) = all.first()
            && !sketch.get("system", key).is_some_and(fits)
        {
            sketch.set("system", key, text(first));
        }
    }
}

/// The text of a file that has what is looked for, a line for each.
fn holding(path: &Path) -> String {
    path.contains.iter().filter_map(|pattern| matching(pattern.source(), None)).map(|line| line + "\n").collect()
}

/// A file or a folder as it is wanted.
pub(super) fn path_of(sketch: &mut MachineBuilder, wanted: Wanted<'_>, path: &Path) {
    let mut fields = Vec::new();
    let mode = path.mode.or_else(|| (path.executable && wanted.os != Os::Windows).then_some(0o755));
    if let Some(mode) = mode.filter(|_| wanted.os != Os::Windows) {
        fields.push(("mode", text(&format!("{mode:o}"))));
    }
    if wanted.os == Os::Windows && path.mode.is_some() {
        fields.push(("open_to", "[]".to_owned()));
    }
    if path.executable {
        fields.push(("executable", "true".to_owned()));
    }
    if path.kind == PathKind::Folder {
        for name in path.contains.iter().filter_map(|pattern| matching(pattern.source(), None)) {
            sketch.put("file", ("path", &format!("{}/{name}", path.path.trim_end_matches('/'))), &[]);
        }
        if path.path != "." {
            sketch.put("folder", ("path", &path.path), &fields);
        }
    } else {
        fields.push(("text", text(&holding(path))));
        sketch.put("file", ("path", &path.path), &fields);
    }
}
