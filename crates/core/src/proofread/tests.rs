use super::{Evidence, Rule, corrected, proofread};
use crate::prelude::*;
use rstest::rstest;

#[test]
fn there_are_rules_enough_and_each_has_a_page_and_two_examples() {
    assert!(Rule::ALL.len() >= 40);
    for rule in Rule::ALL {
        let (page, example) = (rule.page(), rule.example());
        assert!([page.meaning, page.suffers, page.right, example.bad].iter().all(|text| !text.is_empty()), "{}", rule.id());
        assert_eq!(Rule::from_id(rule.id()), Some(*rule));
    }
}

#[rstest]
#[case::a_secret(Rule::SecretUnmarked)]
#[case::rights(Rule::AdminUnsaid)]
#[case::a_key(Rule::UnknownKey)]
#[case::a_word(Rule::UnknownWord)]
fn what_is_certain_is_corrected_and_the_rest_stays_as_it_is(#[case] rule: Rule) {
    let text = super::rules::Example::whole(rule.example().bad);
    let (right, done) = corrected(&text, &proofread(&text, &Evidence::default()));
    assert_eq!(done, 1);
    let left: Vec<&str> = proofread(&right, &Evidence::default()).iter().map(|one| one.rule.id()).collect();
    assert!(left.is_empty(), "{left:?} of {right}");
    // Comments are where they were, and no line is lost.
    assert!(right.contains("# here") && right.lines().count() >= text.lines().count());
}

#[test]
fn an_acceptance_is_for_what_it_names() {
    let text = "format = 1\n[project]\nname = \"Driftbuoy\"\nhelp = \"Ask.\"\n[require.a]\ntool = \"git\"\n[require.b]\ntool = \"ninja\"\n[proofread]\naccept = [{ rule = \"why-missing\", of = \"a\", because = \"plain\" }, { rule = \"why-mising\", because = \"plain\" }]\n";
    let remarks = proofread(text, &Evidence::default());
    let told: Vec<String> =
        remarks.iter().map(|one| format!("{} {:?} {}", one.rule.id(), one.of, one.position(text).0)).collect();
    assert_eq!(told, ["why-missing Some(\"b\") 7", "acceptance-idle None 10"]);
    assert_eq!(remarks.last().unwrap().note.as_deref(), Some("did you mean `why-missing`?"));
}

/// A guide with one fix that says to type this, on these systems.
fn guide_with_command(systems: &str, command: &str, further: &str) -> String {
    let quoted = command.replace('\\', "\\\\").replace('"', "\\\"");
    format!(
        "format = 1\n[project]\nname = \"Driftbuoy\"\nhelp = \"Ask.\"\nsystems = [{systems}]\n[require.charts]\nfolder = \"charts\"\nwhy = \"The station draws on them.\"\n[[require.charts.fix]]\nsay = \"Fetch them.\"\n{further}run = \"{quoted}\"\n"
    )
}

fn rules_of(text: &str) -> Vec<&'static str> {
    proofread(text, &Evidence::default()).iter().map(|one| one.rule.id()).collect()
}

#[rstest]
#[case::into_a_shell("curl -fsSL https://a.example/x | bash", &["download-into-shell"])]
#[case::into_a_shell_with_rights("wget -qO- https://a.example/x | sudo -E sh -s -- -y", &["download-into-shell"])]
#[case::by_a_substitution("bash -c \"$(curl -fsSL https://a.example/x)\"", &["download-into-shell"])]
#[case::by_a_file_that_is_none("bash <(curl -s https://a.example/x)", &["download-into-shell"])]
#[case::into_a_file("curl -fsSLO https://a.example/x.zip", &[])]
#[case::through_a_filter("curl -fsSL https://a.example/x | tar -xz", &[])]
#[case::by_plain_http("curl -O http://a.example/x.zip", &["plain-http"])]
#[case::from_this_machine("curl -O http://localhost:8080/x.zip", &[])]
#[case::from_its_own_network("curl -O http://shore.test/x.zip", &[])]
#[case::without_a_check("curl -kO https://a.example/x.zip", &["check-switched-off"])]
#[case::an_option_with_that_letter("make -k charts", &[])]
#[case::open_for_everybody("chmod 777 charts", &["check-switched-off"])]
#[case::all_that_is_there("rm -rf ~", &["removes-widely"])]
#[case::one_thing("rm -rf charts/north", &[])]
#[case::all_that_is_not_kept("git clean -fdx", &["removes-widely"])]
#[case::with_rights("sudo mkdir charts", &["admin-unsaid"])]
#[case::with_rights_further_on("echo x | sudo tee charts", &[])]
fn commands_that_may_harm_are_told(#[case] command: &str, #[case] rules: &[&str]) {
    assert_eq!(rules_of(&guide_with_command("\"linux\"", command, "")), rules);
}

