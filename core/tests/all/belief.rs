//! What is believed from a record: against a slow and independent reference, and in what must always hold.

use cavesson_core::{
    belief::{BarnWeeks, Belief, Day, HorseWeek, LossSettings, ModelSettings, Observer, ReadingTally, Work},
    curriculum::{Course, Gait, Side, Sides, Step},
    response::{Answer, Rep, ResponseTime, Standard, Weight},
};
use proptest::prelude::*;
use rand::{RngExt, SeedableRng};
use rand_chacha::ChaCha8Rng;

use crate::support::{MET, MISSED, course, date, day, work};

const FIRST: usize = 0;

fn after(days: &[Day], on: u64) -> Belief {
    let course = course();
    let mut observer = Observer::new(&course, ModelSettings::default());
    days.iter().for_each(|d| observer.watch(d).unwrap());
    observer.belief(FIRST, Side::Left, date(on)).unwrap()
}

fn rep(answer: Answer, weight: Weight, seconds: f64) -> Rep {
    Rep { answer, weight, time: Some(ResponseTime::from_seconds(seconds).unwrap()) }
}

/// Simulated reps of a horse at `state` on the log-odds scale: the model's own story, told forward.
fn reps_at(rng: &mut ChaCha8Rng, state: f64, n: usize) -> Vec<Rep> {
    let s = ModelSettings::default().signs;
    let one = |rng: &mut ChaCha8Rng| {
        let p: f64 = rng.random_range(1e-9..1.0 - 1e-9);
        let u = state + (p / (1.0 - p)).ln();
        let answer = match u {
            u if u > 0.0 => Answer::Gave,
            u if u > -s.try_width => Answer::Tried { missing: None },
            _ => Answer::None,
        };
        let weight = (3.0 + s.weight_at_zero - s.weight_slope * u + s.weight_sd * normal(rng)).round().clamp(0.0, 7.0);
        let seconds = 2.0 * (s.time_at_zero - s.time_slope * u + s.time_sd * normal(rng)).exp();
        rep(answer, Weight::ALL[weight as usize], seconds.clamp(0.1, 60.0))
    };
    (0..n).map(|_| one(rng)).collect()
}

fn normal(rng: &mut ChaCha8Rng) -> f64 {
    rand_distr::Distribution::sample(&rand_distr::StandardNormal, rng)
}

/// The likelihood of a rep from a state, by summing over nearness in steps of a fiftieth: the model's definition, written a second time.
fn likelihood(rep: &Rep, state: f64) -> f64 {
    let s = ModelSettings::default().signs;
    let below = |z: f64| 0.5 * libm::erfc(-z / std::f64::consts::SQRT_2);
    let mut sum = 0.0;
    for i in 0..1100 {
        let u = -10.99 + 0.02 * f64::from(i);
        let right = match rep.answer {
            Answer::Gave => u > 0.0,
            Answer::Tried { .. } => u <= 0.0 && u > -s.try_width,
            Answer::None => u <= -s.try_width,
        };
        if !right {
            continue;
        }
        let e = (-(u - state)).exp();
        let reach = e / (1.0 + e).powi(2) * 0.02;
        let middle = 3.0 + s.weight_at_zero - s.weight_slope * u;
        let w = rep.weight as i32 as f64;
        let top = if rep.weight == Weight::Tug { 1.0 } else { below((w + 0.5 - middle) / s.weight_sd) };
        let bottom = if rep.weight == Weight::None { 0.0 } else { below((w - 0.5 - middle) / s.weight_sd) };
        let late = ((rep.time.unwrap().seconds() / 2.0).ln() - (s.time_at_zero - s.time_slope * u)) / s.time_sd;
        sum += reach * (top - bottom) * (-0.5 * late * late).exp();
    }
    sum
}

