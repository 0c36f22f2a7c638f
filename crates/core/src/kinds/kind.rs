//! The kinds of requirements, by their names.

macro_rules! kinds {
    ($($variant:ident $word:literal,)+) => {
        /// The kinds of requirements: the subject keys of a guide.
        #[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
        #[non_exhaustive]
        pub enum Kind {
            $(#[doc = concat!("`", $word, "`")] $variant),+
        }

        impl Kind {
            /// Every kind, in the order of the reference.
            pub const ALL: [Self; [$($word),+].len()] = [$(Self::$variant),+];

            /// The subject key in the guide.
            pub const fn word(self) -> &'static str {
                match self { $(Self::$variant => $word),+ }
            }
        }
    };
}

kinds! {
    Tool "tool",
    Port "port",
    Disk "disk",
    Memory "memory",
    Swap "swap",
    Cores "cores",
    Virtualization "virtualization",
    System "system",
    File "file",
    Folder "folder",
    Variable "variable",
    Group "group",
    Rights "rights",
    Socket "socket",
    Device "device",
    Service "service",
    Reach "reach",
    Clock "clock",
    Hostname "hostname",
    Subnet "subnet",
    Limit "limit",
    Library "library",
    Module "module",
    Headers "headers",
    SystemPackage "system_package",
    KernelModule "kernel_module",
    Locale "locale",
    Setting "setting",
    Checkout "checkout",
    Command "command",
    AnyOf "any_of",
}
