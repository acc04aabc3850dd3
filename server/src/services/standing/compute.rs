//! From a horse's record to its standing: nothing here touches the database.

use std::sync::Arc;

use cavesson_core::{
    advice::{
        Advisor, AdvisorSnapshot, AskContext, Cure, EarlierForecast, FAULT_WINDOW_DAYS, FORECAST_BEFORE, FaultPattern,
        History, Posture, Standing, Status, TrainerInput, WatchedHistory, cures, fault_patterns, foreseen_from,
        in_work, kept_mornings, stiff_side,
    },
    belief::ModelSettings,
    curriculum::{Curriculum, Heights, StepIx},
    ride::Habits,
};
use cavesson_store::trainer_input::KeptOverrule;
use chrono::{Days, NaiveDate};
use uuid::Uuid;

use crate::services::{
    book::Book,
    standing::ahead::{forecast_out, waiting},
    standing::alarms::alarms_out,
    standing::barn_weeks::ShownByBarn,
    standing::logs::HorseLog,
    standing::response::{
        CureTold, FaultTold, OverruleOut, StandingOut, changed, horse_out, line_out, step_out, untried, zones,
    },
};

/// All of a horse's record that its standing is made from.
#[derive(Debug)]
pub(crate) struct Record {
    pub(crate) horse: Uuid,
    pub(crate) posture: Posture,
    pub(crate) book: Arc<Book>,
    pub(crate) log: HorseLog,
    pub(crate) habits: Habits,
    /// Signs by day.
    pub(crate) signs: Vec<(NaiveDate, Vec<String>)>,
    pub(crate) trainer_input: TrainerInput,
    pub(crate) overrules: Vec<KeptOverrule>,
}

/// A record, and the advisor that has watched all of it.
#[derive(Debug)]
pub(crate) struct WatchedRecord {
    pub(crate) record: Record,
    pub(crate) watched: WatchedHistory,
    /// What was foreseen four weeks ago.
    foreseen: Option<OnMorning<EarlierForecast>>,
    /// Where each step stood on the last day, before it was ridden.
    before_last: Option<OnMorning<Vec<Status>>>,
}

/// Something that follows from the snapshot of a morning, and for which day. It is the same until the days before that change.
#[derive(Debug)]
struct OnMorning<T> {
    snapshot: Arc<AdvisorSnapshot>,
    day: NaiveDate,
    it: Arc<T>,
}

impl<T> OnMorning<T> {
    /// What follows for a day from the first morning from `from` on; what was worked out `before` is taken where it is the same.
    fn of(
        watched: &WatchedHistory,
        (from, day): (NaiveDate, NaiveDate),
        before: Option<&OnMorning<T>>,
        work_out: impl FnOnce(&Standing<'_, '_>) -> T,
    ) -> Option<OnMorning<T>> {
        let snapshot = Arc::clone(watched.snapshot_of(from)?);
        let it = match before.filter(|before| Arc::ptr_eq(&before.snapshot, &snapshot) && before.day == day) {
            Some(before) => Arc::clone(&before.it),
            None => Arc::new(work_out(&watched.on_morning(from)?.standing(day))),
        };
        Some(OnMorning { snapshot, day, it })
    }
}

/// Watches a record to its end. What was watched of it `before`, or together with its barn, is not watched again.
pub(crate) fn watch(
    record: Record,
    barn: &ShownByBarn,
    before: Option<&WatchedRecord>,
    with_barn: Option<&WatchedHistory>,
    today: NaiveDate,
) -> WatchedRecord {
    let history = History {
        course: Arc::clone(&record.book.course),
        posture: record.posture,
        settings: ModelSettings::default(),
        trainer_input: record.trainer_input.clone(),
        days: Arc::clone(&record.log.days),
        barn: Arc::clone(&barn.weeks),
        horse: barn.place_of(record.horse),
    };
    let watched_before = with_barn.or(before.map(|b| &b.watched));
    let watched = WatchedHistory::watch(history, watched_before, &kept_mornings(today));
    let made_from = |record: &Record| (record.posture, record.trainer_input.clone(), record.book.fingerprint.clone());
    let same = |b: &&WatchedRecord| made_from(&b.record) == made_from(&record);
    let kept = before.filter(same);
    let then = (foreseen_from(today), today - Days::new(FORECAST_BEFORE));
    let kept_foreseen = kept.and_then(|k| k.foreseen.as_ref());
    let foreseen = OnMorning::of(&watched, then, kept_foreseen, EarlierForecast::of);
    let last = record.log.days.last().map(|day| day.date);
    let before_last = last.and_then(|last| {
        let statuses = |standing: &Standing<'_, '_>| standing.statuses().to_vec();
        OnMorning::of(&watched, (last, last), kept.and_then(|k| k.before_last.as_ref()), statuses)
    });
    WatchedRecord { record, watched, foreseen, before_last }
}

