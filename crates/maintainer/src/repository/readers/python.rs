use super::super::format::{Node, toml};
use super::super::statement_sink::{Read, Source, StatementSink};
use setup_ready_core::statement::{
    Confidence::{Pinned, Used},
    Restriction,
};
use setup_ready_observe::pinned::ranges::from_python;

/// `pyproject.toml` (the packaging standard's specification of it): `requires-python`, and what its build backend starts.
pub(super) fn project(file: &Source<'_>, said: &StatementSink) -> Read {
    let tree = toml(file.text)?;
    for path in [&["project", "requires-python"][..], &["tool", "poetry", "dependencies", "python"]] {
        if let Some(entry) = tree.at(path)
            && let Some(range) = entry.node.text().and_then(from_python)
        {
            said.tool("python3", Pinned, (entry.line, "requires-python", Some(range)));
        }
    }
    if tree.at(&["project", "requires-python"]).is_none()
        && tree.at(&["tool", "poetry", "dependencies", "python"]).is_none()
        && let Some(entry) = tree.entry("project").or_else(|| tree.entry("build-system"))
    {
        said.tool("python3", Pinned, (entry.line, "project"));
    }
    let Some(backend) = tree.at(&["build-system", "build-backend"]) else { return Ok(()) };
    let requires = tree.at(&["build-system", "requires"]).map(|entry| entry.node.texts()).unwrap_or_default();
    let needs =
        |names: &[&str]| requires.iter().any(|(one, _)| names.iter().any(|name| one.to_ascii_lowercase().starts_with(name)));
    let how = (backend.line, "build-backend");
    match backend.node.text().unwrap_or_default() {
        "mesonpy" => said.tool("cc", Pinned, how),
        text if text.starts_with("scikit_build_core") => {
            said.tool("c++", Pinned, how);
        }
        "maturin" => {
            said.tool("cargo", Pinned, how);
            said.tool("rustc", Pinned, how);
            said.only(Some(Restriction::When("not windows".to_owned())), || said.tool("cc", Pinned, how));
        }
        text if text.starts_with("setuptools") => {
            if needs(&["setuptools-rust", "setuptools_rust"]) {
                said.tool("cargo", Pinned, how);
                said.tool("rustc", Pinned, how);
            }
            let compiled = tree.at(&["tool", "setuptools", "ext-modules"]).is_some();
            if needs(&["cython", "pybind11", "cffi"]) || compiled {
                said.tool("cc", if compiled { Pinned } else { Used }, how);
            }
        }
        _ => {}
    }
    Ok(())
}

/// `setup.cfg`: `python_requires` of its options.
pub(super) fn setup_cfg(file: &Source<'_>, said: &StatementSink) -> Read {
    let mut section = "";
    for (line, text) in (1..).zip(file.text.lines()) {
        if let Some(name) = text.trim().strip_prefix('[').and_then(|rest| rest.strip_suffix(']')) {
            section = name;
        } else if section == "options"
            && let Some((key, value)) = text.split_once(['=', ':'])
            && key.trim() == "python_requires"
            // The sign that was taken for the one behind the key may belong to the range.
            && let Some(range) = from_python(value.trim())
        {
            said.tool("python3", Pinned, (line, "python_requires", Some(range)));
        }
    }
    Ok(())
}

/// A `Pipfile`: the interpreter's version.
pub(super) fn pipfile(file: &Source<'_>, said: &StatementSink) -> Read {
    let tree = toml(file.text)?;
    let version = tree.at(&["requires", "python_full_version"]).or_else(|| tree.at(&["requires", "python_version"]));
    if let Some(entry) = version {
        said.tool(
            "python3",
            Pinned,
            (entry.line, "python_version", entry.node.text().and_then(setup_ready_observe::pinned::ranges::exact_or_series)),
        );
    }
    let _ = tree.get("packages").map(Node::entries);
    Ok(())
}
