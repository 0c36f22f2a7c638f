use super::{NotAVersion, Version, numbers};
use crate::prelude::*;
use core::cmp::Ordering;
use core::fmt::{self, Display};

/// Which versions will do: `>= 3.25, < 5`, where a comma means *and* and `||` means *or*.
///
/// A bound below (`< 5`) does not admit pre-releases of that very version (`5.0.0-rc1`) unless it names one itself, as PEP 440
/// has it: whoever writes "below 5" means that 5 does not work.
#[derive(Debug, Clone)]
pub struct Range {
    text: String,
    alternatives: Vec<Vec<Comparator>>,
}

#[derive(Debug, Clone)]
struct Comparator {
    operator: Operator,
    bound: Bound,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Operator {
    AtLeast,
    Above,
    AtMost,
    Below,
    Equal,
    Not,
}

#[derive(Debug, Clone)]
enum Bound {
    Version(Version),
    /// `3.11.*`: every version whose release starts with these numbers.
    Series(Vec<u64>),
}

/// How a version stands to a range.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Fit {
    /// It is in the range.
    Inside,
    /// It is below all that would do.
    TooOld,
    /// It is above all that would do.
    TooNew,
    /// It is ruled out by name, or lies in a gap.
    Excluded,
    /// The two cannot be compared.
    Incomparable,
}

/// Why a range cannot be read; the text says what to write instead.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum RangeError {
    /// A version with no comparator.
    #[error("a bare `{0}` means different things to different people; write `>= {0}` or `{1}.*`")]
    Bare(String, String),
    /// A comparator of another ecosystem.
    #[error("`{0}` is not a comparator here; use >=, >, <=, <, = or !=, or a series such as `3.11.*`")]
    Operator(String),
    /// A series under a comparator that has no meaning for it.
    #[error("a series such as `{0}` goes with = or != or nothing, not with `{1}`")]
    Series(String, &'static str),
    /// Nothing stands between two commas or bars.
    #[error("a part of the range is empty; a range is written like `>= 3.25, < 5`")]
    Empty,
    /// No version can satisfy it.
    #[error("no version is in this range: nothing is both {0} and {1}")]
    Impossible(String, String),
    /// What should be a version is none.
    #[error(transparent)]
    Version(#[from] NotAVersion),
    /// Longer than anyone needs.
    #[error("the range is longer than 500 characters")]
    TooLong,
}

impl Range {
    /// Reads a range.
    ///
    /// # Errors
    /// When a part is empty, bare, of another ecosystem, not a version, or when nothing can satisfy it.
    pub fn parse(text: &str) -> Result<Self, RangeError> {
        if text.len() > 500 {
            return Err(RangeError::TooLong);
        }
        let alternatives =
            text.split("||").map(|part| part.split(',').map(Comparator::parse).collect()).collect::<Result<Vec<Vec<_>>, _>>()?;
        alternatives.iter().try_for_each(|all| possible(all))?;
        Ok(Self { text: text.trim().to_owned(), alternatives })
    }

    /// The range as it was written.
    pub fn text(&self) -> &str {
        &self.text
    }

    /// How `version` stands to this range.
    pub fn fit(&self, version: &Version) -> Fit {
        let fits: Vec<Fit> = self.alternatives.iter().map(|all| fit_all(all, version)).collect();
        let every = |fit: Fit| fits.iter().all(|one| *one == fit);
        if fits.contains(&Fit::Inside) {
            Fit::Inside
        } else if fits.contains(&Fit::Incomparable) {
            Fit::Incomparable
        } else if every(Fit::TooOld) {
            Fit::TooOld
        } else if every(Fit::TooNew) {
            Fit::TooNew
        } else {
            Fit::Excluded
        }
    }

    /// The bound that a version breaks which is too old or too new, for a sentence: `3.25`.
    pub fn edge(&self, fit: Fit) -> Option<&str> {
        let wanted: [Operator; 2] = match fit {
            Fit::TooOld => [Operator::AtLeast, Operator::Above],
            Fit::TooNew => [Operator::AtMost, Operator::Below],
            Fit::Inside | Fit::Excluded | Fit::Incomparable => return None,
        };
        self.alternatives.first()?.iter().find(|one| wanted.contains(&one.operator)).and_then(|one| match &one.bound {
            Bound::Version(version) => Some(version.text()),
            Bound::Series(_) => None,
        })
    }
}

impl Display for Range {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(&self.text)
    }
}

impl PartialEq for Range {
    fn eq(&self, other: &Self) -> bool {
        self.text == other.text
    }
}

