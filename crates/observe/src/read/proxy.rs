/// The proxy for an address, by the variables that programs agree on (`https_proxy`, `http_proxy`, `all_proxy`, `no_proxy`, each also in
/// capitals). `HTTP_PROXY` in capitals counts too: here is no web server that a stranger could make set it.
pub fn proxy_for(url: &str, variable: impl Fn(&str) -> Option<String>) -> Option<String> {
    let (scheme, rest) = url.split_once("://")?;
    let authority = rest.split(['/', '?', '#']).next()?;
    let host_and_port = authority.rsplit_once('@').map_or(authority, |(_, host)| host);
    let host = match host_and_port.strip_prefix('[') {
        Some(inner) => inner.split(']').next()?,
        None => host_and_port.split(':').next()?,
    };
    let value = |name: &str| {
        let found = variable(name).filter(|value| !value.is_empty());
        found.or_else(|| variable(&name.to_uppercase()).filter(|value| !value.is_empty()))
    };
    let local = host == "localhost" || host.parse::<std::net::IpAddr>().is_ok_and(|address| address.is_loopback());
    if local || value("no_proxy").is_some_and(|list| is_exempt(host, &list)) {
        return None;
    }
    value(&format!("{scheme}_proxy")).or_else(|| value("all_proxy"))
}

/// Whether a list of exceptions names a host: itself, a domain above it, or everything.
fn is_exempt(host: &str, list: &str) -> bool {
    list.split([',', ' ']).map(str::trim).filter(|entry| !entry.is_empty()).any(|entry| {
        let domain = entry.trim_start_matches('*').trim_start_matches('.');
        let above = host.strip_suffix(domain).is_some_and(|before| before.is_empty() || before.ends_with('.'));
        entry == "*" || (!domain.is_empty() && above)
    })
}

#[cfg(test)]
mod tests {
    use super::proxy_for;
    use rstest::rstest;

    const PROXY: &str = "http://gate.test:3128";

    #[rstest]
    #[case::its_scheme("https://files.example/a", &[("https_proxy", PROXY)], true)]
    #[case::in_capitals("https://files.example/a", &[("HTTPS_PROXY", PROXY)], true)]
    #[case::another_scheme("https://files.example/a", &[("http_proxy", PROXY)], false)]
    #[case::for_all("https://files.example/a", &[("ALL_PROXY", PROXY)], true)]
    #[case::exempt("https://files.example:444/a", &[("https_proxy", PROXY), ("no_proxy", "other.test, .example")], false)]
    #[case::a_name_that_only_ends_alike("https://myfiles.example/a", &[("https_proxy", PROXY), ("no_proxy", "files.example")], true)]
    #[case::all_exempt("https://files.example", &[("https_proxy", PROXY), ("NO_PROXY", "*")], false)]
    #[case::this_machine("http://127.0.0.1:7070/", &[("http_proxy", PROXY)], false)]
    #[case::set_to_nothing("https://files.example/a", &[("https_proxy", "")], false)]
    fn the_proxy_is_the_one_that_is_configured(#[case] url: &str, #[case] set: &[(&str, &str)], #[case] used: bool) {
        let variable = |name: &str| set.iter().find(|(key, _)| *key == name).map(|(_, value)| (*value).to_owned());
        assert_eq!(proxy_for(url, variable).is_some(), used);
    }
}
