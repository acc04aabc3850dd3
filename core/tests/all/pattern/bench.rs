//! Tape, passes, placings and the plan of a day.

use cavesson_core::{
    curriculum::Gait,
    pattern::{
        BarrelTold, FOOT, Footwork, Hand, Pass, PassFault, PocketTold, SLIP, Shown, drifts, placings, pocket_for,
        tape_sheet, todays_passes,
    },
};
use chrono::{Days, NaiveDate};
use proptest::prelude::*;

use super::feet;

fn day() -> NaiveDate {
    NaiveDate::from_ymd_opt(2026, 3, 11).unwrap()
}

/// The law of cosines: from two posts 30 m apart, tapes of 25 and 25 m meet 20 m out, in the middle.
#[test]
fn two_tapes_and_a_base_make_a_triangle() {
    let posts = [feet(0.0, 0.0), feet(100.0, 0.0), feet(100.0, 150.0), feet(0.0, 150.0)];
    let markers = [feet(70.0, 60.0), feet(30.0, 60.0), feet(50.0, 120.0)];
    let sheet = tape_sheet(&posts, &markers).unwrap();
    for (mark, at) in sheet.marks.iter().zip(markers) {
        let (a, b, c) = (mark.tapes[0], mark.tapes[1], sheet.base);
        let cosine = (a * a + c * c - b * b) / (2.0 * a * c);
        let along = (posts[sheet.posts[1]] - posts[sheet.posts[0]]).dot(at - posts[sheet.posts[0]]) / c;
        assert!((a * cosine - along).abs() < 1e-9);
        assert!(mark.off >= SLIP && mark.off < 3.0 * SLIP, "{mark:?}");
    }
    assert_eq!(sheet.checks.len(), 3);
    assert!((sheet.checks[0].length - 40.0 * FOOT).abs() < 1e-9);
    assert!(tape_sheet(&posts[..1], &markers).is_none(), "one post is no base");
    assert!(tape_sheet(&[posts[0], posts[1]], &[feet(40.0, 0.0)]).is_none(), "on the line between them no tape tells");
}

proptest! {
    /// Whatever the slip, the marker laid with it stands no further off than is said, to second order.
    #[test]
    fn no_slip_puts_a_marker_further_off_than_is_said(x in 10.0..90.0, y in 20.0..120.0, da in -1.0..1.0, db in -1.0..1.0) {
        let posts = [feet(0.0, 0.0), feet(100.0, 0.0)];
        let at = feet(x, y);
        let mark = tape_sheet(&posts, &[at]).unwrap().marks[0];
        // Small slips, so that the triangle is solved where it is straight.
        let share = 0.01;
        let (a, b, c) = (mark.tapes[0] + da * SLIP * share, mark.tapes[1] + db * SLIP * share, posts[0].distance(posts[1]));
        let along = (a * a + c * c - b * b) / (2.0 * c);
        let laid = cavesson_core::pattern::Point::new(along, f64::sqrt(a * a - along * along));
        prop_assert!(laid.distance(at) <= mark.off * share * 1.02 + 1e-9);
    }

    /// Divisions hold times from their spread up to the next, and places count the faster ones.
    #[test]
    fn placings_hold_together(times in prop::collection::vec(15.0..22.0_f64, 1..40)) {
        let spreads = [0.5, 1.0, 2.0];
        let placed = placings(&times, &spreads);
        let fastest = times.iter().copied().fold(f64::INFINITY, f64::min);
        for (t, p) in times.iter().zip(&placed) {
            let from = if p.division == 1 { 0.0 } else { spreads[p.division - 2] };
            let to = spreads.get(p.division - 1).copied().unwrap_or(f64::INFINITY);
            prop_assert!((from - 1e-3..to).contains(&(t - fastest)));
            prop_assert!(p.place >= 1 && p.place <= times.len());
        }
        prop_assert!(placed.iter().any(|p| p.division == 1 && p.place == 1));
    }
}

fn pass(days_ago: u64, told: Vec<BarrelTold>) -> Pass {
    let hands = vec![Hand::Right, Hand::Left, Hand::Left];
    Pass { on: day() - Days::new(days_ago), gait: Gait::Jog, hands, told, seconds: Some(40.0) }
}

fn right() -> BarrelTold {
    BarrelTold::default()
}

