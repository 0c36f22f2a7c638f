//! Moments as reports write them, and the weeks that they lie in.

use crate::prelude::*;

/// A moment, by RFC 3339; other offsets than UTC are not taken into account, since reports are written in it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct Moment {
    /// Days since 1970-01-01.
    pub day: i64,
    /// Seconds since midnight.
    pub second: u32,
}

impl Moment {
    /// Reads a moment such as `2026-11-27T06:27:40Z`.
    pub fn parse(text: &str) -> Option<Self> {
        let number = |from: usize, to: usize| text.get(from..to)?.parse::<u32>().ok();
        let separators = text.as_bytes().get(4) == Some(&b'-') && text.as_bytes().get(7) == Some(&b'-');
        let (year, month, day) = (number(0, 4)?, number(5, 7)?, number(8, 10)?);
        if !separators || !(1..=12).contains(&month) || !(1..=31).contains(&day) {
            return None;
        }
        let second = match (number(11, 13), number(14, 16), number(17, 19)) {
            (Some(hour), Some(minute), Some(second)) if hour < 24 && minute < 60 && second < 61 => {
                hour * 3_600 + minute * 60 + second
            }
            _ => 0,
        };
        Some(Self { day: days(i64::from(year), i64::from(month), i64::from(day)), second })
    }
}

/// Days from 1970-01-01 to a date of the Gregorian calendar. The year is taken to begin in March, so that the day that leap years have is its last.
fn days(year: i64, month: i64, day: i64) -> i64 {
    let year = if month <= 2 { year - 1 } else { year };
    let of_year = (153 * ((month + 9) % 12) + 2) / 5 + day - 1;
    year * 365 + year.div_euclid(4) - year.div_euclid(100) + year.div_euclid(400) + of_year - 719_468
}

/// The date of a day, such as `2026-11-27`: the year is found from 400 years of 146,097 days, which all calendars of the kind repeat.
pub fn date(day: i64) -> String {
    let since_march = day + 719_468;
    let (era, of_era) = (since_march.div_euclid(146_097), since_march.rem_euclid(146_097));
    let year_of_era = (of_era - of_era / 1_460 + of_era / 36_524 - of_era / 146_096) / 365;
    let of_year = of_era - (365 * year_of_era + year_of_era / 4 - year_of_era / 100);
    let month = (5 * of_year + 2) / 153;
    let day = of_year - (153 * month + 2) / 5 + 1;
    let month = if month < 10 { month + 3 } else { month - 9 };
    let year = year_of_era + era * 400 + i64::from(month <= 2);
    format!("{year:04}-{month:02}-{day:02}")
}

/// The week of a day, such as `2026-W48` (ISO 8601: it begins on Monday, and the year's first has its first Thursday).
pub fn week(day: i64) -> String {
    // 1970-01-01 was a Thursday.
    let thursday = day + 3 - (day + 3).rem_euclid(7);
    let mut year = 1970 + thursday.div_euclid(366);
    while days(year + 1, 1, 1) <= thursday {
        year += 1;
    }
    format!("{year:04}-W{:02}", (thursday - days(year, 1, 1)).div_euclid(7) + 1)
}
