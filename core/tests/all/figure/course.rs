//! Trail courses, calls and scored parts of figures.

use std::collections::BTreeSet;

use cavesson_core::{
    figure::{
        AgainstRule, Figure, FigureGait, FigureHorse, Obstacle, Places, READY, calls, course, laid, manoeuvres,
        obstacles, ride,
    },
    pattern::FOOT,
};
use proptest::prelude::*;

use super::figure;

#[test]
fn the_obstacles_of_the_ready_course_are_found_in_order() {
    let ready = READY.iter().find(|ready| ready.name == "Poles, bridge, gate").unwrap();
    let course_text = figure(ready.text);
    let items = course(&course_text, &ride(&course_text).unwrap(), &FigureHorse::ordinary());
    let names: Vec<&str> = items.iter().map(|it| it.name.as_str()).collect();
    assert_eq!(names, ["Poles 1", "Bridge", "Poles 2", "Gate", "Poles 3", "Back-through", "Side pass"]);
    // 12 ft at the jog between bridge and poles: 12 / 6.4 = 1.875 strides, and 0.8 ft more makes two.
    let between = items[2].from_before.unwrap();
    assert!((between.strides - 1.875).abs() < 1e-9 && between.whole == 2);
    assert!((between.longer / FOOT - 0.8).abs() < 1e-9);
    assert_eq!(items[2].straight, Some(9));
    assert_eq!(items[0].from_before, None);
}

#[test]
fn mud_water_and_gaps_are_told_by_their_comments() {
    let text = "walk\nline 9  # Mud: to the fetlock\nline 9\nline 9  # water\nstop\nsidepass right 8  # gap\nwalk\nline 4  # muddy\n";
    let with_comments = figure(text);
    let items = course(&with_comments, &ride(&with_comments).unwrap(), &FigureHorse::ordinary());
    let kinds: Vec<Obstacle> = items.iter().map(|it| it.obstacle).collect();
    assert_eq!(kinds, [Obstacle::Mud, Obstacle::Water, Obstacle::Gap]);
    // In a mirror they are where they were, and read the same.
    let mirrored = Figure::read(&with_comments.mirrored(), &Places::new()).unwrap();
    assert_eq!(course(&mirrored, &ride(&mirrored).unwrap(), &FigureHorse::ordinary()).len(), 3);
}

#[test]
fn a_bridge_is_what_its_width_and_drop_make_it() {
    for (text, obstacle) in [
        ("bridge 10 wide 36 in", Obstacle::Bridge),
        ("bridge 10 wide 35 in", Obstacle::Plank),
        ("bridge 10 wide 14 in drop", Obstacle::Plank),
        ("bridge 10 wide 4 drop", Obstacle::StepDown),
    ] {
        let one = figure(&format!("walk\n{text}\n"));
        assert_eq!(course(&one, &ride(&one).unwrap(), &FigureHorse::ordinary())[0].obstacle, obstacle, "{text}");
    }
}

proptest! {
    /// Published spacing: 20 to 24 in, 36 to 42 in, 6 to 7 ft (breed association rule book; from memory).
    #[test]
    fn what_is_laid_is_ridden_and_within_the_published_figures(
        walk in 0.6_f64..2.5, jog in 0.8_f64..3.5, lope in 1.2_f64..5.0, kind in 0_usize..10, gait in 0_usize..3,
    ) {
        let horse = FigureHorse::ordinary().striding([Some(walk), Some(jog), Some(lope)]);
        let gait = [FigureGait::Walk, FigureGait::Jog, FigureGait::Lope][gait];
        let obstacle = Obstacle::ALL[kind];
        let text = laid(obstacle, gait, &horse);
        let one = Figure::read(&text, &Places::new()).map_err(|f| TestCaseError::fail(format!("{text}: {f:?}")))?;
        let ridden = ride(&one).map_err(|f| TestCaseError::fail(format!("{text}: {f:?}")))?;
        let items = course(&one, &ridden, &horse);
        prop_assert_eq!(items.iter().map(|it| it.obstacle).collect::<Vec<_>>(), [obstacle]);
        if obstacle != Obstacle::Plank {
            prop_assert!(obstacles(&ridden, &horse).iter().all(|it| it.rule == AgainstRule::Ok), "{}", text);
        }
    }
}

#[test]
fn every_line_of_a_ready_figure_is_called_once() {
    for ready in READY {
        let one = figure(ready.text);
        let ridden = ride(&one).unwrap();
        let all = calls(&one, &ridden);
        assert!(!all.is_empty());
        // What is called is all that is ridden: no step goes missing, and none is called twice.
        let parts: usize = all.iter().map(|call| call.says.split(". ").count()).sum();
        assert_eq!(parts, ridden.steps.len(), "{}: {all:?}", ready.name);
        let lines: BTreeSet<u32> = all.iter().map(|call| call.line).collect();
        assert!(lines.iter().all(|line| ridden.steps.iter().any(|step| step.line == *line)));
    }
}

#[test]
fn repeats_are_called_each_time() {
    let text = "jog\nrepeat 3\ncircle left 12  # soft\nstop\nwait 2\njog\nend\nline 9\n";
    let one = figure(text);
    let says: Vec<String> = calls(&one, &ride(&one).unwrap()).into_iter().map(|call| call.says).collect();
    let expected = [
        "Jog. Circle left",
        "Stop. Wait 2 s",
        "Jog. Circle left",
        "Stop. Wait 2 s",
        "Jog. Circle left",
        "Stop. Wait 2 s",
    ];
    assert_eq!(says[..6], expected);
    assert_eq!(says[6], "Jog. Straight");
}

#[test]
fn parts_that_are_scored_keep_what_they_ask() {
    let text = "start 65 60 heading 0\nlope left\ncircle left 30 times 2\ncircle left 20\nchange flying\ncircle right 30\nrun right\nline 60\nstop\nback 10\nturnaround left 4\n";
    let one = figure(text);
    let all = manoeuvres(&ride(&one).unwrap());
    let told: Vec<(&str, Vec<&str>)> =
        all.iter().map(|it| (it.name.as_str(), it.rungs.iter().map(String::as_str).collect())).collect();
    let expected = [
        ("Circles left", vec!["L3 left"]),
        ("Change lead, flying", vec!["L7 right"]),
        ("Circle right", vec!["L3 right"]),
        ("Stop", vec!["T6"]),
        ("Back up", vec!["T1"]),
        ("Turn around left, 4 times", vec!["R7 left"]),
    ];
    assert_eq!(told, expected);
}
