use super::{Version, VersionError, numbers};
use crate::prelude::*;
use core::cmp::Ordering;
use core::fmt::{self, Display};
use serde::{Serialize, Serializer};

/// Which versions will do: `>= 3.25, < 5`, where a comma means *and* and `||` means *or*.
///
/// ```
/// use setup_ready_core::version::{RangeMatch, Range, RangePosition, Version};
///
/// let range = Range::parse(">= 18, < 19 || >= 20").unwrap();
/// assert_eq!(range.fit(&Version::parse("v20.11.1").unwrap()), RangeMatch::Inside);
/// let RangePosition::Outside(miss) = range.judge(&Version::parse("17.9").unwrap()) else { panic!() };
/// assert_eq!((miss.fit, miss.nearest.to_string()), (RangeMatch::TooOld, ">= 18".into()));
/// ```
///
/// A bound below (`< 5`) does not admit pre-releases of that very version (`5.0.0-rc1`) unless it names one itself, as PEP 440
/// has it: whoever writes "below 5" means that 5 does not work.
#[derive(Debug, Clone)]
pub struct Range {
    text: String,
    alternatives: Vec<Vec<Bound>>,
}

/// One comparator of a range: `>= 3.25`, or a series such as `3.11.*`.
#[derive(Debug, Clone)]
pub struct Bound {
    sign: Sign,
    limit: Limit,
}

/// How a version must stand to a bound's limit.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Sign {
    /// `>=`
    AtLeast,
    /// `>`
    Above,
    /// `<=`
    AtMost,
    /// `<`
    Below,
    /// `=`, or nothing before a series.
    Equal,
    /// `!=`
    Not,
}

#[derive(Debug, Clone)]
enum Limit {
    Version(Version),
    /// `3.11.*`: every version whose release starts with these numbers.
    Series(Vec<u64>),
}

impl Limit {
    fn numbers(&self) -> &[u64] {
        match self {
            Self::Version(version) => &version.release,
            Self::Series(numbers) => numbers,
        }
    }
}

impl Sign {
    /// As it is written.
    pub fn text(self) -> &'static str {
        match self {
            Self::AtLeast => ">=",
            Self::Above => ">",
            Self::AtMost => "<=",
            Self::Below => "<",
            Self::Equal => "=",
            Self::Not => "!=",
        }
    }
}

impl Display for Bound {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match &self.limit {
            Limit::Series(_) if self.sign == Sign::Equal => f.write_str(&self.limit()),
            Limit::Version(_) | Limit::Series(_) => write!(f, "{} {}", self.sign.text(), self.limit()),
        }
    }
}

impl PartialEq for Bound {
    fn eq(&self, other: &Self) -> bool {
        self.sign == other.sign && self.limit() == other.limit()
    }
}

impl Serialize for Bound {
    fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        serializer.collect_str(self)
    }
}

impl Serialize for Range {
    fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        serializer.collect_str(self)
    }
}

/// How a version stands to a range.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[non_exhaustive]
pub enum RangeMatch {
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

/// How a version stands to a range, with what it breaks.
#[derive(Debug, Clone, PartialEq)]
#[non_exhaustive]
pub enum RangePosition {
    /// It is in the range.
    Inside,
    /// It is not, for this bound.
    Outside(Box<Mismatch>),
    /// The two cannot be compared.
    Incomparable,
}

/// A version that is not in a range.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(schemars::JsonSchema))]
#[non_exhaustive]
pub struct Mismatch {
    /// On which side of what would do it lies: too old, too new, or in a gap.
    #[serde(skip)]
    pub fit: RangeMatch,
    /// The bound that it breaks. Where several alternatives would do, that of the nearest one.
    pub violated: Bound,
    /// The bound to reach. It is another than the broken one only in a gap, where the way out is usually up.
    pub nearest: Bound,
}

/// Why a range cannot be read; the text says what to write instead.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[non_exhaustive]
pub enum RangeError {
    /// A version with no comparator.
    #[error("a bare `{0}` means different things to different people; write `>= {0}` or `{1}.*`")]
    Bare(String, String),
    /// More than a version behind a comparator.
    #[error("a version has no blank in it, and `{0}` has; write `{1}`, and between two bounds a comma (and) or || (or)")]
    Blank(String, String),
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
    Version(#[from] VersionError),
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
            text.split("||").map(|part| part.split(',').map(Bound::parse).collect()).collect::<Result<Vec<Vec<_>>, _>>()?;
        alternatives.iter().try_for_each(|all| possible(all))?;
        Ok(Self { text: text.trim().to_owned(), alternatives })
    }

    /// The range as it was written.
    pub fn text(&self) -> &str {
        &self.text
    }

