//! The time of an answer by HTTP.

/// Seconds since 1970 of a date such as `Sun, 06 Nov 1994 08:49:37 GMT` (RFC 9110, 5.6.7: the form that must be sent); none for anything else.
pub fn http_date(text: &str) -> Option<i64> {
    const MONTHS: [&str; 12] = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];
    let mut words = text.trim().split_once(", ")?.1.split(' ');
    let day: i64 = words.next()?.parse().ok().filter(|day| (1..=31).contains(day))?;
    let month = words.next().and_then(|word| MONTHS.iter().position(|month| *month == word))?;
    let year: i64 = words.next()?.parse().ok().filter(|year| (1970..=9999).contains(year))?;
    let mut clock = words.next()?.split(':').map(|part| part.parse::<i64>().ok().filter(|part| (0..=60).contains(part)));
    let (hour, minute, second) = (clock.next()??, clock.next()??, clock.next()??);
    if words.next() != Some("GMT") || clock.next().is_some() || hour > 23 || minute > 59 {
        return None;
    }
    let leap = |year: i64| year % 4 == 0 && (year % 100 != 0 || year % 400 == 0);
    let before = i64::try_from(month).ok()?;
    // Days before a month in a year that is no leap year.
    let days_before =
        [0, 31, 59, 90, 120, 151, 181, 212, 243, 273, 304, 334].get(month).copied()? + i64::from(before > 1 && leap(year));
    let past = year - 1970;
    let leaps = (year - 1) / 4 - (year - 1) / 100 + (year - 1) / 400 - (1969 / 4 - 1969 / 100 + 1969 / 400);
    Some(((past * 365 + leaps + days_before + day - 1) * 24 + hour) * 3_600 + minute * 60 + second)
}

#[cfg(test)]
mod tests {
    use super::http_date;
    use rstest::rstest;

    #[rstest]
    #[case::the_example_of_the_standard("Sun, 06 Nov 1994 08:49:37 GMT", Some(784_111_777))]
    #[case::the_beginning("Thu, 01 Jan 1970 00:00:00 GMT", Some(0))]
    #[case::after_a_leap_day("Fri, 01 Mar 2024 00:00:00 GMT", Some(1_709_251_200))]
    #[case::the_end_of_a_century("Thu, 31 Dec 2099 23:59:59 GMT", Some(4_102_444_799))]
    #[case::another_zone("Sun, 06 Nov 1994 08:49:37 CET", None)]
    #[case::no_date("yesterday", None)]
    #[case::no_time("Sun, 06 Nov 1994 99:49:37 GMT", None)]
    fn dates_are_seconds(#[case] text: &str, #[case] seconds: Option<i64>) {
        assert_eq!(http_date(text), seconds);
    }
}
