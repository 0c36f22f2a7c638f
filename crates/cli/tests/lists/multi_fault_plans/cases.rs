//! The list: written from the pages for users, before the plans were looked at.

/// Several things that are broken on one machine, and what somebody in a hurry must be able to do by following the plan from its first step to its last.
pub(super) struct Case {
    pub(super) name: &'static str,
    /// Parts of the guide that others have too, and its own.
    pub(super) before: &'static [&'static str],
    pub(super) guide: &'static str,
    pub(super) also: &'static [&'static str],
    pub(super) machine: &'static str,
    pub(super) asked: &'static [&'static str],
    /// Words that stand in steps of the plan (what is said, typed or written), none before another one that is named first.
    pub(super) order: &'static [&'static str],
    /// Words that stand in one step together.
    pub(super) together: &'static [&'static str],
    /// Words that stand in one step and no other.
    pub(super) once: &'static [&'static str],
    pub(super) never: &'static [&'static str],
}

const NONE: Case = Case {
    before: &[],
    also: &[],
    name: "",
    guide: "",
    machine: "",
    asked: &[],
    order: &[],
    together: &[],
    once: &[],
    never: &[],
};

const HELD: &str = "[[port]]\nport = 7070\nholder = \"lighthouse\"\npid = 4711\nuser = \"root\"\n";
const SERIAL: &str = "[require.serial]\ngroup = \"dialout\"\n";
const PAGE: &str = "[require.page]\nport = 7070\nset_by = { variable = \"SHORE_PORT\" }\n";

