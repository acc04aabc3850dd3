//! The coach on scripted rides: a case for each of what it tells apart. Common practice, no published source.

use std::collections::BTreeMap;

use cavesson_core::{
    curriculum::{Course, Curriculum, Side, StepIx},
    load::HeatBand,
    response::{Answer, Rep, ResponseTime, Weight, best},
    ride::{Advice, AskChange, Asked, CoachLine, RideProgress, Shown, Split, TrendLine, against_usual, coach, trend},
};
use chrono::NaiveDate;
use proptest::prelude::*;

struct Ride {
    course: Course,
    asked: Vec<Asked>,
    splits: BTreeMap<StepIx, Split>,
    foreseen: BTreeMap<(StepIx, Side), f64>,
    heat: HeatBand,
    now: u32,
}

impl Ride {
    fn new() -> Ride {
        let course = Curriculum::standard().course();
        Ride { course, asked: vec![], splits: BTreeMap::new(), foreseen: BTreeMap::new(), heat: HeatBand::Fine, now: 0 }
    }

    fn step(&self, id: &str) -> StepIx {
        self.course.find(id).unwrap()
    }

    /// Asks, ten seconds apart: answer, weight and seconds.
    fn ask(mut self, step: &str, side: Side, answers: &[(char, Weight, f64)]) -> Ride {
        let step = self.step(step);
        for &(what, weight, seconds) in answers {
            let answer = match what {
                'g' | 'e' => Answer::Gave,
                't' => Answer::Tried { missing: None },
                _ => Answer::None,
            };
            let rep = Rep { answer, weight, time: ResponseTime::from_seconds(seconds).ok() };
            let faults = if what == 'e' { vec!["anticipates".to_owned()] } else { vec![] };
            self.asked.push(Asked { step, side, shown: Shown::Rep(rep), faults, at: Some(self.now) });
            self.now += 10;
        }
        self
    }

    /// The same fault in the last asks.
    fn faulted(mut self, fault: &str, asks: usize) -> Ride {
        let from = self.asked.len() - asks;
        self.asked[from..].iter_mut().for_each(|a| a.faults.push(fault.to_owned()));
        self
    }

    fn air(mut self) -> Ride {
        self.now += 120;
        self
    }

    fn line(&self) -> CoachLine {
        self.line_with(None)
    }

    /// With the fault of the last ask coming from another rung.
    fn line_with(&self, cause: Option<(&str, &str)>) -> CoachLine {
        let cause = cause.map(|(tag, step)| (Curriculum::standard().fault(tag).unwrap(), self.step(step)));
        let on = NaiveDate::from_ymd_opt(2026, 3, 2).unwrap();
        let (course, asked) = (&self.course, &self.asked);
        let trend = self.trend();
        let (splits, foreseen) = (&self.splits, &self.foreseen);
        let so_far =
            RideProgress { course, on, asked, splits, foreseen, heat: self.heat, trend: trend.as_ref(), cause };
        coach(&so_far).unwrap()
    }

    fn trend(&self) -> Option<TrendLine> {
        let on = NaiveDate::from_ymd_opt(2026, 3, 2).unwrap();
        trend(&self.course, on, &self.asked)
    }
}

use Side::{Both, Left, Right};
use Weight::{Egg, Feather, Fingers, Hand, Lemon, Orange, Tug};

const SOFT: (char, Weight, f64) = ('g', Feather, 1.4);
const NONE: (char, Weight, f64) = ('n', Hand, 3.0);

#[test]
fn nothing_is_said_before_the_first_ask() {
    let ride = Ride::new();
    let on = NaiveDate::from_ymd_opt(2026, 3, 2).unwrap();
    let so_far = RideProgress {
        course: &ride.course,
        on,
        asked: &[],
        splits: &ride.splits,
        foreseen: &ride.foreseen,
        heat: ride.heat,
        trend: None,
        cause: None,
    };
    assert_eq!(coach(&so_far), None);
}

