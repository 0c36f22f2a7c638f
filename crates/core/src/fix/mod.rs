//! Fixes: what would settle a requirement on this machine. The software shows them and never carries them out.

mod again;
mod agreement;
pub(crate) mod case;
mod circumstances;
pub(crate) mod effect;
mod fill;
pub(crate) mod fills;
pub(crate) mod kind;
mod model;
mod of_guide;
mod package;
mod predict;
mod shell;
mod suggest;
mod supply;
mod unknown;

pub(crate) use agreement::agreed;
pub(crate) use circumstances::Circumstances;
pub(crate) use effect::{Change, CheckoutChange, Effect};
pub use model::{Fix, Source};
pub(crate) use model::{Part, Prepares, Whole};
pub use shell::{Shell, quote};
pub(crate) use suggest::{presumed, suggest};

#[cfg(test)]
mod tests;