impl Comparator {
    fn parse(text: &str) -> Result<Self, RangeError> {
        let text = text.trim();
        let end = text.find(|c: char| c.is_alphanumeric() || c.is_whitespace()).unwrap_or(text.len());
        let (sign, version) = text.split_at_checked(end).unwrap_or((text, ""));
        let version = version.trim();
        if sign.is_empty() && version.is_empty() {
            return Err(RangeError::Empty);
        }
        let series = version.strip_suffix(".*");
        let (operator, name) = match sign {
            ">=" => (Operator::AtLeast, ">="),
            ">" => (Operator::Above, ">"),
            "<=" => (Operator::AtMost, "<="),
            "<" => (Operator::Below, "<"),
            "=" => (Operator::Equal, "="),
            "!=" => (Operator::Not, "!="),
            "" if series.is_some() => (Operator::Equal, ""),
            "" => {
                let parsed = Version::parse(version)?;
                let series = version.rsplit_once('.').filter(|_| parsed.release.len() > 2).map_or(version, |(front, _)| front);
                return Err(RangeError::Bare(version.to_owned(), series.to_owned()));
            }
            other => return Err(RangeError::Operator(other.to_owned())),
        };
        let bound = match series {
            None => Bound::Version(Version::parse(version)?),
            Some(_) if !matches!(operator, Operator::Equal | Operator::Not) => {
                return Err(RangeError::Series(version.to_owned(), name));
            }
            Some(front) => match numbers(front) {
                Some((release, "")) => Bound::Series(release),
                _ => return Err(NotAVersion(version.to_owned()).into()),
            },
        };
        Ok(Self { operator, bound })
    }

    fn fit(&self, version: &Version) -> Fit {
        let order = match &self.bound {
            Bound::Version(bound) => match version.compare_to_bound(bound) {
                None => return Fit::Incomparable,
                Some(Ordering::Less) if self.operator == Operator::Below && prepares(version, bound) => return Fit::TooNew,
                Some(order) => order,
            },
            Bound::Series(_) if version.scheme != super::Scheme::Plain => return Fit::Incomparable,
            Bound::Series(front) => front
                .iter()
                .enumerate()
                .map(|(index, number)| version.release.get(index).copied().unwrap_or(0).cmp(number))
                .find(|order| order.is_ne())
                .unwrap_or(Ordering::Equal),
        };
        match (self.operator, order) {
            (Operator::AtLeast, Ordering::Greater | Ordering::Equal)
            | (Operator::Above, Ordering::Greater)
            | (Operator::AtMost, Ordering::Less | Ordering::Equal)
            | (Operator::Below, Ordering::Less)
            | (Operator::Equal, Ordering::Equal)
            | (Operator::Not, Ordering::Less | Ordering::Greater) => Fit::Inside,
            (Operator::Not, Ordering::Equal) => Fit::Excluded,
            (Operator::AtLeast | Operator::Above, _) | (Operator::Equal, Ordering::Less) => Fit::TooOld,
            (Operator::AtMost | Operator::Below, _) | (Operator::Equal, Ordering::Greater) => Fit::TooNew,
        }
    }
}

/// Whether `version` is a pre-release of the release that `bound` names as a whole.
fn prepares(version: &Version, bound: &Version) -> bool {
    version.is_pre_release() && !bound.is_pre_release() && version.release == bound.release
}

fn fit_all(all: &[Comparator], version: &Version) -> Fit {
    let fits: Vec<Fit> = all.iter().map(|one| one.fit(version)).collect();
    // The order decides what is said: a version that is too old and also ruled out is too old.
    let order = [Fit::Incomparable, Fit::TooOld, Fit::TooNew, Fit::Excluded];
    order.into_iter().find(|fit| fits.contains(fit)).unwrap_or(Fit::Inside)
}

/// Refuses `>= 5, < 3`: a guide that says so has its signs the wrong way round.
fn possible(all: &[Comparator]) -> Result<(), RangeError> {
    let versions = |wanted: [Operator; 2]| {
        all.iter().filter_map(move |one| match &one.bound {
            Bound::Version(version) if wanted.contains(&one.operator) => Some((one.operator, version)),
            Bound::Version(_) | Bound::Series(_) => None,
        })
    };
    for (low, from) in versions([Operator::AtLeast, Operator::Above]) {
        for (high, to) in versions([Operator::AtMost, Operator::Below]) {
            let order = from.compare(to);
            let touching = low == Operator::AtLeast && high == Operator::AtMost;
            if order == Some(Ordering::Greater) || (order == Some(Ordering::Equal) && !touching) {
                let sign = |operator| if matches!(operator, Operator::AtLeast | Operator::AtMost) { "=" } else { "" };
                return Err(RangeError::Impossible(format!(">{} {from}", sign(low)), format!("<{} {to}", sign(high))));
            }
        }
    }
    Ok(())
}
