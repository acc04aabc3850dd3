//! The practice pen: what keeps a cow and what loses it.

use cavesson_core::cattle::{HERD, Manner, PEN, Placed, Practice, flight_zone};

/// Works a cow for some seconds with a rider who places the horse by what is seen.
fn ridden(manner: Manner, seed: u32, seconds: f64, place: impl Fn(&Practice) -> [f64; 2]) -> Practice {
    let mut it = Practice::begin(seed, manner);
    while it.seconds() < seconds && !it.lost {
        let [x, y] = place(&it);
        it.go_on(Placed { x, y, steps: 2 });
        assert!(it.is_sound(), "{it:?}");
    }
    it
}

/// Beside the cow's head, a little ahead of where it goes, four fifths of its flight zone off.
fn well(it: &Practice) -> [f64; 2] {
    [it.cow.x + 0.35 * it.cow.vx + 0.5 * it.way, it.cow.y - 0.8 * flight_zone(it.manner)]
}

#[test]
fn a_horse_beside_the_head_holds_the_cow_and_one_that_stands_loses_it() {
    for seed in 0..20 {
        let held = ridden(Manner::Slow, seed, 40.0, well);
        assert!(!held.lost, "seed {seed}: {held:?}");
        assert!(f64::from(held.held) > 0.6 * f64::from(held.step), "seed {seed}: {held:?}");
        assert!(held.turns[0] > 3 && held.turns[1] * 2 > held.turns[0], "{held:?}");
        let stood = ridden(Manner::Slow, seed, 40.0, |it| [it.horse.x, it.horse.y]);
        assert!(stood.lost && stood.seconds() < 30.0, "seed {seed}: {stood:?}");
    }
}

#[test]
fn a_crowded_cow_backs_off_and_one_left_alone_drifts_home() {
    // It stands for its first second: whoever rides up to it pushes it back.
    let crowd = ridden(Manner::Honest, 3, 1.8, |it| [it.cow.x, it.cow.y - 3.0]);
    assert!(crowd.crowded > 10 && crowd.cow.y > 36.5, "{crowd:?}");
    let alone = ridden(Manner::Honest, 3, 60.0, |it| [it.cow.x + 0.35 * it.cow.vx, HERD]);
    assert!(alone.cow.y < 36.0, "it comes nearer to the herd: {alone:?}");
}

#[test]
fn the_same_seed_is_the_same_cow_however_the_steps_are_cut() {
    let mut whole = Practice::begin(9, Manner::BobAndWeave);
    let mut parts = whole.clone();
    for n in 0..20 {
        let (x, y) = (f64::from(n) * 4.0, 24.0);
        whole.go_on(Placed { x, y, steps: 10 });
        for steps in [3, 3, 4] {
            parts.go_on(Placed { x, y, steps });
        }
    }
    assert_eq!(whole, parts);
    assert_ne!(Practice::begin(1, Manner::Slow), Practice::begin(2, Manner::Slow));
}

#[test]
fn what_is_no_practice_is_not_gone_on_from() {
    let good = Practice::begin(1, Manner::Slow);
    let bad = |change: fn(&mut Practice)| {
        let mut it = good.clone();
        change(&mut it);
        it.is_sound()
    };
    assert!(good.is_sound());
    assert!(!bad(|it| it.cow.x = f64::NAN) && !bad(|it| it.horse.y = PEN[1] + 1.0) && !bad(|it| it.way = 0.5));
    assert!(!bad(|it| it.held = 1) && !bad(|it| it.turns = [0, 1]) && !bad(|it| it.step = u32::MAX));
    assert!(!bad(|it| it.cow.vx = 1e9) && !bad(|it| it.asked = vec![[0.0, 0.0]; 6]) && !bad(|it| it.stands = -1.0));
}
