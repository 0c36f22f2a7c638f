use crate::prelude::*;

/// An address without the name and password that it may hold, and without what it asks for, which may be as secret.
pub fn without_credentials(url: &str) -> String {
    let Some((scheme, rest)) = url.split_once("://") else { return url.to_owned() };
    let (rest, asked) = rest.split_once('?').map_or((rest, ""), |(rest, _)| (rest, "?[hidden]"));
    let authority = rest.find(['/', '#']).unwrap_or(rest.len());
    let from = rest.get(..authority).and_then(|authority| authority.rfind('@')).map_or(0, |at| at + 1);
    format!("{scheme}://{}{asked}", rest.get(from..).unwrap_or_default())
}
