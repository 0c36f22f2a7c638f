//! Reading a description, with all mistakes at once.

use super::fields::{mode, read_run, texts};
use super::shape::{DescribedPort, Filesystem, Shape};
use super::{contents, expectation, network};
use setup_ready_core::document::{self, Fields, MOST_TABLES, Placed, shortened};
use setup_ready_core::guide::{FORMAT, Protocol};
use setup_ready_core::manager::Manager;
use setup_ready_core::observation::{
    Account, Binding, Choice, CoreCap, CoreState, DeviceState, DiskLimit, Elevator, FileKind, Holder, Hypervisor, MemoryCap,
    MemoryState, Os, Piece, Processor, ProgramCopy, StartEffect, Surroundings, System,
};
use setup_ready_core::problem::{GuideError, ProblemKind, Problems};
use setup_ready_core::text::Size;

pub(super) fn parse(text: &str) -> Result<Shape, GuideError> {
    let tree = document::parse(text)?;
    let problems = Problems::default();
    let shape = read(Fields::of_document(&tree, &problems));
    if problems.is_empty() { Ok(shape) } else { Err(problems.into_mistakes(text)) }
}

fn read(top: Fields<'_>) -> Shape {
    let mut shape = Shape::default();
    match top.number("format") {
        Some(number) if number.value == FORMAT => {}
        Some(number) => {
            let message = format!("format {} is not known; this software reads format {FORMAT}", number.value);
            top.problems().report(ProblemKind::Format, number.span, message);
            return shape;
        }
        None => {
            top.problems().report(ProblemKind::Format, 0..0, format!("the file must start with `format = {FORMAT}`"));
            return shape;
        }
    }
    read_machine(&top, &mut shape);
    read_system(&top, &mut shape);
    read_user(&top, &mut shape);
    read_programs(&top, &mut shape);
    read_filesystems(&top, &mut shape);
    read_ports(&top, &mut shape);
    read_hardware(&top, &mut shape);
    read_devices(&top, &mut shape);
    contents::read(&top, &mut shape);
    network::read(&top, &mut shape);
    expectation::read(&top, &mut shape);
    top.finish(|_| None);
    shape
}

fn size(fields: &Fields<'_>, key: &'static str) -> Option<u64> {
    fields.read(key, Size::parse).map(|size| size.0)
}

fn required_size(fields: &Fields<'_>, key: &'static str) -> u64 {
    if !fields.has(key) {
        fields.missing(key);
    }
    size(fields, key).unwrap_or(0)
}

fn read_machine(top: &Fields<'_>, shape: &mut Shape) {
    let Some(fields) = top.table("machine", "machine") else {
        if !top.has("machine") {
            top.problems().report(ProblemKind::MissingKey, 0..0, "the description needs a table [machine] with a `name`");
        }
        return;
    };
    shape.name = fields.required("name").map(|name| name.value.to_owned()).unwrap_or_default();
    shape.about = fields.owned("about");
    shape.project = fields.owned("project").unwrap_or_else(|| "/project".to_owned());
    fields.finish(|_| None);
}

fn read_system(top: &Fields<'_>, shape: &mut Shape) {
    let Some(fields) = top.table("system", "system") else { return };
    let os = fields.word("os", &[("linux", Os::Linux), ("macos", Os::Macos), ("windows", Os::Windows)]);
    if !fields.has("os") {
        fields.missing("os");
    }
    shape.system = os.map(|os| System {
        os,
        version: fields.owned("version"),
        edition: fields.owned("edition"),
        distro: fields.owned("distro"),
        distro_like: texts(&fields, "distro_like"),
        distro_version: fields.owned("distro_version"),
        pretty: fields.owned("pretty"),
        arch: fields.owned("arch").unwrap_or_else(|| "x86_64".to_owned()),
    });
    let known = ["wsl", "project-outside", "container", "virtual-machine", "ci"];
    let flags = fields.texts("flags");
    for flag in flags.iter().filter(|flag| !known.contains(&flag.value)) {
        let message = format!("`{}` is not a flag of a machine", shortened(flag.value));
        fields.problems().unknown_word(ProblemKind::UnknownWord, flag.span.clone(), message, (flag.value, &known));
    }
    let has = |word: &str| Some(flags.iter().any(|flag| flag.value == word));
    shape.surroundings = Some(Surroundings {
        wsl: has("wsl"),
        outside: has("project-outside"),
        container: has("container"),
        virtual_machine: has("virtual-machine"),
        ci: has("ci"),
    });
    if fields.has("managers") {
        let known = |word: &Placed<&str>| {
            let manager = Manager::from_word(word.value);
            if manager.is_none() {
                let message = format!("`{}` is not a package manager that is known here", shortened(word.value));
                let wrong = (word.value, Manager::WORDS);
                fields.problems().unknown_word(ProblemKind::UnknownWord, word.span.clone(), message, wrong);
            }
            manager
        };
        shape.managers = Some(fields.texts("managers").iter().filter_map(known).collect());
    }
    if fields.has("modules") {
        shape.modules = Some(texts(&fields, "modules"));
    }
    fields.finish(|_| None);
}

