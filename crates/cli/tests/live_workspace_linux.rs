//! The person's files, variables, groups, limits, libraries, settings and working copy: made for the test, looked at for real.

use crate::harness::{Bench, causes_are, essence, is_root, of, text, without_rights};
use rstest::rstest;
use std::fs::{Permissions, create_dir_all, set_permissions, write};
use std::os::unix::fs::{PermissionsExt, chown, symlink};
use std::path::Path;
use std::process::Command;

fn mode(path: &Path, bits: u32) {
    set_permissions(path, Permissions::from_mode(bits)).unwrap();
}

#[test]
fn files_and_folders_are_looked_at_with_their_rights() {
    let bench = Bench::new(
        "[require.key]\nfile = \"key\"\nmode = \"600\"\nowner = \"me\"\nwritable = true\ncontains = \"buoy\"
         [require.folder]\nfolder = \".\"\ncontains = '^note$'\n[require.nowhere]\nfile = \"nowhere\"\n[require.kind]\nfolder = \"note\"
         [require.locked]\nfile = \"locked\"\nwritable = true\n[require.foreign]\nfile = \"/etc/passwd\"\nowner = \"me\"
         [require.loose]\nfile = \"loose\"\nmode = \"600\"\n[require.text]\nfile = \"note\"\ncontains = \"tide\"
         [require.plain]\nfile = \"note\"\nexecutable = true\n[require.unwanted]\nfile = \"note\"\nexpect = \"absent\"
         [require.gone]\nfile = \"nowhere\"\nexpect = \"absent\"\n[require.dangling]\nfile = \"link\"\n[require.closed]\nfile = \"closed/inside\"\n",
    );
    for (name, body, bits) in [("key", "buoy 1", 0o600), ("locked", "", 0o444), ("loose", "", 0o644), ("note", "ebb", 0o644)] {
        let path = bench.file(name, body);
        mode(&path, bits);
        if is_root() {
            chown(&path, Some(65534), Some(65534)).unwrap();
        }
    }
    symlink("nothing-there", bench.project().join("link")).unwrap();
    create_dir_all(bench.project().join("closed")).unwrap();
    mode(&bench.project().join("closed"), 0o000);
    let (status, report) = bench.report(&without_rights(), &[]);
    mode(&bench.project().join("closed"), 0o755);
    assert_eq!(status, 1);
    causes_are(
        &report,
        &[
            ("key", ""),
            ("folder", ""),
            ("nowhere", "path-missing"),
            ("kind", "path-other-kind"),
            ("locked", "path-not-writable"),
            ("foreign", "path-not-mine"),
            ("loose", "path-mode"),
            ("text", "path-content"),
            ("plain", "path-not-executable"),
            ("unwanted", "path-unwanted"),
            ("gone", ""),
            ("dangling", "path-dangling"),
        ],
    );
    let (verdict, cause, message) = essence(&report, "closed");
    assert_eq!((verdict.as_str(), cause.as_str()), ("unmet", "path-barred"));
    assert!(message.contains("may not be entered by you"), "{message}");
    assert_eq!(of(&report, "loose")["fixes"][0]["run"][0], format!("chmod 600 {}", bench.project().join("loose").display()));
}

#[test]
fn variables_are_known_without_their_values() {
    let bench = Bench::new(
        "[require.set]\nvariable = \"BUOY_SET\"\n[require.in-file]\nvariable = \"BUOY_FILE\"\nenv_file = \".env\"\nmatches = '^\\d+$'
         [require.unset]\nvariable = \"BUOY_UNSET\"\n[require.empty]\nvariable = \"BUOY_EMPTY\"\nenv_file = \".env\"
         [require.shape]\nvariable = \"BUOY_SHAPE\"\nmatches = '^[a-z]+$'\n[require.startup]\nvariable = \"BUOY_STARTUP\"
         [require.unwanted]\nvariable = \"BUOY_SET\"\nexpect = \"absent\"\n[require.gone]\nvariable = \"BUOY_GONE\"\nexpect = \"absent\"\n",
    );
    bench.file(".env", "# ours\nexport BUOY_FILE='4711'\nBUOY_EMPTY=\n");
    let home = bench.folder.path().join("home");
    create_dir_all(&home).unwrap();
    write(home.join(".profile"), "export BUOY_STARTUP=1\n").unwrap();
    let home = format!("HOME={}", home.display());
    let (_, report) = bench.report(&["env", &home, "BUOY_SET=lantern-77", "BUOY_SHAPE=77-lantern"], &[]);
    causes_are(
        &report,
        &[
            ("set", ""),
            ("in-file", ""),
            ("unset", "variable-unset"),
            ("empty", "variable-empty"),
            ("shape", "variable-shape"),
            ("startup", "variable-only-in-file"),
            ("unwanted", "variable-unwanted"),
            ("gone", ""),
        ],
    );
    assert_eq!(essence(&report, "in-file").2, "BUOY_FILE is set in .env, line 2.");
    assert!(!report.to_string().contains("lantern"));
}

