//! The first day in a leverage bit, the way down with a spoiled mouth, and what is logged of both.

use cavesson_core::{
    curriculum::{BitRoad, Curriculum, Gait, Road, RoadStep},
    ride::Mouthpiece,
    tack::{
        Asker, Came, Corner, FirstDay, HeadAt, PairWeek, PairedAsk, Reins, StepNoted, StepWhy, TackEvent, brace_test,
        brace_trend, brace_weeks, first_day, heads_up, lacks_before_leverage, next_reins, order_of_reins, two_reins,
        weeks_ahead,
    },
};
use chrono::{Days, NaiveDate};
use proptest::prelude::*;

fn day(n: u64) -> NaiveDate {
    NaiveDate::from_ymd_opt(2026, 3, 2).unwrap() + Days::new(n)
}

fn road(id: BitRoad) -> &'static Road {
    Road::all().iter().find(|r| r.id == id).unwrap()
}

fn steps() -> &'static [RoadStep] {
    &road(BitRoad::Leverage).stage.iter().find(|s| s.once).unwrap().step
}

fn noted(on: u64, step: usize, came: Came) -> StepNoted {
    StepNoted { on: day(on), step, came, tossed: false, corner: None }
}

/// The order of the handbook's list: hang it, set the strap, feel, to the side, jog, poll, stop, lope, stop.
#[test]
fn each_step_is_passed_before_the_next() {
    let all: Vec<StepNoted> = (0..steps().len()).map(|n| noted(0, n, Came::Passed)).collect();
    for n in 0..all.len() {
        let why = if n == 0 { StepWhy::Begins } else { StepWhy::Passed };
        assert_eq!(first_day(steps(), &all[..n], day(0)), FirstDay::Next(n, why));
    }
    assert_eq!(first_day(steps(), &all, day(5)), FirstDay::Done(day(0)));
    // One that was not next does not count.
    assert_eq!(first_day(steps(), &all[4..], day(0)), FirstDay::Next(0, StepWhy::Begins));
}

#[test]
fn a_fret_goes_back_one_and_a_tossed_head_goes_to_the_strap() {
    let mut so_far: Vec<StepNoted> = (0..5).map(|n| noted(0, n, Came::Passed)).collect();
    so_far.push(noted(0, 5, Came::Fretted));
    assert_eq!(first_day(steps(), &so_far, day(0)), FirstDay::Next(4, StepWhy::Fretted));
    so_far.push(StepNoted { tossed: true, ..noted(0, 4, Came::Fretted) });
    let FirstDay::Next(strap, StepWhy::Strap) = first_day(steps(), &so_far, day(0)) else { panic!() };
    assert_eq!(steps()[strap].name, "Set the strap");
    // On another day too: it is the strap's until shown otherwise.
    assert_eq!(first_day(steps(), &so_far, day(3)), FirstDay::Next(strap, StepWhy::Strap));
    let pinched = [noted(0, 0, Came::Passed), noted(0, 1, Came::Passed)];
    let pinched =
        pinched.into_iter().chain([StepNoted { corner: Some(Corner::Pinched), ..noted(0, 2, Came::Fretted) }]);
    let at = first_day(steps(), &pinched.collect::<Vec<_>>(), day(0));
    assert_eq!(at, FirstDay::Next(strap, StepWhy::Strap));
    assert_eq!(first_day(steps(), &[noted(0, 0, Came::Fretted)], day(0)), FirstDay::Next(0, StepWhy::Fretted));
}

#[test]
fn what_is_left_waits_for_another_day_and_a_list_that_was_broken_off_goes_on() {
    let mut so_far = vec![noted(0, 0, Came::Passed), noted(0, 1, Came::Passed)];
    assert_eq!(first_day(steps(), &so_far, day(2)), FirstDay::Next(2, StepWhy::BrokenOff(day(0))));
    so_far.push(noted(0, 2, Came::Left));
    assert_eq!(first_day(steps(), &so_far, day(0)), FirstDay::AnotherDay(2));
    assert_eq!(first_day(steps(), &so_far, day(1)), FirstDay::Next(2, StepWhy::LeftOn(day(0))));
    so_far.push(noted(1, 2, Came::Passed));
    assert_eq!(first_day(steps(), &so_far, day(1)), FirstDay::Next(3, StepWhy::Passed));
}

