//! Faults that the record ties to something: a gait, a place, a rider, a bit, a side, a time in the ride, heat.
//!
//! What changes within a day (gait, side, time in the ride) is compared within each day, by the test of Cochran, Mantel and
//! Haenszel with each rung of each day as a stratum: a bad day or a hard rung takes both sides of the comparison. What is the same all day (place, rider,
//! bit, heat) is compared from day to day, by the rank sum of the days' shares (Wilcoxon; Mann and Whitney), since the reps of
//! one day are alike. Only faults that are commoner there are told. All comparisons that were looked at are counted: the
//! probabilities are corrected by Holm's step-down rule and told under 0.05.

use std::collections::{BTreeMap, BTreeSet};

use chrono::NaiveDate;

use crate::curriculum::{Gait, Place, Side};

/// Faults are looked for over so many days (common practice, no published source).
pub const FAULT_WINDOW_DAYS: u64 = 120;
/// The fault of a horse that answers before the ask.
pub const ANTICIPATES: &str = "anticipates";
/// Tag of an ask of both reins on which the left let go last.
pub const HANGS_LEFT: &str = "hangs-left";
/// Tag of an ask of both reins on which the right let go last.
pub const HANGS_RIGHT: &str = "hangs-right";

/// Whether the `n`th of so many reps, counted from 0, came late in its ride: in the last third.
///
/// ```
/// use cavesson_core::advice::is_late;
/// assert!(is_late(8, 12) && !is_late(7, 12));
/// ```
pub const fn is_late(n: usize, of: usize) -> bool {
    3 * n >= 2 * of
}

/// One rep as it was asked, with what stood around it.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct AskContext {
    /// The day.
    pub date: NaiveDate,
    /// The rung, by id.
    pub rung: String,
    /// The gait.
    pub gait: Gait,
    /// The side.
    pub side: Side,
    /// The place.
    pub place: Place,
    /// Who rode, by name.
    pub rider: String,
    /// The bit, where it was noted.
    pub bit: Option<String>,
    /// Whether it came in the last third of the ride's reps.
    pub late: bool,
    /// Whether the day was hot, where that was noted.
    pub hot: Option<bool>,
    /// Tags of the faults that showed.
    pub faults: Vec<String>,
}

/// What a fault is tied to.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord)]
pub enum Factor {
    /// A gait.
    Gait(Gait),
    /// A side.
    Side(Side),
    /// The last third of the ride.
    Late,
    /// A place.
    Place(Place),
    /// A rider.
    Rider(String),
    /// A bit.
    Bit(String),
    /// Heat.
    Heat,
}

impl Factor {
    /// In a sentence: `at the lope`.
    pub fn phrase(&self) -> String {
        match self {
            Factor::Gait(gait) => gait.phrase().to_owned(),
            Factor::Side(side) => format!("on the {side}"),
            Factor::Late => "late in the ride".to_owned(),
            Factor::Place(place) => place.phrase().to_owned(),
            Factor::Rider(name) => format!("with {name}"),
            Factor::Bit(bit) => format!("in the {bit}"),
            Factor::Heat => "in the heat".to_owned(),
        }
    }

    /// What it likely tells, beside what the fault itself does.
    pub const fn likely(&self) -> &'static str {
        match self {
            Factor::Gait(_) => "not soft yet at that gait: slow down a gait",
            Factor::Side(_) => "one-sided: more reps on that side",
            Factor::Late => "tired: shorter, and quit before it",
            Factor::Place(_) => "the place: start lower there, work where it is hard, rest elsewhere",
            Factor::Rider(_) => "the hand: seconds from the give to the release, straight pulls, hands high",
            Factor::Bit(_) => "the bit: fit, teeth, less of it",
            Factor::Heat => "the heat: shorter, walk, water",
        }
    }

    /// Whether it can differ within one day.
    const fn within_a_day(&self) -> bool {
        matches!(self, Factor::Gait(_) | Factor::Side(_) | Factor::Late)
    }

    /// Whether a rep is of it; `None` where that was not noted.
    fn has(&self, rep: &AskContext) -> Option<bool> {
        Some(match self {
            Factor::Gait(gait) => rep.gait == *gait,
            Factor::Side(_) if rep.side == Side::Both => return None,
            Factor::Side(side) => rep.side == *side,
            Factor::Late => rep.late,
            Factor::Place(place) => rep.place == *place,
            Factor::Rider(name) => rep.rider == *name,
            Factor::Bit(bit) => rep.bit.as_ref()? == bit,
            Factor::Heat => rep.hot?,
        })
    }
}

