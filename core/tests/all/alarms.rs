//! Possible pain, and how alarms are answered and turn out.

use cavesson_core::{
    advice::{AlarmAnswer, AlarmKind, Call, CareChange, HorseCall, Overrule, Posture, TrainerInput, TurnedOut},
    belief::Work,
    count::Count,
    curriculum::{Course, Side},
};

use crate::support::{Ridden, advisor, date, day, ride, standard_course as course, work};

const GOOD: [Ridden; 3] = [("G7@walk", (9, 1), (10, 0)), ("S4@stand", (10, 0), (9, 1)), ("L1", (9, 1), (9, 1))];
const SORE: [Ridden; 3] = [("G7@walk", (1, 9), (10, 0)), ("S4@stand", (2, 8), (9, 1)), ("L1", (1, 9), (10, 0))];
const BAD_DAY: [Ridden; 3] = [("G7@walk", (3, 7), (3, 7)), ("S4@stand", (4, 6), (2, 8)), ("L1", (3, 7), (4, 6))];

#[test]
fn one_side_at_once_on_rungs_that_share_nothing_is_pain_before_training() {
    let course = course();
    let mut horse = advisor(&course, TrainerInput::default());
    ride(&mut horse, &course, &[0, 2, 4, 6, 8, 10], &GOOD);
    assert!(horse.standing(date(11)).horse_call().is_none());
    ride(&mut horse, &course, &[12], &SORE);
    let standing = horse.standing(date(13));
    let Some(HorseCall::LookAt(pain)) = standing.horse_call() else { panic!("{:?}", standing.horse_call()) };
    assert_eq!((pain.side, pain.since, pain.rungs.len()), (Side::Left, date(12), 3));
    let why = pain.why(&course);
    assert!(why[0].contains("to the left all at once, on 3 rungs"), "{why:?}");
    assert!(why[1].contains("met 1 of 10") && why[2].starts_with("Mouth, feet, back, saddle"), "{why:?}");
    assert!(standing.calls().iter().all(|c| c.call == Call::LookAt), "no training call");
    // It stays, good days or not, until someone has looked.
    ride(&mut horse, &course, &[20, 22], &GOOD);
    assert!(horse.pain(date(40)).is_some());
}

#[test]
fn pain_is_cleared_by_what_was_found_and_can_come_back() {
    let course = course();
    let mut horse = advisor(&course, TrainerInput { findings: vec![date(14)], ..TrainerInput::default() });
    ride(&mut horse, &course, &[0, 2, 4, 6, 8, 10], &GOOD);
    ride(&mut horse, &course, &[12], &SORE);
    assert!(horse.pain(date(13)).is_some() && horse.pain(date(14)).is_none());
    ride(&mut horse, &course, &[16, 18, 20, 22], &GOOD);
    assert!(horse.standing(date(23)).horse_call().is_none());
    ride(&mut horse, &course, &[24], &SORE);
    assert_eq!(horse.pain(date(24)).map(|p| p.since), Some(date(24)));
}

#[test]
fn a_bad_day_takes_both_sides_and_is_no_pain() {
    let course = course();
    let mut horse = advisor(&course, TrainerInput::default());
    ride(&mut horse, &course, &[0, 2, 4, 6, 8, 10], &GOOD);
    ride(&mut horse, &course, &[12], &BAD_DAY);
    assert!(horse.standing(date(13)).horse_call().is_none());
    // One rung alone, however bad, is training and not pain.
    let mut horse = advisor(&course, TrainerInput::default());
    ride(&mut horse, &course, &[0, 2, 4, 6, 8, 10], &GOOD);
    ride(&mut horse, &course, &[12], &[("S4@stand", (0, 10), (10, 0))]);
    assert!(horse.standing(date(13)).horse_call().is_none());
}

