//! Drills made for a horse: what it needs, in an order that it cannot guess.
//!
//! Every move ends where it began and heads the same way, so that any order can be ridden. How often each comes follows from the
//! needs; in which order is drawn, and what followed the same two moves before is made less likely each time.

use std::{
    collections::{BTreeMap, BTreeSet},
    fmt::Write as _,
};

use rand::{RngExt, SeedableRng};
use rand_chacha::ChaCha8Rng;

use super::{checks::FigureHorse, statement::FigureGait};
use crate::{
    order::{Order, drawn, entropy},
    pattern::{FOOT, Point},
    words::words,
};

words! {
    "a need";
    /// What a drill is for.
    pub enum DrillNeed {
        StiffLeft,
        StiffRight,
        FallsIn,
        Anticipates,
        SlowAtTheBend,
        DivesOut,
        LateBehind,
    }
}

words! {
    "a move of a drill";
    /// A move that ends where it began.
    pub enum DrillMove {
        CircleLeft,
        CircleRight,
        BendLeft,
        BendRight,
        RollLeft,
        RollRight,
        StopAndBack,
        Wait,
        LopeLeft,
        LopeRight,
        CounterLeft,
        CounterRight,
        ChangeToLeft,
        ChangeToRight,
    }
}

use DrillMove::{
    BendLeft, BendRight, ChangeToLeft, ChangeToRight, CircleLeft, CircleRight, CounterLeft, CounterRight, LopeLeft,
    LopeRight, RollLeft, RollRight, StopAndBack, Wait,
};

impl DrillNeed {
    /// How much more often moves come for it than they would, in shares of one.
    fn adds(self) -> &'static [(DrillMove, f64)] {
        match self {
            DrillNeed::StiffLeft => &[(CircleLeft, 2.0), (BendLeft, 1.0), (LopeLeft, 1.0)],
            DrillNeed::StiffRight => &[(CircleRight, 2.0), (BendRight, 1.0), (LopeRight, 1.0)],
            DrillNeed::FallsIn => &[(CircleLeft, 1.0), (CircleRight, 1.0), (BendLeft, 0.5), (BendRight, 0.5)],
            DrillNeed::Anticipates => &[(Wait, 2.0), (StopAndBack, 1.0), (CounterLeft, 1.0), (CounterRight, 1.0)],
            DrillNeed::SlowAtTheBend => &[(BendLeft, 2.0), (BendRight, 2.0)],
            DrillNeed::DivesOut => &[(RollLeft, 2.0), (RollRight, 2.0)],
            DrillNeed::LateBehind => {
                &[(StopAndBack, 2.0), (RollLeft, 0.5), (RollRight, 0.5), (CounterLeft, 1.0), (CounterRight, 1.0)]
            }
        }
    }

    /// What a drill works on for a rung that a figure asks, as it writes it: `S3 left`, `L7 right`; none where no drill does.
    ///
    /// ```
    /// use cavesson_core::figure::DrillNeed;
    /// assert_eq!(DrillNeed::of_rung("S3 left"), Some(DrillNeed::StiffLeft));
    /// assert_eq!(DrillNeed::of_rung("O6"), None);
    /// ```
    pub fn of_rung(rung: &str) -> Option<DrillNeed> {
        match rung.split_once(' ').unwrap_or((rung, "")) {
            ("S3" | "L3", "left") => Some(DrillNeed::StiffLeft),
            ("S3" | "L3", "right") => Some(DrillNeed::StiffRight),
            ("R4" | "R6", _) => Some(DrillNeed::DivesOut),
            ("L2" | "L5", _) => Some(DrillNeed::Anticipates),
            ("L6" | "L7", _) => Some(DrillNeed::LateBehind),
            _ => None,
        }
    }

    /// In a sentence: `stiff left`.
    pub fn phrase(self) -> &'static str {
        match self {
            DrillNeed::StiffLeft => "stiff left",
            DrillNeed::StiffRight => "stiff right",
            DrillNeed::FallsIn => "falls in",
            DrillNeed::Anticipates => "anticipates",
            DrillNeed::SlowAtTheBend => "slow at the change of bend",
            DrillNeed::DivesOut => "dives out of the rollback",
            DrillNeed::LateBehind => "late behind",
        }
    }
}

