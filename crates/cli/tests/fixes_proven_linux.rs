//! Fixes, judged by a proof that the software does not know: what the person wants to do, typed at their own prompt.
//!
//! Each situation is a throwaway root that is put into it. A person signs in, opens a terminal, checks, does what the plan says, word for word, in
//! a new terminal or after a new sign-in where it says so, and checks again, as often as somebody would. `tools/carry-out-fixes` runs this.

use crate::fixes_e2e::proof::{self, Judged, Situation};
use std::fmt::Write as _;
use std::path::Path;
use std::sync::Mutex;
use std::sync::atomic::{AtomicUsize, Ordering};

const FAMILIES: [(&str, &str); 10] = [
    ("folders", include_str!("fixes_e2e/proven/folders.toml")),
    ("shells", include_str!("fixes_e2e/proven/shells.toml")),
    ("tools", include_str!("fixes_e2e/proven/tools.toml")),
    ("packages", include_str!("fixes_e2e/proven/packages.toml")),
    ("managers", include_str!("fixes_e2e/proven/managers.toml")),
    ("network", include_str!("fixes_e2e/proven/network.toml")),
    ("account", include_str!("fixes_e2e/proven/account.toml")),
    ("checkout", include_str!("fixes_e2e/proven/checkout.toml")),
    ("layers", include_str!("fixes_e2e/proven/layers.toml")),
    ("verdicts", include_str!("fixes_e2e/proven/verdicts.toml")),
];

fn situations() -> Vec<(&'static str, Situation)> {
    let one = |(family, text): &(&'static str, &str)| {
        let mut table: toml::Table = toml::from_str(&each(text)).unwrap_or_else(|error| panic!("{family}: {error}"));
        let list = table.remove("situation").unwrap();
        let list: Vec<Situation> = list.try_into().unwrap_or_else(|error| panic!("{family}: {error}"));
        list.into_iter().map(|situation| (*family, situation)).collect::<Vec<_>>()
    };
    FAMILIES.iter().flat_map(one).collect()
}

/// The text with a situation that is written for several package managers standing there once for each.
fn each(text: &str) -> String {
    let mut parts = text.split("[[situation]]\n");
    let first = parts.next().unwrap_or_default().to_owned();
    parts.fold(first, |mut all, part| {
        let line = part.lines().find(|line| line.starts_with("each = "));
        let managers: Vec<&str> = line.into_iter().flat_map(|line| line.split('"').skip(1).step_by(2)).collect();
        for manager in if managers.is_empty() { vec!["MANAGER"] } else { managers } {
            let _ = write!(all, "[[situation]]\n{}", part.replace("MANAGER", manager));
        }
        all
    })
}

#[test]
fn what_the_plan_says_lets_the_person_do_what_they_want() {
    let situations = situations();
    let wanted = std::env::var("SITUATION").unwrap_or_default();
    // A build server tries every so many, by their place in the list.
    let every: usize = std::env::var("PROVEN_EVERY").map_or(1, |number| number.parse().unwrap());
    let next = AtomicUsize::new(0);
    let judged: Mutex<Vec<(usize, Judged)>> = Mutex::new(Vec::new());
    // Most of the time something is waited for.
    let workers = std::thread::available_parallelism().map_or(2, usize::from) * 4;
    std::thread::scope(|scope| {
        for _ in 0..workers {
            scope.spawn(|| {
                loop {
                    let index = next.fetch_add(1, Ordering::SeqCst);
                    let Some((family, situation)) = situations.get(index) else { break };
                    if !(situation.name.contains(&wanted) || *family == wanted) || !index.is_multiple_of(every) {
                        continue;
                    }
                    let begun = std::time::Instant::now();
                    let outcome = proof::judge(situation);
                    let word = outcome.word();
                    println!(
                        "{word:<9} {family}: {} ({} s){}",
                        situation.name,
                        begun.elapsed().as_secs(),
                        outcome.faults().fold(String::new(), |all, fault| all + "\n            " + fault)
                    );
                    if !wanted.is_empty() {
                        println!("{}", outcome.log);
                    }
                    judged.lock().unwrap().push((index, outcome));
                }
            });
        }
    });
    let mut judged = judged.into_inner().unwrap();
    judged.sort_by_key(|(index, _)| *index);
    let count = |word: &str| judged.iter().filter(|(_, outcome)| outcome.word() == word).count();
    let false_ready = judged.iter().filter(|(_, outcome)| outcome.false_ready).count();
    let sum = |part: fn(&Judged) -> usize| judged.iter().map(|(_, outcome)| part(outcome)).sum::<usize>();
    println!("foretold {}, came {}", sum(|outcome| outcome.foretold), sum(|outcome| outcome.came));
    println!(
        "right {} of {}, wrong {}, not made {}, wrong \"ready\" {false_ready}",
        count("right"),
        judged.len(),
        count("wrong"),
        count("not made")
    );
    assert_eq!(count("not made"), 0, "situations that are not what they say");
    // What the committed page says of each must be so, also where only some are tried.
    let page =
        std::fs::read_to_string(Path::new(env!("CARGO_MANIFEST_DIR")).join("../../docs/reference/proofs.md")).unwrap_or_default();
    let overwrite = std::env::var("SNAPSHOTS").is_ok_and(|action| action == "overwrite");
    if judged.len() == situations.len() {
        snapbox::Assert::new()
            .action_env("SNAPSHOTS")
            .eq(table(&situations, &judged), snapbox::file!("../../../docs/reference/proofs.md").raw());
    } else if !overwrite {
        let differs = |(index, outcome): &&(usize, Judged)| !page.contains(&row(&situations[*index].1, outcome));
        let differing: Vec<&str> = judged.iter().filter(differs).map(|(index, _)| situations[*index].1.name.as_str()).collect();
        assert!(differing.is_empty(), "docs/reference/proofs.md says otherwise: {differing:#?}");
    }
}

