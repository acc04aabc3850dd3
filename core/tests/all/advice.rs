//! The calls: separate days, the weaker side, needs, posture, and going back.

use cavesson_core::{
    advice::{Advisor, Call, Posture, Status, StepCall},
    belief::{ModelSettings, Work},
    curriculum::{Course, Curriculum, Side},
    response::{Answer, Part, Rep},
    ride::{Habits, Split, outline},
};
use proptest::prelude::*;

use crate::support::{HEAVY, MISSED, course, date, day, work};

const FIRST: usize = 0;
const SECOND: usize = 1;

fn advisor_after<'a>(course: &'a Course, days: &[Vec<Work>]) -> Advisor<'a> {
    let mut advisor = Advisor::new(course, Posture::Steady, ModelSettings::default());
    for (n, work) in days.iter().enumerate() {
        // Every other day: nobody rides a horse too many days running.
        advisor.watch(&day(2 * n as u64, work.clone())).unwrap();
    }
    advisor
}

fn call(advisor: &Advisor<'_>, step: usize, on: u64) -> StepCall {
    advisor.standing(date(2 * on)).calls().into_iter().find(|c| c.step == step).expect("the step has reps")
}

fn good_days(n: usize) -> Vec<Vec<Work>> {
    vec![vec![work(FIRST, Side::Left, 12, 0), work(FIRST, Side::Right, 12, 0)]; n]
}

#[test]
fn one_brilliant_day_is_not_enough() {
    let course = course();
    let advisor = advisor_after(&course, &[vec![work(FIRST, Side::Left, 60, 0), work(FIRST, Side::Right, 60, 0)]]);
    let call = call(&advisor, FIRST, 0);
    assert_eq!((call.call, call.status), (Call::Hold, Status::Learning));
    assert!(call.why[0].contains("1 of 3 days"), "{:?}", call.why);
}

#[test]
fn an_advisor_that_was_put_by_says_the_same_and_goes_on_watching() {
    let course = course();
    let days = [good_days(5), vec![vec![work(FIRST, Side::Left, 3, 9), work(SECOND, Side::Right, 4, 4)]; 3]].concat();
    let whole = advisor_after(&course, &days);
    for n in [0, 1, 5, 7, 8] {
        let again = course.clone();
        let stored = advisor_after(&course, &days[..n]).snapshot();
        let mut advisor = stored.restore(&again);
        for (k, work) in days.iter().enumerate().skip(n) {
            advisor.watch(&day(2 * k as u64, work.clone())).unwrap();
        }
        assert_eq!(advisor.standing(date(20)).calls(), whole.standing(date(20)).calls(), "put by after {n} days");
    }
}

#[test]
#[should_panic(expected = "on another course")]
fn an_advisor_is_not_taken_up_on_another_course() {
    let other = Course::of(cavesson_core::curriculum::Curriculum::standard()).unwrap();
    let _advisor = Advisor::new(&course(), Posture::Steady, ModelSettings::default()).snapshot().restore(&other);
}

#[test]
fn owned_on_both_sides_over_enough_days_advances_to_what_it_opens() {
    let course = course();
    let advisor = advisor_after(&course, &good_days(6));
    let call = call(&advisor, FIRST, 5);
    assert_eq!((call.call, call.status, call.next.as_slice()), (Call::Advance, Status::Owned, &[SECOND][..]));
    assert!(call.why[0].contains("second"), "{:?}", call.why);
    assert!(call.why.iter().any(|w| w.contains("36 of 36")), "{:?}", call.why);
}

#[test]
fn the_weaker_side_holds_the_rung_and_is_named_with_its_figures() {
    let course = course();
    let days = vec![vec![work(FIRST, Side::Left, 6, 4), work(FIRST, Side::Right, 12, 0)]; 5];
    let advisor = advisor_after(&course, &days);
    let call = call(&advisor, FIRST, 4);
    assert_eq!((call.call, call.weaker), (Call::Hold, Some(Side::Left)));
    assert!(call.why[0].contains("left met 18 of 30"), "{:?}", call.why);
    assert_eq!(call.sides[1].call, Call::Advance);
}

#[test]
fn a_side_never_asked_holds_the_rung() {
    let course = course();
    let advisor = advisor_after(&course, &vec![vec![work(FIRST, Side::Right, 12, 0)]; 5]);
    let call = call(&advisor, FIRST, 4);
    assert_eq!((call.call, call.weaker), (Call::Hold, Some(Side::Left)));
    assert!(call.why[0].contains("No reps on the left"), "{:?}", call.why);
}

#[test]
fn nothing_advances_over_a_hole() {
    let course = course();
    let days =
        vec![vec![work(SECOND, Side::Both, 12, 0), work(FIRST, Side::Left, 4, 6), work(FIRST, Side::Right, 9, 1)]; 5];
    let advisor = advisor_after(&course, &days);
    let call = call(&advisor, SECOND, 4);
    assert_eq!((call.call, call.status, call.holes.as_slice()), (Call::Hold, Status::Owned, &[FIRST][..]));
    let hole = call.why.iter().find(|w| w.contains("not owned")).expect("the hole is named");
    assert!(hole.contains("first") && hole.contains("% left"), "{hole}");
}

