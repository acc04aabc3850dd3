//! The largest pattern that a pen holds.
//!
//! Unknown are the place and the heading of the set-up and its scale. The value to be made large is the scale in percent of the
//! standard, less what bad ground costs, plus a trace of spare room so that equals are put in the middle. Every barrel keeps its
//! room from the fence, the line has room to stop behind it, and nothing goes over ground that nothing goes over.

use rand::SeedableRng;
use rand_chacha::ChaCha8Rng;
use serde::{Deserialize, Serialize};

use super::{
    FOOT,
    barrels::{Barrel, Hand, Leg, Pocket, SetUp},
    pen::{Pen, PenFault},
    search::{apart, climb},
};
use crate::plane::{Point, Polygon, stretches_meet};

/// The standard pattern, feet: 60 from the line to the first two, 90 between them, 105 from each to the third (association rule
/// books, from memory).
const STANDARD: [f64; 3] = [60.0, 90.0, 105.0];
/// Nothing smaller is worth setting up.
const LEAST_SCALE: f64 = 0.3;
/// Percent of size that a turn over bad ground is worth, by how bad; a straight over it half of that.
const TURN_COSTS: [f64; 2] = [3.0, 8.0];
/// Percent of size for each metre of spare room, up to ten metres.
const SPARE: f64 = 0.01;
/// From a barrel's middle to the horse's far side at the widest pocket is the pocket and this, metres.
const HALF_HORSE: f64 = 0.5;
/// A barrel's radius, metres (a 55-gallon drum is 23 inches across).
const BARREL: f64 = 0.2921;

/// Room to be left, metres.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Room {
    /// From barrels 1 and 2 to any fence.
    pub beside: f64,
    /// From barrel 3 to any fence.
    pub behind: f64,
    /// Behind the line, to stop.
    pub stop: f64,
}

impl Default for Room {
    /// 15 ft beside, 25 ft behind the third, 45 ft to stop: the least of association rule books, from memory.
    fn default() -> Room {
        Room { beside: 15.0 * FOOT, behind: 25.0 * FOOT, stop: 45.0 * FOOT }
    }
}

/// What is to be fitted.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Asked {
    /// The room to leave.
    pub room: Room,
    /// The pocket of every barrel.
    pub pocket: Pocket,
    /// To which hand the first barrel is turned; it stands on that side.
    pub first: Hand,
    /// Whether the barrels may stand unevenly, for practice.
    pub lopsided: bool,
}

/// One distance against the standard.
#[derive(Debug, Clone, PartialEq)]
pub struct GaveUp {
    /// `line to barrel 1`.
    pub what: &'static str,
    /// Metres.
    pub is: f64,
    /// Metres.
    pub standard: f64,
}

/// A set-up that fits.
#[derive(Debug, Clone, PartialEq)]
pub struct Fitted {
    /// In the pen's axes.
    pub set_up: SetUp,
    /// Its size against the standard; for an uneven one the mean of its distances.
    pub scale: f64,
    /// What the optimiser made large, percent.
    pub value: f64,
    /// Radians the set-up is turned, counter-clockwise.
    pub heading: f64,
    /// Its distances against the standard.
    pub distances: Vec<GaveUp>,
    /// What the scale would be with a foot more of pen all round.
    pub with_a_foot_more: f64,
    /// Turns and straights that go over bad ground, by the place of the area in the pen.
    pub over_bad_ground: Vec<usize>,
}

/// Why nothing fits.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
#[allow(missing_docs)]
pub enum NoRoom {
    #[error(transparent)]
    Pen(#[from] PenFault),
    #[error("no pattern of {:.0} % of the standard fits: that needs about {width:.1} by {length:.1} m clear of bad ground", LEAST_SCALE * 100.0)]
    TooSmall { width: f64, length: f64 },
}

/// Where the standard's line and barrels are, metres, about a point near its middle.
fn standard(first: Hand) -> [Point; 4] {
    let [line, across, third] = STANDARD.map(|feet| feet * FOOT);
    let up = line + (third * third - across * across / 4.0).sqrt();
    let side = if first == Hand::Right { across / 2.0 } else { -across / 2.0 };
    let middle = Point::new(0.0, up / 2.0);
    [Point::new(0.0, 0.0), Point::new(side, line), Point::new(-side, line), Point::new(0.0, up)].map(|p| p - middle)
}

/// What the search looks through.
struct Ground {
    fences: Polygon,
    areas: Vec<(Polygon, u8)>,
    gate: Option<Point>,
    asked: Asked,
    /// From a barrel's middle to where ground matters.
    reach: f64,
}

/// A set-up under search: the line's middle and the barrels.
#[derive(Clone, Copy)]
struct Layout {
    spots: [Point; 4],
    heading: f64,
}

impl Layout {
    fn of(standard: &[Point; 4], place: [f64; 3], scale: f64) -> Layout {
        let put = |p: Point| p.turned(place[2]) * scale + Point::new(place[0], place[1]);
        Layout { spots: standard.map(put), heading: place[2] }
    }
}

impl Ground {
    fn new(pen: &Pen, asked: &Asked) -> Result<Ground, PenFault> {
        let widest = asked.pocket.entry.max(asked.pocket.back).max(asked.pocket.exit);
        Ok(Ground {
            fences: pen.checked()?,
            areas: pen.areas.iter().map(|a| (a.corners.clone(), a.bad)).collect(),
            gate: pen.gate,
            asked: *asked,
            reach: BARREL + widest + HALF_HORSE,
        })
    }

