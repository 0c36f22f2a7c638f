use super::{Outcome, Program, StartupConfig, StartupTrace, follow};
use rstest::rstest;
use std::collections::HashMap;

/// Files at home, each with its text.
type Files = &'static [(&'static str, &'static str)];

/// A terminal of a desktop, and a sign-in: what a shell is started as.
const TERMINAL: (bool, bool) = (false, true);
const SIGN_IN: (bool, bool) = (true, true);
/// What a service or an editor starts.
const NOBODY: (bool, bool) = (false, false);

/// Debian's own beginning of `.bashrc`, and its `.profile`.
const DEBIAN: &str = "# ~/.bashrc: executed by bash(1) for non-login shells.\ncase $- in\n    *i*) ;;\n      *) return;;\nesac\n";
const PROFILE: &str = "if [ -n \"$BASH_VERSION\" ]; then\n    # include .bashrc if it exists\n    if [ -f \"$HOME/.bashrc\" ]; then\n\t. \"$HOME/.bashrc\"\n    fi\nfi\nif [ -d \"$HOME/bin\" ] ; then\n    PATH=\"$HOME/bin:$PATH\"\nfi\n";

fn trail(program: Program, (login, interactive): (bool, bool), home: &str, files: &HashMap<String, String>) -> StartupTrace {
    let text = |file: &str| files.get(file).cloned();
    let exists = |file: &str| files.contains_key(file) || files.keys().any(|one| one.starts_with(&format!("{file}/")));
    let environment = |_: &str| None;
    follow(StartupConfig { program, login, interactive, home, environment: &environment, text: &text, exists: &exists })
}

fn named(outcome: &Outcome<'_>, home: &str) -> String {
    let place = |place: &super::Place| format!("{}:{}", place.file.trim_start_matches(home).trim_start_matches('/'), place.line);
    match outcome {
        Outcome::Untouched => "untouched".to_owned(),
        Outcome::Given(at) => format!("given {}", place(at)),
        Outcome::Kept(at) => format!("kept {}", place(at)),
        Outcome::Gone(at) => format!("gone {}", place(at)),
    }
}

