//! A halt between two runs, fitted: it brakes evenly to a stand, stands or not, and gains evenly up to its speed on the other side.

use super::simplex::descend;
use super::trace::{Trace, least_squares, square};

/// Slower than this is standing, feet a second.
pub(super) const STANDING: f64 = 0.5;

/// A horse that stands still shifts by about this, feet a second.
const DRIFT: f64 = 0.2;
/// What a thing may differ from its usual brake and gain by, as a factor's logarithm; and from any, where nothing is known of it.
const LIKE_ITSELF: f64 = 0.2;
const LIKE_ANY: f64 = 0.8;
/// A usual brake and gain of anything, feet a second in a second.
const ANY: (f64, f64) = (10.0, 10.0);
/// A speed that any run has about, feet a second.
const ANY_SPEED: f64 = 6.0;
/// Seconds that the fitted stand may be from the one that was seen roughly, before it costs, and how much further costs one.
const NEAR: f64 = 0.4;
const FURTHER: f64 = 0.1;
/// Fewer values say nothing of a halt.
const FEWEST: usize = 5;
/// Moves of the simplex, round by round.
const MOVES: [usize; 3] = [90, 120, 120];
/// A value further off than this counts for less, in spreads of the noise.
const FAR: f64 = 2.0;
/// No halt brakes or gains more softly, feet a second in a second.
const SOFTEST: f64 = 1.0;

/// Where a halt is looked for.
#[derive(Debug, Clone, Copy)]
pub(super) struct Sought {
    /// The stretch of the trace that is looked at, seconds.
    pub window: (f64, f64),
    /// About when it comes to a stand, and about how long it stands.
    pub about: (f64, f64),
    /// Which way it came and which way it goes, 1 or -1; none where it does not go.
    pub came: f64,
    pub went: Option<f64>,
    /// How hard it brakes and gains, where that is known of its other halts: feet a second in a second.
    pub usual: Option<(f64, f64)>,
}

/// A halt as it was fitted.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) struct Halt {
    /// When it is slower than [`STANDING`].
    pub stop: f64,
    /// When it is faster again; none where it does not go.
    pub leave: Option<f64>,
    /// Feet along the line.
    pub at: f64,
    /// How hard it braked and gained, feet a second in a second.
    pub brake: f64,
    pub gain: f64,
}

/// A shape of a halt: come to a stand at `stand`, braking for `braking` seconds; stood for `stood`, gaining for `gaining`.
#[derive(Debug, Clone, Copy)]
struct Shape {
    stand: f64,
    braking: f64,
    stood: f64,
    gaining: f64,
}

impl Shape {
    fn of(p: [f64; 4]) -> Shape {
        Shape { stand: p[0], braking: libm::exp(p[1]), stood: p[2].abs(), gaining: libm::exp(p[3]) }
    }

    /// Seconds of the speed before and after that a time is away from the stand: before under nothing, after over it.
    fn before(self, t: f64) -> f64 {
        ramp(self.stand - t, self.braking)
    }

    /// Seconds that it has stood.
    fn standing(self, t: f64, goes: bool) -> f64 {
        (t - self.stand).clamp(0.0, if goes { self.stood } else { f64::INFINITY })
    }

    fn after(self, t: f64) -> f64 {
        ramp(t - self.stand - self.stood, self.gaining)
    }
}

/// Feet for each foot a second of the speed that is reached after `long` seconds of even gain.
fn ramp(t: f64, long: f64) -> f64 {
    if t <= 0.0 {
        0.0
    } else if t < long {
        t * t / (2.0 * long)
    } else {
        t - long / 2.0
    }
}