#[test]
fn weight_or_seconds_going_up_over_three_asks_stops_the_asking() {
    // Handbook, section 8: no escalation over three asks.
    let heavier = Ride::new().ask("T2", Both, &[('t', Orange, 2.0), ('t', Fingers, 2.0), ('n', Tug, 2.0)]).line();
    assert_eq!(heavier.advice, Advice::StopAsking);
    assert!(heavier.why.starts_with("orange, fingers, tug"), "{}", heavier.why);
    let slower = Ride::new().ask("T2", Both, &[('t', Hand, 2.0), ('t', Hand, 3.1), ('t', Hand, 4.4)]).line();
    assert_eq!((slower.advice, slower.why.contains("2.0, 3.1, 4.4 s")), (Advice::StopAsking, true));
    let met_between = Ride::new().ask("T2", Both, &[('g', Egg, 1.0), ('t', Fingers, 2.0), ('n', Tug, 2.0)]).line();
    assert_ne!(met_between.advice, Advice::StopAsking);
}

#[test]
fn none_none_tried_is_a_horse_that_searches_and_none_three_times_is_too_big_a_question() {
    let searching = Ride::new().ask("S6@jog", Both, &[NONE, NONE, ('t', Hand, 3.0)]).line();
    assert_eq!((searching.advice, searching.why.contains("searches")), (Advice::Another, true));
    let ride = Ride::new().ask("S6@jog", Both, &[NONE, NONE, NONE]);
    let slower = (Advice::SlowDown, Some(ride.step("S6@walk")));
    assert_eq!((ride.line().advice, ride.line().step), slower, "a gait slower where there is one");
    let standing = Ride::new().ask("S1", Left, &[NONE, NONE, NONE]).line();
    assert_eq!(standing.advice, Advice::ChangeSubject, "something else where there is none");
}

#[test]
fn it_quits_on_the_best_answer_and_says_what_it_was() {
    let ride =
        Ride::new().ask("T2", Both, &[('t', Fingers, 2.0), ('g', Lemon, 1.9), ('g', Lemon, 1.6), ('g', Feather, 1.1)]);
    let line = ride.line();
    assert_eq!(line.advice, Advice::QuitHere);
    assert!(line.why.contains("The best of 4: a feather, 1.1 s"), "{}", line.why);
    let worse = ride.air().ask("T2", Both, &[('g', Lemon, 1.8)]).line();
    assert_eq!(worse.advice, Advice::Another, "good, but not better than the best");
}

#[test]
fn two_sides_are_worked_by_the_split_and_neither_is_left_on_a_miss() {
    let mut ride = Ride::new().ask("S1", Right, &[SOFT, SOFT, SOFT]);
    let stiff_left = Split { left: 70, right: 30 };
    ride.splits.insert(ride.step("S1"), stiff_left);
    let line = ride.line();
    assert_eq!(line.advice, Advice::OtherSide);
    assert!(line.why.contains("left has 0"), "{}", line.why);
    let one_sided = Ride::new().ask(
        "S1",
        Left,
        &[('g', Feather, 1.4), ('g', Feather, 1.3), ('g', Feather, 1.2), ('g', Feather, 0.9)],
    );
    assert_ne!(one_sided.line().advice, Advice::QuitHere, "the right had nothing yet");
    let both = Ride::new().ask("S1", Right, &[SOFT, SOFT]).ask(
        "S1",
        Left,
        &[('t', Orange, 2.0), ('g', Feather, 1.4), ('g', Feather, 1.3), ('g', Feather, 0.9)],
    );
    assert_eq!(both.line().advice, Advice::QuitHere);
}

#[test]
fn tired_is_falling_late_in_the_ride() {
    let ride = Ride::new().ask("S1", Left, &[SOFT; 8]).air().ask("T2", Both, &[SOFT; 6]).air().ask(
        "T2",
        Both,
        &[SOFT, SOFT, SOFT, SOFT, NONE, ('t', Orange, 2.5), NONE, ('t', Hand, 2.4)],
    );
    let line = ride.line();
    assert_eq!((line.advice, line.why.contains("tired")), (Advice::Air, true), "{}", line.why);
    assert!(line.why.contains("4 of 4, now 0 of 4"), "{}", line.why);
}

