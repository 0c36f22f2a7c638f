//! The schemas that ship are fresh, and a validator that is not ours reads them: what the software takes they take, what it refuses for its
//! shape they refuse.

use build_setup_ready::demo::{GUIDE, MACHINES};
use build_setup_ready::{Described, Preflight, write};
use rstest::rstest;
use serde_json::Value;
use setup_ready_core::guide;
use setup_ready_core::selection::Selection;
use setup_ready_maintainer::schema;
use snapbox::assert_data_eq;
use snapbox::data::Data;
use std::path::{Path, PathBuf};

fn root() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("../..").canonicalize().unwrap()
}

fn from_toml(text: &str) -> Value {
    let table: toml::Table = text.parse().unwrap();
    serde_json::to_value(table).unwrap()
}

/// What the validator has to say.
fn complaints(schema: &Value, instance: &Value) -> Vec<String> {
    assert!(jsonschema::meta::is_valid(schema));
    let validator = jsonschema::draft202012::new(schema).unwrap();
    validator.iter_errors(instance).map(|error| format!("{}: {error}", error.instance_path)).collect()
}

#[rstest]
#[case::guide("guide", schema::guide())]
#[case::machine("machine", schema::machine())]
#[case::report("report", schema::report())]
#[case::recording("recording", schema::recording())]
fn schemas_that_ship_are_fresh(#[case] name: &str, #[case] schema: Value) {
    let text = format!("{}\n", serde_json::to_string_pretty(&schema).unwrap());
    assert_data_eq!(text, Data::read_from(&root().join(format!("schema/{name}.json")), None));
}

#[test]
fn shipped_guides_and_machines_are_valid() {
    for text in [GUIDE.to_owned(), std::fs::read_to_string(root().join("setup-guide.toml")).unwrap()] {
        assert_eq!(complaints(&schema::guide(), &from_toml(&text)), Vec::<String>::new());
    }
    for machine in MACHINES {
        assert_eq!(complaints(&schema::machine(), &from_toml(machine.text)), Vec::<String>::new(), "{}", machine.name);
    }
}

/// The schema with every object closed, so that a field which it does not know is found.
fn closed(schema: &Value) -> Value {
    match schema {
        Value::Object(fields) => {
            // The facts of causes are put together from parts, which only together are whole.
            let whole = |name: &str, value: &Value| if name == "$defs" { parts_closed(value) } else { closed(value) };
            let mut fields: serde_json::Map<String, Value> =
                fields.iter().map(|(name, value)| (name.clone(), whole(name, value))).collect();
            if fields.get("type") == Some(&Value::from("object")) {
                fields.insert("additionalProperties".into(), Value::from(false));
            }
            Value::Object(fields)
        }
        Value::Array(values) => Value::Array(values.iter().map(closed).collect()),
        other => other.clone(),
    }
}

fn parts_closed(definitions: &Value) -> Value {
    let one =
        |(name, value): (&String, &Value)| (name.clone(), if name.starts_with("Json") { closed(value) } else { value.clone() });
    Value::Object(definitions.as_object().unwrap().iter().map(one).collect())
}

#[test]
fn reports_are_valid_and_have_no_field_that_the_schema_does_not_know() {
    let guide = guide::parse(GUIDE).unwrap();
    let strict = closed(&schema::report());
    for machine in MACHINES {
        for role in [None, Some(0), Some(1), Some(2)] {
            let described = Described::parse(machine.text).unwrap();
            let selection = Selection { role, after_start: true, ..Selection::default() };
            let report = Preflight::new(&guide).select(selection).run(&described).unwrap();
            let mut text = Vec::new();
            write::json(&report, &mut text).unwrap();
            let report: Value = serde_json::from_slice(&text).unwrap();
            assert_eq!(complaints(&strict, &report), Vec::<String>::new(), "{}", machine.name);
        }
    }
}

#[rstest]
#[case::an_unknown_key("tool = \"git\"\nversoin = \">= 2\"")]
#[case::a_key_of_another_kind("tool = \"git\"\nprotocol = \"tcp\"")]
#[case::two_subjects("tool = \"git\"\ncores = 2")]
#[case::no_subject("why = \"So.\"")]
#[case::a_word_that_is_none("memory = \"1 GB\"\nlevel = \"perhaps\"")]
#[case::a_size_without_unit("disk = \"12\"")]
#[case::a_number_in_quotes("cores = \"2\"")]
#[case::an_unknown_cause("cores = 2\n[[require.x.fix]]\nsay = \"So.\"\ncause = \"core-short\"")]
#[case::an_unknown_manager("tool = \"git\"\npackages = { apd = \"git\" }")]
#[case::an_unknown_limit("limit = \"open-flies\"\nat_least = 1")]
fn what_the_software_refuses_for_its_shape_the_schema_refuses_too(#[case] body: &str) {
    let text = format!("format = 1\n[project]\nname = \"Driftbuoy\"\n[require.x]\n{body}\n");
    assert!(guide::parse(&text).is_err());
    assert_ne!(complaints(&schema::guide(), &from_toml(&text)), Vec::<String>::new());
}