#[rstest]
#[case::exported("bash", TERMINAL, &[(".bashrc", "export SEA=north\n")], "given .bashrc:1")]
#[case::not_exported("bash", TERMINAL, &[(".bashrc", "\nSEA=north\n")], "kept .bashrc:2")]
#[case::exported_later("bash", TERMINAL, &[(".bashrc", "SEA=north\nexport SEA\n")], "given .bashrc:1")]
#[case::exported_before("bash", TERMINAL, &[(".bashrc", "export SEA\nSEA=north\n")], "given .bashrc:2")]
#[case::declared("bash", TERMINAL, &[(".bashrc", "declare -x SEA=north\n")], "given .bashrc:1")]
#[case::set_anew("bash", TERMINAL, &[(".bashrc", "export SEA=north\nexport SEA=south\n")], "given .bashrc:2")]
#[case::taken_away("bash", TERMINAL, &[(".bashrc", "export SEA=north\nunset SEA\n")], "gone .bashrc:2")]
#[case::in_another_file("bash", TERMINAL, &[(".bashrc", ". ~/.sea\n"), (".sea", "# first\nexport SEA=north\n")], "given .sea:2")]
#[case::sourced_in_quotes("bash", TERMINAL, &[(".bashrc", "source \"$HOME/.sea\"\n"), (".sea", "export SEA=north\n")], "given .sea:1")]
#[case::behind_what_is_only_for_people("bash", NOBODY, &[(".bashrc", "export SEA=north\n")], "untouched")]
#[case::a_terminal_reads_no_profile("bash", TERMINAL, &[(".profile", "export SEA=north\n")], "untouched")]
#[case::a_sign_in_does("bash", SIGN_IN, &[(".profile", "export SEA=north\n")], "given .profile:1")]
#[case::one_profile_hides_the_other("bash", SIGN_IN, &[(".bash_profile", "\n"), (".profile", "export SEA=north\n")], "untouched")]
#[case::a_sign_in_by_way_of_the_profile("bash", SIGN_IN, &[(".profile", PROFILE), (".bashrc", "export SEA=north\n")], "given .bashrc:1")]
#[case::a_sign_in_does_not_read_the_terminals_file("bash", SIGN_IN, &[(".bashrc", "export SEA=north\n")], "untouched")]
#[case::left_before("bash", TERMINAL, &[(".bashrc", "return\nexport SEA=north\n")], "untouched")]
#[case::left_for_who_is_not_at_it("bash", TERMINAL, &[(".bashrc", "[ -z \"$PS1\" ] && return\nexport SEA=north\n")], "given .bashrc:2")]
#[case::debians_own_beginning("bash", TERMINAL, &[(".bashrc", "case $- in\n    *i*) ;;\n      *) return;;\nesac\nexport SEA=north\n")], "given .bashrc:5")]
#[case::left_because_somebody_is_at_it("bash", TERMINAL, &[(".bashrc", "[[ $- == *i* ]] && return\nexport SEA=north\n")], "untouched")]
#[case::in_a_branch_that_is_taken("bash", TERMINAL, &[(".bashrc", "if [ -n \"$PS1\" ]; then\n  export SEA=north\nfi\n")], "given .bashrc:2")]
#[case::in_a_branch_that_is_not("bash", TERMINAL, &[(".bashrc", "if [ -z \"$PS1\" ]; then\n  export SEA=north\nfi\n")], "untouched")]
#[case::in_the_other_branch("bash", TERMINAL, &[(".bashrc", "if [ -d ~/nothing ]; then\n  :\nelse\n  export SEA=north\nfi\n")], "given .bashrc:4")]
#[case::in_a_function("bash", TERMINAL, &[(".bashrc", "sea() {\n  export SEA=north\n}\n")], "untouched")]
#[case::in_a_commands_own_environment("bash", TERMINAL, &[(".bashrc", "SEA=north true\n")], "untouched")]
#[case::in_brackets("bash", TERMINAL, &[(".bashrc", "( export SEA=north )\n")], "untouched")]
#[case::in_a_comment("bash", TERMINAL, &[(".bashrc", "# export SEA=north\n")], "untouched")]
#[case::on_a_line_that_goes_on("bash", TERMINAL, &[(".bashrc", "export \\\n  SEA=north\n")], "given .bashrc:1")]
#[case::a_file_that_is_not_there("bash", TERMINAL, &[(".bashrc", "[ -f ~/.sea ] && . ~/.sea\nexport SEA=north\n")], "given .bashrc:2")]
#[case::dash_at_a_sign_in("dash", SIGN_IN, &[(".profile", "export SEA=north\n")], "given .profile:1")]
#[case::dash_in_a_terminal("dash", TERMINAL, &[(".profile", "export SEA=north\n")], "untouched")]
#[case::dash_does_not_take_bashs_way("dash", SIGN_IN, &[(".profile", PROFILE), (".bashrc", "export SEA=north\n")], "untouched")]
#[case::mksh_in_a_terminal("mksh", TERMINAL, &[(".mkshrc", "export SEA=north\n")], "given .mkshrc:1")]
#[case::mksh_at_a_sign_in("mksh", SIGN_IN, &[(".profile", "SEA=north\n"), (".mkshrc", "export SEA\n")], "given .profile:1")]
#[case::zsh_in_a_terminal("zsh", TERMINAL, &[(".zshrc", "export SEA=north\n")], "given .zshrc:1")]
#[case::zsh_reads_no_profile("zsh", SIGN_IN, &[(".profile", "export SEA=north\n")], "untouched")]
#[case::zsh_always("zsh", NOBODY, &[(".zshenv", "export SEA=north\n")], "given .zshenv:1")]
#[case::zsh_set_anew("zsh", TERMINAL, &[(".zshenv", "export SEA=north\n"), (".zshrc", "SEA=south\n")], "given .zshrc:1")]
#[case::zsh_at_a_sign_in("zsh", SIGN_IN, &[(".zprofile", "typeset -x SEA=north\n")], "given .zprofile:1")]
#[case::fish("fish", TERMINAL, &[(".config/fish/config.fish", "set -gx SEA north\n")], "given .config/fish/config.fish:1")]
#[case::fish_not_exported("fish", TERMINAL, &[(".config/fish/config.fish", "set -g SEA north\n")], "kept .config/fish/config.fish:1")]
#[case::fish_for_people("fish", NOBODY, &[(".config/fish/config.fish", "if status is-interactive\n  set -gx SEA north\nend\n")], "untouched")]
#[case::fish_taken_away("fish", TERMINAL, &[(".config/fish/config.fish", "set -gx SEA north\nset -e SEA\n")], "gone .config/fish/config.fish:2")]
#[case::fish_as_others_write_it("fish", TERMINAL, &[(".config/fish/config.fish", "export SEA=north\n")], "given .config/fish/config.fish:1")]
#[case::fish_reads_no_profile("fish", SIGN_IN, &[(".profile", "export SEA=north\n")], "untouched")]
#[case::tcsh("tcsh", TERMINAL, &[(".cshrc", "setenv SEA north\n")], "given .cshrc:1")]
#[case::tcsh_not_exported("tcsh", TERMINAL, &[(".cshrc", "set SEA=north\n")], "kept .cshrc:1")]
#[case::tcsh_has_another_file("tcsh", TERMINAL, &[(".tcshrc", "\n"), (".cshrc", "setenv SEA north\n")], "untouched")]
#[case::tcsh_at_a_sign_in("tcsh", SIGN_IN, &[(".cshrc", "\n"), (".login", "setenv SEA north\n")], "given .login:1")]
#[case::tcsh_in_a_terminal_only("tcsh", TERMINAL, &[(".login", "setenv SEA north\n")], "untouched")]
#[case::tcsh_left_where_nobody_is_at_it("tcsh", NOBODY, &[(".cshrc", "if (! $?prompt) exit\nsetenv SEA north\n")], "untouched")]
#[case::tcsh_reads_no_profile("tcsh", SIGN_IN, &[(".profile", "export SEA=north\n")], "untouched")]
fn a_variable_comes_out_of_a_start(#[case] shell: &str, #[case] how: (bool, bool), #[case] files: Files, #[case] expected: &str) {
    let home = tempfile::tempdir().unwrap();
    let at = home.path().to_str().unwrap();
    let texts = files.iter().map(|(file, text)| (format!("{at}/{file}"), (*text).to_owned())).collect();
    let found = trail(Program::of(shell).unwrap(), how, at, &texts);
    assert_eq!(named(&found.outcome("SEA", false), at), expected, "{found:?}");
    // The shell itself, where it is here, gives it to programs or does not.
    #[cfg(unix)]
    if let Some(given) = by_the_shell_itself(shell, how, home.path(), files) {
        assert_eq!(given, expected.starts_with("given"), "{shell} itself");
    }
}