#[rstest]
#[case::a_manager_of_linux("\"linux\"", "apt-get install charts", "admin = true\n", &["manager-of-one-system"])]
#[case::with_its_condition("\"linux\"", "apt-get install charts", "admin = true\nwhen = \"manager == apt\"\n", &[])]
#[case::for_a_distribution("\"linux\"", "dnf install charts", "admin = true\nwhen = \"distro == fedora\"\n", &[])]
#[case::the_usual_one_of_the_only_system("\"macos\"", "brew install charts", "", &[])]
#[case::the_usual_one_of_one_of_two("\"macos\", \"linux\"", "brew install charts", "", &["manager-of-one-system"])]
#[case::where_it_is_meant("\"macos\", \"linux\"", "brew install charts", "when = \"macos\"\n", &[])]
#[case::a_line_for_unix("\"linux\", \"windows\"", "chmod 700 charts", "", &["shell-of-one-system"])]
#[case::a_line_for_windows("\"linux\", \"windows\"", "New-Item charts", "", &["shell-of-one-system"])]
#[case::a_line_for_windows_there("\"linux\", \"windows\"", "New-Item charts", "when = \"windows\"\n", &[])]
#[case::a_line_for_all("\"linux\", \"windows\"", "git clone https://a.example/charts", "", &[])]
fn commands_of_one_system_are_told(#[case] systems: &str, #[case] command: &str, #[case] further: &str, #[case] rules: &[&str]) {
    assert_eq!(rules_of(&guide_with_command(systems, command, further)), rules);
}

#[rstest]
#[case::of_linux("/proc/cpuinfo", "\"linux\", \"macos\"", &["path-of-one-system"])]
#[case::of_linux_only("/proc/cpuinfo", "\"linux\"", &[])]
#[case::of_unix("/etc/hosts", "\"linux\", \"macos\"", &[])]
#[case::of_unix_on_windows("/etc/hosts", "\"linux\", \"windows\"", &["path-of-one-system"])]
#[case::of_windows("C:/charts", "\"linux\", \"windows\"", &["path-of-one-system"])]
#[case::of_a_mac("~/Library/Charts", "\"linux\", \"macos\"", &["path-of-one-system"])]
#[case::of_ones_own("~/charts", "\"linux\", \"macos\", \"windows\"", &[])]
#[case::of_the_project("charts/north", "\"linux\", \"macos\", \"windows\"", &[])]
#[case::of_one_person("/Users/skipper/charts", "\"macos\"", &["home-of-one-person"])]
#[case::of_everybody("/Users/Shared/charts", "\"macos\"", &[])]
fn paths_of_one_system_are_told(#[case] path: &str, #[case] systems: &str, #[case] rules: &[&str]) {
    let text = format!(
        "format = 1\n[project]\nname = \"Driftbuoy\"\nhelp = \"Ask.\"\nsystems = [{systems}]\n[require.charts]\nfile = \"{path}\"\nwhy = \"The station draws on them.\"\n"
    );
    assert_eq!(rules_of(&text), rules);
}

#[rstest]
#[case::on_systems_apart("when = \"linux\"", "when = \"windows\"", &[])]
#[case::on_one_system("when = \"linux\"", "when = \"linux and not wsl\"", &["checked-twice"])]
#[case::for_roles_apart("roles = [\"a\"]", "roles = [\"b\"]", &[])]
#[case::for_one_role("roles = [\"a\"]", "roles = [\"a\", \"b\"]", &["checked-twice"])]
#[case::for_everybody_and_one("", "roles = [\"b\"]", &["checked-twice"])]
fn what_is_checked_twice_for_somebody_is_told(#[case] first: &str, #[case] second: &str, #[case] rules: &[&str]) {
    let text = format!(
        "format = 1\n[project]\nname = \"Driftbuoy\"\nhelp = \"Ask.\"\n[role.a]\n[role.b]\n[require.x]\ntool = \"git\"\n{first}\nwhy = \"Charts are kept with it.\"\n[require.y]\ntool = \"git\"\n{second}\nwhy = \"Reports are kept with it.\"\n"
    );
    let told: Vec<&str> = rules_of(&text).into_iter().filter(|rule| *rule != "role-unused").collect();
    assert_eq!(told, rules);
}

