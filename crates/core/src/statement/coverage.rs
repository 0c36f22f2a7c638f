//! Which requirement of a guide speaks of what a repository says.

#![allow(clippy::wildcard_enum_match_arm, reason = "topics that say themselves what they are about need no other word")]

use super::{Statement, Topic, merged};
use crate::guide::{Guide, Requirement, SetBy};
use crate::prelude::*;
use hashbrown::HashMap;

/// The requirements of a guide by what they speak of.
#[derive(Debug)]
pub struct Coverage<'g> {
    guide: &'g Guide,
    by_topic: HashMap<String, usize>,
}

/// The requirement that speaks of this, if there is one.
pub fn requirement_for(guide: &Guide, statement: &Statement) -> Option<usize> {
    Coverage::of(guide).requirement_for(statement)
}

impl<'g> Coverage<'g> {
    /// What a guide speaks of.
    pub fn of(guide: &'g Guide) -> Self {
        let mut by_topic = HashMap::new();
        for (index, requirement) in guide.requirements.iter().enumerate() {
            for key in keys(requirement) {
                by_topic.entry(key).or_insert(index);
            }
        }
        for value in &guide.values {
            let user = guide.requirements.iter().position(|one| one.values.iter().any(|at| guide.values.get(*at) == Some(value)));
            if let Some(key) = set_by(&value.set_by) {
                by_topic.entry(key).or_insert(user.unwrap_or(0));
            }
        }
        Self { guide, by_topic }
    }

    /// The requirement that speaks of what is said, or brings the package that it was said with.
    pub fn requirement_for(&self, statement: &Statement) -> Option<usize> {
        if let Topic::System(os) = &statement.topic {
            return self.guide.project.systems.contains(os).then_some(0);
        }
        let direct = self.by_topic.get(&topic_key(&statement.topic));
        let package = || {
            let (manager, name) = statement.package.as_ref()?;
            self.by_topic.get(&format!("package {} {name}", manager.word()))
        };
        // A port that was moved is still that port.
        let moved = || match &statement.topic {
            Topic::Port(_) => self.by_topic.get(&format!("variable {}", statement.variable.as_ref()?)),
            _ => None,
        };
        direct.or_else(package).or_else(moved).copied()
    }
}

fn topic_key(topic: &Topic) -> String {
    match topic {
        Topic::Service(_, port) => format!("service {port}"),
        other => merged::key(other).to_string(),
    }
}

fn set_by(set_by: &SetBy) -> Option<String> {
    set_by.variable.as_ref().map(|name| format!("variable {name}"))
}

/// Everything that a requirement may be known by.
fn keys(requirement: &Requirement) -> Vec<String> {
    let mut keys: Vec<String> = requirement.subject.facts().topics().iter().map(topic_key).collect();
    let packages = requirement.subject.packages().iter().map(|(manager, name)| (*manager, name.clone()));
    for (manager, name) in packages {
        keys.push(format!("package {} {name}", manager.word()));
        // What one manager's package brings is there, whichever package a build server installs for it.
        if let super::Provided::Topics(topics) = super::package_provides(manager, &name) {
            keys.extend(topics.iter().map(topic_key));
        }
    }
    keys
}

#[cfg(test)]
mod tests {
    use super::super::{Confidence, Place, Statement, Topic};
    use super::requirement_for;
    use crate::guide::{self, Language};
    use crate::manager::Manager;
    use crate::observation::Os;
    use crate::prelude::*;
    use rstest::rstest;

    fn said(topic: Topic) -> Statement {
        Statement::new(topic, Confidence::Used, Place { file: "a".into(), line: 1, item: String::new() })
    }

    fn tool(name: &str) -> Topic {
        Topic::Tool(name.to_owned())
    }

