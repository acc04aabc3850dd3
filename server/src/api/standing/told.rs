//! Standings, calls and traces as they are told.

use cavesson_core::{
    advice::{
        Call, Forecast, HorseCall, Posture, SideCall, Softness, Standing, StepCall, Survey, Verdict, forecast, softness,
    },
    belief::Interval,
    ladder::{Course, Gait, Hands, Place, Side, StepIx, Zone},
    ride::{Habits, outline},
    week::{Aim, StepFacts},
};
use chrono::{Days, NaiveDate};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::api::words;

/// What a horse owns and what to do about it, as of a day.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub(in crate::api) struct StandingOut {
    pub(in crate::api) as_of: NaiveDate,
    #[schema(value_type = words::Posture)]
    pub(in crate::api) posture: Posture,
    /// How sure the posture wants to be, 0 to 1.
    pub(in crate::api) sure: f64,
    pub(in crate::api) last_ridden: Option<NaiveDate>,
    /// A call on the whole horse, before any on a rung.
    pub(in crate::api) horse: Option<HorseCallOut>,
    /// Every step with reps, and every step that is open, in teaching order.
    pub(in crate::api) steps: Vec<StepStanding>,
    /// Softness by part of the horse and side.
    pub(in crate::api) zones: Vec<ZoneOut>,
    /// What the record suggests to ride.
    pub(in crate::api) line: LineOut,
    /// What the last day of rides changed, worst first.
    pub(in crate::api) changed: Vec<Changed>,
    /// Faults that the record ties to something, surest first.
    pub(in crate::api) faults: Vec<FaultTold>,
    /// Overrules, latest first, with what the record said of them later.
    pub(in crate::api) overrules: Vec<OverruleOut>,
}

/// A call on the whole horse: look at it, or leave it alone.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub(in crate::api) struct HorseCallOut {
    #[schema(value_type = words::Call)]
    pub(in crate::api) call: Call,
    pub(in crate::api) why: Vec<String>,
    /// What to look at, in order; empty when the horse is only to be left alone.
    pub(in crate::api) look: Vec<String>,
}

/// Where a horse stands on one step.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub(in crate::api) struct StepStanding {
    pub(in crate::api) id: String,
    pub(in crate::api) name: String,
    pub(in crate::api) rung: String,
    #[schema(value_type = words::Gait)]
    pub(in crate::api) gait: Gait,
    #[schema(value_type = words::Standing)]
    pub(in crate::api) standing: Standing,
    /// None before the first rep.
    #[schema(value_type = Option<words::Call>)]
    pub(in crate::api) call: Option<Call>,
    /// The side that holds it up.
    #[schema(value_type = Option<words::Side>)]
    pub(in crate::api) weaker: Option<Side>,
    /// Steps below it that are not owned.
    pub(in crate::api) holes: Vec<String>,
    /// Where an advance leads.
    pub(in crate::api) next: Vec<String>,
    #[schema(value_type = Option<words::Place>)]
    pub(in crate::api) next_place: Option<Place>,
    #[schema(value_type = Option<words::Hands>)]
    pub(in crate::api) next_hands: Option<Hands>,
    /// Where a back leads.
    pub(in crate::api) back_to: Option<String>,
    /// Owned, and due for a few reps.
    pub(in crate::api) due: bool,
    /// Plain sentences, the deciding one first.
    pub(in crate::api) why: Vec<String>,
    pub(in crate::api) sides: Vec<SideStanding>,
    /// Days of work until it was owned the first time.
    pub(in crate::api) days_to_own: Option<u32>,
    pub(in crate::api) forecast: Option<ForecastOut>,
}

/// When a step will be owned.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub(in crate::api) struct ForecastOut {
    /// One in ten horses like this owns it by then.
    pub(in crate::api) early: Option<NaiveDate>,
    /// One in two.
    pub(in crate::api) middle: Option<NaiveDate>,
    /// Nine in ten.
    pub(in crate::api) late: Option<NaiveDate>,
    /// Days of work on it a week that this takes for granted.
    pub(in crate::api) a_week: f64,
    /// Days later than was thought four weeks ago; under zero, earlier; none where it did not move by a week.
    pub(in crate::api) later_by: Option<i64>,
    /// Probability that it is owned now, in one week, in two weeks and so on.
    pub(in crate::api) by_week: Vec<f64>,
}