#[rstest]
#[case::says_what_for("It builds the firmware.", &[])]
#[case::says_only_that_it_is_needed("cmake is required to build this project.", &["why-repeats"])]
#[case::is_empty("", &["why-repeats"])]
fn reasons_that_tell_nothing_are_told(#[case] why: &str, #[case] rules: &[&str]) {
    let text = format!(
        "format = 1\n[project]\nname = \"Driftbuoy\"\nhelp = \"Ask.\"\n[require.cmake]\ntool = \"cmake\"\nwhy = \"{why}\"\n"
    );
    assert_eq!(rules_of(&text), rules);
}

#[test]
fn corrections_that_meet_wait_for_each_other_and_nothing_is_cut_in_a_character() {
    use super::{Correction, Remark, Replacement};
    let one = |span: core::ops::Range<usize>, text: &str| {
        let mut remark = Remark::of(Rule::UnknownKey, span.clone(), "");
        remark.correction = Some(Correction::new("", vec![Replacement { span, text: text.to_owned() }]));
        remark
    };
    let text = "ä = 1\nb = 2\n";
    let all = [one(0..2, "a"), one(1..2, "x"), one(0..2, "y"), one(7..8, "c"), one(7..9, "d")];
    assert_eq!(corrected(text, &all), ("a = 1\nc = 2\n".to_owned(), 2));
}

#[test]
fn what_the_repository_says_is_compared_where_it_holds() {
    use crate::statement::{Confidence, Place, Restriction, Statement, Topic};
    let guide = "format = 1\n[project]\nname = \"Driftbuoy\"\nhelp = \"Ask.\"\n[require.go]\ntool = \"go\"\nversion = \">= 1.18\"\nwhy = \"The shore station is written in it.\"\n";
    let place = Place { file: "a".into(), line: 1, item: String::new() };
    let pinned = |range: &str| Statement {
        range: Some(range.to_owned()),
        ..Statement::new(Topic::Tool("go".to_owned()), Confidence::Pinned, place.clone())
    };
    let rules = |statements: Vec<Statement>| -> Vec<&str> {
        proofread(guide, &Evidence { statements, ..Evidence::default() }).iter().map(|one| one.rule.id()).collect()
    };
    let option = Some(Restriction::Text("where WITH_X".to_owned()));
    assert_eq!(rules(vec![pinned(">= 1.22")]), ["pin-exceeded"]);
    assert_eq!(rules(vec![pinned("< 1.10")]), ["pin-contradicted"]);
    assert_eq!(rules(vec![pinned(">= 1.18")]), Vec::<&str>::new());
    assert_eq!(rules(vec![Statement { is_pin: true, ..pinned(">= 1.18") }]), ["pin-repeated"]);
    assert_eq!(rules(vec![Statement { only: option, ..pinned(">= 1.22") }]), Vec::<&str>::new());
    assert_eq!(rules(vec![Statement { firmness: Confidence::Used, ..pinned("1.22.*") }]), Vec::<&str>::new());
    assert_eq!(rules(vec![pinned(">= 1.22"), pinned("< 1.20")]), ["pins-disagree"]);
}

/// A requirement of a guide that is right otherwise.
fn rules_of_requirement(head: &str, keys: &str) -> Vec<&'static str> {
    rules_of(&format!(
        "format = 1\n[project]\nname = \"Driftbuoy\"\nhelp = \"Ask.\"\n{head}\n[require.x]\n{keys}\nwhy = \"Charts are drawn with it.\"\n"
    ))
}

#[rstest]
#[case::everything("version = \">= 0\"", &["range-always"])]
#[case::everything_but_one("version = \"!= 3.1\"", &["range-always"])]
#[case::nearly_everything("version = \">= 0.1\"", &[])]
#[case::only_old_ones("version = \"< 5\"", &[])]
#[case::tried_within("version = \">= 3\"\ntested = \"<= 4\"", &[])]
#[case::tried_elsewhere("version = \">= 3\"\ntested = \"2.*\"", &["tested-outside"])]
fn ranges_that_say_nothing_are_told(#[case] keys: &str, #[case] rules: &[&str]) {
    assert_eq!(rules_of_requirement("", &format!("tool = \"cmake\"\n{keys}")), rules);
}