/// The standing as of `today` of a record that was watched.
pub(crate) fn standing_of(watched: &WatchedRecord, today: NaiveDate) -> StandingOut {
    let WatchedRecord { record, watched, foreseen, before_last } = watched;
    let course = &record.book.course;
    let advisor = watched.at_end();
    let standing = advisor.standing(today);
    let then = foreseen.as_ref().map(|foreseen| foreseen.it.as_ref());
    let on_last = |before: &OnMorning<Vec<Status>>| match before.day == today {
        true => changed(&before.it, &standing),
        false => changed(&before.it, &advisor.standing(before.day)),
    };
    let changed = before_last.as_ref().map_or_else(Vec::new, on_last);
    let line = line_out(&standing, &record.habits);
    let lately = record.log.asks_since(today - Days::new(FAULT_WINDOW_DAYS));
    let suggested = || line.main.as_ref().map(|m| m.id.clone());
    StandingOut {
        subject: in_work(&standing).map(|ix| course.step(ix).id.clone()).or_else(suggested),
        stiff: stiff_side(&standing),
        as_of: today,
        posture: record.posture,
        sure: record.posture.sure(),
        last_ridden: record.log.days.last().map(|d| d.date),
        horse: standing.horse_call().map(|h| horse_out(course, h)),
        steps: steps(&standing, then),
        waiting: waiting(&standing),
        zones: zones(&standing),
        line,
        changed,
        faults: faults(&record.book.curriculum, lately),
        cures: cures_told(&record.book.curriculum, lately),
        overrules: overrules(&advisor, record, today),
        alarms: alarms_out(&advisor, today),
    }
}

/// Every step with reps, and every open step that is taught.
fn steps(
    standing: &Standing<'_, '_>,
    then: Option<&EarlierForecast>,
) -> Vec<crate::services::standing::response::StepStanding> {
    let calls = standing.calls();
    let course = standing.course();
    let step = |ix: StepIx| {
        let call = calls.iter().find(|c| c.step == ix);
        let open = course.step(ix).taught && standing.is_open(ix);
        let mut out = match call {
            Some(call) => step_out(standing, call),
            None if open => untried(standing, ix),
            None => return None,
        };
        out.forecast = forecast_out(standing, then, ix);
        Some(out)
    };
    (0..course.steps().len()).filter_map(step).collect()
}

fn overrules(advisor: &Advisor<'_>, record: &Record, today: NaiveDate) -> Vec<OverruleOut> {
    let course = &record.book.course;
    // The core's list leaves out steps that left the course, in the same order.
    let known = record.overrules.iter().filter(|o| course.find(&o.step).is_some());
    let mut out: Vec<OverruleOut> = known
        .enumerate()
        .filter_map(|(n, o)| {
            Some(OverruleOut {
                id: o.id,
                name: course.step(course.find(&o.step)?).name.clone(),
                step: o.step.clone(),
                was: o.was,
                made: o.made,
                reason: o.reason.clone(),
                on: o.on,
                who: o.made_by_name.clone(),
                who_id: o.made_by,
                verdict: advisor.verdict(n, today),
            })
        })
        .collect();
    out.reverse();
    out
}

fn faults(curriculum: &Curriculum, reps: &[AskContext]) -> Vec<FaultTold> {
    let heights = curriculum.heights();
    fault_patterns(reps).iter().take(6).filter_map(|p| fault_out(&heights, curriculum, p, reps)).collect()
}

/// The latest of what came of remedies.
fn cures_told(curriculum: &Curriculum, reps: &[AskContext]) -> Vec<CureTold> {
    let told = |c: Cure| {
        let says = c.in_words(curriculum)?;
        Some(CureTold { fault: c.fault, at: c.at, remedy: c.remedy, rarer: c.rarer, says })
    };
    cures(curriculum.faults(), reps).into_iter().filter_map(told).take(4).collect()
}

fn fault_out(
    heights: &Heights<'_>,
    curriculum: &Curriculum,
    p: &FaultPattern,
    reps: &[AskContext],
) -> Option<FaultTold> {
    let fault = curriculum.fault(&p.fault)?;
    // It shows on several rungs: what is done about it lies below the lowest of them, or is a smaller piece of that.
    let showed = reps.iter().filter(|r| r.faults.contains(&p.fault)).map(|r| &r.rung);
    let lowest = showed.min_by_key(|rung| heights.of(rung))?;
    let go_to = heights.remedies(fault, lowest).into_iter().next().unwrap_or_else(|| lowest.clone());
    let share = |(with, all): (u32, u32)| format!("{with} of {all}");
    let place = p.factor.phrase();
    let mut name = fault.name.clone();
    name[..1].make_ascii_uppercase();
    Some(FaultTold {
        fault: fault.tag.clone(),
        says: format!("{name} {place}: {} asks, {} elsewhere", share(p.there), share(p.elsewhere)),
        likely: format!("{}; {}", fault.likely, p.factor.likely()),
        remedy: fault.remedy.clone(),
        go_to_name: curriculum.rung(&go_to)?.name.clone(),
        go_to,
        p: p.p,
        looked_at: p.looked_at,
    })
}
