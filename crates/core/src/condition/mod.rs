//! The small language of `when`: `linux and not wsl and distro-version >= 12`.

mod parse;

use parse::ConditionError;

use crate::observation::Os;
use crate::prelude::*;
use crate::version::Version;
use core::cmp::Ordering;

/// A condition over a machine's facts, as `when` states it.
#[derive(Debug, Clone, PartialEq)]
pub struct Condition {
    text: String,
    expression: Expression,
}

impl Condition {
    /// As it was written.
    pub fn text(&self) -> &str {
        &self.text
    }

    /// What is evaluated.
    pub(crate) fn expression(&self) -> &Expression {
        &self.expression
    }

    /// Both.
    #[must_use]
    pub(crate) fn and(&self, other: &Self) -> Self {
        let text = format!("({}) and ({})", self.text, other.text);
        Self { text, expression: Expression::And(Box::new(self.expression.clone()), Box::new(other.expression.clone())) }
    }

    /// The opposite.
    #[must_use]
    pub(crate) fn not(&self) -> Self {
        Self { text: format!("not ({})", self.text), expression: Expression::Not(Box::new(self.expression.clone())) }
    }

    /// Whether it holds on some machine with this system.
    pub(crate) fn may_hold_on(&self, os: Os) -> bool {
        !matches!(self.evaluate(&mut OnlySystem(os)), Ok(Truth::False))
    }

    /// Whether it holds.
    ///
    /// # Errors
    /// When a fact is still to come.
    pub(crate) fn evaluate<E>(&self, facts: &mut impl Facts<E>) -> Result<Truth, E> {
        self.expression.evaluate(facts)
    }
}

/// Reads a condition.
///
/// # Errors
/// When it is empty, nested too deeply, or holds a word that has no meaning there.
pub(crate) fn parse(text: &str) -> Result<Condition, ConditionError> {
    Ok(Condition { text: text.trim().to_owned(), expression: parse::parse(text)? })
}

/// What is evaluated.
#[derive(Debug, Clone, PartialEq)]
pub(crate) enum Expression {
    /// A flag holds.
    Flag(Flag),
    /// A fact stands so to a value.
    Compare(Fact, Comparison, String),
    /// The inner one does not hold.
    Not(Box<Expression>),
    /// Both hold.
    And(Box<Expression>, Box<Expression>),
    /// At least one holds.
    Or(Box<Expression>, Box<Expression>),
}

