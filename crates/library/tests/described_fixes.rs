//! What is offered for what is not met, on described machines: the commands as they are pasted.

use build_setup_ready::{Described, Preflight};
use rstest::rstest;
use setup_ready_core::guide;

const LINUX: &str = "[system]\nos = \"linux\"\nmanagers = [\"apt\"]\n[user]\nname = \"mate\"\nhome = \"/home/mate\"\nadmin = true\nelevate = \"sudo\"\nshell = \"bash\"\nstartup_file = \"~/.bashrc\"\ngroups = [\"mate\"]\nother_groups = [\"dialout\"]\n";
const ROOT: &str =
    "[system]\nos = \"linux\"\nflags = [\"container\"]\n[user]\nname = \"root\"\nroot = true\nhome = \"/root\"\nshell = \"sh\"\n";
const FISH: &str = "[system]\nos = \"macos\"\n[user]\nname = \"mate\"\nhome = \"/Users/mate\"\nelevate = \"sudo\"\nshell = \"fish\"\nstartup_file = \"~/.config/fish/config.fish\"\n";
const PROMPT: &str =
    "[system]\nos = \"windows\"\n[user]\nname = \"mate\"\nhome = \"C:/Users/mate\"\nadmin = true\nshell = \"cmd\"\n";
const PC: &str =
    "[system]\nos = \"windows\"\n[user]\nname = \"mate\"\nhome = \"C:/Users/mate\"\nadmin = true\nshell = \"powershell\"\n";

