//! Calls on the whole horse, and what people write against them.

use cavesson_core::{
    advice::{
        Advisor, AskContext, Call, EarlierForecast, Factor, HorseCall, Overrule, Status, StepCall, TrainerInput,
        Verdict, fault_patterns, forecast, shift,
    },
    belief::{Off, Work},
    curriculum::{Course, Gait, Hands, Place, Side},
    response::{Answer, Rep, ResponseTime, Weight},
};

use crate::support::{advisor, date, day, ride, standard_course as course, work};

fn call(advisor: &Advisor<'_>, course: &Course, step: &str, on: u64) -> StepCall {
    let ix = course.find(step).unwrap();
    advisor.standing(date(on)).calls().into_iter().find(|c| c.step == ix).unwrap()
}

/// Section 5 of the handbook: two days running well under what it owned. Common practice, no published source.
#[test]
fn two_days_running_well_under_goes_back_and_says_so() {
    let course = course();
    let mut horse = advisor(&course, TrainerInput::default());
    let days: Vec<u64> = (0..20).map(|n| 2 * n).collect();
    ride(&mut horse, &course, &days, &[("G7@walk", (9, 1), (10, 0))]);
    ride(&mut horse, &course, &[40], &[("G7@walk", (2, 8), (10, 0))]);
    assert_eq!(call(&horse, &course, "G7@walk", 41).status, Status::Owned, "one bad day is one bad day");
    ride(&mut horse, &course, &[42], &[("G7@walk", (2, 8), (10, 0))]);
    let back = call(&horse, &course, "G7@walk", 43);
    assert_eq!((back.call, back.status, back.back_to), (Call::Back, Status::Slipping, course.find("G7@walk")));
    assert!(back.why[0].contains("likely to be under the standard now"), "{:?}", back.why);
    assert!(back.why[1].contains("met the standard 13 of 30 times"), "{:?}", back.why);
}

/// A horse that never missed, and misses now and then later on, still owns the step: no alarm while it is over the standard.
#[test]
fn less_perfect_than_before_and_still_over_the_standard_is_owned() {
    let course = course();
    let mut horse = advisor(&course, TrainerInput::default());
    let days: Vec<u64> = (0..30).map(|n| 2 * n).collect();
    ride(&mut horse, &course, &days, &[("G7@walk", (10, 0), (10, 0))]);
    for n in 30..44 {
        ride(&mut horse, &course, &[2 * n], &[("G7@walk", (9, 1), (10, 0))]);
        let now = call(&horse, &course, "G7@walk", 2 * n + 1);
        assert_eq!((now.status, now.call), (Status::Owned, Call::Advance), "day {n}: {:?}", now.why);
    }
}

#[test]
fn a_faster_gait_may_stiffen_the_slower_for_two_days() {
    let course = course();
    let fresh = || {
        let mut horse = advisor(&course, TrainerInput::default());
        ride(&mut horse, &course, &[0, 2, 4, 6, 8, 10], &[("G7@walk", (10, 0), (10, 0))]);
        ride(&mut horse, &course, &[12, 14], &[("G7@walk", (2, 8), (2, 8)), ("G7@jog", (4, 6), (4, 6))]);
        horse
    };
    let mut horse = fresh();
    let walk = call(&horse, &course, "G7@walk", 15);
    assert_eq!(walk.status, Status::Owned);
    assert!(
        walk.why.iter().any(|w| w.contains("2 days at the jog: stiffer for a day or two is normal")),
        "{:?}",
        walk.why
    );
    ride(&mut horse, &course, &[16], &[("G7@walk", (2, 8), (3, 7)), ("G7@jog", (4, 6), (4, 6))]);
    let walk = call(&horse, &course, "G7@walk", 17);
    assert_eq!(walk.status, Status::Slipping);
    assert!(walk.why.iter().any(|w| w.contains("not come back after 3 days at the jog")), "{:?}", walk.why);
}

#[test]
fn what_is_owned_is_due_after_a_while_and_warming_up_keeps_it() {
    let course = course();
    let mut horse = advisor(&course, TrainerInput::default());
    ride(&mut horse, &course, &[0, 2, 4, 6, 8, 10], &[("G7@walk", (10, 0), (10, 0))]);
    assert!(!call(&horse, &course, "G7@walk", 30).due);
    let due = call(&horse, &course, "G7@walk", 31);
    assert!(due.due && due.why[0].contains("21 days without a rep"), "{:?}", due.why);
    ride(&mut horse, &course, &[31], &[("G7@walk", (3, 0), (3, 0))]);
    assert!(!call(&horse, &course, "G7@walk", 32).due);
}

