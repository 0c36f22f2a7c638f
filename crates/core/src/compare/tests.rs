use super::{Fact, Judged, Side, compare};
use crate::guide::Level;
use crate::prelude::*;
use crate::verdict::Verdict;

/// An id, a verdict, what was found, and what was asked and seen.
type Told<'t> = (&'t str, Verdict, &'t str, &'t [(&'t str, &'t str)]);

fn side(name: &str, judged: &[Told<'_>]) -> Side {
    let one = |(id, verdict, found, evidence): &Told<'_>| Judged {
        id: (*id).into(),
        title: (*id).into(),
        level: Level::Must,
        verdict: *verdict,
        cause: None,
        found: Some((*found).into()),
        message: String::new(),
        evidence: evidence.iter().map(|(asked, saw)| Fact { asked: (*asked).into(), saw: (*saw).into() }).collect(),
    };
    Side {
        name: name.into(),
        machine: Vec::new(),
        judged: judged.iter().map(one).collect(),
        known: None,
        people: Vec::new(),
        groups: Vec::new(),
    }
}

#[test]
fn the_odd_one_out_of_several_is_named_with_what_it_saw() {
    let usual = |name| {
        side(
            name,
            &[
                ("node", Verdict::Met, "20.11.1", &[("node --version", "v20.11.1"), ("system", "Debian")]),
                ("git", Verdict::Met, "2.39", &[]),
            ],
        )
    };
    let odd = side(
        "c",
        &[
            ("node", Verdict::Unmet, "16.0.0", &[("node --version", "v16.0.0"), ("system", "Debian")]),
            ("git", Verdict::Met, "2.43", &[]),
        ],
    );
    let found = compare(None, &[usual("a"), usual("b"), odd]);
    let [one] = found.differences.as_slice() else { panic!("{found:?}") };
    assert_eq!((one.id.as_str(), one.between, one.certain), ("node", (0, 2), false));
    assert_eq!(one.groups.last().map(|group| group.sides.clone()), Some(vec![2]));
    let decides: Vec<_> = one.deciding.iter().map(|one| (one.asked.as_str(), one.usual.as_deref(), one.odd.as_deref())).collect();
    assert_eq!(decides, [("node --version", Some("v20.11.1"), Some("v16.0.0"))]);
    assert_eq!((found.within.len(), found.equal), (1, 0));
}

#[test]
fn the_odd_one_is_put_beside_the_one_that_is_most_like_it() {
    let on = |system: &str, verdict| {
        let mut side = side(system, &[("node", verdict, "20", &[])]);
        side.machine = vec![Fact { asked: "system".into(), saw: system.into() }];
        side
    };
    let all = [
        on("macOS", Verdict::Met),
        on("Linux", Verdict::Met),
        on("Linux", Verdict::Met),
        on("Linux", Verdict::Unmet),
        on("Windows", Verdict::Skipped),
    ];
    let found = compare(None, &all);
    assert_eq!(found.differences.first().map(|one| one.between), Some((1, 3)), "what does not apply explains nothing");
}

#[test]
fn what_only_one_was_checked_for_is_told_and_is_no_difference() {
    let found = compare(None, &[side("a", &[("git", Verdict::Met, "1", &[])]), side("b", &[])]);
    assert!(found.differences.is_empty());
    assert_eq!(
        (found.equal, found.summary().as_str()),
        (0, "Nothing was checked on all 2 machines, and 1 was checked on some only.")
    );
    assert_eq!(found.unchecked.first().map(|one| one.what.as_str()), Some("git"));
}
