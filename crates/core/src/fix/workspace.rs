//! What settles variables, limits, libraries, settings, the working copy and commands.

#![allow(clippy::wildcard_enum_match_arm, reason = "built_in.rs names every cause; here are those that it sends")]

use super::Fix;
use super::case::Case;
use crate::cause::Cause;
use crate::finding::Whose;
use crate::guide::{Edit, Subject, Then};
use crate::observation::Os;
use crate::prelude::*;

/// Stands where only the person knows what to write.
const YOURS: &str = "YOUR-VALUE";

pub(super) fn fix(fault: &Case<'_>, cause: Cause) -> Fix {
    match &fault.requirement.subject {
        Subject::Variable(variable) => self::variable(fault, cause, &variable.name, variable.env_file.as_deref()),
        Subject::Limit(limit) => self::limit(fault, &limit.name, limit.at_least.unwrap_or(0)),
        Subject::Library(_) => library(fault, cause),
        Subject::Setting(setting) => {
            let mut fix = Fix::say(format!("Give git your {}: put it in the place of {YOURS}.", setting.key));
            fix.run = vec![format!("git config --global {} {YOURS}", fault.quoted(&setting.key))];
            fix
        }
        Subject::Checkout(checkout) => self::checkout(fault, cause, &checkout.path, checkout.branch.as_deref()),
        Subject::Command(command) => {
            let words: Vec<String> = command.words.iter().map(|word| fault.quoted(word)).collect();
            let program = command.words.first().map_or("", String::as_str);
            if cause == Cause::CommandNotFound {
                return Fix::say(format!("Install {program}, then check again."));
            }
            let mut fix = Fix::say("Run it yourself in the project's folder, and do what its message says.");
            fix.run = vec![words.join(" ")];
            fix
        }
        _ => Fix::say(format!("Look at {} yourself.", fault.title())),
    }
}

fn variable(fault: &Case<'_>, cause: Cause, name: &str, env_file: Option<&str>) -> Fix {
    let shell = fault.bench.shell;
    match cause {
        Cause::VariableOnlyInFile => {
            let mut fix = Fix::say("Nothing has to be changed any more: open a new terminal.");
            fix.then = Some(Then::NewShell);
            fix
        }
        Cause::VariableUnwanted => {
            let mut fix = Fix::say(format!("Take {name} away in this terminal, and take its line out of the file that sets it."));
            fix.run = vec![shell.unset(name)];
            fix
        }
        Cause::VariableEmpty | Cause::VariableShape if env_file.is_some() => Fix::say(format!(
            "Correct the value of {name} where it is set; then, if that is not a file of the project, open a new terminal."
        )),
        _ => {
            if let Some(file) = env_file {
                let mut fix = Fix::say(format!("Set {name} in {file}, with your own value in the place of {YOURS}."));
                fix.edit = Some(Edit { file: file.to_owned(), append: format!("{name}={YOURS}") });
                return fix;
            }
            let line = shell.set_for_good(name, YOURS);
            let mut fix = Fix::say(format!("Set {name}, with your own value in the place of {YOURS}."));
            match fault.bench.account.and_then(|account| account.startup_file.clone()) {
                Some(file) => fix.edit = Some(Edit { file, append: line }),
                None => fix.run = vec![line],
            }
            fix.then = Some(Then::NewShell);
            fix
        }
    }
}

