//! What there is to say of a subject whatever its kind: its word, its title, its pattern, its packages.

use super::component::ComponentSort;
use super::kind::Kind;
use super::subject::{Command, PathKind, Port, PortNumbers, Rights, Service, Socket, Subject, Supply};
use crate::manager::Manager;
use crate::prelude::*;
use crate::text::Pattern;

impl Subject {
    /// The variable that it speaks of, the file that may set it, and whether its value is a secret.
    pub fn sets(&self) -> Option<(&str, Option<&String>, bool)> {
        if let Self::Variable(variable) = self {
            Some((variable.name.as_str(), variable.env_file.as_ref(), variable.secret))
        } else if let Self::Port(Port { set_by: Some(set_by), .. }) = self {
            Some((set_by.variable.as_deref()?, set_by.env_file.as_ref(), false))
        } else {
            None
        }
    }

    /// The pattern that something must fit, where it has one: the first of several.
    pub fn pattern(&self) -> Option<&Pattern> {
        match self {
            Self::Variable(variable) => variable.matches.as_ref(),
            Self::Setting(setting) => setting.matches.as_ref(),
            Self::Command(command) => command.matches.as_ref(),
            Self::Service(service) => service.contains.as_ref(),
            Self::Path(path) => path.contains.first(),
            Self::Tool(_)
            | Self::Port(_)
            | Self::Disk(_)
            | Self::Memory(_)
            | Self::Swap(_)
            | Self::Cores(_)
            | Self::Virtualization(_)
            | Self::System(_)
            | Self::Group(_)
            | Self::Rights(_)
            | Self::Socket(_)
            | Self::Device(_)
            | Self::Reach(_)
            | Self::Clock(_)
            | Self::Hostname(_)
            | Self::Subnet(_)
            | Self::Limit(_)
            | Self::Library(_)
            | Self::Component(_)
            | Self::Locale(_)
            | Self::Checkout(_)
            | Self::AnyOf(_) => None,
        }
    }

    /// Which kind it is.
    pub fn kind(&self) -> Kind {
        match self {
            Self::Tool(_) => Kind::Tool,
            Self::Port(_) => Kind::Port,
            Self::Disk(_) => Kind::Disk,
            Self::Memory(_) => Kind::Memory,
            Self::Swap(_) => Kind::Swap,
            Self::Cores(_) => Kind::Cores,
            Self::Virtualization(_) => Kind::Virtualization,
            Self::System(_) => Kind::System,
            Self::Variable(_) => Kind::Variable,
            Self::Group(_) => Kind::Group,
            Self::Rights(_) => Kind::Rights,
            Self::Socket(_) => Kind::Socket,
            Self::Device(_) => Kind::Device,
            Self::Service(_) => Kind::Service,
            Self::Reach(_) => Kind::Reach,
            Self::Clock(_) => Kind::Clock,
            Self::Hostname(_) => Kind::Hostname,
            Self::Subnet(_) => Kind::Subnet,
            Self::Limit(_) => Kind::Limit,
            Self::Library(_) => Kind::Library,
            Self::Component(component) => match component.sort {
                ComponentSort::Module(_) => Kind::Module,
                ComponentSort::Headers(_) => Kind::Headers,
                ComponentSort::SystemPackage => Kind::SystemPackage,
                ComponentSort::KernelModule => Kind::KernelModule,
            },
            Self::Locale(_) => Kind::Locale,
            Self::Setting(_) => Kind::Setting,
            Self::Checkout(_) => Kind::Checkout,
            Self::Command(_) => Kind::Command,
            Self::AnyOf(_) => Kind::AnyOf,
            Self::Path(path) => match path.kind {
                PathKind::File => Kind::File,
                PathKind::Folder => Kind::Folder,
            },
        }
    }

    /// Who brings a thing that must run, and how it is started.
    pub fn supply(&self) -> Option<&Supply> {
        if let Self::Service(Service { supply, .. })
        | Self::Socket(Socket { supply, .. })
        | Self::Command(Command { supply, .. }) = self
        {
            Some(supply)
        } else {
            None
        }
    }

