//! What a described machine answers.

use super::shape::{Filesystem, Shape, binding, port, resolve, said};
use super::{component, contents, network};
use crate::read::{setting_number, setting_text};
use setup_ready_core::guide::SetBy;
use setup_ready_core::observation::{Binding, DeviceState, DiskRoom, ManagerState, Observation, Run, StartFailure};
use setup_ready_core::probe::{PortPlace, Probe};

/// How far above a port a free one is looked for, as on a real machine.
const REACH: u16 = 200;

pub(super) fn answer(shape: &Shape, probe: &Probe) -> Observation {
    match probe {
        Probe::System => said(shape.system.clone().map(Observation::System)),
        Probe::Surroundings => said(shape.surroundings.clone().map(Observation::Surroundings)),
        Probe::Account => said(shape.account.clone().map(Observation::Account)),
        Probe::DatabaseGroups => said(shape.database_groups.clone().map(Observation::DatabaseGroups)),
        Probe::Managers => said(shape.managers.clone().map(Observation::Managers)),
        Probe::Program { name } => Observation::Program(shape.programs.get(name).cloned().unwrap_or_default()),
        Probe::ProgramElsewhere { name, .. } => {
            Observation::ProgramElsewhere(shape.elsewhere.get(name).cloned().unwrap_or_default())
        }
        Probe::Run { path, .. } => Observation::Run(shape.runs.get(path).cloned().unwrap_or_else(no_such_program)),
        // It only says what its programs print.
        Probe::RecordedVersion { .. } => Observation::RecordedVersion(None),
        Probe::FileVersion { path } => Observation::FileVersion(shape.stated.get(path).cloned()),
        Probe::PortBinding(place) => said(binding(shape, place).map(Observation::PortBinding)),
        Probe::PortHolder(place) => Observation::PortHolder(port(shape, place).and_then(|port| port.holder.clone())),
        Probe::FreePort(place) => Observation::FreePort(free_port(shape, place)),
        Probe::SettingNumber(by) => {
            Observation::SettingNumber(setting_number(by, environment(shape, by), |file| text_of(shape, file)))
        }
        Probe::SettingText { by, shape: of } => {
            Observation::SettingText(setting_text((by, of), environment(shape, by), |file| text_of(shape, file)))
        }
        Probe::DiskRoom { path } => said(room(shape, path).map(Observation::DiskRoom)),
        Probe::Memory => said(shape.memory.clone().map(Observation::Memory)),
        Probe::Cores => said(shape.cores.clone().map(Observation::Cores)),
        Probe::Processor => said(shape.processor.clone().map(Observation::Processor)),
        Probe::Hypervisor => said(shape.hypervisor.clone().map(Observation::Hypervisor)),
        Probe::Device { path, .. } => Observation::Device(shape.devices.get(path).cloned().unwrap_or(DeviceState::Missing)),
        Probe::LanguageModule { language, name, .. } => component::module(shape, *language, name),
        Probe::LanguageHeaders { language, .. } => component::headers(shape, *language),
        Probe::Installed { manager, package } => component::installed(shape, *manager, package),
        Probe::LeadsTo { variable, program } => component::leads_to(shape, variable, program),
        Probe::ClockBeside { .. } => {
            said(shape.net.clock_ahead_s.map(|ahead| Observation::ClockBeside(Some(ahead.saturating_mul(1_000)))))
        }
        Probe::Usb { id } => said(component::usb(shape, id)),
        Probe::Module { name } => said(shape.modules.as_ref().map(|loaded| Observation::Module(loaded.contains(name)))),
        Probe::Group { name } => said(has_group(shape, name).map(Observation::Group)),
        Probe::Within { path } => contents::within(shape, path),
        Probe::StartupLine { file, line } => Observation::StartupLine(contents::has_line(shape, file, line)),
        Probe::Path { path, pattern } => contents::path(shape, path, pattern.as_ref()),
        Probe::Variable { name, env_file, pattern } => {
            contents::variable_answer(shape, name, env_file.as_deref(), pattern.as_ref())
        }
        Probe::Library { name } => contents::library(shape, name),
        Probe::Setting { key, pattern, .. } => said(contents::setting(shape, key, pattern.as_ref())),
        Probe::Checkout { submodules, large_files, clean, .. } => {
            said(contents::checkout(shape, *submodules, *large_files, *clean))
        }
        Probe::Command { words, .. } => said(contents::command(shape, words)),
        Probe::Limit { name } => said(contents::limit(shape, *name)),
        Probe::Locales => said(contents::locales(shape)),
        // Of a described machine nobody expects it: a plan for it is the same without.
        Probe::Candidate { manager, package } => contents::candidate(shape, *manager, package)
            .unwrap_or_else(|| Observation::NotSupported("the described machine does not say".to_owned())),
        Probe::Provider { .. } => Observation::Provider(None),
        Probe::PackageOf { .. } => Observation::PackageOf(None),
        Probe::ManagerState { .. } => Observation::ManagerState(ManagerState::default()),
        Probe::Pinned { file, tools, pattern } => contents::pinned(shape, file, tools, pattern.as_deref()),
        Probe::Socket { path } => network::socket(shape, path),
        Probe::Connection { host, port } => said(network::connection_answer(shape, host, *port)),
        Probe::Fetch { url, pattern, .. } => said(network::fetch(shape, url, pattern.as_deref())),
        Probe::Online => said(shape.net.online.map(Observation::Online)),
        Probe::SystemProxy => Observation::SystemProxy(shape.net.proxy.clone()),
        Probe::SystemService { name } => said(network::system_service(shape, name)),
        Probe::Networks => said(shape.net.networks.clone().map(Observation::Networks)),
        Probe::Addresses { name } => said(network::addresses(shape, name)),
    }
}

