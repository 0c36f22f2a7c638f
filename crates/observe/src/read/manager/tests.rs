use super::{
    apt_trial, brought_along, candidate, dnf_trial, download_of_each, pacman_conflict, pacman_installed, pacman_offers,
    without_a_place, zypper_costs, zypper_trial,
};
use rstest::rstest;
use setup_ready_core::manager::Manager;
use setup_ready_core::observation::{Candidate, Trial};

#[rstest]
#[case::apt(
    "apt",
    "apt:\n  Candidate: 2.6.1\ncmake:\n  Installed: (none)\n  Candidate: 3.25.1-1\n  Version table:\n     3.25.1-1 500\n",
    Some("3.25.1-1")
)]
#[case::apt_with_an_epoch("apt", "cmake:\n  Installed: (none)\n  Candidate: 1:2.39.5-0+deb12u2\n", Some("1:2.39.5-0+deb12u2"))]
#[case::dnf("dnf", "cmake 3.30.5\njq 1.7\n", Some("3.30.5"))]
#[case::zypper(
    "zypper",
    "Information for package cmake:\n---\nRepository     : Main\nName           : cmake\nVersion        : 3.31.5-1.1\n",
    Some("3.31.5-1.1")
)]
#[case::pacman("pacman", "Repository      : extra\nName            : cmake\nVersion         : 3.31.3-1\n", Some("3.31.3-1"))]
#[case::apk("apk", "cmake-3.29.3-r0\n", Some("3.29.3-r0"))]
#[case::brew("brew", "{\"formulae\":[{\"name\":\"cmake\",\"versions\":{\"stable\":\"3.31.2\"}}],\"casks\":[]}", Some("3.31.2"))]
#[case::port("port", "3.31.7\n", Some("3.31.7"))]
#[case::winget("winget", "Found CMake [Kitware.CMake]\nVersion: 3.31.2\nPublisher: Kitware\n", Some("3.31.2"))]
#[case::scoop("scoop", "\nName        : cmake\nVersion     : 3.31.2\n", Some("3.31.2"))]
#[case::choco("choco", "cmake|3.31.2\n", Some("3.31.2"))]
fn candidates_are_read_in_every_managers_words(#[case] manager: &str, #[case] printed: &str, #[case] version: Option<&str>) {
    assert_eq!(
        candidate(Manager::from_word(manager).unwrap(), "cmake", &["cmake", "jq"], printed),
        version.map(|version| Candidate::Version(version.into()))
    );
}

#[rstest]
#[case::apt_in_silence(
    "apt",
    "apt:\n  Candidate: 2.6.1\n  Version table:\n        500 https://driftbuoy.example/ stable/main amd64 Packages\n"
)]
#[case::apt_without_one("apt", "apt:\n        500 file:/srv ./ Packages\ncmake:\n  Installed: (none)\n  Candidate: (none)\n")]
#[case::dnf("dnf", "")]
#[case::apk_with_a_longer_name("apk", "cmake-doc-3.29.3-r0\n")]
fn a_package_that_is_not_known_is_absent(#[case] manager: &str, #[case] printed: &str) {
    assert_eq!(candidate(Manager::from_word(manager).unwrap(), "cmake", &["cmake", "jq"], printed), Some(Candidate::Absent));
}

#[rstest]
#[case::in_silence(
    "apt:\n  Installed: 2.6.1\n  Candidate: 2.6.1\n  Version table:\n *** 2.6.1 100\n        100 /var/lib/dpkg/status\n"
)]
#[case::known_by_a_dependency("apt:\n  Candidate: 2.6.1\n        100 /var/lib/dpkg/status\ncmake:\n  Candidate: (none)\n")]
fn without_a_list_nothing_is_known_of_a_package(#[case] printed: &str) {
    assert_eq!(candidate(Manager::Apt, "cmake", &["cmake"], printed), Some(Candidate::Unlisted));
}

fn refused(words: &str) -> Trial {
    Trial::Refused(words.to_owned())
}

