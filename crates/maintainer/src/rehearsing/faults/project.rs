//! What goes wrong with settings, the working copy, commands and alternatives.

use super::super::machine_builder::{MachineBuilder, text, texts};
use super::super::sample::other_than;
use super::super::satisfy::Wanted;
use super::NotMade;
use setup_ready_core::cause::Cause;
use setup_ready_core::guide::{Checkout, Command, Subject};

pub(super) fn make(sketch: &mut MachineBuilder, wanted: Wanted<'_>, cause: Cause) -> Result<(), NotMade> {
    match &wanted.requirement.subject {
        Subject::Setting(setting) => match cause {
            Cause::SettingUnset => sketch.unset("settings", &setting.key),
            Cause::SettingShape => {
                let other = setting.matches.as_ref().and_then(other_than).ok_or(NotMade::NotHere)?;
                sketch.set("settings", &setting.key, text(other));
            }
            _ => return Err(NotMade::NotHere),
        },
        Subject::Checkout(one) => checkout(sketch, one, cause)?,
        Subject::Command(one) => command(sketch, wanted, one, cause)?,
        Subject::AnyOf(any) if cause == Cause::NoneOf => {
            // Each alternative in the first way in which it can fail.
            for index in &any.alternatives {
                let Some(requirement) = wanted.guide.requirements.get(*index) else { continue };
                let other = Wanted { requirement, ..wanted };
                let fails = Cause::ALL.iter().find(|cause| super::make(&mut sketch.clone(), other, **cause).is_ok());
                super::make(sketch, other, *fails.ok_or(NotMade::NotHere)?)?;
            }
        }
        _ => return Err(NotMade::NotHere),
    }
    Ok(())
}

fn checkout(sketch: &mut MachineBuilder, checkout: &Checkout, cause: Cause) -> Result<(), NotMade> {
    match cause {
        Cause::CheckoutNone => sketch.set("checkout", "present", "false"),
        Cause::CheckoutBranch if checkout.branch.is_some() => sketch.set("checkout", "branch", text("another")),
        Cause::CheckoutSubmodules if checkout.submodules => {
            sketch.set("checkout", "submodules_not_fetched", texts(&["parts/one"]));
        }
        Cause::CheckoutLargeFiles if checkout.large_files => {
            sketch.set("checkout", "large_files_not_fetched", texts(&["pictures/one.png"]));
        }
        Cause::CheckoutShallow if checkout.history => sketch.set("checkout", "shallow", "true"),
        Cause::CheckoutNoTags if checkout.tags => sketch.set("checkout", "no_tags", "true"),
        Cause::CheckoutLineEnds if checkout.line_ends => sketch.set("checkout", "windows_line_ends", "12"),
        Cause::CheckoutDirty if checkout.clean => sketch.set("checkout", "changed", "3"),
        Cause::CheckoutUnfinished | Cause::CheckoutNotMine => return Err(NotMade::NoWords),
        _ => return Err(NotMade::NotHere),
    }
    Ok(())
}

fn command(sketch: &mut MachineBuilder, wanted: Wanted<'_>, command: &Command, cause: Cause) -> Result<(), NotMade> {
    let name = command.words.join(" ");
    let entry = sketch.entry("command", &name).ok_or(NotMade::NotHere)?;
    match cause {
        Cause::CommandFailed => {
            entry.insert("exit".to_owned(), command.exit.wrapping_add(1).to_string());
            entry.insert("complains".to_owned(), text("something that it needs is not there"));
        }
        Cause::CommandOutput if command.matches.is_some() => drop(entry.insert("prints".to_owned(), text("?"))),
        Cause::CommandStuck => drop(entry.insert("never_ends".to_owned(), "true".to_owned())),
        Cause::CommandNotFound => {
            entry.insert("does_not_start".to_owned(), text("not-found"));
            let program = command.words.first().map(|name| wanted.program(wanted.at().usual, name)).unwrap_or_default();
            sketch.drop("program", &program);
        }
        _ => return Err(NotMade::NotHere),
    }
    Ok(())
}
