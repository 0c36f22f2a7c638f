//! Pages in HTML, each one file: no request goes anywhere, and all of it can be read without scripts. What stands in them is escaped by the kept
//! template engine.

use minijinja::{AutoEscape, Environment, context};
use setup_ready_core::text::Sanitised;

/// What all pages look like.
pub const STYLE: &str = include_str!("../templates/style.css");
/// What stands around each.
const FRAME: &str = include_str!("../templates/frame.html");

pub fn clean(text: &str) -> String {
    Sanitised::lines(text).to_string()
}

pub fn command(text: &str) -> String {
    Sanitised::command(text).to_string()
}

/// Why a page could not be made: a fault of this software.
#[derive(Debug, thiserror::Error)]
#[error("the page could not be made: {0}")]
pub struct PageError(String);

/// The texts of a list, with something between them.
fn joined(list: &minijinja::Value, between: &str) -> Result<String, minijinja::Error> {
    Ok(list.try_iter()?.map(|one| one.to_string()).collect::<Vec<_>>().join(between))
}

/// A text whose parts between backticks are shown as code; all of it is escaped.
fn coded(text: &str) -> minijinja::Value {
    let parts: Vec<&str> = text.split('`').collect();
    // An odd one is none.
    let paired = parts.len() % 2 == 1;
    let mut out = String::new();
    for (at, part) in parts.iter().enumerate() {
        let escaped = minijinja::HtmlEscape(part).to_string();
        let (before, after) = match (at % 2 == 1, paired) {
            (true, true) => ("<code>", "</code>"),
            (_, false) if at > 0 => ("`", ""),
            _ => ("", ""),
        };
        out.extend([before, &escaped, after]);
    }
    minijinja::Value::from_safe_string(out)
}

pub fn render(template: &str, values: minijinja::Value) -> Result<String, PageError> {
    let mut environment = Environment::new();
    environment.set_auto_escape_callback(|_| AutoEscape::Html);
    environment.set_trim_blocks(true);
    environment.set_lstrip_blocks(true);
    environment.add_filter("coded", coded);
    environment.add_filter("length", |value: minijinja::Value| value.len());
    environment.add_filter("join", |list: minijinja::Value, between: &str| joined(&list, between));
    let failed = |error: minijinja::Error| PageError(format!("{error:#}"));
    environment.add_template("frame", FRAME).map_err(failed)?;
    environment.add_template("page", template).map_err(failed)?;
    let page = environment.get_template("page").map_err(failed)?;
    page.render(values).map_err(failed)
}

/// A page of these values, with a script of ours.
///
/// # Errors
/// Never, unless this software has a fault.
pub fn page(template: &str, script: &str, values: &serde_json::Value) -> Result<String, PageError> {
    let safe = |text: &str| minijinja::Value::from_safe_string(text.to_owned());
    render(template, context! { style => safe(STYLE), script => safe(script), ..minijinja::Value::from_serialize(values) })
}
