//! The table from probes to observations: nothing is asked twice, and a recording is this table on disk.

use crate::observation::Observation;
use crate::prelude::*;
use crate::probe::Probe;
use hashbrown::HashMap;
use serde::de::IgnoredAny;
use serde::{Deserialize, Deserializer, Serialize, Serializer};

/// An answer, and what it cost to get.
#[derive(Debug, Clone, Serialize, Deserialize)]
#[non_exhaustive]
pub struct Answer {
    /// The question.
    pub probe: Arc<Probe>,
    /// What was seen.
    pub observation: Arc<Observation>,
    /// How long it took, in milliseconds.
    #[serde(default)]
    pub elapsed_ms: u64,
}

/// All that is known about a machine.
///
/// It can be saved and read again: a list of answers, in the order of their questions. Questions and answers that this version does not know
/// are passed over and counted, so that what a later version saved can be read.
///
/// ```
/// use setup_ready_core::{known::Known, observation::{CoreState, Observation}, probe::Probe};
///
/// let known = Known::from_iter([(Probe::Cores, Observation::Cores(CoreState { online: 4, caps: Vec::new() }))]);
/// let saved = serde_json::to_string(&known).unwrap();
/// assert_eq!(saved, r#"[{"probe":"cores","observation":{"cores":{"online":4,"caps":[]}},"elapsed_ms":0}]"#);
/// let with_news = saved.replacen('[', r#"[{"probe":{"tides":{"sea":"north"}},"observation":{"tides":3}},"#, 1);
/// let again: Known = serde_json::from_str(&with_news).unwrap();
/// assert_eq!((again.len(), again.passed_over()), (1, 1));
/// ```
#[derive(Debug, Clone, Default)]
pub struct Known {
    answers: HashMap<Arc<Probe>, Answer>,
    passed_over: usize,
}

impl Known {
    /// What is known about a question.
    pub fn get(&self, probe: &Probe) -> Option<&Answer> {
        self.answers.get(probe)
    }

    /// Takes note of an answer. The first one stays: a question is asked once.
    pub fn learn(&mut self, probe: Arc<Probe>, observation: Observation, elapsed_ms: u64) {
        let answer = Answer { probe: Arc::clone(&probe), observation: Arc::new(observation), elapsed_ms };
        self.answers.entry(probe).or_insert(answer);
    }

    /// Every answer, in no particular order.
    pub fn iter(&self) -> impl Iterator<Item = &Answer> {
        self.answers.values()
    }

    /// How many answers were passed over when it was read, since this version does not know them.
    pub fn passed_over(&self) -> usize {
        self.passed_over
    }

    /// How many answers there are.
    pub fn len(&self) -> usize {
        self.answers.len()
    }

    /// Whether nothing is known.
    pub fn is_empty(&self) -> bool {
        self.answers.is_empty()
    }
}

impl FromIterator<(Probe, Observation)> for Known {
    fn from_iter<I: IntoIterator<Item = (Probe, Observation)>>(pairs: I) -> Self {
        let mut known = Self::default();
        for (probe, observation) in pairs {
            known.learn(Arc::new(probe), observation, 0);
        }
        known
    }
}

impl Serialize for Known {
    fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        let mut answers: Vec<&Answer> = self.answers.values().collect();
        answers.sort_by(|a, b| a.probe.cmp(&b.probe));
        serializer.collect_seq(answers)
    }
}

/// An answer, or something that only a later version knows.
#[derive(Deserialize)]
#[serde(untagged)]
enum Entry {
    Answer(Answer),
    Other(IgnoredAny),
}

impl<'de> Deserialize<'de> for Known {
    fn deserialize<D: Deserializer<'de>>(deserializer: D) -> Result<Self, D::Error> {
        let mut known = Self::default();
        for entry in Vec::<Entry>::deserialize(deserializer)? {
            match entry {
                Entry::Answer(Answer { probe, observation, elapsed_ms }) => {
                    let answer = Answer { probe: Arc::clone(&probe), observation, elapsed_ms };
                    // Which of two counts is nobody's to say: one of them was put in.
                    let first = known.answers.entry(probe).or_insert_with(|| answer.clone());
                    if first.observation != answer.observation {
                        return Err(serde::de::Error::custom("a question is answered twice, and not alike; ask for a new one"));
                    }
                }
                Entry::Other(_) => known.passed_over += 1,
            }
        }
        Ok(known)
    }
}
