//! The command line as it is typed. Reading it touches nothing.

use build_setup_ready::text::{Sanitised, parse_duration};
use clap::{Args, CommandFactory, Parser, Subcommand, ValueEnum};
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
  0 ready   1 not ready   2 wrong use, or a mistake in the guide
  3 undecided: nothing needed is missing, but something is unknown, or remains in another place
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
    /// Write the result to a file instead of standard output
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
    #[cfg(feature = "desk")]
    /// For maintainers: write a first guide from what the repository says
    Draft(Draft),
    #[cfg(feature = "desk")]
    /// For maintainers: read the guide as its strictest reader, and correct what is certain
    Proofread(Proofread),
    #[cfg(feature = "desk")]
    /// For maintainers: try the guide on described machines, or in each way in which newcomers can fail
    Rehearse(Rehearse),
    #[cfg(feature = "desk")]
    /// For maintainers: the guide for people (Markdown, a page), or as a script that checks without this software
    Render(Render),
    #[cfg(feature = "desk")]
    /// For maintainers: follow a build, and say what of this machine it used that the guide does not name
    Witness(Witness),
    #[cfg(feature = "desk")]
    /// For maintainers: machines beside each other, where their verdicts differ and what decides it
    Compare(Compare),
    #[cfg(feature = "desk")]
    /// For maintainers: many reports together, what stops most people, which versions are out there
    Survey(Survey),
    #[cfg(feature = "desk")]
    /// For maintainers: the JSON Schema of a guide, a described machine or a report, for editors
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
    #[cfg(feature = "desk")]
    /// A page of its own, without what is private
    Html,
    #[cfg(feature = "desk")]
    /// For build servers: a suite for each stage
    Junit,
    #[cfg(feature = "desk")]
    /// For whatever reads the Test Anything Protocol
    Tap,
    #[cfg(feature = "desk")]
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
  Enter     after you have done what it says: it is checked again
  explain   everything about what is open; or explain ID
  skip      go on without it
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
        self.machine.as_deref().is_some_and(build_setup_ready::is_json_file)
    }
}

fn time_limit(text: &str) -> Result<Duration, String> {
    let limit = Duration::from_millis(parse_duration(text).map_err(|error| error.to_string())?);
    let sensible = Duration::from_millis(100)..=Duration::from_hours(1);
    if sensible.contains(&limit) { Ok(limit) } else { Err("a time limit lies between 100ms and 1h".to_owned()) }
}

/// What has a schema.
#[cfg(feature = "desk")]
#[derive(Debug, Clone, Copy, PartialEq, Eq, ValueEnum)]
pub(crate) enum SchemaOf {
    Guide,
    Machine,
    Report,
}

#[cfg(feature = "desk")]
#[derive(Debug, Args)]
#[command(
    next_help_heading = "What is drafted, and how",
    after_help = "Examples:
  setup-ready draft                     writes setup-guide.toml, where there is none
  setup-ready draft --additions         what the repository says and the guide does not; exit status 1 where there is something
  setup-ready draft --statements        all that the repository says, with its places
  setup-ready draft ~/projects/buoy     another folder

Nothing of the repository is run, and nothing is asked of anybody."
)]
pub(crate) struct Draft {
    /// The folder of the repository; otherwise this one
    #[arg(value_name = "FOLDER")]
    pub(crate) folder: Option<PathBuf>,
    /// Only what the guide does not speak of, to be put behind it
    #[arg(long, conflicts_with = "statements")]
    pub(crate) additions: bool,
    /// Every statement that was found, a line each; no guide is written
    #[arg(long)]
    pub(crate) statements: bool,
    /// How many folders deep to look, besides those that workspaces name
    #[arg(long, value_name = "N", default_value_t = 1, value_parser = clap::value_parser!(u8).range(0..=8))]
    pub(crate) depth: u8,
}

/// The forms of remarks.
#[cfg(feature = "desk")]
#[derive(Debug, Clone, Copy, PartialEq, Eq, ValueEnum)]
pub(crate) enum RemarksFormat {
    Text,
    Json,
    Sarif,
}

#[cfg(feature = "desk")]
#[derive(Debug, Args)]
#[command(
    next_help_heading = "How it is read",
    after_help = "Examples:
  setup-ready proofread
  setup-ready proofread --correct                      carries out what is certain, in the file
  setup-ready proofread --format sarif --output guide.sarif
  setup-ready explain pin-exceeded                     the page of a rule

