//! What is found, and the cause of it.

use crate::cause::Cause;
use crate::cause::HasCause;
use crate::finding::Place;
use crate::observation::StartupOutcome;
use crate::prelude::*;
use serde::Serialize;

/// Why a variable will not do.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[non_exhaustive]
pub struct VariableReason {
    /// Its name.
    pub name: String,
    /// What is the matter.
    #[serde(flatten)]
    pub trouble: VariableTrouble,
}

/// What is the matter with a variable.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[serde(untagged)]
#[non_exhaustive]
pub enum VariableTrouble {
    /// Nothing sets it.
    Unset,
    /// It is set to nothing.
    Empty {
        /// Where.
        place: Place,
    },
    /// Its value has another form.
    Shape {
        /// Where it is set.
        place: Place,
    },
    /// A startup file sets it, and this terminal has not got it.
    OnlyInFile {
        /// The line of that file, where it is known.
        #[serde(skip_serializing_if = "Option::is_none")]
        line: Option<usize>,
        /// Why this terminal does not have it.
        fate: StartupOutcome,
        /// The file and line that keep it from having it.
        #[serde(skip_serializing_if = "Option::is_none")]
        kept_by: Option<(String, usize)>,
        /// Which file.
        file: String,
    },
    /// The file that sets it has line ends of Windows, or a mark before its text.
    OtherLineEnds {
        /// Where it is set.
        place: Place,
    },
    /// Its value names a folder or a locale that is not there.
    LeadsNowhere {
        /// Where it is set.
        place: Place,
    },
    /// It leads to another kit than the one that is meant.
    OtherKit {
        /// Where it is set.
        place: Place,
        /// The program that belongs to the kit which is meant.
        program: String,
        /// The folder of that kit.
        kit: String,
    },
    /// It is set and should not be.
    Unwanted {
        /// Where.
        place: Place,
    },
}

impl HasCause for VariableReason {
    fn cause(&self) -> Cause {
        match &self.trouble {
            VariableTrouble::Unset => Cause::VariableUnset,
            VariableTrouble::Empty { .. } => Cause::VariableEmpty,
            VariableTrouble::Shape { .. } => Cause::VariableShape,
            VariableTrouble::OnlyInFile { .. } => Cause::VariableOnlyInFile,
            VariableTrouble::OtherLineEnds { .. } => Cause::VariableLineEnds,
            VariableTrouble::LeadsNowhere { .. } => Cause::VariableLeadsNowhere,
            VariableTrouble::OtherKit { .. } => Cause::VariableOtherKit,
            VariableTrouble::Unwanted { .. } => Cause::VariableUnwanted,
        }
    }
}
