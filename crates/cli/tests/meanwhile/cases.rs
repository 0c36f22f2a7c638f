//! Each written from what the README and `--help` promise, before the answer was looked at.

/// One thing that happens.
pub(super) enum Step {
    /// The program is started with these arguments.
    Starts(&'static [&'static str]),
    /// It is waiting, and has said each of the first and none of the second since the last step that read.
    Waits(&'static [&'static str], &'static [&'static str]),
    /// These bytes go to its input.
    Types(&'static str),
    /// Somebody does this in another window, in the project's folder.
    Does(&'static str),
    /// Its input ends.
    Closes,
    /// It gets a signal.
    Signals(&'static str),
    /// It ends with this status, having said so.
    Ends(i32, &'static [&'static str], &'static [&'static str]),
}

/// A guide, and what happens.
pub(super) struct Case {
    pub(super) name: &'static str,
    pub(super) guide: &'static str,
    pub(super) steps: &'static [Step],
}

use Step::{Closes, Does, Ends, Signals, Starts, Types, Waits};

const TWO: &str = "
    [[stage]]\nid = \"place\"\ntitle = \"A place\"\nintro = \"Where charts go.\"
    [[stage]]\nid = \"tools\"\ntitle = \"Tools\"
    [require.charts]\nfolder = \"charts\"\nstage = \"place\"
    [require.plotter]\ntool = \"plotter\"\nversion = \">= 2\"\nstage = \"tools\"\ntitle = \"the plotter\"\n";

const PAIR: &str =
    "[require.charts]\nfolder = \"charts\"\n[require.plotter]\ntool = \"plotter\"\nversion = \">= 2\"\ntitle = \"the plotter\"\n";

/// A plotter as it must be, and one that is too old.
const PLOTTER: Step = Does("printf '#!/bin/sh\\necho plotter 2.1\\n' > $BIN/plotter; chmod +x $BIN/plotter");
const OLD_PLOTTER: Step = Does("printf '#!/bin/sh\\necho plotter 1.4\\n' > $BIN/plotter; chmod +x $BIN/plotter");
const CHARTS: Step = Does("mkdir charts");

const WALK: Step = Starts(&["walk"]);
const WATCH: Step = Starts(&["preflight", "--watch"]);
const STOPS: Step = Waits(&[], &[]);
const ENTER: Step = Types("\n");

