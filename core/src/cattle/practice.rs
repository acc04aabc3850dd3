//! A cow and a horse in a pen, to practise reading: where to be so that the cow neither gets past nor is crowded.
//!
//! The cow moves by its flight zone and its point of balance: inside the zone it moves off; behind the shoulder drives it on, at the head it
//! stops and turns back (Grandin; from memory). How far and how fast is assumed.

use serde::{Deserialize, Serialize};

use super::Manner;
use crate::words::words;

/// A pen: the herd stands along the near side, the cow is worked beyond it. Feet.
pub const PEN: [f64; 2] = [80.0, 60.0];
/// A cow nearer to the near side than this is back with the herd, feet.
pub const HERD: f64 = 10.0;
/// A step, seconds.
const STEP: f64 = 0.05;

/// No practice has more steps.
const MOST_STEPS: u32 = 100_000;
/// How the horse answers: seconds of delay, feet a second at the most, feet a second gained and lost in a second.
const HORSE: (f64, f64, f64) = (0.25, 18.0, 14.0);
/// In position is from so far behind the cow's head to so far past it, feet.
const BAND: [f64; 2] = [-3.0, 3.0];
/// A horse so far behind lets the cow by, feet.
const BY: f64 = -7.0;
/// A cow that is crowded is nearer than this share of its flight zone, and one that is left alone further than this one.
const ZONE: [f64; 2] = [0.45, 1.1];
/// A cow that the horse has stopped stands for so many seconds, from and to.
const STANDS: [f64; 2] = [0.3, 1.4];
/// And then tries the other way for so long before its head can be taken again.
const TRIES: [f64; 2] = [0.7, 1.8];
/// A cow gains and loses so much, feet a second in a second.
const COW: f64 = 12.0;

words! {
    "a stance";
    /// How a horse stands to a cow.
    pub enum Stance {
        Lost,
        TooNear,
        Behind,
        PastItsHead,
        FarOff,
        InPosition,
    }
}

/// Something that moves: place and speed by the axes, feet and feet a second; x along the herd, y away from it.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
#[allow(missing_docs)]
pub struct Mover {
    pub x: f64,
    pub y: f64,
    pub vx: f64,
    pub vy: f64,
}

/// How the practice stands. It is all there is to go on from.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Practice {
    /// Makes the same cow each time.
    #[cfg_attr(feature = "schema", schema(minimum = 0, maximum = 4294967295u32))]
    pub seed: u32,
    /// How it behaves.
    pub manner: Manner,
    /// Steps so far.
    #[cfg_attr(feature = "schema", schema(minimum = 0, maximum = 100000))]
    pub step: u32,
    /// The cow.
    pub cow: Mover,
    /// The way it goes, 1 to the right and -1 to the left.
    pub way: f64,
    /// Seconds that it stands yet.
    pub stands: f64,
    /// Seconds that it goes on yet, whoever is at its head.
    pub tries: f64,
    /// The horse.
    pub horse: Mover,
    /// Where the rider wanted it in the last moments: the horse answers to the oldest.
    #[cfg_attr(feature = "schema", schema(max_items = 5))]
    pub asked: Vec<[f64; 2]>,
    /// Steps in which position was held.
    pub held: u32,
    /// And in which the cow was crowded.
    pub crowded: u32,
    /// Turns of the cow, and those at which the horse was in position.
    pub turns: [u32; 2],
    /// Whether it is back with the herd: the practice is over.
    pub lost: bool,
}

/// Where the rider wants the horse for some time.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Placed {
    /// Feet along the herd.
    pub x: f64,
    /// Feet away from it.
    pub y: f64,
    /// Steps of a twentieth of a second, 1 to 40.
    #[cfg_attr(feature = "schema", schema(minimum = 1, maximum = 40))]
    pub steps: u8,
}

