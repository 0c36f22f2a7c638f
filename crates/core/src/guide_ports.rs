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

#[cfg(test)]
mod tests {
    use super::GuidePorts;
    use crate::prelude::*;
    use crate::testing::guide;
    use rstest::rstest;

    #[rstest]
    #[case::the_first(7070, 0)]
    #[case::with_one_before_it(7071, 1)]
    #[case::with_one_before_and_one_behind_it(7100, 2)]
    #[case::far_from_the_others(9000, 0)]
    #[case::that_is_wanted_twice(7071, 1)]
    fn only_movable_ports_before_it_and_close_to_it_count(#[case] number: u16, #[case] before: usize) {
        let port = |id: &str, number: u16, set_by: &str| format!("[require.{id}]\nport = {number}\n{set_by}\n");
        let movable = "set_by = { variable = \"P\" }";
        let body = port("a", 7070, movable)
            + &port("b", 7071, movable)
            + &port("fixed", 7072, "")
            + &port("c", 7100, movable)
            + &port("again", 7071, movable)
            + &port("far", 9000, movable)
            + "[require.page]\nservice = \"localhost:7070\"\n";
        let ports = GuidePorts::of(&guide(&body));
        assert_eq!(ports.moving_before(number, 200, 20), before);
        assert_eq!(ports.moving_before(number, 200, 1), before.min(1));
        assert_eq!((ports.services_at(7070), ports.services_at(7071)), (&[6][..], &[][..]));
    }
}
