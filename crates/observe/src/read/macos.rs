//! What macOS and its own commands print, in forms that its manual pages and developer documentation give. None of it is translated.

use setup_ready_core::observation::{Holder, LimitState, SystemProxy};

/// The text behind a key of a property list in XML (Apple's plist(5)): of `SystemVersion.plist`, for example.
pub fn plist_text<'t>(text: &'t str, key: &str) -> Option<&'t str> {
    let (_, rest) = text.split_once(&format!("<key>{key}</key>"))?;
    let value = rest.trim_start().strip_prefix("<string>")?;
    Some(value.split_once("</string>")?.0.trim()).filter(|value| !value.is_empty())
}

/// The container of the volume that holds a folder, such as `disk3`, from mount(8): `/dev/disk3s5 on /System/Volumes/Data (apfs, local)`. None
/// where the filesystem is another one.
pub fn apfs_container(mounts: &str, folder: &str) -> Option<String> {
    let mount = |line: &'_ str| {
        let (device, rest) = line.split_once(" on ")?;
        let (point, kind) = rest.rsplit_once(" (")?;
        Some((device.to_owned(), point.to_owned(), kind.split([',', ')']).next()?.to_owned()))
    };
    let holds = |point: &str| {
        let point = point.trim_end_matches('/');
        folder.strip_prefix(point).is_some_and(|rest| rest.is_empty() || rest.starts_with('/'))
    };
    // What is not mounted by itself below the root is on the volume for data, behind firm links.
    let mounts: Vec<_> = mounts.lines().filter_map(mount).collect();
    let (device, _, kind) = mounts.iter().filter(|(_, point, _)| holds(point)).max_by_key(|(_, point, _)| point.len())?;
    let name = device.strip_prefix("/dev/disk").filter(|_| kind == "apfs")?;
    let number: String = name.chars().take_while(char::is_ascii_digit).collect();
    Some(format!("disk{number}")).filter(|_| !number.is_empty())
}

/// The memory that can be had without swapping, in bytes, from `vm_stat`(1): free and speculative pages, and those that are given back on demand.
pub fn vm_stat(text: &str) -> Option<u64> {
    let page: u64 = text.lines().next()?.split_once("page size of ")?.1.split(' ').next()?.parse().ok()?;
    let count = |name: &str| -> Option<u64> {
        let line = text.lines().find_map(|line| line.strip_prefix(name)?.strip_prefix(':'))?;
        line.trim().trim_end_matches('.').parse().ok()
    };
    let mut pages = ["Pages inactive", "Pages speculative", "Pages purgeable"].iter().filter_map(|name| count(name));
    pages.try_fold(count("Pages free")?, u64::checked_add)?.checked_mul(page)
}

/// The process that holds a port, from `lsof -F pcL` (lsof(8), "output for other programs"): a field on each line, by its first letter.
pub fn lsof_holder(text: &str) -> Option<Holder> {
    let first = |letter: char| text.lines().find_map(|line| line.strip_prefix(letter));
    let pid = first('p')?.parse().ok()?;
    Some(Holder {
        pid: Some(pid),
        name: first('c').map(ToOwned::to_owned),
        command: None,
        user: first('L').map(ToOwned::to_owned),
        outgoing: None,
        unit: None,
    })
}

/// Which shell a user's account names, from `dscl . -read /Users/NAME UserShell`.
pub fn user_shell(text: &str) -> Option<&str> {
    text.lines().find_map(|line| line.strip_prefix("UserShell:")).map(str::trim).filter(|shell| !shell.is_empty())
}

/// The limits of what is started for a session, from `launchctl limit NAME` (launchctl(1)): in force, and the most that one may have.
pub fn launch_limit(text: &str) -> Option<LimitState> {
    let mut words = text.split_whitespace().skip(1);
    let (now, most) = (words.next()?, words.next()?);
    if now == "unlimited" {
        return Some(LimitState::Unlimited);
    }
    Some(LimitState::Number(now.parse().ok()?, Some(most.parse().unwrap_or(u64::MAX))))
}

