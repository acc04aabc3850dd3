use serde::{Deserialize, Serialize};

use crate::words::words;

/// Air temperature and relative humidity.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
pub struct Weather {
    /// Tenths of a degree Celsius, -400 to 600.
    decicelsius: i16,
    /// Relative humidity in per cent, 0 to 100.
    humidity: u8,
}

words! {
    "a temperature scale";
    /// What a thermometer counts in.
    pub enum Scale {
        Celsius,
        Fahrenheit,
    }
}

impl Scale {
    /// Degrees of this scale in °C.
    ///
    /// ```
    /// use cavesson_core::load::Scale;
    /// assert_eq!(Scale::Fahrenheit.celsius(212.0), 100.0);
    /// assert_eq!(Scale::Celsius.celsius(21.5), 21.5);
    /// ```
    pub fn celsius(self, degrees: f64) -> f64 {
        match self {
            Scale::Celsius => degrees,
            Scale::Fahrenheit => (degrees - 32.0) / 1.8,
        }
    }

    /// °C in degrees of this scale.
    pub fn degrees(self, celsius: f64) -> f64 {
        match self {
            Scale::Celsius => celsius,
            Scale::Fahrenheit => 1.8 * celsius + 32.0,
        }
    }

    const fn sign(self) -> &'static str {
        match self {
            Scale::Celsius => "°C",
            Scale::Fahrenheit => "°F",
        }
    }
}

/// °C between which air is air.
const COLDEST: f64 = -40.0;
const HOTTEST: f64 = 60.0;

/// Weather that no horse is ridden in.
#[derive(Debug, Clone, Copy, PartialEq, thiserror::Error)]
#[allow(missing_docs)]
pub enum WeatherError {
    #[error("{0} {sign} is no air temperature; it is from {low} to {high}", sign = .1.sign(), low = .1.degrees(COLDEST),
            high = .1.degrees(HOTTEST))]
    Temperature(f64, Scale),
    #[error("{0}% is no relative humidity; it is from 0 to 100")]
    Humidity(f64),
}

words! {
    "a band of heat";
    /// What the heat allows, by the worse of two indices: °F + %RH (university extension sheets; memory) and the temperature-humidity
    /// index in the bands of the Livestock Weather Safety Index (Livestock Conservation Institute 1970; memory; made for cattle).
    #[derive(Default)]
    pub enum HeatBand {
        /// Sum under 130 and index under 75: the horse cools itself.
        #[default]
        Fine,
        /// Sum from 130, or index from 75 ("alert"): it sweats, and cools itself with that.
        Sweats,
        /// Sum over 150, or index from 79 ("danger"): its cooling falls behind; shorter, walk, water.
        Care,
        /// Sum over 180, index from 84 ("emergency") or over 100 °F in the shade: no hard work.
        NoHardWork,
    }
}

/// °F in the shade over which there is no hard work.
const TOO_HOT: f64 = 100.0;

impl Weather {
    /// From °C and per cent.
    ///
    /// # Errors
    /// Outside -40 to 60 °C or 0 to 100 %.
    pub fn new(celsius: f64, humidity: f64) -> Result<Weather, WeatherError> {
        Weather::read(celsius, Scale::Celsius, humidity)
    }

    /// As it is read off a thermometer of any scale, and per cent.
    ///
    /// # Errors
    /// Outside -40 to 60 °C or 0 to 100 %.
    pub fn read(degrees: f64, scale: Scale, humidity: f64) -> Result<Weather, WeatherError> {
        let celsius = scale.celsius(degrees);
        if !(COLDEST..=HOTTEST).contains(&celsius) {
            return Err(WeatherError::Temperature(degrees, scale));
        }
        if !(0.0..=100.0).contains(&humidity) {
            return Err(WeatherError::Humidity(humidity));
        }
        Ok(Weather { decicelsius: (celsius * 10.0).round() as i16, humidity: humidity.round() as u8 })
    }

    /// Air temperature in °C.
    pub fn celsius(self) -> f64 {
        f64::from(self.decicelsius) / 10.0
    }

    /// Air temperature in °F.
    pub fn fahrenheit(self) -> f64 {
        Scale::Fahrenheit.degrees(self.celsius())
    }

    /// Relative humidity in per cent.
    pub fn humidity(self) -> u8 {
        self.humidity
    }

