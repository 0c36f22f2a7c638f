//! Every kind of requirement, met and unmet: 4,000 of it against 1,000, on a described machine.

use crate::{Row, fastest, milliseconds, ratio, time};
use build_setup_ready::{Described, Preflight, write};
use setup_ready_core::guide;
use std::fmt::Write;
use std::time::Duration;

const RUNS: usize = 5;
const SMALL: usize = 1_000;
const LARGE: usize = 4_000;
/// In step with the number it would be 4.
const TARGET: f64 = 4.4;

/// What it is called here, and one requirement of it.
type Kind = (&'static str, fn(usize) -> String);

const KINDS: [Kind; 38] = [
    ("tool, met", |at| format!("tool = \"tool-{at}\"\nversion = \">= 3\"")),
    ("tool, too old", |at| format!("tool = \"tool-{at}\"\nversion = \">= 4\"")),
    ("tool, missing", |at| format!("tool = \"none-{at}\"\nversion = \">= 4\"")),
    ("tool with a package, missing", |at| format!("tool = \"none-{at}\"\npackages = {{ apt = \"pack-{at}\" }}")),
    ("port, free", |at| format!("port = {}", 30_000 + at)),
    ("port, held", |at| format!("port = {}", 20_000 + at)),
    ("port, held and to be set", |at| {
        format!("port = {}\nset_by = {{ variable = \"PORT_{at}\", env_file = \".env\" }}", 20_000 + at)
    }),
    ("disk, met", |at| format!("disk = \"1 kB\"\nat = \"place/{at}\"")),
    ("disk, short together", |at| format!("disk = \"90 GB\"\nat = \"place/{at}\"")),
    ("disk, short alone", |at| format!("disk = \"9 TB\"\nat = \"place/{at}\"")),
    ("memory, met", |_| "memory = \"1 MB\"".to_owned()),
    ("memory, short", |at| format!("memory = \"{} GB\"", 100 + at)),
    ("cores, met", |_| "cores = 1".to_owned()),
    ("cores, too few", |at| format!("cores = {}", 100 + at)),
    ("virtualization, met", |_| "virtualization = \"present\"".to_owned()),
    ("virtualization, unmet", |_| "virtualization = \"usable\"".to_owned()),
    ("system, met", |_| "system = { linux = \"any\" }".to_owned()),
    ("system, unmet", |_| "system = { windows = \"any\" }".to_owned()),
    ("file, met", |at| format!("file = \"there/{at}\"")),
    ("file, missing", |at| format!("file = \"gone/{at}\"")),
    ("folder, missing", |at| format!("folder = \"gone/{at}\"\nwritable = true")),
    ("variable, met", |at| format!("variable = \"BUOY_{at}\"")),
    ("variable, unset", |at| format!("variable = \"SHIP_{at}\"")),
    ("group, met", |at| format!("group = \"crew-{}\"", at % 900)),
    ("group, unmet", |at| format!("group = \"pilots-{at}\"")),
    ("device, met", |at| format!("device = \"/dev/buoy{at}\"")),
    ("device, missing", |at| format!("device = \"/dev/ship{at}\"")),
    ("socket, missing", |at| format!("socket = \"/run/ship{at}.sock\"")),
    ("service, unmet", |at| format!("service = \"localhost:{}\"", 30_000 + at)),
    ("reach, not known", |at| format!("reach = \"https://{at}.driftbuoy.example\"")),
    ("hostname, unmet", |at| format!("hostname = \"ship-{at}.test\"")),
    ("subnet, taken", |at| format!("subnet = \"10.{}.{}.0/24\"", at / 250, at % 250)),
    ("limit, too low", |at| format!("limit = \"open-files\"\nat_least = {}", 9_000 + at)),
    ("library, missing", |at| format!("library = \"ship-{at}\"\npackages = {{ apt = \"libship-{at}-dev\" }}")),
    ("locale, missing", |at| format!("locale = \"en_{at}.UTF-8\"")),
    ("setting, unset", |at| format!("setting = \"buoy.key{at}\"")),
    ("command, unmet", |at| format!("command = [\"buoyctl\", \"{at}\"]")),
    ("any_of, of what is missing", |at| {
        if at % 2 == 0 { format!("tool = \"none-{at}\"") } else { format!("any_of = [\"c{}\"]", at - 1) }
    }),
];

fn machine() -> Described {
    let mut text = "format = 1\nother_ports = \"free\"\nlocales = [\"C\"]\n[machine]\nname = \"large\"\n[system]\nos = \"linux\"\nmanagers = [\"apt\"]\n[memory]\ntotal = \"8 GB\"\n\
                    [cores]\nonline = 4\n[virtualization]\nprocessor = true\nfirmware = true\n[network]\nonline = true\nnetworks = [\"eth0 10.0.0.1/8\"]\n[names]\nhere = \"127.0.0.1\"\n\
                    [limits]\nopen-files = [1024, 4096]\n[settings]\n\"user.email\" = \"a@b\"\n[[filesystem]]\nat = \"/\"\navailable = \"900 GB\"\n[candidates.apt]\nother = \"1\"\n"
        .to_owned();
    let crew: Vec<String> = (0..900).map(|at| format!("\"crew-{at}\"")).collect();
    let _ = writeln!(
        text,
        "[user]\nname = \"skipper\"\nshell = \"bash\"\nstartup_file = \"~/.bashrc\"\nelevate = \"sudo\"\nadmin = true\ngroups = [{}]",
        crew.join(", ")
    );
    text.push_str("[environment]\n");
    for at in 0..LARGE {
        let _ = writeln!(text, "BUOY_{at} = \"x\"");
    }
    for at in 0..LARGE {
        let _ = writeln!(text, "[[program]]\npath = \"/usr/bin/tool-{at}\"\nprints = \"tool-{at} version 3.{at}\"");
        let _ = writeln!(
            text,
            "[[port]]\nport = {}\nholder = \"lighthouse\"\npid = {}\n[[file]]\npath = \"there/{at}\"",
            20_000 + at,
            100 + at
        );
        let _ = writeln!(text, "[[device]]\npath = \"/dev/buoy{at}\"");
    }
    Described::parse(&text).unwrap()
}

fn guide_text(one: fn(usize) -> String, count: usize) -> String {
    let mut text = "format = 1\n[project]\nname = \"Driftbuoy\"\n".to_owned();
    for at in 0..count {
        let _ = writeln!(text, "[require.c{at}]\n{}", one(at));
    }
    text
}

fn whole(text: &str, machine: &Described) {
    let guide = guide::parse(text).unwrap();
    let report = Preflight::new(&guide).run(machine).unwrap();
    write::json(&report, std::io::sink()).unwrap();
}

pub(crate) fn rows() -> Vec<Row> {
    let machine = machine();
    let measured = KINDS.iter().map(|(kind, one)| {
        let (small_text, large_text) = (guide_text(*one, SMALL), guide_text(*one, LARGE));
        let (mut small, mut large) = (Vec::new(), Vec::new());
        for _ in 0..RUNS {
            small.extend((0..2).map(|_| time(|| whole(&small_text, &machine))));
            large.push(time(|| whole(&large_text, &machine)));
        }
        (*kind, fastest(&small), fastest(&large))
    });
    let row = |(kind, small, large): (&str, Duration, Duration)| Row {
        what: format!("{kind}: 4,000 against 1,000"),
        ours: milliseconds(large),
        other: milliseconds(small),
        ratio: ratio(large, small),
        target: TARGET,
    };
    measured.map(row).collect()
}