/// Importance sampling from the prior, 60 000 horses drawn: each with its own pace, ceiling and days, weighed by how well
/// it explains every rep. An independent reference for the filter, the mixture and the day effects.
#[test]
fn the_filter_agrees_with_importance_sampling() {
    let a = ModelSettings::default();
    let mut rng = ChaCha8Rng::seed_from_u64(7);
    let states = [-0.3, 0.4, 0.9, 1.2, 1.6];
    let days: Vec<Vec<Rep>> = states.map(|x| reps_at(&mut rng, x, 9)).into();
    let grid: Vec<f64> = (0..90).map(|i| -6.0 + 0.15 * f64::from(i)).collect();
    let table: Vec<Vec<f64>> = days
        .iter()
        .map(|reps| grid.iter().map(|x| reps.iter().map(|r| likelihood(r, *x).max(1e-12).ln()).sum()).collect())
        .collect();
    let at = |t: &[f64], x: f64| {
        let place = ((x + 6.0) / 0.15).clamp(0.0, 88.99);
        let i = place as usize;
        t[i] * (1.0 - place.fract()) + t[i + 1] * place.fract()
    };
    let share = |x: f64| {
        // What meets the standard from a state, by the same slow sum.
        let s = a.signs;
        let below = |z: f64| 0.5 * libm::erfc(-z / std::f64::consts::SQRT_2);
        (0..1000).map(|i| 0.02 * f64::from(i) + 0.01).fold(0.0, |sum, u| {
            let e = (-(u - x)).exp();
            let light = below((3.5 - (3.0 + s.weight_at_zero - s.weight_slope * u)) / s.weight_sd);
            let in_time = below(-(s.time_at_zero - s.time_slope * u) / s.time_sd);
            // Two reps in fifty-five are taken to go without seconds: ten at the usual fifth, and 45 seen with them.
            let missing = 2.0 / 55.0;
            sum + e / (1.0 + e).powi(2) * 0.02 * light * (missing + (1.0 - missing) * in_time)
        })
    };
    let shares: Vec<f64> = grid.iter().map(|x| share(*x)).collect();
    let (mut total, mut sum, mut squares, mut expected) = (0.0, 0.0, 0.0, 0.0);
    let top: f64 = table.iter().map(|t| t.iter().copied().fold(f64::MIN, f64::max)).sum();
    // How common each spread of days is in a barn of which nothing is known: even, ordinary and moody barns alike.
    let common = [0.16, 0.2467, 0.2567, 0.22, 0.1167];
    for _ in 0..60_000 {
        let pace =
            (a.learning.ln_pace.mean + a.learning.ln_pace.sd.hypot(a.learning.barn_pace_sd) * normal(&mut rng)).exp();
        let pace = pace.min(0.7);
        let mut p: f64 = rng.random_range(0.0..1.0);
        let spread = common
            .iter()
            .position(|c| {
                p -= c;
                p < 0.0
            })
            .unwrap_or(4);
        let lean = a.lean_sd * normal(&mut rng);
        let side = a.starts.rung_sd.hypot(a.starts.side_sd);
        let high = a.learning.ceiling_rung_sd.hypot(a.learning.ceiling_side_sd);
        let mut x = a.starts.level.mean + a.starts.level.sd * normal(&mut rng) - lean + side * normal(&mut rng);
        let ceiling =
            a.learning.ceiling.mean + a.learning.ceiling.sd * normal(&mut rng) - lean + high * normal(&mut rng);
        let mut ln = 0.0;
        for (n, t) in table.iter().enumerate() {
            if n > 0 {
                x += pace * (ceiling - x) + a.learning.chance_sd * normal(&mut rng);
            }
            let bad = rng.random_bool(a.days.bad_share);
            let day = if bad {
                a.days.bad.mean + a.days.bad.sd * normal(&mut rng)
            } else {
                a.days.spreads[spread] * normal(&mut rng)
            };
            ln += at(t, x + day);
        }
        let weight = (ln - top).exp();
        total += weight;
        sum += weight * x;
        squares += weight * x * x;
        expected += weight * at(&shares, x);
    }
    let mean = sum / total;
    let sd = (squares / total - mean * mean).sqrt();
    let days: Vec<Day> = days
        .into_iter()
        .enumerate()
        .map(|(n, reps)| day(n as u64, vec![Work::reps(FIRST, Side::Left, reps)]))
        .collect();
    // Nothing is lost here: losses have a test of their own.
    let sound = ModelSettings { losses: LossSettings { own_rate: 0.0, common_rates: [0.0; 3], ..a.losses }, ..a };
    let course = course();
    let mut observer = Observer::new(&course, sound);
    days.iter().for_each(|d| observer.watch(d).unwrap());
    let belief = observer.belief(FIRST, Side::Left, date(4)).unwrap();
    let (low, high) = (share(mean - 1.645 * a.caution * sd), share(mean + 1.645 * a.caution * sd));
    assert!((belief.share.mean - expected / total).abs() < 0.02, "{:?} against {}", belief.share, expected / total);
    assert!(
        (belief.share.low - low).abs() < 0.04 && (belief.share.high - high).abs() < 0.04,
        "{:?} {low} {high}",
        belief.share
    );
}