#[test]
#[ignore = "only the administrator may add a user"]
fn a_group_counts_from_the_next_sign_in() {
    let name = format!("buoytest{}", std::process::id());
    let run = |words: &[&str]| assert!(Command::new(words[0]).args(&words[1..]).status().unwrap().success(), "{words:?}");
    run(&["groupadd", &format!("{name}g")]);
    run(&["useradd", "--no-create-home", "--groups", &format!("{name}g"), &name]);
    let number = |flag: &str| text(&Command::new("id").args([flag, &name]).output().unwrap().stdout).trim().to_owned();
    let (user, group) = (number("-u"), number("-g"));
    let bench = Bench::new(&format!(
        "[require.own]\ngroup = \"{name}\"\n[require.soon]\ngroup = \"{name}g\"\n[require.other]\ngroup = \"daemon\"
         [require.nowhere]\ngroup = \"{name}x\"\n[require.engine]\nsocket = \"engine.sock\"\n[require.closed]\nsocket = \"closed.sock\"
         [require.device]\ndevice = \"buoy-device\"\n[require.device-soon]\ndevice = \"soon-device\"\n",
    ));
    let project = bench.project();
    let _sockets = ["engine.sock", "closed.sock"].map(|file| std::os::unix::net::UnixListener::bind(project.join(file)).unwrap());
    for device in ["buoy-device", "soon-device"] {
        run(&["mknod", "-m", "660", project.join(device).to_str().unwrap(), "c", "1", "3"]);
    }
    for file in ["engine.sock", "soon-device"] {
        run(&["chown", &format!("root:{name}g"), project.join(file).to_str().unwrap()]);
        mode(&project.join(file), 0o660);
    }
    mode(&project.join("closed.sock"), 0o600);
    let before = ["setpriv", "--reuid", &user, "--regid", &group, "--clear-groups"];
    let (_, report) = bench.report(&before, &[]);
    run(&["userdel", &name]);
    run(&["groupdel", &format!("{name}g")]);
    causes_are(
        &report,
        &[
            ("own", ""),
            ("soon", "group-until-sign-in"),
            ("other", "group-not-member"),
            ("nowhere", "group-absent"),
            ("engine", "socket-denied-until-sign-in"),
            ("closed", "socket-denied"),
            ("device", "device-denied"),
            ("device-soon", "device-denied"),
        ],
    );
    assert_eq!(of(&report, "soon")["fixes"][0]["then"], "sign-in");
    assert!(essence(&report, "device-soon").2.contains("this session began before that"));
}

#[test]
fn limits_are_those_in_force_here() {
    let bench = Bench::new(
        "[require.files]\nlimit = \"open-files\"\nat_least = 4096\n[require.some]\nlimit = \"open-files\"\nat_least = 32
         [require.watches]\nlimit = \"file-watches\"\nat_least = 1\n[require.many]\nlimit = \"file-watches\"\nat_least = 4000000000
         [require.processes]\nlimit = \"processes\"\nat_least = 2\n[require.paths]\nlimit = \"path-length\"\nat_least = 1000
         [require.links]\nlimit = \"symbolic-links\"\n",
    );
    let (_, report) = bench.report(&["prlimit", "--nofile=64:8192"], &[]);
    let met = |id| (id, "");
    causes_are(
        &report,
        &[
            ("files", "limit-low"),
            met("some"),
            met("watches"),
            ("many", "limit-low"),
            met("processes"),
            met("paths"),
            met("links"),
        ],
    );
    assert_eq!(
        essence(&report, "files").2,
        "The limit for files that are open at once is 64, and 4096 is needed. You may raise it yourself."
    );
    assert_eq!(of(&report, "files")["fixes"][0]["admin"], false);
    assert_eq!(of(&report, "many")["fixes"][0]["admin"], true);
}

