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

#[cfg(test)]
mod tests {
    #[test]
    fn names_are_found_by_number() {
        let group = "root:x:0:\nkvm:x:104:buoy\n";
        assert_eq!(super::group_names_of_ids(group, &[104, 0, 104, 7]), ["7", "kvm", "root"]);
        assert_eq!(super::user_name("buoy:x:1000:1000::/home/buoy:/bin/sh\n", 1000).as_deref(), Some("buoy"));
    }
}
