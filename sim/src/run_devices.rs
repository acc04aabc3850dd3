//! Stand-ins for what times and tracks a run: a timer with beams, and a watch with satellite positions.

use cavesson_core::pattern::{Horse, NoPath, Point, Run, SetUp, TimerEvent, TrackPoint, quickest_run};
use rand::{RngExt, SeedableRng};
use rand_chacha::ChaCha8Rng;
use rand_distr::{Distribution, Normal};

/// What any timer can do: tell its events of the run that just was, in the order in which they came.
pub trait RunTimer {
    /// The events since it was last asked.
    fn events(&mut self) -> Vec<TimerEvent>;
}

/// What goes wrong with a timer.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[allow(missing_docs)]
pub enum Mishap {
    None,
    FalseStart,
    Blocked,
    TicksTwice,
    NoSignal,
}

/// A timer with a beam at the line and one behind each barrel.
pub struct SimTimer {
    behind: Vec<f64>,
    finish: f64,
    mishap: Mishap,
    rng: ChaCha8Rng,
}

impl SimTimer {
    /// Of a run, from a seed.
    pub fn of(run: &Run, mishap: Mishap, seed: u64) -> SimTimer {
        let behind = run.spots.iter().map(|spot| run.points[spot[1]].t).collect();
        SimTimer { behind, finish: run.time(), mishap, rng: ChaCha8Rng::seed_from_u64(seed) }
    }
}

impl RunTimer for SimTimer {
    fn events(&mut self) -> Vec<TimerEvent> {
        let mut begin: f64 = self.rng.random_range(1.0..4.0);
        let mut out = vec![];
        if self.mishap == Mishap::FalseStart {
            out.extend([TimerEvent::Start(begin), TimerEvent::FalseStart(begin + 2.0)]);
            begin += 60.0;
        }
        out.push(TimerEvent::Start(begin));
        for (n, t) in self.behind.iter().enumerate() {
            // A beam is good to a hundredth.
            let t = begin + t + self.rng.random_range(-0.01..0.01);
            match (self.mishap, n) {
                (Mishap::Blocked, 1) => out.push(TimerEvent::Blocked(t)),
                (Mishap::TicksTwice, 0) => out.extend([TimerEvent::Split(t), TimerEvent::Split(t + 0.12)]),
                _ => out.push(TimerEvent::Split(t)),
            }
        }
        let end = begin + self.finish;
        out.push(if self.mishap == Mishap::NoSignal { TimerEvent::NoSignal(end) } else { TimerEvent::Finish(end) });
        out
    }
}

/// A watch: how far off its positions are, metres, most of it the same from one moment to the next.
#[derive(Debug, Clone, Copy)]
#[allow(missing_docs)]
pub struct Watch {
    pub off: f64,
    pub per_second: f64,
    pub seed: u64,
}

impl Watch {
    /// The track of a run, with the walk to it and away, in axes turned by an angle of its own.
    pub fn track(&self, run: &Run) -> Vec<TrackPoint> {
        let mut rng = ChaCha8Rng::seed_from_u64(self.seed);
        let turn: f64 = rng.random_range(0.0..std::f64::consts::TAU);
        let step = 1.0 / self.per_second;
        let (first, last) = (run.points[0].at, run.points[run.points.len() - 1].at);
        let walk = 8.0;
        let place = |t: f64| match t - walk {
            before if before < 0.0 => first + Point::new(0.0, 1.5 * before),
            after if after > run.time() => last + Point::new(0.0, -1.5 * (after - run.time())),
            during => {
                let n = run.points.partition_point(|p| p.t < during).min(run.points.len() - 1);
                run.points[n].at
            }
        };
        // An error that stays: an autoregressive one with a time constant of four seconds.
        let stays = (-step / 4.0).exp();
        let fresh = Normal::new(0.0, self.off * (1.0 - stays * stays).sqrt()).ok();
        let mut error = Point::default();
        let count = ((2.0 * walk + run.time()) * self.per_second) as usize;
        (0..count)
            .map(|n| {
                let t = n as f64 * step;
                if let Some(fresh) = &fresh {
                    error = error * stays + Point::new(fresh.sample(&mut rng), fresh.sample(&mut rng));
                }
                TrackPoint { at: (place(t) + error).turned(turn), t }
            })
            .collect()
    }
}

/// A pass as a horse of this kind rides it: every pocket is off by some feet of its own, the run a little slower than the quickest.
///
/// # Errors
/// [`NoPath`] where the set-up has none even with the usual pockets.
pub fn ridden(set_up: &SetUp, horse: &Horse, wide: &[f64], seed: u64) -> Result<Run, NoPath> {
    let mut rng = ChaCha8Rng::seed_from_u64(seed);
    let mut rode = set_up.clone();
    for (barrel, wide) in rode.barrels.iter_mut().zip(wide) {
        for spot in cavesson_core::pattern::Spot::ALL {
            let pocket = barrel.pocket.at(spot) + wide + rng.random_range(-0.15..0.15);
            barrel.pocket = barrel.pocket.with(spot, pocket.max(0.2));
        }
        barrel.early = rng.random_range(0.0..1.5);
    }
    quickest_run(&rode, horse).or_else(|_| quickest_run(set_up, horse))
}
