use super::{Condition, Fact, Facts, Flag, Truth, parse};
use crate::prelude::*;
use proptest::prelude::*;
use rstest::rstest;

/// A Debian guest of which nobody knows whether it is in a virtual machine.
struct Guest;

impl Facts<()> for Guest {
    fn flag(&mut self, flag: Flag) -> Result<Option<bool>, ()> {
        Ok(match flag {
            Flag::Linux | Flag::Wsl => Some(true),
            Flag::VirtualMachine => None,
            Flag::Macos | Flag::Windows | Flag::Container | Flag::Admin | Flag::Ci => Some(false),
        })
    }

    fn values(&mut self, fact: Fact) -> Result<Option<Vec<String>>, ()> {
        Ok(match fact {
            Fact::Distro => Some(vec!["raspbian".into(), "debian".into()]),
            Fact::DistroVersion => Some(vec!["12.4".into()]),
            Fact::Manager => Some(vec!["apt".into(), "brew".into()]),
            Fact::Arch => Some(vec!["aarch64".into()]),
            Fact::OsVersion | Fact::Edition | Fact::Shell => None,
        })
    }
}

#[rstest]
#[case("linux", Truth::True)]
#[case("not linux", Truth::False)]
#[case("virtual-machine", Truth::Unknown)]
#[case("not virtual-machine", Truth::Unknown)]
#[case("linux and wsl", Truth::True)]
#[case("linux and macos", Truth::False)]
#[case("linux and virtual-machine", Truth::Unknown)]
#[case("virtual-machine and linux", Truth::Unknown)]
#[case("macos and virtual-machine", Truth::False)]
#[case("virtual-machine and macos", Truth::False)]
#[case("virtual-machine and virtual-machine", Truth::Unknown)]
#[case("macos or virtual-machine", Truth::Unknown)]
#[case("virtual-machine or linux", Truth::True)]
#[case("linux or virtual-machine", Truth::True)]
#[case("macos or windows", Truth::False)]
#[case("macos and linux or wsl", Truth::True)]
#[case("macos and (linux or wsl)", Truth::False)]
#[case("distro == debian", Truth::True)]
#[case("distro != debian", Truth::False)]
#[case("distro-version >= 12 and distro-version < 13", Truth::True)]
#[case("distro-version > 12.4", Truth::False)]
#[case("manager == brew", Truth::True)]
#[case("os-version >= 5.10", Truth::Unknown)]
#[case("arch == \"aarch64\"", Truth::True)]
fn three_valued_truth(#[case] text: &str, #[case] truth: Truth) {
    assert_eq!(parse(text).unwrap().evaluate(&mut Guest), Ok(truth));
}

#[rstest]
#[case::a_system_compared("os == windows", 0, "a system is named by itself")]
#[case::a_near_word("linux and macso", 10, "did you mean `macos`?")]
#[case::one_equal_sign("arch = x86_64", 5, "write `==`")]
#[case::order_without_order("arch >= x86_64", 5, "has no order")]
#[case::an_open_parenthesis("(linux or macos", 0, "never closed")]
#[case::nothing_after("linux and", 8, "ends where a fact should follow")]
#[case::two_facts("linux macos", 6, "expected `and` or `or`")]
#[case::a_version_that_is_none("os-version >= new", 14, "is not a version")]
fn mistakes_have_a_place(#[case] text: &str, #[case] offset: usize, #[case] part: &str) {
    let error = parse(text).unwrap_err();
    assert_eq!(error.offset, offset);
    assert!(error.message.contains(part), "{}", error.message);
}

#[test]
fn depth_and_length_are_bounded() {
    assert!(parse(&"not ".repeat(60)).unwrap_err().message.contains("deeper than 50"));
    assert!(parse(&"linux or ".repeat(200)).unwrap_err().message.contains("at most 1000"));
}

/// A random condition: as text, as read back from it, and its truth for [`Guest`] by the definition of Kleene's logic.
fn any_condition() -> impl Strategy<Value = (String, Truth)> {
    let leaf = proptest::sample::select(vec![
        ("linux", Truth::True),
        ("macos", Truth::False),
        ("virtual-machine", Truth::Unknown),
        ("distro == debian", Truth::True),
        ("distro-version < 12", Truth::False),
        ("os-version >= 5", Truth::Unknown),
    ]);
    let leaf = leaf.prop_map(|(text, truth)| (text.to_owned(), truth));
    // As numbers, false < unknown < true: and is the least, or the greatest, not turns around.
    let rank = |truth: Truth| [Truth::False, Truth::Unknown, Truth::True].iter().position(|one| *one == truth).unwrap();
    let of = |rank: usize| [Truth::False, Truth::Unknown, Truth::True][rank];
    leaf.prop_recursive(4, 20, 2, move |inner| {
        prop_oneof![
            inner.clone().prop_map(move |(text, truth)| (format!("not ({text})"), of(2 - rank(truth)))),
            (inner.clone(), inner.clone())
                .prop_map(move |(a, b)| (format!("({}) and ({})", a.0, b.0), of(rank(a.1).min(rank(b.1))))),
            (inner.clone(), inner).prop_map(move |(a, b)| (format!("({}) or ({})", a.0, b.0), of(rank(a.1).max(rank(b.1))))),
        ]
    })
}

proptest! {
    #[test]
    fn every_condition_has_the_truth_of_kleenes_logic((text, truth) in any_condition()) {
        let condition: Condition = parse(&text).unwrap();
        prop_assert_eq!(condition.evaluate(&mut Guest), Ok(truth));
    }

    #[test]
    fn no_text_makes_reading_a_condition_panic(text in "[a-z<>=!()\"' .0-9-]{0,60}") {
        if let Err(error) = parse(&text) {
            prop_assert!(error.offset <= text.len() && !error.message.is_empty());
        }
    }
}