fn told(fault: PassFault) -> BarrelTold {
    BarrelTold { faults: vec![fault], ..right() }
}

const JOGS: Shown = Shown { jog: true, lope: false, away: false, finished: false, footwork: Footwork::Lacks };

#[test]
fn a_failed_pass_is_answered_by_a_foot_more_at_that_barrel() {
    let passes = [
        pass(4, vec![right(), told(PassFault::FellIn), right()]),
        pass(2, vec![right(), told(PassFault::FellIn), right()]),
    ];
    let plan = todays_passes(day(), JOGS, &passes, 3);
    let jog = &plan.blocks[0];
    assert_eq!((jog.gait, jog.passes), (Gait::Jog, 2));
    let usual = pocket_for(Gait::Jog, Footwork::Lacks);
    assert_eq!(jog.pockets[0].pocket, usual);
    assert!((jog.pockets[1].pocket.entry - usual.entry - 2.0 * FOOT).abs() < 1e-9, "a foot for each");
    assert_eq!(jog.pockets[1].why.as_deref(), Some("fell in on 9 Mar: 2 ft more pocket, not more speed"));
    let mended: Vec<Pass> = passes.into_iter().chain([pass(1, vec![right(), right(), right()])]).collect();
    let plan = todays_passes(day(), JOGS, &mended, 3);
    assert!(plan.blocks[0].pockets.iter().all(|p| p.why.is_none()), "right again: back to the usual");
}

#[test]
fn drilling_is_said_and_a_finished_horse_is_left_alone() {
    let daily: Vec<Pass> = (1..6).rev().map(|d| pass(d, vec![right(); 3])).collect();
    let plan = todays_passes(day(), JOGS, &daily, 3);
    assert_eq!(plan.blocks.iter().map(|b| b.passes).sum::<u8>(), 1);
    assert!(plan.notes[0].starts_with("Drilled lately: 5 passes on 5 days"), "{:?}", plan.notes);
    let finished = Shown { finished: true, lope: true, away: true, footwork: Footwork::Has, ..JOGS };
    assert!(todays_passes(day(), finished, &daily, 3).blocks.is_empty());
    assert_eq!(todays_passes(day(), finished, &[], 3).blocks.len(), 2);
    let green = Shown { jog: false, ..JOGS };
    let gaits: Vec<Gait> = todays_passes(day(), green, &[], 3).blocks.iter().map(|b| b.gait).collect();
    assert_eq!(gaits, [Gait::Walk, Gait::Jog]);
}

/// Handbook of the trade (common practice): 4 ft in, 4 behind, 3 out, and 5 in at the lope without footwork.
#[test]
fn pockets_are_those_of_the_trade() {
    let feet = |gait, footwork| {
        let p = pocket_for(gait, footwork);
        [p.entry, p.back, p.exit].map(|m| (m / FOOT).round() as u8)
    };
    assert_eq!(feet(Gait::Jog, Footwork::Lacks), [4, 4, 3]);
    assert_eq!(feet(Gait::Lope, Footwork::Lacks), [5, 4, 3]);
    assert_eq!(feet(Gait::Lope, Footwork::Has), [4, 4, 3]);
}

#[test]
fn right_and_left_barrels_drift_apart() {
    let at = |p| [Some(p); 3];
    let told = |first, others| {
        let barrel = |p| BarrelTold { pocket: at(p), ..right() };
        vec![barrel(first), barrel(others), barrel(others)]
    };
    let passes = [
        pass(9, told(PocketTold::Wide, PocketTold::AsPlanned)),
        pass(1, told(PocketTold::Wide, PocketTold::Close)),
        pass(1, told(PocketTold::AsPlanned, PocketTold::Close)),
    ];
    let drifts = drifts(&passes);
    assert_eq!(drifts.len(), 6, "three barrels in two weeks");
    assert_eq!((drifts[0].hand, drifts[0].drift), (Hand::Right, 1.0));
    assert_eq!((drifts[1].drift, drifts[1].spots), (0.5, 6));
    assert_eq!(drifts[3].drift, -1.0);
}

#[test]
fn a_barrel_down_is_five_seconds() {
    let mut told = vec![right(), right(), right()];
    told[1].knocked = true;
    assert_eq!(pass(0, told).official(), Some(45.0));
}
