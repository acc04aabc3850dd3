//! The stops of a work on the flag, and what its ends and ways say.

use crate::words::words;

use super::halt::{Halt, Sought, fit};
use super::runs::{Looked, Rough, runs};
use super::trace::{Trace, median};

/// A flag that goes on the same way has stood at least so long, seconds.
const FLAG_STANDS: f64 = 0.4;
/// A horse too.
const HORSE_STANDS: f64 = 0.3;
/// A horse may stop so long before the flag, seconds.
const BEFORE: f64 = 1.5;
/// A horse that stops later than this after the flag went on the same way did not stop for it, seconds.
const AFTER: f64 = 1.0;
/// A horse that leaves so much before the flag has guessed, seconds.
const GUESS: f64 = 0.15;
/// It has left when it runs further than this, feet.
const LEFT: f64 = 3.0;
/// How long a stand is looked at together with coming or with leaving, seconds.
const ALONE: f64 = 1.4;
/// A flag that is faster than this is travelled with, feet a second.
const TRAVELS: f64 = 1.0;

/// A work on the flag as it was recorded.
#[derive(Debug, Clone, PartialEq)]
pub struct Recording {
    /// The ends of the line, feet along it; the left is the lesser.
    pub left: f64,
    /// The right end.
    pub right: f64,
    /// In order of time.
    pub samples: Vec<Sample>,
}

/// A moment of a recording.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Sample {
    /// Seconds.
    pub t: f64,
    /// Where the flag was, feet along the line; none where it was lost.
    pub flag: Option<f64>,
    /// Where the horse's eye was.
    pub horse: Option<f64>,
}

words! {
    "a way";
    /// A way along the line, or of a turn.
    pub enum Way { Left, Right }
}

words! {
    "an end of the line";
    /// Where on the line a stop is: within a quarter of it of either end, or between.
    pub enum FlagEnd { Left, Middle, Right }
}

/// Who left a stop first.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
#[allow(missing_docs)]
pub enum WhoLeft {
    Horse,
    Flag,
}

/// A stop of the flag, and the horse's with it. Seconds and feet.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct FlagStop {
    /// When the flag stopped.
    pub flag_stop: f64,
    /// When it left and which way; none where it stands to the end.
    pub left: Option<(f64, Way)>,
    /// Where it stood.
    pub at: f64,
    /// Where on the line that is.
    pub end: FlagEnd,
    /// The way the flag came.
    pub came: Way,
    /// When the horse stopped, and how far past the flag it was then, the way the flag came: short under 0.
    pub horse: Option<(f64, f64)>,
    /// When the horse left.
    pub horse_leave: Option<f64>,
}

impl FlagStop {
    /// Seconds from the flag's stop to the horse's.
    pub fn delay(&self) -> Option<f64> {
        self.horse.map(|(t, _)| t - self.flag_stop)
    }

    /// Seconds from when the flag left to when the horse did.
    pub fn leave_delay(&self) -> Option<f64> {
        Some(self.horse_leave? - self.left?.0)
    }

    /// Who left first: a horse that was well before the flag, or that left alone, has guessed.
    pub fn first(&self) -> Option<WhoLeft> {
        self.horse_leave?;
        let guessed = self.leave_delay().is_none_or(|after| after < -GUESS);
        Some(if guessed { WhoLeft::Horse } else { WhoLeft::Flag })
    }
}

/// The stops at one end: how many, and the means of what is known.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct EndFound {
    /// Where.
    pub end: FlagEnd,
    /// Stops of the flag.
    pub stops: usize,
    /// Feet past.
    pub past: Option<f64>,
    /// Seconds from stop to stop.
    pub delay: Option<f64>,
    /// Seconds from leave to leave.
    pub leave_delay: Option<f64>,
    /// How often the horse left first.
    pub guesses: usize,
}

/// How far ahead of the flag the horse travels one way, feet; behind under 0.
#[derive(Debug, Clone, Copy, PartialEq)]
#[allow(missing_docs)]
pub struct Travel {
    pub way: Way,
    pub off: Option<f64>,
}

