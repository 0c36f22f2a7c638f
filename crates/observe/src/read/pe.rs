//! What a program for Windows tells by its file: whether it opens a window, and the version that it states (Microsoft's PE format, and the
//! structures `VS_VERSIONINFO` and `VS_FIXEDFILEINFO`).

use object::LittleEndian;
use object::pe::{
    IMAGE_SUBSYSTEM_WINDOWS_GUI, ImageDosHeader, ImageNtHeaders32, ImageNtHeaders64, ImageResourceDirectoryEntry, RT_VERSION,
};
use object::read::pe::{ImageNtHeaders, ImageOptionalHeader, ResourceDirectory};

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

/// How much of a version's resource is searched, in bytes.
const MOST_BYTES: usize = 64 << 10;

/// What the headers of a program tell.
struct Header {
    opens_window: bool,
    resources: Option<PeResources>,
}

/// The headers by a program's first bytes, of 64 bits or 32; none for what is no such program.
fn header(head: &[u8]) -> Option<Header> {
    header_of::<ImageNtHeaders64>(head).or_else(|| header_of::<ImageNtHeaders32>(head))
}

fn header_of<Headers: ImageNtHeaders>(head: &[u8]) -> Option<Header> {
    let mut at = ImageDosHeader::parse(head).ok()?.nt_headers_offset().into();
    let (headers, _) = Headers::parse(head, &mut at).ok()?;
    let sections = headers.sections(head, at).ok()?;
    let resources = sections.iter().find(|section| section.name == *b".rsrc\0\0\0").map(|section| PeResources {
        offset: section.pointer_to_raw_data.get(LittleEndian).into(),
        length: section.size_of_raw_data.get(LittleEndian).into(),
        address: section.virtual_address.get(LittleEndian),
    });
    Some(Header { opens_window: headers.optional_header().subsystem() == IMAGE_SUBSYSTEM_WINDOWS_GUI, resources })
}

/// Whether a program opens a window instead of writing to the terminal, by its first bytes.
pub fn opens_window(head: &[u8]) -> bool {
    header(head).is_some_and(|header| header.opens_window)
}

/// Where the resources of a program are, by its first bytes; none where it has none.
pub fn pe_resources(head: &[u8]) -> Option<PeResources> {
    header(head)?.resources
}

/// The version that the resources of a program state: the product's in words, else the file's, else the product's as four numbers.
pub fn pe_version(resources: &[u8], address: u32) -> Option<String> {
    let section = ResourceDirectory::new(resources);
    let is_version = |entry: &&ImageResourceDirectoryEntry| entry.name_or_id().id() == Some(RT_VERSION);
    // Three directories lie in each other: kind, name, language. Of the last two the first entry does.
    let names = section.root().ok()?.entries.iter().find(is_version)?.data(section).ok()?.table()?;
    let languages = names.entries.first()?.data(section).ok()?.table()?;
    let data = languages.entries.first()?.data(section).ok()?.data()?;
    let start = usize::try_from(data.offset_to_data.get(LittleEndian).checked_sub(address)?).ok()?;
    let length = usize::try_from(data.size.get(LittleEndian)).ok()?.min(MOST_BYTES);
    let version = resources.get(start..start.checked_add(length)?)?;
    let in_words = ["ProductVersion", "FileVersion"].iter().find_map(|key| text_of(version, key));
    in_words.or_else(|| {
        let at = version.windows(4).position(|four| four == [0xbd, 0x04, 0xef, 0xfe])?;
        let long = |at: usize| Some(u32::from_le_bytes(version.get(at..at.checked_add(4)?)?.try_into().ok()?));
        let (major, minor) = (long(at + 16)?, long(at + 20)?);
        Some(format!("{}.{}.{}.{}", major >> 16, major & 0xffff, minor >> 16, minor & 0xffff))
    })
}

/// The text behind a key of a version's resource: both in UTF-16, each ended by a zero, the text at the next multiple of four.
fn text_of(version: &[u8], key: &str) -> Option<String> {
    let key: Vec<u8> = key.encode_utf16().chain([0]).flat_map(u16::to_le_bytes).collect();
    let end = version.windows(key.len()).position(|part| part == key)? + key.len();
    let start = end.next_multiple_of(4);
    let units =
        (start..start + 256).step_by(2).map_while(|at| Some(u16::from_le_bytes(version.get(at..at + 2)?.try_into().ok()?)));
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
        head[0x98..0x9a].copy_from_slice(&0x20b_u16.to_le_bytes());
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
