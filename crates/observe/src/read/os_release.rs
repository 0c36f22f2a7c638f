/// What `/etc/os-release` says (freedesktop.org, os-release(5)).
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct OsRelease {
    /// `ID`.
    pub id: Option<String>,
    /// `ID_LIKE`, split.
    pub id_like: Vec<String>,
    /// `VERSION_ID`.
    pub version_id: Option<String>,
    /// `PRETTY_NAME`.
    pub pretty_name: Option<String>,
    /// `VARIANT_ID`.
    pub variant_id: Option<String>,
}

/// Reads `/etc/os-release`.
pub fn os_release(text: &str) -> OsRelease {
    let value = |key: &str| {
        text.lines()
            .find_map(|line| line.trim().strip_prefix(key)?.strip_prefix('='))
            .map(unquote)
            .filter(|value| !value.is_empty())
    };
    OsRelease {
        id: value("ID"),
        id_like: value("ID_LIKE").map(|like| like.split_whitespace().map(ToOwned::to_owned).collect()).unwrap_or_default(),
        version_id: value("VERSION_ID"),
        pretty_name: value("PRETTY_NAME"),
        variant_id: value("VARIANT_ID"),
    }
}

fn unquote(value: &str) -> String {
    let value = value.trim();
    let inner = value.strip_prefix('"').and_then(|inner| inner.strip_suffix('"'));
    let inner = inner.or_else(|| value.strip_prefix('\'').and_then(|inner| inner.strip_suffix('\'')));
    inner.unwrap_or(value).replace("\\\"", "\"")
}

#[cfg(test)]
mod tests {
    use super::{OsRelease, os_release};

    #[test]
    fn quotes_are_dropped_and_families_are_split() {
        let text = "PRETTY_NAME=\"Ubuntu 24.04.1 LTS\"\nVERSION_ID=\"24.04\"\nID=ubuntu\nID_LIKE=\"debian other\"\n";
        let expected = OsRelease {
            id: Some("ubuntu".into()),
            id_like: vec!["debian".into(), "other".into()],
            version_id: Some("24.04".into()),
            pretty_name: Some("Ubuntu 24.04.1 LTS".into()),
            variant_id: None,
        };
        assert_eq!(os_release(text), expected);
    }
}