proptest! {
    /// Whatever was noted, the next step is one of the list, and is at most one further than what was passed.
    #[test]
    fn the_list_is_never_further_than_what_was_passed(
        all in prop::collection::vec((0..14_usize, 0..3_usize, any::<bool>(), 0..4_u64), 0..40)
    ) {
        let notes: Vec<StepNoted> = all.iter().map(|&(step, came, tossed, on)| {
            StepNoted { tossed, ..noted(on, step, Came::ALL[came]) }
        }).collect();
        let passed = |step: usize| notes.iter().any(|n| n.step == step && n.came == Came::Passed);
        match first_day(steps(), &notes, day(4)) {
            FirstDay::Next(step, _) | FirstDay::AnotherDay(step) => {
                prop_assert!(step < steps().len());
                prop_assert!((0..step).all(passed));
            }
            FirstDay::Done(_) => prop_assert!((0..steps().len()).all(passed)),
        }
    }
}

#[test]
fn a_first_day_waits_for_mouth_teeth_and_the_snaffles_rungs() {
    assert!(lacks_before_leverage(true, true, &[]).is_empty());
    let lacks = lacks_before_leverage(false, false, &["poll on two reins"]);
    assert_eq!(lacks.len(), 3);
    assert!(lacks[2].contains("poll on two reins"));
}

#[test]
fn the_stage_is_the_first_that_is_taught_and_not_behind() {
    let leverage = road(BitRoad::Leverage);
    let name = |n: Option<usize>| n.map(|n| leverage.stage[n].name.as_str());
    let all = |_: &str| true;
    let none = |_: &str| false;
    assert_eq!(name(leverage.stage_now(all, none, none)), Some("Halter"));
    assert_eq!(name(leverage.stage_now(all, |r| r == "G7" || r == "S6", none)), Some("First day in leverage"));
    let ridden = |r: &str| r == "B14";
    assert_eq!(name(leverage.stage_now(all, |r| r == "G7" || r == "S6", ridden)), Some("All its work in leverage"));
    assert_eq!(leverage.stage_now(all, all, all), None);
    assert_eq!(name(leverage.stage_now(|r| r == "B15", none, none)), Some("One hand"));
    let wears = leverage.stage.iter().find(|s| s.mouthpiece == Some(Mouthpiece::Leverage)).unwrap();
    assert!(wears.once);
    for (choice, id) in [("spoiled", BitRoad::Spoiled), ("bridle-no-two-rein", BitRoad::Bridle)] {
        let change = cavesson_core::curriculum::Change::School { school: "road".into(), choice: choice.into() };
        let change = cavesson_core::curriculum::DatedChange { on: day(0), change };
        assert_eq!(Road::picked(&Curriculum::standard().changed(&[change]).unwrap()).id, id);
    }
}

fn ask(on: u64, reins: Reins, braced: bool) -> PairedAsk {
    PairedAsk { on: day(on), gait: Gait::Walk, reins, braced }
}

/// So many pairs on a day, of which some brace on two only.
fn pairs(on: u64, many: usize, on_two_only: usize) -> Vec<PairedAsk> {
    (0..many).flat_map(|n| [ask(on, Reins::One, false), ask(on, Reins::Two, n < on_two_only)]).collect()
}

#[test]
fn weeks_are_counted_from_mondays_and_add_up_to_the_test() {
    // Day 0 is a Monday, day 6 a Sunday.
    let asks: Vec<PairedAsk> = [pairs(0, 4, 3), pairs(6, 2, 2), pairs(7, 5, 1)].concat();
    let weeks = brace_weeks(&asks);
    let week = |on, pairs, on_two_only| PairWeek { week: day(on), pairs, on_two_only, on_one_only: 0 };
    assert_eq!(weeks, [week(0, 6, 5), week(7, 5, 1)]);
    let test = brace_test(&asks);
    assert_eq!((test.pairs, test.on_two_only), (11, 6));
}

#[test]
fn the_trend_is_the_line_through_the_weeks() {
    let week = |n: u64, on_two_only| PairWeek { week: day(7 * n), pairs: 9, on_two_only, on_one_only: 9 - on_two_only };
    let trend = brace_trend(&[week(0, 9), week(1, 9), week(2, 9)]).unwrap();
    assert!(trend.a_week.abs() < 1e-12 && trend.low < 0.0 && trend.high > 0.0);
    let falls = brace_trend(&[week(0, 7), week(1, 7), week(2, 2)]).unwrap();
    assert!(falls.a_week < -0.3 && falls.low < falls.a_week && falls.a_week < falls.high);
    assert!(brace_trend(&[week(0, 7), week(1, 2)]).is_none());
}