#[test]
fn sour_sore_and_too_many_days_running_leave_it_alone() {
    let course = course();
    let mut horse = advisor(&course, TrainerInput::default());
    ride(&mut horse, &course, &[0, 1, 2, 3], &[("G7@walk", (6, 4), (6, 4))]);
    assert!(horse.standing(date(4)).horse_call().is_none());
    ride(&mut horse, &course, &[4], &[("G7@walk", (6, 4), (6, 4))]);
    let standing = horse.standing(date(5));
    assert!(standing.horse_call().unwrap().why(&course)[0].contains("Ridden 5 days running"));
    assert!(standing.calls().iter().all(|c| c.call == Call::LeaveAlone));
    let mut sour = day(8, vec![work(course.find("G7@walk").unwrap(), Side::Left, 5, 5)]);
    sour.off = vec![Off::Sour];
    horse.watch(&sour).unwrap();
    assert!(horse.standing(date(9)).horse_call().unwrap().why(&course)[0].contains("It was sour"));
    assert!(horse.standing(date(10)).horse_call().is_none(), "the day after it is over");
    let mut sore = day(11, vec![]);
    sore.off = vec![Off::Sore];
    horse.watch(&sore).unwrap();
    assert_eq!(horse.standing(date(40)).horse_call(), Some(&HorseCall::Sore { since: date(11) }), "sore stays");
}

fn overruled(to: Call, on: u64) -> TrainerInput {
    let step = course().find("G7@walk").unwrap();
    TrainerInput { overrules: vec![Overrule { on: date(on), step, to }], ..TrainerInput::default() }
}

#[test]
fn an_overrule_steers_and_is_judged_later() {
    let course = course();
    let mut horse = advisor(&course, overruled(Call::Advance, 4));
    ride(&mut horse, &course, &[0, 2, 4], &[("G7@walk", (5, 5), (5, 5))]);
    let now = call(&horse, &course, "G7@walk", 5);
    assert_eq!((now.call, now.status), (Call::Advance, Status::Owned));
    assert!(now.why[0].contains("Overruled") && now.why[0].contains("advance, against hold"), "{:?}", now.why);
    assert_eq!(horse.verdict(0, date(20)), Verdict::Open, "three weeks have not gone by");
    ride(&mut horse, &course, &[8, 12, 16, 20], &[("G7@walk", (3, 7), (3, 7))]);
    assert_eq!(horse.verdict(0, date(26)), Verdict::Wrong);
    let mut right = advisor(&course, overruled(Call::Advance, 4));
    ride(&mut right, &course, &[0, 2, 4], &[("G7@walk", (6, 4), (6, 4))]);
    ride(&mut right, &course, &[8, 10, 12, 14, 16, 18, 20], &[("G7@walk", (10, 0), (10, 0))]);
    assert_eq!(right.verdict(0, date(26)), Verdict::Right);
    // Judged once, judged for good: what comes much later is another story.
    ride(&mut right, &course, &[27, 28, 30, 32], &[("G7@walk", (1, 9), (1, 9))]);
    assert_eq!(right.verdict(0, date(33)), Verdict::Right);
    assert_eq!(call(&horse, &course, "G7@walk", 70).status, Status::Learning, "after sixty days it holds no more");
}

#[test]
fn a_hold_against_an_advance_takes_the_next_rung_away() {
    let course = course();
    let mut horse = advisor(&course, overruled(Call::Hold, 11));
    ride(&mut horse, &course, &[0, 2, 4, 6, 8, 10], &[("G7@walk", (10, 0), (10, 0))]);
    assert_eq!(call(&horse, &course, "G7@walk", 10).call, Call::Advance);
    let held = call(&horse, &course, "G7@walk", 12);
    assert_eq!((held.call, held.next.len()), (Call::Hold, 0));
}

#[test]
fn the_next_place_and_the_next_hands_are_named_once_it_is_owned() {
    let course = course();
    let step = course.find("G7@walk").unwrap();
    let at = |place, hands, n: usize| {
        [Side::Left, Side::Right]
            .map(|s| Work { place: Some(place), hands: Some(hands), ..work(step, s, n, 0) })
            .to_vec()
    };
    let mut horse = advisor(&course, TrainerInput::default());
    for n in 0..6 {
        horse.watch(&day(2 * n, at(Place::RoundPen, Hands::Trainer, 10))).unwrap();
    }
    let now = call(&horse, &course, "G7@walk", 11);
    assert_eq!((now.place, now.hands), (Some(Place::Arena), Some(Hands::Assistant)));
    assert!(now.why[0].contains("take it to the arena; put an assistant up"), "{:?}", now.why);
    for n in 6..9 {
        horse.watch(&day(2 * n, at(Place::Arena, Hands::Assistant, 10))).unwrap();
    }
    let now = call(&horse, &course, "G7@walk", 17);
    assert_eq!((now.place, now.hands), (Some(Place::Outside), Some(Hands::Owner)));
}

