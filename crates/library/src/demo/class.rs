//! A class of made-up newcomers: the same seed makes the same machines, each described as a file would.

use std::fmt::Write;

/// A newcomer of the class, at one moment.
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct Newcomer {
    /// What their file is called.
    pub name: String,
    /// The random word by which two of their recordings can be told to be theirs.
    pub id: String,
    /// The role that they chose.
    pub role: &'static str,
    /// When they looked, by RFC 3339.
    pub when: String,
    /// Their machine, as a description.
    pub machine: String,
}

/// Numbers by chance (`SplitMix64`, by Steele, Lea and Flood, 2014): the same seed gives the same ones.
struct Chance(u64);

impl Chance {
    fn next(&mut self) -> u64 {
        self.0 = self.0.wrapping_add(0x9e37_79b9_7f4a_7c15);
        let mut z = self.0;
        z = (z ^ (z >> 30)).wrapping_mul(0xbf58_476d_1ce4_e5b9);
        z = (z ^ (z >> 27)).wrapping_mul(0x94d0_49bb_1331_11eb);
        z ^ (z >> 31)
    }

    fn below(&mut self, most: usize) -> usize {
        usize::try_from(self.next() % u64::try_from(most.max(1)).unwrap_or(1)).unwrap_or(0)
    }

    /// Whether something happens that does so many times in a hundred.
    fn percent(&mut self, times: usize) -> bool {
        self.below(100) < times
    }

    fn one_of<'a>(&mut self, all: &[&'a str]) -> &'a str {
        all.get(self.below(all.len())).copied().unwrap_or_default()
    }
}

/// A system, and how new what it brings is: a place in the lists of versions.
struct System {
    table: &'static str,
    manager: &'static str,
    age: usize,
    weight: usize,
}

const SYSTEMS: [System; 6] = [
    System {
        table: "os = \"linux\"\nversion = \"6.1.0-28-amd64\"\ndistro = \"debian\"\ndistro_version = \"12\"\npretty = \"Debian GNU/Linux 12 (bookworm)\"\narch = \"x86_64\"",
        manager: "apt",
        age: 1,
        weight: 22,
    },
    System {
        table: "os = \"linux\"\nversion = \"5.15.0-130-generic\"\ndistro = \"ubuntu\"\ndistro_like = [\"debian\"]\ndistro_version = \"22.04\"\npretty = \"Ubuntu 22.04.5 LTS\"\narch = \"x86_64\"",
        manager: "apt",
        age: 0,
        weight: 20,
    },
    System {
        table: "os = \"linux\"\nversion = \"6.8.0-51-generic\"\ndistro = \"ubuntu\"\ndistro_like = [\"debian\"]\ndistro_version = \"24.04\"\npretty = \"Ubuntu 24.04.1 LTS\"\narch = \"x86_64\"",
        manager: "apt",
        age: 2,
        weight: 26,
    },
    System {
        table: "os = \"linux\"\nversion = \"6.12.4-200.fc41.x86_64\"\ndistro = \"fedora\"\ndistro_version = \"41\"\npretty = \"Fedora Linux 41\"\narch = \"x86_64\"",
        manager: "dnf",
        age: 3,
        weight: 12,
    },
    System {
        table: "os = \"macos\"\nversion = \"14.7.1\"\npretty = \"macOS Sonoma 14.7.1\"\narch = \"aarch64\"",
        manager: "brew",
        age: 3,
        weight: 12,
    },
    System {
        table: "os = \"windows\"\nversion = \"10.0.22631\"\nedition = \"home\"\npretty = \"Windows 11 Home\"\narch = \"x86_64\"",
        manager: "winget",
        age: 3,
        weight: 8,
    },
];

/// A tool: its name, its versions from old to new, what it prints around one, and how many in a hundred have it already.
type Tool = (&'static str, [&'static str; 4], (&'static str, &'static str), usize);

const TOOLS: [Tool; 11] = [
    ("git", ["2.34.1", "2.39.5", "2.43.0", "2.47.1"], ("git version ", ""), 92),
    ("cmake", ["3.22.1", "3.25.1", "3.28.3", "3.30.5"], ("cmake version ", ""), 66),
    ("ninja", ["1.10.1", "1.11.1", "1.11.1", "1.12.1"], ("", ""), 58),
    ("cc", ["11.4.0", "12.2.0", "13.3.0", "14.2.1"], ("gcc (GCC) ", ""), 88),
    ("arm-none-eabi-gcc", ["10.3.1", "12.2.1", "13.2.1", "14.1.0"], ("arm-none-eabi-gcc (made up) ", " 20240101"), 40),
    ("openocd", ["0.11.0", "0.12.0", "0.12.0", "0.12.0"], ("Open On-Chip Debugger ", ""), 45),
    ("python3", ["3.10.12", "3.11.2", "3.12.3", "3.13.1"], ("Python ", ""), 97),
    ("node", ["18.19.1", "20.11.1", "20.14.0", "22.11.0"], ("v", ""), 72),
    ("sqlite3", ["3.37.2", "3.40.1", "3.45.1", "3.46.1"], ("", " 2024-08-13 09:16:08"), 70),
    ("pandoc", ["2.9.2", "2.17.1", "3.1.3", "3.1.11"], ("pandoc ", ""), 35),
    ("qemu-system-arm", ["6.2.0", "7.2.13", "8.2.2", "9.1.2"], ("QEMU emulator version ", ""), 38),
];