#[rstest]
#[case::a_folder(LINUX, "", "folder = \"~/sea charts\"", &["mkdir -p '/home/mate/sea charts'"])]
#[case::a_dangling_link(LINUX, "[[folder]]\npath = \"a\"\nlink_to = \"b\"\n", "folder = \"a\"", &["rm /project/a", "mkdir -p /project/a"])]
#[case::something_else_there(LINUX, "[[file]]\npath = \"a\"\n", "folder = \"a\"", &["mv /project/a /project/a.old", "mkdir -p /project/a"])]
#[case::permissions(LINUX, "[[file]]\npath = \"k\"\nmode = \"644\"\n", "file = \"k\"\nmode = \"600\"", &["chmod 600 /project/k"])]
#[case::not_executable(LINUX, "[[file]]\npath = \"-x\"\n", "file = \"-x\"\nexecutable = true", &["chmod +x /project/-x"])]
#[case::another_owner(LINUX, "[[file]]\npath = \"k\"\nowner = \"root\"\n", "file = \"k\"\nowner = \"me\"", &["sudo chown mate /project/k"])]
#[case::own_and_locked(LINUX, "[[file]]\npath = \"k\"\nwritable = false\n", "file = \"k\"\nwritable = true", &["chmod u+w /project/k"])]
#[case::unwanted(LINUX, "[[file]]\npath = \"k\"\n", "file = \"k\"\nexpect = \"absent\"", &["mv /project/k /project/k.old"])]
#[case::a_variable_too_many(FISH, "[environment]\nA = \"1\"\n", "variable = \"A\"\nexpect = \"absent\"", &["set -e A"])]
#[case::a_group(LINUX, "", "group = \"dialout\"", &["sudo usermod -aG dialout mate"])]
#[case::a_group_on_macos(FISH, "groups = [\"staff\"]\nother_groups = [\"dialout\"]\n", "group = \"dialout\"", &["sudo dseditgroup -o edit -a mate -t user dialout"])]
#[case::a_group_on_windows(PC, "groups = [\"Users\"]\nother_groups = [\"Hyper-V Administrators\"]\n", "group = \"Hyper-V Administrators\"", &["net localgroup 'Hyper-V Administrators' mate /add"])]
#[case::no_such_group(LINUX, "", "group = \"buoys\"", &["sudo groupadd buoys", "sudo usermod -aG buoys mate"])]
#[case::a_socket(LINUX, "[[socket]]\npath = \"/run/e\"\nstate = \"denied\"\ngroup = \"engine\"\n", "socket = \"/run/e\"", &["sudo usermod -aG engine mate"])]
#[case::a_name(LINUX, "[names]\n", "hostname = \"shore.test\"\npoints_to = \"127.0.0.1\"", &["printf '\\n127.0.0.1 shore.test\\n' | sudo tee -a /etc/hosts"])]
#[case::a_name_as_root(ROOT, "[names]\n", "hostname = \"shore.test\"\npoints_to = \"127.0.0.1\"", &["printf '\\n127.0.0.1 shore.test\\n' | tee -a /etc/hosts"])]
#[case::a_name_on_windows(PC, "[names]\n", "hostname = \"shore.test\"\npoints_to = \"127.0.0.1\"", &[r"Add-Content -Path C:\Windows\System32\drivers\etc\hosts -Value '127.0.0.1 shore.test'"])]
#[case::a_name_at_the_command_prompt(PROMPT, "[names]\n", "hostname = \"shore.test\"\npoints_to = \"127.0.0.1\"", &[r">> C:\Windows\System32\drivers\etc\hosts echo 127.0.0.1 shore.test"])]
#[case::a_variable_at_the_command_prompt(PROMPT, "", "variable = \"BUOY_REGION\"", &["setx BUOY_REGION YOUR-VALUE"])]
#[case::a_port_of_a_program_on_windows(PC, "[[port]]\nport = 7070\nholder = \"lighthouse\"\npid = 4711\n", "port = 7070", &["Stop-Process -Id 4711"])]
#[case::a_port_of_a_program_at_the_command_prompt(PROMPT, "[[port]]\nport = 7070\nholder = \"lighthouse\"\npid = 4711\n", "port = 7070", &["taskkill /f /pid 4711"])]
#[case::a_port_of_the_system_itself(PC, "[[port]]\nport = 7070\nholder = \"System\"\npid = 4\n", "port = 7070", &[])]
#[case::a_file_in_another_case(LINUX, "[[file]]\npath = \"Keys/Buoy\"\n", "file = \"Keys/buoy\"", &["mv /project/Keys/Buoy /project/Keys/buoy"])]
#[case::a_guest_that_was_not_started(PC, "[virtualization]\nprocessor = true\nfirmware = true\nfeature = true\nstarted = false\n", "virtualization = \"usable\"", &["bcdedit /set hypervisorlaunchtype auto"])]
#[case::a_folder_on_windows(PC, "", "folder = \"~/sea charts\"", &["mkdir 'C:/Users/mate/sea charts'"])]
#[case::a_folder_at_the_command_prompt(PROMPT, "", "folder = \"~/sea charts\"", &["mkdir \"C:/Users/mate/sea charts\""])]
#[case::something_else_there_on_windows(PC, "[[file]]\npath = \"a\"\n", "folder = \"a\"", &["Move-Item -LiteralPath /project/a -Destination /project/a.old", "mkdir /project/a"])]
#[case::another_owner_on_windows(PC, "[[file]]\npath = \"k\"\nowner = \"SYSTEM\"\n", "file = \"k\"\nowner = \"me\"", &["icacls /project/k /setowner mate", "icacls /project/k /grant mate:M"])]
#[case::another_folder_at_the_command_prompt(PROMPT, "[[folder]]\npath = \"C:/my k\"\nowner = \"SYSTEM\"\n", "folder = \"C:/my k\"\nwritable = true", &["icacls \"C:/my k\" /grant \"mate:(OI)(CI)M\""])]
#[case::own_and_locked_on_windows(PC, "[[file]]\npath = \"k\"\nwritable = false\n", "file = \"k\"\nwritable = true", &["attrib -r /project/k"])]
#[case::a_key_that_others_may_read(PC, "[[file]]\npath = \"k\"\nopen_to = [\"Users\"]\n", "file = \"k\"\nmode = \"600\"", &["icacls /project/k /inheritance:r /grant:r mate:F"])]
#[case::a_stopped_service(LINUX, "[[port]]\nport = 5432\nstate = \"free\"\n[system_services]\npostgresql = \"stopped\"\n", "service = \"localhost:5432\"", &["sudo systemctl restart postgresql"])]
#[case::a_disabled_service(LINUX, "[system_services]\nengine = \"disabled\"\n", "socket = \"/run/engine.sock\"", &["sudo systemctl enable --now engine"])]
#[case::a_disabled_service_on_windows(PC, "[system_services]\nssh-agent = \"disabled\"\n", "socket = \"//./pipe/openssh-ssh-agent\"", &["Set-Service -Name ssh-agent -StartupType Manual", "Start-Service -Name ssh-agent"])]
#[case::a_disabled_service_at_the_command_prompt(PROMPT, "[system_services]\nssh-agent = \"disabled\"\n", "socket = \"//./pipe/openssh-ssh-agent\"", &["sc config ssh-agent start= demand", "net start ssh-agent"])]
#[case::a_program_off_path(PC, "[[program]]\npath = \"C:/Charts/chartctl.exe\"\n", "tool = \"chartctl\"", &["[Environment]::SetEnvironmentVariable('Path', 'C:/Charts' + ';' + [Environment]::GetEnvironmentVariable('Path', 'User'), 'User')"])]
#[case::a_proxy(PC, "[network]\nonline = true\nsystem_proxy = \"http://gate.test:3128\"\n[[site]]\nurl = \"https://f.example\"\nfails = \"no-answer\"\n", "reach = \"https://f.example\"", &[
    "[Environment]::SetEnvironmentVariable('https_proxy', 'http://gate.test:3128', 'User')",
    "[Environment]::SetEnvironmentVariable('http_proxy', 'http://gate.test:3128', 'User')",
])]
#[case::a_port_below_the_limit(LINUX, "[[port]]\nport = 80\nstate = \"denied\"\n", "port = 80", &["sudo sysctl net.ipv4.ip_unprivileged_port_start=80"])]
#[case::a_folder_of_the_system(LINUX, "[[folder]]\npath = \"/srv\"\nowner = \"root\"\nmode = \"700\"\n", "folder = \"/srv\"\nmode = \"755\"", &["sudo chmod 755 /srv"])]
#[case::file_watches(LINUX, "[limits]\nfile-watches = 8192\n", "limit = \"file-watches\"\nat_least = 65536", &[
    "echo fs.inotify.max_user_watches=65536 | sudo tee /etc/sysctl.d/zz-file-watches.conf",
    "sudo sysctl -p /etc/sysctl.d/zz-file-watches.conf",
])]
#[case::open_files_of_all(LINUX, "[limits]\nopen-files = [256, 256]\n", "limit = \"open-files\"\nat_least = 4096", &["echo 'mate - nofile 4096' | sudo tee -a /etc/security/limits.d/zz-project.conf"])]
#[case::a_library(LINUX, "[[library]]\nname = \"usb\"\nloaded_from = \"libusb.so.1\"\n", "library = \"usb\"\npackages = { apt = \"libusb-dev\" }", &["sudo apt-get install libusb-dev"])]
#[case::a_setting(LINUX, "[settings]\n", "setting = \"user.name\"", &["git config --global user.name YOUR-VALUE"])]
#[case::submodules(LINUX, "[checkout]\nsubmodules_not_fetched = [\"p\"]\n", "checkout = \"sub dir\"\nsubmodules = true", &["git -C 'sub dir' submodule update --init --recursive"])]
#[case::large_files(LINUX, "[checkout]\nlarge_files_not_fetched = [\"p\"]\n", "checkout = \".\"\nlarge_files = true", &["git lfs install", "git lfs pull"])]
#[case::another_branch(LINUX, "[checkout]\nbranch = \"a\"\n", "checkout = \".\"\nbranch = \"it's\"", &[r"git switch 'it'\''s'"])]
#[case::a_command(LINUX, "[[command]]\nwords = [\"sh\", \"-c\", \"exit $A\"]\nexit = 1\n", "command = [\"sh\", \"-c\", \"exit $A\"]", &["sh -c 'exit $A'"])]
#[case::a_change_on_another_branch(LINUX, "[checkout]\nbranch = \"a\"\nchanged = 2\n", "checkout = \".\"\nbranch = \"b\"\nclean = true", &["git stash", "git switch b"])]
#[case::a_new_file_on_another_branch(LINUX, "[checkout]\nbranch = \"a\"\nchanged = 1\nuntracked = 1\n", "checkout = \".\"\nbranch = \"b\"", &["git switch b"])]
#[case::a_change_that_is_not_committed(LINUX, "[checkout]\nchanged = 2\n", "checkout = \".\"\nclean = true", &["git stash"])]
#[case::a_change_and_a_new_file(LINUX, "[checkout]\nchanged = 2\nuntracked = 1\n", "checkout = \".\"\nclean = true", &["git stash"])]
#[case::new_files_alone(LINUX, "[checkout]\nchanged = 2\nuntracked = 2\n", "checkout = \".\"\nclean = true", &[])]
fn this_is_what_is_pasted(#[case] user: &str, #[case] machine: &str, #[case] subject: &str, #[case] commands: &[&str]) {
    let guide = guide::parse(&format!("format = 1\n[project]\nname = \"Driftbuoy\"\n[require.x]\n{subject}\n")).unwrap();
    let text = format!("format = 1\npath = [\"/usr/bin\"]\n[machine]\nname = \"buoy-desk\"\n{user}{machine}");
    let machine = Described::parse(&text).unwrap_or_else(|problems| panic!("{problems:?}"));
    let report = Preflight::new(&guide).run(&machine).unwrap();
    let settled = report.settled.first().unwrap();
    assert_eq!(settled.fixes.first().unwrap().run, commands, "{}", report.message(settled));
    // What asks for admin rights says so.
    let elevated = commands.iter().any(|command| command.contains("sudo "));
    assert!(!elevated || settled.fixes.first().unwrap().admin);
}

