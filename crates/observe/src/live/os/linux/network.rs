use crate::live::os::interfaces;
use crate::read::{has_default_route, routes};
use setup_ready_core::observation::Observation;
use std::fs::read_to_string;

/// The networks of this machine's interfaces, and those that it has ways to, such as a private network's.
pub(in crate::live) fn networks() -> Observation {
    match interfaces() {
        Ok(mut networks) => {
            for route in routes(&read_to_string("/proc/net/route").unwrap_or_default()) {
                let known = networks
                    .iter()
                    .any(|network| network.prefix == route.prefix && network.overlaps(route.address, route.prefix));
                if !known {
                    networks.push(route);
                }
            }
            Observation::Networks(networks)
        }
        Err(reason) => Observation::CouldNotLook(reason),
    }
}

/// Whether a way leads to everywhere.
///
/// # Errors
/// The reason why that cannot be known.
pub(in crate::live) fn has_way_out() -> Result<bool, String> {
    let older = read_to_string("/proc/net/route").map_err(|error| error.to_string())?;
    let newer = read_to_string("/proc/net/ipv6_route").unwrap_or_default();
    Ok(has_default_route(&older, &newer))
}
