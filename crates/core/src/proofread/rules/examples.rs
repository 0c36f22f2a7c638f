//! Two guides for each rule: one that breaks it and nothing else, one that keeps it.

use super::Rule;
use crate::prelude::*;

/// A guide that breaks a rule, and one that keeps it.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[non_exhaustive]
pub struct Example {
    /// Breaks it in the line that ends in `# here`, or in the first where none does.
    pub bad: &'static str,
    /// Keeps it.
    pub good: &'static str,
    /// Files of the repository that both stand in.
    pub files: &'static [(&'static str, &'static str)],
}

/// What every example begins with, unless it says all itself.
const HEAD: &str = "format = 1\n[project]\nname = \"Driftbuoy\"\nhelp = \"Ask in the newcomers' room.\"\n";

impl Example {
    /// A part of a guide as a whole one.
    pub fn whole(part: &str) -> String {
        if part.contains("[project]") || part.starts_with("format") { part.to_owned() } else { format!("{HEAD}{part}") }
    }
}

impl Rule {
    /// The two examples.
    pub fn example(self) -> Example {
        EXAMPLES.iter().find(|(rule, _)| *rule == self).map_or(Example { bad: "", good: "", files: &[] }, |(_, example)| *example)
    }
}

const NONE: &[(&str, &str)] = &[];

const fn pair(bad: &'static str, good: &'static str) -> Example {
    Example { bad, good, files: NONE }
}

const fn with(files: &'static [(&'static str, &'static str)], bad: &'static str, good: &'static str) -> Example {
    Example { bad, good, files }
}

const CMAKE_LISTS: &[(&str, &str)] = &[("CMakeLists.txt", "cmake_minimum_required(VERSION 3.25)\nproject(buoy NONE)\n")];
const CARGO: &[(&str, &str)] = &[("go.mod", "module driftbuoy.example/shore\n\ngo 1.22\n")];
const ENVIRONMENT: &[(&str, &str)] = &[(".env.example", "BUOY_REGION=north\n")];