pub(super) const WALKS: &[Case] = &[
    // What is typed.
    Case {
        name: "Enter before anything was done",
        guide: TWO,
        steps: &[WALK, STOPS, ENTER, Waits(&["Nothing has changed", "charts"], &["Met now"])],
    },
    Case {
        name: "the command is typed into the walk itself",
        guide: TWO,
        steps: &[WALK, Waits(&["mkdir"], &[]), Types("mkdir charts\n"), Waits(&["another window|another terminal|second terminal"], &["Did you mean"]), Does("test ! -e charts")],
    },
    Case {
        name: "a command with sudo is typed into the walk itself",
        guide: TWO,
        steps: &[WALK, STOPS, Types("sudo apt install plotter\n"), Waits(&["another window|another terminal|second terminal"], &[])],
    },
    Case {
        name: "the key up, which brings back a line in a shell",
        guide: TWO,
        steps: &[WALK, STOPS, Types("\u{1b}[A\n"), Waits(&["quit"], &["\u{1b}[A"])],
    },
    Case { name: "yes, as if something had been asked", guide: TWO, steps: &[WALK, STOPS, Types("yes\n"), Waits(&["Enter", "skip"], &["Did you mean"])] },
    Case {
        name: "help, where no such word was named",
        guide: TWO,
        steps: &[WALK, STOPS, Types("help\n"), Waits(&["explain", "skip", "quit", "Enter"], &["is none of the words"])],
    },
    Case {
        name: "a question mark",
        guide: TWO,
        steps: &[WALK, STOPS, Types("?\n"), Waits(&["explain", "skip", "quit", "Enter"], &["is none of the words"])],
    },
    Case { name: "quit in capitals", guide: TWO, steps: &[WALK, STOPS, Types("QUIT\n"), Ends(1, &["To go on from this stage"], &[])] },
    Case { name: "only the letter q", guide: TWO, steps: &[WALK, STOPS, Types("q\n"), Ends(1, &["To go on from this stage"], &[])] },
    Case { name: "exit, as in a shell", guide: TWO, steps: &[WALK, STOPS, Types("exit\n"), Ends(1, &["To go on from this stage"], &[])] },
    Case { name: "quit with the line end of Windows", guide: TWO, steps: &[WALK, STOPS, Types("quit\r\n"), Ends(1, &["To go on from this stage"], &[])] },
    Case { name: "skip with blanks around it", guide: TWO, steps: &[WALK, STOPS, Types("  skip  \n"), Waits(&["Stage 2 of 2"], &[])] },
    Case { name: "explain alone", guide: TWO, steps: &[WALK, STOPS, Types("explain\n"), Waits(&["charts", "saw|looked at|asked|found"], &["is none of the words"])] },
    Case {
        name: "explain with the title that is shown, and not the id",
        guide: TWO,
        steps: &[CHARTS, WALK, STOPS, Types("explain the plotter\n"), Waits(&["copies of plotter on PATH|PATH"], &["is not open here"])],
    },
    Case {
        name: "explain with a part of the title",
        guide: TWO,
        steps: &[CHARTS, WALK, STOPS, Types("explain Plotter\n"), Waits(&["PATH"], &["is not open here"])],
    },
    Case {
        name: "explain what is met already",
        guide: TWO,
        steps: &[CHARTS, WALK, STOPS, Types("explain charts\n"), Waits(&["charts", "met"], &["Did you mean"])],
    },
    Case {
        name: "explain what comes in a later stage",
        guide: TWO,
        steps: &[WALK, STOPS, Types("explain plotter\n"), Waits(&["plotter", "stage 2|Tools"], &["Did you mean"])],
    },
    Case {
        name: "explain the word of a cause, as the preflight names it",
        guide: TWO,
        steps: &[WALK, STOPS, Types("explain path-missing\n"), Waits(&["setup-ready explain path-missing|nothing is there|is not there|missing"], &["Did you mean"])],
    },
    Case { name: "the number of what is open", guide: TWO, steps: &[WALK, STOPS, Types("1\n"), Waits(&["quit"], &["Did you mean"])] },
    Case { name: "back, which there is not", guide: TWO, steps: &[CHARTS, WALK, STOPS, Types("back\n"), Waits(&["--anew|none of the words"], &["Did you mean"])] },
    Case { name: "half a word, and the input ends", guide: TWO, steps: &[WALK, STOPS, Types("ski"), Closes, Ends(1, &["setup-ready walk"], &["Stage 2"])] },
    Case { name: "nothing but blanks", guide: TWO, steps: &[WALK, STOPS, Types("   \n"), Waits(&["Nothing has changed"], &[])] },
    Case {
        name: "Enter three times at once, out of impatience",
        guide: TWO,
        steps: &[WALK, STOPS, Types("\n\n\n"), STOPS, STOPS, STOPS, CHARTS, ENTER, Waits(&["Met now", "Stage 2 of 2"], &[])],
    },
    // What is done.
    Case {
        name: "the wrong version was installed",
        guide: TWO,
        steps: &[CHARTS, WALK, Waits(&["was not found|is not"], &[]), OLD_PLOTTER, ENTER, Waits(&["1.4", "older than 2"], &["Nothing has changed"])],
    },
    Case {
        name: "a file was made where a folder is wanted",
        guide: TWO,
        steps: &[WALK, STOPS, Does(": > charts"), ENTER, Waits(&["is a file|a file and no folder|not a folder"], &["Nothing has changed"])],
    },
    Case { name: "half of it was done", guide: PAIR, steps: &[WALK, STOPS, CHARTS, ENTER, Waits(&["Met now: folder charts", "Still open: the plotter"], &[]), PLOTTER, ENTER, Ends(0, &["READY"], &["NOT READY"])] },
    Case {
        name: "the first stage breaks while the second is worked on",
        guide: TWO,
        steps: &[CHARTS, WALK, Waits(&["Stage 2 of 2"], &[]), Does("rmdir charts"), PLOTTER, ENTER, Waits(&["charts"], &[]), CHARTS, ENTER, Ends(0, &["READY"], &["NOT READY"])],
    },
    Case {
        name: "something of the same stage breaks while the other is mended",
        guide: PAIR,
        steps: &[CHARTS, WALK, Waits(&["plotter"], &[]), Does("rmdir charts"), PLOTTER, ENTER, Waits(&["Met now: the plotter", "charts", "any more|no longer|again"], &[])],
    },
    Case {
        name: "what was met is broken, and nothing else was done",
        guide: PAIR,
        steps: &[CHARTS, WALK, Waits(&["plotter"], &[]), Does("rmdir charts"), ENTER, Waits(&["charts", "mkdir"], &["Nothing has changed"])],
    },
    Case {
        name: "mended, then broken again",
        guide: PAIR,
        steps: &[WALK, STOPS, CHARTS, ENTER, Waits(&["Met now: folder charts"], &[]), Does("rmdir charts"), ENTER, Waits(&["charts", "mkdir"], &["Nothing has changed"])],
    },
    Case {
        name: "one thing mended two",
        guide: "[require.plotter]\ntool = \"plotter\"\n[require.charts]\nfile = \"charts.txt\"\n[require.more]\nfile = \"more.txt\"\n",
        steps: &[WALK, STOPS, Does(": > charts.txt; : > more.txt"), ENTER, Waits(&["Met now: file charts.txt and file more.txt", "Still open: plotter"], &[])],
    },
    Case {
        name: "it was installed where PATH does not look",
        guide: TWO,
        steps: &[
            CHARTS,
            WALK,
            STOPS,
            Does("mkdir -p $HOME/.local/bin; printf '#!/bin/sh\\necho plotter 2.1\\n' > $HOME/.local/bin/plotter; chmod +x $HOME/.local/bin/plotter"),
            ENTER,
            Waits(&[".local/bin", "PATH"], &["Nothing has changed"]),
        ],
    },
    Case {
        name: "a variable was set in another window, where it stays",
        guide: "[require.region]\nvariable = \"BUOY_REGION\"\n",
        steps: &[WALK, STOPS, ENTER, Waits(&["Nothing has changed", "new terminal|another window|other window|in that window|this window"], &[])],
    },
    Case {
        name: "a variable was written into the shell's start file",
        guide: "[require.region]\nvariable = \"BUOY_REGION\"\n",
        steps: &[WALK, STOPS, Does("echo 'export BUOY_REGION=north' >> $HOME/.bashrc; echo 'export BUOY_REGION=north' >> $HOME/.profile"), ENTER, Waits(&["new terminal|open a new|sign out|sign in"], &[])],
    },
    Case {
        name: "a variable was written into the file of the project",
        guide: "[require.region]\nvariable = \"BUOY_REGION\"\nenv_file = \".env\"\n",
        steps: &[WALK, STOPS, Does("echo BUOY_REGION=north > .env"), ENTER, Ends(0, &["Met now", "READY"], &[])],
    },
    // What the guide does meanwhile: whoever follows a step may have fetched a newer one.
    Case {
        name: "the guide asks for one thing more since",
        guide: TWO,
        steps: &[
            CHARTS,
            WALK,
            STOPS,
            PLOTTER,
            Does("printf '[require.compass]\\ntool = \"compass\"\\nstage = \"tools\"\\n' >> setup-guide.toml"),
            ENTER,
            Waits(&["compass", "guide has changed|The guide has|changed guide"], &[]),
        ],
    },
    Case {
        name: "the guide asks for another version since",
        guide: TWO,
        steps: &[
            CHARTS,
            WALK,
            STOPS,
            PLOTTER,
            Does("sed -i 's/>= 2/>= 3/' setup-guide.toml"),
            ENTER,
            Waits(&["2.1", "older than 3"], &["READY"]),
        ],
    },
    Case {
        name: "the guide asks for less since",
        guide: TWO,
        steps: &[CHARTS, WALK, STOPS, OLD_PLOTTER, Does("sed -i 's/>= 2/>= 1/' setup-guide.toml"), ENTER, Ends(0, &["READY"], &["NOT READY"])],
    },
    Case {
        name: "the guide has a mistake since, and is mended",
        guide: TWO,
        steps: &[
            CHARTS,
            WALK,
            STOPS,
            Does("cp setup-guide.toml kept; echo '[require' >> setup-guide.toml"),
            ENTER,
            Waits(&["setup-guide.toml"], &["READY"]),
            PLOTTER,
            Does("cp kept setup-guide.toml"),
            ENTER,
            Ends(0, &["READY"], &["NOT READY"]),
        ],
    },
    Case {
        name: "the guide is gone since, as on a branch without it",
        guide: TWO,
        steps: &[CHARTS, WALK, STOPS, Does("mv setup-guide.toml $HERE/kept"), ENTER, Waits(&["setup-guide.toml"], &["READY"]), PLOTTER, Does("mv $HERE/kept setup-guide.toml"), ENTER, Ends(0, &["READY"], &[])],
    },
    Case {
        name: "the project's folder was moved since",
        guide: TWO,
        steps: &[WALK, STOPS, Does("mv ../project ../elsewhere"), ENTER, Waits(&["setup-guide.toml|folder"], &["READY", "panicked"])],
    },
    // Where one was.
    Case {
        name: "skipped, and the rest done: it is not ready, and says what is open and how to go on",
        guide: TWO,
        steps: &[WALK, STOPS, Types("skip\n"), STOPS, PLOTTER, ENTER, Ends(1, &["NOT READY", "charts", "setup-ready walk"], &[])],
    },
    Case {
        name: "what was skipped comes first the next time",
        guide: TWO,
        steps: &[WALK, STOPS, Types("skip\n"), STOPS, PLOTTER, ENTER, Ends(1, &[], &[]), WALK, Waits(&["Stage 1 of 2", "charts"], &[])],
    },
    Case {
        name: "what was met when one left is broken when one comes back",
        guide: TWO,
        steps: &[CHARTS, WALK, STOPS, Types("quit\n"), Ends(1, &[], &[]), Does("rmdir charts"), WALK, Waits(&["charts", "Stage 1 of 2"], &[])],
    },
    Case {
        name: "the stage at which one left is not in the guide any more",
        guide: TWO,
        steps: &[
            CHARTS,
            WALK,
            STOPS,
            Types("quit\n"),
            Ends(1, &[], &[]),
            Does("sed -i 's/\"tools\"/\"instruments\"/' setup-guide.toml; rmdir charts"),
            WALK,
            Waits(&["Stage 1 of 2", "charts"], &[]),
        ],
    },
    Case {
        name: "another role has its own place",
        guide: "
            [[stage]]\nid = \"place\"\ntitle = \"A place\"\n[[stage]]\nid = \"tools\"\ntitle = \"Tools\"
            [role.shore]\n[role.sea]
            [require.maps]\nfolder = \"maps\"\nstage = \"place\"\nroles = [\"shore\"]
            [require.charts]\nfolder = \"charts\"\nstage = \"place\"\nroles = [\"sea\"]
            [require.plotter]\ntool = \"plotter\"\nstage = \"tools\"\n",
        steps: &[
            Does("mkdir maps"),
            Starts(&["walk", "--role", "shore"]),
            Waits(&["Stage 2 of 2"], &[]),
            Types("quit\n"),
            Ends(1, &["setup-ready walk --role shore"], &[]),
            Starts(&["walk", "--role", "sea"]),
            Waits(&["Stage 1 of 2", "charts"], &["Stage 2 of 2"]),
        ],
    },
    Case { name: "from the first stage again", guide: TWO, steps: &[CHARTS, WALK, STOPS, Types("quit\n"), Ends(1, &[], &[]), Starts(&["walk", "--anew"]), Waits(&["Stage 1 of 2", "Stage 2 of 2"], &["You were at stage"])] },
    Case {
        name: "nothing can be remembered: it goes on, and says so when one leaves",
        guide: TWO,
        steps: &[Does(": > $HERE/state"), WALK, STOPS, Types("quit\n"), Ends(1, &["remember|could not be kept|was not kept"], &["panicked"])],
    },
    // How it ends.
    Case { name: "all is met", guide: TWO, steps: &[CHARTS, PLOTTER, WALK, Ends(0, &["READY"], &["NOT READY", "\n> "])] },
    Case {
        name: "only what is recommended is open",
        guide: "[require.pens]\ntool = \"pens\"\nlevel = \"should\"\n",
        steps: &[WALK, Ends(0, &["READY", "pens"], &["NOT READY", "\n> "])],
    },
    Case {
        name: "a stage comes after the start",
        guide: "
            [[stage]]\nid = \"tools\"\ntitle = \"Tools\"\n[[stage]]\nid = \"running\"\ntitle = \"While it runs\"\nafter_start = true\nstart = \"make run\"
            [require.charts]\nfolder = \"charts\"\nstage = \"tools\"\n[require.station]\nservice = \"127.0.0.1:1\"\nstage = \"running\"\n",
        steps: &[CHARTS, WALK, Waits(&["make run", "another window"], &[])],
    },
    Case {
        name: "what nobody can find out is skipped: undecided, and not ready",
        guide: "[require.plotter]\ntool = \"plotter\"\nversion = \">= 2\"\n",
        steps: &[
            Does("printf '#!/bin/sh\\necho hello\\n' > $BIN/plotter; chmod +x $BIN/plotter"),
            WALK,
            Waits(&["plotter", "version"], &["READY"]),
            ENTER,
            Waits(&["Nothing has changed"], &[]),
            Types("skip\n"),
            Ends(3, &["UNDECIDED"], &["NOT READY"]),
        ],
    },
    Case {
        name: "what needs a yes is not started where nobody can give it",
        guide: "[require.stars]\ncommand = [\"touch\", \"made\"]\n",
        steps: &[WALK, Waits(&["--allow-commands"], &[]), Types("yes\n"), Waits(&[], &["READY"]), Does("test ! -e made")],
    },
    Case { name: "a role that there is not", guide: TWO, steps: &[Starts(&["walk", "--role", "shore"]), Ends(2, &["shore"], &[])] },
    Case { name: "the terminal is closed", guide: TWO, steps: &[WALK, STOPS, Signals("-HUP"), Ends(130, &[], &["panicked"])] },
    Case { name: "a guide of one stage", guide: "[require.charts]\nfolder = \"charts\"\n", steps: &[WALK, Waits(&["charts"], &["Stage 1 of 1"]), CHARTS, ENTER, Ends(0, &["READY"], &[])] },
    Case {
        name: "two stages' things are done at once",
        guide: TWO,
        steps: &[WALK, Waits(&["Stage 1 of 2"], &[]), CHARTS, PLOTTER, ENTER, Ends(0, &["Met now", "Stage 2 of 2", "READY"], &["NOT READY"])],
    },
];

