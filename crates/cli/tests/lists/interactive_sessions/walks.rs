//! What is done during a walk.

use super::cases::Step::{Closes, Does, Ends, Signals, Starts, Types, Waits};
use super::cases::{CHARTS, Case, ENTER, OLD_PLOTTER, PAIR, PLOTTER, STOPS, TWO, WALK};

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
        name: "what was skipped is not asked about again where something broke before it",
        guide: "
            [[stage]]\nid = \"place\"\ntitle = \"A place\"\n[[stage]]\nid = \"tools\"\ntitle = \"Tools\"\n[[stage]]\nid = \"end\"\ntitle = \"End\"
            [require.charts]\nfolder = \"charts\"\nstage = \"place\"\n[require.pens]\ntool = \"pens\"\nstage = \"tools\"
            [require.plotter]\ntool = \"plotter\"\nstage = \"end\"\n",
        steps: &[
            CHARTS,
            WALK,
            Waits(&["Stage 2 of 3"], &[]),
            Types("skip\n"),
            Waits(&["Stage 3 of 3"], &[]),
            Does("rmdir charts"),
            PLOTTER,
            ENTER,
            Waits(&["open at stage 1", "charts"], &[]),
            CHARTS,
            ENTER,
            Ends(1, &["Still open: pens", "NOT READY"], &["Stage 2 of 3"]),
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
