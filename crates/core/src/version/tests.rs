use super::{Range, RangeMatch, RangePosition, Version};
use crate::prelude::*;
use core::cmp::Ordering;
use proptest::prelude::*;
use rstest::rstest;

fn version(text: &str) -> Version {
    Version::parse(text).unwrap()
}

#[rstest]
#[case::numbers("3.9", "3.25")]
#[case::a_build("17.0.15+6", "17.0.15+7")]
#[case::a_build_is_later_than_none("17.0.15", "17.0.15+6")]
#[case::an_update("1.8.0_292", "1.8.0_352")]
#[case::a_letter_is_later("1.1.1", "1.1.1a")]
#[case::letters_in_order("1.1.1a", "1.1.1w")]
#[case::two_letters_after_z("1.0.2z", "1.0.2za")]
#[case::a_candidate("3.11.7rc1", "3.11.7")]
#[case::candidates_in_order("3.11.7b2", "3.11.7rc1")]
#[case::a_development_version("0.9-dev", "0.9")]
#[case::vendors_builds("2.47.3.windows.1", "2.47.3.windows.2")]
#[case::years_with_letters("2023d", "2024a")]
#[case::a_year_and_its_letter("2024", "2024a")]
#[case::an_old_numbering("R13B04", "R14A")]
#[case::an_old_numbering_by_letter("R14A", "R14B")]
#[case::an_old_numbering_by_patch("R14B03", "R14B04")]
#[case::a_number_and_a_letter("59b", "59c")]
#[case::revisions("r1.2", "r1.10")]
#[case::a_leading_v("v20.9.0", "20.20.2")]
#[case::patches("9.0", "9.0p1")]
#[case::patches_by_number("9.0p1", "9.0p2")]
#[case::semantic_pre_releases("1.0.0-alpha", "1.0.0-alpha.1")]
#[case::semantic_pre_releases_by_number("1.0.0-alpha.2", "1.0.0-alpha.11")]
#[case::semantic_pre_releases_by_word("1.0.0-beta.11", "1.0.0-rc.1")]
#[case::dates("2023.9.30", "2023.10.31")]
fn the_second_is_later(#[case] earlier: &str, #[case] later: &str) {
    assert_eq!(version(earlier).compare(&version(later)), Some(Ordering::Less));
    assert_eq!(version(later).compare(&version(earlier)), Some(Ordering::Greater));
}

#[rstest]
#[case::trailing_zeros("3.25", "3.25.0")]
#[case::a_distributions_revision("12.2.0-14+deb12u1", "12.2.0")]
#[case::a_final_word("5.6.15.Final", "5.6.15")]
#[case::a_commits_name("4.4.0.fc8d0ec215ee", "4.4.0")]
#[case::a_commits_name_behind_a_g("4.4.0-gfc8d0ec", "4.4")]
#[case::a_leading_v("v1.2", "1.2")]
fn the_two_are_equal(#[case] a: &str, #[case] b: &str) {
    assert_eq!(version(a).compare(&version(b)), Some(Ordering::Equal));
}

#[rstest]
#[case::two_numberings("r1.2", "1.2")]
#[case::an_unknown_word("1.0-foo", "1.0")]
#[case::two_unknown_words("1.0-foo", "1.0-bar")]
fn the_two_cannot_be_compared(#[case] a: &str, #[case] b: &str) {
    assert_eq!(version(a).compare(&version(b)), None);
    assert_eq!(version(b).compare(&version(a)), None);
}

