use setup_ready_core::guide;
use setup_ready_core::guide::KINDS;
use setup_ready_core::guide::vocabulary::{FIX, Key, PROJECT, REQUIREMENT, ROLE, STAGE, Shape};
use setup_ready_core::problem::{GuideError, ProblemKind};
use setup_ready_observe::Described;
use setup_ready_observe::vocabulary::TOP;

/// A value of a shape, written in TOML on one line.
fn sample(shape: &Shape) -> String {
    match shape {
        Shape::Text => "\"x\"".to_owned(),
        Shape::Texts => "[\"x\"]".to_owned(),
        Shape::Number | Shape::Ports => "1".to_owned(),
        Shape::Numbers => "[1]".to_owned(),
        Shape::Flag => "true".to_owned(),
        Shape::Size => "\"1 GB\"".to_owned(),
        Shape::Duration => "\"1 s\"".to_owned(),
        Shape::Word(words) | Shape::Named(words) if matches!(shape, Shape::Word(_)) => format!("\"{}\"", words[0]),
        Shape::Word(words) | Shape::Named(words) => format!("{{ {} = \"x\" }}", words[0]),
        Shape::Table(keys) => format!("{{ {} }}", lines(keys, ", ")),
        Shape::Tables(keys) => format!("[{{ {} }}]", lines(keys, ", ")),
        Shape::Map(inner) => format!("{{ x = {} }}", sample(inner)),
        Shape::Either(shapes) => sample(&shapes[0]),
    }
}

fn lines(keys: &[Key], between: &str) -> String {
    keys.iter().map(|key| format!("{} = {}", key.name, sample(&key.shape))).collect::<Vec<_>>().join(between)
}

/// Keys that the parser does not know, and what it misses or finds of another type.
fn disagreements(mistakes: Option<&GuideError>) -> Vec<String> {
    let wrong = [ProblemKind::UnknownKey, ProblemKind::MissingKey, ProblemKind::WrongType];
    let problems = mistakes.into_iter().flat_map(|mistakes| mistakes.iter());
    problems.filter(|problem| wrong.contains(&problem.kind)).map(|problem| problem.message.clone()).collect()
}

#[test]
fn every_word_of_a_guide_is_one_that_its_parser_reads() {
    for kind in KINDS {
        let keys: Vec<Key> = [kind.subject].into_iter().chain(kind.further.iter().copied()).chain(REQUIREMENT).collect();
        let tables =
            [("project", &PROJECT[..]), ("role.x", &ROLE[..])].map(|(name, keys)| format!("[{name}]\n{}\n", lines(keys, "\n")));
        let text =
            format!("format = 1\n{}[[stage]]\n{}\n[require.x]\n{}\n", tables.concat(), lines(&STAGE, "\n"), lines(&keys, "\n"));
        assert_eq!(disagreements(guide::parse(&text).err().as_ref()), Vec::<String>::new(), "{text}");
    }
    assert!(FIX.len() > 5);
}

#[test]
fn every_word_of_a_description_is_one_that_its_parser_reads() {
    let text = lines(TOP, "\n");
    assert_eq!(disagreements(Described::parse(&text).err().as_ref()), Vec::<String>::new(), "{text}");
}
