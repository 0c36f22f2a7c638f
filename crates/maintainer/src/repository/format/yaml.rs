use super::{DEEPEST, Entry, MOST_VALUES, Node, Unreadable, Value};
use saphyr_parser::{Event, Parser};
use std::collections::HashMap;

/// Something that is being read.
enum Open {
    List(usize, Vec<Node>),
    /// With the key whose value is still to come.
    Map(usize, Vec<Entry>, Option<(String, usize)>),
}

/// The first document of a YAML text.
pub(in super::super) fn yaml(text: &str) -> Result<Node, Unreadable> {
    let mut parser = Parser::new_from_str(text);
    let mut stack: Vec<(Open, usize)> = Vec::new();
    let mut anchors: HashMap<usize, (Node, usize)> = HashMap::new();
    let mut values = 0_usize;
    let too_large = |line, reason: &str| Unreadable { line, reason: reason.to_owned() };
    while let Some(event) = parser.next_event() {
        let (event, span) =
            event.map_err(|error| Unreadable { line: error.marker().line().max(1), reason: error.info().to_owned() })?;
        let line = span.start.line().max(1);
        values += 1;
        let (node, anchor) = match event {
            Event::Scalar(text, _, anchor, _) => (Node { line, value: Value::Text(text.into_owned()) }, anchor),
            Event::SequenceStart(anchor, _) => {
                stack.push((Open::List(line, Vec::new()), anchor));
                if stack.len() > DEEPEST {
                    return Err(too_large(line, "nested too deeply"));
                }
                continue;
            }
            Event::MappingStart(anchor, _) => {
                stack.push((Open::Map(line, Vec::new(), None), anchor));
                if stack.len() > DEEPEST {
                    return Err(too_large(line, "nested too deeply"));
                }
                continue;
            }
            Event::SequenceEnd | Event::MappingEnd => match stack.pop() {
                Some((Open::List(line, items), anchor)) => (Node { line, value: Value::List(items) }, anchor),
                Some((Open::Map(line, entries, _), anchor)) => (Node { line, value: Value::Map(merged(entries)) }, anchor),
                None => continue,
            },
            Event::Alias(of) => {
                let Some((node, size)) = anchors.get(&of) else { continue };
                values = values.saturating_add(*size);
                (node.clone(), 0)
            }
            Event::DocumentEnd => break,
            Event::Nothing | Event::StreamStart | Event::StreamEnd | Event::DocumentStart(_) => continue,
        };
        if values > MOST_VALUES {
            return Err(too_large(line, "it holds more values than are read"));
        }
        if anchor != 0 {
            anchors.insert(anchor, (node.clone(), size(&node)));
        }
        match stack.last_mut() {
            None => return Ok(node),
            Some((Open::List(_, items), _)) => items.push(node),
            Some((Open::Map(_, entries, key), _)) => match key.take() {
                Some((key, line)) => entries.push(Entry { key, line, node }),
                None => *key = Some((node.text().unwrap_or_default().to_owned(), node.line)),
            },
        }
    }
    Ok(Node { line: 1, value: Value::Map(Vec::new()) })
}

fn size(node: &Node) -> usize {
    match &node.value {
        Value::Text(_) => 1,
        Value::List(items) => 1 + items.iter().map(size).sum::<usize>(),
        Value::Map(entries) => 1 + entries.iter().map(|entry| size(&entry.node)).sum::<usize>(),
    }
}

/// `<<` brings the entries of another mapping, where this one has none of that key (YAML's merge key).
fn merged(entries: Vec<Entry>) -> Vec<Entry> {
    if !entries.iter().any(|entry| entry.key == "<<") {
        return entries;
    }
    let (from, mut own): (Vec<Entry>, Vec<Entry>) = entries.into_iter().partition(|entry| entry.key == "<<");
    for other in from {
        let maps = if other.node.items().is_empty() { std::slice::from_ref(&other.node) } else { other.node.items() };
        for entry in maps.iter().flat_map(Node::entries) {
            if !own.iter().any(|one| one.key == entry.key) {
                own.push(entry.clone());
            }
        }
    }
    own
}