/// A fault and what it is tied to, with the counts behind it.
#[derive(Debug, Clone, PartialEq)]
pub struct FaultPattern {
    /// Tag of the fault.
    pub fault: String,
    /// What it is tied to.
    pub factor: Factor,
    /// Reps with the fault there, and all reps there.
    pub there: (u32, u32),
    /// Reps with the fault elsewhere, and all reps elsewhere.
    pub elsewhere: (u32, u32),
    /// Probability that chance shows as much, after correction for all that was looked at.
    pub p: f64,
    /// How many comparisons were looked at.
    pub looked_at: usize,
}

/// The fewest reps with a fault, and days with it, before it is looked at.
const FEWEST: (u32, usize) = (5, 3);
/// Corrected probability under which a pattern is told.
const TOLD: f64 = 0.05;

#[derive(Debug, Clone, Copy, Default)]
struct DayCount {
    there: (u32, u32),
    elsewhere: (u32, u32),
}

/// The patterns that chance does not explain as well, surest first.
pub fn fault_patterns(reps: &[AskContext]) -> Vec<FaultPattern> {
    let mut found: Vec<FaultPattern> = vec![];
    let faults = common_faults(reps);
    let strata = Strata::of(reps);
    let showed: Vec<Vec<bool>> =
        faults.iter().map(|fault| reps.iter().map(|r| r.faults.contains(fault)).collect()).collect();
    for factor in if faults.is_empty() { vec![] } else { factors(reps) } {
        let there: Vec<Option<bool>> = reps.iter().map(|r| factor.has(r)).collect();
        let within = factor.within_a_day();
        for (fault, showed) in faults.iter().zip(&showed) {
            let days = strata.counted(within, &there, showed);
            let z = if within { within_days(&days) } else { between_days(&days) };
            if let Some(z) = z {
                let (there, elsewhere) = totals(&days);
                let p = crate::belief::normal_upper_tail(z);
                let (fault, factor) = (fault.clone(), factor.clone());
                found.push(FaultPattern { fault, factor, there, elsewhere, p, looked_at: 0 });
            }
        }
    }
    // Of two that are as likely, in the order of the faults and then of what they are tied to.
    found.sort_by(|a, b| a.fault.cmp(&b.fault).then_with(|| a.factor.cmp(&b.factor)));
    holm(&mut found);
    found.retain(|f| f.p < TOLD);
    found
}

/// The places of reps among the days, and among the rungs of each day.
struct Strata {
    /// How many there are, and each rep's: of days, then of rungs of days.
    days: (usize, Vec<usize>),
    rungs: (usize, Vec<usize>),
}

impl Strata {
    fn of(reps: &[AskContext]) -> Strata {
        fn placed<'r, K: Ord>(reps: &'r [AskContext], key: impl Fn(&'r AskContext) -> K) -> (usize, Vec<usize>) {
            let mut places: BTreeMap<K, usize> = reps.iter().map(|r| (key(r), 0)).collect();
            places.values_mut().enumerate().for_each(|(n, place)| *place = n);
            (places.len(), reps.iter().map(|r| places[&key(r)]).collect())
        }
        Strata { days: placed(reps, |r| r.date), rungs: placed(reps, |r| (r.date, r.rung.as_str())) }
    }

    /// Counts by day, or within it by rung as well.
    fn counted(&self, within: bool, there: &[Option<bool>], showed: &[bool]) -> Vec<DayCount> {
        let (strata, place) = if within { &self.rungs } else { &self.days };
        let mut counts = vec![DayCount::default(); *strata];
        for ((place, there), showed) in place.iter().zip(there).zip(showed) {
            let Some(there) = there else { continue };
            let count = &mut counts[*place];
            let count = if *there { &mut count.there } else { &mut count.elsewhere };
            count.0 += u32::from(*showed);
            count.1 += 1;
        }
        counts
    }
}

/// Holm's step-down correction; sorts by probability.
fn holm(found: &mut [FaultPattern]) {
    let looked_at = found.len();
    found.sort_by(|a, b| a.p.total_cmp(&b.p));
    let mut least: f64 = 0.0;
    for (n, f) in found.iter_mut().enumerate() {
        least = least.max((f.p * (looked_at - n) as f64).min(1.0));
        f.p = least;
        f.looked_at = looked_at;
    }
}