    #[rstest]
    #[case::a_program("tool = \"cmake\"", tool("cmake"), true)]
    #[case::by_another_name("tool = [\"python3\", \"python\"]", tool("python"), true)]
    #[case::of_the_same_family("tool = \"gcc\"", tool("clang"), true)]
    #[case::of_another_family("tool = \"gcc\"", tool("g++"), false)]
    #[case::started_by_a_command("command = [\"cmake\", \"--help\"]", tool("cmake"), true)]
    #[case::brought_by_its_package("tool = \"buoysim\"\npackages = { apt = \"ninja-build\" }", tool("ninja"), true)]
    #[case::a_library("library = \"zlib\"", Topic::Library("zlib".to_owned()), true)]
    #[case::a_library_by_a_package_of_another_manager(
        "system_package = { dnf = \"cairo-devel\" }",
        Topic::Library("cairo".to_owned()),
        true
    )]
    #[case::another_library("library = \"zlib\"", Topic::Library("libpng".to_owned()), false)]
    #[case::a_port("port = [7069, 7070]", Topic::Port(7070), true)]
    #[case::a_port_of_a_service("service = \"localhost:5432\"", Topic::Port(5432), true)]
    #[case::a_service_by_its_port("port = 5432", Topic::Service("postgres".to_owned(), 5432), true)]
    #[case::another_port("port = 7070", Topic::Port(7071), false)]
    #[case::a_variable("variable = \"BUOY_REGION\"", Topic::Variable("BUOY_REGION".to_owned()), true)]
    #[case::a_variable_that_moves_a_port(
        "port = 7070\nset_by = { variable = \"SHORE_PORT\" }",
        Topic::Variable("SHORE_PORT".to_owned()),
        true
    )]
    #[case::repositories_inside("checkout = \".\"\nsubmodules = true", Topic::Submodules, true)]
    #[case::only_a_working_copy("checkout = \".\"", Topic::Submodules, false)]
    #[case::git_by_the_working_copy("checkout = \".\"", tool("git"), true)]
    #[case::git_by_a_setting("setting = \"user.name\"", tool("git"), true)]
    #[case::large_files("checkout = \".\"\nlarge_files = true", tool("git-lfs"), true)]
    #[case::what_runs_containers("socket = \"/run/engine.sock\"", Topic::ContainerEngine, true)]
    #[case::another_socket("socket = \"/run/buoy.sock\"", Topic::ContainerEngine, false)]
    #[case::a_promised_system("tool = \"git\"", Topic::System(Os::Linux), true)]
    #[case::another_system("tool = \"git\"", Topic::System(Os::Windows), false)]
    fn what_is_said_is_found_in_the_guide(#[case] keys: &str, #[case] topic: Topic, #[case] found: bool) {
        let text = format!("format = 1\n[project]\nname = \"Driftbuoy\"\nsystems = [\"linux\"]\n[require.a]\n{keys}\n");
        let guide = guide::parse(&text).unwrap_or_else(|mistakes| panic!("{mistakes}"));
        assert_eq!(requirement_for(&guide, &said(topic)).is_some(), found);
    }

    #[test]
    fn modules_headers_values_and_packages_are_found_too() {
        let text = "format = 1\n[project]\nname = \"Driftbuoy\"\n[value.shore-port]\nis = 7070\nvariable = \"SHORE_PORT\"\n[require.python3]\ntool = \"python3\"\n[require.yaml]\nmodule = \"yaml\"\nof = \"python3\"\n[require.headers]\nheaders = \"python3\"\n[require.shore]\nport = \"{shore-port}\"\n[require.barnacle]\nsystem_package = { apt = \"libbarnacle-dev\" }\n";
        let guide = guide::parse(text).unwrap_or_else(|mistakes| panic!("{mistakes}"));
        let at = |topic| requirement_for(&guide, &said(topic)).map(|index| guide.requirements[index].id.clone());
        assert_eq!(at(Topic::Module(Language::Python, "yaml".to_owned())).as_deref(), Some("yaml"));
        assert_eq!(at(Topic::Module(Language::Python, "toml".to_owned())), None);
        assert_eq!(at(Topic::Headers(Language::Python)).as_deref(), Some("headers"));
        assert_eq!(at(Topic::Variable("SHORE_PORT".to_owned())).as_deref(), Some("shore"));
        let package = Topic::Package(Manager::Apt, "libbarnacle-dev".to_owned());
        assert_eq!(at(package).as_deref(), Some("barnacle"));
        // A port that was moved is still that port.
        let moved = Statement { variable: Some("SHORE_PORT".to_owned()), ..said(Topic::Port(7171)) };
        assert_eq!(requirement_for(&guide, &moved).map(|index| guide.requirements[index].id.as_str()), Some("shore"));
    }
}
