//! The account database in files: passwd(5) and group(5).

/// The name of a user, from `/etc/passwd`.
pub fn user_name(passwd: &str, id: u32) -> Option<String> {
    passwd.lines().find_map(|line| named(line, id))
}

/// The name of a group, from `/etc/group`.
pub fn group_name(group: &str, id: u32) -> Option<String> {
    group.lines().find_map(|line| named(line, id))
}

/// The names of groups, from `/etc/group`; a group without a name is shown as its number.
pub fn group_names_of_ids(group: &str, ids: &[u32]) -> Vec<String> {
    let mut names: Vec<String> = ids.iter().map(|id| group_name(group, *id).unwrap_or_else(|| id.to_string())).collect();
    names.sort();
    names.dedup();
    names
}

fn named(line: &str, id: u32) -> Option<String> {
    let mut fields = line.split(':');
    let name = fields.next()?;
    (fields.nth(1)?.parse() == Ok(id)).then(|| name.to_owned())
}

/// Whether `sudo -l` (sudo(8)) lists a rule for every command: `(ALL : ALL) NOPASSWD: ALL`.
pub fn may_run_all(listed: &str) -> bool {
    listed.lines().map(str::trim).filter(|line| line.starts_with('(')).any(|line| {
        let commands = line.split_once(')').map_or("", |(_, commands)| commands);
        commands.split(',').any(|command| command.rsplit(':').next().is_some_and(|command| command.trim() == "ALL"))
    })
}

#[cfg(test)]
mod tests {
    use rstest::rstest;
    #[test]
    fn names_are_found_by_number() {
        let group = "root:x:0:\nkvm:x:104:buoy\n";
        assert_eq!(super::group_names_of_ids(group, &[104, 0, 104, 7]), ["7", "kvm", "root"]);
        assert_eq!(super::user_name("buoy:x:1000:1000::/home/buoy:/bin/sh\n", 1000).as_deref(), Some("buoy"));
    }

    #[rstest]
    #[case::all("User skipper may run the following commands on buoy:\n    (ALL) NOPASSWD: ALL\n", true)]
    #[case::one_of_several("    (root) NOPASSWD: /usr/bin/apt-get, ALL\n", true)]
    #[case::one_program("    (ALL) NOPASSWD: /usr/bin/apt-get\n", false)]
    #[case::settings_only("Matching Defaults entries for ALL:\n    env_reset\n", false)]
    fn rules_may_give_all_rights(#[case] listed: &str, #[case] all: bool) {
        assert_eq!(super::may_run_all(listed), all);
    }
}
