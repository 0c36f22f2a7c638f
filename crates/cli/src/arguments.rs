//! The command line as it is typed. Reading it touches nothing.

mod maintainer;

pub(crate) use maintainer::*;

use clap::{Args, CommandFactory, Parser, Subcommand, ValueEnum};
use setup_ready_core::text::{Sanitised, parse_duration};
use std::io::Write;
use std::path::PathBuf;
use std::process::ExitCode;
use std::time::Duration;

/// Checks whether this machine is ready to build a project, explains what is missing, and says what to do about it.
#[derive(Debug, Parser)]
#[command(name = "setup-ready", bin_name = "setup-ready", version, max_term_width = 100, after_help = TOP_EXAMPLES)]
pub(crate) struct Typed {
    #[command(flatten)]
    pub(crate) shown: Shown,
    #[command(subcommand)]
    pub(crate) command: Command,
}

const TOP_EXAMPLES: &str = "Examples:
  setup-ready demo                      see what it does, on made-up machines
  setup-ready preflight                 check this machine
  setup-ready explain tool-too-old      what a word in a report means

Exit status:
  0 ready, or all that was asked for is met
  1 not ready   2 wrong use, or a mistake in the guide
  3 undecided: nothing needed is missing, but something is unknown, was left out, or remains in another place
  4 the software failed   130 interrupted";

/// How results are shown; these go with every command.
#[derive(Debug, Clone, Args)]
#[command(next_help_heading = "With every command")]
pub(crate) struct Shown {
    /// The guide to use; otherwise setup-guide.toml in this folder or one above it
    #[arg(long, global = true, value_name = "FILE")]
    pub(crate) guide: Option<PathBuf>,
    /// Use a guide that belongs to this user; otherwise it must be your own, or the administrator's
    #[arg(long, global = true, value_name = "USER")]
    pub(crate) guide_owner: Option<String>,
    /// Write the result to a file; - is standard output, where it goes otherwise
    #[arg(long, global = true, value_name = "FILE")]
    pub(crate) output: Option<PathBuf>,
    // Not a doc comment: its backticks would be shown.
    #[arg(
        long,
        global = true,
        value_name = "WHEN",
        default_value = "auto",
        help = "When to use colour; the variable NO_COLOR switches it off too"
    )]
    pub(crate) color: Color,
    /// Plain ASCII, nothing that moves
    #[arg(long, global = true)]
    pub(crate) plain: bool,
    /// Only the last line of a report
    #[arg(short, long, global = true, conflicts_with = "verbose")]
    pub(crate) quiet: bool,
    /// Everything that was looked at, also for what is met
    #[arg(short, long, global = true)]
    pub(crate) verbose: bool,
}

/// When to use colour.
#[derive(Debug, Clone, Copy, PartialEq, Eq, ValueEnum)]
pub(crate) enum Color {
    Auto,
    Always,
    Never,
}

#[derive(Debug, Subcommand)]
pub(crate) enum Command {
    /// Check a machine against the guide, explain each failure, and plan what to do
    Preflight(Preflight),
    /// Get ready stage by stage: what is missing, what to do, checked again until it is met
    Walk(Walk),
    /// Only the plan: what to do on this machine; also as a script to read before running
    Plan(Plan),
    /// Write what was observed to a file, without what is private, for somebody else to look at
    Record(Record),
    /// Everything about one requirement, or the page of a cause or a rule; alone, the list of all
    Explain(Explain),
    /// For maintainers: write a first guide from what the repository says
    Draft(Draft),
    /// For maintainers: read the guide as its strictest reader, and correct what is certain
    Proofread(Proofread),
    /// For maintainers: try the guide on described machines, or in each way in which newcomers can fail
    Rehearse(Rehearse),
    /// For maintainers: the guide for people (Markdown, a page), or as a script that checks without this software
    Render(Render),
    /// For maintainers: follow a build, and say what of this machine it used that the guide does not name
    Witness(Witness),
    /// For maintainers: machines beside each other, where their verdicts differ and what decides it
    Compare(Compare),
    /// For maintainers: many reports together, what stops most people, which versions are out there
    Survey(Survey),
    /// For maintainers: the JSON Schema of a guide, a described machine, a report or a recording, for editors
    #[command(after_help = "Example:\n  setup-ready schema guide --output guide.schema.json")]
    Schema {
        /// Of what
        #[arg(value_name = "WHAT")]
        what: SchemaOf,
    },
    /// A tour with a made-up project: four newcomers' machines, its maintainer's desk, a class of thirty; your own is not looked at
    Demo(Demo),
    /// Completion for your shell, on standard output
    #[command(after_help = "Example:\n  setup-ready completions bash > ~/.local/share/bash-completion/completions/setup-ready")]
    Completions {
        /// The shell
        shell: clap_complete::Shell,
    },
    /// The manual page of the program, or of one command, on standard output
    #[command(
        after_help = "Examples:\n  setup-ready manual | man -l -\n  setup-ready manual preflight --output setup-ready-preflight.1"
    )]
    Manual {
        /// The command; otherwise the page of the whole program
        #[arg(value_name = "COMMAND")]
        command: Option<String>,
    },
}