#[rstest]
#[case::impossible(
    "The following packages have unmet dependencies:\n helmview : Depends: mooring but it is not installable\n",
    "E: Unable to correct problems, you have held broken packages.\n",
    refused("helmview : Depends: mooring but it is not installable")
)]
#[case::at_a_price("The following packages will be REMOVED:\n  tree\n  rope\nThe following NEW packages will be installed:\n  helmtree\n", "", Trial::Removes(vec!["tree".into(), "rope".into()]))]
#[case::half_installed(
    "You might want to run 'apt --fix-broken install' to correct these.\n",
    "E: Unmet dependencies.\n",
    Trial::Unfinished
)]
#[case::held(
    "The following held packages will be changed:\n  tree\nThe following packages will be upgraded:\n  tree\n",
    "",
    Trial::Held
)]
#[case::as_usual(
    "The following NEW packages will be installed:\n  jq\n'file:/srv/jq.deb' jq.deb 63984 MD5Sum:0\n",
    "",
    Trial::Unhindered
)]
fn what_apt_would_do_is_read(#[case] printed: &str, #[case] complaints: &str, #[case] trial: Trial) {
    assert_eq!(apt_trial(printed, complaints), trial);
}

#[rstest]
#[case::goes("comes helmview 6111\nend\n", Some(Trial::Unhindered))]
#[case::excluded("excluded helmview\nend\n", Some(Trial::Held))]
#[case::removes("comes helmview 6111\ngoes mooring\nend\n", Some(Trial::Removes(vec!["mooring".into()])))]
#[case::cannot(
    "cannot Problem: conflicting requests - nothing provides nowhere needed by gone-1-1.noarch\nend\n",
    Some(refused("nothing provides nowhere needed by gone-1-1.noarch"))
)]
#[case::broken_off("comes helmview 6111\n", None)]
fn what_the_library_of_dnf_would_do_is_read(#[case] printed: &str, #[case] trial: Option<Trial>) {
    assert_eq!(dnf_trial(printed), trial);
}

const ZYPPER_GOES: &str = "<install-summary download-size=\"12143\" space-usage-diff=\"25\">\n<to-install>\n<solvable type=\"package\" name=\"helmview\" edition=\"1.0-1\"/>\n<solvable type=\"package\" name=\"sounder\" edition=\"1.0-1\"/>\n</to-install>\n</install-summary>";

#[rstest]
#[case::goes(ZYPPER_GOES, true, Some(Trial::Unhindered))]
#[case::removes("<install-summary>\n<to-remove>\n<solvable type=\"package\" name=\"mooring\" edition=\"1\"/>\n</to-remove>\n</install-summary>", true, Some(Trial::Removes(vec!["mooring".into()])))]
#[case::held(
    "<prompt><description>Problem: conflicting requests\n Solution 1: remove lock to allow installation of held-1-1.noarch[buoys]\n</description>",
    false,
    Some(Trial::Held)
)]
#[case::cannot(
    "<prompt><description>Problem: nothing provides nowhere needed by gone-1-1.noarch\n Solution 1: do not install gone\n</description>",
    false,
    Some(refused("nothing provides nowhere needed by gone-1-1.noarch"))
)]
#[case::says_nothing("<stream></stream>", false, None)]
fn what_zypper_would_do_is_read(#[case] printed: &str, #[case] went_well: bool, #[case] trial: Option<Trial>) {
    assert_eq!(zypper_trial(printed, went_well), trial);
}

#[rstest]
#[case::installed_and_excluded_by_the_new("mooring", "", Some("mooring"))]
#[case::installed_and_excludes_the_new("chart", "helmview", Some("chart"))]
#[case::by_what_it_stands_for("mooring2", "", Some("mooring2"))]
#[case::another("rope", "", None)]
fn what_excludes_what_is_compared(#[case] installed: &str, #[case] conflicts: &str, #[case] clash: Option<&str>) {
    let offers = pacman_offers("Name            : helmview\nProvides        : None\nConflicts With  : mooring  old<2\n");
    let provides = if installed == "mooring2" { "mooring=1" } else { "keel" };
    let note = format!("%NAME%\n{installed}\n\n%PROVIDES%\n{provides}\n\n%CONFLICTS%\n{conflicts}\n\n");
    assert_eq!(pacman_conflict(&offers, &[pacman_installed(&note)]).as_deref(), clash);
}

