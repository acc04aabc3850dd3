//! What to ride: the order of what matters, the split of the sides, and the sentences.

use cavesson_core::{
    advice::{Advisor, Posture},
    belief::{ModelSettings, Work},
    curriculum::{Course, Curriculum, Gait, Side, Sides, Step, SubjectKind},
    response::Standard,
    ride::{Habits, Main, Split, outline},
};
use proptest::prelude::*;

use crate::support::{date, day, work};

fn after<'a>(course: &'a Course, days: &[Vec<Work>]) -> Advisor<'a> {
    let mut advisor = Advisor::new(course, Posture::Steady, ModelSettings::default());
    for (n, work) in days.iter().enumerate() {
        advisor.watch(&day(n as u64, work.clone())).unwrap();
    }
    advisor
}

fn main_of(course: &Course, days: &[Vec<Work>]) -> Main {
    outline(&after(course, days).standing(date(days.len() as u64)), &Habits::default()).main.unwrap()
}

#[test]
fn an_unridden_horse_begins_at_the_foot_of_the_ladder() {
    let course = Course::of(Curriculum::standard()).unwrap();
    let plan = outline(&after(&course, &[]).standing(date(0)), &Habits::default());
    assert!(plan.loosen.is_empty());
    let main = plan.main.unwrap();
    assert_eq!(course.step(main.step).id, "G7@walk");
    assert_eq!(main.split, Some(Split { left: 50, right: 50 }));
    assert!(main.why.contains("begin it"), "{}", main.why);
}

/// What a rung is about decides, and not its letter: a barn may teach bits on a ladder of its own.
#[test]
fn a_new_bit_is_never_begun_as_the_subject_of_a_ride() {
    let step = |id, subject| {
        let mut step = Step::plain(id, Gait::Stand, Sides::Both, Standard::default());
        step.work.subject = subject;
        (step, vec![])
    };
    let main = |steps| {
        let course = Course::new(steps).unwrap();
        let plan = outline(&after(&course, &[]).standing(date(0)), &Habits::default());
        plan.main.map(|m| course.step(m.step).id.clone())
    };
    let own_bit = || step("X1", SubjectKind::Bit);
    assert_eq!(main(vec![own_bit()]), None);
    assert_eq!(main(vec![own_bit(), step("B1", SubjectKind::Softness)]).as_deref(), Some("B1"));
}

#[test]
fn what_slips_comes_before_anything_new() {
    let course = crate::support::course();
    let mut days = vec![vec![work(0, Side::Left, 12, 0), work(0, Side::Right, 12, 0)]; 6];
    days.extend(vec![vec![work(0, Side::Left, 1, 9), work(0, Side::Right, 10, 0), work(1, Side::Both, 5, 5)]; 3]);
    let main = main_of(&course, &days);
    assert_eq!(main.step, 0);
    assert!(main.why.contains("slipping"), "{}", main.why);
    assert!(main.split.unwrap().left > 50);
}

#[test]
fn a_horse_that_owns_everything_has_no_main_subject() {
    let course = crate::support::course();
    let all = vec![work(0, Side::Left, 12, 0), work(0, Side::Right, 12, 0), work(1, Side::Both, 12, 0)];
    let plan = outline(&after(&course, &vec![all; 7]).standing(date(7)), &Habits::default());
    assert_eq!((plan.main, plan.loosen.as_slice()), (None, &[0, 1][..]));
}

/// 50/50 within a tenth, 60/40 within a quarter, 70/30 beyond, the larger part to the weaker side: common practice.
#[test]
fn the_split_follows_the_gap() {
    let course = crate::support::course();
    for (left, right, expected) in
        [(5, 5, (50, 50)), (4, 6, (60, 40)), (6, 4, (40, 60)), (1, 9, (70, 30)), (9, 1, (30, 70))]
    {
        let days = vec![vec![work(0, Side::Left, left, 10 - left), work(0, Side::Right, right, 10 - right)]; 5];
        let split = main_of(&course, &days).split.unwrap();
        assert_eq!((split.left, split.right), expected, "{left} and {right} of 10");
    }
}

#[test]
fn a_side_never_asked_gets_the_larger_part() {
    let course = crate::support::course();
    let split = main_of(&course, &vec![vec![work(0, Side::Right, 5, 5)]; 2]).split.unwrap();
    assert_eq!((split.left, split.right), (60, 40));
}

#[test]
fn a_rung_of_both_reins_has_no_split_and_quits_on_its_weight() {
    let course = crate::support::course();
    let days = vec![vec![work(0, Side::Left, 12, 0), work(0, Side::Right, 12, 0)]; 6];
    let main = main_of(&course, &days);
    assert_eq!((main.step, main.split), (1, None));
    assert_eq!(main.quit, "quit on a whole answer at a lemon or less");
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(32))]

    #[test]
    fn splits_add_up_and_mirror(days in prop::collection::vec((0..10_usize, 0..10_usize), 1..8)) {
        let course = crate::support::course();
        let plan = |mirrored: bool| {
            let days: Vec<_> = days.iter().map(|&(l, r)| {
                let (l, r) = if mirrored { (r, l) } else { (l, r) };
                vec![work(0, Side::Left, l, 10 - l), work(0, Side::Right, r, 10 - r)]
            }).collect();
            outline(&after(&course, &days).standing(date(days.len() as u64)), &Habits::default())
        };
        let (seen, mirror) = (plan(false), plan(true));
        if let (Some(Main { split: Some(a), .. }), Some(Main { split: Some(b), .. })) = (seen.main, mirror.main) {
            prop_assert_eq!(a.left + a.right, 100);
            prop_assert_eq!((a.left, a.right), (b.right, b.left));
            prop_assert!((30..=70).contains(&a.left));
        }
    }
}
