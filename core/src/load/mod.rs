//! What a ride asks of a horse: heat, and the load of the work.

mod balance;
mod heat;
mod work;

pub use balance::{LoggedRide, TOO_MUCH_ALIKE, WeekSummary, mondays, weeks};
pub use heat::{HeatBand, Scale, Weather, WeatherError};
pub use work::{Class, GaitMinutes, LoadWeek};
