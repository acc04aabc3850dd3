//! Draws against every draw there is, and what is said of them.

use cavesson_core::cattle::{Draw, DrawCow, DrawHorse, Go, Goes, Manner, Slots, WhyLeftOut, Work, draw};
use rand::{RngExt, SeedableRng};
use rand_chacha::ChaCha8Rng;

fn horse(worth: &[i64]) -> DrawHorse {
    DrawHorse {
        there: Slots { from: 1, to: 99 },
        helper: false,
        worth: worth.to_vec(),
        loss: 10,
        least_honour: 300.0,
        speed: [0.0, 20.0],
        manners: vec![Manner::Slow, Manner::Honest],
        not: vec![],
        after: vec![],
    }
}

fn cow(honour: &[u32]) -> DrawCow {
    DrawCow {
        manner: Manner::Honest,
        cost: 500,
        from: 1,
        rest: 1,
        honour: honour.to_vec(),
        speed: honour.iter().map(|_| 10.0).collect(),
    }
}

fn pen(slots: u16, horses: Vec<DrawHorse>, cows: Vec<DrawCow>) -> Draw {
    Draw { slots, bring: 9, change: 1, helper: vec![], horses, cows }
}

/// A small pen made up from a seed.
fn made_up(seed: u64) -> Draw {
    let mut rng = ChaCha8Rng::seed_from_u64(seed);
    let horses = (0..3)
        .map(|n| {
            let first = rng.random_range(3_000..12_000);
            let from = rng.random_range(1..=2);
            DrawHorse {
                there: Slots { from, to: rng.random_range(4..=5) },
                helper: rng.random_bool(0.3),
                worth: vec![first, first / 2],
                loss: rng.random_range(1..20),
                least_honour: f64::from(rng.random_range(200..700)),
                not: if rng.random_bool(0.2) { vec![1] } else { vec![] },
                after: if n == 2 && rng.random_bool(0.5) { vec![0] } else { vec![] },
                ..horse(&[])
            }
        })
        .collect();
    let cows = (0..3)
        .map(|_| {
            let honour = rng.random_range(400..950);
            DrawCow {
                rest: rng.random_range(0..3),
                from: rng.random_range(1..3),
                cost: rng.random_range(0..1_500),
                ..cow(&[honour, honour * 4 / 5, honour * 3 / 5])
            }
        })
        .collect();
    let helper = vec![Slots { from: 1, to: rng.random_range(2..6) }];
    Draw { bring: 2, helper, ..pen(5, horses, cows) }
}

/// The best of every draw of five slots.
fn best_of_all(problem: &Draw) -> i64 {
    let choices = problem.horses.len() * problem.cows.len() + 1;
    let go = |n: usize| {
        (n > 0).then(|| Go { horse: ((n - 1) / problem.cows.len()) as u8, cow: ((n - 1) % problem.cows.len()) as u8 })
    };
    let mut best = 0;
    for mut n in 0..choices.pow(problem.slots.into()) {
        let goes: Goes = (0..problem.slots)
            .map(|_| {
                let one = go(n % choices);
                n /= choices;
                one
            })
            .collect();
        best = best.max(problem.value(&goes).unwrap_or(0));
    }
    best
}

#[test]
fn a_small_draw_is_the_best_of_all_there_are() {
    for seed in 0..12 {
        let problem = made_up(seed);
        let (goes, value) = draw(&problem, Work { seed, tries: 20_000 });
        assert_eq!(problem.value(&goes).unwrap_or(0), value, "seed {seed}");
        assert_eq!(value, best_of_all(&problem), "seed {seed}");
    }
}

#[test]
fn the_same_seed_draws_the_same() {
    let problem = made_up(3);
    let work = Work { seed: 5, tries: 5_000 };
    assert_eq!(draw(&problem, work), draw(&problem, work));
}