    /// Room to spare at the tightest point, metres; negative where the layout does not fit.
    fn spare(&self, layout: &Layout) -> f64 {
        let [line, a, b, c] = layout.spots;
        let back = line - Point::new(0.0, 1.0).turned(layout.heading) * self.asked.room.stop;
        let beside = self.asked.room.beside.max(self.reach);
        let behind = self.asked.room.behind.max(self.reach);
        let mut least = f64::INFINITY;
        for (p, keep) in [(a, beside), (c, behind), (b, beside), (back, HALF_HORSE), (line, HALF_HORSE)] {
            least = least.min(self.fences.room_at(p) - keep);
            if least < 0.0 {
                break;
            }
        }
        least
    }

    /// What bad ground costs in percent of size; none where the layout goes over what nothing goes over. Areas touched are noted.
    fn bad(&self, layout: &Layout, touched: &mut Vec<usize>) -> Option<f64> {
        if self.areas.is_empty() {
            return Some(0.0);
        }
        let mut cost = 0.0;
        let legs = set_up(layout, &self.asked).path().ok()?.legs;
        for (n, (area, bad)) in self.areas.iter().enumerate() {
            let turns = layout.spots[1..].iter().filter(|barrel| area.room_at(**barrel) > -self.reach).count();
            let straights = legs.iter().filter(|leg| over(area, leg)).count();
            if turns + straights == 0 {
                continue;
            }
            touched.push(n);
            let each = TURN_COSTS.get(usize::from(*bad) - 1)?;
            cost += each * (turns as f64 + straights as f64 / 2.0);
        }
        Some(cost)
    }

    /// What a layout of this size is worth; none where it does not fit.
    fn value(&self, layout: &Layout, scale: f64) -> Option<f64> {
        let spare = self.spare(layout);
        if spare < 0.0 {
            return None;
        }
        let gate = self.gate.map_or(0.0, |gate| gate.distance(layout.spots[0]) * SPARE);
        Some(scale * 100.0 - self.bad(layout, &mut vec![])? + spare.min(10.0) * SPARE - gate)
    }

