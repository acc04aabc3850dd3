//! What a figure takes: time and strides, curves that are too tight, stops that need more ground, obstacles against the published
//! figures and against this horse's stride.

use std::collections::BTreeMap;

use super::{
    ride::{Piece, Ridden, RiddenStep, Shape, TINY},
    statement::{Chute, FigureGait, Step},
};
use crate::{pattern::Hand, words::words};

const IN: f64 = 0.0254;

/// What is known of a gait of a horse.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct GaitMeasures {
    /// Metres a second, over 0.
    pub speed: f64,
    /// Metres, over 0.
    pub stride: f64,
    /// The tightest curve it goes well, metres, over 0; not asked of back and side.
    pub least_radius: f64,
}

/// What is known of a horse.
#[derive(Debug, Clone, PartialEq)]
pub struct FigureHorse {
    /// By gait; every gait but standing is there.
    pub gaits: BTreeMap<FigureGait, GaitMeasures>,
    /// How fast it turns on the spot, degrees a second.
    pub turn_rate: f64,
    /// How fast it gains speed, metres a second in a second.
    pub speed_up: f64,
}

impl FigureHorse {
    /// A horse of about fifteen hands that nobody measured (common practice; from memory): 5.5, 9, 15 and 28 ft/s with strides of 4.2,
    /// 6.4, 7 and 14 ft.
    pub fn ordinary() -> FigureHorse {
        const FOOT: f64 = crate::pattern::FOOT;
        let gaits = [
            (FigureGait::Walk, 5.5, 4.2, 5.0),
            (FigureGait::Jog, 9.0, 6.4, 8.0),
            (FigureGait::Lope, 15.0, 7.0, 20.0),
            (FigureGait::Run, 28.0, 14.0, 45.0),
            (FigureGait::Back, 3.0, 3.0, 0.0),
            (FigureGait::Side, 2.0, 2.5, 0.0),
        ];
        let measures = |(gait, speed, stride, least)| {
            (gait, GaitMeasures { speed: speed * FOOT, stride: stride * FOOT, least_radius: least * FOOT })
        };
        FigureHorse { gaits: gaits.map(measures).into(), turn_rate: 180.0, speed_up: 8.0 * FOOT }
    }

    /// The same horse with strides that were measured, metres: walk, jog and lope. Its speed at a gait keeps the time of a stride.
    ///
    /// ```
    /// use cavesson_core::figure::{FigureGait, FigureHorse};
    /// let long = FigureHorse::ordinary().striding([None, None, Some(2.4)]);
    /// assert_eq!(long.gaits[&FigureGait::Lope].stride, 2.4);
    /// assert_eq!(long.gaits[&FigureGait::Walk], FigureHorse::ordinary().gaits[&FigureGait::Walk]);
    /// ```
    #[must_use]
    pub fn striding(mut self, strides: [Option<f64>; 3]) -> FigureHorse {
        for (gait, stride) in [FigureGait::Walk, FigureGait::Jog, FigureGait::Lope].into_iter().zip(strides) {
            if let (Some(stride), Some(of)) = (stride, self.gaits.get_mut(&gait)) {
                of.speed *= stride / of.stride;
                of.stride = stride;
            }
        }
        self
    }

    /// Of a gait other than standing.
    fn gait(&self, gait: FigureGait) -> GaitMeasures {
        self.gaits[&gait]
    }
}

/// What is ridden in one gait.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct InGait {
    /// Metres.
    pub length: f64,
    /// Seconds.
    pub seconds: f64,
    /// Strides at the gait's own length.
    pub strides: f64,
}

/// Degrees to either hand.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct Turned {
    /// To the left.
    pub left: f64,
    /// To the right.
    pub right: f64,
}

impl Turned {
    fn add(&mut self, hand: Hand, degrees: f64) {
        match hand {
            Hand::Left => self.left += degrees,
            Hand::Right => self.right += degrees,
        }
    }
}

/// Length, time and strides by gait; standing has the time of turns on the spot and of waits.
pub fn totals(ridden: &Ridden<'_>, horse: &FigureHorse) -> BTreeMap<FigureGait, InGait> {
    let mut sums: BTreeMap<_, _> = FigureGait::ALL.map(|gait| (gait, InGait::default())).into();
    for piece in &ridden.path {
        let (measures, sum) = (horse.gait(piece.start.gait), sums.entry(piece.start.gait).or_default());
        sum.length += piece.length;
        sum.seconds += piece.length / measures.speed;
        sum.strides += piece.length / measures.stride;
    }
    let standing = sums.entry(FigureGait::Stand).or_default();
    for step in &ridden.steps {
        standing.seconds += match step.step {
            Step::Wait(seconds) => seconds.value(),
            step => on_the_spot(step).map_or(0.0, |(_, degrees)| degrees / horse.turn_rate),
        };
    }
    sums
}

