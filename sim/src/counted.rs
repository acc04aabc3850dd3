//! Counts as a horse would show them, drawn from the share that meets the standard.

use cavesson_core::{
    count::{Count, ObstacleStage},
    curriculum::Measure,
};
use rand::RngExt;
use rand_chacha::ChaCha8Rng;
use rand_distr::{Distribution, Poisson};

/// Laps after which a rider leaves a stiff circle, over those that meet the standard.
const LAPS_OVER: u8 = 4;
/// Seconds and steps after which a rider lets go of what is good, over those that meet the standard.
const OVER: u16 = 2;
/// Times up and down that are counted as one.
const MOUNTS: u8 = 5;

/// One count on a rung of a measure, where a share of 0 to 1 meets its standard. On a rung of asks there is none.
pub(crate) fn count(rng: &mut ChaCha8Rng, measure: Measure, share: f64) -> Option<Count> {
    let chance = measure.chance_at(share.clamp(1e-4, 1.0 - 1e-4));
    // How often on end something of this chance comes, at most so often.
    let on_end =
        |rng: &mut ChaCha8Rng, chance: f64, most: u8| (0..most).take_while(|_| rng.random_bool(chance)).count() as u8;
    Some(match measure {
        Measure::Reps => return None,
        Measure::Laps { most } => {
            let stiff = on_end(rng, 1.0 - chance, most + LAPS_OVER);
            let soft = stiff < most + LAPS_OVER;
            Count::Laps { laps: stiff + u8::from(soft), soft }
        }
        Measure::NoseUps => {
            let ups = Poisson::new(chance).map_or(0.0, |p| p.sample(rng));
            Count::NoseUps { circles: 1, ups: ups.min(20.0) as u8 }
        }
        Measure::SetUps => Count::SetUps { asked: 1, accepted: u8::from(rng.random_bool(chance)) },
        Measure::Tries { .. } => {
            let across = ObstacleStage::Crosses as u8;
            let stage = ObstacleStage::ALL[usize::from(on_end(rng, chance, across))];
            Count::Tries { tries: vec![stage] }
        }
        Measure::ReinShare { bridle } => Count::ReinShare { bridle, soft: rng.random_bool(chance), asked: None },
        Measure::Mounts { .. } => {
            let loose = (0..MOUNTS).filter(|_| rng.random_bool(chance)).count() as u8;
            Count::Mounts { mounts: MOUNTS, loose }
        }
        Measure::Held { seconds } => {
            let let_go = seconds + OVER;
            let held = -(1.0 - rng.random::<f64>()).ln() / chance;
            let lost = held < f64::from(let_go);
            Count::Held { seconds: if lost { held as u16 } else { let_go }, lost }
        }
        Measure::Steps { count } => {
            let told_to_stand = count + OVER as u8;
            let steps = on_end(rng, chance, told_to_stand);
            Count::Steps { steps, broke: steps < told_to_stand }
        }
    })
}
