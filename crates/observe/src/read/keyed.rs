//! Keys in files of a project: what stands behind `server.port` in TOML, JSON, YAML and properties.

use setup_ready_core::document;

/// The text or number behind a key, with dots between its parts, and the number of its line; none where it is not there or is neither. The
/// file's name says its format.
pub fn keyed(file: &str, text: &str, key: &str) -> Option<(usize, String)> {
    match file.rsplit_once('.').map_or("", |(_, end)| end) {
        "toml" => toml(text, key),
        "json" => json(text, key),
        "yaml" | "yml" => yaml(text, key),
        "properties" => properties(text, key),
        _ => None,
    }
}

fn line_at(text: &str, offset: usize) -> usize {
    text.bytes().take(offset).filter(|byte| *byte == b'\n').count() + 1
}

fn toml(text: &str, key: &str) -> Option<(usize, String)> {
    let tree = document::parse(text).ok()?;
    let mut table = tree.get_ref();
    let mut parts = key.split('.').peekable();
    while let Some(part) = parts.next() {
        let value = table.get(part)?;
        if parts.peek().is_some() {
            table = value.get_ref().as_table()?;
            continue;
        }
        let line = line_at(text, value.span().start);
        let number = || document::as_number(value.get_ref()).map(|number| number.to_string());
        return value.get_ref().as_str().map(ToOwned::to_owned).or_else(number).map(|text| (line, text));
    }
    None
}

fn json(text: &str, key: &str) -> Option<(usize, String)> {
    let whole: serde_json::Value = serde_json::from_str(text).ok()?;
    let value = key.split('.').try_fold(&whole, |value, part| value.get(part))?;
    // The last part's name is looked for behind those before it: a place for people, not for programs.
    let offset = key.split('.').fold(0, |from, part| {
        let rest = text.get(from..).unwrap_or_default();
        rest.find(&format!("\"{part}\"")).map_or(from, |at| from + at)
    });
    let line = line_at(text, offset);
    match value {
        serde_json::Value::String(text) => Some((line, text.clone())),
        serde_json::Value::Number(number) => Some((line, number.to_string())),
        serde_json::Value::Null | serde_json::Value::Bool(_) | serde_json::Value::Array(_) | serde_json::Value::Object(_) => None,
    }
}

/// Block mappings with plain or quoted scalars, which is how settings are written (YAML 1.2, 8.2.2). What else a file may hold (flow mappings,
/// tags, anchors) is passed over, so a key in it is not found; where something goes on over several lines in a way that is not followed, nothing is.
fn yaml(text: &str, key: &str) -> Option<(usize, String)> {
    let wanted: Vec<&str> = key.split('.').collect();
    // The keys that a line lies in, each with its column.
    let mut path: Vec<(usize, &str)> = Vec::new();
    let mut block: Option<usize> = None;
    let mut found = None;
    for (number, line) in text.lines().enumerate() {
        let content = line.trim_start_matches(' ');
        let column = line.len() - content.len();
        let content = content.trim_end();
        if content.is_empty() || content.starts_with('#') {
            continue;
        }
        if block.is_some_and(|above| column > above) {
            continue;
        }
        block = None;
        if content.starts_with("---") || content.starts_with("...") {
            // Another document may say something else.
            if found.is_some() {
                break;
            }
            path.clear();
            continue;
        }
        while path.last().is_some_and(|(above, _)| *above >= column) {
            path.pop();
        }
        if content == "-" || content.starts_with("- ") {
            // What is in a list has no name: it is passed over as far as it is indented.
            block = Some(column);
            continue;
        }
        if goes_on(entry(content).map_or(content, |(_, value)| value.trim_start())) {
            return None;
        }
        let Some((name, value)) = entry(content) else { continue };
        path.push((column, name));
        let value = value.trim_start();
        if value.starts_with(['|', '>']) {
            block = Some(column);
        }
        let here = path.len() == wanted.len() && path.iter().map(|(_, name)| *name).eq(wanted.iter().copied());
        // Of a key that stands twice, nobody knows which one counts.
        if here && found.replace((number + 1, scalar(value))).is_some() {
            return None;
        }
    }
    found.and_then(|(line, value)| Some((line, value?)))
}

/// Whether a value ends on a later line than it begins.
fn goes_on(value: &str) -> bool {
    let ends = |begin: char, end: char| value.strip_prefix(begin).is_some_and(|rest| !rest.contains(end));
    ends('"', '"') || ends('\'', '\'') || ends('{', '}') || ends('[', ']')
}

/// The key of a mapping's entry and what stands behind the colon.
fn entry(content: &str) -> Option<(&str, &str)> {
    if content.starts_with(['-', '?', '{', '[', '&', '*', '!', '%', '@', '`', '|', '>']) {
        return None;
    }
    for quote in ['"', '\''] {
        if let Some(rest) = content.strip_prefix(quote) {
            let (name, rest) = rest.split_once(quote)?;
            return Some((name, rest.trim_start().strip_prefix(':')?));
        }
    }
    let at = content.find(": ").or_else(|| content.ends_with(':').then(|| content.len() - 1))?;
    Some((content.get(..at)?.trim_end(), content.get(at + 1..)?))
}

