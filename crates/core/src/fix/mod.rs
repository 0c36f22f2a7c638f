//! Fixes: what would settle a requirement on this machine. The software shows them and never carries them out.

mod again;
mod agreement;
mod alternatives;
mod capacity;
mod case;
mod circumstances;
mod component;
mod effect;
mod fill;
mod model;
mod network;
mod of_guide;
mod package;
mod path;
mod port;
mod predict;
mod project;
mod shell;
mod suggest;
mod supply;
mod tool;
mod unknown;

pub(crate) use agreement::agreed;
pub(crate) use alternatives::cheapest_first;
pub(crate) use circumstances::Circumstances;
pub(crate) use effect::{Change, CheckoutChange, Effect};
pub use model::{Fix, Source};
pub(crate) use model::{Part, Prepares, Whole};
pub use shell::{Shell, quote};
pub(crate) use suggest::{presumed, suggest};

#[cfg(test)]
mod tests;
