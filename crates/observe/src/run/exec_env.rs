//! What a program finds around it when it is started: nothing of the project, unless the person agreed to that.

use std::ffi::{OsStr, OsString};
use std::path::{Path, PathBuf};
use std::process::Command;

/// Variables that make programs load code, lead them to other settings, or start further programs; by their whole names.
/// Sources: the manuals of the interpreters, virtual machines, loaders and build tools.
const UNSAFE_ENV_VARS: [&str; 85] = [
    "BASHOPTS",
    "BASH_ENV",
    "BUNDLE_GEMFILE",
    "CDPATH",
    "CLASSPATH",
    "CORECLR_ENABLE_PROFILING",
    "CORECLR_PROFILER",
    "CORECLR_PROFILER_PATH",
    "COR_ENABLE_PROFILING",
    "COR_PROFILER",
    "COR_PROFILER_PATH",
    "DOTNET_STARTUP_HOOKS",
    "EDITOR",
    "ELIXIR_ERL_OPTIONS",
    "ENV",
    "ERL_AFLAGS",
    "ERL_FLAGS",
    "ERL_LIBS",
    "ERL_ZFLAGS",
    "GCONV_PATH",
    "GETCONF_DIR",
    "GLOBIGNORE",
    "GNUMAKEFLAGS",
    "GOFLAGS",
    "GRADLE_OPTS",
    "IFS",
    "INIT_CWD",
    "JAVA_OPTS",
    "JAVA_TOOL_OPTIONS",
    "JDK_JAVA_OPTIONS",
    "JULIA_LOAD_PATH",
    "JULIA_PROJECT",
    "LESSCLOSE",
    "LESSOPEN",
    "LOCPATH",
    "LUA_CPATH",
    "LUA_INIT",
    "LUA_PATH",
    "MAKEFILES",
    "MAKEFLAGS",
    "MAVEN_ARGS",
    "MAVEN_OPTS",
    "MFLAGS",
    "MONO_ENV_OPTIONS",
    "NLSPATH",
    "NODE_OPTIONS",
    "NODE_PATH",
    "NODE_REPL_EXTERNAL_MODULE",
    "OCAMLRUNPARAM",
    "OLDPWD",
    "OPENSSL_CONF",
    "OPENSSL_ENGINES",
    "OPENSSL_MODULES",
    "PAGER",
    "PERL5DB",
    "PERL5LIB",
    "PERL5OPT",
    "PERLLIB",
    "PHPRC",
    "PHP_INI_SCAN_DIR",
    "POSIXLY_CORRECT",
    "PROMPT_COMMAND",
    "PS4",
    "PWD",
    "PYTHONBREAKPOINT",
    "PYTHONINSPECT",
    "PYTHONPATH",
    "PYTHONSTARTUP",
    "PYTHONWARNINGS",
    "RUBYLIB",
    "RUBYOPT",
    "RUSTC",
    "RUSTC_WORKSPACE_WRAPPER",
    "RUSTC_WRAPPER",
    "RUSTDOC",
    "R_ENVIRON",
    "R_PROFILE",
    "SBT_OPTS",
    "SHELLOPTS",
    "SSH_ASKPASS",
    "TCLLIBPATH",
    "VIMINIT",
    "VISUAL",
    "ZDOTDIR",
    "_JAVA_OPTIONS",
];
/// The same by how they begin: functions that a shell takes from its environment, the loaders', git's, and settings of build tools.
const BEGINNINGS: [&str; 12] = [
    "BASH_FUNC_",
    "CARGO_ALIAS_",
    "CARGO_BUILD_",
    "CARGO_REGISTRIES_",
    "CARGO_TARGET_",
    "DYLD_",
    "GIT_",
    "LD_",
    "LUA_CPATH_",
    "LUA_INIT_",
    "LUA_PATH_",
    "YARN_",
];
/// Lists of folders among them that a program may not start without: they keep the entries that lead nowhere near the project.
const LISTS: [&str; 3] = ["DYLD_FALLBACK_LIBRARY_PATH", "DYLD_LIBRARY_PATH", "LD_LIBRARY_PATH"];

/// Where a program is started, and with what in its environment.
#[derive(Debug, Clone)]
pub(crate) enum ExecEnv {
    /// As the person would in that folder, who agreed to it.
    Project(PathBuf),
    /// In a folder where nothing is, without what leads to the project.
    Isolated(Isolated),
}

/// A place and an environment without anything of a project.
#[derive(Debug, Clone)]
pub(crate) struct Isolated {
    folder: PathBuf,
    /// What is taken out of the environment, and what is put in its place.
    changes: Vec<(OsString, Option<OsString>)>,
}

