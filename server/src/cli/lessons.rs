//! Lessons by the coach beside lessons of a fixed length, and planned subjects beside others, on simulated horses.

use std::fmt::Write;

use cavesson_core::{
    advice::{Advisor, Posture, Status},
    belief::{Day, ModelSettings},
    curriculum::{Curriculum, Side},
};
use cavesson_sim::{LESSONS, Lesson, Nature, SimSet, Story, Subject, Taken, ride_out, teach};
use chrono::{Days, NaiveDate};

/// Horses that each way of riding is tried on.
const HORSES: u64 = 400;
/// Horses that each way of choosing subjects is tried on.
const RIDDEN: u64 = 60;

/// The table: for some rungs, what it took until both sides owned them.
pub fn lessons() -> String {
    let course = Curriculum::standard().course();
    let ways = [
        ("the coach", Lesson::CoachLine),
        ("6 asks a side", Lesson::Fixed(6)),
        ("10 asks a side", Lesson::Fixed(10)),
        ("15 asks a side", Lesson::Fixed(15)),
        ("20 asks a side", Lesson::Fixed(20)),
    ];
    let mut out = format!("{HORSES} simulated horses each; owned on both sides within {LESSONS} lessons\n\n");
    let _ = writeln!(out, "{:<28}{:<16}{:>8}{:>8}{:>8}{:>8}", "", "", "lessons", "asks", "wrong", "owned");
    for step in ["S1", "S4@stand", "T2", "T4", "R1", "L2"] {
        let Some(ix) = course.find(step) else { continue };
        for (n, (name, lesson)) in ways.into_iter().enumerate() {
            let all: Vec<Taken> = (0..HORSES).map(|seed| teach(&course, ix, lesson, seed)).collect();
            let mean = |of: fn(&Taken) -> usize| all.iter().map(|t| of(t) as f64).sum::<f64>() / all.len() as f64;
            let title = if n == 0 { course.step(ix).name.as_str() } else { "" };
            let _ = writeln!(
                out,
                "{title:<28}{name:<16}{:>8.1}{:>8.1}{:>8.1}{:>7.0}%",
                mean(|t| t.rides),
                mean(|t| t.reps),
                mean(|t| t.wrong),
                100.0 * mean(|t| usize::from(t.owned))
            );
        }
    }
    out.push_str(&subjects());
    out
}

/// Twelve weeks of rides whose subjects are chosen in three ways, on horses that come as a start.
fn subjects() -> String {
    let course = Curriculum::standard().course();
    let from = NaiveDate::default();
    let ways = [
        ("as it is planned", Subject::Planned),
        ("the lowest until owned", Subject::Lowest),
        ("any that is open", Subject::AnyOpen),
    ];
    let mut out = format!("\n{RIDDEN} simulated horses each, twelve weeks, five rides a week\n\n");
    let _ = writeln!(out, "{:<44}{:>8}{:>8}{:>8}", "subject of the ride", "rides", "asks", "owned");
    for (name, subject) in ways {
        let (mut rides, mut asks, mut owned) = (0, 0, 0);
        for seed in 0..RIDDEN {
            let stiff = if seed.is_multiple_of(2) { Side::Left } else { Side::Right };
            let nature = Nature { learns: 0.16, stiff: Some((stiff, 0.4)), ..Nature::default() };
            let to = from + Days::new(83);
            let free_day = chrono::Weekday::Sun;
            let story =
                Story { nature, from, to, rides_a_week: 5, free_day, layoff: None, troubles: vec![], subject, seed };
            let ridden = ride_out(&course, &story);
            let mut advisor = Advisor::new(&course, Posture::Steady, ModelSettings::default());
            for ride in &ridden {
                // Days come in order by construction, so the advisor cannot refuse one.
                let _in_order = advisor.watch(&Day::new(ride.date, ride.sets.iter().map(SimSet::work).collect()));
                asks += ride.sets.iter().map(|s| s.reps.len() + s.counts.len()).sum::<usize>();
            }
            rides += ridden.len();
            let standing = advisor.standing(to + Days::new(1));
            owned += (0..course.steps().len()).filter(|&ix| standing.status(ix) == Status::Owned).count();
        }
        let mean = |n: usize| n as f64 / RIDDEN as f64;
        let _ = writeln!(out, "{name:<44}{:>8.1}{:>8.0}{:>8.1}", mean(rides), mean(asks), mean(owned));
    }
    out
}
