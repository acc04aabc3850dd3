//! The curriculum that ships, what its reader refuses, and what a barn may make of it.

use cavesson_core::{
    curriculum::{Change, Course, Curriculum, DatedChange, Gait, Ladder, Measure, Need, Rung, Sides, WorkNeeds},
    response::{Share, Standard, Weight},
};
use chrono::NaiveDate;

/// Every rung of the trade's ladders by id: common practice, no published source.
const RUNGS: &str = "G1 G2 G3 G4 G5 G6 G7 G8 G9 G10 G11 G12 G13 S1 S2 S3 S4 S5 S6 S7 S8 S9 S10 T1 T2 T3 T4 T5 T6 T7 \
    R1 R2 R3 R4 R5 R6 R7 L1 L2 L3 L4 L5 L6 L7 L8 C1 C2 C3 C4 C5 C6 C7 C8 C9 C10 C11 C12 \
    P1 P2 P3 P4 P5 P6 P7 P8 P9 PM O1 O2 O3 O4 O5 O6 O7 O8 O9 O10";

/// What each needs, where it is more than the rung above it (a sample of each ladder). Common practice, no published source.
const NEEDS: [(&str, &[&str], Sides); 21] = [
    ("S1", &["G7"], Sides::Each),
    ("S4", &["S1", "G10"], Sides::Each),
    ("S6", &["S1", "S4"], Sides::Both),
    ("S7", &["S5", "S6"], Sides::Each),
    ("S9", &["S5"], Sides::Each),
    ("T1", &["S6"], Sides::Both),
    ("T2", &["S1", "S6"], Sides::Both),
    ("T4", &["T3", "T1"], Sides::Both),
    ("T6", &["T5", "L3"], Sides::Both),
    ("R1", &["T1", "S5"], Sides::Each),
    ("R4", &["R3", "R1"], Sides::Each),
    ("R5", &["R4", "S9"], Sides::Each),
    ("R6", &["R4", "T4"], Sides::Each),
    ("L1", &["S4", "S5"], Sides::Each),
    ("L7", &["L5"], Sides::Each),
    ("C1", &["T3", "R1"], Sides::Both),
    ("C4", &["G9", "T2"], Sides::Both),
    ("C7", &["C6", "T4", "R1", "S5"], Sides::Each),
    ("P2", &["P1", "S9"], Sides::Each),
    ("P3", &["P2", "R3", "P8"], Sides::Each),
    ("O9", &["O2", "G9", "T4"], Sides::Both),
];

#[test]
fn every_rung_of_the_ladders_is_there() {
    let curriculum = Curriculum::standard();
    for id in RUNGS.split_whitespace() {
        assert!(curriculum.rung(id).is_some(), "{id} is missing");
    }
    let bits: Vec<&str> = curriculum.rungs().iter().map(|r| r.id.as_str()).filter(|id| id.starts_with('B')).collect();
    assert_eq!(curriculum.rungs().len(), RUNGS.split_whitespace().count() + bits.len());
    for (id, needs, sides) in NEEDS {
        let rung = curriculum.rung(id).unwrap();
        let has: Vec<&str> = rung.needs.iter().map(|n| n.rung.as_str()).collect();
        assert_eq!((has.as_slice(), rung.sides), (needs, sides), "{id}");
    }
}

#[test]
fn the_school_that_was_picked_speaks_in_the_ask_the_cautions_and_the_faults() {
    let shipped = Curriculum::standard();
    let taught = |c: &Curriculum, id: &str| c.as_taught(c.rung(id).unwrap());
    for (id, choice, rung, cue) in [
        ("pressure", "bumps", "S6", "bump lightly until it comes off the hand"),
        ("seat", "straight", "L7", "sit in the middle"),
        ("rate", "free", "P4", "sit down a stride or more before the barrel"),
    ] {
        let ours = shipped.changed(&[school(id, choice)]).unwrap();
        assert!(taught(&ours, rung).ask.contains(&cue.to_owned()), "{rung}: {:?}", taught(&ours, rung).ask);
        assert!(!taught(shipped, rung).ask.contains(&cue.to_owned()));
        let course = ours.course();
        assert!(course.step(course.steps().iter().position(|s| s.rung == rung).unwrap()).ask.contains(cue));
    }
    let ball = shipped.changed(&[school("spurs", "ball")]).unwrap();
    assert!(taught(&ball, "G10").cautions.iter().any(|c| c.contains("less spur")));
    assert!(taught(&ball, "S5").faults.contains(&"jumps-from-leg".to_owned()));
    assert!(!taught(shipped, "S5").faults.contains(&"jumps-from-leg".to_owned()));
    // What a barn writes itself may speak with its school too, and a school that is not there is told.
    let Change::Rung { rung } = own_rung("T8", &["T3"]) else { unreachable!() };
    let rung = Box::new(Rung { ask: vec!["{pressure}".into(), "{weather}".into()], ..*rung });
    let errors = shipped.changed(&[DatedChange { on: on(1), change: Change::Rung { rung } }]).unwrap_err();
    assert_eq!(
        errors.iter().map(ToString::to_string).collect::<Vec<_>>(),
        ["T8: \"{weather}\" names no school in its braces"]
    );
}