/// What comes by chance of a machine at first, so that a later look can have more of it.
#[allow(clippy::struct_excessive_bools, reason = "each is something that a newcomer has done or not")]
struct Made {
    system: &'static System,
    role: &'static str,
    tools: Vec<Option<&'static str>>,
    memory: usize,
    room: usize,
    groups: bool,
    watches: bool,
    port_held: bool,
    submodules: bool,
    variables: bool,
    proxy: bool,
    headers: bool,
    reader: bool,
}

fn make(chance: &mut Chance) -> Made {
    let mut left = chance.below(SYSTEMS.iter().map(|system| system.weight).sum());
    let system = SYSTEMS.iter().find(|system| {
        let found = left < system.weight;
        left = left.saturating_sub(system.weight);
        found
    });
    let [first, ..] = &SYSTEMS;
    let system = system.unwrap_or(first);
    let mut tool = |(_, versions, _, has): &Tool| {
        let noise = chance.below(10);
        // Most have what their system brings; some have something older or newer.
        let at = if noise == 0 { system.age.saturating_sub(1) } else { (system.age + usize::from(noise == 9)).min(3) };
        chance.percent(*has).then(|| versions.get(at).copied()).flatten()
    };
    let tools = TOOLS.iter().map(&mut tool).collect();
    Made {
        system,
        tools,
        role: chance.one_of(&["firmware", "firmware", "shore", "shore", "docs"]),
        memory: [4, 8, 8, 16, 16, 32].get(chance.below(6)).copied().unwrap_or(8),
        room: 6 + chance.below(120),
        groups: chance.percent(35),
        watches: chance.percent(45),
        port_held: chance.percent(12),
        submodules: chance.percent(60),
        variables: chance.percent(40),
        proxy: chance.percent(8),
        headers: chance.percent(55),
        reader: chance.percent(60),
    }
}

/// What a week of following the plan does: most of it, seldom all.
fn improve(made: &mut Made, chance: &mut Chance) {
    for (have, (_, versions, ..)) in made.tools.iter_mut().zip(TOOLS) {
        if chance.percent(75) {
            let [.., newest] = versions;
            let needed = made.system.age.max(2);
            *have = Some(have.filter(|_| made.system.age > 0).unwrap_or(versions.get(needed).copied().unwrap_or(newest)));
        }
    }
    made.groups |= chance.percent(80);
    made.watches |= chance.percent(80);
    made.submodules |= chance.percent(95);
    made.variables |= chance.percent(85);
    made.port_held &= chance.percent(40);
    made.headers |= chance.percent(75);
    made.reader |= chance.percent(75);
}

