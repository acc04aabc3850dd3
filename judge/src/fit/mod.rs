//! The settings of the model, fitted to families of horses: coordinate descent on the log loss of the calls, held near to where it
//! began, and reported on families that it did not see.

mod knobs;
mod start;

use std::sync::{
    Mutex,
    atomic::{AtomicUsize, Ordering},
};

use cavesson_core::{advice::Posture, belief::ModelSettings};

use crate::{Family, Figures, Tally, tally};
pub use knobs::{KNOBS, Knob, Move};
pub use start::round_numbers;

/// What a setting that stands one move from where it began must gain, as a share of the log loss. It keeps settings that the
/// logs say little of where they were.
const HOLD: f64 = 2e-4;

/// How a fit goes.
#[derive(Debug, Clone, Copy)]
pub struct Descent {
    /// Times that every setting is tried.
    pub sweeps: u32,
    /// Families that are worked out side by side.
    pub threads: usize,
}

/// How a family did that was left out of a fit.
#[derive(Debug, Clone)]
pub struct LeftOut {
    /// Its name.
    pub name: String,
    /// Log loss of an observer who knows how its horses were made, where that is known.
    pub ideal: Option<f64>,
    /// What was said with the settings in use.
    pub in_use: (Tally, Figures),
    /// What was said with the settings that were fitted without it.
    pub without: (Tally, Figures),
}

/// The log losses of families under settings, one family a task.
fn losses(families: &[&Family], settings: &ModelSettings, threads: usize) -> Vec<f64> {
    let (next, out) = (AtomicUsize::new(0), Mutex::new(vec![0.0; families.len()]));
    std::thread::scope(|scope| {
        for _ in 0..threads.max(1) {
            scope.spawn(|| {
                while let Some((at, family)) =
                    Some(next.fetch_add(1, Ordering::Relaxed)).and_then(|at| Some((at, families.get(at)?)))
                {
                    let loss = tally(family, Posture::Steady, settings).log_loss;
                    if let Ok(mut out) = out.lock() {
                        out[at] = loss;
                    }
                }
            });
        }
    });
    out.into_inner().unwrap_or_default()
}

/// Fits the settings to families, each weighing the same however large it is. `tell` hears of each setting that moved, and of the
/// mean log loss then as a share of what it was.
///
/// ```
/// use cavesson_core::belief::ModelSettings;
/// use cavesson_judge::{Descent, Family, fit};
/// let family = Family::of_kind(&cavesson_sim::KINDS[1], 2, 1);
/// let start = ModelSettings::default();
/// assert_eq!(fit(&[&family], start, Descent { sweeps: 0, threads: 1 }, &mut |_| {}), start, "no sweep moves nothing");
/// ```
pub fn fit(
    families: &[&Family],
    start: ModelSettings,
    descent: Descent,
    tell: &mut dyn FnMut(String),
) -> ModelSettings {
    let base = losses(families, &start, descent.threads);
    let mut settings = start;
    let mut moves = vec![0.0_f64; KNOBS.len()];
    let objective = |settings: &ModelSettings, moves: &[f64]| {
        let now = losses(families, settings, descent.threads);
        let mean = now.iter().zip(&base).map(|(n, b)| n / b).sum::<f64>() / base.len().max(1) as f64;
        mean + HOLD * moves.iter().map(|m| m * m).sum::<f64>()
    };
    let mut best = 1.0;
    for sweep in 0..descent.sweeps {
        let size = 0.6_f64.powi(sweep as i32);
        for (at, knob) in KNOBS.iter().enumerate() {
            for by in [size, -size] {
                let (mut tried, mut to) = (settings, moves.clone());
                to[at] += by;
                knob.turn(&mut tried, by);
                let loss = objective(&tried, &to);
                if loss < best {
                    (best, settings, moves) = (loss, tried, to);
                    tell(format!(
                        "sweep {}: {} is {:.4}, log loss {best:.4} of what it was",
                        sweep + 1,
                        knob.name,
                        knob.value(&settings)
                    ));
                    break;
                }
            }
        }
    }
    settings
}

/// Fits the settings once without each of the named families, from round numbers, and says how that family does with them.
pub fn leave_one_out(
    families: &[Family],
    named: &[usize],
    descent: Descent,
    tell: &mut dyn FnMut(String),
) -> Vec<LeftOut> {
    let judged = |family: &Family, settings: &ModelSettings| {
        let said = tally(family, Posture::Steady, settings);
        let figures = Figures::of(family, &said.calls);
        (said, figures)
    };
    let (start, in_use) = (round_numbers(), ModelSettings::default());
    named
        .iter()
        .filter_map(|&out| {
            let family = families.get(out)?;
            tell(format!("without {}", family.name));
            let others: Vec<&Family> = families.iter().enumerate().filter(|(n, _)| *n != out).map(|(_, f)| f).collect();
            let settings = fit(&others, start, descent, tell);
            Some(LeftOut {
                name: family.name.clone(),
                ideal: family.ideal,
                in_use: judged(family, &in_use),
                without: judged(family, &settings),
            })
        })
        .collect()
}
