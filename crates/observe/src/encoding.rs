//! UTF-16, which Windows PowerShell writes where output is redirected.

/// The order of the bytes of each unit.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Utf16 {
    Little,
    Big,
}

impl Utf16 {
    /// By the mark at the beginning (RFC 2781), or by a first letter of which one byte is zero.
    pub fn of(bytes: &[u8]) -> Option<Self> {
        match *bytes {
            [0xff, 0xfe, 0, 0, ..] => None,
            [0xff, 0xfe, ..] => Some(Self::Little),
            [0xfe, 0xff, ..] => Some(Self::Big),
            [first, 0, second, 0, ..] if first != 0 && second != 0 => Some(Self::Little),
            [0, first, 0, second, ..] if first != 0 && second != 0 => Some(Self::Big),
            _ => None,
        }
    }

    /// The text, without its mark; `None` where it is none.
    pub fn text(self, bytes: &[u8]) -> Option<String> {
        if !bytes.len().is_multiple_of(2) {
            return None;
        }
        let units = bytes.chunks_exact(2).filter_map(|pair| {
            let pair = <[u8; 2]>::try_from(pair).ok()?;
            Some(match self {
                Self::Little => u16::from_le_bytes(pair),
                Self::Big => u16::from_be_bytes(pair),
            })
        });
        let text: String = char::decode_utf16(units).collect::<Result<_, _>>().ok()?;
        Some(text.strip_prefix('\u{feff}').map(str::to_owned).unwrap_or(text))
    }
}
