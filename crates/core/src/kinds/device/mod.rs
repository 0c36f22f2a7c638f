//! `device`: a device that this user may open.

pub(crate) mod assess;
pub(crate) mod fix;
pub(crate) mod reason;
pub(crate) mod script;
pub(crate) mod words;

use crate::cause::About;
use crate::document::Fields;
use crate::guide::reading::{access, owned};
use crate::guide::vocabulary::Shape::{Text, Texts};
use crate::guide::vocabulary::{ACCESS, may};
use crate::guide::{Access, Kind};
use crate::kinds::entry::{Entry, SubjectEntry};
use crate::prelude::*;

/// `device = ...`
#[derive(Debug, Clone, PartialEq, Eq)]
#[non_exhaustive]
pub struct Device {
    /// Its path.
    pub path: String,
    /// Other paths that do as well, in order.
    pub or: Vec<String>,
    /// The vendor and the product that it says it is, where it hangs on a USB.
    pub usb: Option<String>,
    /// How it is to be opened.
    pub access: Access,
}

/// How guides say it.
pub(crate) const DEVICE: Entry<Device> = Entry {
    shape: Texts,
    further: &[ACCESS, may("usb", Text)],
    several: None,
    about: &[About::Socket],
    looks_ahead: false,
    read: |fields, _| device(fields),
};

impl SubjectEntry for Device {
    fn kind(&self) -> Kind {
        Kind::Device
    }

    fn title(&self) -> String {
        format!("device {}", self.path)
    }

    fn paths(&self) -> Vec<(&'static str, &str)> {
        vec![("device", self.path.as_str())]
    }
}

fn device(fields: &Fields<'_>) -> Option<Device> {
    let mut paths = owned(fields.some_texts("device")).into_iter();
    let hexadecimal = |text: &str| text.len() == 4 && text.bytes().all(|byte| byte.is_ascii_hexdigit());
    let usb = fields.read("usb", |text| {
        let right = text.split_once(':').is_some_and(|(vendor, product)| hexadecimal(vendor) && hexadecimal(product));
        right.then(|| text.to_lowercase()).ok_or("vendor and product of a device are written like \"2e8a:000c\"")
    });
    Some(Device { path: paths.next()?, or: paths.collect(), usb, access: access(fields) })
}