/// What a recording says.
#[derive(Debug, Clone, PartialEq)]
pub struct FlagReport {
    /// In order of time.
    pub stops: Vec<FlagStop>,
    /// Left, middle, right.
    pub ends: [EndFound; 3],
    /// Left, right.
    pub travel: [Travel; 2],
}

impl Recording {
    /// What it says.
    pub fn read(&self) -> FlagReport {
        let known = |of: fn(&Sample) -> Option<f64>| -> Vec<(f64, f64)> {
            self.samples.iter().filter_map(|s| of(s).map(|x| (s.t, x))).collect()
        };
        let flag = Trace::of(&known(|s| s.flag));
        let horse = Trace::of(&known(|s| s.horse));
        let flag_halts = halts(&flag, Looked { reach: 0.25, fast: 1.5, least: 1.0 }, FLAG_STANDS);
        let reach = (0.25 + horse.noise * 0.4).clamp(0.3, 0.6);
        let horse_halts =
            halts(&horse, Looked { reach, fast: 1.6, least: (3.0 * horse.noise).clamp(1.0, 2.0) }, HORSE_STANDS);
        let stops: Vec<FlagStop> =
            (0..flag_halts.len()).map(|at| self.stop(&flag_halts, at, &horse_halts, &flag)).collect();
        let ends = [FlagEnd::Left, FlagEnd::Middle, FlagEnd::Right].map(|end| at_end(&stops, end));
        let travel = [Way::Left, Way::Right].map(|way| Travel { way, off: travels(&flag, &horse, way) });
        FlagReport { stops, ends, travel }
    }

    fn stop(&self, flags: &[Stood], at: usize, horses: &[Stood], flag: &Trace) -> FlagStop {
        let stood = &flags[at];
        let next = flags.get(at + 1).map_or(f64::INFINITY, |next| next.halt.stop);
        let same_way = stood.went == Some(stood.came);
        let until = match stood.halt.leave {
            Some(leave) if same_way => next.min(leave + AFTER),
            _ => next,
        };
        let found = horses.iter().position(|h| h.came == stood.came && h.halt.stop >= stood.halt.stop - BEFORE);
        let found = found.filter(|n| horses[*n].halt.stop <= until);
        let sign = stood.came.sign();
        let horse = found.map(|n| {
            let halt = &horses[n].halt;
            let there = flag.at(halt.stop, 0.2).map_or(stood.halt.at, |(x, _)| x);
            (halt.stop, sign * (halt.at - there))
        });
        let horse_leave = found.and_then(|n| horses[n..].iter().find(|h| h.feet_after > LEFT)?.halt.leave);
        FlagStop {
            flag_stop: stood.halt.stop,
            left: stood.halt.leave.zip(stood.went),
            at: stood.halt.at,
            end: self.end_of(stood.halt.at),
            came: stood.came,
            horse,
            horse_leave,
        }
    }

    fn end_of(&self, at: f64) -> FlagEnd {
        let quarter = (self.right - self.left) / 4.0;
        if at < self.left + quarter {
            FlagEnd::Left
        } else if at > self.right - quarter {
            FlagEnd::Right
        } else {
            FlagEnd::Middle
        }
    }
}

impl Way {
    fn of(sign: f64) -> Way {
        if sign > 0.0 { Way::Right } else { Way::Left }
    }

    /// 1 to the right, -1 to the left.
    fn sign(self) -> f64 {
        if self == Way::Right { 1.0 } else { -1.0 }
    }
}

/// A halt between two runs.
#[derive(Debug, Clone, Copy)]
struct Stood {
    halt: Halt,
    came: Way,
    went: Option<Way>,
    /// Feet of the run after it.
    feet_after: f64,
}