    /// The range from its lowest version on, without an upper end; none where it has no lower end.
    pub fn upwards(&self) -> Option<Self> {
        let lowest = |all: &Vec<Bound>| {
            let from = all.iter().filter(|one| matches!(one.sign, Sign::AtLeast | Sign::Above | Sign::Equal));
            from.max_by(|a, b| a.order(b)).cloned()
        };
        let bound = self.alternatives.iter().map(lowest).collect::<Option<Vec<Bound>>>()?.into_iter().min_by(Bound::order)?;
        let sign = if bound.sign == Sign::Above { Sign::Above } else { Sign::AtLeast };
        let limit = bound.limit();
        Self::parse(&format!("{} {}", sign.text(), limit.trim_end_matches(".*"))).ok()
    }

    /// The numbers of every limit in it.
    pub(super) fn limits(&self) -> impl Iterator<Item = Vec<u64>> {
        self.alternatives.iter().flatten().map(|bound| bound.limit.numbers().to_vec())
    }

    /// How `version` stands to this range.
    pub fn fit(&self, version: &Version) -> RangeMatch {
        match self.judge(version) {
            RangePosition::Inside => RangeMatch::Inside,
            RangePosition::Outside(miss) => miss.fit,
            RangePosition::Incomparable => RangeMatch::Incomparable,
        }
    }