#[test]
fn ten_good_reps_in_one_day_are_not_ten_days() {
    let one = after(&[day(0, vec![work(FIRST, Side::Left, 20, 0)])], 0);
    let days: Vec<Day> = (0..10).map(|n| day(n, vec![work(FIRST, Side::Left, 2, 0)])).collect();
    let ten = after(&days, 9);
    assert!(ten.ready > one.ready + 0.1, "{} after ten days, {} after one", ten.ready, one.ready);
    assert_eq!((one.days, ten.days, ten.recent.reps), (1, 10, 6));
}

/// A rider who logs an egg every time tells no more than that the standard was met; 72 of 72 are ready all the same.
#[test]
fn hands_that_log_by_habit_are_not_read_too_finely() {
    let days: Vec<Day> = (0..6).map(|n| day(2 * n, vec![work(FIRST, Side::Left, 12, 0)])).collect();
    assert!(after(&days, 10).ready > 0.75);
}

/// A clock of half seconds writes 2.0 for anything up to 2.25: what is read is the stretch. The same horse and the same days, once on
/// a fine clock, once on a coarse one.
#[test]
fn a_coarse_clock_is_read_as_a_stretch() {
    let rounded = |tick: f64| {
        let mut rng = ChaCha8Rng::seed_from_u64(5);
        let on = |r: Rep| Rep {
            time: r.time.and_then(|t| ResponseTime::from_seconds((t.seconds() / tick).round().max(1.0) * tick).ok()),
            ..r
        };
        let days: Vec<Day> = (0..8)
            .map(|n| {
                let reps = reps_at(&mut rng, 1.4, 10).into_iter().map(on).collect();
                day(2 * n, vec![Work::reps(FIRST, Side::Left, reps)])
            })
            .collect();
        after(&days, 16)
    };
    let (fine, coarse) = (rounded(0.1), rounded(0.5));
    // What is written as 2.0 meets the standard: on the coarse clock more of the same reps do.
    assert!(coarse.share.mean > fine.share.mean, "{coarse:?} {fine:?}");
    assert!((coarse.share.mean - fine.share.mean).abs() < 0.08, "{coarse:?} {fine:?}");
}

/// What falls off on every rung of one side moves what is believed of that side's rungs that were not ridden, and leaves the other.
#[test]
fn a_loss_on_a_side_is_heard_on_its_other_rungs() {
    let step = |id: &str| (Step::plain(id, Gait::Stand, Sides::Each, Standard::default()), vec![]);
    let course = Course::new(vec![step("first"), step("other")]).unwrap();
    let mut observer = Observer::new(&course, ModelSettings::default());
    let both =
        |step: usize, left: (usize, usize)| [work(step, Side::Left, left.0, left.1), work(step, Side::Right, 9, 1)];
    for n in 0..14 {
        observer.watch(&day(2 * n, [both(FIRST, (9, 1)), both(1, (9, 1))].concat())).unwrap();
    }
    let share = |o: &Observer<'_>, step: usize, side: Side| o.belief(step, side, date(40)).unwrap().share.mean;
    let before = [Side::Left, Side::Right].map(|s| share(&observer, 1, s));
    for n in 14..18 {
        observer.watch(&day(2 * n, both(FIRST, (2, 8)).to_vec())).unwrap();
    }
    assert!(share(&observer, FIRST, Side::Left) < 0.6 && share(&observer, FIRST, Side::Right) > 0.8);
    let moved = [Side::Left, Side::Right].map(|s| share(&observer, 1, s));
    assert!(moved[0] < before[0] - 0.03, "{moved:?} {before:?}");
    assert!(moved[1] > before[1] - 0.03, "{moved:?} {before:?}");
}

/// Fifty sides that speak against each other on one day still come to figures.
#[test]
fn a_day_that_contradicts_itself_breaks_nothing() {
    let steps = (0..25).map(|n| (Step::plain(&format!("s{n}"), Gait::Stand, Sides::Each, Standard::default()), vec![]));
    let course = Course::new(steps.collect()).unwrap();
    let mut observer = Observer::new(&course, ModelSettings::default());
    let all = |left: (usize, usize), right: (usize, usize)| {
        let sides = |step| [work(step, Side::Left, left.0, left.1), work(step, Side::Right, right.0, right.1)];
        (0..25).flat_map(sides).collect::<Vec<Work>>()
    };
    (0..6).for_each(|n| observer.watch(&day(n, all((9, 1), (1, 9)))).unwrap());
    for (n, (left, right)) in (6..).zip([((0, 30), (30, 0)), ((30, 0), (0, 30))]) {
        observer.watch(&day(n, all(left, right))).unwrap();
        for side in [Side::Left, Side::Right] {
            let b = observer.belief(FIRST, side, date(n)).unwrap();
            let figures = [b.ready, b.under, b.share.mean, b.share.low, b.share.high];
            assert!(figures.iter().all(|f| (0.0..=1.0).contains(f)), "{b:?}");
        }
    }
}