/// The proxy that the system's settings name, from `scutil --proxy` (scutil(8)): a key and its value on each line.
pub fn proxy_of_scutil(text: &str) -> SystemProxy {
    let value = |key: &str| {
        text.lines().filter_map(|line| line.split_once(" : ")).find(|(name, _)| name.trim() == key).map(|(_, value)| value.trim())
    };
    let is_on = |key: &str| value(key) == Some("1");
    let of = |scheme: &str| {
        let host = value(&format!("{scheme}Proxy")).filter(|host| is_on(&format!("{scheme}Enable")) && !host.is_empty())?;
        Some(format!("http://{host}:{}", value(&format!("{scheme}Port")).unwrap_or("80")))
    };
    SystemProxy {
        address: of("HTTPS").or_else(|| of("HTTP")),
        script: is_on("ProxyAutoConfigEnable") || is_on("ProxyAutoDiscoveryEnable"),
    }
}

/// Whether the mark of a downloaded file keeps it from being started: its first field is a number in hexadecimal digits, in which the bit
/// 0x40 is set when the person has allowed it (Apple's `LaunchServices`, `com.apple.quarantine`).
pub fn is_kept_back(mark: &str) -> bool {
    let flags = mark.split(';').next().and_then(|flags| u32::from_str_radix(flags.trim(), 16).ok());
    flags.is_some_and(|flags| flags & 0x40 == 0)
}

#[cfg(test)]
mod tests {
    use super::{apfs_container, is_kept_back, launch_limit, lsof_holder, plist_text, proxy_of_scutil, user_shell, vm_stat};
    use rstest::rstest;
    use setup_ready_core::observation::LimitState;

    const SYSTEM: &str = "<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n<plist version=\"1.0\">\n<dict>\n\t<key>ProductBuildVersion</key>\n\t<string>24B83</string>\n\t\
        <key>ProductName</key>\n\t<string>macOS</string>\n\t<key>ProductVersion</key>\n\t<string>15.1</string>\n</dict>\n</plist>\n";

    #[rstest]
    #[case::of_this_generation(SYSTEM, Some("15.1"))]
    #[case::of_an_older_one("<dict><key>ProductVersion</key><string>10.15.7</string></dict>", Some("10.15.7"))]
    #[case::without_it("<dict><key>ProductName</key><string>macOS</string></dict>", None)]
    #[case::of_another_type("<key>ProductVersion</key><integer>15</integer>", None)]
    #[case::torn("<key>ProductVersion</key><string>15", None)]
    fn the_version_stands_in_a_property_list(#[case] text: &str, #[case] version: Option<&str>) {
        assert_eq!(plist_text(text, "ProductVersion"), version);
    }