/// The formats of a report.
#[derive(Debug, Clone, Copy, PartialEq, Eq, ValueEnum)]
pub(crate) enum Format {
    /// For people, here
    Text,
    /// For programs
    Json,
    /// To paste into a question: short, without what is private
    Markdown,
    /// A page of its own, without what is private
    Html,
    /// For build servers: a suite for each stage
    Junit,
    /// For whatever reads the Test Anything Protocol
    Tap,
    /// For code hosts: failures at the guide's lines
    Sarif,
}

/// A format, and the file that it is written to.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(crate) struct Also {
    pub(crate) format: Format,
    pub(crate) file: PathBuf,
}

fn also(text: &str) -> Result<Also, String> {
    let (format, file) = text
        .split_once('=')
        .filter(|(_, file)| !file.is_empty())
        .ok_or("write the format and the file, such as junit=report.xml")?;
    Ok(Also { format: Format::from_str(format, false)?, file: PathBuf::from(file) })
}

#[derive(Debug, Args)]
#[command(
    next_help_heading = "What is checked, and how",
    after_help = "Examples:
  setup-ready preflight --role firmware
  setup-ready preflight --only cmake,ninja
  setup-ready preflight --again                        after you have done what it said
  setup-ready preflight --watch                        stays, and looks again whenever something changes
  setup-ready preflight --format markdown              to paste into a question, without what is private
  setup-ready preflight --format json --output report.json
  setup-ready preflight --also json=report.json        both; more forms are in the list below
  setup-ready preflight --machine machines/old-laptop.toml"
)]
pub(crate) struct Preflight {
    #[command(flatten)]
    pub(crate) check: Check,
    /// The form of the result
    #[arg(long, value_name = "FORMAT", default_value = "text")]
    pub(crate) format: Format,
    /// Write it to a file in another form, too; may stand several times
    #[arg(long, value_name = "FORMAT=FILE", value_parser = also)]
    pub(crate) also: Vec<Also>,
    /// In markdown and html: leave names of people and machines, addresses and tokens as they are
    #[arg(long)]
    pub(crate) with_names: bool,
    /// In json: a random word by which reports of this machine can be told to be of one
    #[arg(long)]
    pub(crate) id: bool,
    /// Check again when something changes or Enter is pressed, until this machine is ready
    #[arg(long)]
    pub(crate) watch: bool,
}

#[derive(Debug, Args)]
#[command(
    next_help_heading = "What is walked through, and how",
    after_help = "Examples:
  setup-ready walk                      goes on where you left it
  setup-ready walk --anew               from the first stage
  setup-ready walk --role firmware

At each stop, type:
  Enter     after you have done, in another window, what it says: it is
            looked at again, with the guide as it is then
  explain   everything about what is open; or explain and the name of one
  skip      go on without it; it is looked at once more at the end
  quit      stop here; the next walk goes on from this stage"
)]
pub(crate) struct Walk {
    #[command(flatten)]
    pub(crate) how: How,
    /// From the first stage, even where an earlier walk came further
    #[arg(long)]
    pub(crate) anew: bool,
}

/// The forms of a plan.
#[derive(Debug, Clone, Copy, PartialEq, Eq, ValueEnum)]
pub(crate) enum PlanFormat {
    Text,
    Json,
    Markdown,
    Sh,
    Powershell,
}

#[derive(Debug, Args)]
#[command(
    next_help_heading = "What is planned for, and how",
    after_help = "Examples:
  setup-ready plan --role shore
  setup-ready plan --format sh --output steps.sh       read it, then run it: sh steps.sh
  setup-ready plan --format powershell --output steps.ps1
  setup-ready plan --format markdown                   to paste into a question"
)]
pub(crate) struct Plan {
    #[command(flatten)]
    pub(crate) check: Check,
    /// The form of the plan: text or markdown for people, json for programs, sh or powershell as a commented script
    #[arg(long, value_name = "FORMAT", default_value = "text")]
    pub(crate) format: PlanFormat,
}

#[derive(Debug, Args)]
#[command(
    next_help_heading = "What is recorded, and how",
    after_help = "Examples:
  setup-ready record                    shows what it would write, and asks
  setup-ready record --role firmware --yes --output mine.recording.json
  setup-ready preflight --machine mine.recording.json      what it comes to, on any machine

Names, home folders, hosts, addresses and tokens are replaced, the same one by the same word everywhere.

Exit status: 0 written, 1 left, 2 wrong use or a mistake in the guide."
)]
pub(crate) struct Record {
    #[command(flatten)]
    pub(crate) check: Check,
    /// Write it without asking
    #[arg(long)]
    pub(crate) yes: bool,
    /// Put in a random word by which recordings of this machine can be told to be of one
    #[arg(long)]
    pub(crate) id: bool,
}