/// What a step turns on the spot.
fn on_the_spot(step: &Step) -> Option<(Hand, f64)> {
    match step {
        Step::Rollback { hand, .. } => Some((*hand, 180.0)),
        Step::Turnaround(hand, turns) => Some((*hand, 360.0 * turns.value())),
        Step::Pivot(hand, degrees) => Some((*hand, degrees.value())),
        Step::Backthrough { chute: Chute::Ell(hand, _), .. } => Some((hand.other(), 90.0)),
        _ => None,
    }
}

/// What is turned in curves, and on the spot.
pub fn turned(ridden: &Ridden<'_>) -> (Turned, Turned) {
    let (mut curves, mut in_place) = (Turned::default(), Turned::default());
    for piece in &ridden.path {
        if let Shape::Arc { hand, degrees, .. } = piece.shape {
            curves.add(hand, degrees);
        }
    }
    for (hand, degrees) in ridden.steps.iter().filter_map(|step| on_the_spot(step.step)) {
        in_place.add(hand, degrees);
    }
    (curves, in_place)
}

/// The tightest curve of a gait.
#[derive(Debug, Clone, PartialEq)]
pub struct Tightest {
    /// Walk, jog, lope or run.
    pub gait: FigureGait,
    /// Metres.
    pub radius: f64,
    /// The least that this horse goes well, metres.
    pub least: f64,
    /// The steps that are tighter than that, from 0.
    pub under: Vec<usize>,
}

/// By gait, those with curves; gates are not counted.
pub fn tightest(ridden: &Ridden<'_>, horse: &FigureHorse) -> Vec<Tightest> {
    let mut found: BTreeMap<FigureGait, Tightest> = BTreeMap::new();
    for piece in &ridden.path {
        let Shape::Arc { radius, .. } = piece.shape else { continue };
        if matches!(ridden.steps[piece.step].step, Step::Gate(..)) {
            continue;
        }
        let gait = piece.start.gait;
        let least = horse.gait(gait).least_radius;
        let tightest = found.entry(gait).or_insert(Tightest { gait, radius, least, under: vec![] });
        tightest.radius = tightest.radius.min(radius);
        if radius < least - TINY && tightest.under.last() != Some(&piece.step) {
            tightest.under.push(piece.step);
        }
    }
    found.into_values().collect()
}

/// A stop or a rollback out of the lope or the run.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct StopFound {
    /// Which step, from 0.
    pub step: usize,
    /// The straight before it, metres.
    pub straight: f64,
    /// The speed at the start of that straight, metres a second.
    pub from: f64,
    /// The speed it stops out of, metres a second.
    pub speed: f64,
    /// The straight it takes to the gait's own speed, metres.
    pub needs: f64,
}

/// The stops and rollbacks out of the lope and the run: with constant gain of speed, v² = from² + 2·gain·straight.
pub fn stops(ridden: &Ridden<'_>, horse: &FigureHorse) -> Vec<StopFound> {
    let stopping = |step: &RiddenStep<'_>| matches!(step.step, Step::Stop | Step::Rollback { .. });
    (ridden.steps.iter().enumerate())
        .filter(|(_, step)| stopping(step) && step.before.gait.has_lead())
        .map(|(n, step)| {
            let (straight, before) = run_up(ridden, n);
            let from = before.map_or(0.0, |gait| horse.gait(gait).speed);
            let full = horse.gait(step.before.gait).speed;
            let reached = (from * from + 2.0 * horse.speed_up * straight).sqrt();
            let needs = ((full * full - from * from) / (2.0 * horse.speed_up)).max(0.0);
            StopFound { step: n, straight, from, speed: full.min(reached), needs }
        })
        .collect()
}

/// The straight at the lope or run right before a step, and the gait before that; none where the horse stood.
fn run_up(ridden: &Ridden<'_>, stop: usize) -> (f64, Option<FigureGait>) {
    let mut straight = 0.0;
    for step in ridden.steps[..stop].iter().rev() {
        if step.after.gait == FigureGait::Stand || matches!(step.step, Step::Rollback { .. }) {
            return (straight, None);
        }
        for piece in ridden.path[step.pieces.clone()].iter().rev() {
            if !piece.start.gait.has_lead() || matches!(piece.shape, Shape::Arc { .. }) {
                return (straight, Some(piece.start.gait));
            }
            straight += piece.length;
        }
    }
    (straight, None)
}