/// What the horse did before as well as after: three rungs on both sides, and then a sore left.
fn told(course: &Course, changes: Vec<(chrono::NaiveDate, CareChange)>, last: u64) -> Vec<String> {
    let mut horse = advisor(course, TrainerInput { changes, ..TrainerInput::default() });
    ride(&mut horse, course, &[0, 2, 4, 6, 8, 10], &GOOD);
    ride(&mut horse, course, &[last], &SORE);
    horse.standing(date(last + 1)).horse_call().expect("possible pain").why(course)
}

#[test]
fn a_loss_soon_after_a_change_or_days_off_says_so() {
    let course = course();
    let shod = told(&course, vec![(date(1), CareChange::Bit), (date(9), CareChange::Shoes)], 12);
    assert!(shod.contains(&"It came 3 days after new shoes or a trim: ask the farrier first".to_owned()), "{shod:?}");
    let long_ago = told(&course, vec![(date(0), CareChange::Saddle)], 20);
    assert!(!long_ago.iter().any(|line| line.contains("It came")), "{long_ago:?}");
    let same_day = told(&course, vec![(date(12), CareChange::Saddle)], 12);
    assert!(
        same_day.iter().any(|l| l.contains("on the day of a change of saddle: ask the saddler first")),
        "{same_day:?}"
    );
    let off = told(&course, vec![], 40);
    assert!(off.iter().any(|l| l == "It came after 29 days off: feet and back may have changed"), "{off:?}");
}

/// What is counted otherwise than in asks bears witness as well.
#[test]
fn counted_work_takes_part_in_the_pattern() {
    let course = course();
    let mut horse = advisor(&course, TrainerInput::default());
    let leads = course.find("L1").expect("set-ups");
    let set_ups = |accepted: u8, side: Side| Work {
        counts: vec![Count::SetUps { asked: 10, accepted }],
        ..Work::reps(leads, side, vec![])
    };
    let walk = course.find("G7@walk").expect("a step");
    let on = |n: u64, (reps, left, right): ((usize, usize), u8, u8)| {
        let work = vec![
            work(walk, Side::Left, reps.0, reps.1),
            work(walk, Side::Right, 10, 0),
            set_ups(left, Side::Left),
            set_ups(right, Side::Right),
        ];
        day(n, work)
    };
    for n in 0..8 {
        horse.watch(&on(2 * n, ((10, 0), 10, 9))).expect("in order");
    }
    for n in 8..10 {
        horse.watch(&on(2 * n, ((0, 10), 2, 9))).expect("in order");
    }
    let standing = horse.standing(date(20));
    let Some(HorseCall::LookAt(pain)) = standing.horse_call() else { panic!("{:?}", standing.horse_call()) };
    assert!(pain.rungs.iter().any(|r| r.step == leads), "{pain:?}");
}

const WALK: Ridden = ("G7@walk", (10, 0), (10, 0));
const BAD_LEFT: Ridden = ("G7@walk", (2, 8), (10, 0));

#[test]
fn an_alarm_is_judged_by_the_work_after_it() {
    let course = course();
    let days: Vec<u64> = (0..15).map(|n| 2 * n).collect();
    let mut lost = advisor(&course, TrainerInput::default());
    ride(&mut lost, &course, &days, &[WALK]);
    assert_eq!(lost.alarms(), [], "nothing to be alarmed about");
    ride(&mut lost, &course, &[30, 32], &[BAD_LEFT]);
    let [alarm] = lost.alarms() else { panic!("{:?}", lost.alarms()) };
    assert_eq!(
        (alarm.kind, alarm.side, alarm.ended),
        (AlarmKind::Slipping(course.find("G7@walk").unwrap()), Side::Left, None)
    );
    assert_eq!((lost.turned_out(alarm), lost.answered(alarm)), (TurnedOut::Open, AlarmAnswer::NotYet));
    let mut back = lost.clone();
    ride(&mut lost, &course, &[34, 36, 38], &[BAD_LEFT]);
    let alarm = lost.alarms()[0];
    assert_eq!((alarm.after.met, alarm.after.reps), (6, 30), "three days of work");
    assert_eq!((lost.turned_out(&alarm), lost.answered(&alarm)), (TurnedOut::BorneOut, AlarmAnswer::Heeded));
    ride(&mut back, &course, &[34, 36, 38, 40, 42], &[WALK]);
    let alarm = back.alarms()[0];
    assert_eq!((back.turned_out(&alarm), back.alarms().len()), (TurnedOut::Passed, 1));
    assert!(alarm.ended.is_some(), "a horse that does it again is no longer called back: {alarm:?}");
}