/// Fits a halt: three rounds, each counting for less what the one before left far off. None where there is too little to see.
pub(super) fn fit(trace: &Trace, sought: &Sought) -> Option<Halt> {
    let points = trace.within(sought.window.0, sought.window.1);
    if points.len() < FEWEST {
        return None;
    }
    let mut weights = vec![1.0; points.len()];
    let mut begin = starts(sought);
    let mut fit = None;
    for moves in MOVES {
        let cost = |p: [f64; 4]| {
            fitted(points, &weights, trace.noise, sought, Shape::of(p)).map_or(f64::INFINITY, |fit| fit.cost)
        };
        let found = begin.iter().map(|p| descend(*p, &cost, moves)).min_by(|a, b| a.1.total_cmp(&b.1))?.0;
        let shape = Shape::of(found);
        let fitted = fitted(points, &weights, trace.noise, sought, shape)?;
        for (p, weight) in points.iter().zip(&mut weights) {
            let off = (p.1 - fitted.place(shape, p.0)).abs() / trace.noise;
            *weight = (FAR / off).min(1.0);
        }
        begin = vec![found];
        fit = Some((shape, fitted));
    }
    let (shape, fit) = fit?;
    let brake = (fit.came.abs() / shape.braking).max(SOFTEST);
    let gain = (fit.went.abs() / shape.gaining).max(SOFTEST);
    let leave = sought.went.map(|_| shape.stand + shape.stood + STANDING / gain);
    Some(Halt { stop: shape.stand - STANDING / brake, leave, at: fit.at, brake, gain })
}

fn starts(sought: &Sought) -> Vec<[f64; 4]> {
    let (stand, stood) = sought.about;
    let begin = |shift: f64, stood: f64, long: f64| [stand + shift, libm::log(long), stood, libm::log(long)];
    vec![begin(0.0, stood, 0.7), begin(-0.25, stood + 0.3, 0.5), begin(0.15, (stood - 0.25).max(0.02), 1.0)]
}

struct Fitted {
    at: f64,
    came: f64,
    went: f64,
    drift: f64,
    goes: bool,
    cost: f64,
}

impl Fitted {
    fn place(&self, shape: Shape, t: f64) -> f64 {
        self.at - self.came * shape.before(t) + self.went * shape.after(t) + self.drift * shape.standing(t, self.goes)
    }
}

/// Place and speeds for a shape, and what it costs.
fn fitted(points: &[(f64, f64)], weights: &[f64], noise: f64, sought: &Sought, shape: Shape) -> Option<Fitted> {
    let goes = sought.went.is_some();
    let rows = points.iter().zip(weights).map(|(p, w)| {
        ([1.0, -shape.before(p.0), if goes { shape.after(p.0) } else { 0.0 }, shape.standing(p.0, goes)], p.1, *w)
    });
    // A little of each speed is wanted, so that a stretch with no run in it has an answer.
    let held = [
        ([0.0, 1.0, 0.0, 0.0], ANY_SPEED * sought.came, 1e-4),
        ([0.0, 0.0, 1.0, 0.0], ANY_SPEED * sought.went.unwrap_or(0.0), 1e-4),
        ([0.0, 0.0, 0.0, 1.0], 0.0, square(noise / DRIFT)),
    ];
    let [at, came, went, drift] = least_squares(rows.chain(held))?;
    let mut fit = Fitted { at, came, went, drift, goes, cost: 0.0 };
    let off: f64 = points.iter().zip(weights).map(|(p, w)| w * square((p.1 - fit.place(shape, p.0)) / noise)).sum();
    let (brake, gain) = (came * sought.came / shape.braking, went * sought.went.unwrap_or(0.0) / shape.gaining);
    // The wrong way is no halt.
    if brake <= 0.05 || (goes && gain <= 0.05) {
        return Some(Fitted { cost: off + 1e4, ..fit });
    }
    let (usual, spread) = match sought.usual {
        Some(usual) => (usual, LIKE_ITSELF),
        None => (ANY, LIKE_ANY),
    };
    let unlike = |x: f64, usual: f64| square(libm::log(x / usual) / spread);
    // What was seen roughly is not far off.
    let far = ((shape.stand - sought.about.0).abs() - NEAR).max(0.0);
    fit.cost = off + square(far / FURTHER) + unlike(brake, usual.0) + if goes { unlike(gain, usual.1) } else { 0.0 };
    Some(fit)
}
