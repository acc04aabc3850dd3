//! Heading off: whether a horse gets past the head of a cow that runs down the fence, before the fence ends.
//!
//! Along the fence x runs from 0 to its end. The cow's head runs on at an even speed, or tires. The horse runs straight to where it
//! will be so far past the head, from so far off the line.

/// A cow's speed falls to this, and half of the way there in this time.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Tires {
    /// Feet a second, at most the speed that it falls from.
    pub to: f64,
    /// Seconds, over 0.
    pub half_seconds: f64,
}

/// A cow that runs down the fence.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct RunningCow {
    /// Where its head is, feet.
    pub at: f64,
    /// Feet a second.
    pub speed: f64,
    /// How it tires; none where its speed is even.
    pub tires: Option<Tires>,
}

/// The horse that is to head it off.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct RunningHorse {
    /// Where its nose is along the fence, feet.
    pub nose: f64,
    /// How far it is off the cow's line, feet.
    pub across: f64,
    /// Feet a second, kept until it gains.
    pub speed: f64,
    /// Seconds until it gains.
    pub delay: f64,
    /// Feet a second gained in a second, over 0.
    pub accel: f64,
    /// The most that it runs, feet a second.
    pub top: f64,
    /// Feet a second lost in a second when it stops, over 0.
    pub brake: f64,
}

/// How far back of the horse's nose the cow's head is to be, feet: the leg, the pad, the hip, a length.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Mark {
    /// Feet.
    pub behind: f64,
}

/// The question.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct HeadOff {
    /// The cow.
    pub cow: RunningCow,
    /// The horse.
    pub horse: RunningHorse,
    /// How long the fence is, feet.
    pub long: f64,
    /// Feet that are left to turn in.
    pub room: f64,
}

/// A mark that is made.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Made {
    /// When, seconds.
    pub t: f64,
    /// Where the cow's head is then, feet.
    pub cow: f64,
    /// Where the horse's nose is then, feet.
    pub nose: f64,
    /// How fast the horse is, feet a second.
    pub speed: f64,
    /// Where its nose stops, feet.
    pub stop: f64,
    /// The fence that is left then, feet; under 0 where there is none.
    pub clear: f64,
}

/// What is found of a mark.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct MarkFound {
    /// Seconds until the cow is too far; 0 where it is already.
    pub left: f64,
    /// How it is made; none where it is not.
    pub made: Option<Made>,
    /// The most that the cow may be further on, all else the same, feet; under 0 where it has to be further back.
    pub start: f64,
    /// The least top speed, not under the speed that the horse has, that makes it; none where none does.
    pub least_top: Option<f64>,
    /// The longest delay, up to `left`, that makes it; none where none does.
    pub most_delay: Option<f64>,
}

/// Until the cow is slow enough to be held.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct RunOut {
    /// Seconds.
    pub t: f64,
    /// How far it runs until then, feet.
    pub feet: f64,
}

impl RunningCow {
    /// Where its head is after so many seconds, feet.
    pub fn head(&self, t: f64) -> f64 {
        match self.tires {
            None => self.at + self.speed * t,
            Some(Tires { to, half_seconds }) => {
                let slows = half_seconds / std::f64::consts::LN_2;
                self.at + to * t - (self.speed - to) * slows * (-t / slows).exp_m1()
            }
        }
    }

    /// When its head is at x: 0 where it is past it, infinite where it never comes there.
    pub fn when_at(&self, x: f64) -> f64 {
        if self.at >= x {
            return 0.0;
        }
        let slowest = self.tires.map_or(self.speed, |tires| tires.to);
        let mut late = (x - self.at) / self.speed.max(f64::MIN_POSITIVE);
        if self.tires.is_none() {
            return late;
        }
        // A tired cow that stands still never gets there where its whole run is too short.
        while self.head(late) < x {
            if slowest <= 0.0 && late > 1e9 {
                return f64::INFINITY;
            }
            late *= 2.0;
        }
        bisect(0.0, late, CLOSEST, |t| self.head(t) >= x)
    }

