//! The ride of a day, from tack to close.

use super::{
    Reason, Split,
    choice::{Habits, choices, rechecks},
    outline::{loosen_on, quit_of, split_of},
};
use crate::{
    advice::{Call, Posture, Standing, Status, capitalised},
    barn::Trait,
    curriculum::{Gait, Hands, Place, Side, StepIx},
    load::{ComebackDay, ComebackStage, HeatBand},
    words::words,
};

/// What is known of the day besides the horse's record.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Conditions {
    /// Where it is ridden.
    pub place: Place,
    /// In whose hands.
    pub hands: Hands,
    /// The heat.
    pub heat: HeatBand,
    /// What the last ride left to fix.
    pub note: String,
    /// What the horse is like for good.
    pub traits: Vec<Trait>,
    /// The day of its way back, after time off.
    pub comeback: Option<ComebackDay>,
}

words! {
    "a part of a ride";
    /// What a part of the ride is for.
    pub enum Purpose {
        /// From the ground: move it round, see what it has to say.
        Ground,
        /// A few reps on what it owns, read against yesterday.
        Loosen,
        /// The subject.
        Main,
        /// Set up and walk on: the position does not mean go.
        SetUps,
        /// Stand where it should like being.
        Air,
        /// Stand, flex, step off.
        Close,
    }
}

/// A part of the ride.
#[derive(Debug, Clone, PartialEq)]
pub struct Part {
    /// What it is for.
    pub purpose: Purpose,
    /// The step that is ridden in it.
    pub step: Option<StepIx>,
    /// About how many reps, or counts.
    pub reps: Option<u8>,
    /// How they are shared, on a step with sides.
    pub split: Option<Split>,
    /// The side to begin on.
    pub first: Option<Side>,
    /// About how long, minutes. A plan, never the measure.
    pub minutes: u8,
    /// What to do, in few words.
    pub says: String,
}

/// What came next, and why it waits.
#[derive(Debug, Clone, PartialEq)]
pub struct NextBest {
    /// The step.
    pub step: StepIx,
    /// Why not today.
    pub why: String,
}

/// A planned ride.
#[derive(Debug, Clone, PartialEq)]
pub struct RidePlan {
    /// Its parts in order.
    pub parts: Vec<Part>,
    /// Why this ride, the deciding reason first.
    pub why: Vec<String>,
    /// The next best subject.
    pub next_best: Option<NextBest>,
    /// What quitting looks like today.
    pub quit: String,
}

/// A change that the trainer made to a plan.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Edit {
    /// Another step in the place of one.
    Swap {
        /// The planned one.
        from: StepIx,
        /// The one in its place.
        to: StepIx,
    },
    /// Without this step.
    Drop(StepIx),
    /// With this step too, as a subject.
    Add(StepIx),
}

/// Days off after which the ride starts over more gently (common practice, no published source).
const LONG_OFF: i64 = 7;
/// Answers before the ask, lately, from which on set-ups are put in.
const ANTICIPATES: u32 = 3;