#[rstest]
#[case(">= 3.25, < 5", "3.25", RangeMatch::Inside)]
#[case(">= 3.25, < 5", "3.22.1", RangeMatch::TooOld)]
#[case(">= 3.25, < 5", "5.0.0-rc1", RangeMatch::TooNew)]
#[case(">= 3.25, < 5", "5.1", RangeMatch::TooNew)]
#[case("< 5.0-rc2", "5.0-rc1", RangeMatch::Inside)]
#[case("3.11.*", "3.11.7", RangeMatch::Inside)]
#[case("3.11.*", "3.12", RangeMatch::TooNew)]
#[case("3.0.*", "3", RangeMatch::Inside)]
#[case("!= 3.26.1, >= 3.25", "3.26.1", RangeMatch::Excluded)]
#[case("!= 3.26.*", "3.26.9", RangeMatch::Excluded)]
#[case(">= 18, < 19 || >= 20", "19.1", RangeMatch::Excluded)]
#[case(">= 18, < 19 || >= 20", "17", RangeMatch::TooOld)]
#[case("= 2.47.3", "2.47.3.windows.1", RangeMatch::Inside)]
#[case("= 17.0.15+6", "17.0.15+7", RangeMatch::TooNew)]
#[case(">= 1.2", "r1.2", RangeMatch::Incomparable)]
#[case(">= 1.1.1", "1.1.1w", RangeMatch::Inside)]
fn ranges_judge_as_people_do(#[case] range: &str, #[case] text: &str, #[case] fit: RangeMatch) {
    assert_eq!(Range::parse(range).unwrap().fit(&version(text)), fit);
}

#[rstest]
#[case::bare("2.30", "write `>= 2.30` or `2.30.*`")]
#[case::bare_and_long("2.30.1", "or `2.30.*`")]
#[case::a_caret("^1.2", "`^` is not a comparator here")]
#[case::two_equal_signs("== 1.2", "`==` is not a comparator here")]
#[case::an_arrow("=> 1.2", "`=>` is not a comparator here")]
#[case::words_behind_it(">= 3.25 or newer", "`3.25 or newer` has; write `>= 3.25`, and between")]
#[case::two_bounds_without_a_comma(">= 3.25 < 5", "`3.25 < 5` has; write `>= 3.25`, and between two bounds a comma")]
#[case::an_amount(">= 16 GB", "`16 GB` has; write `>= 16`")]
#[case::nothing_after_a_comma(">= 1,", "a part of the range is empty")]
#[case::a_word(">= newest", "`newest` is not a version")]
#[case::a_series_with_a_comparator(">= 3.11.*", "goes with = or !=")]
#[case::nothing_can_be_in_it(">= 5, < 3", "nothing is both >= 5 and < 3")]
fn bad_ranges_say_what_to_write(#[case] range: &str, #[case] part: &str) {
    let message = Range::parse(range).unwrap_err().to_string();
    assert!(message.contains(part), "{message}");
}

/// Versions of every family that the module's table names, in one numbering.
fn any_version() -> impl Strategy<Value = String> {
    let release =
        proptest::collection::vec(0_u64..4, 1..4).prop_map(|n| n.iter().map(u64::to_string).collect::<Vec<_>>().join("."));
    let tails = [
        "",
        "a",
        "w",
        "za",
        "p1",
        "p2",
        "rc1",
        "b2",
        "-dev",
        "-alpha",
        "-alpha.2",
        "-beta.1",
        "+6",
        "+7",
        ".windows.1",
        "_352",
        "-14+deb12u1",
        "-14",
        ".Final",
        "rc1+5",
    ];
    (release, proptest::sample::select(tails.to_vec())).prop_map(|(release, tail)| format!("{release}{tail}"))
}

proptest! {
    #[test]
    fn the_order_is_total_and_antisymmetric(a in any_version(), b in any_version()) {
        let (a, b) = (version(&a), version(&b));
        let order = a.compare(&b);
        prop_assert!(order.is_some());
        prop_assert_eq!(order.map(Ordering::reverse), b.compare(&a));
        prop_assert_eq!(a.compare(&a), Some(Ordering::Equal));
    }

    #[test]
    fn the_order_is_transitive(a in any_version(), b in any_version(), c in any_version()) {
        let mut sorted = [version(&a), version(&b), version(&c)];
        sorted.sort_by(|x, y| x.compare(y).unwrap());
        let [low, middle, high] = &sorted;
        prop_assert_ne!(low.compare(middle), Some(Ordering::Greater));
        prop_assert_ne!(middle.compare(high), Some(Ordering::Greater));
        prop_assert_ne!(low.compare(high), Some(Ordering::Greater));
        if low == middle && middle == high { prop_assert_eq!(low.compare(high), Some(Ordering::Equal)); }
    }

    #[test]
    fn a_range_agrees_with_the_order(a in any_version(), b in any_version()) {
        let (at_least, below) = (Range::parse(&format!(">= {b}")).unwrap(), Range::parse(&format!("< {b}")).unwrap());
        let (a, b) = (version(&a), version(&b));
        let inside = at_least.fit(&a) == RangeMatch::Inside;
        if b.build.is_empty() { prop_assert_eq!(inside, a.compare_without_build(&b) != Some(Ordering::Less)); }
        // Never both; and neither only for a pre-release of the bound itself.
        let under = below.fit(&a) == RangeMatch::Inside;
        prop_assert!(!(inside && under));
        prop_assert!(inside || under || a.is_pre_release());
    }

    #[test]
    fn no_text_makes_it_panic(text in "\\PC{0,60}") {
        let _ = Version::parse(&text);
        let _ = Range::parse(&text);
        let _ = super::find(&text, &super::Asked::of("tool"));
    }
}