#[test]
fn an_alarm_is_heeded_overruled_or_ridden_on() {
    let course = course();
    let days: Vec<u64> = (0..15).map(|n| 2 * n).collect();
    let step = course.find("G7@walk").unwrap();
    let stop = course.find("T2").expect("a stop that rests on the brake");
    let answer = |overrules: Vec<Overrule>, stops: bool| {
        let mut horse = advisor(&course, TrainerInput { overrules, ..TrainerInput::default() });
        ride(&mut horse, &course, &days, &[WALK]);
        ride(&mut horse, &course, &[30, 32], &[BAD_LEFT]);
        let mut after = vec![work(step, Side::Left, 2, 8)];
        after.extend(stops.then(|| work(stop, Side::Both, 5, 5)));
        horse.watch(&day(34, after)).unwrap();
        let alarm = horse.alarms()[0];
        horse.answered(&alarm)
    };
    assert_eq!(answer(vec![], false), AlarmAnswer::Heeded);
    assert_eq!(answer(vec![], true), AlarmAnswer::RodeOn);
    let hold = Overrule { on: date(33), step, to: Call::Hold };
    assert_eq!(answer(vec![hold], true), AlarmAnswer::Overruled);
    let before = Overrule { on: date(20), step, to: Call::Hold };
    assert_eq!(answer(vec![before], false), AlarmAnswer::Heeded, "an overrule of another time");
}

#[test]
fn possible_pain_is_answered_by_looking() {
    let course = course();
    let answer = |findings, after: &[u64]| {
        let mut horse = advisor(&course, TrainerInput { findings, ..TrainerInput::default() });
        ride(&mut horse, &course, &[0, 2, 4, 6, 8, 10], &GOOD);
        ride(&mut horse, &course, &[12], &SORE);
        ride(&mut horse, &course, after, &GOOD);
        let pain = *horse.alarms().iter().find(|a| a.kind == AlarmKind::Pain).expect("an alarm");
        (horse.answered(&pain), pain.ended)
    };
    // It is one alarm, whatever steps it shows on.
    let mut sore = advisor(&course, TrainerInput::default());
    ride(&mut sore, &course, &[0, 2, 4, 6, 8, 10], &GOOD);
    ride(&mut sore, &course, &[12, 14, 16], &SORE);
    assert_eq!(sore.alarms().len(), 1, "{:?}", sore.alarms());
    assert_eq!(answer(vec![], &[]), (AlarmAnswer::NotYet, None));
    assert_eq!(answer(vec![], &[14]), (AlarmAnswer::RodeOn, None), "it stays until someone has looked");
    assert_eq!(answer(vec![date(13)], &[14]), (AlarmAnswer::Heeded, Some(date(14))));
}

#[test]
fn a_posture_that_wants_to_be_surer_raises_fewer() {
    let course = course();
    let mut horse = advisor(&course, TrainerInput::default());
    ride(&mut horse, &course, &(0..15).map(|n| 2 * n).collect::<Vec<_>>(), &[WALK]);
    ride(&mut horse, &course, &[30, 32, 34], &[BAD_LEFT]);
    let mut alarm = horse.alarms()[0];
    assert!(alarm.raised_by(Posture::Patient) && alarm.raised_by(Posture::GoAhead), "{alarm:?}");
    alarm.likely = 0.7;
    assert!(alarm.raised_by(Posture::Steady) && !alarm.raised_by(Posture::GoAhead));
    alarm.kind = AlarmKind::Pain;
    assert!(alarm.raised_by(Posture::GoAhead), "possible pain is told whatever the posture");
}