#[rustfmt::skip]
const EXAMPLES: &[(Rule, Example)] = &[
    (Rule::TooLarge, pair(
        "[require.git]\ntool = \"git\"\nwhy = \"The sources are kept with it.\"\nx = [[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[[1]]]]]]]]]]]]]]]]]]]]]]]]]]]]]]]]]] # here\n",
        "[require.git]\ntool = \"git\"\nwhy = \"The sources are kept with it.\"\n")),
    (Rule::Syntax, pair(
        "[require.git]\ntool = \"git # here\nwhy = \"The sources are kept with it.\"\n",
        "[require.git]\ntool = \"git\"\nwhy = \"The sources are kept with it.\"\n")),
    (Rule::Format, pair(
        "format = 2 # here\n[project]\nname = \"Driftbuoy\"\n[require.git]\ntool = \"git\"\n",
        "format = 1\n[project]\nname = \"Driftbuoy\"\nhelp = \"Ask.\"\n[require.git]\ntool = \"git\"\nwhy = \"The sources are kept with it.\"\n")),
    (Rule::UnknownKey, pair(
        "[require.git]\ntool = \"git\"\nwhy = \"The sources are kept with it.\"\nlevl = \"should\" # here\n",
        "[require.git]\ntool = \"git\"\nwhy = \"The sources are kept with it.\"\nlevel = \"should\"\n")),
    (Rule::MissingKey, pair(
        "[require.name]\nsetting = \"user.name\"\nwhy = \"Every change carries it.\"\n[[require.name.fix]] # here\nrun = \"git config --global user.name YOU\"\n",
        "[require.name]\nsetting = \"user.name\"\nwhy = \"Every change carries it.\"\n[[require.name.fix]]\nsay = \"Tell git your name.\"\nrun = \"git config --global user.name YOU\"\n")),
    (Rule::WrongType, pair(
        "[require.room]\nmemory = 4 # here\nwhy = \"Linking takes as much.\"\n",
        "[require.room]\nmemory = \"4 GB\"\nwhy = \"Linking takes as much.\"\n")),
    (Rule::BadValue, pair(
        "[require.cmake]\ntool = \"cmake\"\nversion = \"3.25\" # here\nwhy = \"The presets are read by none that is older.\"\n",
        "[require.cmake]\ntool = \"cmake\"\nversion = \">= 3.25\"\nwhy = \"The presets are read by none that is older.\"\n")),
    (Rule::UnknownWord, pair(
        "[require.cmake]\ntool = \"cmake\"\nlevel = \"musst\" # here\nwhy = \"The firmware is built with it.\"\n",
        "[require.cmake]\ntool = \"cmake\"\nlevel = \"must\"\nwhy = \"The firmware is built with it.\"\n")),
    (Rule::Subject, pair(
        "[require.cmake]\ntool = \"cmake\" # here\nport = 7070\nwhy = \"The firmware is built with it.\"\n",
        "[require.cmake]\ntool = \"cmake\"\nwhy = \"The firmware is built with it.\"\n")),
    (Rule::Duplicate, pair(
        "[[stage]]\nid = \"tools\"\n[[stage]]\nid = \"tools\" # here\n[require.cmake]\ntool = \"cmake\"\nstage = \"tools\"\nwhy = \"The firmware is built with it.\"\n",
        "[[stage]]\nid = \"tools\"\n[require.cmake]\ntool = \"cmake\"\nstage = \"tools\"\nwhy = \"The firmware is built with it.\"\n")),
    (Rule::Cycle, pair(
        "[require.cmake] # here\ntool = \"cmake\"\nafter = [\"ninja\"]\nwhy = \"The firmware is built with it.\"\n[require.ninja]\ntool = \"ninja\"\nafter = [\"cmake\"]\nwhy = \"The presets call it.\"\n",
        "[require.cmake]\ntool = \"cmake\"\nwhy = \"The firmware is built with it.\"\n[require.ninja]\ntool = \"ninja\"\nafter = [\"cmake\"]\nwhy = \"The presets call it.\"\n")),

    (Rule::PinContradicted, with(CMAKE_LISTS,
        "[require.cmake]\ntool = \"cmake\"\nversion = \"< 3.20\" # here\nwhy = \"The firmware is built with it.\"\n",
        "[require.cmake]\ntool = \"cmake\"\nversion_from = \"CMakeLists.txt\"\nwhy = \"The firmware is built with it.\"\n")),
    (Rule::PinExceeded, with(CARGO,
        "[require.go]\ntool = \"go\"\nversion = \">= 1.18\" # here\nwhy = \"The shore station is written in it.\"\n",
        "[require.go]\ntool = \"go\"\nversion_from = \"go.mod\"\nwhy = \"The shore station is written in it.\"\n")),
    (Rule::PinRepeated, with(CARGO,
        "[require.go]\ntool = \"go\"\nversion = \">= 1.22\" # here\nwhy = \"The shore station is written in it.\"\n",
        "[require.go]\ntool = \"go\"\nversion_from = \"go.mod\"\nwhy = \"The shore station is written in it.\"\n")),
    (Rule::PinUnread, pair(
        "[require.node]\ntool = \"node\"\nversion_from = \".node-version\" # here\nwhy = \"The page with the charts is built with it.\"\n",
        "[require.node]\ntool = \"node\"\nversion = \">= 20\"\nwhy = \"The page with the charts is built with it.\"\n")),
    (Rule::PinnedUnlisted, with(CARGO,
        "[require.git] # here\ntool = \"git\"\nwhy = \"The sources are kept with it.\"\n",
        "[require.git]\ntool = \"git\"\nwhy = \"The sources are kept with it.\"\n[require.go]\ntool = \"go\"\nversion_from = \"go.mod\"\nwhy = \"The shore station is written in it.\"\n")),
    (Rule::UsedUnlisted, with(&[("Dockerfile", "FROM debian:12\nRUN apt-get install -y libusb-1.0-0-dev\n")],
        "[require.git] # here\ntool = \"git\"\nwhy = \"The sources are kept with it.\"\n",
        "[require.git]\ntool = \"git\"\nwhy = \"The sources are kept with it.\"\n[require.usb]\nlibrary = \"libusb-1.0\"\nwhen = \"not windows\"\nwhy = \"The buoy is reached by it.\"\npackages = { apt = \"libusb-1.0-0-dev\", brew = \"libusb\" }\n")),
    (Rule::PortMoved, with(&[("compose.yaml", "services:\n  shore:\n    ports: [\"${SHORE_PORT:-7171}:80\"]\n")],
        "[require.shore]\nport = 7070 # here\nset_by = { variable = \"SHORE_PORT\", env_file = \".env\" }\nwhy = \"The station's page is there.\"\n[require.engine]\ntool = \"docker\"\npackages = { apt = \"docker.io\", brew = \"docker\" }\nwhy = \"The station runs in a container.\"\n",
        "[require.shore]\nport = 7171\nset_by = { variable = \"SHORE_PORT\", env_file = \".env\" }\nwhy = \"The station's page is there.\"\n[require.engine]\ntool = \"docker\"\npackages = { apt = \"docker.io\", brew = \"docker\" }\nwhy = \"The station runs in a container.\"\n")),
    (Rule::VariableUnknown, with(ENVIRONMENT,
        "[require.region]\nvariable = \"BUOY_REGON\" # here\nenv_file = \".env\"\nwhy = \"The charts of one region are loaded.\"\n",
        "[require.region]\nvariable = \"BUOY_REGION\"\nenv_file = \".env\"\nwhy = \"The charts of one region are loaded.\"\n")),
    (Rule::SystemUnpromised, with(&[(".github/workflows/ci.yml", "jobs:\n  build:\n    runs-on: windows-latest\n")],
        "format = 1\n[project]\nname = \"Driftbuoy\"\nhelp = \"Ask.\"\nsystems = [\"linux\"] # here\n[require.git]\ntool = \"git\"\nwhy = \"The sources are kept with it.\"\n",
        "format = 1\n[project]\nname = \"Driftbuoy\"\nhelp = \"Ask.\"\nsystems = [\"linux\", \"windows\"]\n[require.git]\ntool = \"git\"\nwhy = \"The sources are kept with it.\"\n")),
    (Rule::PinsDisagree, with(&[(".nvmrc", "18\n"), ("package.json", "{\"engines\": {\"node\": \">=20\"}}\n")],
        "[require.node] # here\ntool = \"node\"\nwhy = \"The page with the charts is built with it.\"\n",
        "")),

    (Rule::ConditionNever, pair(
        "format = 1\n[project]\nname = \"Driftbuoy\"\nhelp = \"Ask.\"\nsystems = [\"linux\", \"macos\"]\n[require.links]\nlimit = \"symbolic-links\"\nwhen = \"windows\" # here\nwhy = \"Pictures are shared by links.\"\n",
        "format = 1\n[project]\nname = \"Driftbuoy\"\nhelp = \"Ask.\"\nsystems = [\"linux\", \"windows\"]\n[require.links]\nlimit = \"symbolic-links\"\nwhen = \"windows\"\nwhy = \"Pictures are shared by links.\"\n")),
    (Rule::FixHidden, pair(
        "[require.git]\ntool = \"git\"\nwhy = \"The sources are kept with it.\"\n[[require.git.fix]]\nsay = \"Install git.\"\n[[require.git.fix]]\ncause = \"tool-too-old\"\nsay = \"Upgrade git.\" # here\n",
        "[require.git]\ntool = \"git\"\nwhy = \"The sources are kept with it.\"\n[[require.git.fix]]\ncause = \"tool-too-old\"\nsay = \"Upgrade git.\"\n[[require.git.fix]]\nsay = \"Install git.\"\n")),
    (Rule::PortTwice, pair(
        "[require.shore]\nport = 7070\nwhy = \"The station's page is there.\"\n[require.charts]\nport = [7069, 7070] # here\nwhy = \"Charts are served there.\"\n",
        "[require.shore]\nport = 7070\nwhy = \"The station's page is there.\"\n[require.charts]\nport = 7071\nwhy = \"Charts are served there.\"\n")),
    (Rule::CheckedTwice, pair(
        "[require.git]\ntool = \"git\"\nwhy = \"The sources are kept with it.\"\n[require.version-control] # here\ntool = \"git\"\nversion = \">= 2.30\"\nwhy = \"Charts are fetched in part.\"\n",
        "[require.git]\ntool = \"git\"\nversion = \">= 2.30\"\nwhy = \"The sources are kept with it, and charts are fetched in part.\"\n")),
    (Rule::AfterLaterStage, pair(
        "[[stage]]\nid = \"tools\"\n[[stage]]\nid = \"project\"\n[require.debugger]\ntool = \"openocd\"\nafter = [\"files\"] # here\nwhy = \"It steps through the program on the buoy.\"\n[require.files]\nfolder = \"charts\"\nstage = \"project\"\nwhy = \"Charts are unpacked there.\"\n",
        "[[stage]]\nid = \"tools\"\n[[stage]]\nid = \"project\"\n[require.debugger]\ntool = \"openocd\"\nwhy = \"It steps through the program on the buoy.\"\n[require.files]\nfolder = \"charts\"\nstage = \"project\"\nafter = [\"debugger\"]\nwhy = \"Charts are unpacked there.\"\n")),
    (Rule::RoleUnused, pair(
        "[role.shore] # here\n[require.git]\ntool = \"git\"\nwhy = \"The sources are kept with it.\"\n",
        "[role.shore]\n[require.git]\ntool = \"git\"\nroles = [\"shore\"]\nwhy = \"The sources are kept with it.\"\n")),
    (Rule::StageUnused, pair(
        "[[stage]]\nid = \"tools\"\n[[stage]]\nid = \"project\" # here\n[require.git]\ntool = \"git\"\nstage = \"tools\"\nwhy = \"The sources are kept with it.\"\n",
        "[[stage]]\nid = \"tools\"\n[require.git]\ntool = \"git\"\nstage = \"tools\"\nwhy = \"The sources are kept with it.\"\n")),
    (Rule::PlaceUnused, pair(
        "[place.guest] # here\ntitle = \"the Linux inside Windows\"\nenter = \"wsl\"\n[require.git]\ntool = \"git\"\nwhy = \"The sources are kept with it.\"\n",
        "[place.guest]\ntitle = \"the Linux inside Windows\"\nenter = \"wsl\"\n[require.git]\ntool = \"git\"\nplace = \"guest\"\nwhy = \"The sources are kept with it.\"\n")),
    (Rule::ValueUnused, pair(
        "[value.shore-port] # here\nis = 7070\nvariable = \"SHORE_PORT\"\n[require.git]\ntool = \"git\"\nwhy = \"The sources are kept with it.\"\n",
        "[value.shore-port]\nis = 7070\nvariable = \"SHORE_PORT\"\n[require.shore]\nport = \"{shore-port}\"\nwhy = \"The station's page is there.\"\n")),
    (Rule::WeakBeforeNeeded, pair(
        "[require.engine]\ntool = \"docker\"\npackages = { apt = \"docker.io\", brew = \"docker\" }\nlevel = \"should\"\nwhy = \"The station may run in a container.\"\n[require.cmake]\ntool = \"cmake\"\nafter = [\"engine\"] # here\nwhy = \"The firmware is built with it.\"\n",
        "[require.engine]\ntool = \"docker\"\npackages = { apt = \"docker.io\", brew = \"docker\" }\nwhy = \"Everything is built in a container.\"\n[require.cmake]\ntool = \"cmake\"\nafter = [\"engine\"]\nwhy = \"The firmware is built with it.\"\n")),
    (Rule::RangeAlways, pair(
        "[require.cmake]\ntool = \"cmake\"\nversion = \">= 0\" # here\nwhy = \"The firmware is built with it.\"\n",
        "[require.cmake]\ntool = \"cmake\"\nversion = \">= 3.25\"\nwhy = \"The firmware is built with it.\"\n")),
    (Rule::TestedOutside, pair(
        "[require.cmake]\ntool = \"cmake\"\nversion = \">= 3.25\"\ntested = \"3.22.*\" # here\nwhy = \"The firmware is built with it.\"\n",
        "[require.cmake]\ntool = \"cmake\"\nversion = \">= 3.25\"\ntested = \"<= 3.31\"\nwhy = \"The firmware is built with it.\"\n")),
    (Rule::OtherNumbering, pair(
        "[require.fonts]\nlibrary = \"freetype2\"\nversion = \">= 2.10\" # here\nwhen = \"not windows\"\nwhy = \"Charts are labelled with it.\"\npackages = { apt = \"libfreetype-dev\", brew = \"freetype\" }\n",
        "[require.fonts]\nlibrary = \"freetype2\"\nversion = \">= 23\"\nwhen = \"not windows\"\nwhy = \"Charts are labelled with it.\"\npackages = { apt = \"libfreetype-dev\", brew = \"freetype\" }\n")),

    (Rule::WhyMissing, pair(
        "[require.git] # here\ntool = \"git\"\n",
        "[require.git]\ntool = \"git\"\nwhy = \"The sources are kept with it.\"\n")),
    (Rule::FixMissing, pair(
        "format = 1\n[project]\nname = \"Driftbuoy\"\nhelp = \"Ask.\"\nsystems = [\"linux\"]\n[require.simulator] # here\ntool = \"buoysim\"\nwhy = \"The firmware's tests run in it.\"\n",
        "format = 1\n[project]\nname = \"Driftbuoy\"\nhelp = \"Ask.\"\nsystems = [\"linux\"]\n[require.simulator]\ntool = \"buoysim\"\nwhy = \"The firmware's tests run in it.\"\n[[require.simulator.fix]]\nsay = \"Download it from the project's page, and unpack it into ~/bin.\"\n")),
    (Rule::HelpMissing, pair(
        "format = 1\n[project] # here\nname = \"Driftbuoy\"\n[require.git]\ntool = \"git\"\nwhy = \"The sources are kept with it.\"\n",
        "format = 1\n[project]\nname = \"Driftbuoy\"\nhelp = \"Ask in the newcomers' room.\"\n[require.git]\ntool = \"git\"\nwhy = \"The sources are kept with it.\"\n")),
    (Rule::MeansMissing, pair(
        "[require.region]\nvariable = \"BUOY_REGION\"\nmatches = \"^(north|south)$\" # here\nwhy = \"The charts of one region are loaded.\"\n",
        "[require.region]\nvariable = \"BUOY_REGION\"\nmatches = \"^(north|south)$\"\nmeans = \"a region: north or south\"\nexample = \"north\"\nwhy = \"The charts of one region are loaded.\"\n")),

    (Rule::PathOfOneSystem, pair(
        "[require.serial]\ndevice = \"/dev/ttyUSB0\" # here\nwhy = \"The buoy is reached by it.\"\n",
        "[require.serial]\ndevice = \"/dev/ttyUSB0\"\nwhen = \"linux\"\nwhy = \"The buoy is reached by it.\"\n")),
    (Rule::HomeOfOnePerson, pair(
        "[require.charts]\nfolder = \"/home/skipper/charts\" # here\nwhen = \"linux\"\nwhy = \"The station draws on them.\"\n",
        "[require.charts]\nfolder = \"~/charts\"\nwhy = \"The station draws on them.\"\n")),
    (Rule::ShellOfOneSystem, pair(
        "[require.charts]\nfolder = \"charts\"\nwhy = \"The station draws on them.\"\n[[require.charts.fix]]\nsay = \"Link your copy of the charts.\"\nrun = \"ln -s ~/charts charts\" # here\n",
        "[require.charts]\nfolder = \"charts\"\nwhy = \"The station draws on them.\"\n[[require.charts.fix]]\nwhen = \"not windows\"\nsay = \"Link your copy of the charts.\"\nrun = \"ln -s ~/charts charts\"\n[[require.charts.fix]]\nwhen = \"windows\"\nsay = \"Copy your folder of the charts here.\"\n")),
    (Rule::ManagerOfOneSystem, pair(
        "[require.pages]\ntool = \"pandoc\"\nwhen = \"linux\"\nwhy = \"The handbook is made with it.\"\n[[require.pages.fix]]\nsay = \"Install it.\"\nadmin = true\nrun = \"apt-get install pandoc\" # here\n",
        "[require.pages]\ntool = \"pandoc\"\nwhen = \"linux\"\nwhy = \"The handbook is made with it.\"\npackages = { apt = \"pandoc\", dnf = \"pandoc\" }\n")),
    (Rule::NamesDifferInCase, pair(
        "[require.a]\nfile = \"charts/north.map\"\nwhy = \"The north is drawn from it.\"\n[require.b]\nfile = \"Charts/north.map\" # here\nwhy = \"The overview is drawn from it.\"\n",
        "[require.a]\nfile = \"charts/north.map\"\nwhy = \"The north is drawn from it.\"\n[require.b]\nfile = \"charts/overview.map\"\nwhy = \"The overview is drawn from it.\"\n")),

    (Rule::DownloadIntoShell, pair(
        "[require.radio]\ntool = \"buoyradio\"\nwhy = \"The buoys are heard with it.\"\n[[require.radio.fix]]\nsay = \"Install it.\"\nrun = \"curl -fsSL https://driftbuoy.example/radio.sh | sh\" # here\n",
        "[require.radio]\ntool = \"buoyradio\"\nwhy = \"The buoys are heard with it.\"\n[[require.radio.fix]]\nsay = \"Download it from https://driftbuoy.example/radio, and unpack it.\"\n")),
    (Rule::PlainHttp, pair(
        "[require.files]\nreach = \"http://files.driftbuoy.example\" # here\nwhy = \"Charts are fetched from there.\"\n",
        "[require.files]\nreach = \"https://files.driftbuoy.example\"\nwhy = \"Charts are fetched from there.\"\n")),
    (Rule::CheckSwitchedOff, pair(
        "[require.charts]\nfolder = \"charts\"\nwhy = \"The station draws on them.\"\n[[require.charts.fix]]\nsay = \"Fetch them.\"\nrun = \"curl --insecure -O https://driftbuoy.example/charts.zip\" # here\n",
        "[require.charts]\nfolder = \"charts\"\nwhy = \"The station draws on them.\"\n[[require.charts.fix]]\nsay = \"Fetch them.\"\nrun = \"curl -O https://driftbuoy.example/charts.zip\"\n")),
    (Rule::SecretUnmarked, pair(
        "[require.upload]\nvariable = \"BUOY_TOKEN\" # here\nwhy = \"Reports are published with it.\"\n",
        "[require.upload]\nvariable = \"BUOY_TOKEN\"\nsecret = true\nwhy = \"Reports are published with it.\"\n")),
    (Rule::AdminUnsaid, pair(
        "[require.serial]\ngroup = \"dialout\"\nwhen = \"linux\"\nwhy = \"The serial line is opened with it.\"\n[[require.serial.fix]]\nsay = \"Join the group.\"\nrun = \"sudo usermod -aG dialout {user}\" # here\n",
        "[require.serial]\ngroup = \"dialout\"\nwhen = \"linux\"\nwhy = \"The serial line is opened with it.\"\n[[require.serial.fix]]\nsay = \"Join the group.\"\nrun = \"usermod -aG dialout {user}\"\nadmin = true\n")),
    (Rule::RemovesWidely, pair(
        "[require.room]\ndisk = \"6 GB\"\nwhy = \"A whole build takes as much.\"\n[[require.room.fix]]\nsay = \"Start anew.\"\nrun = \"git clean -fdx\" # here\n",
        "[require.room]\ndisk = \"6 GB\"\nwhy = \"A whole build takes as much.\"\n[[require.room.fix]]\nsay = \"Empty the folder with the last build.\"\nrun = \"cmake --build build --target clean\"\n")),

    (Rule::WhyRepeats, pair(
        "[require.cmake]\ntool = \"cmake\"\nwhy = \"You need cmake to build the project.\" # here\n",
        "[require.cmake]\ntool = \"cmake\"\nwhy = \"The firmware is described in its files.\"\n")),
    (Rule::SayWithoutDeed, pair(
        "[require.radio]\ntool = \"buoyradio\"\nwhy = \"The buoys are heard with it.\"\n[[require.radio.fix]]\nsay = \"The radio is missing.\" # here\n",
        "[require.radio]\ntool = \"buoyradio\"\nwhy = \"The buoys are heard with it.\"\n[[require.radio.fix]]\nsay = \"Ask the workshop for a copy of the radio.\"\n")),
    (Rule::TextTooLong, pair(
        "[require.git]\ntool = \"git\"\ntitle = \"the program that keeps all the sources of the buoys, the shore and the handbook in order\" # here\nwhy = \"Everything is kept with it.\"\n",
        "[require.git]\ntool = \"git\"\nwhy = \"Everything is kept with it.\"\n")),
    (Rule::TextUnfinished, pair(
        "[require.git]\ntool = \"git\"\nwhy = \"TODO: say why\" # here\n",
        "[require.git]\ntool = \"git\"\nwhy = \"Everything is kept with it.\"\n")),
    (Rule::AcceptanceIdle, pair(
        "[require.git]\ntool = \"git\"\nwhy = \"Everything is kept with it.\"\n[proofread]\naccept = [{ rule = \"why-missing\", of = \"git\", because = \"It is plain.\" }] # here\n",
        "[require.git]\ntool = \"git\"\n[proofread]\naccept = [{ rule = \"why-missing\", of = \"git\", because = \"It is plain.\" }]\n")),
];