/// Standards of the trade: common practice, no published source.
#[test]
fn standards_and_measures_are_those_of_the_trade() {
    let curriculum = Curriculum::standard();
    let of = |id: &str| curriculum.rung(id).unwrap();
    let weight = |id: &str| of(id).standard.weight;
    assert_eq!((weight("S1"), of("S1").standard.seconds.seconds()), (Weight::Feather, 1.5));
    assert_eq!(
        (weight("S6"), weight("T5"), weight("G2"), weight("G3")),
        (Weight::Egg, Weight::None, Weight::Egg, Weight::Lemon)
    );
    assert_eq!(of("R1").standard, Standard::default());
    assert_eq!(of("S7").measure, Measure::NoseUps);
    assert_eq!(of("G6").measure, Measure::Mounts { count: 100 });
    assert_eq!(of("L1").measure, Measure::SetUps);
    assert!(matches!(of("R2").measure, Measure::Laps { .. }));
    assert!(matches!(of("O2").measure, Measure::Tries { .. }));
    assert!(matches!(of("B22").measure, Measure::ReinShare { bridle: 10 }));
    assert_eq!(of("S4").measure, Measure::Reps);
    let opens = |id: &str| of(id).opening.unwrap().weight;
    assert_eq!((opens("S1"), opens("G2")), (Weight::Fingers, Weight::Lemon));
}

#[test]
fn a_gait_above_the_first_needs_the_one_below() {
    let course = Curriculum::standard().course();
    let jog = course.step(course.find_at("S6", Gait::Jog).unwrap());
    assert_eq!((jog.id.as_str(), jog.name.as_str()), ("S6@jog", "Poll on two reins at the jog"));
    assert!(jog.needs.contains(&course.find("S6@walk").unwrap()));
    let stop = course.step(course.find("T3").unwrap());
    assert!(
        stop.needs.contains(&course.find("G7@jog").unwrap()),
        "the one-rein stop is owned at a gait before that gait"
    );
}

fn on(day: u32) -> NaiveDate {
    NaiveDate::from_ymd_opt(2026, 3, day).unwrap()
}

pub(crate) fn school(id: &str, choice: &str) -> DatedChange {
    DatedChange { on: on(1), change: Change::School { school: id.into(), choice: choice.into() } }
}

pub(crate) fn needs(curriculum: &Curriculum, step: &str) -> Vec<String> {
    let course = curriculum.course();
    let step = course.step(course.find(step).unwrap());
    step.needs.iter().map(|&n| course.step(n).id.clone()).collect()
}

#[test]
fn a_school_changes_what_is_needed_and_what_is_taught() {
    let shipped = Curriculum::standard();
    assert!(needs(shipped, "G7@walk").is_empty(), "ground rungs are passed by for a horse already ridden");
    let ground = shipped.changed([&school("ground", "required")]).unwrap();
    assert_eq!(needs(&ground, "G7@walk"), ["G6", "G3", "G4"]);
    assert!(shipped.is_left_out("S8") && needs(shipped, "S10") == ["S6@jog", "G7@lope"]);
    let level = shipped.changed([&school("head", "level")]).unwrap();
    assert_eq!(needs(&level, "S10"), ["S6@jog", "S8@lope", "G7@lope"]);
    assert!(needs(shipped, "C4").iter().all(|n| !n.starts_with('C')));
    assert!(needs(&shipped.changed([&school("cattle", "flag-first")]).unwrap(), "C4").contains(&"C3".into()));
    assert!(needs(&shipped.changed([&school("cattle", "cattle-first")]).unwrap(), "C1").contains(&"C6@jog".into()));
    let road = |choice: &str| shipped.changed([&school("road", choice)]).unwrap();
    let taught = |c: &Curriculum, id: &str| !c.is_left_out(id);
    assert!(taught(&road("leverage"), "B14") && !taught(&road("leverage"), "B22"));
    assert!(!taught(&road("bridle"), "B14") && taught(&road("bridle"), "B22"));
    assert!(!taught(&road("bridle-no-two-rein"), "B22"));
    assert_eq!(needs(&road("bridle-no-two-rein"), "B25@walk"), ["B21@walk", "G7@walk"]);
    assert!(taught(&road("spoiled"), "B31") && !taught(&road("spoiled"), "B15"));
    // Every pair of answers leaves a course that can be walked.
    for a in shipped.schools() {
        for b in shipped.schools() {
            for (x, y) in a.choice.iter().flat_map(|x| b.choice.iter().map(move |y| (x, y))) {
                let both = [school(&a.id, &x.id), school(&b.id, &y.id)];
                assert!(shipped.changed(&both).is_ok(), "{} with {}", x.id, y.id);
            }
        }
    }
}

