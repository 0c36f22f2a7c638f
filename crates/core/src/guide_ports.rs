//! Where a guide speaks of ports, so that each of many need not look through all of it.

use crate::guide::{Guide, Subject};
use crate::prelude::*;
use hashbrown::HashMap;

/// The ports that a guide speaks of.
#[derive(Debug, Default)]
pub(crate) struct GuidePorts {
    /// The first numbers of ports that may be moved, each with its place among them, in ascending order.
    movable: Vec<(u16, usize)>,
    /// The requirements that want a service there, by its number, in the order of the guide.
    services: HashMap<u16, Vec<usize>>,
}

impl GuidePorts {
    /// Those of a guide.
    pub(crate) fn of(guide: &Guide) -> Self {
        let mut ports = Self::default();
        for (index, requirement) in guide.requirements.iter().enumerate() {
            if let Subject::Port(port) = &requirement.subject {
                let number = port.numbers.each().first().copied().filter(|_| port.set_by.is_some());
                let place = ports.movable.len();
                ports.movable.extend(number.map(|number| (number, place)));
            } else if let Subject::Service(service) = &requirement.subject {
                ports.services.entry(service.port).or_default().push(index);
            }
        }
        ports.movable.sort_unstable();
        ports
    }

    /// How many movable ports stand before the first one with this number, no further than `near` from it; no more than `most` are counted.
    pub(crate) fn moving_before(&self, number: u16, near: u16, most: usize) -> usize {
        let from = self.movable.partition_point(|(other, _)| *other < number.saturating_sub(near));
        let close = self.movable.iter().skip(from).take_while(|(other, _)| *other <= number.saturating_add(near));
        let first = self.movable.partition_point(|(other, _)| *other < number);
        let own = self.movable.get(first).filter(|(other, _)| *other == number).map_or(usize::MAX, |(_, place)| *place);
        close.filter(|(_, place)| *place < own).take(most).count()
    }

    /// The requirements that want a service at a port.
    pub(crate) fn services_at(&self, port: u16) -> &[usize] {
        self.services.get(&port).map_or(&[], Vec::as_slice)
    }
}