impl DrillMove {
    /// The rungs that it asks, with walk or jog as the gait between.
    pub fn rungs(self, gait: FigureGait) -> &'static [&'static str] {
        match (self, gait) {
            (CircleLeft, _) => &["S3 left"],
            (CircleRight, _) => &["S3 right"],
            (BendLeft | BendRight, _) => &["S3 left", "S3 right"],
            (RollLeft, _) => &["R4 left"],
            (RollRight, _) => &["R4 right"],
            (StopAndBack, FigureGait::Walk) => &["T2", "T1"],
            (StopAndBack, _) => &["T3", "T1"],
            (Wait, FigureGait::Walk) => &["T2"],
            (Wait, _) => &["T3"],
            (LopeLeft, _) => &["L2 left", "L3 left"],
            (LopeRight, _) => &["L2 right", "L3 right"],
            (CounterLeft, _) => &["L2 left", "L5 left"],
            (CounterRight, _) => &["L2 right", "L5 right"],
            (ChangeToLeft, _) => &["L2 right", "L3 right", "L7 left", "L3 left"],
            (ChangeToRight, _) => &["L2 left", "L3 left", "L7 right", "L3 right"],
        }
    }

    /// Whether it is ridden at the lope.
    fn lopes(self) -> bool {
        matches!(self, LopeLeft | LopeRight | CounterLeft | CounterRight | ChangeToLeft | ChangeToRight)
    }

    /// The most of it in one drill: of changes few are ridden in a day (common practice).
    fn most(self) -> usize {
        if matches!(self, ChangeToLeft | ChangeToRight) { 2 } else { MOST_MOVES }
    }

    /// What it is for, by itself.
    fn use_of(self) -> &'static str {
        match self {
            CircleLeft | CircleRight => "soft on the circle",
            BendLeft | BendRight => "soft through the change of bend",
            RollLeft | RollRight => "wait, then go: both ways round the same",
            StopAndBack => "weight back before the next move",
            Wait => "nothing comes of itself",
            LopeLeft | LopeRight => "soft on the circle at the lope",
            CounterLeft | CounterRight => "holds its lead until it is told",
            ChangeToLeft | ChangeToRight => "hind end first, and few of them",
        }
    }
}

/// What a drill is made from.
#[derive(Debug, Clone, PartialEq)]
pub struct DrillAsked<'a> {
    /// What the horse needs, most first; none is a drill of everything.
    pub needs: &'a [DrillNeed],
    /// Rungs that may be asked of it, as figures ask them: `S3 left`, `T3`.
    pub may_ask: &'a BTreeSet<String>,
    /// Where it begins, metres.
    pub at: Point,
    /// How far the fence is off there, metres.
    pub room: f64,
    /// 1 to 30.
    pub minutes: u8,
    /// The same seed, the same drill.
    pub seed: u64,
    /// The moves of the last drills, latest last.
    pub before: &'a [Vec<DrillMove>],
}

/// Moves of one kind in a drill.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct DrillPart {
    /// Which.
    pub of: DrillMove,
    /// How often it comes.
    pub times: usize,
    /// What it is for.
    pub why: String,
}

/// A drill.
#[derive(Debug, Clone, PartialEq)]
pub struct Drill {
    /// As a figure.
    pub text: String,
    /// In order.
    pub moves: Vec<DrillMove>,
    /// What each kind of move is for.
    pub parts: Vec<DrillPart>,
    /// How hard the next move is to guess for a horse that knows the last two and all drills before: the entropy of the draw, bits,
    /// on average over the moves. One bit is like a coin.
    pub bits: f64,
}

/// The largest circle of a drill and the least, feet; and the straight between two rollbacks.
const RADII: (f64, f64) = (14.0, 8.0);
/// The same at the lope.
const LOPE_RADII: (f64, f64) = (28.0, 20.0);
const STRAIGHT: f64 = 24.0;
const MOST_MOVES: usize = 90;