#[test]
fn libraries_are_found_by_their_descriptions() {
    let bench = Bench::new(
        "[require.met]\nlibrary = \"buoylib\"\nversion = \">= 2, < 4\"\n[require.old]\nlibrary = \"buoylib\"\nversion = \">= 4\"
         [require.new]\nlibrary = \"buoylib\"\nversion = \"< 2\"\n[require.nowhere]\nlibrary = \"buoylib-nowhere\"\n[require.bare]\nlibrary = \"libc\"\n",
    );
    write(bench.folder.path().join("buoylib.pc"), "major=3\nName: buoylib\nVersion: ${major}.1\n").unwrap();
    let (_, report) = bench.report(&["env", &format!("PKG_CONFIG_PATH={}", bench.folder.path().display())], &[]);
    causes_are(
        &report,
        &[
            ("met", ""),
            ("old", "library-too-old"),
            ("new", "library-too-new"),
            ("nowhere", "library-missing"),
            ("bare", "library-no-headers"),
        ],
    );
}

fn git(folder: &Path, arguments: &[&str]) {
    let mut command = Command::new("git");
    command.args(["-c", "user.name=x", "-c", "user.email=x@driftbuoy.example"]).args(arguments).current_dir(folder);
    assert!(command.output().unwrap().status.success(), "{arguments:?}");
}

#[test]
fn the_working_copy_and_its_settings_are_read() {
    let bench = Bench::new(
        "[require.none]\ncheckout = \"elsewhere\"\n[require.branch]\ncheckout = \"copy\"\nbranch = \"tide\"\n[require.parts]\ncheckout = \"copy\"\nsubmodules = true
         [require.large]\ncheckout = \"copy\"\nlarge_files = true\n[require.dirty]\ncheckout = \"copy\"\nclean = true
         [require.good]\ncheckout = \"good/inner\"\nbranch = \"main\"\nsubmodules = true\nlarge_files = true\nclean = true
         [require.name]\nsetting = \"user.name\"\n[require.email]\nsetting = \"user.email\"\nmatches = \"@\"\n[require.editor]\nsetting = \"core.buoy\"\n",
    );
    for name in ["copy", "good"] {
        let folder = bench.project().join(name);
        create_dir_all(folder.join("inner")).unwrap();
        create_dir_all(folder.join("parts/radio")).unwrap();
        git(&folder, &["init", "-q", "-b", "main"]);
        write(folder.join(".gitmodules"), "[submodule \"radio\"]\n\tpath = parts/radio\n\turl = ../radio\n").unwrap();
        let large =
            if name == "copy" { "version https://git-lfs.github.com/spec/v1\noid sha256:00\nsize 7\n" } else { "picture" };
        write(folder.join("inner/chart.bin"), large).unwrap();
        write(folder.join(".gitattributes"), "*.bin filter=lfs\n").unwrap();
        git(&folder, &["-c", "filter.lfs.process=", "-c", "filter.lfs.clean=", "-c", "filter.lfs.required=false", "add", "."]);
        git(&folder, &["commit", "-qm", "first"]);
    }
    let radio = bench.project().join("good/parts/radio");
    git(&radio, &["init", "-q"]);
    // What is fetched has files.
    write(radio.join("driver"), "1").unwrap();
    write(bench.project().join("good/.git/info/exclude"), "parts\n").unwrap();
    write(bench.project().join("copy/new"), "").unwrap();
    create_dir_all(bench.project().join("elsewhere")).unwrap();
    write(
        bench.folder.path().join(".gitconfig"),
        "[user]\n\tname = Lantern Keeper\n\temail = nobody\n[filter \"lfs\"]\n\trequired = false\n",
    )
    .unwrap();
    let home = format!("HOME={}", bench.folder.path().display());
    let (_, report) = bench.report(&["env", &home, "GIT_CONFIG_NOSYSTEM=1"], &[]);
    causes_are(
        &report,
        &[
            ("none", "checkout-none"),
            ("branch", "checkout-branch"),
            ("parts", "checkout-submodules"),
            ("large", "checkout-large-files"),
            ("dirty", "checkout-dirty"),
            ("good", ""),
            ("name", ""),
            ("email", "setting-shape"),
            ("editor", "setting-unset"),
        ],
    );
    assert!(!report.to_string().contains("Lantern"));
}

