//! What was observed in one preflight, as data that can be sent: assessing it again, under the same guide or another, is the same pure function.

use crate::guide::Guide;
use crate::known::Known;
use crate::prelude::*;
use crate::probe::{Permission, Probe};
use crate::selection::{Consent, Selection};
use alloc::collections::BTreeMap;
use serde::{Deserialize, Serialize};

/// The format that is written, and the newest that is read.
pub const FORMAT: u32 = 1;
/// What stands for the mark of something that was agreed to: the mark itself is the digest of paths.
const AGREED: &str = "agreed";

/// A recording.
#[derive(Debug, Clone, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[non_exhaustive]
pub struct Recording {
    /// [`FORMAT`].
    pub format: u32,
    /// The version of the software that recorded it.
    pub software: String,
    /// The project's name in the guide.
    pub project: String,
    /// The SHA-256 of the guide's text, in hexadecimal digits.
    pub guide_sha256: Option<String>,
    /// When the preflight started, by RFC 3339.
    pub recorded: String,
    /// How long it took, in milliseconds.
    pub elapsed_ms: u64,
    /// A random word by which two recordings of one machine can be told to be that, where the person asked for one.
    pub id: Option<String>,
    /// The machine's name, of one that is only described.
    pub machine: Option<String>,
    /// What was chosen to be checked.
    pub chosen: Chosen,
    /// What was observed.
    #[cfg_attr(feature = "schema", schemars(with = "Vec<AnswerFields>"))]
    pub answers: Known,
}

/// What stands in an answer.
#[cfg(feature = "schema")]
#[derive(schemars::JsonSchema)]
#[allow(dead_code, reason = "the schema is made from it; an answer's own types are the software's, and may grow")]
struct AnswerFields {
    /// The question.
    probe: AnyJson,
    /// What was seen.
    observation: AnyJson,
    /// How long it took, in milliseconds.
    elapsed_ms: u64,
}

#[cfg(feature = "schema")]
struct AnyJson;

#[cfg(feature = "schema")]
impl schemars::JsonSchema for AnyJson {
    fn schema_name() -> alloc::borrow::Cow<'static, str> {
        "Any".into()
    }

    fn json_schema(_: &mut schemars::SchemaGenerator) -> schemars::Schema {
        schemars::json_schema!(true)
    }
}

/// What was chosen, by the words of the guide.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(default)]
#[non_exhaustive]
pub struct Chosen {
    /// The id of the role.
    pub role: Option<String>,
    /// The ids of the requirements; all where empty.
    pub only: Vec<String>,
    /// The id of the stage.
    pub stage: Option<String>,
    /// The id of the place.
    pub place: Option<String>,
    /// What needs the running project was checked too.
    pub after_start: bool,
    /// What needs the network was left out.
    pub offline: bool,
    /// Tools were started to say their version.
    pub start_all: bool,
    /// What of the guide's commands was allowed.
    pub commands: Commands,
}

/// What of the guide's commands was allowed.
#[derive(Debug, Clone, Default, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(rename_all = "kebab-case")]
pub enum Commands {
    /// None.
    #[default]
    Withheld,
    /// All.
    All,
    /// These, word by word.
    These(Vec<Vec<String>>),
}

impl Chosen {
    /// What a selection comes to in the words of its guide.
    pub fn of(selection: &Selection, guide: &Guide) -> Self {
        Self {
            role: selection.role.and_then(|role| guide.roles.get(role)).map(|role| role.id.clone()),
            only: selection.only.iter().filter_map(|index| guide.requirements.get(*index)).map(|one| one.id.clone()).collect(),
            stage: selection.stage.and_then(|stage| guide.stages.get(stage)).map(|stage| stage.id.clone()),
            place: selection.place.and_then(|place| guide.places.get(place)).map(|place| place.id.clone()),
            after_start: selection.after_start,
            offline: selection.offline,
            start_all: selection.start_all,
            commands: match &selection.consent {
                Consent::Withheld => Commands::Withheld,
                Consent::Given => Commands::All,
                Consent::For(agreed) => Commands::These(agreed.keys().cloned().collect()),
            },
        }
    }

    /// Chooses the same in a guide, where nothing else was chosen already; words that it does not have are passed over. Commands that did not run
    /// then cannot be asked now.
    pub fn select(&self, selection: Selection, guide: &Guide) -> Selection {
        let role = || guide.role(self.role.as_deref()?);
        let stage = || guide.stages.iter().position(|stage| Some(&stage.id) == self.stage.as_ref());
        let place = || guide.place(self.place.as_deref()?);
        let consent = match &self.commands {
            Commands::Withheld => Consent::Withheld,
            Commands::All => Consent::Given,
            Commands::These(all) => {
                let agreed: BTreeMap<Vec<String>, String> = all.iter().map(|words| (words.clone(), AGREED.to_owned())).collect();
                Consent::For(Arc::new(agreed))
            }
        };
        // What was asked for by name now is looked at, whatever was chosen then.
        let named = !selection.only.is_empty() || selection.stage.is_some();
        let only = if named { selection.only } else { self.only.iter().filter_map(|id| guide.find(id)).collect() };
        Selection {
            role: selection.role.or_else(role),
            only,
            stage: if named { selection.stage } else { stage() },
            place: selection.place.or_else(place),
            after_start: selection.after_start || self.after_start,
            offline: selection.offline || self.offline,
            start_all: selection.start_all || self.start_all,
            consent,
            advised: selection.advised,
        }
    }
}

/// A question as a recording has it: by which mark somebody agreed is nobody else's business.
pub fn without_mark(probe: &Probe) -> Probe {
    let mark = |permission: &Permission| match permission {
        Permission::Marked(_) => Permission::Marked(AGREED.to_owned()),
        Permission::Question | Permission::Given => permission.clone(),
    };
    if let Probe::Run { path, arguments, permission } = probe {
        Probe::Run { path: path.clone(), arguments: arguments.clone(), permission: mark(permission) }
    } else if let Probe::Command { words, timeout_ms, permission } = probe {
        Probe::Command { words: words.clone(), timeout_ms: *timeout_ms, permission: mark(permission) }
    } else {
        probe.clone()
    }
}

impl Recording {
    /// A recording of these answers, with nothing said yet of where they came from.
    pub fn new(project: String, chosen: Chosen, answers: Known) -> Self {
        Self {
            format: FORMAT,
            software: String::new(),
            project,
            guide_sha256: None,
            recorded: String::new(),
            elapsed_ms: 0,
            id: None,
            machine: None,
            chosen,
            answers,
        }
    }
}

/// The schema of a recording, made from its types.
#[cfg(feature = "schema")]
pub fn schema() -> schemars::Schema {
    schemars::generate::SchemaSettings::draft2020_12().into_generator().into_root_schema_for::<Recording>()
}