fn asked(n: u64, gait: Gait, rider: &str, late: bool, fault: bool) -> AskContext {
    AskContext {
        date: date(n),
        rung: "S6".into(),
        gait,
        side: Side::Both,
        place: Place::Arena,
        rider: rider.into(),
        bit: None,
        late,
        hot: None,
        faults: if fault { vec!["head-up".into()] } else { vec![] },
    }
}

#[test]
fn a_fault_that_follows_a_gait_or_a_rider_is_told_with_its_counts() {
    // Head up at the jog in half the asks, at the walk never; on ten days.
    let by_gait: Vec<AskContext> = (0..10)
        .flat_map(|n| (0..8).map(move |k| asked(n, if k < 4 { Gait::Walk } else { Gait::Jog }, "Ada", false, k >= 6)))
        .collect();
    let found = fault_patterns(&by_gait);
    assert_eq!(found[0].factor, Factor::Gait(Gait::Jog));
    assert_eq!((found[0].there, found[0].elsewhere), ((20, 40), (0, 40)));
    assert!(found[0].p < 0.001 && found[0].looked_at >= 2);
    // Head up with one rider, not with the other, day by day.
    let by_rider: Vec<AskContext> = (0..24)
        .flat_map(|n| {
            (0..8).map(move |k| asked(n, Gait::Walk, ["Ada", "Bo"][n as usize % 2], false, n % 2 == 1 && k < 4))
        })
        .collect();
    assert_eq!(fault_patterns(&by_rider)[0].factor, Factor::Rider("Bo".into()));
}

/// A bad day makes all its reps alike: eighty faults on two days of twelve are two days, not eighty signs.
#[test]
fn what_chance_explains_as_well_is_not_told() {
    let mut reps: Vec<AskContext> = vec![];
    for n in 0..12 {
        let rider = if n < 6 { "Ada" } else { "Bo" };
        reps.extend((0..40).map(|_| asked(n, Gait::Walk, rider, false, n == 7 || n == 9)));
    }
    assert!(fault_patterns(&reps).is_empty(), "{:?}", fault_patterns(&reps));
    // Faults scattered alike over both gaits tell nothing of either.
    let even: Vec<AskContext> = (0..12)
        .flat_map(|n| {
            (0..20).map(move |k| {
                asked(n, if k % 2 == 0 { Gait::Walk } else { Gait::Jog }, "Ada", k > 12, (k + n) % 5 == 0)
            })
        })
        .collect();
    assert!(fault_patterns(&even).iter().all(|p| p.p > 0.01), "{:?}", fault_patterns(&even));
}

#[test]
fn the_forecast_is_a_spread_that_moves_with_the_record() {
    let course = course();
    let step = course.find("G7@walk").unwrap();
    let mut horse = advisor(&course, TrainerInput::default());
    ride(&mut horse, &course, &[0, 2, 4, 6], &[("G7@walk", (6, 4), (6, 4))]);
    let slow = forecast(&horse.standing(date(7)), step).unwrap();
    let (early, middle) = (slow.dates.early.unwrap(), slow.dates.middle.unwrap());
    assert!(date(7) < early && early < middle && slow.dates.late.is_none_or(|late| late > middle));
    assert!((0..40).map(|n| slow.by(date(7 + 5 * n))).collect::<Vec<_>>().is_sorted());
    assert!(slow.by(date(2000)) <= 0.95, "nothing is sure");
    // A step that is open and was not begun: a wide spread, and not sooner than it can be begun.
    let mut braked = advisor(&course, TrainerInput::default());
    ride(&mut braked, &course, &[0, 2, 4, 6], &[("G7@walk", (10, 0), (10, 0))]);
    let open = course.find("S1").unwrap();
    assert!(braked.standing(date(7)).is_open(open));
    let unbegun = forecast(&braked.standing(date(7)), open).unwrap();
    assert!(
        unbegun.by(date(60)) < 0.9 && unbegun.by(date(12)) < 0.3,
        "{} {}",
        unbegun.by(date(60)),
        unbegun.by(date(12))
    );
    let (early, late) = (unbegun.dates.early.unwrap(), unbegun.dates.late);
    assert!(late.is_none_or(|late| (late - early).num_days() > 14), "{:?}", unbegun.dates);
    let before = horse.clone();
    ride(&mut horse, &course, &[8, 10, 12], &[("G7@walk", (8, 2), (8, 2))]);
    let now = forecast(&horse.standing(date(13)), step).unwrap();
    assert!(now.dates.middle.unwrap() < middle);
    assert!(
        shift(&EarlierForecast::of(&before.standing(date(7))), &now).is_some_and(|s| s.days < 0),
        "better than thought"
    );
    ride(&mut horse, &course, &[14, 16, 18, 20], &[("G7@walk", (10, 0), (10, 0))]);
    assert!(forecast(&horse.standing(date(21)), step).is_none(), "what is owned has no forecast");
}

