//! Holding a cow that stops: how far past it the horse goes, and up to which speed it stays in position.

/// What is asked: the cow brakes to a stand, and the horse after its delay.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Hold {
    /// Feet a second that the cow loses in a second, over 0.
    pub cow_brake: f64,
    /// Feet that the horse is past even.
    pub off: f64,
    /// Seconds until the horse answers, 0 or more.
    pub delay: f64,
    /// Feet a second that the horse loses in a second, over 0.
    pub horse_brake: f64,
}

/// In position is from so far short to so far past, feet.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Band {
    /// Feet short, 0 or more.
    pub short: f64,
    /// Feet past, 0 or more.
    pub long: f64,
}

/// What comes of a stop at a speed.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Held {
    /// Feet past when both stand; under 0 short.
    pub past: f64,
    /// The most past on the way, feet.
    pub most: f64,
    /// The least past on the way, feet.
    pub least: f64,
    /// Feet until the cow stands, and seconds.
    pub cow: (f64, f64),
    /// Feet until the horse stands, and seconds.
    pub horse: (f64, f64),
}

impl Hold {
    /// What comes of a stop at a speed, feet a second.
    ///
    /// ```
    /// use cavesson_core::cattle::Hold;
    /// let held = Hold { cow_brake: 20.0, off: 0.5, delay: 0.35, horse_brake: 12.0 }.at(4.0);
    /// // The cow takes 0.4 ft, the horse 1.4 ft until it answers and 0.667 ft after.
    /// assert!((held.past - 2.166_666_7).abs() < 1e-6 && held.most == held.past);
    /// ```
    pub fn at(&self, speed: f64) -> Held {
        let cow = (speed * speed / (2.0 * self.cow_brake), speed / self.cow_brake);
        let braking = speed / self.horse_brake;
        let horse = (speed * self.delay + speed * braking / 2.0, self.delay + braking);
        let past = self.off + horse.0 - cow.0;
        // It goes further past until it is as slow as the cow; where that is before the cow stands, it drops back from there.
        let most = match self.as_slow() {
            Some((t, feet)) if t < cow.1 => feet,
            _ => past,
        };
        Held { past, most: most.max(self.off).max(past), least: self.off.min(past), cow, horse }
    }

    /// When a horse that stops harder than the cow is as slow as the cow, and how far past it is then: the same at every speed that is
    /// high enough for it.
    fn as_slow(&self) -> Option<(f64, f64)> {
        if self.horse_brake <= self.cow_brake {
            return None;
        }
        let t = self.horse_brake * self.delay / (self.horse_brake - self.cow_brake);
        let gained = t - self.delay;
        Some((t, self.off + self.cow_brake * t * t / 2.0 - self.horse_brake * gained * gained / 2.0))
    }

    /// Whether a stop at a speed stays in position all the way.
    pub fn holds(&self, speed: f64, band: Band) -> bool {
        let held = self.at(speed);
        held.most <= band.long && held.least >= -band.short
    }

    /// Every speed up to this holds, feet a second; none where every speed does. The horse begins in the band.
    ///
    /// ```
    /// use cavesson_core::cattle::{Band, Hold};
    /// let most = Hold { cow_brake: 20.0, off: 0.5, delay: 0.35, horse_brake: 12.0 }.most_speed(Band { short: 2.0, long: 3.0 });
    /// assert!((most.unwrap() - 5.63).abs() < 0.005);
    /// ```
    pub fn most_speed(&self, band: Band) -> Option<f64> {
        // Feet past at the end are off + delay v + curve v².
        let curve = 0.5 / self.horse_brake - 0.5 / self.cow_brake;
        let too_far = match self.as_slow() {
            Some((_, most)) if most <= band.long => None,
            _ => first_root(curve, self.delay, self.off - band.long),
        };
        let too_short = first_root(-curve, -self.delay, -(self.off + band.short));
        match (too_far, too_short) {
            (Some(a), Some(b)) => Some(a.min(b)),
            (a, b) => a.or(b),
        }
    }
}

/// The least x over 0 from which on a x² + b x + c is over 0, where c is at most 0; none where it never is.
fn first_root(a: f64, b: f64, c: f64) -> Option<f64> {
    if a == 0.0 {
        return (b > 0.0).then(|| -c / b);
    }
    let under = b * b - 4.0 * a * c;
    if under < 0.0 {
        return None;
    }
    // Without cancellation; of the two the least that is not under 0 and is risen through.
    let q = -0.5 * (b + under.sqrt().copysign(b));
    let roots = [q / a, if q == 0.0 { 0.0 } else { c / q }];
    let rises = |x: f64| 2.0 * a * x + b >= 0.0;
    roots.into_iter().filter(|x| *x >= 0.0 && rises(*x)).reduce(f64::min)
}