/// What held before anything was built for these situations.
fn held_before(name: &str) -> bool {
    include_str!("fixes_e2e/proven/before.tsv").lines().any(|line| line.split_once('\t') == Some(("right", name)))
}

/// The causes that a judge named for a situation before it was compared: one for each requirement that is not met, several with `|` between them,
/// `*` for whatever stands behind, `-` for none.
fn causes_named(name: &str) -> &'static str {
    let lines = include_str!("fixes_e2e/proven/causes.tsv").lines();
    lines.filter_map(|line| line.split_once('\t')).find(|(_, of)| *of == name).map_or("*", |(causes, _)| causes)
}

/// Whether the causes found are those that the judge named.
fn causes_are_right(named: &str, found: &[String]) -> bool {
    let mut found = found.iter();
    for wanted in named.split(',').filter(|wanted| *wanted != "-") {
        if wanted == "*" {
            return true;
        }
        if !found.next().is_some_and(|cause| wanted.split('|').any(|one| one == cause)) {
            return false;
        }
    }
    found.next().is_none()
}

fn row(situation: &Situation, outcome: &Judged) -> String {
    let word = |held: bool| if held { "holds" } else { "fails" };
    let now = if outcome.false_ready { "wrong \"ready\"" } else { word(outcome.word() == "right") };
    let mut causes = outcome.causes.join(", ");
    let named = causes_named(&situation.name);
    if !causes_are_right(named, &outcome.causes) {
        let _ = write!(causes, " (named: {})", named.replace('|', " or ").replace(',', ", "));
    }
    format!("| {} | {causes} | {} | {} | {now} |", situation.name, situation.cure.word(), word(held_before(&situation.name)))
}

fn table(situations: &[(&'static str, Situation)], judged: &[(usize, Judged)]) -> String {
    let of = |family: &str| {
        judged.iter().filter(move |(index, _)| family.is_empty() || situations[*index].0 == family).collect::<Vec<_>>()
    };
    let mut text = "# Proofs: does the plan let the person do what they want?\n\nMade by `tools/carry-out-fixes`; do not edit. Each situation is a small Debian that was put into it, made from what people do to machines and not from what \
        the\nsoftware knows, with a *proof* that the software does not know: what the person wants to do, typed at their own prompt. They sign in, open a terminal, check, do what the plan says word for\nword, in a new terminal \
        or after a new sign-in where it says so, and check again, three times at most.\n\nA situation that *commands* can cure holds where the proof passes then. Where an *administrator* or only the *person* can, it holds where what is so is told \
        and nothing is called ready; where\n*nothing* has to be done, where that is said. A cause is right where it is one that was named for the situation before any was compared (`causes.tsv`).\n*Before* is the program as it was when the list was made. The situations are in\n[`crates/cli/tests/fixes_e2e/proven/`](../../crates/cli/tests/fixes_e2e/proven).\n\n\
        | family | situations | held before | hold now | of those that commands can cure | causes right | wrong \"ready\" now |\n| --- | --- | --- | --- | --- | --- | --- |\n"
        .to_owned();
    let families = FAMILIES.iter().map(|(family, _)| *family);
    for family in families.clone().chain([""]) {
        let all = of(family);
        let right = |one: &&&(usize, Judged)| one.1.word() == "right";
        let curable: Vec<_> = all.iter().filter(|one| situations[one.0].1.cure == proof::Cure::Commands).collect();
        let _ = writeln!(
            text,
            "| {} | {} | {} | {} | {} of {} | {} | {} |",
            if family.is_empty() { "all" } else { family },
            all.len(),
            all.iter().filter(|one| held_before(&situations[one.0].1.name)).count(),
            all.iter().filter(right).count(),
            curable.iter().filter(|one| right(one)).count(),
            curable.len(),
            all.iter().filter(|one| causes_are_right(causes_named(&situations[one.0].1.name), &one.1.causes)).count(),
            all.iter().filter(|one| one.1.false_ready).count()
        );
    }
    let sum = |part: fn(&Judged) -> usize| judged.iter().map(|(_, outcome)| part(outcome)).sum::<usize>();
    let _ = writeln!(
        text,
        "\nOf {} steps it was foretold what they settle; of {} it came so.",
        sum(|outcome| outcome.foretold),
        sum(|outcome| outcome.came)
    );
    for family in families {
        let _ = write!(
            text,
            "\n## {family}\n\n| situation | causes found | what cures it | before | now |\n| --- | --- | --- | --- | --- |\n"
        );
        for (index, outcome) in of(family) {
            let _ = writeln!(text, "{}", row(&situations[*index].1, outcome));
        }
    }
    text
}
