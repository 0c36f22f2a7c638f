//! The notes of Debian's package manager.

use super::{Live, java};
use crate::read::{debian_release, debian_stanza, debian_sum};
use md5::{Digest, Md5};
use setup_ready_core::observation::Recorded;
use std::io::Read;
use std::path::Path;

/// Where dpkg keeps them (dpkg(1), FILES).
const FOLDER: &str = "/var/lib/dpkg";
/// More than any list of packages has, in bytes.
const LARGEST: u64 = 64 << 20;

fn text(path: &Path) -> Option<String> {
    let mut text = String::new();
    std::fs::File::open(path).ok()?.take(LARGEST).read_to_string(&mut text).ok()?;
    Some(text)
}

/// The version of an installed package, with the distribution's own numbers.
pub(super) fn version_of(live: &Live, name: &str) -> Option<String> {
    let status = live.kept.text_by(&Path::new(FOLDER).join("status"), |file| text(file).unwrap_or_default());
    let stanza = debian_stanza(&status, name)?;
    stanza.lines().find_map(|line| line.strip_prefix("Version: ")).map(ToOwned::to_owned)
}

/// The version of an installed package, where the file is its own and unchanged, and nobody has set it aside.
pub(super) fn of_package(live: &Live, real: &Path, (name, on_java): (&str, bool)) -> Option<Recorded> {
    let shown = real.to_str()?;
    // Read once a run.
    let status = live.kept.text_by(&Path::new(FOLDER).join("status"), |file| text(file).unwrap_or_default());
    let stanza = debian_stanza(&status, name)?;
    let version = debian_release(stanza)?;
    let diverted = text(&Path::new(FOLDER).join("diversions")).unwrap_or_default();
    if diverted.lines().any(|line| line == shown) {
        return None;
    }
    let arch = stanza.lines().find_map(|line| line.strip_prefix("Architecture: "))?;
    let info = Path::new(FOLDER).join("info");
    let sums = [format!("{name}.md5sums"), format!("{name}:{arch}.md5sums")];
    let sums = sums.iter().find_map(|file| text(&info.join(file)))?;
    if sum(real)? != debian_sum(&sums, shown)? {
        return None;
    }
    if !super::os::is_whole(real) {
        return None;
    }
    let mut runs_on = None;
    if on_java {
        java::libraries(real.parent()?.parent()?)?;
        runs_on = Some(java::on_java(live, ">= 1.8"));
    }
    Some(Recorded { version: version.to_owned(), file: format!("{FOLDER}/status"), runs_on })
}

/// The MD5 sum of a file, in hexadecimal digits: dpkg has no other, and it only tells what was changed by chance or by hand.
fn sum(path: &Path) -> Option<String> {
    let mut file = std::fs::File::open(path).ok()?;
    let mut hash = Md5::new();
    let mut buffer = vec![0; 1 << 16];
    loop {
        match file.read(&mut buffer).ok()? {
            0 => break,
            count => hash.update(buffer.get(..count)?),
        }
    }
    Some(crate::guide_file::hex(&hash.finalize()))
}