    /// What to call it where the guide gives no title.
    pub fn title(&self) -> String {
        match self {
            Self::Tool(tool) => tool.names.first().cloned().unwrap_or_default(),
            Self::Port(port) => match &port.numbers {
                PortNumbers::List(list) => match list.as_slice() {
                    [only] => format!("port {only}"),
                    several => format!("ports {}", several.iter().map(u16::to_string).collect::<Vec<_>>().join(", ")),
                },
                PortNumbers::Span(first, last) => format!("ports {first} to {last}"),
            },
            Self::Disk(disk) => match disk.at.as_str() {
                "." => "disk space in this folder".to_owned(),
                at => format!("disk space at {at}"),
            },
            Self::Memory(memory) if memory.free => "free memory".to_owned(),
            Self::Memory(_) => "memory".to_owned(),
            Self::Swap(_) => "swap space".to_owned(),
            Self::Cores(_) => "processor cores".to_owned(),
            Self::Virtualization(_) => "hardware virtualization".to_owned(),
            Self::System(_) => "operating system".to_owned(),
            Self::Path(path) => format!("{} {}", self.kind().word(), path.path),
            Self::Variable(variable) => format!("variable {}", variable.name),
            Self::Group(group) => format!("group {}", group.name),
            Self::Rights(Rights::Admin) => "admin rights".to_owned(),
            Self::Rights(Rights::Root) => "the administrator's rights".to_owned(),
            Self::Socket(socket) => format!("socket {}", socket.path),
            Self::Device(device) => format!("device {}", device.path),
            Self::Service(service) => format!("service {}:{}", service.host, service.port),
            Self::Clock(_) => "the clock".to_owned(),
            Self::Reach(reach) => format!("reaching {}", crate::text::without_credentials(&reach.url)),
            Self::Hostname(host) => format!("host name {}", host.name),
            Self::Subnet(subnet) => format!("network {}/{}", subnet.address, subnet.prefix),
            Self::Limit(limit) => format!("limit {}", limit.kind.word()),
            Self::Library(library) => format!("library {}", library.name),
            Self::Component(component) => match component.sort {
                ComponentSort::Module(language) => format!("module {} of {}", component.name, language.name()),
                ComponentSort::Headers(language) => format!("headers of {}", language.name()),
                ComponentSort::SystemPackage => format!("package {}", component.name),
                ComponentSort::KernelModule => format!("kernel module {}", component.name),
            },
            Self::Locale(locale) => format!("locale {}", locale.name),
            Self::Setting(setting) => format!("{} setting {}", setting.of, setting.key),
            Self::Checkout(_) => "working copy".to_owned(),
            Self::Command(command) => format!("command {}", command.words.join(" ")),
            Self::AnyOf(_) => "one of several".to_owned(),
        }
    }

    /// The packages that bring it, per package manager.
    pub fn packages(&self) -> &[(Manager, String)] {
        match self {
            Self::Tool(tool) => &tool.packages,
            Self::Library(library) => &library.packages,
            Self::Service(Service { supply, .. })
            | Self::Socket(Socket { supply, .. })
            | Self::Command(Command { supply, .. }) => &supply.packages,
            Self::Component(component) => &component.packages,
            Self::Port(_)
            | Self::Disk(_)
            | Self::Memory(_)
            | Self::Swap(_)
            | Self::Cores(_)
            | Self::Virtualization(_)
            | Self::System(_)
            | Self::Path(_)
            | Self::Variable(_)
            | Self::Group(_)
            | Self::Rights(_)
            | Self::Device(_)
            | Self::Reach(_)
            | Self::Clock(_)
            | Self::Hostname(_)
            | Self::Subnet(_)
            | Self::Limit(_)
            | Self::Locale(_)
            | Self::Setting(_)
            | Self::Checkout(_)
            | Self::AnyOf(_) => &[],
        }
    }
}