#[rstest]
#[case::a_filter_that_cleans("[filter \"x\"]\n\tclean = touch MARK\n", true)]
#[case::a_filter_that_stays("[filter \"x\"]\n\tprocess = touch MARK\n", true)]
#[case::a_filter_by_way_of_another_file("[include]\n\tpath = ../more\n", true)]
#[case::a_monitor("[core]\n\tfsmonitor = touch MARK\n", false)]
#[case::a_fetch_of_what_is_missing(
    "[core]\n\trepositoryformatversion = 1\n\tsshCommand = touch MARK\n[extensions]\n\tpartialClone = far\n[remote \"far\"]\n\turl = ssh://driftbuoy.example/x\n\tpromisor = true\n[protocol \"ssh\"]\n\tallow = always\n",
    false
)]
fn looking_at_a_working_copy_starts_nothing_that_it_names(#[case] settings: &str, #[case] unknown: bool) {
    let bench = Bench::new("[require.copy]\ncheckout = \"copy\"\nclean = true\nlarge_files = true\n");
    let (folder, mark) = (bench.project().join("copy"), bench.folder.path().join("started"));
    create_dir_all(&folder).unwrap();
    git(&folder, &["init", "-q", "-b", "main"]);
    write(folder.join("chart"), "tide").unwrap();
    write(folder.join(".gitattributes"), "chart filter=x\n").unwrap();
    git(&folder, &["add", "."]);
    git(&folder, &["commit", "-qm", "first"]);
    // Git compares again what was touched since.
    write(folder.join("chart"), "tide").unwrap();
    let config = folder.join(".git/config");
    let named = settings.replace("MARK", &mark.display().to_string());
    write(folder.join("more"), format!("[filter \"x\"]\n\tclean = touch {}\n", mark.display())).unwrap();
    write(folder.join(".git/info/exclude"), "more\n").unwrap();
    write(&config, std::fs::read_to_string(&config).unwrap() + &named).unwrap();
    if settings.contains("promisor") {
        // An object that is not there is what git would fetch.
        std::fs::remove_dir_all(folder.join(".git/objects")).unwrap();
        create_dir_all(folder.join(".git/objects")).unwrap();
    }
    let home = format!("HOME={}", bench.folder.path().display());
    let (_, report) = bench.report(&["env", &home, "GIT_CONFIG_NOSYSTEM=1"], &[]);
    assert!(!mark.exists(), "what the working copy names was started");
    assert_eq!(of(&report, "copy")["verdict"] == "unknown", unknown || settings.contains("promisor"), "{report}");
}

