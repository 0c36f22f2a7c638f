//! What lines for a shell install and start, read by their structure: joined lines, comments, quotes, what joins commands. Nothing is expanded and nothing is run.

use super::statement_sink::{StatementSink, is_name};
use setup_ready_core::manager::Manager;
use setup_ready_core::statement::{Confidence, Restriction};

/// A word of a command, with its line.
pub(super) type Word = (String, usize);

/// Programs with which builds are started: who calls one of them needs it.
const DRIVERS: [&str; 44] = [
    "ant",
    "autoconf",
    "automake",
    "autoreconf",
    "bazel",
    "bundle",
    "cabal",
    "cargo",
    "cc",
    "clang",
    "cmake",
    "composer",
    "ctest",
    "dotnet",
    "dune",
    "elixir",
    "gcc",
    "g++",
    "git-lfs",
    "go",
    "gradle",
    "java",
    "javac",
    "libtoolize",
    "make",
    "meson",
    "mix",
    "mvn",
    "ninja",
    "node",
    "npm",
    "opam",
    "php",
    "pnpm",
    "protoc",
    "python",
    "python3",
    "rake",
    "ruby",
    "rustc",
    "sbt",
    "scons",
    "stack",
    "yarn",
];

/// The simple commands of a text, each as its words.
pub(super) fn commands(text: &str, first_line: usize) -> Vec<Vec<Word>> {
    let mut reader = Reader::default();
    let mut heredoc: Option<String> = None;
    for (number, line) in (first_line..).zip(text.lines()) {
        if let Some(end) = &heredoc {
            if line.trim() == end {
                heredoc = None;
            }
            continue;
        }
        // A comment between the lines of one command belongs to neither.
        if line.trim_start().starts_with('#') && reader.quote.is_none() {
            continue;
        }
        reader.line(line, number);
        heredoc = reader.heredoc.take();
    }
    reader.end_command();
    reader.commands
}

#[derive(Default)]
struct Reader {
    commands: Vec<Vec<Word>>,
    words: Vec<Word>,
    word: Option<Word>,
    quote: Option<char>,
    heredoc: Option<String>,
    /// How deep in commands within commands it is.
    depth: usize,
}

/// So deep are commands within commands looked into.
const DEEPEST: usize = 8;

impl Reader {
    fn push(&mut self, c: char, line: usize) {
        self.word.get_or_insert_with(|| (String::new(), line)).0.push(c);
    }

    fn end_word(&mut self) {
        self.words.extend(self.word.take());
    }

    fn end_command(&mut self) {
        self.end_word();
        if !self.words.is_empty() {
            self.commands.push(std::mem::take(&mut self.words));
        }
    }

    fn line(&mut self, line: &str, number: usize) {
        let mut rest = line.chars().peekable();
        while let Some(c) = rest.next() {
            match (self.quote, c) {
                (Some(quote), c) if c == quote => self.quote = None,
                (Some('"') | None, '\\') => {
                    let Some(escaped) = rest.next() else {
                        // The line goes on.
                        if self.quote.is_none() {
                            self.end_word();
                        }
                        return;
                    };
                    self.push(escaped, number);
                }
                (None, '\'' | '"') => {
                    self.quote = Some(c);
                    self.word.get_or_insert_with(|| (String::new(), number));
                }
                (None, '#') if self.word.is_none() => break,
                (None, '<') if rest.peek() == Some(&'<') => {
                    let end: String = rest
                        .by_ref()
                        .skip(1)
                        .filter(|c| !matches!(c, '-' | '\'' | '"' | '\\'))
                        .take_while(|c| !c.is_whitespace())
                        .collect();
                    self.heredoc = (!end.is_empty() && !end.starts_with('<')).then_some(end);
                }
                (None, '$') if rest.peek() == Some(&'(') => {
                    // What is inside is a command of its own; what it gives is no word that is known.
                    rest.next();
                    self.push('$', number);
                    let (words, word) = (std::mem::take(&mut self.words), self.word.take());
                    let inner: String = balanced(&mut rest);
                    let mut within = Reader { depth: self.depth + 1, ..Reader::default() };
                    if within.depth <= DEEPEST {
                        within.line(&inner, number);
                        within.end_command();
                    }
                    self.commands.extend(within.commands);
                    (self.words, self.word) = (words, word);
                }
                (None, ';' | '|' | '&' | '(' | ')') => self.end_command(),
                // Within a word they belong to a variable or a pattern.
                (None, '{' | '}') if self.word.is_none() => self.end_command(),
                (None, '>' | '<') => {
                    // Where output goes is no argument.
                    self.end_word();
                    while rest.next_if(|c| matches!(c, '>' | '&' | ' ')).is_some() {}
                    while rest.next_if(|c| !c.is_whitespace() && !matches!(c, ';' | '|' | '&' | ')')).is_some() {}
                }
                (None, c) if c.is_whitespace() => self.end_word(),
                (_, c) => self.push(c, number),
            }
        }
        if self.quote.is_none() {
            self.end_command();
        } else {
            self.push('\n', number);
        }
    }
}

