use object::elf::{DT_NEEDED, DT_NULL, DT_RPATH, DT_RUNPATH, DT_STRTAB, DynamicTag, FileHeader32, FileHeader64, PT_LOAD};
use object::read::elf::{Dyn, FileHeader, ProgramHeader};
use object::{Endianness, ReadRef};

/// More entries than any program has; what follows is not read.
const MOST_ENTRIES: usize = 4_096;
/// The longest name that is read, in bytes.
const LONGEST: u64 = 1_024;

/// What an ELF file needs to be started (gABI, chapters 4 and 5).
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct ElfNeeds {
    /// The loader that starts it; none for a program that is all in one file.
    pub loader: Option<String>,
    /// The shared libraries that it names itself, in order.
    pub libraries: Vec<String>,
    /// Where the file says that they are looked for, in order, as it is written there (`$ORIGIN` is its own folder).
    pub folders: Vec<String>,
}

/// What an ELF file needs, read from its program headers and its dynamic section; `None` for what is no such file, or a damaged one.
pub fn elf_needs<'d>(data: impl ReadRef<'d>) -> Option<ElfNeeds> {
    let class = data.read_bytes_at(0, 5).ok()?;
    match class {
        [0x7f, b'E', b'L', b'F', 1] => needs(FileHeader32::<Endianness>::parse(data).ok()?, data),
        [0x7f, b'E', b'L', b'F', 2] => needs(FileHeader64::<Endianness>::parse(data).ok()?, data),
        _ => None,
    }
}

fn needs<'d, Elf: FileHeader<Endian = Endianness>>(header: &Elf, data: impl ReadRef<'d>) -> Option<ElfNeeds> {
    let endian = header.endian().ok()?;
    let segments = header.program_headers(endian, data).ok()?;
    let mut found = ElfNeeds::default();
    for segment in segments {
        if let Ok(Some(loader)) = segment.interpreter(endian, data) {
            found.loader = Some(String::from_utf8_lossy(loader).into_owned());
        }
    }
    let Some(entries) = segments.iter().find_map(|segment| segment.dynamic(endian, data).ok().flatten()) else {
        return Some(found);
    };
    let entries = || {
        entries
            .iter()
            .take(MOST_ENTRIES)
            .map(|entry| (entry.d_tag(endian), entry.d_val(endian).into()))
            .take_while(|(tag, _): &(DynamicTag, u64)| *tag != DT_NULL)
    };
    let strings = entries().find(|(tag, _)| *tag == DT_STRTAB).map(|(_, address)| address)?;
    let loaded = |segment: &&Elf::ProgramHeader| {
        let (start, size): (u64, u64) = (segment.p_vaddr(endian).into(), segment.p_filesz(endian).into());
        segment.p_type(endian) == PT_LOAD && strings >= start && strings - start < size
    };
    let segment = segments.iter().find(loaded)?;
    let start = segment.p_offset(endian).into().checked_add(strings - segment.p_vaddr(endian).into())?;
    let text = |at: u64| {
        let from = start.checked_add(at)?;
        let bytes = data.read_bytes_at_until(from..from.checked_add(LONGEST)?, 0).ok()?;
        Some(String::from_utf8_lossy(bytes).into_owned())
    };
    let texts = |wanted: DynamicTag| entries().filter(move |(tag, _)| *tag == wanted).filter_map(move |(_, at)| text(at));
    found.libraries = texts(DT_NEEDED).collect();
    // The newer of the two ways to name folders silences the older one.
    let newer: Vec<String> = texts(DT_RUNPATH).collect();
    let folders = if newer.is_empty() { texts(DT_RPATH).collect() } else { newer };
    found.folders = folders.iter().flat_map(|folders| folders.split(':')).map(ToOwned::to_owned).collect();
    Some(found)
}