/// Whether programs that a real shell starts have the variable; none where that shell is not here.
#[cfg(unix)]
fn by_the_shell_itself(shell: &str, (login, interactive): (bool, bool), home: &std::path::Path, files: Files) -> Option<bool> {
    use std::process::{Command, Stdio};
    let mut places = ["/bin", "/usr/bin"].iter().map(|folder| format!("{folder}/{shell}"));
    let program = places.find(|path| std::path::Path::new(path).exists());
    // A build server has them all.
    assert!(program.is_some() || std::env::var_os("CI").is_none(), "{shell} is not here");
    let program = program?;
    for (file, text) in files {
        let path = home.join(file);
        std::fs::create_dir_all(path.parent()?).ok()?;
        std::fs::write(path, text).ok()?;
    }
    let mut command = Command::new(program);
    if login {
        // tcsh takes that option only alone; a name with a hyphen means the same to all.
        std::os::unix::process::CommandExt::arg0(&mut command, format!("-{shell}"));
    }
    if interactive {
        command.arg("-i");
    }
    command.args(["-c", "printenv SEA"]);
    command.env_clear().env("HOME", home).env("PATH", "/usr/bin:/bin").env("TERM", "dumb").current_dir(home);
    let output = command.stdin(Stdio::null()).stderr(Stdio::null()).output().ok()?;
    Some(String::from_utf8_lossy(&output.stdout).lines().any(|line| line == "north" || line == "south"))
}

#[rstest]
#[case::where_a_file_is_left(DEBIAN, NOBODY, 0)]
#[case::a_loop_that_is_never_closed("while true; do\nexport SEA=1\n", TERMINAL, 0)]
#[case::words_that_close_nothing("fi\ndone\nesac\n}\n)\nexport SEA=1\n", TERMINAL, 1)]
#[case::brackets_without_end("((((((((", TERMINAL, 0)]
#[case::a_quotation_mark_without_end("export SEA=\"north\n", TERMINAL, 1)]
fn what_is_not_whole_is_read_all_the_same(#[case] text: &str, #[case] how: (bool, bool), #[case] deeds: usize) {
    let files = HashMap::from([("/h/.bashrc".to_owned(), text.to_owned())]);
    let found = trail(Program::Bash, how, "/h", &files);
    assert_eq!(
        found.deeds.iter().filter(|deed| deed.sure && matches!(deed.what, super::Effect::Set(_))).count(),
        deeds,
        "{found:?}"
    );
}

#[test]
fn files_that_read_each_other_come_to_an_end() {
    let files = HashMap::from([("/h/.bashrc".to_owned(), ". ~/.bashrc\n".repeat(100) + "export SEA=1\n")]);
    let found = trail(Program::Bash, TERMINAL, "/h", &files);
    assert!(found.files.len() <= 60 && !found.deeds.is_empty());
    let deep =
        HashMap::from([("/h/.bashrc".to_owned(), "if true; then\n".repeat(5_000) + "export SEA=1\n" + &"(".repeat(5_000))]);
    assert!(trail(Program::Bash, TERMINAL, "/h", &deep).files.len() == 1);
}

proptest::proptest! {
    #[test]
    fn no_text_makes_it_panic(text in "(if|then|fi|case|esac|in|;;|do|done|\\{|\\}|\\(|\\)|;|&&|\\||export A=1|\\. ~/.bashrc|return|\"|'|\\$\\{A|`|\\\\|\n| |\\PC){0,60}", shell in 0..5_usize) {
        let shell = [Program::Bash, Program::Posix, Program::Zsh, Program::Fish, Program::Csh][shell];
        let name = [".bashrc", ".profile", ".zshrc", ".config/fish/config.fish", ".cshrc"];
        let files = name.iter().map(|name| (format!("/h/{name}"), text.clone())).collect();
        let _ = trail(shell, SIGN_IN, "/h", &files);
    }
}