/// What stands up to the bracket that closes what was opened before.
fn balanced(rest: &mut std::iter::Peekable<std::str::Chars<'_>>) -> String {
    let (mut depth, mut inner) = (1, String::new());
    for c in rest.by_ref() {
        match c {
            '(' => depth += 1,
            ')' => depth -= 1,
            _ => {}
        }
        if depth == 0 {
            break;
        }
        inner.push(c);
    }
    inner
}

/// Words that stand before the program of a command.
const BEFORE: [&str; 22] = [
    "sudo", "doas", "exec", "env", "command", "time", "nice", "if", "then", "else", "elif", "while", "until", "do", "!", "-",
    "@", "nohup", "eval", "xvfb-run", "ccache", "run",
];

/// The program of a command, and its arguments.
pub(super) fn program(words: &[Word]) -> Option<(&Word, &[Word])> {
    let mut at = 0;
    loop {
        let (word, _) = words.get(at)?;
        let sets = word
            .split_once('=')
            .is_some_and(|(name, _)| !name.is_empty() && name.chars().all(|c| c.is_ascii_alphanumeric() || c == '_'));
        let option_of_before = at > 0 && word.starts_with('-') && word != "-";
        // `command -v` asks for a program, and starts none.
        if word == "command" && words.get(at + 1).is_some_and(|(next, _)| next == "-v" || next == "-V") {
            break;
        }
        if sets || BEFORE.contains(&word.as_str()) || option_of_before {
            at += 1;
        } else {
            break;
        }
    }
    let (first, rest) = words.get(at..)?.split_first()?;
    Some((first, rest))
}

/// Options that take the word behind them, of the managers.
const WITH_A_WORD: [&str; 14] = [
    "-t",
    "--virtual",
    "-o",
    "--option",
    "--target-release",
    "--repository",
    "-X",
    "--root",
    "--enablerepo",
    "--setopt",
    "--version",
    "--source",
    "-s",
    "--tap",
];

/// The packages that a command installs.
pub(super) fn installs(program: &str, arguments: &[Word]) -> Option<(Manager, Vec<Word>)> {
    // The word behind an option that takes one is no verb.
    let before = |at: usize| {
        at.checked_sub(1).and_then(|before| arguments.get(before)).is_some_and(|(word, _)| WITH_A_WORD.contains(&word.as_str()))
    };
    let position = arguments.iter().enumerate().position(|(at, (word, _))| !word.starts_with('-') && !before(at));
    let verb = position.and_then(|at| arguments.get(at)).map(|(word, _)| word.as_str());
    let manager = match program {
        "apt" | "apt-get" | "aptitude" | "apt-install" => Manager::Apt,
        "dnf" | "yum" | "microdnf" => Manager::Dnf,
        "zypper" => Manager::Zypper,
        "apk" => Manager::Apk,
        "brew" => Manager::Brew,
        "winget" => Manager::Winget,
        "choco" => Manager::Choco,
        "scoop" => Manager::Scoop,
        "port" => Manager::Port,
        "pacman" => Manager::Pacman,
        _ => return None,
    };
    let starts = if manager == Manager::Pacman {
        let flag = arguments.iter().map(|(word, _)| word.as_str()).find(|word| word.starts_with("-S"))?;
        if flag.contains(['s', 'i', 'c', 'l', 'g']) {
            return None;
        }
        0
    } else {
        let verbs: &[&str] = if manager == Manager::Apk { &["add"] } else { &["install", "in"] };
        if !verbs.contains(&verb?) {
            return None;
        }
        position? + 1
    };
    let mut packages = Vec::new();
    let mut rest = arguments.iter().skip(starts);
    while let Some((word, line)) = rest.next() {
        if WITH_A_WORD.contains(&word.as_str()) {
            rest.next();
        } else if !word.starts_with(['-', '.', '/', '@', '$']) && !word.contains(['$', '*', '{']) && !word.contains("://") {
            packages.push((word.clone(), *line));
        }
    }
    Some((manager, packages))
}

/// How a script is read.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Kind {
    /// What it does is done for every build: installs and drivers are used.
    Build,
    /// A container's: the same, but what it installs is needed wherever it is built.
    Container,
    /// Somebody wrote it for people, or to look around.
    Mention,
}