pub(super) const WATCHES: &[Case] = &[
    Case { name: "all is met", guide: PAIR, steps: &[CHARTS, PLOTTER, WATCH, Ends(0, &["READY"], &["Waiting until"])] },
    Case {
        name: "the folder on PATH that holds the tool is made only then",
        guide: "[require.plotter]\ntool = \"plotter\"\n",
        steps: &[Does("rm -r $BIN"), WATCH, STOPS, Does("mkdir $BIN"), PLOTTER, Ends(0, &["READY"], &[])],
    },
    Case {
        name: "one of two is done, and that is said first",
        guide: PAIR,
        steps: &[WATCH, STOPS, CHARTS, Waits(&["charts", "1 is not met"], &[]), PLOTTER, Ends(0, &["READY"], &[])],
    },
    Case {
        name: "what has become met is named",
        guide: PAIR,
        steps: &[WATCH, STOPS, CHARTS, Waits(&["Met now: folder charts"], &[])],
    },
    Case {
        name: "what was met is broken, and that is said",
        guide: PAIR,
        steps: &[
            CHARTS,
            WATCH,
            Waits(&["1 is not met"], &[]),
            Does("rmdir charts"),
            Waits(&["2 are not met", "charts"], &[]),
            CHARTS,
            Waits(&["1 is not met"], &[]),
        ],
    },
    Case {
        name: "the wrong version is installed, then the right one",
        guide: PAIR,
        steps: &[CHARTS, WATCH, STOPS, OLD_PLOTTER, Waits(&["1.4", "older than 2"], &[]), PLOTTER, Ends(0, &["READY"], &[])],
    },
    Case {
        name: "a tool is replaced by moving another over it",
        guide: PAIR,
        steps: &[
            CHARTS,
            OLD_PLOTTER,
            WATCH,
            Waits(&["older than 2"], &[]),
            Does("printf '#!/bin/sh\\necho plotter 2.1\\n' > $HERE/new; chmod +x $HERE/new; mv $HERE/new $BIN/plotter"),
            Ends(0, &["READY"], &[]),
        ],
    },
    Case {
        name: "a link to the folder of a version is switched",
        guide: PAIR,
        steps: &[
            CHARTS,
            Does(
                "mkdir -p $HERE/v1 $HERE/v2; for v in 1 2; do printf \"#!/bin/sh\\necho plotter $v.0\\n\" > $HERE/v$v/plotter; chmod +x $HERE/v$v/plotter; done; ln -s $HERE/v1 $HERE/current; ln -s $HERE/current/plotter $BIN/plotter",
            ),
            WATCH,
            Waits(&["older than 2"], &[]),
            Does("ln -sfn $HERE/v2 $HERE/current"),
            Ends(0, &["READY"], &[]),
        ],
    },
    Case {
        name: "it is made executable only then",
        guide: "[require.plotter]\ntool = \"plotter\"\n",
        steps: &[
            Does("printf '#!/bin/sh\\necho plotter 2.1\\n' > $BIN/plotter"),
            WATCH,
            STOPS,
            Does("chmod +x $BIN/plotter"),
            Ends(0, &["READY"], &[]),
        ],
    },
    Case {
        name: "it is installed where PATH does not look",
        guide: "[require.plotter]\ntool = \"plotter\"\n",
        steps: &[
            Does("mkdir -p $HOME/.local/bin"),
            WATCH,
            STOPS,
            Does("printf '#!/bin/sh\\necho plotter 2.1\\n' > $HOME/.local/bin/plotter; chmod +x $HOME/.local/bin/plotter"),
            Waits(&[".local/bin", "PATH"], &[]),
        ],
    },
    Case {
        name: "what only a new terminal can bring is not waited for in silence",
        guide: "[require.region]\nvariable = \"BUOY_REGION\"\n",
        steps: &[
            WATCH,
            Waits(&["new terminal|another terminal|this terminal"], &[]),
            Does("echo 'export BUOY_REGION=north' >> $HOME/.profile"),
            Waits(&["new terminal|sign"], &[]),
        ],
    },
    Case {
        name: "a variable comes with the file of the project",
        guide: "[require.region]\nvariable = \"BUOY_REGION\"\nenv_file = \".env\"\n",
        steps: &[WATCH, STOPS, Does("echo BUOY_REGION=north > .env"), Ends(0, &["READY"], &[])],
    },
    Case {
        name: "a file gets the text that it must hold",
        guide: "[require.charts]\nfile = \"charts.txt\"\ncontains = \"north\"\n",
        steps: &[Does("echo south > charts.txt"), WATCH, STOPS, Does("echo north >> charts.txt"), Ends(0, &["READY"], &[])],
    },
    Case {
        name: "a file deep in folders that are not there yet",
        guide: "[require.charts]\nfile = \"one/two/three/charts.txt\"\n",
        steps: &[
            WATCH,
            STOPS,
            Does("mkdir one"),
            Does("mkdir -p one/two/three"),
            Does(": > one/two/three/charts.txt"),
            Ends(0, &["READY"], &[]),
        ],
    },
    Case {
        name: "a file in the home folder",
        guide: "[require.key]\nfile = \"~/.driftbuoy/key\"\nmode = \"600\"\n",
        steps: &[
            WATCH,
            STOPS,
            Does("mkdir $HOME/.driftbuoy; : > $HOME/.driftbuoy/key; chmod 644 $HOME/.driftbuoy/key"),
            Waits(&["644"], &[]),
            Does("chmod 600 $HOME/.driftbuoy/key"),
            Ends(0, &["READY"], &[]),
        ],
    },
    Case {
        name: "a dangling link gets its end",
        guide: "[require.charts]\nfolder = \"charts\"\n",
        steps: &[Does("ln -s $HERE/far charts"), WATCH, STOPS, Does("mkdir $HERE/far"), Ends(0, &["READY"], &[])],
    },
    Case {
        name: "the branch is changed",
        guide: "[require.work]\ncheckout = \".\"\nbranch = \"main\"\n",
        steps: &[
            Does(
                "git -c init.defaultBranch=other init -q .; git -c user.name=a -c user.email=a@b.invalid commit -q --allow-empty -m one; git branch main",
            ),
            WATCH,
            Waits(&["other", "main"], &[]),
            Does("git switch -q main"),
            Ends(0, &["READY"], &[]),
        ],
    },
    Case {
        name: "what is not committed is committed",
        guide: "[require.work]\ncheckout = \".\"\nclean = true\n",
        steps: &[
            Does(
                "git init -q .; git add -A; git -c user.name=a -c user.email=a@b.invalid commit -q -m one; echo more > more.txt",
            ),
            WATCH,
            STOPS,
            Does("git add -A; git -c user.name=a -c user.email=a@b.invalid commit -q -m two"),
            Ends(0, &["READY"], &[]),
        ],
    },
    Case {
        name: "a setting of git is made",
        guide: "[require.mail]\nsetting = \"user.email\"\n",
        steps: &[WATCH, STOPS, Does("git config --global user.email a@b.invalid"), Ends(0, &["READY"], &[])],
    },
    Case {
        name: "the guide asks for less since",
        guide: PAIR,
        steps: &[CHARTS, OLD_PLOTTER, WATCH, STOPS, Does("sed -i 's/>= 2/>= 1/' setup-guide.toml"), Ends(0, &["READY"], &[])],
    },
    Case {
        name: "the guide asks for one thing more since",
        guide: PAIR,
        steps: &[
            WATCH,
            Waits(&["2 are not met"], &[]),
            Does("printf '[require.compass]\\ntool = \"compass\"\\n' >> setup-guide.toml"),
            Waits(&["compass", "3 are not met", "guide"], &[]),
        ],
    },
    Case {
        name: "the guide has a mistake since, and is mended",
        guide: PAIR,
        steps: &[
            CHARTS,
            WATCH,
            STOPS,
            Does("cp setup-guide.toml $HERE/kept; echo '[require' >> setup-guide.toml"),
            Waits(&["setup-guide.toml"], &["READY"]),
            Does("cp $HERE/kept setup-guide.toml"),
            PLOTTER,
            Ends(0, &["READY"], &[]),
        ],
    },
    Case {
        name: "an editor saves the guide by moving a new file over it",
        guide: PAIR,
        steps: &[
            CHARTS,
            OLD_PLOTTER,
            WATCH,
            STOPS,
            Does("sed 's/>= 2/>= 1/' setup-guide.toml > .new; mv .new setup-guide.toml"),
            Ends(0, &["READY"], &[]),
        ],
    },
    Case {
        name: "the guide is gone since, and comes back",
        guide: PAIR,
        steps: &[
            CHARTS,
            WATCH,
            STOPS,
            Does("mv setup-guide.toml $HERE/kept"),
            Waits(&["setup-guide.toml"], &["READY"]),
            PLOTTER,
            Does("mv $HERE/kept setup-guide.toml"),
            Ends(0, &["READY"], &[]),
        ],
    },
    Case {
        name: "much happens in the project that is nobody's business",
        guide: PAIR,
        steps: &[
            CHARTS,
            WATCH,
            STOPS,
            Does("i=0; while [ $i -lt 300 ]; do : > noise$i; i=$((i+1)); done; mkdir built; : > built/one.o"),
            Does("sleep 2"),
            PLOTTER,
            Ends(0, &["READY"], &["NOT READY"]),
        ],
    },
    Case {
        name: "Enter without any change is not the whole report once more",
        guide: PAIR,
        steps: &[WATCH, Waits(&["mkdir"], &[]), ENTER, Waits(&["You pressed Enter", "Nothing has changed"], &["mkdir"])],
    },
    Case {
        name: "a port is taken by somebody else when the first lets it go",
        guide: "[require.room]\nport = 47391\naddress = \"127.0.0.1\"\n",
        steps: &[
            Does(
                "python3 -c 'import socket,time; s=socket.socket(); s.setsockopt(1,2,1); s.bind((\"127.0.0.1\",47391)); s.listen(); open(\"held\",\"w\").close(); time.sleep(60)' > /dev/null 2>&1 & echo $! > pid; while [ ! -e held ]; do sleep 0.1; done",
            ),
            WATCH,
            Waits(&["47391", "python3"], &[]),
            Does("kill $(cat pid)"),
            Ends(0, &["READY"], &[]),
        ],
    },
    Case {
        name: "a service is started",
        guide: "[require.station]\nservice = \"127.0.0.1:47392\"\n",
        steps: &[
            WATCH,
            STOPS,
            Does(
                "python3 -c 'import socket,time; s=socket.socket(); s.setsockopt(1,2,1); s.bind((\"127.0.0.1\",47392)); s.listen(); time.sleep(20)' > /dev/null 2>&1 &",
            ),
            Ends(0, &["READY"], &[]),
        ],
    },
    Case {
        name: "only a part is watched",
        guide: PAIR,
        steps: &[Starts(&["preflight", "--watch", "--only", "charts"]), STOPS, CHARTS, Ends(0, &["charts"], &["NOT READY"])],
    },
    Case {
        name: "quietly: a line each time",
        guide: PAIR,
        steps: &[
            Starts(&["preflight", "--watch", "-q"]),
            Does("sleep 3"),
            CHARTS,
            Does("sleep 4"),
            PLOTTER,
            Ends(0, &["2 are not met", "1 is not met", "All 2 needed things are met"], &["mkdir", "Waiting"]),
        ],
    },
    Case {
        name: "only what is recommended is open",
        guide: "[require.pens]\ntool = \"pens\"\nlevel = \"should\"\n",
        steps: &[WATCH, Ends(0, &["READY", "pens"], &["NOT READY"])],
    },
    Case {
        name: "only what nobody can find out is open",
        guide: "[require.plotter]\ntool = \"plotter\"\nversion = \">= 2\"\n",
        steps: &[
            Does("printf '#!/bin/sh\\necho hello\\n' > $BIN/plotter; chmod +x $BIN/plotter"),
            WATCH,
            Waits(&["UNDECIDED"], &["NOT READY"]),
            PLOTTER,
            Ends(0, &["READY"], &["NOT READY"]),
        ],
    },
    Case { name: "the terminal is closed", guide: PAIR, steps: &[WATCH, STOPS, Signals("-HUP"), Ends(130, &[], &["panicked"])] },
    Case {
        name: "the project's folder was moved since",
        guide: PAIR,
        steps: &[WATCH, STOPS, Does("mv ../project ../elsewhere"), ENTER, Waits(&["elsewhere"], &["READY  All", "panicked"])],
    },
    Case {
        name: "the input ends, and it goes on",
        guide: PAIR,
        steps: &[CHARTS, WATCH, STOPS, Closes, PLOTTER, Ends(0, &["READY"], &[])],
    },
    Case { name: "quit is typed", guide: PAIR, steps: &[WATCH, STOPS, Types("quit\n"), Ends(1, &[], &["panicked"])] },
    Case {
        name: "what was met is broken while the other is mended",
        guide: PAIR,
        steps: &[
            CHARTS,
            WATCH,
            STOPS,
            Does("rmdir charts"),
            PLOTTER,
            Waits(&["charts", "Not met any more"], &[]),
            CHARTS,
            Ends(0, &["READY"], &["NOT READY"]),
        ],
    },
    Case {
        name: "what one has not come to yet is not said to have been advised before",
        guide: PAIR,
        steps: &[WATCH, STOPS, CHARTS, Waits(&["plotter"], &["advised before"])],
    },
    Case {
        name: "the guide wants to run a command since, and nobody can say yes",
        guide: PAIR,
        steps: &[
            CHARTS,
            WATCH,
            STOPS,
            Does("printf '[require.stars]\\ncommand = [\"touch\", \"made\"]\\n' >> setup-guide.toml"),
            Waits(&["--allow-commands"], &["READY  All"]),
            PLOTTER,
            Waits(&["UNDECIDED|NOT READY"], &["READY  All"]),
            Does("test ! -e made"),
        ],
    },
    Case {
        name: "a module is installed for the interpreter",
        guide: "[require.python]\ntool = \"python3\"\n[require.reader]\nmodule = \"buoyreader\"\nof = \"python\"\n",
        steps: &[
            Does("python3 -m venv --without-pip $HERE > /dev/null"),
            WATCH,
            Waits(&["buoyreader"], &[]),
            Does("d=$(echo $HERE/lib/python3*/site-packages); mkdir -p $d/buoyreader; : > $d/buoyreader/__init__.py"),
            Ends(0, &["READY"], &[]),
        ],
    },
    Case {
        name: "what needs a yes is not started again and again",
        guide: "[require.stars]\ncommand = [\"sh\", \"-c\", \"echo one >> count; test -e charts\"]\n[require.charts]\nfolder = \"charts\"\n",
        steps: &[
            Starts(&["preflight", "--watch", "--allow-commands"]),
            STOPS,
            CHARTS,
            Ends(0, &["READY"], &["NOT READY"]),
            Does("test $(wc -l < count) -le 3"),
        ],
    },
];