    /// Temperature-humidity index: `(1.8T+32) − (0.55−0.0055RH)(1.8T−26)`, T in °C, RH in per cent (NRC 1971; memory).
    ///
    /// ```
    /// use cavesson_core::load::Weather;
    /// // 35 °C and 50 %: 95 − 0.275 × 37 = 84.825.
    /// let index = Weather::new(35.0, 50.0)?.thi();
    /// assert!((index - 84.825).abs() < 1e-9);
    /// # Ok::<(), cavesson_core::load::WeatherError>(())
    /// ```
    pub fn thi(self) -> f64 {
        let (t, rh) = (self.celsius(), f64::from(self.humidity));
        (1.8 * t + 32.0) - (0.55 - 0.0055 * rh) * (1.8 * t - 26.0)
    }

    /// °F + %RH, as the extension sheets add them.
    ///
    /// ```
    /// use cavesson_core::load::{Scale, Weather};
    /// let hot = Weather::read(95.0, Scale::Fahrenheit, 60.0)?;
    /// assert_eq!(hot.sum_index(), 155.0);
    /// # Ok::<(), cavesson_core::load::WeatherError>(())
    /// ```
    pub fn sum_index(self) -> f64 {
        self.fahrenheit() + f64::from(self.humidity)
    }

    /// The worse of the bands of [`Weather::sum_index`] and [`Weather::thi`]. Cold air is fine whatever its humidity: under 10 °C the
    /// sum says nothing of heat. Over 100 °F there is no hard work however dry it is (common practice, no published source).
    ///
    /// ```
    /// use cavesson_core::load::{HeatBand, Scale, Weather};
    /// let dry = Weather::read(98.0, Scale::Fahrenheit, 20.0)?;
    /// assert!(dry.sum_index() < 130.0 && dry.thi() > 79.0);
    /// assert_eq!(dry.band(), HeatBand::Care);
    /// # Ok::<(), cavesson_core::load::WeatherError>(())
    /// ```
    pub fn band(self) -> HeatBand {
        // To the degree, as it is read off.
        if self.fahrenheit().round() > TOO_HOT {
            return HeatBand::NoHardWork;
        }
        self.band_of_sum().max(self.band_of_thi())
    }

    fn band_of_sum(self) -> HeatBand {
        match self.sum_index() {
            _ if self.celsius() < 10.0 => HeatBand::Fine,
            s if s < 130.0 => HeatBand::Fine,
            s if s <= 150.0 => HeatBand::Sweats,
            s if s <= 180.0 => HeatBand::Care,
            _ => HeatBand::NoHardWork,
        }
    }

    /// To the whole point, as the tables of the index have it.
    fn band_of_thi(self) -> HeatBand {
        match self.thi().round() as i32 {
            ..75 => HeatBand::Fine,
            75..79 => HeatBand::Sweats,
            79..84 => HeatBand::Care,
            84.. => HeatBand::NoHardWork,
        }
    }
}

impl HeatBand {
    /// What it does to the ride, in a few words; nothing where it does nothing.
    pub const fn says(self) -> Option<&'static str> {
        match self {
            HeatBand::Fine => None,
            HeatBand::Sweats => Some("It will sweat: air more often, water after"),
            HeatBand::Care => Some("Heat: two thirds of the reps, nothing faster than a jog, walk and water"),
            HeatBand::NoHardWork => Some("Too hot for hard work: only what it owns, standing and at the walk"),
        }
    }

    /// Reps between two stretches of air (common practice, no published source).
    pub const fn reps_to_air(self) -> u32 {
        match self {
            HeatBand::Fine => 8,
            HeatBand::Sweats => 6,
            HeatBand::Care | HeatBand::NoHardWork => 4,
        }
    }

    /// The part of the usual reps that is left, in per cent (common practice, no published source).
    ///
    /// ```
    /// use cavesson_core::load::HeatBand;
    /// assert_eq!((HeatBand::Fine.reps_percent(), HeatBand::NoHardWork.reps_percent()), (100, 40));
    /// ```
    pub const fn reps_percent(self) -> u32 {
        match self {
            HeatBand::Fine | HeatBand::Sweats => 100,
            HeatBand::Care => 67,
            HeatBand::NoHardWork => 40,
        }
    }
}