/// A plain or quoted scalar on one line; none for anything else.
fn scalar(value: &str) -> Option<String> {
    for quote in ['"', '\''] {
        if let Some(rest) = value.strip_prefix(quote) {
            let (inner, rest) = rest.split_once(quote)?;
            let rest = rest.trim_start();
            return (rest.is_empty() || rest.starts_with('#')).then(|| inner.to_owned()).filter(|inner| !inner.contains('\\'));
        }
    }
    if value.is_empty() || value.starts_with(['{', '[', '&', '*', '!', '|', '>', '#', '%', '@', '`']) {
        return None;
    }
    let plain = value.split_once(" #").map_or(value, |(value, _)| value).trim_end();
    (!plain.contains(": ")).then(|| plain.to_owned())
}

/// `server.port=8080`, also with `:` or a space between (java.util.Properties); the last one wins. A line that goes on is passed over.
fn properties(text: &str, key: &str) -> Option<(usize, String)> {
    let mut found = None;
    let mut goes_on = false;
    for (number, line) in text.lines().enumerate() {
        let line = line.trim_start();
        let continues = core::mem::replace(&mut goes_on, line.ends_with('\\'));
        if continues || line.starts_with(['#', '!']) {
            continue;
        }
        let Some(rest) = line.strip_prefix(key).filter(|rest| rest.is_empty() || rest.starts_with(['=', ':', ' ', '\t'])) else {
            continue;
        };
        let value = rest.trim_start().trim_start_matches(['=', ':']).trim();
        found = Some((number + 1, value.to_owned())).filter(|(_, value)| !value.contains('\\'));
    }
    found
}

#[cfg(test)]
mod tests {
    use super::keyed;
    use rstest::rstest;

    #[rstest]
    #[case::toml("a.toml", "[server]\n# the page\nport = 8080\n", Some((3, "8080")))]
    #[case::toml_with_dots("a.toml", "server.port = \"8080\"\n", Some((1, "8080")))]
    #[case::toml_that_is_none("a.toml", "[server\nport = 8080\n", None)]
    #[case::json("a.json", "{\n \"port\": 1,\n \"server\": { \"port\": 8080 }\n}", Some((3, "8080")))]
    #[case::json_with_a_list("a.json", "{\"server\": {\"port\": [1]}}", None)]
    #[case::yaml("a.yaml", "# x\nserver:\n  name: shore\n  port: 8080 # the page\nother:\n  port: 1\n", Some((4, "8080")))]
    #[case::yaml_quoted("a.yml", "\"server\":\n    'port': '8080'\n", Some((2, "8080")))]
    #[case::yaml_in_a_text("a.yml", "about: |\n  server:\n    port: 1\nserver:\n  port: 8080\n", Some((5, "8080")))]
    #[case::yaml_in_a_list("a.yml", "- server:\n    port: 1\n", None)]
    #[case::yaml_in_a_list_below("a.yml", "server:\n  - name: a\n    port: 1\n", None)]
    #[case::yaml_behind_a_list("a.yml", "all:\n- name: a\n  server: b\nserver:\n  port: 8080\n", Some((5, "8080")))]
    #[case::yaml_in_a_text_in_a_list("a.yml", "- |\n  server:\n    port: 1\nserver:\n  port: 8080\n", Some((5, "8080")))]
    #[case::yaml_in_a_text_in_quotes("a.yml", "server:\n  about: \"say\n  port: 1\n  \"\n", None)]
    #[case::yaml_in_flow_on_lines("a.yml", "other: {\n server:\n  port: 1 }\n", None)]
    #[case::yaml_in_flow("a.yml", "server: { port: 8080 }\n", None)]
    #[case::yaml_twice("a.yml", "server:\n  port: 1\n  port: 2\n", None)]
    #[case::yaml_by_an_anchor("a.yml", "server:\n  port: *standard\n", None)]
    #[case::properties("a.properties", "# server.port=1\nserver.port = 8080\nserver.portal=2\n", Some((2, "8080")))]
    #[case::properties_with_a_colon("a.properties", "server.port: 8080", Some((1, "8080")))]
    #[case::properties_in_a_line_that_goes_on("a.properties", "text=a\\\nserver.port=1\n", None)]
    #[case::another_format("a.ini", "[server]\nport=8080\n", None)]
    fn a_key_is_found_as_its_format_has_it(#[case] file: &str, #[case] text: &str, #[case] expected: Option<(usize, &str)>) {
        assert_eq!(keyed(file, text, "server.port").as_ref().map(|(line, value)| (*line, value.as_str())), expected);
    }
}