    /// The best scale at a place and heading, with its value. From the largest down: none is worth more than its size and the spare
    /// room, so that what is smaller than the best so far is not looked at.
    fn best_scale(&self, standard: &[Point; 4], place: [f64; 3]) -> Option<(f64, f64)> {
        let at = |scale: f64| self.value(&Layout::of(standard, place, scale), scale);
        let scale_at = |n: u32| 1.0 - (1.0 - LEAST_SCALE) * f64::from(n) / f64::from(SCALES);
        let mut best: Option<(u32, f64)> = None;
        for n in 0..=SCALES {
            let most = scale_at(n) * 100.0 + 10.0 * SPARE;
            if best.is_some_and(|(_, value)| value >= most) {
                break;
            }
            let better = at(scale_at(n)).filter(|v| best.is_none_or(|(_, value)| *v > value));
            best = better.map(|value| (n, value)).or(best);
        }
        let (n, mut value) = best?;
        let (mut low, mut high) = (scale_at(n), scale_at(n.saturating_sub(1)));
        for _ in 0..13 {
            let middle = (low + high) / 2.0;
            match at(middle).filter(|v| *v > value) {
                Some(better) => (low, value) = (middle, better),
                None => high = middle,
            }
        }
        Some((low, value))
    }
}

/// Whether a horse on a straight sets a foot on an area: it lies across the straight or within half a horse's width of it.
fn over(area: &Polygon, leg: &Leg) -> bool {
    let way = (leg.from, leg.to);
    area.holds(leg.from)
        || area.sides().any(|side| stretches_meet(way, side))
        || area.0.iter().any(|corner| corner.from_stretch(leg.from, leg.to) < HALF_HORSE)
}

/// Scales tried at a place.
const SCALES: u32 = 36;
/// Places tried each way, headings, how many of them are improved on, and for how many steps.
const GRID: usize = 12;
const HEADINGS: usize = 36;
/// The same where there is bad ground: the ways past it are narrow.
const FINE_GRID: usize = 20;
const FINE_HEADINGS: usize = 48;
const STARTS: usize = 48;
const STEPS: usize = 100;
/// The best of them are climbed on from for so many steps more.
const BEST: usize = 16;
const STEPS_MORE: usize = 300;

/// A climb over all neighbours, also across the corners, with steps that halve: gets out of the wedges between two fences.
fn polished(
    ground: &Ground,
    standard: &[Point; 4],
    mut at: [f64; 3],
    mut value: f64,
    reach: [f64; 3],
) -> ([f64; 3], f64) {
    let mut step = reach.map(|r| r / 4.0);
    while step[0] > 1e-3 {
        let neighbours =
            (0..27_i32).map(|n| std::array::from_fn(|d| at[d] + step[d] * f64::from(n / 3_i32.pow(d as u32) % 3 - 1)));
        let valued = neighbours.filter_map(|place| ground.best_scale(standard, place).map(|b| (place, b.1)));
        match valued.max_by(|a, b| a.1.total_cmp(&b.1)).filter(|b| b.1 > value + 1e-6) {
            Some(better) => (at, value) = better,
            None => step = step.map(|s| s / 2.0),
        }
    }
    (at, value)
}

/// The best place for a pattern of true proportion.
fn true_proportion(ground: &Ground, standard: &[Point; 4]) -> Option<([f64; 3], f64, f64)> {
    let (least, most) = ground.fences.bounds();
    let (grid, headings) = if ground.areas.is_empty() { (GRID, HEADINGS) } else { (FINE_GRID, FINE_HEADINGS) };
    let step = (most - least) * (1.0 / grid as f64);
    let heading_of = |turn: usize| std::f64::consts::TAU * turn as f64 / headings as f64;
    let mut starts: Vec<([f64; 3], f64)> = vec![];
    for heading in (0..headings).map(heading_of) {
        starts.extend((0..grid * grid).filter_map(|n| {
            let along = |n: usize| n as f64 + 0.5;
            let (x, y) = (least.x + step.x * along(n % grid), least.y + step.y * along(n / grid));
            let place = [x, y, heading];
            ground.best_scale(standard, place).map(|(_, value)| (place, value))
        }));
    }
    starts.sort_by(|a, b| b.1.total_cmp(&a.1));
    let reach = [step.x, step.y, heading_of(1)];
    let mut rng = ChaCha8Rng::seed_from_u64(0);
    let mut on = |from: &[f64; 3], steps: usize| {
        climb(*from, reach, steps, &mut rng, |p| ground.best_scale(standard, *p).map(|b| b.1))
    };
    // The best everywhere, and the best two of each heading: in a narrow passage a coarse step finds little at first.
    let mut from = apart(&starts, reach, STARTS);
    for heading in (0..headings).map(heading_of) {
        let lie: Vec<_> = starts.iter().filter(|(place, _)| place[2] == heading).copied().collect();
        from.extend(apart(&lie, reach, 2));
    }
    let mut climbed: Vec<_> = from.iter().filter_map(|place| on(place, STEPS)).collect();
    climbed.sort_by(|a, b| b.1.total_cmp(&a.1));
    let best = apart(&climbed, reach.map(|r| r / 4.0), BEST);
    let again = best.iter().filter_map(|place| on(place, STEPS_MORE));
    let polished = again.map(|(place, value)| polished(ground, standard, place, value, reach));
    let (place, value) = polished.max_by(|a, b| a.1.total_cmp(&b.1))?;
    Some((place, ground.best_scale(standard, place)?.0, value))
}

/// The distances of a layout against the standard.
fn distances(layout: &Layout) -> Vec<GaveUp> {
    let [line, a, b, c] = layout.spots;
    let across = Point::new(1.0, 0.0).turned(layout.heading);
    let ahead = |p: Point| (p - line).cross(across).abs();
    let [to_line, between, third] = STANDARD.map(|feet| feet * FOOT);
    let gave = |what, is, standard| GaveUp { what, is, standard };
    vec![
        gave("line to barrel 1", ahead(a), to_line),
        gave("line to barrel 2", ahead(b), to_line),
        gave("barrel 1 to 2", a.distance(b), between),
        gave("barrel 1 to 3", a.distance(c), third),
        gave("barrel 2 to 3", b.distance(c), third),
    ]
}

fn evenness(layout: &Layout) -> f64 {
    let all = distances(layout);
    all.iter().map(|d| (d.is / d.standard).min(1.0)).sum::<f64>() / all.len() as f64
}

/// Whether the barrels of an uneven set still stand on their sides of the way in, the third ahead of both.
fn in_order(layout: &Layout, first: Hand) -> bool {
    let [line, a, b, c] = layout.spots.map(|p| (p - layout.spots[0]).turned(-layout.heading));
    let side = -first.sign();
    a.x * side > 2.0 && b.x * side < -2.0 && a.y > line.y + 3.0 && b.y > line.y + 3.0 && c.y > a.y.max(b.y) + 3.0
}

/// An uneven set: every barrel where there is room for it, begun from the best even one.
fn uneven(ground: &Ground, first: Hand, from: &Layout) -> Option<(Layout, f64)> {
    let layout = |v: &[f64; 9]| Layout {
        spots: [Point::new(v[0], v[1]), Point::new(v[3], v[4]), Point::new(v[5], v[6]), Point::new(v[7], v[8])],
        heading: v[2],
    };
    let value = |v: &[f64; 9]| {
        let layout = layout(v);
        ground.value(&layout, evenness(&layout)).filter(|_| in_order(&layout, first))
    };
    let [s, a, b, c] = from.spots;
    let start = [s.x, s.y, from.heading, a.x, a.y, b.x, b.y, c.x, c.y];
    let reach = [6.0, 6.0, 0.3, 6.0, 6.0, 6.0, 6.0, 6.0, 6.0];
    let mut rng = ChaCha8Rng::seed_from_u64(1);
    let climbed = (0..8).filter_map(|_| climb(start, reach, 2500, &mut rng, value));
    let (best, value) = climbed.max_by(|a, b| a.1.total_cmp(&b.1))?;
    Some((layout(&best), value))
}

/// The largest set-up that a pen holds, in the pen's axes.
///
/// # Errors
/// [`NoRoom`]: the pen is not in order, or nothing of 30 % of the standard fits.
pub fn fit(pen: &Pen, asked: &Asked) -> Result<Fitted, NoRoom> {
    let ground = Ground::new(pen, asked)?;
    let standard = standard(asked.first);
    let (place, scale, value) = true_proportion(&ground, &standard).ok_or_else(|| too_small(&asked.room))?;
    let even = Layout::of(&standard, place, scale);
    let more = Ground::new(pen, &Asked { room: a_foot_less(&asked.room), ..*asked })?;
    let with_a_foot_more = |scale: f64| {
        let mut rng = ChaCha8Rng::seed_from_u64(2);
        let best = climb(place, [1.0, 1.0, 0.1], STEPS, &mut rng, |p| more.best_scale(&standard, *p).map(|b| b.1));
        best.and_then(|(place, _)| more.best_scale(&standard, place)).map_or(scale, |b| b.0.max(scale))
    };
    let (layout, scale, value, more) = match uneven(&ground, asked.first, &even).filter(|_| asked.lopsided) {
        Some((layout, value)) => {
            let of_layout = uneven(&more, asked.first, &layout).map_or(0.0, |(l, _)| evenness(&l));
            (layout, evenness(&layout), value, of_layout.max(evenness(&layout)))
        }
        None => (even, scale, value, with_a_foot_more(scale)),
    };
    let mut over_bad_ground = vec![];
    ground.bad(&layout, &mut over_bad_ground);
    Ok(Fitted {
        set_up: set_up(&layout, asked),
        scale,
        value,
        heading: layout.heading,
        distances: distances(&layout),
        with_a_foot_more: more,
        over_bad_ground,
    })
}

/// A foot more of pen all round is a foot less of room asked everywhere.
fn a_foot_less(room: &Room) -> Room {
    Room { beside: room.beside - FOOT, behind: room.behind - FOOT, stop: room.stop - FOOT }
}

fn too_small(room: &Room) -> NoRoom {
    let [line, across, third] = STANDARD.map(|feet| feet * FOOT * LEAST_SCALE);
    let up = line + (third * third - across * across / 4.0).sqrt();
    NoRoom::TooSmall { width: across + 2.0 * room.beside, length: up + room.behind + room.stop }
}

fn set_up(layout: &Layout, asked: &Asked) -> SetUp {
    let [line, a, b, c] = layout.spots;
    let other = if asked.first == Hand::Right { Hand::Left } else { Hand::Right };
    let barrel = |at, turn| Barrel { at, turn, pocket: asked.pocket, early: 0.0 };
    SetUp {
        start: line,
        finish: line,
        barrel_radius: BARREL,
        barrels: vec![barrel(a, asked.first), barrel(b, other), barrel(c, other)],
    }
}