#[test]
fn stiff_is_rising_with_the_warm_up() {
    let line = Ride::new()
        .ask("T2", Both, &[('t', Orange, 2.0), ('t', Orange, 2.0), ('g', Orange, 1.4), SOFT, SOFT, SOFT])
        .line();
    assert_eq!((line.advice, line.why.contains("stiff and loosens")), (Advice::Another, true), "{}", line.why);
}

#[test]
fn an_answer_before_the_ask_changes_the_subject() {
    let line = Ride::new().ask("L2", Left, &[SOFT, ('e', Egg, 0.2), ('e', Egg, 0.2)]).line();
    assert_eq!(
        (line.advice, line.why.contains("before the ask 2 of 3")),
        (Advice::ChangeSubject, true),
        "{}",
        line.why
    );
}

#[test]
fn air_comes_on_a_give_and_sooner_in_the_heat() {
    let asks = [('g', Orange, 1.9); 8];
    assert_eq!(Ride::new().ask("T2", Both, &asks).line().advice, Advice::Air);
    assert_eq!(Ride::new().ask("T2", Both, &asks[..5]).line().advice, Advice::Another);
    let mut hot = Ride::new().ask("T2", Both, &asks[..5]);
    hot.heat = HeatBand::Care;
    assert_eq!(hot.line().advice, Advice::Air);
    let aired = Ride::new().ask("T2", Both, &asks[..6]).air().ask("T2", Both, &asks[..3]);
    assert_eq!(aired.line().advice, Advice::Another, "air is counted from the last time it stood");
}

#[test]
fn the_same_for_too_long_and_no_better_is_dull() {
    let dull = [('g', Orange, 1.9); 7];
    let line = Ride::new().ask("T2", Both, &dull).air().ask("T2", Both, &dull).air().ask("T2", Both, &dull[..2]).line();
    assert_eq!((line.advice, line.why.contains("16 of the same")), (Advice::ChangeSubject, true), "{}", line.why);
}

#[test]
fn one_side_failing_on_rungs_that_share_nothing_is_to_be_looked_at() {
    let mut ride = Ride::new()
        .ask("S1", Right, &[SOFT; 3])
        .ask("S1", Left, &[NONE, ('t', Tug, 3.0), NONE])
        .air()
        .ask("R1", Right, &[SOFT; 2])
        .ask("R1", Left, &[NONE, ('t', Tug, 2.9), NONE]);
    for step in ["S1", "R1"] {
        for side in [Left, Right] {
            ride.foreseen.insert((ride.step(step), side), 0.9);
        }
    }
    let line = ride.line();
    assert_eq!(line.advice, Advice::LookAtHorse);
    assert!(line.why.contains("Left met 0 of 6 on 2 rungs"), "{}", line.why);
    ride.foreseen.clear();
    assert_ne!(ride.line().advice, Advice::LookAtHorse, "nothing was expected of it there");
}

fn any_rep() -> impl Strategy<Value = (char, Weight, f64)> {
    let what = prop::sample::select(vec!['g', 't', 'n', 'e']);
    (what, prop::sample::select(Weight::ALL.to_vec()), 0.1..6.0)
}

proptest! {
    /// Left and right mirrored give the same advice, with the words mirrored.
    #[test]
    fn a_mirrored_ride_is_coached_the_same(left in prop::collection::vec(any_rep(), 1..12), right in prop::collection::vec(any_rep(), 0..12)) {
        let one = Ride::new().ask("S1", Right, &right).ask("S1", Left, &left).line();
        let other = Ride::new().ask("S1", Left, &right).ask("S1", Right, &left).line();
        prop_assert_eq!(one.advice, other.advice);
        prop_assert!(!one.why.is_empty());
    }

    /// It never tells to go on where three asks in a row got heavier and missed.
    #[test]
    fn escalation_is_never_cheered_on(before in prop::collection::vec(any_rep(), 0..10)) {
        let line = Ride::new().ask("T2", Both, &before).ask("T2", Both, &[('t', Orange, 2.2), ('t', Fingers, 2.2), ('n', Hand, 2.2)]).line();
        prop_assert_eq!(line.advice, Advice::StopAsking);
    }
}