#[test]
fn commands_run_only_with_consent() {
    let bench = Bench::new(
        "[require.good]\ncommand = [\"buoy-say\", \"tide\"]\nmatches = '^tide 7$'\n[require.fails]\ncommand = [\"buoy-fail\"]
         [require.other]\ncommand = [\"buoy-say\", \"ebb\"]\nmatches = \"tide\"\n[require.stuck]\ncommand = [\"buoy-hang\"]\ntimeout = \"200ms\"
         [require.nowhere]\ncommand = [\"buoy-nowhere\"]\n[require.inside]\ncommand = [\"./inside.sh\"]\nexit = 3\n",
    );
    bench.program("buoy-say", "echo said >> ran; echo \"$1 7\"");
    bench.program("buoy-fail", "echo the mast is down >&2; exit 4");
    bench.program("buoy-hang", "sleep 600");
    mode(&bench.file("inside.sh", "#!/bin/sh\nexit 3\n"), 0o755);
    let ids = ["good", "fails", "other", "stuck", "nowhere", "inside"];
    let (status, report) = bench.report(&[], &[]);
    assert_eq!((status, ids.map(|id| essence(&report, id).1)), (3, ids.map(|_| "command-no-consent".to_owned())));
    assert!(!bench.project().join("ran").exists());
    let (_, report) = bench.report(&[], &["--allow-commands"]);
    causes_are(
        &report,
        &[
            ("good", ""),
            ("fails", "command-failed"),
            ("other", "command-output"),
            ("stuck", "command-stuck"),
            ("nowhere", "command-not-found"),
            ("inside", ""),
        ],
    );
    assert_eq!(essence(&report, "fails").2, "`buoy-fail` ended with the exit status 4. It said: the mast is down");
}

#[test]
fn a_yes_at_a_terminal_is_remembered_for_exactly_what_was_shown() {
    let bench = Bench::new("[require.one]\ncommand = [\"buoy-say\"]\n");
    bench.program("buoy-say", "echo said >> ran");
    let state = format!("XDG_STATE_HOME={}", bench.folder.path().join("state").display());
    let declined = bench.at_terminal("\\n", "preflight");
    assert!(declined.contains("buoy-say") && declined.contains("UNDECIDED"), "{declined}");
    let accepted = bench.at_terminal("yes\\n", "preflight");
    assert!(accepted.contains("They run in") && accepted.contains("READY"), "{accepted}");
    // Remembered also where nobody can be asked; another argument is another command.
    assert_eq!(bench.report(&["env", &state], &[]).0, 0);
    bench.file(
        "setup-guide.toml",
        "format = 1\n[project]\nname = \"Driftbuoy\"\n[require.one]\ncommand = [\"buoy-say\", \"more\"]\n",
    );
    assert_eq!(bench.report(&["env", &state], &[]).0, 3);
    std::fs::remove_file(bench.folder.path().join("state/setup-ready/consents")).unwrap();
    assert_eq!(std::fs::read_to_string(bench.project().join("ran")).unwrap().lines().count(), 2);
}

#[test]
fn the_wanted_version_comes_from_the_repository() {
    let bench = Bench::new(
        "[require.old]\ntool = \"buoynode\"\nversion_from = \"package.json\"\n[require.met]\ntool = \"buoyc\"\nversion_from = \".buoyc-version\"
         [require.nowhere]\ntool = \"buoyc\"\nversion_from = \"nowhere.txt\"\n",
    );
    bench.program("buoynode", "echo v18.20.4");
    bench.program("buoyc", "echo buoyc 2.4.1");
    bench.file("package.json", "{\n  \"engines\": { \"buoynode\": \"^20.1\" }\n}\n");
    bench.file(".buoyc-version", "2.4\n");
    let (_, report) = bench.report(&[], &[]);
    let wanted = |id| of(&report, id)["wanted"].as_str().unwrap().to_owned();
    assert_eq!((essence(&report, "old").1.as_str(), wanted("old").as_str()), ("tool-too-old", ">= 20.1, < 21"));
    assert!(essence(&report, "old").2.ends_with("(package.json, line 2 says >= 20.1, < 21.)"));
    assert_eq!((essence(&report, "met").0.as_str(), wanted("met").as_str()), ("met", "2.4.*"));
    assert_eq!(
        essence(&report, "nowhere").2,
        "buoyc (nowhere) is here (2.4.1), but nowhere.txt, which says the version that is wanted, is not there."
    );
}

#[test]
fn a_role_is_chosen_from_a_list_where_somebody_can_choose() {
    let bench = Bench::new(
        "[role.firmware]\n[role.shore]\nabout = \"You watch the tide.\"\n[require.deck]\ncores = 1\nroles = [\"firmware\"]
         [require.mast]\ncores = 1\nroles = [\"shore\"]\n",
    );
    let chosen = bench.at_terminal("4\\nshore\\n", "preflight -v");
    assert!(chosen.contains("shore: You watch the tide."), "{chosen}");
    assert!(chosen.contains("There is no 4 in the list.") && chosen.contains("for the role shore"), "{chosen}");
    assert!(bench.at_terminal("\\n", "preflight").contains("for every role"));
    // Nobody is asked where nobody can answer.
    let noted = text(&bench.run(&["preflight"]).stderr);
    assert!(noted.contains("firmware or shore"), "{noted}");
}
