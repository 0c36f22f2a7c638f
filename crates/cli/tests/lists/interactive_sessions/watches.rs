//! What is done while a preflight watches.

use super::cases::Step::{Closes, Does, Ends, Signals, Starts, Types, Waits};
use super::cases::{CHARTS, Case, ENTER, OLD_PLOTTER, PAIR, PLOTTER, STOPS, WATCH};

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
    Case {
        name: "a file that is named has the whole report, also where nothing is new",
        guide: PAIR,
        steps: &[
            Starts(&["preflight", "--watch", "--output", "report.txt"]),
            STOPS,
            ENTER,
            STOPS,
            Does("grep -q 'mkdir' report.txt; ! grep -q 'Nothing has changed' report.txt"),
        ],
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
            Waits(&["charts", "Not met any more"], &[]),
            PLOTTER,
            Waits(&["Met now: the plotter", "charts"], &["READY  All"]),
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