fn limit(fault: &Case<'_>, name: &str, needed: u64) -> Fix {
    let linux = fault.bench.os == Some(Os::Linux);
    let own = fault.finding.particulars.whose == Whose::Own;
    match name {
        "open-files" | "processes" if own && fault.unix() => {
            let letter = if name == "processes" { 'u' } else { 'n' };
            let line = format!("ulimit -{letter} {needed}");
            let mut fix = Fix::say("Raise the limit for new terminals; you may do that yourself.");
            match fault.bench.account.and_then(|account| account.startup_file.clone()) {
                Some(file) => fix.edit = Some(Edit { file, append: line }),
                None => fix.run = vec![line],
            }
            fix.then = Some(Then::NewShell);
            fix
        }
        "open-files" | "processes" if linux => {
            let item = if name == "processes" { "nproc" } else { "nofile" };
            let user = fault.bench.account.and_then(|account| account.name.as_deref()).unwrap_or("*");
            let line = fault.quoted(&format!("{user} - {item} {needed}"));
            let mut fix = fault.admin_step("Raise the limit for your sessions.", &[]);
            fix.run = vec![format!("echo {line} | {}", fault.bench.as_admin("tee -a /etc/security/limits.d/60-project.conf"))];
            fix.then = Some(Then::SignIn);
            fix
        }
        "file-watches" if linux => {
            let line = format!("fs.inotify.max_user_watches={needed}");
            let file = "/etc/sysctl.d/60-file-watches.conf";
            let mut fix =
                fault.admin_step("Let programs watch more files, now and after the next start.", &[&format!("sysctl -p {file}")]);
            fix.run.insert(0, format!("echo {line} | {}", fault.bench.as_admin(&format!("tee {file}"))));
            fix
        }
        "path-length" if fault.bench.os == Some(Os::Windows) => {
            let command = "reg add HKLM\\SYSTEM\\CurrentControlSet\\Control\\FileSystem /v LongPathsEnabled /t REG_DWORD /d 1 /f";
            let mut fix = fault.admin_step("Let Windows use long paths.", &[command]);
            fix.then = Some(Then::Restart);
            fix
        }
        "symbolic-links" if fault.bench.os == Some(Os::Windows) => {
            let mut fix = Fix::say(
                "Switch on developer mode (Settings, System, For developers): with it every user may make symbolic links.",
            );
            fix.warn("Developer mode also lets Windows install programs that nobody has signed.");
            fix
        }
        "symbolic-links" => {
            Fix::say("Move the project to a disk whose filesystem has symbolic links; those of memory sticks often have none.")
        }
        "path-length" => Fix::say("Move the project to a folder with a shorter path."),
        _ => Fix::say("Ask whoever looks after this machine to raise the limit."),
    }
}

fn library(fault: &Case<'_>, cause: Cause) -> Fix {
    match cause {
        // Where packages were named and none does, that is what there is to say.
        Cause::LibraryNoHeaders if fault.refused.is_empty() => Fix::say(format!(
            "Install what is needed to build against {}: in most systems a package of its own, whose name ends in -dev or -devel.",
            fault.title()
        )),
        Cause::LibraryTooNew => Fix::say(format!(
            "Install an older release of {}{} beside this one, and name its pkgconfig folder in PKG_CONFIG_PATH.",
            fault.title(),
            fault.wanted()
        )),
        _ => fault.install(),
    }
}

fn checkout(fault: &Case<'_>, cause: Cause, path: &str, branch: Option<&str>) -> Fix {
    let git = if path == "." { "git".to_owned() } else { format!("git -C {}", fault.quoted(path)) };
    let run = |say: &str, commands: &[&str]| {
        let mut fix = Fix::say(say);
        fix.run = commands.iter().map(|command| format!("{git} {command}")).collect();
        fix
    };
    match cause {
        Cause::CheckoutSubmodules => {
            run("Fetch the parts that come from other repositories.", &["submodule update --init --recursive"])
        }
        Cause::CheckoutLargeFiles => run("Fetch the large files (this needs the program git-lfs).", &["lfs install", "lfs pull"]),
        Cause::CheckoutBranch => {
            let branch = fault.quoted(branch.unwrap_or("main"));
            run("Go to the branch that is wanted.", &[&format!("switch {branch}")])
        }
        Cause::CheckoutDirty => {
            let mut fix = run("Commit your changes, or put them aside.", &["stash --include-untracked"]);
            fix.caution = Some("This puts them aside; `git stash pop` brings them back.".to_owned());
            fix
        }
        _ => Fix::say("Get the project with `git clone` instead of as an archive; its page says from where."),
    }
}