#[test]
fn what_waits_for_a_need_comes_after_it_and_what_is_further_off_is_not_said() {
    let course = course();
    let mut horse = advisor(&course, TrainerInput::default());
    ride(&mut horse, &course, &[0, 2, 4, 6], &[("G7@walk", (6, 4), (6, 4))]);
    let standing = horse.standing(date(7));
    let near = |ix: usize| standing.is_open(ix) || !standing.sides(ix).is_empty();
    let (mut told, mut silent) = (0, 0);
    for step in (0..course.steps().len()).filter(|&ix| !near(ix)) {
        let needs = standing.waits_for(step);
        let Some(f) = forecast(&standing, step) else {
            silent += 1;
            assert!(needs.iter().any(|&need| !near(need)), "{}: its needs are near", course.step(step).id);
            continue;
        };
        told += 1;
        for weeks in [1, 4, 12, 26] {
            let on = date(7 + 7 * weeks);
            let need = needs.iter().map(|&need| forecast(&standing, need).unwrap().by(on)).fold(1.0, f64::min);
            assert!(f.by(on) <= need + 0.05, "{}: {} of {need}", course.step(step).id, f.by(on));
        }
        assert!(f.by(date(7)) == 0.0 && f.dates.late.is_none_or(|late| late > date(28)), "{:?}", f.dates);
    }
    assert!(told > 0 && silent > 10, "{told} told, {silent} too early to say");
}

/// Flexion opens the bend at two fingers and is finished at a feather (common practice, no published source).
#[test]
fn a_standard_to_begin_with_opens_the_next_rung_before_the_first_is_owned() {
    let course = course();
    let [brake, flexion, bend] = ["G7@walk", "S1", "S2"].map(|id| course.find(id).unwrap());
    // Weights and seconds differ from rep to rep, so that each is a reading of its own and not a set written down at once.
    let rep = |weight, ms| Rep { answer: Answer::Gave, weight, time: ResponseTime::new(ms).ok() };
    let reps = |[one, other]: [Weight; 2]| {
        (0..5).flat_map(|n| [rep(one, 1_210 + 30 * n), rep(other, 1_350 - 20 * n)]).collect()
    };
    let after = |weights: [Weight; 2]| {
        let mut horse = advisor(&course, TrainerInput::default());
        for n in 0..5 {
            let sides = [Side::Left, Side::Right];
            let work = |step, weights| sides.map(|side| Work::reps(step, side, reps(weights)));
            horse
                .watch(&day(2 * n, [work(brake, [Weight::Feather, Weight::Egg]), work(flexion, weights)].concat()))
                .unwrap();
        }
        let standing = horse.standing(date(9));
        let call = standing.calls().into_iter().find(|c| c.step == flexion).unwrap();
        (standing.is_open(bend), standing.waits_for(bend), call)
    };
    let (open, waits, call) = after([Weight::Fingers, Weight::Orange]);
    assert!(open && waits.is_empty(), "{waits:?}");
    assert_eq!((call.status, call.call), (Status::Learning, Call::Hold), "a feather is what finishes it");
    assert!(call.next.contains(&bend));
    assert!(call.why[0].starts_with("Good enough to begin S2 bend and walk"), "{:?}", call.why);
    assert!(call.why[0].contains("two fingers"), "{:?}", call.why);
    let (open, waits, _) = after([Weight::Hand, Weight::Tug]);
    assert!(!open && waits == [flexion], "a full hand opens nothing");
    let (open, waits, _) = after([Weight::Feather, Weight::None]);
    assert!(open && waits.is_empty(), "a feather is more than enough");
}
