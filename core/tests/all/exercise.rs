//! Set-ups, tries at obstacles and changes of lead: the draws and the rules of what comes next.

use std::collections::BTreeMap;

use cavesson_core::{
    count::ObstacleStage::{self, Crosses, FourFeet, Looks, OneFoot, Toward, TwoFeet},
    exercise::{
        ChangeCheck, ChangePlace, ExerciseEvent, LeadChange, LopeSetUp, NextTry, ObstacleTry, SetUpTold, change_advice,
        change_ledger, coming, go_share, next_set_up, next_try, set_up_ledger,
    },
    figure::Obstacle,
    pattern::Hand::{self, Left, Right},
};
use proptest::prelude::*;
use rand::{RngExt, SeedableRng};
use rand_chacha::ChaCha8Rng;

fn set_up(told: SetUpTold, guessed: bool) -> LopeSetUp {
    LopeSetUp { lead: Left, told, guessed }
}

/// So many set-ups drawn one after another, on a horse that goes by itself so often.
fn drawn(many: usize, seed: u64, guesses: impl Fn(f64) -> f64) -> Vec<LopeSetUp> {
    let mut rng = ChaCha8Rng::seed_from_u64(seed);
    let mut all: Vec<LopeSetUp> = vec![];
    for _ in 0..many {
        let next = next_set_up(&all, Left, seed);
        let last = &all[all.len().saturating_sub(8)..];
        let went = last.iter().filter(|it| it.told == SetUpTold::Go).count() as f64 / last.len().max(1) as f64;
        all.push(set_up(next.told, rng.random_bool(guesses(went))));
    }
    all
}

fn share_of_go(all: &[LopeSetUp]) -> f64 {
    all.iter().filter(|it| it.told == SetUpTold::Go).count() as f64 / all.len() as f64
}

/// The entropy of what comes next for whoever knows the last two, bits.
fn entropy_after_two(all: &[LopeSetUp]) -> f64 {
    let mut after: BTreeMap<(SetUpTold, SetUpTold), BTreeMap<SetUpTold, f64>> = BTreeMap::new();
    for three in all.windows(3) {
        *after.entry((three[0].told, three[1].told)).or_default().entry(three[2].told).or_default() += 1.0;
    }
    let all = (all.len() - 2) as f64;
    let of = |next: &BTreeMap<SetUpTold, f64>| {
        let sum: f64 = next.values().sum();
        sum / all * next.values().map(|n| -n / sum * (n / sum).log2()).sum::<f64>()
    };
    after.values().map(of).sum()
}

#[test]
fn a_horse_of_which_nothing_is_known_goes_a_quarter_of_the_time() {
    assert_eq!(go_share(&[], Left).share, 0.25);
    // It never guesses at all, and yet the share is not raised at once.
    let few: Vec<LopeSetUp> = vec![set_up(SetUpTold::WalkOn, false); 6];
    assert_eq!(go_share(&few, Left).share, 0.25);
}

#[test]
fn a_horse_that_waits_may_go_more_often_and_one_that_guesses_less() {
    let waits = drawn(120, 5, |_| 0.0);
    assert_eq!(go_share(&waits, Left).share, 0.5, "never a guess");
    assert!((0.25..=0.6).contains(&share_of_go(&waits)), "{}", share_of_go(&waits));
    // This one guesses where more than a fifth of the last eight went.
    let guesses = drawn(160, 5, |went| if went > 0.2 { 0.6 } else { 0.02 });
    assert_eq!(go_share(&guesses, Left).share, 0.125, "{}", go_share(&guesses, Left).why);
    assert!(share_of_go(&guesses) < 0.25, "{}", share_of_go(&guesses));
    assert!(go_share(&guesses, Left).why.contains("by itself"));
}

