//! Which rungs a figure asks for, and its leads.

use super::figure;
use cavesson_core::{
    curriculum::Curriculum,
    figure::{LeadFaultKind, leads, ride, rungs},
    pattern::FOOT,
};

fn asked(text: &str) -> Vec<(String, Vec<u32>)> {
    let figure = figure(text);
    rungs(&ride(&figure).unwrap()).into_iter().map(|of| (of.rung, of.lines)).collect()
}

#[test]
fn each_step_asks_its_rung() {
    let cases = [
        ("lope left", "L2 left"),
        ("run right", "L2 right"),
        ("jog\ncircle left 20", "S3 left"),
        ("lope left\narc left 20 90", "L2 left, L3 left"),
        ("lope left\narc right 20 90 counter", "L2 left, L5 left"),
        ("walk\nstop", "T2"),
        ("jog\nstop", "T3"),
        ("lope left\nstop", "L2 left, T4"),
        ("lope left\nrun left\nline 60\nstop", "L2 left, T6"),
        ("back 5", "T1"),
        ("sidepass left 4", "O8"),
        ("rollback left", "R6 left"),
        ("rollback left leave walk", "R4 left"),
        ("turnaround right 2", "R7 right"),
        ("pivot left 90", "R1 left"),
        ("lope left\nchange flying", "L2 left, L7 right"),
        ("lope left\nchange simple", "L2 left, L6 right"),
        ("walk\npoles 4 spacing 22 in", "O1 walk"),
        ("gate left", "O6"),
        ("walk\nbridge 8 wide 36 in", "O2"),
        ("walk\nbridge 8 wide 35.9 in drop", "O3"),
        ("walk\nbridge 8 wide 4 drop", "O4"),
        ("backthrough straight 8 wide 30 in", "O7"),
        ("lope left\neight left 25 change flying", "L2 left, L3 left, L7 right, L3 right"),
        ("lope left\nserpentine left 25 loops 2 counter", "L2 left, L3 left, L5 left"),
    ];
    for (text, rungs) in cases {
        let told: Vec<String> = asked(text).into_iter().map(|(rung, _)| rung).collect();
        assert_eq!(told.join(", "), rungs, "{text}");
    }
}

/// What figures ask is what the curriculum teaches, with its sides and gaits.
#[test]
fn the_curriculum_knows_every_rung_that_figures_ask() {
    let curriculum = Curriculum::standard();
    for id in [
        "L2", "L3", "L5", "L6", "L7", "S3", "T1", "T2", "T3", "T4", "T6", "R1", "R4", "R6", "R7", "O1", "O2", "O3",
        "O4", "O6", "O7", "O8",
    ] {
        assert!(curriculum.rungs().iter().any(|rung| rung.id == id), "{id}");
    }
}

#[test]
fn lines_are_told_once_and_in_order() {
    let told = asked("lope left\nrepeat 2\n  circle left 25\n  circle right 25 counter\n  change flying\nend");
    let of = |rung: &str| told.iter().find(|(known, _)| known == rung).map(|(_, lines)| lines.clone());
    assert_eq!(of("L5 left"), Some(vec![4]));
    assert_eq!(of("L3 right"), Some(vec![4]), "the second time round the lead is the right one");
    assert_eq!(of("L5 right"), Some(vec![3]));
    assert_eq!(of("L7 left"), Some(vec![5]));
}

#[test]
fn a_missing_change_is_put_half_way() {
    let figure =
        figure("lope left\ncircle left 25\nline 40\ncircle right 25\ncircle right 25\nlope right\ncircle right 25");
    let ridden = ride(&figure).unwrap();
    let (faults, changes) = leads(&ridden);
    let told: Vec<_> = faults.iter().map(|fault| (fault.step, fault.kind)).collect();
    assert_eq!(told, [(3, LeadFaultKind::Wrong), (4, LeadFaultKind::Wrong), (5, LeadFaultKind::Switched)]);
    // Once before the first wrong circle, 20 ft along the line; and where the gait names the other lead.
    let at: Vec<_> = changes.iter().map(|change| (change.step, (change.at.y / FOOT).round())).collect();
    assert_eq!(at, [(3, 20.0), (5, 40.0)]);
}

#[test]
fn counter_and_rollbacks_are_held_against_the_lead() {
    let faults_of = |text: &str| {
        let figure = figure(text);
        leads(&ride(&figure).unwrap()).0.iter().map(|fault| fault.kind).collect::<Vec<_>>()
    };
    assert_eq!(faults_of("lope left\ncircle left 25 counter"), [LeadFaultKind::NotCounter]);
    assert_eq!(faults_of("lope left\neight left 25 counter"), []);
    assert_eq!(faults_of("rollback right leave lope left"), [LeadFaultKind::Rollback]);
    assert_eq!(faults_of("rollback right leave jog\ncircle left 20"), []);
    assert_eq!(faults_of("lope left\nstop\nlope right\ncircle right 25"), []);
    assert_eq!(faults_of("run left\nlope right"), [LeadFaultKind::Switched]);
}