words! {
    "against a rule";
    /// How a measure stands to the published figures.
    pub enum AgainstRule {
        Ok,
        Under,
        Over,
    }
}

words! {
    "for a horse";
    /// What a spacing asks of this horse's stride.
    pub enum ForHorse {
        Shorten,
        Fits,
        Reach,
    }
}

/// An obstacle against the published figures and the horse.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct ObstacleFound {
    /// Which step, from 0.
    pub step: usize,
    /// The gait it is taken in.
    pub gait: FigureGait,
    /// The spacing of poles, the width of the others, metres.
    pub measure: f64,
    /// The least and the most by the rules of trail classes, metres.
    pub least: f64,
    /// The most, where there is one.
    pub most: Option<f64>,
    /// How it stands to them.
    pub rule: AgainstRule,
    /// Poles: the spacing in steps of this horse (strides at the lope), and what that asks.
    pub own: Option<(f64, ForHorse)>,
}

/// Poles, bridges and back-throughs. Limits: the published figures of trail classes (common practice).
pub fn obstacles(ridden: &Ridden<'_>, horse: &FigureHorse) -> Vec<ObstacleFound> {
    (ridden.steps.iter().enumerate())
        .filter_map(|(n, step)| {
            let gait = step.before.gait;
            let (measure, (least, most), gait) = match step.step {
                Step::Poles { spacing, .. } => {
                    let [least, most] = pole_limits(gait);
                    (spacing.metres(), (least, Some(most)), gait)
                }
                Step::Bridge { wide, .. } => (wide.metres(), (36.0 * IN, None), gait),
                Step::Backthrough { wide, .. } => (wide.metres(), (28.0 * IN, None), FigureGait::Back),
                _ => return None,
            };
            let rule = match most {
                _ if measure < least - TINY => AgainstRule::Under,
                Some(most) if measure > most + TINY => AgainstRule::Over,
                _ => AgainstRule::Ok,
            };
            let own = matches!(step.step, Step::Poles { .. }).then(|| own_spacing(measure, gait, horse));
            Some(ObstacleFound { step: n, gait, measure, least, most, rule, own })
        })
        .collect()
}

/// Least and most spacing of poles at a gait, metres: 20 to 24 in, 36 to 42 in, 6 to 7 ft (breed association rule book; from memory).
pub(super) fn pole_limits(gait: FigureGait) -> [f64; 2] {
    let inches = match gait {
        FigureGait::Walk => [20.0, 24.0],
        FigureGait::Jog => [36.0, 42.0],
        _ => [72.0, 84.0],
    };
    inches.map(|inches| inches * IN)
}

/// At the lope a whole stride goes between two poles, else half of one: a step.
fn own_spacing(spacing: f64, gait: FigureGait, horse: &FigureHorse) -> (f64, ForHorse) {
    const NEAR: f64 = 0.001;
    let stride = horse.gait(gait).stride;
    let own = spacing / if gait == FigureGait::Lope { stride } else { stride / 2.0 };
    let asks = match own {
        _ if own < 0.9 - NEAR => ForHorse::Shorten,
        _ if own > 1.1 + NEAR => ForHorse::Reach,
        _ => ForHorse::Fits,
    };
    (own, asks)
}

/// The way from one obstacle to the next.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Between {
    /// The step of the one, from 0.
    pub from: usize,
    /// The step of the other.
    pub to: usize,
    /// Metres.
    pub length: f64,
    /// Strides, by the gait of each piece.
    pub strides: f64,
}

/// From each obstacle to the next.
pub fn between(ridden: &Ridden<'_>, horse: &FigureHorse) -> Vec<Between> {
    let obstacle = |step: &RiddenStep<'_>| {
        let step = step.step;
        matches!(
            step,
            Step::Poles { .. } | Step::Gate(..) | Step::Bridge { .. } | Step::Backthrough { .. } | Step::Sidepass(..)
        )
    };
    let at: Vec<usize> = (0..ridden.steps.len()).filter(|&n| obstacle(&ridden.steps[n])).collect();
    at.windows(2).map(|pair| way(ridden, horse, pair[0], pair[1])).collect()
}

/// The way from the end of one step to the start of another.
pub(super) fn way(ridden: &Ridden<'_>, horse: &FigureHorse, from: usize, to: usize) -> Between {
    let pieces = &ridden.path[ridden.steps[from].pieces.end..ridden.steps[to].pieces.start];
    let strides = |piece: &Piece| piece.length / horse.gait(piece.start.gait).stride;
    Between {
        from,
        to,
        length: pieces.iter().map(|piece| piece.length).sum(),
        strides: pieces.iter().map(strides).sum(),
    }
}