#[rstest]
#[case::by_its_end("BUOY_TOKEN", &["secret-unmarked"])]
#[case::alone("PASSWORD", &["secret-unmarked"])]
#[case::in_small_letters("buoy_api_key", &["secret-unmarked"])]
#[case::a_path_to_one("BUOY_TOKEN_FILE", &[])]
#[case::a_word_within("TOKENIZER_MODEL", &[])]
#[case::a_key_of_another_sort("SORT_KEY", &[])]
fn variables_that_sound_secret_are_told(#[case] name: &str, #[case] rules: &[&str]) {
    assert_eq!(rules_of_requirement("", &format!("variable = \"{name}\"")), rules);
}

#[rstest]
#[case::a_lone_one("[[require.x.fix]]\nsay = \"Install it.\"", &[])]
#[case::a_special_one_first(
    "[[require.x.fix]]\ncause = \"tool-too-old\"\nsay = \"Upgrade it.\"\n[[require.x.fix]]\nsay = \"Install it.\"",
    &[]
)]
#[case::a_general_one_first(
    "[[require.x.fix]]\nsay = \"Install it.\"\n[[require.x.fix]]\nwhen = \"linux\"\nsay = \"Take it from the system.\"",
    &["fix-hidden"]
)]
#[case::one_that_names_no_deed("[[require.x.fix]]\nsay = \"It is missing.\"", &["say-without-deed"])]
#[case::one_that_names_none_but_has_a_command("[[require.x.fix]]\nsay = \"It is missing.\"\nrun = \"cmake --version\"", &[])]
#[case::one_that_is_unfinished("[[require.x.fix]]\nsay = \"TODO install\"", &["text-unfinished"])]
#[case::for_a_system_that_is_none_of_the_guides("[[require.x.fix]]\nwhen = \"windows\"\nsay = \"Install it.\"", &["condition-never"])]
fn fixes_are_read_like_this(#[case] fixes: &str, #[case] rules: &[&str]) {
    let text = format!(
        "format = 1\n[project]\nname = \"Driftbuoy\"\nhelp = \"Ask.\"\nsystems = [\"linux\", \"macos\"]\n[require.x]\ntool = \"cmake\"\nwhy = \"The firmware is built with it.\"\n{fixes}\n"
    );
    assert_eq!(rules_of(&text), rules);
}

#[rstest]
#[case::never_together("linux and macos", &["condition-never"])]
#[case::never_a_guest_there("windows and wsl", &["condition-never"])]
#[case::perhaps("linux and container", &[])]
#[case::by_what_nobody_knows("manager == brew", &[])]
#[case::not_everything("not (linux or macos or windows)", &["condition-never"])]
fn conditions_that_never_hold_are_told(#[case] when: &str, #[case] rules: &[&str]) {
    assert_eq!(rules_of_requirement("", &format!("tool = \"cmake\"\nwhen = \"{when}\"")), rules);
}

#[rstest]
#[case::one_protocol_each("port = 7070\nprotocol = \"udp\"", &[])]
#[case::the_same("port = 7070", &["port-twice"])]
#[case::within_a_span("port = \"7000-7100\"", &["port-twice"])]
#[case::beside_a_span("port = \"7071-7100\"", &[])]
#[case::on_another_address("port = 7070\naddress = \"127.0.0.2\"", &["port-twice"])]
fn ports_that_meet_are_told(#[case] keys: &str, #[case] rules: &[&str]) {
    let head = "[require.first]\nport = 7070\nwhy = \"The station's page is there.\"";
    assert_eq!(rules_of_requirement(head, keys), rules);
}

#[rstest]
#[case::shorter_than_that(80, &[])]
#[case::longer_than_that(81, &["text-too-long"])]
fn titles_are_as_long_as_anybody_reads(#[case] length: usize, #[case] rules: &[&str]) {
    assert_eq!(rules_of_requirement("", &format!("tool = \"cmake\"\ntitle = \"{}\"", "ü".repeat(length))), rules);
}
