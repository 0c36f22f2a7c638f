//! The manager of Node tools whose pins lie in `package.json`.

use super::{Live, ShimTarget, is_version, nearest, place};
use serde_json::Value;
use std::path::Path;

pub(super) fn stand(live: &Live, path: &Path, real: &Path, name: &str) -> Option<ShimTarget> {
    // Each name leads to one program, `MANAGER-shim`, and the versions lie in `tools/image` beside it.
    let root = path.parent().filter(|folder| folder.ends_with("bin"))?.parent().filter(|root| !live.project.holds(root))?;
    let manager = real.file_stem()?.to_str()?.strip_suffix("-shim")?;
    if !root.join("tools/image").is_dir() {
        return None;
    }
    let tool = match name {
        "node" | "npm" | "npx" => "node",
        "yarn" => "yarn",
        _ => return Some(ShimTarget::Unclear),
    };
    // An own version of npm is kept elsewhere.
    let of_project =
        nearest(live, "package.json").and_then(|(text, place)| Some((serde_json::from_str::<Value>(&text).ok()?, place)));
    let of_project = of_project.and_then(|(value, place)| Some((value.get(manager)?.clone(), place.display().to_string())));
    let own = root.join("tools/user/platform.json");
    let own_value = || serde_json::from_str::<Value>(&place::text(&own).ok()?).ok();
    let (version, said_in) = match &of_project {
        Some((pins, _)) if pins.get("extends").is_some() || pins.get("npm").is_some() => return Some(ShimTarget::Unclear),
        Some((pins, place)) if pins.get(tool).is_some() => (pins.get(tool).cloned(), place.clone()),
        _ => {
            let platform = own_value().unwrap_or_default();
            let node = platform.get("node").cloned().unwrap_or_default();
            if node.get("npm").is_some_and(|npm| !npm.is_null()) && name != "node" && tool == "node" {
                return Some(ShimTarget::Unclear);
            }
            let version = if tool == "node" { node.get("runtime").cloned() } else { platform.get(tool).cloned() };
            (version, own.display().to_string())
        }
    };
    let version = version.as_ref().and_then(Value::as_str).map(ToOwned::to_owned);
    Some(match version {
        Some(version) if !is_version(&version) => ShimTarget::Unclear,
        Some(version) => {
            let file = root.join("tools/image").join(tool).join(&version).join("bin").join(name);
            if file.is_file() { ShimTarget::For(file) } else { ShimTarget::Absent(format!("{tool} {version}"), said_in) }
        }
        None => ShimTarget::Absent(format!("{name}: no version of {tool} is chosen"), said_in),
    })
}
