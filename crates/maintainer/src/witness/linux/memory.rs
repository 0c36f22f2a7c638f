//! What a stopped process asks for: the number of its call, its arguments, texts and addresses in its memory.

use nix::sys::ptrace;
use nix::sys::uio::{RemoteIoVec, process_vm_readv};
use nix::unistd::Pid;
use std::io::IoSliceMut;

/// A call with its first arguments.
pub(super) struct Call {
    pub(super) number: i64,
    pub(super) arguments: [u64; 5],
}

/// The call at which a process stopped.
#[cfg(target_arch = "x86_64")]
pub(super) fn call(pid: Pid) -> Option<Call> {
    let registers = ptrace::getregs(pid).ok()?;
    let number = i64::try_from(registers.orig_rax).ok()?;
    Some(Call { number, arguments: [registers.rdi, registers.rsi, registers.rdx, registers.r10, registers.r8] })
}

/// The call at which a process stopped.
#[cfg(target_arch = "aarch64")]
pub(super) fn call(pid: Pid) -> Option<Call> {
    let registers = ptrace::getregs(pid).ok()?;
    let number = i64::try_from(registers.regs[8]).ok()?;
    Some(Call {
        number,
        arguments: [registers.regs[0], registers.regs[1], registers.regs[2], registers.regs[3], registers.regs[4]],
    })
}

/// Bytes of its memory, as far as they can be read.
pub(super) fn bytes(pid: Pid, at: u64, most: usize) -> Vec<u8> {
    let mut buffer = vec![0; most];
    let Ok(base) = usize::try_from(at) else { return Vec::new() };
    let remote = [RemoteIoVec { base, len: most }];
    let read = process_vm_readv(pid, &mut [IoSliceMut::new(&mut buffer)], &remote).unwrap_or(0);
    buffer.truncate(read);
    buffer
}

/// The longest path (`PATH_MAX` of Linux).
const LONGEST: usize = 4_096;
/// So much of a text is read at once; memory behind it may not be there.
const PIECE: usize = 256;

/// A text up to its end mark.
pub(super) fn text(pid: Pid, at: u64) -> Option<String> {
    let mut all = Vec::new();
    while all.len() < LONGEST {
        let from = at.checked_add(u64::try_from(all.len()).ok()?)?;
        // Up to the end of a page, and no further: the next one may not be there.
        let left = 4_096 - usize::try_from(from % 4_096).ok()?;
        let piece = bytes(pid, from, left.min(PIECE));
        match piece.iter().position(|byte| *byte == 0) {
            Some(end) => {
                all.extend_from_slice(piece.get(..end)?);
                return String::from_utf8(all).ok();
            }
            None if piece.is_empty() => return None,
            None => all.extend(piece),
        }
    }
    None
}