#[test]
fn the_share_is_kept_and_the_order_says_nothing() {
    for seed in 0..6 {
        // One guess in twelve of all that do not go, whatever was ridden: the share is kept where it is.
        let all = drawn(400, seed, |_| 0.08);
        let kept = share_of_go(&all);
        assert!((0.1..=0.55).contains(&kept), "{seed}: {kept}");
        let shares = SetUpTold::ALL.map(|told| all.iter().filter(|it| it.told == told).count() as f64 / 400.0);
        let free: f64 = shares.iter().filter(|p| **p > 0.0).map(|p| -p * p.log2()).sum();
        let after = entropy_after_two(&all);
        assert!(after > 0.85 * free, "{seed}: after two {after} of {free}");
    }
}

#[test]
fn nothing_goes_after_a_guess_and_the_leads_have_draws_of_their_own() {
    let mut all = drawn(40, 9, |_| 0.0);
    all.push(set_up(SetUpTold::WalkOn, true));
    assert_eq!(next_set_up(&all, Left, 9).told, SetUpTold::Wait);
    let both: Vec<(SetUpTold, SetUpTold)> =
        coming(&[], Left, 9, 40).into_iter().zip(coming(&[], Right, 9, 40)).collect();
    assert!(both.iter().filter(|(left, right)| left != right).count() > 10, "{both:?}");
}

#[test]
fn the_ledger_counts_a_lead_by_itself() {
    let mut all = vec![set_up(SetUpTold::Go, false), set_up(SetUpTold::Wait, true), set_up(SetUpTold::WalkOn, false)];
    all.push(LopeSetUp { lead: Right, told: SetUpTold::Go, guessed: true });
    let left = set_up_ledger(&all, Left);
    assert_eq!((left.go, left.walk_on, left.wait, left.guessed), (1, 1, 1, 1));
    assert_eq!(set_up_ledger(&all, Right).guessed, 1);
}

fn tries(all: &[ObstacleStage]) -> Vec<ObstacleTry> {
    all.iter().map(|&reached| ObstacleTry { reached, leaked: None }).collect()
}

/// Common practice, as the trade tells it.
#[test]
fn tries_are_released_confirmed_made_smaller_or_left() {
    for (all, next) in [
        (vec![], NextTry::Ask),
        (vec![Looks], NextTry::Again),
        (vec![Looks, Toward], NextTry::Again),
        (vec![TwoFeet, TwoFeet], NextTry::Again),
        (vec![TwoFeet, TwoFeet, OneFoot], NextTry::Smaller),
        (vec![Looks, TwoFeet, TwoFeet, OneFoot, Toward], NextTry::Smaller),
        (vec![OneFoot, Toward, Looks, TwoFeet], NextTry::Again),
        (vec![FourFeet, Crosses], NextTry::Confirm),
        (vec![Crosses], NextTry::Confirm),
        (vec![Looks, Crosses, Crosses], NextTry::Leave),
        (vec![Crosses, TwoFeet, Crosses], NextTry::Confirm),
    ] {
        assert_eq!(next_try(&tries(&all)).next, next, "{all:?}");
    }
}

#[test]
fn the_side_that_it_leaks_to_is_guarded() {
    let mut all = tries(&[Toward, OneFoot, OneFoot]);
    (all[0].leaked, all[2].leaked) = (Some(Right), Some(Right));
    let advice = next_try(&all);
    assert_eq!(advice.guard, Some(Right));
    assert!(advice.why.ends_with("It leaks right: guard there with rein and leg."), "{}", advice.why);
    all[2].leaked = Some(Left);
    assert_eq!(next_try(&all).guard, None, "once to either side is no habit");
}

const GOOD: ChangeCheck = ChangeCheck { shoulders: true, hip: true, relaxed: true, straight: true, held: true };

fn change(to: Hand, tenths: Option<i8>, place: ChangePlace) -> LeadChange {
    LeadChange { to, check: GOOD, tenths, strides: None, lean: None, place }
}

