//! Each written from `setup-ready plan --help` and the guide format, before the script was run.

/// A machine, how somebody runs the script of its plan (`../steps.sh`, in the project's folder), and what must come of it.
pub(super) struct Case {
    pub(super) name: &'static str,
    pub(super) guide: &'static str,
    /// What is so before, in shell.
    pub(super) before: &'static str,
    /// How it is run.
    pub(super) run: &'static str,
    pub(super) as_root: bool,
    pub(super) ends: &'static [i32],
    pub(super) says: &'static [&'static str],
    pub(super) never: &'static [&'static str],
    /// What must hold afterwards, in shell.
    pub(super) after: &'static str,
}

const USUAL: Case = Case {
    name: "",
    guide: "",
    before: "",
    run: "sh ../steps.sh",
    as_root: false,
    ends: &[0],
    says: &[],
    never: &[],
    after: "true",
};

const TWO: &str = "[require.charts]\nfolder = \"charts\"\n[require.maps]\nfolder = \"maps\"\n";

/// The first step fails, the second one would work.
const FAILS: &str = "
    [require.plotter]\ntool = \"plotter\"\n[[require.plotter.fix]]\nsay = \"Build the plotter.\"\nrun = \"make-plotter --now\"
    [require.maps]\nfolder = \"maps\"\nafter = [\"plotter\"]\n";

/// A step for a person, and one that is a command.
const PERSON: &str = "[require.room]\ncores = 9999\ntitle = \"many cores\"\n[require.charts]\nfolder = \"charts\"\n";