/// One bad day of the whole horse is a bad day: it costs less than four of them, and less than the same reps on one side alone.
#[test]
fn a_bad_day_is_no_loss() {
    let course = course();
    let after_days = |bad: &[(usize, usize)]| {
        let mut observer = Observer::new(&course, ModelSettings::default());
        let rode = |l: usize, r: usize| vec![work(FIRST, Side::Left, l, 10 - l), work(FIRST, Side::Right, r, 10 - r)];
        (0..14).for_each(|n| observer.watch(&day(n, rode(9, 9))).unwrap());
        bad.iter().zip(14..).for_each(|(&(l, r), n)| observer.watch(&day(n, rode(l, r))).unwrap());
        observer.belief(FIRST, Side::Left, date(20)).unwrap()
    };
    let (good, one, alone, four) =
        (after_days(&[(9, 9)]), after_days(&[(4, 4)]), after_days(&[(4, 9)]), after_days(&[(4, 4); 4]));
    assert!(one.under < 0.4 && one.ready < good.ready, "{one:?}");
    assert!(alone.under > one.under, "{alone:?} {one:?}");
    assert!(four.under > 0.7, "{four:?}");
}

#[test]
fn a_lay_off_costs_and_makes_less_sure() {
    let days: Vec<Day> = (0..8).map(|n| day(2 * n, vec![work(FIRST, Side::Left, 10, 0)])).collect();
    let (fresh, idle) = (after(&days, 15), after(&days, 75));
    assert!(idle.ready < fresh.ready && idle.share.mean < fresh.share.mean);
    assert!(idle.share.high - idle.share.low > fresh.share.high - fresh.share.low);
}

#[test]
fn days_come_in_order() {
    let course = course();
    let mut observer = Observer::new(&course, ModelSettings::default());
    observer.watch(&day(5, vec![])).unwrap();
    assert!(observer.watch(&day(5, vec![])).is_err() && observer.watch(&day(4, vec![])).is_err());
    assert_eq!(observer.belief(FIRST, Side::Left, date(9)), None, "nothing is believed without reps");
}

#[test]
fn owning_the_need_gives_a_head_start() {
    let course = course();
    let start = |left: (usize, usize)| {
        let mut observer = Observer::new(&course, ModelSettings::default());
        for n in 0..6 {
            let both = vec![work(FIRST, Side::Left, left.0, left.1), work(FIRST, Side::Right, left.0, left.1)];
            observer.watch(&day(n, both)).unwrap();
        }
        observer.watch(&day(6, vec![work(1, Side::Both, 1, 1)])).unwrap();
        observer.belief(1, Side::Both, date(6)).unwrap().share.mean
    };
    assert!(start((10, 0)) > start((2, 8)) + 0.05);
}

