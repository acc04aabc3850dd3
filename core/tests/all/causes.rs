//! Where a fault likely comes from. Common practice, no published source.

use std::{collections::BTreeMap, sync::Arc};

use cavesson_core::{
    advice::{AskContext, Cure, FaultCounts, RemedyRecord, causes, remedy_in_words},
    curriculum::{Course, Curriculum, Fault, Gait, Place, Side, StepIx},
};

use crate::support::date;

fn asks(course: &Course, step: StepIx, n: usize, faults: usize, tag: &str) -> Vec<AskContext> {
    let ask = |i: usize| AskContext {
        date: date(i as u64 % 9),
        rung: course.step(step).rung.clone(),
        gait: Gait::Walk,
        side: Side::Left,
        place: Place::Arena,
        rider: "Ada".into(),
        bit: None,
        late: false,
        hot: None,
        faults: if i < faults { vec![tag.to_owned()] } else { vec![] },
    };
    (0..n).map(ask).collect()
}

fn found(owned: &[(&str, f64)], counted: &[(&str, usize, usize)], tag: &str, at: &str) -> Vec<(String, f64)> {
    let curriculum = Curriculum::standard();
    let course = curriculum.course();
    let step = |id: &str| course.find(id).unwrap_or_else(|| panic!("{id}"));
    let owned: BTreeMap<StepIx, f64> = owned.iter().map(|(id, p)| (step(id), *p)).collect();
    let asked: Vec<AskContext> =
        counted.iter().flat_map(|(id, n, faults)| asks(&course, step(id), *n, *faults, tag)).collect();
    let go_to = curriculum.remedies(curriculum.fault(tag).expect("a fault"), &course.step(step(at)).rung);
    let all = causes(&course, &owned, &FaultCounts::of(&asked), tag, &go_to, step(at));
    all.into_iter().map(|c| (course.step(c.step).id.clone(), c.likely)).collect()
}

#[test]
fn the_rung_that_is_not_owned_comes_before_those_that_are() {
    let all = found(&[("S1", 0.97), ("S2", 0.95), ("S6@stand", 0.2)], &[], "head-up", "T2");
    assert_eq!(all[0].0, "S6@stand", "{all:?}");
    let odds: f64 = all.iter().map(|c| c.1).sum();
    assert!(odds < 1.0, "some of it lies in what was asked: {odds}");
}

#[test]
fn where_the_same_fault_showed_the_cause_is_likelier() {
    let known = [("S1", 0.9), ("S2", 0.4), ("S6@stand", 0.4)];
    let before = found(&known, &[], "head-up", "T2");
    assert_eq!(before[0].0, "S2", "the trade names it first: {before:?}");
    let showed = [("T2", 20, 8), ("S2", 20, 0), ("S6@stand", 20, 9)];
    let after = found(&known, &showed, "head-up", "T2");
    assert_eq!(after[0].0, "S6@stand", "{after:?}");
}

#[test]
fn what_the_horse_has_not_reached_is_never_named() {
    assert!(found(&[], &[], "head-up", "T2").is_empty());
    let all = found(&[("S1", 0.9)], &[("S2", 10, 9)], "head-up", "T2");
    assert!(all.iter().all(|c| c.0 == "S1"), "{all:?}");
    // Nor is a faster gait than the one that was asked.
    let slow = found(&[("S6@stand", 0.9), ("S6@jog", 0.1)], &[], "head-up", "T2");
    assert!(slow.iter().all(|c| c.0 != "S6@jog"), "{slow:?}");
}

#[test]
fn an_open_need_is_a_cause_though_the_trade_does_not_name_it() {
    let all = found(&[("S1", 0.97), ("S2", 0.97), ("S6@stand", 0.97), ("G7@walk", 0.1)], &[], "head-up", "T2");
    assert!(all.iter().any(|c| c.0 == "G7@walk"), "{all:?}");
}

#[test]
fn the_remedy_names_the_cause_or_what_the_trade_does() {
    let curriculum = Curriculum::standard();
    let course = curriculum.course();
    let fault: &Fault = curriculum.fault("head-up").expect("a fault");
    let owned = [(course.find("S2").unwrap(), 0.1)].into();
    let counts = FaultCounts::of(&asks(&course, course.find("S2").unwrap(), 20, 4, "head-up"));
    let cause = causes(&course, &owned, &counts, "head-up", &fault.go_to, course.find("T2").unwrap()).remove(0);
    let says = remedy_in_words(&course, fault, Some(&cause));
    assert_eq!(
        says,
        "Head up: it is braced on a straight pull. Bend and walk first: 10% likely owned; head up in 4 of 20 asks there"
    );
    assert!(remedy_in_words(&course, fault, None).contains("One rein at a time"));
}

/// What one remedy did for a fault in a barn, so often and with such odds.
fn remedied(rung: &str, times: usize, rarer: f64) -> Vec<Cure> {
    let cure = Cure {
        fault: "head-up".into(),
        at: "T2".into(),
        remedy: rung.into(),
        rides: 3,
        before: (6, 14),
        after: (5, 12),
        rarer,
    };
    vec![cure; times]
}

#[test]
fn a_remedy_that_does_not_help_in_this_barn_sinks() {
    let curriculum = Curriculum::standard();
    let course = curriculum.course();
    let fault = curriculum.fault("head-up").expect("a fault");
    let (at, step) = (course.find("T2").unwrap(), |id: &str| course.find(id).unwrap());
    let owned = [(step("S2"), 0.1), (step("S6@stand"), 0.1)].into();
    let first = |cures: &[Cure]| {
        let counts = FaultCounts::default().with_remedies(Arc::new(RemedyRecord::of(cures)));
        causes(&course, &owned, &counts, "head-up", &fault.go_to, at).remove(0)
    };
    let named = first(&[]);
    let other = if named.step == step("S2") { "S6" } else { "S2" };
    let rung = course.step(named.step).rung.clone();
    assert_eq!(first(&remedied(&rung, 1, 0.05)).step, named.step, "once is too little");
    let sunk = first(&remedied(&rung, 6, 0.05));
    assert_eq!(course.step(sunk.step).rung, other, "six times in vain");
    let proven = first(&remedied(&rung, 6, 0.98));
    assert!(proven.step == named.step && proven.likely > named.likely);
    let says = remedy_in_words(&course, fault, Some(&proven));
    assert!(says.ends_with("it helped 6 of 6 times here"), "{says}");
    let record = RemedyRecord::of(&remedied(&rung, 3, 0.5));
    assert!((record.weight("head-up", &rung) - 1.0).abs() < 1e-12, "half of the time is what is expected");
}
