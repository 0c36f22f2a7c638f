//! What came of one requirement.

use crate::finding::Finding;
use crate::fix::Fix;
use crate::prelude::*;

/// What came of one requirement: its finding, with the fixes that fit this machine.
#[derive(Debug, Clone)]
#[non_exhaustive]
pub struct RequirementResult {
    /// Its index in the guide.
    pub index: usize,
    /// Its finding.
    pub finding: Arc<Finding>,
    /// What would settle it here, the first being the best.
    pub fixes: Arc<[Fix]>,
}

impl RequirementResult {
    /// What came of the requirement with this index.
    pub fn new(index: usize, finding: impl Into<Arc<Finding>>, fixes: Vec<Fix>) -> Self {
        Self { index, finding: finding.into(), fixes: fixes.into() }
    }
}
