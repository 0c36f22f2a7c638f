//! One thread reads, the others work on blocks, and what they made is taken in the order in which it was read.

use super::Broken;
use super::input::{Block, Files, PassedOver, files, read};
use setup_ready_observe::Interrupt;
use std::collections::BTreeMap;
use std::path::PathBuf;
use std::sync::mpsc::{Receiver, SyncSender, sync_channel};
use std::sync::{Arc, Mutex, PoisonError};

/// What a survey reads, and with how many hands.
pub(super) struct Pipeline<'p> {
    pub(super) paths: &'p [PathBuf],
    pub(super) jobs: Option<usize>,
    pub(super) interrupt: &'p Interrupt,
    pub(super) progress: &'p (dyn Fn(u64) + Sync),
}

/// A block with its place in the order, or what could not be read.
type Handed = (u64, Result<Block, Broken>);
/// What was made of it.
type Made<T> = (u64, Result<T, Broken>);

/// What was read.
#[derive(Default)]
pub(super) struct Ran {
    /// After decompression.
    pub(super) bytes: u64,
    pub(super) passed_over: PassedOver,
}

impl Pipeline<'_> {
    /// Reads all, and says what was read. `first` sees each block before anybody works on it; `take` says whether to go on.
    pub(super) fn run<T: Send>(
        &self,
        first: &(dyn Fn(&Block) + Sync),
        work: &(dyn Fn(&Block) -> T + Sync),
        take: &mut dyn FnMut(Result<T, Broken>) -> bool,
    ) -> Ran {
        let jobs = self.jobs.unwrap_or_else(|| std::thread::available_parallelism().map_or(1, usize::from)).clamp(1, 256);
        let mut ran = Ran::default();
        std::thread::scope(|scope| {
            // Bounded: nobody reads far ahead of those who work, so that memory stays what it is.
            let (hand, blocks) = sync_channel::<Handed>(jobs);
            let (give, made) = sync_channel::<Made<T>>(jobs);
            let blocks = Arc::new(Mutex::new(blocks));
            for _ in 0..jobs {
                let (blocks, give) = (Arc::clone(&blocks), give.clone());
                scope.spawn(move || Self::work(&blocks, &give, work));
            }
            // Whoever hands out must notice when nobody works any more.
            drop((give, blocks));
            let read = scope.spawn(move || self.hand_out(&hand, first));
            in_order(&made, take);
            // Where no more is taken, whoever hands out or works notices by that.
            drop(made);
            ran = read.join().unwrap_or_default();
        });
        ran
    }

    fn work<T>(blocks: &Mutex<Receiver<Handed>>, give: &SyncSender<Made<T>>, work: &(dyn Fn(&Block) -> T + Sync)) {
        loop {
            let next = blocks.lock().unwrap_or_else(PoisonError::into_inner).recv();
            let Ok((number, block)) = next else { return };
            if give.send((number, block.map(|block| work(&block)))).is_err() {
                return;
            }
        }
    }

    fn hand_out(&self, hand: &SyncSender<Handed>, first: &(dyn Fn(&Block) + Sync)) -> Ran {
        let (mut bytes, mut number) = (0, 0);
        let mut all = Files::default();
        for path in self.paths {
            files(path, 0, &mut all);
        }
        for path in all.found {
            let mut goes_on = true;
            let came = read(&path, &mut |block| {
                first(&block);
                bytes += block.bytes.len() as u64;
                (self.progress)(bytes);
                goes_on = !self.interrupt.is_raised() && hand.send((number, Ok(block))).is_ok();
                number += 1;
                goes_on
            });
            if let Err(unreadable) = came {
                let line = (unreadable.line > 1).then_some(unreadable.line);
                goes_on = hand
                    .send((number, Err(Broken { source: unreadable.source, line, reason: unreadable.reason, alike: 0 })))
                    .is_ok();
                number += 1;
            }
            if !goes_on || self.interrupt.is_raised() {
                break;
            }
        }
        Ran { bytes, passed_over: all.passed_over }
    }
}

/// Takes what was made in the order of its numbers, until no more is wanted.
fn in_order<T>(made: &Receiver<Made<T>>, take: &mut dyn FnMut(Result<T, Broken>) -> bool) {
    let mut early: BTreeMap<u64, Result<T, Broken>> = BTreeMap::new();
    let mut next = 0;
    while let Ok((number, one)) = made.recv() {
        early.insert(number, one);
        while let Some(one) = early.remove(&next) {
            next += 1;
            if !take(one) {
                return;
            }
        }
    }
}
