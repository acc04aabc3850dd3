//! A weather station that stands in for a real one: the same place and hour always have the same air.

use cavesson_core::load::Weather;
use chrono::{Datelike, NaiveDate};
use rand::SeedableRng;
use rand_chacha::ChaCha8Rng;

use crate::horse::normal;

/// What a weather service answers.
pub trait WeatherSource {
    /// The air at an hour of a day, 0 to 23; `None` when the service does not know.
    fn at(&self, date: NaiveDate, hour: u32) -> Option<Weather>;
}

/// The stand-in: warm in July and at three in the afternoon, dry when warm, each day a little of its own.
///
/// ```
/// use cavesson_sim::{WeatherSource, WeatherStation};
/// let station = WeatherStation { seed: 1 };
/// let noon = station.at("2026-07-01".parse().unwrap(), 12);
/// assert_eq!(noon, station.at("2026-07-01".parse().unwrap(), 12));
/// ```
#[derive(Debug, Clone, Copy)]
pub struct WeatherStation {
    /// Makes the same weather each time.
    pub seed: u64,
}

impl WeatherSource for WeatherStation {
    fn at(&self, date: NaiveDate, hour: u32) -> Option<Weather> {
        let day = u64::try_from(date.num_days_from_ce()).ok()?;
        let mut rng = ChaCha8Rng::seed_from_u64(self.seed ^ day.wrapping_mul(0x9e37_79b9_7f4a_7c15));
        let turn = std::f64::consts::TAU;
        let season = (turn * (f64::from(date.ordinal()) - 200.0) / 365.0).cos();
        let clock = (turn * (f64::from(hour.min(23)) - 15.0) / 24.0).cos();
        let celsius = 17.0 + 11.0 * season + 6.0 * clock + normal(&mut rng, 3.0);
        let humidity = 55.0 - 8.0 * season - 18.0 * clock + normal(&mut rng, 9.0);
        Weather::new(celsius.clamp(-30.0, 48.0), humidity.clamp(8.0, 100.0)).ok()
    }
}
