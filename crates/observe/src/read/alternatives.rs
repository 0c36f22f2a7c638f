/// The files that a name could stand for, from a record of the alternatives (update-alternatives(1), "FILES" of dpkg's administration): the mode,
/// the link, then name and link of each further file, an empty line, and for each choice its file, its rank, and a line for each further file.
pub fn alternatives(text: &str) -> Vec<String> {
    let mut lines = text.lines();
    let further = lines.by_ref().skip(2).take_while(|line| !line.is_empty()).count() / 2;
    let mut files = Vec::new();
    while let Some(file) = lines.next().filter(|line| line.starts_with('/')) {
        files.push(file.to_owned());
        // Its rank, and what belongs to it.
        if lines.nth(further).is_none() {
            break;
        }
    }
    files
}

#[cfg(test)]
mod tests {
    use super::alternatives;
    use rstest::rstest;

    #[rstest]
    #[case::two_files("auto\n/usr/bin/buoyctl\n\n/opt/b1/buoyctl\n90\n/opt/b2/buoyctl\n10\n\n", &["/opt/b1/buoyctl", "/opt/b2/buoyctl"])]
    #[case::with_a_manual("manual\n/usr/bin/vi\nvi.1.gz\n/usr/share/man/man1/vi.1.gz\n\n/usr/bin/vim.tiny\n15\n/usr/share/man/vim.1.gz\n/usr/bin/nvi\n19\n\n\n", &["/usr/bin/vim.tiny", "/usr/bin/nvi"])]
    #[case::cut_short("auto\n/usr/bin/x\n\n/opt/x", &["/opt/x"])]
    #[case::nothing("", &[])]
    fn choices_are_read(#[case] text: &str, #[case] files: &[&str]) {
        assert_eq!(alternatives(text), files);
    }
}