/// The halts of a trace: fitted twice, the second time knowing how hard it usually brakes and gains.
fn halts(trace: &Trace, look: Looked, stands: f64) -> Vec<Stood> {
    let Some(last) = trace.points.last().map(|p| p.0) else { return vec![] };
    let runs = runs(trace, look);
    let mirrored = trace.mirrored();
    let all =
        |usual| -> Vec<Option<Halt>> { (0..runs.len()).map(|n| halt(trace, &mirrored, &runs, n, usual)).collect() };
    let first = all(None);
    let usual =
        |of: fn(&Halt) -> f64| median(first.iter().flatten().map(|h| libm::log(of(h))).collect()).map(libm::exp);
    let usual = usual(|h| h.brake).zip(usual(|h| h.gain));
    let mut found = vec![];
    for (n, (run, halt)) in runs.iter().zip(all(usual)).enumerate() {
        let Some(halt) = halt else { continue };
        let after = runs.get(n + 1);
        let went = after.map(|after| Way::of(after.way));
        let stood = halt.leave.unwrap_or(last) - halt.stop;
        let goes_on = went.is_none() || went == Some(Way::of(run.way));
        if goes_on && stood < stands - 0.05 {
            continue;
        }
        found.push(Stood { halt, came: Way::of(run.way), went, feet_after: after.map_or(0.0, |after| after.feet) });
    }
    found
}

/// The halt at the end of a run; none where the recording ends in the run.
fn halt(trace: &Trace, mirrored: &Trace, runs: &[Rough], n: usize, usual: Option<(f64, f64)>) -> Option<Halt> {
    let run = runs[n];
    let last = trace.points.last()?.0;
    let next = runs.get(n + 1);
    let from = (run.to - 1.6).max(run.peak.0.min(run.to - 0.8) - 0.15).max(run.from);
    let (came, about) = (run.way, run.to);
    let Some(next) = next else {
        let sought = Sought { window: (from, last.min(run.to + ALONE)), about: (about, 0.0), came, went: None, usual };
        return (run.to <= last - 0.1).then(|| fit(trace, &sought))?;
    };
    let to = (next.from + 1.4).min(next.peak.0.max(next.from + 0.7) + 0.15).min(next.to);
    let stood = (next.from - run.to - 0.1).max(0.0);
    if stood < 2.0 * ALONE {
        return fit(trace, &Sought { window: (from, to), about: (about, stood), came, went: Some(next.way), usual });
    }
    // It stood long: coming and leaving have nothing to do with each other, and leaving is coming, looked at backwards.
    let stop = fit(trace, &Sought { window: (from, run.to + ALONE), about: (about, 0.0), came, went: None, usual })?;
    let back = Sought {
        window: (-to, ALONE - next.from),
        about: (-next.from, 0.0),
        came: -next.way,
        went: None,
        usual: usual.map(|(b, g)| (g, b)),
    };
    let leave = fit(mirrored, &back)?;
    Some(Halt { leave: Some(-leave.stop), gain: leave.brake, ..stop })
}

fn at_end(stops: &[FlagStop], end: FlagEnd) -> EndFound {
    let here: Vec<&FlagStop> = stops.iter().filter(|stop| stop.end == end).collect();
    let mean_of = |of: &dyn Fn(&FlagStop) -> Option<f64>| mean(here.iter().filter_map(|stop| of(stop)));
    EndFound {
        end,
        stops: here.len(),
        past: mean_of(&|stop| stop.horse.map(|(_, past)| past)),
        delay: mean_of(&FlagStop::delay),
        leave_delay: mean_of(&FlagStop::leave_delay),
        guesses: here.iter().filter(|stop| stop.first() == Some(WhoLeft::Horse)).count(),
    }
}

fn mean(of: impl Iterator<Item = f64>) -> Option<f64> {
    let (sum, count) = of.fold((0.0, 0.0), |(sum, count), x| (sum + x, count + 1.0));
    (count > 0.0).then(|| sum / count)
}

fn travels(flag: &Trace, horse: &Trace, way: Way) -> Option<f64> {
    let sign = way.sign();
    mean(horse.points.iter().filter_map(|(t, x)| {
        let (there, speed) = flag.at(*t, 0.2)?;
        (speed * sign >= TRAVELS).then(|| sign * (x - there))
    }))
}