/// Plans the ride of the standing's day.
pub fn plan(standing: &Standing<'_, '_>, habits: &Habits, day: &Conditions) -> RidePlan {
    let horse = standing.horse_call().map(|h| (h.call(), h.why(standing.course()).swap_remove(0)));
    if let Some((Call::LookAt, why)) = horse {
        let says = "No training until someone has looked: mouth, feet, back, saddle".to_owned();
        let quit = "nothing to ride for today".to_owned();
        return RidePlan { parts: vec![simple(Purpose::Ground, 5, &says)], why: vec![why], next_best: None, quit };
    }
    if let Some(back) = day.comeback.filter(|back| back.stage.fastest().is_none()) {
        return led(&back);
    }
    let gentle = matches!(horse, Some((Call::LeaveAlone, _)));
    let may = |ix: StepIx| allowed(standing, ix, day, gentle);
    let all = if day.comeback.is_some() { rechecks(standing) } else { choices(standing, habits) };
    let mut open = all.iter().copied().filter(|&(ix, _)| may(ix));
    let first = open.next();
    let second = open
        .find(|&(ix, because)| because != Reason::Begin && first.is_none_or(|(f, _)| other_ladder(standing, f, ix)));
    let mut why: Vec<String> = horse.map(|h| h.1).into_iter().collect();
    let mut p = Maker { standing, habits, day, parts: vec![] };
    p.begin(first.map(|f| f.0), gentle);
    if let Some((ix, because)) = first {
        why.push(format!("{}: {}", standing.course().step(ix).name, lower(&because.says(standing.course()))));
        p.subject(ix, because);
    }
    let two = second.filter(|_| first.is_some_and(|(_, b)| room_for_two(standing.advisor().posture(), b, day.heat)));
    if let Some((ix, because)) = two {
        why.push(format!(
            "Then {}: {}",
            lower(&standing.course().step(ix).name),
            lower(&because.says(standing.course()))
        ));
        p.subject(ix, because);
    }
    p.parts.push(simple(Purpose::Close, 3, "Stand, flex, reins loose, step off, loosen the cinch"));
    why.extend(day.comeback.map(|back| back.in_words()));
    why.extend(day.heat.says().map(str::to_owned));
    why.extend(days_off(standing).filter(|d| *d >= LONG_OFF).map(|d| format!("{d} days off: loosen longer, ask less")));
    why.extend(day.traits.iter().map(|t| t.advice().to_owned()));
    let spent = [first, two].map(|c| c.map(|c| c.0));
    let waits = all.iter().find(|(ix, _)| !spent.contains(&Some(*ix)));
    let next_best =
        waits.map(|&(step, because)| NextBest { step, why: waits_for(standing, day, step, because, gentle) });
    let quit = first.map_or_else(|| "quit while it is easy".to_owned(), |(ix, _)| quit_of(standing, habits, ix));
    RidePlan { parts: p.parts, why, next_best, quit }
}

impl RidePlan {
    /// The plan as the trainer changed it.
    #[must_use]
    pub fn edited(
        mut self,
        standing: &Standing<'_, '_>,
        habits: &Habits,
        day: &Conditions,
        edits: &[Edit],
    ) -> RidePlan {
        for &edit in edits {
            let mut maker = Maker { standing, habits, day, parts: vec![] };
            match edit {
                Edit::Drop(step) => self.drop(step),
                Edit::Add(step) => {
                    maker.subject(step, because_of(standing, step));
                    let close = self.parts.len().saturating_sub(1);
                    self.parts.splice(close..close, maker.parts);
                }
                Edit::Swap { from, to } => {
                    let at = self.parts.iter().position(|p| p.step == Some(from) && p.purpose != Purpose::SetUps);
                    let loosens = at.is_some_and(|at| self.parts[at].purpose == Purpose::Loosen);
                    self.drop(from);
                    let at = at.unwrap_or(self.parts.len().saturating_sub(1)).min(self.parts.len());
                    if loosens {
                        maker.loosen(to);
                    } else {
                        maker.subject(to, because_of(standing, to));
                    }
                    self.parts.splice(at..at, maker.parts);
                }
            }
        }
        if let Some(main) = self.parts.iter().find(|p| p.purpose == Purpose::Main).and_then(|p| p.step) {
            self.quit = quit_of(standing, habits, main);
        }
        self
    }

    /// Takes a step out, with the air and the set-ups that belong to it.
    fn drop(&mut self, step: StepIx) {
        let mut follows = false;
        self.parts.retain(|p| {
            let mine = p.step == Some(step);
            let gone = mine || (follows && matches!(p.purpose, Purpose::Air | Purpose::SetUps));
            follows = gone && p.purpose != Purpose::Air && (mine && p.purpose != Purpose::Loosen || follows);
            !gone
        });
    }

    /// The steps that are its subjects.
    pub fn subjects(&self) -> impl Iterator<Item = StepIx> + '_ {
        self.parts.iter().filter(|p| p.purpose == Purpose::Main).filter_map(|p| p.step)
    }
}

