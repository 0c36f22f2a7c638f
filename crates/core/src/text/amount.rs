use crate::prelude::*;
use core::fmt::{self, Display};

/// A number of bytes.
///
/// ```
/// use setup_ready_core::text::Size;
///
/// assert_eq!(Size::parse("1.5 GiB").unwrap(), Size(1_610_612_736));
/// assert_eq!(Size(12_000_000_000).to_string(), "12 GB");
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, serde::Serialize)]
pub struct Size(pub u64);

/// Why a size or a duration could not be read; the text says what to write instead.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[non_exhaustive]
pub enum AmountError {
    /// There is no number in front.
    #[error("`{0}` does not start with a number; write for example `{1}`")]
    NoNumber(String, &'static str),
    /// The unit is not one of ours.
    #[error("`{unit}` is not a unit here; write {known}")]
    Unit {
        /// What stands there.
        unit: String,
        /// The units there are.
        known: &'static str,
    },
    /// The number does not fit.
    #[error("`{0}` is more than can be counted")]
    TooMuch(String),
}

// Decimal prefixes by the SI, binary ones by IEC 80000-13: they mean what they say.
const SIZES: [(&str, u64); 10] = [
    ("B", 1),
    ("kB", 1_000),
    ("KB", 1_000),
    ("MB", 1_000_000),
    ("GB", 1_000_000_000),
    ("TB", 1_000_000_000_000),
    ("KiB", 1 << 10),
    ("MiB", 1 << 20),
    ("GiB", 1 << 30),
    ("TiB", 1 << 40),
];
const DURATIONS: [(&str, u64); 8] = [
    ("ms", 1),
    ("s", 1_000),
    ("sec", 1_000),
    ("m", 60_000),
    ("min", 60_000),
    ("h", 3_600_000),
    ("hour", 3_600_000),
    ("hours", 3_600_000),
];

impl Size {
    /// Reads `12 GB`, `1.5GiB` or `512 MiB`.
    ///
    /// # Errors
    /// When the number or its unit cannot be read.
    pub fn parse(text: &str) -> Result<Self, AmountError> {
        parse(text, &SIZES, "12 GB", "B, kB, MB, GB, TB, KiB, MiB, GiB or TiB").map(Self)
    }
}

impl Display for Size {
    /// Three digits at most, in decimal units, rounded down: `8.26 GB`, `412 MB`.
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let units = [(1_000_000_000_000, "TB"), (1_000_000_000, "GB"), (1_000_000, "MB"), (1_000, "kB")];
        let Some((unit, name)) = units.into_iter().find(|(unit, _)| self.0 >= *unit) else {
            return write!(f, "{} B", self.0);
        };
        let hundredths = u128::from(self.0) * 100 / u128::from(unit);
        let (whole, part) = (hundredths / 100, hundredths % 100);
        match (whole, part) {
            (100.., _) | (_, 0) => write!(f, "{whole} {name}"),
            (10.., _) if part / 10 == 0 => write!(f, "{whole} {name}"),
            (10.., _) => write!(f, "{whole}.{} {name}", part / 10),
            _ if part.is_multiple_of(10) => write!(f, "{whole}.{} {name}", part / 10),
            _ => write!(f, "{whole}.{part:02} {name}"),
        }
    }
}

/// Reads `10 min`, `90 s`, `1.5 h` or `500 ms`; gives milliseconds.
///
/// # Errors
/// When the number or its unit cannot be read.
pub fn parse_duration(text: &str) -> Result<u64, AmountError> {
    parse(text, &DURATIONS, "10 min", "ms, s, min or h")
}

fn parse(text: &str, units: &[(&str, u64)], example: &'static str, known: &'static str) -> Result<u64, AmountError> {
    let text = text.trim();
    let shown: String = text.chars().take(40).collect();
    let end = text.find(|c: char| !c.is_ascii_digit() && c != '.').unwrap_or(text.len());
    let (number, unit) = text.split_at_checked(end).unwrap_or((text, ""));
    let (whole, part) = number.split_once('.').unwrap_or((number, ""));
    if whole.is_empty() || part.contains('.') {
        return Err(AmountError::NoNumber(shown, example));
    }
    let unit = unit.trim();
    let scale = units.iter().find(|(name, _)| *name == unit).map(|(_, scale)| u128::from(*scale));
    let scale = scale.ok_or_else(|| AmountError::Unit { unit: unit.chars().take(20).collect(), known })?;
    let part = part.get(..part.len().min(9)).unwrap_or("");
    let digits = u32::try_from(part.len()).unwrap_or(0);
    let value = |digits: &str| if digits.is_empty() { Some(0) } else { digits.parse::<u64>().ok().map(u128::from) };
    let total = value(whole).zip(value(part)).map(|(whole, part)| whole * scale + part * scale / 10_u128.pow(digits));
    total.and_then(|total| u64::try_from(total).ok()).ok_or(AmountError::TooMuch(shown))
}

#[cfg(test)]
mod tests {
    use super::{Size, parse_duration};
    use crate::prelude::*;
    use proptest::prelude::*;
    use rstest::rstest;

    proptest! {
        #[test]
        fn what_is_shown_is_read_back_as_no_more_and_hardly_less(bytes in any::<u64>()) {
            let shown = Size(bytes).to_string();
            let read = Size::parse(&shown).unwrap().0;
            prop_assert!(read <= bytes && bytes - read <= bytes / 90, "{shown}");
        }

        #[test]
        fn no_text_makes_reading_an_amount_panic(text in "\\PC{0,40}") {
            let _ = (Size::parse(&text), parse_duration(&text));
        }
    }

    #[rstest]
    #[case::decimal("12 GB", 12_000_000_000)]
    #[case::binary("1.5GiB", 1_610_612_736)]
    #[case::bare_bytes("7 B", 7)]
    #[case::fractions_of_a_kilobyte("0.25 kB", 250)]
    fn sizes_mean_what_they_say(#[case] text: &str, #[case] bytes: u64) {
        assert_eq!(Size::parse(text), Ok(Size(bytes)));
    }

    #[rstest]
    #[case::no_unit("12", "is not a unit here")]
    #[case::another_unit("12 gigs", "GiB or TiB")]
    #[case::no_number("much", "does not start with a number")]
    #[case::two_points("1.2.3 GB", "does not start with a number")]
    #[case::more_than_there_is("99999999999999999999 TB", "more than can be counted")]
    fn bad_sizes_say_what_to_write(#[case] text: &str, #[case] part: &str) {
        let message = Size::parse(text).unwrap_err().to_string();
        assert!(message.contains(part), "{message}");
    }

    #[rstest]
    #[case(8_260_000_000, "8.26 GB")]
    #[case(12_000_000_000, "12 GB")]
    #[case(12_340_000_000, "12.3 GB")]
    #[case(412_900_000, "412 MB")]
    #[case(999, "999 B")]
    fn sizes_are_shown_short_and_never_rounded_up(#[case] bytes: u64, #[case] shown: &str) {
        assert_eq!(Size(bytes).to_string(), shown);
    }

    #[rstest]
    #[case("10 min", 600_000)]
    #[case("1.5 h", 5_400_000)]
    #[case("500ms", 500)]
    fn durations_are_milliseconds(#[case] text: &str, #[case] milliseconds: u64) {
        assert_eq!(parse_duration(text), Ok(milliseconds));
    }
}