#[test]
fn the_best_is_the_lightest_then_the_quickest_at_the_standard() {
    let ride = Ride::new();
    let standard = ride.course.step(ride.step("T2")).standard;
    let rep = |weight, seconds| Rep { answer: Answer::Gave, weight, time: ResponseTime::from_seconds(seconds).ok() };
    let reps = [rep(Egg, 1.9), rep(Lemon, 0.4), rep(Egg, 1.2), rep(Feather, 2.6)];
    assert_eq!(best(&standard, &reps), Some(&reps[2]), "the feather was too slow");
    assert_eq!(best(&standard, &reps[3..]), None);
}

fn changed(side: Side, answers: &[(char, Weight, f64)]) -> Option<(AskChange, String)> {
    Ride::new().ask("S1", side, answers).trend().map(|t| (t.change, t.says))
}

#[test]
fn sooner_lighter_and_more_of_the_answer_are_told_apart() {
    let (change, says) = changed(Left, &[('g', Egg, 3.2), ('g', Egg, 2.4), ('g', Egg, 1.7), ('g', Egg, 1.1)]).unwrap();
    assert_eq!(change, AskChange::Sooner);
    assert!(says.starts_with("Sooner: 3.2, 2.4, 1.7, 1.1 s, ") && says.ends_with(" in 10"), "{says}");
    let heavy = [('g', Fingers, 1.5), ('g', Orange, 1.5), ('g', Egg, 1.5), ('g', Feather, 1.5)];
    let (change, says) = changed(Left, &heavy).unwrap();
    assert_eq!(change, AskChange::Lighter);
    assert!(says.starts_with("Lighter: fingers, orange, egg, feather, "), "{says}");
    let searching = [('n', Lemon, 3.0), ('n', Lemon, 3.0), ('t', Lemon, 3.0), ('g', Lemon, 3.0), ('g', Lemon, 3.0)];
    assert_eq!(changed(Left, &searching).unwrap().0, AskChange::More);
}

#[test]
fn the_other_way_round_is_told_as_worse() {
    let (change, says) = changed(Left, &[('g', Egg, 1.0), ('g', Egg, 1.6), ('g', Egg, 2.5), ('g', Egg, 3.4)]).unwrap();
    assert_eq!(change, AskChange::Later);
    assert!(says.starts_with("Later: 1.0, 1.6, 2.5, 3.4 s"), "{says}");
    assert_eq!(
        changed(Left, &[('g', Egg, 1.5), ('g', Egg, 1.5), ('t', Egg, 1.5), ('n', Egg, 1.5)]).unwrap().0,
        AskChange::Less
    );
}

#[test]
fn what_does_not_change_is_said_only_after_a_while_and_sides_stand_apart() {
    let same = [('g', Egg, 1.5); 8];
    assert_eq!(changed(Left, &same[..3]), None, "too early to say");
    let (change, says) = changed(Left, &same).unwrap();
    assert_eq!((change, says.as_str()), (AskChange::Same, "No change over 8 asks: 0 of 8 met the standard"));
    let ride =
        Ride::new().ask("S1", Left, &[('g', Egg, 3.2), ('g', Egg, 2.0), ('g', Egg, 1.1)]).ask("S1", Right, &same[..1]);
    assert_eq!(ride.trend(), None, "one ask on the right says nothing");
}

/// The seconds of an ask without an answer are how long it was held, and no answer that came late.
#[test]
fn an_ask_that_was_held_for_longer_without_an_answer_is_no_worse_for_it() {
    let held = |seconds| {
        Ride::new().ask("S1", Left, &[('t', Lemon, 2.0), ('n', Lemon, seconds), ('n', Lemon, seconds)]).trend()
    };
    assert_eq!(held(2.0), held(20.0));
}

#[test]
fn the_coach_says_what_changed_and_stops_what_gets_surely_worse() {
    let better = Ride::new().ask("T2", Both, &[('g', Hand, 3.4), ('g', Hand, 2.2), ('g', Hand, 1.2)]).line();
    assert_eq!(better.advice, Advice::Another);
    assert!(better.why.starts_with("Sooner: 3.4, 2.2, 1.2 s"), "{}", better.why);
    let worse = [
        ('g', Egg, 1.0),
        ('g', Egg, 1.4),
        ('g', Lemon, 2.2),
        ('t', Orange, 3.0),
        ('t', Orange, 2.9),
        ('n', Fingers, 3.0),
    ];
    let line = Ride::new().ask("S1", Left, &worse).line();
    assert_eq!(line.advice, Advice::StopAsking, "{}", line.why);
    assert!(line.why.contains("change the question"), "{}", line.why);
}