#[test]
fn a_program_of_windows_does_not_stand_for_one_of_the_linux_inside() {
    let guide = guide::parse("format = 1\n[project]\nname = \"Driftbuoy\"\n[require.x]\ntool = \"git\"\n").unwrap();
    let git = "/mnt/c/Program Files/Git/cmd/git.exe";
    let message = |flags: &str| {
        let system = LINUX.replace("os = \"linux\"", &format!("os = \"linux\"\n{flags}"));
        let text = format!(
            "format = 1\npath = [\"/usr/bin\", \"/mnt/c/Program Files/Git/cmd\"]\n[machine]\nname = \"buoy-desk\"\n{system}[[program]]\npath = \"{git}\"\n"
        );
        let machine = Described::parse(&text).unwrap_or_else(|problems| panic!("{problems:?}"));
        let report = Preflight::new(&guide).run(&machine).unwrap();
        report.message(report.settled.first().unwrap())
    };
    let more = format!("The one at {git} is on the Windows side: this Linux needs one of its own.");
    let inside = message("flags = [\"wsl\"]");
    assert!(inside.ends_with(&more), "{inside}");
    assert!(!message("").contains("Windows"));
}

#[rstest]
#[case::room_outside(
    "[[filesystem]]\nat = \"/\"\navailable = \"3 GB\"\noutside = \"/mnt/c\"\n",
    "disk = \"12 GB\"",
    "On the Windows side, free at least 9 GB on the disk"
)]
#[case::memory("[memory]\ntotal = \"4 GB\"\n", "memory = \"8 GB\"", "`[wsl2]` and `memory=9GB`")]
#[case::cores("[cores]\nonline = 2\n", "cores = 4", "`[wsl2]` and `processors=4`")]
fn a_linux_inside_windows_is_mended_on_the_windows_side(#[case] machine: &str, #[case] subject: &str, #[case] words: &str) {
    let guide = guide::parse(&format!("format = 1\n[project]\nname = \"Driftbuoy\"\n[require.x]\n{subject}\n")).unwrap();
    let inside = LINUX.replace("os = \"linux\"", "os = \"linux\"\nflags = [\"wsl\"]");
    let text = format!("format = 1\n[machine]\nname = \"buoy-desk\"\n{inside}{machine}");
    let report = Preflight::new(&guide).run(&Described::parse(&text).unwrap()).unwrap();
    let say = &report.settled.first().unwrap().fixes.first().unwrap().say;
    assert!(say.contains(words), "{say}");
}

