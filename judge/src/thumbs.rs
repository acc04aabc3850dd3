//! Rules of thumb that the calls are held beside: what a trainer does who counts on the fingers of one hand.

use cavesson_core::{
    curriculum::{Side, StepIx},
    response::Tally,
};
use chrono::{Days, NaiveDate};

use crate::{Calls, Family, figures::called};

/// The asks of a side by session, each met or not, of the sessions in which it was ridden.
fn sessions(family: &Family, horse: usize, step: StepIx, side: Side) -> Vec<(usize, Vec<bool>)> {
    let asked = family.herd.course.step(step);
    let days = family.herd.horses[horse].days.iter().enumerate();
    days.filter_map(|(session, day)| {
        let work = day.work.iter().filter(|w| w.step == step && w.side == side);
        let of = |tally: Tally| (0..tally.reps).map(move |n| n < tally.met);
        let met: Vec<bool> = work
            .flat_map(|w| {
                let reps = w.reps.iter().map(|r| asked.standard.is_met_by(r));
                reps.chain(w.counts.iter().flat_map(move |c| of(c.tally(asked.measure))))
            })
            .collect();
        (!met.is_empty()).then_some((session, met))
    })
    .collect()
}

fn share(met: &[bool]) -> f64 {
    met.iter().filter(|m| **m).count() as f64 / met.len().max(1) as f64
}

/// The last `n` reps, where there are as many.
fn last(days: &[(usize, Vec<bool>)], n: usize) -> Option<usize> {
    let all: Vec<bool> = days.iter().flat_map(|d| d.1.iter().copied()).collect();
    let from = all.len().checked_sub(n)?;
    Some(all[from..].iter().filter(|m| **m).count())
}

/// A rule on the days so far: the standard's share, and the session of the first advance where there was one.
type Rule = fn(&[(usize, Vec<bool>)], f64, usize) -> bool;

/// Rules for when to advance: three days running at the standard, eight of the last ten reps, ten sessions.
pub fn advance_thumbs(family: &Family) -> [(&'static str, Calls); 3] {
    let rules: [(&'static str, Rule); 3] = [
        ("three days running", |days, wanted, _| {
            days.len() >= 3 && days.iter().rev().take(3).all(|d| share(&d.1) >= wanted)
        }),
        ("eight of ten", |days, _, _| last(days, 10).is_some_and(|met| met >= 8)),
        ("ten sessions", |days, _, _| days.len() >= 10),
    ];
    rules.map(|(name, rule)| {
        let calls = sides(family).map(|key @ (horse, step, side)| {
            let days = sessions(family, horse, step, side);
            let first = (1..=days.len()).find(|&n| rule(&days[..n], family.standard(step), 0));
            (key, called(first.map(|n| days[n - 1].0), []))
        });
        (name, calls.collect())
    })
}

/// Rules for when to go back, after the first advance of other calls: two days running under the standard, three of the last five
/// reps short of it, and a CUSUM of the shares of days against the best three days running that the horse had.
pub fn back_thumbs(family: &Family, of: &Calls) -> [(&'static str, Calls); 3] {
    let rules: [(&'static str, Rule); 3] = [
        ("two days under", |days, wanted, _| {
            days.len() >= 2 && days.iter().rev().take(2).all(|d| share(&d.1) < wanted)
        }),
        ("three of five", |days, _, _| last(days, 5).is_some_and(|met| met <= 2)),
        ("against the best", |days, _, first| fell(days, first)),
    ];
    rules.map(|(name, rule)| {
        let advanced = of.iter().filter_map(|(&key, said)| Some((key, said.first?)));
        let calls = advanced.map(|(key @ (horse, step, side), first)| {
            let days = sessions(family, horse, step, side);
            let back = (first + 1..family.herd.horses[horse].days.len()).filter(|session| {
                let until = days.partition_point(|d| d.0 <= *session);
                rule(&days[..until], family.standard(step), first)
            });
            (key, called(Some(first), back))
        });
        (name, calls.collect())
    })
}

/// Whether the days after the first advance have fallen under the best three days running so far: a CUSUM with a slack of half a
/// standard deviation and a limit of four.
fn fell(days: &[(usize, Vec<bool>)], first: usize) -> bool {
    let (mut level, mut sum): (f64, f64) = (0.0, 0.0);
    for n in 0..days.len() {
        let (session, met) = &days[n];
        if level > 0.0 && *session > first {
            let z = (share(met) - level) / (level * (1.0 - level) / met.len() as f64 + 0.01).sqrt();
            sum = (sum - z.max(-3.0) - 0.5).max(0.0);
        }
        if n >= 2 {
            let three = days[n - 2..=n].iter().map(|d| share(&d.1)).sum::<f64>() / 3.0;
            level = level.max(three.clamp(0.02, 0.98));
        }
    }
    sum > 4.0
}

fn sides(family: &Family) -> impl Iterator<Item = (usize, StepIx, Side)> + '_ {
    let horses = family.herd.horses.iter().enumerate();
    horses.flat_map(|(horse, of)| of.truth.keys().map(move |&(step, side)| (horse, step, side)))
}

/// The day on which the straight line through the shares of the last three weeks meets the standard on every side, where it rises.
pub(crate) fn straight_line(family: &Family, horse: usize, session: usize, step: StepIx) -> Option<NaiveDate> {
    const DAYS: i64 = 21;
    const FURTHEST: f64 = 400.0;
    let days = &family.herd.horses[horse].days;
    let on = days[session].date;
    let meets = family.herd.course.step(step).sides.list().iter().map(|&side| {
        let lately = sessions(family, horse, step, side).into_iter().filter(|(s, _)| *s <= session);
        let points: Vec<(f64, f64)> = lately
            .map(|(s, met)| ((days[s].date - on).num_days(), share(&met)))
            .filter(|(day, _)| *day > -DAYS)
            .map(|(day, share)| (day as f64, share))
            .collect();
        let n = points.len() as f64;
        let (x, y) = (points.iter().map(|p| p.0).sum::<f64>() / n, points.iter().map(|p| p.1).sum::<f64>() / n);
        let slope = points.iter().map(|p| (p.0 - x) * (p.1 - y)).sum::<f64>()
            / points.iter().map(|p| (p.0 - x).powi(2)).sum::<f64>();
        let day = x + (family.standard(step) - y) / slope;
        (points.len() >= 3 && slope > 0.0 && day < FURTHEST).then_some(day.ceil().max(1.0) as u64)
    });
    let all: Option<Vec<u64>> = meets.collect();
    Some(on + Days::new(all?.into_iter().max()?))
}