#[rstest]
#[case::dnf("dnf", "\nview-tools\n", Some("view-tools"))]
#[case::zypper(
    "zypper",
    "<search-result>\n<solvable status=\"not-installed\" name=\"view-tools\" kind=\"package\"/>",
    Some("view-tools")
)]
#[case::pacman("pacman", "buoys/view-tools\n", Some("view-tools"))]
#[case::of_nobody("dnf", "\n", None)]
fn the_package_that_has_a_program_is_read(#[case] manager: &str, #[case] printed: &str, #[case] name: Option<&str>) {
    assert_eq!(super::provider_named(Manager::from_word(manager).unwrap(), printed).as_deref(), name);
}

#[test]
fn what_zypper_downloads_is_told_as_one_sum() {
    assert_eq!(zypper_costs(ZYPPER_GOES, &["helmview"]), [(Some(12_143), Some(1))]);
}

#[rstest]
#[case::dnf(
    "dnf",
    "",
    "Error: There are no enabled repositories in \"/etc/yum.repos.d\".",
    Some("There are no enabled repositories in \"/etc/yum.repos.d\".")
)]
#[case::pacman(
    "pacman",
    "",
    "error: no usable package repositories configured.",
    Some("no usable package repositories configured.")
)]
#[case::apt(
    "apt",
    "",
    "E: Malformed entry 1 in list file /etc/apt/sources.list ([option] not assignment)",
    Some("Malformed entry 1 in list file /etc/apt/sources.list ([option] not assignment)")
)]
#[case::one_that_works("apt", "cmake:\n", "", None)]
fn a_manager_without_a_place_says_so(
    #[case] manager: &str,
    #[case] printed: &str,
    #[case] said: &str,
    #[case] words: Option<&str>,
) {
    assert_eq!(without_a_place(Manager::from_word(manager).unwrap(), printed, said).as_deref(), words);
}

#[rstest]
#[case::the_whole_before_its_parts("'a' openjdk-17-jre_17.0.9_amd64.deb 1 x\n'b' openjdk-17-jdk-headless_17.0.9_amd64.deb 1 x\n'c' openjdk-17-jdk_17.0.9+9-1_amd64.deb 1 x\n'd' default-jdk_1.17_amd64.deb 1 x\n", Some(("openjdk-17-jdk", "17.0.9+9-1")))]
#[case::nothing_alike("'d' default-jdk_1.17_amd64.deb 1 x\n'e' libx11-6_1.8_amd64.deb 1 x\n", None)]
fn what_stands_for_another_is_judged_by_what_it_brings(#[case] printed: &str, #[case] brought: Option<(&str, &str)>) {
    let brought = brought.map(|(name, version)| (name.to_owned(), version.to_owned()));
    assert_eq!(brought_along(printed, "default-jdk"), brought);
}

#[rstest]
#[case::with_what_comes_along("'a' jq_1_amd64.deb 10 x\n'b' libjq1_1_amd64.deb 5 x\n'c' tree_2_amd64.deb 3 x\n", &[(Some(15), None), (Some(3), None)])]
#[case::each_alone("'a' jq_1_amd64.deb 10 x\n'c' tree_2_amd64.deb 3 x\n", &[(Some(10), Some(0)), (Some(3), Some(0))])]
#[case::downloaded_before("", &[(None, None), (None, None)])]
fn the_sum_of_several_is_that_of_one_command(#[case] printed: &str, #[case] costs: &[(Option<u64>, Option<usize>)]) {
    assert_eq!(download_of_each(printed, &["jq", "tree"]), costs);
}

#[rstest]
#[case::alone("'file:/srv/jq_1_amd64.deb' jq_1_amd64.deb 52500 SHA256:0\n", (Some(52_500), Some(0)))]
#[case::with_another("'a' jq_1_all.deb 10 \n'b' libjq_1_all.deb 5 MD5Sum:0\n", (Some(15), Some(1)))]
#[case::more_than_there_can_be("'a' jq_1_all.deb 18446744073709551615 \n'b' b.deb 5 \n", (Some(u64::MAX), Some(1)))]
fn what_would_be_downloaded_is_summed(#[case] printed: &str, #[case] expected: (Option<u64>, Option<usize>)) {
    assert_eq!(download_of_each(printed, &["jq"]), [expected]);
}
