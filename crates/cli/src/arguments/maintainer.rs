//! What maintainers type.

use super::Check;
use clap::{Args, ValueEnum};
use std::path::PathBuf;

/// What has a schema.
#[derive(Debug, Clone, Copy, PartialEq, Eq, ValueEnum)]
pub(crate) enum SchemaOf {
    Guide,
    Machine,
    Report,
    Recording,
}

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
#[derive(Debug, Clone, Copy, PartialEq, Eq, ValueEnum)]
pub(crate) enum RemarksFormat {
    Text,
    Json,
    Sarif,
}

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
#[derive(Debug, Clone, Copy, PartialEq, Eq, ValueEnum)]
pub(crate) enum RehearsalFormat {
    Text,
    Json,
    Junit,
    Markdown,
    Html,
}

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
    /// A described machine or a recording; may stand several times. Otherwise all in the folder machines beside the guide
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
#[derive(Debug, Clone, Copy, PartialEq, Eq, ValueEnum)]
pub(crate) enum DeskFormat {
    Text,
    Json,
    Markdown,
    Html,
}

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
    /// In markdown and html: leave names of people and machines, addresses and tokens as they are
    #[arg(long)]
    pub(crate) with_names: bool,
}

/// The forms of a survey.
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
#[derive(Debug, Clone, Copy, PartialEq, Eq, ValueEnum)]
pub(crate) enum By {
    System,
    Distro,
    Arch,
    Role,
    Week,
}

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
    /// What a requirement might ask for instead, such as 'cmake >= 3.28' or 'memory >= 16 GB'
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
#[derive(Debug, Clone, Copy, PartialEq, Eq, ValueEnum)]
pub(crate) enum RenderAs {
    /// To stand in the document for contributors
    Markdown,
    /// A page of its own, for the project's site
    Html,
    /// A POSIX script that checks a machine without this software
    Sh,
}

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
