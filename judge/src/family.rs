use cavesson_core::curriculum::{Side, StepIx};
use cavesson_sim::{Herd, Kind};

/// Horses that were made in one way, with what was true of them.
#[derive(Debug)]
pub struct Family {
    /// Its name.
    pub name: String,
    /// Its horses.
    pub herd: Herd,
    /// Mean log loss of an observer who knows how the horses were made, where that is known.
    pub ideal: Option<f64>,
}

impl Family {
    /// A herd of one kind of simulated horses, the same for the same seed.
    ///
    /// ```
    /// use cavesson_judge::Family;
    /// use cavesson_sim::KINDS;
    /// assert_eq!(Family::of_kind(&KINDS[0], 3, 1).herd.horses.len(), 3);
    /// ```
    pub fn of_kind(kind: &Kind, horses: u32, seed: u64) -> Family {
        Family { name: kind.name.to_owned(), herd: Herd::of(kind, horses, seed), ideal: None }
    }

    /// The share of reps that a step's standard asks for.
    pub(crate) fn standard(&self, step: StepIx) -> f64 {
        self.herd.course.step(step).standard.share.fraction()
    }

    /// The true share of a side, session by session; none before it was first ridden.
    pub(crate) fn truth(&self, horse: usize, step: StepIx, side: Side) -> &[Option<f64>] {
        self.herd.horses[horse].truth.get(&(step, side)).map_or(&[], Vec::as_slice)
    }

    /// The sessions with reps of a side.
    pub(crate) fn ridden(&self, horse: usize, step: StepIx, side: Side) -> Vec<usize> {
        let days = self.herd.horses[horse].days.iter().enumerate();
        days.filter(|(_, day)| {
            day.work.iter().any(|w| w.step == step && w.side == side && !(w.reps.is_empty() && w.counts.is_empty()))
        })
        .map(|(session, _)| session)
        .collect()
    }
}