fn own_rung(id: &str, needs: &[&str]) -> Change {
    let mut rung = Curriculum::standard().rung("T1").unwrap().clone();
    rung.id = id.into();
    rung.needs = needs.iter().map(|n| Need::try_from((*n).to_owned()).unwrap()).collect();
    Change::Rung { rung: Box::new(rung) }
}

#[test]
fn a_barn_adds_changes_and_leaves_out() {
    let softer = Standard { weight: Weight::Egg, share: Share::percent(90).unwrap(), ..Standard::default() };
    let changes = [
        Change::Ladder { ladder: Ladder { letter: 'X', name: "Roping".into(), work: WorkNeeds::default() } },
        own_rung("X1", &["T3"]),
        own_rung("X2", &["X1"]),
        Change::Standard { rung: "T1".into(), standard: softer },
        Change::LeaveOut { rung: "O3".into() },
    ]
    .map(|change| DatedChange { on: on(10), change });
    let ours = Curriculum::standard().changed(&changes).unwrap();
    assert_eq!(needs(&ours, "X2"), ["X1", "G7@walk"]);
    let back_up = ours.rung("T1").unwrap();
    assert_eq!(ours.standard_on(back_up, on(9)), Standard::default(), "the past is judged by what held then");
    assert_eq!(ours.standard_on(back_up, on(10)), softer);
    let course = ours.course();
    let step = course.step(course.find("T1").unwrap());
    assert_eq!(
        (step.standard_on(on(9)).share, step.standard_on(on(30)).share),
        (Standard::default().share, softer.share)
    );
    assert!(!course.step(course.find("O3").unwrap()).taught);

    // A file of it, read back by a barn that has only what ships, makes the same curriculum from the day of the import on.
    let file = serde_json::to_string(&ours).unwrap();
    let read: Curriculum = serde_json::from_str::<Curriculum>(&file).unwrap().checked().unwrap();
    assert_eq!(read, ours);
    let import = Curriculum::standard().changes_to(&read, on(20));
    let imported = Curriculum::standard().changed(&import).unwrap();
    assert!(imported.changes_to(&read, on(20)).is_empty(), "nothing is left to change");
    assert_eq!(imported.standard_on(back_up, on(19)), Standard::default());
    assert_eq!(imported.standard_on(back_up, on(20)), softer);
}

#[test]
fn what_a_rung_takes_stands_in_its_data_or_in_its_ladders() {
    let cattle = WorkNeeds { cattle: 1, days_between: 3, ..WorkNeeds::default() };
    let Change::Rung { rung: on_foot } = own_rung("X2", &["X1"]) else { unreachable!() };
    let on_foot = Rung { work: Some(WorkNeeds::default()), ask: vec!["sit".into(), "wait".into()], ..*on_foot };
    let changes = [
        Change::Ladder { ladder: Ladder { letter: 'X', name: "Roping".into(), work: cattle.clone() } },
        own_rung("X1", &["T3"]),
        Change::Rung { rung: Box::new(on_foot) },
    ];
    let ours = Curriculum::standard().changed(&changes.map(|change| DatedChange { on: on(1), change })).unwrap();
    let course = ours.course();
    let step = |id: &str| course.step(course.find(id).unwrap());
    assert_eq!((&step("X1").work, step("X1").ladder), (&cattle, 'X'));
    assert_eq!((&step("X2").work, step("X2").ask.as_str()), (&WorkNeeds::default(), "sit, wait"));
    for (wrong, says) in [
        (WorkNeeds { days_between: 0, ..cattle.clone() }, "1 to 30 days"),
        (WorkNeeds { places: vec![], ..cattle.clone() }, "needs a place"),
        (WorkNeeds { cattle: 21, ..cattle.clone() }, "at most 20 cows"),
        (WorkNeeds { set_ups_on: Some("Z9".into()), ..cattle }, "does not exist"),
    ] {
        let Change::Rung { rung } = own_rung("T8", &["T3"]) else { unreachable!() };
        let change = Change::Rung { rung: Box::new(Rung { work: Some(wrong), ..*rung }) };
        let errors = Curriculum::standard().changed(&[DatedChange { on: on(1), change }]).unwrap_err();
        assert!(errors[0].to_string().contains(says), "{says}: {errors:?}");
    }
}