fn describe(made: &Made, name: &str) -> String {
    let windows = made.system.manager == "winget";
    let macos = made.system.manager == "brew";
    let home = if windows {
        "C:/Users/newcomer"
    } else if macos {
        "/Users/newcomer"
    } else {
        "/home/newcomer"
    };
    let mut text = "format = 1\nother_ports = \"free\"\nlocales = [\"C.utf8\"]\n".to_owned();
    if windows {
        text += "path = [\"C:\\\\Tools\"]\n";
    }
    let _ = write!(
        text,
        "[machine]\nname = \"{name}\"\nproject = \"{home}/driftbuoy\"\n[system]\n{}\nmanagers = [\"{}\"]\n",
        made.system.table, made.system.manager
    );
    let shell = if windows {
        "powershell"
    } else if macos {
        "zsh"
    } else {
        "bash"
    };
    let groups = if made.groups { "\"dialout\", \"kvm\", \"newcomer\"" } else { "\"newcomer\"" };
    let _ = write!(
        text,
        "[user]\nname = \"newcomer\"\nhome = \"{home}\"\nadmin = true\nelevate = \"sudo\"\nshell = \"{shell}\"\ngroups = [{groups}]\nother_groups = [\"dialout\", \"kvm\"]\n"
    );
    let _ = write!(
        text,
        "[memory]\ntotal = \"{0} GB\"\navailable = \"{1} GB\"\n[cores]\nonline = {2}\n",
        made.memory,
        made.memory / 2 + 1,
        made.memory / 2
    );
    text += "[virtualization]\nprocessor = true\nfirmware = true\nfeature = true\nstarted = true\n";
    let at = if windows { "C:/" } else { "/" };
    let _ = write!(text, "[[filesystem]]\nat = \"{at}\"\navailable = \"{} GB\"\n", made.room);
    let kvm = if made.groups { "state = \"opens\"" } else { "state = \"denied\"\ngroup = \"kvm\"\nmode = \"660\"" };
    if !windows && !macos {
        let _ = write!(text, "[[device]]\npath = \"/dev/kvm\"\n{kvm}\n");
    }
    for ((tool, _, (before, after), _), version) in TOOLS.iter().zip(&made.tools) {
        let Some(version) = version else { continue };
        let path = if windows { format!("C:\\\\Tools\\\\{tool}.exe") } else { format!("/usr/bin/{tool}") };
        let stream = if *tool == "openocd" { "complains" } else { "prints" };
        let _ = write!(text, "[[program]]\npath = \"{path}\"\n{stream} = \"{before}{version}{after}\"\n");
    }
    if made.port_held {
        text += "[[port]]\nport = 7070\nholder = \"lighthouse\"\npid = 4711\n";
    }
    text += "[[command]]\nwords = [\"python3\", \"-m\", \"venv\", \"--help\"]\nprints = \"usage: venv\"\n";
    text += "[settings]\n\"user.name\" = \"New Comer\"\n\"user.email\" = \"newcomer@driftbuoy.example\"\n[checkout]\nbranch = \"main\"\n";
    if !made.submodules {
        text += "submodules_not_fetched = [\"parts/radio\"]\n";
    }
    if made.variables {
        text += "[[file]]\npath = \".env\"\ntext = \"BUOY_REGION=north\\nBUOY_TOKEN=kelp-7781-lantern\\n\"\n[[file]]\npath = \"~/.config/driftbuoy/buoy.key\"\nmode = \"600\"\n";
    }
    text += &parts(made, windows);
    let _ = write!(text, "[limits]\nfile-watches = {}\nsymbolic-links = true\n", if made.watches { 524_288 } else { 8_192 });
    text += "[network]\nonline = true\nnetworks = []\n[names]\n\"shore.test\" = \"127.0.0.1\"\n[[site]]\nurl = \"https://files.driftbuoy.example\"\n";
    if made.proxy {
        text += "fails = \"proxy\"\n";
    }
    text
}

/// What is installed and is no program of its own.
fn parts(made: &Made, windows: bool) -> String {
    let mut text = String::new();
    let versions =
        |tool: &str| TOOLS.iter().position(|(name, ..)| *name == tool).and_then(|at| made.tools.get(at).copied().flatten());
    if let Some(version) = versions("sqlite3").filter(|_| made.headers) {
        let _ = write!(
            text,
            "[[library]]\nname = \"sqlite3\"\nversion = \"{version}\"\ndescribed_by = \"/usr/lib/pkgconfig/sqlite3.pc\"\n"
        );
    }
    if made.reader {
        text += "[[module]]\nof = \"python\"\nname = \"yaml\"\nversion = \"6.0.1\"\nat = \"/usr/lib/python3/yaml\"\n";
    }
    if versions("python3").is_some() && made.reader {
        let path = if windows { "C:\\\\Tools\\\\pip3.exe" } else { "/usr/bin/pip3" };
        let _ = write!(
            text,
            "[[program]]\npath = \"{path}\"\nprints = \"pip 24.0 from /usr/lib/pip (python {})\"\n",
            versions("python3").unwrap_or_default()
        );
    }
    text
}

/// A class of so many newcomers, over the six weeks of a course. About a third of them looked again a week later: they come twice, with the same id.
///
/// ```
/// use build_setup_ready::demo::class;
///
/// let thirty = class(7, 30);
/// assert_eq!(thirty, class(7, 30));
/// assert!(thirty.len() > 30);
/// ```
pub fn class(seed: u64, newcomers: usize) -> Vec<Newcomer> {
    let mut chance = Chance(seed);
    let mut all = Vec::new();
    for number in 1..=newcomers {
        let mut made = make(&mut chance);
        let id = format!("{:016x}{:016x}", chance.next(), chance.next());
        // Weeks that begin on Mondays, from 2026-09-07 on.
        let (week, day, hour) = (chance.below(5), chance.below(5), 8 + chance.below(10));
        let name = format!("newcomer-{number:02}");
        let when = |week: usize| {
            let day = 7 + week * 7 + day;
            let (month, day) = if day > 30 { (10, day - 30) } else { (9, day) };
            format!("2026-{month:02}-{day:02}T{hour:02}:{:02}:00Z", number % 60)
        };
        let push = |all: &mut Vec<Newcomer>, name: String, made: &Made, week| {
            let machine = describe(made, &name);
            all.push(Newcomer { name, id: id.clone(), role: made.role, when: when(week), machine });
        };
        push(&mut all, name.clone(), &made, week);
        if chance.percent(35) {
            improve(&mut made, &mut chance);
            push(&mut all, format!("{name}-again"), &made, week + 1);
        }
    }
    all
}