macro_rules! words {
    ($(#[$doc:meta])* $name:ident { $($(#[$item:meta])* $variant:ident => $word:literal),+ $(,)? }) => {
        $(#[$doc])*
        #[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
        pub(crate) enum $name { $($(#[$item])* $variant),+ }

        impl $name {
            /// Every one, in the order of the documentation.
            pub(crate) const ALL: &'static [Self] = &[$(Self::$variant),+];

            /// The word in the language.
            pub(crate) fn word(self) -> &'static str {
                match self { $(Self::$variant => $word),+ }
            }
        }
    };
}

words! {
    /// A fact that holds or does not.
    Flag {
        /// The system is Linux.
        Linux => "linux",
        /// The system is macOS.
        Macos => "macos",
        /// The system is Windows.
        Windows => "windows",
        /// A Linux guest inside Windows.
        Wsl => "wsl",
        /// Inside a container.
        Container => "container",
        /// Inside a virtual machine.
        VirtualMachine => "virtual-machine",
        /// The person can act as administrator.
        Admin => "admin",
        /// On a build server.
        Ci => "ci",
    }
}

words! {
    /// A fact with a value.
    Fact {
        /// The CPU's architecture, `x86_64` or `aarch64`.
        Arch => "arch",
        /// The distribution's id; families that it says it is like match too.
        Distro => "distro",
        /// The distribution's version.
        DistroVersion => "distro-version",
        /// The system's (kernel's) version.
        OsVersion => "os-version",
        /// The system's edition.
        Edition => "edition",
        /// The person's shell, without folder.
        Shell => "shell",
        /// A package manager that is here.
        Manager => "manager",
    }
}

words! {
    /// How a fact is compared.
    Comparison {
        /// Is the value.
        Equal => "==",
        /// Is not the value.
        NotEqual => "!=",
        /// At least that version.
        AtLeast => ">=",
        /// At most that version.
        AtMost => "<=",
        /// Above that version.
        Above => ">",
        /// Below that version.
        Below => "<",
    }
}

impl Fact {
    /// Whether the fact is a version, so that it has an order.
    pub(crate) fn is_version(self) -> bool {
        matches!(self, Self::DistroVersion | Self::OsVersion)
    }
}

/// A truth value of Kleene's strong three-valued logic.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Truth {
    /// It holds.
    True,
    /// It does not hold.
    False,
    /// It could not be found out.
    Unknown,
}

impl Truth {
    /// The truth of something that is known, or unknown for `None`.
    pub(crate) fn of(known: Option<bool>) -> Self {
        match known {
            Some(true) => Self::True,
            Some(false) => Self::False,
            None => Self::Unknown,
        }
    }
}

/// A machine of which only the system is known.
struct OnlySystem(Os);

impl Facts<core::convert::Infallible> for OnlySystem {
    fn flag(&mut self, flag: Flag) -> Result<Option<bool>, core::convert::Infallible> {
        Ok(match flag {
            Flag::Linux => Some(self.0 == Os::Linux),
            Flag::Macos => Some(self.0 == Os::Macos),
            Flag::Windows => Some(self.0 == Os::Windows),
            Flag::Wsl => (self.0 != Os::Linux).then_some(false),
            Flag::Container | Flag::VirtualMachine | Flag::Admin | Flag::Ci => None,
        })
    }

    fn values(&mut self, _: Fact) -> Result<Option<Vec<String>>, core::convert::Infallible> {
        Ok(None)
    }
}

/// What a condition asks of a machine. `E` is what stops the evaluation (an answer that is still to come).
pub(crate) trait Facts<E> {
    /// Whether a flag holds; `None` where it cannot be found out.
    ///
    /// # Errors
    /// When the answer is still to come.
    fn flag(&mut self, flag: Flag) -> Result<Option<bool>, E>;

    /// The values that a fact has (several for a distribution's families and for package managers); `None` where it cannot be found out.
    ///
    /// # Errors
    /// When the answer is still to come.
    fn values(&mut self, fact: Fact) -> Result<Option<Vec<String>>, E>;
}

impl Expression {
    /// Whether the condition holds on a machine. Asks only for the facts that still matter.
    ///
    /// # Errors
    /// When an answer is still to come.
    pub(crate) fn evaluate<E>(&self, facts: &mut impl Facts<E>) -> Result<Truth, E> {
        Ok(match self {
            Self::Flag(flag) => Truth::of(facts.flag(*flag)?),
            Self::Compare(fact, comparison, value) => match facts.values(*fact)? {
                Some(values) => compare(*fact, *comparison, &values, value),
                None => Truth::Unknown,
            },
            Self::Not(inner) => match inner.evaluate(facts)? {
                Truth::True => Truth::False,
                Truth::False => Truth::True,
                Truth::Unknown => Truth::Unknown,
            },
            Self::And(a, b) => match a.evaluate(facts)? {
                Truth::False => Truth::False,
                Truth::True => b.evaluate(facts)?,
                Truth::Unknown if b.evaluate(facts)? == Truth::False => Truth::False,
                Truth::Unknown => Truth::Unknown,
            },
            Self::Or(a, b) => match a.evaluate(facts)? {
                Truth::True => Truth::True,
                Truth::False => b.evaluate(facts)?,
                Truth::Unknown if b.evaluate(facts)? == Truth::True => Truth::True,
                Truth::Unknown => Truth::Unknown,
            },
        })
    }
}

fn compare(fact: Fact, comparison: Comparison, values: &[String], wanted: &str) -> Truth {
    let versions = |value: &str| Version::parse(value).ok().zip(Version::parse(wanted).ok());
    let same = |value: &String| {
        if fact.is_version() {
            versions(value).and_then(|(a, b)| a.compare(&b)).map(Ordering::is_eq)
        } else {
            Some(value.eq_ignore_ascii_case(wanted))
        }
    };
    let any = |holds: &dyn Fn(&String) -> Option<bool>| {
        let answers: Vec<Option<bool>> = values.iter().map(holds).collect();
        if answers.contains(&Some(true)) {
            Some(true)
        } else if answers.contains(&None) {
            None
        } else {
            Some(false)
        }
    };
    let ordered = |accepts: fn(Ordering) -> bool| any(&|value| versions(value).and_then(|(a, b)| a.compare(&b)).map(accepts));
    Truth::of(match comparison {
        Comparison::Equal => any(&same),
        Comparison::NotEqual => any(&same).map(|same| !same),
        Comparison::AtLeast => ordered(Ordering::is_ge),
        Comparison::AtMost => ordered(Ordering::is_le),
        Comparison::Above => ordered(Ordering::is_gt),
        Comparison::Below => ordered(Ordering::is_lt),
    })
}

#[cfg(test)]
mod tests;
