//! What a foot costs: how time and the slowest speed hang on each pocket, on sitting early, on the speed in and on the footing.

use super::{
    FOOT,
    barrels::{NoPath, Pocket, SetUp, Spot},
    run::{Horse, Run, quickest_run},
};

/// What is changed.
#[derive(Debug, Clone, Copy, PartialEq)]
#[allow(missing_docs)]
pub enum FootOf {
    /// A foot more of pocket.
    Pocket { barrel: usize, spot: Spot },
    /// A stride earlier down to the speed of the turn.
    Early { barrel: usize },
    /// A foot a second more at the start.
    SpeedIn,
    /// A tenth more grip to the side.
    Grip,
}

/// What a change costs.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Cost {
    /// What is changed.
    pub of: FootOf,
    /// Seconds more with it, and with as much less; the second is none where less is not to be had.
    pub more: f64,
    /// Seconds more with as much less.
    pub less: Option<f64>,
    /// How much the slowest of that barrel rises, or of all where it is of none, m/s.
    pub slowest: f64,
}

fn changed(set_up: &SetUp, horse: &Horse, of: FootOf, by: f64) -> Option<(SetUp, Horse)> {
    let (mut set_up, mut horse) = (set_up.clone(), *horse);
    match of {
        FootOf::Pocket { barrel, spot } => {
            let pocket = &mut set_up.barrels[barrel].pocket;
            let new = pocket.at(spot) + by * FOOT;
            *pocket = (new > 0.0).then(|| pocket.with(spot, new))?;
        }
        FootOf::Early { barrel } => {
            let early = &mut set_up.barrels[barrel].early;
            *early = Some(*early + by * horse.stride).filter(|e| *e >= 0.0)?;
        }
        FootOf::SpeedIn => horse.start_speed = Some(horse.start_speed + by * FOOT).filter(|s| *s >= 0.0)?,
        FootOf::Grip => horse.side_grip *= 1.0 + by / 10.0,
    }
    Some((set_up, horse))
}

fn slowest(run: &Run, of: FootOf) -> f64 {
    match of {
        FootOf::Pocket { barrel, .. } | FootOf::Early { barrel } => run.slowest(barrel),
        FootOf::SpeedIn | FootOf::Grip => (0..run.spots.len()).map(|n| run.slowest(n)).fold(f64::INFINITY, f64::min),
    }
}

/// The cost of each change, barrel by barrel.
///
/// # Errors
/// [`NoPath`] where the set-up has none. A change that leaves none is left out.
pub fn costs(set_up: &SetUp, horse: &Horse) -> Result<Vec<Cost>, NoPath> {
    let now = quickest_run(set_up, horse)?;
    let of_barrel = |barrel: usize| {
        let pockets = Spot::ALL.into_iter().map(move |spot| FootOf::Pocket { barrel, spot });
        pockets.chain([FootOf::Early { barrel }])
    };
    let all = (0..set_up.barrels.len()).flat_map(of_barrel).chain([FootOf::SpeedIn, FootOf::Grip]);
    let run = |of: FootOf, by: f64| {
        let (set_up, horse) = changed(set_up, horse, of, by)?;
        quickest_run(&set_up, &horse).ok()
    };
    let cost = |of: FootOf| {
        let more = run(of, 1.0)?;
        let less = run(of, -1.0).map(|run| run.time() - now.time());
        Some(Cost { of, more: more.time() - now.time(), less, slowest: slowest(&more, of) - slowest(&now, of) })
    };
    Ok(all.filter_map(cost).collect())
}

/// Pockets are tried so far apart, and up to so far over the least, metres.
const STEP: f64 = FOOT / 4.0;
const UP_TO: usize = 16;

/// No horse goes nearer to a barrel, metres (common practice).
const CLOSEST: f64 = 0.6;

/// From which pockets the quickest are sought: of all barrels the least at each spot, a foot closer still.
///
/// ```
/// use cavesson_core::pattern::{Barrel, FOOT, Hand, Point, Pocket, SetUp, least_pockets};
/// let pocket = Pocket { entry: 4.0 * FOOT, back: 5.0 * FOOT, exit: 1.0 };
/// let barrel = Barrel { at: Point::new(0.0, 20.0), turn: Hand::Left, pocket, early: 0.0 };
/// let set_up = SetUp { start: Point::default(), finish: Point::default(), barrel_radius: 0.3, barrels: vec![barrel] };
/// let least = least_pockets(&set_up);
/// assert!((least.entry - 3.0 * FOOT).abs() < 1e-9 && (least.exit - (1.0 - FOOT)).abs() < 1e-9);
/// ```
pub fn least_pockets(set_up: &SetUp) -> Pocket {
    let under = |spot| {
        let all = set_up.barrels.iter().map(|b| b.pocket.at(spot));
        (all.fold(f64::INFINITY, f64::min) - FOOT).max(CLOSEST)
    };
    Pocket { entry: under(Spot::Entry), back: under(Spot::Back), exit: under(Spot::Exit) }
}

/// The quickest pockets that are nowhere under `least`: one spot after the other, twice over, to a quarter of a foot.
///
/// # Errors
/// [`NoPath`] where the set-up has none with the least pockets.
pub fn quickest_pockets(set_up: &SetUp, horse: &Horse, least: Pocket) -> Result<SetUp, NoPath> {
    let mut best = set_up.clone();
    best.barrels.iter_mut().for_each(|b| b.pocket = least);
    let mut time = quickest_run(&best, horse)?.time();
    for _ in 0..2 {
        for (barrel, spot) in (0..best.barrels.len()).flat_map(|b| Spot::ALL.map(|spot| (b, spot))) {
            for step in 0..=UP_TO {
                let mut tried = best.clone();
                let pocket = &mut tried.barrels[barrel].pocket;
                *pocket = pocket.with(spot, least.at(spot) + STEP * step as f64);
                let Ok(run) = quickest_run(&tried, horse) else { continue };
                if run.time() < time {
                    (best, time) = (tried, run.time());
                }
            }
        }
    }
    Ok(best)
}
