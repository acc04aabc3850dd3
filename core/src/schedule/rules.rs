//! The hard rules and the score, straight from their definition: slow, and independent of the search.

use std::collections::{BTreeMap, BTreeSet};

use super::{DAYS, Ix, Ride, SHORT, WeekProblem};

/// A rule that some rides break.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Break {
    /// Its number, 1 to 9.
    pub rule: u8,
    /// What is wrong, in plain words.
    pub says: String,
}

/// The score of rides: worth, less the riders' costs, less [`SHORT`] for each ride that a horse is short of its least.
///
/// ```
/// use cavesson_core::schedule::{DAYS, Horse, Place, Ride, Rider, Span, WeekProblem, Work, score};
/// let morning = vec![Span { day: 0, from: 480, to: 720 }];
/// let week = WeekProblem {
///     slot_minutes: 15,
///     riders: vec![Rider { id: "Ada".into(), hours: morning.clone() }],
///     places: vec![Place { id: "arena".into(), at_once: 1, hours: morning }],
///     horses: vec![Horse { id: "Wren".into(), least: 1, most: 2, two_days: 180, week: 480, away: vec![] }],
///     works: vec![Work { id: "stop".into(), horse: 0, minutes: 45, load: 60, places: vec![0], riders: vec![(0, 0)], worth: vec![20], gap_days: 1, cows: 0 }],
///     heat: vec![],
///     cows: [0; DAYS],
///     before: vec![],
///     day_names: WeekProblem::numbered_days(),
///     fixed: vec![],
/// };
/// assert_eq!(score(&week, &[]), -25, "a ride short of its least");
/// assert_eq!(score(&week, &[Ride { work: 0, day: 0, start: 480, place: 0, rider: 0 }]), 20);
/// ```
pub fn score(week: &WeekProblem, rides: &[Ride]) -> i64 {
    let mut by_work: BTreeMap<Ix, usize> = BTreeMap::new();
    let mut by_horse = vec![0_i64; week.horses.len()];
    let mut score = 0;
    for r in rides {
        let work = &week.works[r.work];
        *by_work.entry(r.work).or_default() += 1;
        by_horse[work.horse] += 1;
        score -= work.riders.iter().find(|(rider, _)| *rider == r.rider).map_or(0, |(_, cost)| *cost);
    }
    score += by_work.iter().map(|(&w, &n)| week.works[w].worth.iter().take(n).sum::<i64>()).sum::<i64>();
    let short = |(h, n): (usize, &i64)| (i64::from(week.horses[h].least) - n).max(0);
    score - SHORT * by_horse.iter().enumerate().map(short).sum::<i64>()
}

/// Every rule that these rides break. A rule is not held against fixed rides alone.
///
/// ```
/// use cavesson_core::schedule::{DAYS, Horse, Place, Ride, Rider, Span, WeekProblem, Work, breaks};
/// let morning = vec![Span { day: 0, from: 480, to: 720 }];
/// let week = WeekProblem {
///     slot_minutes: 15,
///     riders: vec![Rider { id: "Ada".into(), hours: morning.clone() }],
///     places: vec![Place { id: "arena".into(), at_once: 1, hours: morning }],
///     horses: vec![Horse { id: "Wren".into(), least: 1, most: 2, two_days: 180, week: 480, away: vec![] }],
///     works: vec![Work { id: "stop".into(), horse: 0, minutes: 45, load: 60, places: vec![0], riders: vec![(0, 0)], worth: vec![20], gap_days: 1, cows: 0 }],
///     heat: vec![],
///     cows: [0; DAYS],
///     before: vec![],
///     day_names: WeekProblem::numbered_days(),
///     fixed: vec![],
/// };
/// let early = Ride { work: 0, day: 0, start: 420, place: 0, rider: 0 };
/// let broken = breaks(&week, &[early]);
/// assert!(broken.iter().all(|b| b.rule == 2) && broken[0].says.contains("outside the hours of Ada"));
/// ```
pub fn breaks(week: &WeekProblem, rides: &[Ride]) -> Vec<Break> {
    let mut out = vec![];
    let fixed: BTreeSet<&Ride> = week.fixed.iter().collect();
    for r in rides.iter().filter(|r| !fixed.contains(r)) {
        alone(week, r, &mut out);
    }
    let free = |some: &[&Ride]| some.iter().any(|r| !fixed.contains(r));
    for (n, a) in rides.iter().enumerate() {
        for b in &rides[n + 1..] {
            if a.rider == b.rider && meet(week, a, b) && free(&[a, b]) {
                out.push(of(
                    3,
                    format!(
                        "{} is on two horses at once on {}",
                        week.riders[a.rider].id,
                        week.day_names[usize::from(a.day)]
                    ),
                ));
            }
        }
        let then: Vec<&Ride> =
            rides.iter().filter(|b| b.place == a.place && b.day == a.day && covers(week, b, a.start)).collect();
        if then.len() > usize::from(week.places[a.place].at_once) && free(&then) {
            out.push(of(
                3,
                format!(
                    "{} holds {} at once on {}",
                    week.places[a.place].id,
                    then.len(),
                    week.day_names[usize::from(a.day)]
                ),
            ));
        }
    }
    for h in 0..week.horses.len() {
        let mine: Vec<&Ride> = rides.iter().filter(|r| week.works[r.work].horse == h).collect();
        horse(week, h, &mine, &free, &mut out);
    }
    for w in 0..week.works.len() {
        let mine: Vec<&Ride> = rides.iter().filter(|r| r.work == w).collect();
        work(week, w, mine, &free, &mut out);
    }
    for day in 0..DAYS {
        let then: Vec<&Ride> =
            rides.iter().filter(|r| usize::from(r.day) == day && week.works[r.work].cows > 0).collect();
        let cows: u32 = then.iter().map(|r| u32::from(week.works[r.work].cows)).sum();
        if cows > u32::from(week.cows[day]) && free(&then) {
            out.push(of(8, format!("{cows} cows on {}, {} can be worked", week.day_names[day], week.cows[day])));
        }
    }
    out
}