    /// How `version` stands to this range, with the bound that it breaks.
    ///
    /// A range is a choice (`||`) among conjunctions (`,`). What a version breaks of a conjunction is its strictest bound on that side; of
    /// the whole range it is the bound of the conjunction that is nearest to it, since that is the one to reach.
    pub fn judge(&self, version: &Version) -> RangePosition {
        let mut incomparable = false;
        let (mut old, mut new, mut excluded): (Vec<&Bound>, Vec<&Bound>, Option<&Bound>) = (Vec::new(), Vec::new(), None);
        for all in &self.alternatives {
            match breach(all, version) {
                Breach::None => return RangePosition::Inside,
                Breach::Incomparable => incomparable = true,
                Breach::TooOld(bound) => old.push(bound),
                Breach::TooNew(bound) => new.push(bound),
                Breach::Excluded(bound) => excluded = excluded.or(Some(bound)),
            }
        }
        if incomparable {
            return RangePosition::Incomparable;
        }
        let next_up = old.iter().copied().min_by(|a, b| a.order(b));
        let next_down = new.iter().copied().max_by(|a, b| a.order(b));
        let (fit, violated, nearest) = match (excluded, next_up, next_down) {
            (Some(bound), ..) => (RangeMatch::Excluded, bound, bound),
            // In a gap: the way out is usually up.
            (None, Some(up), Some(down)) => (RangeMatch::Excluded, down, up),
            (None, Some(up), None) => (RangeMatch::TooOld, up, up),
            (None, None, Some(down)) => (RangeMatch::TooNew, down, down),
            (None, None, None) => return RangePosition::Incomparable,
        };
        RangePosition::Outside(Box::new(Mismatch { fit, violated: violated.clone(), nearest: nearest.clone() }))
    }
}

/// What one conjunction holds against a version.
enum Breach<'r> {
    None,
    TooOld(&'r Bound),
    TooNew(&'r Bound),
    Excluded(&'r Bound),
    Incomparable,
}

/// The order decides what is said: a version that is too old and also ruled out is too old. Of several bounds on one side it is the strictest.
fn breach<'r>(all: &'r [Bound], version: &Version) -> Breach<'r> {
    let broken = |fit: RangeMatch| all.iter().filter(move |one| one.fit(version) == fit);
    if broken(RangeMatch::Incomparable).next().is_some() {
        Breach::Incomparable
    } else if let Some(bound) = broken(RangeMatch::TooOld).max_by(|a, b| a.order(b)) {
        Breach::TooOld(bound)
    } else if let Some(bound) = broken(RangeMatch::TooNew).min_by(|a, b| a.order(b)) {
        Breach::TooNew(bound)
    } else if let Some(bound) = broken(RangeMatch::Excluded).next() {
        Breach::Excluded(bound)
    } else {
        Breach::None
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

impl Bound {
    fn parse(text: &str) -> Result<Self, RangeError> {
        let text = text.trim();
        let end = text.find(|c: char| c.is_alphanumeric() || c.is_whitespace()).unwrap_or(text.len());
        let (sign, version) = text.split_at_checked(end).unwrap_or((text, ""));
        let version = version.trim();
        if sign.is_empty() && version.is_empty() {
            return Err(RangeError::Empty);
        }
        if version.contains(char::is_whitespace) {
            let first = version.split_whitespace().next().unwrap_or(version);
            let sign = if sign.is_empty() { ">=" } else { sign };
            return Err(RangeError::Blank(version.to_owned(), format!("{sign} {first}")));
        }
        let series = version.strip_suffix(".*");
        let (comparator, name) = match sign {
            ">=" => (Sign::AtLeast, ">="),
            ">" => (Sign::Above, ">"),
            "<=" => (Sign::AtMost, "<="),
            "<" => (Sign::Below, "<"),
            "=" => (Sign::Equal, "="),
            "!=" => (Sign::Not, "!="),
            "" if series.is_some() => (Sign::Equal, ""),
            "" => {
                let parsed = Version::parse(version)?;
                let series = version.rsplit_once('.').filter(|_| parsed.release.len() > 2).map_or(version, |(front, _)| front);
                return Err(RangeError::Bare(version.to_owned(), series.to_owned()));
            }
            other => return Err(RangeError::Operator(other.to_owned())),
        };
        let limit = match series {
            None => Limit::Version(Version::parse(version)?),
            Some(_) if !matches!(comparator, Sign::Equal | Sign::Not) => {
                return Err(RangeError::Series(version.to_owned(), name));
            }
            Some(front) => match numbers(front) {
                Some((release, "")) => Limit::Series(release),
                _ => return Err(VersionError(version.to_owned()).into()),
            },
        };
        Ok(Self { sign: comparator, limit })
    }

    /// How a version must stand to the limit.
    pub fn sign(&self) -> Sign {
        self.sign
    }

    /// The limit as it was written: `3.25`, or `3.11.*`.
    pub fn limit(&self) -> String {
        match &self.limit {
            Limit::Version(version) => version.text().to_owned(),
            Limit::Series(numbers) => {
                let numbers: Vec<String> = numbers.iter().map(ToString::to_string).collect();
                format!("{}.*", numbers.join("."))
            }
        }
    }

    /// The order along the number line: where one begins to rule out more than the other.
    fn order(&self, other: &Self) -> Ordering {
        let by_limit = match (&self.limit, &other.limit) {
            (Limit::Version(a), Limit::Version(b)) => a.compare(b).unwrap_or(Ordering::Equal),
            (a, b) => a.numbers().cmp(b.numbers()),
        };
        let beyond = |bound: &Self| u8::from(bound.sign == Sign::Above) * 2 + u8::from(bound.sign != Sign::Below);
        by_limit.then_with(|| beyond(self).cmp(&beyond(other)))
    }

    fn fit(&self, version: &Version) -> RangeMatch {
        let order = match &self.limit {
            Limit::Version(bound) => match version.compare_to_bound(bound) {
                None => return RangeMatch::Incomparable,
                Some(Ordering::Less) if self.sign == Sign::Below && prepares(version, bound) => return RangeMatch::TooNew,
                // What is pinned is compared as far as it is written: a patch level that is not written does not count.
                Some(Ordering::Greater)
                    if matches!(self.sign, Sign::Equal | Sign::Not) && bound.is_plain() && version.release == bound.release =>
                {
                    Ordering::Equal
                }
                Some(order) => order,
            },
            Limit::Series(_) if version.scheme != super::Scheme::Plain => return RangeMatch::Incomparable,
            Limit::Series(front) => front
                .iter()
                .enumerate()
                .map(|(index, number)| version.release.get(index).copied().unwrap_or(0).cmp(number))
                .find(|order| order.is_ne())
                .unwrap_or(Ordering::Equal),
        };
        match (self.sign, order) {
            (Sign::AtLeast, Ordering::Greater | Ordering::Equal)
            | (Sign::Above, Ordering::Greater)
            | (Sign::AtMost, Ordering::Less | Ordering::Equal)
            | (Sign::Below, Ordering::Less)
            | (Sign::Equal, Ordering::Equal)
            | (Sign::Not, Ordering::Less | Ordering::Greater) => RangeMatch::Inside,
            (Sign::Not, Ordering::Equal) => RangeMatch::Excluded,
            (Sign::AtLeast | Sign::Above, _) | (Sign::Equal, Ordering::Less) => RangeMatch::TooOld,
            (Sign::AtMost | Sign::Below, _) | (Sign::Equal, Ordering::Greater) => RangeMatch::TooNew,
        }
    }
}

/// Whether `version` is a pre-release of the release that `bound` names as a whole.
fn prepares(version: &Version, bound: &Version) -> bool {
    version.is_pre_release() && !bound.is_pre_release() && version.release == bound.release
}

/// Refuses `>= 5, < 3`: a guide that says so has its signs the wrong way round.
fn possible(all: &[Bound]) -> Result<(), RangeError> {
    let versions = |wanted: [Sign; 2]| {
        all.iter().filter_map(move |one| match &one.limit {
            Limit::Version(version) if wanted.contains(&one.sign) => Some((one.sign, version)),
            Limit::Version(_) | Limit::Series(_) => None,
        })
    };
    for (low, from) in versions([Sign::AtLeast, Sign::Above]) {
        for (high, to) in versions([Sign::AtMost, Sign::Below]) {
            let order = from.compare(to);
            let touching = low == Sign::AtLeast && high == Sign::AtMost;
            if order == Some(Ordering::Greater) || (order == Some(Ordering::Equal) && !touching) {
                let sign = |operator| if matches!(operator, Sign::AtLeast | Sign::AtMost) { "=" } else { "" };
                return Err(RangeError::Impossible(format!(">{} {from}", sign(low)), format!("<{} {to}", sign(high))));
            }
        }
    }
    Ok(())
}
