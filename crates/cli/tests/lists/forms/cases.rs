//! The list: written from the page for users and from what each form's readers expect, before the answers were looked at.

/// A guide, a machine, and what whoever reads a form of the report must find in it.
pub(super) struct Case {
    pub(super) name: &'static str,
    /// What follows the guide's first lines.
    pub(super) guide: &'static str,
    /// What follows the machine's first lines: Debian 12, on which `buoyctl 2.1` is.
    pub(super) machine: &'static str,
    pub(super) asked: &'static [&'static str],
    pub(super) status: i32,
    /// A requirement; then what it is for `JUnit` (`success`, `failure`, `error`, `skipped`), for TAP (`ok`, `not ok`, `skip`), and for SARIF the level
    /// and the line at which it stands, or nothing.
    pub(super) each: &'static [(&'static str, &'static str, &'static str, &'static str)],
    /// What each form must say, once it was read.
    pub(super) says: &'static [&'static str],
    /// What the Markdown must say, as it is rendered, and must not.
    pub(super) pasted: &'static [&'static str],
    pub(super) not_pasted: &'static [&'static str],
    /// What must be in a block of code by itself, to copy.
    pub(super) blocks: &'static [&'static str],
    /// What no form may have in it anywhere.
    pub(super) nowhere: &'static [&'static str],
}

const NONE: Case = Case {
    name: "",
    guide: "",
    machine: "",
    asked: &[],
    status: 0,
    each: &[],
    says: &[],
    pasted: &[],
    not_pasted: &[],
    blocks: &[],
    nowhere: &[],
};

const NET: &str =
    "[require.net]\ntool = \"netctl\"\n[[require.net.fix]]\nsay = \"Fetch the net from the quay.\"\nrun = [\"fetch net\"]\n";

