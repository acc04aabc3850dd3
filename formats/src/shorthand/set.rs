//! One set: what its words came to, and whether they make a set.

use cavesson_core::{
    count::{Count, CountError, ObstacleStage},
    curriculum::{Gait, Measure, Rung, Side},
    response::{ResponseTime, TimeOutOfRange, Weight},
};

use super::{Set, SetResult};

/// The most reps that a set of the shorthand has.
const MOST: u8 = 200;

/// Why what was written makes no set.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub(super) enum SetError {
    #[error("which rung? begin a set with it")]
    NoRung,
    #[error("{rung} is not trained at the {gait}; it is at {}", .gaits.join(", "))]
    Gait { rung: String, gait: Gait, gaits: Vec<&'static str> },
    #[error("{0} is not counted in asks: no weight and no seconds with it")]
    Counted(String),
    #[error("{0} is counted in asks: soft and stiff say nothing of it")]
    InReps(String),
    #[error("soft and stiff say nothing of {0}")]
    NotSoftened(String),
    #[error("{rung} has no side \"{side}\"")]
    Side { rung: String, side: Side },
    #[error("{0} has two sides: L or R")]
    WhichSide(String),
    #[error("{}", how_many(.measure, .rung))]
    NoTally { rung: String, measure: Measure },
    #[error("a set has 1 to {MOST} reps, and no more good ones than all")]
    Reps,
    #[error("{rung} is counted in {}", in_words(*.measure))]
    Measure { rung: String, measure: Measure },
    #[error(transparent)]
    Count(#[from] CountError),
    #[error("this set has another {0} already")]
    Twice(&'static str),
    #[error(transparent)]
    Seconds(#[from] TimeOutOfRange),
}

/// The question for the tally that is missing.
fn how_many(measure: &Measure, rung: &str) -> String {
    match measure {
        Measure::Laps { .. } => format!("how many laps of {rung}? as in 3 laps soft"),
        Measure::Tries { .. } => format!("how far did each try at {rung} get? as in looks>two>crosses"),
        Measure::ReinShare { .. } => format!("what share of the bridle rein on {rung}? as in 30% soft"),
        Measure::Held { .. } => format!("how long did it hold on {rung}? as in 8s soft"),
        Measure::Steps { .. } => format!("how many steps of {rung}? as in 8 steps"),
        _ => format!("how many of how many on {rung}? as in 6/8"),
    }
}

/// How a set came out, before it is known by what measure.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(super) enum Tally {
    /// `6/8` or `6+1/8`.
    Of { good: u8, tried: Option<u8>, all: u8 },
    /// `3 laps`.
    Laps(u8),
    /// `8 steps`.
    Steps(u8),
    /// `30%`.
    Share(u8),
    /// `looks>two>crosses`.
    Tries(Vec<ObstacleStage>),
}

/// What was written of a set so far.
#[derive(Debug, Clone, Default)]
pub(super) struct Draft<'a> {
    pub rungs: Vec<&'a Rung>,
    pub gait: Option<Gait>,
    pub side: Option<Side>,
    pub tally: Option<Tally>,
    pub soft: Option<bool>,
    pub weight: Option<Weight>,
    pub time: Option<ResponseTime>,
    pub faults: Vec<String>,
}

impl Draft<'_> {
    /// The set, or what is wrong with it as a whole.
    pub(super) fn finish(&self) -> Result<Set, SetError> {
        let first = self.rungs.first().ok_or(SetError::NoRung)?;
        let rung = match self.gait {
            Some(gait) => self.rungs.iter().find(|r| r.gaits.contains(&gait)).ok_or_else(|| {
                let gaits = first.gaits.iter().map(|g| g.word()).collect();
                SetError::Gait { rung: first.name.clone(), gait, gaits }
            })?,
            None => first,
        };
        let gait = self.gait.unwrap_or(rung.gaits[0]);
        let side = self.side_of(rung)?;
        let result = self.result_of(rung)?;
        let counted = matches!(result, SetResult::Counted(_));
        let held = matches!(rung.measure, Measure::Held { .. });
        if counted && (self.weight.is_some() || (self.time.is_some() && !held)) {
            return Err(SetError::Counted(rung.name.clone()));
        }
        if matches!(result, SetResult::Reps { .. }) && self.soft.is_some() {
            return Err(SetError::InReps(rung.name.clone()));
        }
        let faults = self.faults.clone();
        let weight = self.weight.unwrap_or(Weight::Lemon);
        // Of what is held the seconds are the count itself.
        let time = self.time.filter(|_| !counted);
        Ok(Set { rung: rung.id.clone(), gait, side, result, weight, time, faults })
    }

    fn side_of(&self, rung: &Rung) -> Result<Side, SetError> {
        match self.side {
            Some(side) if rung.sides.has(side) => Ok(side),
            Some(side) => Err(SetError::Side { rung: rung.name.clone(), side }),
            None if rung.sides.has(Side::Both) => Ok(Side::Both),
            None => Err(SetError::WhichSide(rung.name.clone())),
        }
    }

    fn result_of(&self, rung: &Rung) -> Result<SetResult, SetError> {
        let name = &rung.name;
        let soft = self.soft.unwrap_or(true);
        if let (Measure::Held { .. }, None, Some(time)) = (rung.measure, &self.tally, self.time) {
            let count = Count::Held { seconds: (time.get() / 1000) as u16, lost: !soft };
            return Ok(SetResult::Counted(count.checked(rung.measure)?));
        }
        let tally = self.tally.as_ref();
        let tally = tally.ok_or_else(|| SetError::NoTally { rung: name.clone(), measure: rung.measure })?;
        let count = match (rung.measure, tally) {
            (Measure::Reps, &Tally::Of { good, tried, all }) => {
                let tried = tried.unwrap_or(0);
                return if all > 0 && all <= MOST && u16::from(good) + u16::from(tried) <= u16::from(all) {
                    Ok(SetResult::Reps { gave: good, tried, none: all - good - tried })
                } else {
                    Err(SetError::Reps)
                };
            }
            (Measure::Laps { .. }, &Tally::Laps(laps)) => Count::Laps { laps, soft },
            (Measure::NoseUps, &Tally::Of { good, tried: None, all }) => Count::NoseUps { circles: all, ups: good },
            (Measure::SetUps, &Tally::Of { good, tried: None, all }) => Count::SetUps { asked: all, accepted: good },
            (Measure::Mounts { .. }, &Tally::Of { good, tried: None, all }) => {
                Count::Mounts { mounts: all, loose: good }
            }
            (Measure::Steps { .. }, &Tally::Steps(steps)) => Count::Steps { steps, broke: !soft },
            (Measure::Tries { .. }, Tally::Tries(tries)) => Count::Tries { tries: tries.clone() },
            (Measure::ReinShare { .. }, &Tally::Share(bridle)) => Count::ReinShare { bridle, soft, asked: None },
            (measure, _) => return Err(SetError::Measure { rung: name.clone(), measure }),
        };
        let softens = matches!(count, Count::Laps { .. } | Count::ReinShare { .. } | Count::Steps { .. });
        if self.soft.is_some() && !softens {
            return Err(SetError::NotSoftened(name.clone()));
        }
        Ok(SetResult::Counted(count.checked(rung.measure)?))
    }
}

fn in_words(measure: Measure) -> &'static str {
    match measure {
        Measure::Reps => "asks, as in 6/8",
        Measure::Laps { .. } => "laps, as in 3 laps soft",
        Measure::NoseUps => "nose-ups over circles, as in 1/4",
        Measure::SetUps => "set-ups accepted, as in 6/8",
        Measure::Tries { .. } => "tries, as in looks>two>crosses",
        Measure::ReinShare { .. } => "the share of the bridle rein, as in 30% soft",
        Measure::Mounts { .. } => "mounts it stood loose for, as in 10/12",
        Measure::Held { .. } => "seconds held, as in 8s soft",
        Measure::Steps { .. } => "steps, as in 8 steps",
    }
}

/// A stage of a try: `one` for one foot on.
pub(super) const STAGES: [(&str, ObstacleStage); 7] = [
    ("looks", ObstacleStage::Looks),
    ("toward", ObstacleStage::Toward),
    ("one", ObstacleStage::OneFoot),
    ("two", ObstacleStage::TwoFeet),
    ("four", ObstacleStage::FourFeet),
    ("stands", ObstacleStage::Stands),
    ("crosses", ObstacleStage::Crosses),
];
