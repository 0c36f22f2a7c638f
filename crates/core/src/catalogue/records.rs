//! Where the installation of a tool states its version, so that the tool need not be started: when that is certain, and what undoes it.
//!
//! Only tools that are slow to start are here, and only those for which what is read and what the tool says were the same on real installations
//! (`tools/read-against-said`). Not here, because they differ: `cargo` by its toolchain's list, `psql` by the package of its wrapper, Go programs by what was
//! noted when they were built, `serve` (its package was built from another version), `scons` (it says more), `pygmentize` (it does not know the question).

/// One place that states the version of a tool.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Record {
    /// The program.
    pub tool: &'static str,
    /// What states it.
    pub source: Source,
    /// Variables any of which makes it uncertain; with `*` at the end all that begin so.
    pub variables: &'static [&'static str],
    /// Files any of which makes it uncertain: below the home folder (`~/`), at the root, or by name alone in the folder where programs are asked and those above.
    pub files: &'static [&'static str],
}

/// What states the version of a tool.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Source {
    /// `release` in the folder above the program's (JEP 223, and the kits before it): `JAVA_VERSION`, where it is no trial release.
    JavaKit,
    /// `package.json` of this package, above the file that the program's link leads to (its `version`, `bin`, `engines`, `dependencies`).
    NodePackage(&'static str),
    /// The notes of this distribution among the packages of the script's own interpreter (the core metadata of Python packages).
    PythonDistribution(&'static str),
    /// The one library of this name, with a version behind it, in `lib` beside the program's folder; it runs on Java.
    JavaLibrary(&'static str),
    /// Debian's package of this name, whose file is unchanged; it runs on Java where that is said.
    Package {
        /// Its name.
        name: &'static str,
        /// Whether the program is a script that starts Java.
        on_java: bool,
    },
}

const fn java_kit(tool: &'static str) -> Record {
    Record { tool, source: Source::JavaKit, variables: &[], files: &[] }
}

const fn node(tool: &'static str, package: &'static str) -> Record {
    Record { tool, source: Source::NodePackage(package), variables: &[], files: &[] }
}

const fn node_with(tool: &'static str, variables: &'static [&'static str], files: &'static [&'static str]) -> Record {
    Record { tool, source: Source::NodePackage(tool), variables, files }
}

const fn python(tool: &'static str, distribution: &'static str) -> Record {
    Record { tool, source: Source::PythonDistribution(distribution), variables: PYTHON, files: &[] }
}

const fn package(tool: &'static str, name: &'static str) -> Record {
    Record { tool, source: Source::Package { name, on_java: false }, variables: &[], files: &[] }
}

/// What leads an interpreter to other libraries than its own, and is not taken out of its environment.
const PYTHON: &[&str] = &["PYTHONHOME", "PYTHONUSERBASE", "PYTHONPLATLIBDIR"];
const NPM: &[&str] = &["npm_config_*", "NPM_CONFIG_*"];
const MAVEN: (&[&str], &[&str]) = (&["M2_HOME", "MAVEN_*"], &["~/.mavenrc", "/etc/mavenrc", "/usr/local/etc/mavenrc", ".mvn"]);
const GRADLE: (&[&str], &[&str]) = (&["GRADLE_*"], &["~/.gradle/init.d", "/etc/gradle"]);

/// All of them, sorted by tool; of several for one tool the first that answers counts.
#[rustfmt::skip]
const RECORDS: &[Record] = &[
    Record { tool: "ant", source: Source::Package { name: "ant", on_java: true }, variables: &["ANT_*"], files: &["~/.ant/ant.conf", "~/.antrc"] },
    python("bandit", "bandit"),
    python("black", "black"),
    python("codespell", "codespell"),
    python("coverage", "coverage"),
    python("cython", "cython"),
    python("cython3", "cython"),
    node("eslint", "eslint"),
    python("flake8", "flake8"),
    python("gcovr", "gcovr"),
    package("gdb", "gdb"),
    package("gdb-multiarch", "gdb-multiarch"),
    Record { tool: "gradle", source: Source::JavaLibrary("gradle-launcher"), variables: GRADLE.0, files: GRADLE.1 },
    Record { tool: "gradle", source: Source::Package { name: "gradle", on_java: true }, variables: GRADLE.0, files: GRADLE.1 },
    python("gunicorn", "gunicorn"),
    python("hatch", "hatch"),
    python("http", "httpie"),
    node("http-server", "http-server"),
    python("ipython", "ipython"),
    python("isort", "isort"),
    java_kit("java"),
    java_kit("javac"),
    node("lessc", "less"),
    node("markdownlint", "markdownlint-cli"),
    python("meson", "meson"),
    python("mkdocs", "mkdocs"),
    node("mocha", "mocha"),
    Record { tool: "mvn", source: Source::JavaLibrary("maven-core"), variables: MAVEN.0, files: MAVEN.1 },
    Record { tool: "mvn", source: Source::Package { name: "maven", on_java: true }, variables: MAVEN.0, files: MAVEN.1 },
    python("mypy", "mypy"),
    node("nodemon", "nodemon"),
    node_with("npm", NPM, &[]),
    Record { tool: "npx", source: Source::NodePackage("npm"), variables: NPM, files: &[] },
    python("pip", "pip"),
    python("pip-compile", "pip-tools"),
    python("pip3", "pip"),
    python("pipx", "pipx"),
    node_with("pnpm", NPM, &["package.json", "pnpm-workspace.yaml", "~/.npmrc", "~/.config/pnpm/rc"]),
    python("pre-commit", "pre-commit"),
    node("prettier", "prettier"),
    python("pyflakes", "pyflakes"),
    python("pyinstaller", "pyinstaller"),
    python("pylint", "pylint"),
    python("pytest", "pytest"),
    node("rollup", "rollup"),
    python("rst2html", "docutils"),
    node("sass", "sass"),
    python("sphinx-build", "sphinx"),
    python("supervisord", "supervisor"),
    node("svgo", "svgo"),
    python("towncrier", "towncrier"),
    node("tsc", "typescript"),
    python("twine", "twine"),
    node("uglifyjs", "uglify-js"),
    python("virtualenv", "virtualenv"),
    python("yamllint", "yamllint"),
    node_with("yarn", NPM, &["package.json", ".yarnrc", ".yarnrc.yml", "~/.yarnrc", "~/.yarnrc.yml"]),
];

/// Where the installation of a tool of just this name may state its version, in the order in which it is looked for.
pub fn records(tool: &str) -> &'static [Record] {
    let from = RECORDS.partition_point(|record| record.tool < tool);
    let to = RECORDS.partition_point(|record| record.tool <= tool);
    RECORDS.get(from..to).unwrap_or_default()
}

#[cfg(test)]
mod tests {
    use super::{RECORDS, records};
    use rstest::rstest;

    #[rstest]
    #[case::with_two("mvn", 2)]
    #[case::with_one("pip3", 1)]
    #[case::that_is_started("psql", 0)]
    #[case::that_only_begins_so("np", 0)]
    fn a_tool_has_its_own_records(#[case] tool: &str, #[case] count: usize) {
        assert!(RECORDS.is_sorted_by_key(|record| record.tool));
        assert_eq!(records(tool).len(), count);
        assert!(records(tool).iter().all(|record| record.tool == tool));
    }
}
