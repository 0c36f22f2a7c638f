//! What the script runs is what the plan shows, whatever a stranger wrote into a guide.

use build_setup_ready::{Described, Preflight, write};
use proptest::prelude::*;
use setup_ready_core::fix::{Shell, quote};
use setup_ready_core::guide;
use setup_ready_core::report::Report;
use setup_ready_core::text::Sanitised;

const MACHINE: &str = "format = 1\n[machine]\nname = \"m\"\nproject = \"/home/mate/lure\"\n[system]\nos = \"linux\"\nversion = \"6.1.0\"\ndistro = \"debian\"\narch = \"x86_64\"\n
managers = [\"apt\"]\n[user]\nname = \"mate\"\nshell = \"bash\"\nstartup_file = \"~/.bashrc\"\nadmin = false\nelevate = \"sudo\"\ngroups = [\"mate\"]\ndatabase_groups = [\"mate\"]\n";

/// A text as TOML has it.
fn quoted(text: &str) -> String {
    let escaped: String = text
        .chars()
        .map(|c| if c.is_ascii_alphanumeric() || c == ' ' { c.to_string() } else { format!("\\U{:08X}", c as u32) })
        .collect();
    format!("\"{escaped}\"")
}

fn report(texts: &[String; 8]) -> Option<Report> {
    let [title, why, say, run, path, caution, group, variable] = texts.each_ref().map(|text| quoted(text));
    let source = format!(
        "format = 1\n[project]\nname = {title}\n[require.a]\ntool = \"lure\"\ntitle = {title}\nwhy = {why}\n[[require.a.fix]]\nsay = {say}\nrun = [{run}, \"true\"]\ncaution = {caution}\n
         [require.b]\nfolder = {path}\n[require.c]\ngroup = {group}\n[require.d]\nvariable = \"LURE\"\nenv_file = {variable}\n[require.e]\nfile = {path}\nmode = \"600\"\n"
    );
    let guide = guide::parse(&source).ok()?;
    Preflight::new(&guide).run(&Described::parse(MACHINE).unwrap()).ok()
}

/// The lines of a script that a shell carries out: its frame, and the rest.
fn carried_out(script: &str) -> Vec<&str> {
    // How steps are told is said before them, and is the same in every script.
    let end = "\nat=''\nif [";
    let script = &script[script.find("\n# 1. ").or_else(|| script.find(end)).unwrap_or_default()..];
    let frame = ["(", ")", "at=''", "echo 'Nothing is to be done that the software knows of.'", ""];
    let is_frame = |line: &&str| {
        frame.contains(line)
            || ["#", "if [ -n \"$left\" ]; then printf", "printf '%s\\n' 'Now "].iter().any(|start| line.starts_with(start))
    };
    script.lines().filter(|line| !is_frame(line)).collect()
}

/// Whether nothing of a line stands outside single quotes but spaces, plain words, and quotes that are escaped.
fn is_words_alone(line: &str) -> bool {
    let line = line.replace("'\\''", "");
    let outside: String = line.split('\'').step_by(2).collect();
    line.matches('\'').count().is_multiple_of(2)
        && outside.chars().all(|c| c == ' ' || c.is_ascii_alphanumeric() || "-_./:,=+@%".contains(c))
}

fn text() -> impl Strategy<Value = String> {
    prop_oneof![
        "[a-z ./'\"$`(){}<>|&;#~*\\\\-]{1,24}",
        "\\PC{1,12}",
        "(echo|touch|mkdir -p|cat) [a-z'\"$(){}#\\\\<]{0,12}",
        "[\\x00-\\x1f a-z\\u{200b}-\\u{2030}\\u{e000}]{1,10}",
    ]
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(400))]
    #[test]
    fn the_script_runs_what_the_plan_shows(texts in [text(), text(), text(), text(), text(), text(), text(), text()]) {
        let Some(report) = report(&texts) else { return Ok(()) };
        let mut script = Vec::new();
        write::plan_sh(&report, &write::Invocations::default(), &mut script).unwrap();
        let script = String::from_utf8(script).unwrap();
        // Whatever a step shows to be typed is shown as it is.
        let commands: Vec<&String> = report.plan.steps.iter().flat_map(|step| &step.fix.run).collect();
        for command in &commands {
            prop_assert_eq!(&Sanitised::command(command).to_string(), *command);
        }
        // What is carried out was shown, in that order, or is a line that is added to a file.
        let mut shown = commands.iter();
        for line in carried_out(&script) {
            let added = line.strip_prefix("add_lines ").is_some_and(|rest| is_words_alone(rest.strip_prefix("\"$HOME\"").unwrap_or(rest)));
            let told = ["ask_person ", "say_step "].iter().any(|what| line.strip_prefix(what).is_some_and(is_words_alone));
            prop_assert!(added || told || shown.any(|command| *command == line || format!("eval {}", quote(command, Shell::Posix)) == line), "{}\n{}", line, script);
        }
        // And a shell reads it so, too.
        #[cfg(unix)]
        prop_assert!(is_read_by_a_shell(&script), "{}", script);
    }
}

/// Whether a shell takes the script for one, whole.
#[cfg(unix)]
fn is_read_by_a_shell(script: &str) -> bool {
    use std::io::Write;
    use std::process::{Command, Stdio};
    let mut shell = Command::new("sh").arg("-n").stdin(Stdio::piped()).stderr(Stdio::null()).spawn().unwrap();
    shell.stdin.take().unwrap().write_all(script.as_bytes()).unwrap();
    shell.wait().unwrap().success()
}