/// Makes a drill; none where the horse may be asked for no move, or there is no room for the least circle.
///
/// ```
/// use cavesson_core::{figure::{DrillAsked, DrillMove, DrillNeed, Figure, drill, ride}, pattern::Point};
/// let may_ask = ["S3 left", "S3 right", "T3", "T1"].map(str::to_owned).into();
/// let asked = DrillAsked {
///     needs: &[DrillNeed::StiffLeft], may_ask: &may_ask, at: Point::new(20.0, 30.0), room: 18.0, minutes: 5, seed: 7, before: &[],
/// };
/// let made = drill(&asked).unwrap();
/// assert_eq!(made.moves.last(), Some(&DrillMove::CircleLeft), "it ends on the stiff side");
/// assert!(made.bits > 1.0);
/// assert!(ride(&Figure::read(&made.text, &Default::default()).unwrap()).is_ok());
/// ```
pub fn drill(asked: &DrillAsked<'_>) -> Option<Drill> {
    let radius = (asked.room / FOOT / 2.0).floor().min(RADII.0);
    let gait = if asked.may_ask.contains("T3") { FigureGait::Jog } else { FigureGait::Walk };
    let lope = (asked.room / FOOT / 2.0).floor().min(LOPE_RADII.0);
    let mut shares = shares(asked, gait);
    shares.retain(|of, _| !of.lopes() || lope >= LOPE_RADII.1);
    if radius < RADII.1 || shares.is_empty() {
        return None;
    }
    let ground = Ground { radius, lope, straight: STRAIGHT.min((asked.room / FOOT).floor()), gait };
    let mut rng = ChaCha8Rng::seed_from_u64(asked.seed);
    let last = ends_on(asked, &shares, &mut rng);
    let mut left = counts(&shares, &ground, f64::from(asked.minutes) * 60.0, last);
    let (moves, bits) = in_order(&mut left, last, asked.before, &mut rng);
    let parts = parts(&moves, asked.needs);
    let text = text(asked, &moves, &ground, &mut rng);
    Some(Drill { text, moves, parts, bits })
}

/// How often moves come beside each other, for what the horse may be asked.
fn shares(asked: &DrillAsked<'_>, gait: FigureGait) -> BTreeMap<DrillMove, f64> {
    let usual = |of: DrillMove| if matches!(of, CircleLeft | CircleRight) { 2.0 } else { 1.0 };
    let allowed = |of: &DrillMove| of.rungs(gait).iter().all(|rung| asked.may_ask.contains(*rung));
    let added = |of: DrillMove| -> f64 {
        let of_need = |need: &DrillNeed| need.adds().iter().find(|(it, _)| *it == of).map_or(0.0, |(_, more)| *more);
        asked.needs.iter().map(of_need).sum()
    };
    DrillMove::ALL.into_iter().filter(allowed).map(|of| (of, usual(of) + added(of))).collect()
}

/// The circle that it ends on: the stiff side's, else one or the other by lot.
fn ends_on(asked: &DrillAsked<'_>, shares: &BTreeMap<DrillMove, f64>, rng: &mut ChaCha8Rng) -> Option<DrillMove> {
    let stiff = asked.needs.iter().find_map(|need| match need {
        DrillNeed::StiffLeft => Some(CircleLeft),
        DrillNeed::StiffRight => Some(CircleRight),
        _ => None,
    });
    let by_lot = if rng.random_bool(0.5) { [CircleLeft, CircleRight] } else { [CircleRight, CircleLeft] };
    stiff.into_iter().chain(by_lot).find(|of| shares.contains_key(of))
}

/// The measures of a drill, feet.
struct Ground {
    radius: f64,
    lope: f64,
    straight: f64,
    gait: FigureGait,
}

impl Ground {
    /// About how long a move takes, seconds.
    fn seconds(&self, of: DrillMove) -> f64 {
        let horse = FigureHorse::ordinary();
        let at = |gait: FigureGait, feet: f64| feet * FOOT / horse.gaits[&gait].speed;
        let circle = at(self.gait, std::f64::consts::TAU * self.radius);
        let lope = at(FigureGait::Lope, std::f64::consts::TAU * self.lope);
        match of {
            CircleLeft | CircleRight => circle,
            BendLeft | BendRight => 2.0 * circle,
            RollLeft | RollRight => 2.0 * (at(self.gait, self.straight) + 180.0 / horse.turn_rate),
            StopAndBack => at(FigureGait::Back, 6.0) + at(self.gait, 6.0) + 2.0,
            Wait => 4.0,
            LopeLeft | LopeRight | CounterLeft | CounterRight => lope,
            ChangeToLeft | ChangeToRight => 2.0 * lope,
        }
    }
}

/// How often each move comes until the time is up: always that which lags furthest behind its share (highest averages, Webster's
/// method).
fn counts(
    shares: &BTreeMap<DrillMove, f64>,
    ground: &Ground,
    seconds: f64,
    last: Option<DrillMove>,
) -> BTreeMap<DrillMove, usize> {
    let mut counts: BTreeMap<DrillMove, usize> = BTreeMap::new();
    let (mut gone, mut all) = (last.map_or(0.0, |of| ground.seconds(of)), 0);
    while gone < seconds && all < MOST_MOVES {
        let lags = |of: &DrillMove| shares[of] / (2 * counts.get(of).copied().unwrap_or(0) + 1) as f64;
        let open = |of: &DrillMove| counts.get(of).copied().unwrap_or(0) < of.most();
        let Some(next) = shares.keys().copied().filter(open).max_by(|a, b| lags(a).total_cmp(&lags(b))) else { break };
        *counts.entry(next).or_default() += 1;
        gone += ground.seconds(next);
        all += 1;
    }
    counts
}

