//! The quick way into a log that has nothing wrong with it. Whatever it does not take is read the strict way, which says why.

use std::{borrow::Cow, collections::BTreeSet};

use cavesson_core::{
    advice::Posture,
    belief::{Day, Work},
    curriculum::{Course, Sides, Step},
    response::{Answer, Outcome, Rep, ResponseTime, Share, Standard, Weight},
};
use chrono::NaiveDate;
use serde::{Deserialize, Deserializer};

/// A log that was read.
pub(crate) struct Log {
    pub(crate) posture: Posture,
    pub(crate) trace: bool,
    pub(crate) course: Course,
    pub(crate) horses: Vec<(String, Vec<Day>)>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct LogDoc<'a> {
    #[serde(borrow)]
    posture: Cow<'a, str>,
    trace: bool,
    #[serde(borrow)]
    rungs: Vec<RungDoc<'a>>,
    #[serde(borrow)]
    horses: Vec<HorseDoc<'a>>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct RungDoc<'a> {
    #[serde(borrow)]
    id: Cow<'a, str>,
    sides: Vec<String>,
    #[serde(borrow)]
    gait: Cow<'a, str>,
    needs: Vec<String>,
    standard: StandardDoc,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct StandardDoc {
    share: f64,
    weight: Weight,
    seconds: f64,
    days: u8,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct HorseDoc<'a> {
    #[serde(borrow)]
    id: Cow<'a, str>,
    #[serde(borrow)]
    sessions: Vec<SessionDoc<'a>>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct SessionDoc<'a> {
    #[serde(borrow)]
    date: Cow<'a, str>,
    #[serde(borrow)]
    sets: Vec<SetDoc<'a>>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct SetDoc<'a> {
    #[serde(borrow)]
    rung: Cow<'a, str>,
    #[serde(borrow)]
    side: Cow<'a, str>,
    reps: Vec<RepDoc>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct RepDoc {
    outcome: Outcome,
    weight: Weight,
    #[serde(default, deserialize_with = "not_null")]
    seconds: Option<f64>,
}

/// Seconds may be missing, and then the key is; `null` is no number.
fn not_null<'de, D: Deserializer<'de>>(d: D) -> Result<Option<f64>, D::Error> {
    f64::deserialize(d).map(Some)
}

/// The log, if it is right in every way.
pub(crate) fn read(text: &str) -> Option<Log> {
    let doc: LogDoc<'_> = serde_json::from_str(text).ok()?;
    let steps = doc.rungs.into_iter().map(step).collect::<Option<Vec<_>>>()?;
    let course = Course::new(steps).ok()?;
    let mut ids = BTreeSet::new();
    let horses: Option<Vec<(String, Vec<Day>)>> = doc
        .horses
        .into_iter()
        .map(|h| ids.insert(h.id.to_string()).then(|| Some((h.id.to_string(), days(h.sessions, &course)?)))?)
        .collect();
    Some(Log { posture: doc.posture.parse().ok()?, trace: doc.trace, course, horses: horses? })
}

fn step(rung: RungDoc<'_>) -> Option<(Step, Vec<String>)> {
    let sides = match rung.sides.iter().map(String::as_str).collect::<Vec<_>>().as_slice() {
        ["left", "right"] => Sides::Each,
        ["both"] => Sides::Both,
        _ => return None,
    };
    let s = rung.standard;
    let standard = Standard {
        share: Share::new(s.share).ok()?,
        weight: s.weight,
        seconds: ResponseTime::from_seconds(s.seconds).ok()?,
        days: s.days,
    };
    Some((Step::plain(&rung.id, rung.gait.parse().ok()?, sides, standard), rung.needs))
}

fn days(sessions: Vec<SessionDoc<'_>>, course: &Course) -> Option<Vec<Day>> {
    let days: Option<Vec<Day>> = sessions
        .into_iter()
        .map(|s| {
            let date = NaiveDate::parse_from_str(&s.date, "%Y-%m-%d").ok().filter(|_| s.date.len() == 10)?;
            Some(Day::new(date, s.sets.into_iter().map(|set| work(set, course)).collect::<Option<Vec<Work>>>()?))
        })
        .collect();
    days.filter(|days| days.is_sorted_by(|a, b| a.date < b.date))
}

fn work(set: SetDoc<'_>, course: &Course) -> Option<Work> {
    let step = course.find(&set.rung)?;
    let side = set.side.parse().ok()?;
    if !course.step(step).sides.has(side) {
        return None;
    }
    let rep = |r: RepDoc| {
        let time = r.seconds.map(ResponseTime::from_seconds).transpose().ok()?;
        Some(Rep { answer: Answer::of_outcome(r.outcome, None)?, weight: r.weight, time })
    };
    Some(Work::reps(step, side, set.reps.into_iter().map(rep).collect::<Option<Vec<Rep>>>()?))
}