#[test]
fn a_change_that_cannot_be_is_refused_and_says_why() {
    let dated = |change| DatedChange { on: on(1), change };
    let cases: Vec<(Vec<Change>, &str)> = vec![
        (vec![own_rung("T1", &[])], "T1: this id is a rung's that ships with the application"),
        (vec![own_rung("X1", &[])], "X1: its first letter is no ladder's"),
        (vec![own_rung("T8", &["T9"])], "T8: it needs T9, which does not exist"),
        (vec![own_rung("T8", &["T9"]), own_rung("T9", &["T8"])], "T8: it needs itself by way of its needs"),
        (vec![Change::LeaveOut { rung: "Z1".into() }], "Z1: there is no such rung"),
        (
            vec![Change::Ladder { ladder: Ladder { letter: 'T', name: "Mine".into(), work: WorkNeeds::default() } }],
            "Mine: the letter T is another ladder's",
        ),
        (
            vec![Change::School { school: "head".into(), choice: "low".into() }],
            "head: \"low\" is not one of its answers",
        ),
    ];
    for (changes, told) in cases {
        let changes: Vec<DatedChange> = changes.into_iter().map(dated).collect();
        let errors = Curriculum::standard().changed(&changes).unwrap_err();
        assert!(errors.iter().any(|f| f.to_string() == told), "{told}: {errors:?}");
    }
}

fn flaws_of(rungs: &str) -> String {
    let ladder = format!("letter = \"X\"\nname = \"Ladder\"\n{rungs}");
    let tags = "fault = [{ tag = \"f\", name = \"f\", likely = \"l\", remedy = \"r\", go_to = [\"X1\"] }]\nsign = []";
    let errors = Curriculum::parse(&[("x.toml", &ladder)], ("tags.toml", tags), ("schools.toml", "school = []"));
    errors.unwrap_err().iter().map(ToString::to_string).collect::<Vec<_>>().join("\n")
}

fn rung(id: &str, more: &str) -> String {
    let common = "sides = \"both\"\nask = [\"a\"]\nanswer = [\"b\"]\ncautions = [\"c\"]";
    format!("[[rung]]\nid = \"{id}\"\nname = \"n\"\n{common}\n{more}\n")
}

#[test]
fn bad_curriculum_data_is_refused_with_its_place() {
    let stand = "gaits = [\"stand\"]\nfaults = [\"f\"]";
    let cases = [
        (rung("X1", &format!("{stand}\nneeds = [\"X9\"]")), "X1: it needs X9, which does not exist"),
        (
            rung("X1", &format!("{stand}\nneeds = [\"X2\"]")) + &rung("X2", &format!("{stand}\nneeds = [\"X1\"]")),
            "X1: it needs itself by way of its needs",
        ),
        (rung("X1", stand) + &rung("X1", stand), "X1: this id is used twice"),
        (rung("Y1", stand), "Y1: its first letter is no ladder's"),
        (rung("X1", "gaits = []\nfaults = [\"f\"]"), "X1: gaits must be one or more, slowest first, each once"),
        (rung("X1", "gaits = [\"walk\"]\nfaults = [\"g\"]"), "X1: its fault \"g\" is not among the tags"),
        (rung("X1", "gaits = [\"walk\"]\nfaults = []"), "X1: it needs a fault and a caution"),
        (rung("X1", "gaits = [\"trot\"]"), "x.toml: "),
    ];
    for (data, told) in cases {
        let errors = flaws_of(&data);
        assert!(errors.contains(told), "{told}\n{errors}");
    }
}

/// A course of one's own is walked by index; ids that are not its own are not found.
#[test]
fn steps_are_found_by_id_and_by_gait() {
    let course: Course = Curriculum::standard().course();
    let hip = course.find("S4@walk").unwrap();
    assert_eq!(course.find_at("S4", Gait::Walk), Some(hip));
    assert_eq!((course.find("S4"), course.find_at("S4", Gait::Run)), (None, None));
}
