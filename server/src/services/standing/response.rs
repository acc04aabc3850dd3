//! Standings, calls and traces as they are told.

use cavesson_core::{
    advice::{Call, HorseCall, Posture, SideCall, Softness, Standing, Status, StepCall, Verdict, softness},
    belief::Interval,
    curriculum::{Course, Gait, Hands, Place, Side, StepIx, Zone},
    ride::{Habits, outline},
    schedule::{Aim, StepFacts},
};
use chrono::NaiveDate;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::services::standing::{
    ahead::{ForecastOut, WaitingStep},
    alarms::AlarmOut,
};

/// What a horse owns and what to do about it, as of a day.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub(crate) struct StandingOut {
    pub(crate) as_of: NaiveDate,
    pub(crate) posture: Posture,
    /// How sure the posture wants to be, 0 to 1.
    pub(crate) sure: f64,
    pub(crate) last_ridden: Option<NaiveDate>,
    /// A call on the whole horse, before any on a rung.
    pub(crate) horse: Option<HorseCallOut>,
    /// Every step with reps, and every step that is open, in teaching order.
    pub(crate) steps: Vec<StepStanding>,
    /// Steps that wait for what is under way or open, as far as something can be said of them, likeliest first.
    pub(crate) waiting: Vec<WaitingStep>,
    /// Softness by part of the horse and side.
    pub(crate) zones: Vec<ZoneOut>,
    /// What the record suggests to ride.
    pub(crate) line: LineOut,
    /// What it is on, by id: what is not owned and was asked last, else what is suggested.
    pub(crate) subject: Option<String>,
    /// The side that lags over all that was asked on both.
    pub(crate) stiff: Option<Side>,
    /// What the last day of rides changed, worst first.
    pub(crate) changed: Vec<Changed>,
    /// Faults that the record ties to something, surest first.
    pub(crate) faults: Vec<FaultTold>,
    /// What came of the remedies of faults, latest work first.
    pub(crate) cures: Vec<CureTold>,
    /// Overrules, latest first, with what the record said of them later.
    pub(crate) overrules: Vec<OverruleOut>,
    /// Alarms of the last ninety days, latest first.
    pub(crate) alarms: Vec<AlarmOut>,
}

/// What came of the remedy of a fault.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub(crate) struct CureTold {
    /// Tag of the fault.
    pub(crate) fault: String,
    /// The rung on which it showed.
    pub(crate) at: String,
    /// The rung that was worked for it.
    pub(crate) remedy: String,
    /// How likely the fault is rarer now, 0 to 1.
    pub(crate) rarer: f64,
    pub(crate) says: String,
}

/// A call on the whole horse: look at it, or leave it alone.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub(crate) struct HorseCallOut {
    pub(crate) call: Call,
    pub(crate) why: Vec<String>,
    /// What to look at, in order; empty when the horse is only to be left alone.
    pub(crate) look: Vec<String>,
}

/// Where a horse stands on one step.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub(crate) struct StepStanding {
    pub(crate) id: String,
    pub(crate) name: String,
    pub(crate) rung: String,
    pub(crate) gait: Gait,
    pub(crate) status: Status,
    /// None before the first rep.
    pub(crate) call: Option<Call>,
    /// The side that holds it up.
    pub(crate) weaker: Option<Side>,
    /// Steps below it that are not owned.
    pub(crate) holes: Vec<String>,
    /// Where an advance leads.
    pub(crate) next: Vec<String>,
    pub(crate) next_place: Option<Place>,
    pub(crate) next_hands: Option<Hands>,
    /// Where a back leads.
    pub(crate) back_to: Option<String>,
    /// Owned, and due for a few reps.
    pub(crate) due: bool,
    /// Plain sentences, the deciding one first.
    pub(crate) why: Vec<String>,
    pub(crate) sides: Vec<SideStanding>,
    /// Days of work until it was owned the first time.
    pub(crate) days_to_own: Option<u32>,
    pub(crate) forecast: Option<ForecastOut>,
}

/// Where a horse stands on one side of a step.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub(crate) struct SideStanding {
    pub(crate) side: Side,
    pub(crate) status: Status,
    pub(crate) call: Call,
    /// Probability of being at the standard on an ordinary day.
    pub(crate) ready: f64,
    pub(crate) share: ShareOut,
    /// Separate days with reps.
    pub(crate) days: u32,
    pub(crate) last: NaiveDate,
    /// Reps of the last three days, and how many met the standard.
    pub(crate) reps: u32,
    pub(crate) met: u32,
    pub(crate) why: Vec<String>,
}

/// The share of reps that meet the standard on an ordinary day, with its 90 % interval.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub(crate) struct ShareOut {
    pub(crate) mean: f64,
    pub(crate) low: f64,
    pub(crate) high: f64,
}

/// How soft a part of the horse is on one side: the mean over the steps that show there.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub(crate) struct ZoneOut {
    pub(crate) zone: Zone,
    pub(crate) side: Side,
    pub(crate) share: f64,
    /// The steps behind it.
    pub(crate) steps: Vec<String>,
}

/// A fault, what it is tied to, the counts behind it, and where to go.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub(crate) struct FaultTold {
    pub(crate) fault: String,
    /// The whole of it in a sentence.
    pub(crate) says: String,
    pub(crate) likely: String,
    pub(crate) remedy: String,
    /// The rung to ride, and its name.
    pub(crate) go_to: String,
    pub(crate) go_to_name: String,
    /// Probability that chance shows as much, corrected for all that was looked at.
    pub(crate) p: f64,
    pub(crate) looked_at: usize,
}

