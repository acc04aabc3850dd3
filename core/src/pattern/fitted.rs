//! What a horse can do: by its gait where nothing is known, and fitted to its own split times.

use super::run::{Horse, Run, quickest_run};
use crate::{curriculum::Gait, pattern::SetUp};

impl Horse {
    /// What is taken of a horse that nobody has timed, by gait; none at a stand. Speeds and strides of the gaits are common practice,
    /// from memory (walk 4, jog 7, lope 12, run 29 miles an hour; strides of 5.5, 7, 10.5 and 17 ft); what it gains, loses and holds
    /// to the side are taken so that a run of the standard pattern lasts seventeen to eighteen seconds.
    ///
    /// ```
    /// use cavesson_core::{curriculum::Gait, pattern::Horse};
    /// assert!(Horse::of_gait(Gait::Lope).unwrap().top_speed < Horse::of_gait(Gait::Run).unwrap().top_speed);
    /// assert!(Horse::of_gait(Gait::Stand).is_none());
    /// ```
    pub fn of_gait(gait: Gait) -> Option<Horse> {
        let (top_speed, speed_up, slow_down, side_grip, start_speed, stride) = match gait {
            Gait::Stand => return None,
            Gait::Walk => (1.8, 0.6, 1.0, 2.0, 1.8, 1.7),
            Gait::Jog => (3.1, 1.0, 1.5, 3.0, 3.1, 2.1),
            Gait::Lope => (5.4, 1.8, 2.8, 4.5, 5.4, 3.2),
            Gait::Run => (13.0, 4.5, 7.0, 9.5, 11.5, 5.2),
        };
        Some(Horse { top_speed, speed_up, slow_down, side_grip, start_speed, stride })
    }
}

/// Seconds from the start at which a pass was behind each barrel and at the finish, where they were taken.
#[derive(Debug, Clone, PartialEq)]
#[allow(missing_docs)]
pub struct Split {
    pub set_up: SetUp,
    pub behind: Vec<Option<f64>>,
    pub finish: Option<f64>,
}

/// A horse as its times make it.
#[derive(Debug, Clone, PartialEq)]
pub struct FittedHorse {
    /// What fits best.
    pub horse: Horse,
    /// How far off, as a share, top speed, speeding up, slowing down and side grip may be (one standard deviation).
    pub spread: [f64; 4],
    /// Times used.
    pub times: usize,
    /// What is left between times and run, root mean square, seconds.
    pub off: f64,
}

/// How far horses of one gait differ, as a share (one standard deviation; common practice).
const APART: f64 = 0.2;
/// How far a split taken by hand or eye is off, seconds.
const CLOCK: f64 = 0.15;
const ROUNDS: usize = 8;
/// A step of the numeric derivative, as a share.
const NUDGE: f64 = 0.01;

fn scaled(horse: &Horse, logs: &[f64; 4]) -> Horse {
    let [top, up, down, grip] = logs.map(f64::exp);
    Horse {
        top_speed: horse.top_speed * top,
        speed_up: horse.speed_up * up,
        slow_down: horse.slow_down * down,
        side_grip: horse.side_grip * grip,
        // A horse that is faster comes in faster.
        start_speed: horse.start_speed * top,
        ..*horse
    }
}

/// When a run is behind each barrel, and at the finish, seconds.
fn times(run: &Run) -> Vec<f64> {
    run.spots.iter().map(|spot| run.points[spot[1]].t).chain([run.time()]).collect()
}

/// Differences of the times taken from those of the run, in the order of the splits.
fn residuals(horse: &Horse, splits: &[Split]) -> Vec<f64> {
    let of = |split: &Split| -> Vec<f64> {
        let Ok(run) = quickest_run(&split.set_up, horse) else { return vec![] };
        let taken = split.behind.iter().copied().chain([split.finish]);
        times(&run).into_iter().zip(taken).filter_map(|(t, taken)| taken.map(|taken| taken - t)).collect()
    };
    splits.iter().flat_map(of).collect()
}

/// Solves a symmetric positive system of four by elimination; also its inverse's diagonal.
fn solve(mut a: [[f64; 4]; 4], mut b: [f64; 4]) -> ([f64; 4], [f64; 4]) {
    let mut inverse: [[f64; 4]; 4] = std::array::from_fn(|r| std::array::from_fn(|c| f64::from(u8::from(r == c))));
    for p in 0..4 {
        let pivot = a[p][p];
        for c in 0..4 {
            a[p][c] /= pivot;
            inverse[p][c] /= pivot;
        }
        b[p] /= pivot;
        for r in (0..4).filter(|r| *r != p) {
            let factor = a[r][p];
            for c in 0..4 {
                a[r][c] -= factor * a[p][c];
                inverse[r][c] -= factor * inverse[p][c];
            }
            b[r] -= factor * b[p];
        }
    }
    (b, std::array::from_fn(|n| inverse[n][n]))
}

/// Fits what a horse can do to the times of its passes: the most likely shares of `usual`, where horses differ by a fifth and clocks
/// by 0.15 s (Gauss-Newton on the logarithms with a normal prior; any text on non-linear least squares). With no times it is `usual`
/// with the spread of horses.
pub fn fitted_to_splits(usual: &Horse, splits: &[Split]) -> FittedHorse {
    let mut logs = [0.0_f64; 4];
    let mut spread = [APART; 4];
    let weight = 1.0 / (CLOCK * CLOCK);
    for _ in 0..ROUNDS {
        let now = residuals(&scaled(usual, &logs), splits);
        let columns: [Vec<f64>; 4] = std::array::from_fn(|n| {
            let mut nudged = logs;
            nudged[n] += NUDGE;
            let then = residuals(&scaled(usual, &nudged), splits);
            now.iter().zip(then).map(|(a, b)| (a - b) / NUDGE).collect()
        });
        let dot = |a: &[f64], b: &[f64]| a.iter().zip(b).map(|(x, y)| x * y).sum::<f64>() * weight;
        let prior = 1.0 / (APART * APART);
        let normal: [[f64; 4]; 4] = std::array::from_fn(|r| {
            std::array::from_fn(|c| dot(&columns[r], &columns[c]) + if r == c { prior } else { 0.0 })
        });
        let pull: [f64; 4] = std::array::from_fn(|n| dot(&columns[n], &now) - logs[n] * prior);
        let (step, variance) = solve(normal, pull);
        spread = variance.map(f64::sqrt);
        for n in 0..4 {
            logs[n] += step[n].clamp(-0.3, 0.3);
        }
    }
    let horse = scaled(usual, &logs);
    let left = residuals(&horse, splits);
    let off = (left.iter().map(|r| r * r).sum::<f64>() / left.len().max(1) as f64).sqrt();
    FittedHorse { horse, spread, times: left.len(), off }
}