const PATH_LINE: &str =
    "[require.plotter]\ntool = \"plotter\"\n[[require.plotter.fix]]\nsay = \"Put its folder on PATH.\"\nthen = \"new-shell\"
    edit = { file = \"~/.bashrc\", append = \"export PATH=/opt/plotter:$PATH\" }\n";

const ENV_LINE: &str =
    "[require.region]\nvariable = \"BUOY_REGION\"\nenv_file = \".env\"\n[[require.region.fix]]\nsay = \"Name the region.\"
    edit = { file = \".env\", append = \"BUOY_REGION=north\" }\n";

pub(super) const CASES: &[Case] = &[
    Case {
        name: "two folders are made",
        guide: TWO,
        says: &["setup-ready preflight"],
        after: "test -d charts && test -d maps",
        ..USUAL
    },
    Case { name: "each step is named before it is done", guide: TWO, says: &["1", "Make the folder", "charts", "maps"], ..USUAL },
    Case { name: "it is run twice", guide: TWO, run: "sh ../steps.sh && sh ../steps.sh", after: "test -d charts", ..USUAL },
    Case {
        name: "a step fails: which one is said, and that the rest was not done",
        guide: FAILS,
        before: "printf '#!/bin/sh\\nexit 7\\n' > $BIN/make-plotter; chmod +x $BIN/make-plotter",
        ends: &[1, 7],
        says: &["step 1|Step 1", "did not work|failed", "preflight"],
        never: &["Now check again"],
        after: "test ! -e maps",
        ..USUAL
    },
    Case {
        name: "the program of a step is not there: which step is said",
        guide: FAILS,
        ends: &[1, 127],
        says: &["step 1|Step 1", "did not work|failed"],
        never: &["Now check again"],
        after: "test ! -e maps",
        ..USUAL
    },
    Case {
        name: "it is read into the shell with a dot, and a step fails: the shell goes on",
        guide: FAILS,
        run: ". ../steps.sh; echo STILL HERE",
        says: &["STILL HERE", "did not work|failed"],
        ..USUAL
    },
    Case {
        name: "it is read into the shell with a dot: what the shell was set to stays",
        guide: TWO,
        run: "set +e; set +u; . ../steps.sh; false; echo \"STILL ${NEVER_SET:-}HERE\"; case $- in *e*|*u*) echo SPOILED;; esac",
        says: &["STILL HERE"],
        never: &["SPOILED"],
        after: "test -d charts",
        ..USUAL
    },
    Case {
        name: "it is read into bash with a dot, and a step fails: the shell goes on",
        guide: FAILS,
        run: "bash -c '. ../steps.sh; echo STILL HERE'",
        says: &["STILL HERE", "did not work|failed"],
        ..USUAL
    },
    Case {
        name: "from another folder: nothing is made there",
        guide: "[require.work]\ncheckout = \"copy\"\nbranch = \"tide\"\n[require.charts]\nfolder = \"charts\"\n[[require.charts.fix]]\nsay = \"Make charts.\"\nrun = \"mkdir charts\"\n",
        before: "git init -q -b main copy; git -C copy -c user.name=a -c user.email=a@b.invalid commit -q --allow-empty -m one; git -C copy branch tide",
        run: "mkdir ../far; cd ../far; sh ../steps.sh",
        ends: &[0, 1],
        says: &["project's folder|setup-guide.toml|preflight"],
        after: "test ! -e ../far/charts",
        ..USUAL
    },
    Case {
        name: "as the administrator, who would own what it makes: refused, or left to the person",
        guide: TWO,
        run: "SUDO_USER=skipper sh ../steps.sh",
        as_root: true,
        ends: &[1],
        says: &["sudo"],
        after: "test ! -e charts",
        ..USUAL
    },
    Case {
        name: "a start file whose last line has no end",
        guide: PATH_LINE,
        before: "printf 'alias buoy=ls' > \"$HOME/.bashrc\"",
        after: "grep -qx 'alias buoy=ls' \"$HOME/.bashrc\" && grep -qx 'export PATH=/opt/plotter:$PATH' \"$HOME/.bashrc\"",
        ..USUAL
    },
    Case {
        name: "a start file with such a line, twice run: the line stands there once",
        guide: PATH_LINE,
        before: "echo 'alias buoy=ls' > \"$HOME/.bashrc\"",
        run: "sh ../steps.sh && sh ../steps.sh",
        after: "test $(grep -c 'opt/plotter' \"$HOME/.bashrc\") = 1",
        ..USUAL
    },
    Case {
        name: "no start file yet",
        guide: PATH_LINE,
        says: &["new terminal"],
        after: "grep -q opt/plotter \"$HOME/.bashrc\"",
        ..USUAL
    },
    Case {
        name: "a file of variables whose last line has no end",
        guide: ENV_LINE,
        before: "printf 'OTHER=1' > .env",
        after: "grep -qx OTHER=1 .env && grep -qx BUOY_REGION=north .env",
        ..USUAL
    },
    Case {
        name: "a file of variables that is not there yet",
        guide: ENV_LINE,
        after: "test \"$(cat .env)\" = BUOY_REGION=north",
        ..USUAL
    },
    Case {
        name: "a file of variables with line ends of Windows",
        guide: ENV_LINE,
        before: "printf 'OTHER=1\\r\\n' > .env",
        after: "grep -q '^BUOY_REGION=north' .env && test $(grep -c . .env) = 2",
        ..USUAL
    },
    Case {
        name: "the start file is a link to where the person keeps theirs",
        guide: PATH_LINE,
        before: "mkdir \"$HOME/kept\"; echo 'alias buoy=ls' > \"$HOME/kept/bashrc\"; ln -s kept/bashrc \"$HOME/.bashrc\"",
        after: "test -L \"$HOME/.bashrc\" && grep -q opt/plotter \"$HOME/kept/bashrc\"",
        ..USUAL
    },
    Case {
        name: "the start file may not be written: which step is said",
        guide: PATH_LINE,
        before: "mkdir \"$HOME/.bashrc\"",
        run: "if [ -e ../steps.sh ]; then sh ../steps.sh; else exit 1; fi",
        ends: &[1, 2],
        says: &["step 1|Step 1", "did not work|failed"],
        ..USUAL
    },
    Case {
        name: "a step for a person where nobody can press Enter: it is said at the end that it is theirs",
        guide: PERSON,
        says: &["more cores", "for you|For you", "step 1.", "preflight"],
        after: "test -d charts",
        ..USUAL
    },
    Case { name: "nothing is to do", guide: "[require.one]\ncores = 1\n", says: &["Nothing|nothing"], ..USUAL },
    Case {
        name: "a folder whose name has blanks and a quotation mark",
        guide: "[require.charts]\nfolder = \"sea 'charts\"\n",
        after: "test -d \"sea 'charts\"",
        ..USUAL
    },
    Case {
        name: "a folder within a folder that is not there, in the home folder",
        guide: "[require.keys]\nfile = \"~/.driftbuoy/keys/station\"\n[[require.keys.fix]]\nsay = \"Note the station.\"\nedit = { file = \"~/.driftbuoy/keys/station\", append = \"north\" }\n",
        after: "test \"$(cat \"$HOME/.driftbuoy/keys/station\")\" = north",
        ..USUAL
    },
    Case {
        name: "a line for a file whose name begins like an option",
        guide: "[require.note]\nfile = \"-n\"\n[[require.note.fix]]\nsay = \"Note it.\"\nedit = { file = \"-n\", append = \"north\" }\n",
        run: "sh ../steps.sh && sh ../steps.sh",
        after: "test \"$(cat ./-n)\" = north",
        ..USUAL
    },
    Case {
        name: "only a recommended step fails: what is needed was done before",
        guide: "[require.plotter]\ntool = \"plotter\"\nlevel = \"should\"\n[[require.plotter.fix]]\nsay = \"Build the plotter.\"\nrun = \"false\"\n[require.maps]\nfolder = \"maps\"\n",
        ends: &[0, 1],
        after: "test -d maps",
        ..USUAL
    },
    Case {
        name: "a step changes the folder, and the next one is in the project's again",
        guide: "[require.charts]\nfolder = \"charts/north\"\n[[require.charts.fix]]\nsay = \"Make both.\"\nrun = [\"mkdir charts\", \"cd charts\", \"mkdir north\"]\n[require.maps]\nfolder = \"maps\"\n[[require.maps.fix]]\nsay = \"Make maps.\"\nrun = \"mkdir maps\"\n",
        after: "test -d charts/north && test -d maps",
        ..USUAL
    },
    Case {
        name: "a step asks something of its input, and nobody is there",
        guide: "[require.maps]\nfolder = \"maps\"\n[[require.maps.fix]]\nsay = \"Make maps.\"\nrun = \"head -n 1 > answer; mkdir maps\"\n[require.charts]\nfolder = \"charts\"\n",
        after: "test -d maps && test -d charts",
        ..USUAL
    },
    Case {
        name: "a step ends in a way that a pipe hides",
        guide: "[require.maps]\nfolder = \"maps\"\n[[require.maps.fix]]\nsay = \"Make maps.\"\nrun = \"make-plotter | cat\"\n[require.charts]\nfolder = \"charts\"\n",
        ends: &[0, 1, 127],
        says: &["preflight"],
        ..USUAL
    },
    Case {
        name: "it is given to dash, bash, busybox and zsh",
        guide: TWO,
        run: "for shell in dash bash 'busybox sh' zsh; do rm -rf charts maps; $shell ../steps.sh > /dev/null || echo FAILED $shell; test -d maps || echo UNMADE $shell; done",
        never: &["FAILED", "UNMADE"],
        ..USUAL
    },
    Case {
        name: "it says for which machine and which guide it was made",
        guide: TWO,
        run: "head -n 12 ../steps.sh",
        says: &["Debian", "Driftbuoy"],
        ..USUAL
    },
    Case {
        name: "it is run on another system: that is said before anything is done",
        guide: "[require.charts]\nfolder = \"charts\"\n",
        run: "sed 's/bookworm//' ../steps.sh > /dev/null; printf '#!/bin/sh\\necho Darwin\\n' > $BIN/uname; chmod +x $BIN/uname; sh ../steps.sh",
        ends: &[1],
        says: &["Linux|made for"],
        after: "test ! -e charts",
        ..USUAL
    },
];
