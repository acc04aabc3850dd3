//! How the answers went over the days: first and best, hands changed, and faster gaits.

use cavesson_core::{
    advice::{DayAnswers, SidedAsk, first_and_best_in_words, gait_costs, hands_cost},
    curriculum::{Curriculum, Gait, Side},
    response::{Answer, Rep, ResponseTime, Standard, Weight},
};
use rand::{RngExt, SeedableRng};
use rand_chacha::ChaCha8Rng;

fn rep(answer: Answer, weight: Weight, seconds: f64) -> Rep {
    Rep { answer, weight, time: ResponseTime::from_seconds(seconds).ok() }
}

#[test]
fn a_day_is_its_first_ask_its_best_and_its_middle() {
    let standard = Standard::default();
    let reps = [
        rep(Answer::None, Weight::Hand, 6.0),
        rep(Answer::Tried { missing: None }, Weight::Fingers, 3.0),
        rep(Answer::Gave, Weight::Egg, 1.4),
        rep(Answer::Gave, Weight::Egg, 1.1),
    ];
    let day = DayAnswers::of(&standard, &reps).unwrap();
    assert_eq!((day.first, day.best), (reps[0], Some(reps[3])));
    assert_eq!(day.seconds, Some(1.4), "an ask without an answer has no seconds of its own");
    assert_eq!(day.weight, 0.5 * (Weight::Egg as u8 + Weight::Fingers as u8) as f64);
    let short = DayAnswers::of(&standard, &reps[..1]).unwrap();
    assert_eq!((short.best, short.seconds), (None, None));
    assert_eq!(DayAnswers::of(&standard, &[]), None);
}

#[test]
fn first_and_best_are_told_over_the_last_three_days() {
    let day = |first: Weight, best: Weight| {
        let reps = [rep(Answer::Gave, first, 2.4), rep(Answer::Gave, best, 1.0)];
        DayAnswers::of(&Standard::default(), &reps).unwrap()
    };
    let days = [
        day(Weight::Hand, Weight::Hand),
        day(Weight::Orange, Weight::Egg),
        day(Weight::Orange, Weight::Egg),
        day(Weight::Lemon, Weight::Feather),
    ];
    let told = first_and_best_in_words(Side::Left, &days);
    assert_eq!(told.as_deref(), Some("Left begins a day at an orange, 2.4 s and comes to an egg, 1.0 s"));
    assert_eq!(first_and_best_in_words(Side::Left, &days[..2]), None, "two days are too few");
    let never = DayAnswers::of(&Standard::default(), &[rep(Answer::None, Weight::Hand, 6.0)]).unwrap();
    assert_eq!(first_and_best_in_words(Side::Left, &[never; 3]), None, "no answer at the standard, no best");
}

fn alternating(met: impl Fn(bool) -> bool) -> Vec<SidedAsk> {
    // Four asks left, four right, in each of six rides.
    (0..48)
        .map(|n| {
            let side = if n / 4 % 2 == 0 { Side::Left } else { Side::Right };
            let changed = n % 4 == 0 && n % 8 != 0;
            SidedAsk { ride: n / 8, step: 0, side, met: met(changed) }
        })
        .collect()
}

#[test]
fn the_first_ask_after_a_change_of_hands_is_set_against_the_others() {
    let costs = hands_cost(&alternating(|changed| !changed), 0).unwrap();
    assert_eq!((costs.after, costs.others), ((0, 6), (42, 42)), "the first ask of a ride is after no change");
    assert!(costs.odds > 0.99);
    let words = "The first ask after a change of hands met 0 of 6, the others 42 of 42: the change costs";
    assert_eq!(costs.in_words().as_deref(), Some(words));
    let nothing = hands_cost(&alternating(|changed| changed), 0).unwrap();
    assert!(nothing.in_words().unwrap().ends_with("costs nothing"), "{nothing:?}");
    let few = hands_cost(&alternating(|_| true), 0).unwrap();
    assert_eq!(few.in_words(), None, "six of six say little");
    assert_eq!(hands_cost(&alternating(|_| true), 1), None, "another step");
    assert_eq!(hands_cost(&alternating(|_| true)[..16], 0), None, "two changes are too few");
}

/// The odds against drawing from both posteriors, as many times as shows two digits.
#[test]
fn the_odds_of_a_cost_are_those_of_two_beta_draws() {
    let mut rng = ChaCha8Rng::seed_from_u64(4);
    let cost = hands_cost(&alternating(|changed| !changed), 0).unwrap();
    let mixed: Vec<SidedAsk> =
        alternating(|_| true).into_iter().enumerate().map(|(n, a)| SidedAsk { met: n % 3 > 0, ..a }).collect();
    for cost in [cost, hands_cost(&mixed, 0).unwrap()] {
        let mut draw = |(met, all): (u32, u32)| {
            let beta = rand_distr::Beta::new(0.5 + f64::from(met), 0.5 + f64::from(all - met)).unwrap();
            rng.sample::<f64, _>(beta)
        };
        let less = (0..20_000).filter(|_| draw(cost.after) < draw(cost.others)).count() as f64 / 20_000.0;
        assert!((less - cost.odds).abs() < 0.015, "{less} against {cost:?}");
    }
}

#[test]
fn a_faster_gait_costs_what_its_rungs_lose() {
    let course = Curriculum::standard().course();
    let step = |id: &str| course.find(id).unwrap();
    let shares = [
        (step("S6@walk"), Side::Both, 0.9),
        (step("S6@jog"), Side::Both, 0.7),
        (step("G7@walk"), Side::Left, 0.8),
        (step("G7@walk"), Side::Right, 0.9),
        (step("G7@jog"), Side::Left, 0.7),
        (step("T1"), Side::Both, 0.2),
    ];
    let costs = gait_costs(&course, &shares);
    let [cost] = costs.as_slice() else { panic!("{costs:?}") };
    assert_eq!((cost.from, cost.to, cost.rungs), (Gait::Walk, Gait::Jog, 2));
    assert!((cost.share - 0.15).abs() < 1e-12, "the right side of the one-rein stop was not ridden at the jog");
    assert_eq!(cost.in_words(), "At the jog 15 in 100 fewer meet the standard than at the walk, over 2 rungs");
    assert!(gait_costs(&course, &shares[..1]).is_empty());
}
