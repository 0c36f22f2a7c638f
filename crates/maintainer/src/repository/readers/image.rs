//! What the name of a container's image says.

use setup_ready_observe::pinned::ranges::exact_or_series;

/// Images that are named after what is in them, and the programs.
const IMAGES: [(&str, &[&str]); 19] = [
    ("node", &["node"]),
    ("python", &["python3"]),
    ("golang", &["go"]),
    ("rust", &["rustc"]),
    ("ruby", &["ruby"]),
    ("php", &["php"]),
    ("gcc", &["gcc"]),
    ("maven", &["mvn"]),
    ("gradle", &["gradle"]),
    ("eclipse-temurin", &["java"]),
    ("openjdk", &["java"]),
    ("amazoncorretto", &["java"]),
    ("elixir", &["elixir"]),
    ("erlang", &["erl"]),
    ("dotnet/sdk", &["dotnet"]),
    ("haskell", &["ghc"]),
    ("perl", &["perl"]),
    ("swift", &["swift"]),
    ("composer", &["composer"]),
];

/// Services that builds ask, by their image's name, and the port where they are asked.
const SERVICES: [(&str, u16); 15] = [
    ("postgres", 5432),
    ("postgis", 5432),
    ("mysql", 3306),
    ("mariadb", 3306),
    ("redis", 6379),
    ("valkey", 6379),
    ("memcached", 11211),
    ("mongo", 27017),
    ("rabbitmq", 5672),
    ("elasticsearch", 9200),
    ("opensearch", 9200),
    ("minio", 9000),
    ("nats", 4222),
    ("eclipse-mosquitto", 1883),
    ("cassandra", 9042),
];

/// The name without a registry, and the tag.
fn parts(image: &str) -> (&str, &str) {
    let image = image.split('@').next().unwrap_or(image);
    let slash = image.rfind('/').map_or(0, |at| at + 1);
    let (path, tag) = match image.get(slash..).and_then(|last| last.find(':')) {
        Some(at) => (image.get(..slash + at).unwrap_or(image), image.get(slash + at + 1..).unwrap_or("")),
        None => (image, ""),
    };
    // The last parts, since a registry and its folders may stand in front.
    let name = IMAGES.iter().map(|(name, _)| *name).find(|name| name.contains('/') && path.ends_with(name));
    (name.unwrap_or_else(|| path.rsplit('/').next().unwrap_or(path)), tag)
}

/// The programs that an image is about, with the versions that its tag says.
pub(super) fn programs(image: &str) -> Vec<(&'static str, Option<String>)> {
    let (name, tag) = parts(image);
    let numbered = |text: &str| {
        let number: String = text.chars().take_while(|c| c.is_ascii_digit() || *c == '.').collect();
        exact_or_series(number.trim_end_matches('.'))
    };
    let mut found: Vec<(&'static str, Option<String>)> = IMAGES
        .iter()
        .filter(|(one, _)| *one == name)
        .flat_map(|(_, programs)| programs.iter().map(|program| (*program, numbered(tag))))
        .collect();
    // `maven:3.9-eclipse-temurin-17`: what it runs on stands behind.
    if matches!(name, "maven" | "gradle")
        && let Some(number) = tag.rsplit(['-']).find_map(|part| numbered(part.trim_start_matches("jdk")))
        && tag.contains('-')
    {
        found.push(("java", Some(number)));
    }
    found
}

/// The service that an image is, and its port.
pub(super) fn service(image: &str) -> Option<(&'static str, u16)> {
    let (name, _) = parts(image);
    SERVICES.iter().find(|(one, _)| *one == name).copied()
}

#[cfg(test)]
mod tests {
    use super::{programs, service};
    use rstest::rstest;

    #[rstest]
    #[case::a_tag("node:20-bookworm-slim", "node 20.*")]
    #[case::a_whole_version("golang:1.22.3", "go = 1.22.3")]
    #[case::without_a_tag("python", "python3")]
    #[case::the_newest("rust:latest", "rustc")]
    #[case::a_name_of_a_system("ruby:bookworm", "ruby")]
    #[case::of_a_registry("registry.example:5000/team/node:22", "node 22.*")]
    #[case::with_a_digest("gcc:13@sha256:00ff", "gcc 13.*")]
    #[case::in_a_folder("mcr.example/dotnet/sdk:8.0", "dotnet 8.0.*")]
    #[case::what_it_runs_on("maven:3.9-eclipse-temurin-21", "mvn 3.9.*; java 21.*")]
    #[case::a_kit_by_its_name("gradle:8.7-jdk17", "gradle 8.7.*; java 17.*")]
    #[case::a_name_that_only_ends_so("my-node:20", "")]
    #[case::a_system("debian:12", "")]
    #[case::nothing("", "")]
    fn an_image_says_its_programs(#[case] image: &str, #[case] wanted: &str) {
        let told: Vec<String> = programs(image)
            .into_iter()
            .map(|(program, range)| range.map_or_else(|| program.to_owned(), |range| format!("{program} {range}")))
            .collect();
        assert_eq!(told.join("; "), wanted);
    }

    #[rstest]
    #[case("postgres:16", Some(("postgres", 5432)))]
    #[case("docker.example/library/redis:7-alpine", Some(("redis", 6379)))]
    #[case("postgres-backup:1", None)]
    fn an_image_says_its_service(#[case] image: &str, #[case] wanted: Option<(&str, u16)>) {
        assert_eq!(service(image), wanted);
    }
}
