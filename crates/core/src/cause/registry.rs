//! The causes themselves, one row each: group, word, meaning, how it is recognised, what usually fixes it.

use super::{About, Page};

macro_rules! causes {
    ($($variant:ident $about:ident $word:literal { $meaning:literal $recognised:literal $cure:literal })+) => {
        /// Why a requirement is not met. The list is closed and its words are stable, since people search for them.
        #[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
        pub enum Cause {
            $(#[doc = $meaning] $variant),+
        }

        impl Cause {
            /// Every cause, in the order of the list.
            pub const ALL: &'static [Self] = &[$(Self::$variant),+];

            /// The stable word.
            pub fn word(self) -> &'static str {
                match self { $(Self::$variant => $word),+ }
            }

            /// The group that it belongs to.
            pub fn about(self) -> About {
                match self { $(Self::$variant => About::$about),+ }
            }

            /// Its page.
            pub fn page(self) -> Page {
                match self { $(Self::$variant => Page { meaning: $meaning, recognised: $recognised, cure: $cure }),+ }
            }
        }
    };
}

causes! {
    ToolMissing Tool "tool-missing" {
        "The program is not on this machine, or nothing here knows where it is."
        "No folder of PATH holds a file of that name."
        "Install it with the package manager, or as the project's page for the tool says." }
    ToolOffPath Tool "tool-off-path" {
        "The program is installed, but in a folder that the shell does not search."
        "PATH holds no copy, and one of the usual folders does."
        "Add that folder to PATH in the shell's startup file, then open a new terminal." }
    ToolTooOld Tool "tool-too-old" {
        "The program runs, and its version is older than the project can use."
        "The version it printed is below the range in the guide."
        "Upgrade it; if the package manager has nothing newer, use the tool's own installer." }
    ToolTooNew Tool "tool-too-new" {
        "The program runs, and its version is newer than the project can use."
        "The version it printed is above the range in the guide."
        "Install the wanted version beside it and put that one first on PATH." }
    ToolExcluded Tool "tool-excluded" {
        "This very version is known not to work with the project."
        "The guide rules the version out by name, or it lies in a gap between those that work."
        "Move to a version inside the range, usually the next one up." }
    ToolShadowed Tool "tool-shadowed" {
        "A copy that would do is installed, but another copy comes first on PATH and is used instead."
        "The first copy on PATH does not do; a later one was run too, and does."
        "Put the folder of the good copy first on PATH, or remove the first copy." }
    ToolNotExecutable Tool "tool-not-executable" {
        "A file of that name is there, but it is not marked as a program, so the shell passes it by."
        "A folder of PATH holds the file without permission to execute it, and no other copy exists."
        "Set its execute permission (chmod +x), or install it again." }
    ToolWrongArch Tool "tool-wrong-arch" {
        "The program was built for another kind of processor."
        "The file's header names another architecture than this machine's, or the system refuses its format."
        "Remove it and install the build for this machine's architecture." }
    ToolBroken Tool "tool-broken" {
        "The program is there but cannot start, because a piece that it needs is missing."
        "The system says that its loader, a shared library or the interpreter named in its first line is not there."
        "Install it again; or install the missing piece that the message names." }
    ToolPlaceholder Tool "tool-placeholder" {
        "What is there only stands in for the program: starting it offers to install the real one."
        "The file is of a kind that the system ships as a stand-in. It was not started."
        "Install the real program; its folder then comes first." }
    ToolQuarantined Tool "tool-quarantined" {
        "The program was downloaded, and the system does not start it before somebody allows it."
        "Its file carries the mark that browsers and mail programs set, without the sign that the person has allowed it; it was not started."
        "Install it with a package manager, or take the mark away if you trust where it comes from." }
    ToolUnselected Tool "tool-unselected" {
        "A version manager is in charge of this program, and no version is chosen in this folder."
        "The file is a version manager's, and it says that no version is set."
        "Choose a version with that version manager, as its message says." }
    ToolSilent Tool "tool-silent" {
        "The program ran but did not say which version it is."
        "It ended without trouble, and nothing in its output looks like a version."
        "Ask the maintainer to add args or a pattern for it to the guide; look at the version yourself meanwhile." }
    ToolStuck Tool "tool-stuck" {
        "The program did not end in time."
        "It was still running at the time limit and was stopped, with everything that it had started."
        "Run it by hand to see what it waits for; give it more time if it is only slow." }
    ToolFailed Tool "tool-failed" {
        "The program started and ended with an error instead of saying its version."
        "It ended with a failing exit status or by a signal, and printed no version."
        "Run the command shown as evidence by hand; its own message says more. Installing it again often helps." }
    ToolUnwanted Tool "tool-unwanted" {
        "The program is here, and the project does not work while it is."
        "The guide says that it must be absent, and a folder of PATH holds it."
        "Uninstall it, or take its folder off PATH while you work on this project." }
    PortHeld Port "port-held" {
        "Another program is using this port."
        "Binding the port fails because the address is in use; the system was asked which process holds it."
        "Stop that program, or set the port that the project uses to a free one." }
    PortPrivileged Port "port-privileged" {
        "Only the administrator may open a port with so low a number here."
        "Binding it is refused, and its number is below the system's limit for ordinary users."
        "Use a port above the limit; the project's setting for it is in the guide, if there is one." }
    PortReserved Port "port-reserved" {
        "The system keeps this port for itself, although no program holds it."
        "Binding it is refused, and the number lies in a range that the system has reserved."
        "Use another port, or free the range in the system's settings as administrator." }
    PortNoAddress Port "port-no-address" {
        "This machine does not have the address on which the port should be opened."
        "Binding fails because the address is not available here."
        "Correct the address in the project's settings, or bring up the network interface that has it." }
    PortNotAPort Port "port-not-a-port" {
        "The setting that should hold the port number holds something else."
        "The variable or the file's key is set, and its value is not a number from 1 to 65535."
        "Correct the value at the place that is named." }
    DiskShort Disk "disk-short" {
        "There is not enough free space where the project will need it."
        "What this user may still write on that filesystem is less than the guide asks for."
        "Free some space there, or move the folder to a larger disk." }
    DiskShortTogether Disk "disk-short-together" {
        "Each of these needs fits, but they land on the same disk and do not fit together."
        "Several requirements name places on one filesystem; their sum is more than what is free."
        "Free the space that is short in all, or move one of the folders to another disk." }
    DiskReadOnly Disk "disk-read-only" {
        "The place is on a disk that cannot be written to."
        "The filesystem is mounted read-only."
        "Choose another place, or have the filesystem mounted for writing." }
    DiskNoPermission Disk "disk-no-permission" {
        "There is room, but you may not write there."
        "The nearest existing folder refuses writing to this user."
        "Choose a folder of your own, or ask its owner for the permission." }
    DiskInodesShort Disk "disk-inodes-short" {
        "The disk has space left but cannot take that many more files."
        "The filesystem's count of free file entries is below what the guide asks for."
        "Delete many small files (old build folders, caches), or use another disk." }
    MemoryShort Memory "memory-short" {
        "This machine has less memory than the project needs."
        "The memory that the system reports is below what the guide asks for."
        "Close what can be closed; otherwise a machine with more memory is needed." }
    MemoryCapped Memory "memory-capped" {
        "The machine has enough memory, but a limit keeps you from using it."
        "A control group, container or job limit is below both the machine's memory and what the guide asks for."
        "Raise the limit where it is set: the container's settings, the service, or the administrator of the server." }
    MemoryBusy Memory "memory-busy" {
        "There is enough memory, but other programs are using it now."
        "The guide asks for free memory, and less than that is available at the moment."
        "Close programs that use much memory, then check again." }
    SwapShort Memory "swap-short" {
        "Memory may be put into less room on the disk (swap) than the project needs for its largest steps."
        "The system was asked how much of it there is."
        "Make a file for it, and have the system use it." }
    CoresShort Memory "cores-short" {
        "This machine has fewer processor cores than the project asks for."
        "The cores that are online are fewer than the guide says."
        "Another machine is needed; many builds also work with fewer cores, only slower." }
    CoresCapped Memory "cores-capped" {
        "The machine has enough cores, but a limit keeps you from using them all."
        "An affinity mask or a control group's quota allows fewer than are online."
        "Raise the limit where it is set: the container's settings, the service, or the administrator of the server." }
    VirtCpuLacks Virtualization "virt-cpu-lacks" {
        "This processor cannot run virtual machines with hardware help."
        "The processor itself, asked directly, does not name the ability, and this is not a virtual machine."
        "Nothing can add it; use another machine, or go without if the project allows." }
    VirtFirmwareOff Virtualization "virt-firmware-off" {
        "The processor can do it, but the firmware (BIOS, UEFI) has it switched off."
        "The processor names the ability and the system does not offer it."
        "Restart, open the firmware settings, and switch on the entry named VT-x, AMD-V or SVM." }
    VirtModuleMissing Virtualization "virt-module-missing" {
        "The processor can do it, but the part of the system that uses it is not loaded."
        "The processor offers the ability, and the kernel's device for it is not there or does not answer."
        "Load the kernel module (kvm_intel or kvm_amd) as administrator." }
    VirtDenied Virtualization "virt-denied" {
        "Virtualization works here, but you may not use it."
        "The device is there, and opening it is refused to this user."
        "Become a member of the group that owns the device, then sign out and in again." }
    VirtDeniedUntilSignIn Virtualization "virt-denied-until-sign-in" {
        "You were given permission to use virtualization, but this session began before that."
        "The account database lists you in the device's group; this session does not have the group."
        "Sign out completely and in again (or restart)." }
    VirtNestingOff Virtualization "virt-nesting-off" {
        "This is a virtual machine, and its host does not let it run virtual machines in turn."
        "The processor names no such ability, and it says that a hypervisor is in charge."
        "Switch on nested virtualization for this machine on the host, or work on the host itself." }
    VirtInContainer Virtualization "virt-in-container" {
        "You are inside a container, and it was not given the virtualization device."
        "The processor offers the ability, this is a container, and the device is not in it."
        "Start the container with the device passed in, or work outside the container." }
    VirtHeld Virtualization "virt-held" {
        "Another hypervisor is using the processor's virtualization at the moment."
        "The device exists, and opening it fails because it is busy."
        "Stop the other virtual machine program, then check again." }
    VirtFeatureOff Virtualization "virt-feature-off" {
        "The operating system's own virtualization feature is switched off."
        "The processor and the firmware offer it; the system's optional feature is not enabled."
        "Enable the feature in the system's settings as administrator, then restart." }
    SystemOther System "system-other" {
        "The project does not work on this operating system."
        "The system is not among those that the guide names."
        "Use one of the named systems, for example in a virtual machine." }
    SystemTooOld System "system-too-old" {
        "The operating system is older than the project can use."
        "The system's version is below the range in the guide."
        "Upgrade the operating system." }
    SystemTooNew System "system-too-new" {
        "The operating system is newer than the project can use."
        "The system's version is above the range in the guide."
        "Ask the project whether the range can be widened; otherwise use a virtual machine." }
    SystemEdition System "system-edition" {
        "This edition of the operating system lacks something that the project needs."
        "The edition that the system reports is not among those in the guide."
        "Change to one of the named editions, or work in a virtual machine." }
    SystemArch System "system-arch" {
        "The project does not work on this kind of processor."
        "The architecture is not among those that the guide names."
        "Use a machine of a named architecture." }
    PathMissing Path "path-missing" {
        "A file or folder that the project needs is not there."
        "The path, looked at as this user, does not exist."
        "Create it, or get it from where the guide says." }
    PathOtherKind Path "path-other-kind" {
        "Something else is in the place: a folder instead of a file, or the reverse."
        "The path exists and is of another kind."
        "Move away what is there, then create the right thing." }
    PathNotWritable Path "path-not-writable" {
        "The file or folder is there, but you may not write to it."
        "The system refuses writing to this user."
        "Give yourself write permission, if it is yours; else ask its owner." }
    PathBarred Path "path-barred" {
        "A folder above it may not be entered by you, so that nobody can say what is there."
        "The system refuses to look at the path, and to enter that folder."
        "Let yourself enter that folder, if it is yours; else ask its owner." }
    PathNotReadable Path "path-not-readable" {
        "The file or folder is there, but you may not read it."
        "The system refuses reading to this user, and the requirement needs it."
        "Give yourself read permission, if it is yours; else ask its owner." }
    PathReadOnly Path "path-read-only" {
        "It lies on a disk that is mounted so that nothing can be changed on it, whatever the permissions say."
        "The filesystem there has the flag for that."
        "Move the project to another disk, or have that one mounted for writing." }
    PathNoExecution Path "path-no-execution" {
        "It lies on a disk that is mounted so that nothing on it can be executed, whatever the permissions say."
        "The filesystem there has the flag for that (noexec)."
        "Move the project to another disk, or have that one mounted with execution." }
    PathCannotStart Path "path-cannot-start" {
        "The script may be executed, but the system cannot start it."
        "Its first line names an interpreter that is not there, or ends as lines on Windows do."
        "Correct the line ends, or install what the first line names." }
    PathNotMine Path "path-not-mine" {
        "The file or folder belongs to another user, often to the administrator after a command with sudo."
        "The owner is not this user."
        "Change the owner to yourself (chown), as administrator." }
    PathMode Path "path-mode" {
        "The permissions of the file or folder are not the ones that are needed."
        "The permission bits differ from the guide's."
        "Set the permissions (chmod) that the guide names." }
    PathContent Path "path-content" {
        "The file is there, but what it should contain is not in it."
        "The pattern of the guide matches nothing in it."
        "Edit the file so that it has what the guide says." }
    PathNotExecutable Path "path-not-executable" {
        "The file is there but is not marked as a program."
        "This user may not execute it."
        "Set its execute permission (chmod +x)." }
    PathUnwanted Path "path-unwanted" {
        "Something is there that must not be."
        "The guide says that it must be absent, and it exists."
        "Move it away or delete it, if you do not need it." }
    PathDangling Path "path-dangling" {
        "A link is there, but what it points to is not."
        "The path is a symbolic link whose target does not exist."
        "Restore the target, or make the link again." }
    VariableUnset Variable "variable-unset" {
        "An environment variable that the project needs is not set."
        "Neither this process's environment nor the named file sets it."
        "Set it in your shell's startup file, or in the project's own settings file." }
    VariableEmpty Variable "variable-empty" {
        "The variable is set, but to nothing."
        "Its value is empty, which is not the same as unset."
        "Give it a value, in the place that sets it." }
    VariableShape Variable "variable-shape" {
        "The variable is set, but its value does not have the right form."
        "The guide's pattern does not match. The value itself is never shown."
        "Correct the value; the guide says what it should look like." }
    VariableOnlyInFile Variable "variable-only-in-file" {
        "A settings file sets the variable, but this session does not have it."
        "The file holds the key, and the environment does not."
        "Load the file as the project says, or open a new terminal." }
    VariableLineEnds Variable "variable-line-ends" {
        "The file that sets the variable was saved in the way of another system: some programs then read an invisible character as a part of its value."
        "The file has line ends of Windows, or begins with the mark that some editors put before a text."
        "Save the file with the line ends of this system and without that mark." }
    VariableLeadsNowhere Variable "variable-leads-nowhere" {
        "The variable is set, but what its value names is not there: a folder that was moved or removed, or a locale that nobody made."
        "The value is a path to nothing, for a variable whose name ends in _HOME or _ROOT; or LANG or LC_ name a locale that is not in the list."
        "Set it to what is there, or make what it names." }
    VariableOtherKit Variable "variable-other-kit" {
        "The variable leads to another kit than the one that the program on PATH belongs to."
        "The folder that it names was compared with the folder of the program."
        "Let it name the kit of that program, or put the program of its kit first on PATH." }
    VariableUnwanted Variable "variable-unwanted" {
        "A variable is set that must not be."
        "The guide says that it must be absent, and it is set."
        "Remove it from your startup file and open a new terminal." }
    RightsMissing Group "rights-missing" {
        "You do not have the rights that a step of the project needs."
        "The system was asked what this account may do."
        "Ask whoever looks after this machine, or do that step as the administrator." }
    GroupAbsent Group "group-absent" {
        "The group does not exist on this machine."
        "The account database has no group of that name."
        "Install the package that brings the group, or have it created by the administrator." }
    GroupNotMember Group "group-not-member" {
        "You are not a member of the group."
        "The account database does not list you in it."
        "Have yourself added to the group as administrator, then sign out and in again." }
    GroupUntilSignIn Group "group-until-sign-in" {
        "You were added to the group, but this session began before that."
        "The account database lists you; this session's own groups do not."
        "Sign out completely and in again (or restart)." }
    SocketMissing Socket "socket-missing" {
        "The local socket is not there: the program behind it is not running, or is set up otherwise."
        "The path does not exist."
        "Start the service that makes it." }
    SocketDenied Socket "socket-denied" {
        "The socket is there, but you may not open it."
        "Connecting is refused to this user."
        "Become a member of the group that owns it, then sign out and in again." }
    SocketDeniedUntilSignIn Socket "socket-denied-until-sign-in" {
        "You were given permission to the socket, but this session began before that."
        "The account database lists you in the socket's group; this session does not have it."
        "Sign out completely and in again (or restart)." }
    SocketDead Socket "socket-dead" {
        "The socket's file is there, but nobody answers behind it."
        "Connecting is refused although the file exists."
        "Start the service again." }
    DeviceMissing Socket "device-missing" {
        "The device is not there."
        "The path does not exist."
        "Connect the device, or load its driver." }
    DeviceDenied Socket "device-denied" {
        "The device is there, but you may not open it."
        "Opening it is refused to this user."
        "Become a member of the group that owns it, then sign out and in again." }
    ServiceRefused Service "service-refused" {
        "Nothing listens at that address."
        "The connection is refused."
        "Start the service, as the project says." }
    ServiceNoAnswer Service "service-no-answer" {
        "Something is there, but it does not answer."
        "The connection or the answer did not come in time."
        "Look at the service's own messages; start it again." }
    ServiceOtherAnswer Service "service-other-answer" {
        "Something answers, but not what was expected."
        "The status or the text of the answer is another one than the guide's."
        "Find out which program answers there, and whether the service is set up right." }
    ServiceOtherHolder Service "service-other-holder" {
        "Another program than the expected one answers at that address."
        "The holder of the port is not the one that the guide names."
        "Stop that program, then start the right one." }
    ReachOffline Reach "reach-offline" {
        "This machine is not connected to the internet, or nothing gets out."
        "No outside address that the guide names can be reached."
        "Connect to a network; then check again." }
    ReachNoNames Reach "reach-no-names" {
        "No host name can be looked up, while a network is connected."
        "None of the names that the guide asks for is known, and the machine has a way out."
        "Look whether the network leads anywhere; then which name server this machine asks." }
    ReachNoName Reach "reach-no-name" {
        "The host's name cannot be looked up."
        "The name service answers that there is no such name, while others are found."
        "Check the spelling; ask your network's administrator about its name service." }
    ReachRefused Reach "reach-refused" {
        "The host is there but refuses the connection."
        "The connection is refused."
        "Try later; ask whether your network blocks it." }
    ReachNoAnswer Reach "reach-no-answer" {
        "The host does not answer."
        "The connection or the answer did not come in time."
        "Try later; a firewall may be in the way." }
    ReachTls Reach "reach-tls" {
        "The connection cannot be made secure."
        "The certificate is not trusted, out of date or for another name."
        "Check the clock of this machine; in a company network, install its root certificate." }
    ReachProxy Reach "reach-proxy" {
        "The proxy that is configured does not let this through."
        "The proxy variable is set, and the proxy refuses or does not answer."
        "Correct the proxy setting, or sign in to the proxy." }
    ReachStatus Reach "reach-status" {
        "The address answers, but with another status than expected."
        "The HTTP status differs from the guide's."
        "Check whether you need an account or a sign-in there." }
    NameUnknown Name "name-unknown" {
        "The host name does not lead anywhere on this machine."
        "It cannot be looked up."
        "Add it to the hosts file, as administrator." }
    NameElsewhere Name "name-elsewhere" {
        "The host name leads to another address than it should."
        "It was looked up, and the address differs."
        "Correct its line in the hosts file, as administrator." }
    SubnetTaken Name "subnet-taken" {
        "The private network that the project wants to use overlaps one that this machine is on."
        "A network interface or route lies in the same range."
        "Leave that network (often a VPN) while you work, or choose another range for the project." }
    LimitLow Limit "limit-low" {
        "A limit of the system is lower than the project needs."
        "The limit in force for this user is below the guide's number."
        "Raise the limit; some need the administrator and a new sign-in." }
    LimitLacks Limit "limit-lacks" {
        "The system does not allow something that the project relies on."
        "The ability was tried and is not there."
        "Switch it on in the system's settings." }
    ClockWrong Limit "clock-wrong" {
        "This machine's clock is off: builds that compare times, and secure connections, go wrong by that."
        "It was compared with the time that an address of the guide answers with."
        "Have the system set its clock by the network." }
    ModuleMissing Limit "module-missing" {
        "A module that the project needs is not among those that this interpreter finds."
        "The folders in which the interpreter looks were read; the interpreter was not started."
        "Install the package that brings it for this very interpreter, or use an environment of the project's own." }
    ModuleTooOld Limit "module-too-old" {
        "The module is here, and older than what the project needs."
        "Its own notes say its version."
        "Install a newer one for this interpreter, in an environment of the project's own where the system has none." }
    ModuleTooNew Limit "module-too-new" {
        "The module is here, in a version that the project does not work with."
        "Its own notes say its version."
        "Install one that does, in an environment of the project's own." }
    HeadersMissing Limit "headers-missing" {
        "What programs in C are compiled with for this interpreter is not here."
        "The folder that belongs to this interpreter was looked into."
        "Install the package that brings it: in most systems its name ends in -dev or -devel." }
    PackageMissing Limit "package-missing" {
        "A package of the system is not installed."
        "The notes of the package manager were read."
        "Install it with the package manager that the plan names." }
    KernelModuleMissing Limit "kernel-module-missing" {
        "A module of the kernel is not loaded."
        "The kernel's own list was looked at."
        "Load it, or install the kernel's further modules." }
    LibraryMissing Limit "library-missing" {
        "A library that the project builds against is not installed."
        "pkg-config does not know it."
        "Install its development package." }
    LibraryTooOld Limit "library-too-old" {
        "The library is older than the project can use."
        "The version that pkg-config reports is below the range."
        "Upgrade its development package." }
    LibraryTooNew Limit "library-too-new" {
        "The library is newer than the project can use."
        "The version that pkg-config reports is above the range."
        "Install the wanted version beside it." }
    LibraryNoHeaders Limit "library-no-headers" {
        "The library itself is there, but not what is needed to build against it."
        "The library's file is found, its pkg-config description is not."
        "Install its development package (often named -dev or -devel)." }
    LocaleMissing Limit "locale-missing" {
        "Nobody has made this locale here: programs that ask for it fall back to plain English letters, or warn, or fail."
        "The system's list of locales does not hold it."
        "Make it with the system's command for locales, as administrator; or use one that is there." }
    LocaleEncoding Limit "locale-encoding" {
        "The locale is here, but its characters are not UTF-8, so that other letters than those of English are lost or garbled."
        "The system lists it with another encoding."
        "Use its UTF-8 form; where that is not made yet, make it as administrator." }
    SettingUnset Checkout "setting-unset" {
        "A version-control setting that the project needs is not set."
        "The program was asked for it, and has none."
        "Set it as the fix shows." }
    SettingShape Checkout "setting-shape" {
        "The setting has a value of another form than the project needs."
        "The guide's pattern does not match its value."
        "Set it again as the fix shows." }
    CheckoutNone Checkout "checkout-none" {
        "This folder is not a working copy of the project."
        "No version control information is found at that place."
        "Clone the repository as the project says, and run this inside it." }
    CheckoutBranch Checkout "checkout-branch" {
        "The working copy is on another branch than it should be."
        "The current branch differs from the guide's."
        "Switch to the branch that the guide names." }
    CheckoutUnfinished Checkout "checkout-unfinished" {
        "Something in the working copy was begun and is not done: a merge, a rebase, or a git that is running or has crashed."
        "The folder of git holds the mark of a merge or a rebase, or the lock of its index."
        "Finish it or give it up; a lock that a crash has left is removed." }
    CheckoutNotMine Checkout "checkout-not-mine" {
        "The working copy belongs to another user, and git refuses to work in it."
        "The folder of the working copy, or its .git, has another owner than the person."
        "Change the owner to yourself, or get a copy of your own." }
    CheckoutSubmodules Checkout "checkout-submodules" {
        "Parts of the project that live in other repositories were not fetched, or are not as the project records them."
        "At least one submodule is not initialised, stands at another commit than is recorded, or has lost its files."
        "Fetch them: git submodule update --init --recursive." }
    CheckoutLargeFiles Checkout "checkout-large-files" {
        "Large files are only there as pointers, their contents were not fetched."
        "Files that should be large hold a short pointer text."
        "Install the large-file extension and fetch them." }
    CheckoutShallow Checkout "checkout-shallow" {
        "Only the last part of the project's history was fetched."
        "Git's own mark of that is there."
        "Fetch the rest: git fetch --unshallow." }
    CheckoutNoTags Checkout "checkout-no-tags" {
        "The project's tags were not fetched, and the project reads them."
        "Git's own list of names has no tag."
        "Fetch them: git fetch --tags. If there are none, the copy on your account may lack them: fetch from the project's own." }
    CheckoutLineEnds Checkout "checkout-line-ends" {
        "Texts of the working copy end their lines as on Windows, and the project needs those of Unix."
        "Git was asked how the lines of each text end (git ls-files --eol)."
        "Have git leave line ends alone, and get the files once more." }
    CheckoutDirty Checkout "checkout-dirty" {
        "The working copy has changes that are not committed."
        "The status of the working copy lists changed files."
        "Commit the changes, or put them aside." }
    CommandFailed Command "command-failed" {
        "A command of the guide ended with an error."
        "Its exit status is not the expected one."
        "Read the command's own message in the evidence." }
    CommandOutput Command "command-output" {
        "A command of the guide ran, but did not print what was expected."
        "The guide's pattern does not match its output."
        "Read the output in the evidence; the guide says what was expected." }
    CommandStuck Command "command-stuck" {
        "A command of the guide did not end in time."
        "It was still running at its time limit and was stopped."
        "Run it by hand to see what it waits for." }
    CommandNotFound Command "command-not-found" {
        "The program that a command of the guide starts is not here."
        "No folder of PATH holds it."
        "Install the program, or put its folder on PATH." }
    CommandNoConsent Command "command-no-consent" {
        "The guide wants to run something that goes beyond asking a known program for its version, and you have not agreed."
        "The command, its arguments or its place are not among those that need no consent. It was not run."
        "Read what it would run; if you trust this project, run that command yourself." }
    NoneOf Alternatives "none-of" {
        "Several things would do, and none of them is there."
        "Each alternative was checked, and none is met."
        "Choose one; the cheapest to get is listed first." }
    CouldNotLook Any "could-not-look" {
        "It could not be found out whether this is met."
        "The system refused or failed to answer; its reason is in the message."
        "Look at the reason; often it is a permission." }
    ValueUnfit Any "value-unfit" {
        "A setting of the project that this rests on holds something that it cannot be."
        "The variable, or the line of the file, that moves the value was read, and what stands there is of another kind than what the guide states."
        "Correct it, or take it away: then what the guide states counts." }
    NotSupportedHere Any "not-supported-here" {
        "This version of the software cannot check this, on this system or at all."
        "There is no way to look that is known for it."
        "Check it yourself; the guide says what is needed." }
    WaitsFor Any "waits-for" {
        "It was not checked, because something that it needs first is not met."
        "The guide, or the nature of the thing, says what comes first."
        "Settle what it waits for; then check again." }
    ConditionUnknown Any "condition-unknown" {
        "It could not be found out whether this applies to your machine."
        "A fact that the guide's condition asks about is unknown."
        "Decide by the condition yourself whether you need it." }
}
