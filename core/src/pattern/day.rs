//! What of the pattern to ride today: gaits, passes, rests and pockets, from what the horse owns and how its passes went.

use chrono::{Days, NaiveDate};

use super::{
    FOOT,
    barrels::Pocket,
    pass::{Pass, PassFault},
};
use crate::curriculum::{Gait, PatternPart, Rung};

/// Whether the horse has its footwork round a barrel: a rolled hindquarter that lets it turn close.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[allow(missing_docs)]
pub enum Footwork {
    Has,
    Lacks,
}

/// What the horse owns of barrels.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Shown {
    /// The pattern at the jog.
    pub jog: bool,
    /// The pattern at the lope.
    pub lope: bool,
    /// Away from home, so that a run may be timed.
    pub away: bool,
    /// Runs already: it is kept, not taught.
    pub finished: bool,
    /// Its footwork round a barrel.
    pub footwork: Footwork,
}

impl Shown {
    /// By the rungs that say something of a pattern.
    ///
    /// ```
    /// use cavesson_core::{curriculum::{Curriculum, Gait}, pattern::{Footwork, Shown}};
    /// let rungs = Curriculum::standard().rungs();
    /// let shown = Shown::of(rungs, |rung, gait| rung == "P3" && gait <= Gait::Jog);
    /// assert!(shown.jog && !shown.lope && shown.footwork == Footwork::Lacks);
    /// ```
    pub fn of(rungs: &[Rung], owned: impl Fn(&str, Gait) -> bool) -> Shown {
        let has = |part, gait: Option<Gait>| {
            let of_part = rungs.iter().filter(|r| r.pattern == Some(part));
            of_part
                .flat_map(|r| r.gaits.iter().map(move |g| (r, *g)))
                .any(|(r, g)| gait.is_none_or(|gait| gait == g) && owned(&r.id, g))
        };
        let footwork = if has(PatternPart::Footwork, None) { Footwork::Has } else { Footwork::Lacks };
        Shown {
            jog: has(PatternPart::Pass, Some(Gait::Jog)),
            lope: has(PatternPart::Pass, Some(Gait::Lope)),
            away: has(PatternPart::Away, None),
            finished: has(PatternPart::Finished, None),
            footwork,
        }
    }
}

/// A pocket to ride, and why it is not the usual one.
#[derive(Debug, Clone, PartialEq)]
#[allow(missing_docs)]
pub struct PocketStep {
    pub barrel: usize,
    pub pocket: Pocket,
    pub why: Option<String>,
}

/// Passes at one gait.
#[derive(Debug, Clone, PartialEq)]
#[allow(missing_docs)]
pub struct Block {
    pub gait: Gait,
    pub passes: u8,
    /// Minutes of walking after each.
    pub rest: u8,
    pub pockets: Vec<PocketStep>,
}

/// The plan.
#[derive(Debug, Clone, PartialEq)]
#[allow(missing_docs)]
pub struct DayPlan {
    pub blocks: Vec<Block>,
    pub notes: Vec<String>,
}

/// The pocket of a gait: 4 ft in, 4 behind, 3 out; 5 ft in at the lope without footwork (common practice).
pub fn pocket_for(gait: Gait, footwork: Footwork) -> Pocket {
    let entry = if gait == Gait::Lope && footwork == Footwork::Lacks { 5.0 } else { 4.0 };
    Pocket { entry: entry * FOOT, back: 4.0 * FOOT, exit: 3.0 * FOOT }
}

/// The most feet added after passes that went wrong one after the other.
const MOST_MORE: usize = 3;
/// More days than this on the pattern within a week, or more passes, is drilling (common practice).
const DAYS_A_WEEK: usize = 3;
const PASSES_A_WEEK: usize = 12;

/// Failed passes at a barrel since it last went right, newest first, with why.
fn failed_lately(passes: &[Pass], barrel: usize) -> Vec<(NaiveDate, &'static str)> {
    let told = passes.iter().rev().filter_map(|p| p.told.get(barrel).map(|told| (p.on, told.failed())));
    told.map_while(|(on, failed)| failed.map(|why| (on, why))).collect()
}

fn pockets(gait: Gait, footwork: Footwork, passes: &[Pass], barrels: usize) -> Vec<PocketStep> {
    let usual = pocket_for(gait, footwork);
    (0..barrels)
        .map(|barrel| {
            let failed = failed_lately(passes, barrel);
            let more = failed.len().min(MOST_MORE) as f64 * FOOT;
            let pocket = Pocket { entry: usual.entry + more, back: usual.back + more, exit: usual.exit + more };
            let why = failed.first().map(|(on, why)| {
                let feet = match failed.len() {
                    1 => "a foot".to_owned(),
                    n => format!("{} ft", n.min(MOST_MORE)),
                };
                format!("{why} on {}: {feet} more pocket, not more speed", on.format("%-d %b"))
            });
            PocketStep { barrel, pocket, why }
        })
        .collect()
}

/// Minutes of walking after a pass (common practice).
fn rest_after(gait: Gait) -> u8 {
    match gait {
        Gait::Run => 5,
        Gait::Lope => 3,
        _ => 2,
    }
}

/// What of the pattern to ride today. `passes` are those of the last weeks, oldest first, today's among them.
pub fn todays_passes(today: NaiveDate, shown: Shown, passes: &[Pass], barrels: usize) -> DayPlan {
    let week: Vec<&Pass> = passes.iter().filter(|p| p.on > today - Days::new(7)).collect();
    let mut days: Vec<NaiveDate> = week.iter().map(|p| p.on).filter(|on| *on != today).collect();
    days.dedup();
    let mut notes = vec![];
    let drilled = days.len() > DAYS_A_WEEK || week.len() > PASSES_A_WEEK;
    let mut gaits: Vec<(Gait, u8)> = match shown {
        Shown { finished: true, .. } if !week.is_empty() => {
            notes.push(
                "It was on the pattern within the last week: circles, soft face and counter-arc off the pattern".into(),
            );
            vec![]
        }
        Shown { finished: true, .. } => vec![(Gait::Walk, 1), (Gait::Lope, 1)],
        Shown { lope: true, away, .. } => {
            if !away {
                notes.push("No timed run before it does the same away from home".into());
            }
            vec![(Gait::Jog, 1), (Gait::Lope, 2)]
        }
        Shown { jog: true, .. } => vec![(Gait::Jog, 2), (Gait::Lope, 1)],
        _ => vec![(Gait::Walk, 1), (Gait::Jog, 2)],
    };
    if drilled {
        notes.push(format!(
            "Drilled lately: {} passes on {} days of the last week. One slow pass, or another subject",
            week.len(),
            days.len() + usize::from(week.iter().any(|p| p.on == today))
        ));
        gaits = gaits.first().map(|(gait, _)| (*gait, 1)).into_iter().collect();
    }
    if week.iter().rev().take(2).filter(|p| p.told.iter().any(|t| t.faults.contains(&PassFault::FellIn))).count() == 2 {
        notes.push("It fell in on the last two passes: bent circles and counter-arc before the pattern".into());
    }
    let block = |(gait, passes_of): (Gait, u8)| Block {
        gait,
        passes: passes_of,
        rest: rest_after(gait),
        pockets: pockets(gait, shown.footwork, passes, barrels),
    };
    DayPlan { blocks: gaits.into_iter().map(block).collect(), notes }
}
