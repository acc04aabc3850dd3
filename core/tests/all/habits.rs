//! What is made of the record beside its calls: softness by part, habits, what is late in a ride, places, what is asked after.

use cavesson_core::{
    advice::{ANTICIPATES, Advisor, AskContext, Posture, is_late, softness},
    belief::ModelSettings,
    curriculum::{Curriculum, Gait, Place, Side, Zone},
    ride::{Habits, Swap},
    schedule::unanswered_days,
};
use chrono::Days;

use crate::support::{date, day, work};

#[test]
fn a_part_is_as_soft_as_the_mean_of_the_steps_that_show_there() {
    let course = Curriculum::standard().course();
    let [flexion, poll] = ["S1", "S6@stand"].map(|id| course.find(id).unwrap());
    assert_eq!((course.step(flexion).zone, course.step(poll).zone), (Some(Zone::Neck), Some(Zone::Poll)));
    let mut advisor = Advisor::new(&course, Posture::Steady, ModelSettings::default());
    assert!(softness(&advisor.standing(date(0))).is_empty(), "nothing is known of a horse that was not ridden");
    for n in 0..6 {
        let reps =
            vec![work(flexion, Side::Left, 9, 1), work(flexion, Side::Right, 2, 8), work(poll, Side::Both, 6, 4)];
        advisor.watch(&day(2 * n, reps)).unwrap();
    }
    let standing = advisor.standing(date(12));
    let soft = softness(&standing);
    let of = |zone, side| soft.iter().find(|s| (s.zone, s.side) == (zone, side)).unwrap();
    let (left, right) = (of(Zone::Neck, Side::Left), of(Zone::Neck, Side::Right));
    assert!(left.share > right.share + 0.3, "{left:?} {right:?}");
    assert_eq!(left.steps, [flexion]);
    let belief = |step, side| standing.sides(step).iter().find(|s| s.side == side).unwrap().belief.share.mean;
    assert!((left.share - belief(flexion, Side::Left)).abs() < 1e-12);
    // A step of both reins counts on either side.
    assert_eq!(of(Zone::Poll, Side::Left).share, of(Zone::Poll, Side::Right).share);
    assert_eq!(soft.len(), 4, "{soft:?}");
}

#[test]
fn only_answers_before_the_ask_of_the_last_two_weeks_are_a_habit() {
    let course = Curriculum::standard().course();
    let asked = |on, fault: &str| AskContext {
        date: date(on),
        rung: "S1".into(),
        gait: Gait::Stand,
        side: Side::Left,
        place: Place::Arena,
        rider: "Ada".into(),
        bit: None,
        late: false,
        hot: None,
        faults: vec![fault.into()],
    };
    let s1 = course.find("S1").unwrap();
    let swap = Swap { on: date(20), from: s1, to: s1 };
    let gone = AskContext { rung: "no-such".into(), ..asked(29, ANTICIPATES) };
    let reps = [asked(15, ANTICIPATES), asked(16, ANTICIPATES), asked(30, ANTICIPATES), asked(30, "head-up"), gone];
    let habits = Habits::of(&course, Curriculum::standard(), vec![swap], &reps, date(30));
    assert_eq!(habits.anticipated.into_iter().collect::<Vec<_>>(), [(s1, 2)], "the sixteenth is fourteen days ago");
    assert_eq!(habits.swaps, [swap]);
}

#[test]
fn the_last_third_of_a_ride_is_late_in_it() {
    let late = |of| (0..of).filter(|&n| is_late(n, of)).count();
    assert_eq!([late(3), late(9), late(10), late(0)], [1, 3, 3, 0]);
    assert!(!is_late(0, 1) && !is_late(5, 9) && is_late(6, 9));
}

#[test]
fn out_of_the_pen_and_away_from_home_are_not_the_same() {
    let out = Place::ALL.map(|p| (p.is_out_of_the_pen(), p.is_away()));
    assert_eq!(out, [(false, false), (false, false), (true, false), (true, true)]);
}

#[test]
fn planned_rides_are_asked_after_for_a_week() {
    assert_eq!(unanswered_days(date(10)), (date(3), date(9)));
    assert_eq!(unanswered_days(date(0)).1 + Days::new(1), date(0));
}