pub(super) const CASES: &[Case] = &[
    Case {
        name: "all is met",
        guide: "[require.buoy]\ntool = \"buoyctl\"\nversion = \">= 2\"\n",
        each: &[("buoy", "success", "ok", "")],
        pasted: &["ready", "debian 12"],
        not_pasted: &["not ready", "Not met"],
        ..NONE
    },
    Case {
        name: "one needed thing is missing",
        guide: NET,
        status: 1,
        each: &[("net", "failure", "not ok", "error 4")],
        says: &["netctl was not found", "Fetch the net from the quay."],
        pasted: &["not ready", "net", "tool-missing"],
        blocks: &["fetch net"],
        ..NONE
    },
    Case {
        name: "a version is too old: what was found and what was wanted",
        guide: "[require.buoy]\ntool = \"buoyctl\"\nversion = \">= 3.1\"\nwhy = \"Older ones sink.\"\n",
        status: 1,
        each: &[("buoy", "failure", "not ok", "error 4")],
        says: &["2.1", "3.1"],
        pasted: &["2.1", "3.1"],
        ..NONE
    },
    Case {
        name: "a recommended thing is missing",
        guide: "[require.buoy]\ntool = \"buoyctl\"\n[require.lamp]\ntool = \"lampctl\"\nlevel = \"should\"\n",
        each: &[("buoy", "success", "ok", ""), ("lamp", "skipped", "skip", "warning 6")],
        says: &["lampctl was not found", "recommended"],
        pasted: &["ready", "recommended"],
        not_pasted: &["not ready"],
        ..NONE
    },
    Case {
        name: "an optional thing is missing",
        guide: "[require.buoy]\ntool = \"buoyctl\"\n[require.lamp]\ntool = \"lampctl\"\nlevel = \"may\"\n",
        each: &[("lamp", "skipped", "skip", "note 6")],
        says: &["lampctl was not found", "optional"],
        pasted: &["ready", "optional"],
        not_pasted: &["not ready"],
        ..NONE
    },
    Case {
        name: "needed and recommended things are missing: which is which",
        guide: "[require.lamp]\ntool = \"lampctl\"\nlevel = \"should\"\n[require.net]\ntool = \"netctl\"\n",
        status: 1,
        each: &[("lamp", "skipped", "skip", "warning 4"), ("net", "failure", "not ok", "error 7")],
        pasted: &["lamp (tool-missing, recommended)"],
        ..NONE
    },
    Case {
        name: "nobody could find out",
        guide: "[require.stuck]\ntool = \"stuckctl\"\nversion = \">= 2\"\n",
        machine: "[[program]]\npath = \"/usr/bin/stuckctl\"\nnever_ends = true\n",
        status: 3,
        each: &[("stuck", "error", "not ok", "warning 4")],
        pasted: &["undecided", "stuck"],
        ..NONE
    },
    Case {
        name: "what waits for another",
        guide: "[require.net]\ntool = \"netctl\"\n[require.log]\ntool = \"logctl\"\nafter = [\"net\"]\n",
        status: 1,
        each: &[("net", "failure", "not ok", "error 4"), ("log", "skipped", "skip", "")],
        says: &["needs netctl first"],
        pasted: &["log"],
        ..NONE
    },
    Case {
        name: "another role's",
        guide: "[role.deck]\n[role.shore]\n[require.buoy]\ntool = \"buoyctl\"\n[require.net]\ntool = \"netctl\"\nroles = [\"shore\"]\n",
        asked: &["--role", "deck"],
        each: &[("buoy", "success", "ok", ""), ("net", "skipped", "skip", "")],
        pasted: &["ready for deck"],
        not_pasted: &["not ready", "netctl"],
        ..NONE
    },
    Case {
        name: "what comes after the start",
        guide: "[[stage]]\nid = \"tools\"\ntitle = \"Tools\"\n[[stage]]\nid = \"running\"\ntitle = \"Running\"\nafter_start = true\n[require.buoy]\ntool = \"buoyctl\"\nstage = \"tools\"\n\
            [require.pier]\ntool = \"pierctl\"\nstage = \"running\"\n",
        each: &[("buoy", "success", "ok", ""), ("pier", "skipped", "skip", "")],
        not_pasted: &["not ready", "pierctl"],
        ..NONE
    },
    Case {
        name: "what needs the network and was left out",
        guide: "[require.buoy]\ntool = \"buoyctl\"\n[require.page]\nreach = \"https://quay.example/\"\n",
        asked: &["--offline"],
        status: 3,
        each: &[("buoy", "success", "ok", ""), ("page", "skipped", "skip", "")],
        says: &["network"],
        pasted: &["undecided", "network"],
        ..NONE
    },
    Case {
        name: "one of several, and none is here",
        guide: "[require.red]\ntool = \"redctl\"\n[require.blue]\ntool = \"bluectl\"\n[require.flag]\nany_of = [\"red\", \"blue\"]\n",
        status: 1,
        each: &[("flag", "failure", "not ok", "error 8"), ("red", "nothing", "not ok", ""), ("blue", "nothing", "not ok", "")],
        pasted: &["flag"],
        ..NONE
    },
    Case {
        name: "a part alone is told to be a part",
        guide: "[require.buoy]\ntool = \"buoyctl\"\n[require.net]\ntool = \"netctl\"\n",
        asked: &["--only", "buoy"],
        each: &[("buoy", "success", "ok", ""), ("net", "nothing", "nothing", "")],
        pasted: &["in part"],
        ..NONE
    },
    Case {
        name: "signs of markup in a title and in a reason",
        guide: "[require.net]\ntool = \"netctl\"\ntitle = \"<b>net</b> & \\\"more\\\" ]]> <script>alert(1)</script>\"\nwhy = \"*Stars*, [a link](https://quay.example) and `code` | bars <img src=x>.\"\n",
        status: 1,
        each: &[("net", "failure", "not ok", "error 4")],
        says: &["<img src=x>"],
        pasted: &["<b>net</b> & \"more\" ]]> <script>alert(1)</script>"],
        ..NONE
    },
    Case {
        name: "a title that ends like a directive of TAP",
        guide: "[require.net]\ntool = \"netctl\"\ntitle = \"nets # SKIP not today\"\n[require.buoy]\ntool = \"buoyctl\"\ntitle = \"buoys # TODO\"\n",
        status: 1,
        each: &[("net", "failure", "not ok", "error 4"), ("buoy", "success", "ok", "")],
        ..NONE
    },
    Case {
        name: "a title that begins with a number and has a backslash",
        guide: "[require.net]\ntool = \"netctl\"\ntitle = \"2 nets \\\\ 3 ropes\"\n",
        status: 1,
        each: &[("net", "failure", "not ok", "error 4")],
        ..NONE
    },
    Case {
        name: "two of one title",
        guide: "[require.net-old]\ntool = \"netctl\"\ntitle = \"the net\"\n[require.net-new]\ntool = \"buoyctl\"\ntitle = \"the net\"\n",
        status: 1,
        each: &[("net-old", "failure", "not ok", "error 4"), ("net-new", "success", "ok", "")],
        ..NONE
    },
    Case {
        name: "two stages of one title",
        guide: "[[stage]]\nid = \"one\"\ntitle = \"Tools\"\n[[stage]]\nid = \"two\"\ntitle = \"Tools\"\n[require.net]\ntool = \"netctl\"\nstage = \"one\"\n[require.buoy]\ntool = \"buoyctl\"\nstage = \"two\"\n",
        status: 1,
        each: &[("net", "failure", "not ok", "error 10"), ("buoy", "success", "ok", "")],
        ..NONE
    },
    Case {
        name: "what a program printed has colours, bells and no letters",
        guide: "[require.odd]\ntool = \"oddctl\"\nversion = \">= 9\"\n",
        machine: "[[program]]\npath = \"/usr/bin/oddctl\"\nprints = \"oddctl \\u001b[31m2.1\\u001b[0m\\u0007 \\u0008\\uFFFE\\u202Ex\"\n",
        status: 1,
        each: &[("odd", "failure", "not ok", "error 4")],
        says: &["2.1"],
        nowhere: &["\u{1b}", "\u{7}", "\u{8}", "\u{fffe}", "\u{202e}"],
        ..NONE
    },
    Case {
        name: "a reason with colons, quotation marks and several lines",
        guide: "[require.net]\ntool = \"netctl\"\nwhy = \"\"\"It's: \"true\" - {a: b} # no comment\n---\n...\nsecond: line\"\"\"\n",
        status: 1,
        each: &[("net", "failure", "not ok", "error 4")],
        says: &["It's: \"true\" - {a: b} # no comment"],
        ..NONE
    },
    Case {
        name: "a command with marks of a block of code in it",
        guide: "[require.net]\ntool = \"netctl\"\n[[require.net.fix]]\nsay = \"Fetch it.\"\nrun = [\"echo '````' > net\", \"fetch net\"]\n",
        status: 1,
        each: &[("net", "failure", "not ok", "error 4")],
        blocks: &["echo '````' > net\nfetch net"],
        ..NONE
    },
    Case {
        name: "a fix that is a line of a file",
        guide: "[require.region]\nvariable = \"BUOY_REGION\"\n[[require.region.fix]]\nsay = \"Say where you are.\"\nedit = { file = \"~/.profile\", append = \"export BUOY_REGION=north\" }\n",
        status: 1,
        each: &[("region", "failure", "not ok", "error 4")],
        says: &["Say where you are.", ".profile", "export BUOY_REGION=north"],
        pasted: &[".profile"],
        blocks: &["export BUOY_REGION=north"],
        ..NONE
    },
    Case {
        name: "what is private is not pasted",
        guide: "[require.key]\nfile = \"~/keys/harbour\"\n[require.buoy]\ntool = \"buoyctl\"\nversion = \">= 9\"\n",
        machine: "[[program]]\npath = \"/home/marisol/bin/buoyctl\"\nprints = \"buoyctl 1.0 of marisol\"\n",
        status: 1,
        each: &[("key", "failure", "not ok", "error 4"), ("buoy", "failure", "not ok", "error 6")],
        not_pasted: &["marisol"],
        ..NONE
    },
    Case {
        name: "a guide in a folder whose name has blanks",
        guide: NET,
        asked: &["--guide", "my guides/setup-guide.toml"],
        status: 1,
        each: &[("net", "failure", "not ok", "error 4")],
        ..NONE
    },
    Case {
        name: "a guide above the folder in which one is",
        guide: NET,
        asked: &["--guide", "../setup-guide.toml"],
        status: 1,
        each: &[("net", "failure", "not ok", "error 4")],
        ..NONE
    },
    Case {
        name: "a guide with line ends of Windows",
        guide: "# a\r\n# b\r\n[require.net]\r\ntool = \"netctl\"\r\n",
        status: 1,
        each: &[("net", "failure", "not ok", "error 6")],
        ..NONE
    },
    Case {
        name: "a guide that asks for nothing of this system",
        guide: "[require.net]\ntool = \"netctl\"\nwhen = \"windows\"\n",
        each: &[("net", "skipped", "skip", "")],
        not_pasted: &["not ready"],
        ..NONE
    },
    Case {
        name: "names in other scripts",
        guide: "[require.net]\ntool = \"netctl\"\ntitle = \"Fischernetz für Überfahrten 网 🐟\"\nwhy = \"Ohne Netz kein Fisch: 没有网就没有鱼.\"\n",
        status: 1,
        each: &[("net", "failure", "not ok", "error 4")],
        says: &["没有网就没有鱼"],
        ..NONE
    },
    Case {
        name: "several fixes of one plan in their order",
        guide: "[require.net]\ntool = \"netctl\"\nafter = [\"quay\"]\n[[require.net.fix]]\nsay = \"Fetch the net.\"\nrun = [\"fetch net\"]\n[require.quay]\ntool = \"quayctl\"\n[[require.quay.fix]]\nsay = \"Open the quay.\"\nrun = [\"open quay\"]\n",
        status: 1,
        each: &[("quay", "failure", "not ok", "error 9"), ("net", "skipped", "skip", "")],
        pasted: &["1. Open the quay.", "2. Fetch the net."],
        blocks: &["open quay", "fetch net"],
        ..NONE
    },
    Case {
        name: "a fix with a caution, rights and a sign-in",
        guide: "[require.net]\ntool = \"netctl\"\n[[require.net.fix]]\nsay = \"Join the crew.\"\nrun = [\"join crew\"]\nadmin = true\nthen = \"sign-in\"\ncaution = \"The crew may open every hatch.\"\n",
        status: 1,
        each: &[("net", "failure", "not ok", "error 4")],
        says: &["The crew may open every hatch."],
        pasted: &["The crew may open every hatch.", "Sign out"],
        ..NONE
    },
    Case {
        name: "many things are missing",
        guide: "[require.a]\ntool = \"actl\"\n[require.b]\ntool = \"bctl\"\n[require.c]\ntool = \"cctl\"\n[require.d]\ntool = \"dctl\"\nlevel = \"should\"\n[require.e]\ntool = \"buoyctl\"\n",
        status: 1,
        each: &[
            ("a", "failure", "not ok", "error 4"),
            ("b", "failure", "not ok", "error 6"),
            ("c", "failure", "not ok", "error 8"),
            ("d", "skipped", "skip", "warning 10"),
            ("e", "success", "ok", ""),
        ],
        pasted: &["1 met, 4 not met"],
        ..NONE
    },
];
