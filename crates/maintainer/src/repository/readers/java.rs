use super::super::format::Unreadable;
use super::super::statement_sink::{Read, Source, StatementSink};
use roxmltree::{Document, Node, ParsingOptions};
use setup_ready_core::statement::Confidence::{Pinned, Used};
use setup_ready_observe::pinned::ranges::exact_or_series;

/// A text of XML; one that defines its own entities is a stranger's way to make much of little.
pub(super) fn xml(text: &str) -> Result<Document<'_>, Unreadable> {
    let options = ParsingOptions { allow_dtd: false, nodes_limit: 200_000, ..ParsingOptions::default() };
    Document::parse_with_options(text, options)
        .map_err(|error| Unreadable { line: usize::try_from(error.pos().row).unwrap_or(1), reason: error.to_string() })
}

pub(super) fn line_of(node: Node<'_, '_>) -> usize {
    let position = node.document().text_pos_at(node.range().start);
    usize::try_from(position.row).unwrap_or(1)
}

/// `pom.xml` (the reference of the POM): the language's level, and what the enforcer asks for.
pub(super) fn maven(file: &Source<'_>, said: &StatementSink) -> Read {
    let document = xml(file.text)?;
    let all = || document.descendants().filter(Node::is_element);
    if !file.names.has_above(file.path, "pom.xml") {
        said.tool("javac", Pinned, 1);
        if !file.has_beside("mvnw")
            && !all().any(|node| node.has_tag_name(("http://maven.apache.org/POM/4.0.0", "requireMavenVersion")))
        {
            said.tool("mvn", Pinned, 1);
        }
    }
    let property = |name: &str| {
        all()
            .find(|node| {
                node.tag_name().name() == name && node.parent().is_some_and(|parent| parent.tag_name().name() == "properties")
            })
            .and_then(|node| node.text())
    };
    let resolved = |text: &str| match text.trim().strip_prefix("${").and_then(|rest| rest.strip_suffix('}')) {
        Some(name) => property(name).map(|text| text.trim().to_owned()),
        None => Some(text.trim().to_owned()),
    };
    for node in all() {
        let Some(text) = node.text() else { continue };
        let line = line_of(node);
        match node.tag_name().name() {
            "maven.compiler.release" | "maven.compiler.source" => {
                let version = resolved(text).and_then(|text| super::at_least(&level(&text)));
                said.tool("javac", Pinned, (line, "maven.compiler.release", version));
            }
            "version" => {
                let rule = node.parent().map(|parent| parent.tag_name().name());
                let range = resolved(text).and_then(|text| super::maven_range(&text));
                match rule {
                    Some("requireMavenVersion") if !file.has_beside("mvnw") => {
                        said.tool("mvn", Pinned, (line, "requireMavenVersion", range));
                    }
                    Some("requireJavaVersion") => said.tool("java", Pinned, (line, "requireJavaVersion", range)),
                    _ => {}
                }
            }
            _ => {}
        }
    }
    Ok(())
}

/// `1.8` is 8: both are written.
fn level(text: &str) -> String {
    text.strip_prefix("1.").unwrap_or(text).to_owned()
}

/// `build.gradle`, `build.gradle.kts`: the toolchain and the level, where they stand in words that are always written so.
pub(super) fn gradle(file: &Source<'_>, said: &StatementSink) -> Read {
    if !file.has_beside("gradlew")
        && !file.has_beside("gradle/wrapper/gradle-wrapper.properties")
        && !file.names.has_above(file.path, "gradlew")
    {
        said.tool("gradle", Used, 1);
    }
    for (line, text) in (1..).zip(file.text.lines()) {
        let code = text.split("//").next().unwrap_or_default();
        let after = |mark: &str| code.split_once(mark).map(|(_, rest)| rest);
        let digits = |text: &str| text.chars().take_while(|c| c.is_ascii_digit() || *c == '.').collect::<String>();
        if let Some(rest) = after("JavaLanguageVersion.of(") {
            said.tool("javac", Used, (line, "languageVersion", exact_or_series(&digits(rest))));
        } else if code.contains("sourceCompatibility")
            && let Some(rest) = after("JavaVersion.VERSION_").or_else(|| after("="))
        {
            let number = digits(rest.trim().trim_start_matches(['\'', '"']).trim_start_matches("1_").trim_start_matches("1."));
            said.tool("javac", Pinned, (line, "sourceCompatibility", super::at_least(&number)));
        }
    }
    Ok(())
}
