use super::super::format::json;
use super::super::statement_sink::{Read, Source, StatementSink};
use super::java::{line_of, xml};
use setup_ready_core::statement::Confidence::Pinned;

/// `global.json` (its overview in the documentation of .NET): the kit, and how far a newer one may stand for it.
pub(super) fn global(file: &Source<'_>, said: &StatementSink) -> Read {
    let tree = json(file.text)?;
    let Some(entry) = tree.at(&["sdk", "version"]) else { return Ok(()) };
    let Some(version) = entry.node.text() else { return Ok(()) };
    let parts: Vec<u64> = version.split('.').filter_map(|part| part.parse().ok()).collect();
    let [major, minor, patch] = parts.as_slice() else { return Ok(()) };
    let roll = tree.at(&["sdk", "rollForward"]).and_then(|entry| entry.node.text()).unwrap_or("latestPatch");
    let range = match roll {
        "disable" => format!("= {version}"),
        // The hundreds of the last number are a feature band.
        "patch" | "latestPatch" => format!(">= {version}, < {major}.{minor}.{}", (patch / 100 + 1) * 100),
        "feature" | "latestFeature" => format!(">= {version}, < {major}.{}", minor + 1),
        "minor" | "latestMinor" => format!(">= {version}, < {}", major + 1),
        _ => format!(">= {version}"),
    };
    said.tool("dotnet", Pinned, (entry.line, "sdk.version", Some(range)));
    Ok(())
}

/// A project's file of `MSBuild`: the newest framework that it is built for.
pub(super) fn project(file: &Source<'_>, said: &StatementSink) -> Read {
    let document = xml(file.text.trim_start_matches('\u{feff}'))?;
    for node in document.descendants().filter(|node| matches!(node.tag_name().name(), "TargetFramework" | "TargetFrameworks")) {
        let all = node
            .text()
            .unwrap_or_default()
            .split(';')
            .filter_map(|one| one.trim().strip_prefix("net")?.split('-').next()?.split_once('.'));
        let newest = all
            .filter_map(|(major, minor)| Some((major.parse::<u32>().ok()?, minor.parse::<u32>().ok()?)))
            .filter(|(major, _)| *major >= 5)
            .max();
        if let Some((major, minor)) = newest {
            said.tool("dotnet", Pinned, (line_of(node), "TargetFramework", Some(format!(">= {major}.{minor}"))));
        }
    }
    Ok(())
}
