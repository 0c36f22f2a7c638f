//! Remarks of proofreading for programs: JSON of our own, and SARIF 2.1.0 (OASIS) for code hosts.

use crate::Proof;
use serde_json::json;
use setup_ready_core::proofread::{Remark, Rule, Weight};
use setup_ready_forms::sarif::{place, reference, region, written};

/// The remarks as JSON, version 1.
pub fn remarks_json(proof: &Proof, path: &str, text: &str) -> String {
    let one = |remark: &Remark| {
        let (line, column) = remark.position(text);
        let replacements = remark.correction.as_ref().map(|correction| {
            let each =
                |one: &setup_ready_core::proofread::Replacement| json!({ "from": one.span.start, "to": one.span.end, "text": one.text });
            json!({ "says": correction.says, "replacements": correction.replacements.iter().map(each).collect::<Vec<_>>() })
        });
        json!({
            "rule": remark.rule.id(),
            "weight": remark.rule.weight().word(),
            "of": remark.of,
            "line": line,
            "column": column,
            "message": remark.message,
            "newcomers": remark.rule.page().suffers,
            "instead": remark.note.as_deref().unwrap_or(remark.rule.page().right),
            "elsewhere": remark.elsewhere.iter().map(|place| json!({ "file": &*place.file, "line": place.line })).collect::<Vec<_>>(),
            "correction": replacements,
        })
    };
    let files =
        |remark: &crate::FileRemark| json!({ "file": &*remark.place.file, "line": remark.place.line, "reason": remark.reason });
    written(&json!({
        "format": 1,
        "guide": path,
        "remarks": proof.remarks.iter().map(one).collect::<Vec<_>>(),
        "files": proof.files.iter().map(files).collect::<Vec<_>>(),
    }))
}

fn level(weight: Weight) -> &'static str {
    match weight {
        Weight::Heavy => "error",
        Weight::Middling => "warning",
        Weight::Light => "note",
    }
}

/// The remarks as SARIF 2.1.0.
pub fn remarks_sarif(proof: &Proof, path: &str, text: &str) -> String {
    let uri = reference(path);
    let rule = |rule: &Rule| {
        let page = rule.page();
        json!({
            "id": rule.id(),
            "shortDescription": { "text": page.meaning },
            "fullDescription": { "text": format!("{} {}", page.meaning, page.suffers) },
            "help": { "text": page.right },
            "defaultConfiguration": { "level": level(rule.weight()) },
        })
    };
    let result = |remark: &Remark| {
        let said = remark.note.as_deref().unwrap_or(remark.rule.page().right);
        let mut one = json!({
            "ruleId": remark.rule.id(),
            "ruleIndex": Rule::ALL.iter().position(|rule| *rule == remark.rule).unwrap_or(0),
            "level": level(remark.rule.weight()),
            "message": { "text": format!("{}. {said}", remark.message) },
            "locations": [place(&uri, &region(text, &remark.span))],
        });
        if let Some(fields) = one.as_object_mut() {
            if !remark.elsewhere.is_empty() {
                let related = remark.elsewhere.iter().map(|one| place(&reference(&one.file), &json!({ "startLine": one.line })));
                fields.insert("relatedLocations".to_owned(), related.collect());
            }
            if let Some(correction) = &remark.correction {
                let replacement = |one: &setup_ready_core::proofread::Replacement| json!({ "deletedRegion": region(text, &one.span), "insertedContent": { "text": one.text } });
                let changes = json!([{
                    "artifactLocation": { "uri": uri },
                    "replacements": correction.replacements.iter().map(replacement).collect::<Vec<_>>(),
                }]);
                fields.insert(
                    "fixes".to_owned(),
                    json!([{ "description": { "text": correction.says }, "artifactChanges": changes }]),
                );
            }
        }
        one
    };
    written(&json!({
        "version": "2.1.0",
        "runs": [{
            "tool": { "driver": { "name": "setup-ready", "version": env!("CARGO_PKG_VERSION"), "rules": Rule::ALL.iter().map(rule).collect::<Vec<_>>() } },
            "columnKind": "unicodeCodePoints",
            "results": proof.remarks.iter().map(result).collect::<Vec<_>>(),
        }],
    }))
}