#[test]
fn what_was_owned_and_fell_off_goes_back_and_says_so() {
    let course = course();
    let mut days = good_days(6);
    days.extend(vec![vec![work(FIRST, Side::Left, 2, 8), work(FIRST, Side::Right, 10, 0)]; 3]);
    let advisor = advisor_after(&course, &days);
    let call = call(&advisor, FIRST, 8);
    assert_eq!((call.call, call.status), (Call::Back, Status::Slipping));
    assert!(call.why[0].starts_with("Left: was owned, and is"), "{:?}", call.why);
    assert!(call.why.iter().any(|w| w.contains("no whole answer in 24 of 30")), "{:?}", call.why);
}

/// A stop whose feet stop and whose hand waits is no stop: the half that lags is named where most of the asks lack it.
#[test]
fn the_half_that_lags_is_named() {
    let course = Curriculum::standard().course();
    let stop = course.find("T2").unwrap();
    let lacks = |part, n: usize| vec![Rep { answer: Answer::Tried { missing: Some(part) }, ..MISSED }; n];
    let told = |missed: Vec<Rep>| {
        let mut work = work(stop, Side::Both, 4, 0);
        work.reps.extend(missed);
        let advisor = advisor_after(&course, &[vec![work]]);
        call(&advisor, stop, 0).why.join(". ")
    };
    let stiff = told(lacks(Part::Second, 7));
    assert!(
        stiff.contains("It gave half an answer in 7 of 11 asks: \"feet stopped\" came and \"off the bridle\" did not"),
        "{stiff}"
    );
    let walks = told(lacks(Part::First, 7));
    assert!(walks.contains("\"off the bridle\" came and \"feet stopped\" did not"), "{walks}");
    let both = told([lacks(Part::First, 3), lacks(Part::Second, 3)].concat());
    assert!(both.contains("no whole answer in 6 of 10 asks"), "neither half lags: {both}");
    let plain = told(vec![MISSED; 6]);
    assert!(plain.contains("no whole answer in 6 of 10 asks"), "{plain}");
}

#[test]
fn the_main_shortfall_is_told_in_the_words_of_the_scale() {
    let course = course();
    let mut heavy = work(FIRST, Side::Left, 4, 0);
    heavy.reps.extend([HEAVY; 6]);
    let advisor = advisor_after(&course, &vec![vec![heavy, work(FIRST, Side::Right, 10, 0)]; 3]);
    let call = call(&advisor, FIRST, 2);
    assert!(call.why.iter().any(|w| w == "Left took more than a lemon in 18 of 30 asks"), "{:?}", call.why);
}

/// 50/50, 60/40 and 70/30 toward the weaker side: common practice, no published source.
#[test]
fn the_outline_gives_the_stiff_side_more_and_goes_on_when_owned() {
    let course = course();
    let stiff = advisor_after(&course, &vec![vec![work(FIRST, Side::Left, 3, 7), work(FIRST, Side::Right, 10, 0)]; 4]);
    let main = outline(&stiff.standing(date(8)), &Habits::default()).main.unwrap();
    assert_eq!((main.step, main.split), (FIRST, Some(Split { left: 70, right: 30 })));
    assert!(main.quit.contains("on the left at a lemon"), "{}", main.quit);

    let owned = advisor_after(&course, &good_days(6));
    let plan = outline(&owned.standing(date(12)), &Habits::default());
    assert_eq!((plan.loosen.as_slice(), plan.main.map(|m| m.step)), (&[FIRST][..], Some(SECOND)));
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(48))]

    #[test]
    fn a_more_patient_posture_never_advances_earlier(days in prop::collection::vec((0..10_usize, 0..4_usize), 1..14)) {
        let course = course();
        let first_advance = |posture| {
            let mut advisor = Advisor::new(&course, posture, ModelSettings::default());
            (0_u64..).zip(&days).find_map(|(n, &(met, missed))| {
                advisor.watch(&day(n, vec![work(FIRST, Side::Left, met, missed)])).unwrap();
                advisor.side(FIRST, Side::Left, date(n)).filter(|c| c.call == Call::Advance).map(|_| n)
            })
        };
        let firsts: Vec<u64> = Posture::ALL.map(|p| first_advance(p).unwrap_or(u64::MAX)).to_vec();
        prop_assert!(firsts[0] >= firsts[1] && firsts[1] >= firsts[2], "{firsts:?}");
    }

    #[test]
    fn every_call_gives_a_reason_with_a_figure(days in prop::collection::vec((0..10_usize, 1..10_usize), 1..9)) {
        let course = course();
        let days: Vec<_> = days.iter().map(|&(l, r)| vec![work(FIRST, Side::Left, l, r), work(SECOND, Side::Both, r, l)]).collect();
        let advisor = advisor_after(&course, &days);
        for call in advisor.standing(date(2 * days.len() as u64)).calls() {
            prop_assert!(call.why.iter().any(|w| w.chars().any(|c| c.is_ascii_digit())), "{:?}", call.why);
            for side in call.sides {
                prop_assert!(side.why.iter().any(|w| w.chars().any(|c| c.is_ascii_digit())), "{:?}", side.why);
            }
        }
    }
}
