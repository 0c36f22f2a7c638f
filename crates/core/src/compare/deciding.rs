//! The facts that decide a difference: as few as suffice. What one machine answers is given to the other, fact by fact, and it is assessed again.

use crate::driver::Driver;
use crate::guide::Guide;
use crate::known::Known;
use crate::observation::Observation;
use crate::prelude::*;
use crate::probe::Probe;
use crate::selection::Selection;
use crate::verdict::Verdict;

/// Larger guides are not assessed as a whole for each fact of each difference.
const MOST_TOGETHER: usize = 300;

/// What comes of a requirement on the machine `other` where the answers to `exchanged` are those of `one`, with all that was asked for it.
///
/// What `other` was never asked is answered by `one` too: the question comes up only since something else was exchanged.
pub fn verdict_with(
    guide: &Arc<Guide>,
    index: usize,
    (one, other): (&Known, &Known),
    selection: &Selection,
    exchanged: &[Arc<Probe>],
) -> Option<(Verdict, Known)> {
    let mut driver = Driver::new(Arc::clone(guide), selection.clone()).ok()?;
    while let Some(probe) = driver.next_probe() {
        let first = if exchanged.contains(&probe) { one.get(&probe) } else { other.get(&probe).or_else(|| one.get(&probe)) };
        let nobody = || Observation::CouldNotLook("nobody asked that on these machines".to_owned());
        let observation = first.map_or_else(nobody, |answer| (*answer.observation).clone());
        driver.answer(&probe, observation);
    }
    let finished = driver.finish();
    let verdict = finished.settled.iter().find(|settled| settled.index == index)?.finding.verdict();
    Some((verdict, finished.known))
}

/// The questions whose answers decide why a requirement comes out otherwise on two machines: were those of `odd` answered as on `usual`, it would come out as
/// there; and none of them can be left out. `None` where no exchange of answers does that: then something else than the machine differs, such as what was
/// chosen to be checked.
pub fn deciding(
    guide: &Arc<Guide>,
    index: usize,
    usual: (&Known, &Selection),
    odd: (&Known, &Selection),
) -> Option<Vec<Arc<Probe>>> {
    let alone = |selection: &Selection| Selection { only: vec![index], stage: None, ..selection.clone() };
    // By itself it costs little; what depends on others that are chosen too, such as a disk that is shared, needs them all.
    let found = among(guide, index, (usual.0, &alone(usual.1)), (odd.0, &alone(odd.1)));
    if found.is_some() || guide.requirements.len() > MOST_TOGETHER {
        return found;
    }
    among(guide, index, usual, odd)
}

/// The same, for exactly what these selections choose.
fn among(guide: &Arc<Guide>, index: usize, usual: (&Known, &Selection), odd: (&Known, &Selection)) -> Option<Vec<Arc<Probe>>> {
    let (wanted, of_usual) = verdict_with(guide, index, (usual.0, usual.0), usual.1, &[])?;
    let (other, of_odd) = verdict_with(guide, index, (odd.0, odd.0), odd.1, &[])?;
    if wanted == other {
        return None;
    }
    let answer = |known: &Known, probe: &Probe| known.get(probe).map(|answer| Arc::clone(&answer.observation));
    // Only what was asked for this requirement, and is answered otherwise.
    let mut probes: Vec<Arc<Probe>> = of_usual.iter().chain(of_odd.iter()).map(|answer| Arc::clone(&answer.probe)).collect();
    probes.sort();
    probes.dedup();
    probes.retain(|probe| usual.0.get(probe).is_some() && answer(usual.0, probe) != answer(odd.0, probe));
    let comes = |exchanged: &[Arc<Probe>]| {
        verdict_with(guide, index, (usual.0, odd.0), odd.1, exchanged).is_some_and(|(verdict, _)| verdict == wanted)
    };
    if !comes(&probes) {
        return None;
    }
    // What comes late in a chain of questions is tried first: what it rests on tells more.
    let mut left = probes;
    loop {
        let before = left.len();
        for at in (0..before).rev() {
            let mut fewer = left.clone();
            fewer.remove(at);
            if comes(&fewer) {
                left = fewer;
            }
        }
        // One that could not be left out before may be now, where others are gone.
        if left.len() == before {
            return Some(left);
        }
    }
}
