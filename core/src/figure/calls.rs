//! A figure called to the rider, one call at a time.

use super::{
    read::Figure,
    ride::Ridden,
    statement::{FigureGait, GaitAsked, Leads, Step},
};
use crate::{pattern::Hand, words::words};

words! {
    "a measure of a call";
    /// What the measure of a call is.
    pub enum CallMeasure {
        /// The radius of a curve.
        Radius,
        /// How far it goes.
        Length,
        /// From one to the next.
        Spacing,
    }
}

/// What is called at once: steps that belong together, as a change of gait and the circle that is ridden in it.
#[derive(Debug, Clone, PartialEq)]
pub struct Call {
    /// The line of the step that it is named by, from 1.
    pub line: u32,
    /// In words, without measures: `Jog. Circle left`.
    pub says: String,
    /// The measure that goes with it, metres.
    pub measure: Option<(CallMeasure, f64)>,
    /// The hand that it goes to.
    pub hand: Option<Hand>,
    /// What the text says besides: `round again until it is soft`.
    pub note: Option<String>,
}

/// The calls of a figure, in order. Gaits and straights go with what they lead to; backing and waiting with the stop before them.
///
/// ```
/// use cavesson_core::figure::{Figure, calls, ride};
/// let text = "jog\nline 20\ncircle left 14  # until soft\nstop\nback 6\nwait 3\nrollback right leave jog\n";
/// let figure = Figure::read(text, &Default::default()).unwrap();
/// let all = calls(&figure, &ride(&figure).unwrap());
/// let says: Vec<&str> = all.iter().map(|call| call.says.as_str()).collect();
/// assert_eq!(says, ["Jog. Straight. Circle left", "Stop. Back up. Wait 3 s", "Roll back right, leave at the jog"]);
/// assert_eq!(all[0].note.as_deref(), Some("until soft"));
/// ```
pub fn calls(figure: &Figure, ridden: &Ridden<'_>) -> Vec<Call> {
    let mut all: Vec<Call> = vec![];
    // What leads to a step, and whether the last call is a stop that more belongs to.
    let (mut lead_in, mut stopped): (Option<Call>, bool) = (None, false);
    for ridden in &ridden.steps {
        let (says, measure, hand) = named(ridden.step);
        let note = figure.lines[ridden.line as usize - 1].comment.clone().filter(|comment| !comment.is_empty());
        let call = Call { line: ridden.line, says, measure, hand, note };
        let joined = |to: Option<Call>, call: Call| match to {
            None => call,
            Some(to) => Call { says: format!("{}. {}", to.says, call.says), note: call.note.or(to.note), ..call },
        };
        match ridden.step {
            Step::Gait(_) | Step::Line(_) | Step::LineTo(..) => {
                lead_in = Some(joined(lead_in.take(), call));
                stopped = false;
            }
            Step::Back(_) | Step::Wait(_) if stopped => {
                let before = all.pop();
                all.push(joined(before, call));
            }
            step => {
                stopped = matches!(step, Step::Stop);
                all.push(joined(lead_in.take(), call));
            }
        }
    }
    all.extend(lead_in);
    all
}

fn gait_says(GaitAsked { gait, lead }: GaitAsked) -> String {
    let word = match gait {
        FigureGait::Walk => "Walk",
        FigureGait::Jog => "Jog",
        FigureGait::Lope => "Lope",
        FigureGait::Run => "Run",
        FigureGait::Back => "Back",
        FigureGait::Side => "Sideways",
        FigureGait::Stand => "Stand",
    };
    lead.map_or_else(|| word.to_owned(), |lead| format!("{word}, {lead} lead"))
}

fn times(n: Option<u8>) -> String {
    match n {
        None | Some(1) => String::new(),
        Some(2) => ", twice".to_owned(),
        Some(n) => format!(", {n} times"),
    }
}

fn leads_say(leads: Leads) -> String {
    match leads {
        Leads::AsTheyAre => String::new(),
        Leads::Change(kind) => format!(", {kind} change between"),
        Leads::Counter => ", one lead all the way".to_owned(),
    }
}

/// What a step is called, its measure and its hand.
pub(super) fn named(step: &Step) -> (String, Option<(CallMeasure, f64)>, Option<Hand>) {
    use CallMeasure::{Length, Radius, Spacing};
    let counter = |on: bool| if on { ", counter" } else { "" };
    match step {
        Step::Gait(asked) => (gait_says(*asked), None, None),
        Step::Line(d) => ("Straight".to_owned(), Some((Length, d.metres())), None),
        Step::LineTo(name, _) => (format!("Straight to {}", name.text), None, None),
        Step::Circle { hand, radius, times: n, counter: on } => {
            (format!("Circle {hand}{}{}", counter(*on), times(*n)), Some((Radius, radius.metres())), Some(*hand))
        }
        Step::Arc { hand, radius, counter: on, .. } => {
            (format!("Curve {hand}{}", counter(*on)), Some((Radius, radius.metres())), Some(*hand))
        }
        Step::Eight { hand, radius, times: n, leads } => (
            format!("Eight, {hand} first{}{}", times(*n), leads_say(*leads)),
            Some((Radius, radius.metres())),
            Some(*hand),
        ),
        Step::Serpentine { hand, radius, loops, leads, .. } => {
            let says = format!("Serpentine, {hand} first, {loops} loops{}", leads_say(*leads));
            (says, Some((Radius, radius.metres())), Some(*hand))
        }
        Step::Stop => ("Stop".to_owned(), None, None),
        Step::Back(d) => ("Back up".to_owned(), Some((Length, d.metres())), None),
        Step::Sidepass(hand, d) => (format!("Side pass {hand}"), Some((Length, d.metres())), Some(*hand)),
        Step::Rollback { hand, leave } => {
            let leave = leave.map_or_else(String::new, |asked| format!(", leave at the {}", asked.gait));
            (format!("Roll back {hand}{leave}"), None, Some(*hand))
        }
        Step::Turnaround(hand, turns) => (format!("Turn around {hand}, {} times", turns.value()), None, Some(*hand)),
        Step::Pivot(hand, degrees) => (format!("Pivot {hand}, {}°", degrees.value()), None, Some(*hand)),
        Step::Change { kind, .. } => (format!("Change lead, {kind}"), None, None),
        Step::Poles { count, spacing } => (format!("{count} poles"), Some((Spacing, spacing.metres())), None),
        Step::Gate(hand, _) => (format!("Gate, {hand} hand"), None, Some(*hand)),
        Step::Bridge { drop, .. } => (if *drop { "Bridge with a step down" } else { "Bridge" }.to_owned(), None, None),
        Step::Backthrough { .. } => ("Back through".to_owned(), None, None),
        Step::Wait(seconds) => (format!("Wait {} s", seconds.value()), None, None),
    }
}