/// Puts the parts of a ride together.
struct Maker<'m, 's, 'a> {
    standing: &'m Standing<'s, 'a>,
    habits: &'m Habits,
    day: &'m Conditions,
    parts: Vec<Part>,
}

impl Maker<'_, '_, '_> {
    fn begin(&mut self, main: Option<StepIx>, gentle: bool) {
        let note = self.day.note.trim();
        let ground = if note.is_empty() {
            "Move it round, see what it has to say today".to_owned()
        } else {
            format!("Move it round, see what it has to say today. From last time: {note}")
        };
        self.parts.push(simple(Purpose::Ground, 3, &ground));
        let long_off = days_off(self.standing).is_some_and(|d| d >= LONG_OFF);
        let looks = self.day.place.is_out_of_the_pen() && self.day.traits.contains(&Trait::LooksAbout);
        let most = if gentle || long_off || looks { 4 } else { 3 };
        let fastest =
            self.day.fastest().min(if self.day.heat == HeatBand::NoHardWork { Gait::Walk } else { Gait::Run });
        let slow = |ix: &StepIx| self.standing.course().step(*ix).gait <= fastest;
        let steps: Vec<StepIx> = loosen_on(self.standing, main, most * 3).into_iter().filter(slow).take(most).collect();
        for ix in steps {
            self.loosen(ix);
        }
    }

    fn loosen(&mut self, ix: StepIx) {
        let split = split_of(self.standing, self.habits, ix);
        let first = split.and_then(Split::stiff);
        let due = self.standing.due(ix);
        let says = match (first, due) {
            (Some(side), _) => format!("{} first; read it against yesterday", side_name(side)),
            (None, true) => "It is due: a few, to see that it is still there".to_owned(),
            (None, false) => "A few; read it against yesterday".to_owned(),
        };
        let reps = if split.is_some() { 4 } else { 3 };
        let split = split.map(|_| Split { left: 50, right: 50 });
        self.parts.push(Part {
            purpose: Purpose::Loosen,
            step: Some(ix),
            reps: Some(reps),
            split,
            first,
            minutes: 2,
            says,
        });
    }

    fn subject(&mut self, ix: StepIx, because: Reason) {
        let step = self.standing.course().step(ix);
        let split = split_of(self.standing, self.habits, ix);
        if self.habits.anticipated.get(&ix).copied().unwrap_or(0) >= ANTICIPATES {
            self.set_ups(ix);
        }
        let usual = if matches!(because, Reason::Begin | Reason::Claimed) { 6 } else { 10 };
        let rested = if days_off(self.standing).is_some_and(|d| d >= LONG_OFF) { 80 } else { 100 };
        let back = self.day.comeback.map_or(100, |back| back.load_percent);
        let lasting = self.day.traits.iter().map(|t| t.reps_percent()).min().unwrap_or(100);
        let reps = (usual * self.day.heat.reps_percent() * rested * lasting.min(back)).div_ceil(1_000_000).max(3) as u8;
        let ask = &step.ask;
        let mut says = step.measure.standard_in_words(step.standard_on(self.standing.on()));
        if !ask.is_empty() {
            says = format!("{}. Standard: {says}", capitalised(ask));
        }
        if !self.standing.sides(ix).is_empty() && self.standing.days_at(ix, self.day.place) == 0 {
            says = format!("First time {}: start slower here. {says}", self.day.place.phrase());
        }
        if let Some(hangs) = self.habits.hangs.filter(|h| split.and_then(Split::stiff) == Some(h.side)) {
            says = format!("{says}. {}", hangs.in_words());
        }
        let minutes = if matches!(because, Reason::Begin | Reason::Claimed) { 6 } else { 10 };
        let first = split.map(|s| s.stiff().unwrap_or(Side::Left));
        let part = Part { purpose: Purpose::Main, step: Some(ix), reps: Some(reps), split, first, minutes, says };
        self.parts.push(part);
        self.parts.push(simple(Purpose::Air, 3, "Stand where you want it to like being; rest is the reward"));
    }

    /// Set-ups that do not go: on their own rung where the horse is on that ladder, else on the step itself.
    fn set_ups(&mut self, ix: StepIx) {
        let course = self.standing.course();
        let at = course.step(ix).work.set_ups_on.as_ref().and_then(|rung| course.find(rung));
        let times = self.habits.anticipated.get(&ix).copied().unwrap_or(0);
        let says = format!("It answered before the ask {times} times lately: position, wait, walk on. No go");
        self.parts.push(Part {
            purpose: Purpose::SetUps,
            step: Some(at.unwrap_or(ix)),
            reps: Some(4),
            split: None,
            first: None,
            minutes: 3,
            says,
        });
    }
}

