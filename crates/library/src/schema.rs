//! JSON Schemas (2020-12) of the guide, the described machine and the report, made from the words that the parsers know and the types that
//! the report is written from. They ship in `schema/`.

use crate::cause::Cause;
use crate::described::vocabulary::TOP;
use crate::finding::Verdict;
use crate::guide::vocabulary::{KINDS, Key, Kind, PROJECT, REQUIREMENT, ROLE, STAGE, Shape};
use crate::guide::{Level, Then};
use serde_json::{Map, Value, json};

const DIALECT: &str = "https://json-schema.org/draft/2020-12/schema";

fn document(title: &str, schema: Value) -> Value {
    let mut whole = json!({ "$schema": DIALECT, "title": title });
    if let (Value::Object(whole), Value::Object(schema)) = (&mut whole, schema) {
        whole.extend(schema);
    }
    whole
}

fn causes() -> Value {
    json!({ "enum": Cause::ALL.iter().map(|cause| cause.word()).collect::<Vec<_>>() })
}

fn shape(shape: &Shape) -> Value {
    let text = json!({ "type": "string" });
    match shape {
        Shape::Text => text,
        Shape::Texts => json!({ "oneOf": [text, { "type": "array", "items": text }] }),
        Shape::Number => json!({ "type": "integer", "minimum": 0 }),
        Shape::Numbers => json!({ "type": "array", "items": { "type": "integer", "minimum": 0 } }),
        Shape::Flag => json!({ "type": "boolean" }),
        Shape::Size => json!({ "type": "string", "pattern": "^\\s*[0-9]+(\\.[0-9]+)?\\s*(B|kB|MB|GB|TB|KiB|MiB|GiB|TiB)\\s*$" }),
        Shape::Duration => json!({ "type": "string", "pattern": "^\\s*[0-9]+(\\.[0-9]+)?\\s*(ms|s|min|h)\\s*$" }),
        Shape::Ports => {
            let port = json!({ "type": "integer", "minimum": 1, "maximum": 65535 });
            json!({ "oneOf": [port, { "type": "array", "items": port, "minItems": 1 }, { "type": "string", "pattern": "^\\s*[0-9]+\\s*-\\s*[0-9]+\\s*$" }] })
        }
        Shape::Word(words) => json!({ "enum": words }),
        Shape::Table(keys) => table(keys),
        Shape::Tables(keys) => json!({ "type": "array", "items": table(keys) }),
        Shape::Map(inner) => json!({ "type": "object", "additionalProperties": self::shape(inner) }),
        Shape::Either(shapes) => json!({ "anyOf": shapes.iter().map(self::shape).collect::<Vec<_>>() }),
        Shape::Named(words) => {
            let properties: Map<String, Value> = words.iter().map(|word| ((*word).to_owned(), text.clone())).collect();
            json!({ "type": "object", "properties": properties, "additionalProperties": false })
        }
    }
}

fn properties(keys: &[Key]) -> Map<String, Value> {
    let one = |key: &Key| {
        let schema = if key.name == "cause" { causes() } else { shape(&key.shape) };
        (key.name.to_owned(), schema)
    };
    keys.iter().map(one).collect()
}

fn required(keys: &[Key]) -> Vec<&'static str> {
    keys.iter().filter(|key| key.needed).map(|key| key.name).collect()
}

fn table(keys: &[Key]) -> Value {
    json!({ "type": "object", "properties": properties(keys), "required": required(keys), "additionalProperties": false })
}

/// The schema of a guide. What a schema cannot say (that names are known, that ranges and conditions can be read, that nothing waits for
/// itself) the software checks itself.
pub fn guide() -> Value {
    let kind = |kind: &Kind| {
        let keys: Vec<Key> = [kind.subject].into_iter().chain(kind.further.iter().copied()).collect();
        json!({ "required": [kind.subject.name], "properties": properties(&keys) })
    };
    let requirement = json!({
        "type": "object",
        "properties": properties(&REQUIREMENT),
        "oneOf": KINDS.iter().map(kind).collect::<Vec<_>>(),
        "unevaluatedProperties": false,
    });
    let schema = json!({
        "type": "object",
        "properties": {
            "format": { "const": 1 },
            "project": table(&PROJECT),
            "role": { "type": "object", "additionalProperties": table(&ROLE) },
            "stage": { "type": "array", "items": table(&STAGE) },
            "require": { "type": "object", "additionalProperties": requirement },
        },
        "required": ["format", "project", "require"],
        "additionalProperties": false,
    });
    document("A setup guide, format 1", schema)
}

