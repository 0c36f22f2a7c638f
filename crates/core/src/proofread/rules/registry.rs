//! The rules themselves, one row each: family, weight, id, what is wrong, what a newcomer suffers, what to write instead.

use super::{Family, Page, Weight};

macro_rules! rules {
    ($($variant:ident $family:ident $weight:ident $id:literal { $meaning:literal $suffers:literal $right:literal })+) => {
        /// What a guide may break. The ids are stable, since guides accept remarks by them.
        #[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
        pub enum Rule {
            $(#[doc = $meaning] $variant),+
        }

        impl Rule {
            /// Every rule, in the order of the list.
            pub const ALL: &'static [Self] = &[$(Self::$variant),+];

            /// The stable word.
            pub fn id(self) -> &'static str {
                match self { $(Self::$variant => $id),+ }
            }

            /// The group that it belongs to.
            pub fn family(self) -> Family {
                match self { $(Self::$variant => Family::$family),+ }
            }

            /// How much a remark of it weighs.
            pub fn weight(self) -> Weight {
                match self { $(Self::$variant => Weight::$weight),+ }
            }

            /// Its page.
            pub fn page(self) -> Page {
                match self { $(Self::$variant => Page { meaning: $meaning, suffers: $suffers, right: $right }),+ }
            }
        }
    };
}

impl Rule {
    /// The rule with this id.
    pub fn from_id(id: &str) -> Option<Self> {
        Self::ALL.iter().copied().find(|rule| rule.id() == id)
    }
}

