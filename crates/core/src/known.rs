//! The table from probes to observations: nothing is asked twice, and a recording is this table on disk.

use crate::observation::Observation;
use crate::prelude::*;
use crate::probe::Probe;
use hashbrown::HashMap;

/// An answer, and what it cost to get.
#[derive(Debug, Clone)]
pub struct Answer {
    /// The question.
    pub probe: Arc<Probe>,
    /// What was seen.
    pub observation: Arc<Observation>,
    /// How long it took, in milliseconds.
    pub elapsed_ms: u64,
}

/// All that is known about a machine.
#[derive(Debug, Clone, Default)]
pub struct Known {
    answers: HashMap<Arc<Probe>, Answer>,
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