/// A day on which nobody is on it.
fn led(back: &ComebackDay) -> RidePlan {
    let parts = match back.stage {
        ComebackStage::Off => vec![],
        _ => vec![simple(Purpose::Ground, 15, "Walk it in hand on level ground, both hands alike; nobody gets on")],
    };
    RidePlan { parts, why: vec![back.in_words()], next_best: None, quit: "before it is tired".to_owned() }
}

impl Conditions {
    /// The fastest gait of the day.
    fn fastest(&self) -> Gait {
        self.comeback.and_then(|back| back.stage.fastest()).unwrap_or(Gait::Run)
    }
}

fn simple(purpose: Purpose, minutes: u8, says: &str) -> Part {
    Part { purpose, step: None, reps: None, split: None, first: None, minutes, says: says.to_owned() }
}

fn lower(text: &str) -> String {
    let mut chars = text.chars();
    chars.next().map(|c| c.to_lowercase().chain(chars).collect()).unwrap_or_default()
}

pub(super) fn side_name(side: Side) -> &'static str {
    match side {
        Side::Left => "Left",
        Side::Right => "Right",
        Side::Both => "Both",
    }
}

fn days_off(standing: &Standing<'_, '_>) -> Option<i64> {
    standing.advisor().last_day().map(|last| (standing.on() - last).num_days() - 1)
}

/// Whether a step may be a subject today.
fn allowed(standing: &Standing<'_, '_>, ix: StepIx, day: &Conditions, gentle: bool) -> bool {
    let owned = standing.status(ix) == Status::Owned;
    let gait = standing.course().step(ix).gait;
    match day.heat {
        _ if gait > day.fastest() => false,
        _ if gentle => owned,
        HeatBand::NoHardWork => owned && gait <= Gait::Walk,
        HeatBand::Care => gait <= Gait::Jog,
        HeatBand::Fine | HeatBand::Sweats => true,
    }
}

fn other_ladder(standing: &Standing<'_, '_>, a: StepIx, b: StepIx) -> bool {
    let ladder = |ix: StepIx| standing.course().step(ix).ladder;
    a != b && ladder(a) != ladder(b)
}

/// Two subjects only where the first is nothing new, the day is cool, and the trainer wants to get on.
fn room_for_two(posture: Posture, first: Reason, heat: HeatBand) -> bool {
    posture != Posture::Patient && heat <= HeatBand::Sweats && !matches!(first, Reason::Begin | Reason::Slipping)
}

fn because_of(standing: &Standing<'_, '_>, ix: StepIx) -> Reason {
    match standing.status(ix) {
        Status::Slipping => Reason::Slipping,
        Status::Untried => Reason::Begin,
        Status::Learning if !standing.is_open(ix) => Reason::OverAHole,
        Status::Learning => Reason::UnderWay,
        Status::Owned => Reason::Recheck,
    }
}

fn waits_for(standing: &Standing<'_, '_>, day: &Conditions, ix: StepIx, because: Reason, gentle: bool) -> String {
    let name = &standing.course().step(ix).name;
    if !allowed(standing, ix, day, gentle) {
        return if gentle || day.comeback.is_some() {
            format!("{name} waits: not a day for it")
        } else {
            format!("{name} waits: too hot for it {}", standing.course().step(ix).gait.phrase())
        };
    }
    match because {
        Reason::OverAHole => format!("{name} waits: something it needs is not owned"),
        Reason::Begin => format!("{name} waits: one new thing at a time"),
        _ => format!("{name} waits: it was ridden more lately"),
    }
}
