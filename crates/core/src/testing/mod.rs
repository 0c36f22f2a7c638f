//! A scripted machine for the tests of this crate.

mod values;

use crate::cause::Cause;
use crate::driver::{Driver, Finished};
use crate::finding::{Finding, Verdict};
use crate::fix::Shell;
use crate::guide::{self, Guide};
use crate::manager::Manager;
use crate::observation::{
    Account, Choice, FileKind, Observation, Os, ProgramCopy, Run, RunEnd, StartEffect, Surroundings, System,
};
use crate::prelude::*;
use crate::probe::{Permission, Probe};
use crate::selection::Selection;
use crate::settled::RequirementResult;
use crate::text::Size;
use crate::words::Words;
use hashbrown::HashMap;

pub(crate) type Script = HashMap<Probe, Observation>;

/// A guide with this body.
pub(crate) fn guide(body: &str) -> Guide {
    let text = format!("format = 1\n[project]\nname = \"Driftbuoy\"\n[role.shore]\n[role.docs]\n{body}");
    guide::parse(&text).unwrap_or_else(|problems| panic!("{problems:?}"))
}

/// A plain Debian machine, whose ordinary user may use sudo.
pub(crate) fn debian() -> Script {
    let system = System {
        os: Os::Linux,
        version: Some("6.1.0".into()),
        edition: None,
        distro: Some("debian".into()),
        distro_like: Vec::new(),
        distro_version: Some("12".into()),
        pretty: None,
        arch: "x86_64".into(),
    };
    let around = Surroundings {
        wsl: Some(false),
        outside: Some(false),
        container: Some(false),
        virtual_machine: Some(false),
        ci: Some(false),
    };
    let account = Account {
        name: Some("skipper".into()),
        root: false,
        admin: Some(true),
        elevate: Some(crate::observation::Elevator::Sudo),
        groups: vec!["skipper".into()],
        shell: Some("bash".into()),
        startup_file: Some("~/.bashrc".into()),
    };
    Script::from_iter([
        (Probe::System, Observation::System(system)),
        (Probe::Surroundings, Observation::Surroundings(around)),
        (Probe::Account, Observation::Account(account)),
        (Probe::Managers, Observation::Managers(vec![Manager::Apt])),
    ])
}

/// A copy of a program, about whose file nothing is known.
pub(crate) fn copy(path: &str) -> ProgramCopy {
    ProgramCopy {
        path: path.into(),
        real_path: path.into(),
        executable: true,
        in_project: false,
        kind: FileKind::Unknown,
        lacks: Vec::new(),
        start: StartEffect::Quiet,
        choice: Choice::Itself,
        by_relative_entry: false,
    }
}

/// Adds a program with what it prints when asked for its version.
pub(crate) fn program(script: &mut Script, path: &str, end: RunEnd, stdout: &str) {
    let name = path.rsplit('/').next().unwrap_or(path).to_owned();
    let copy = copy(path);
    let copies = script.entry(Probe::Program { name }).or_insert_with(|| Observation::Program(Vec::new()));
    if let Observation::Program(copies) = copies {
        copies.push(copy);
    }
    let run = Run { end, stdout: stdout.into(), stderr: String::new(), cut: false };
    script.insert(
        Probe::Run { path: path.into(), arguments: vec!["--version".into()], permission: Permission::Question },
        Observation::Run(run),
    );
}

/// What a script answers; programs that it does not name are not there, and nothing else is known.
pub(crate) fn answer(script: &Script, probe: &Probe) -> Observation {
    script.get(probe).cloned().unwrap_or_else(|| {
        if matches!(probe, Probe::Program { .. }) {
            return Observation::Program(Vec::new());
        }
        Observation::CouldNotLook(format!("the script does not say: {probe}"))
    })
}

/// Drives a preflight to its end, answering whichever open question `choose` picks.
pub(crate) fn drive(guide: &Guide, script: &Script, selection: Selection, mut choose: impl FnMut(usize) -> usize) -> Finished {
    let mut driver = Driver::new(guide, selection).unwrap();
    let mut open: Vec<Arc<Probe>> = Vec::new();
    loop {
        open.extend(core::iter::from_fn(|| driver.next_probe()));
        if open.is_empty() {
            assert!(driver.is_finished());
            return driver.finish();
        }
        let probe = open.swap_remove(choose(open.len()) % open.len());
        driver.answer(&probe, answer(script, &probe));
    }
}

/// What came of everything, asked in the driver's own order.
pub(crate) fn settle(body: &str, script: &Script) -> Vec<RequirementResult> {
    drive(&guide(body), script, Selection::default(), |_| 0).settled
}

/// A finding with its words.
#[derive(Debug)]
pub(crate) struct Told {
    pub(crate) verdict: Verdict,
    pub(crate) cause: Option<Cause>,
    pub(crate) wanted: Option<String>,
    pub(crate) message: String,
    pub(crate) finding: Finding,
}

/// The words for what came of a requirement.
pub(crate) fn told(guide: &Guide, settled: &RequirementResult) -> Told {
    let requirement = guide.requirements.get(settled.index).unwrap();
    let finding = (*settled.finding).clone();
    let words = Words::new(guide, requirement, &finding, Shell::Posix);
    let (wanted, message) = (words.wanted(), words.message());
    // Of every finding that a test of this crate sees: what was found and what it does not fit can be read.
    let facts = serde_json::to_value(finding.reason()).unwrap();
    assert_eq!(values::left_out_of(&message, &facts), Vec::<String>::new(), "{message}");
    Told { verdict: finding.verdict(), cause: finding.cause(), wanted, message, finding }
}

/// The finding of a guide's one requirement `x`.
pub(crate) fn find(body: &str, script: &Script) -> Told {
    let guide = guide(&format!("[require.x]\n{body}\n"));
    let finished = drive(&guide, script, Selection::default(), |_| 0);
    told(&guide, finished.settled.first().unwrap())
}