/// A number from 0 to 1 that hangs on seed and step alone (the finaliser of MurmurHash3; Appleby, public domain).
fn drawn(seed: u32, step: u32, salt: u32) -> f64 {
    let mut h = seed ^ step.wrapping_mul(0x9E37_79B9) ^ salt.wrapping_mul(0x85EB_CA6B);
    h = (h ^ (h >> 16)).wrapping_mul(0x85EB_CA6B);
    h = (h ^ (h >> 13)).wrapping_mul(0xC2B2_AE35);
    f64::from(h ^ (h >> 16)) / f64::from(u32::MAX)
}

impl Practice {
    /// A cow in the middle of the pen and a horse between it and the herd.
    pub fn begin(seed: u32, manner: Manner) -> Practice {
        let still = |x, y| Mover { x, y, vx: 0.0, vy: 0.0 };
        let (x, zone) = (PEN[0] / 2.0, flight_zone(manner));
        Practice {
            seed,
            manner,
            step: 0,
            cow: still(x, 36.0),
            way: if drawn(seed, 0, 1) < 0.5 { -1.0 } else { 1.0 },
            stands: 1.0,
            tries: 0.0,
            horse: still(x, 36.0 - 0.8 * zone),
            asked: vec![],
            held: 0,
            crowded: 0,
            turns: [0, 0],
            lost: false,
        }
    }

    /// Whether all of it is a number that may be gone on from.
    pub fn is_sound(&self) -> bool {
        let inside = |m: &Mover| {
            (0.0..=PEN[0]).contains(&m.x) && (0.0..=PEN[1]).contains(&m.y) && m.vx.abs() <= 60.0 && m.vy.abs() <= 60.0
        };
        let asked = self.asked.len() <= delay_steps() && self.asked.iter().flatten().all(|at| at.abs() <= 1e4);
        let counted = self.step <= MOST_STEPS
            && [self.held, self.crowded, self.turns[0]].iter().all(|n| *n <= self.step)
            && self.turns[1] <= self.turns[0];
        let timed = [self.stands, self.tries].iter().all(|t| (0.0..=10.0).contains(t));
        counted && timed && inside(&self.cow) && inside(&self.horse) && self.way.abs() == 1.0 && asked
    }

    /// Seconds so far.
    pub fn seconds(&self) -> f64 {
        f64::from(self.step) * STEP
    }

    /// How far the horse is past the cow's head, the way it goes; behind under 0. Feet.
    pub fn lead(&self) -> f64 {
        (self.horse.x - self.cow.x) * self.way
    }

    /// How far the two are apart, feet.
    fn distance(&self) -> f64 {
        (self.horse.x - self.cow.x).hypot(self.cow.y - self.horse.y)
    }

    /// Goes on with the horse asked to one place. Nothing happens once the cow is lost.
    pub fn go_on(&mut self, placed: Placed) {
        for _ in 0..placed.steps {
            if self.lost {
                return;
            }
            self.asked.push([placed.x.clamp(0.0, PEN[0]), placed.y.clamp(0.0, PEN[1])]);
            let to = if self.asked.len() > delay_steps() { self.asked.remove(0) } else { [self.horse.x, self.horse.y] };
            self.move_horse(to);
            self.move_cow();
            self.step += 1;
            self.tally();
        }
    }

    fn move_horse(&mut self, to: [f64; 2]) {
        let (_, top, gain) = HORSE;
        let off = [to[0] - self.horse.x, to[1] - self.horse.y];
        let far = off[0].hypot(off[1]);
        // No faster than it can brake from before it is there.
        let speed = top.min((2.0 * gain * far).sqrt());
        let want = if far < 1e-6 { [0.0, 0.0] } else { off.map(|o| o / far * speed) };
        let change = [want[0] - self.horse.vx, want[1] - self.horse.vy];
        let share = (gain * STEP / change[0].hypot(change[1]).max(1e-9)).min(1.0);
        self.horse.vx += change[0] * share;
        self.horse.vy += change[1] * share;
        moved(&mut self.horse);
    }

