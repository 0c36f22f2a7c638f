//! A condition of the guide as a test of the shell; none where the shell cannot decide it as the program does.

use crate::condition::{Comparison, Condition, Expression, Fact, Flag};
use crate::prelude::*;

/// The test, from words of ours alone.
pub(super) fn test(condition: &Condition) -> Option<String> {
    of(condition.expression())
}

fn of(expression: &Expression) -> Option<String> {
    Some(match expression {
        Expression::Flag(flag) => match flag {
            Flag::Linux => "on linux".to_owned(),
            Flag::Macos => "on macos".to_owned(),
            // Where this script runs, it is not Windows.
            Flag::Windows => "false".to_owned(),
            Flag::Wsl => "on wsl".to_owned(),
            Flag::Ci => "on ci".to_owned(),
            Flag::Container | Flag::VirtualMachine | Flag::Admin => return None,
        },
        Expression::Compare(fact, comparison, value) => {
            let word = match fact {
                Fact::Distro => "distro",
                Fact::Arch => "arch",
                Fact::DistroVersion | Fact::OsVersion | Fact::Edition | Fact::Shell | Fact::Manager => return None,
            };
            let plain = value.bytes().all(|byte| byte.is_ascii_lowercase() || byte.is_ascii_digit() || b"_-".contains(&byte));
            let not = match comparison {
                Comparison::Equal => "",
                Comparison::NotEqual => "! ",
                Comparison::AtLeast | Comparison::AtMost | Comparison::Above | Comparison::Below => return None,
            };
            // Distributions are those of Linux, and what they say of themselves is in one file there; elsewhere the program may know more.
            if !plain || value.is_empty() {
                return None;
            }
            format!("{not}on {word} {value}")
        }
        Expression::Not(inner) => format!("! {}", grouped(inner)?),
        Expression::And(a, b) => format!("{} && {}", grouped(a)?, grouped(b)?),
        Expression::Or(a, b) => format!("{} || {}", grouped(a)?, grouped(b)?),
    })
}

fn grouped(expression: &Expression) -> Option<String> {
    let text = of(expression)?;
    Some(if matches!(expression, Expression::Flag(_)) { text } else { format!("{{ {text}; }}") })
}
