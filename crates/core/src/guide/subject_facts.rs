//! What there is to say of a subject whatever its kind: its word, its title, its pattern, its packages.

use super::{Port, Subject, Supply};
use crate::kinds::kind::Kind;
use crate::manager::Manager;
use crate::prelude::*;
use crate::text::Pattern;

impl Subject {
    /// The variable that it speaks of, the file that may set it, and whether its value is a secret.
    pub fn sets(&self) -> Option<(&str, Option<&String>, bool)> {
        if let Self::Variable(variable) = self {
            Some((variable.name.as_str(), variable.env_file.as_ref(), variable.secret))
        } else if let Self::Port(Port { set_by: Some(set_by), .. }) = self {
            Some((set_by.variable.as_deref()?, set_by.env_file.as_ref(), false))
        } else {
            None
        }
    }

    /// The pattern that something must fit, where it has one: the first of several.
    pub fn pattern(&self) -> Option<&Pattern> {
        self.facts().pattern()
    }

    /// Which kind it is.
    pub fn kind(&self) -> Kind {
        self.facts().kind()
    }

    /// Who brings a thing that must run, and how it is started.
    pub fn supply(&self) -> Option<&Supply> {
        self.facts().supply()
    }

    /// What to call it where the guide gives no title.
    pub fn title(&self) -> String {
        self.facts().title()
    }

    /// The packages that bring it, per package manager.
    pub fn packages(&self) -> &[(Manager, String)] {
        self.facts().packages()
    }
}