    fn move_cow(&mut self) {
        let zone = flight_zone(self.manner);
        let [fresh, _] = self.manner.speeds();
        let (lead, apart) = (self.lead(), self.cow.y - self.horse.y);
        let far = self.distance();
        let near = far < zone;
        let (mut along, mut away) = (0.0, 0.0);
        if self.stands > 0.0 {
            self.stands = (self.stands - STEP).max(0.0);
            if self.stands == 0.0 {
                self.tries = TRIES[0] + (TRIES[1] - TRIES[0]) * drawn(self.seed, self.step, 4);
                if lead >= BAND[0] || self.against_the_side() {
                    // Its head is taken, or there is the fence: it tries the other way.
                    self.way = -self.way;
                }
            }
        } else if (near && lead >= BAND[0] && self.tries == 0.0) || self.against_the_side() {
            self.stop();
        } else {
            self.tries = (self.tries - STEP).max(0.0);
            let hurry = if near { 1.15 } else { 0.8 };
            along = self.way * fresh * hurry * (0.85 + 0.3 * drawn(self.seed, self.step / 20, 2));
            if lead < BY {
                // Past its head there is nothing: home.
                away = -fresh;
            }
        }
        if far < ZONE[0] * zone {
            away = fresh * 0.6;
        } else if apart > ZONE[1] * zone {
            away -= 2.5;
        }
        let push = |now: f64, want: f64| now + (want - now).clamp(-COW * STEP, COW * STEP);
        self.cow.vx = push(self.cow.vx, along);
        self.cow.vy = push(self.cow.vy, away);
        moved(&mut self.cow);
        self.lost = self.cow.y < HERD || apart < -3.0;
    }

    fn against_the_side(&self) -> bool {
        let left = if self.way > 0.0 { PEN[0] - self.cow.x } else { self.cow.x };
        left < 4.0
    }

    fn stop(&mut self) {
        self.stands = STANDS[0] + (STANDS[1] - STANDS[0]) * drawn(self.seed, self.step, 3);
        self.turns[0] += 1;
        self.turns[1] += u32::from((BAND[0]..=BAND[1]).contains(&self.lead()));
    }

    fn tally(&mut self) {
        let stance = self.stance();
        self.crowded += u32::from(stance == Stance::TooNear);
        self.held += u32::from(stance == Stance::InPosition);
    }

    /// How the horse stands to the cow.
    ///
    /// ```
    /// use cavesson_core::cattle::{Manner, Practice, Stance};
    /// let begun = Practice::begin(7, Manner::Honest);
    /// assert_eq!(begun.stance(), Stance::InPosition);
    /// ```
    pub fn stance(&self) -> Stance {
        let zone = flight_zone(self.manner);
        let lead = self.lead();
        match () {
            () if self.lost => Stance::Lost,
            () if self.distance() < ZONE[0] * zone => Stance::TooNear,
            () if lead < BAND[0] => Stance::Behind,
            () if lead > BAND[1] => Stance::PastItsHead,
            () if self.cow.y - self.horse.y > ZONE[1] * zone => Stance::FarOff,
            () => Stance::InPosition,
        }
    }
}

/// How near a horse may come before a cow moves off, feet. Assumed.
pub fn flight_zone(manner: Manner) -> f64 {
    match manner {
        Manner::Slow => 12.0,
        Manner::Honest => 15.0,
        Manner::BobAndWeave => 17.0,
        Manner::Running => 22.0,
        Manner::Sour => 8.0,
    }
}

fn delay_steps() -> usize {
    (HORSE.0 / STEP).round() as usize
}

/// Moves by its speed, and stands at a fence.
fn moved(it: &mut Mover) {
    let (x, y) = (it.x + it.vx * STEP, it.y + it.vy * STEP);
    (it.x, it.y) = (x.clamp(0.0, PEN[0]), y.clamp(0.0, PEN[1]));
    if it.x != x {
        it.vx = 0.0;
    }
    if it.y != y {
        it.vy = 0.0;
    }
}