fn read_user(top: &Fields<'_>, shape: &mut Shape) {
    let Some(fields) = top.table("user", "user") else { return };
    let name = fields.owned("name");
    let root = fields.flag("root").unwrap_or(false);
    shape.home = fields.owned("home").or_else(|| name.as_ref().map(|name| format!("/home/{name}")));
    let groups = texts(&fields, "groups");
    shape.database_groups = Some(if fields.has("database_groups") { texts(&fields, "database_groups") } else { groups.clone() });
    shape.other_groups = fields.has("other_groups").then(|| texts(&fields, "other_groups"));
    shape.account = Some(Account {
        name,
        root,
        admin: fields.flag("admin").or(Some(root)),
        elevate: fields.word("elevate", &Elevator::ALL.map(|one| (one.word(), one))),
        groups,
        shell: fields.owned("shell"),
        startup_file: fields.owned("startup_file"),
    });
    fields.finish(|_| None);
}

fn read_programs(top: &Fields<'_>, shape: &mut Shape) {
    let folders: Option<Vec<String>> = top.has("path").then(|| texts(top, "path"));
    let mut found: Vec<(usize, String, ProgramCopy)> = Vec::new();
    for fields in if top.has("program") { top.tables("program", "program", MOST_TABLES) } else { Vec::new() } {
        let Some(path) = fields.required("path").map(|path| path.value.to_owned()) else { continue };
        let (folder, file) = path.rsplit_once(['/', '\\']).unwrap_or(("", &path));
        // Windows finds a program without its extension; where paths begin with a slash it belongs to the name.
        let extensions: &[&str] = if path.starts_with('/') { &[] } else { &[".exe", ".cmd", ".bat"] };
        let name = extensions.iter().find_map(|extension| file.strip_suffix(extension)).unwrap_or(file).to_owned();
        let position = folders.as_ref().map_or(Some(0), |folders| folders.iter().position(|one| one == folder));
        let copy = ProgramCopy {
            real_path: fields.owned("real_path").unwrap_or_else(|| path.clone()),
            executable: fields.flag("executable").unwrap_or(true),
            in_project: fields.flag("in_project").unwrap_or(false),
            kind: read_kind(&fields),
            lacks: texts(&fields, "lacks").into_iter().map(Piece::Library).collect(),
            start: read_effect(&fields),
            choice: Choice::Itself,
            by_relative_entry: false,
            path: path.clone(),
        };
        shape.stated.extend(fields.owned("states").map(|version| (path.clone(), version)));
        shape.runs.insert(path, read_run(&fields));
        match position {
            Some(position) => found.push((position, name, copy)),
            None => shape.elsewhere.entry(name).or_default().push(copy),
        }
        fields.finish(|_| None);
    }
    found.sort_by_key(|(position, ..)| *position);
    for (_, name, copy) in found {
        shape.programs.entry(name).or_default().push(copy);
    }
}

fn read_effect(fields: &Fields<'_>) -> StartEffect {
    let is = |key| fields.flag(key) == Some(true);
    match (is("quarantined"), is("opens_window")) {
        (true, _) => StartEffect::Question,
        (false, true) => StartEffect::Window,
        (false, false) => StartEffect::Quiet,
    }
}

fn read_kind(fields: &Fields<'_>) -> FileKind {
    let arches = texts(fields, "built_for");
    if fields.flag("placeholder") == Some(true) {
        FileKind::Placeholder
    } else if arches.is_empty() {
        FileKind::Unknown
    } else {
        FileKind::Built(arches)
    }
}

fn limited_by(fields: &Fields<'_>) -> Option<DiskLimit> {
    let outside = fields.owned("outside").map(DiskLimit::Outside);
    if fields.flag("by_quota").unwrap_or(false) { Some(DiskLimit::Quota) } else { outside }
}

fn read_filesystems(top: &Fields<'_>, shape: &mut Shape) {
    for fields in if top.has("filesystem") { top.tables("filesystem", "filesystem", MOST_TABLES) } else { Vec::new() } {
        if let Some(at) = fields.required("at") {
            shape.filesystems.push(Filesystem {
                at: at.value.replace('\\', "/"),
                available_bytes: required_size(&fields, "available"),
                available_inodes: fields.number("inodes").map(|number| number.value),
                limited_by: limited_by(&fields),
                read_only: fields.flag("read_only").unwrap_or(false),
                writable: fields.flag("writable").unwrap_or(true),
            });
        }
        fields.finish(|_| None);
    }
}

