//! `module`, `headers`, `system_package` and `kernel_module`: it is installed, for the interpreter that is meant, with a version in the range.

use crate::assess::kind::Assess;
use crate::finding::{ComponentReason, ComponentTrouble, Conclusion, General, Met};
use crate::guide::{Component, ComponentSort, Existence, Language, Subject, Tool};
use crate::inquiry::{Inquiry, Stop};
use crate::observation::{InstalledState, ProgramCopy};
use crate::prelude::*;
use crate::version::{RangePosition, Version};

pub(crate) fn assess(inquiry: &mut Inquiry<'_>, wanted: &Component) -> Result<Conclusion, Stop> {
    match wanted.sort {
        ComponentSort::Module(language) => {
            let Some(program) = interpreter(inquiry, wanted)? else { return Ok(without_interpreter(language).into()) };
            let state = inquiry.language_module(language, program, &wanted.name)?;
            Ok(judge(wanted, Some(program), state))
        }
        ComponentSort::Headers(language) => {
            let Some(program) = interpreter(inquiry, wanted)? else { return Ok(without_interpreter(language).into()) };
            let state = inquiry.language_headers(language, program)?;
            Ok(judge(wanted, Some(program), state))
        }
        ComponentSort::SystemPackage => system_package(inquiry, wanted),
        ComponentSort::KernelModule => {
            let loaded = *inquiry.kernel_module(&wanted.name)?;
            let trouble = ComponentTrouble::Missing { lacks: None };
            Ok(if loaded { Met::Installed { version: None, at: None }.into() } else { reason(wanted, None, None, trouble) })
        }
    }
}

fn interpreter<'a>(inquiry: &mut Inquiry<'a>, wanted: &Component) -> Result<Option<&'a str>, Stop> {
    wanted.of.map_or(Ok(None), |index| program_of(inquiry, index))
}

/// The program that a tool of the guide is: what PATH finds, or what that stands in for.
pub(crate) fn program_of<'a>(inquiry: &mut Inquiry<'a>, index: usize) -> Result<Option<&'a str>, Stop> {
    let Some(Subject::Tool(Tool { names, expect: Existence::Present, .. })) =
        inquiry.context.guide.requirements.get(index).map(|one| &one.subject)
    else {
        return Ok(None);
    };
    for name in names {
        if let Some(copy) = inquiry.program(name)?.iter().find(|copy| copy.executable) {
            return Ok(Some(ProgramCopy::asked(copy)));
        }
    }
    Ok(None)
}

fn without_interpreter(language: Language) -> General {
    General::CouldNotLook { reason: format!("there is no {} on PATH whose modules could be looked at", language.name()) }
}

fn reason(wanted: &Component, program: Option<&str>, at: Option<String>, trouble: ComponentTrouble) -> Conclusion {
    ComponentReason { sort: wanted.sort, program: program.map(ToOwned::to_owned), at, trouble }.into()
}

fn judge(wanted: &Component, program: Option<&str>, state: &InstalledState) -> Conclusion {
    let (version, at) = match state {
        InstalledState::Absent { lacks } => {
            return reason(wanted, program, None, ComponentTrouble::Missing { lacks: lacks.clone() });
        }
        InstalledState::Here { version, at } => (version.clone(), Some(at.clone())),
    };
    let Some(range) = &wanted.version else { return Met::Installed { version, at }.into() };
    let Some(found) = version else { return reason(wanted, program, at, ComponentTrouble::NoVersion) };
    let trouble = match Version::parse(&found) {
        Ok(version) => match range.judge(&version) {
            RangePosition::Inside => return Met::Installed { version: Some(found), at }.into(),
            RangePosition::Outside(miss) => ComponentTrouble::OutOfRange { found: version, miss },
            RangePosition::Incomparable => ComponentTrouble::Incomparable { found },
        },
        Err(_) => ComponentTrouble::Incomparable { found },
    };
    reason(wanted, program, at, trouble)
}

/// The package that the guide names for the first manager of this machine.
fn system_package(inquiry: &mut Inquiry<'_>, wanted: &Component) -> Result<Conclusion, Stop> {
    let managers = inquiry.managers()?;
    let named = |manager| wanted.packages.iter().find(|(of, _)| of == manager);
    let Some((manager, package)) = managers.iter().find_map(named) else {
        return Ok(reason(wanted, None, None, ComponentTrouble::NoManager));
    };
    let state = inquiry.installed(*manager, package)?;
    // A version of a distribution's has the distribution's own numbers before and behind it.
    let plain = match state {
        InstalledState::Here { version: Some(version), at } => {
            let version = version.split_once(':').map_or(version.as_str(), |(_, rest)| rest);
            &InstalledState::Here { version: Some(version.to_owned()), at: at.clone() }
        }
        other @ (InstalledState::Here { version: None, .. } | InstalledState::Absent { .. }) => other,
    };
    Ok(judge(wanted, None, plain))
}

impl Assess for Component {
    fn assess(&self, inquiry: &mut Inquiry<'_>, _: usize) -> Result<Conclusion, Stop> {
        assess(inquiry, self)
    }
}
