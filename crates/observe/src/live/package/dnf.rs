//! What dnf says of an installation that it does not carry out. Its command wants to be root even where it is to say no, so dnf 4 is asked by its
//! own library; dnf 5 answers everybody.

use super::trial::Attempt;
use super::{Live, asked, no_answer, own};
use crate::read::{dnf_costs, dnf_trial, dnf5_trial};
use setup_ready_core::observation::{FileKind, RunEnd, Trial};
use std::path::Path;

/// Works an installation out by the library of dnf 4 (its API reference), from the system's lists alone, and writes what would come of it.
const ASKED_OF_LIBRARY: &str = "\
import sys, dnf, dnf.exceptions, dnf.rpm
base = dnf.Base()
base.conf.read()
base.conf.cachedir = base.conf.system_cachedir
base.conf.substitutions['releasever'] = dnf.rpm.detect_releasever(base.conf.installroot) or ''
base.read_all_repos()
base.fill_sack_from_repos_in_cache(load_system_repo=True)
for name in sys.argv[1:]:
    try:
        base.install(name)
    except dnf.exceptions.MarkingError:
        print('excluded', name)
try:
    base.resolve()
    coming = base.transaction.install_set
    for package in coming:
        print('comes', package.name, package.downloadsize)
    for package in base.transaction.remove_set:
        if package.name not in [other.name for other in coming]:
            print('goes', package.name)
except dnf.exceptions.DepsolveError as error:
    print('cannot', ' '.join(str(error).split()))
print('end')
";

pub(super) fn attempt(live: &Live, names: &[&str]) -> Attempt {
    let program = match own(live, "dnf") {
        Ok(program) => program,
        Err(reason) => return Attempt::of(Trial::NotTried(reason)),
    };
    let FileKind::Script(interpreter) = program.kind else { return by_command(live, names) };
    let words: Vec<String> = ["-I", "-c", ASKED_OF_LIBRARY].iter().chain(names).map(|word| (*word).to_owned()).collect();
    let run = live.run(Path::new(&interpreter), &words);
    if run.end != RunEnd::Exit(0) {
        return Attempt::of(Trial::NotTried(no_answer("the library of dnf", &run)));
    }
    match dnf_trial(&run.stdout) {
        Some(trial) => Attempt { trial, costs: dnf_costs(&run.stdout, names), ..Attempt::of(Trial::Unhindered) },
        None => Attempt::of(Trial::NotTried("what the library of dnf says cannot be read".to_owned())),
    }
}

fn by_command(live: &Live, names: &[&str]) -> Attempt {
    let words = ["--cacheonly", "install", "--assumeno", "--"].into_iter().chain(names.iter().copied());
    Attempt::of(match asked(live, "dnf", words) {
        Ok(run) => dnf5_trial(&run.stdout, &run.stderr).unwrap_or_else(|| Trial::NotTried(no_answer("dnf", &run))),
        Err(reason) => Trial::NotTried(reason),
    })
}
