use std::collections::HashSet;

/// The mark of the cache's present form (glibc, `sysdeps/generic/dl-cache.h`); an older form may stand before it.
const MARK: &[u8] = b"glibc-ld.so.cache1.1";
/// The header's length, and that of each entry, in bytes.
const HEADER: usize = 48;
const ENTRY: usize = 24;

/// The names of the libraries in the loader's cache (`/etc/ld.so.cache`); `None` where it is not one.
pub fn loader_cache(bytes: &[u8]) -> Option<HashSet<String>> {
    let start = bytes.windows(MARK.len()).position(|window| window == MARK)?;
    let cache = bytes.get(start..)?;
    let number = |at: usize| Some(u32::from_ne_bytes(cache.get(at..at.checked_add(4)?)?.try_into().ok()?) as usize);
    let count = number(MARK.len())?;
    let entries = cache.get(HEADER..)?.chunks_exact(ENTRY).take(count);
    let name = |index: usize| {
        // The second number of an entry is where its name begins.
        let text = cache.get(number(HEADER + index * ENTRY + 4)?..)?;
        let end = text.iter().take(1_024).position(|byte| *byte == 0)?;
        Some(String::from_utf8_lossy(text.get(..end)?).into_owned())
    };
    Some(entries.enumerate().filter_map(|(index, _)| name(index)).collect())
}

#[cfg(test)]
mod tests {
    use super::loader_cache;
    use rstest::rstest;

    fn cache(names: &[&str]) -> Vec<u8> {
        let mut bytes = b"glibc-ld.so.cache1.1".to_vec();
        bytes.extend(u32::try_from(names.len()).unwrap().to_ne_bytes());
        bytes.resize(48, 0);
        let mut at = 48 + 24 * names.len();
        let mut texts = Vec::new();
        for name in names {
            bytes.extend(0_u32.to_ne_bytes());
            bytes.extend(u32::try_from(at).unwrap().to_ne_bytes());
            bytes.extend([0; 16]);
            texts.extend(name.bytes().chain([0]));
            at += name.len() + 1;
        }
        bytes.extend(texts);
        bytes
    }

    #[test]
    fn the_loaders_cache_is_read_also_behind_its_older_form() {
        let bytes = cache(&["libc.so.6", "libbuoy.so.3"]);
        let names = loader_cache(&[b"ld.so-1.7.0 and more  ".as_slice(), &bytes].concat()).unwrap();
        assert!(names.contains("libc.so.6") && names.contains("libbuoy.so.3") && names.len() == 2);
    }

    #[rstest]
    #[case::empty(b"")]
    #[case::cut_off(b"glibc-ld.so.cache1.1\x01")]
    fn what_is_no_cache_is_none(#[case] bytes: &[u8]) {
        assert_eq!(loader_cache(bytes), None);
        // A lying count, and offsets beyond the end.
        let mut lying = cache(&["libc.so.6"]);
        lying.splice(20..24, [0xff; 4]);
        lying.splice(52..56, [0xff; 4]);
        assert!(loader_cache(&lying).unwrap().len() < 10);
    }
}