    #[rstest]
    #[case::with_large_pages(
        "Mach Virtual Memory Statistics: (page size of 16384 bytes)\nPages free:                               10.\nPages active:                            900.\n\
         Pages inactive:                           20.\nPages speculative:                         5.\nPages purgeable:                           1.\n",
        Some(36 * 16_384)
    )]
    #[case::with_small_pages_and_fewer_lines(
        "Mach Virtual Memory Statistics: (page size of 4096 bytes)\nPages free: 2.\n",
        Some(8_192)
    )]
    #[case::something_else("vm_stat: not found", None)]
    #[case::beyond_all_memory("M: (page size of 4096 bytes)\nPages free: 18446744073709551615.\n", None)]
    fn free_memory_is_counted_in_pages(#[case] text: &str, #[case] bytes: Option<u64>) {
        assert_eq!(vm_stat(text), bytes);
    }

    #[rstest]
    #[case::a_holder("p412\ncnode\nLcook\nf23\n", Some((412, Some("node"), Some("cook"))))]
    #[case::nobody("", None)]
    #[case::without_a_name("p7\n", Some((7, None, None)))]
    fn a_ports_holder_stands_in_fields(#[case] text: &str, #[case] expected: Option<(u32, Option<&str>, Option<&str>)>) {
        let holder = lsof_holder(text);
        let found = holder.as_ref().map(|holder| (holder.pid.unwrap_or(0), holder.name.as_deref(), holder.user.as_deref()));
        assert_eq!(found, expected);
    }

    #[rstest]
    #[case::a_number("\tmaxfiles    256            unlimited      \n", Some(LimitState::Number(256, Some(u64::MAX))))]
    #[case::two_numbers("maxproc 2784 4176", Some(LimitState::Number(2_784, Some(4_176))))]
    #[case::none_at_all("maxfiles unlimited unlimited", Some(LimitState::Unlimited))]
    #[case::something_else("Unrecognized limit", None)]
    fn limits_have_a_value_in_force_and_a_highest_one(#[case] text: &str, #[case] limit: Option<LimitState>) {
        assert_eq!(launch_limit(text), limit);
    }

    #[test]
    fn the_account_names_a_shell() {
        assert_eq!(user_shell("UserShell: /bin/zsh\n"), Some("/bin/zsh"));
        assert_eq!(user_shell("No such key: UserShell"), None);
    }

    #[rstest]
    #[case::just_downloaded("0081;66f0a1b2;Browser;5C9A", true)]
    #[case::allowed_since("00c1;66f0a1b2;Browser;5C9A", false)]
    #[case::no_mark("", false)]
    fn the_mark_of_a_downloaded_file_says_whether_it_was_allowed(#[case] mark: &str, #[case] kept: bool) {
        assert_eq!(is_kept_back(mark), kept);
    }

    const PROXIES: &str = "<dictionary> {\n  ExceptionsList : <array> {\n    0 : *.local\n  }\n  HTTPEnable : 1\n  HTTPPort : 3128\n  HTTPProxy : plain.test\n  \
        HTTPSEnable : 1\n  HTTPSPort : 3129\n  HTTPSProxy : gate.test\n  ProxyAutoConfigEnable : 0\n}\n";

    #[rstest]
    #[case::for_secure_connections(PROXIES, Some("http://gate.test:3129"), false)]
    #[case::only_for_plain_ones("  HTTPEnable : 1\n  HTTPProxy : plain.test\n", Some("http://plain.test:80"), false)]
    #[case::switched_off("  HTTPSEnable : 0\n  HTTPSProxy : gate.test\n", None, false)]
    #[case::a_script("  ProxyAutoConfigEnable : 1\n  ProxyAutoConfigURLString : http://gate.test/a.pac\n", None, true)]
    #[case::none("<dictionary> {\n}\n", None, false)]
    fn settings_name_a_proxy(#[case] text: &str, #[case] address: Option<&str>, #[case] script: bool) {
        let proxy = proxy_of_scutil(text);
        assert_eq!((proxy.address.as_deref(), proxy.script), (address, script));
    }

    const MOUNTED: &str = "/dev/disk3s1s1 on / (apfs, sealed, local, read-only, journaled)\ndevfs on /dev (devfs, local, nobrowse)\n\
        /dev/disk3s5 on /System/Volumes/Data (apfs, local, journaled, nobrowse, protect)\n/dev/disk12s2 on /Volumes/My (old) charts (apfs, local)\n\
        /dev/disk5s1 on /Volumes/Stick (msdos, local)\n";

    #[rstest]
    #[case::the_system("/Users/cook", Some("disk3"))]
    #[case::another_volume_of_the_same_container("/System/Volumes/Data/Users", Some("disk3"))]
    #[case::another_container("/Volumes/My (old) charts/north", Some("disk12"))]
    #[case::another_filesystem("/Volumes/Stick", None)]
    fn volumes_of_one_container_are_one_disk(#[case] folder: &str, #[case] container: Option<&str>) {
        assert_eq!(apfs_container(MOUNTED, folder).as_deref(), container);
    }
}
