use nix::ifaddrs::getifaddrs;
use setup_ready_core::observation::Network;
use std::net::IpAddr;

/// The networks of this machine's interfaces, but for its own loopback.
///
/// # Errors
/// The system's reason.
pub(in crate::live) fn interfaces() -> Result<Vec<Network>, String> {
    let all = getifaddrs().map_err(|error| error.desc().to_owned())?;
    let network = |interface: nix::ifaddrs::InterfaceAddress| {
        let (address, mask) = (interface.address?, interface.netmask?);
        let older = || {
            let mask = mask.as_sockaddr_in()?.ip().to_bits();
            Some((IpAddr::from(address.as_sockaddr_in()?.ip()), mask.leading_ones()))
        };
        let newer = || {
            let mask = mask.as_sockaddr_in6()?.ip().to_bits();
            Some((IpAddr::from(address.as_sockaddr_in6()?.ip()), mask.leading_ones()))
        };
        let (address, prefix) = older().or_else(newer)?;
        let network = Network { interface: interface.interface_name, address, prefix: u8::try_from(prefix).ok()? };
        (!address.is_loopback()).then_some(network)
    };
    Ok(all.filter_map(network).collect())
}
