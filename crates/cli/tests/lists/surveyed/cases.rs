//! The list: written from the page for users, before the answers were looked at.

/// Some reports, each in words: whose (`-` without an id), when, and what differs from a ready Debian 12 machine on which all is checked.
/// `-net` is missing, `net=1.9` has that version, `net=stuck` never ends. Then what comes of them, in the words of `short`.
pub(super) struct Case {
    pub(super) name: &'static str,
    pub(super) sent: &'static [&'static str],
    pub(super) asked: &'static [&'static str],
    pub(super) wants: &'static [(&'static str, &'static str)],
    pub(super) says: &'static [&'static str],
    pub(super) lacks: &'static [&'static str],
    pub(super) status: i32,
}

const NONE: Case = Case { name: "", sent: &[], asked: &[], wants: &[], says: &[], lacks: &[], status: 0 };

pub(super) const CASES: &[Case] = &[
    Case {
        name: "two without an id are two machines",
        sent: &["- 03-02", "- 03-03 -net"],
        wants: &[("machines", "2"), ("ready", "1"), ("not_ready", "1"), ("told_apart", "0"), ("stops", "net 1/2 tool-missing 1")],
        ..NONE
    },
    Case {
        name: "the newest of a machine counts",
        sent: &["anna 03-02 -net", "anna 03-09"],
        wants: &[("reports", "2"), ("machines", "1"), ("told_apart", "1"), ("ready", "1"), ("stops", "")],
        ..NONE
    },
    Case {
        name: "the newest of a machine counts, whatever its file is called",
        sent: &["anna 03-09", "anna 03-02 -net"],
        wants: &[("machines", "1"), ("ready", "1"), ("stops", "")],
        ..NONE
    },
    Case {
        name: "what was ready once and is not any more is not ready",
        sent: &["anna 03-02", "anna 03-09 -net"],
        wants: &[("machines", "1"), ("ready", "0"), ("not_ready", "1"), ("stops", "net 1/1 tool-missing 1")],
        ..NONE
    },
    Case {
        name: "two ids that differ in their letters' size are two machines",
        sent: &["anna 03-02", "ANNA 03-09 -net"],
        wants: &[("machines", "2"), ("told_apart", "2"), ("ready", "1")],
        ..NONE
    },
    Case {
        name: "an empty id is none",
        sent: &["empty 03-02", "empty 03-09 -net"],
        wants: &[("machines", "2"), ("told_apart", "0"), ("ready", "1")],
        ..NONE
    },
    Case {
        name: "in a week the newest of each machine counts, and in each week anew",
        sent: &["anna 03-02 -net", "anna 03-04", "anna 03-10 -net", "bert 03-08 -net"],
        wants: &[("weeks", "2026-W10 1/2, 2026-W11 0/1"), ("ready", "0"), ("days", "2026-03-02, 2026-03-10")],
        ..NONE
    },
    Case {
        name: "weeks at the turn of a year",
        sent: &["a 2025-12-28", "b 2025-12-29", "c 2026-01-01", "d 2026-01-04", "e 2026-01-05"],
        wants: &[("weeks", "2025-W52 1/1, 2026-W01 3/3, 2026-W02 1/1")],
        ..NONE
    },
    Case {
        name: "a year with 53 weeks",
        sent: &["a 2020-12-27", "b 2020-12-31", "c 2021-01-03", "d 2021-01-04"],
        wants: &[("weeks", "2020-W52 1/1, 2020-W53 2/2, 2021-W01 1/1")],
        ..NONE
    },
    Case {
        name: "what waits for another stops nobody by itself",
        sent: &["- 03-02 -buoy", "- 03-03"],
        wants: &[("stops", "buoy 1/2 tool-missing 1"), ("unknown", "")],
        ..NONE
    },
    Case {
        name: "what another role needs is asked of those in it alone",
        sent: &["- 03-02 -chart role=deck", "- 03-03 -chart role=shore", "- 03-04 role=shore"],
        wants: &[("ready", "2"), ("stops", "chart 1/2 tool-missing 1")],
        ..NONE
    },
    Case {
        name: "what is recommended stops nobody",
        sent: &["- 03-02 -lamp", "- 03-03"],
        wants: &[("ready", "2"), ("stops", ""), ("recommended", "lamp 1/2 tool-missing 1")],
        ..NONE
    },
    Case {
        name: "what nobody could find out",
        sent: &["- 03-02 net=stuck", "- 03-03"],
        wants: &[("ready", "1"), ("not_ready", "0"), ("undecided", "1"), ("stops", ""), ("unknown ids", "net 1/2")],
        says: &["1 undecided"],
        ..NONE
    },
    Case {
        name: "one thing not met and another not found out is not ready",
        sent: &["- 03-02 net=stuck -chart"],
        wants: &[("not_ready", "1"), ("undecided", "0"), ("stops", "chart 1/1 tool-missing 1"), ("unknown ids", "net 1/1")],
        ..NONE
    },
    Case {
        name: "causes are told apart, the commonest first",
        sent: &["- 03-02 -buoy", "- 03-03 buoy=1.9", "- 03-04 -buoy", "- 03-05"],
        wants: &[("stops", "buoy 3/4 tool-missing 2, tool-too-old 1")],
        says: &["tool-missing 2, tool-too-old 1"],
        ..NONE
    },
    Case {
        name: "what stops most comes first, whatever the guide's order",
        sent: &["- 03-02 -chart", "- 03-03 -chart", "- 03-04 -net"],
        wants: &[("stops", "chart 2/3 tool-missing 2; net 1/3 tool-missing 1")],
        says: &["What stops most is chart: 2 of 3."],
        ..NONE
    },
    Case {
        name: "one of several that do is enough, and the other stops nobody",
        sent: &["- 03-02 -red", "- 03-03 -blue", "- 03-04 -red -blue"],
        wants: &[("ready", "2"), ("stops", "flag 1/3 none-of 1"), ("unknown", "")],
        ..NONE
    },
    Case {
        name: "versions stand in the order of versions, and one that is too old counts",
        sent: &[
            "- 03-02 buoy=2.10",
            "- 03-03 buoy=2.9",
            "- 03-04 buoy=2.9",
            "- 03-05 buoy=3.0.0-rc1",
            "- 03-06 buoy=3.0.0",
            "- 03-07 buoy=1.9",
        ],
        wants: &[("tools.buoy", "1.9 on 1, 2.9 on 2, 2.10 on 1, 3.0.0-rc1 on 1, 3.0.0 on 1")],
        ..NONE
    },
    Case {
        name: "a version is the newest of each machine",
        sent: &["anna 03-02 buoy=2.1", "anna 03-09 buoy=2.5", "bert 03-03 buoy=2.1"],
        wants: &[("tools.buoy", "2.1 on 1, 2.5 on 1")],
        ..NONE
    },
    Case {
        name: "by system",
        sent: &["- 03-02", "- 03-03 windows -net", "- 03-04 windows", "- 03-05 macos"],
        asked: &["--by", "system"],
        wants: &[("groups", "windows 1/2 net; linux 1/1; macos 1/1")],
        ..NONE
    },
    Case {
        name: "by distribution",
        sent: &[
            "- 03-02 debian-11 -net",
            "- 03-03 debian-12",
            "- 03-04 ubuntu-22.04",
            "- 03-05 windows",
            "- 03-06 debian-12 -net",
        ],
        asked: &["--by", "distro"],
        wants: &[("groups", "debian 12 1/2 net; debian 11 0/1 net; ubuntu 22.04 1/1; windows 1/1")],
        ..NONE
    },
    Case {
        name: "by processor",
        sent: &["- 03-02", "- 03-03 arch=aarch64 -net"],
        asked: &["--by", "arch"],
        wants: &[("groups", "aarch64 0/1 net; x86_64 1/1")],
        ..NONE
    },
    Case {
        name: "by role, those without one by themselves",
        sent: &["- 03-02 role=deck", "- 03-03 role=shore -chart", "- 03-04"],
        asked: &["--by", "role"],
        wants: &[("group count", "3"), ("ready", "2")],
        says: &["deck", "shore", "every role"],
        ..NONE
    },
    Case {
        name: "a machine that was set up anew counts as what it is now",
        sent: &["anna 03-02 debian-11 -net", "anna 03-09 debian-12"],
        asked: &["--by", "distro"],
        wants: &[("machines", "1"), ("groups", "debian 12 1/1"), ("stops", "")],
        ..NONE
    },
    Case {
        name: "a fix that was followed by it being met",
        sent: &["anna 03-02 -net", "anna 03-09"],
        wants: &[("advised", "net tool-missing 1/1")],
        says: &["Fetch the net from the quay."],
        ..NONE
    },
    Case {
        name: "a fix that was followed by nothing",
        sent: &["anna 03-02 -net", "anna 03-09 -net"],
        wants: &[("advised", "net tool-missing 0/1")],
        ..NONE
    },
    Case {
        name: "a fix that helped the second time",
        sent: &["anna 03-02 -net", "anna 03-09 -net", "anna 03-16"],
        wants: &[("advised", "net tool-missing 1/2")],
        ..NONE
    },
    Case {
        name: "a fix of which the next report says nothing",
        sent: &["anna 03-02 -net", "anna 03-09 only=buoy"],
        wants: &[("advised", ""), ("machines", "1"), ("not_ready", "1"), ("stops", "net 1/1 tool-missing 1")],
        ..NONE
    },
    Case {
        name: "a fix whose machine cannot be told from others",
        sent: &["- 03-02 -net", "- 03-09"],
        wants: &[("advised", ""), ("machines", "2")],
        ..NONE
    },
    Case {
        name: "a fix after which the tool never ends did not help",
        sent: &["anna 03-02 -net", "anna 03-09 net=stuck"],
        wants: &[("advised", "net tool-missing 0/1"), ("undecided", "1")],
        ..NONE
    },
    Case {
        name: "a part of a machine without an id",
        sent: &["- 03-02 only=net", "- 03-03"],
        wants: &[("machines", "2"), ("ready", "1"), ("in_part", "1")],
        ..NONE
    },
    Case {
        name: "a part is put to the whole before it",
        sent: &["anna 03-02 -net", "anna 03-03 only=net"],
        wants: &[("machines", "1"), ("ready", "1"), ("in_part", "0"), ("stops", "")],
        ..NONE
    },
    Case {
        name: "a moment still to come is never the newest",
        sent: &["anna 2099-01-01", "anna 03-02 -net"],
        wants: &[
            ("machines", "1"),
            ("not_ready", "1"),
            ("ahead", "1"),
            ("weeks", "2026-W10 0/1"),
            ("days", "2026-03-02, 2026-03-02"),
        ],
        ..NONE
    },
    Case {
        name: "a report of another project is named, and the others go on",
        sent: &["- 03-02", "- 03-03 project=Kelp"],
        wants: &[("machines", "1"), ("broken", "1")],
        says: &["02.json", "Kelp"],
        status: 1,
        ..NONE
    },
    Case {
        name: "a report of a later form is named",
        sent: &["- 03-02", "- 03-03 format=2"],
        wants: &[("machines", "1"), ("broken", "1")],
        says: &["02.json", "newer setup-ready"],
        status: 1,
        ..NONE
    },
    Case {
        name: "a report with a verdict that this version does not know is named",
        sent: &["- 03-02", "- 03-03 verdict=mostly"],
        wants: &[("machines", "1"), ("broken", "1")],
        says: &["02.json", "mostly"],
        status: 1,
        ..NONE
    },
    Case {
        name: "a report that says ready with something needed not met",
        sent: &["- 03-02", "- 03-03 -net outcome=ready"],
        wants: &[("machines", "1"), ("ready", "1"), ("broken", "1")],
        says: &["02.json"],
        status: 1,
        ..NONE
    },
    Case {
        name: "a report that was sent twice is one",
        sent: &["- 03-02 -net", "- 03-03", "same"],
        wants: &[("machines", "2"), ("ready", "1"), ("stops", "net 1/2 tool-missing 1")],
        says: &["twice"],
        ..NONE
    },
    Case {
        name: "a recording is assessed with the guide as it is now, a report stays as it was",
        sent: &["- 03-02 buoy=2.1 as=recording", "- 03-03 buoy=2.1", "- 03-04 buoy=3.4 as=recording", "now \">= 2\" => \">= 3\""],
        wants: &[("ready", "2"), ("stops", "buoy 1/3 tool-too-old 1")],
        ..NONE
    },
    Case {
        name: "what the guide asks for since a recording was made is not known of it",
        sent: &["- 03-02 as=recording", "now lampctl => hornctl"],
        wants: &[("unknown ids", "lamp 1/1")],
        ..NONE
    },
    Case {
        name: "a recording and a report of the same machine are one machine",
        sent: &["anna 03-02 -net as=recording", "anna 03-09"],
        wants: &[("machines", "1"), ("ready", "1"), ("recordings", "1"), ("reports", "2"), ("advised", "net tool-missing 1/1")],
        ..NONE
    },
    Case {
        name: "reports made with different guides are said to be",
        sent: &["- 03-02", "- 03-03 guide=other"],
        wants: &[("guides", "2")],
        says: &["2 states of the guide"],
        ..NONE
    },
    Case {
        name: "one machine is told as one",
        sent: &["- 03-02"],
        says: &["1 of 1 machine is ready"],
        lacks: &["1 of 1 machines", "What stops most"],
        ..NONE
    },
    Case {
        name: "nearly all is not all",
        sent: &["199 - 03-02", "- 03-03 -net"],
        wants: &[("machines", "200"), ("ready", "199"), ("percent", "99")],
        lacks: &["(100 %)"],
        ..NONE
    },
    Case {
        name: "one of many is not none",
        sent: &["250 - 03-02 -net", "- 03-03"],
        wants: &[("machines", "251"), ("ready", "1"), ("percent", "1")],
        lacks: &["(0 %)"],
        ..NONE
    },
    Case {
        name: "what somebody made up in a report does nothing in a table",
        sent: &[
            "- 03-02 found==HYPERLINK(1)",
            "- 03-03 found=+1+1",
            "- 03-04 found=@SUM(1)",
            "- 03-05 found=-2+3",
            "- 03-06 title==1+1",
        ],
        wants: &[("machines", "5"), ("formulas", "0")],
        ..NONE
    },
    Case {
        name: "what somebody made up in a report does nothing in a terminal or on a page",
        sent: &[
            "- 03-02 found=1.0\u{1b}[31m",
            "- 03-03 -net say=<script>alert(1)</script>\u{1b}]0;x\u{7}",
            "anna 03-04 -net say=<b>x</b>",
            "anna 03-05",
        ],
        wants: &[("machines", "3")],
        lacks: &["\u{1b}", "\u{7}"],
        ..NONE
    },
    Case { name: "where nothing can be read", sent: &["- 03-02 format=2"], says: &["01.json"], status: 2, ..NONE },
    Case {
        name: "an interrupted preflight is one of which not all is known",
        sent: &["- 03-02 interrupted", "- 03-03"],
        wants: &[("ready", "1"), ("undecided", "1"), ("not_ready", "0")],
        ..NONE
    },
    Case {
        name: "ready here is not ready",
        sent: &["- 03-02 outcome=ready-here", "- 03-03"],
        wants: &[("ready", "1"), ("ready_here", "1"), ("not_ready", "0"), ("undecided", "0")],
        ..NONE
    },
    Case {
        name: "a question of another minimum, by the newest of each machine",
        sent: &["anna 03-02 buoy=2.1", "anna 03-09 buoy=3.1", "bert 03-03 buoy=2.1", "carl 03-04 buoy=1.9"],
        asked: &["--what-if", "buoy >= 3"],
        wants: &[("what_if", "stays 1, lost 1")],
        ..NONE
    },
];
