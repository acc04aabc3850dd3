//! Heading off and holding against motion that is followed step by step.

use cavesson_core::cattle::{
    Band, CowDay, HeadOff, Hold, Mark, RunningCow, RunningHorse, Start, Tires, Wear, WorkDone,
};
use proptest::prelude::*;

/// Seconds of a step.
const STEP: f64 = 1e-4;

fn cows() -> impl Strategy<Value = RunningCow> {
    let tires = prop::option::of((0.0..1.0_f64, 1.0..15.0_f64));
    (0.0..60.0_f64, 6.0..24.0_f64, tires).prop_map(|(at, speed, tires)| RunningCow {
        at,
        speed,
        tires: tires.map(|(of, half_seconds)| Tires { to: 2.0 + of * (speed - 2.0), half_seconds }),
    })
}

fn horses() -> impl Strategy<Value = RunningHorse> {
    let speeds = (4.0..16.0_f64, 0.0..20.0_f64, 2.0..10.0_f64, 5.0..20.0_f64);
    (-20.0..60.0_f64, 0.0..25.0_f64, 0.0..1.0_f64, speeds).prop_map(
        |(nose, across, delay, (speed, more, accel, brake))| RunningHorse {
            nose,
            across,
            speed,
            delay,
            accel,
            top: speed + more,
            brake,
        },
    )
}

/// Cow and horse followed step by step: the first moment at which the horse has run far enough, and where the cow's head is then.
fn followed(asked: &HeadOff, behind: f64, longest: f64) -> Option<(f64, f64)> {
    let HeadOff { cow, horse, .. } = *asked;
    let (mut head, mut ran, mut t) = (cow.at, 0.0_f64, 0.0);
    while t <= longest {
        if ran >= (head + behind - horse.nose).max(0.0).hypot(horse.across) {
            return Some((t, head));
        }
        let middle = t + STEP / 2.0;
        let of_cow = match cow.tires {
            None => cow.speed,
            Some(tires) => tires.to + (cow.speed - tires.to) * (-middle / tires.half_seconds).exp2(),
        };
        let gained = horse.accel * (middle - horse.delay).max(0.0);
        head += of_cow * STEP;
        ran += (horse.speed + gained).min(horse.top) * STEP;
        t += STEP;
    }
    None
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(64))]

    #[test]
    fn a_mark_is_made_where_the_motion_makes_it(cow in cows(), horse in horses(), behind in 0.0..16.0_f64) {
        let asked = HeadOff { cow, horse, long: 180.0, room: 12.0 };
        prop_assume!(horse.nose <= 168.0);
        let found = asked.mark(Mark { behind });
        let end = 168.0 - behind;
        let expected = followed(&asked, behind, 60.0).filter(|(_, head)| *head <= end);
        // Too close to call by steps.
        prop_assume!(found.start.abs() > 0.02);
        prop_assert_eq!(found.made.is_some(), expected.is_some(), "{:?}", found);
        prop_assert_eq!(found.made.is_some(), found.start >= 0.0);
        if let (Some(made), Some((t, head))) = (found.made, expected) {
            prop_assert!((made.t - t).abs() < 0.01, "{} and {t}", made.t);
            prop_assert!((made.cow - head).abs() < 0.2);
        }
    }

    /// The figures of what might be different are the edge: a little to either side it is made and is not.
    #[test]
    fn start_top_and_delay_are_edges(cow in cows(), horse in horses(), behind in 0.0..16.0_f64) {
        let asked = |cow, horse| HeadOff { cow, horse, long: 180.0, room: 12.0 }.mark(Mark { behind });
        let found = asked(cow, horse);
        let further = |by: f64| asked(RunningCow { at: cow.at + found.start + by, ..cow }, horse).start >= 0.0;
        prop_assert!(further(-0.01) && !further(0.01), "{}", found.start);
        if let Some(top) = found.least_top.filter(|top| *top > horse.speed + 0.02) {
            let with = |top| asked(cow, RunningHorse { top, ..horse }).start >= 0.0;
            prop_assert!(with(top + 0.01) && !with(top - 0.01), "{top}");
        }
        if let Some(delay) = found.most_delay.filter(|delay| *delay < found.left - 0.02) {
            let with = |delay: f64| asked(cow, RunningHorse { delay: delay.max(0.0), ..horse }).start >= 0.0;
            prop_assert!(with(delay - 0.005) && !with(delay + 0.005), "{delay}");
        }
    }

    /// Both brake step by step.
    #[test]
    fn a_stop_is_what_the_motion_comes_to(
        speed in 1.0..25.0_f64, off in -2.0..2.0_f64, delay in 0.0..0.8_f64, cow in 8.0..25.0_f64, horse in 8.0..25.0_f64
    ) {
        let held = Hold { cow_brake: cow, off, delay, horse_brake: horse }.at(speed);
        let (mut past, mut most, mut least, mut t) = (off, off, off, 0.0);
        let long = held.cow.1.max(held.horse.1);
        while t <= long {
            let middle = t + STEP / 2.0;
            let of_cow = (speed - cow * middle).max(0.0);
            let of_horse = (speed - horse * (middle - delay).max(0.0)).max(0.0);
            past += (of_horse - of_cow) * STEP;
            most = f64::max(most, past);
            least = f64::min(least, past);
            t += STEP;
        }
        prop_assert!((held.past - past).abs() < 0.01, "{} and {past}", held.past);
        prop_assert!((held.most - most).abs() < 0.01, "{} and {most}", held.most);
        prop_assert!((held.least - least).abs() < 0.01, "{} and {least}", held.least);
    }

    #[test]
    fn every_speed_up_to_the_most_holds(
        off in -2.0..2.0_f64, delay in 0.0..0.8_f64, cow in 8.0..25.0_f64, horse in 8.0..25.0_f64,
        short in 2.0..5.0_f64, long in 2.0..5.0_f64
    ) {
        let (hold, band) = (Hold { cow_brake: cow, off, delay, horse_brake: horse }, Band { short, long });
        match hold.most_speed(band) {
            Some(most) => {
                prop_assert!((1..100).all(|n| hold.holds(most * f64::from(n) / 100.0, band)), "{most}");
                prop_assert!(!hold.holds(most * 1.001 + 1e-6, band), "{most}");
            }
            None => prop_assert!((1..200).all(|n| hold.holds(f64::from(n), band))),
        }
    }
}

#[test]
fn a_cow_wears_with_works_and_mends_with_rest() {
    let how = Wear { rest_half_days: 4.0, wear_half_minutes: 20.0 };
    let start = Start { tried: 10.0, honoured: 9.0 };
    let work = |day| WorkDone { day, minutes: 20.0, tried: 0.0, honoured: 0.0 };
    let fresh = CowDay::of(&[], start, how);
    assert_eq!((fresh.honour(0.0), fresh.honour(20.0), fresh.honour(40.0)), (900, 450, 225));
    // Twenty minutes of four days ago are ten today; two of them are twenty.
    assert_eq!(CowDay::of(&[work(-4)], start, how).wear, 10.0);
    assert_eq!(CowDay::of(&[work(-4), work(-4)], start, how).honour(0.0), 450);
    // Turns on a worn cow count for less: half of eight, beside ten, of which nine and four were honoured.
    let worn = [work(0), WorkDone { day: 0, minutes: 0.0, tried: 8.0, honoured: 4.0 }];
    assert!((CowDay::of(&worn, start, how).rested - 13.0 / 14.0).abs() < 1e-12);
    let sure = Start { tried: 10.0, honoured: 10.0 };
    assert_eq!(CowDay::of(&[], sure, how).honour(0.0), 980, "no cow honours every turn");
}
