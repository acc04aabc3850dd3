//! A horse in the two-rein with a readiness of its own, which rises and has bad days; and one that braces on two reins, or does not.

use cavesson_core::{
    curriculum::Gait,
    tack::{Asker, HeadAt, PairedAsk, Reins, ShareMove, SharedRide, next_reins},
};
use chrono::{Days, NaiveDate};
use rand::{RngExt, SeedableRng};
use rand_chacha::ChaCha8Rng;
use rand_distr::{Distribution, LogNormal, Normal};

/// A horse's time in the two-rein.
#[derive(Debug, Clone)]
pub struct InTwoRein {
    /// Its rides, oldest first, until well after it was ready.
    pub rides: Vec<SharedRide>,
    /// What it truly carried on the day of each ride, 0 to 1.
    pub carried: Vec<f64>,
    /// The first day on which it could go straight up in the bridle.
    pub ready: NaiveDate,
}

/// Ready is what carries this much.
const READY: f64 = 0.95;
const MINUTES: u32 = 40;

/// Rides a horse in the two-rein from a day on, four times a week, by a rider who follows what it asks for.
///
/// Horses differ in how fast they come along: a year in the middle, half of them within a quarter of it; each speeds up and slows down.
/// One day in ten is a bad one.
pub fn ridden_in_two_rein(from: NaiveDate, seed: u64) -> InTwoRein {
    let mut rng = ChaCha8Rng::seed_from_u64(seed);
    // The parameters are constants that are never refused.
    let (Ok(horses), Ok(daily), Ok(pace_wanders)) =
        (LogNormal::new(0.0, 0.33), Normal::new(0.0, 0.05), Normal::new(0.0, 0.02))
    else {
        unreachable!("constants make distributions");
    };
    let a_day = 0.85 / (365.0 * horses.sample(&mut rng));
    let (mut carries, mut pace, mut share) = (0.1, 0.0_f64, 10_u8);
    let mut out = InTwoRein { rides: vec![], carried: vec![], ready: from };
    let (mut day, mut after) = (from, 0);
    while after < 20 && day < from + Days::new(4 * 365) {
        pace = 0.99 * pace + pace_wanders.sample(&mut rng);
        carries += a_day * pace.exp();
        if carries < READY {
            out.ready = day + Days::new(1);
        } else {
            after += 1;
        }
        if rng.random_bool(4.0 / 7.0) {
            let bad = if rng.random_bool(0.1) { rng.random_range(0.15..0.4) } else { 0.0 };
            let today = carries - bad + daily.sample(&mut rng);
            let ride = ride_of(day, &mut share, today, &mut rng);
            out.rides.extend(ride);
            out.carried.push(carries);
        }
        day = day + Days::new(1);
    }
    out
}

/// One ride: every five minutes the horse may ask for more or for less.
fn ride_of(on: NaiveDate, share: &mut u8, today: f64, rng: &mut ChaCha8Rng) -> Option<SharedRide> {
    let begins = *share;
    let mut moves = vec![];
    for minute in (5..MINUTES).step_by(5) {
        let off = today - f64::from(*share) / 100.0;
        let (to, asked) = if off > 0.07 && rng.random_bool(0.4) {
            (share.saturating_add(10).min(100), if rng.random_bool(0.5) { Asker::Bears } else { Asker::Roots })
        } else if off < -0.07 && rng.random_bool(0.6) {
            (share.saturating_sub(10), if rng.random_bool(0.5) { Asker::Scared } else { Asker::Tired })
        } else {
            continue;
        };
        *share = to;
        moves.push(ShareMove { at: minute * 60, bridle: to, asked: Some(asked) });
    }
    SharedRide::new(on, MINUTES * 60, begins, moves).ok()
}

/// Asks on one rein and on two at the jog, over weeks of rides with a dozen asks each, on a horse that braces so often on each.
pub fn asked_on_one_and_two(from: NaiveDate, rides: u64, on_one: f64, on_two: f64, seed: u64) -> Vec<PairedAsk> {
    let mut rng = ChaCha8Rng::seed_from_u64(seed);
    let mut asks: Vec<PairedAsk> = vec![];
    for ride in 0..rides {
        let on = from + Days::new(2 * ride);
        // Some days it braces more on either.
        let day: f64 = rng.random_range(-0.1..0.1);
        for _ in 0..12 {
            let reins = next_reins(&asks, on, Gait::Jog, seed ^ ride);
            let braces = if reins == Reins::Two { on_two } else { on_one };
            let braced = rng.random_bool((braces + day).clamp(0.0, 1.0));
            asks.push(PairedAsk { on, gait: Gait::Jog, reins, braced });
        }
    }
    asks
}

/// Pairs of asks on each ride of the way down.
const PAIRS_A_RIDE: usize = 3;
/// A brace on two reins goes from this share of asks to that on one over so many days.
const BRACES_AT_FIRST: f64 = 0.85;
const BRACES_ON_ONE: f64 = 0.12;
const GONE_AFTER: f64 = 80.0;

/// The test of a horse that steps down with a spoiled mouth, on the days that it was ridden: at the walk, and at the jog from the second
/// month on. Its brace on two reins goes over weeks, and its head comes down with it.
pub fn stepping_down(days: &[NaiveDate], seed: u64) -> Vec<(PairedAsk, HeadAt)> {
    let mut rng = ChaCha8Rng::seed_from_u64(seed);
    let mut asks: Vec<(PairedAsk, HeadAt)> = vec![];
    let Some(first) = days.first() else { return asks };
    for &on in days {
        let since = (on - *first).num_days() as f64;
        let left = (1.0 - since / GONE_AFTER).max(0.0);
        let gaits = if since < 30.0 { &[Gait::Walk][..] } else { &[Gait::Walk, Gait::Jog] };
        for &gait in gaits {
            let mut today: Vec<PairedAsk> = vec![];
            for _ in 0..2 * PAIRS_A_RIDE {
                let reins = next_reins(&today, on, gait, seed);
                let on_two = BRACES_ON_ONE + (BRACES_AT_FIRST - BRACES_ON_ONE) * left;
                // The jog comes later, and is braced on more.
                let harder = if gait == Gait::Jog { 0.15 } else { 0.0 };
                let braces = if reins == Reins::Two { on_two } else { BRACES_ON_ONE } + harder;
                let ask = PairedAsk { on, gait, reins, braced: rng.random_bool(braces.min(1.0)) };
                let head = match ask.braced {
                    true if rng.random_bool(0.7) => HeadAt::Up,
                    false if rng.random_bool(0.5) => HeadAt::Low,
                    _ => HeadAt::Level,
                };
                today.push(ask);
                asks.push((ask, head));
            }
        }
    }
    asks
}
