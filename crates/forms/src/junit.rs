//! The XML that build servers read as results of tests (`JUnit`): suites of cases.

use setup_ready_core::text::Sanitised;
use std::fmt::Write;

/// Text within XML 1.0; what it cannot hold at all is left out, and what would act on a terminal or a page is made visible.
pub fn xml(text: &str) -> String {
    let mut out = String::new();
    for c in Sanitised::lines(text).to_string().chars() {
        match c {
            '&' => out.push_str("&amp;"),
            '<' => out.push_str("&lt;"),
            '>' => out.push_str("&gt;"),
            '"' => out.push_str("&quot;"),
            '\t' | '\n' => out.push(c),
            '\u{fffe}' | '\u{ffff}' => {}
            c if c.is_control() => {}
            c => out.push(c),
        }
    }
    out
}

/// What came of a case.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum CaseResult {
    /// It is as it should be.
    Well,
    /// It was left out, for this reason.
    Skipped(String),
    /// It failed: in a line, and in full.
    Failed(String, String),
    /// Nobody knows: in a line, and in full.
    Unknown(String, String),
}

/// One case.
#[derive(Debug)]
pub struct Case {
    pub name: String,
    pub came: CaseResult,
    /// How long it took, in milliseconds.
    pub elapsed_ms_of: u64,
}

fn seconds(ms: u64) -> String {
    format!("{}.{:03}", ms / 1_000, ms % 1_000)
}

/// Suites, as they are written.
#[derive(Debug, Default)]
pub struct Suites {
    text: String,
    tests: usize,
    failures: usize,
    errors: usize,
}

impl Suites {
    /// Adds a suite.
    pub fn add(&mut self, name: &str, cases: &[Case]) {
        let count = |is: fn(&CaseResult) -> bool| cases.iter().filter(|case| is(&case.came)).count();
        let (failures, errors) =
            (count(|came| matches!(came, CaseResult::Failed(..))), count(|came| matches!(came, CaseResult::Unknown(..))));
        let skipped = count(|came| matches!(came, CaseResult::Skipped(_)));
        let (name, took) = (xml(name), seconds(cases.iter().map(|case| case.elapsed_ms_of).sum()));
        self.tests += cases.len();
        self.failures += failures;
        self.errors += errors;
        let out = &mut self.text;
        let _ = writeln!(
            out,
            "  <testsuite name=\"{name}\" tests=\"{}\" failures=\"{failures}\" errors=\"{errors}\" skipped=\"{skipped}\" time=\"{took}\">",
            cases.len()
        );
        for case in cases {
            let took = seconds(case.elapsed_ms_of);
            let _ = write!(out, "    <testcase classname=\"{name}\" name=\"{}\" time=\"{took}\"", xml(&case.name));
            match &case.came {
                CaseResult::Well => out.push_str("/>\n"),
                CaseResult::Skipped(reason) if reason.is_empty() => out.push_str(">\n      <skipped/>\n    </testcase>\n"),
                CaseResult::Skipped(reason) => {
                    let _ = writeln!(out, ">\n      <skipped message=\"{}\"/>\n    </testcase>", xml(reason));
                }
                CaseResult::Failed(message, text) => fault(out, "failure", message, text),
                CaseResult::Unknown(message, text) => fault(out, "error", message, text),
            }
        }
        out.push_str("  </testsuite>\n");
    }

    /// The whole document.
    pub fn document(self, name: &str) -> String {
        let Self { text, tests, failures, errors } = self;
        let counts = format!("tests=\"{tests}\" failures=\"{failures}\" errors=\"{errors}\"");
        format!("<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n<testsuites name=\"{}\" {counts}>\n{text}</testsuites>\n", xml(name))
    }
}

fn fault(out: &mut String, element: &str, message: &str, text: &str) {
    let _ = writeln!(out, ">\n      <{element} message=\"{}\">{}</{element}>\n    </testcase>", xml(message), xml(text));
}
