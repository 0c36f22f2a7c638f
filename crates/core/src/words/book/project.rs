//! Libraries, modules, the working copy, commands, and what any kind may have.

use super::{Page, miss, some, text, version};
use crate::finding::*;
use crate::guide::{ComponentSort, Language};
use crate::observation::Unfinished;
use crate::prelude::*;
use std::vec;

pub(super) fn pages() -> Vec<Page> {
    let library = |trouble, other| {
        Reason::Library(Box::new(LibraryReason { description: some("/usr/lib/pkgconfig/tide.pc"), other, trouble }))
    };
    let other = || Some(OtherDescription { at: text("/opt/tide/lib/pkgconfig/tide.pc"), version: text("2.4") });
    let old = || LibraryTrouble::OutOfRange { found: version("1.9"), miss: miss(">= 2", "1.9") };
    let libraries = vec![
        library(LibraryTrouble::Missing, None),
        library(LibraryTrouble::Missing, other()),
        library(LibraryTrouble::Lacks { other: text("swell") }, None),
        library(LibraryTrouble::NoHeaders { loaded_from: text("/usr/lib/libtide.so.2") }, None),
        library(old(), None),
        library(LibraryTrouble::OutOfRange { found: version("3.1"), miss: miss("< 3", "3.1") }, None),
        library(old(), other()),
        library(LibraryTrouble::Incomparable { found: text("unstable") }, None),
        library(LibraryTrouble::Incomparable { found: text("unstable") }, other()),
    ];
    let component = |sort, trouble| {
        Reason::Component(Box::new(ComponentReason { sort, program: some("/usr/bin/python3"), at: None, trouble }))
    };
    let python = ComponentSort::Module(Language::Python);
    let modules = vec![
        component(python, ComponentTrouble::Missing { lacks: None }),
        component(python, ComponentTrouble::Missing { lacks: some("numpy") }),
        component(python, ComponentTrouble::OutOfRange { found: version("1.9"), miss: miss(">= 2", "1.9") }),
        component(python, ComponentTrouble::OutOfRange { found: version("3.1"), miss: miss("< 3", "3.1") }),
        component(python, ComponentTrouble::NoVersion),
        component(python, ComponentTrouble::Incomparable { found: text("dev") }),
    ];
    let packages = vec![
        component(ComponentSort::SystemPackage, ComponentTrouble::Missing { lacks: None }),
        component(ComponentSort::SystemPackage, ComponentTrouble::NoManager),
    ];
    let locales = vec![
        LocaleReason::Missing { others: vec![] },
        LocaleReason::Missing { others: vec![text("C.UTF-8"), text("en_US.UTF-8")] },
        LocaleReason::OtherEncoding { encoding: text("ISO-8859-1") },
        LocaleReason::OtherEncoding { encoding: text("") },
    ];
    let parts = || vec![text("libs/tide"), text("libs/swell")];
    let checkouts = vec![
        CheckoutReason::NoWorkingCopy,
        CheckoutReason::Branch { branch: some("feature") },
        CheckoutReason::Branch { branch: None },
        CheckoutReason::Unfinished { what: Unfinished::Merge },
        CheckoutReason::Unfinished { what: Unfinished::Rebase },
        CheckoutReason::Unfinished { what: Unfinished::Locked(text(".git/index.lock")) },
        CheckoutReason::Foreign { folder: text("/srv/driftbuoy"), owner: some("root") },
        CheckoutReason::Foreign { folder: text("/srv/driftbuoy"), owner: None },
        CheckoutReason::Submodules { missing: parts() },
        CheckoutReason::SubmodulesMoved { moved: parts() },
        CheckoutReason::SubmodulesEmptied { emptied: (0..9).map(|number| format!("libs/part-{number}")).collect() },
        CheckoutReason::LargeFiles { missing: vec![text("charts/north.bin")] },
        CheckoutReason::Shallow,
        CheckoutReason::NoTags,
        CheckoutReason::WindowsEnds { texts: 12 },
        CheckoutReason::EndsUnknown,
        CheckoutReason::Dirty { changed: 1, untracked: 0 },
        CheckoutReason::Dirty { changed: 3, untracked: 1 },
        CheckoutReason::ChangesUnknown,
    ];
    let commands = vec![
        CommandReason::NoConsent,
        CommandReason::NotFound,
        CommandReason::NotStarted { reason: text("Permission denied") },
        CommandReason::NothingStarts { reason: text("Resource temporarily unavailable") },
        CommandReason::TimeUp { after_ms: 10_000 },
        CommandReason::Interrupted,
        CommandReason::Crashed { signal: 11, said: some("broken pipe") },
        CommandReason::Status { status: 3, said: some("no licence") },
        CommandReason::Status { status: 3, said: None },
        CommandReason::Output { printed: text("tide 1.9") },
        CommandReason::Output { printed: text("") },
    ];
    let general = vec![
        General::CouldNotLook { reason: text("the system did not say") },
        General::NotSupported { reason: text("Windows has no such limits") },
        General::ConditionUnknown,
        General::ValueUnfit {
            set_at: SetAt { variable: text("BUOY_HOST"), place: text(".env") },
            must_be: text("the name of a host"),
        },
        General::Interrupted,
    ];
    vec![
        ("library = \"tide\"\nversion = \">= 2\"", libraries),
        ("module = \"tide\"\nof = \"first\"\nversion = \">= 2\"", modules),
        ("system_package = { apt = \"tide-data\" }", packages),
        (
            "headers = \"first\"",
            vec![component(ComponentSort::Headers(Language::Python), ComponentTrouble::Missing { lacks: None })],
        ),
        ("kernel_module = \"cdc_acm\"", vec![component(ComponentSort::KernelModule, ComponentTrouble::Missing { lacks: None })]),
        ("locale = \"de_DE.UTF-8\"", locales.into_iter().map(Reason::Locale).collect()),
        (
            "setting = \"user.name\"\nmatches = \"^[A-Z]\"\nmeans = \"your name, with a large letter\"",
            vec![Reason::Setting(SettingReason::Unset), Reason::Setting(SettingReason::Shape)],
        ),
        ("group = \"beacon\"", [GroupReason::Absent, GroupReason::NotMember, GroupReason::UntilSignIn].map(Reason::Group).into()),
        (
            "rights = \"admin\"",
            [RightsReason::NotAdmin, RightsReason::NotRoot, RightsReason::Unknown]
                .map(|rights| Reason::Rights(rights.into()))
                .into(),
        ),
        (
            "limit = \"open-files\"\nat_least = 4096",
            vec![
                Reason::Limit(LimitReason::Low { number: 1024, needed: 4096, own: true }),
                Reason::Limit(LimitReason::Low { number: 1024, needed: 4096, own: false }),
            ],
        ),
        ("limit = \"symbolic-links\"", vec![Reason::Limit(LimitReason::Lacks)]),
        ("checkout = \".\"\nbranch = \"main\"", checkouts.into_iter().map(Reason::Checkout).collect()),
        (
            "command = [\"tide\", \"--check\"]\nmatches = \"^tide 2\"\nmeans = \"tide 2\"",
            commands.into_iter().map(Reason::Command).collect(),
        ),
        (
            "any_of = [\"first\"]",
            vec![
                Reason::AnyOf(AnyOfReason::NoneMet { open: vec![0, 1] }),
                Reason::AnyOf(AnyOfReason::Unsure { open: vec![0, 1] }),
            ],
        ),
        ("memory = \"8 GB\"", general.into_iter().map(Reason::General).collect()),
    ]
}