fn common_faults(reps: &[AskContext]) -> Vec<String> {
    let mut counts: BTreeMap<&str, (u32, Vec<NaiveDate>)> = BTreeMap::new();
    for rep in reps {
        for fault in &rep.faults {
            let (n, days) = counts.entry(fault).or_default();
            *n += 1;
            if days.last() != Some(&rep.date) {
                days.push(rep.date);
            }
        }
    }
    let often = counts.into_iter().filter(|(_, (n, days))| *n >= FEWEST.0 && days.len() >= FEWEST.1);
    often.map(|(fault, _)| fault.to_owned()).collect()
}

/// Everything that at least one rep has and one has not.
fn factors(reps: &[AskContext]) -> Vec<Factor> {
    let mut all = vec![Factor::Late, Factor::Heat, Factor::Side(Side::Left), Factor::Side(Side::Right)];
    all.extend(Gait::ALL.map(Factor::Gait));
    all.extend(Place::ALL.map(Factor::Place));
    let riders: BTreeSet<&String> = reps.iter().map(|r| &r.rider).collect();
    let bits: BTreeSet<&String> = reps.iter().filter_map(|r| r.bit.as_ref()).collect();
    all.extend(riders.into_iter().cloned().map(Factor::Rider));
    all.extend(bits.into_iter().cloned().map(Factor::Bit));
    all.sort();
    all.retain(|f| reps.iter().any(|r| f.has(r) == Some(true)) && reps.iter().any(|r| f.has(r) == Some(false)));
    all
}

fn totals(days: &[DayCount]) -> ((u32, u32), (u32, u32)) {
    days.iter().fold(((0, 0), (0, 0)), |(t, e), d| {
        ((t.0 + d.there.0, t.1 + d.there.1), (e.0 + d.elsewhere.0, e.1 + d.elsewhere.1))
    })
}

/// Cochran, Mantel and Haenszel, with a correction for continuity: the standard score of more faults there.
fn within_days(days: &[DayCount]) -> Option<f64> {
    let (mut over, mut variance, mut strata) = (0.0, 0.0, 0);
    for d in days {
        let (n1, n2) = (f64::from(d.there.1), f64::from(d.elsewhere.1));
        let (n, faults) = (n1 + n2, f64::from(d.there.0 + d.elsewhere.0));
        if n1 == 0.0 || n2 == 0.0 || faults == 0.0 || faults == n {
            continue;
        }
        over += f64::from(d.there.0) - n1 * faults / n;
        variance += n1 * n2 * faults * (n - faults) / (n * n * (n - 1.0));
        strata += 1;
    }
    (strata >= FEWEST.1 && variance >= 1.0).then(|| (over - 0.5) / variance.sqrt())
}

/// The rank sum of the days' shares, with ties: the standard score of more faults there.
fn between_days(days: &[DayCount]) -> Option<f64> {
    let share = |c: (u32, u32)| (c.1 > 0).then(|| f64::from(c.0) / f64::from(c.1));
    let mut shares: Vec<(f64, bool)> = days
        .iter()
        .flat_map(|d| [share(d.there).map(|s| (s, true)), share(d.elsewhere).map(|s| (s, false))])
        .flatten()
        .collect();
    shares.sort_by(|a, b| a.0.total_cmp(&b.0));
    let n1 = shares.iter().filter(|s| s.1).count() as f64;
    let n2 = shares.len() as f64 - n1;
    let n = n1 + n2;
    let (mut ranks, mut ties, mut at) = (0.0, 0.0, 0);
    while at < shares.len() {
        let same = shares[at..].iter().take_while(|s| s.0 == shares[at].0).count();
        let rank = at as f64 + (same as f64 + 1.0) / 2.0;
        ranks += rank * shares[at..at + same].iter().filter(|s| s.1).count() as f64;
        ties += (same as f64).powi(3) - same as f64;
        at += same;
    }
    let variance = n1 * n2 / 12.0 * (n + 1.0 - ties / (n * (n - 1.0)).max(1.0));
    let over = ranks - n1 * (n + 1.0) / 2.0 - 0.5;
    (n1 >= 3.0 && n2 >= 3.0 && variance > 0.0).then(|| over / variance.sqrt())
}
