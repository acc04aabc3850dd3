//! The parts of a figure that a judge scores one by one.

use super::{asks::of_step, calls::named, ride::Ridden, statement::Step};

/// A part that is scored by itself.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Manoeuvre {
    /// In words: `Circle left`.
    pub name: String,
    /// Its first line, from 1.
    pub line: u32,
    /// What it asks: `L3 left`.
    pub rungs: Vec<String>,
}

/// The parts of a figure that are scored: what is ridden the same way on end is one of them, and gaits, straights and waits belong to
/// what they lead to.
///
/// ```
/// use cavesson_core::figure::{Figure, manoeuvres, ride};
/// let text = "lope right\ncircle right 30 times 2\ncircle right 20\nchange flying\ncircle left 20\nstop\nback 10\n";
/// let figure = Figure::read(text, &Default::default()).unwrap();
/// let names: Vec<String> = manoeuvres(&ride(&figure).unwrap()).into_iter().map(|it| it.name).collect();
/// assert_eq!(names, ["Circles right", "Change lead, flying", "Circle left", "Stop", "Back up"]);
/// ```
pub fn manoeuvres(ridden: &Ridden<'_>) -> Vec<Manoeuvre> {
    let mut all: Vec<Manoeuvre> = vec![];
    let mut last: Option<&Step> = None;
    for step in &ridden.steps {
        if matches!(step.step, Step::Gait(_) | Step::Line(_) | Step::LineTo(..) | Step::Wait(_)) {
            continue;
        }
        let rungs = of_step(step, &ridden.path[step.pieces.clone()]);
        match (last, step.step, all.last_mut()) {
            (Some(Step::Circle { hand: a, .. }), Step::Circle { hand: b, .. }, Some(before))
                if a == b && before.rungs == rungs_once(&rungs) =>
            {
                before.name = format!("Circles {a}");
            }
            (_, Step::Circle { hand, times: Some(2..), .. }, _) => {
                all.push(Manoeuvre { name: format!("Circles {hand}"), line: step.line, rungs: rungs_once(&rungs) });
            }
            _ => all.push(Manoeuvre { name: named(step.step).0, line: step.line, rungs: rungs_once(&rungs) }),
        }
        last = Some(step.step);
    }
    all
}

fn rungs_once(rungs: &[String]) -> Vec<String> {
    let mut once: Vec<String> = vec![];
    for rung in rungs {
        if !once.contains(rung) {
            once.push(rung.clone());
        }
    }
    once
}
