//! What a person must be able to read in a message, from the facts of its finding.

use super::Size;
use std::string::{String, ToString};
use std::vec::Vec;

/// An amount of bytes, as it is written for people.
fn size(bytes: &serde_json::Value) -> Option<String> {
    bytes.as_u64().map(|bytes| Size(bytes).to_string())
}

/// The values that were found, and those that they do not fit, as a message writes them. `facts` is the reason of a finding, serialised.
fn values(facts: &serde_json::Value) -> Vec<String> {
    let plain = ["found", "owner", "encoding", "loaded_from", "branch", "printed", "status", "signal", "number"];
    let amounts = ["usable", "available"];
    let text = |key: &str| facts.get(key).map(|value| value.as_str().map_or_else(|| value.to_string(), ToString::to_string));
    let mut values: Vec<String> = plain.iter().filter_map(|key| text(key)).filter(|value| value != "null").collect();
    values.extend(amounts.iter().filter_map(|key| facts.get(key)).filter_map(size));
    let total = facts.get("total").filter(|_| facts.get("available").is_none());
    values.extend(total.and_then(size));
    // An amount has bytes beside it; a limit has none.
    let is_amount = facts.get("short_by").is_some();
    values.extend(facts.get("available_bytes").filter(|_| is_amount).and_then(size));
    let needed = facts.get("needed").filter(|needed| needed.is_u64() && facts.get("others").is_none());
    values.extend(needed.and_then(|needed| match (facts.get("mode"), is_amount) {
        (Some(_), _) => Some(std::format!("{:o}", needed.as_u64()?)),
        (None, true) => size(needed),
        (None, false) => Some(needed.to_string()),
    }));
    if let Some(mode) = facts.get("mode").and_then(serde_json::Value::as_u64) {
        values.push(std::format!("{mode:o}"));
    }
    values
}

/// Nothing, or what is left out of a message: a value that was found, one that was wanted, or the bound that was not kept.
pub(crate) fn left_out_of(message: &str, facts: &serde_json::Value) -> Vec<String> {
    let mut missing = values(facts);
    missing.retain(|value| !message.contains(value.as_str()));
    let limit = |key: &str| facts.get(key)?.as_str()?.split_whitespace().last().map(ToString::to_string);
    let bounds: Vec<String> = ["violated", "nearest"].iter().filter_map(|key| limit(key)).collect();
    if !bounds.is_empty() && !bounds.iter().any(|bound| message.contains(bound.as_str())) {
        missing.extend(bounds);
    }
    missing
}
