//! A stand-in for the motor that draws a flag along its line.

/// An order to the motor.
#[derive(Debug, Clone, Copy, PartialEq)]
#[allow(missing_docs)]
pub enum FlagOrder {
    /// Go one way, 1 to the right and -1 to the left, at so many feet a second, for as long as orders keep coming.
    Go { way: f64, speed: f64 },
    /// Go to a place, feet from the middle, and stand there.
    To { at: f64, speed: f64 },
    /// Brake to a stand.
    Stop,
    /// Stand at once, and take no order until it is let go.
    Emergency,
    /// Let it go after an emergency stop.
    Release,
    /// Nothing new: whoever is at the remote is still there.
    Beat,
}

/// How the motor is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum FlagState {
    /// It stands.
    Stands,
    /// It goes.
    Goes,
    /// It stands at an end of its rail and goes no further that way.
    AtEnd,
    /// No order came for too long: it stopped by itself.
    LinkLost,
    /// Stopped in an emergency.
    Emergency,
}

/// Where it is and how it is.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct FlagReading {
    /// Seconds.
    pub t: f64,
    /// Feet from the middle.
    pub at: f64,
    /// Feet a second.
    pub speed: f64,
    /// How it is.
    pub state: FlagState,
}

/// What any motor can do. Times are seconds of one clock and do not fall.
pub trait FlagDrive: Send {
    /// Gives an order at a time.
    fn order(&mut self, t: f64, order: FlagOrder);
    /// What it did since it was last asked, twenty times a second.
    fn readings(&mut self, t: f64) -> Vec<FlagReading>;
    /// Feet from the middle to either end of its rail.
    fn half(&self) -> f64;
}

/// Without an order for so long it stops by itself, seconds.
pub const LINK: f64 = 0.6;
/// Seconds from reading to reading.
const TICK: f64 = 0.05;
/// Feet a second in a second: gained and braked; and braked in an emergency.
const HARD: f64 = 9.0;
const HARDEST: f64 = 40.0;
/// It goes no faster, feet a second.
const FASTEST: f64 = 14.0;

/// A motor on a rail.
#[derive(Debug)]
pub struct SimFlagDrive {
    half: f64,
    now: FlagReading,
    want: FlagOrder,
    heard: f64,
}

impl SimFlagDrive {
    /// On a rail of this half length, feet, standing in the middle at a time.
    pub fn new(half: f64, t: f64) -> SimFlagDrive {
        let now = FlagReading { t, at: 0.0, speed: 0.0, state: FlagState::Stands };
        SimFlagDrive { half, now, want: FlagOrder::Stop, heard: t }
    }

    fn tick(&mut self) {
        let t = self.now.t + TICK;
        let lost = t - self.heard > LINK;
        let moving = self.now.speed != 0.0;
        if lost && (moving || matches!(self.want, FlagOrder::Go { .. } | FlagOrder::To { .. })) {
            self.want = FlagOrder::Stop;
            self.now.state = FlagState::LinkLost;
        }
        let brake = if self.now.state == FlagState::Emergency { HARDEST } else { HARD };
        let (want, place) = match self.want {
            FlagOrder::Go { way, speed } => (way.signum() * speed, way.signum() * self.half),
            FlagOrder::To { at, speed } => ((at - self.now.at).signum() * speed, at),
            _ => (0.0, self.now.at),
        };
        // No faster than it can still brake from before its place.
        let left = (place - self.now.at).abs();
        let most = ((2.0 * HARD * left + (HARD * TICK).powi(2)).sqrt() - HARD * TICK).max(0.0);
        let want = want.clamp(-FASTEST, FASTEST).clamp(-most, most);
        let change = (want - self.now.speed).clamp(-brake * TICK, brake * TICK);
        let mut speed = self.now.speed + change;
        let mut at = self.now.at + (self.now.speed + speed) / 2.0 * TICK;
        if left < 0.05 && speed.abs() < 0.5 && !matches!(self.want, FlagOrder::Stop) {
            (at, speed) = (place, 0.0);
        }
        at = at.clamp(-self.half, self.half);
        if at.abs() >= self.half {
            speed = 0.0;
        }
        let held = matches!(self.now.state, FlagState::LinkLost | FlagState::Emergency);
        let state = match speed.abs() > 0.0 {
            _ if held => self.now.state,
            true => FlagState::Goes,
            false if at.abs() >= self.half - 0.05 => FlagState::AtEnd,
            false => FlagState::Stands,
        };
        self.now = FlagReading { t, at, speed, state };
    }

    fn run_to(&mut self, t: f64) -> Vec<FlagReading> {
        // After a long pause only the last seconds matter: by then it stands.
        if t - self.now.t > 30.0 {
            self.now.t = t - 30.0;
        }
        let mut out = vec![];
        while self.now.t + TICK <= t {
            self.tick();
            out.push(self.now);
        }
        out
    }
}

impl FlagDrive for SimFlagDrive {
    fn order(&mut self, t: f64, order: FlagOrder) {
        self.heard = t;
        if self.now.state == FlagState::LinkLost {
            self.now.state = FlagState::Stands;
        }
        match order {
            FlagOrder::Emergency => {
                self.now.state = FlagState::Emergency;
                self.want = FlagOrder::Stop;
            }
            FlagOrder::Release if self.now.state == FlagState::Emergency => self.now.state = FlagState::Stands,
            FlagOrder::Beat | FlagOrder::Release => {}
            _ if self.now.state == FlagState::Emergency => {}
            FlagOrder::To { at, speed } => {
                let rail = self.half;
                self.want = FlagOrder::To { at: at.clamp(-rail, rail), speed };
            }
            order => self.want = order,
        }
    }

    fn readings(&mut self, t: f64) -> Vec<FlagReading> {
        self.run_to(t)
    }

    fn half(&self) -> f64 {
        self.half
    }
}