    /// Until the cow is no faster than a horse holds. None where it never is.
    ///
    /// ```
    /// use cavesson_core::cattle::{RunningCow, Tires};
    /// let cow = RunningCow { at: 0.0, speed: 17.0, tires: Some(Tires { to: 9.0, half_seconds: 6.0 }) };
    /// // From 17 to 13 is half of the way to 9.
    /// assert!((cow.run_out(13.0).unwrap().t - 6.0).abs() < 1e-12);
    /// assert!(cow.run_out(9.0).is_none());
    /// ```
    pub fn run_out(&self, holds: f64) -> Option<RunOut> {
        if self.speed <= holds {
            return Some(RunOut { t: 0.0, feet: 0.0 });
        }
        let tires = self.tires.filter(|tires| tires.to < holds)?;
        let t = tires.half_seconds * ((self.speed - tires.to) / (holds - tires.to)).log2();
        Some(RunOut { t, feet: self.head(t) - self.at })
    }
}

impl RunningHorse {
    /// How far it ran after so many seconds, feet.
    pub fn run(&self, t: f64) -> f64 {
        let gaining = (t - self.delay).max(0.0);
        let until_top = gaining.min((self.top - self.speed) / self.accel);
        let (before, after) = (t - gaining, gaining - until_top);
        self.speed * (before + until_top) + self.accel * until_top * until_top / 2.0 + self.top * after
    }

    /// How fast it is then, feet a second.
    pub fn speed_at(&self, t: f64) -> f64 {
        (self.speed + self.accel * (t - self.delay).max(0.0)).min(self.top.max(self.speed))
    }
}

/// Where something begins to hold between an end at which it does not and one at which it does, to this share of one and the figure.
fn bisect(mut no: f64, mut yes: f64, to: f64, holds: impl Fn(f64) -> bool) -> f64 {
    while (no - yes).abs() > to * (1.0 + yes.abs()) {
        let middle = f64::midpoint(no, yes);
        if holds(middle) {
            yes = middle;
        } else {
            no = middle;
        }
    }
    yes
}

/// As close as figures are told; and where a look costs next to nothing.
const TOLD: f64 = 1e-6;
const CLOSEST: f64 = 1e-13;

/// No horse is this fast, feet a second: as good as any speed at all.
const ANY_SPEED: f64 = 1e6;
/// Times are looked at this far apart before the best of them is looked at closely, seconds.
const STEP: f64 = 0.004;
/// No work at the fence takes longer, seconds.
const LONGEST: f64 = 3_600.0;

impl HeadOff {
    /// How far the horse has to run to make a mark with the cow's head there, feet.
    fn distance(&self, behind: f64, head: f64) -> f64 {
        (head + behind - self.horse.nose).max(0.0).hypot(self.horse.across)
    }

    /// Where the cow's head may be at most, feet.
    fn last(&self, mark: Mark) -> f64 {
        self.long - self.room - mark.behind
    }

    /// How much further on the cow may be for the mark to be made at this moment, feet: by the run, and by the fence.
    fn spare(&self, horse: &RunningHorse, mark: Mark, t: f64) -> f64 {
        let (head, ran) = (self.cow.head(t), horse.run(t));
        if ran < horse.across {
            return f64::NEG_INFINITY;
        }
        let along = (ran * ran - horse.across * horse.across).sqrt();
        (horse.nose - mark.behind - head + along).min(self.last(mark) - head)
    }