/// Where a horse stands on one side of a step.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub(in crate::api) struct SideStanding {
    #[schema(value_type = words::Side)]
    pub(in crate::api) side: Side,
    #[schema(value_type = words::Standing)]
    pub(in crate::api) standing: Standing,
    #[schema(value_type = words::Call)]
    pub(in crate::api) call: Call,
    /// Probability of being at the standard on an ordinary day.
    pub(in crate::api) ready: f64,
    pub(in crate::api) share: ShareOut,
    /// Separate days with reps.
    pub(in crate::api) days: u32,
    pub(in crate::api) last: NaiveDate,
    /// Reps of the last three days, and how many met the standard.
    pub(in crate::api) reps: u32,
    pub(in crate::api) met: u32,
    /// Days of work since a loss began, where the watch has gone off.
    pub(in crate::api) watch: Option<u32>,
    pub(in crate::api) why: Vec<String>,
}

/// The share of reps that meet the standard on an ordinary day, with its 90 % interval.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub(in crate::api) struct ShareOut {
    pub(in crate::api) mean: f64,
    pub(in crate::api) low: f64,
    pub(in crate::api) high: f64,
}

/// How soft a part of the horse is on one side: the mean over the steps that show there.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub(in crate::api) struct ZoneOut {
    #[schema(value_type = words::Zone)]
    pub(in crate::api) zone: Zone,
    #[schema(value_type = words::Side)]
    pub(in crate::api) side: Side,
    pub(in crate::api) share: f64,
    /// The steps behind it.
    pub(in crate::api) steps: Vec<String>,
}

/// A fault, what it is tied to, the counts behind it, and where to go.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub(in crate::api) struct FaultTold {
    pub(in crate::api) fault: String,
    /// The whole of it in a sentence.
    pub(in crate::api) says: String,
    pub(in crate::api) likely: String,
    pub(in crate::api) remedy: String,
    /// The rung to ride, and its name.
    pub(in crate::api) go_to: String,
    pub(in crate::api) go_to_name: String,
    /// Probability that chance shows as much, corrected for all that was looked at.
    pub(in crate::api) p: f64,
    pub(in crate::api) looked_at: usize,
}

/// An overrule and what came of it.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub(in crate::api) struct OverruleOut {
    pub(in crate::api) id: Uuid,
    pub(in crate::api) step: String,
    pub(in crate::api) name: String,
    #[schema(value_type = words::Call)]
    pub(in crate::api) was: Call,
    #[schema(value_type = words::Call)]
    pub(in crate::api) made: Call,
    pub(in crate::api) reason: String,
    pub(in crate::api) on: NaiveDate,
    pub(in crate::api) who: String,
    pub(in crate::api) who_id: Uuid,
    pub(in crate::api) verdict: VerdictOut,
}

/// What the record said of an overrule later.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub(in crate::api) enum VerdictOut {
    Open,
    Right,
    Wrong,
}

impl From<Verdict> for VerdictOut {
    fn from(verdict: Verdict) -> Self {
        match verdict {
            Verdict::Open => VerdictOut::Open,
            Verdict::Right => VerdictOut::Right,
            Verdict::Wrong => VerdictOut::Wrong,
        }
    }
}

/// A ride in one line.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub(in crate::api) struct LineOut {
    pub(in crate::api) loosen: Vec<StepName>,
    pub(in crate::api) main: Option<MainOut>,
}

/// A step by id and name.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub(in crate::api) struct StepName {
    pub(in crate::api) id: String,
    pub(in crate::api) name: String,
}

/// The main subject of a ride.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub(in crate::api) struct MainOut {
    pub(in crate::api) id: String,
    pub(in crate::api) name: String,
    /// Per cent of the reps on the left, where the step has sides.
    pub(in crate::api) left: Option<u8>,
    /// Per cent of the reps on the right.
    pub(in crate::api) right: Option<u8>,
    pub(in crate::api) why: String,
    pub(in crate::api) quit: String,
}

/// A step that the last day of rides moved.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub(in crate::api) struct Changed {
    pub(in crate::api) id: String,
    pub(in crate::api) name: String,
    #[schema(value_type = words::Standing)]
    pub(in crate::api) from: Standing,
    #[schema(value_type = words::Standing)]
    pub(in crate::api) to: Standing,
    pub(in crate::api) on: NaiveDate,
    pub(in crate::api) why: String,
}

