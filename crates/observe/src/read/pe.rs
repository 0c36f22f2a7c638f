//! What a program for Windows tells by its file: whether it opens a window, and the version that it states (Microsoft's PE format, and the
//! structures `VS_VERSIONINFO` and `VS_FIXEDFILEINFO`).

/// Where the part of a file with its resources lies.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct PeResources {
    /// Where it begins in the file, in bytes.
    pub offset: u64,
    /// Its length in the file, in bytes.
    pub length: u64,
    /// Where the loader puts it: the addresses inside it count from there.
    pub address: u32,
}

/// The subsystem of programs with windows (`IMAGE_SUBSYSTEM_WINDOWS_GUI`).
const WINDOWED: u16 = 2;
/// The resource that holds the version (`RT_VERSION`).
const VERSION: u32 = 16;
/// More of a directory's entries are not looked at.
const MOST_ENTRIES: usize = 4096;
/// How much of a version's resource is searched, in bytes.
const MOST_BYTES: usize = 64 << 10;

fn short(bytes: &[u8], at: usize) -> Option<u16> {
    Some(u16::from_le_bytes(bytes.get(at..at.checked_add(2)?)?.try_into().ok()?))
}

fn long(bytes: &[u8], at: usize) -> Option<u32> {
    Some(u32::from_le_bytes(bytes.get(at..at.checked_add(4)?)?.try_into().ok()?))
}

fn place(number: u32) -> Option<usize> {
    usize::try_from(number).ok()
}

/// Where the header behind the mark `PE` begins.
fn header(head: &[u8]) -> Option<usize> {
    let at = place(long(head, 0x3c)?)?;
    (head.get(..2)? == b"MZ" && head.get(at..at.checked_add(4)?)? == b"PE\0\0").then_some(at + 4)
}

/// Whether a program opens a window instead of writing to the terminal, by its first bytes.
pub fn opens_window(head: &[u8]) -> bool {
    header(head).and_then(|at| short(head, at + 20 + 68)) == Some(WINDOWED)
}

/// Where the resources of a program are, by its first bytes; none where it has none.
pub fn pe_resources(head: &[u8]) -> Option<PeResources> {
    let at = header(head)?;
    let (sections, optional) = (usize::from(short(head, at + 2)?), usize::from(short(head, at + 16)?));
    let first = at + 20 + optional;
    (0..sections)
        .map(|index| first + index * 40)
        .find(|section| head.get(*section..*section + 8) == Some(b".rsrc\0\0\0"))
        .and_then(|section| {
            Some(PeResources {
                address: long(head, section + 12)?,
                length: long(head, section + 16)?.into(),
                offset: long(head, section + 20)?.into(),
            })
        })
}

/// The version that the resources of a program state: the product's in words, else the file's, else the product's as four numbers.
pub fn pe_version(resources: &[u8], address: u32) -> Option<String> {
    // Three directories lie in each other: kind, name, language. Of the last two the first entry does.
    let name = entry(resources, 0, |id| id == VERSION)?;
    let language = entry(resources, name, |_| true)?;
    let data = entry(resources, language, |_| true)?;
    let start = place(long(resources, data)?.checked_sub(address)?)?;
    let length = place(long(resources, data + 4)?)?.min(MOST_BYTES);
    let version = resources.get(start..start.checked_add(length)?)?;
    let in_words = ["ProductVersion", "FileVersion"].iter().find_map(|key| text_of(version, key));
    in_words.or_else(|| {
        let at = version.windows(4).position(|four| four == [0xbd, 0x04, 0xef, 0xfe])?;
        let (major, minor) = (long(version, at + 16)?, long(version, at + 20)?);
        Some(format!("{}.{}.{}.{}", major >> 16, major & 0xffff, minor >> 16, minor & 0xffff))
    })
}

/// Where an entry of the directory at a place leads to.
fn entry(resources: &[u8], at: usize, wanted: impl Fn(u32) -> bool) -> Option<usize> {
    let count = usize::from(short(resources, at + 12)?) + usize::from(short(resources, at + 14)?);
    let mut entries = (0..count.min(MOST_ENTRIES)).map(|index| at + 16 + index * 8);
    let found = entries.find(|entry| long(resources, *entry).is_some_and(&wanted))?;
    place(long(resources, found + 4)? & 0x7fff_ffff)
}

/// The text behind a key of a version's resource: both in UTF-16, each ended by a zero, the text at the next multiple of four.
fn text_of(version: &[u8], key: &str) -> Option<String> {
    let key: Vec<u8> = key.encode_utf16().chain([0]).flat_map(u16::to_le_bytes).collect();
    let end = version.windows(key.len()).position(|part| part == key)? + key.len();
    let start = end.next_multiple_of(4);
    let units = (start..start + 256).step_by(2).map_while(|at| short(version, at));
    let text = String::from_utf16_lossy(&units.take_while(|unit| *unit != 0).collect::<Vec<_>>());
    // What follows a space tells how it was built.
    text.split_whitespace().next().filter(|word| word.starts_with(|c: char| c.is_ascii_digit())).map(ToOwned::to_owned)
}

