//! Drills: balanced, ridden as they are written, ended on the stiff side, and not to be guessed.

use std::collections::BTreeSet;

use cavesson_core::{
    figure::{DrillAsked, DrillMove, DrillNeed, Figure, drill, ride, rungs},
    pattern::Point,
};
use proptest::prelude::*;

fn all_rungs() -> BTreeSet<String> {
    ["S3 left", "S3 right", "T1", "T2", "T3", "R4 left", "R4 right"].map(str::to_owned).into()
}

fn asked<'a>(needs: &'a [DrillNeed], may_ask: &'a BTreeSet<String>, seed: u64) -> DrillAsked<'a> {
    DrillAsked { needs, may_ask, at: Point::new(20.0, 30.0), room: 18.0, minutes: 6, seed, before: &[] }
}

fn times(moves: &[DrillMove], of: DrillMove) -> usize {
    moves.iter().filter(|it| **it == of).count()
}

#[test]
fn a_need_brings_its_moves_and_the_sides_stay_balanced() {
    let may_ask = all_rungs();
    let plain = drill(&asked(&[], &may_ask, 1)).unwrap();
    let dives = drill(&asked(&[DrillNeed::DivesOut], &may_ask, 1)).unwrap();
    assert!(times(&dives.moves, DrillMove::RollLeft) > times(&plain.moves, DrillMove::RollLeft));
    let apart = times(&dives.moves, DrillMove::RollLeft).abs_diff(times(&dives.moves, DrillMove::RollRight));
    assert!(apart <= 1, "{:?}", dives.moves);
    let stiff = drill(&asked(&[DrillNeed::StiffRight], &may_ask, 1)).unwrap();
    assert!(times(&stiff.moves, DrillMove::CircleRight) > times(&stiff.moves, DrillMove::CircleLeft));
    assert_eq!(stiff.moves.last(), Some(&DrillMove::CircleRight));
    let circles = stiff.parts.iter().find(|part| part.of == DrillMove::CircleRight).unwrap();
    assert_eq!(circles.why, "stiff right: soft on the circle");
    assert_eq!(circles.times, times(&stiff.moves, DrillMove::CircleRight));
}

#[test]
fn only_what_may_be_asked_is_asked() {
    let walk_only: BTreeSet<String> = ["S3 left", "T2"].map(str::to_owned).into();
    let made = drill(&asked(&[], &walk_only, 3)).unwrap();
    let kinds: BTreeSet<DrillMove> = made.moves.iter().copied().collect();
    assert_eq!(kinds, [DrillMove::CircleLeft, DrillMove::Wait].into());
    assert!(made.text.contains("\nwalk\n") && !made.text.contains("jog"));
    assert_eq!(drill(&asked(&[], &BTreeSet::new(), 3)), None);
    let may_ask = all_rungs();
    assert_eq!(drill(&DrillAsked { room: 4.0, ..asked(&[], &may_ask, 3) }), None, "no room for a circle");
}

/// What came after the same two moves yesterday is less likely to come again: over many days the likeliest next move after any two
/// comes in well under half of the times.
#[test]
fn what_came_before_is_not_what_comes_next() {
    let may_ask = all_rungs();
    let mut before: Vec<Vec<DrillMove>> = vec![];
    let (mut repeated, mut of) = (0, 0);
    for seed in 0..60 {
        let made = drill(&DrillAsked { before: &before, ..asked(&[DrillNeed::Anticipates], &may_ask, seed) }).unwrap();
        assert!(made.bits > 1.5, "{} bits", made.bits);
        // A horse that goes by what followed the last time.
        if let Some(last) = before.last() {
            for three in made.moves.windows(3) {
                if let Some(then) = last.windows(3).rev().find(|then| then[..2] == three[..2]) {
                    of += 1;
                    repeated += usize::from(then[2] == three[2]);
                }
            }
        }
        before.push(made.moves);
        if before.len() > 5 {
            before.remove(0);
        }
    }
    assert!(of > 100 && repeated * 5 < of, "{repeated} of {of} were as the last time");
}

proptest! {
    /// Whatever is asked for, the text is in order, ends where it began, stays within the room, and asks no other rung.
    #[test]
    fn every_drill_can_be_ridden(
        needs in prop::collection::vec(prop::sample::select(DrillNeed::ALL.to_vec()), 0..3),
        left_out in prop::collection::btree_set(prop::sample::select(vec!["S3 left", "T3", "R4 right", "T1"]), 0..3),
        room in 6.0..40.0_f64,
        minutes in 1..20_u8,
        seed in any::<u64>(),
    ) {
        let may_ask: BTreeSet<String> = all_rungs().into_iter().filter(|rung| !left_out.contains(rung.as_str())).collect();
        let at = Point::new(50.0, 60.0);
        let asked = DrillAsked { needs: &needs, may_ask: &may_ask, at, room, minutes, seed, before: &[] };
        let made = drill(&asked).unwrap();
        prop_assert_eq!(drill(&asked).unwrap(), made.clone());
        let figure = Figure::read(&made.text, &Default::default()).unwrap();
        let ridden = ride(&figure).unwrap();
        prop_assert!(ridden.end().at.distance(ridden.start.at) < 1e-6);
        prop_assert!(ridden.path.iter().all(|piece| piece.start.at.distance(ridden.start.at) <= room + 1e-6));
        for asked in rungs(&ridden) {
            // It ends with a stop, at the gait that it is ridden in.
            prop_assert!(may_ask.contains(&asked.rung) || asked.rung == "T2", "{}", asked.rung);
        }
        prop_assert!(made.moves.len() <= 91);
    }
}

#[test]
fn a_horse_that_lopes_is_drilled_at_the_lope_and_changed_few_times() {
    let all = [
        "S3 left", "S3 right", "T3", "T1", "L2 left", "L2 right", "L3 left", "L3 right", "L5 left", "L5 right",
        "L7 left", "L7 right",
    ];
    let may_ask: BTreeSet<String> = all.map(str::to_owned).into();
    for seed in 0..40 {
        let asked = DrillAsked {
            needs: &[DrillNeed::LateBehind],
            may_ask: &may_ask,
            at: Point::new(20.0, 30.0),
            room: 18.0,
            minutes: 15,
            seed,
            before: &[],
        };
        let made = drill(&asked).unwrap();
        let figure = Figure::read(&made.text, &Default::default()).unwrap();
        let ridden = ride(&figure).unwrap();
        assert!(cavesson_core::figure::leads(&ridden).0.is_empty(), "{}", made.text);
        let asks: BTreeSet<String> = rungs(&ridden).into_iter().map(|of| of.rung).collect();
        assert!(asks.is_subset(&may_ask), "{asks:?}");
        let counter = times(&made.moves, DrillMove::CounterLeft);
        assert!(counter > times(&made.moves, DrillMove::LopeLeft), "what is late behind holds its lead more");
        assert!((1..=2).contains(&times(&made.moves, DrillMove::ChangeToLeft)), "few in a day");
        // Every move ends where it began: straights between stops and rollbacks aside.
        let (start, end) = (ridden.start.at, ridden.end().at);
        assert!(start.distance(end) < 1e-6, "{}", made.text);
        let small = DrillAsked { room: 11.0, ..asked };
        let tight = drill(&small).unwrap();
        assert!(!tight.text.contains("lope"), "no room to lope: {}", tight.text);
    }
}