#[rstest]
#[case::missing("managers = []\n", Some("The command winget is not here"))]
#[case::there("managers = [\"winget\"]\n", None)]
fn a_manager_that_is_missing_is_told_before_its_command(#[case] managers: &str, #[case] caution: Option<&str>) {
    let guide =
        "format = 1\n[project]\nname = \"Driftbuoy\"\n[require.x]\ntool = \"cmake\"\npackages = { winget = \"Kitware.CMake\" }\n";
    let guide = guide::parse(guide).unwrap();
    let system = PC.replace("os = \"windows\"\n", &format!("os = \"windows\"\n{managers}"));
    let text = format!("format = 1\npath = []\n[machine]\nname = \"buoy-desk\"\n{system}");
    let machine = Described::parse(&text).unwrap_or_else(|problems| panic!("{problems:?}"));
    let report = Preflight::new(&guide).run(&machine).unwrap();
    let fix = report.settled.first().unwrap().fixes.first().unwrap();
    assert_eq!(fix.run, ["winget install Kitware.CMake"]);
    assert_eq!(fix.caution.as_deref().map(|said| said.split(':').next().unwrap()), caution);
}

#[rstest]
#[case::at_home("\"wsl\"", false)]
#[case::on_the_windows_side("\"wsl\", \"project-outside\"", true)]
fn where_the_project_lies_is_told(#[case] flags: &str, #[case] outside: bool) {
    let guide = guide::parse("format = 1\n[project]\nname = \"Driftbuoy\"\n[require.x]\ncores = 1\n").unwrap();
    let inside = LINUX.replace("os = \"linux\"", &format!("os = \"linux\"\nflags = [{flags}]"));
    let text = format!("format = 1\n[machine]\nname = \"buoy-desk\"\n{inside}");
    let report = Preflight::new(&guide).run(&Described::parse(&text).unwrap()).unwrap();
    let words = report.surroundings.as_ref().unwrap().words().join(" ");
    assert!(words.starts_with("a Linux inside Windows"));
    assert_eq!(words.contains("on the Windows side, where they are slow and keep no permissions"), outside, "{words}");
}