pub(super) fn changed(before: &Survey<'_, '_>, after: &Survey<'_, '_>) -> Vec<Changed> {
    let course = after.course();
    let mut changed: Vec<Changed> = after
        .calls()
        .into_iter()
        .filter_map(|call| {
            let from = before.standing(call.step);
            let step = course.step(call.step);
            let why = call.why.into_iter().next().unwrap_or_default();
            (from != call.standing).then(|| Changed {
                id: step.id.clone(),
                name: step.name.clone(),
                from,
                to: call.standing,
                on: after.on(),
                why,
            })
        })
        .collect();
    let rank = |standing: Standing| match standing {
        Standing::Slipping => 0,
        Standing::Owned => 1,
        Standing::Learning => 2,
        Standing::Untried => 3,
    };
    changed.sort_by_key(|c| rank(c.to));
    changed
}

pub(super) fn line_out(survey: &Survey<'_, '_>, habits: &Habits) -> LineOut {
    let course = survey.course();
    let plan = outline(survey, habits);
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

pub(super) fn horse_out(course: &Course, call: &HorseCall) -> HorseCallOut {
    let look = match call.call() {
        Call::LookAt => cavesson_core::advice::Pain::LOOK.map(str::to_owned).to_vec(),
        _ => vec![],
    };
    HorseCallOut { call: call.call(), why: call.why(course), look }
}

impl StepStanding {
    /// As far as a week asks, with the show that it is wanted for.
    pub(in crate::api) fn facts(&self, aim: Option<Aim>) -> StepFacts {
        StepFacts {
            step: self.id.clone(),
            name: self.name.clone(),
            gait: self.gait,
            standing: self.standing,
            call: self.call,
            open: self.holes.is_empty(),
            due: self.due,
            aim,
        }
    }
}

pub(super) fn step_out(survey: &Survey<'_, '_>, call: &StepCall) -> StepStanding {
    let course = survey.course();
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
        ..untried(survey, call.step)
    }
}

/// A step as it stands, without any call on it.
pub(super) fn untried(survey: &Survey<'_, '_>, ix: StepIx) -> StepStanding {
    let step = survey.course().step(ix);
    StepStanding {
        id: step.id.clone(),
        name: step.name.clone(),
        rung: step.rung.clone(),
        gait: step.gait,
        standing: survey.standing(ix),
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
        days_to_own: survey.advisor().days_to_own(ix),
        forecast: None,
    }
}

/// Weeks told ahead.
const WEEKS: u64 = 26;

pub(super) fn forecast_out(survey: &Survey<'_, '_>, then: Option<&Survey<'_, '_>>, ix: StepIx) -> Option<ForecastOut> {
    let f: Forecast = forecast(survey, ix)?;
    let later_by = then.and_then(|then| cavesson_core::advice::shift(then, &f)).map(|s| s.days);
    let by_week = (0..=WEEKS).map(|w| f.by(survey.on() + Days::new(7 * w))).collect();
    let d = f.dates;
    Some(ForecastOut { early: d.early, middle: d.middle, late: d.late, a_week: f.a_week, later_by, by_week })
}

pub(super) fn zones(survey: &Survey<'_, '_>) -> Vec<ZoneOut> {
    let id = |&ix: &StepIx| survey.course().step(ix).id.clone();
    let out =
        |s: Softness| ZoneOut { zone: s.zone, side: s.side, share: s.share, steps: s.steps.iter().map(id).collect() };
    softness(survey).into_iter().map(out).collect()
}

fn side_out(call: &SideCall) -> SideStanding {
    SideStanding {
        side: call.side,
        standing: call.standing,
        call: call.call,
        ready: call.belief.ready,
        share: share_out(&call.belief.share),
        days: call.belief.days,
        last: call.belief.last,
        reps: call.belief.recent.reps,
        met: call.belief.recent.met,
        watch: call.loss.map(|l| l.days),
        why: call.why.clone(),
    }
}

pub(super) fn share_out(share: &Interval) -> ShareOut {
    ShareOut { mean: share.mean, low: share.low, high: share.high }
}
