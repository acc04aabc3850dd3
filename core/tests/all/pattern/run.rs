//! The quickest run against closed forms.

use std::f64::consts::PI;

use cavesson_core::{
    curriculum::Gait,
    pattern::{
        FOOT, FootOf, Hand, Horse, Pocket, SetUp, Split, costs, fitted_to_splits, quickest_pockets, quickest_run,
    },
};

use super::{barrel, feet, runner, standard};

fn near(a: f64, b: f64, share: f64) {
    assert!((a - b).abs() <= share * b.abs(), "{a} is not {b}");
}

fn half_turn(distance: f64) -> SetUp {
    SetUp {
        start: feet(4.96, 0.0),
        finish: feet(-4.96, 0.0),
        barrel_radius: 0.96 * FOOT,
        barrels: vec![barrel(0.0, distance, Hand::Left, 4.0)],
    }
}

/// A trapezoid of speed: up from v0, along at the top, down to the speed of the bend, sqrt(grip r), and the same back out
/// (kinematics of constant acceleration, any text).
#[test]
fn a_straight_is_a_trapezoid_of_speed() {
    let horse = runner();
    let d = 150.0 * FOOT;
    let r = 4.96 * FOOT;
    let bend = (horse.side_grip * r).sqrt();
    let (v0, top) = (horse.start_speed, horse.top_speed);
    let up = (top * top - v0 * v0) / (2.0 * horse.speed_up);
    let down = (top * top - bend * bend) / (2.0 * horse.slow_down);
    let up_again = (top * top - bend * bend) / (2.0 * horse.speed_up);
    let way_in = (top - v0) / horse.speed_up + (d - up - down) / top + (top - bend) / horse.slow_down;
    let way_out = (top - bend) / horse.speed_up + (d - up_again) / top;
    let run = quickest_run(&half_turn(150.0), &horse).unwrap();
    near(run.slowest(0), bend, 1e-9);
    near(run.turn_time(0), PI * r / bend, 1e-6);
    near(run.time(), way_in + PI * r / bend + way_out, 1e-4);
    near(run.rates[0].before, down, 1e-9);
    assert!(run.points.iter().all(|p| p.speed <= top + 1e-9));
}

/// A straight that is too short for the top speed: a triangle, its peak where the two ramps meet.
#[test]
fn a_short_straight_is_a_triangle_of_speed() {
    let horse = Horse { start_speed: 6.0, ..runner() };
    let d = 40.0 * FOOT;
    let bend2 = horse.side_grip * 4.96 * FOOT;
    let (up, down) = (horse.speed_up, horse.slow_down);
    let gained = (bend2 + 2.0 * down * d - 36.0) / (2.0 * (up + down));
    let run = quickest_run(&half_turn(40.0), &horse).unwrap();
    near(run.rates[0].before, d - gained, 1e-9);
    let peak = (36.0 + 2.0 * up * gained).sqrt();
    let fastest = run.points[..run.spots[0][0]].iter().map(|p| p.speed).fold(0.0, f64::max);
    near(fastest, peak, 2e-3);
}

/// From a stand a horse is on its way at once: t = sqrt(2 s / a).
#[test]
fn from_a_stand() {
    let horse = Horse { start_speed: 0.0, ..runner() };
    let run = quickest_run(&half_turn(60.0), &horse).unwrap();
    let p = run.points.iter().find(|p| p.s > 3.0).unwrap();
    near(p.t, (2.0 * p.s / horse.speed_up).sqrt(), 1e-6);
}

/// Common practice of the trade: the standard pattern is run in some 17 to 18 s, and walked in over a minute.
#[test]
fn gaits_take_the_times_that_they_take() {
    let seconds = |gait| quickest_run(&standard(), &Horse::of_gait(gait).unwrap()).unwrap().time();
    let run = seconds(Gait::Run);
    assert!((16.5..19.5).contains(&run), "{run}");
    assert!(seconds(Gait::Lope) > 25.0 && seconds(Gait::Jog) > 45.0 && seconds(Gait::Walk) > 75.0);
}

#[test]
fn a_foot_of_pocket_costs_time_and_gives_speed() {
    let all = costs(&standard(), &runner()).unwrap();
    assert_eq!(all.len(), 3 * 4 + 2);
    let mut pockets = 0.0;
    for cost in &all {
        match cost.of {
            FootOf::Pocket { .. } => pockets += cost.more,
            FootOf::Early { .. } => assert!(cost.more > 0.02, "a stride early costs: {cost:?}"),
            FootOf::SpeedIn => assert!(cost.more < 0.0 && cost.less.unwrap() > 0.0),
            FootOf::Grip => assert!(cost.more < 0.0 && cost.slowest > 0.0),
        }
    }
    // The gradient adds up: a foot more at every spot at once costs what each costs alone, nearly.
    let mut wider = standard();
    wider.barrels.iter_mut().for_each(|b| b.pocket = super::pocket(5.0));
    let at_once =
        quickest_run(&wider, &runner()).unwrap().time() - quickest_run(&standard(), &runner()).unwrap().time();
    assert!((at_once - pockets).abs() < 0.15, "{at_once} against {pockets}");
}

/// Against all of a coarse grid, the one-spot-at-a-time search finds as quick a pattern.
#[test]
fn the_quickest_pockets_are_the_best_of_a_grid() {
    let mut set_up = standard();
    set_up.barrels.truncate(1);
    let least = Pocket { entry: 4.0 * FOOT, back: 4.0 * FOOT, exit: 3.0 * FOOT };
    let found = quickest_run(&quickest_pockets(&set_up, &runner(), least).unwrap(), &runner()).unwrap().time();
    let step = |n: usize| n as f64 * FOOT / 2.0;
    let mut best = f64::INFINITY;
    for (a, b, c) in (0..8).flat_map(|a| (0..8).flat_map(move |b| (0..8).map(move |c| (a, b, c)))) {
        set_up.barrels[0].pocket =
            Pocket { entry: least.entry + step(a), back: least.back + step(b), exit: least.exit + step(c) };
        best = best.min(quickest_run(&set_up, &runner()).unwrap().time());
    }
    assert!(found <= best * 1.001, "{found} against {best}");
}

/// A horse that is known is found again from its times.
#[test]
fn a_horse_is_fitted_to_its_times() {
    let usual = Horse::of_gait(Gait::Run).unwrap();
    let truth = Horse { top_speed: 9.4, slow_down: 4.2, side_grip: 7.6, start_speed: 9.1 * 9.4 / 10.4, ..usual };
    let pass = |set_up: SetUp| {
        let run = quickest_run(&set_up, &truth).unwrap();
        let behind = run.spots.iter().map(|s| Some(run.points[s[1]].t)).collect();
        Split { set_up, behind, finish: Some(run.time()) }
    };
    let mut small = standard();
    small.barrels.iter_mut().for_each(|b| b.at = b.at * 0.7);
    let splits = [pass(standard()), pass(small.clone()), pass(standard()), pass(small)];
    let fitted = fitted_to_splits(&usual, &splits);
    assert_eq!(fitted.times, 16);
    assert!(fitted.off < 0.05, "{}", fitted.off);
    near(fitted.horse.top_speed, truth.top_speed, 0.03);
    near(fitted.horse.side_grip, truth.side_grip, 0.12);
    let unknown = fitted_to_splits(&usual, &[]);
    assert_eq!(unknown.horse, usual);
    assert!(fitted.spread[0] < unknown.spread[0] / 2.0 && (unknown.spread[0] - 0.2).abs() < 1e-9);
}