rules! {
    TooLarge GuideError Heavy "too-large" {
        "Something is larger than is read."
        "Nothing is checked."
        "Make it smaller: fewer entries, less nesting, a shorter text." }
    Syntax GuideError Heavy "syntax" {
        "The file is not TOML."
        "Nothing is checked."
        "Correct the place that is named; an editor that knows TOML shows it too." }
    Format GuideError Heavy "format" {
        "The file does not say its format, or one that is not known."
        "Nothing is checked."
        "Begin the file with `format = 1`." }
    UnknownKey GuideError Heavy "unknown-key" {
        "A key has no meaning there."
        "Nothing is checked, so that no slip of the pen goes unseen."
        "Write the key that was meant; the remark names the nearest." }
    MissingKey GuideError Heavy "missing-key" {
        "A key is missing that must be there."
        "Nothing is checked."
        "Add the key that is named." }
    WrongType GuideError Heavy "wrong-type" {
        "A value is of another type than its key takes."
        "Nothing is checked."
        "Write it as the remark says: text in quotes, a number, a list." }
    BadValue GuideError Heavy "bad-value" {
        "A value cannot be read."
        "Nothing is checked."
        "Write it as the remark says." }
    UnknownWord GuideError Heavy "unknown-word" {
        "A word is not in its list: a stage, a role, a cause, a fact."
        "Nothing is checked."
        "Write one of the words that the remark names, or define it." }
    Subject GuideError Heavy "subject" {
        "A requirement does not say exactly one thing to check."
        "Nothing is checked."
        "Give each requirement one subject, such as `tool` or `port`." }
    Duplicate GuideError Heavy "duplicate" {
        "Two things have one name, or a list names one twice."
        "Nothing is checked."
        "Give each a name of its own." }
    Cycle GuideError Heavy "cycle" {
        "Requirements wait for each other."
        "Nothing is checked, since nothing could come first."
        "Take one `after` out of the circle." }

    PinContradicted Agreement Heavy "pin-contradicted" {
        "No version that the guide accepts is one that the repository's own files accept."
        "Whoever follows the guide has a version with which the build refuses."
        "Let the guide follow the file: `version_from = \"FILE\"`." }
    PinExceeded Agreement Heavy "pin-exceeded" {
        "The guide accepts a version that the repository's own files refuse."
        "The machine is called ready, and then the build refuses."
        "Let the guide follow the file: `version_from = \"FILE\"`, or narrow the range." }
    PinRepeated Agreement Light "pin-repeated" {
        "A version is written by hand that a file of the repository says already."
        "Nothing today. The day the file is changed, the guide is wrong."
        "Write `version_from = \"FILE\"` in its place." }
    PinUnread Agreement Heavy "pin-unread" {
        "The file that `version_from` names is not there, or says no version of this tool."
        "Any version passes, or nobody can tell: the requirement says nothing."
        "Name the right file, or give a `pattern`, or write `version`." }
    PinnedUnlisted Agreement Middling "pinned-unlisted" {
        "The build asks for something that no requirement speaks of."
        "The machine is called ready, and then the build stops for want of it."
        "Add a requirement; a draft of what the guide lacks has one." }
    UsedUnlisted Agreement Middling "used-unlisted" {
        "The project's own build servers or containers install something that no requirement speaks of."
        "What the build server has and the newcomer has not is found out late."
        "Add a requirement, or accept the remark with the reason why newcomers do not need it." }
    PortMoved Agreement Heavy "port-moved" {
        "The guide and the repository say different ports for one variable."
        "Another port is checked than the one that is taken."
        "Write the port that the repository publishes." }
    VariableUnknown Agreement Middling "variable-unknown" {
        "The guide asks for a variable that the example of the environment file does not have."
        "Somebody looks for the place where to write it, and the name may be an old one."
        "Write the name as the example has it, or add it there." }
    SystemUnpromised Agreement Light "system-unpromised" {
        "The project is built on a system that the guide does not promise."
        "Newcomers there are told that the guide is not for them."
        "Add the system to `systems`, or accept the remark with the reason." }
    PinsDisagree Agreement Heavy "pins-disagree" {
        "Two files of the repository ask for versions that no version can satisfy together."
        "No machine can be right for both."
        "Decide which file is right, and correct the other." }

    ConditionNever Sense Heavy "condition-never" {
        "A condition holds on none of the systems that the guide promises."
        "The requirement is never checked, or the fix never offered."
        "Correct the condition, or the `systems` of the project." }
    FixHidden Sense Middling "fix-hidden" {
        "An earlier fix of the same requirement is for every cause and every machine, so this one is never first."
        "The better advice stands behind the worse one."
        "Put the fix with a `cause` or a `when` before the general one." }
    PortTwice Sense Heavy "port-twice" {
        "Two requirements ask for the same port to be free."
        "Two parts of the project cannot both have it, and one of the two remarks is in vain."
        "Give one of them another port, or make it one requirement." }
    CheckedTwice Sense Middling "checked-twice" {
        "Two requirements check the same thing for the same people."
        "The same failure is told twice, with two different reasons."
        "Make it one requirement; `roles` and `when` may name several." }
    AfterLaterStage Sense Middling "after-later-stage" {
        "Something waits for what comes in a later stage."
        "Stage by stage, it can never be reached."
        "Move one of the two to the other's stage." }
    RoleUnused Sense Middling "role-unused" {
        "No requirement is for this role, and none for another one, so it changes nothing."
        "Whoever chooses it gets what everybody gets, and wonders."
        "Name the role in the `roles` of what it needs, or take it out." }
    StageUnused Sense Light "stage-unused" {
        "No requirement belongs to this stage."
        "A heading with nothing below it."
        "Take it out, or move something there." }
    PlaceUnused Sense Middling "place-unused" {
        "No requirement belongs to this place."
        "People are sent to another place, where nothing is checked."
        "Take it out, or say `place` where something belongs there." }
    ValueUnused Sense Light "value-unused" {
        "Nothing in the guide uses this value."
        "Somebody moves it, and nothing follows."
        "Write `{ID}` where it is meant, or take it out." }
    WeakBeforeNeeded Sense Middling "weak-before-needed" {
        "Something needed waits for something that is only recommended or optional."
        "Going without the optional thing keeps the needed one from being checked."
        "Make what is waited for `must`, or do not wait for it." }
    RangeAlways Sense Middling "range-always" {
        "Every version that there is lies in this range."
        "It looks like a check and is none."
        "Write the version that is really needed, or leave `version` out." }
    TestedOutside Sense Heavy "tested-outside" {
        "No version that the project is tried with is one that it accepts."
        "Whoever takes the tried version is told that it does not do."
        "Let `tested` lie within `version`." }
    OtherNumbering Sense Heavy "other-numbering" {
        "The library's file for pkg-config counts otherwise than its releases do, so this range fits always or never."
        "A library that is too old passes, or a new one is refused."
        "Write the number that `pkg-config --modversion` says." }

    WhyMissing Gaps Light "why-missing" {
        "A requirement does not say why this project needs it."
        "Somebody is told to install something, and not what for; so they put it off, or skip it."
        "Say in one sentence what does not work without it." }
    FixMissing Gaps Middling "fix-missing" {
        "On a promised system this is not met on a new machine, and no fix is known: neither the guide's nor the software's."
        "Somebody reads what is missing, and nothing about what to do."
        "Add `packages` for that system's manager, or a `fix` that says it in words." }
    HelpMissing Gaps Light "help-missing" {
        "The guide does not say where newcomers may ask."
        "Whoever is stuck gives up."
        "Say it with `help` in [project]." }
    MeansMissing Gaps Light "means-missing" {
        "A pattern has no words that say what it means."
        "Somebody is shown a pattern, and has to read it."
        "Say it with `means`, and give an `example`." }

    PathOfOneSystem Portability Middling "path-of-one-system" {
        "A path is one that only some systems have, and no condition says so."
        "On the others it is missing, whatever one does."
        "Add `when`, or a requirement for each system." }
    HomeOfOnePerson Portability Heavy "home-of-one-person" {
        "A path leads into one person's own home folder."
        "It exists on one machine in the world."
        "Begin it with `~/`, or make it relative to the project." }
    ShellOfOneSystem Portability Middling "shell-of-one-system" {
        "A command is written for the shells of some systems, and no condition says so."
        "Typed elsewhere, it fails, or does something else."
        "Add `when` to the fix, and one for the other systems." }
    ManagerOfOneSystem Portability Middling "manager-of-one-system" {
        "A command calls a package manager that only some machines have, and no condition says so."
        "Typed elsewhere, it is not found, and somebody installs a second package manager."
        "Name the packages with `packages`, or add `when = \"manager == apt\"`." }
    NamesDifferInCase Portability Middling "names-differ-in-case" {
        "Two files of the guide differ only in capital letters."
        "On systems that do not tell them apart they are one file."
        "Rename one of them." }

    DownloadIntoShell Safety Heavy "download-into-shell" {
        "A command hands what it downloads to a shell, unread."
        "Whoever can change that address, or the way to it, runs what they like on the newcomer's machine."
        "Name a package, or download, check and run in separate steps." }
    PlainHttp Safety Heavy "plain-http" {
        "Something is fetched by plain HTTP."
        "Anybody on the way can put something else in its place."
        "Use an address that begins with https." }
    CheckSwitchedOff Safety Heavy "check-switched-off" {
        "A command switches off a check that protects the person."
        "What the check would have found goes by, often for good."
        "Cure what the check complains of; leave it on." }
    SecretUnmarked Safety Heavy "secret-unmarked" {
        "A variable whose name speaks of a secret is not marked as one."
        "Its pattern and example are treated as any other's, and somebody pastes it into a question."
        "Add `secret = true`." }
    AdminUnsaid Safety Middling "admin-unsaid" {
        "A command needs admin rights, and the fix does not say so."
        "Whoever has no such rights is sent into a wall, and the plan cannot gather what an administrator must do."
        "Write the command without sudo, and `admin = true`." }
    RemovesWidely Safety Heavy "removes-widely" {
        "A command removes a whole folder that may hold more than it should."
        "Somebody loses work."
        "Name the one thing that is to go, or say it in words with a `caution`." }

    WhyRepeats Words Light "why-repeats" {
        "The reason only repeats what is checked."
        "Somebody reads a sentence that tells nothing."
        "Say what does not work without it." }
    SayWithoutDeed Words Middling "say-without-deed" {
        "A fix says that something is so, and nothing to do: no command, no edit, no step in its words."
        "Somebody knows what is wrong, and still not what to do."
        "Begin with what to do: install, open, restart, ask." }
    TextTooLong Words Light "text-too-long" {
        "A text is longer than anybody reads at this place."
        "The end is not read."
        "Say it in one or two sentences, and put the rest behind `docs`." }
    TextUnfinished Words Middling "text-unfinished" {
        "A text still says that it is to be written."
        "Somebody reads a note that was meant for its author."
        "Write it." }
    AcceptanceIdle Words Light "acceptance-idle" {
        "The guide accepts a remark that nobody makes."
        "Nothing. But the day the remark would be right, it stays unsaid."
        "Take the entry out of `accept`." }
}