/// What is checked, and how.
#[derive(Debug, Clone, Args)]
pub(crate) struct Check {
    #[command(flatten)]
    pub(crate) how: How,
    /// Only these requirements, and what they wait for
    #[arg(long, value_name = "ID", value_delimiter = ',')]
    pub(crate) only: Vec<String>,
    /// Only this stage of the guide, and what it waits for
    #[arg(long, value_name = "ID")]
    pub(crate) stage: Option<String>,
    /// Also what can only be checked while the project is running
    #[arg(long)]
    pub(crate) after_start: bool,
    /// Only what was not met last time, and what waits for it
    #[arg(long, conflicts_with_all = ["only", "stage"])]
    pub(crate) again: bool,
}

/// How it is checked, and for whom.
#[derive(Debug, Clone, Args)]
pub(crate) struct How {
    /// What sort of contributor you are; the guide names the roles
    #[arg(long, value_name = "ROLE")]
    pub(crate) role: Option<String>,
    /// Leave out what needs the network, and say so
    #[arg(long)]
    pub(crate) offline: bool,
    /// Run what the guide asks for beyond a program's version, without asking; read the guide first
    #[arg(long)]
    pub(crate) allow_commands: bool,
    /// Start every tool to ask its version, also where its own files state it
    #[arg(long)]
    pub(crate) start_all: bool,
    /// A described machine, or a recording (.json), to check instead of this one
    #[arg(long, value_name = "FILE")]
    pub(crate) machine: Option<PathBuf>,
    /// In which place of the guide this is, such as a Linux inside Windows; otherwise it is found out
    #[arg(long, value_name = "ID")]
    pub(crate) place: Option<String>,
    /// A report in JSON that was made in another place of the guide, to be taken along
    #[arg(long, value_name = "ID=FILE")]
    pub(crate) with: Vec<String>,
    /// How many things to look at at once
    #[arg(long, value_name = "N", value_parser = clap::value_parser!(u16).range(1..=256))]
    pub(crate) jobs: Option<u16>,
    /// How long each program that is started may run, for example 30s or 2min
    #[arg(long, value_name = "TIME", value_parser = time_limit, default_value = "10s")]
    pub(crate) time_limit: Duration,
}

impl How {
    /// Whether the machine is one that was recorded: then it is known for whom.
    pub(crate) fn is_recorded(&self) -> bool {
        let end = self.machine.as_deref().and_then(std::path::Path::extension);
        end.is_some_and(|end| end.eq_ignore_ascii_case("json"))
    }
}

fn time_limit(text: &str) -> Result<Duration, String> {
    let limit = Duration::from_millis(parse_duration(text).map_err(|error| error.to_string())?);
    let sensible = Duration::from_millis(100)..=Duration::from_secs(3600);
    if sensible.contains(&limit) { Ok(limit) } else { Err("a time limit lies between 100ms and 1h".to_owned()) }
}

#[derive(Debug, Args)]
#[command(
    next_help_heading = "What is explained",
    after_help = "Examples:
  setup-ready explain                   the requirements of the guide, and all causes
  setup-ready explain cmake             one requirement, looked at now
  setup-ready explain tool-shadowed     the page of a cause
  setup-ready explain pin-exceeded      the page of a rule of proofreading"
)]
pub(crate) struct Explain {
    /// A requirement of the guide, a cause, or a rule of proofreading
    #[arg(value_name = "ID-OR-CAUSE")]
    pub(crate) word: Option<String>,
    /// A described machine to look at instead of this one
    #[arg(long, value_name = "FILE")]
    pub(crate) machine: Option<PathBuf>,
}

#[derive(Debug, Args)]
#[command(after_help = "Examples:
  setup-ready demo
  setup-ready demo --into driftbuoy     also writes the guide, its machines and the project's files there, to try things with")]
pub(crate) struct Demo {
    /// Write the guide, its machines and the project's files to this new folder
    #[arg(long, value_name = "FOLDER")]
    pub(crate) into: Option<PathBuf>,
}

/// The command line, or the exit status after help, a version or a complaint was shown.
pub(crate) fn parse() -> Result<Typed, ExitCode> {
    Typed::try_parse().map_err(|error| {
        // What was typed comes from somewhere too: pasted, or by a script.
        let odd = std::env::args_os().any(|word| word.to_string_lossy().chars().any(Sanitised::hides));
        // A closed pipe is no reason to complain.
        if odd {
            let text = error.render().to_string();
            let _ = std::io::stderr().write_all(Sanitised::lines(&text).to_string().as_bytes());
        } else {
            let _ = error.print();
        }
        ExitCode::from(u8::try_from(error.exit_code()).unwrap_or(2))
    })
}

/// The shape of the command line, for completions.
pub(crate) fn shape() -> clap::Command {
    Typed::command()
}
