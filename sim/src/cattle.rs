//! Simulated cattle and the horses that are worked on them: how fast a cow each truly holds, and how it learns and loses confidence.

use cavesson_core::cattle::{CattleEvent, CowSpeed, Manner, Position, Stopped, Way};
use rand::{Rng, RngExt};

/// A cow whose true state is known.
#[derive(Debug, Clone)]
pub struct SimCow {
    /// How it behaves.
    pub manner: Manner,
    /// How fast it goes fresh and worn, feet a second.
    speeds: [f64; 2],
    /// The chance that it honours a horse when it is rested.
    honours: f64,
    /// Minutes of wear, and on which day.
    wear: (f64, i32),
    rest_half_days: f64,
    wear_half_minutes: f64,
}

/// A horse whose true limits are known.
#[derive(Debug, Clone)]
pub struct SimCattleHorse {
    /// The speed at which it holds half its turns, to the left and to the right, feet a second.
    pub half: [f64; 2],
    learns: f64,
}

/// From a turn that is held every time to one that never is are about four of these, feet a second.
const BLUR: f64 = 1.5;
/// A cow so much under what it half holds teaches a horse most, within such a spread, feet a second.
const TEACHES: (f64, f64) = (1.5, 2.0);
/// What a cow that walks through it, and one that it loses, takes from a horse, feet a second.
const SHAKEN: (f64, f64) = (0.02, 0.06);
/// Seconds from turn to turn.
const TURN: i64 = 25;
/// Turns of a work at most.
const TURNS: usize = 6;

impl SimCow {
    /// A cow of a manner, a little faster or slower and more or less honest than others of it.
    pub fn of(manner: Manner, rng: &mut impl Rng) -> SimCow {
        let [fresh, worn] = manner.speeds();
        let by = rng.random_range(0.85..1.15);
        let start = manner.start();
        let honours = (start.honoured / start.tried + rng.random_range(-0.08..0.06)).clamp(0.1, 0.98);
        SimCow {
            manner,
            speeds: [fresh * by, worn * by],
            honours,
            wear: (0.0, 0),
            rest_half_days: rng.random_range(3.0..5.5),
            wear_half_minutes: rng.random_range(14.0..28.0),
        }
    }

    fn wear_on(&self, day: i32) -> f64 {
        self.wear.0 * (-f64::from(day - self.wear.1) / self.rest_half_days).exp2()
    }

    /// How fast it truly goes on a day, feet a second.
    pub fn speed(&self, day: i32) -> f64 {
        let [fresh, worn] = self.speeds;
        worn + (fresh - worn) * (-self.wear_on(day) / 8.0).exp2()
    }

    fn honour(&self, day: i32) -> f64 {
        self.honours * (-self.wear_on(day) / self.wear_half_minutes).exp2()
    }
}

impl SimCattleHorse {
    /// A horse that is green on cattle: better one way than the other.
    pub fn of(rng: &mut impl Rng) -> SimCattleHorse {
        let half = rng.random_range(7.0..9.5);
        let stiff = rng.random_range(0.0..1.5);
        let half = if rng.random_bool(0.5) { [half, half - stiff] } else { [half - stiff, half] };
        SimCattleHorse { half, learns: rng.random_range(0.05..0.10) }
    }

    /// Whether it holds four turns in five both ways on a cow of a speed.
    pub fn holds(&self, speed: f64) -> bool {
        self.half.iter().all(|half| half - BLUR * 4.0_f64.ln() >= speed)
    }

    /// A work on a cow, as it is logged from a second on; the cow is called by its number. A cow that is lost is left.
    pub fn work(
        &mut self,
        cow: &mut SimCow,
        number: usize,
        day: i32,
        rng: &mut impl Rng,
    ) -> Vec<(i64, CattleEvent<usize>)> {
        let mut log = vec![(0, CattleEvent::Work { cow: number, why: None })];
        let mut at = 0;
        for _ in 0..TURNS {
            at += TURN;
            let way = usize::from(rng.random_bool(0.5));
            let speed = (cow.speed(day) * rng.random_range(0.8..1.15)).max(2.0);
            let held = rng.random::<f64>() < 1.0 / (1.0 + ((speed - self.half[way]) / BLUR).exp());
            let honoured = rng.random::<f64>() < cow.honour(day);
            let turn = CattleEvent::Turn {
                cow: number,
                way: if way == 0 { Way::Left } else { Way::Right },
                position: Position::Leg,
                stopped: if held { Stopped::Even } else { Stopped::Past },
                through: held,
                speed: told(speed),
                honoured,
            };
            log.push((at, turn));
            if held && honoured {
                let off = (self.half[way] - TEACHES.0 - speed) / TEACHES.1;
                self.half[way] += self.learns * (-off * off / 2.0).exp();
            }
            if !honoured {
                self.half[way] -= SHAKEN.0;
            }
            let gone = (!held && rng.random_bool(0.25)) || (!honoured && rng.random_bool(0.2));
            if gone {
                log.push((at + 5, CattleEvent::Lost { cow: number, in_position: held }));
                self.half[way] -= SHAKEN.1;
                break;
            }
        }
        cow.wear = (cow.wear_on(day) + (at as f64 / 60.0).max(1.0), day);
        log
    }
}

/// How fast a cow came, as it is told from the saddle.
fn told(speed: f64) -> CowSpeed {
    let off = |word: &CowSpeed| (word.feet() - speed).abs();
    CowSpeed::ALL.into_iter().min_by(|a, b| off(a).total_cmp(&off(b))).unwrap_or(CowSpeed::Slow)
}