#[cfg(test)]
mod tests {
    use super::{PeResources, opens_window, pe_resources, pe_version};
    use proptest::prelude::*;
    use rstest::rstest;

    fn program(subsystem: u16) -> Vec<u8> {
        let mut head = vec![0; 0x80 + 24 + 240 + 80];
        head[..2].copy_from_slice(b"MZ");
        head[0x3c] = 0x80;
        head[0x80..0x84].copy_from_slice(b"PE\0\0");
        head[0x86] = 2;
        head[0x94] = 240;
        head[0x98 + 68..0x98 + 70].copy_from_slice(&subsystem.to_le_bytes());
        let sections = 0x98 + 240;
        head[sections..sections + 5].copy_from_slice(b".text");
        let resources = sections + 40;
        head[resources..resources + 5].copy_from_slice(b".rsrc");
        for (at, number) in [(12, 0x9000_u32), (16, 0x200), (20, 0x1400)] {
            head[resources + at..resources + at + 4].copy_from_slice(&number.to_le_bytes());
        }
        head
    }

    fn wide(text: &str) -> Vec<u8> {
        text.encode_utf16().chain([0]).flat_map(u16::to_le_bytes).collect()
    }

    /// Resources at 0x9000 with an icon and a version in two languages, with these texts.
    fn resources(texts: &[(&str, &str)]) -> Vec<u8> {
        let mut version: Vec<u8> = [0xbd, 0x04, 0xef, 0xfe].into_iter().chain([0; 12]).collect();
        version.extend([2_u16, 3, 1, 7].map(u16::to_le_bytes).concat());
        for (key, text) in texts {
            version.extend(wide(key));
            version.resize(version.len().next_multiple_of(4), 0);
            version.extend(wide(text));
            version.resize(version.len().next_multiple_of(4), 0);
        }
        let mut all = Vec::new();
        let directory = |all: &mut Vec<u8>, entries: &[(u32, u32)]| {
            all.extend([0; 14]);
            all.extend(u16::try_from(entries.len()).unwrap().to_le_bytes());
            for (id, offset) in entries {
                all.extend(id.to_le_bytes());
                all.extend(offset.to_le_bytes());
            }
        };
        directory(&mut all, &[(3, 0x8000_0fff), (16, 0x8000_0020)]);
        directory(&mut all, &[(1, 0x8000_0038)]);
        directory(&mut all, &[(1031, 0x58), (1033, 0x58)]);
        all.extend([0x9000_u32 + 0x68, u32::try_from(version.len()).unwrap(), 0, 0].map(u32::to_le_bytes).concat());
        all.extend(version);
        all
    }

    #[rstest]
    #[case::for_a_terminal(3, false)]
    #[case::with_windows(2, true)]
    fn a_program_tells_whether_it_opens_a_window(#[case] subsystem: u16, #[case] window: bool) {
        let head = program(subsystem);
        assert_eq!(opens_window(&head), window);
        assert_eq!(pe_resources(&head), Some(PeResources { offset: 0x1400, length: 0x200, address: 0x9000 }));
    }

    #[rstest]
    #[case::the_product_in_words(&[("FileVersion", "3.11.7150.1013"), ("ProductVersion", "3.11.7")], "3.11.7")]
    #[case::with_the_build_behind_it(&[("ProductVersion", "10.0.19041.1 (WinBuild.160101.0800)")], "10.0.19041.1")]
    #[case::only_the_files(&[("FileVersion", "2.47.0.windows.1")], "2.47.0.windows.1")]
    #[case::words_that_are_none(&[("ProductVersion", "current")], "3.2.7.1")]
    #[case::no_words(&[], "3.2.7.1")]
    fn a_file_states_its_version(#[case] texts: &[(&str, &str)], #[case] version: &str) {
        assert_eq!(pe_version(&resources(texts), 0x9000).as_deref(), Some(version));
    }

    proptest! {
        #[test]
        fn a_strangers_bytes_give_a_version_or_none(
            change in proptest::collection::vec((any::<prop::sample::Index>(), any::<u8>()), 0..12),
            cut in any::<prop::sample::Index>(),
        ) {
            let mut bytes = resources(&[("ProductVersion", "1.2.3")]);
            for (at, byte) in change {
                let at = at.index(bytes.len());
                bytes[at] = byte;
            }
            let bytes = &bytes[..cut.index(bytes.len())];
            pe_version(bytes, 0x9000);
            pe_resources(bytes);
            opens_window(bytes);
        }
    }
}
