//! Whether a fault got rarer where it showed, once a rung that the trade names for it was worked.

use std::collections::{BTreeMap, BTreeSet};

use chrono::NaiveDate;

use super::{AskContext, capitalised, compare::less_often};
use crate::curriculum::{Curriculum, Fault};

/// Times that a fault shows before it is looked for (common practice, no published source).
const SHOWED: usize = 2;
/// Rides of the remedy after which the fault is looked for again (common practice, no published source).
const RIDES: usize = 3;
/// Asks before and after from which on the two are compared.
const ASKS: u32 = 6;
/// From these odds on a fault is told to be rarer,
const RARER: f64 = 0.9;
/// and under these the remedy to have changed nothing.
const NO_RARER: f64 = 0.6;

/// What came of a remedy.
#[derive(Debug, Clone, PartialEq)]
pub struct Cure {
    /// Tag of the fault.
    pub fault: String,
    /// The rung on which it showed, by id.
    pub at: String,
    /// The rung that was worked for it, by id.
    pub remedy: String,
    /// Days on which that was ridden, up to the first ask after.
    pub rides: usize,
    /// Asks in which the fault showed, and all asks: before the remedy.
    pub before: (u32, u32),
    /// The same after three rides of it.
    pub after: (u32, u32),
    /// How likely the fault is rarer now, 0 to 1, under Jeffreys priors.
    pub rarer: f64,
}

/// What came of remedies, latest work first, for every fault and rung on which it showed.
///
/// ```
/// use cavesson_core::{advice::cures, curriculum::Curriculum};
/// assert!(cures(Curriculum::standard().faults(), &[]).is_empty());
/// ```
pub fn cures(faults: &[Fault], asked: &[AskContext]) -> Vec<Cure> {
    let mut by_rung: BTreeMap<&str, Vec<&AskContext>> = BTreeMap::new();
    for ask in asked {
        by_rung.entry(&ask.rung).or_default().push(ask);
    }
    let mut out: Vec<(NaiveDate, Cure)> = vec![];
    for fault in faults {
        let shown = by_rung.iter().filter(|(_, asks)| asks.iter().any(|a| a.faults.contains(&fault.tag)));
        for (at, there) in shown {
            let remedies = fault.go_to.iter().filter(|r| r != at);
            let each = remedies.filter_map(|remedy| cure(there, by_rung.get(remedy.as_str())?, fault, remedy));
            // Of several remedies the one that was worked most.
            if let Some((third, mut cure)) = each.max_by_key(|(_, c)| c.rides) {
                cure.rarer = less_often(cure.after, cure.before);
                out.push((third, cure));
            }
        }
    }
    out.sort_by(|a, b| b.0.cmp(&a.0).then_with(|| a.1.fault.cmp(&b.1.fault)).then_with(|| a.1.at.cmp(&b.1.at)));
    out.into_iter().map(|(_, cure)| cure).collect()
}

/// The counts around one remedy, with the day of its third ride: by the asks on the rung of the fault, and those on the remedy's.
fn cure(there: &[&AskContext], on_remedy: &[&AskContext], fault: &Fault, remedy: &str) -> Option<(NaiveDate, Cure)> {
    let mut showed: Vec<NaiveDate> = there.iter().filter(|a| a.faults.contains(&fault.tag)).map(|a| a.date).collect();
    showed.sort_unstable();
    let seen = *showed.get(SHOWED - 1)?;
    let worked: BTreeSet<NaiveDate> = on_remedy.iter().map(|a| a.date).filter(|day| *day > seen).collect();
    let (first, third) = (*worked.first()?, *worked.iter().nth(RIDES - 1)?);
    let count = |of: &dyn Fn(NaiveDate) -> bool| {
        let asks = there.iter().filter(|a| of(a.date));
        asks.fold((0, 0), |(n, all), a| (n + u32::from(a.faults.contains(&fault.tag)), all + 1))
    };
    let (before, after) = (count(&|day| day < first), count(&|day| day > third));
    if before.1 < ASKS || after.1 < ASKS {
        return None;
    }
    let again = there.iter().map(|a| a.date).filter(|day| *day > third).min()?;
    let rides = worked.iter().filter(|day| **day <= again).count();
    let (fault, at, remedy) = (fault.tag.clone(), there.first()?.rung.clone(), remedy.to_owned());
    Some((third, Cure { fault, at, remedy, rides, before, after, rarer: 0.0 }))
}

impl Cure {
    /// "After 3 rides of pivot: shoulder out in 1 of 12 asks of stop at the walk, before in 6 of 14: it helped".
    pub fn in_words(&self, curriculum: &Curriculum) -> Option<String> {
        let name = |id: &str| Some(curriculum.rung(id)?.name.to_lowercase());
        let fault = &curriculum.fault(&self.fault)?.name;
        let came = match self.rarer {
            p if p >= RARER => "it helped",
            p if p < NO_RARER => "no rarer, so the cause is likely another",
            _ => "too early to say",
        };
        Some(capitalised(&format!(
            "after {} rides of {}: {fault} in {} of {} asks of {}, before in {} of {}: {came}",
            self.rides,
            name(&self.remedy)?,
            self.after.0,
            self.after.1,
            name(&self.at)?,
            self.before.0,
            self.before.1,
        )))
    }
}

/// Remedies that a remedy with no record yet weighs as: half of them helped (common practice, no published source).
const UNTRIED: f64 = 4.0;

/// How often each remedy helped against each fault in a barn, all its horses together.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct RemedyRecord {
    /// By tag of the fault and id of the rung: how often it was tried, and how often it helped, each as likely as it is.
    tried: BTreeMap<(String, String), (u32, f64)>,
}

impl RemedyRecord {
    /// From what came of remedies.
    ///
    /// ```
    /// use cavesson_core::advice::RemedyRecord;
    /// assert_eq!(RemedyRecord::of(&[]).weight("head-up", "S2"), 1.0, "nothing is known, nothing is changed");
    /// ```
    pub fn of(cures: &[Cure]) -> RemedyRecord {
        let mut record = RemedyRecord::default();
        for cure in cures {
            let sum = record.tried.entry((cure.fault.clone(), cure.remedy.clone())).or_default();
            *sum = (sum.0 + 1, sum.1 + cure.rarer);
        }
        record
    }

    /// How often a remedy was tried against a fault, and about how often it helped.
    pub fn of_remedy(&self, fault: &str, rung: &str) -> (u32, f64) {
        self.tried.get(&(fault.to_owned(), rung.to_owned())).copied().unwrap_or_default()
    }

    /// The weight of a remedy against a fault: over 1 where it helped more often than not, 1 where nobody tried it.
    pub fn weight(&self, fault: &str, rung: &str) -> f64 {
        let (tried, helped) = self.of_remedy(fault, rung);
        2.0 * (0.5 * UNTRIED + helped) / (UNTRIED + f64::from(tried))
    }
}
