use super::{Node, Value, json, toml, yaml};
use rstest::rstest;

/// Every text with its line, in order: `a.b=c@2`.
fn told(node: &Node, path: &str, found: &mut Vec<String>) {
    match &node.value {
        Value::Text(text) => found.push(format!("{path}={text}@{}", node.line)),
        Value::List(items) => items.iter().for_each(|item| told(item, &format!("{path}[]"), found)),
        Value::Map(entries) => {
            for entry in entries {
                told(&entry.node, &if path.is_empty() { entry.key.clone() } else { format!("{path}.{}", entry.key) }, found);
            }
        }
    }
}

#[rstest]
#[case::json("{\n\t// why\n\t\"a\": {\"b\": 1,},\n \"c\": [true,\n \"x\"]}", "a.b=1@3 c[]=true@4 c[]=x@5")]
#[case::toml("[a]\nb = 1\n[[c]]\nd = 'x'\n", "a.b=1@2 c[].d=x@4")]
#[case::yaml("a:\n  b: 1\nc: [x,\n  y]\n", "a.b=1@2 c[]=x@3 c[]=y@4")]
#[case::a_block_of_yaml("run: |\n  one\n  two\nnext: '3'\n", "run=one\ntwo\n@2 next=3@4")]
#[case::merged_yaml("base: &b {x: 1, y: 2}\nown:\n  <<: *b\n  y: 3\n", "base.x=1@1 base.y=2@1 own.y=3@4 own.x=1@1")]
#[case::only_the_first_document("a: 1\n---\nb: 2\n", "a=1@1")]
fn every_value_knows_its_line(#[case] text: &str, #[case] wanted: &str) {
    let read = [json, toml, yaml].iter().find_map(|read| read(text).ok()).unwrap();
    let mut found = Vec::new();
    told(&read, "", &mut found);
    assert_eq!(found.join(" "), wanted);
}

#[test]
fn what_grows_without_end_is_refused() {
    let deep = |open: &str, close: &str| format!("{}{}", open.repeat(100_000), close.repeat(100_000));
    assert!(json(&deep("[", "]")).is_err() && yaml(&deep("[", "]")).is_err());
    let laughs: Vec<String> = (1..30).map(|n| format!("a{n}: &a{n} [*a{0}, *a{0}, *a{0}, *a{0}]\n", n - 1)).collect();
    assert!(yaml(&format!("a0: &a0 [x]\n{}", laughs.concat())).unwrap_err().reason.contains("more values"));
}