#[test]
fn permissions_on_the_windows_side_are_said_not_to_last() {
    let guide = "format = 1\n[project]\nname = \"Driftbuoy\"\n[require.x]\nfile = \"/mnt/c/key\"\nmode = \"600\"\n";
    let guide = guide::parse(guide).unwrap();
    let inside = LINUX.replace("os = \"linux\"", "os = \"linux\"\nflags = [\"wsl\"]");
    let text = format!("format = 1\n[machine]\nname = \"buoy-desk\"\n{inside}[[file]]\npath = \"/mnt/c/key\"\nmode = \"777\"\n");
    let report = Preflight::new(&guide).run(&Described::parse(&text).unwrap()).unwrap();
    let caution = report.settled.first().unwrap().fixes.first().unwrap().caution.clone().unwrap();
    assert!(caution.starts_with("Files on the Windows side keep no such permissions"), "{caution}");
}

#[rstest]
#[case::for_bash(LINUX, "", "~/.bashrc", "export BUOY_REGION=YOUR-VALUE")]
#[case::for_fish(FISH, "", "~/.config/fish/config.fish", "set -gx BUOY_REGION YOUR-VALUE")]
#[case::in_the_projects_file(LINUX, "env_file = \".env\"\n", ".env", "BUOY_REGION=YOUR-VALUE")]
fn a_variable_is_set_where_it_lasts(#[case] user: &str, #[case] more: &str, #[case] file: &str, #[case] line: &str) {
    let guide = format!("format = 1\n[project]\nname = \"Driftbuoy\"\n[require.x]\nvariable = \"BUOY_REGION\"\n{more}");
    let guide = guide::parse(&guide).unwrap();
    let machine = Described::parse(&format!("format = 1\n[machine]\nname = \"buoy-desk\"\n{user}")).unwrap();
    let report = Preflight::new(&guide).run(&machine).unwrap();
    let edit = report.settled.first().unwrap().fixes.first().unwrap().edit.clone().unwrap();
    assert_eq!((edit.file.as_str(), edit.append.as_str()), (file, line));
}

#[rstest]
#[case::alone("A=1\nBUOY_REGION=x\n", Some(2))]
#[case::behind_a_key("KEY=\"-----BEGIN\nBUOY_REGION=old\n-----END\"\nBUOY_REGION=x\n", Some(4))]
#[case::only_inside_a_key("KEY=\"-----BEGIN\nBUOY_REGION=old\n-----END\"\n", None)]
#[case::of_several_lines("BUOY_REGION=\"x\ny\"\n", None)]
fn a_line_within_another_value_is_never_replaced(#[case] file: &str, #[case] line: Option<usize>) {
    let guide = "format = 1\n[project]\nname = \"Driftbuoy\"\n[require.x]\nvariable = \"BUOY_REGION\"\nenv_file = \".env\"\nmatches = '^(north|south)$'\n";
    let guide = guide::parse(guide).unwrap();
    let text = format!("format = 1\n[machine]\nname = \"buoy-desk\"\n{LINUX}[[file]]\npath = \".env\"\ntext = '''\n{file}'''\n");
    let report = Preflight::new(&guide).run(&Described::parse(&text).unwrap()).unwrap();
    let edit = report.settled.first().unwrap().fixes.first().unwrap().edit.clone().unwrap();
    assert_eq!(edit.line, line);
}

