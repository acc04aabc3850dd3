//! Where a fault leads from the rung on which it showed: always down.

use std::collections::BTreeMap;

use super::{Curriculum, Fault};

/// How high each rung of a curriculum lies: one above the highest rung that it needs.
#[derive(Debug, Clone)]
pub struct Heights<'c> {
    curriculum: &'c Curriculum,
    of: BTreeMap<&'c str, u32>,
}

impl Curriculum {
    /// How high each rung lies. What the schools picked here pass by counts: it is there to go back to.
    pub fn heights(&self) -> Heights<'_> {
        let mut heights = Heights { curriculum: self, of: BTreeMap::new() };
        self.rungs().iter().for_each(|rung| _ = heights.find(&rung.id));
        heights
    }

    /// As [`Heights::remedies`].
    pub fn remedies(&self, fault: &Fault, at: &str) -> Vec<String> {
        self.heights().remedies(fault, at)
    }
}

impl<'c> Heights<'c> {
    fn find(&mut self, id: &'c str) -> u32 {
        if let Some(height) = self.of.get(id) {
            return *height;
        }
        let curriculum = self.curriculum;
        let Some(rung) = curriculum.rung(id) else { return 0 };
        let needs = curriculum.needs_with_passed(rung).filter(|n| !curriculum.is_left_out(&n.rung));
        let height = needs.map(|n| self.find(&n.rung) + 1).max().unwrap_or(0);
        self.of.insert(id, height);
        height
    }

    /// How high a rung lies: 0 for one that needs nothing.
    ///
    /// ```
    /// use cavesson_core::curriculum::Curriculum;
    /// let heights = Curriculum::standard().heights();
    /// assert_eq!(heights.of("G1"), Some(0));
    /// assert!(heights.of("T3") > heights.of("T2"));
    /// ```
    pub fn of(&self, rung: &str) -> Option<u32> {
        self.of.get(rung).copied()
    }

    /// The rungs to go to with a fault that showed on a rung, in the order in which the trade names them: only those that lie lower,
    /// and none where a smaller piece of the same rung is the remedy.
    ///
    /// ```
    /// use cavesson_core::curriculum::Curriculum;
    /// let curriculum = Curriculum::standard();
    /// let head_up = curriculum.fault("head-up").unwrap();
    /// // In the stop it may come from the poll; on the poll itself it comes from further down.
    /// assert!(curriculum.heights().remedies(head_up, "T2").contains(&"S6".to_owned()));
    /// assert!(!curriculum.heights().remedies(head_up, "S6").contains(&"S6".to_owned()));
    /// ```
    pub fn remedies(&self, fault: &Fault, at: &str) -> Vec<String> {
        let top = self.of(at).unwrap_or(0);
        let lower = |rung: &&String| self.of(rung).is_some_and(|height| height < top);
        fault.go_to.iter().filter(lower).filter(|rung| !self.curriculum.is_left_out(rung)).cloned().collect()
    }
}