Exit status: 0 nothing to say, 1 remarks, 2 wrong use.
A remark that is right as it is can be accepted in the guide, with the reason:
  [proofread]
  accept = [{ rule = \"used-unlisted\", of = \"tool jq\", because = \"Only the release needs it.\" }]"
)]
pub(crate) struct Proofread {
    /// Carry out in the guide's file what is certain; comments and layout stay
    #[arg(long)]
    pub(crate) correct: bool,
    /// The form of the remarks: text for people, json for programs, sarif for code hosts
    #[arg(long, value_name = "FORMAT", default_value = "text")]
    pub(crate) format: RemarksFormat,
    /// How many folders deep to look for what the repository says, besides those that workspaces name
    #[arg(long, value_name = "N", default_value_t = 1, value_parser = clap::value_parser!(u8).range(0..=8))]
    pub(crate) depth: u8,
}

/// The forms of a rehearsal.
#[cfg(feature = "desk")]
#[derive(Debug, Clone, Copy, PartialEq, Eq, ValueEnum)]
pub(crate) enum RehearsalFormat {
    Text,
    Json,
    Junit,
    Markdown,
    Html,
}

#[cfg(feature = "desk")]
#[derive(Debug, Args)]
#[command(
    next_help_heading = "What is rehearsed, and how",
    after_help = "Examples:
  setup-ready rehearse                  on each machine in machines/ beside the guide
  setup-ready rehearse --machine machines/old-laptop.toml
  setup-ready rehearse --failures       every way in which a newcomer can fail, and where the advice leads
  setup-ready rehearse --failures --format junit --output failures.xml
  setup-ready rehearse --expect         what `[expect]` of the machines would have to say; --write writes it

Exit status: 0 all is as expected, and no way to fail ends in nothing to do; 1 otherwise; 2 wrong use."
)]
pub(crate) struct Rehearse {
    /// A described machine; may stand several times. Otherwise all in the folder machines beside the guide
    #[arg(long, value_name = "FILE")]
    pub(crate) machine: Vec<PathBuf>,
    /// Make a machine for every way to fail on the systems that the guide promises, and follow the advice there
    #[arg(long, conflicts_with_all = ["machine", "expect"])]
    pub(crate) failures: bool,
    /// Show how `[expect]` of the machines differs from what comes of them now
    #[arg(long)]
    pub(crate) expect: bool,
    /// With --expect: write that into their files
    #[arg(long, requires = "expect")]
    pub(crate) write: bool,
    /// The form of the result: text for people, json for programs, junit for build servers, markdown or html for others
    #[arg(long, value_name = "FORMAT", default_value = "text")]
    pub(crate) format: RehearsalFormat,
}

/// The forms of what is read by people and programs alike.
#[cfg(feature = "desk")]
#[derive(Debug, Clone, Copy, PartialEq, Eq, ValueEnum)]
pub(crate) enum DeskFormat {
    Text,
    Json,
    Markdown,
    Html,
}