#[test]
fn what_stands_before_admin_commands_is_from_a_closed_list() {
    let text = format!("format = 1\n[machine]\nname = \"buoy-desk\"\n{}", LINUX.replace("\"sudo\"", "\"touch harm; sudo\""));
    let problems = Described::parse(&text).unwrap_err();
    assert!(format!("{problems:?}").contains("`elevate` cannot be `touch harm; sudo`"), "{problems:?}");
    let known = r#"[{"probe":"account","observation":{"account":{"name":"mate","root":false,"admin":true,"elevate":"touch harm; sudo","groups":[],"shell":"bash","startup_file":"~/.bashrc"}},"elapsed_ms":0}]"#;
    let known: setup_ready_core::known::Known = serde_json::from_str(known).unwrap();
    assert_eq!((known.len(), known.passed_over()), (0, 1));
}

/// A text that a shell would carry out wherever it does not stand in quotes.
const HARM: &str = "x'; touch harm; $(touch harm) `touch harm`";

/// Every word that a machine may bring into a command, as a stranger may have written it.
#[rstest]
#[case::a_user("", "group = \"dialout\"")]
#[case::a_group("[[socket]]\npath = \"/run/e\"\nstate = \"denied\"\ngroup = \"HARM\"\n", "socket = \"/run/e\"")]
#[case::an_owner("[[file]]\npath = \"k\"\nowner = \"HARM\"\n", "file = \"k\"\nowner = \"me\"")]
#[case::a_link("[[folder]]\npath = \"a\"\nlink_to = \"HARM\"\n", "folder = \"a\"")]
#[case::a_real_path(
    "[[program]]\npath = \"/usr/bin/lure\"\nreal_path = \"/HARM/lure\"\nprints = \"lure 1.0\"\n",
    "tool = \"lure\"\nversion = \">= 2\""
)]
#[case::a_program_off_path("[[program]]\npath = \"/HARM/lure\"\nprints = \"lure 2.0\"\n", "tool = \"lure\"\nversion = \">= 2\"")]
#[case::a_holder("[[port]]\nport = 7070\nholder = \"HARM\"\npid = 4711\n", "port = 7070")]
#[case::a_service("[system_services]\n\"HARM\" = \"stopped\"\n", "service = \"localhost:5432\"")]
#[case::a_submodule("[checkout]\nsubmodules_not_fetched = [\"HARM\"]\n", "checkout = \".\"\nsubmodules = true")]
#[case::a_branch("[checkout]\nbranch = \"HARM\"\n", "checkout = \".\"\nbranch = \"main\"")]
#[case::a_proxy(
    "[network]\nonline = true\nsystem_proxy = \"http://HARM\"\n[[site]]\nurl = \"https://f.example\"\nfails = \"no-answer\"\n",
    "reach = \"https://f.example\""
)]
#[case::a_package("[candidates.apt]\nlure = \"HARM\"\n", "tool = \"lure\"\npackages = { apt = \"lure\" }")]
fn what_a_machine_names_is_quoted_in_commands(#[case] machine: &str, #[case] subject: &str) {
    let guide = guide::parse(&format!("format = 1\n[project]\nname = \"Driftbuoy\"\n[require.x]\n{subject}\n")).unwrap();
    let user = LINUX.replace("\"mate\"", &format!("{HARM:?}")).replace("~/.bashrc", "~/.b; touch harm");
    let text = format!("format = 1\npath = [\"/usr/bin\"]\n[machine]\nname = \"m\"\n{user}{}", machine.replace("HARM", HARM));
    let machine = Described::parse(&text).unwrap_or_else(|problems| panic!("{problems:?}"));
    let report = Preflight::new(&guide).run(&machine).unwrap();
    for fix in report.settled.first().unwrap().fixes.iter() {
        let lines = fix.run.iter().chain(fix.edit.as_ref().map(|edit| &edit.append));
        for line in lines {
            // A quote within single quotes is written '\'' (POSIX.1-2024, Shell Command Language 2.2).
            let outside: String = line.replace("'\\''", "").split('\'').step_by(2).collect();
            assert!(!outside.contains("harm"), "{line}");
        }
    }
}