/// The schema of a described machine.
pub fn machine() -> Value {
    document("A described machine, format 1", table(TOP))
}

/// The schema of a report. Fields may be added within a format, so unknown ones are allowed.
pub fn report() -> Value {
    let text = json!({ "type": "string" });
    let maybe_text = json!({ "type": ["string", "null"] });
    let texts = json!({ "type": "array", "items": text });
    let number = json!({ "type": "integer", "minimum": 0 });
    let maybe_number = json!({ "type": ["integer", "null"], "minimum": 0 });
    let flag = json!({ "type": "boolean" });
    let then = [Then::NewShell, Then::SignIn, Then::Restart].map(|then| json!(then.word()));
    let maybe_then = json!({ "enum": then.iter().cloned().chain([Value::Null]).collect::<Vec<_>>() });
    let level = json!({ "enum": Level::ALL.map(Level::word) });
    let verdicts = [Verdict::Met, Verdict::Unmet, Verdict::Unknown, Verdict::Blocked, Verdict::Skipped].map(Verdict::word);
    let maybe_edit = json!({ "anyOf": [{ "type": "null" }, object(json!({ "file": text, "append": text }))] });
    let maybe_cause = json!({ "anyOf": [{ "type": "null" }, causes()] });
    let fix = object(json!({
        "say": text, "run": texts, "edit": maybe_edit, "admin": flag, "then": maybe_then, "caution": maybe_text,
        "choice": maybe_text, "download_bytes": maybe_number, "takes_s": maybe_number, "source": { "enum": ["guide", "built-in"] },
    }));
    let requirement = object(json!({
        "id": text, "stage": text, "kind": { "enum": KINDS.map(|kind| kind.subject.name) }, "level": level, "title": text,
        "verdict": { "enum": verdicts }, "cause": maybe_cause, "found": maybe_text, "wanted": maybe_text, "message": text, "why": maybe_text,
        "evidence": { "type": "array", "items": object(json!({ "asked": text, "saw": text })) },
        "blocked_by": texts, "alternatives": texts, "is_alternative": flag,
        "fixes": { "type": "array", "items": fix }, "elapsed_ms": number,
    }));
    let step = object(json!({
        "say": text, "run": texts, "edit": maybe_edit, "settles": texts, "level": level, "admin": flag, "then": maybe_then, "caution": maybe_text,
        "choice": maybe_text, "download_bytes": maybe_number, "takes_s": maybe_number,
    }));
    let machine = object(json!({
        "source": { "enum": ["live", "described", "recording"] }, "name": maybe_text, "os": maybe_text, "os_version": maybe_text,
        "distro": maybe_text, "distro_version": maybe_text, "arch": maybe_text, "flags": texts,
    }));
    let counts = object(json!({ "met": number, "unmet": number, "unknown": number, "blocked": number, "skipped": number }));
    let schema = object(json!({
        "format": { "const": 1 }, "software": text, "project": text, "guide": object(json!({ "path": maybe_text, "sha256": maybe_text })),
        "machine": machine, "role": maybe_text, "started": { "type": "string", "format": "date-time" }, "elapsed_ms": number,
        "outcome": { "enum": ["ready", "not-ready", "undecided"] }, "interrupted": flag, "counts": counts,
        "requirements": { "type": "array", "items": requirement },
        "plan": object(json!({
            "steps": { "type": "array", "items": step }, "download_bytes": number, "takes_s": number, "steps_of_unknown_cost": number,
            "then": { "type": "array", "items": { "enum": then } },
        })),
    }));
    document("A report of a preflight, format 1", schema)
}

#[allow(clippy::needless_pass_by_value, reason = "calls read like the objects that they describe")]
/// An object whose fields are all there.
fn object(properties: Value) -> Value {
    let names: Vec<String> = properties.as_object().map(|properties| properties.keys().cloned().collect()).unwrap_or_default();
    json!({ "type": "object", "properties": properties, "required": names })
}

#[cfg(test)]
mod tests;
