//! The best week of one horse, when the rides of all others stand. A horse has one ride a day at most, so that its days want
//! nothing of each other's hours: what is left is which work on which day, under its loads, gaps and numbers. That is searched
//! whole.

use crate::schedule::{DAYS, WeekProblem, Work};

/// Works of one horse beyond which it is not searched whole.
pub(super) const MOST_WORKS: usize = 12;

/// What the days of a horse's week offer and allow.
pub(super) struct HorseWeek<'w> {
    pub works: Vec<&'w Work>,
    /// For each work and day: what a ride of it there costs, riders and what it pushes out taken together; none where it cannot be.
    pub costs: Vec<[Option<f64>; DAYS]>,
    /// Rides that stand already, by work in the list; works that are not in the list count as `None`.
    pub fixed: Vec<(usize, Option<usize>)>,
    /// Loads that stand already, the day before the week first.
    pub loads: [u32; DAYS + 1],
    pub least: usize,
    /// What each ride counts for that it is short of its least.
    pub short_cost: i64,
    pub most: usize,
    pub two_days: u32,
    pub week: u32,
}

/// Which work on which day, by place in the list.
pub(super) type Days = [Option<usize>; DAYS];

struct Search<'o, 'w> {
    horse_week: &'o HorseWeek<'w>,
    days: Days,
    counts: Vec<usize>,
    loads: [u32; DAYS + 1],
    rides: usize,
    best: (f64, Days),
    ahead: Ahead,
}

/// The most that some rides on the days from each on can add, horses short of their least aside: by day and number of rides.
type Ahead = [[f64; DAYS + 1]; DAYS + 1];

/// The best days for a horse.
pub(super) fn best_days(horse_week: &HorseWeek<'_>) -> Days {
    let mut counts = vec![0; horse_week.works.len()];
    for (_, w) in &horse_week.fixed {
        if let Some(w) = w {
            counts[*w] += 1;
        }
    }
    let mut search = Search {
        horse_week,
        days: [None; DAYS],
        ahead: ahead(horse_week, &counts),
        counts,
        loads: horse_week.loads,
        rides: horse_week.fixed.len(),
        best: (f64::NEG_INFINITY, [None; DAYS]),
    };
    search.from(0, 0.0);
    search.best.1
}

fn ahead(horse_week: &HorseWeek<'_>, counts: &[usize]) -> Ahead {
    let worth = |w: usize, day: usize| {
        let first = horse_week.works[w].worth.get(counts[w]).copied().unwrap_or(0);
        horse_week.costs[w][day].map(|c| first as f64 - c)
    };
    let mut tops: Vec<f64> = vec![];
    let mut ahead = [[0.0; DAYS + 1]; DAYS + 1];
    for day in (0..DAYS).rev() {
        tops.push((0..horse_week.works.len()).filter_map(|w| worth(w, day)).fold(f64::NEG_INFINITY, f64::max));
        tops.sort_by(|a, b| b.total_cmp(a));
        for n in 0..DAYS {
            ahead[day][n + 1] = ahead[day][n] + tops.get(n).copied().unwrap_or(f64::NEG_INFINITY);
        }
    }
    ahead
}

impl Search<'_, '_> {
    fn from(&mut self, day: usize, value: f64) {
        if day == DAYS {
            if value > self.best.0 {
                self.best = (value, self.days);
            }
            return;
        }
        if value + self.most_from(day) <= self.best.0 {
            return;
        }
        let busy = self.horse_week.fixed.iter().any(|(d, _)| *d == day);
        if !busy && self.rides < self.horse_week.most {
            // What adds most first: what comes later is then cut off sooner.
            let mut adds = [(f64::NEG_INFINITY, 0); MOST_WORKS];
            let mut n = 0;
            for w in 0..self.horse_week.works.len() {
                if let Some(a) = self.adds(w, day) {
                    adds[n] = (a, w);
                    n += 1;
                }
            }
            adds[..n].sort_unstable_by(|a, b| b.0.total_cmp(&a.0));
            for &(adds, w) in &adds[..n] {
                let load = self.horse_week.works[w].load;
                self.days[day] = Some(w);
                self.counts[w] += 1;
                self.rides += 1;
                self.loads[day + 1] += load;
                self.from(day + 1, value + adds);
                self.loads[day + 1] -= load;
                self.rides -= 1;
                self.counts[w] -= 1;
                self.days[day] = None;
            }
        }
        self.from(day + 1, value);
    }

    /// The most that the days from this one on can add.
    fn most_from(&self, day: usize) -> f64 {
        let most = self.horse_week.most.saturating_sub(self.rides).min(DAYS - day);
        let short = self.horse_week.least.saturating_sub(self.rides);
        let with = |n: usize| self.ahead[day][n] + (self.horse_week.short_cost * short.min(n) as i64) as f64;
        (0..=most).map(with).fold(f64::NEG_INFINITY, f64::max)
    }

    /// What a ride of a work on a day adds, where it may be.
    fn adds(&self, w: usize, day: usize) -> Option<f64> {
        let (horse_week, work) = (self.horse_week, self.horse_week.works[w]);
        let cost = horse_week.costs[w][day]?;
        let worth = *work.worth.get(self.counts[w])?;
        let over = |side: usize| self.loads[side] + work.load > horse_week.two_days;
        if over(day) || (day + 2 <= DAYS && over(day + 2)) {
            return None;
        }
        if self.loads[1..].iter().sum::<u32>() + work.load > horse_week.week {
            return None;
        }
        let gap = usize::from(work.gap_days);
        let mine = self.days[..day].iter().enumerate().filter(|(_, x)| **x == Some(w)).map(|(d, _)| d);
        let stands = horse_week.fixed.iter().filter(|(_, x)| *x == Some(w)).map(|(d, _)| *d);
        if mine.chain(stands).any(|d| d.abs_diff(day) < gap) {
            return None;
        }
        let short = if self.rides < horse_week.least { horse_week.short_cost } else { 0 };
        Some((worth + short) as f64 - cost)
    }
}

/// The works of each horse.
pub(super) fn works_of(week: &WeekProblem) -> Vec<Vec<usize>> {
    let mut out = vec![vec![]; week.horses.len()];
    for (w, work) in week.works.iter().enumerate() {
        out[work.horse].push(w);
    }
    out
}