    /// The most that the cow may be further on: the best moment, since the mark is made where it is made at any.
    fn start(&self, horse: &RunningHorse, mark: Mark) -> f64 {
        let (mut best, mut at, mut n) = (self.spare(horse, mark, 0.0), 0.0, 0_u32);
        // Behind the moment at which the fence leaves less than what was found, nothing is better.
        loop {
            n += 1;
            let t = STEP * f64::from(n);
            if t > LONGEST || self.last(mark) - self.cow.head(t) < best {
                break;
            }
            let spare = self.spare(horse, mark, t);
            if spare > best {
                (best, at) = (spare, t);
            }
        }
        let (mut low, mut high) = ((at - STEP).max(0.0), at + STEP);
        for _ in 0..100 {
            let (a, b) = (low + (high - low) / 3.0, high - (high - low) / 3.0);
            if self.spare(horse, mark, a) < self.spare(horse, mark, b) {
                low = a;
            } else {
                high = b;
            }
        }
        best.max(self.spare(horse, mark, f64::midpoint(low, high)))
    }

    /// The first moment at which the horse is far enough, before the cow is too far. Between two looks the gap cannot close unseen: it
    /// closes no faster than both run.
    fn first(&self, mark: Mark, left: f64) -> Option<f64> {
        let gap = |t: f64| self.distance(mark.behind, self.cow.head(t)) - self.horse.run(t);
        let fastest = self.horse.top.max(self.horse.speed) + self.cow.speed;
        let (mut t, mut before) = (0.0, 0.0);
        while gap(t) > CLOSE {
            before = t;
            t += (gap(t) / fastest).max(NEXT);
            if before >= left {
                return None;
            }
        }
        let t = if t == 0.0 { 0.0 } else { bisect(before, t, CLOSEST, |t| gap(t) <= CLOSE) };
        (t <= left + CLOSE).then_some(t)
    }

    fn made(&self, mark: Mark, left: f64) -> Option<Made> {
        if self.cow.at > self.last(mark) {
            return None;
        }
        let t = self.first(mark, left)?;
        let (cow, speed) = (self.cow.head(t), self.horse.speed_at(t));
        let nose = self.horse.nose.max(cow + mark.behind);
        let stop = nose + speed * speed / (2.0 * self.horse.brake);
        Some(Made { t, cow, nose, speed, stop, clear: self.long - stop })
    }

    /// What there is to say of a mark.
    ///
    /// ```
    /// use cavesson_core::cattle::{HeadOff, Mark, RunningCow, RunningHorse};
    /// let cow = RunningCow { at: 11.0, speed: 18.7, tires: None };
    /// let horse = RunningHorse { nose: 18.3, across: 0.0, speed: 9.3, delay: 0.16, accel: 4.3, top: 28.2, brake: 10.1 };
    /// let at_the_eye = HeadOff { cow, horse, long: 84.2, room: 7.8 }.mark(Mark { behind: 0.0 });
    /// assert_eq!(at_the_eye.made.unwrap().t, 0.0, "the horse is there already");
    /// assert!((at_the_eye.start - 7.3).abs() < 1e-6);
    /// ```
    pub fn mark(&self, mark: Mark) -> MarkFound {
        let left = self.cow.when_at(self.last(mark));
        let makes = |horse: RunningHorse| self.start(&horse, mark) >= 0.0;
        let with_top = |top: f64| RunningHorse { top, ..self.horse };
        let with_delay = |delay: f64| RunningHorse { delay, ..self.horse };
        let least_top = if makes(with_top(self.horse.speed)) {
            Some(self.horse.speed)
        } else {
            makes(with_top(ANY_SPEED)).then(|| bisect(self.horse.speed, ANY_SPEED, TOLD, |top| makes(with_top(top))))
        };
        let most_delay = if makes(with_delay(left)) {
            Some(left)
        } else {
            makes(with_delay(0.0)).then(|| bisect(left, 0.0, TOLD, |delay| makes(with_delay(delay))))
        };
        MarkFound { left, made: self.made(mark, left), start: self.start(&self.horse, mark), least_top, most_delay }
    }
}

/// A gap of this is none, feet.
const CLOSE: f64 = 1e-9;
/// The next look is at least this much later, seconds.
const NEXT: f64 = 1e-6;