impl Isolated {
    /// Where there is no project, or none to keep away from: for the system's own programs.
    pub(crate) fn of_the_system() -> Self {
        Self::new(system_root(), &std::env::var_os("PATH").unwrap_or_default(), &|_| false, None)
    }

    /// A folder to start in, and the environment of this process without what leads to places that are `inside` the project. The whole
    /// project is named where a variable that mentions it may be dropped, too.
    pub(crate) fn new(folder: PathBuf, path: &OsStr, inside: &dyn Fn(&Path) -> bool, project: Option<&Path>) -> Self {
        let mut changes: Vec<(OsString, Option<OsString>)> = Vec::new();
        for (name, value) in std::env::vars_os() {
            let plain = name.to_string_lossy().to_ascii_uppercase();
            if LISTS.contains(&plain.as_str()) {
                changes.push((name, Some(outside(&value, inside))));
            } else if plain == "PATH" {
                // It is set below.
            } else if UNSAFE_ENV_VARS.contains(&plain.as_str())
                || BEGINNINGS.iter().any(|beginning| plain.starts_with(beginning))
                || project.is_some_and(|project| mentions(&value, project))
            {
                changes.push((name, None));
            }
        }
        changes.push(("PATH".into(), Some(outside(path, inside))));
        changes.push(("PWD".into(), Some(folder.clone().into_os_string())));
        // Windows looks in the current folder first otherwise.
        #[cfg(windows)]
        changes.push(("NoDefaultCurrentDirectoryInExePath".into(), Some("1".into())));
        Self { folder, changes }
    }

    /// The folder.
    pub(crate) fn folder(&self) -> &Path {
        &self.folder
    }

    /// Whether a variable of this process is there for what is started.
    pub(crate) fn keeps(&self, name: &OsStr) -> bool {
        !self.changes.iter().any(|(changed, value)| changed == name && value.is_none())
    }

    fn apply(&self, command: &mut Command) {
        command.current_dir(&self.folder);
        for (name, value) in &self.changes {
            match value {
                Some(value) => command.env(name, value),
                None => command.env_remove(name),
            };
        }
    }
}

/// A folder of the system, which only the administrator may fill.
pub(crate) fn system_root() -> PathBuf {
    let windows = || std::env::var_os("SystemRoot").map_or_else(|| PathBuf::from("C:\\"), PathBuf::from);
    if cfg!(windows) { windows() } else { PathBuf::from("/") }
}

impl ExecEnv {
    pub(super) fn apply(&self, command: &mut Command) {
        match self {
            Self::Project(folder) => {
                command.current_dir(folder);
            }
            Self::Isolated(apart) => apart.apply(command),
        }
    }
}

/// A list of folders without what is relative, and without what leads into the project.
pub(crate) fn outside(list: &OsStr, inside: &dyn Fn(&Path) -> bool) -> OsString {
    let kept = std::env::split_paths(list).filter(|folder| {
        let real = folder.canonicalize();
        folder.is_absolute() && !inside(folder) && !real.is_ok_and(|real| inside(&real))
    });
    std::env::join_paths(kept).unwrap_or_default()
}

/// Whether a value names a place in the project, anywhere in it.
fn mentions(value: &OsStr, project: &Path) -> bool {
    let (value, project) = (value.to_string_lossy(), project.to_string_lossy());
    let ends = |rest: &str| rest.chars().next().is_none_or(|next| !next.is_alphanumeric() && !"-_.".contains(next));
    value.match_indices(&*project).any(|(at, _)| value.get(at + project.len()..).is_none_or(ends))
}

#[cfg(test)]
mod tests {
    use super::mentions;
    #[cfg(unix)]
    use super::{UNSAFE_ENV_VARS, outside};
    use rstest::rstest;
    use std::path::Path;

    #[test]
    #[cfg(unix)]
    fn lists_lose_what_is_relative_and_what_is_inside() {
        let inside = |path: &Path| path.starts_with("/work/radio");
        assert_eq!(outside("bin::/usr/bin:/work/radio/bin:.:/opt/x".as_ref(), &inside), "/usr/bin:/opt/x");
        assert!(UNSAFE_ENV_VARS.is_sorted());
    }

    #[rstest]
    #[case::an_option_with_a_path("-javaagent:/work/radio/a.jar", true)]
    #[case::the_folder_itself("/work/radio", true)]
    #[case::another_folder_that_begins_so("/work/radio-station", false)]
    #[case::something_else("/work", false)]
    fn a_variable_that_leads_to_the_project_is_seen(#[case] value: &str, #[case] leads: bool) {
        assert_eq!(mentions(value.as_ref(), Path::new("/work/radio")), leads);
    }
}
