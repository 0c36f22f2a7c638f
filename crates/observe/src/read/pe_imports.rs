use object::ReadRef;
use object::pe::{ImageNtHeaders32, ImageNtHeaders64};
use object::read::pe::{ImageNtHeaders, PeFile};

/// More libraries than any program names; what follows is not read.
const MOST_LIBRARIES: usize = 1_024;

/// The libraries that a program for Windows is linked to, by its import table (Microsoft's PE format); none for what is no such program, or a
/// damaged one.
pub fn pe_imports<'d, R: ReadRef<'d>>(data: R) -> Vec<String> {
    imports::<ImageNtHeaders64, R>(data).or_else(|| imports::<ImageNtHeaders32, R>(data)).unwrap_or_default()
}

fn imports<'d, Headers: ImageNtHeaders, R: ReadRef<'d>>(data: R) -> Option<Vec<String>> {
    let file = PeFile::<Headers, R>::parse(data).ok()?;
    let table = file.import_table().ok()??;
    let mut descriptors = table.descriptors().ok()?;
    let mut names = Vec::new();
    while let Ok(Some(descriptor)) = descriptors.next() {
        let name = table.name(descriptor.name.get(object::LittleEndian)).ok()?;
        names.push(String::from_utf8_lossy(name).into_owned());
        if names.len() == MOST_LIBRARIES {
            break;
        }
    }
    Some(names)
}

#[cfg(test)]
mod tests {
    use super::pe_imports;
    use proptest::prelude::*;

    #[test]
    #[cfg(windows)]
    fn this_very_program_names_its_libraries() {
        let own = std::fs::read(std::env::current_exe().unwrap()).unwrap();
        let names = pe_imports(&own[..]);
        assert!(names.iter().any(|name| name.eq_ignore_ascii_case("kernel32.dll")), "{names:?}");
    }

    proptest! {
        #[test]
        fn a_strangers_bytes_give_names_or_none(mut bytes in proptest::collection::vec(any::<u8>(), 0..600), wide in any::<bool>()) {
            // So far as it looks like a program: the marks, and the kind of header.
            if bytes.len() > 0x80 {
                bytes[..2].copy_from_slice(b"MZ");
                bytes[0x3c..0x40].copy_from_slice(&[0x40, 0, 0, 0]);
                bytes[0x40..0x44].copy_from_slice(b"PE\0\0");
                bytes[0x58] = 0x0b;
                bytes[0x59] = if wide { 2 } else { 1 };
            }
            prop_assert!(pe_imports(&bytes[..]).len() <= super::MOST_LIBRARIES);
        }
    }
}