/// Draws the order, and how hard it is to guess.
fn in_order(
    left: &mut BTreeMap<DrillMove, usize>,
    last: Option<DrillMove>,
    before: &[Vec<DrillMove>],
    rng: &mut ChaCha8Rng,
) -> (Vec<DrillMove>, f64) {
    let mut order = Order::of(before.iter().map(Vec::as_slice));
    let (mut moves, mut bits): (Vec<DrillMove>, Vec<f64>) = (vec![], vec![]);
    loop {
        let there = left.iter().filter(|(_, n)| **n > 0).map(|(&of, &n)| (of, n as f64));
        let weights = order.weights(&moves, there);
        let Some(of) = drawn(&weights, rng) else { break };
        bits.push(entropy(&weights));
        moves.push(of);
        left.entry(of).and_modify(|n| *n -= 1);
        order.note(&moves[moves.len().saturating_sub(3)..]);
    }
    moves.extend(last);
    let mean = if bits.is_empty() { 0.0 } else { bits.iter().sum::<f64>() / bits.len() as f64 };
    (moves, mean)
}

fn parts(moves: &[DrillMove], needs: &[DrillNeed]) -> Vec<DrillPart> {
    let kinds: BTreeSet<DrillMove> = moves.iter().copied().collect();
    kinds
        .into_iter()
        .map(|of| {
            let helps = |need: &&DrillNeed| need.adds().iter().any(|(it, _)| *it == of);
            let needs: Vec<&str> = needs.iter().filter(helps).map(|need| need.phrase()).collect();
            let why = match needs.as_slice() {
                [] => of.use_of().to_owned(),
                needs => format!("{}: {}", needs.join(", "), of.use_of()),
            };
            DrillPart { of, times: moves.iter().filter(|it| **it == of).count(), why }
        })
        .collect()
}

fn text(asked: &DrillAsked<'_>, moves: &[DrillMove], ground: &Ground, rng: &mut ChaCha8Rng) -> String {
    let needs: Vec<&str> = asked.needs.iter().map(|need| need.phrase()).collect();
    let for_what =
        if needs.is_empty() { "A drill of everything".to_owned() } else { format!("For: {}", needs.join(", ")) };
    let feet = |metres: f64| (metres / FOOT * 2.0).round() / 2.0;
    let Ground { radius: r, lope, straight: d, gait } = ground;
    let mut out = format!("# {for_what}. {} minutes.\n", asked.minutes);
    let _ = writeln!(out, "start {} {} heading 0\n{gait}", feet(asked.at.x), feet(asked.at.y));
    let circle = |hand: &str| format!("circle {hand} {r}  # round again until it is soft, at most ten times\n");
    let roll = |hand: &str| {
        let half = format!("rollback {hand} leave {gait}\nline {d}\n");
        format!("{}{half}", half.replacen('\n', "  # dives out: all the way round, and again\n", 1))
    };
    let change = |from: &str, to: &str| {
        format!(
            "lope {from}\ncircle {from} {lope}\nchange flying  # only if it is straight and relaxed\ncircle {to} {lope}\n{gait}\n"
        )
    };
    for of in moves {
        out.push_str(&match of {
            CircleLeft => circle("left"),
            CircleRight => circle("right"),
            BendLeft => format!("eight left {r}\n"),
            BendRight => format!("eight right {r}\n"),
            RollLeft => roll("left"),
            RollRight => roll("right"),
            StopAndBack => format!("stop\nback 6\n{gait}\nline 6\n"),
            Wait => format!("stop\nwait {}\n{gait}\n", rng.random_range(2..8_u8)),
            LopeLeft => format!("lope left\ncircle left {lope}\n{gait}\n"),
            LopeRight => format!("lope right\ncircle right {lope}\n{gait}\n"),
            CounterLeft => format!("lope left\ncircle right {lope} counter  # sit still\n{gait}\n"),
            CounterRight => format!("lope right\ncircle left {lope} counter  # sit still\n{gait}\n"),
            ChangeToLeft => change("right", "left"),
            ChangeToRight => change("left", "right"),
        });
    }
    out.push_str("stop\n");
    out
}