#[test]
fn a_change_is_offered_only_once_all_of_the_check_is_good() {
    for part in 0..5 {
        let mut check = GOOD;
        let of = [&mut check.shoulders, &mut check.hip, &mut check.relaxed, &mut check.straight, &mut check.held];
        *of.into_iter().nth(part).unwrap() = false;
        let advice = change_advice(&[], &[], Left, check, 3);
        assert!(!advice.offered);
        assert_eq!(advice.instead, Some(["L4", "L4", "L3", "L4", "L5"][part]));
    }
    let advice = change_advice(&[], &[], Left, GOOD, 3);
    assert!(advice.offered && advice.why.contains(advice.place.phrase()));
}

#[test]
fn what_went_wrong_twice_is_not_asked_a_third_time() {
    let place = ChangePlace::Middle;
    let front_first = [change(Left, Some(-2), place), change(Left, Some(-1), place)];
    let told = change_advice(&[], &front_first, Left, GOOD, 1);
    assert_eq!((told.offered, told.instead), (false, Some("L5")));
    assert!(change_advice(&[], &front_first, Right, GOOD, 1).offered, "the other lead is another matter");
    assert!(change_advice(&front_first, &[], Left, GOOD, 1).offered, "another day begins anew");
    let mut late = front_first;
    late.iter_mut().for_each(|it| (it.tenths, it.strides) = (None, Some(1)));
    assert_eq!(change_advice(&[], &late, Left, GOOD, 1).instead, Some("L4"));
    assert!(!change_advice(&[], &[change(Right, Some(1), place); 6], Left, GOOD, 1).offered, "few in a day");
}

#[test]
fn the_place_is_moved_about() {
    for seed in 0..20 {
        let mut before: Vec<LeadChange> = vec![];
        for _ in 0..30 {
            let place = change_advice(&before, &[], Left, GOOD, seed).place;
            let last = &before[before.len().saturating_sub(4)..];
            assert!(last.iter().all(|it| it.place != place), "{seed}: {place} again");
            before.push(change(Left, None, place));
        }
    }
}

#[test]
fn changes_are_counted_by_lead() {
    let mut all = vec![change(Left, Some(3), ChangePlace::Circle); 3];
    (all[1].tenths, all[2].lean) = (Some(-1), Some(Left));
    all.push(LeadChange { strides: Some(2), ..change(Right, None, ChangePlace::Circle) });
    let left = change_ledger(&all, Left);
    assert_eq!((left.all, left.clean, left.front_first, left.leaned, left.median_tenths), (3, 1, 1, 1, Some(3)));
    assert_eq!(change_ledger(&all, Right).late_behind, 1);
}

proptest! {
    #[test]
    fn events_are_read_as_they_are_written(tenths in -50_i8..=50, strides in 0_u8..=20, kind in 0_usize..10) {
        let of = LeadChange { strides: Some(strides), ..change(Right, Some(tenths), ChangePlace::ALL[kind % 6]) };
        let tried = ExerciseEvent::Try {
            obstacle: Obstacle::ALL[kind],
            name: Obstacle::ALL[kind].named().to_owned(),
            of: ObstacleTry { reached: ObstacleStage::ALL[kind % 7], leaked: Some(Left) },
        };
        for event in [ExerciseEvent::Change { of }, tried] {
            prop_assert!(event.check().is_ok());
            let text = serde_json::to_string(&event).unwrap();
            prop_assert_eq!(serde_json::from_str::<ExerciseEvent>(&text).unwrap(), event);
        }
    }
}

#[test]
fn what_nobody_sees_is_not_taken() {
    let of = change(Left, Some(51), ChangePlace::Middle);
    assert_eq!(ExerciseEvent::Change { of }.check().unwrap_err().field, "of.tenths");
    let of = LeadChange { strides: Some(21), ..change(Left, None, ChangePlace::Middle) };
    assert_eq!(ExerciseEvent::Change { of }.check().unwrap_err().field, "of.strides");
    let of = ObstacleTry { reached: Looks, leaked: None };
    let nameless = ExerciseEvent::Try { obstacle: Obstacle::Gate, name: "x".repeat(61), of };
    assert_eq!(nameless.check().unwrap_err().field, "name");
}