fn read_ports(top: &Fields<'_>, shape: &mut Shape) {
    let words = [
        ("free", Binding::Free),
        ("held", Binding::Held),
        ("denied", Binding::Denied(Some(1024))),
        ("reserved", Binding::Reserved),
        ("no-address", Binding::NoAddress),
    ];
    let word = |fields: &Fields<'_>, key| {
        let indexes: Vec<(&str, usize)> = words.iter().enumerate().map(|(index, (word, _))| (*word, index)).collect();
        fields.word(key, &indexes).and_then(|index| words.get(index)).map(|(_, binding)| binding.clone())
    };
    shape.other_ports = word(top, "other_ports");
    for fields in if top.has("port") { top.tables("port", "port", MOST_TABLES) } else { Vec::new() } {
        if !fields.has("port") {
            fields.missing("port");
        }
        let number = fields.number("port").and_then(|number| u16::try_from(number.value).ok());
        let protocol = fields.word("protocol", &[("tcp", Protocol::Tcp), ("udp", Protocol::Udp)]).unwrap_or(Protocol::Tcp);
        let holder = Holder {
            pid: fields.number("pid").and_then(|pid| u32::try_from(pid.value).ok()),
            name: fields.owned("holder"),
            command: fields.owned("command"),
            user: fields.owned("user"),
            outgoing: None,
            unit: fields.owned("unit"),
        };
        let known = holder.is_told() || holder.user.is_some();
        let binding = word(&fields, "state").unwrap_or(Binding::Held);
        if let Some(number) = number {
            shape.ports.insert((protocol, number), DescribedPort { binding, holder: known.then_some(holder) });
        }
        fields.finish(|_| None);
    }
}

fn read_hardware(top: &Fields<'_>, shape: &mut Shape) {
    if let Some(fields) = top.table("memory", "memory") {
        let caps = read_caps(&fields, |by, cap| MemoryCap { by, bytes: required_size(cap, "amount") });
        shape.memory = Some(MemoryState {
            total: required_size(&fields, "total"),
            available: size(&fields, "available"),
            caps,
            swap: size(&fields, "swap"),
        });
        fields.finish(|_| None);
    }
    if let Some(fields) = top.table("cores", "cores") {
        if !fields.has("online") {
            fields.missing("online");
        }
        let online = fields.number("online").map_or(0, |number| number.value);
        let caps = read_caps(&fields, |by, cap| {
            let cores = cap.number("amount").map_or(0, |number| number.value);
            CoreCap { by, hundredths: cores.saturating_mul(100) }
        });
        shape.cores = Some(CoreState { online, caps });
        fields.finish(|_| None);
    }
    if let Some(fields) = top.table("virtualization", "virtualization") {
        let hypervisor = shape.surroundings.as_ref().and_then(|around| around.virtual_machine);
        shape.hypervisor = Some(Hypervisor {
            enabled: fields.flag("feature"),
            started: fields.flag("started"),
            held_by: fields.owned("held_by"),
        });
        shape.processor = Some(Processor { able: fields.flag("processor"), offered: fields.flag("firmware"), hypervisor });
        fields.finish(|_| None);
    }
}

fn read_caps<C>(fields: &Fields<'_>, read_one: impl Fn(String, &Fields<'_>) -> C) -> Vec<C> {
    let read = |cap: Fields<'_>| {
        let by = cap.required("by").map(|by| by.value.to_owned()).unwrap_or_default();
        let read = read_one(by, &cap);
        cap.finish(|_| None);
        read
    };
    if fields.has("cap") { fields.tables("cap", "cap", MOST_TABLES).into_iter().map(read).collect() } else { Vec::new() }
}

fn read_devices(top: &Fields<'_>, shape: &mut Shape) {
    #[derive(Clone, Copy)]
    enum State {
        Opens,
        Denied,
        Dead,
        Busy,
    }
    let words = [("opens", State::Opens), ("denied", State::Denied), ("dead", State::Dead), ("busy", State::Busy)];
    for fields in if top.has("device") { top.tables("device", "device", MOST_TABLES) } else { Vec::new() } {
        let path = fields.required("path");
        let group = fields.owned("group");
        let mode = mode(&fields);
        let device = match fields.word("state", &words).unwrap_or(State::Opens) {
            State::Opens => DeviceState::Opens,
            State::Denied => DeviceState::Denied(group, mode),
            State::Dead => DeviceState::Dead,
            State::Busy => DeviceState::Busy,
        };
        if let Some(path) = path {
            shape.devices.insert(path.value.to_owned(), device);
        }
        fields.finish(|_| None);
    }
}
