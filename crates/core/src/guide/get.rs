//! Where newcomers get the program that reads the guide, and which release of it the guide needs.

use super::vocabulary::{GET, Key};
use crate::document::{Fields, shortened};
use crate::manager::Manager;
use crate::observation::Os;
use crate::prelude::*;
use crate::problem::{Problem, ProblemKind};
use crate::version::{Range, RangePosition, Version};

/// This release of the software.
pub const RELEASE: &str = env!("CARGO_PKG_VERSION");

/// A way to get the program.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct GetWay {
    /// The system it is for (`linux`), or what it is installed with (`pip`); none where it is a page for everybody.
    pub with: Option<&'static str>,
    /// A command, or the address of a page.
    pub line: String,
}

impl GetWay {
    /// Whether somebody on this system can go this way; where the system is not known, anybody may.
    pub fn fits(&self, os: Option<Os>) -> bool {
        let Some(with) = self.with else { return true };
        let system = Os::from_word(with).or_else(|| Manager::from_word(with).map(Manager::system));
        system.zip(os).is_none_or(|(system, os)| system == os)
    }

    /// What it is for, as people call it: a system's name, or the installer's word.
    pub fn title(&self) -> Option<&'static str> {
        self.with.map(|with| Os::from_word(with).map_or(with, Os::name))
    }

    /// Whether it is the address of a page, and nothing to type.
    pub fn is_page(&self) -> bool {
        self.line.starts_with("https://") || self.line.starts_with("http://")
    }
}

/// Reads `get` of `[project]`: one page, or a line for each system or installer.
pub(super) fn read(project: &Fields<'_>) -> Vec<GetWay> {
    if !project.is_table("get") {
        return project.one_line("get").map(|line| GetWay { with: None, line }).into_iter().collect();
    }
    let Some(fields) = project.table("get", "project.get") else { return Vec::new() };
    let line = |key: &Key| fields.one_line(key.name).map(|line| GetWay { with: Some(key.name), line });
    let ways = GET.iter().filter_map(line).collect();
    fields.finish(|_| None);
    ways
}

/// Reads `needs` of `[project]`: the releases of this software that understand the guide.
pub(super) fn read_needs(project: &Fields<'_>) -> Option<Range> {
    project.read("needs", Range::parse)
}

/// Whether this release understands the guide. Where it does not, whatever else is in the guide may be right, so only that is reported, with the
/// ways to get another release.
pub(super) fn check_needs(top: &Fields<'_>) -> bool {
    let Some(project) = top.raw("project").and_then(|value| value.get_ref().as_table()) else { return true };
    let text = |key: &str| project.get(key).and_then(|value| value.get_ref().as_str().map(|text| (text, value.span())));
    let Some((needs, span)) = text("needs") else { return true };
    let (Ok(range), Ok(release)) = (Range::parse(needs), Version::parse(RELEASE)) else { return true };
    if matches!(range.judge(&release), RangePosition::Inside) {
        return true;
    }
    let message = format!("this guide needs release {} of this software, and this is {RELEASE}", shortened(range.text()));
    let mut ways: Vec<String> = text("get").map(|(page, _)| page.to_owned()).into_iter().collect();
    if let Some(table) = project.get("get").and_then(|value| value.get_ref().as_table()) {
        let line = |key: &Key| Some(format!("{}: {}", key.name, table.get(key.name)?.get_ref().as_str()?));
        ways.extend(GET.iter().filter_map(line));
    }
    let how = if ways.is_empty() { "the guide does not say where; ask the project".to_owned() } else { ways.join("; ") };
    top.problems().add(Problem {
        kind: ProblemKind::Needs,
        span,
        message,
        note: Some(format!("to get another release: {how}")),
        replacement: None,
    });
    false
}

#[cfg(test)]
mod tests {
    use crate::guide::parse;
    use crate::observation::Os;
    use crate::prelude::*;
    use rstest::rstest;

    fn guide(project: &str) -> String {
        format!("format = 1\n[project]\nname = \"Driftbuoy\"\n{project}\n[require.git]\ntool = \"git\"\n")
    }

    #[rstest]
    #[case::a_page("get = \"https://driftbuoy.example/get\"", "to get another release: https://driftbuoy.example/get")]
    #[case::ways("get = { windows = \"a\", pip = \"b\" }", "to get another release: windows: a; pip: b")]
    #[case::nothing("", "to get another release: the guide does not say where; ask the project")]
    fn a_guide_for_a_newer_release_says_how_to_get_it_and_nothing_else(#[case] get: &str, #[case] note: &str) {
        let text = guide(&format!("needs = \">= 99\"\nunheard_of = 1\n{get}"));
        let mistakes = parse(&text).unwrap_err();
        let said = format!("this guide needs release >= 99 of this software, and this is {}", super::RELEASE);
        assert_eq!((mistakes.count(), mistakes[0].message.as_str(), mistakes[0].note.as_deref()), (1, said.as_str(), Some(note)));
    }

    #[rstest]
    #[case::enough("needs = \">= 0.1\"", true)]
    #[case::no_range("needs = \"new\"", false)]
    #[case::an_unknown_way("get = { carrier-pigeon = \"b\" }", false)]
    fn what_is_needed_is_read(#[case] project: &str, #[case] is_right: bool) {
        assert_eq!(parse(&guide(project)).is_ok(), is_right, "{:?}", parse(&guide(project)).err());
    }

    #[rstest]
    #[case::everybody("get = \"https://driftbuoy.example\"", Os::Linux, 1)]
    #[case::of_this_system("get = { linux = \"a\", windows = \"b\" }", Os::Linux, 1)]
    #[case::of_its_managers("get = { apt = \"a\", winget = \"b\", pip = \"c\" }", Os::Windows, 2)]
    fn ways_are_those_of_a_system(#[case] project: &str, #[case] os: Os, #[case] count: usize) {
        let guide = parse(&guide(project)).unwrap();
        assert_eq!(guide.project.get.iter().filter(|way| way.fits(Some(os))).count(), count);
    }
}