fn of(rule: u8, says: String) -> Break {
    Break { rule, says }
}

fn meet(week: &WeekProblem, a: &Ride, b: &Ride) -> bool {
    let end = |r: &Ride| r.start + week.works[r.work].minutes;
    a.day == b.day && a.start < end(b) && b.start < end(a)
}

fn covers(week: &WeekProblem, r: &Ride, at: u16) -> bool {
    r.start <= at && at < r.start + week.works[r.work].minutes
}

fn alone(week: &WeekProblem, r: &Ride, out: &mut Vec<Break>) {
    let work = &week.works[r.work];
    let (name, day, start, minutes) = (&work.id, r.day, r.start, work.minutes);
    let on = &week.day_names[usize::from(day)];
    if !r.start.is_multiple_of(week.slot_minutes) {
        out.push(of(1, format!("{name} does not start on a multiple of {} minutes", week.slot_minutes)));
    }
    let inside = |hours: &[super::Span]| hours.iter().any(|s| s.holds(day, start, minutes));
    if !work.riders.iter().any(|(rider, _)| *rider == r.rider) || !inside(&week.riders[r.rider].hours) {
        out.push(of(2, format!("{name} is outside the hours of {}, or not its ride", week.riders[r.rider].id)));
    }
    if !work.places.contains(&r.place) || !inside(&week.places[r.place].hours) {
        out.push(of(2, format!("{name} is outside the hours of {}, or not its place", week.places[r.place].id)));
    }
    if week.horses[work.horse].away.iter().any(|s| s.overlaps(day, start, minutes)) {
        out.push(of(4, format!("{} is away on {on}", week.horses[work.horse].id)));
    }
    if week.heat.iter().any(|h| h.span.overlaps(day, start, minutes) && work.load > h.most_load) {
        out.push(of(7, format!("{name} is too much in the heat of {on}")));
    }
}

fn horse(week: &WeekProblem, h: Ix, mine: &[&Ride], free: &dyn Fn(&[&Ride]) -> bool, out: &mut Vec<Break>) {
    let horse = &week.horses[h];
    let on = |days: &[usize]| -> Vec<&Ride> {
        mine.iter().copied().filter(|r| days.contains(&usize::from(r.day))).collect()
    };
    let load = |rides: &[&Ride]| rides.iter().map(|r| week.works[r.work].load).sum::<u32>();
    let eve = week.before.iter().filter(|b| b.day == -1 && week.works[b.work].horse == h).map(|b| b.load).sum::<u32>();
    for day in 0..DAYS {
        if on(&[day]).len() > 1 && free(&on(&[day])) {
            out.push(of(4, format!("{} is ridden twice on {}", horse.id, week.day_names[day])));
        }
        if day + 1 < DAYS && load(&on(&[day, day + 1])) > horse.two_days && free(&on(&[day, day + 1])) {
            out.push(of(
                5,
                format!("{} has too much on {} and {}", horse.id, week.day_names[day], week.day_names[day + 1]),
            ));
        }
    }
    if eve + load(&on(&[0])) > horse.two_days && free(&on(&[0])) {
        out.push(of(5, format!("{} has too much on {} after the day before", horse.id, week.day_names[0])));
    }
    if load(mine) > horse.week && free(mine) {
        out.push(of(5, format!("{} has a load of {} in the week", horse.id, load(mine))));
    }
    if mine.len() > usize::from(horse.most) && free(mine) {
        out.push(of(4, format!("{} has {} rides in the week", horse.id, mine.len())));
    }
}

fn work(week: &WeekProblem, w: Ix, mut mine: Vec<&Ride>, free: &dyn Fn(&[&Ride]) -> bool, out: &mut Vec<Break>) {
    let work = &week.works[w];
    mine.sort_by_key(|r| r.day);
    let earlier = week.before.iter().filter(|b| b.work == w).map(|b| i16::from(b.day)).max();
    let gap = i16::from(work.gap_days);
    if let (Some(earlier), Some(first)) = (earlier, mine.first())
        && i16::from(first.day) - earlier < gap
        && free(&mine.iter().copied().filter(|r| r.day == first.day).collect::<Vec<_>>())
    {
        out.push(of(6, format!("{} is too soon after the week before", work.id)));
    }
    for pair in mine.windows(2) {
        let near: Vec<&Ride> = mine.iter().copied().filter(|r| r.day == pair[0].day || r.day == pair[1].day).collect();
        if i16::from(pair[1].day) - i16::from(pair[0].day) < gap && free(&near) {
            out.push(of(
                6,
                format!(
                    "{} on {} and {} is too soon",
                    work.id,
                    week.day_names[usize::from(pair[0].day)],
                    week.day_names[usize::from(pair[1].day)]
                ),
            ));
        }
    }
    if mine.len() > work.worth.len() && free(&mine) {
        out.push(of(9, format!("{} has {} rides", work.id, mine.len())));
    }
}
