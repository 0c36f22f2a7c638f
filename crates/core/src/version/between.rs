//! How two ranges stand to each other.
//!
//! What two ranges share, or one has beyond the other, begins at an end of one of them, or just behind it. So it is enough to try those.

use super::{Range, Version};
use crate::prelude::*;

/// As far behind a version as any that people write.
const JUST_BEHIND: &str = ".0.0.0.1";

impl Range {
    /// The versions at which something may begin: nothing at all, each limit, just behind it, and where its series ends.
    fn corners(&self) -> impl Iterator<Item = Version> {
        let limits = self.limits().flat_map(|numbers| {
            let text = |numbers: &[u64]| numbers.iter().map(ToString::to_string).collect::<Vec<_>>().join(".");
            let mut next = numbers.clone();
            if let Some(last) = next.last_mut() {
                *last = last.saturating_add(1);
            }
            [text(&numbers), format!("{}{JUST_BEHIND}", text(&numbers)), text(&next)]
        });
        core::iter::once("0".to_owned()).chain(limits).filter_map(|text| Version::parse(&text).ok())
    }

    /// A version that is in both.
    pub fn shared(&self, other: &Self) -> Option<Version> {
        self.corners().chain(other.corners()).find(|version| self.holds(version) && other.holds(version))
    }

    /// A version that is in this range and not in the other; none where this one lies within it.
    pub fn beyond(&self, other: &Self) -> Option<Version> {
        self.corners().chain(other.corners()).find(|version| self.holds(version) && !other.holds(version))
    }

    /// The range of what is in both; none where nothing is.
    #[must_use]
    pub fn and(&self, other: &Self) -> Option<Self> {
        self.shared(other)?;
        if self.beyond(other).is_none() {
            return Some(self.clone());
        }
        if other.beyond(self).is_none() {
            return Some(other.clone());
        }
        let pairs = self.text().split("||").flat_map(|a| other.text().split("||").map(move |b| (a.trim(), b.trim())));
        let possible: Vec<String> = pairs
            .map(|(a, b)| format!("{a}, {b}"))
            .filter(|text| Self::parse(text).is_ok_and(|one| one.shared(&one).is_some()))
            .collect();
        Self::parse(&possible.join(" || ")).ok()
    }

    /// A version that misses the range in this way, as near to it as people would see; none where none can.
    pub fn missing(&self, fit: super::RangeMatch) -> Option<Version> {
        let text = |numbers: &[u64]| numbers.iter().map(ToString::to_string).collect::<Vec<_>>().join(".");
        let below = self.limits().flat_map(|numbers| {
            // One less at the last place that has something to take: 3.25 gives 3.24, then 2.25.
            (0..numbers.len()).rev().filter_map(move |place| {
                let mut less = numbers.clone();
                let number = less.get_mut(place)?;
                *number = number.checked_sub(1)?;
                Some(text(&less))
            })
        });
        let ends = ["0.0.1", "9999.0"].into_iter().filter_map(|text| Version::parse(text).ok());
        let all = below.filter_map(|text| Version::parse(&text).ok()).chain(self.corners().skip(1)).chain(ends);
        let mut all = all;
        all.find(|version| self.fit(version) == fit)
    }

    fn holds(&self, version: &Version) -> bool {
        self.fit(version) == super::RangeMatch::Inside
    }
}

#[cfg(test)]
mod tests {
    use super::Range;
    use crate::prelude::*;
    use rstest::rstest;

    fn range(text: &str) -> Range {
        Range::parse(text).unwrap()
    }

    #[rstest]
    #[case::a_part(">= 20", ">= 20.11, < 23", Some(">= 20.11, < 23"))]
    #[case::a_series_within(">= 18", "20.*", Some("20.*"))]
    #[case::ends_that_meet("<= 3", ">= 3", Some("<= 3, >= 3"))]
    #[case::ends_that_do_not("< 3", ">= 3", None)]
    #[case::apart("18.*", ">= 20", None)]
    #[case::behind_an_end("> 3", "<= 3.0.1", Some("> 3, <= 3.0.1"))]
    #[case::one_of_two("18.* || 20.*", ">= 19, < 21", Some("20.*, >= 19, < 21"))]
    #[case::but_one("= 3.1", "!= 3.1", None)]
    fn ranges_share_what_both_have(#[case] a: &str, #[case] b: &str, #[case] shared: Option<&str>) {
        assert_eq!(range(a).and(&range(b)).map(|both| both.text().to_owned()).as_deref(), shared);
        assert_eq!(range(b).and(&range(a)).is_some(), shared.is_some());
    }

    #[rstest]
    #[case::lower(">= 1.18", ">= 1.22", Some("1.18"))]
    #[case::higher(">= 3", ">= 2, < 5", Some("5"))]
    #[case::within("20.*", ">= 18, < 23", None)]
    #[case::the_same(">= 18, < 19 || >= 20", ">= 18, < 19 || >= 20", None)]
    #[case::open_below("< 5", ">= 3", Some("0"))]
    fn what_one_has_beyond_the_other_is_found(#[case] a: &str, #[case] b: &str, #[case] found: Option<&str>) {
        assert_eq!(range(a).beyond(&range(b)).map(|version| version.to_string()).as_deref(), found);
    }

    #[rstest]
    #[case::just_below(">= 3.25, < 5", crate::version::RangeMatch::TooOld, Some("3.24"))]
    #[case::just_above(">= 3.25, < 5", crate::version::RangeMatch::TooNew, Some("5"))]
    #[case::nothing_is_above(">= 3.25", crate::version::RangeMatch::TooNew, None)]
    #[case::one_is_ruled_out(">= 3, != 3.4.1", crate::version::RangeMatch::Excluded, Some("3.4.1"))]
    #[case::in_the_gap("1.* || 3.*", crate::version::RangeMatch::Excluded, Some("2"))]
    fn a_version_that_misses_is_near(#[case] text: &str, #[case] fit: crate::version::RangeMatch, #[case] found: Option<&str>) {
        assert_eq!(range(text).missing(fit).map(|version| version.to_string()).as_deref(), found);
    }
}
