//! Why a cow and not another, and why a horse has no more goes.

use super::{Draw, Go, value::Tables};
use crate::words::words;

words! {
    "a reason";
    /// Why a horse has fewer goes than it might.
    pub enum WhyLeftOut {
        /// No cow fits it, however often it was worked.
        FitsNone,
        /// No slot is left for it.
        NoSlot,
        /// In such a slot no cow is left for it.
        NoCow,
        /// One would, and the draw would be worth no more.
        NotWorth,
    }
}

/// A horse with fewer goes than it might have.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct LeftOut {
    /// By index.
    pub horse: usize,
    /// How many it misses.
    pub missed: usize,
    /// Why.
    pub why: WhyLeftOut,
}

impl Draw {
    /// What goes are worth, in thousandths; none where they break a rule.
    pub fn value(&self, goes: &[Option<Go>]) -> Option<i64> {
        let tables = Tables::of(self);
        tables.value(goes, &mut tables.scratch())
    }

    /// For each slot with a go, the other cow that would do best in its place, all else the same, and the change of what the draw is
    /// worth; none where no other would keep the rules.
    pub fn seconds(&self, goes: &[Option<Go>]) -> Vec<Option<(usize, i64)>> {
        let tables = Tables::of(self);
        let mut scratch = tables.scratch();
        let Some(value) = tables.value(goes, &mut scratch) else { return vec![None; goes.len()] };
        let mut tried = goes.to_vec();
        let second = |at: usize| {
            let go = goes[at]?;
            let others = (0..self.cows.len()).filter(|cow| *cow != usize::from(go.cow));
            let mut best: Option<(usize, i64)> = None;
            for cow in others {
                tried[at] = Some(Go { cow: cow as u8, ..go });
                if let Some(worth) = tables.value(&tried, &mut scratch)
                    && best.is_none_or(|b| worth - value > b.1)
                {
                    best = Some((cow, worth - value));
                }
            }
            tried[at] = Some(go);
            best
        };
        (0..goes.len()).map(second).collect()
    }

    /// The horses with fewer goes than they might have, in order, and why.
    pub fn left_out(&self, goes: &[Option<Go>]) -> Vec<LeftOut> {
        let tables = Tables::of(self);
        let has = |horse: usize| goes.iter().flatten().filter(|go| usize::from(go.horse) == horse).count();
        let due = |(horse, of): (usize, &super::DrawHorse)| {
            let missed = of.worth.len() - has(horse).min(of.worth.len());
            (missed > 0).then(|| LeftOut { horse, missed, why: self.why(&tables, goes, horse) })
        };
        self.horses.iter().enumerate().filter_map(due).collect()
    }

    fn why(&self, tables: &Tables<'_>, goes: &[Option<Go>], horse: usize) -> WhyLeftOut {
        if tables.cows_of[horse].is_empty() {
            return WhyLeftOut::FitsNone;
        }
        let mut scratch = tables.scratch();
        let mut tried = goes.to_vec();
        let mut why = WhyLeftOut::NoSlot;
        for at in (0..goes.len()).filter(|at| goes[*at].is_none()) {
            for cow in 0..self.cows.len() {
                tried[at] = Some(Go { horse: horse as u8, cow: cow as u8 });
                if cow == 0 && !tables.in_order(&tried) {
                    break;
                }
                why = WhyLeftOut::NoCow;
                if tables.value(&tried, &mut scratch).is_some() {
                    return WhyLeftOut::NotWorth;
                }
            }
            tried[at] = None;
        }
        why
    }
}