#[test]
fn two_reins_wait_until_few_pairs_brace_on_them() {
    assert!(two_reins(&[], day(0)).is_empty());
    let at = |asks: &[PairedAsk], on| two_reins(asks, day(on)).into_iter().find(|t| t.gait == Gait::Walk).unwrap();
    let clean = pairs(0, 8, 0);
    let now = at(&clean, 0);
    assert!(now.may && now.likely > 0.9, "{now:?}");
    assert!(!at(&pairs(0, 2, 0), 0).may, "two pairs say too little");
    assert!(!at(&pairs(0, 12, 6), 0).may);
    // What was two weeks ago says nothing of today.
    assert_eq!(at(&clean, 14).pairs, 0);
    assert!(!at(&clean, 14).may);
    // The share has a Beta(½, 8½) posterior; its distribution by sums over the density.
    let steps = 200_000;
    let density = |x: f64| x.powf(-0.5) * (1.0 - x).powf(7.5);
    // x = u² takes the pole at 0 away.
    let integral = |to: f64| {
        let wide = to.sqrt() / f64::from(steps);
        (0..steps).map(|n| (f64::from(n) + 0.5) * wide).map(|u| density(u * u) * 2.0 * u * wide).sum::<f64>()
    };
    assert!((now.likely - integral(0.2) / integral(1.0)).abs() < 1e-6, "{}", now.likely);
}

#[test]
fn the_weeks_ahead_follow_each_other_and_wait_for_the_horse() {
    let usual = [1, 4, 3];
    let ahead = weeks_ahead(&usual, 1, day(0), day(7));
    assert_eq!(
        ahead.iter().map(|p| (p.stage, p.from, p.to)).collect::<Vec<_>>(),
        [(1, day(0), day(28)), (2, day(28), day(49))]
    );
    // After six weeks on a stage of four it is given another week.
    let late = weeks_ahead(&usual, 1, day(0), day(42));
    assert_eq!((late[0].to, late[1].from), (day(49), day(49)));
    assert!(weeks_ahead(&usual, 3, day(0), day(0)).is_empty());
}

#[test]
fn the_order_for_a_device_is_what_would_be_asked_one_by_one() {
    let mut asks = pairs(0, 2, 1);
    asks.push(ask(0, Reins::Two, true));
    let order = order_of_reins(&asks, day(0), Gait::Walk, 9, 20);
    assert_eq!(order[0], Reins::One, "an open pair is closed first");
    for reins in order {
        assert_eq!(next_reins(&asks, day(0), Gait::Walk, 9), reins);
        asks.push(ask(0, reins, false));
    }
    let heads = [(ask(0, Reins::One, false), HeadAt::Low), (ask(0, Reins::Two, true), HeadAt::Up)];
    assert_eq!((heads_up(&heads, Reins::One), heads_up(&heads, Reins::Two)), ((1, 0), (1, 1)));
}

#[test]
fn an_event_that_cannot_be_names_its_field() {
    let step =
        |came, tossed, hole, turned, corner| TackEvent::<u8>::Step { step: 2, came, tossed, hole, turned, corner };
    let field = |event: &TackEvent<u8>| event.wrong().map(|w| w.field);
    let cases = [
        (TackEvent::Worn { gear: vec![] }, Some("gear")),
        (TackEvent::Worn { gear: vec![1, 2, 1] }, Some("gear")),
        (TackEvent::Worn { gear: vec![1, 2] }, None),
        (TackEvent::Share { bridle: 101, asked: Some(Asker::Bears) }, Some("bridle")),
        (TackEvent::Share { bridle: 100, asked: None }, None),
        (step(Came::Passed, true, None, None, None), Some("came")),
        (step(Came::Passed, false, None, None, Some(Corner::Pinched)), Some("came")),
        (step(Came::Fretted, true, Some(0), None, None), Some("hole")),
        (step(Came::Fretted, true, Some(3), Some(1.6), None), Some("turned")),
        (step(Came::Passed, false, Some(3), Some(f64::NAN), None), Some("turned")),
        (step(Came::Passed, false, Some(3), Some(0.7), Some(Corner::Quiet)), None),
        (TackEvent::Anyway { why: "  ".into() }, Some("why")),
        (TackEvent::Anyway { why: "x".repeat(501) }, Some("why")),
        (TackEvent::Anyway { why: "He wore it for years".into() }, None),
    ];
    for (event, at) in &cases {
        assert_eq!(field(event), *at, "{event:?}");
    }
    let text = r#"{"kind":"step","step":2,"came":"fretted","tossed":true,"hole":4,"turned":0.7,"corner":"wrinkled"}"#;
    let event: TackEvent<u8> = serde_json::from_str(text).unwrap();
    assert_eq!(serde_json::to_string(&event).unwrap(), text);
}