/// Each rule broken on its own.
#[test]
fn what_breaks_a_rule_has_no_value() {
    let two = || vec![horse(&[9_000, 6_000]), horse(&[8_000])];
    let problem = pen(6, two(), vec![cow(&[800, 700, 600]), cow(&[900, 800])]);
    let go = |horse, cow| Some(Go { horse, cow });
    let value = |problem: &Draw, goes: &[Option<Go>]| problem.value(goes);
    // 9 and 6 for the goes of the first, 8 for the second's; honour 800, 900 and 700 of a thousand, half for each cow.
    let good = [go(0, 0), go(0, 1), None, go(1, 0)];
    assert_eq!(value(&problem, &good), Some(23_000 - 10 * (200 + 100 + 300) - 1_500));
    assert_eq!(value(&problem, &[go(0, 0), None, go(0, 0)]), Some(15_000 - 10 * (200 + 300) - 1_000));
    let broken: [&[Option<Go>]; 5] = [
        &[go(0, 0), go(1, 1)],                       // no pause between two horses
        &[go(0, 0), None, go(1, 1), None, go(0, 0)], // another horse within a visit
        &[go(0, 0), go(0, 0)],                       // the cow does not rest
        &[go(0, 1), None, go(0, 1)],                 // the cow's day is over
        &[go(1, 0), None, go(1, 1)],                 // one go more than the horse has
    ];
    for goes in broken {
        assert_eq!(value(&problem, goes), None, "{goes:?}");
    }
    let with = |change: fn(&mut Draw)| {
        let mut problem = problem.clone();
        change(&mut problem);
        value(&problem, &good)
    };
    assert_eq!(with(|p| p.bring = 1), None);
    assert_eq!(with(|p| p.cows[1].from = 3), None);
    assert_eq!(with(|p| p.horses[1].there.to = 3), None);
    assert_eq!(with(|p| p.horses[0].helper = true), None);
    assert_eq!(with(|p| p.horses[0].after = vec![1]), None);
    assert_eq!(with(|p| p.horses[0].not = vec![1]), None);
    assert_eq!(with(|p| p.horses[1].least_honour = 701.0), None);
    assert_eq!(with(|p| p.horses[0].speed = [0.0, 9.0]), None);
    assert_eq!(with(|p| p.cows[0].manner = Manner::Sour), None);
    assert!(with(|p| p.horses[1].after = vec![0]).is_some());
}

#[test]
fn it_is_said_why_a_horse_has_no_more_goes_and_which_cow_comes_second() {
    let why = |problem: &Draw, goes: &[Option<Go>], n: usize| {
        problem.left_out(goes).iter().find(|out| out.horse == n).map(|out| (out.missed, out.why))
    };
    let go = |horse, cow| Some(Go { horse, cow });
    let cows = vec![cow(&[800, 700, 600]), cow(&[900, 850, 800])];
    let mut problem = pen(4, vec![horse(&[9_000]), horse(&[8_000, 1_000])], cows);
    let goes = [go(0, 1), None, go(1, 0), None];
    assert_eq!(why(&problem, &goes, 0), None);
    assert_eq!(why(&problem, &goes, 1), Some((1, WhyLeftOut::NotWorth)), "a thousand, for 1 500 of honour and 500");
    // 1 000 for a hundred thousandths of honour, and the other horse's go comes second on its cow: 1 000 more.
    assert_eq!(problem.seconds(&goes)[0], Some((0, -2_000)));
    let alone = [go(0, 1), None, None, None];
    assert_eq!(problem.seconds(&alone)[0], Some((0, -1_000)));
    let shut = Draw { slots: 3, ..problem.clone() };
    assert_eq!(why(&shut, &goes[..3], 1), Some((1, WhyLeftOut::NoSlot)));
    problem.cows[1].rest = 9;
    assert_eq!(why(&problem, &goes, 1), Some((1, WhyLeftOut::NoCow)), "neither has rested");
    problem.horses[1].speed = [15.0, 20.0];
    assert_eq!(why(&problem, &[go(0, 1), None, None, None], 1), Some((2, WhyLeftOut::FitsNone)));
}