/// Says what a script installs and starts.
pub(super) fn script(said: &StatementSink, text: &str, line: usize, kind: Kind) {
    let firmness = if kind == Kind::Mention { Confidence::Mentioned } else { Confidence::Used };
    let all = commands(text, line);
    let mut own: Vec<&str> = Vec::new();
    for words in &all {
        let Some(((name, line), arguments)) = program(words) else { continue };
        let bare = name.rsplit('/').next().unwrap_or(name);
        if let Some((manager, packages)) = installs(bare, arguments) {
            let here = (kind == Kind::Build).then(|| manager.system().word());
            for (package, line) in &packages {
                said.only(here.map(|system| Restriction::When(system.to_owned())), || {
                    said.package(manager, package, firmness, *line);
                });
            }
        } else if let Some(asked) = asked_for(bare, arguments) {
            for (asked, line) in asked {
                said.tool(asked, Confidence::Mentioned, line);
            }
        } else if let Some(installed) = of_a_language(bare, arguments) {
            own.extend(installed);
            if DRIVERS.contains(&bare) && bare != "pip" {
                said.tool(bare, firmness, *line);
            }
        } else if DRIVERS.contains(&bare) && !name.contains('/') && !own.contains(&bare) {
            said.tool(bare, firmness, *line);
        }
    }
}

/// Whether this is a program with which builds are started.
pub(super) fn is_driver(name: &str) -> bool {
    DRIVERS.contains(&name)
}

/// The programs that a command only asks for.
pub(super) fn asked_for<'w>(program: &str, arguments: &'w [Word]) -> Option<Vec<(&'w str, usize)>> {
    match program {
        "command" | "which" | "type" | "hash" => {
            let names = arguments.iter().filter(|(word, _)| !word.starts_with('-') && is_name(word) && word != "2");
            Some(names.map(|(word, line)| (word.as_str(), *line)).collect())
        }
        _ => None,
    }
}

/// What the installer of a language brings: the script has it from there, and needs no other.
fn of_a_language<'w>(program: &str, arguments: &'w [Word]) -> Option<Vec<&'w str>> {
    let mut words = arguments.iter().map(|(word, _)| word.as_str()).filter(|word| !word.starts_with('-'));
    let installs = match program {
        "pip" | "pip3" | "pipx" | "gem" | "cargo" | "go" | "uv" => words.next() == Some("install"),
        "npm" | "pnpm" | "yarn" => matches!(words.next(), Some("install" | "i" | "add" | "global" | "ci")),
        "python" | "python3" => {
            let module =
                arguments.windows(3).any(|three| three.iter().map(|(word, _)| word.as_str()).eq(["-m", "pip", "install"]));
            module && words.by_ref().nth(1).is_some()
        }
        _ => false,
    };
    installs.then(|| words.map(|word| word.split(['=', '@', '[', '<', '>', '~']).next().unwrap_or(word)).collect())
}

#[cfg(test)]
mod tests {
    use super::{commands, installs, program};
    use rstest::rstest;

    #[rstest]
    #[case::joined_lines("a \\\n  b \\\n  # why\n  c && d", "1:a 2:b 4:c; 4:d")]
    #[case::quotes("echo \"apt install x; y\" 'z # q' # end", "1:echo 1:apt install x; y 1:z # q")]
    #[case::where_output_goes("a >/dev/null 2>&1 || b", "1:a 1:2; 1:b")]
    #[case::a_here_document("cat <<EOF\nsudo apt install x\nEOF\nb", "1:cat; 4:b")]
    #[case::inside_a_word("V=$(git describe --tags) make", "1:git 1:describe 1:--tags; 1:V=$ 1:make")]
    #[case::an_open_quote("a 'b", "1:a 1:b\n")]
    fn a_script_is_its_commands(#[case] text: &str, #[case] wanted: &str) {
        let told: Vec<String> = commands(text, 1)
            .iter()
            .map(|words| words.iter().map(|(word, line)| format!("{line}:{word}")).collect::<Vec<_>>().join(" "))
            .collect();
        assert_eq!(told.join("; "), wanted);
    }

    #[rstest]
    #[case::apt("sudo DEBIAN_FRONTEND=x apt-get -y -t stable install --no-install-recommends a b=1 ./c.deb $D", "apt a b=1")]
    #[case::apk("apk add --no-cache --virtual .deps gcc musl-dev", "apk gcc musl-dev")]
    #[case::pacman("pacman -Syu --noconfirm base-devel", "pacman base-devel")]
    #[case::only_a_search("pacman -Ss cmake", "")]
    #[case::only_an_update("apt-get update", "")]
    #[case::a_removal("apt-get remove install", "")]
    #[case::something_else("make install", "")]
    fn packages_of_an_install_line(#[case] line: &str, #[case] wanted: &str) {
        let all = commands(line, 1);
        let told = all.first().and_then(|words| program(words)).and_then(|((name, _), rest)| installs(name, rest)).map(
            |(manager, packages)| {
                let packages: Vec<String> = packages.into_iter().map(|(name, _)| name).collect();
                format!("{} {}", manager.word(), packages.join(" "))
            },
        );
        assert_eq!(told.unwrap_or_default(), wanted);
    }
}
