//! The shipped curriculum walked as a graph: needs at their gaits, remedies that lead down, faults within reach.

use cavesson_core::curriculum::{BitRoad, Curriculum, Gait, Road, Sides};

use crate::curriculum::{needs, school};

/// A rung whose faults have nothing below them: the remedy is a smaller piece of it.
const LOWEST: [&str; 3] = ["G1", "G2", "G11"];

/// A tag for each fault that the trade tells apart: common practice, no published source.
#[test]
fn every_fault_of_the_trade_is_there_and_leads_where_the_trade_says() {
    let tags = "head-up roots-down pulls nose-out behind-vertical leans front-stops hind-stops ignores-leg jumps-from-leg \
        too-much-hip sticks anticipates front-first late-behind leans-to-lead pokes-out tosses-head falls-in counter-bends \
        steps-off slows-change squirms drifts looks-off bounces-behind still-mouth gapes goes-past hangs-behind late short \
        long guesses crowds runs-through refuses leaks-left leaks-right wont-stand bucks shies bolts";
    let curriculum = Curriculum::standard();
    for tag in tags.split_whitespace() {
        assert!(curriculum.fault(tag).is_some(), "{tag} is missing");
    }
    for (tag, at, rung) in [
        ("steps-off", "P3", "S9"),
        ("goes-past", "C7", "C6"),
        ("front-first", "L7", "L5"),
        ("nose-out", "T1", "S6"),
        ("late-behind", "L7", "L4"),
        ("runs-through", "T4", "T7"),
        ("bucks", "L2", "G7"),
    ] {
        let remedies = curriculum.remedies(curriculum.fault(tag).unwrap(), at);
        assert_eq!(remedies.first().map(String::as_str), Some(rung), "{tag} on {at}");
    }
}

#[test]
fn every_remedy_is_lower_than_where_it_is_shown() {
    let shipped = Curriculum::standard();
    // A barn that teaches all of it, ground rungs and lines among them.
    let all = shipped.changed(&[school("ground", "lines")]).unwrap();
    let mut nowhere = vec![];
    for curriculum in [shipped, &all] {
        let (course, heights) = (curriculum.course(), curriculum.heights());
        for rung in curriculum.rungs().iter().filter(|r| !curriculum.is_left_out(&r.id)) {
            for tag in &curriculum.as_taught(rung).faults {
                let remedies = curriculum.remedies(curriculum.fault(tag).unwrap(), &rung.id);
                if remedies.is_empty() && !LOWEST.contains(&rung.id.as_str()) {
                    nowhere.push(format!("{tag} on {}", rung.id));
                }
                for remedy in &remedies {
                    assert!(heights.of(remedy) < heights.of(&rung.id), "{tag} on {} leads to {remedy}", rung.id);
                }
            }
            // The course and the heights say the same of what lies below.
            let steps = course.steps().iter().enumerate().filter(|(_, s)| s.rung == rung.id);
            for (ix, step) in steps {
                for lower in course.down_from(ix).into_iter().map(|n| course.step(n)).filter(|s| s.rung != rung.id) {
                    assert!(heights.of(&lower.rung) < heights.of(&rung.id), "{} rests on {}", step.id, lower.id);
                }
            }
        }
    }
    assert!(nowhere.is_empty(), "they lead nowhere: {nowhere:?}");
}

#[test]
fn every_fault_can_be_tapped_where_it_happens() {
    let curriculum = Curriculum::standard();
    for fault in curriculum.faults() {
        // Which rein hung is a tap of its own on every ask with both reins.
        let hangs = ["hangs-left", "hangs-right"].contains(&fault.tag.as_str());
        let on = curriculum.rungs().iter().filter(|r| r.faults.contains(&fault.tag)).count();
        assert!(hangs || on > 0, "{} is on no rung", fault.tag);
    }
}

/// Each need stands at the gait of the ask, or at the fastest below where it has none so fast (common practice, no published source).
#[test]
fn every_step_has_its_needs_at_the_right_gait() {
    let curriculum = Curriculum::standard().changed(&[school("ground", "lines")]).unwrap();
    let course = curriculum.course();
    for step in course.steps() {
        let rung = curriculum.rung(&step.rung).unwrap();
        for &need in &step.needs {
            let need = course.step(need);
            if need.rung == step.rung {
                assert!(need.gait < step.gait, "{} needs {}", step.id, need.id);
                continue;
            }
            let gaits = &curriculum.rung(&need.rung).unwrap().gaits;
            let faster = gaits.iter().filter(|g| **g <= step.gait && **g > need.gait).count();
            assert_eq!(faster, 0, "{} needs {}, and that is ridden faster", step.id, need.id);
            assert!(need.gait <= step.gait || need.gait == gaits[0], "{} needs {}", step.id, need.id);
        }
        let ridden = rung.ridden && step.gait > Gait::Stand && step.rung != "G7";
        let brake = || course.find_at("G7", step.gait.min(Gait::Lope)).unwrap();
        assert!(!ridden || step.needs.contains(&brake()), "{} is ridden without a brake", step.id);
        if let Some(below) = rung.gaits.iter().rev().find(|g| **g < step.gait) {
            assert!(step.needs.contains(&course.find_at(&step.rung, *below).unwrap()), "{} skips a gait", step.id);
        }
    }
    assert_eq!(needs(&curriculum, "S6@jog"), ["S1", "S4@walk", "G7@jog", "S6@walk"]);
    assert_eq!(needs(&curriculum, "T5@walk"), ["T2", "G7@walk"]);
    assert_eq!(needs(&curriculum, "T5@lope"), ["T2", "T3", "T4", "G7@lope", "T5@jog"]);
}

#[test]
fn left_is_defined_wherever_a_rung_has_two_sides() {
    for rung in Curriculum::standard().rungs() {
        assert_eq!(rung.sides == Sides::Each, !rung.left.is_empty(), "{}", rung.id);
    }
}

#[test]
fn the_roads_of_bits_rest_on_rungs_that_exist() {
    let curriculum = Curriculum::standard();
    for road in Road::all() {
        for stage in &road.stage {
            let rung =
                curriculum.rung(&stage.rung).unwrap_or_else(|| panic!("{} is judged by {}", stage.name, stage.rung));
            let of = curriculum.work_needs(rung).road;
            assert!(of.is_none_or(|of| of == road.id), "{} is on another road than {}", rung.id, stage.name);
        }
        assert_eq!(
            road.stage.iter().map(|s| s.name.as_str()).collect::<std::collections::BTreeSet<_>>().len(),
            road.stage.len()
        );
    }
    assert_eq!(Road::all().len(), BitRoad::ALL.len());
}
