//! Rides in the two-rein, and asks on one rein and on two, as they are told.

use cavesson_core::{
    curriculum::Gait,
    tack::{
        Asker, Brace, NoSuchRide, PairedAsk, Reins, ShareMove, SharedRide, brace_test, next_reins, next_share,
        readiness,
    },
};
use chrono::{Days, NaiveDate};
use proptest::prelude::*;

fn day(n: u64) -> NaiveDate {
    NaiveDate::from_ymd_opt(2026, 3, 2).unwrap() + Days::new(n)
}

fn at(minute: u32, bridle: u8, asked: Option<Asker>) -> ShareMove {
    ShareMove { at: minute * 60, bridle, asked }
}

fn steady(n: u64, share: u8) -> SharedRide {
    SharedRide::new(day(n), 2400, share, vec![]).unwrap()
}

#[test]
fn a_ride_that_cannot_have_been_is_refused() {
    let make = |begins, moves| SharedRide::new(day(0), 2400, begins, moves);
    assert_eq!(make(101, vec![]), Err(NoSuchRide::Share(101)));
    assert_eq!(make(10, vec![at(5, 120, None)]), Err(NoSuchRide::Share(120)));
    assert_eq!(make(10, vec![at(9, 20, None), at(5, 30, None)]), Err(NoSuchRide::Order(1)));
    assert_eq!(make(10, vec![at(41, 20, None)]), Err(NoSuchRide::Order(0)));
    assert_eq!(SharedRide::new(day(0), 0, 10, vec![]), Err(NoSuchRide::Empty));
    // Two moves in one moment stand: the later is what holds.
    let twice = make(10, vec![at(0, 90, None), at(0, 50, None)]).unwrap();
    assert!((twice.mean_share() - 0.5).abs() < 1e-12);
}

#[test]
fn asks_are_counted_by_which_way_they_went_and_only_where_someone_asked() {
    let moves = vec![
        at(5, 20, Some(Asker::Bears)),
        at(10, 30, Some(Asker::Roots)),
        at(15, 10, Some(Asker::Scared)),
        at(20, 40, None),
        at(25, 40, Some(Asker::Sharp)),
    ];
    assert_eq!(SharedRide::new(day(0), 2400, 10, moves).unwrap().asks(), (2, 1));
}

#[test]
fn few_rides_say_about_a_year_and_a_hard_day_is_repaired_on_the_old_share() {
    assert_eq!(readiness(&[]), None);
    let first = readiness(&[steady(0, 10)]).unwrap();
    let days = |sure| (first.straight_up_by(sure).unwrap() - day(0)).num_days();
    assert!((330..400).contains(&days(0.5)), "{}", days(0.5));
    assert!(days(0.1) < 300 && days(0.9) > 450, "{} {}", days(0.1), days(0.9));
    let mut rides: Vec<SharedRide> = (0..40).map(|n| steady(2 * n, 40)).collect();
    let before = readiness(&rides).unwrap();
    rides.push(steady(80, 5));
    let after = readiness(&rides).unwrap();
    assert!(before.share.0 - after.share.0 < 0.05, "{before:?} {after:?}");
    let next = next_share(&rides).unwrap();
    assert!(next.bridle == 5 && next.why.contains("hard day"), "{next:?}");
    rides.pop();
    let next = next_share(&rides).unwrap();
    assert!((40..=45).contains(&next.bridle) && next.why.contains("ordinary"), "{next:?}");
    let asks =
        |asker, to| SharedRide::new(day(90), 2400, 40, vec![at(5, to, Some(asker)), at(9, 40, Some(asker))]).unwrap();
    let both_ways = next_share(&[rides.clone(), vec![asks(Asker::Bears, 60)]].concat()).unwrap();
    assert!(both_ways.why.contains("ordinary"), "it asked for more and back: {both_ways:?}");
    let more = |n| {
        SharedRide::new(day(n), 2400, 40, vec![at(5, 45, Some(Asker::Bears)), at(9, 50, Some(Asker::Roots))]).unwrap()
    };
    assert!(next_share(&[rides, vec![more(90)]].concat()).unwrap().why.contains("asks for more"));
}

#[test]
fn a_horse_that_does_not_come_along_has_no_date() {
    let rides: Vec<SharedRide> = (0..300).map(|n| steady(2 * n, 30)).collect();
    assert_eq!(readiness(&rides).unwrap().straight_up_by(0.9), None);
}

#[test]
fn a_pair_is_of_one_day_and_one_gait_and_the_open_one_is_closed_first() {
    let ask = |n, gait, reins, braced| PairedAsk { on: day(n), gait, reins, braced };
    let asks = [
        ask(0, Gait::Jog, Reins::Two, true),
        ask(0, Gait::Walk, Reins::One, false),
        ask(1, Gait::Jog, Reins::One, false),
        ask(1, Gait::Jog, Reins::Two, true),
    ];
    let test = brace_test(&asks);
    assert_eq!((test.pairs, test.on_two_only, test.says), (1, 1, Brace::Unknown));
    for seed in 0..20 {
        assert_eq!(next_reins(&asks, day(0), Gait::Jog, seed), Reins::One);
        assert_eq!(next_reins(&asks, day(0), Gait::Walk, seed), Reins::Two);
    }
    let begun = (0..100).filter(|seed| next_reins(&asks, day(1), Gait::Jog, *seed) == Reins::One).count();
    assert!((30..70).contains(&begun), "a new pair begins by lot: {begun}");
}

proptest! {
    /// The mean share lies between the least and the most of the ride.
    #[test]
    fn a_mean_share_lies_within(begins in 0..=100_u8, moves in prop::collection::vec((0..40_u32, 0..=100_u8), 0..8)) {
        let mut moves: Vec<ShareMove> = moves.into_iter().map(|(minute, share)| at(minute, share, None)).collect();
        moves.sort_by_key(|m| m.at);
        let all: Vec<u8> = [begins].into_iter().chain(moves.iter().map(|m| m.bridle)).collect();
        let ride = SharedRide::new(day(0), 2400, begins, moves).unwrap();
        let (least, most) = (*all.iter().min().unwrap(), *all.iter().max().unwrap());
        let mean = ride.mean_share() * 100.0;
        prop_assert!(mean >= f64::from(least) - 1e-9 && mean <= f64::from(most) + 1e-9);
    }
}
