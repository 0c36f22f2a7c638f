//! JSON Schemas (2020-12) of the guide, the described machine and the report, made from the words that the parsers know and the types that
//! the report is written from. They ship in `schema/`.

use serde_json::{Map, Value, json};
use setup_ready_core::cause::Cause;
use setup_ready_core::guide::vocabulary::{Key, PLACE, PROJECT, PROOFREAD, REQUIREMENT, ROLE, STAGE, Shape, VALUE, needed};
use setup_ready_core::guide::{KINDS, KindKeys};
use setup_ready_observe::vocabulary::TOP;

const DIALECT: &str = "https://json-schema.org/draft/2020-12/schema";

fn document(title: &str, schema: Value) -> Value {
    let mut whole = json!({});
    if let (Value::Object(whole), Value::Object(schema)) = (&mut whole, schema) {
        whole.extend(schema);
        whole.insert("$schema".to_owned(), DIALECT.into());
        whole.insert("title".to_owned(), title.into());
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
            json!({ "oneOf": [port, { "type": "array", "items": port, "minItems": 1 }, { "type": "string", "pattern": "^\\s*[0-9]+\\s*-\\s*[0-9]+\\s*$|^[0-9]+$|^\\{[a-z-]+\\}$" }] })
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
    let alternative = |subject: Key, further: &[Key]| {
        let keys: Vec<Key> = [subject].into_iter().chain(further.iter().copied()).collect();
        json!({ "required": [subject.name], "properties": properties(&keys) })
    };
    let kind = |kind: &KindKeys| {
        let several = kind.several.map(|name| alternative(needed(name, Shape::Texts), kind.further));
        [alternative(kind.subject, kind.further)].into_iter().chain(several)
    };
    let requirement = json!({
        "type": "object",
        "properties": properties(&REQUIREMENT),
        "oneOf": KINDS.iter().flat_map(kind).collect::<Vec<_>>(),
        "unevaluatedProperties": false,
    });
    let schema = json!({
        "type": "object",
        "properties": {
            "format": { "const": 1 },
            "project": table(&PROJECT),
            "value": { "type": "object", "additionalProperties": table(&VALUE) },
            "place": { "type": "object", "additionalProperties": table(&PLACE) },
            "role": { "type": "object", "additionalProperties": table(&ROLE) },
            "stage": { "type": "array", "items": table(&STAGE) },
            "proofread": table(&PROOFREAD),
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

/// The schema of a report, made in the core from the types that it is written from. Fields may be added within a format, so unknown ones are
/// allowed.
pub fn report() -> Value {
    let mut schema = setup_ready_core::report::schema().to_value();
    if let Some(format) = schema.pointer_mut("/properties/format") {
        *format = json!({ "const": 1 });
    }
    document("A report of a preflight, format 1", schema)
}

/// The schema of a recording, made in the core from its types. What was asked and seen is the software's own, and may grow: a reader passes over what it
/// does not know.
pub fn recording() -> Value {
    let mut schema = setup_ready_core::recording::schema().to_value();
    if let Some(format) = schema.pointer_mut("/properties/format") {
        *format = json!({ "const": setup_ready_core::recording::FORMAT });
    }
    document("A recording of a preflight, format 1", schema)
}

#[cfg(test)]
mod tests;