pub(super) const CASES: &[Case] = &[
    Case {
        name: "a port that a variable of this terminal moves, and a group",
        order: &["usermod -aG dialout", "Sign out", "export SHORE_PORT=7071"],
        once: &["Sign out"],
        before: &[PAGE, SERIAL],
        also: &[HELD],
        ..NONE
    },
    Case {
        name: "a variable that must go from this terminal, and a line for new terminals",
        guide: "[require.sim]\nvariable = \"BUOY_SIM\"\nexpect = \"absent\"\n[require.region]\nvariable = \"BUOY_REGION\"\n",
        machine: "[environment]\nBUOY_SIM = \"1\"\n",
        order: &["export BUOY_REGION", "unset BUOY_SIM"],
        before: &[],
        also: &[],
        ..NONE
    },
    Case {
        name: "a port that a variable moves, and a line for new terminals",
        guide: "[require.region]\nvariable = \"BUOY_REGION\"\n",
        order: &["export BUOY_REGION", "export SHORE_PORT=7071"],
        before: &[PAGE],
        also: &[HELD],
        ..NONE
    },
    Case {
        name: "two groups: one sign-in",
        guide: "[require.power]\ngroup = \"power\"\n",
        order: &["dialout", "Sign out"],
        once: &["Sign out"],
        before: &[SERIAL],
        also: &[],
        ..NONE
    },
    Case {
        name: "a group and a restart: the restart alone",
        guide: "[require.lab]\ntool = \"labctl\"\n[[require.lab.fix]]\nsay = \"Fetch the lab.\"\nrun = [\"fetch lab\"]\nthen = \"restart\"\n",
        order: &["fetch lab", "Restart"],
        once: &["Restart"],
        never: &["Sign out"],
        before: &[SERIAL],
        also: &[],
        ..NONE
    },
    Case {
        name: "packages that are needed, and one that is only recommended",
        guide: "[require.tree]\ntool = \"tree\"\n[require.jq]\ntool = \"jq\"\n[require.ninja]\ntool = \"ninja\"\nlevel = \"should\"\n",
        order: &["tree jq", "ninja"],
        together: &["jq", "tree"],
        once: &["jq"],
        before: &[],
        also: &[],
        ..NONE
    },
    Case {
        name: "no room on the disk, and packages to install",
        guide: "[require.tree]\ntool = \"tree\"\n[require.room]\ndisk = \"5 GB\"\n",
        machine: "[[filesystem]]\nat = \"/\"\navailable = \"1 MB\"\n",
        order: &["GB", "apt-get install tree"],
        before: &[],
        also: &[],
        ..NONE
    },
    Case {
        name: "no way out to the network, and packages to install",
        guide: "[require.tree]\ntool = \"tree\"\n[require.quay]\nreach = \"https://quay.example/\"\n",
        machine: "[network]\nonline = false\n[[site]]\nurl = \"https://quay.example\"\nfails = \"no-way\"\n",
        order: &["network", "apt-get install tree"],
        before: &[],
        also: &[],
        ..NONE
    },
    Case {
        name: "a clock that is wrong, and a page that is not trusted for it",
        guide: "[require.quay]\nreach = \"https://quay.example/\"\n[require.time]\nclock = \"1 min\"\nby = \"https://quay.example\"\n[require.tree]\ntool = \"tree\"\n",
        machine: "[network]\nonline = true\nclock_slow_s = 9000000\n[[site]]\nurl = \"https://quay.example\"\nfails = \"not-secure\"\n",
        order: &["clock", "apt-get install tree"],
        before: &[],
        also: &[],
        ..NONE
    },
    Case {
        name: "no git, submodules that are not fetched, and no name in git",
        guide: "[require.parts]\ncheckout = \".\"\nsubmodules = true\n[require.me]\nsetting = \"user.name\"\nof = \"git\"\n[require.git]\ntool = \"git\"\n",
        machine: "[checkout]\npresent = true\nsubmodules_not_fetched = [\"charts\"]\n[settings]\n",
        order: &["apt-get install git", "git submodule update"],
        before: &[],
        also: &[],
        ..NONE
    },
    Case {
        name: "a file of settings that is not there, and keys in it",
        guide: "[require.region]\nvariable = \"BUOY_REGION\"\nenv_file = \".env\"\nafter = [\"settings\"]\n[require.settings]\nfile = \".env\"\n[[require.settings.fix]]\nsay = \"Copy the example.\"\nrun = [\"cp .env.example .env\"]\n",
        machine: "[[file]]\npath = \".env.example\"\ntext = \"BUOY_REGION=\"\n",
        order: &["put your own values"],
        before: &[],
        also: &[],
        ..NONE
    },
    Case {
        name: "something not committed, and another branch",
        guide: "[require.branch]\ncheckout = \".\"\nbranch = \"main\"\n[require.clean]\ncheckout = \".\"\nclean = true\n",
        machine: "[checkout]\npresent = true\nbranch = \"old\"\nchanged = 2\n",
        order: &["git stash", "git switch main"],
        before: &[],
        also: &[],
        ..NONE
    },
    Case {
        name: "a folder of the administrator, and a script in it that is not executable",
        guide: "[require.script]\nfile = \"tools/build.sh\"\nexecutable = true\n[require.tools]\nfolder = \"tools\"\nowner = \"me\"\nwritable = true\n",
        machine: "[[folder]]\npath = \"tools\"\nowner = \"root\"\n[[file]]\npath = \"tools/build.sh\"\nowner = \"root\"\nmode = \"644\"\n",
        order: &["chown", "chmod"],
        before: &[],
        also: &[],
        ..NONE
    },
    Case {
        name: "a person without admin rights who needs a group and a package",
        guide: "[require.tree]\ntool = \"tree\"\n",
        asked: &["no-admin"],
        never: &["sudo"],
        order: &["dialout"],
        once: &["Sign out"],
        before: &[SERIAL],
        also: &[],
        ..NONE
    },
    Case {
        name: "a group that only a recommended thing needs",
        guide: "[require.serial]\ngroup = \"dialout\"\nlevel = \"should\"\n[require.tree]\ntool = \"tree\"\n",
        order: &["apt-get install tree", "usermod -aG dialout", "take effect (recommended)"],
        before: &[],
        also: &[],
        ..NONE
    },
    Case {
        name: "admin steps stand together",
        guide: "[require.tree]\ntool = \"tree\"\n[require.charts]\nfolder = \"charts\"\n[require.region]\nvariable = \"BUOY_REGION\"\n[require.watches]\nlimit = \"file-watches\"\nat_least = 65536\n",
        machine: "[limits]\nfile-watches = 8192\n",
        order: &["admin-together"],
        before: &[SERIAL],
        also: &[],
        ..NONE
    },
    Case {
        name: "a tool that installs another one is missing too",
        guide: "[require.sail]\ntool = \"sailctl\"\nafter = [\"loft\"]\n[[require.sail.fix]]\nsay = \"Let the loft make one.\"\nrun = [\"loft make sail\"]\n[require.loft]\ntool = \"loft\"\n[[require.loft.fix]]\nsay = \"Fetch the loft.\"\nrun = [\"fetch loft\"]\n[require.flag]\ntool = \"flagctl\"\nafter = [\"loft\"]\n[[require.flag.fix]]\nsay = \"Let the loft make a flag.\"\nrun = [\"loft make flag\"]\n",
        order: &["fetch loft", "loft make sail", "loft make flag"],
        once: &["fetch loft"],
        before: &[],
        also: &[],
        ..NONE
    },
    Case {
        name: "one package for two things",
        guide: "[require.lib]\nlibrary = \"sqlite3\"\npackages = { apt = \"libsqlite3-dev\" }\n[require.lib-new]\nlibrary = \"sqlite3\"\nversion = \">= 3.40\"\npackages = { apt = \"libsqlite3-dev\" }\n",
        order: &["libsqlite3-dev"],
        once: &["libsqlite3-dev"],
        before: &[],
        also: &[],
        ..NONE
    },
    Case {
        name: "a service that is stopped, and a group that may use it",
        guide: "[require.engine]\nsocket = \"/run/buoy-engine.sock\"\nunit = \"buoy-engine\"\n[require.crew]\ngroup = \"engine\"\n",
        machine: "[system_services]\nbuoy-engine = \"disabled\"\n",
        order: &["systemctl", "usermod -aG engine", "Sign out"],
        once: &["Sign out"],
        before: &[],
        also: &[],
        ..NONE
    },
    Case {
        name: "too few open files for this terminal, and a group",
        guide: "[require.files]\nlimit = \"open-files\"\nat_least = 4096\n",
        machine: "[limits]\nopen-files = [1024, 65536]\n",
        order: &["usermod -aG dialout", "Sign out"],
        once: &["Sign out"],
        before: &[SERIAL],
        also: &[],
        ..NONE
    },
    Case {
        name: "a tool off PATH and a variable: one new terminal, two lines",
        guide: "[require.sail]\ntool = \"sailctl\"\n[require.region]\nvariable = \"BUOY_REGION\"\n",
        machine: "[[program]]\npath = \"/home/mate/.cargo/bin/sailctl\"\nprints = \"sailctl 1.0\"\n",
        order: &["/.cargo/bin"],
        once: &["export PATH", "export BUOY_REGION"],
        before: &[],
        also: &[],
        ..NONE
    },
    Case {
        name: "an own program holds the port, and the port moves by a file",
        guide: "[require.page]\nport = 7070\nset_by = { variable = \"SHORE_PORT\", env_file = \".env\" }\n[require.region]\nvariable = \"BUOY_REGION\"\nenv_file = \".env\"\n",
        machine: "[[file]]\npath = \".env\"\ntext = \"A=1\"\n",
        order: &["SHORE_PORT=7071"],
        once: &["SHORE_PORT=7071", "BUOY_REGION="],
        never: &["kill 4711"],
        before: &[],
        also: &[HELD],
        ..NONE
    },
    Case {
        name: "two ports beside each other, both held: two numbers",
        guide: "[require.page]\nport = 7070\nset_by = { variable = \"SHORE_PORT\" }\n[require.other]\nport = 7071\nset_by = { variable = \"OTHER_PORT\" }\n",
        machine: "[[port]]\nport = 7071\nholder = \"lighthouse\"\npid = 4712\nuser = \"root\"\n",
        once: &["SHORE_PORT=7072", "OTHER_PORT=7073"],
        before: &[],
        also: &[HELD],
        ..NONE
    },
    Case {
        name: "nothing needed is broken",
        guide: "[require.sail]\ntool = \"sailctl\"\nlevel = \"may\"\n",
        order: &["sailctl (optional)"],
        before: &[],
        also: &[],
        ..NONE
    },
    Case {
        name: "a virtual machine's device and its group",
        guide: "[require.emulator]\nvirtualization = \"usable\"\n",
        machine: "[virtualization]\nprocessor = true\nfirmware = true\n[[device]]\npath = \"/dev/kvm\"\nstate = \"denied\"\ngroup = \"kvm\"\nmode = \"660\"\n",
        order: &["usermod -aG", "Sign out"],
        once: &["Sign out"],
        before: &[SERIAL],
        also: &[],
        ..NONE
    },
    Case {
        name: "the same command with something to mind, and a sign-in, stands by itself",
        guide: "[require.a]\ntool = \"actl\"\n[[require.a.fix]]\nsay = \"Fetch it.\"\nrun = [\"fetch all\"]\n[require.b]\ntool = \"bctl\"\n[[require.b.fix]]\nsay = \"Fetch it.\"\nrun = [\"fetch all\"]\nthen = \"sign-in\"\n",
        order: &["fetch all", "Sign out"],
        once: &["Sign out"],
        ..NONE
    },
];