#[cfg(feature = "desk")]
#[derive(Debug, Args)]
#[command(
    next_help_heading = "What is compared, and how",
    after_help = "Examples:
  setup-ready compare broken.recording.json here        why it works on this machine and not on theirs
  setup-ready compare machines/shared-server.toml machines/ready-workstation.toml
  setup-ready compare class/*.recording.json            the odd one out for each requirement
  setup-ready compare yesterday.json today.json         two reports of preflight --format json

Exit status: 0 no verdict differs, 1 one does, 2 wrong use."
)]
pub(crate) struct Compare {
    /// Recordings, reports in JSON, described machines, or the word here for this machine
    #[arg(value_name = "MACHINE", required = true)]
    pub(crate) machines: Vec<PathBuf>,
    #[command(flatten)]
    pub(crate) check: Check,
    /// The form of the result: text for people, json for programs, markdown to paste, html as a page
    #[arg(long, value_name = "FORMAT", default_value = "text")]
    pub(crate) format: DeskFormat,
}

/// The forms of a survey.
#[cfg(feature = "desk")]
#[derive(Debug, Clone, Copy, PartialEq, Eq, ValueEnum)]
pub(crate) enum SurveyFormat {
    /// For people, here
    Text,
    /// For programs
    Json,
    /// A page of its own, with plots
    Html,
    /// A row for each requirement of each report, for a table
    Csv,
    /// The same as a JSON object a line, for a database
    Rows,
}

/// What reports are told apart by.
#[cfg(feature = "desk")]
#[derive(Debug, Clone, Copy, PartialEq, Eq, ValueEnum)]
pub(crate) enum By {
    System,
    Distro,
    Arch,
    Role,
    Week,
}

#[cfg(feature = "desk")]
#[derive(Debug, Args)]
#[command(
    next_help_heading = "What is surveyed, and how",
    after_help = "Examples:
  setup-ready survey reports                            all in a folder: .json, .ndjson, also .gz
  setup-ready survey class --by distro
  setup-ready survey class --what-if 'cmake >= 3.28'    how many that are ready for it now would lose
  setup-ready survey reports --format html --output survey.html
  zcat reports.ndjson.gz | setup-ready survey - --format rows --output rows.ndjson

Recordings are assessed with the guide as it is now. One that cannot be read is named, and the others go on.

Exit status: 0 all were read, 1 some could not be used, 2 wrong use, or none could."
)]
pub(crate) struct Survey {
    /// Reports and recordings: files, folders, or - for standard input; one a file, or one a line
    #[arg(value_name = "FILE", required = true)]
    pub(crate) files: Vec<PathBuf>,
    /// Tell them apart
    #[arg(long, value_name = "WHAT")]
    pub(crate) by: Option<By>,
    /// A range that a requirement might have, such as 'cmake >= 3.28'
    #[arg(long, value_name = "RANGE")]
    pub(crate) what_if: Option<String>,
    /// The form of the result
    #[arg(long, value_name = "FORMAT", default_value = "text")]
    pub(crate) format: SurveyFormat,
    /// How many threads
    #[arg(long, value_name = "N", value_parser = clap::value_parser!(u16).range(1..=256))]
    pub(crate) jobs: Option<u16>,
}

/// What a guide is rendered as.
#[cfg(feature = "desk")]
#[derive(Debug, Clone, Copy, PartialEq, Eq, ValueEnum)]
pub(crate) enum RenderAs {
    /// To stand in the document for contributors
    Markdown,
    /// A page of its own, for the project's site
    Html,
    /// A POSIX script that checks a machine without this software
    Sh,
}

#[cfg(feature = "desk")]
#[derive(Debug, Args)]
#[command(
    next_help_heading = "What is written, and where",
    after_help = "Examples:
  setup-ready render markdown --into CONTRIBUTING.md            between two marks, which are put at its end the first time
  setup-ready render markdown --into CONTRIBUTING.md --verify   for a build server: 1 where that is stale
  setup-ready render html --output setup.html
  setup-ready render sh --output check-machine.sh

Exit status: 0 written, or up to date; 1 stale; 2 wrong use."
)]
pub(crate) struct Render {
    /// As what
    #[arg(value_name = "AS")]
    pub(crate) form: RenderAs,
    /// A file of which only the part between the marks is written
    #[arg(long, value_name = "FILE", conflicts_with = "output")]
    pub(crate) into: Option<PathBuf>,
    /// Write nothing: say whether the file (of --into, or --output) is as it would be written
    #[arg(long)]
    pub(crate) verify: bool,
}

#[cfg(feature = "desk")]
#[derive(Debug, Args)]
#[command(
    next_help_heading = "What is followed",
    after_help = "Examples:
  setup-ready witness -- make
  setup-ready witness --correct -- cargo build
  setup-ready witness -- sh -c 'cmake -B build && cmake --build build'

Start from a clean copy: what is built already is not built again. The build runs as it always does, with your rights, and
is slowed by less than its own time. What its environment holds is not kept.

Exit status: 0 the guide names all that was used; 1 it lacks something; 2 wrong use, or nobody can follow here;
otherwise that of the build, where it failed."
)]
pub(crate) struct Witness {
    /// Write it into the guide: what it lacks at its end, and what it only recommends as needed
    #[arg(long, conflicts_with = "output")]
    pub(crate) correct: bool,
    /// The build, after --
    #[arg(value_name = "COMMAND", required = true, trailing_var_arg = true, allow_hyphen_values = true)]
    pub(crate) words: Vec<std::ffi::OsString>,
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