/// The same fault twice on the pattern, and the way back to it.
#[test]
fn a_fault_on_cattle_or_pattern_is_fixed_elsewhere_and_looked_at_again() {
    let missed = [('t', Hand, 3.0)];
    let cause = Some(("falls-in", "R2@walk"));
    let once = Ride::new().ask("P4", Both, &missed).faulted("falls-in", 1);
    assert_eq!(once.line_with(cause).advice, Advice::Another, "once is no habit");
    let twice = once.ask("P4", Both, &missed).faulted("falls-in", 1);
    let line = twice.line_with(cause);
    assert_eq!((line.advice, line.step), (Advice::ChangeSubject, Some(twice.step("R2@walk"))));
    assert!(line.why.contains("Falls in 2 times here: leave it, work bent circle at a barrel"), "{}", line.why);
    assert_eq!(twice.line().advice, Advice::Another, "where no cause is told, it is not sent away");
    let in_pen = Ride::new().ask("S3", Left, &missed).ask("S3", Left, &missed).faulted("falls-in", 2);
    assert_ne!(in_pen.line_with(cause).advice, Advice::ChangeSubject, "in the open pen it is fixed where it shows");

    let good = [('g', Egg, 1.2); 3];
    let below = twice.ask("S5@walk", Left, &good);
    assert_ne!(below.line().step, Some(below.step("P4")), "three are not enough");
    let below = below.ask("S5@walk", Left, &good[..1]);
    let line = below.line();
    assert_eq!((line.advice, line.step), (Advice::ChangeSubject, Some(below.step("P4"))), "{}", line.why);
    assert!(line.why.contains("look whether that is gone: falls in"), "{}", line.why);
    // Looked at, and gone: nobody is sent back a second time.
    let looked = below.ask("P4", Both, &good[..1]).ask("S5@walk", Left, &good).ask("S5@walk", Left, &good[..1]);
    assert_ne!(looked.line().step, Some(looked.step("P4")));
}

/// Today's first ask beside those of earlier days.
#[test]
fn the_first_ask_of_a_day_is_set_against_the_first_asks_before_it() {
    let rep = |answer, weight, seconds| Rep { answer, weight, time: ResponseTime::from_seconds(seconds).ok() };
    let gave = |weight, seconds| rep(Answer::Gave, weight, seconds);
    let usual: Vec<Rep> = [2.4, 2.0, 2.1, 1.9, 2.6, 2.2, 2.3, 2.5].map(|s| gave(Lemon, s)).to_vec();
    let told = |first: Rep| against_usual(&first, &usual).map(|t| (t.change, t.says));
    let (change, says) = told(gave(Lemon, 1.1)).unwrap();
    assert_eq!((change, says.as_str()), (AskChange::Sooner, "First ask 1.1 s, sooner than 8 of its last 8 first asks"));
    assert_eq!(told(gave(Lemon, 2.2)), None, "as always");
    assert_eq!(told(gave(Feather, 2.2)).unwrap().0, AskChange::Lighter);
    let (change, says) = told(gave(Hand, 2.2)).unwrap();
    assert_eq!(
        (change, says.as_str()),
        (AskChange::Heavier, "First ask a full hand, heavier than 8 of its last 8 first asks")
    );
    let (change, says) = told(rep(Answer::None, Lemon, 6.0)).unwrap();
    assert_eq!(
        (change, says.as_str()),
        (AskChange::Later, "The first ask had no answer; 8 of the last 8 first asks had one")
    );
    assert_eq!(against_usual(&gave(Egg, 1.0), &usual[..4]), None, "four are too few");
    let untimed: Vec<Rep> = usual.iter().map(|r| Rep { time: None, ..*r }).collect();
    assert_eq!(against_usual(&gave(Lemon, 1.0), &untimed), None, "there is no time to set it against");
}
