//! The figures, on calls small enough to count by hand.

use cavesson_core::{
    belief::{Day, Work},
    curriculum::{Course, Gait, Side, Sides, Step},
    response::{Answer, Rep, Standard, Weight},
};
use cavesson_judge::{Called, Calls, Family, Figures, advance_thumbs, back_thumbs};
use cavesson_sim::{Herd, HerdHorse};

/// One horse on one rung with a standard of 80 %: the true share of each session, and how many of its eight reps met the standard.
/// A session without reps was ridden on something else.
fn family(sessions: &[(f64, Option<usize>)]) -> Family {
    let course =
        Course::new(vec![(Step::plain("r", Gait::Walk, Sides::Both, Standard::default()), vec![])]).expect("a course");
    let rep =
        |met: bool| Rep { answer: if met { Answer::Gave } else { Answer::None }, weight: Weight::Feather, time: None };
    let days = sessions.iter().zip(1..).map(|((_, met), day)| {
        let work = met.map(|met| Work::reps(0, Side::Both, (0..8).map(|n| rep(n < met)).collect()));
        Day::new(format!("2026-03-{day:02}").parse().expect("a date"), work.into_iter().collect())
    });
    let truth = [((0, Side::Both), sessions.iter().map(|s| Some(s.0)).collect())].into();
    let horse = HerdHorse { id: "h".into(), days: days.collect(), truth, fell: None };
    Family { name: "by hand".into(), herd: Herd { course, horses: vec![horse] }, ideal: None }
}

fn said(first: usize, back: impl IntoIterator<Item = usize>) -> Calls {
    [((0, 0, Side::Both), Called { first: Some(first), back: back.into_iter().collect() })].into()
}

/// Ready from session 2, lost in 6 to 11, back from 12 on.
fn lost_and_found() -> Family {
    let share = |s: usize| {
        if s < 2 {
            0.6
        } else if (6..12).contains(&s) {
            0.5
        } else {
            0.9
        }
    };
    // Not ridden in session 8.
    family(&(0..16).map(|s| (share(s), (s != 8).then_some(if share(s) > 0.8 { 8 } else { 3 }))).collect::<Vec<_>>())
}

#[test]
fn a_loss_is_found_late_and_stays_too_long() {
    let f = Figures::of(&lost_and_found(), &said(3, 9..14));
    assert_eq!((f.advances, f.false_advances, f.sessions_lost), (1, 0.0, 1.0));
    assert_eq!((f.losses, f.found), (1, 1));
    // Ridden in 6 and 7 before the call in 9; still called in 12 and 13.
    assert_eq!((f.delay, f.stays), (2.0, 2.0));
    assert_eq!((f.backs, f.false_backs), (5, 2.0 / 5.0));
    // Owned entries: 3 to 5 and 12 to 15.
    assert!((f.false_per_100 - 100.0 * 2.0 / 7.0).abs() < 1e-9);
}

#[test]
fn a_loss_of_few_rides_does_not_count_and_one_not_called_is_not_found() {
    let short: Vec<_> = (0..12).map(|s| (if (6..9).contains(&s) { 0.5 } else { 0.9 }, Some(8))).collect();
    assert_eq!(Figures::of(&family(&short), &said(1, [])).losses, 0, "three sessions under the standard");
    let f = Figures::of(&lost_and_found(), &said(3, []));
    assert_eq!((f.losses, f.found, f.backs), (1, 0, 0));
    // Under the standard by less than 0.05 is no loss.
    let little: Vec<_> = (0..12).map(|s| (if s > 5 { 0.76 } else { 0.9 }, Some(8))).collect();
    assert_eq!(Figures::of(&family(&little), &said(1, [])).losses, 0);
}

#[test]
fn an_advance_far_under_the_standard_is_wrong() {
    let f = Figures::of(&lost_and_found(), &said(1, []));
    assert_eq!((f.false_advances, f.sessions_lost), (1.0, 0.0));
}

#[test]
fn rules_of_thumb_for_back_are_counted_as_by_hand() {
    let family = lost_and_found();
    let rules = back_thumbs(&family, &said(3, []));
    let back = |name: &str| {
        let (_, calls) = rules.iter().find(|r| r.0 == name).expect("the rule");
        calls[&(0, 0, Side::Both)].back.iter().copied().collect::<Vec<_>>()
    };
    // The second day under is session 7; the day not ridden changes nothing, the first good day ends it.
    assert_eq!(back("two days under"), (7..12).collect::<Vec<_>>());
    // Three of the last five reps not met: the reps of a bad day end in five that were not.
    assert_eq!(back("three of five"), (6..12).collect::<Vec<_>>());
    assert!(back("against the best").contains(&7), "{:?}", back("against the best"));
}

#[test]
fn rules_of_thumb_for_advance_are_counted_as_by_hand() {
    let firsts = advance_thumbs(&lost_and_found()).map(|(_, calls)| calls[&(0, 0, Side::Both)].first);
    // Sessions 2 to 4 are the first three running; eight of ten come with session 2 and two misses before it; the tenth ride is in 10.
    assert_eq!(firsts, [Some(4), Some(2), Some(10)]);
}
