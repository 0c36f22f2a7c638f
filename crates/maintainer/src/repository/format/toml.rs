use super::{Entry, Node, Unreadable, Value, line_at};
use ::toml::Spanned;
use ::toml::de::{DeTable, DeValue};
use setup_ready_core::document;

/// A TOML text.
pub(in super::super) fn toml(text: &str) -> Result<Node, Unreadable> {
    let tree = document::parse(text).map_err(|mistakes| {
        let first = mistakes.first();
        let line = first.map_or(1, |one| line_at(text, one.span.start));
        Unreadable { line, reason: first.map_or_else(String::new, |one| one.message.clone()) }
    })?;
    let starts: Vec<usize> = core::iter::once(0).chain(text.match_indices('\n').map(|(at, _)| at + 1)).collect();
    Ok(Node { line: 1, value: table(tree.get_ref(), &starts) })
}

fn line(offset: usize, starts: &[usize]) -> usize {
    starts.partition_point(|start| *start <= offset)
}

fn table(table: &DeTable<'_>, starts: &[usize]) -> Value {
    let mut entries: Vec<(usize, Entry)> = table
        .iter()
        .map(|(key, value)| {
            let line = line(key.span().start, starts);
            (key.span().start, Entry { key: key.get_ref().to_string(), line, node: node(value, starts) })
        })
        .collect();
    entries.sort_by_key(|(at, _)| *at);
    Value::Map(entries.into_iter().map(|(_, entry)| entry).collect())
}

fn node(value: &Spanned<DeValue<'_>>, starts: &[usize]) -> Node {
    let line = line(value.span().start, starts);
    let value = match value.get_ref() {
        DeValue::String(text) => Value::Text(text.to_string()),
        DeValue::Integer(number) => Value::Text(number.as_str().to_owned()),
        DeValue::Float(number) => Value::Text(number.as_str().to_owned()),
        DeValue::Boolean(flag) => Value::Text(flag.to_string()),
        DeValue::Datetime(date) => Value::Text(date.to_string()),
        DeValue::Array(list) => Value::List(list.iter().map(|one| node(one, starts)).collect()),
        DeValue::Table(inner) => table(inner, starts),
    };
    Node { line, value }
}
