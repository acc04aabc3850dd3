//! The intake ride: what it asks, in which order, and what it makes of the answers. Common practice, no published source, where
//! nothing else is named.

use cavesson_core::{
    curriculum::{Course, Curriculum, Gait, Side, StepIx},
    intake::{Claim, Intake, MOST_ASKS, Next, NoMore, Told},
    response::Outcome,
};
use proptest::prelude::*;

fn course() -> Course {
    Curriculum::standard().course()
}

fn told(step: StepIx, side: Side, gave: bool) -> Told {
    Told { step, side, outcome: if gave { Outcome::Gave } else { Outcome::None }, met: gave }
}

/// Rides until nothing more is asked, answering by a rule.
fn ridden(course: &Course, most: usize, answer: impl Fn(StepIx, Side) -> bool) -> (Vec<Told>, NoMore) {
    let mut answers = vec![];
    loop {
        match Intake::new(course, &[], &[], &answers, most).next() {
            Next::Ask(ask) => answers.push(told(ask.step, ask.side, answer(ask.step, ask.side))),
            Next::Done(why) => return (answers, why),
        }
    }
}

#[test]
fn the_brake_comes_first_and_at_each_gait_before_anything_else_there() {
    let course = course();
    let (answers, why) = ridden(&course, MOST_ASKS, |_, _| true);
    assert!(matches!(why, NoMore::Enough | NoMore::Placed) && answers.len() <= MOST_ASKS);
    let brake = |gait| course.find_at("G7", gait).unwrap();
    assert_eq!((answers[0].step, answers[1].step), (brake(Gait::Walk), brake(Gait::Walk)));
    for (n, asked) in answers.iter().enumerate() {
        let step = course.step(asked.step);
        for gait in [Gait::Walk, Gait::Jog, Gait::Lope].into_iter().filter(|g| *g <= step.gait) {
            let before = |side| answers[..n].iter().any(|a| a.step == brake(gait) && a.side == side);
            let is_brake = asked.step == brake(gait);
            assert!(is_brake || (before(Side::Left) && before(Side::Right)), "{} before its brake", step.id);
        }
    }
    let faster = answers.iter().any(|a| course.step(a.step).gait > Gait::Walk);
    assert!(faster, "a horse that gives everything is soon asked at a faster gait");
}

#[test]
fn a_horse_without_a_brake_is_not_ridden_on_and_one_without_it_at_the_jog_stays_at_the_walk() {
    let course = course();
    let (answers, why) = ridden(&course, MOST_ASKS, |_, side| side == Side::Left);
    assert_eq!((answers.len(), why), (3, NoMore::NoBrake), "the right is asked twice and refused");
    let jog = course.find_at("G7", Gait::Jog).unwrap();
    let (answers, _) = ridden(&course, MOST_ASKS, |step, _| step != jog);
    let faster = answers.iter().filter(|a| course.step(a.step).gait >= Gait::Jog);
    assert!(faster.map(|a| a.step).all(|step| step == jog), "nothing is asked at the jog besides");
}

#[test]
fn a_hole_and_a_stiff_side_are_named() {
    let course = course();
    let hip = course.find("S4@walk").unwrap();
    let mut answers = vec![];
    for id in ["G7@walk", "G10@walk", "S1", "S4@stand", "S5@stand", "S2", "S3"] {
        let step = course.find(id).unwrap();
        let sides = course.step(step).sides.list().iter();
        answers.extend(sides.flat_map(|&side| [told(step, side, true); 2]));
    }
    answers.extend([told(hip, Side::Left, true), told(hip, Side::Left, true)]);
    answers.extend([told(hip, Side::Right, false); 3]);
    let found = Intake::new(&course, &[], &[], &answers, MOST_ASKS).placing();
    assert!(found.holes.iter().any(|h| h.step == hip && h.side == Side::Right), "{:?}", found.holes);
    assert!(!found.holes.iter().any(|h| h.step == hip && h.side == Side::Left));
    assert!(found.owned.contains(&course.find("S1").unwrap()) && !found.owned.contains(&hip));

    let right_lags: Vec<Told> = ["G8@stand", "S1", "S2", "S3", "S4@stand"]
        .iter()
        .flat_map(|id| {
            let step = course.find(id).unwrap();
            [told(step, Side::Left, true), told(step, Side::Right, false), told(step, Side::Right, false)]
        })
        .collect();
    assert_eq!(Intake::new(&course, &[], &[], &right_lags, MOST_ASKS).placing().stiff, Some(Side::Right));
}

#[test]
fn a_claim_counts_a_little_and_less_than_what_is_shown() {
    let course = course();
    let pivot = course.find("R1").unwrap();
    let owned =
        |claims: &[Claim], today: &[Told]| Intake::new(&course, claims, &[], today, MOST_ASKS).owned(pivot).unwrap();
    let (plain, claimed) = (owned(&[], &[]), owned(&[Claim { step: pivot }], &[]));
    assert!(claimed > plain + 0.03, "{claimed} {plain}");
    let refused = [told(pivot, Side::Left, false), told(pivot, Side::Left, false)];
    assert!(owned(&[Claim { step: pivot }], &refused) < plain, "two refusals weigh more than a word");
    // What was answered on an earlier ride is evidence as well, and its brake is no brake of today.
    let walk = course.find("G7@walk").unwrap();
    let earlier = [told(walk, Side::Left, true), told(walk, Side::Right, true)];
    let next = Intake::new(&course, &[], &earlier, &[], MOST_ASKS).next();
    assert!(matches!(next, Next::Ask(ask) if ask.step == walk && ask.for_safety));
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 12, ..ProptestConfig::default() })]

    /// Whatever a horse answers, the ride ends, is safe, and asks no side of a step more often than it may.
    #[test]
    fn any_intake_ride_ends(seed in any::<u64>(), gives in 0.2..1.0f64) {
        let course = course();
        let yes = |step: StepIx, side: Side| {
            let mix = (step as u64 * 31 + side as u64 + 1).wrapping_mul(seed | 1) >> 11;
            (mix % 1000) as f64 / 1000.0 < gives
        };
        let (answers, _) = ridden(&course, MOST_ASKS, yes);
        prop_assert!(answers.len() <= MOST_ASKS);
        for a in &answers {
            let times = answers.iter().filter(|b| (b.step, b.side) == (a.step, a.side)).count();
            prop_assert!(times <= 5);
        }
    }
}