fn days_of(days: &[(usize, usize)]) -> Vec<Day> {
    days.iter()
        .enumerate()
        .map(|(n, &(l, r))| {
            day(2 * n as u64, vec![work(FIRST, Side::Left, l, 10 - l), work(FIRST, Side::Right, r, 10 - r)])
        })
        .collect()
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(40))]

    /// Within three hundredths. A day that is far off is put down to the day itself, and says less of the horse than one that is
    /// only somewhat off. On the last day: what is better early on can also mean that the horse learned less since.
    #[test]
    fn more_good_evidence_never_lowers_ready(days in prop::collection::vec((0..10_usize, 0..10_usize), 1..8), more in 1..6_usize) {
        let on = 2 * days.len() as u64;
        let plain = days_of(&days);
        let mut better = plain.clone();
        better.last_mut().unwrap().work[0].reps.extend(vec![MET; more]);
        prop_assert!(after(&better, on).ready >= after(&plain, on).ready - 0.03, "{} {}", after(&better, on).ready, after(&plain, on).ready);
        let mut swapped = days.clone();
        let last = swapped.last_mut().unwrap();
        last.0 = (last.0 + more).min(10);
        prop_assert!(after(&days_of(&swapped), on).ready >= after(&plain, on).ready - 0.03, "swapped {} {}", after(&days_of(&swapped), on).ready, after(&plain, on).ready);
    }

    #[test]
    fn left_and_right_mirror(days in prop::collection::vec((0..10_usize, 0..10_usize), 1..8)) {
        let course = course();
        let believe = |mirrored: bool| {
            let mut observer = Observer::new(&course, ModelSettings::default());
            for (n, &(l, r)) in days.iter().enumerate() {
                let (l, r) = if mirrored { (r, l) } else { (l, r) };
                observer.watch(&days_of(&vec![(l, r); n + 1])[n]).unwrap();
            }
            let on = date(2 * days.len() as u64);
            [Side::Left, Side::Right].map(|s| observer.belief(FIRST, s, on).unwrap())
        };
        let ([l, r], [ml, mr]) = (believe(false), believe(true));
        for (a, b) in [(l, mr), (r, ml)] {
            prop_assert!((a.ready - b.ready).abs() < 1e-9 && (a.share.mean - b.share.mean).abs() < 1e-9, "{a:?} {b:?}");
        }
    }

    #[test]
    fn the_order_of_reps_in_a_day_does_not_matter(met in 0..9_usize, split in 0..9_usize, days in 1..5_u64) {
        let reps = |order: bool| {
            let mut reps = vec![MET; met];
            reps.extend(vec![MISSED; 9 - met]);
            if order { reps.reverse() }
            reps
        };
        let in_order: Vec<Day> = (0..days).map(|n| day(n, vec![Work::reps(FIRST, Side::Left, reps(false))])).collect();
        let shuffled: Vec<Day> = (0..days).map(|n| {
            let mut first = reps(true);
            let second = first.split_off(split);
            day(n, vec![Work::reps(FIRST, Side::Left, first), Work::reps(FIRST, Side::Left, second)])
        }).collect();
        let (a, b) = (after(&in_order, days), after(&shuffled, days));
        prop_assert!((a.ready - b.ready).abs() < 1e-9 && (a.share.mean - b.share.mean).abs() < 1e-9);
    }

    #[test]
    fn figures_stay_in_order(days in prop::collection::vec((0..10_usize, 0..10_usize), 1..8), later in 0..100_u64) {
        let b = after(&days_of(&days), 2 * days.len() as u64 + later);
        prop_assert!(0.0 <= b.share.low && b.share.low <= b.share.mean && b.share.mean <= b.share.high && b.share.high <= 1.0);
        prop_assert!((0.0..=1.0).contains(&b.ready) && (0.0..=1.0).contains(&b.under));
        prop_assert!(b.ready + b.under <= 1.0 + 1e-9);
    }
}

/// Another horse's record changes what is learned about the barn, and nothing else: a horse alone in it is not touched.
#[test]
fn other_horses_are_heard_through_the_barn_alone() {
    let course = course();
    let a = ModelSettings::default();
    let days = days_of(&[(3, 4), (5, 6), (6, 6), (8, 7)]);
    let watch = |days: &[Day]| {
        let mut observer = Observer::new(&course, a);
        days.iter().for_each(|d| observer.watch(d).unwrap());
        observer
    };
    let alone = watch(&days);
    let before = alone.belief(FIRST, Side::Left, date(8)).unwrap();
    let shown = |o: &Observer<'_>| HorseWeek { readings: ReadingTally::default(), evidence: o.evidence() };
    let known = |shown: &[(usize, HorseWeek)]| {
        let mut barn = BarnWeeks::new(&a, 2);
        barn.end_week(date(0), shown);
        barn.facts(0, date(60))
    };
    let mut with_nobody = alone.clone();
    with_nobody.set_barn(&known(&[(0, shown(&alone))]));
    let nobody = with_nobody.belief(FIRST, Side::Left, date(8)).unwrap();
    let figures = |b: &Belief| [b.ready, b.under, b.share.mean, b.share.low, b.share.high];
    for (told, alone) in figures(&nobody).into_iter().zip(figures(&before)) {
        assert!((told - alone).abs() < 1e-12, "{nobody:?} {before:?}");
    }
    // A barn of quick learners makes quick learning likelier here, within what the horse's own record allows.
    let quick = watch(&days_of(&[(0, 0), (6, 6), (9, 9), (10, 10), (10, 10)]));
    let mut with_quick = alone.clone();
    with_quick.set_barn(&known(&[(0, shown(&alone)), (1, shown(&quick))]));
    let told = with_quick.belief(FIRST, Side::Left, date(8)).unwrap();
    assert!((told.ready - before.ready).abs() < 0.2 && told.ready != before.ready);
    let ahead = |o: &Observer<'_>| o.ahead(FIRST, Side::Left, date(8), 30)[30];
    assert!((0.0..=1.0).contains(&ahead(&with_quick)) && ahead(&with_quick) >= told.ready);
}
