use setup_ready_core::observation::FileKind;

/// How much of a file's start is needed.
pub const HEAD_BYTES: usize = 4096;

/// What a program's file is, by its first bytes: ELF (gABI), Mach-O (Apple's loader.h), PE (Microsoft's PE format), or a script.
pub fn file_kind(head: &[u8]) -> FileKind {
    let built = |arch: Option<&'static str>| arch.map_or(FileKind::Unknown, |arch| FileKind::Built(vec![arch.to_owned()]));
    match head {
        [0x7f, b'E', b'L', b'F', class, order, ..] => built(elf_arch(head, *class == 2, *order == 2)),
        [0xcf | 0xce, 0xfa, 0xed, 0xfe, ..] => built(number(head, 4, false).and_then(mach_arch)),
        [0xca, 0xfe, 0xba, 0xbe, ..] => fat(head),
        [b'M', b'Z', ..] => built(pe_arch(head)),
        [b'#', b'!', ..] => script(head),
        _ => FileKind::Unknown,
    }
}

fn number(head: &[u8], at: usize, big: bool) -> Option<u32> {
    let bytes = head.get(at..at.checked_add(4)?)?.try_into().ok()?;
    Some(if big { u32::from_be_bytes(bytes) } else { u32::from_le_bytes(bytes) })
}

fn short(head: &[u8], at: usize, big: bool) -> Option<u16> {
    let bytes = head.get(at..at.checked_add(2)?)?.try_into().ok()?;
    Some(if big { u16::from_be_bytes(bytes) } else { u16::from_le_bytes(bytes) })
}

fn elf_arch(head: &[u8], wide: bool, big: bool) -> Option<&'static str> {
    Some(match short(head, 18, big)? {
        3 => "i686",
        8 => "mips",
        21 if big => "powerpc64",
        21 => "powerpc64le",
        22 => "s390x",
        40 => "arm",
        62 => "x86_64",
        183 => "aarch64",
        243 if wide => "riscv64",
        258 => "loongarch64",
        _ => return None,
    })
}

fn mach_arch(cpu: u32) -> Option<&'static str> {
    Some(match cpu {
        7 => "i686",
        0x0100_0007 => "x86_64",
        0x0100_000c => "aarch64",
        _ => return None,
    })
}

/// A file with a part for each architecture. Java's class files begin alike; their second number is a version above 44.
fn fat(head: &[u8]) -> FileKind {
    let count = number(head, 4, true).unwrap_or(0);
    if count > 20 {
        return FileKind::Unknown;
    }
    let arches = (0..count as usize).filter_map(|index| number(head, 8 + index * 20, true).and_then(mach_arch));
    let arches: Vec<String> = arches.map(ToOwned::to_owned).collect();
    if arches.is_empty() { FileKind::Unknown } else { FileKind::Built(arches) }
}

fn pe_arch(head: &[u8]) -> Option<&'static str> {
    let at = usize::try_from(number(head, 0x3c, false)?).ok()?;
    if head.get(at..at.checked_add(4)?)? != b"PE\0\0" {
        return None;
    }
    Some(match short(head, at + 4, false)? {
        0x014c => "i686",
        0x8664 => "x86_64",
        0xaa64 => "aarch64",
        _ => return None,
    })
}

/// The interpreter of a script; behind `env`, the program that it looks for.
fn script(head: &[u8]) -> FileKind {
    let line = head.split(|byte| *byte == b'\n').next().unwrap_or_default();
    let line = String::from_utf8_lossy(line.get(2..).unwrap_or_default()).into_owned();
    let mut words = line.split_whitespace();
    let first = words.next().unwrap_or("");
    let interpreter = if first.ends_with("/env") {
        words.find(|word| !word.starts_with('-') && !word.contains('=')).unwrap_or(first)
    } else {
        first
    };
    if interpreter.is_empty() { FileKind::Unknown } else { FileKind::Script(interpreter.to_owned()) }
}

#[cfg(test)]
mod tests {
    use super::file_kind;
    use rstest::rstest;
    use setup_ready_core::observation::FileKind;

    fn elf(order: u8, machine: [u8; 2]) -> Vec<u8> {
        let mut head = vec![0x7f, b'E', b'L', b'F', 2, order];
        head.resize(18, 0);
        head.extend(machine);
        head
    }

    fn pe(machine: [u8; 2]) -> Vec<u8> {
        let mut head = b"MZ".to_vec();
        head.resize(0x3c, 0);
        head.extend([0x80, 0, 0, 0]);
        head.resize(0x80, 0);
        head.extend(b"PE\0\0");
        head.extend(machine);
        head
    }

    fn mach(cpus: &[u32]) -> Vec<u8> {
        let mut head = vec![0xca, 0xfe, 0xba, 0xbe, 0, 0, 0, u8::try_from(cpus.len()).unwrap()];
        for cpu in cpus {
            head.extend(cpu.to_be_bytes());
            head.extend([0; 16]);
        }
        head
    }

    #[rstest]
    #[case::for_this_processor(elf(1, [62, 0]), &["x86_64"])]
    #[case::for_a_phone(elf(1, [183, 0]), &["aarch64"])]
    #[case::for_a_mainframe(elf(2, [0, 22]), &["s390x"])]
    #[case::for_windows(pe([0x64, 0x86]), &["x86_64"])]
    #[case::for_windows_on_another_chip(pe([0x64, 0xaa]), &["aarch64"])]
    #[case::for_one_mac(vec![0xcf, 0xfa, 0xed, 0xfe, 0x0c, 0, 0, 1], &["aarch64"])]
    #[case::for_two_macs(mach(&[0x0100_0007, 0x0100_000c]), &["x86_64", "aarch64"])]
    fn architectures_are_read_from_headers(#[case] head: Vec<u8>, #[case] arches: &[&str]) {
        assert_eq!(file_kind(&head), FileKind::Built(arches.iter().map(|arch| (*arch).to_owned()).collect()));
    }

    #[rstest]
    #[case::a_shell(b"#!/bin/sh\necho\n", "/bin/sh")]
    #[case::by_way_of_env(b"#!/usr/bin/env -S python3 -u\n", "python3")]
    #[case::by_way_of_env_with_a_setting(b"#!/usr/bin/env -S LANG=C python3\n", "python3")]
    #[case::with_a_space(b"#! /usr/bin/perl -w\n", "/usr/bin/perl")]
    fn scripts_name_their_interpreter(#[case] head: &[u8], #[case] interpreter: &str) {
        assert_eq!(file_kind(head), FileKind::Script(interpreter.into()));
    }

    #[rstest]
    #[case::nothing(b"")]
    #[case::half_a_header(b"\x7fELF\x02")]
    #[case::a_lying_offset(b"MZ\xff\xff\xff\xff")]
    #[case::a_class_of_java(b"\xca\xfe\xba\xbe\0\0\0\x3d")]
    #[case::text(b"hello")]
    #[case::an_empty_line(b"#!\n")]
    fn everything_else_is_unknown(#[case] head: &[u8]) {
        assert_eq!(file_kind(head), FileKind::Unknown);
    }
}