/// An overrule and what came of it.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub(crate) struct OverruleOut {
    pub(crate) id: Uuid,
    pub(crate) step: String,
    pub(crate) name: String,
    pub(crate) was: Call,
    pub(crate) made: Call,
    pub(crate) reason: String,
    pub(crate) on: NaiveDate,
    pub(crate) who: String,
    pub(crate) who_id: Uuid,
    pub(crate) verdict: Verdict,
}

/// A ride in one line.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub(crate) struct LineOut {
    pub(crate) loosen: Vec<StepName>,
    pub(crate) main: Option<MainOut>,
}

/// A step by id and name.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub(crate) struct StepName {
    pub(crate) id: String,
    pub(crate) name: String,
}

/// The main subject of a ride.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub(crate) struct MainOut {
    pub(crate) id: String,
    pub(crate) name: String,
    /// Per cent of the reps on the left, where the step has sides.
    pub(crate) left: Option<u8>,
    /// Per cent of the reps on the right.
    pub(crate) right: Option<u8>,
    pub(crate) why: String,
    pub(crate) quit: String,
}

/// A step that the last day of rides moved.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub(crate) struct Changed {
    pub(crate) id: String,
    pub(crate) name: String,
    pub(crate) from: Status,
    pub(crate) to: Status,
    pub(crate) on: NaiveDate,
    pub(crate) why: String,
}

/// What moved since each step stood as `before`.
pub(crate) fn changed(before: &[Status], after: &Standing<'_, '_>) -> Vec<Changed> {
    let course = after.course();
    let mut changed: Vec<Changed> = after
        .calls()
        .into_iter()
        .filter_map(|call| {
            let from = before[call.step];
            let step = course.step(call.step);
            let why = call.why.into_iter().next().unwrap_or_default();
            (from != call.status).then(|| Changed {
                id: step.id.clone(),
                name: step.name.clone(),
                from,
                to: call.status,
                on: after.on(),
                why,
            })
        })
        .collect();
    let rank = |status: Status| match status {
        Status::Slipping => 0,
        Status::Owned => 1,
        Status::Learning => 2,
        Status::Untried => 3,
    };
    changed.sort_by_key(|c| rank(c.to));
    changed
}

pub(crate) fn line_out(standing: &Standing<'_, '_>, habits: &Habits) -> LineOut {
    let course = standing.course();
    let plan = outline(standing, habits);
    let name = |ix: StepIx| StepName { id: course.step(ix).id.clone(), name: course.step(ix).name.clone() };
    LineOut {
        loosen: plan.loosen.into_iter().map(name).collect(),
        main: plan.main.map(|m| MainOut {
            id: course.step(m.step).id.clone(),
            name: course.step(m.step).name.clone(),
            left: m.split.map(|s| s.left),
            right: m.split.map(|s| s.right),
            why: m.why,
            quit: m.quit,
        }),
    }
}

pub(crate) fn horse_out(course: &Course, call: &HorseCall) -> HorseCallOut {
    let look = match call.call() {
        Call::LookAt => cavesson_core::advice::Pain::LOOK.map(str::to_owned).to_vec(),
        _ => vec![],
    };
    HorseCallOut { call: call.call(), why: call.why(course), look }
}

impl StepStanding {
    /// As far as a week asks, with the show that it is wanted for.
    pub(crate) fn facts(&self, aim: Option<Aim>, course: &Course) -> StepFacts {
        StepFacts {
            step: self.id.clone(),
            name: self.name.clone(),
            gait: self.gait,
            status: self.status,
            call: self.call,
            open: self.holes.is_empty(),
            due: self.due,
            aim,
            work: course.find(&self.id).map(|ix| course.step(ix).work.clone()).unwrap_or_default(),
        }
    }
}

pub(crate) fn step_out(standing: &Standing<'_, '_>, call: &StepCall) -> StepStanding {
    let course = standing.course();
    let ids = |steps: &[StepIx]| steps.iter().map(|&s| course.step(s).id.clone()).collect();
    StepStanding {
        call: Some(call.call),
        weaker: call.weaker,
        holes: ids(&call.holes),
        next: ids(&call.next),
        next_place: call.place,
        next_hands: call.hands,
        back_to: call.back_to.map(|b| course.step(b).id.clone()),
        due: call.due,
        why: call.why.clone(),
        sides: call.sides.iter().map(side_out).collect(),
        ..untried(standing, call.step)
    }
}

/// A step as it stands, without any call on it.
pub(crate) fn untried(standing: &Standing<'_, '_>, ix: StepIx) -> StepStanding {
    let step = standing.course().step(ix);
    StepStanding {
        id: step.id.clone(),
        name: step.name.clone(),
        rung: step.rung.clone(),
        gait: step.gait,
        status: standing.status(ix),
        call: None,
        weaker: None,
        holes: vec![],
        next: vec![],
        next_place: None,
        next_hands: None,
        back_to: None,
        due: false,
        why: vec![],
        sides: vec![],
        days_to_own: standing.advisor().days_to_own(ix),
        forecast: None,
    }
}

pub(crate) fn zones(standing: &Standing<'_, '_>) -> Vec<ZoneOut> {
    let id = |&ix: &StepIx| standing.course().step(ix).id.clone();
    let out =
        |s: Softness| ZoneOut { zone: s.zone, side: s.side, share: s.share, steps: s.steps.iter().map(id).collect() };
    softness(standing).into_iter().map(out).collect()
}

fn side_out(call: &SideCall) -> SideStanding {
    SideStanding {
        side: call.side,
        status: call.status,
        call: call.call,
        ready: call.belief.ready,
        share: share_out(&call.belief.share),
        days: call.belief.days,
        last: call.belief.last,
        reps: call.belief.recent.reps,
        met: call.belief.recent.met,
        why: call.why.clone(),
    }
}

pub(crate) fn share_out(share: &Interval) -> ShareOut {
    ShareOut { mean: share.mean, low: share.low, high: share.high }
}