/// A version of three small numbers, so that all that matter can be tried.
fn grid() -> impl Iterator<Item = Version> {
    (0..12).flat_map(|a| (0..6).flat_map(move |b| (0..3).map(move |c| version(&format!("{a}.{b}.{c}")))))
}

/// Ranges over that grid, and versions that they are held against: 60 pairs.
const RANGES: [&str; 20] = [
    ">= 3.2",
    ">= 3.2, >= 4",
    ">= 4, >= 3.2",
    "> 3.2",
    "> 3.2, >= 3.2",
    "< 5",
    "<= 5, < 5",
    "< 5, < 4.2",
    ">= 3, < 5",
    "= 4.1",
    "3.2.*",
    ">= 10 || >= 8",
    ">= 8 || >= 10",
    "< 3 || < 5",
    ">= 2, < 3 || >= 6, < 7",
    "2.* || 4.* || 6.*",
    "< 2 || > 9",
    "> 2, <= 4 || = 8.1.1",
    ">= 3.1, < 3.4 || >= 5.2.1",
    "<= 1.0.2 || >= 1.1",
];

#[test]
fn the_bound_to_reach_is_the_one_that_trying_everything_finds() {
    let mut pairs = 0;
    for text in RANGES {
        let range = Range::parse(text).unwrap();
        for tried in ["1.1.0", "5.0.0", "11.5.2"].map(version) {
            pairs += 1;
            let will_do: Vec<Version> = grid().filter(|one| range.fit(one) == RangeMatch::Inside).collect();
            let above = will_do.iter().filter(|one| **one > tried).min_by(|a, b| a.partial_cmp(b).unwrap());
            let below = will_do.iter().filter(|one| **one < tried).max_by(|a, b| a.partial_cmp(b).unwrap());
            let miss = match range.judge(&tried) {
                RangePosition::Inside => {
                    assert!(will_do.contains(&tried), "{text} {tried}");
                    continue;
                }
                RangePosition::Outside(miss) => miss,
                RangePosition::Incomparable => panic!("{text} {tried}"),
            };
            let (fit, next) = match (above, below) {
                (Some(above), None) => (RangeMatch::TooOld, above),
                (None, Some(below)) => (RangeMatch::TooNew, below),
                (Some(above), Some(_)) => (RangeMatch::Excluded, above),
                (None, None) => panic!("{text}"),
            };
            assert_eq!(miss.fit, fit, "{text} {tried}");
            let alone = Range::parse(&miss.nearest.to_string()).unwrap();
            let broken = Range::parse(&miss.violated.to_string()).unwrap();
            assert_ne!(broken.fit(&tried), RangeMatch::Inside, "{text} {tried}: {} is not broken", miss.violated);
            // The bound alone lets in, on the side where the way out is, first just what the whole range does.
            let by_bound: Vec<Version> = grid().filter(|one| alone.fit(one) == RangeMatch::Inside).collect();
            let first = if *next > tried {
                by_bound.iter().filter(|one| **one > tried).min_by(|a, b| a.partial_cmp(b).unwrap())
            } else {
                by_bound.iter().filter(|one| **one < tried).max_by(|a, b| a.partial_cmp(b).unwrap())
            };
            assert_eq!(first, Some(next), "{text} {tried}: {}", miss.nearest);
        }
    }
    assert_eq!(pairs, 60);
}