fn no_such_program() -> Run {
    Run::not_started(StartFailure::Other, "the described machine has no such program")
}

/// Groups that the user is in are there; of others the description may say it.
fn has_group(shape: &Shape, name: &str) -> Option<bool> {
    let has = |groups: &Vec<String>| groups.iter().any(|group| group == name);
    if shape.database_groups.as_ref().is_some_and(has) {
        return Some(true);
    }
    shape.other_groups.as_ref().map(has)
}

fn free_port(shape: &Shape, place: &PortPlace) -> Option<u16> {
    let from = place.port.saturating_add(1).max(1024);
    let is_free = |port: &u16| binding(shape, &PortPlace { port: *port, ..place.clone() }) == Some(Binding::Free);
    (from..=from.saturating_add(REACH)).find(is_free)
}

fn environment<'s>(shape: &'s Shape, by: &SetBy) -> Option<&'s str> {
    shape.contents.environment.get(by.variable.as_ref()?).map(String::as_str)
}

/// The text of a file of the project.
fn text_of<'s>(shape: &'s Shape, file: &str) -> Option<&'s str> {
    shape.contents.paths.get(&resolve(shape, file)).map(|file| file.text.as_str())
}

fn room(shape: &Shape, path: &str) -> Option<DiskRoom> {
    let path = resolve(shape, path);
    let holds = |filesystem: &&Filesystem| {
        let at = filesystem.at.trim_end_matches('/');
        path == at || path.strip_prefix(at).is_some_and(|rest| rest.starts_with('/'))
    };
    let filesystem = shape.filesystems.iter().filter(holds).max_by_key(|filesystem| filesystem.at.len())?;
    Some(DiskRoom {
        existing: filesystem.at.clone(),
        filesystem: filesystem.at.clone(),
        available_bytes: filesystem.available_bytes,
        available_inodes: filesystem.available_inodes,
        limited_by: filesystem.limited_by.clone(),
        read_only: filesystem.read_only,
        writable: filesystem.writable,
        path,
    })
}
