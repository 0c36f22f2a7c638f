use super::{Entry, Node, Unreadable, Value, line_at};
use jsonc_parser::ast;
use jsonc_parser::common::Ranged;
use jsonc_parser::{CollectOptions, ParseOptions, parse_to_ast};

/// A JSON text; comments and a comma too many are read over, as the tools do whose settings may have them.
pub(in super::super) fn json(text: &str) -> Result<Node, Unreadable> {
    let text = text.trim_start_matches('\u{feff}');
    let options = ParseOptions {
        allow_comments: true,
        allow_trailing_commas: true,
        allow_loose_object_property_names: false,
        allow_missing_commas: false,
        allow_single_quoted_strings: false,
        allow_hexadecimal_numbers: false,
        allow_unary_plus_numbers: false,
        allow_bare_decimal_point_numbers: false,
        allow_non_finite_numbers: false,
        allow_extended_string_escapes: false,
    };
    let parsed = parse_to_ast(text, &CollectOptions::default(), &options)
        .map_err(|error| Unreadable { line: line_at(text, error.range().start), reason: error.kind().to_string() })?;
    let value = parsed.value.ok_or_else(|| Unreadable { line: 1, reason: "there is nothing in it".to_owned() })?;
    let mut lines = Lines { text, at: 0, line: 1 };
    Ok(node(&value, &mut lines))
}

/// Counts lines while the tree is walked in the order of the text.
struct Lines<'t> {
    text: &'t str,
    at: usize,
    line: usize,
}

impl Lines<'_> {
    fn of(&mut self, offset: usize) -> usize {
        self.line += self.text.get(self.at..offset.max(self.at)).unwrap_or_default().matches('\n').count();
        self.at = offset.max(self.at);
        self.line
    }
}

fn node(value: &ast::Value<'_>, lines: &mut Lines<'_>) -> Node {
    let line = lines.of(value.range().start);
    let value = match value {
        ast::Value::StringLit(text) => Value::Text(text.value.to_string()),
        ast::Value::NumberLit(number) => Value::Text(number.value.to_owned()),
        ast::Value::BooleanLit(flag) => Value::Text(flag.value.to_string()),
        ast::Value::NullKeyword(_) => Value::Text(String::new()),
        ast::Value::Array(list) => Value::List(list.elements.iter().map(|one| node(one, lines)).collect()),
        ast::Value::Object(object) => Value::Map(
            object
                .properties
                .iter()
                .map(|one| {
                    let line = lines.of(one.range.start);
                    Entry { key: one.name.as_str().to_owned(), line, node: node(&one.value, lines) }
                })
                .collect(),
        ),
    };
    Node { line, value }
}
